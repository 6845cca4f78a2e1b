"""Presses that put gear on a rig: from a shelf, or by its own figures."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from cambrel.bench.actions.action import (
    ACTIONS,
    Action,
    ActionError,
    Form,
    State,
    action,
    camera,
    each,
    gear_or_none,
    gear_sent,
    number_or_none,
)
from cambrel.bench.actions.rigs import check_room, like_the_reference
from cambrel.bench.forms import OWN_FORMS
from cambrel.comparison.bench import Bench, Gear, Slot
from cambrel.comparison.fit import same_mount
from cambrel.comparison.rig import LARGEST_F_NUMBER


@action(each(camera, gear_sent, number_or_none, optional=1))
def gear(state: State, which: int, sent: Gear, f_number: float | None = None) -> State:
    """Put gear on a rig, by value; what was typed with its f-number is set to it."""
    return with_gear(state, which, sent, f_number)


@action(each(gear_sent, gear_or_none, optional=1))
def put(state: State, sent: Gear, carrier: Gear | None = None) -> State:
    """Gear from a shelf as one more rig, set to make the reference's picture; a lens goes on a body of its mount."""
    bench = state.bench
    check_room(bench)
    if sent.body is None and sent.lens is not None:
        sent = _carried(bench, sent, carrier)
    slot = bench.slots[bench.reference]
    rig = like_the_reference(state, slot.rig.body if sent.body is None else sent.body)
    new = Slot(rig, sent.body_name or slot.body_name, "any lens")
    return with_gear(state.on(replace(bench, slots=(*bench.slots, new))), len(bench.slots), sent)


def _carried(bench: Bench, sent: Gear, carrier: Gear | None) -> Gear:
    """A lens on a body of its mount: the reference's, another on the bench, the one sent along; where none is known, on
    the reference's.
    """
    mount = sent.lens.mount if sent.lens else ""
    there = [bench.slots[bench.reference], *bench.slots]
    fitting = next((slot for slot in there if mount and same_mount(slot.rig.body.mount, mount)), None)
    if fitting is None and carrier is not None:
        return replace(sent, body=carrier.body, body_name=carrier.body_name)
    slot = fitting or there[0]
    return replace(sent, body=slot.rig.body, body_name=slot.body_name)


def with_gear(state: State, index: int, sent: Gear, at_f_number: float | None = None) -> State:
    """A rig with another body, another lens or both; its settings move into the new lens's range, or to the f-number
    that was typed with it.
    """
    state, names = _with_its_own_lens(state, index, sent), {}
    rig = state.bench.rigs[index]
    if sent.body is not None:
        rig, names["body_name"] = replace(rig, body=sent.body, mode=None), sent.body_name
    if sent.lens is not None:
        lens = sent.lens
        focal = rig.focal_length_mm
        if lens.focal_min_mm is not None and lens.focal_max_mm is not None:
            focal = min(max(focal, lens.focal_min_mm), lens.focal_max_mm)
        widest = float(lens.widest_f_number(focal))
        wanted = rig.f_number if at_f_number is None else at_f_number
        f_number = min(max(wanted, widest), max(lens.smallest_f_number or LARGEST_F_NUMBER, widest))
        rig, names["lens_name"] = replace(rig, lens=lens, focal_length_mm=focal, f_number=f_number), sent.lens_name
    return state.with_rig(index, rig, **names)


def _with_its_own_lens(state: State, index: int, sent: Gear) -> State:
    """One lens is no longer kept on all where a rig is given another: what is picked is what is on it.

    The lens that all share may be another one, unless it comes with a camera that it does not come off.
    """
    bench, hold = state.bench, state.bench.hold
    is_fixed = sent.body is not None and not sent.body.mount
    if not hold.of_lens.is_shared or sent.lens is None or (hold.donor(bench.reference) == index and not is_fixed):
        return state
    return state.on(replace(bench, hold=replace(hold, lens="own", lens_of=None)))


def _by_its_figures(kind: str) -> Form:
    """A camera, and the fields of a body or a lens that are sent along."""

    def read(state: State, arguments: list[str]) -> tuple[Any, ...]:
        (which,) = each(camera)(state, arguments)
        form = OWN_FORMS[kind](state.sent, prefix="own")
        if not form.is_valid():
            raise ActionError(next(iter(form.errors.values()))[0])
        return which, form.to_gear(), form.cleaned_data.get("widest")

    return read


for kind in OWN_FORMS:
    ACTIONS[f"own_{kind}"] = Action(f"own_{kind}", _by_its_figures(kind), with_gear)
