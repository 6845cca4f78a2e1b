"""Computed sentences: text with named places, and the figures that go there, unrounded. The screen's edge formats each
by its kind.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import inf, isfinite, log, log1p

from cambrel.optics.workings import Figure

LEVEL_VIEW = 0.01
LEVEL_STOPS = 1 / 6
LEVEL_DEPTH = 0.05
LEVEL_WEIGHT = 0.05
LEVEL_EFFECTIVE_STOPS = 0.1
"""The smallest differences worth saying; below them two are called the same."""


def by_stops(difference: float) -> float:
    """A difference in stops as a multiple of the smallest worth saying.

    Parameters
        difference: [stops]
    Returns
        a multiple with the sign of the difference
    """
    return abs(difference) / LEVEL_STOPS


def by_ratio(ratio: float, level: float) -> float:
    """A ratio as a multiple of the smallest worth saying; infinite for one that has no end.

    Parameters
        ratio: above 0
        level: the share that is the smallest worth saying
    Returns
        a multiple, above 0 for more; infinite for a ratio that has no end
    """
    return inf if not 0 < ratio < inf else abs(log(ratio)) / log1p(level)


@dataclass(frozen=True)
class Sentence:
    """Text with {places} and a figure for each."""

    text: str
    figures: Mapping[str, Figure]

    @property
    def is_sound(self) -> bool:
        """Whether no number in it is unknown or infinite."""
        return all(isinstance(f.value, str) or isfinite(f.value) for f in self.figures.values())


def known(value: float) -> bool:
    """Whether a figure is neither unknown nor infinite.

    Parameters
        value: any figure
    Returns
        False for NaN and the infinities
    """
    return isfinite(value)


def listed(names: Sequence[str]) -> str:
    """Names as they are told one after the other: a, b and c.

    Parameters
        names: one or more
    Returns
        with commas, and "and" before the last
    """
    return names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]
