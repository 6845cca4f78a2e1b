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


def tiled(inner: Sized, outer: Sized, across: int, down: int, width: float = 420.0, height: float = 240.0) -> Drawing:
    """One frame as often as it lies whole on another, from the corner on.

    Parameters
        inner, outer: the two formats, as they lie
        across, down: how many
        width, height: [px]
    Returns
        shapes, a title and a description
    """
    whole, part = outer.frame, inner.frame
    if across and down and not _lies(part, whole, across, down):
        part = part.turned()
    scale = min((width - 2 * EDGE) / whole.width_mm, (height - 2 * EDGE) / whole.height_mm)
    shapes: list[Shape] = [
        Rect(EDGE, EDGE, whole.width_mm * scale, whole.height_mm * scale, "format-frame", outer.name)
    ]
    wide, high = part.width_mm * scale, part.height_mm * scale
    for row in range(down):
        for column in range(across):
            shapes.append(Rect(EDGE + column * wide, EDGE + row * high, wide, high, "format-kept", inner.name))
    said = (
        f"{inner.name}, {across} by {down}, on {outer.name}."
        if across
        else f"{inner.name} does not lie on {outer.name}."
    )
    return Drawing(width, whole.height_mm * scale + 2 * EDGE, tuple(shapes), "One format on another", said)


def _lies(part: Sensor, whole: Sensor, across: int, down: int) -> bool:
    slack = 1 + 1e-9
    return part.width_mm * across <= whole.width_mm * slack and part.height_mm * down <= whole.height_mm * slack


STRIP_MM, HOLE_PITCH_MM, HOLE_MM, HOLE_IN_MM = 35.0, 4.75, (2.8, 1.98), 2.0
"""Of 35 mm film (ISO 1007, ISO 491): its width, from hole to hole, a hole across and along, and how far it lies in."""
STRIP_FRAMES = (
    (36.0, 8, "a still camera: 36 × 24 mm, every 8 holes"),
    (18.0, 4, "half frame and cinema: 18 × 24 mm, every 4 holes"),
)
"""How long a frame is along the strip [mm], how many holes it takes, and what it is."""


def film_strip(width: float = 620.0) -> Drawing:
    """A strip of 35 mm film twice, with the two frames that its holes allow.

    Parameters
        width: [px]
    Returns
        shapes, a title and a description
    """
    holes = 16
    scale = (width - 2 * EDGE) / (holes * HOLE_PITCH_MM)
    shapes: list[Shape] = []
    y = EDGE
    across, along = HOLE_MM
    for long, count, says in STRIP_FRAMES:
        shapes.append(Rect(EDGE, y, holes * HOLE_PITCH_MM * scale, STRIP_MM * scale, "strip-film"))
        for hole in range(holes):
            x = EDGE + (hole + 0.5) * HOLE_PITCH_MM * scale - along * scale / 2
            for top in (HOLE_IN_MM, STRIP_MM - HOLE_IN_MM - across):
                shapes.append(Rect(x, y + top * scale, along * scale, across * scale, "strip-hole"))
        pitch = count * HOLE_PITCH_MM
        for number in range(int(holes / count)):
            x = EDGE + (number * pitch + (pitch - long) / 2) * scale
            shapes.append(Rect(x, y + (STRIP_MM - 24.0) / 2 * scale, long * scale, 24.0 * scale, "strip-picture"))
        y += STRIP_MM * scale + 18
        shapes.append(Label(EDGE, y - 5, says, "tick", size=12))
        y += 10
    said = "On a strip 35 mm wide each frame is 24 mm high between the holes: " + "; ".join(
        says for _, _, says in STRIP_FRAMES
    )
    return Drawing(width, y, tuple(shapes), "Two frames on one strip", said + ".")
