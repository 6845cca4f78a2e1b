"""What takes the same picture on another system: the exact settings, and how near each of many lenses comes. Lengths in
mm.

The same picture keeps the view and the entrance pupil: at infinity f2 = f1 C1/C2, close up exactly v2 = k v1; N2 = f2 /
    A. All is one
broadcast over the lenses, so that twenty thousand run the same code as one. Source: "Applied Photographic Optics"; see
optics.equivalence.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields
from enum import IntEnum
from functools import cached_property
from math import inf, isinf, nan

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison.rig import LARGEST_F_NUMBER, SMALLEST_POSSIBLE_F_NUMBER, Lens, aperture_stops
from cambrel.optics.equivalence import equivalent_focal_length_mm, iso_for_same_brightness, same_picture_focal_length_mm
from cambrel.optics.formats import Sensor, crop_factor, nearest_format
from cambrel.optics.geometry import angle_of_view_deg, closest_object_distance_m, magnification
from cambrel.optics.quantities import Array, DomainError, Quantity, positive, positive_or_inf
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW

NEAR_VIEW = 0.10
NEAR_STOPS = 1.0
"""A lens within these of the picture is near; beyond them it does not make it."""


class Nearness(IntEnum):
    """How near a lens comes to the picture wanted, the nearest first; UNKNOWN where its f-number is."""

    EXACT = 0
    NEAR = 1
    CANNOT = 2
    UNKNOWN = 3


EXACT, NEAR, CANNOT, UNKNOWN = Nearness
STOP_IN_VIEW = 0.15
"""A view this far off counts as much as a stop, where lenses are put in order."""


@dataclass(frozen=True)
class WantedLens:
    """The picture to be made: a lens on a sensor, at one focal length or over a range, with the f-number at both ends.

    object_distance_m: where it is focused; the simple rule holds at infinity, close up the exact one is used
    """

    sensor: Sensor
    focal_min_mm: float
    focal_max_mm: float
    f_number_short: float
    f_number_long: float
    iso: float = 100.0
    object_distance_m: float = inf

    def __post_init__(self) -> None:
        for name in ("focal_min_mm", "focal_max_mm", "f_number_short", "f_number_long", "iso"):
            positive(name, getattr(self, name))
        positive_or_inf("object_distance_m", self.object_distance_m)
        if self.focal_min_mm > self.focal_max_mm:
            raise DomainError("focal_max_mm", f"at least focal_min_mm {self.focal_min_mm:g}", self.focal_max_mm)
        if self.object_distance_m * 1000 <= self.focal_max_mm:
            raise DomainError("object_distance_m", "beyond the focal length", self.object_distance_m)

    @property
    def is_range(self) -> bool:
        return self.focal_max_mm > self.focal_min_mm * (1 + LEVEL_VIEW)


@dataclass(frozen=True)
class Needed:
    """What takes the wanted picture on a sensor, exactly; k: crop factor of the wanted one over the sensor's.

    effective_f_number: what the f-number at the short end does for the exposure at the wanted distance, N (1 + m)
    """

    sensor: Sensor
    k: float
    focal_min_mm: float
    focal_max_mm: float
    f_number_short: float
    f_number_long: float
    effective_f_number: float
    iso: float
    widest_made_deg: float
    fastest_made: float

    @property
    def angle_deg(self) -> float:
        """Over the diagonal at the short end."""
        return float(angle_of_view_deg(self.sensor.diagonal_mm, self.focal_min_mm))

    @property
    def is_to_be_expected(self) -> bool:
        """Whether lenses so wide and so fast are made for such sensors at all."""
        return self.angle_deg <= self.widest_made_deg and self.f_number_short >= self.fastest_made

    @property
    def can_exist(self) -> bool:
        return min(self.f_number_short, self.f_number_long) >= SMALLEST_POSSIBLE_F_NUMBER


@dataclass(frozen=True)
class LensTable:
    """Many lenses as arrays: ranges, and f-numbers at points along them (in logarithms, the last point repeated)."""

    focal_min_mm: Array
    focal_max_mm: Array
    log_focal: Array
    log_f_number: Array
    known: NDArray[np.bool_]
    smallest: Array
    rectilinear: NDArray[np.bool_]
    max_magnification: Array
    close_focus_m: Array

    def __len__(self) -> int:
        return len(self.focal_min_mm)

    def row(self, index: int) -> LensTable:
        """One lens of the table, as a table."""
        only = slice(index, index + 1)
        return LensTable(*(getattr(self, field.name)[only] for field in fields(self)))

    def widest(self, focal_length_mm: Array) -> Array:
        """The f-number wide open at a focal length each; NaN where it is unknown."""
        at = np.log(focal_length_mm)
        log_widest = self.log_f_number[:, 0].copy()
        for i, (reach, slope) in enumerate(self._steps):
            log_widest += slope * np.clip(at - self.log_focal[:, i], 0, reach)
        made: Array = np.exp(log_widest)
        made[~self.known] = np.nan
        return made

    def closest_m(self, focal_length_mm: Array) -> Array:
        """How near each focuses at a focal length, from the lens; NaN where that cannot be known."""
        is_zoom = self.focal_min_mm != self.focal_max_mm
        return np.asarray(
            closest_object_distance_m(focal_length_mm, self.max_magnification, self.close_focus_m, is_zoom)
        )

    @cached_property
    def _steps(self) -> list[tuple[Array, Array]]:
        """From each point to the next: how far, and how much the f-number grows on the way, both in logarithms."""
        reach, rise = np.diff(self.log_focal), np.diff(self.log_f_number)
        slope = np.divide(rise, reach, out=np.zeros_like(rise), where=reach > 0)
        return [(reach[:, i].copy(), slope[:, i].copy()) for i in range(reach.shape[1])]


def lens_table(lenses: Sequence[Lens]) -> LensTable:
    """Lenses as arrays.

    Parameters
        lenses: in their order
    Returns
        arrays with the lenses along the axis
    Raises
        DomainError for a lens of any length, which matches everything and nothing
    """
    for index, lens in enumerate(lenses):
        if lens.focal_min_mm is None:
            raise DomainError("lenses", "with a focal length", None, (index,))
    most = max((len(lens.widest) for lens in lenses), default=1) or 1
    points = [(lens.widest or ((lens.focal_min_mm or 1.0, 1.0),)) for lens in lenses]
    padded = np.array([[*p, *[p[-1]] * (most - len(p))] for p in points], dtype=float).reshape(len(lenses), most, 2)
    logs = np.log(padded)
    return LensTable(
        np.array([lens.focal_min_mm for lens in lenses], dtype=float),
        np.array([lens.focal_max_mm for lens in lenses], dtype=float),
        logs[:, :, 0],
        logs[:, :, 1],
        np.array([bool(lens.widest) for lens in lenses], dtype=bool),
        np.array([lens.smallest_f_number or LARGEST_F_NUMBER for lens in lenses], dtype=float),
        np.array([lens.rectilinear for lens in lenses], dtype=bool),
        np.array([nan if lens.max_magnification is None else lens.max_magnification for lens in lenses], dtype=float),
        np.array([nan if lens.close_focus_m is None else lens.close_focus_m for lens in lenses], dtype=float),
    )


def needed(wanted: WantedLens, sensor: Sensor, by: str = "diagonal") -> Needed:
    """The settings that take the wanted picture on a sensor.

    Parameters
        wanted, sensor: the two
        by: measure of the crop factor, a key of CROP_MEASURES
    Returns
        Needed; focal lengths exact at the wanted distance, f-numbers with the same pupil, ISO for the same brightness
    Raises
        DomainError where the wanted lens has no image at its distance
    """
    k = crop_factor(wanted.sensor, by=by) / crop_factor(sensor, by=by)
    focals = [_same_view(f, wanted.object_distance_m, k) for f in (wanted.focal_min_mm, wanted.focal_max_mm)]
    numbers = [
        n * f2 / f1
        for n, f1, f2 in zip(
            (wanted.f_number_short, wanted.f_number_long),
            (wanted.focal_min_mm, wanted.focal_max_mm),
            focals,
            strict=True,
        )
    ]
    effective = _effective(numbers[0], focals[0], wanted.object_distance_m)
    iso = iso_for_same_brightness(
        wanted.iso, _effective(wanted.f_number_short, wanted.focal_min_mm, wanted.object_distance_m), effective
    )
    made = nearest_format(sensor)
    return Needed(
        sensor,
        k,
        focals[0],
        focals[1],
        numbers[0],
        numbers[1],
        float(effective),
        float(iso),
        made.widest_angle_deg,
        made.fastest_f_number,
    )


def _same_view(focal_mm: float, distance_m: float, k: float) -> float:
    if isinf(distance_m):
        return float(equivalent_focal_length_mm(focal_mm, k))
    return float(same_picture_focal_length_mm(focal_mm, distance_m, k))


def _effective(f_number: Quantity, focal_mm: Quantity, distance_m: float) -> Quantity:
    return f_number * (1 + magnification(focal_mm, distance_m))


@dataclass(frozen=True)
class Matches:
    """How near each lens comes to what is needed on one sensor; arrays with the lenses along the axis.

    focal_mm, f_number: the setting that comes nearest (for a range: at its short end), with the pupil wanted where the
        lens has it
    widest: the f-number wide open there
    view_off: focal length over the one needed, less 1; above 0 sees tighter
    stops_short: how many stops smaller than needed its pupil stays, at the worse end, for depth and blur; below 0 it
        cannot be closed so far
    light_short: how many stops less light the whole picture gets at the setting; apart from the pupil where the view is
        another
    closest_m: how near it focuses there, for a range at the worse end, from the lens; NaN where that cannot be known
    too_near: whether the picture is nearer than that, so that the lens does not make it however it is set
    covered: share of the range that it reaches, counted in logarithms
    status: of Nearness
    score: the smaller the nearer
    """

    needed: Needed
    focal_mm: Array
    f_number: Array
    widest: Array
    view_off: Array
    stops_short: Array
    light_short: Array
    covered: Array
    closest_m: Array
    too_near: NDArray[np.bool_]
    status: NDArray[np.int8]
    score: Array

    def order(self, among: NDArray[np.bool_]) -> NDArray[np.intp]:
        """Some of the lenses from the nearest on, exact before near before those that cannot."""
        those = np.flatnonzero(among)
        return those[np.lexsort((self.score[those], self.status[those]))]


def match(wanted: WantedLens, sensor: Sensor, lenses: LensTable, by: str = "diagonal") -> Matches:
    """How near each lens comes to the wanted picture on a sensor.

    Parameters
        wanted: the picture
        sensor: on which the lenses are set
        lenses: as arrays; a fisheye takes no rectilinear picture and is put among those that cannot
        by: measure of the crop factor
    Returns
        Matches
    """
    need = needed(wanted, sensor, by)
    low, high = lenses.focal_min_mm, lenses.focal_max_mm
    focal = np.clip(need.focal_min_mm, low, high)
    wide = lenses.widest(focal)
    if wanted.is_range:
        end = np.clip(need.focal_max_mm, low, high)
        ends_mm = focal, end
        whole = np.log(need.focal_max_mm / need.focal_min_mm)
        covered = (
            np.clip(np.log(np.minimum(high, need.focal_max_mm) / np.maximum(low, need.focal_min_mm)), 0, None) / whole
        )
        view_off = np.where(covered >= 1 - LEVEL_VIEW, 0.0, focal / need.focal_min_mm - 1)
        ends = ((focal, need.focal_min_mm, need.f_number_short), (end, need.focal_max_mm, need.f_number_long))
        short = np.maximum(*(_short(lenses, lenses.widest(at), at, at_need, number) for at, at_need, number in ends))
        off = 1 - covered
    else:
        ends_mm = focal, focal
        covered = (np.abs(focal / need.focal_min_mm - 1) <= LEVEL_VIEW).astype(float)
        view_off = focal / need.focal_min_mm - 1
        short = _short(lenses, wide, focal, need.focal_min_mm, need.f_number_short)
        off = np.abs(np.log(focal / need.focal_min_mm))
    number = _set_to(lenses, wide, need.f_number_short * focal / need.focal_min_mm)
    near_enough = np.where(1000 * wanted.object_distance_m > focal * (1 + 1e-9), focal, need.focal_min_mm)
    exposed = _effective(number, near_enough, wanted.object_distance_m)
    unknown = ~lenses.known
    light = 2 * np.log2(exposed / need.effective_f_number)
    light[unknown] = np.nan
    gap = np.abs(short)
    level = (off <= LEVEL_VIEW) & (gap <= LEVEL_STOPS)
    near = (off <= (0.5 if wanted.is_range else NEAR_VIEW)) & (gap <= NEAR_STOPS)
    status = np.where(level, EXACT, np.where(near, NEAR, CANNOT)).astype(np.int8)
    status[unknown] = UNKNOWN
    closest = np.fmax(*(lenses.closest_m(at) for at in ends_mm))
    too_near = np.greater(closest, wanted.object_distance_m * (1 + 1e-9))
    status[~lenses.rectilinear | too_near] = CANNOT
    gap[unknown] = 0
    score = off / STOP_IN_VIEW + gap
    score[~lenses.rectilinear] = np.inf
    return Matches(need, focal, number, wide, view_off, short, light, covered, closest, too_near, status, score)


def _set_to(lenses: LensTable, wide: Array, wanted: Array) -> Array:
    """The f-number nearest to the one wanted that each lens can be set to; the one wanted where it is not known how
    wide it opens.
    """
    made: Array = np.minimum(np.fmax(wanted, wide), lenses.smallest)
    return made


def _short(lenses: LensTable, wide: Array, focal: Array, need_focal: float, need_number: float) -> Array:
    """Stops by which a lens, so wide open, ends short of the pupil needed; below 0 where even its smallest aperture is
    too wide.
    """
    # the pupil counts: at another focal length the f-number that keeps it is another
    wanted = need_number * focal / need_focal
    made: Array = 2 * np.log2(_set_to(lenses, wide, wanted) / wanted)
    made[~lenses.known] = np.nan
    return made


def efficient(cost: Array, worth: Array) -> NDArray[np.bool_]:
    """Which of many are efficient: none other costs no more and is worth no less, with one of the two better. Unknown
    is never efficient.

    Parameters
        cost: the smaller the better, for example a weight
        worth: the smaller the better as well, for example an equivalent f-number
    Returns
        flags
    """
    undominated = np.zeros(len(cost), dtype=bool)
    known = np.flatnonzero(~(np.isnan(cost) | np.isnan(worth)))
    rising = known[np.lexsort((worth[known], cost[known]))]
    cheaper = np.concatenate(([inf], np.minimum.accumulate(worth[rising])[:-1]))[: len(rising)]
    undominated[rising] = worth[rising] < cheaper
    return undominated


def setting_cost_stops(exact: float, marked: float) -> float:
    """What rounding an f-number to a camera setting costs, in stops; above 0 where the setting is narrower.

    Parameters
        exact: the f-number that is wanted
        marked: the one that is set
    Returns
        [stops]; above 0 where the setting is narrower
    """
    return aperture_stops(marked, exact)
