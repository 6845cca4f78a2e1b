"""The Frames panel: what each frame takes in, over the scene, and the frames on the sensors."""

from __future__ import annotations

from typing import Any

from cambrel import wording
from cambrel.bench.panels.panel import Panel, PanelView, rig_table
from cambrel.comparison.engine import RigFigures
from cambrel.drawings.frames import frames_drawing, gained_and_lost, sensors_drawing
from cambrel.optics.quantities import is_unknown
from cambrel.pictures.shots import HEIGHTS, backdrop
from cambrel.pictures.views import address
from cambrel.wording import DASH, LETTERS


def build(seen: PanelView) -> dict[str, Any]:
    bench, comparison, look = seen.bench, seen.comparison, seen.look
    units = look.units

    def behind_it(subject_m: float, wide_m: float, high_m: float) -> str:
        shot = backdrop(bench, comparison.brief, seen.place, subject_m, wide_m, high_m)
        return address(shot.token(), HEIGHTS[5] if look.narrow else HEIGHTS[6])

    def cells(rig: RigFigures) -> tuple[str, ...]:
        v = rig.view
        seen = f"{wording.distance(v.field_wide_m, units)} × {wording.distance(v.field_high_m, units)}"
        behind = f"{wording.distance(v.background_wide_m, units)} × {wording.distance(v.background_high_m, units)}"
        wide, high = gained_and_lost(comparison.first, rig)
        across, down = (_gain(wide, v.field_wide_m, units), _gain(high, v.field_high_m, units))
        if rig.index == comparison.reference:
            across = down = "reference"
        angle = f"{wording.degrees(v.angle_wide_deg)} × {wording.degrees(v.angle_high_deg)}"
        return seen, across, down, behind, angle

    first = LETTERS[comparison.reference]
    heads = (
        ("at the subject", "field_wide"),
        (f"width against {first}", "across"),
        (f"height against {first}", "down"),
        ("at the background", "back_wide"),
        ("angle of view", "angle_wide"),
    )
    return {
        "drawing": frames_drawing(
            comparison, behind_it, width=look.across, height=400 if len(bench.slots) < 3 else 300, units=units
        ),
        "sensors": sensors_drawing(comparison),
        "table": rig_table("What each frame takes in", heads, comparison, cells),
    }


def _gain(difference: float, whole: float, units: wording.Units) -> str:
    """What is gained or cut off along one side."""
    if is_unknown(difference):
        return DASH
    if abs(difference) < 0.005 * whole:
        return "level"
    return ("gains " if difference > 0 else "cuts ") + wording.distance(abs(difference), units, 2)


PANEL = Panel("frames", "Frames", "bench/panels/frames.html", build)
