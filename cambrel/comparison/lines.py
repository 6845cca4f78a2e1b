"""Every figure of a rig as one line: its key, its group and name, its unit and kind, and where it is read."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from cambrel.comparison.figures import RigFigures


@dataclass(frozen=True)
class FigureLine:
    """A figure. unit: of its exact value; kind: how it is shown, one of sentences.KINDS"""

    key: str
    group: str
    label: str
    unit: str
    kind: str
    read: Callable[[RigFigures], float]


_LINES = (
    FigureLine("width", "Frame", "frame width", "mm", "mm", lambda r: r.frames.width_mm),
    FigureLine("height", "Frame", "frame height", "mm", "mm", lambda r: r.frames.height_mm),
    FigureLine("diagonal", "Frame", "frame diagonal", "mm", "mm", lambda r: r.frames.diagonal_mm),
    FigureLine("area", "Frame", "frame area", "mm²", "number", lambda r: r.frames.area_mm2),
    FigureLine("crop", "Frame", "crop factor", "", "number", lambda r: r.frames.crop),
    FigureLine("pitch", "Frame", "pixel pitch", "µm", "um", lambda r: r.frames.pitch_um),
    FigureLine("pixels", "Frame", "pixels in use", "", "count", lambda r: r.frames.pixels),
    FigureLine("focal", "Settings", "focal length", "mm", "mm", lambda r: r.settings.focal_length_mm),
    FigureLine("f_number", "Settings", "f-number", "", "f", lambda r: r.settings.f_number),
    FigureLine("effective", "Settings", "effective f-number N(1 + m)", "", "f", lambda r: r.light.effective_f_number),
    FigureLine("shutter", "Settings", "shutter time", "s", "s", lambda r: r.settings.shutter_s),
    FigureLine("iso", "Settings", "ISO", "", "iso", lambda r: r.settings.iso),
    FigureLine("distance", "Settings", "subject distance", "m", "m", lambda r: r.settings.subject_distance_m),
    FigureLine("focus", "Settings", "focus distance", "m", "m", lambda r: r.settings.object_distance_m),
    FigureLine("eq_focal", "Equivalents", "focal length on the reference's format", "mm", "mm",
        lambda r: r.view.equivalent_focal_length_mm),
    FigureLine("eq_f", "Equivalents", "f-number on the reference's format (depth, total light)", "", "f",
        lambda r: r.blur.equivalent_f_number),
    FigureLine("ff_focal", "Equivalents", "focal length on full frame", "mm", "mm",
        lambda r: r.view.full_frame_focal_length_mm),
    FigureLine("ff_f", "Equivalents", "f-number on full frame (depth, total light)", "", "f",
        lambda r: r.blur.full_frame_f_number),
    FigureLine("home_focal", "Equivalents", "focal length on the format you think in", "mm", "mm",
        lambda r: r.view.home_focal_length_mm),
    FigureLine("home_f", "Equivalents", "f-number on the format you think in (depth, total light)", "", "f",
        lambda r: r.blur.home_f_number),
    FigureLine("same", "Equivalents", "focal length for this picture on the reference's format", "mm", "mm",
        lambda r: r.view.same_picture_focal_length_mm),
    FigureLine("same_f", "Equivalents", "f-number for this picture on the reference's format", "", "f",
        lambda r: r.blur.same_picture_f_number),
    FigureLine("rule_error", "Equivalents", "crop factor alone is off by", "", "share",
        lambda r: r.view.simple_rule_error),
    FigureLine("angle_wide", "View", "angle of view, wide", "°", "deg", lambda r: r.view.angle_wide_deg),
    FigureLine("angle_high", "View", "angle of view, high", "°", "deg", lambda r: r.view.angle_high_deg),
    FigureLine("angle_diagonal", "View", "angle of view, diagonal", "°", "deg", lambda r: r.view.angle_diagonal_deg),
    FigureLine("field_wide", "View", "field at the subject, wide", "m", "m", lambda r: r.view.field_wide_m),
    FigureLine("field_high", "View", "field at the subject, high", "m", "m", lambda r: r.view.field_high_m),
    FigureLine("back_wide", "View", "field at the background, wide", "m", "m", lambda r: r.view.background_wide_m),
    FigureLine("back_high", "View", "field at the background, high", "m", "m", lambda r: r.view.background_high_m),
    FigureLine("fill", "View", "subject's share of the frame's height", "", "share", lambda r: r.view.fill),
    FigureLine("magnification", "View", "magnification", "", "number", lambda r: r.view.magnification),
    FigureLine("scale", "View", "background's size against the subject", "", "times",
        lambda r: r.view.background_scale),
    FigureLine("coc", "Depth", "circle of confusion", "µm", "um", lambda r: 1000 * r.frames.coc_mm),
    FigureLine("near", "Depth", "near limit", "m", "m", lambda r: r.depth.near_m),
    FigureLine("far", "Depth", "far limit", "m", "m", lambda r: r.depth.far_m),
    FigureLine("total", "Depth", "depth of field", "m", "m", lambda r: r.depth.total_m),
    FigureLine("front", "Depth", "depth in front of the focus", "m", "m", lambda r: r.depth.front_m),
    FigureLine("behind", "Depth", "depth behind the focus", "m", "m", lambda r: r.depth.behind_m),
    FigureLine("hyperfocal", "Depth", "hyperfocal distance", "m", "m", lambda r: r.depth.hyperfocal_m),
    FigureLine("pupil", "Blur", "entrance pupil", "mm", "mm", lambda r: r.blur.pupil_mm),
    FigureLine("background", "Blur", "background blur on the sensor", "mm", "mm", lambda r: r.blur.background_mm),
    FigureLine("background_share", "Blur", "background blur, share of the diagonal", "", "share",
        lambda r: r.blur.background_share),
    FigureLine("dissolves", "Blur", "background detail is lost below", "m", "m",
        lambda r: r.blur.background_dissolves_mm / 1000),
    FigureLine("front_dissolves", "Blur", "foreground detail is lost below", "m", "m",
        lambda r: r.blur.foreground_dissolves_mm / 1000),
    FigureLine("foreground_share", "Blur", "foreground blur, share of the diagonal", "", "share",
        lambda r: r.blur.foreground_share),
    FigureLine("infinity_share", "Blur", "blur at infinity, share of the diagonal", "", "share",
        lambda r: r.blur.infinity_share),
    FigureLine("subject_share", "Blur", "blur of the subject, share of the diagonal", "", "share",
        lambda r: r.blur.subject_share),
    FigureLine("movement_share", "Blur", "movement of the subject, share of the diagonal", "", "share",
        lambda r: r.blur.movement_share),
    FigureLine("ev", "Light", "exposure value of the settings, ISO 100", "EV", "number",
        lambda r: r.light.exposure_value),
    FigureLine("error", "Light", "brightness against the light", "stops", "signed", lambda r: r.light.error_stops),
    FigureLine("brightness", "Light", "brightness against the reference", "stops", "signed",
        lambda r: r.light.brightness_stops),
    FigureLine("exposure", "Light", "exposure (light per area)", "lux s", "number", lambda r: r.light.exposure_lux_s),
    FigureLine("exposure_stops", "Light", "light per area against the reference", "stops", "signed",
        lambda r: r.light.exposure_stops),
    FigureLine("total_stops", "Light", "light in the whole picture against the reference", "stops", "signed",
        lambda r: r.light.total_stops),
    FigureLine("photons", "Light", "photons per square micrometre, 555 nm", "", "number",
        lambda r: r.light.photons_per_um2),
    FigureLine("photons_total", "Light", "photons in all", "", "count", lambda r: r.light.photons_total),
    FigureLine("snr_pixel", "Light", "signal to noise per pixel", "", "number", lambda r: r.light.snr_pixel),
    FigureLine("snr_picture", "Light", "signal to noise of the picture", "", "number", lambda r: r.light.snr_picture),
    FigureLine("looks_like", "Light", "as noisy as the reference at", "ISO", "iso", lambda r: r.light.looks_like_iso),
    FigureLine("ceiling", "Light", "your ISO ceiling, on this camera", "ISO", "iso", lambda r: r.light.ceiling_iso),
    FigureLine("airy", "Diffraction", "Airy disc", "µm", "um", lambda r: r.diffraction.airy_um),
    FigureLine("airy_coc", "Diffraction", "Airy disc over circle of confusion", "", "number",
        lambda r: r.diffraction.over_coc),
    FigureLine("airy_pixels", "Diffraction", "Airy disc over two pixels", "", "number",
        lambda r: r.diffraction.over_two_pixels),
    FigureLine("limited", "Diffraction", "seen in the print from", "", "f", lambda r: r.diffraction.limited_f_number),
    FigureLine("pixel_limited", "Diffraction", "seen at 100 percent from", "", "f",
        lambda r: r.diffraction.pixel_limited_f_number),
    FigureLine("mtf50", "Sharpness", "half contrast at, on the sensor, at best", "cycles/mm", "number",
        lambda r: r.sharpness.mtf50_per_mm),
    FigureLine("lines", "Sharpness", "line widths per picture height, at best", "", "number",
        lambda r: r.sharpness.lines_per_height),
    FigureLine("detail", "Sharpness", "finest detail on the subject, at best", "m", "m",
        lambda r: r.sharpness.finest_detail_mm / 1000),
    FigureLine("largest", "Sharpness", "good enough up to a long side of", "mm", "mm",
        lambda r: r.sharpness.largest_print_mm),
    FigureLine("on_subject", "Sharpness", "pixels along the subject", "", "number",
        lambda r: r.sharpness.pixels_on_subject),
    FigureLine("arc", "Sharpness", "a pixel sees, arc seconds", "″", "number",
        lambda r: r.sharpness.arc_seconds_per_pixel),
    FigureLine("circle", "Outfit", "image circle over diagonal", "", "share", lambda r: r.outfit.image_circle_share),
    FigureLine("eq_wide", "Outfit", "widest f-number on the reference's format", "", "f",
        lambda r: r.settings.widest_f_number / r.frames.k),
    FigureLine("weight", "Outfit", "weight of body and lens", "g", "g", lambda r: r.outfit.weight_g),
    FigureLine("price", "Outfit", "price of body and lens", "", "number", lambda r: r.outfit.price),
)  # fmt: skip
LINES = {line.key: line for line in _LINES}
"""By key, in the order in which they are read."""
