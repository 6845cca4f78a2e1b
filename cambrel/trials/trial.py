"""A kind of trial as one object: its words, its shots, how its pictures are measured, what an eye says of it, and how
it is judged.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import TypedDict

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.photographs.light import Codes
from cambrel.trials.measured import Box, Marked, Readings
from cambrel.trials.outcomes import PictureReading
from cambrel.trials.planned import Planned
from cambrel.trials.proofs import BroughtBack, ProofLine, by_scales


@dataclass(frozen=True)
class Measured:
    """How the pictures of a trial are measured.

    tells: what to mark; suggested: where to begin looking
    is_marked: whether a part is marked at all; is_by_itself: whether what is suggested is measured without somebody
        having marked it
    needs_first: whether the picture of the reference is what the others are measured against
    """

    tells: str
    read: Callable[[Marked], Readings]
    suggested: Callable[[Codes], Box]
    is_marked: bool = True
    is_by_itself: bool = True
    needs_first: bool = False


@dataclass(frozen=True)
class Typed:
    """Something that an eye is asked for: kind is one of distance, millimetres, number, and answer, which has choices
    by key.
    """

    kind: str
    label: str
    low: float | None = None
    high: float | None = None
    choices: tuple[tuple[str, str], ...] = ()
    usual: tuple[str, str] = ("", "")
    """What stands there to begin with, in metres and in feet."""
    is_required: bool = True


class EyeAnswers(TypedDict, total=False):
    """What an eye may say, by what it is asked for; lengths in metres, those of a ruler in millimetres."""

    near: float
    far: float
    step: float
    ruler: float
    seen: str
    sharp: float
    stops: float


@dataclass(frozen=True)
class Eye:
    """What an eye says of a trial: what it is asked for, the readings that this comes to, and what was typed for those
    that are held.
    """

    asks: Mapping[str, Typed]
    readings: Callable[[EyeAnswers], dict[str, PictureReading]]
    typed: Callable[[Mapping[str, PictureReading]], EyeAnswers]


@dataclass(frozen=True)
class Trial:
    """A kind of trial.

    asks, how, look: what it asks, how it is set up, and what to look at afterwards
    figure: what is predicted, by the keys of `comparison.lines` and of what the explanations name
    shots: of one rig, those that are taken; is_usual: of which comparisons it is asked for by itself
    what: the readings that it is judged by; judge: how
    is_counted: whether a long time is counted by whole seconds, not set by a mark
    stop_takes_rest: whether a smaller stop takes what light is too much, as the stop has no part in what is tried
    before: what the simulated camera has before it: scene, lamp, card, or edge
    teaches: what a reading may be written onto the record of the gear as: offset_stops of a body, mtf50 of a lens, or
        nothing
    caution: the key of the caution that it calls for
    """

    key: str
    label: str
    asks: str
    how: str
    look: str
    figure: str
    shots: Callable[[Comparison, RigFigures], Iterator[Planned]]
    what: tuple[str, ...]
    is_usual: Callable[[Comparison], bool] = lambda comparison: False
    judge: Callable[[BroughtBack], list[ProofLine]] = by_scales
    measured: Measured | None = None
    eye: Eye | None = None
    is_counted: bool = False
    stop_takes_rest: bool = False
    before: str = "scene"
    teaches: str = ""
    caution: str = ""

    @property
    def is_full_size(self) -> bool:
        """Whether its pictures are looked at pixel by pixel."""
        return self.before in ("card", "edge")
