"""Fair opponents: which lens on one camera answers which on another, by the view it covers and by its light and depth.
Lengths in mm.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log, log2

from cambrel.comparison.rig import Rig
from cambrel.optics.formats import crop_factor

AS_LONG = 0.10
"""A single focal length answers those within so much of it."""
LEAST_SHARE = 0.2
"""Of a lens's range that another must cover to answer it."""


@dataclass(frozen=True)
class Opponent:
    """The lens that answers another: its number, what share of the other's range it covers, and by how many stops more
    it lets in over the
    whole picture (and less is sharp); None where an f-number is not known."""

    number: int
    share: float
    stops: float | None


def reach(rig: Rig, by: str = "diagonal") -> tuple[float, float] | None:
    """The equivalent focal lengths that a lens answers for, a single one with what is as good as it.

    Parameters
        rig: a lens on a body
        by: the measure of the crop
    Returns
        shortest and longest [mm]; None where they are not known
    """
    short, long = rig.lens.focal_min_mm, rig.lens.focal_max_mm
    if short is None or long is None or not rig.lens.rectilinear:
        return None
    crop = crop_factor(rig.body.sensor, by=by)
    if long / short < 1 + AS_LONG:
        return short * crop / (1 + AS_LONG), long * crop * (1 + AS_LONG)
    return short * crop, long * crop


def answer(rig: Rig, others: Sequence[Rig], by: str = "diagonal") -> Opponent | None:
    """The rig that answers one best: it covers most of its range, and of those that cover as much it is nearest in
    light.

    Parameters
        rig, others: cameras with their lenses
        by: measure of the crop factor
    Returns
        Answer; None where none of them covers enough
    """
    mine = reach(rig, by)
    if mine is None:
        return None
    opponents: list[Opponent] = []
    for number, other in enumerate(others):
        theirs = reach(other, by)
        if theirs is None:
            continue
        low, high = max(mine[0], theirs[0]), min(mine[1], theirs[1])
        share = log(high / low) / log(mine[1] / mine[0]) if high > low else 0.0
        if share >= LEAST_SHARE:
            opponents.append(Opponent(number, share, _stops(rig, other, exp((log(low) + log(high)) / 2), by)))
    return max(opponents, key=lambda opponent: (round(opponent.share, 6), -abs(opponent.stops or 0.0)), default=None)


def _stops(rig: Rig, other: Rig, equivalent_mm: float, by: str) -> float | None:
    """By how many stops more light the other takes in at a focal length that both have."""
    numbers = []
    for opponent_rig in (rig, other):
        if not opponent_rig.lens.widest:
            return None
        crop = crop_factor(opponent_rig.body.sensor, by=by)
        low, high = opponent_rig.lens.focal_min_mm or 0.0, opponent_rig.lens.focal_max_mm or 0.0
        at = min(max(equivalent_mm / crop, low), high)
        numbers.append(float(opponent_rig.lens.widest_f_number(at)) * crop)
    return 2 * log2(numbers[0] / numbers[1])
