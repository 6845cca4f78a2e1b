"""Formats: sensor sizes in millimetres, and the crop factor by the four measures in use."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache
from math import hypot, sqrt

import numpy as np
from numpy.typing import NDArray

from cambrel.optics.quantities import Choices, DomainError, Quantity, positive
from cambrel.optics.schools import School, by_key
from cambrel.optics.workings import Working, term, working


@dataclass(frozen=True)
class Sensor:
    """A sensor or film frame: its size in mm and, where known, its pixels across and down.

    The pixels of a crop may be fractional: nothing is rounded before display. `is_turned` says that the camera is on
        its side.
    """

    width_mm: float
    height_mm: float
    pixels_wide: float | None = None
    pixels_high: float | None = None
    is_turned: bool = field(default=False, compare=False, repr=False)

    def __post_init__(self) -> None:
        positive("width_mm", self.width_mm)
        positive("height_mm", self.height_mm)
        if self.pixels_wide is not None:
            positive("pixels_wide", self.pixels_wide)
        if self.pixels_high is not None:
            positive("pixels_high", self.pixels_high)

    @property
    def diagonal_mm(self) -> float:
        return hypot(self.width_mm, self.height_mm)

    @property
    def area_mm2(self) -> float:
        return self.width_mm * self.height_mm

    @property
    def aspect_ratio(self) -> float:
        """Width over height."""
        return self.width_mm / self.height_mm

    @property
    def pixel_pitch_um(self) -> float | None:
        """Width over pixels across, or None where the pixels are unknown; the same however the camera is held."""
        side, count = (self.height_mm, self.pixels_high) if self.is_turned else (self.width_mm, self.pixels_wide)
        return None if count is None else 1000 * side / count

    @property
    def pixels(self) -> float | None:
        """Number of pixels, or None where unknown. Square pixels are assumed when only those across are known."""
        if self.pixels_wide is None:
            return None
        high = self.pixels_high or self.pixels_wide * self.height_mm / self.width_mm
        return self.pixels_wide * high

    def cropped(self, aspect_ratio: float | None) -> Sensor:
        """The largest part of this sensor with another aspect ratio (long side over short side, lying as the sensor
        lies).

        Parameters
            aspect_ratio: 1 or more; None leaves the sensor as it is
        Returns
            Sensor of the same pixel pitch
        Raises
            DomainError below 1
        """
        if aspect_ratio is None:
            return self
        if not aspect_ratio >= 1:
            raise DomainError("aspect_ratio", "1 or more", aspect_ratio)
        shape = aspect_ratio if self.width_mm >= self.height_mm else 1 / aspect_ratio
        width, height = min(self.width_mm, self.height_mm * shape), min(self.height_mm, self.width_mm / shape)
        return Sensor(
            width,
            height,
            self.pixels_wide and self.pixels_wide * width / self.width_mm,
            self.pixels_high and self.pixels_high * height / self.height_mm,
            self.is_turned,
        )

    def turned(self) -> Sensor:
        """The same sensor with the camera on its side; where only the pixels across are known they are taken as
        square.
        """
        down = self.pixels_high
        if down is None and self.pixels_wide is not None:
            down = self.pixels_wide * self.height_mm / self.width_mm
        return Sensor(self.height_mm, self.width_mm, down, self.pixels_wide, not self.is_turned)


@dataclass(frozen=True, kw_only=True)
class Format(Sensor):
    """A named sensor size, and what lenses are made for it at all.

    `widest_angle_deg` (rectilinear, over the diagonal) and `fastest_f_number` bound what may be expected of a maker;
    they are a survey of what is commonly made, not a law of nature.
    """

    slug: str
    name: str
    designation: str
    medium: str
    source: str
    widest_angle_deg: float
    fastest_f_number: float


_DATA_SHEETS = "typical of published sensor data sheets, which vary by a few percent"
_FORMATS = (
    # slug, name, designation, width, height, medium, widest angle, fastest f-number, source of the dimension
    ("type-1-3.4", "Small phone sensor", "1/3.4 type", 4.23, 3.17, "digital", 110, 1.8, _DATA_SHEETS),
    ("type-1-2.55", "Phone sensor", "1/2.55 type", 5.64, 4.23, "digital", 110, 1.5, _DATA_SHEETS),
    ("type-1-2.3", "Compact and action camera", "1/2.3 type", 6.17, 4.55, "digital", 120, 1.8, _DATA_SHEETS),
    ("type-1-2", "Half-inch type", "1/2 type", 6.4, 4.8, "digital", 110, 1.4, "long-standing video tube format"),
    ("type-1-1.7", "Advanced compact", "1/1.7 type", 7.44, 5.58, "digital", 100, 1.4, _DATA_SHEETS),
    ("type-1-1.3", "Large phone sensor", "1/1.3 type", 9.6, 7.2, "digital", 110, 1.5, _DATA_SHEETS),
    ("type-2-3", "Two-thirds inch", "2/3 type", 8.8, 6.6, "digital", 105, 1.4, "long-standing video tube format"),
    ("super-16", "Super 16 film", "16 mm, single perforation", 12.52, 7.41, "cinema", 115, 1.3, "SMPTE ST 201"),
    ("one-inch", "One-inch type", "1 type", 13.2, 8.8, "digital", 110, 1.2, _DATA_SHEETS),
    (
        "micro-four-thirds",
        "Micro Four Thirds",
        "4/3 type",
        17.3,
        13.0,
        "digital",
        122,
        0.8,
        "system's published imaging area",
    ),
    (
        "super-35-3-perf",
        "Super 35, three perforations",
        "35 mm film, 3-perf",
        24.89,
        13.87,
        "cinema",
        120,
        0.95,
        "SMPTE ST 59 width",
    ),
    (
        "super-35-4-perf",
        "Super 35, four perforations",
        "35 mm film, 4-perf",
        24.89,
        18.66,
        "cinema",
        120,
        0.95,
        "SMPTE ST 59",
    ),
    ("aps-c-small", "APS-C, smaller cut", "APS-C 1.6", 22.3, 14.9, "digital", 121, 0.95, _DATA_SHEETS),
    ("aps-c", "APS-C", "APS-C 1.5", 23.5, 15.6, "digital", 121, 0.95, _DATA_SHEETS),
    ("half-frame", "Half frame film", "135 half frame", 24.0, 18.0, "film", 84, 1.4, "ISO 1007, half frame"),
    ("aps-h", "APS-H", "APS-H", 28.7, 19.0, "digital", 121, 0.95, _DATA_SHEETS),
    ("full-frame", "Full frame", "135", 36.0, 24.0, "digital", 130, 0.95, "ISO 1007"),
    (
        "35mm-8-perf",
        "35 mm cinema along the strip, eight perforations",
        "35 mm film, 8-perf",
        37.72,
        24.92,
        "cinema",
        110,
        1.4,
        "camera aperture, film run sideways",
    ),
    ("44x33", "Medium format 44 x 33", "44 x 33", 43.8, 32.9, "digital", 120, 1.4, _DATA_SHEETS),
    (
        "65mm-5-perf",
        "65 mm cinema, five perforations",
        "65 mm film, 5-perf",
        52.63,
        23.01,
        "cinema",
        110,
        1.4,
        "SMPTE ST 215",
    ),
    ("54x40", "Medium format 54 x 40", "54 x 40", 53.4, 40.0, "digital", 112, 1.9, _DATA_SHEETS),
    ("film-645", "6 x 4.5 film", "120 film, 6 x 4.5", 56.0, 41.5, "film", 98, 1.9, "ISO 732 film, common gate"),
    ("film-66", "6 x 6 film", "120 film, 6 x 6", 56.0, 56.0, "film", 105, 1.9, "ISO 732 film, common gate"),
    ("film-67", "6 x 7 film", "120 film, 6 x 7", 69.5, 56.0, "film", 102, 2.4, "ISO 732 film, common gate"),
    (
        "65mm-15-perf",
        "65 mm cinema along the strip, fifteen perforations",
        "65 mm film, 15-perf",
        70.41,
        52.63,
        "cinema",
        100,
        2.0,
        "camera aperture, film run sideways",
    ),
    ("sheet-4x5", "4 x 5 inch sheet film", "4 x 5 in", 120.0, 95.0, "film", 120, 2.5, "ISO 1012 sheet, holder opening"),
    (
        "sheet-5x7",
        "5 x 7 inch sheet film",
        "5 x 7 in",
        170.0,
        120.0,
        "film",
        110,
        4.5,
        "ISO 1012 sheet, holder opening",
    ),
    (
        "sheet-8x10",
        "8 x 10 inch sheet film",
        "8 x 10 in",
        245.0,
        194.0,
        "film",
        105,
        4.5,
        "ISO 1012 sheet, holder opening",
    ),
)

FORMATS: dict[str, Format] = {
    slug: Format(
        width_mm=width,
        height_mm=height,
        slug=slug,
        name=name,
        designation=designation,
        medium=medium,
        source=source,
        widest_angle_deg=angle,
        fastest_f_number=fastest,
    )
    for slug, name, designation, width, height, medium, angle, fastest, source in _FORMATS
}
FULL_FRAME = FORMATS["full-frame"]


def frames_within(inner: Sensor, outer: Sensor) -> tuple[int, int]:
    """How many whole frames of one format lie side by side on another, all turned the same way: across and down.

    Parameters
        inner, outer: two frames
    Returns
        the way round that holds more, as both lie where both ways hold as many; (0, 0) where not one fits
    """
    ways = [(inner.width_mm, inner.height_mm), (inner.height_mm, inner.width_mm)]
    slack = 1 + 1e-9
    counts = [(int(outer.width_mm * slack / wide), int(outer.height_mm * slack / high)) for wide, high in ways]
    across, down = max(counts, key=lambda count: count[0] * count[1])
    return (across, down) if across and down else (0, 0)


@dataclass(frozen=True)
class TwoFrames:
    """A frame beside the one that it is measured against."""

    sensor: Sensor
    reference: Sensor


@dataclass(frozen=True)
class CropMeasure(School[TwoFrames]):
    """A way of measuring a frame by a single length. value: how many times larger the reference is by it"""

    length_mm: Callable[[Sensor], float] = lambda sensor: sensor.diagonal_mm


def _measure(key: str, reason: str, length_mm: Callable[[Sensor], float]) -> CropMeasure:
    def value(given: TwoFrames) -> float:
        return length_mm(given.reference) / length_mm(given.sensor)

    def written(given: TwoFrames) -> Working:
        whole = term("L₀", f"{key} of full frame", length_mm(given.reference), "mm")
        return working(
            "C",
            "L₀ / L",
            value(given),
            "number",
            whole,
            term("L", f"{key} of this frame", length_mm(given.sensor), "mm"),
        )

    return CropMeasure(key, key, reason, value, written, length_mm=length_mm)


CROP_MEASURES: Choices[CropMeasure] = by_key(
    "by",
    _measure("diagonal", "The common standard. It does not depend on the shape.", lambda s: s.diagonal_mm),
    _measure("width", "What landscape framing feels.", lambda s: s.width_mm),
    _measure("height", "What a vertical subject feels.", lambda s: s.height_mm),
    _measure("area", "What light and noise follow: the square root of the area ratio.", lambda s: sqrt(s.area_mm2)),
)


def crop_factor(sensor: Sensor, reference: Sensor = FULL_FRAME, by: str = "diagonal") -> float:
    """How many times larger the reference frame is than the sensor, as a ratio of lengths.

    Parameters
        sensor, reference: the two frames
        by: the measure, a key of CROP_MEASURES
    Returns
        ratio above 0; 1 when the two are equal by that measure
    Raises
        DomainError for a measure that is not known, with the keys
    References
        "Applied Photographic Optics", chapter on format and covering power
    """
    return float(CROP_MEASURES[by].value(TwoFrames(sensor, reference)))


COVERING = 0.995
"""A circle so near to a diagonal counts as covering it: published circles are rounded."""


def covers(image_circle_mm: Quantity, diagonal_mm: Quantity) -> bool | NDArray[np.bool_]:
    """Whether an image circle covers a frame; the one rule for it.

    Parameters
        image_circle_mm, diagonal_mm: in one unit, scalars or arrays; an unknown circle (NaN) covers nothing
    Returns
        True where it covers, of the shape of both
    """
    lit: bool | NDArray[np.bool_] = image_circle_mm >= COVERING * diagonal_mm
    return lit


def largest_covered_format(image_circle_mm: float) -> Format | None:
    """The largest named format that an image circle covers, or None where it covers none.

    Parameters
        image_circle_mm: diameter [mm]
    Returns
        one of FORMATS, or None
    """
    circle = float(positive("image_circle_mm", image_circle_mm))
    covered = [format_ for format_ in FORMATS.values() if covers(circle, format_.diagonal_mm)]
    return max(covered, key=lambda format_: format_.diagonal_mm, default=None)


@lru_cache(maxsize=1024)
def nearest_format(sensor: Sensor) -> Format:
    """The named format whose diagonal is nearest to the sensor's, for what lenses may be expected.

    Parameters
        sensor: any, also one that no format names
    Returns
        one of FORMATS
    """
    return min(FORMATS.values(), key=lambda format_: abs(format_.diagonal_mm / sensor.diagonal_mm - 1))
