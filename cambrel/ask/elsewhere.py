"""What was said of one lens, and the focal length and f-number of the same picture on another format: by the crop
factor, exactly close up.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import isfinite

from cambrel.comparison.bench import Gear
from cambrel.optics.equivalence import equivalent_f_number, same_picture_f_number, same_picture_focal_length_mm
from cambrel.optics.formats import Sensor, crop_factor
from cambrel.optics.geometry import magnification
from cambrel.optics.light import effective_f_number
from cambrel.wording.sentences import LEVEL_VIEW


@dataclass(frozen=True)
class Equivalent:
    """A lens as another format has it: what frames alike, what has its depth and light, what exposes alike, and which
    ISO is as noisy.

    view_mm, long_mm: the same at the short and the long end [mm]; f_number, long_f_number: and iso_value, as numbers;
    None where they are not known
    """

    slug: str
    name: str
    view: str = ""
    depth_and_light: str = ""
    exposure: str = ""
    iso: str = ""
    view_mm: float | None = None
    long_mm: float | None = None
    f_number: float | None = None
    long_f_number: float | None = None
    iso_value: float | None = None


@dataclass(frozen=True)
class AdvertPart:
    """One lens, or what was said of one: its name, its sensor, what it is on the format that was asked about, and on
    others.
    """

    name: str
    sensor: Sensor
    low_mm: float | None
    high_mm: float | None
    short: float | None
    long: float | None
    iso: float | None
    distance_m: float | None
    shutter_s: float | None
    weight_g: float | None
    on: Equivalent
    others: tuple[Equivalent, ...]
    says: str
    depth: str = ""
    assumed: tuple[str, ...] = ()
    gear: Gear | None = None


def alike(one: Sensor, other: Sensor) -> bool:
    return abs(one.diagonal_mm / other.diagonal_mm - 1) < LEVEL_VIEW


def same_view_mm(focal_mm: float, made: AdvertPart, there: Sensor, by: str) -> float:
    """The focal length that sees the same on another format."""
    k = crop_factor(made.sensor, by=by) / crop_factor(there, by=by)
    if made.distance_m is None or not is_near(focal_mm, made.distance_m):
        return focal_mm * k
    return float(same_picture_focal_length_mm(focal_mm, made.distance_m, k))


def same_pupil_f_number(number: float, focal_mm: float | None, made: AdvertPart, there: Sensor, by: str) -> float:
    """The f-number of the same opening under it."""
    if focal_mm is None:
        return float(equivalent_f_number(number, crop_factor(made.sensor, by=by), crop_factor(there, by=by)))
    return float(same_picture_f_number(number, focal_mm, same_view_mm(focal_mm, made, there, by)))


def is_near(focal_mm: float | None, distance_m: float | None) -> bool:
    """Whether it is said how near a lens is focused, and it can be."""
    return focal_mm is not None and distance_m is not None and isfinite(distance_m) and 1000 * distance_m > focal_mm


def effective(number: float, focal_mm: float | None, distance_m: float | None) -> float:
    """What an f-number does for the exposure there."""
    if focal_mm is None or distance_m is None or not is_near(focal_mm, distance_m):
        return number
    return float(effective_f_number(number, magnification(focal_mm, distance_m)))
