"""A question with its right answer, the answers that the typical mistakes give, the line of working, and a sentence to be judged."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import isfinite, log, log1p, log2

from cambrel.drills.given import Given
from cambrel.optics.workings import Working
from cambrel.wording.sentences import LEVEL_STOPS

THIRD = 1 / 3
NEARLY = 0.05
"""A typed answer is right within a third of a stop, or 5 % where it is no matter of stops."""
MOST_SLIPS = 3
UNCLEAR = (0.5, 2.0)
"""Multiples of the smallest difference worth saying between which nobody is asked to judge."""


@dataclass(frozen=True)
class Scale:
    """How far apart two answers are, in multiples of what is taken as right; and how far two have to be that stand side by side to pick from."""

    apart: Callable[[float, float], float]
    at_a_glance: float = 2.0


def _by_ratio(log_of_tolerance: float, at_a_glance: float = 2.0) -> Scale:
    def apart(one: float, other: float) -> float:
        if not (one > 0 and other > 0):
            return float("inf")
        return abs(log(one / other)) / log_of_tolerance

    return Scale(apart, at_a_glance)


RATIO = _by_ratio(log1p(NEARLY), 4.0)
F_NUMBER = _by_ratio(log(2) * THIRD / 2)
STEPS_OF_TWO = _by_ratio(log(2) * THIRD)
"""What doubles with a stop: ISO and seconds."""
IN_STOPS = Scale(lambda one, other: abs(one - other) / THIRD)


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


@dataclass(frozen=True)
class Kind:
    """One thing that people get wrong.

    unit: the kind of figure that is answered
    sizes: what the sentence to be judged is about, of the other frame against the first under either of two terms, as signed multiples of the
        smallest difference worth saying
    eye: under which hold two pictures show it, where the eye can learn it; size: by how much they then differ, in stops or doublings
    """

    key: str
    unit: str
    scale: Scale
    working: Callable[[Given], Working]
    slips: Callable[[Given, float], dict[str, float]]
    sizes: Callable[[Given], tuple[float, float]]

    def pose(self, given: Given) -> Posed:
        """The question with its answers."""
        line = self.working(given)
        right = float(line.result.value)
        made = [Slip(key, value) for key, value in self.slips(given, right).items() if isfinite(value)]
        known = self._told_apart(right, made, 1.0)
        return Posed(right, known, self._told_apart(right, known, self.scale.at_a_glance)[:MOST_SLIPS], line)

    def _told_apart(self, right: float, slips: Sequence[Slip], by: float) -> tuple[Slip, ...]:
        """The mistakes whose answers are farther than that from the right one and from those of the mistakes before them."""
        kept: list[Slip] = []
        for slip in slips:
            others = [right, *(one.value for one in kept)]
            if all(self.scale.apart(slip.value, other) > by for other in others):
                kept.append(slip)
        return tuple(kept)

    def is_right(self, given: Given, said: float) -> bool:
        """Whether an answer is as near as is asked for."""
        return bool(self.scale.apart(said, self.pose(given).right) <= 1)

    def slip_of(self, given: Given, said: float) -> str:
        """Which mistake gives an answer, the nearest where several do; empty where none does."""
        near = [(self.scale.apart(said, slip.value), slip.key) for slip in self.pose(given).slips]
        distance, key = min(near, default=(float("inf"), ""))
        return key if distance <= 1 else ""

    def holds(self, given: Given) -> tuple[bool, bool]:
        """Whether the sentence is true under the first terms, and under the second."""
        first, second = (_sign(size) == given.claim for size in self.sizes(given))
        return first, second

    def is_clear(self, given: Given) -> bool:
        """Whether nothing that is to be judged is near to the smallest difference worth saying."""
        low, high = UNCLEAR
        return all(isfinite(size) and not low < abs(size) < high for size in self.sizes(given))


def _sign(size: float) -> int:
    return 0 if abs(size) <= 1 else 1 if size > 0 else -1


def by_stops(ratio: float) -> float:
    """A ratio of light or time as signed multiples of the smallest difference worth saying."""
    return log2(ratio) / LEVEL_STOPS if ratio > 0 else float("nan")


def by_share(ratio: float, level: float) -> float:
    """A ratio as signed multiples of a share worth saying; NaN where there is none."""
    return log(ratio) / log1p(level) if 0 < ratio < float("inf") else float("nan")
