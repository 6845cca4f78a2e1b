"""What is compared: a body with a lens at a set focal length, f-number, shutter time and ISO. None means unknown, never zero."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import inf, log2, sqrt

import numpy as np

from cambrel.optics.formats import Sensor
from cambrel.optics.light import QUANTUM_EFFICIENCY, READ_NOISE_E
from cambrel.optics.quantities import DomainError, Quantity, finite, not_negative, positive

SMALLEST_POSSIBLE_F_NUMBER = 0.5
"""No lens in air can be faster (the sine condition at 90 degrees)."""

HIGHEST_ISO = 1e7
"""Where a body ends whose highest ISO is unknown, as far as it is advised to be set."""

LARGEST_F_NUMBER = 256.0
"""Where a lens ends whose smallest aperture is unknown; no diaphragm is made beyond."""


def _known(check: type | object, record: object, *names: str) -> None:
    for name in names:
        value = getattr(record, name)
        if value is not None:
            check(name, value)  # type: ignore[operator]


@dataclass(frozen=True)
class Body:
    """A camera. `offset_stops` is how many stops its sensor is ahead of its generation; `mount` and `register_mm` serve fitting."""

    sensor: Sensor
    base_iso: float | None = None
    ceiling_iso: float | None = None
    fastest_shutter_s: float | None = None
    slowest_shutter_s: float | None = None
    stabilisation_stops: float | None = None
    offset_stops: float = 0.0
    quantum_efficiency: float = QUANTUM_EFFICIENCY
    read_noise_e: float = READ_NOISE_E
    weight_g: float | None = None
    price: float | None = None
    currency: str = ""
    mount: str = ""

    def __post_init__(self) -> None:
        _known(
            positive, self, "base_iso", "ceiling_iso", "fastest_shutter_s", "slowest_shutter_s", "quantum_efficiency"
        )
        _known(not_negative, self, "read_noise_e", "weight_g", "price", "stabilisation_stops")
        finite("offset_stops", self.offset_stops)
        if self.quantum_efficiency > 1:
            raise DomainError("quantum_efficiency", "1 or less", self.quantum_efficiency)
        if self.base_iso and self.ceiling_iso and self.base_iso > self.ceiling_iso:
            raise DomainError("ceiling_iso", f"at least the base ISO {self.base_iso:g}", self.ceiling_iso)


@dataclass(frozen=True)
class Lens:
    """A lens. With no focal range it is an ad-hoc lens that can be set to anything.

    widest: f-numbers along the range as (focal length [mm], f-number), interpolated in stops between
    max_magnification: at closest focus; close_focus_m: marked distance from the sensor mark
    mtf50: of the lens alone, as (f-number, cycles per mm on the sensor); interpolated in stops between, unknown beyond
    rectilinear: False for a fisheye, which is kept out of equivalents
    """

    focal_min_mm: float | None = None
    focal_max_mm: float | None = None
    widest: tuple[tuple[float, float], ...] = ()
    smallest_f_number: float | None = None
    max_magnification: float | None = None
    close_focus_m: float | None = None
    image_circle_mm: float | None = None
    weight_g: float | None = None
    price: float | None = None
    currency: str = ""
    mount: str = ""
    rectilinear: bool = True
    mtf50: tuple[tuple[float, float], ...] = ()

    def __post_init__(self) -> None:
        _known(
            positive,
            self,
            "focal_min_mm",
            "focal_max_mm",
            "smallest_f_number",
            "max_magnification",
            "close_focus_m",
            "image_circle_mm",
        )
        _known(not_negative, self, "weight_g", "price")
        if (self.focal_min_mm is None) != (self.focal_max_mm is None):
            raise DomainError("focal_max_mm", "given together with focal_min_mm", self.focal_max_mm)
        if self.focal_min_mm and self.focal_max_mm and self.focal_min_mm > self.focal_max_mm:
            raise DomainError("focal_max_mm", f"at least focal_min_mm {self.focal_min_mm:g}", self.focal_max_mm)
        for focal, f_number in self.widest:
            positive("widest focal length", focal)
            positive("widest f_number", f_number)
        for f_number, per_mm in self.mtf50:
            positive("mtf50 f_number", f_number)
            positive("mtf50", per_mm)
        if len({f_number for f_number, _ in self.mtf50}) < len(self.mtf50) or list(self.mtf50) != sorted(self.mtf50):
            raise DomainError("mtf50", "in ascending f-number", self.mtf50)
        if list(self.widest) != sorted(set(self.widest)):
            raise DomainError("widest", "in ascending focal length", self.widest)

    @property
    def is_zoom(self) -> bool:
        return self.focal_min_mm != self.focal_max_mm

    @property
    def is_ad_hoc(self) -> bool:
        return self.focal_min_mm is None

    def widest_f_number(self, focal_length_mm: Quantity) -> Quantity:
        """The f-number wide open at a focal length [mm]; 0.5, the limit in air, where unknown."""
        if not self.widest:
            return SMALLEST_POSSIBLE_F_NUMBER + 0.0 * focal_length_mm
        if len(self.widest) == 1:
            return self.widest[0][1] + 0.0 * focal_length_mm
        at = np.log([focal for focal, _ in self.widest])
        widest: Quantity = np.exp(np.interp(np.log(focal_length_mm), at, np.log([n for _, n in self.widest])))
        # at a given point the f-number is as given, not as the logarithm returns it
        for focal, f_number in self.widest:
            widest = np.where(np.equal(focal_length_mm, focal), f_number, widest)
        return widest

    def mtf50_per_mm(self, f_number: float) -> float | None:
        """How finely the lens alone draws at an f-number of its own [cycles/mm]; None where that is not known."""
        if not self.mtf50 or not self.mtf50[0][0] * (1 - 1e-9) <= f_number <= self.mtf50[-1][0] * (1 + 1e-9):
            return None
        at, known = zip(*self.mtf50, strict=True)
        return float(np.interp(np.log(f_number), np.log(at), known))

    def closest_m(self, focal_length_mm: float) -> float | None:
        """Closest object distance from the lens [m] at a focal length, or None where it is unknown.

        By the largest magnification where that is known: u = f (1 + 1/m). A zoom reaches it at one end only, so there the marked distance
        holds too. Otherwise by the marked distance s from the sensor mark; an internal-focus lens with s < 4 f has no thin-lens solution
        and without a magnification its limit is unknown.
        """
        f = focal_length_mm / 1000
        by_magnification = None if self.max_magnification is None else f * (1 + 1 / self.max_magnification)
        s = self.close_focus_m
        by_mark = None if s is None or s < 4 * f else s * (1 + sqrt(1 - 4 * f / s)) / 2
        if by_magnification is not None and by_mark is not None and self.is_zoom:
            return max(by_magnification, by_mark)
        return by_mark if by_magnification is None else by_magnification

    @property
    def shortens_close_up(self) -> bool:
        """Whether the marked distance is shorter than a thin lens of the longest focal length allows."""
        return bool(self.close_focus_m and self.focal_max_mm and self.close_focus_m < 4 * self.focal_max_mm / 1000)


@dataclass(frozen=True)
class Rig:
    """A body with a lens as set. Focal length and f-number are the lens's own; `converter` multiplies both.

    distance_m: the rig's own distance, where each rig stands at its own; None for the brief's
    take_rest: where the variable that follows stops at a limit, the other one takes the rest
    """

    body: Body
    lens: Lens = field(default_factory=Lens)
    focal_length_mm: float = 50.0
    f_number: float = 4.0
    shutter_s: float = 1 / 125
    iso: float = 400.0
    distance_m: float | None = None
    converter: float = 1.0
    take_rest: bool = False

    def __post_init__(self) -> None:
        _known(positive, self, "focal_length_mm", "f_number", "shutter_s", "iso", "distance_m", "converter")


def aperture_stops(f_number: float, reference: float) -> float:
    """How many stops narrower an f-number is than another, 2 log2(N / N_ref); minus infinity against one that has no end."""
    ratio = f_number / reference
    return 2 * log2(ratio) if ratio > 0 else -inf
