"""What matters most: the one place that puts verdicts in order, for this picture.

First what cannot be at all, and a subject that is out of focus; then who makes the picture that is asked for and who
does not; then the differences in what the picture asks for, then all other differences, each by how many times it
passes the smallest worth saying; then the gear, the terms, and what is level.
"""

from __future__ import annotations

from collections import Counter

from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison
from cambrel.verdicts.registry import PAIR_RULES, RIG_RULES, WHOLE_RULES, Topic, Verdict

CANNOT, SOFT, ASKED, SAME, ASKED_DIFFERENCE, ALSO_SAME, DIFFERENCE, GEAR, TERMS, LEVEL = range(10)
_FIXED = {Topic.IMPOSSIBLE: CANNOT, Topic.FOCUS: SOFT, Topic.ASKED: ASKED, Topic.GEAR: GEAR, Topic.TERMS: TERMS}


def asked_topics(brief: Brief) -> frozenset[Topic]:
    """What a picture asks for: a subject in focus always, the rest where the brief says so.

    Parameters
        brief: a picture
    Returns
        the topics
    """
    asked = {Topic.FOCUS}
    if brief.sharp_front_m is not None or brief.sharp_behind_m is not None:
        asked.add(Topic.DEPTH)
    if brief.width_shown_m is not None:
        asked |= {Topic.VIEW, Topic.COVER}
    if brief.slowest_shutter_s is not None or brief.subject_speed_m_per_s > 0:
        asked |= {Topic.LIGHT, Topic.BRIGHTNESS}
    return frozenset(asked)


def verdicts(comparison: Comparison) -> list[Verdict]:
    """All that is worth saying of a comparison, the most important first; one fact is said once.

    Parameters
        comparison: without a walk
    Returns
        verdicts in order of importance; each of their figures is a figure of the comparison, or follows from those
    """
    return ranked(found(comparison), comparison)


def found(comparison: Comparison) -> list[Verdict]:
    """What every rule says, in no order.

    Parameters
        comparison: worked out
    Returns
        without sentences that have an unknown or endless figure
    """
    said = [
        verdict
        for b in comparison.others()
        for rule in PAIR_RULES.values()
        for verdict in rule(comparison, comparison.first, b)
    ]
    said += [verdict for rule in WHOLE_RULES.values() for verdict in rule(comparison)]
    said += [
        verdict
        for index in range(len(comparison.rigs))
        for rule in RIG_RULES.values()
        for verdict in rule(comparison, comparison.of(index))
    ]
    return [verdict for verdict in said if verdict.is_sound]


def ranked(all_said: list[Verdict], comparison: Comparison) -> list[Verdict]:
    """Verdicts in order. Within a tier every rule speaks once before one speaks again, so that six rigs do not fill the
    list with one remark.

    Parameters
        all_said: of one comparison
        comparison: that one
    Returns
        in the order in which they are shown
    """
    part = {(key, verdict.rigs[-1]) for verdict in all_said for key in verdict.subsumes}
    kept = [verdict for verdict in all_said if (verdict.key, verdict.rigs[-1]) not in part]
    asked = asked_topics(comparison.brief)
    equals = sum(verdict.topic is Topic.EQUIVALENT for verdict in kept)
    all_equal = equals > 0 and equals == len(comparison.rigs) - 1

    def tier(verdict: Verdict) -> int:
        if verdict.topic in _FIXED:
            return _FIXED[verdict.topic]
        if verdict.topic is Topic.EQUIVALENT:
            return SAME if all_equal else ALSO_SAME
        if verdict.size < 1:
            return LEVEL
        return ASKED_DIFFERENCE if verdict.topic in asked else DIFFERENCE

    kept.sort(key=lambda verdict: (tier(verdict), -verdict.size))
    spoken: Counter[str] = Counter()
    turns = []
    for verdict in kept:
        turns.append((tier(verdict), spoken[verdict.key], -verdict.size, verdict))
        spoken[verdict.key] += 1
    turns.sort(key=lambda turn: turn[:3])
    return [verdict for *_, verdict in turns]
