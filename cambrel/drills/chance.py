"""Whether somebody can tell two pictures apart, from hits in a test with a reference: how likely so many hits are by
guessing alone.

Source: ISO 10399, "Sensory analysis: duo-trio test", where a third sample is one of two and the assessor says which.
"""

from __future__ import annotations

from math import comb

from cambrel.optics.quantities import DomainError

RARE = 0.05
"""What guessing brings about less often than this is taken for seeing, by that standard's usual risk."""


def by_guessing(hits: int, tries: int) -> float:
    """Probability of at least so many hits where each is right by an even chance.

    Parameters
        hits: right answers, from 0 to tries
        tries: answers in all, at least 1
    Returns
        from 0 to 1
    Raises
        DomainError where hits are not among the tries
    """
    if not tries >= 1:
        raise DomainError("tries", "at least 1", tries)
    if not 0 <= hits <= tries:
        raise DomainError("hits", f"from 0 to {tries}", hits)
    return float(sum(comb(tries, k) for k in range(hits, tries + 1)) / 2**tries)
