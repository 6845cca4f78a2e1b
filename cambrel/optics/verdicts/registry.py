"""The registry of verdicts: a verdict is a rule that looks at a comparison and says what is worth saying, with its figures."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.figures import Figure, Sentence


@dataclass(frozen=True)
class Verdict(Sentence):
    """A computed sentence about a comparison: its key, how much it matters here, and the rigs that it speaks of."""

    key: str
    importance: float
    rigs: tuple[int, ...]


PairRule = Callable[[Comparison, RigFigures, RigFigures], Iterator[Verdict]]
"""Looks at the reference rig `a` and another rig `b`."""
RigRule = Callable[[Comparison, RigFigures], Iterator[Verdict]]
"""Looks at one rig by itself."""

PAIR_RULES: dict[str, PairRule] = {}
RIG_RULES: dict[str, RigRule] = {}


def pair_rule(rule: PairRule) -> PairRule:
    """Enter a rule about the reference and each other rig."""
    PAIR_RULES[rule.__name__] = rule
    return rule


def rig_rule(rule: RigRule) -> RigRule:
    """Enter a rule about each rig by itself."""
    RIG_RULES[rule.__name__] = rule
    return rule


def say(key: str, importance: float, text: str, *about: RigFigures, **figures: Figure) -> Verdict:
    """A verdict about rigs; they stand in the text as {a} and {b}, the reference first, or as {b} alone."""
    names = ("a", "b") if len(about) == 2 else ("b",)
    letters = {name: Figure(rig.index, "rig") for name, rig in zip(names, about, strict=True)}
    return Verdict(text, letters | figures, key, importance, tuple(rig.index for rig in about))


def verdicts(comparison: Comparison) -> list[Verdict]:
    """All that is worth saying of a comparison, the most important first.

    A rule that has spoken already counts for less each time it speaks again, so that six rigs do not fill the list with one remark.

    Parameters
        comparison: without a walk
    Returns
        verdicts in order of importance; each of their figures is a figure of the comparison, or follows from those
    """
    found = [
        verdict
        for b in comparison.others()
        for rule in PAIR_RULES.values()
        for verdict in rule(comparison, comparison.first, b)
    ]
    found += [
        v
        for i in range(len(comparison.rigs))
        for rule in RIG_RULES.values()
        for v in rule(comparison, comparison.of(i))
    ]
    found = [verdict for verdict in found if verdict.is_sound]
    found.sort(key=lambda verdict: -verdict.importance)
    spoken: dict[str, int] = {}
    ranked = []
    for verdict in found:
        times = spoken.get(verdict.key, 0)
        spoken[verdict.key] = times + 1
        ranked.append((verdict.importance * 0.7**times, verdict))
    ranked.sort(key=lambda pair: -pair[0])
    return [verdict for _, verdict in ranked]
