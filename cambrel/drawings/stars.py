"""How long stars stay points, by every school on one axis of seconds, and the frames with their trails and a target to
scale.
"""

from __future__ import annotations

from math import isfinite

from cambrel.comparison.engine import Comparison
from cambrel.comparison.starlight import Starlight, target_mm
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.seconds import seconds_axis, seconds_marks
from cambrel.drawings.shapes import (
    Circle,
    Drawing,
    Label,
    Line,
    Path,
    Rect,
    Shape,
    rig_role,
    without_figures,
)
from cambrel.optics.stars import STAR_SCHOOLS, drift_vector_mm
from cambrel.wording import LETTERS, shutter, significant

ROW = 26.0
LEFT, RIGHT = 40.0, 24.0
FRAME = 96.0
"""Height of a frame."""
LONGEST_TRAIL = 0.16
"""Of a frame's height, so long the longest trail is drawn; by how much longer than it is, is said."""
ACROSS, DOWN = 5, 4
ENDLESS = 1e5


def stars_drawing(
    comparison: Comparison, found: dict[int, Starlight | None], arc_minutes: float, *, width: float = 660.0
) -> Drawing:
    """A row of marks for each rig, and below its frame.

    Parameters
        comparison: worked out
        found: figures of each rig by index
        arc_minutes: size of the target that is drawn into each frame [arc minutes]
        width: [px]
    Returns
        shapes, a title and a description
    """
    title = "How long stars stay points"
    lit = {index: starlight for index, starlight in found.items() if starlight is not None}
    if not lit:
        return without_figures(width, title)
    times = [value for sky in lit.values() for value in _marks(sky).values() if isfinite(value)]
    times += [comparison.of(index).settings.shutter_s for index in lit]
    along = PixelScale(min(times) / 1.3, min(max(times), ENDLESS) * 1.3, LEFT, width - RIGHT, logarithmic=True)
    bottom = 20 + len(found) * ROW
    shapes = seconds_axis(along, 8, 14, bottom)
    for row, (index, sky) in enumerate(found.items()):
        y = 20 + row * ROW
        shapes.append(Label(LEFT - 12, y + 14, LETTERS[index], rig_role(index, "letter"), "end", 14))
        if sky is None:
            shapes.append(Label(LEFT, y + 14, "no figures", "tick", size=11))
            continue
        middle, worst = along(min(sky.middle_s, along.high)), along(sky.worst_s)
        shapes.append(Rect(worst, y + 5, max(middle - worst, 1.0), 9, rig_role(index, "depth-bar")))
        rules = {name: at for name, at in _marks(sky).items() if isfinite(at) and name not in ("middle", "worst")}
        shapes += seconds_marks(along, rules, Rect(0, y, width, ROW + 4), 9)
        x = along(comparison.of(index).settings.shutter_s)
        shapes.append(Line(x, y, x, y + 19, rig_role(index, "focus-mark")))
    frames, high = _frames(comparison, lit, arc_minutes, bottom + 30, width)
    said = "; ".join(
        f"{LETTERS[i]} {shutter(sky.worst_s)} at the worst edge"
        + (f", {shutter(sky.middle_s)} in the middle" if isfinite(sky.middle_s) else "")
        for i, sky in lit.items()
    )
    return Drawing(width, bottom + 30 + high, tuple(shapes + frames), title, said + ".")


def _marks(starlight: Starlight) -> dict[str, float]:
    rules = {school.mark: starlight.by_school_s[key] for key, school in STAR_SCHOOLS.items() if school.mark}
    return {**rules, "middle": starlight.middle_s, "worst": starlight.worst_s}


def _frames(
    comparison: Comparison, lit: dict[int, Starlight], arc_minutes: float, top: float, width: float
) -> tuple[list[Shape], float]:
    """Each rig's frame, with the trails that its shutter gives, longer by a stated factor, and the target to scale."""
    shapes: list[Shape] = []
    most = max(starlight.trail_mm / comparison.of(index).frames.height_mm for index, starlight in lit.items())
    times = max(1.0, LONGEST_TRAIL / most)
    x, y = LEFT, top + 16
    longer = "trails at true length" if times == 1 else f"trails {significant(times, 2)} times as long as they are"
    shapes.append(
        Label(4, top, f"frames with {longer}, circle of {significant(arc_minutes)} arc minutes", "label", size=11)
    )
    for index, sky in lit.items():
        rig = comparison.of(index)
        scale = FRAME / rig.frames.height_mm
        wide = rig.frames.width_mm * scale
        if x + wide > width - 8 and x > LEFT:
            x, y = LEFT, y + FRAME + 26
        shapes.append(Rect(x, y, wide, FRAME, "star-sky"))
        centre_x, centre_y = x + wide / 2, y + FRAME / 2
        for i in range(ACROSS):
            for j in range(DOWN):
                at = ((i + 0.5) / ACROSS - 0.5) * rig.frames.width_mm, ((j + 0.5) / DOWN - 0.5) * rig.frames.height_mm
                dx, dy = drift_vector_mm(rig.settings.focal_length_mm, sky.declination_deg, rig.settings.shutter_s, *at)
                from_x, from_y = centre_x + at[0] * scale, centre_y - at[1] * scale
                trail = ((from_x, from_y), (from_x + float(dx) * scale * times, from_y - float(dy) * scale * times))
                shapes.append(Path(trail, "star-trail"))
        radius = target_mm(rig, arc_minutes) / 2 * scale
        shapes.append(Circle(centre_x, centre_y, min(radius, FRAME), "star-target"))
        shapes.append(Label(x, y + FRAME + 14, LETTERS[index], rig_role(index, "letter"), size=13))
        shapes.append(Label(x + 14, y + FRAME + 14, f"{significant(rig.settings.focal_length_mm)} mm", "tick", size=11))
        x += wide + 14
    return shapes, y + FRAME + 24 - top
