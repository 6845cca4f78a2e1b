"""How deep each picture is at this magnification: around the subject, with the range that is asked for and the frames
of a stack.
"""

from __future__ import annotations

from math import isfinite

from cambrel.comparison.engine import Comparison
from cambrel.comparison.framing import Stack
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Drawing, Label, Line, Rect, Shape, rig_role, without_figures
from cambrel.wording import LETTERS, METRES, Units, distance

ROW = 34.0
LEFT, RIGHT = 40.0, 96.0
WIDEST = 6.0
"""So many times the range that is asked for are shown at most, so that what is asked stays seen."""


def closeup_drawing(
    comparison: Comparison, stacks: dict[int, Stack | None], *, width: float = 660.0, units: Units = METRES
) -> Drawing:
    """Bars from the near to the far limit of each rig, from the subject on; ticks where the frames of a stack are
    focused.

    Parameters
        comparison: worked out
        stacks: of each rig by index, as it is set
        width: [px]
        units: of the reader
    Returns
        shapes, a title and a description
    """
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    title = "Depth around the subject"
    brief = comparison.brief
    front, behind = brief.sharp_front_m or 0.0, brief.sharp_behind_m or 0.0
    spans = [
        (rig.depth.near_m - rig.settings.subject_distance_m, rig.depth.far_m - rig.settings.subject_distance_m)
        for rig in rigs
    ]
    finite = [value for span in spans for value in span if isfinite(value)]
    if not finite:
        return without_figures(width, title, "No depth is known here.")
    asked = front + (behind if isfinite(behind) else 0.0)
    low, high = min(*finite, -front, 0.0), max(*finite, behind if isfinite(behind) else 0.0, 0.0)
    if asked:
        low, high = max(low, -WIDEST * asked), min(high, WIDEST * asked)
    room = (high - low) * 0.06 or 1e-6
    along = PixelScale(low - room, high + room, LEFT, width - RIGHT)
    bottom = 26 + len(rigs) * ROW
    shapes: list[Shape] = []
    if asked:
        x, end = along(-front), along(min(behind, high + room))
        shapes.append(Rect(x, 16, end - x, bottom - 16, "asked-range"))
        shapes.append(Label(x, 11, "must be sharp", "tick", size=11))
    for tick in along.ticks(6):
        shapes.append(Line(along(tick), 20, along(tick), bottom, "grid"))
        label = "subject" if abs(tick) < 1e-12 else f"{'+' if tick > 0 else '−'}{distance(abs(tick), units)}"
        shapes.append(Label(along(tick), bottom + 14, label, "tick", "middle", 11))
    shapes.append(Line(along(0.0), 16, along(0.0), bottom, "present"))
    for row, (rig, (near, far)) in enumerate(zip(rigs, spans, strict=True)):
        y = 26 + row * ROW
        shapes.append(Label(LEFT - 12, y + 14, LETTERS[rig.index], rig_role(rig.index, "letter"), "end", 14))
        if not isfinite(near):
            shapes.append(Label(LEFT, y + 14, "no figures", "tick", size=11))
            continue
        if near > along.high or far < along.low:
            beyond = f"sharp {distance(abs(near if near > 0 else far), units)} {'behind' if near > 0 else 'in front'}"
            shapes.append(Label(along(near), y + 14, beyond, "tick", "end" if near > 0 else "start", 11))
            continue
        x, end = along(near), along(far)
        shapes.append(Rect(x, y + 3, max(end - x, 1.0), 13, rig_role(rig.index, "depth-bar")))
        focus = along(rig.settings.object_distance_m - rig.settings.subject_distance_m)
        shapes.append(Line(focus, y + 1, focus, y + 18, rig_role(rig.index, "focus-mark")))
        shapes.append(Label(width - RIGHT + 8, y + 14, distance(rig.depth.total_m, units), "value", size=12))
        frames = stacks.get(rig.index)
        for at in frames.focused_m if frames and len(frames.focused_m) > 1 else ():
            x = along(at - rig.settings.subject_distance_m)
            shapes.append(Line(x, y + 20, x, y + 26, rig_role(rig.index, "rig-line")))
    said = "; ".join(
        f"{LETTERS[rig.index]} is sharp over {distance(rig.depth.total_m, units)}"
        for rig in rigs
        if isfinite(rig.depth.near_m)
    )
    return Drawing(width, bottom + 22, tuple(shapes), title, said + ".")
