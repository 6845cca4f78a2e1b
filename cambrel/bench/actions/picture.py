"""Presses on the picture to be made: another one, and where the things of its scene stand."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import inf

from cambrel.bench.actions.action import ActionError, State, action, each, thing, words
from cambrel.bench.placing import placed, with_change
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.comparison.bench import MOST_CHANGES, LayerChange, Task
from cambrel.comparison.engine import Brief, Rig
from cambrel.comparison.moving_pictures import as_film, as_still
from cambrel.links.benches import decode_brief
from cambrel.links.codec import LinkError
from cambrel.optics.geometry import magnification
from cambrel.optics.light import effective_f_number, iso_for_light
from cambrel.optics.stops import ISOS, SHUTTERS, nearest_within
from cambrel.phrases.typed_figures import length, number

LOWEST_ISO = 50.0


def _task(state: State, arguments: list[str]) -> tuple[Task]:
    """One of the samples by its name, or any picture by value."""
    (text,) = each(words)(state, arguments)
    if text in sample_briefs():
        return (sample_briefs()[text].task,)
    try:
        return (decode_brief(text),)
    except LinkError as error:
        raise ActionError("That picture is no longer in the list. Choose another.") from error


@action(_task)
def brief(state: State, task: Task) -> State:
    """Another picture, before the same cameras: a photograph that was brought is none of it."""
    bench, state = state.bench.with_task(task), replace(state, look=state.look.choosing(photo=""))
    index = bench.reference
    return state.on(bench).with_rig(index, _exposed(bench.rigs[index], bench.brief))


def _exposed(rig: Rig, brief: Brief) -> Rig:
    """A rig set for the light of a brief: its slowest acceptable shutter time and the ISO that is right, as its camera
    marks them.
    """
    body, f, u = rig.body, rig.focal_length_mm, brief.focus_distance_m or brief.distance_m
    if not 1000 * u > f:
        return rig
    effective = effective_f_number(rig.f_number, magnification(f, u))

    def marked(seconds: float) -> float:
        return nearest_within(seconds, SHUTTERS, body.fastest_shutter_s, rig.slowest_shutter_s).typed

    shutter = marked(min(brief.slowest_shutter_s or rig.shutter_s, rig.slowest_shutter_s or inf))
    iso = float(iso_for_light(effective, shutter, brief.light_ev))
    base = body.base_iso or LOWEST_ISO
    if iso < base:
        shutter = marked(shutter * iso / base)
        iso = float(iso_for_light(effective, shutter, brief.light_ev))
    return replace(rig, shutter_s=shutter, iso=nearest_within(iso, ISOS, base, body.ceiling_iso).typed)


@action(each(words))
def film(state: State, what: str) -> State:
    """A still picture or a film."""
    return state.on(as_still(state.bench) if what == "still" else as_film(state.bench))


@action(each(words))
def carried(state: State, support: str) -> State:
    """What carries the camera."""
    return state.on(replace(state.bench, brief=replace(state.bench.brief, support=support)))


def _place(state: State, arguments: list[str]) -> tuple[LayerChange | None]:
    """A thing and its place in the units in force. What is sent as it was shown stays exactly as it is: None where all
    is.
    """
    which, *typed = each(thing, words, words, words)(state, arguments)
    units = state.look.units
    now = placed(state.bench, units, state.place)[which]
    shown = [now.behind, now.across, now.scale]
    if typed == shown:
        return (None,)
    readers: tuple[Callable[[str], float], ...] = (
        lambda text: length(text, units.metres, -1e5, 1e5),
        lambda text: length(text, units.metres, -1e5, 1e5),
        lambda text: number(text, 0.01, 100.0),
    )
    try:
        values = [
            value if text == as_shown else read(text)
            for read, value, as_shown, text in zip(readers, now.place, shown, typed, strict=True)
        ]
    except (ValueError, OverflowError) as error:
        raise ActionError("Type a distance for its place, such as 3 m, and a number for its size.") from error
    return (LayerChange(which, *values),)


@action(_place)
def arrange(state: State, change: LayerChange | None) -> State:
    """Put a thing of the scene somewhere else, or make it larger or smaller."""
    return state if change is None else moved(state, change)


def moved(state: State, change: LayerChange) -> State:
    bench = with_change(state.bench, change)
    if bench is None:
        raise ActionError(f"A link holds {MOST_CHANGES} moved things. Put one back first.")
    return state.on(bench)


@action(each())
def arrange_reset(state: State) -> State:
    return state.on(replace(state.bench, changes=()))
