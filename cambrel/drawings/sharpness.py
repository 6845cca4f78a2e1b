"""The blur budget as bars, a column for each rig to one scale, and beneath them how large each picture may be shown."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import isfinite

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Drawing, Label, Line, Rect, Shape, rig_role, without_figures
from cambrel.wording import DASH, LETTERS, significant

ROW = 19.0
NAMED = 84.0
"""Room for the names of the parts, once at the left."""
LEAST_COLUMN = 150.0
PARTS = (
    ("pixels", "pixels"),
    ("diffraction", "diffraction"),
    ("defocus", "defocus"),
    ("lens", "lens"),
    ("shake", "shake"),
    ("movement", "movement"),
    ("drift", "drift of stars"),
)
PAPERS = (("postcard", 148.0), ("A4", 297.0), ("A3", 420.0), ("A2", 594.0), ("A1", 841.0), ("A0", 1189.0))
"""Long sides of papers [mm]."""


@dataclass(frozen=True)
class Measure:
    """The unit in which a spread on the sensor is shown."""

    label: str
    of: Callable[[Comparison, RigFigures, float, float], float]
    unit: str


MEASURES: dict[str, Measure] = {
    "sensor": Measure("on the sensor, µm", lambda c, rig, mm, away: 1000 * mm, "µm"),
    "frame": Measure(
        "share of the frame’s diagonal, ‰", lambda c, rig, mm, away: 1000 * mm / rig.frames.diagonal_mm, "‰"
    ),
    "subject": Measure(
        "on the subject, mm",
        lambda c, rig, mm, away: mm * 1000 * away / rig.view.image_distance_mm,
        "mm",
    ),
    "print": Measure(
        "on the picture as shown, mm",
        lambda c, rig, mm, away: mm * c.brief.shown_long_side_mm / max(rig.frames.width_mm, rig.frames.height_mm),
        "mm",
    ),
}


def sharpness_drawing(
    comparison: Comparison, rigs: list[RigFigures], measure: str, away_m: float | None = None, *, width: float = 660.0
) -> Drawing:
    """Bars of every part and of all together, and the largest print of each rig on an axis of papers.

    Parameters
        comparison: worked out
        rigs: their sharpness as it is to be shown
        measure: a key of MEASURES
        away_m: where it is judged, if not at the subject [m]
        width: [px]
    Returns
        shapes, a title and a description
    """
    how = MEASURES[measure]
    across = max(1, min(len(rigs), int((width - NAMED) / LEAST_COLUMN)))
    column = (width - NAMED) / across
    lengths = {rig.index: _lengths(comparison, rig, how, away_m) for rig in rigs}
    most = max((value for row in lengths.values() for value in row.values() if isfinite(value)), default=0.0)
    shapes: list[Shape] = []
    if not most > 0:
        return without_figures(width, "What softens the picture")
    block = ROW * (len(PARTS) + 2) + 6
    for place, rig in enumerate(rigs):
        left, top = NAMED + place % across * column, place // across * block + 4
        if place % across == 0:
            names = [label for _, label in PARTS]
            shapes += [
                Label(NAMED - 8, top + (i + 2) * ROW - 5, name, "tick", "end", 11) for i, name in enumerate(names)
            ]
            shapes.append(Label(NAMED - 8, top + (len(PARTS) + 2) * ROW - 5, "all together", "label", "end", 11))
        shapes += _bars(rig, lengths[rig.index], left, top, column, most)
    top = -(-len(rigs) // across) * block + 22
    prints, high = _prints(comparison, rigs, top, width)
    shapes += prints
    return Drawing(
        width,
        top + high,
        tuple(shapes),
        f"What softens the picture, {how.label}",
        _says(comparison, rigs, lengths, how),
    )


def _lengths(comparison: Comparison, rig: RigFigures, how: Measure, away_m: float | None) -> dict[str, float]:
    """Lengths of the parts and of all together, in the unit that is shown."""
    s = rig.sharpness
    lengths = {key: getattr(s, f"{key}_mm") for key, _ in PARTS} | {"all": 1 / (2 * s.mtf50_per_mm)}
    away = rig.settings.subject_distance_m if away_m is None else away_m
    return {key: how.of(comparison, rig, value, away) for key, value in lengths.items()}


def _bars(
    rig: RigFigures, lengths: dict[str, float], left: float, top: float, column: float, most: float
) -> list[Shape]:
    shapes: list[Shape] = [Label(left, top + ROW - 5, LETTERS[rig.index], rig_role(rig.index, "letter"), size=14)]
    scale = PixelScale(0.0, most, left, left + column - 62)
    for index, key in enumerate((*(key for key, _ in PARTS), "all")):
        value, y = lengths[key], top + (index + 1) * ROW
        if not isfinite(value):
            shapes.append(Label(left, y + ROW - 5, "not known" if key in ("pixels", "lens") else DASH, "tick", size=11))
            continue
        x = scale(value)
        role = "rig-bar" if key == "all" else "depth-bar"
        shapes.append(Rect(left, y + 3, x - left, ROW - 7, rig_role(rig.index, role)))
        shapes.append(
            Label(
                x + 4,
                y + ROW - 5,
                significant(value) if value else "none",
                "value" if key == "all" else "tick",
                size=11,
            )
        )
    shapes.append(Line(left, top + ROW, left, top + (len(PARTS) + 2) * ROW, "axis"))
    return shapes


def _prints(comparison: Comparison, rigs: list[RigFigures], top: float, width: float) -> tuple[list[Shape], float]:
    """From a postcard to the largest paper: as far as each rig is good enough, with the size of the brief marked."""
    shown = comparison.brief.shown_long_side_mm
    ends = [*(mm for _, mm in PAPERS), shown]
    along = PixelScale(min(ends) * 0.8, max(ends) * 1.25, NAMED, width - 70, logarithmic=True)
    bottom = top + 20 + len(rigs) * ROW
    shapes: list[Shape] = [Label(4, top, "good enough up to a long side of", "label", size=11)]
    for name, mm in PAPERS:
        shapes.append(Line(along(mm), top + 10, along(mm), bottom, "grid"))
        shapes.append(Label(along(mm), bottom + 13, name, "tick", "middle", 11))
    shapes.append(Line(along(shown), top + 6, along(shown), bottom, "present"))
    shapes.append(Label(along(shown), bottom + 27, f"this picture, {significant(shown)} mm", "label", "middle", 11))
    for row, rig in enumerate(rigs):
        y, largest = top + 16 + row * ROW, rig.sharpness.largest_print_mm
        shapes.append(Label(NAMED - 14, y + 12, LETTERS[rig.index], rig_role(rig.index, "letter"), "end", 13))
        if not isfinite(largest):
            shapes.append(Label(NAMED, y + 12, "not known", "tick", size=11))
            continue
        end = along(largest)
        shapes.append(Rect(NAMED, y + 2, end - NAMED, ROW - 7, rig_role(rig.index, "depth-bar")))
        shapes.append(Label(end + 4, y + 12, f"{significant(largest)} mm", "value", size=11))
    return shapes, 20 + len(rigs) * ROW + 34


def _says(comparison: Comparison, rigs: list[RigFigures], lengths: dict[int, dict[str, float]], how: Measure) -> str:
    said = []
    for rig in rigs:
        if not isfinite(lengths[rig.index]["all"]):
            said.append(f"{LETTERS[rig.index]} has no figures")
            continue
        row = lengths[rig.index]
        parts = ", ".join(
            f"{label} {significant(row[key])}" for key, label in PARTS if isfinite(row[key]) and row[key] > 0
        )
        said.append(f"{LETTERS[rig.index]}: {parts}; all together {significant(row['all'])} {how.unit}")
    return ". ".join(said) + "."
