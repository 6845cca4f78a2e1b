"""Questions on light: brightness, light in all, noise, close up, stars, and what an advert says. Right answers are the
core's own.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import log2, nan, sqrt

from cambrel.comparison.brief import Hold
from cambrel.comparison.engine import Comparison
from cambrel.drills.given import Given
from cambrel.drills.posing import by_stops
from cambrel.drills.seeing import SAME_DEPTH, SAME_LENS, SAME_PICTURE
from cambrel.optics.equivalence import equivalent_f_number
from cambrel.optics.formats import Sensor, crop_factor
from cambrel.optics.noise_schools import NOISE_SCHOOLS
from cambrel.optics.stars import rule_seconds
from cambrel.optics.workings import Working, term, working
from cambrel.wording.sentences import LEVEL_STOPS

SHUTTER_KEPT = Hold("equivalent", "spot", "f_number", "shutter")


def _in_sizes(stops: float) -> float:
    return stops / LEVEL_STOPS


def exposure(given: Given) -> Working:
    """By how many stops the other is brighter, from both settings."""
    exposure = given.iso * given.shutter_s / given.f_number**2
    other = given.second_iso * given.second_shutter_s / given.second_f_number**2
    return working(
        "brighter by", "log₂(S₂ × t₂ × N₁² / (S₁ × t₁ × N₂²))", log2(other / exposure), "signed",
        term("S₁", "ISO of the first", given.iso), term("S₂", "ISO of the other", given.second_iso),
        term("t₁", "shutter time of the first", given.shutter_s, "s"),
        term("t₂", "shutter time of the other", given.second_shutter_s, "s"),
        term("N₁", "f-number of the first", given.f_number, "f"),
        term("N₂", "f-number of the other", given.second_f_number, "f"),
    )  # fmt: skip


def exposure_slips(given: Given, right: float) -> dict[str, float]:
    """Those who bring in the crop factor, turn it round, or forget that the f-number counts squared."""
    return {
        "crop_on_f_number": right + 2 * log2(given.k),
        "inverted": -right,
        "crop_on_shutter": right + log2(given.k),
        "linear": right + log2(given.second_f_number / given.f_number),
    }


def brightness(given: Given) -> tuple[float, float]:
    """Brightness at one shutter time and ISO, at one f-number and at that for one depth.

    Parameters
        given: the case
    Returns
        signed multiples of what is worth saying
    """
    first, second = (
        _in_sizes(given.compared(hold).of(1).light.brightness_stops) for hold in (SAME_PICTURE, SAME_DEPTH)
    )
    return first, second


def total(given: Given) -> Working:
    """By how much more light the other gathers in the whole picture."""
    one, other = given.one.area_mm2, given.other.area_mm2
    return working(
        "more light", "log₂(A₂ / A₁)", log2(other / one), "signed",
        term("A₁", "area of the first, mm²", one), term("A₂", "area of the other, mm²", other),
    )  # fmt: skip


def total_slips(given: Given, right: float) -> dict[str, float]:
    """Those who depend on the side in place of the area, by none, the wrong way, or tell the ratio for stops."""
    ratio = given.other.area_mm2 / given.one.area_mm2
    return {"linear": right / 2, "unchanged": 0.0, "inverted": -right, "ratio": ratio if ratio > 1 else -1 / ratio}


def total_sizes(given: Given) -> tuple[float, float]:
    """Light in the whole picture, under one picture and under one depth."""
    first, second = (_in_sizes(given.compared(hold).of(1).light.total_stops) for hold in (SAME_PICTURE, SAME_DEPTH))
    return first, second


@dataclass(frozen=True)
class _Gathering:
    """What gathers the light that noise depends on, as a school judges it: its area on either frame, and its name."""

    area_mm2: Callable[[Sensor], float]
    name: str


GATHERS = {
    "frame": _Gathering(lambda sensor: sensor.area_mm2, "area of the {}, mm²"),
    "pixel": _Gathering(
        lambda sensor: (sensor.width_mm / (sensor.pixels_wide or nan)) ** 2 * 1e6, "area of a pixel of the {}, µm²"
    ),
}
"""By what collects the light that a school of noise judges; of sensors of one generation, in light enough that reading
them does not tell.
"""


def gathering_ratio(given: Given) -> float:
    """How many times as much light the other gathers as the first at one exposure, where noise is looked at.

    Parameters
        given: the case
    Returns
        above 1 where it gathers more
    """
    gathers = GATHERS[NOISE_SCHOOLS[given.noise].collector]
    return gathers.area_mm2(given.other) / gathers.area_mm2(given.one)


def noise(given: Given) -> Working:
    """The ISO of the other frame that is as noisy."""
    gathers = GATHERS[NOISE_SCHOOLS[given.noise].collector]
    one, other = gathers.area_mm2(given.one), gathers.area_mm2(given.other)
    return working(
        "ISO", "S × A₂ / A₁", given.iso * other / one, "iso", term("S", "ISO", given.iso),
        term("A₁", gathers.name.format("first"), one), term("A₂", gathers.name.format("other"), other),
    )  # fmt: skip


def noise_slips(given: Given, right: float) -> dict[str, float]:
    """Those who leave the ISO as it is, depend on the other school, by the side, or the wrong way."""
    ratio = gathering_ratio(given)
    collector = NOISE_SCHOOLS[given.noise].collector
    other_school = next(key for key, school in NOISE_SCHOOLS.items() if school.collector != collector)
    return {
        "unchanged": given.iso,
        "other_school": given.iso * gathering_ratio(replace(given, noise=other_school)),
        "linear": given.iso * sqrt(ratio),
        "inverted": given.iso / ratio,
    }


def cleaner(given: Given) -> tuple[float, float]:
    """Signal to noise at one exposure: of the whole picture, and of a pixel.

    Parameters
        given: the case
    Returns
        signed multiples of what is worth saying
    """
    one, other = (given.compared(SHUTTER_KEPT).of(index).light for index in (0, 1))
    return (
        by_stops((other.snr_picture / one.snr_picture) ** 2),
        by_stops((other.snr_pixel / one.snr_pixel) ** 2),
    )


def close(given: Given) -> Working:
    """The stops that focusing close costs."""
    m = given.magnification
    return working("lost", "2 × log₂(1 + m)", 2 * log2(1 + m), "stops", term("m", "magnification on the sensor", m))


def close_slips(given: Given, right: float) -> dict[str, float]:
    """Those who see no cost, take it once, or depend on the magnification on full frame."""
    m = given.magnification
    against_full_frame = m * crop_factor(given.other, by=given.crop_by)
    return {
        "unchanged": 0.0,
        "linear": right / 2,
        "equivalent_magnification": 2 * log2(1 + against_full_frame),
    }


def close_sizes(given: Given) -> tuple[float, float]:
    """Light lost, at one magnification on the sensor and with one field of the subject in the frame."""
    m = given.magnification
    return 0.0, _in_sizes(2 * log2((1 + m * given.k) / (1 + m)))


def stars(given: Given) -> Working:
    """How long stars stay points, by the rule."""
    crop = crop_factor(given.other, by=given.crop_by)
    return working(
        "t", "500 / (C × f)", float(rule_seconds(given.focal_mm, crop)), "s", term("C", "crop factor", crop),
        term("f", "focal length", given.focal_mm, "mm"),
    )  # fmt: skip


def stars_slips(given: Given, right: float) -> dict[str, float]:
    """Those who leave out the crop factor, square it, or turn it round."""
    crop, f = crop_factor(given.other, by=given.crop_by), given.focal_mm
    return {"unchanged": 500 / f, "squared": 500 / (crop**2 * f), "inverted": 500 * crop / f}


def stars_sizes(given: Given) -> tuple[float, float]:
    """Seconds by the rule, under one lens and with the lens for one view."""

    def ratio(comparison: Comparison) -> float:
        one, other = (comparison.of(index) for index in (0, 1))
        seconds = [float(rule_seconds(rig.settings.focal_length_mm, rig.frames.crop)) for rig in (one, other)]
        return seconds[1] / seconds[0]

    first, second = (by_stops(ratio(given.compared(hold))) for hold in (SAME_LENS, SAME_PICTURE))
    return first, second


def advert(given: Given) -> Working:
    """The f-number on full frame of a lens that is advertised by its equivalent focal length."""
    said = float(given.focal_mm * crop_factor(given.other, by=given.crop_by))
    right = equivalent_f_number(given.f_number, said, given.focal_mm)
    return working(
        "N₂", "N × f₂ / f", float(right), "f", term("N", "f-number as said", given.f_number, "f"),
        term("f₂", "focal length as said", said, "mm"), term("f", "true focal length", given.focal_mm, "mm"),
    )  # fmt: skip


def advert_slips(given: Given, right: float) -> dict[str, float]:
    """Those who take the f-number as it was said, turn the factor round, or square it."""
    n = given.f_number
    return {"unchanged": n, "inverted": n * n / right, "squared": right * right / n}


def advert_sizes(given: Given) -> tuple[float, float]:
    """What the f-number said does against the same one on full frame: for exposure, and for the light in the whole
    picture.
    """
    return 0.0, by_stops((given.f_number / float(advert(given).result.value or nan)) ** 2)
