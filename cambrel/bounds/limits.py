"""What makes sense to type, by the name of the figure: one table for forms, links and files. Pure."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from math import isinf, isnan
from typing import Any

_FOCAL, _F_NUMBER, _ISO, _SHUTTER = (0.5, 10_000.0), (0.5, 256.0), (1.0, 1e7), (1e-6, 36_000.0)
_CONVERTER = (0.2, 5.0)
_DISTANCE, _SIDE, _PIXELS = (0.001, 1e6), (0.5, 500.0), (16, 200_000)

LIMITS: dict[str, tuple[float, float]] = {
    "focal_length_mm": _FOCAL, "focal_min_mm": _FOCAL, "focal_max_mm": _FOCAL, "f_number": _F_NUMBER,
    "smallest_f_number": _F_NUMBER, "widest": (0.5, 10_000.0), "mtf50": (0.5, 10_000.0), "iso": _ISO, "base_iso": _ISO,
    "ceiling_iso": _ISO,
    "iso_ceiling": _ISO, "shutter_s": _SHUTTER, "fastest_shutter_s": _SHUTTER, "slowest_shutter_s": _SHUTTER,
    "converter": _CONVERTER, "factor": _CONVERTER, "distance_m": _DISTANCE, "focus_distance_m": _DISTANCE,
    "close_focus_m": _DISTANCE, "background_m": (0.0001, 1e6), "foreground_m": (0.0, 1e6),
    "sharp_front_m": (0.0, 1e6), "sharp_behind_m": (0.0, 1e6), "width_shown_m": (0.0005, 1e6),
    "subject_height_m": (0.0005, 1000.0), "subject_speed_m_per_s": (0.0, 1000.0), "light_ev": (-12.0, 24.0),
    "shown_long_side_mm": (10.0, 1e5), "viewing_distance_mm": (50.0, 1e5), "lines_per_mm": (0.5, 50.0),
    "output_pixels": (1e4, 1e10), "wavelength_nm": (200.0, 2000.0), "width_mm": _SIDE, "height_mm": _SIDE,
    "pixels_wide": _PIXELS, "pixels_high": _PIXELS, "stabilisation_stops": (0.0, 20.0), "offset_stops": (-10.0, 10.0),
    "quantum_efficiency": (0.01, 1.0), "read_noise_e": (0.0, 1000.0), "weight_g": (0.0, 1e6), "price": (0.0, 1e8),
    "used_price": (0.0, 1e8), "resale_price": (0.0, 1e8), "rent_a_day": (0.0, 1e6),
    "max_magnification": (0.0001, 20.0), "image_circle_mm": (1.0, 1000.0), "length_mm": (0.01, 10_000.0),
    "stabilisation_with_lens_stops": (0.0, 20.0), "raw_megabytes": (0.01, 10_000.0), "range_stops": (0.5, 40.0),
    "range_iso": _ISO,
    "frame_rate": (0.1, 10_000.0), "frames": (1, 64), "mtf50_away": (0.5, 10_000.0), "fall_off": (0.0, 1000.0),
    "nearest_m": _DISTANCE, "farthest_m": _DISTANCE, "comfortable_m": _DISTANCE, "flash_guide_m": (0.1, 1000.0),
    "blur_share": (1e-5, 1.0), "framing_deg": (0.01, 179.0),
    "shake_arc_s": (1.0, 1e6), "converter_weight_g": (0.0, 1e5), "payload_g": (1.0, 1e6), "steadies_stops": (0.0, 20.0),
    "error_arc_s_per_min": (0.001, 1e5), "press_lines_per_inch": (10.0, 5000.0), "seen_snr": (1.0, 1000.0),
    "disturbing_snr": (0.1, 1000.0),
    "filter_mm": (1.0, 500.0), "distortion_percent": (-100.0, 100.0), "dioptres": (0.1, 100.0),
    "declination_deg": (-90.0, 90.0), "scene_range_stops": (0.5, 40.0), "diameter_mm": (0.01, 10_000.0),
    "register_mm": (0.01, 500.0), "outer_width_mm": (1.0, 2000.0), "outer_height_mm": (1.0, 2000.0),
    "outer_depth_mm": (1.0, 2000.0), "longest_mm": (0.01, 10_000.0), "inner_width_mm": (10.0, 5000.0),
    "inner_height_mm": (10.0, 5000.0), "inner_depth_mm": (10.0, 5000.0),
    "shutter_angle_deg": (0.1, 360.0), "mains_hz": (10.0, 400.0), "rolling_s": (1e-5, 1.0),
}  # fmt: skip
MAY_BE_INFINITE = {"background_m", "focus_distance_m", "sharp_behind_m"}


def named(name: str) -> str:
    """A figure's name in words, without its unit.

    Parameters
        name: of a figure, with its unit behind it as the code writes it
    Returns
        in words, without the unit
    """
    words = name.removesuffix("_per_s")
    for unit in ("_mm", "_m", "_s", "_g", "_nm", "_e"):
        words = words.removesuffix(unit)
    return words.replace("_", " ").replace("iso", "ISO").replace("f number", "f-number")


def is_outside(name: str, value: float | None) -> bool:
    """Whether a figure is beyond what makes sense; what is not given, or has no limits, is not.

    Parameters
        name: of a figure, as the code writes it
        value: in the unit of the name; None where it is not given
    Returns
        False where it is not given or has no limits
    """
    if value is None or name not in LIMITS:
        return False
    if isnan(value) or isinf(value):
        return not (value > 0 and name in MAY_BE_INFINITE)
    low, high = LIMITS[name]
    return not low <= value <= high


def outside(record: Any) -> Iterator[tuple[str, float]]:
    """Name and value of every figure of a record, and of the records in it, that is beyond what makes sense.

    Parameters
        record: a frozen record of figures, lists and records
    Returns
        name and value of each, one after the other
    """
    for field in fields(record):
        value = getattr(record, field.name)
        yield from _outside(field.name, value)


def _outside(name: str, value: object) -> Iterator[tuple[str, float]]:
    if is_dataclass(value):
        yield from outside(value)
    elif isinstance(value, tuple):
        for part in value:
            yield from _outside(name, part)
    elif isinstance(value, int | float) and not isinstance(value, bool) and is_outside(name, value):
        yield name, value
