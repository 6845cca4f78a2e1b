"""A question with its right answer, the answers that the typical mistakes give, the line of working, and a sentence to
be judged.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import isfinite, log, log1p, log2

from cambrel.optics.workings import Working
from cambrel.wording.sentences import LEVEL_STOPS

THIRD = 1 / 3
NEARLY = 0.05
"""A typed answer is right within a third of a stop, or 5 % where it is no matter of stops."""
MOST_SLIPS = 3
UNCLEAR = (0.5, 2.0)
"""Multiples of the smallest difference worth saying between which nobody is asked to judge."""


@dataclass(frozen=True)
class AnswerScale:
    """How far apart two answers are, in multiples of what is taken as right; and how far two have to be that stand side
    by side to pick from.
    """

    apart: Callable[[float, float], float]
    at_a_glance: float = 2.0


def _by_ratio(log_of_tolerance: float, at_a_glance: float = 2.0) -> AnswerScale:
    def apart(one: float, other: float) -> float:
        if not (one > 0 and other > 0):
            return float("inf")
        return abs(log(one / other)) / log_of_tolerance

    return AnswerScale(apart, at_a_glance)


RATIO = _by_ratio(log1p(NEARLY), 4.0)
F_NUMBER = _by_ratio(log(2) * THIRD / 2)
STEPS_OF_TWO = _by_ratio(log(2) * THIRD)
"""What doubles with a stop: ISO and seconds."""
IN_STOPS = AnswerScale(lambda one, other: abs(one - other) / THIRD)


@dataclass(frozen=True)
class Slip:
    """A typical mistake, and the answer of whoever makes it."""

    key: str
    value: float


@dataclass(frozen=True)
class Posed:
    """A question on what was given.

    slips: the mistakes whose answers can be told from the right one and from each other, the likeliest first
    offered: those of them that may stand beside the right answer to pick from
    """

    right: float
    slips: tuple[Slip, ...]
    offered: tuple[Slip, ...]
    working: Working

    @property
    def is_sound(self) -> bool:
        return isfinite(self.right) and len(self.offered) >= 2


def sign_of(size: float) -> int:
    """Which way a size goes.

    Parameters
        size: a signed multiple of what is worth saying
    Returns
        -1, 0 or 1
    """
    return 0 if abs(size) <= 1 else 1 if size > 0 else -1


def by_stops(ratio: float) -> float:
    """A ratio of light or time as signed multiples of the smallest difference worth saying.

    Parameters
        ratio: above 0
    Returns
        above 0 for more
    """
    return log2(ratio) / LEVEL_STOPS if ratio > 0 else float("nan")


def by_share(ratio: float, level: float) -> float:
    """A ratio as signed multiples of a share worth saying; NaN where there is none.

    Parameters
        ratio: above 0, or NaN
        level: the share that is the smallest worth saying
    Returns
        above 0 for more
    """
    return log(ratio) / log1p(level) if 0 < ratio < float("inf") else float("nan")
