"""Sensor sizes to one scale: over each other on a common centre, or side by side."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from cambrel import wording
from cambrel.drawings.shapes import Drawing, Label, Line, Rect, Shape, shortened, spread
from cambrel.optics.formats import Sensor

LABELS, SIZES = 290.0, 96.0
NARROW, NARROW_LABELS = 600.0, 132.0
"""Below this width only names stand beside the frames."""
LINE = 17.0
EDGE = 6.0


@dataclass(frozen=True)
class Sized:
    """A format to draw: its name, its frame, and the part of it that an output shape keeps."""

    name: str
    frame: Sensor
    kept: Sensor


def _by_size(formats: Sequence[Sized]) -> list[Sized]:
    return sorted(formats, key=lambda f: f.frame.area_mm2, reverse=True)


def overlaid(formats: Sequence[Sized], width: float = 860.0, height: float = 400.0) -> Drawing:
    """Every frame about one centre, each named at the side with a line to its corner.

    Parameters
        formats: frames with their names
        width, height: [px]
    Returns
        shapes, a title and a description
    """
    ordered = _by_size(formats)
    widest, highest = max(f.frame.width_mm for f in ordered), max(f.frame.height_mm for f in ordered)
    is_narrow = width < NARROW
    labels = NARROW_LABELS if is_narrow else LABELS
    scale = min((width - labels - 2 * EDGE) / widest, (height - 2 * EDGE) / highest)
    x0, y0 = EDGE + widest * scale / 2, height / 2
    is_cut = any(f.kept != f.frame for f in ordered)
    shapes: list[Shape] = []
    # each label stands near the height of its frame's corner, in the order of the frames
    corners = sorted(ordered, key=lambda f: (-f.frame.height_mm, -f.frame.width_mm))
    wanted = [y0 - f.frame.height_mm * scale / 2 + 8 for f in corners]
    places = spread(wanted, LINE, 12, height - 6)
    for f in ordered:
        shapes.append(_frame(f.frame, x0, y0, scale, "format-frame", f.name))
        if is_cut:
            shapes.append(_frame(f.kept, x0, y0, scale, "format-kept", f"{f.name}, what is kept"))
    left = x0 + widest * scale / 2 + (14 if is_narrow else 26)
    for f, y in zip(corners, places, strict=True):
        corner_x, corner_y = x0 + f.frame.width_mm * scale / 2, y0 - f.frame.height_mm * scale / 2
        shapes.append(Line(corner_x, corner_y, left - 4, y - 4, "leader"))
        if not is_narrow:
            shapes.append(Label(left, y, _size(f.frame), "value", size=12))
        at = left if is_narrow else left + SIZES
        shapes.append(Label(at, y, shortened(f.name, width - at, 12), "tick", size=12))
    return Drawing(width, height, tuple(shapes), "Sensors over each other, to scale", describe(ordered))


def side_by_side(formats: Sequence[Sized], width: float = 860.0, row_height: float = 250.0) -> Drawing:
    """Every frame on a common base line, to one scale, in as many rows as are needed.

    Parameters
        formats: frames with their names
        width, row_height: [px]
    Returns
        shapes, a title and a description
    """
    ordered = _by_size(formats)
    highest = max(f.frame.height_mm for f in ordered)
    total = sum(f.frame.width_mm for f in ordered)
    scale = min((row_height - 40) / highest, (width - 14.0 * (len(ordered) + 1)) / max(total, 1))
    scale = max(scale, 2.2)
    scale = min(scale, (width - 28) / max(f.frame.width_mm for f in ordered))
    rows: list[list[tuple[Sized, float]]] = [[]]
    x = 14.0
    for f in ordered:
        wide = max(f.frame.width_mm * scale, 116.0)
        if x + wide > width and rows[-1]:
            rows.append([])
            x = 14.0
        rows[-1].append((f, x))
        x += wide + 14
    is_cut = any(f.kept != f.frame for f in ordered)
    shapes: list[Shape] = []
    y = 8.0
    for row in rows:
        tall = max(f.frame.height_mm for f, _ in row) * scale
        base = y + tall
        for f, left in row:
            centre = left + f.frame.width_mm * scale / 2, base - f.frame.height_mm * scale / 2
            shapes.append(_frame(f.frame, *centre, scale, "format-frame", f.name))
            if is_cut:
                shapes.append(_frame(f.kept, *centre, scale, "format-kept", f"{f.name}, what is kept"))
            name = shortened(f.name, max(f.frame.width_mm * scale, 116.0), 11.5)
            shapes.append(Label(left, base + 14, name, "label", size=11.5))
            shapes.append(Label(left, base + 27, _size(f.frame), "tick", size=11))
        y = base + 40
    return Drawing(width, y, tuple(shapes), "Sensors side by side, to scale", describe(ordered))


def _frame(frame: Sensor, x: float, y: float, scale: float, role: str, tip: str) -> Rect:
    wide, high = frame.width_mm * scale, frame.height_mm * scale
    return Rect(x - wide / 2, y - high / 2, wide, high, role, tip)


def _size(frame: Sensor) -> str:
    return f"{wording.significant(frame.width_mm)} × {wording.significant(frame.height_mm)}{wording.NBSP}mm"


def describe(formats: Sequence[Sized]) -> str:
    """The same in words, from large to small.

    Parameters
        formats: frames with their names
    Returns
        sentences
    """
    return "From large to small: " + "; ".join(f"{f.name} {_size(f.frame)}" for f in _by_size(formats)) + "."
