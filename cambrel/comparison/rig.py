"""What is compared: a body with a lens at a set focal length, f-number, shutter time and ISO. None means unknown, never
zero.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from math import inf, isnan, log2, nan

import numpy as np

from cambrel.optics.formats import Sensor
from cambrel.optics.geometry import closest_object_distance_m
from cambrel.optics.light import QUANTUM_EFFICIENCY, READ_NOISE_E
from cambrel.optics.quantities import DomainError, Quantity, finite, not_negative, positive

SMALLEST_POSSIBLE_F_NUMBER = 0.5
"""No lens in air can be faster (the sine condition at 90 degrees)."""

HIGHEST_ISO = 1e7
"""Where a body ends whose highest ISO is unknown, as far as it is advised to be set."""

SLOWEST_FRAME_RATE = 24.0
"""Of moving pictures [1/s]: no frame of theirs is exposed longer than this lets it."""

LARGEST_F_NUMBER = 256.0
"""Where a lens ends whose smallest aperture is unknown; no diaphragm is made beyond."""


def _known(check: type | object, record: object, *names: str) -> None:
    for name in names:
        value = getattr(record, name)
        if value is not None:
            check(name, value)  # type: ignore[operator]


@dataclass(frozen=True)
class Mode:
    """A part of a body's sensor that it can record by itself, with its pixels; for video with its highest frame rate
    [1/s].

    frames: how many it makes one picture of, with the sensor shifted between them; 1 for all but high-resolution modes
    rolling_s: how long the sensor is read for one frame [s]
    """

    sensor: Sensor
    label: str = ""
    frame_rate: float | None = None
    frames: int = 1
    rolling_s: float | None = None

    def __post_init__(self) -> None:
        _known(positive, self, "frame_rate", "frames", "rolling_s")

    @property
    def is_combined(self) -> bool:
        return self.frames > 1


@dataclass(frozen=True)
class Body:
    """A camera. `offset_stops` is how many stops its sensor is ahead of its generation; `mount` and `register_mm` serve
    fitting.

    range_stops: tonal range that the maker states, by SNR 1 of one pixel, at range_iso (at the base ISO where that is
        None)
    stabilisation_with_lens_stops: what body and a stabilised lens give together, where the record says it
    raw_megabytes: of one raw file
    outer_width_mm, outer_height_mm, outer_depth_mm: of the camera itself, without its lens where that comes off
    handling: how it lies in the hand, in the owner's words
    """

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
    register_mm: float | None = None
    stabilisation_with_lens_stops: float | None = None
    raw_megabytes: float | None = None
    range_stops: float | None = None
    range_iso: float | None = None
    modes: tuple[Mode, ...] = ()
    outer_width_mm: float | None = None
    outer_height_mm: float | None = None
    outer_depth_mm: float | None = None
    weather_sealed: bool | None = None
    handling: str = ""

    def __post_init__(self) -> None:
        _known(positive, self, "base_iso", "ceiling_iso", "fastest_shutter_s", "slowest_shutter_s")
        _known(positive, self, "quantum_efficiency", "register_mm", "raw_megabytes", "range_stops", "range_iso")
        _known(positive, self, "outer_width_mm", "outer_height_mm", "outer_depth_mm")
        _known(not_negative, self, "read_noise_e", "weight_g", "price", "stabilisation_stops")
        _known(not_negative, self, "stabilisation_with_lens_stops")
        finite("offset_stops", self.offset_stops)
        if self.quantum_efficiency > 1:
            raise DomainError("quantum_efficiency", "1 or less", self.quantum_efficiency)
        if self.base_iso and self.ceiling_iso and self.base_iso > self.ceiling_iso:
            raise DomainError("ceiling_iso", f"at least the base ISO {self.base_iso:g}", self.ceiling_iso)

    def steadied_stops(self, lens: Lens) -> float | None:
        """What its stabiliser and the lens's give together: the larger, unless the record says how they add; None where
        neither is known.
        """
        if lens.stabilisation_stops and self.stabilisation_with_lens_stops is not None:
            return self.stabilisation_with_lens_stops
        known = [stops for stops in (self.stabilisation_stops, lens.stabilisation_stops) if stops is not None]
        return max(known, default=None)


def _between_stops(points: Sequence[tuple[float, float]], f_number: float) -> float | None:
    """A figure known at some f-numbers, at another: interpolated in stops between, None beyond."""
    if not points or not points[0][0] * (1 - 1e-9) <= f_number <= points[-1][0] * (1 + 1e-9):
        return None
    at, known = zip(*points, strict=True)
    return float(np.interp(np.log(f_number), np.log(at), known))


def _between(points: Sequence[tuple[float, float | None]], at: float) -> float | None:
    """A figure that is known at some places, at another; None beyond them, or where a neighbour is not known."""
    for (low, one), (high, other) in pairwise(points):
        if low <= at <= high * (1 + 1e-9) and one is not None and other is not None:
            return float(np.interp(at, (low, high), (one, other)))
    return None


@dataclass(frozen=True)
class Lens:
    """A lens. With no focal range it is an ad-hoc lens that can be set to anything.

    widest: f-numbers along the range as (focal length [mm], f-number), interpolated in stops between
    max_magnification: at closest focus; close_focus_m: marked distance from the sensor mark
    mtf50: of the lens alone, as (f-number, cycles per mm on the sensor); interpolated in stops between, unknown beyond
    mtf50_away: the same away from the middle, as (image height [mm], f-number, cycles per mm)
    fall_off: of light away from the middle wide open, as (image height [mm], stops)
    length_mm, diameter_mm: of the lens itself, focused at infinity, a zoom at its shortest
    longest_mm: of a zoom that grows, at its longest
    autofocus, zoom_lock, weather_sealed: whether it has them; handling: in the owner's words
    focuses_inside: whether its front stays where it is
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
    mtf50_away: tuple[tuple[float, float, float], ...] = ()
    fall_off: tuple[tuple[float, float], ...] = ()
    stabilisation_stops: float | None = None
    length_mm: float | None = None
    diameter_mm: float | None = None
    focuses_inside: bool = False
    longest_mm: float | None = None
    autofocus: bool | None = None
    zoom_lock: bool | None = None
    weather_sealed: bool | None = None
    handling: str = ""

    def __post_init__(self) -> None:
        _known(positive, self, "focal_min_mm", "focal_max_mm", "smallest_f_number", "max_magnification")
        _known(positive, self, "close_focus_m", "image_circle_mm", "length_mm", "diameter_mm", "longest_mm")
        _known(not_negative, self, "weight_g", "price", "stabilisation_stops")
        if self.longest_mm and self.length_mm and self.longest_mm < self.length_mm:
            raise DomainError("longest_mm", f"at least length_mm {self.length_mm:g}", self.longest_mm)
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
        for height, f_number, per_mm in self.mtf50_away:
            positive("mtf50_away height", height)
            positive("mtf50_away f_number", f_number)
            positive("mtf50_away", per_mm)
        places = [point[:2] for point in self.mtf50_away]
        if places != sorted(set(places)):
            raise DomainError("mtf50_away", "in ascending image height and f-number", self.mtf50_away)
        for height, lost in self.fall_off:
            positive("fall_off height", height)
            not_negative("fall_off", lost)
        if list(self.fall_off) != sorted(dict(self.fall_off).items()):
            raise DomainError("fall_off", "in ascending image height", self.fall_off)

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
        """How finely the lens alone draws in the middle, at an f-number of its own [cycles/mm]; None where that is not
        known.
        """
        return _between_stops(self.mtf50, f_number)

    def mtf50_at_per_mm(self, f_number: float, image_height_mm: float) -> float | None:
        """The same so far from the middle of the picture: linear between the heights that are known, None beyond
        them.
        """
        if image_height_mm == 0:
            return self.mtf50_per_mm(f_number)
        points = [(0.0, self.mtf50_per_mm(f_number))]
        for height in sorted({height for height, *_ in self.mtf50_away}):
            points.append(
                (height, _between_stops([point[1:] for point in self.mtf50_away if point[0] == height], f_number))
            )
        return _between(points, image_height_mm)

    def fall_off_stops(self, image_height_mm: float) -> float | None:
        """How much darker the picture is so far from its middle, wide open [stops]; None where that is not known."""
        return _between([(0.0, 0.0), *self.fall_off], image_height_mm)

    def closest_m(self, focal_length_mm: float) -> float | None:
        """Closest object distance from the lens [m] at a focal length, or None where it is unknown; see
        closest_object_distance_m.
        """
        scale, mark = (nan if figure is None else figure for figure in (self.max_magnification, self.close_focus_m))
        nearest_m = float(closest_object_distance_m(focal_length_mm, scale, mark, self.is_zoom))
        return None if isnan(nearest_m) else nearest_m

    @property
    def shortens_close_up(self) -> bool:
        """Whether the marked distance is shorter than a thin lens of the longest focal length allows."""
        return bool(self.close_focus_m and self.focal_max_mm and self.close_focus_m < 4 * self.focal_max_mm / 1000)


@dataclass(frozen=True)
class Rig:
    """A body with a lens as set. Focal length and f-number are the lens's own; `converter` multiplies both.

    distance_m: the rig's own distance, where each rig is at its own; None for the brief's
    take_rest: where the variable that follows stops at a limit, the other one takes the rest
    converter_weight_g: 0 without a converter; None where its weight is not known
    mode: which of the body's modes records; None for the whole sensor
    by_hand: settings that stay as they are set where each rig takes its best, by their letters in BY_HAND
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
    converter_weight_g: float | None = 0.0
    mode: int | None = None
    by_hand: str = ""

    def __post_init__(self) -> None:
        _known(positive, self, "focal_length_mm", "f_number", "shutter_s", "iso", "distance_m", "converter")
        _known(not_negative, self, "converter_weight_g")
        if "".join(key for key in BY_HAND if key in self.by_hand) != self.by_hand:
            raise DomainError("by_hand", "some of " + "".join(BY_HAND) + " in their order", self.by_hand)
        if self.mode is not None and not 0 <= self.mode < len(self.body.modes):
            raise DomainError("mode", f"one of the body's {len(self.body.modes)} modes", self.mode)

    @property
    def recorded(self) -> Mode | None:
        """The mode that records, if it is not the whole sensor as it is."""
        return None if self.mode is None else self.body.modes[self.mode]

    @property
    def sensor(self) -> Sensor:
        """What records: the body's sensor, or the part that a mode takes of it."""
        return self.body.sensor if self.mode is None else self.body.modes[self.mode].sensor

    @property
    def pixel_um(self) -> float | None:
        """The physical size of a pixel: a high-resolution mode samples finer than that."""
        mode = self.recorded
        return (self.body.sensor if mode is not None and mode.is_combined else self.sensor).pixel_pitch_um

    @property
    def frames(self) -> int:
        """How many frames make one picture."""
        return 1 if self.mode is None else self.body.modes[self.mode].frames

    @property
    def reads(self) -> float:
        """How many pixels of the sensor are read for one of the picture: other than one where several frames are made
        one.
        """
        own, sampled = self.pixel_um, self.sensor.pixel_pitch_um
        return 1.0 if self.frames == 1 or own is None or sampled is None else self.frames * (sampled / own) ** 2

    @property
    def slowest_shutter_s(self) -> float | None:
        """As slow as it goes: in video no slower than a frame lasts at the lowest usual rate."""
        own, mode = self.body.slowest_shutter_s, self.recorded
        if mode is None or mode.frame_rate is None:
            return own
        frame = 1 / min(mode.frame_rate, SLOWEST_FRAME_RATE)
        return frame if own is None else min(own, frame)


BY_HAND = {"f": "focal_length_mm", "n": "f_number", "t": "shutter_s", "i": "iso"}
"""What may be set by hand, by its letter."""


def aperture_stops(f_number: float, reference: float) -> float:
    """How many stops narrower an f-number is than another, 2 log2(N / N_ref); minus infinity against one that has no
    end.

    Parameters
        f_number: above 0
        reference: above 0; infinity for one that has no end
    Returns
        [stops]; minus infinity against one that has no end
    """
    ratio = f_number / reference
    return 2 * log2(ratio) if ratio > 0 else -inf
