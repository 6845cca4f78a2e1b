"""Presses on the cameras: how many there are, in which order, which is the reference, and what each is set to."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from cambrel.bench.actions.action import ActionError, State, action, camera, each, number, number_or_none, words
from cambrel.bench.sample_benches import sensor_of
from cambrel.bounds.limits import LIMITS
from cambrel.comparison.bench import MOST_RIGS, Bench, Slot
from cambrel.comparison.engine import Body, Lens, Rig
from cambrel.comparison.metering import metered
from cambrel.comparison.reference import make_reference
from cambrel.comparison.rig import BY_HAND
from cambrel.optics.formats import FORMATS
from cambrel.wording import LETTERS

NEW_FORMATS = ("full-frame", "aps-c", "micro-four-thirds", "one-inch", "44x33", "type-1-1.3")


def check_room(bench: Bench) -> None:
    if len(bench.slots) >= MOST_RIGS:
        raise ActionError(f"A bench holds {MOST_RIGS} cameras. Remove one first.")


def like_the_reference(state: State, body: Body) -> Rig:
    """A body with a lens that can be set to anything, making the reference's picture."""
    first = state.comparison.first.settings
    scale = body.sensor.diagonal_mm / state.bench.rigs[state.bench.reference].body.sensor.diagonal_mm
    return Rig(
        body,
        Lens(),
        focal_length_mm=float(f"{first.focal_length_mm * scale:.3g}"),
        f_number=first.f_number,
        shutter_s=first.shutter_s,
        iso=first.iso,
    )


@action(each())
def add(state: State) -> State:
    """One more rig: a format that is not there yet, with a lens that can be set to anything."""
    bench = state.bench
    check_room(bench)
    there = {(round(rig.sensor.width_mm), round(rig.sensor.height_mm)) for rig in bench.rigs}
    free = [
        slug for slug in NEW_FORMATS if (round(FORMATS[slug].width_mm), round(FORMATS[slug].height_mm)) not in there
    ]
    slug = (free or ["full-frame"])[0]
    rig = like_the_reference(state, Body(sensor_of(slug)))
    return state.on(replace(bench, slots=(*bench.slots, Slot(rig, FORMATS[slug].name, "any lens"))))


def _rearranged(bench: Bench, order: list[int]) -> Bench:
    """The bench with its rigs in another order, some of them left out or more than once; the reference goes with its
    rig.
    """
    donor = bench.hold.lens_of
    lens_of = order.index(donor) if donor is not None and donor in order else None
    return replace(
        bench,
        slots=tuple(bench.slots[index] for index in order),
        reference=order.index(bench.reference),
        hold=replace(bench.hold, lens_of=lens_of),
    )


@action(each(camera))
def remove(state: State, gone: int) -> State:
    count = len(state.bench.slots)
    if count == 1:
        raise ActionError("The last camera stays on the bench.")
    if gone == state.bench.reference:
        heir = next((i for i in range(count) if i != gone and state.comparison.of(i).settings.focusable), None)
        if heir is None:
            raise ActionError(f"{LETTERS[gone]} is the only one that can focus there, so it stays.")
        state = reference(state, heir)
    return state.on(_rearranged(state.bench, [i for i in range(count) if i != gone]))


@action(each(camera))
def duplicate(state: State, twin: int) -> State:
    check_room(state.bench)
    order = list(range(len(state.bench.slots)))
    order.insert(twin + 1, twin)
    return state.on(_rearranged(state.bench, order))


@action(each(camera))
def left(state: State, index: int) -> State:
    return _swapped(state, index, -1)


@action(each(camera))
def right(state: State, index: int) -> State:
    return _swapped(state, index, 1)


def _swapped(state: State, index: int, step: int) -> State:
    other = index + step
    order = list(range(len(state.bench.slots)))
    if 0 <= other < len(order):
        order[index], order[other] = order[other], order[index]
    return state.on(_rearranged(state.bench, order))


@action(each(camera))
def reference(state: State, new: int) -> State:
    """Another point of view: nothing on the screen changes but what is compared with what."""
    bench, comparison = state.bench, state.comparison
    brief, rigs, hold = make_reference(comparison, new)
    slots = tuple(replace(slot, rig=rig) for slot, rig in zip(bench.slots, rigs, strict=True))
    hold = bench.hold if bench.hold.is_best else hold
    return state.on(replace(bench, brief=brief, slots=slots, hold=hold, reference=new))


HAND: dict[str, tuple[str, tuple[str, ...]]] = {
    "lens": ("own", ("focal_length_mm",)),
    "place": ("own", ("distance_m",)),
    "aperture": ("own", ("f_number",)),
    "exposure": ("own", ("shutter_s", "iso")),
}


@action(each())
def best(state: State) -> State:
    """Each rig at the settings that the picture asks for, or as the four answers hold them again."""
    hold = state.bench.hold
    return state.on(replace(state.bench, hold=replace(hold, is_best=not hold.is_best)))


@action(each(camera, words))
def choose(state: State, which: int, letter: str) -> State:
    """Let the picture choose a setting again that was set by hand."""
    rig = state.bench.rigs[which]
    return state.with_rig(which, replace(rig, by_hand=rig.by_hand.replace(letter, "")))


def _held_by_hand(state: State, which: str, letter: str) -> State:
    """One setting of one rig stays as it is, where the picture chooses the others."""
    index = camera(state, which)
    if letter not in BY_HAND:
        raise ActionError("That setting is from an older page. Load the page again.")
    rig, name = state.bench.rigs[index], BY_HAND[letter]
    kept = "".join(key for key in BY_HAND if key == letter or key in rig.by_hand)
    if not state.comparison.of(index).settings.focusable:
        return state.with_rig(index, replace(rig, by_hand=kept))
    value: dict[str, Any] = {name: _own_value(state, index, name)}
    return state.with_rig(index, replace(rig, by_hand=kept, **value))


@action(each(words, words, words, optional=2))
def by_hand(state: State, question: str, which: str = "", letter: str = "") -> State:
    """One question becomes "as set": every rig takes the values that it has now, to be changed one by one."""
    if question == "best":
        return _held_by_hand(state, which, letter)
    bench, comparison = state.bench, state.comparison
    if question not in HAND:
        raise ActionError("That question is from an older page. Load the page again.")
    answer, names = HAND[question]
    slots = []
    for index, slot in enumerate(bench.slots):
        settings = comparison.of(index).settings
        values: dict[str, Any] = {name: _own_value(state, index, name) for name in names} if settings.focusable else {}
        slots.append(replace(slot, rig=replace(slot.rig, **values)))
    answers: dict[str, Any] = {question: answer} | ({"lens_of": None} if question == "lens" else {})
    hold = replace(bench.hold, **answers)
    return state.on(replace(bench, slots=tuple(slots), hold=hold))


def _own_value(state: State, index: int, name: str) -> float:
    """A rig's computed value as its own setting: without the converter, which multiplies it again."""
    settings = state.comparison.of(index).settings
    if name == "distance_m":
        return float(settings.subject_distance_m)
    value = float(getattr(settings, name))
    return value / state.comparison.carrier(index).converter if name in ("focal_length_mm", "f_number") else value


@action(each(camera))
def rest(state: State, which: int) -> State:
    """Let the variable that does not follow take what the other could not, or take that back."""
    rig = state.bench.rigs[which]
    return state.with_rig(which, replace(rig, take_rest=not rig.take_rest))


@action(each())
def meter(state: State) -> State:
    """Set the reference for the light of the picture, by what the hold lets follow."""
    return state.with_rig(state.bench.reference, metered(state.comparison))


@action(each(camera, number))
def stop(state: State, which: int, f_number: float) -> State:
    """Set a rig to a stop of its aperture walk; it becomes the reference, as in the walk."""
    if which != state.bench.reference:
        state = reference(state, which)
    return state.with_rig(which, replace(state.bench.rigs[which], f_number=f_number))


@action(each(camera, number, number_or_none, optional=1))
def convert(state: State, which: int, factor: float, weight_g: float | None = None) -> State:
    """A converter between lens and body, or none with a factor of 1."""
    low, high = LIMITS["converter"]
    if not low <= factor <= high:
        raise ActionError(f"A converter multiplies by {low:g} to {high:g}.")
    weight_g = 0.0 if factor == 1 else weight_g
    return state.with_rig(which, replace(state.bench.rigs[which], converter=factor, converter_weight_g=weight_g))
