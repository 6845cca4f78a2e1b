"""The f-number between one's own two systems, as it is worked out in the head. The right answer is the core's own."""

from __future__ import annotations

from math import sqrt

from cambrel.drills.given import Given
from cambrel.drills.posing import by_stops


def slips(given: Given, right: float) -> dict[str, float]:
    """What somebody answers who carries the f-number the wrong way, by half of it, or not at all.

    Parameters
        given: the case
        right: the answer
    Returns
        by the name of the slip, what it leads to
    """
    n, k = given.f_number, given.k
    return {"inverted": n / k, "half": n * sqrt(k), "unchanged": n}


def sizes(given: Given) -> tuple[float, float]:
    """The f-number that does the same, for the exposure and for depth and light.

    Parameters
        given: the case
    Returns
        signed multiples of what is worth saying
    """
    return 0.0, by_stops(given.k**2)
