"""What limits each shutter, on one axis of seconds: from the shortest to the slowest usable, with what else would
bind.
"""

from __future__ import annotations

from math import isfinite

from cambrel.comparison.engine import Comparison
from cambrel.comparison.slowest_shutter import Steady
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.seconds import seconds_axis, seconds_marks
from cambrel.drawings.shapes import Drawing, Label, Line, Rect, rig_role, without_figures
from cambrel.wording import LETTERS, shutter

ROW = 32.0
LEFT, RIGHT = 40.0, 24.0
SHORTEST_S = 1 / 8000
NAMES = {"support": "hand", "movement": "movement", "stars": "stars", "brief": "asked", "body": "body ends"}


def steadiness_drawing(comparison: Comparison, found: dict[int, Steady | None], *, width: float = 660.0) -> Drawing:
    """A bar for each rig as far as its shutter may go, and marks where each limit lies.

    Parameters
        comparison: worked out
        found: of each rig by index, None where it sees nothing
        width: [px]
    Returns
        shapes, a title and a description
    """
    title = "The slowest usable shutter"
    known = {index: steadied for index, steadied in found.items() if steadied is not None}
    times = [value for steadiness in known.values() for value in steadiness.limits_s.values() if isfinite(value)]
    times += [comparison.of(index).settings.shutter_s for index in known]
    if not times:
        return without_figures(width, title)
    along = PixelScale(min(*times, SHORTEST_S) / 1.3, max(times) * 1.6, LEFT, width - RIGHT, logarithmic=True)
    bottom = 16 + len(found) * ROW
    shapes = seconds_axis(along, 10, 12, bottom)
    for row, (index, steadiness) in enumerate(found.items()):
        y = 16 + row * ROW
        shapes.append(Label(LEFT - 12, y + 14, LETTERS[index], rig_role(index, "letter"), "end", 14))
        if steadiness is None:
            shapes.append(Label(LEFT, y + 14, "no figures", "tick", size=11))
            continue
        shapes.append(
            Rect(LEFT, y + 4, along(min(steadiness.slowest_s, along.high)) - LEFT, 11, rig_role(index, "depth-bar"))
        )
        limits = {NAMES[key]: value for key, value in steadiness.limits_s.items() if isfinite(value)}
        shapes += seconds_marks(along, limits, Rect(0, y, width, ROW + 2), 10)
        x = along(comparison.of(index).settings.shutter_s)
        shapes.append(Line(x, y, x, y + 19, rig_role(index, "focus-mark")))
    said = "; ".join(
        (
            f"{LETTERS[index]} up to {shutter(steadiness.slowest_s)}, limited by {steadiness.binds}"
            if isfinite(steadiness.slowest_s)
            else f"{LETTERS[index]} without a limit"
        )
        for index, steadiness in known.items()
    )
    return Drawing(width, bottom + 20, tuple(shapes), title, said + ".")
