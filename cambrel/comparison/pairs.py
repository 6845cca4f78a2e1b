"""Two rigs of a comparison set against each other, as they stand."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace

from cambrel.comparison.engine import Comparison, compare
from cambrel.comparison.levers import AS_SET, standpoint
from cambrel.comparison.reference import make_reference
from cambrel.optics.quantities import DomainError

SAME = 1e-6
EACH_WHERE_IT_IS = replace(AS_SET, place="own")
SETTINGS = ("focal_length_mm", "f_number", "shutter_s", "iso", "subject_distance_m", "object_distance_m")


def pair_alone(comparison: Comparison, one: int, other: int) -> Comparison:
    """Two rigs against each other, the first as the reference, everything as it stands.

    Parameters
        comparison: as it stands
        one, other: indices of two rigs
    Returns
        with all other rigs' figures unknown; where the first has no image at its distance, the second is the reference.
        What is kept the same is what was, unless a rig would then not stay as it stands
    Raises
        DomainError where neither has an image
    """
    pair = comparison
    if comparison.reference not in (one, other):
        first = one if comparison.of(one).settings.focusable else other
        brief, rigs, hold = make_reference(comparison, first)
        pair = compare(brief, rigs, hold, comparison.conventions, first)
        if not all(_stands(comparison, pair, index) for index in (one, other)):
            stands = [standpoint(comparison, index) for index in range(len(rigs))]
            as_set = [stance.rig for stance in stands]
            # focused by the picture's own distance, or where that is from the sensor by that of the first
            for told in (comparison.brief, stands[first].brief):
                with suppress(DomainError):  # the first has no image of what is so far away
                    pair = compare(told, as_set, EACH_WHERE_IT_IS, comparison.conventions, first)
                if all(_stands(comparison, pair, index) for index in (one, other)):
                    break
    return pair.without([index for index in range(len(comparison.rigs)) if index not in (one, other)])


def _stands(before: Comparison, after: Comparison, index: int) -> bool:
    """Whether a rig is set and stands in both alike."""
    was, now = before.of(index).settings, after.of(index).settings
    if not was.focusable:
        return not now.focusable
    pairs = ((getattr(was, name), getattr(now, name)) for name in SETTINGS)
    return all(one == other or abs(other / one - 1) <= SAME for one, other in pairs)
