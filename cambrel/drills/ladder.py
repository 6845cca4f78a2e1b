"""A conversion to carry in the head: the shortest factor for focal lengths and the nearest third of a stop for
f-numbers, with the error that makes.

Scope: two formats; factors are ratios of crop factors by one measure. Source: ISO 517, whose f-numbers rise by the root
    of two a stop.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import log2

from cambrel.optics.quantities import DomainError, positive
from cambrel.optics.stops import F_NUMBERS, ISOS, Stop

FACTORS = (1.0, 1.1, 1.25, 4 / 3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.5, 2.7, 3.0, 3.5, 4.0, 5.0, 6.0, 7.0, 8.0, 10.0)
"""What can be multiplied by in the head."""
SIMPLE = 0.045
"""Of two factors about as near the simpler is taken, as long as it is off by no more than this."""
IN_ORDER = (1.0, 2.0, 1.5, 3.0, 4.0, 5.0, 6.0, 10.0, 8.0, 7.0, 2.5, 1.6, 3.5, 1.25, 4 / 3, 1.1, 1.8, 2.2, 2.7)
"""From the simplest on."""


@dataclass(frozen=True)
class Ladder:
    """From a smaller frame to a larger one.

    k: crop factor of the smaller over that of the larger, exactly; factor: what focal lengths are multiplied by;
        thirds: of a stop by which
    f-numbers are moved
    """

    k: float
    factor: float
    thirds: int

    @property
    def view_error(self) -> float:
        """By how much a focal length comes out too long, as a share."""
        return self.factor / self.k - 1

    @property
    def stops_error(self) -> float:
        """By how many stops an f-number comes out too large."""
        return self.thirds / 3 - 2 * log2(self.k)


def ladder(k: float) -> Ladder:
    """The conversion for a ratio of crop factors.

    Parameters
        k: of the smaller frame over the larger, 1 or more
    Returns
        the ratio, the simple factor that is next to it, and its sixths of a stop
    Raises
        DomainError below 1
    """
    if not float(positive("k", k)) >= 1:
        raise DomainError("k", "1 or more", k)
    near = min(FACTORS, key=lambda factor: abs(log2(factor / k)))
    simple = next((factor for factor in IN_ORDER if abs(factor / k - 1) <= SIMPLE), near)
    return Ladder(k, simple, round(6 * log2(k)))


def _moved(series: tuple[Stop, ...], stop: Stop, thirds: int) -> Stop | None:
    index = series.index(stop) + thirds
    return series[index] if 0 <= index < len(series) else None


def f_number_rungs(found: Ladder, marks: tuple[str, ...]) -> list[tuple[Stop, Stop]]:
    """F-numbers on the smaller frame, each with the one that does the same on the larger.

    Parameters
        found: the conversion
        marks: as typed, on the smaller frame
    Returns
        pairs of stops
    """
    return _rungs(F_NUMBERS, found.thirds, marks)


def iso_rungs(found: Ladder, marks: tuple[str, ...]) -> list[tuple[Stop, Stop]]:
    """ISO on the smaller frame, each with the one that is as noisy on the larger.

    Parameters
        found: the conversion
        marks: as typed, on the smaller frame
    Returns
        pairs of stops
    """
    return _rungs(ISOS, found.thirds, marks)


def _rungs(series: tuple[Stop, ...], thirds: int, marks: tuple[str, ...]) -> list[tuple[Stop, Stop]]:
    pairs = ((stop, _moved(series, stop, thirds)) for stop in series if stop.marked in marks)
    return [(stop, other) for stop, other in pairs if other is not None]
