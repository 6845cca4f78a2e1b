"""What a press or a drag on a picture of the scene means: focus there, put the loupe there, or move what stands
there.
"""

from __future__ import annotations

from dataclasses import replace
from math import inf
from typing import Any

from cambrel.bench.actions.action import ActionError, Form, State, action
from cambrel.bench.actions.picture import moved
from cambrel.comparison.bench import LayerChange
from cambrel.inputs.fields import whole
from cambrel.optics.geometry import focus_distance_from_object_distance_m
from cambrel.optics.scene import scale_mm_per_m
from cambrel.pictures.shots import HEIGHTS, Shot, rig_shot
from cambrel.pictures.views import shop
from cambrel.rendering.pick import pick
from cambrel.scenes import Layer

NEAREST_M, FARTHEST_M = 0.01, 1e5


def on_picture(*more: str) -> Form:
    """A rig, a place of its picture in shares of it, and so many further numbers: the rig's shot, the place and the
    numbers.
    """

    def read(state: State, arguments: list[str]) -> tuple[Any, ...]:
        try:
            rig, x, y, *others = arguments
            index, at_x, at_y, numbers = whole(rig, -1), float(x), float(y), [float(other) for other in others]
            figures = state.comparison.of(index) if 0 <= index < len(state.bench.slots) else None
            there = figures is not None and bool(figures.settings.focusable) and 0 <= at_x <= 1 and 0 <= at_y <= 1
            if figures is None or not there or len(numbers) != len(more):
                raise ValueError(arguments)
        except ValueError as error:
            raise ActionError("That is outside the picture. Press inside it.") from error
        return rig_shot(state.bench, state.comparison, figures, place=state.place), at_x, at_y, *numbers

    return read


@action(on_picture())
def focus_at(state: State, shot: Shot, x: float, y: float) -> State:
    """Focus every rig on what was pressed; on the subject the focus is the subject's again."""
    bench, first = state.bench, state.comparison.first.settings
    layer, away = pick(shot.view(HEIGHTS[5]), shop(), x, y)
    if layer is not None and layer.anchor == "subject":
        return state.on(replace(bench, brief=replace(bench.brief, focus_distance_m=None)))
    behind = away - shot.camera.subject_distance_m
    focus = inf if away > FARTHEST_M else float(first.subject_distance_m) + behind
    if focus <= NEAREST_M:
        raise ActionError("That is behind the reference camera. Press farther away.")
    if bench.brief.distance_from == "sensor" and focus < inf:
        focus = float(focus_distance_from_object_distance_m(focus, first.focal_length_mm))
    return state.on(replace(bench, brief=replace(bench.brief, focus_distance_m=float(f"{focus:.6g}"))))


@action(on_picture())
def loupe_at(state: State, shot: Shot, x: float, y: float) -> State:
    """Put the loupe on a point, counted at the subject's distance."""
    c = shot.camera
    per_m = float(scale_mm_per_m(c, c.subject_distance_m))
    at = c.aim_x_m + (x - 0.5) * c.width_mm / per_m, c.aim_height_m - (y - 0.5) * c.height_mm / per_m
    return replace(state, look=state.look.choosing(loupe=at))


@action(on_picture("factor"))
def drag_at(state: State, shot: Shot, x: float, y: float, factor: float) -> State:
    """Move what was dragged farther or nearer: the subject, the background and the foreground in the brief, other
    things in the scene.
    """
    if not 0.01 <= factor <= 100:
        raise ActionError("That is too far for one drag. Drag a shorter way.")
    layer, away = pick(shot.view(HEIGHTS[5]), shop(), x, y)
    if layer is None:
        raise ActionError("The ground and the sky stay where they are. Drag a thing in the scene.")
    bench, s = state.bench, shot.camera.subject_distance_m
    brief = bench.brief
    if layer.anchor == "subject":
        distance = float(f"{max(brief.distance_m * factor, NEAREST_M):.4g}")
        return state.on(replace(bench, brief=replace(brief, distance_m=distance)))
    behind = float(f"{max(away * factor, NEAREST_M) - s:.4g}")
    if layer.anchor == "background" and behind > 0:
        return state.on(replace(bench, brief=replace(brief, background_m=behind)))
    if layer.anchor == "foreground" and behind < 0:
        return state.on(replace(bench, brief=replace(brief, foreground_m=-behind)))
    return moved(state, _change(state, layer, behind))


def _change(state: State, layer: Layer, behind_m: float) -> LayerChange:
    index = next(i for i, placed in enumerate(state.place.layers) if placed.name == layer.name)
    scale = next((c.scale for c in state.bench.changes if c.layer == index), 1.0)
    return LayerChange(index, max(-FARTHEST_M, min(behind_m, FARTHEST_M)), layer.x_m, scale)
