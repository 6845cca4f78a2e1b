"""Scales from values to pixels, and their ticks at round numbers."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor, log10

import numpy as np

from cambrel.optics.quantities import Array


@dataclass(frozen=True)
class PixelScale:
    """From values to pixels, straight or logarithmic; values beyond the ends are held at the ends."""

    low: float
    high: float
    start: float
    end: float
    logarithmic: bool = False

    def __call__(self, value: float) -> float:
        share = self.share(min(max(value, self.low), self.high))
        return self.start + share * (self.end - self.start)

    def share(self, value: float) -> float:
        if self.logarithmic:
            return log10(value / self.low) / log10(self.high / self.low)
        return (value - self.low) / (self.high - self.low)

    def each(self, values: Array) -> Array:
        """The pixels of an array of values."""
        low, high = self.low, self.high
        held = np.clip(values, low, high)
        share = np.log10(held / low) / log10(high / low) if self.logarithmic else (held - low) / (high - low)
        return np.asarray(self.start + share * (self.end - self.start))

    def ticks(self, most: int = 8) -> list[float]:
        """Round values in range: 1, 2 and 5 times powers of ten."""
        return log_ticks(self.low, self.high, most) if self.logarithmic else linear_ticks(self.low, self.high, most)


def linear_ticks(low: float, high: float, most: int) -> list[float]:
    """Round values between two ends: 1, 2 and 5 times powers of ten.

    Parameters
        low, high: the ends
        most: how many at most
    Returns
        ascending
    """
    step = _round_step((high - low) / most)
    first = ceil(low / step - 1e-9)
    return [index * step for index in range(first, floor(high / step + 1e-9) + 1)]


def log_ticks(low: float, high: float, most: int) -> list[float]:
    """Round values between two ends of a logarithmic axis.

    Parameters
        low, high: the ends, above 0
        most: how many at most
    Returns
        ascending
    """
    decades = range(floor(log10(low)), ceil(log10(high)) + 1)
    for factors in ((1, 2, 5), (1, 3), (1,)):
        ticks = [factor * 10.0**power for power in decades for factor in factors]
        ticks = [tick for tick in ticks if low * 0.999999 <= tick <= high * 1.000001]
        if len(ticks) <= most:
            return ticks
    return ticks[:: ceil(len(ticks) / most)]


def _round_step(rough: float) -> float:
    power = 10.0 ** floor(log10(rough))
    return next(factor * power for factor in (1, 2, 5, 10) if factor * power >= rough * 0.999999)
