"""What it would take: of each lever where it stands, where it would have to go, and what the gear has of it."""

from __future__ import annotations

from cambrel.comparison.levers import Stance
from cambrel.comparison.wishes import LeverMoved, Taking
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Drawing, Label, Line, Path, Rect, Shape, place_label, without_figures
from cambrel.optics.workings import Figure
from cambrel.wording import METRES, Units, figure

ROW = 50.0
MARGIN = 12.0
FARTHEST = 8.0
"""What the gear has is drawn as far as so many times beyond where a lever stands and goes."""
HEAD = 5.0


def takings_drawing(stands: Stance, taking: Taking, *, width: float = 350.0, units: Units = METRES) -> Drawing:
    """A row for each lever that gives it alone, on a scale of its own that is even in stops.

    Parameters
        stands: how the rig stands
        taking: what was found
        width: [px]
        units: of the reader
    Returns
        shapes, a title and a description
    """
    title = "How far each would have to go"
    if not taking.alone:
        return without_figures(width, title, "No lever alone gives it.")
    shapes: list[Shape] = []
    said = []
    for row, moved in enumerate(taking.ordered):
        (lever, value), *_ = moved.values
        now = lever.value(stands)
        then = figure(Figure(value, lever.kind), units)
        shapes += _row(stands, moved, row * ROW, width, units)
        text = f"{lever.label}: {then}"
        if now > 0:
            text = f"{lever.label}: from {figure(Figure(now, lever.kind), units)} to {then}"
        if moved.is_owned is not None:
            text += ", which the gear has" if moved.is_owned else ", beyond the gear"
        said.append(text)
    return Drawing(width, len(taking.alone) * ROW, tuple(shapes), title, "; ".join(said) + ".")


def _row(stands: Stance, moved: LeverMoved, top: float, width: float, units: Units) -> list[Shape]:
    (lever, value), *_ = moved.values
    now = lever.value(stands)
    ends = [end for end in (now, value) if end > 0]
    low, high = min(ends), max(ends)
    owned = lever.owned(lever.moved(stands, value))
    if owned is not None:
        low, high = max(min(low, owned[0]), low / FARTHEST), min(max(high, owned[1]), high * FARTHEST)
    along = PixelScale(low / 1.1, high * 1.1, MARGIN, width - MARGIN, logarithmic=True)
    line = top + 26
    shapes: list[Shape] = [
        Label(4, top + 12, lever.label, "label", size=11),
        Line(MARGIN, line, width - MARGIN, line, "grid"),
    ]
    if owned is not None:
        left, right = along(owned[0]), along(owned[1])
        shapes.append(Rect(left, line - 4, right - left, 8, "asked-range"))
    there = along(value)
    if now > 0:
        here = along(now)
        shapes.append(Line(here, line - 7, here, line + 7, "present"))
        if abs(there - here) > HEAD + 1:
            back = there - HEAD if there > here else there + HEAD
            shapes.append(Line(here, line, there, line, "measure"))
            shapes.append(Path(((back, line - HEAD + 1), (there, line), (back, line + HEAD - 1)), "measure"))
    shapes.append(Line(there, line - 7, there, line + 7, "measure"))
    window, taken = Rect(0, line, width, ROW - 26), list[Rect]()
    for at, text, role in (
        (there, figure(Figure(value, lever.kind), units), "value"),
        *([(along(now), figure(Figure(now, lever.kind), units), "tick")] if now > 0 else []),
    ):
        sides = [Label(at, line + 19, text, role, anchor, 11) for anchor in ("middle", "start", "end")]
        if label := place_label(sides, taken, window):
            taken.append(label.box)
            shapes.append(label)
    return shapes
