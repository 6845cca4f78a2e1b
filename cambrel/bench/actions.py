"""What the presses on a bench do: pure functions from a bench (and its comparison) to the next bench."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import inf, isfinite

from cambrel import wording
from cambrel.bench.samples import sample_briefs, sensor_of, with_brief
from cambrel.fields import parse_distance, parse_number
from cambrel.limits import named, outside
from cambrel.links import MOST_CHANGES, MOST_RIGS, Bench, Gear, Slot, decode_gear
from cambrel.optics.comparison import Body, Brief, Comparison, Lens, Rig
from cambrel.optics.formats import FORMATS
from cambrel.optics.geometry import magnification
from cambrel.optics.light import effective_f_number, iso_for_light
from cambrel.optics.metering import metered
from cambrel.optics.quantities import DomainError
from cambrel.optics.reference import make_reference
from cambrel.optics.rig import LARGEST_F_NUMBER
from cambrel.scenes import Change, scene_named
from cambrel.wording import LETTERS, METRES, Units, distance_number

LOWEST_ISO = 50.0
NEW_FORMATS = ("full-frame", "aps-c", "micro-four-thirds", "one-inch", "44x33", "type-1-1.3")


class ActionError(ValueError):
    """A press that cannot be carried out; the message is for the reader."""


def perform(action: str, bench: Bench, comparison: Comparison, units: Units = METRES) -> Bench:
    """Carry out one action, written as name:argument:argument; distances in it are typed in the units in force.

    Raises
        ActionError with the reason, for an action that is not known or not possible
    """
    name, *arguments = action.split(":")
    if name not in ACTIONS | TYPED:
        raise ActionError("This button is not known here.")
    try:
        if name in TYPED:
            return TYPED[name](bench, comparison, units, *arguments)
        return ACTIONS[name](bench, comparison, *arguments)
    except ActionError:
        raise
    except DomainError as error:
        raise ActionError(f"That cannot be done: {error}.") from error
    except (TypeError, ValueError) as error:
        raise ActionError("This button's request is incomplete.") from error


def within_reason(bench: Bench) -> None:
    """Raise ActionError where a press would lead to a value that no field takes."""
    for name, value in outside(bench):
        raise ActionError(
            f"That would take {wording.articled(f'a {named(name)}')} of {wording.significant(value)}, beyond what can be set here."
        )


def _index(bench: Bench, text: str) -> int:
    index = int(text)
    if not 0 <= index < len(bench.slots):
        raise ActionError("There is no such camera on the bench.")
    return index


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


def add(bench: Bench, comparison: Comparison) -> Bench:
    """One more rig: a format that is not there yet, with a lens that can be set to anything, making the reference's picture."""
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


def remove(bench: Bench, comparison: Comparison, index: str) -> Bench:
    gone = _index(bench, index)
    if len(bench.slots) == 1:
        raise ActionError("The last camera stays on the bench.")
    if gone == bench.reference:
        heir = next((i for i in range(len(bench.slots)) if i != gone and comparison.of(i).settings.focusable), None)
        if heir is None:
            raise ActionError(f"{LETTERS[gone]} is the only one that can focus there; it stays.")
        bench = reference(bench, comparison, str(heir))
    return _rearranged(bench, [i for i in range(len(bench.slots)) if i != gone])


def duplicate(bench: Bench, comparison: Comparison, index: str) -> Bench:
    _room(bench)
    twin = _index(bench, index)
    order = list(range(len(bench.slots)))
    order.insert(twin + 1, twin)
    return _rearranged(bench, order)


def left(bench: Bench, comparison: Comparison, index: str) -> Bench:
    return _swapped(bench, _index(bench, index), -1)


def right(bench: Bench, comparison: Comparison, index: str) -> Bench:
    return _swapped(bench, _index(bench, index), 1)


def _swapped(bench: Bench, index: int, step: int) -> Bench:
    other = index + step
    order = list(range(len(bench.slots)))
    if 0 <= other < len(order):
        order[index], order[other] = order[other], order[index]
    return _rearranged(bench, order)


def reference(bench: Bench, comparison: Comparison, index: str) -> Bench:
    """Another point of view: nothing on the screen changes but what is compared with what."""
    new = _index(bench, index)
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


def by_hand(bench: Bench, comparison: Comparison, question: str) -> Bench:
    """One question becomes "as set": every rig takes the values that it has now, to be changed one by one."""
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


def rest(bench: Bench, comparison: Comparison, index: str) -> Bench:
    """Let the variable that does not follow take what the other could not, or take that back."""
    which = _index(bench, index)
    rig = bench.rigs[which]
    return _with_rig(bench, which, replace(rig, take_rest=not rig.take_rest))


def meter(bench: Bench, comparison: Comparison) -> Bench:
    """Set the reference for the light of the picture, by what the hold lets follow."""
    return _with_rig(bench, bench.reference, metered(comparison))


def _with_rig(bench: Bench, index: int, rig: Rig, **names: str) -> Bench:
    slots = list(bench.slots)
    slots[index] = replace(slots[index], rig=rig, **names)
    return replace(bench, slots=tuple(slots))


def brief(bench: Bench, comparison: Comparison, slug: str) -> Bench:
    if slug not in sample_briefs():
        raise ActionError("There is no such picture.")
    bench = with_brief(bench, slug)
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


def stop(bench: Bench, comparison: Comparison, index: str, f_number: str) -> Bench:
    """Set a rig to a stop of its aperture walk; it becomes the reference, as in the walk."""
    which = _index(bench, index)
    if which != bench.reference:
        bench = reference(bench, comparison, index)
    return _with_rig(bench, which, replace(bench.rigs[which], f_number=float(f_number)))


def gear(bench: Bench, comparison: Comparison, index: str, token: str, f_number: str = "") -> Bench:
    """Put gear on a rig, by value; what was typed with its f-number is set to it."""
    return with_gear(bench, _index(bench, index), decode_gear(token), float(f_number) if f_number else None)


def put(bench: Bench, comparison: Comparison, token: str, carrier: str = "") -> Bench:
    """Gear from a shelf as one more rig, set to make the reference's picture; a lens goes on a body of its mount."""
    _room(bench)
    gear = decode_gear(token)
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


def _carried(bench: Bench, gear: Gear, carrier: str) -> Gear:
    """A lens on a body of its mount: the reference's, another on the bench, the one sent along; where none is known, on the reference's."""
    mount = gear.lens.mount if gear.lens else ""
    there = [bench.slots[bench.reference], *bench.slots]
    fitting = next((slot for slot in there if mount and slot.rig.body.mount == mount), None)
    if fitting is None and carrier:
        sent = decode_gear(carrier)
        return replace(gear, body=sent.body, body_name=sent.body_name)
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


def arrange(
    bench: Bench, comparison: Comparison, units: Units, layer: str, behind: str, across: str, scale: str
) -> Bench:
    """Put a thing of the scene somewhere else, or make it larger or smaller. What is sent as it was shown stays exactly as it is."""
    there = placed(bench, units)
    which = int(layer)
    if not 0 <= which < len(there):
        raise ActionError("There is no such thing in the scene.")
    now = there[which]
    shown, typed = (now.behind, now.across, now.scale), (behind, across, scale)
    if typed == shown:
        return bench
    values = [
        value if text == as_shown else parse_distance(text, units) if place < 2 else parse_number(text)
        for place, (value, as_shown, text) in enumerate(zip(now.place, shown, typed, strict=True))
    ]
    change = Change(which, *values)
    others = tuple(c for c in bench.changes if c.layer != change.layer)
    if len(others) >= MOST_CHANGES:
        raise ActionError(f"A scene in a link holds {MOST_CHANGES} moved things; put one back first.")
    return replace(bench, changes=tuple(sorted((*others, change), key=lambda c: c.layer)))


def arrange_reset(bench: Bench, comparison: Comparison) -> Bench:
    return replace(bench, changes=())


def convert(bench: Bench, comparison: Comparison, index: str, factor: str) -> Bench:
    """A converter between lens and body, or none with a factor of 1."""
    which = _index(bench, index)
    number = parse_number(factor)
    if not 0.2 <= number <= 5:
        raise ActionError("A converter multiplies by 0.2 to 5.")
    return _with_rig(bench, which, replace(bench.rigs[which], converter=number))


ACTIONS: dict[str, Callable[..., Bench]] = {
    "add": add,
    "remove": remove,
    "duplicate": duplicate,
    "left": left,
    "right": right,
    "reference": reference,
    "by_hand": by_hand,
    "rest": rest,
    "meter": meter,
    "brief": brief,
    "stop": stop,
    "gear": gear,
    "put": put,
    "convert": convert,
    "arrange_reset": arrange_reset,
}
TYPED: dict[str, Callable[..., Bench]] = {"arrange": arrange}
"""Actions whose arguments are distances as typed."""
