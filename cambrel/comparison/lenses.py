"""Many lenses as arrays: what a picture asks of each is worked out of all of them at once. With their converters.
Millimetres.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison.figures import each_of
from cambrel.comparison.rig import LARGEST_F_NUMBER, SMALLEST_POSSIBLE_F_NUMBER, Lens
from cambrel.optics.geometry import closest_object_distance_m
from cambrel.optics.quantities import Array

LOWEST_MM, HIGHEST_MM = 0.1, 1e5
"""The ends of a lens that can be set to anything."""


T = TypeVar("T", bound=np.generic)


@dataclass(frozen=True)
class Lenses:
    """The figures of lenses, one an element: points of f-numbers and of resolution padded with their last one,
    logarithms of what is interpolated.
    """

    factor: Array
    low_mm: Array
    high_mm: Array
    smallest: Array
    log_focal: Array
    log_widest: Array
    magnification: Array
    mark_mm: Array
    is_zoom: Array
    log_number: Array
    per_mm: Array
    stabilised: Array
    opens: NDArray[np.bool_]
    """Whether it is known how wide it opens."""

    def __len__(self) -> int:
        return len(self.factor)

    def take(self, at: NDArray[np.int64]) -> Lenses:
        """Some of them, or some more than once."""
        return Lenses(*(getattr(self, name)[at] for name in self.__dataclass_fields__))

    def beside(self, other: Lenses) -> Lenses:
        """These and after them others."""

        def joined(*both: NDArray[T]) -> NDArray[T]:
            if both[0].ndim == 2:
                most = max(rows.shape[1] for rows in both)
                both = tuple(np.pad(rows, ((0, 0), (0, most - rows.shape[1])), mode="edge") for rows in both)
            return np.concatenate(both)

        return Lenses(*(joined(getattr(self, name), getattr(other, name)) for name in self.__dataclass_fields__))

    def widest(self, f: Array) -> Array:
        """The f-number wide open at a focal length with the converter."""
        log_widest = _between(self.log_focal, self.log_widest, np.log(f / self.factor))
        return np.asarray(np.exp(log_widest) * self.factor)

    def closest_mm(self, f: Array) -> Array:
        """How near it focuses from the lens; 0 where that is not known. Unknown where the focal length is."""
        own = f / self.factor
        closest = 1000 * closest_object_distance_m(own, self.magnification, self.mark_mm / 1000, self.is_zoom)
        return np.where(np.isnan(closest), 0.0, closest + (f - own))

    def alone_per_mm(self, n: Array) -> Array:
        """How finely the lens alone draws at an f-number with the converter [cycles/mm]; unknown beyond what is
        known.
        """
        at = np.log(n / self.factor)
        inside = (at >= self.log_number[:, 0] - 1e-9) & (at <= self.log_number[:, -1] + 1e-9)
        per_mm = _between(self.log_number, self.per_mm, at)
        return np.where(inside, per_mm, np.nan) / self.factor


def _between(x: Array, y: Array, at: Array) -> Array:
    """Interpolated in each row between its points, of which the last may be repeated."""
    between = y[:, 0].copy()
    for i in range(x.shape[1] - 1):
        reach, rise = x[:, i + 1] - x[:, i], y[:, i + 1] - y[:, i]
        slope = np.divide(rise, reach, out=np.zeros_like(rise), where=reach > 0)
        between = between + slope * np.clip(at - x[:, i], 0, reach)
    return between


def lenses_of(lenses: Sequence[Lens], factors: Sequence[float] | None = None) -> Lenses:
    """Lenses as arrays, each with the factor of its converter.

    Parameters
        lenses: in their order
        factors: of their converters; by default none has one
    Returns
        arrays with the lenses along the axis
    """

    def padded(points: list[tuple[tuple[float, float], ...]]) -> Array:
        most = max((len(point) for point in points), default=1)
        return np.array([[*row, *[row[-1]] * (most - len(row))] for row in points], dtype=float).reshape(
            len(points), most, 2
        )

    widest = padded([lens.widest or ((50.0, SMALLEST_POSSIBLE_F_NUMBER),) for lens in lenses])
    known = padded([lens.mtf50 or ((np.nan, np.nan),) for lens in lenses])
    factor = np.array(factors if factors is not None else [1.0] * len(lenses), dtype=float)
    return Lenses(
        factor,
        each_of([lens.focal_min_mm for lens in lenses], LOWEST_MM) * factor,
        each_of([lens.focal_max_mm for lens in lenses], HIGHEST_MM) * factor,
        each_of([lens.smallest_f_number for lens in lenses], LARGEST_F_NUMBER) * factor,
        np.log(widest[:, :, 0]),
        np.log(widest[:, :, 1]),
        each_of([lens.max_magnification for lens in lenses], np.nan),
        1000 * each_of([lens.close_focus_m for lens in lenses], np.nan),
        np.array([lens.is_zoom for lens in lenses], dtype=bool),
        np.log(known[:, :, 0]),
        known[:, :, 1],
        each_of([lens.stabilisation_stops for lens in lenses], np.nan),
        np.array([bool(lens.widest) for lens in lenses], dtype=bool),
    )
