"""Camera settings: the third-stop series of f-numbers, shutter times and ISO, each with its marking and its exact
value.

A setting typed as a marking is computed as typed; the series give the nearest setting that a camera offers and what it
costs.
Source: ISO 517 (f-number markings), ISO 516 (shutter markings), ISO 12232 (ISO speeds).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import log2

from cambrel.optics.quantities import DomainError


@dataclass(frozen=True)
class Stop:
    """A camera setting: its marking, the marking's number as typed, and the exact value that it stands for."""

    marked: str
    typed: float
    exact: float


def _f_number(index: int, marked: str) -> Stop:
    return Stop(marked, float(marked), 2 ** (index / 6))


def _shutter(index: int, marked: str) -> Stop:
    over, _, under = marked.partition("/")
    return Stop(marked, float(over) / float(under or 1), 2 ** (index / 3))


def _iso(index: int, marked: str) -> Stop:
    return Stop(marked, float(marked), 100 * 2 ** (index / 3))


_F_MARKS = (
    "0.5 0.56 0.63 0.7 0.8 0.9 1 1.1 1.2 1.4 1.6 1.8 2 2.2 2.5 2.8 3.2 3.5 4 4.5 5 5.6 6.3 7.1 8 9 10 11 13 14 16 18 20"
    " 22 25 29 32 36 40 45 51 57 64"
)
_SHUTTER_MARKS = (
    "1/32000 1/25000 1/20000 1/16000 1/12800 1/10000 1/8000 1/6400 1/5000 1/4000 1/3200 1/2500 1/2000 1/1600 1/1250"
    " 1/1000 1/800 1/640 1/500 1/400 1/320 1/250 1/200 1/160 1/125 1/100 1/80 1/60 1/50 1/40 1/30 1/25 1/20 1/15 1/13"
    " 1/10 1/8 1/6 1/5 1/4 0.3 0.4 0.5 0.6 0.8 1 1.3 1.6 2 2.5 3.2 4 5 6 8 10 13 15 20 25 30"
)
_ISO_MARKS = (
    "12 16 20 25 32 40 50 64 80 100 125 160 200 250 320 400 500 640 800 1000 1250 1600 2000 2500 3200 4000 5000 6400"
    " 8000 10000 12800 16000 20000 25600 32000 40000 51200 64000 80000 102400 128000 160000 204800 256000 320000 409600"
)

F_NUMBERS: tuple[Stop, ...] = tuple(_f_number(i, mark) for i, mark in enumerate(_F_MARKS.split(), start=-6))
SHUTTERS: tuple[Stop, ...] = tuple(_shutter(i, mark) for i, mark in enumerate(_SHUTTER_MARKS.split(), start=-45))
ISOS: tuple[Stop, ...] = tuple(_iso(i, mark) for i, mark in enumerate(_ISO_MARKS.split(), start=-9))


def nearest(value: float, series: tuple[Stop, ...]) -> Stop:
    """The setting whose exact value is nearest in stops; a value typed as a marking is that marking.

    Parameters
        value: wanted
        series: F_NUMBERS, SHUTTERS or ISOS
    Returns
        one of the series
    Raises
        DomainError for a value that is not above 0 and finite
    """
    if not 0 < value < float("inf"):
        raise DomainError("value", "above 0 and finite", value)
    for stop in series:
        if stop.typed == value:
            return stop
    return min(series, key=lambda stop: abs(log2(stop.exact / value)))


def nearest_within(value: float, series: tuple[Stop, ...], low: float | None, high: float | None) -> Stop:
    """The nearest setting that one camera or lens offers: of the series within its range, and the ends of the range
    themselves.

    Parameters
        value: wanted
        series: F_NUMBERS, SHUTTERS or ISOS
        low, high: what the gear can do, None where that is not known
    Returns
        one of the series, or an end
    Raises
        DomainError for a value that is not above 0 and finite
    """
    lowest, highest = 0.0 if low is None else low, float("inf") if high is None else high
    inside = [stop for stop in series if lowest <= stop.typed <= highest]
    ends = [
        Stop(f"{end:g}", end, end) for end in (low, high) if end is not None and all(s.typed != end for s in inside)
    ]
    return nearest(value, tuple(inside + ends) or series)


def between(series: tuple[Stop, ...], low: float, high: float) -> tuple[Stop, ...]:
    """The settings from low to high, with some tolerance for markings that are rounded.

    Parameters
        series: whole stops, halves or thirds, in their order
        low, high: the ends as typed, in the series' unit
    Returns
        those of the series that a marking of 2 % either side lets through
    """
    return tuple(stop for stop in series if low * 0.98 <= stop.typed <= high * 1.02)
