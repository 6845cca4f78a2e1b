"""The panels of the bench: each builds what its template writes out, from the comparison and the look."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.numbers import numbers_table
from cambrel.bench.reading import Look
from cambrel.bench.scene_panel import address, scene_panel
from cambrel.bench.shots import HEIGHTS, backdrop
from cambrel.drawings.depth import Landmarks, depth_drawing
from cambrel.drawings.frames import frames_drawing, gained_and_lost, sensors_drawing
from cambrel.drawings.light import light_drawing
from cambrel.drawings.walk import walk_drawing
from cambrel.links import Bench
from cambrel.optics.comparison import Comparison, RigFigures, compare
from cambrel.optics.reference import make_reference
from cambrel.optics.stops import F_NUMBERS, between
from cambrel.wording import DASH, LETTERS

WIDE, NARROW = 640.0, 350.0
WIDEST_WALKED = 1.0
"""Where the walk of a lens begins whose widest f-number is not known."""


@dataclass(frozen=True)
class TableRow:
    """A rig's row in the table beside a drawing."""

    index: int
    letter: str
    cells: tuple[str, ...]


@dataclass(frozen=True)
class PanelTable:
    caption: str
    heads: tuple[str, ...]
    rows: tuple[TableRow, ...]


def _table(
    caption: str, heads: tuple[str, ...], comparison: Comparison, cells: Callable[[RigFigures], tuple[str, ...]]
) -> PanelTable:
    rows = (TableRow(i, LETTERS[i], cells(comparison.of(i))) for i in range(len(comparison.rigs)))
    return PanelTable(caption, heads, tuple(rows))


def panel(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    """The variables of the panel that is looked at."""
    return _PANELS[look.panel](bench, comparison, look)


def _width(look: Look) -> float:
    return NARROW if look.narrow else WIDE


def _frames(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    units = look.units

    def behind_it(subject_m: float, wide_m: float, high_m: float) -> str:
        shot = backdrop(bench, comparison.brief, subject_m, wide_m, high_m)
        return address(shot.token(), HEIGHTS[5] if look.narrow else HEIGHTS[6])

    def cells(rig: RigFigures) -> tuple[str, ...]:
        v = rig.view
        seen = f"{wording.distance(v.field_wide_m, units)} × {wording.distance(v.field_high_m, units)}"
        behind = f"{wording.distance(v.background_wide_m, units)} × {wording.distance(v.background_high_m, units)}"
        wide, high = gained_and_lost(comparison.first, rig)
        across, down = (_gain(wide, v.field_wide_m, units), _gain(high, v.field_high_m, units))
        if rig.index == comparison.reference:
            across = down = "reference"
        angle = f"{wording.degrees(v.angle_wide_deg)} × {wording.degrees(v.angle_high_deg)}"
        return seen, across, down, behind, angle

    first = LETTERS[comparison.reference]
    heads = (
        "at the subject",
        f"width against {first}",
        f"height against {first}",
        "at the background",
        "angle of view",
    )
    return {
        "drawing": frames_drawing(
            comparison, behind_it, width=_width(look), height=400 if len(bench.slots) < 3 else 300, units=units
        ),
        "sensors": sensors_drawing(comparison),
        "table": _table("What each frame takes in", heads, comparison, cells),
    }


def _gain(difference: float, whole: float, units: wording.Units) -> str:
    """What is gained or cut off along one side."""
    if difference != difference:
        return DASH
    if abs(difference) < 0.005 * whole:
        return "level"
    return ("gains " if difference > 0 else "cuts ") + wording.distance(abs(difference), units, 2)


def _depth(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    units = look.units
    names = Landmarks(bench.background_name or "background", bench.foreground_name or "foreground")

    def cells(rig: RigFigures) -> tuple[str, ...]:
        d, b = rig.depth, rig.blur
        return (
            wording.distance(d.near_m, units),
            wording.distance(d.far_m, units),
            wording.distance(d.total_m, units),
            wording.distance(d.hyperfocal_m, units),
            wording.share(b.foreground_share),
            wording.share(b.background_share),
            wording.share(b.infinity_share),
        )

    heads = (
        "near",
        "far",
        "depth",
        "hyperfocal",
        f"blur of {names.foreground}",
        f"blur of {names.background}",
        "blur at infinity",
    )
    drawing = depth_drawing(
        comparison, width=_width(look), logarithmic=look.scale == "log", units=units, landmarks=names
    )
    return {
        "drawing": drawing,
        "table": _table(
            "Depth of field from the lens, and blur as share of the frame's diagonal", heads, comparison, cells
        ),
    }


def _light(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    def cells(rig: RigFigures) -> tuple[str, ...]:
        light = rig.light
        first = rig.index == comparison.reference
        return (
            wording.significant(light.exposure_lux_s) + wording.NBSP + "lux s"
            if light.exposure_lux_s == light.exposure_lux_s
            else DASH,
            "reference" if first else wording.signed_stops(light.exposure_stops),
            "reference" if first else wording.signed_stops(light.total_stops),
            wording.DASH if light.photons_total != light.photons_total else wording.big(light.photons_total),
            wording.significant(light.snr_pixel),
            wording.significant(light.snr_picture),
            wording.iso(light.looks_like_iso) if light.looks_like_iso == light.looks_like_iso else DASH,
            wording.iso(light.ceiling_iso) if light.ceiling_iso == light.ceiling_iso else DASH,
        )

    ceiling = wording.iso_text(bench.conventions.iso_ceiling)
    heads = (
        "exposure", "light per area", "light, whole picture", "photons in all", "S/N per pixel", "signal to noise, picture",
        f"as noisy as {LETTERS[comparison.reference]} at", f"your ceiling of {ceiling}",
    )  # fmt: skip
    drawing = light_drawing(comparison, width=_width(look), height=230)
    return {"drawing": drawing, "table": _table("Light and noise", heads, comparison, cells)}


@dataclass(frozen=True)
class WalkStop:
    """A stop of the walk, with each rig's depth and blur for the table."""

    label: str
    action: str
    present: bool
    cells: tuple[str, ...]


def _walk(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    walked = bench.reference if look.walk < 0 else look.walk
    settings = comparison.of(walked).settings
    if not settings.focusable:
        return {
            "walked": walked,
            "letters": _letters(bench),
            "problem": f"{LETTERS[walked]} cannot focus there, so there is nothing to walk through.",
        }
    brief, rigs, hold = make_reference(comparison, walked)
    carrier = comparison.carrier(walked)
    smallest, converter = carrier.lens.smallest_f_number or 22.0, carrier.converter
    widest = settings.widest_f_number if isfinite(settings.widest_f_number) else min(WIDEST_WALKED, settings.f_number)
    low, high = widest / converter, max(smallest, widest / converter)
    marks = [stop for stop in between(F_NUMBERS, low, high) if stop.typed >= low * 0.999] or [
        between(F_NUMBERS, low / 1.1, high * 1.1)[0]
    ]
    f_numbers = [stop.typed for stop in marks]
    values = [number * converter for number in f_numbers]
    walk = compare(brief, rigs, hold, comparison.conventions, walked, walked_f_numbers=values)
    present = settings.f_number
    nearest = min(range(len(values)), key=lambda index: abs(values[index] / present - 1))
    stops = []
    for index, stop in enumerate(marks):
        cells = []
        for rig in range(len(rigs)):
            cells.append(wording.distance(float(walk.depth.total_m[index, rig]), look.units))
            cells.append(wording.share(float(walk.blur.background_share[index, rig])))
        stops.append(WalkStop(f"f/{stop.marked}", f"stop:{walked}:{stop.typed}", index == nearest, tuple(cells)))
    return {
        "drawing": walk_drawing(walk, values, present, width=_width(look), height=292, units=look.units)
        if len(values) > 1
        else None,
        "problem": ""
        if len(values) > 1
        else f"{LETTERS[walked]} has one aperture only, f/{marks[0].marked}: there is nothing to walk through.",
        "stops": stops,
        "walked": walked,
        "letters": _letters(bench),
    }


def _letters(bench: Bench) -> list[tuple[int, str]]:
    return [(index, LETTERS[index]) for index in range(len(bench.slots))]


def _numbers(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    return {"numbers": numbers_table(bench, comparison, look.sort, look.units)}


_PANELS: dict[str, Callable[[Bench, Comparison, Look], dict[str, Any]]] = {
    "frames": _frames,
    "depth": _depth,
    "scene": scene_panel,
    "light": _light,
    "walk": _walk,
    "numbers": _numbers,
}
