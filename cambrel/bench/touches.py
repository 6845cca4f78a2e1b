"""What a press or a drag on a picture of the scene means: focus there, put the loupe there, or move what stands there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import inf

from cambrel.bench.pictures import shop
from cambrel.bench.pressing import ActionError
from cambrel.bench.reading import Look
from cambrel.bench.shots import HEIGHTS, Shot, rig_shot
from cambrel.links import MOST_CHANGES, Bench
from cambrel.optics.comparison import Comparison
from cambrel.optics.geometry import focus_distance_from_object_distance_m
from cambrel.optics.scene import scale_mm_per_m
from cambrel.rendering.pick import pick
from cambrel.scenes import Change, Layer, scene_named

NEAREST_M, FARTHEST_M = 0.01, 1e5


def touch(action: str, bench: Bench, comparison: Comparison, look: Look) -> tuple[Bench, Look]:
    """Carry out a press or a drag, written as name:rig:x:y and more, x and y in shares of the picture.

    Raises
        ActionError with the reason
    """
    name, *arguments = action.split(":")
    try:
        rig, x, y, *more = arguments
        index, at_x, at_y = int(rig), float(x), float(y)
        if not (0 <= index < len(bench.slots) and 0 <= at_x <= 1 and 0 <= at_y <= 1):
            raise ValueError(action)
        figures = comparison.of(index)
        if not figures.settings.focusable:
            raise ValueError(action)
        shot = rig_shot(bench, comparison, figures)
        return TOUCHES[name](bench, comparison, look, shot, at_x, at_y, *map(float, more))
    except ActionError:
        raise
    except (KeyError, TypeError, ValueError) as error:
        raise ActionError("This place of the picture cannot be used.") from error


def focus_at(bench: Bench, comparison: Comparison, look: Look, shot: Shot, x: float, y: float) -> tuple[Bench, Look]:
    """Focus every rig on what was pressed; on the subject the focus is the subject's again."""
    layer, away = pick(shot.view(HEIGHTS[5]), shop(), x, y)
    if layer is not None and layer.anchor == "subject":
        return replace(bench, brief=replace(bench.brief, focus_distance_m=None)), look
    behind = away - shot.camera.subject_distance_m
    focus = inf if away > FARTHEST_M else float(comparison.first.settings.subject_distance_m) + behind
    if focus <= NEAREST_M:
        raise ActionError("The reference stands behind that; it cannot be focused there.")
    if bench.brief.distance_from == "sensor" and focus < inf:
        focus = float(focus_distance_from_object_distance_m(focus, comparison.first.settings.focal_length_mm))
    return replace(bench, brief=replace(bench.brief, focus_distance_m=float(f"{focus:.6g}"))), look


def loupe_at(bench: Bench, comparison: Comparison, look: Look, shot: Shot, x: float, y: float) -> tuple[Bench, Look]:
    """Put the loupe on a point, counted at the subject's distance."""
    c = shot.camera
    per_m = float(scale_mm_per_m(c, c.subject_distance_m))
    at = c.aim_x_m + (x - 0.5) * c.width_mm / per_m, c.aim_height_m - (y - 0.5) * c.height_mm / per_m
    return bench, replace(look, loupe=at)


def drag_at(
    bench: Bench, comparison: Comparison, look: Look, shot: Shot, x: float, y: float, factor: float
) -> tuple[Bench, Look]:
    """Move what was dragged farther or nearer: the subject, the background and the foreground in the brief, other things in the scene."""
    if not 0.01 <= factor <= 100:
        raise ActionError("That is too far in one drag.")
    layer, away = pick(shot.view(HEIGHTS[5]), shop(), x, y)
    if layer is None:
        raise ActionError("The ground and the sky stay where they are; drag a thing.")
    brief, s = bench.brief, shot.camera.subject_distance_m
    if layer.anchor == "subject":
        distance = float(f"{max(brief.distance_m * factor, NEAREST_M):.4g}")
        return replace(bench, brief=replace(brief, distance_m=distance)), look
    moved = max(away * factor, NEAREST_M)
    behind = float(f"{moved - s:.4g}")
    if layer.anchor == "background" and behind > 0:
        return replace(bench, brief=replace(brief, background_m=behind)), look
    if layer.anchor == "foreground" and behind < 0:
        return replace(bench, brief=replace(brief, foreground_m=-behind)), look
    return replace(bench, changes=_with(bench, layer, behind)), look


def _with(bench: Bench, layer: Layer, behind_m: float) -> tuple[Change, ...]:
    drawn = scene_named(bench.scene).layers
    index = next(i for i, one in enumerate(drawn) if one.name == layer.name)
    scale = next((c.scale for c in bench.changes if c.layer == index), 1.0)
    others = tuple(c for c in bench.changes if c.layer != index)
    if len(others) >= MOST_CHANGES:
        raise ActionError(f"A scene in a link holds {MOST_CHANGES} moved things; put one back first.")
    change = Change(index, max(-FARTHEST_M, min(behind_m, FARTHEST_M)), layer.x_m, scale)
    return tuple(sorted((*others, change), key=lambda c: c.layer))


TOUCHES: dict[str, Callable[..., tuple[Bench, Look]]] = {"focus_at": focus_at, "loupe_at": loupe_at, "drag_at": drag_at}
