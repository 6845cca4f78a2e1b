"""The Sharpness panel: what softens each picture, what limits it now, how large it may be shown, and its reach."""

from __future__ import annotations

from math import inf, isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.look import away, one_of
from cambrel.bench.panels.panel import Panel, PanelTable, PanelView, TableRow, rig_table
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.tighter_views import fields_of, tightest, ways
from cambrel.drawings.sharpness import MEASURES, sharpness_drawing
from cambrel.optics.good_enough import GOOD_ENOUGH_SCHOOLS
from cambrel.optics.reach import megapixels_left
from cambrel.optics.stars import corner_stretch
from cambrel.verdicts.sharp import what_limits
from cambrel.wording import DASH, LETTERS


def build(seen: PanelView) -> dict[str, Any]:
    comparison, look = seen.comparison, seen.look
    at = look["judged"]
    rigs = [comparison.of(i) for i in range(len(comparison.rigs))] if at is None else comparison.judged_at(at)
    measure = "frame" if at == inf and look["measure"] == "subject" else look["measure"]
    seeing = [rig for rig in rigs if isfinite(rig.sharpness.lines_per_height)]
    goal = tightest(comparison)

    def cells(rig: RigFigures) -> tuple[str, ...]:
        s = rig.sharpness
        return (
            _counted(s.lines_per_height),
            wording.significant(s.cycles_per_pixel, 2),
            wording.distance(s.finest_detail_mm / 1000, look.units, 2),
            _counted(s.pixels_on_subject),
            wording.significant(s.arc_seconds_per_pixel) + "″" if isfinite(s.arc_seconds_per_pixel) else DASH,
            _megapixels_left(rig, goal),
            wording.times(_stretch(rig)) if isfinite(s.lines_per_height) else DASH,
            _counted(float(comparison.corner.lines_per_height[rig.index])),
            _fall_off(rig),
        )

    cut = (f"megapixels left at {LETTERS[goal.index]}’s view" if goal else "megapixels left", "megapixels_left")
    heads = (
        ("line widths per picture height", "lines"), ("cycles per pixel", "cycles_pixel"),
        ("finest detail on the subject", "detail"), ("pixels along the subject", "on_subject"),
        ("a pixel sees", "arc"), cut, ("width of a face at the edge", "stretch"),
        ("line widths in the corner", "corner"), ("light lost there, wide open", "fall_off"),
    )  # fmt: skip
    school = GOOD_ENOUGH_SCHOOLS[comparison.conventions.good_enough]
    return {
        "drawing": sharpness_drawing(comparison, rigs, measure, at, width=look.across),
        "measures": [(key, measure.label) for key, measure in MEASURES.items()],
        "limits": [(LETTERS[rig.index], wording.sentence(what_limits(rig, at), look.units)) for rig in seeing],
        "school": school,
        "unsaid": not comparison.brief.support,
        "ways": _ways(comparison, look.units),
        "table": rig_table("Detail at the subject, and reach", heads, comparison, cells),
    }


WAYS = {"crop": "crop", "converter": "a converter", "lens": "a longer lens", "walk": "walking nearer"}


def _ways(comparison: Comparison, units: wording.Units) -> PanelTable | None:
    """How each rig would see as little as the tightest, and what that leaves."""
    goal = tightest(comparison)
    rows = []
    for rig in (comparison.of(index) for index in range(len(comparison.rigs))):
        for way in ways(comparison, rig):
            takes = {
                "crop": f"{wording.share(way.takes)} of each side",
                "converter": f"{wording.significant(way.takes)} ×",
                "lens": wording.focal(way.takes),
                "walk": wording.distance(way.takes, units),
            }[way.key]
            barred = ", where nobody can stand" if way.is_barred else ""
            rows.append(
                TableRow(
                    rig.index,
                    LETTERS[rig.index],
                    (
                        f"{WAYS[way.key]}, {takes}{barred}",
                        wording.distance(way.finest_detail_mm / 1000, units, 2),
                        wording.significant(way.megapixels / 1e6),
                        wording.signed_stops(way.light_stops),
                    ),
                )
            )
    if goal is None or not rows:
        return None
    heads = (
        ("way", ""),
        ("finest detail on the subject", "detail"),
        ("megapixels of it", ""),
        ("light in the whole picture", ""),
    )
    return PanelTable(f"Ways to what {LETTERS[goal.index]} sees", heads, tuple(rows))


def _fall_off(rig: RigFigures) -> str:
    height = rig.frames.diagonal_mm / 2 / rig.carrier.converter
    lost = rig.carrier.lens.fall_off_stops(height)
    return DASH if lost is None else wording.stops(lost)


def _counted(value: float) -> str:
    return f"{value:,.0f}" if isfinite(value) else DASH


def _megapixels_left(rig: RigFigures, goal: RigFigures | None) -> str:
    """Of a rig's picture, cropped to the view of the one that sees least."""
    if goal is None or not isfinite(rig.sharpness.lines_per_height) or not isfinite(rig.frames.pixels):
        return DASH
    return wording.significant(float(megapixels_left(rig.frames.pixels / 1e6, *fields_of(rig), *fields_of(goal))))


def _stretch(rig: RigFigures) -> float:
    """How much wider something stands at the middle of the frame's side than in its middle."""
    return float(corner_stretch(rig.view.image_distance_mm, rig.frames.width_mm / 2)[0])


PANEL = Panel(
    "sharpness",
    "Sharpness",
    "bench/panels/sharpness.html",
    build,
    (one_of("measure", "sensor", "frame", "subject", "print"), away("judged")),
)
