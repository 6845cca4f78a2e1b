"""An axis of seconds as cameras write them, which the drawings of stars and of steadiness share."""

from __future__ import annotations

from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Label, Line, Rect, Shape, place_label
from cambrel.wording import shutter


def seconds_axis(along: PixelScale, most: int, top: float, bottom: float) -> list[Shape]:
    """Its grid, and below it the times.

    Parameters
        along: the scale of times
        most: how many at most
        top, bottom: of the grid [px]
    Returns
        lines and labels
    """
    shapes: list[Shape] = []
    for tick in along.ticks(most):
        shapes.append(Line(along(tick), top, along(tick), bottom, "grid"))
        shapes.append(Label(along(tick), bottom + 13, shutter(tick), "tick", "middle", 11))
    return shapes


def seconds_marks(along: PixelScale, marks: dict[str, float], row: Rect, size: float) -> list[Shape]:
    """A stroke at each of some times, named beneath where there is room for it.

    Parameters
        along: the scale of times
        marks: times by their names [s]
        row: where they stand
        size: of the text [px]
    Returns
        lines and labels
    """
    shapes: list[Shape] = []
    taken: list[Rect] = []
    for name, value in marks.items():
        x = along(value)
        shapes.append(Line(x, row.y + 2, x, row.y + 17, "axis"))
        sides = [Label(x, row.y + 18 + size, name, "tick", anchor, size) for anchor in ("middle", "start", "end")]
        if label := place_label(sides, taken, row):
            taken.append(label.box)
            shapes.append(label)
    return shapes
