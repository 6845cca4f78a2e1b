"""The light panel: light per area and light in the whole picture, drawn as areas that compare.

Each rig is a block as wide as its sensor is large (area) and as high as its exposure (light per area): the painted area
is the light that the whole frame collects. Beside it, the whole-picture noise as an ISO on the reference body.
"""

from __future__ import annotations

from math import isfinite

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.drawings.shapes import Drawing, Label, Line, Path, Rect, Shape, rig_role
from cambrel.wording import LETTERS, big, iso, share, signed_stops

BASE = 44.0
LABEL = 78.0
"""Room for the words under a block."""


def light_drawing(comparison: Comparison, *, width: float = 660.0, height: float = 250.0) -> Drawing:
    """Blocks side by side on one base line, to one scale.

    Parameters
        comparison: worked out
        width, height: [px]
    Returns
        shapes, a title and a description
    """
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    lit = [rig for rig in rigs if isfinite(rig.light.exposure_lux_s)]
    title = "Light per area and light in the whole picture"
    if not lit:
        return Drawing(
            width,
            height,
            (Label(8, 24, "None of them can focus there.", "label"),),
            title,
            "None of them can focus there.",
        )
    gap, left = 12.0, 34.0
    areas = [rig.frames.area_mm2 for rig in rigs]
    most = max(rig.light.exposure_lux_s for rig in lit)
    room = width - left - gap * len(rigs)
    # where there is no room for words beside each letter, the table beneath has them
    columns = _columns(areas, room, LABEL if room / len(rigs) > LABEL else 16.0)
    high = height - BASE - 40
    base = height - BASE
    shapes: list[Shape] = [
        Line(left - 6, base, width - 6, base, "axis"),
        Line(left - 6, base, left - 6, base - high - 8, "axis"),
        Label(left - 6, 14, "↑ light per area (exposure)", "tick", size=11),
        Label(width - 6, 14 if width > 480 else 29, "painted area = light in the whole picture", "tick", "end", 11),
    ]
    per_mm2 = min(column / area for column, area in zip(columns, areas, strict=True))
    x = left
    for rig, column in zip(rigs, columns, strict=True):
        shapes += _block(comparison, rig, x, column, base, high, per_mm2, most)
        x += column + gap
    words = "; ".join(_says(comparison, rig) for rig in rigs)
    return Drawing(width, height, tuple(shapes), title, words + ".")


def _columns(areas: list[float], room: float, least: float) -> list[float]:
    """Column widths in which blocks of one scale fit: at least enough for the label, the rest by area."""
    widths = [least] * len(areas)
    low, high = 0.0, room / min(areas)
    for _ in range(60):
        scale = (low + high) / 2
        widths = [max(least, area * scale) for area in areas]
        low, high = (scale, high) if sum(widths) <= room else (low, scale)
    return [max(least, area * low) for area in areas]


def _block(
    comparison: Comparison,
    rig: RigFigures,
    x: float,
    column: float,
    base: float,
    high: float,
    per_mm2: float,
    most: float,
) -> list[Shape]:
    wide = rig.frames.area_mm2 * per_mm2
    shapes: list[Shape] = [Label(x, base + 16, LETTERS[rig.index], rig_role(rig.index, "letter"), size=15)]
    if not isfinite(rig.light.exposure_lux_s):
        return [*shapes, Label(x + 14, base + 16, "no figures", "label", size=11)] if column >= LABEL else shapes
    tall = high * rig.light.exposure_lux_s / most
    block = ((x, base), (x, base - tall), (x + wide, base - tall), (x + wide, base))
    shapes.append(
        Rect(x, base - tall, wide, tall, rig_role(rig.index, "light-block"), f"{big(rig.light.photons_total)} photons")
    )
    shapes.append(Path(block, rig_role(rig.index, "rig-line"), closed=True))
    if column >= LABEL:
        first = rig.index == comparison.reference
        total = "reference" if first else signed_stops(rig.light.total_stops)
        shapes.append(Label(x + 14, base + 16, total, "value", size=12))
        shapes.append(Label(x, base + 32, f"as {iso(rig.light.looks_like_iso)}", "tick", size=11))
    return shapes


def _says(comparison: Comparison, rig: RigFigures) -> str:
    letter = LETTERS[rig.index]
    if not isfinite(rig.light.exposure_lux_s):
        return f"{letter} has no figures"
    if rig.index == comparison.reference:
        return f"{letter} is the reference"
    per_area, total = signed_stops(rig.light.exposure_stops), signed_stops(rig.light.total_stops)
    area = share(rig.frames.area_mm2 / comparison.first.frames.area_mm2)
    return f"{letter} has {area} of the area, {per_area} light per area, {total} light in the whole picture"
