"""The registry of verdicts: a verdict is a rule that looks at a comparison and says what is worth saying, with its
figures.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from enum import Enum
from typing import Any, TypeVar

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import Sentence


class Topic(Enum):
    """What of a picture a verdict speaks of; how much that matters here the ranking says."""

    IMPOSSIBLE = "what is impossible"
    ASKED = "who can take the picture"
    EQUIVALENT = "the same picture"
    FOCUS = "focus"
    VIEW = "view"
    DEPTH = "depth of field"
    BLUR = "blur"
    LIGHT = "light and noise"
    BRIGHTNESS = "brightness"
    DIFFRACTION = "diffraction"
    SHARPNESS = "sharpness"
    COVER = "cover"
    GEAR = "gear"
    TERMS = "the terms of the comparison"


@dataclass(frozen=True)
class Verdict(Sentence):
    """A computed sentence about a comparison.

    key: of the rule
    size: its difference, in multiples of the smallest worth saying: 0 for what is the same, infinite for what cannot be
    rigs: of which it speaks; the one that it is about comes last
    subsumes: keys of verdicts about the same rig that say a part of this one
    """

    key: str
    topic: Topic
    size: float
    rigs: tuple[int, ...]
    subsumes: tuple[str, ...] = ()

    def subsuming(self, *keys: str) -> Verdict:
        """The same, known to say what verdicts of these keys say about the rig."""
        return replace(self, subsumes=keys)


T = TypeVar("T", bound=Callable[..., Any])
PairRule = Callable[[Comparison, RigFigures, RigFigures], Iterator[Verdict]]
"""Looks at the reference rig `a` and another rig `b`."""
RigRule = Callable[[Comparison, RigFigures], Iterator[Verdict]]
"""Looks at one rig by itself."""
WholeRule = Callable[[Comparison], Iterator[Verdict]]
"""Looks at all rigs together."""

PAIR_RULES: dict[str, PairRule] = {}
RIG_RULES: dict[str, RigRule] = {}
WHOLE_RULES: dict[str, WholeRule] = {}


RESTS_ON: dict[str, tuple[str, ...]] = {}
"""By the key of a verdict, the figures that it rests on, by their keys in `optics.lines`."""


SAYS: dict[str, str] = {}
"""By the key of a verdict, why it is so, where its figures do not say that."""


def rests_on(*lines: str, of: tuple[str, ...] = (), says: str = "") -> Callable[[T], T]:
    """Say which figures a rule depends on.

    Parameters
        lines: keys of figures
        of: keys of the verdicts that it yields, where that is not just its own name
        says: why it is so, where the figures do not say that
    Returns
        what enters a rule
    """

    def enter(rule: T) -> T:
        for key in of or (rule.__name__,):
            RESTS_ON[key] = lines
            if says:
                SAYS[key] = says
        return rule

    return enter


def pair_rule(rule: PairRule) -> PairRule:
    """Enter a rule about the reference and each other rig.

    Parameters
        rule: that looks at the reference and another
    Returns
        the rule itself
    """
    PAIR_RULES[rule.__name__] = rule
    return rule


def rig_rule(rule: RigRule) -> RigRule:
    """Enter a rule about each rig by itself.

    Parameters
        rule: that looks at one rig
    Returns
        the rule itself
    """
    RIG_RULES[rule.__name__] = rule
    return rule


def whole_rule(rule: WholeRule) -> WholeRule:
    """Enter a rule about all rigs.

    Parameters
        rule: that looks at all together
    Returns
        the rule itself
    """
    WHOLE_RULES[rule.__name__] = rule
    return rule


def say(
    key: str,
    topic: Topic,
    size: float,
    text: str,
    *about: RigFigures,
    **figures: Figure,
) -> Verdict:
    """A verdict about rigs; they stand in the text as {a} and {b}, the reference first, or as {b} alone.

    Parameters
        key: of the verdict
        topic: what it speaks of
        size: a multiple of what is worth saying
        text: with names in braces
        about: the rigs
        figures: by the names in the text; those without a place are left out
    Returns
        the verdict
    """
    names = ("a", "b") if len(about) == 2 else ("b",)
    letters = {name: Figure(rig.index, "rig") for name, rig in zip(names, about, strict=True)}
    placed = {name: figure for name, figure in (letters | figures).items() if "{" + name + "}" in text}
    return Verdict(text, placed, key, topic, size, tuple(rig.index for rig in about))
