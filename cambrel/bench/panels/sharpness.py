"""The Sharpness panel: what softens each picture, what limits it now, how large it may be shown, and its reach."""

from __future__ import annotations

from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.look import Look, one_of
from cambrel.bench.panels.panel import Panel, rig_table
from cambrel.drawings.sharpness import MEASURES, sharpness_drawing
from cambrel.links import Bench
from cambrel.optics.brief import GOOD_ENOUGH_SCHOOLS
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.reach import megapixels_left
from cambrel.optics.stars import corner_stretch
from cambrel.optics.verdicts.sharp import what_limits
from cambrel.wording import DASH, LETTERS


def build(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    seeing = [rig for rig in rigs if isfinite(rig.sharpness.lines_per_height)]
    tightest = min(seeing, key=lambda rig: rig.view.angle_diagonal_deg) if seeing else None

    def cells(rig: RigFigures) -> tuple[str, ...]:
        s = rig.sharpness
        return (
            _counted(s.lines_per_height),
            wording.significant(s.cycles_per_pixel, 2),
            wording.distance(s.finest_detail_mm / 1000, look.units, 2),
            _counted(s.pixels_on_subject),
            wording.significant(s.arc_seconds_per_pixel) + "″" if isfinite(s.arc_seconds_per_pixel) else DASH,
            _megapixels_left(rig, tightest),
            wording.times(_stretch(rig)) if isfinite(s.lines_per_height) else DASH,
        )

    cut = f"megapixels left at {LETTERS[tightest.index]}’s view" if tightest else "megapixels left"
    heads = (
        "line widths per picture height", "cycles per pixel", "finest detail on the subject", "pixels along the subject",
        "a pixel sees", cut, "width of a face at the edge",
    )  # fmt: skip
    school = GOOD_ENOUGH_SCHOOLS[comparison.conventions.good_enough]
    return {
        "drawing": sharpness_drawing(comparison, look["measure"], width=look.across),
        "measures": [(key, measure.label) for key, measure in MEASURES.items()],
        "limits": [(LETTERS[rig.index], wording.sentence(what_limits(rig), look.units)) for rig in seeing],
        "school": school,
        "table": rig_table("Detail at the subject, and reach", heads, comparison, cells),
    }


def _counted(value: float) -> str:
    return f"{value:,.0f}" if isfinite(value) else DASH


def _megapixels_left(rig: RigFigures, tightest: RigFigures | None) -> str:
    """Of a rig's picture, cropped to the view of the one that sees least."""
    if tightest is None or not isfinite(rig.sharpness.lines_per_height) or not isfinite(rig.frames.pixels):
        return DASH
    views = (
        value
        for one in (rig, tightest)
        for value in (one.settings.focal_length_mm, one.frames.width_mm, one.frames.height_mm)
    )
    return wording.significant(float(megapixels_left(rig.frames.pixels / 1e6, *views)))


def _stretch(rig: RigFigures) -> float:
    """How much wider something stands at the middle of the frame's side than in its middle."""
    return float(corner_stretch(rig.view.image_distance_mm, rig.frames.width_mm / 2)[0])


PANEL = Panel(
    "sharpness",
    "Sharpness",
    "bench/panels/sharpness.html",
    build,
    (one_of("measure", "sensor", "frame", "subject", "print"),),
)
