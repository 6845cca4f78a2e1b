"""Computed sentences: text with named places, and the figures that go there, unrounded. The screen's edge formats each by its kind."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import isfinite

KINDS = frozenset({"rig", "word", "m", "mm", "um", "f", "stops", "times", "share", "iso", "s", "deg", "g", "number"})
"""rig: an index, shown as its letter; f: an f-number; stops: an amount without its sign; share: a ratio shown in percent."""

LEVEL_VIEW = 0.01
LEVEL_STOPS = 1 / 6
LEVEL_DEPTH = 0.05
LEVEL_WEIGHT = 0.05
LEVEL_EFFECTIVE_STOPS = 0.1
"""The smallest differences worth saying; below them the word is "level"."""


@dataclass(frozen=True)
class Figure:
    """A value and its kind, which says how it is shown."""

    value: float | str
    kind: str

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise ValueError(f"kind must be one of {sorted(KINDS)}, got {self.kind!r}")


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
    """Whether a figure is neither unknown nor infinite."""
    return isfinite(value)


def unknown(value: float) -> bool:
    return value != value
