"""What the presses on a bench do: pure functions from a bench (and its comparison) to the next bench."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import inf, isfinite

from cambrel import wording
from cambrel.bench.pressing import (
    ACTIONS,
    ActionError,
    State,
    action,
    camera,
    gear_or_none,
    gear_sent,
    number,
    number_or_none,
    thing,
    words,
)
from cambrel.bench.samples import sample_briefs, sensor_of, with_brief
from cambrel.fields import parse_distance, parse_number
from cambrel.limits import named, outside
from cambrel.links import MOST_CHANGES, MOST_RIGS, Bench, Gear, Slot
from cambrel.optics.comparison import Body, Brief, Comparison, Lens, Rig
from cambrel.optics.formats import FORMATS
from cambrel.optics.geometry import magnification
from cambrel.optics.light import effective_f_number, iso_for_light
from cambrel.optics.metering import metered
from cambrel.optics.reference import make_reference
from cambrel.optics.rig import LARGEST_F_NUMBER
from cambrel.scenes import Change, scene_named
from cambrel.wording import LETTERS, METRES, Units, distance_number

LOWEST_ISO = 50.0
NEW_FORMATS = ("full-frame", "aps-c", "micro-four-thirds", "one-inch", "44x33", "type-1-1.3")


def perform(press: str, bench: Bench, comparison: Comparison, units: Units = METRES) -> Bench:
    """Carry out one press, written as name:argument:argument.

    Raises
        ActionError with the reason, for one that is not known or not possible
    """
    name, *arguments = press.split(":")
    if name not in ACTIONS:
        raise ActionError("This button is not known here.")
    return ACTIONS[name].on(State(bench, comparison, units), arguments)


def within_reason(bench: Bench) -> None:
    """Raise ActionError where a press would lead to a value that no field takes."""
    for name, value in outside(bench):
        raise ActionError(
            f"That would take {wording.articled(f'a {named(name)}')} of {wording.significant(value)}, beyond what can be set here."
        )


def _rearranged(bench: Bench, order: list[int]) -> Bench:
    """The bench with its rigs in another order, some of them left out or more than once; the reference goes with its rig."""
    donor = bench.hold.lens_of
    lens_of = order.index(donor) if donor is not None and donor in order else None
    return replace(
        bench,
        slots=tuple(bench.slots[index] for index in order),
        reference=order.index(bench.reference),
        hold=replace(bench.hold, lens_of=lens_of),
    )


@action()
def add(state: State) -> Bench:
    """One more rig: a format that is not there yet, with a lens that can be set to anything, making the reference's picture."""
    bench, comparison = state.bench, state.comparison
    _room(bench)
    there = {(round(rig.body.sensor.width_mm), round(rig.body.sensor.height_mm)) for rig in bench.rigs}
    free = [
        slug for slug in NEW_FORMATS if (round(FORMATS[slug].width_mm), round(FORMATS[slug].height_mm)) not in there
    ]
    slug = (free or ["full-frame"])[0]
    sensor = sensor_of(slug)
    first = comparison.first
    scale = sensor.diagonal_mm / bench.rigs[bench.reference].body.sensor.diagonal_mm
    rig = Rig(
        Body(sensor),
        Lens(),
        focal_length_mm=float(f"{first.settings.focal_length_mm * scale:.3g}"),
        f_number=first.settings.f_number,
        shutter_s=first.settings.shutter_s,
        iso=first.settings.iso,
    )
    return replace(bench, slots=(*bench.slots, Slot(rig, FORMATS[slug].name, "any lens")))


def _room(bench: Bench) -> None:
    if len(bench.slots) >= MOST_RIGS:
        raise ActionError(f"A bench holds {MOST_RIGS} cameras; remove one first.")


@action(camera)
def remove(state: State, gone: int) -> Bench:
    bench, comparison = state.bench, state.comparison
    if len(bench.slots) == 1:
        raise ActionError("The last camera stays on the bench.")
    if gone == bench.reference:
        heir = next((i for i in range(len(bench.slots)) if i != gone and comparison.of(i).settings.focusable), None)
        if heir is None:
            raise ActionError(f"{LETTERS[gone]} is the only one that can focus there; it stays.")
        bench = reference(state, heir)
    return _rearranged(bench, [i for i in range(len(bench.slots)) if i != gone])


@action(camera)
def duplicate(state: State, twin: int) -> Bench:
    bench = state.bench
    _room(bench)
    order = list(range(len(bench.slots)))
    order.insert(twin + 1, twin)
    return _rearranged(bench, order)


@action(camera)
def left(state: State, index: int) -> Bench:
    return _swapped(state.bench, index, -1)


@action(camera)
def right(state: State, index: int) -> Bench:
    return _swapped(state.bench, index, 1)


def _swapped(bench: Bench, index: int, step: int) -> Bench:
    other = index + step
    order = list(range(len(bench.slots)))
    if 0 <= other < len(order):
        order[index], order[other] = order[other], order[index]
    return _rearranged(bench, order)


@action(camera)
def reference(state: State, new: int) -> Bench:
    """Another point of view: nothing on the screen changes but what is compared with what."""
    bench, comparison = state.bench, state.comparison
    brief, rigs, hold = make_reference(comparison, new)
    slots = tuple(replace(slot, rig=rig) for slot, rig in zip(bench.slots, rigs, strict=True))
    # the photographer's own ceiling is said of the reference body, so it is carried over to the new one
    conventions = replace(bench.conventions, iso_ceiling=float(comparison.of(new).light.ceiling_iso))
    return replace(bench, brief=brief, slots=slots, hold=hold, reference=new, conventions=conventions)


HAND: dict[str, tuple[str, tuple[str, ...]]] = {
    "lens": ("own", ("focal_length_mm",)),
    "place": ("own", ("distance_m",)),
    "aperture": ("own", ("f_number",)),
    "exposure": ("own", ("shutter_s", "iso")),
}


@action(words)
def by_hand(state: State, question: str) -> Bench:
    """One question becomes "as set": every rig takes the values that it has now, to be changed one by one."""
    bench, comparison = state.bench, state.comparison
    if question not in HAND:
        raise ActionError("There is no such question.")
    answer, names = HAND[question]
    slots = []
    for index, slot in enumerate(bench.slots):
        settings = comparison.of(index).settings
        values = {name: _own_value(bench, comparison, index, name) for name in names} if settings.focusable else {}
        slots.append(replace(slot, rig=replace(slot.rig, **values)))
    hold = replace(bench.hold, **{question: answer}, **({"lens_of": None} if question == "lens" else {}))
    return replace(bench, slots=tuple(slots), hold=hold)


def _own_value(bench: Bench, comparison: Comparison, index: int, name: str) -> float:
    """A rig's computed value as its own setting: without the converter, which multiplies it again."""
    settings = comparison.of(index).settings
    if name == "distance_m":
        return float(settings.subject_distance_m)
    value = float(getattr(settings, name))
    return value / comparison.carrier(index).converter if name in ("focal_length_mm", "f_number") else value


@action(camera)
def rest(state: State, which: int) -> Bench:
    """Let the variable that does not follow take what the other could not, or take that back."""
    rig = state.bench.rigs[which]
    return _with_rig(state.bench, which, replace(rig, take_rest=not rig.take_rest))


@action()
def meter(state: State) -> Bench:
    """Set the reference for the light of the picture, by what the hold lets follow."""
    return _with_rig(state.bench, state.bench.reference, metered(state.comparison))


def _with_rig(bench: Bench, index: int, rig: Rig, **names: str) -> Bench:
    slots = list(bench.slots)
    slots[index] = replace(slots[index], rig=rig, **names)
    return replace(bench, slots=tuple(slots))


@action(words)
def brief(state: State, slug: str) -> Bench:
    if slug not in sample_briefs():
        raise ActionError("There is no such picture.")
    bench = with_brief(state.bench, slug)
    index = bench.reference
    return _with_rig(bench, index, _exposed(bench.rigs[index], bench.brief))


def _exposed(rig: Rig, brief: Brief) -> Rig:
    """A rig set for the light of a brief: its slowest acceptable shutter time and the ISO that is right, within what the body has."""
    body, f, u = rig.body, rig.focal_length_mm, brief.focus_distance_m or brief.distance_m
    if not 1000 * u > f:
        return rig
    effective = effective_f_number(rig.f_number, magnification(f, u))
    shutter = min(brief.slowest_shutter_s or rig.shutter_s, body.slowest_shutter_s or inf)
    iso = float(iso_for_light(effective, shutter, brief.light_ev))
    base = body.base_iso or LOWEST_ISO
    if iso < base:
        shutter, iso = max(shutter * iso / base, body.fastest_shutter_s or 0.0), base
    return replace(rig, shutter_s=float(f"{shutter:.3g}"), iso=float(f"{min(iso, body.ceiling_iso or inf):.3g}"))


@action(camera, number)
def stop(state: State, which: int, f_number: float) -> Bench:
    """Set a rig to a stop of its aperture walk; it becomes the reference, as in the walk."""
    bench = state.bench if which == state.bench.reference else reference(state, which)
    return _with_rig(bench, which, replace(bench.rigs[which], f_number=f_number))


@action(camera, gear_sent, number_or_none, optional=1)
def gear(state: State, which: int, sent: Gear, f_number: float | None = None) -> Bench:
    """Put gear on a rig, by value; what was typed with its f-number is set to it."""
    return with_gear(state.bench, which, sent, f_number)


@action(gear_sent, gear_or_none, optional=1)
def put(state: State, gear: Gear, carrier: Gear | None = None) -> Bench:
    """Gear from a shelf as one more rig, set to make the reference's picture; a lens goes on a body of its mount."""
    bench, comparison = state.bench, state.comparison
    _room(bench)
    first = comparison.first.settings
    if gear.body is None and gear.lens is not None:
        gear = _carried(bench, gear, carrier)
    slot = bench.slots[bench.reference]
    body = slot.rig.body if gear.body is None else gear.body
    scale = body.sensor.diagonal_mm / bench.rigs[bench.reference].body.sensor.diagonal_mm
    rig = Rig(
        body,
        Lens(),
        focal_length_mm=float(f"{first.focal_length_mm * scale:.3g}"),
        f_number=first.f_number,
        shutter_s=first.shutter_s,
        iso=first.iso,
    )
    new = Slot(rig, gear.body_name or slot.body_name, "any lens")
    return with_gear(replace(bench, slots=(*bench.slots, new)), len(bench.slots), gear)


def _carried(bench: Bench, gear: Gear, carrier: Gear | None) -> Gear:
    """A lens on a body of its mount: the reference's, another on the bench, the one sent along; where none is known, on the reference's."""
    mount = gear.lens.mount if gear.lens else ""
    there = [bench.slots[bench.reference], *bench.slots]
    fitting = next((slot for slot in there if mount and slot.rig.body.mount == mount), None)
    if fitting is None and carrier is not None:
        return replace(gear, body=carrier.body, body_name=carrier.body_name)
    slot = fitting or there[0]
    return replace(gear, body=slot.rig.body, body_name=slot.body_name)


def with_gear(bench: Bench, index: int, gear: Gear, at_f_number: float | None = None) -> Bench:
    """A rig with another body, another lens or both; its settings move into the new lens's range, or to the f-number that was typed with it."""
    rig, names = bench.rigs[index], {}
    if gear.body is not None:
        rig, names["body_name"] = replace(rig, body=gear.body), gear.body_name
    if gear.lens is not None:
        lens = gear.lens
        focal = rig.focal_length_mm
        if lens.focal_min_mm is not None and lens.focal_max_mm is not None:
            focal = min(max(focal, lens.focal_min_mm), lens.focal_max_mm)
        widest = float(lens.widest_f_number(focal))
        wanted = rig.f_number if at_f_number is None else at_f_number
        f_number = min(max(wanted, widest), max(lens.smallest_f_number or LARGEST_F_NUMBER, widest))
        rig, names["lens_name"] = replace(rig, lens=lens, focal_length_mm=focal, f_number=f_number), gear.lens_name
    return _with_rig(bench, index, rig, **names)


@dataclass(frozen=True)
class Placed:
    """A thing of the scene as the form for arranging shows it: where it stands, in figures and as text, and whether it was moved."""

    index: int
    name: str
    place: tuple[float, float, float]
    behind: str
    across: str
    scale: str
    is_changed: bool


def placed(bench: Bench, units: Units) -> list[Placed]:
    """Every thing of the bench's scene, where it stands now."""
    changed = {change.layer: change for change in bench.changes}
    made = []
    for index, layer in enumerate(scene_named(bench.scene).layers):
        behind, across, scale = layer.behind_m, layer.x_m, 1.0
        if layer.anchor == "background" and isfinite(bench.brief.background_m or 0):
            behind = bench.brief.background_m or behind
        elif layer.anchor == "foreground" and bench.brief.foreground_m is not None:
            behind = -bench.brief.foreground_m
        if change := changed.get(index):
            behind, across, scale = change.behind_m, change.x_m, change.scale
        texts = [distance_number(value, units) for value in (behind, across)]
        made.append(Placed(index, layer.name, (behind, across, scale), *texts, f"{scale:.3g}", index in changed))
    return made


@action(thing, words, words, words)
def arrange(state: State, which: int, behind: str, across: str, scale: str) -> Bench:
    """Put a thing of the scene somewhere else, or make it larger or smaller. What is sent as it was shown stays exactly as it is."""
    bench, units = state.bench, state.units
    now = placed(bench, units)[which]
    shown, typed = (now.behind, now.across, now.scale), (behind, across, scale)
    if typed == shown:
        return bench
    try:
        values = [
            value if text == as_shown else parse_distance(text, units) if place < 2 else parse_number(text)
            for place, (value, as_shown, text) in enumerate(zip(now.place, shown, typed, strict=True))
        ]
    except (ValueError, OverflowError) as error:
        raise ActionError("Where a thing stands is a distance, and its size a number.") from error
    change = Change(which, *values)
    others = tuple(c for c in bench.changes if c.layer != change.layer)
    if len(others) >= MOST_CHANGES:
        raise ActionError(f"A scene in a link holds {MOST_CHANGES} moved things; put one back first.")
    return replace(bench, changes=tuple(sorted((*others, change), key=lambda c: c.layer)))


@action()
def arrange_reset(state: State) -> Bench:
    return replace(state.bench, changes=())


@action(camera, number)
def convert(state: State, which: int, factor: float) -> Bench:
    """A converter between lens and body, or none with a factor of 1."""
    if not 0.2 <= factor <= 5:
        raise ActionError("A converter multiplies by 0.2 to 5.")
    return _with_rig(state.bench, which, replace(state.bench.rigs[which], converter=factor))
