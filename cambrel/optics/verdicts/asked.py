"""Who makes the picture that is asked for, and who does not: the two rigs that differ most in it, with the demand that decides."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from cambrel.optics.comparison import Comparison
from cambrel.optics.fulfilment import CANNOT, DOES, NEARLY, Fulfilment, fulfilment
from cambrel.optics.verdicts.registry import Topic, Verdict, say, whole_rule

ORDER = (DOES, NEARLY, CANNOT)
TEXTS = {
    (DOES, CANNOT): "{a} makes this picture as set, {b} does not: ",
    (DOES, NEARLY): "{a} makes this picture as set, {b} just misses it: ",
    (NEARLY, CANNOT): "{a} just misses this picture, {b} does not make it: ",
}


@whole_rule
def asked(comparison: Comparison) -> Iterator[Verdict]:
    """The rig that is nearest to the picture against the one that is farthest from it. One that cannot focus is spoken of apart."""
    judged = [
        one for one in fulfilment(comparison) if one.status in ORDER and comparison.of(one.index).settings.focusable
    ]
    if not judged:
        return

    def place(one: Fulfilment) -> int:
        return ORDER.index(one.status)

    best = min(judged, key=lambda one: (place(one), one.index != comparison.reference))
    worst = max(judged, key=lambda one: (place(one), one.index != comparison.reference))
    text = TEXTS.get((best.status, worst.status))
    if text is not None:
        check = worst.checks[0]
        rigs = comparison.of(best.index), comparison.of(worst.index)
        yield say("asked", Topic.ASKED, inf, text + check.text + ".", *rigs, **check.figures)
