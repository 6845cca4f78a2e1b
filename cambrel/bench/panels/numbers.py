"""The Numbers panel: every figure of every rig, with its exact value, ordered on demand and written out as CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable
from dataclasses import dataclass
from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.look import Look, line
from cambrel.bench.panels.panel import Panel
from cambrel.links import Bench
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.wording import LETTERS, Units


@dataclass(frozen=True)
class Line:
    """A figure: its key, its group and label, the unit of its exact value, where it is read, and how it is shown."""

    key: str
    group: str
    label: str
    unit: str
    read: Callable[[RigFigures], float]
    show: Callable[[float, Units], str]


def _plain(show: Callable[[float], str]) -> Callable[[float, Units], str]:
    return lambda value, units: show(value)


_M = wording.distance
_MM, _F, _STOPS = _plain(wording.focal), _plain(wording.f_number), _plain(wording.signed_stops)
_SHARE, _UM, _DEG, _ISO = (
    _plain(wording.share),
    _plain(wording.micrometres),
    _plain(wording.degrees),
    _plain(wording.iso),
)
_TIMES, _NUMBER, _G, _S = (
    _plain(wording.times),
    _plain(wording.significant),
    _plain(wording.mass),
    _plain(wording.shutter),
)
_BIG = _plain(wording.big)

ROWS: tuple[Line, ...] = (
    Line("width", "Frame", "frame width", "mm", lambda r: r.frames.width_mm, _MM),
    Line("height", "Frame", "frame height", "mm", lambda r: r.frames.height_mm, _MM),
    Line("diagonal", "Frame", "frame diagonal", "mm", lambda r: r.frames.diagonal_mm, _MM),
    Line("area", "Frame", "frame area", "mm²", lambda r: r.frames.area_mm2, lambda v, u: wording.significant(v) + wording.NBSP + "mm²"),
    Line("crop", "Frame", "crop factor", "", lambda r: r.frames.crop, _NUMBER),
    Line("pitch", "Frame", "pixel pitch", "µm", lambda r: r.frames.pitch_um, _UM),
    Line("pixels", "Frame", "pixels in use", "", lambda r: r.frames.pixels, lambda v, u: wording.DASH if v != v else wording.big(v)),
    Line("focal", "Settings", "focal length", "mm", lambda r: r.settings.focal_length_mm, _MM),
    Line("f_number", "Settings", "f-number", "", lambda r: r.settings.f_number, _F),
    Line("effective", "Settings", "effective f-number N(1 + m)", "", lambda r: r.light.effective_f_number, _F),
    Line("shutter", "Settings", "shutter time", "s", lambda r: r.settings.shutter_s, _S),
    Line("iso", "Settings", "ISO", "", lambda r: r.settings.iso, _ISO),
    Line("distance", "Settings", "subject distance", "m", lambda r: r.settings.subject_distance_m, _M),
    Line("focus", "Settings", "focus distance", "m", lambda r: r.settings.object_distance_m, _M),
    Line("eq_focal", "Equivalents", "focal length on the reference's format", "mm", lambda r: r.view.equivalent_focal_length_mm, _MM),
    Line("eq_f", "Equivalents", "f-number on the reference's format (depth, total light)", "", lambda r: r.blur.equivalent_f_number, _F),
    Line("ff_focal", "Equivalents", "focal length on full frame", "mm", lambda r: r.view.full_frame_focal_length_mm, _MM),
    Line("ff_f", "Equivalents", "f-number on full frame (depth, total light)", "", lambda r: r.blur.full_frame_f_number, _F),
    Line("home_focal", "Equivalents", "focal length on the format you think in", "mm", lambda r: r.view.home_focal_length_mm, _MM),
    Line("home_f", "Equivalents", "f-number on the format you think in (depth, total light)", "", lambda r: r.blur.home_f_number, _F),
    Line("same", "Equivalents", "focal length for this picture on the reference's format", "mm", lambda r: r.view.same_picture_focal_length_mm, _MM),
    Line("same_f", "Equivalents", "f-number for this picture on the reference's format", "", lambda r: r.blur.same_picture_f_number, _F),
    Line("rule_error", "Equivalents", "crop factor alone is off by", "", lambda r: r.view.simple_rule_error, _SHARE),
    Line("angle_wide", "View", "angle of view, wide", "°", lambda r: r.view.angle_wide_deg, _DEG),
    Line("angle_high", "View", "angle of view, high", "°", lambda r: r.view.angle_high_deg, _DEG),
    Line("angle_diagonal", "View", "angle of view, diagonal", "°", lambda r: r.view.angle_diagonal_deg, _DEG),
    Line("field_wide", "View", "field at the subject, wide", "m", lambda r: r.view.field_wide_m, _M),
    Line("field_high", "View", "field at the subject, high", "m", lambda r: r.view.field_high_m, _M),
    Line("back_wide", "View", "field at the background, wide", "m", lambda r: r.view.background_wide_m, _M),
    Line("back_high", "View", "field at the background, high", "m", lambda r: r.view.background_high_m, _M),
    Line("fill", "View", "subject's share of the frame's height", "", lambda r: r.view.fill, _SHARE),
    Line("magnification", "View", "magnification", "", lambda r: r.view.magnification, _NUMBER),
    Line("scale", "View", "background's size against the subject", "", lambda r: r.view.background_scale, _TIMES),
    Line("coc", "Depth", "circle of confusion", "µm", lambda r: 1000 * r.frames.coc_mm, _UM),
    Line("near", "Depth", "near limit", "m", lambda r: r.depth.near_m, _M),
    Line("far", "Depth", "far limit", "m", lambda r: r.depth.far_m, _M),
    Line("total", "Depth", "depth of field", "m", lambda r: r.depth.total_m, _M),
    Line("front", "Depth", "depth in front of the focus", "m", lambda r: r.depth.front_m, _M),
    Line("behind", "Depth", "depth behind the focus", "m", lambda r: r.depth.behind_m, _M),
    Line("hyperfocal", "Depth", "hyperfocal distance", "m", lambda r: r.depth.hyperfocal_m, _M),
    Line("pupil", "Blur", "entrance pupil", "mm", lambda r: r.blur.pupil_mm, _MM),
    Line("background", "Blur", "background blur on the sensor", "mm", lambda r: r.blur.background_mm, _MM),
    Line("background_share", "Blur", "background blur, share of the diagonal", "", lambda r: r.blur.background_share, _SHARE),
    Line("dissolves", "Blur", "detail of the background dissolves below", "m", lambda r: r.blur.background_dissolves_mm / 1000, _M),
    Line("front_dissolves", "Blur", "detail of the foreground dissolves below", "m", lambda r: r.blur.foreground_dissolves_mm / 1000, _M),
    Line("foreground_share", "Blur", "foreground blur, share of the diagonal", "", lambda r: r.blur.foreground_share, _SHARE),
    Line("infinity_share", "Blur", "blur at infinity, share of the diagonal", "", lambda r: r.blur.infinity_share, _SHARE),
    Line("subject_share", "Blur", "blur of the subject, share of the diagonal", "", lambda r: r.blur.subject_share, _SHARE),
    Line("movement_share", "Blur", "movement of the subject, share of the diagonal", "", lambda r: r.blur.movement_share, _SHARE),
    Line("ev", "Light", "exposure value of the settings, ISO 100", "EV", lambda r: r.light.exposure_value, _NUMBER),
    Line("error", "Light", "brightness against the light", "stops", lambda r: r.light.error_stops, _STOPS),
    Line("brightness", "Light", "brightness against the reference", "stops", lambda r: r.light.brightness_stops, _STOPS),
    Line("exposure", "Light", "exposure (light per area)", "lux s", lambda r: r.light.exposure_lux_s, _NUMBER),
    Line("exposure_stops", "Light", "light per area against the reference", "stops", lambda r: r.light.exposure_stops, _STOPS),
    Line("total_stops", "Light", "light in the whole picture against the reference", "stops", lambda r: r.light.total_stops, _STOPS),
    Line("photons", "Light", "photons per square micrometre, 555 nm", "", lambda r: r.light.photons_per_um2, _NUMBER),
    Line("photons_total", "Light", "photons in all", "", lambda r: r.light.photons_total, lambda v, u: wording.DASH if v != v else wording.big(v)),
    Line("snr_pixel", "Light", "signal to noise per pixel", "", lambda r: r.light.snr_pixel, _NUMBER),
    Line("snr_picture", "Light", "signal to noise of the picture", "", lambda r: r.light.snr_picture, _NUMBER),
    Line("looks_like", "Light", "as noisy as the reference at", "ISO", lambda r: r.light.looks_like_iso, _ISO),
    Line("ceiling", "Light", "your ISO ceiling, carried over", "ISO", lambda r: r.light.ceiling_iso, _ISO),
    Line("airy", "Diffraction", "Airy disc", "µm", lambda r: r.diffraction.airy_um, _UM),
    Line("airy_coc", "Diffraction", "Airy disc over circle of confusion", "", lambda r: r.diffraction.over_coc, _NUMBER),
    Line("airy_pixels", "Diffraction", "Airy disc over two pixels", "", lambda r: r.diffraction.over_two_pixels, _NUMBER),
    Line("limited", "Diffraction", "seen in the print from", "", lambda r: r.diffraction.limited_f_number, _F),
    Line("pixel_limited", "Diffraction", "seen at 100 percent from", "", lambda r: r.diffraction.pixel_limited_f_number, _F),
    Line("mtf50", "Sharpness", "half contrast at, on the sensor, at best", "cycles/mm", lambda r: r.sharpness.mtf50_per_mm, _NUMBER),
    Line("lines", "Sharpness", "line widths per picture height, at best", "", lambda r: r.sharpness.lines_per_height, _NUMBER),
    Line("detail", "Sharpness", "finest detail on the subject, at best", "m", lambda r: r.sharpness.finest_detail_mm / 1000, _M),
    Line("largest", "Sharpness", "good enough up to a long side of", "mm", lambda r: r.sharpness.largest_print_mm, _MM),
    Line("on_subject", "Sharpness", "pixels along the subject", "", lambda r: r.sharpness.pixels_on_subject, _NUMBER),
    Line("arc", "Sharpness", "a pixel sees, arc seconds", "″", lambda r: r.sharpness.arc_seconds_per_pixel, _NUMBER),
    Line("circle", "Outfit", "image circle over diagonal", "", lambda r: r.outfit.image_circle_share, _SHARE),
    Line("eq_wide", "Outfit", "widest f-number on the reference's format", "", lambda r: r.settings.widest_f_number / r.frames.k, _F),
    Line("weight", "Outfit", "weight of body and lens", "g", lambda r: r.outfit.weight_g, _G),
    Line("price", "Outfit", "price of body and lens", "", lambda r: r.outfit.price, lambda v, u: wording.money(v, "")),
)  # fmt: skip
_BY_KEY = {row.key: row for row in ROWS}


@dataclass(frozen=True)
class Cell:
    text: str
    exact: str


@dataclass(frozen=True)
class ShownLine:
    """A row as shown: its cells in the order of the rigs, and the group's name where a group begins."""

    key: str
    label: str
    group: str
    cells: tuple[Cell, ...]
    sort: str = ""


@dataclass(frozen=True)
class NumbersTable:
    heads: tuple[tuple[int, str, str], ...]
    lines: tuple[ShownLine, ...]


def ordered(comparison: Comparison, sort: str) -> list[RigFigures]:
    """The rigs as they stand, or by one figure: its key, with a minus in front for the largest first; unknown ones last."""
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    row = _BY_KEY.get(sort.removeprefix("-"))
    if row is None:
        return rigs
    sign = -1 if sort.startswith("-") else 1

    def by_figure(rig: RigFigures) -> tuple[bool, float]:
        value = row.read(rig)
        return (value != value, 0.0 if value != value else sign * value)

    return sorted(rigs, key=by_figure)


def numbers_table(bench: Bench, comparison: Comparison, sort: str, units: Units) -> NumbersTable:
    """All figures, rigs across."""
    rigs = ordered(comparison, sort)
    heads = tuple((rig.index, LETTERS[rig.index], bench.slots[rig.index].body_called) for rig in rigs)
    lines, group = [], ""
    for row in ROWS:
        cells = tuple(_cell(bench, row, rig, units) for rig in rigs)
        direction = "ascending" if sort == row.key else "descending" if sort == "-" + row.key else ""
        lines.append(ShownLine(row.key, row.label, row.group if row.group != group else "", cells, direction))
        group = row.group
    return NumbersTable(heads, tuple(lines))


def _cell(bench: Bench, row: Line, rig: RigFigures, units: Units) -> Cell:
    value = row.read(rig)
    if row.key == "price" and isfinite(value):
        return Cell(wording.money(value, rig.rig.body.currency), wording.exact(value))
    return Cell(row.show(value, units), f"{wording.exact(value)} {row.unit}".strip())


def numbers_csv(bench: Bench, comparison: Comparison) -> str:
    """All figures at full precision, one row for each figure and one column for each rig."""
    out = io.StringIO()
    writer = csv.writer(out)
    heads = [f"{LETTERS[i]} {slot.body_called}, {slot.lens_name}".strip(" ,") for i, slot in enumerate(bench.slots)]
    # each begins with its letter, so that no spreadsheet takes a name for a formula
    writer.writerow(["group", "figure", "unit", *heads])
    for row in ROWS:
        values = (row.read(comparison.of(index)) for index in range(len(bench.slots)))
        writer.writerow(
            [row.group, row.label, row.unit, *("" if value != value else repr(float(value)) for value in values)]
        )
    return out.getvalue()


def build(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    return {"numbers": numbers_table(bench, comparison, look["sort"], look.units)}


PANEL = Panel("numbers", "Numbers", "bench/panels/numbers.html", build, (line("sort"),))
