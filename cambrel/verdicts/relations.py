"""Whether two cameras show the same: view, place, focus, depth, blur; what verdicts of every topic begin with."""

from __future__ import annotations

from math import inf, log2

from cambrel.comparison.engine import RigFigures
from cambrel.comparison.rig import aperture_stops
from cambrel.optics.formats import covers
from cambrel.optics.quantities import is_unknown
from cambrel.wording.sentences import LEVEL_DEPTH, LEVEL_VIEW

ROUNDING = 1e-9
EQUIVALENT_VIEW = 0.02
"""Views no farther apart than this, with the same pupil, are equivalent; a gap that is no larger never leads.
"""
NEAR_HYPERFOCAL = 0.5
"""Focused beyond this share of it, depth of field grows much faster than what makes it."""


def view_ratio(a: RigFigures, b: RigFigures) -> float:
    """How much wider b sees than a at the subject, by the measure in force: field ~ length of the frame times d / v.

    Parameters
        a, b: of one comparison
    Returns
        above 1 where b sees wider
    """
    return float(b.field / a.field)


def same_view(a: RigFigures, b: RigFigures) -> bool:
    """Whether both frame alike.

    Parameters
        a, b: of one comparison
    Returns
        to within what is worth saying
    """
    return bool(abs(view_ratio(a, b) - 1) <= LEVEL_VIEW)


def same_spot(a: RigFigures, b: RigFigures) -> bool:
    """Whether both stand as far from the subject.

    Parameters
        a, b: of one comparison
    Returns
        to within what is worth saying
    """
    return bool(abs(b.settings.subject_distance_m / a.settings.subject_distance_m - 1) <= LEVEL_VIEW)


def same_focus(a: RigFigures, b: RigFigures) -> bool:
    """Whether both are focused at one distance; at two, the same view and pupil still take two different pictures.

    Parameters
        a, b: of one comparison
    Returns
        to within what is worth saying
    """
    one, other = a.settings.object_distance_m, b.settings.object_distance_m
    return bool(one == other or abs(other / one - 1) <= LEVEL_VIEW)


def depth_level(a: RigFigures, b: RigFigures) -> bool:
    """Whether depths of field are the same: both limits alike, also when far is infinite.

    Parameters
        a, b: of one comparison
    Returns
        False where either is not known
    """
    one, other = a.depth, b.depth
    if inf in (one.total_m, other.total_m):
        return bool(one.total_m == other.total_m and abs(other.near_m / one.near_m - 1) <= LEVEL_DEPTH)
    return bool(abs(other.total_m / one.total_m - 1) <= LEVEL_DEPTH)


def circles_agree(a: RigFigures, b: RigFigures) -> bool:
    """Whether the circles of confusion scale with the frames, so that equal pupils give equal depth. Depth goes with
    the circle.

    Parameters
        a, b: of one comparison
    Returns
        to within rounding
    """
    return bool(abs(b.frames.coc_mm * b.frames.crop / (a.frames.coc_mm * a.frames.crop) - 1) <= LEVEL_DEPTH)


def pupil_stops(a: RigFigures, b: RigFigures) -> float:
    """How many stops smaller b's entrance pupil is than a's; 0 where the pupils are equal.

    Parameters
        a, b: of one comparison
    Returns
        [stops]
    """
    return aperture_stops(a.blur.pupil_mm, b.blur.pupil_mm)


def blur_stops(a: RigFigures, b: RigFigures) -> float:
    """How many stops of aperture b's background blur is ahead of a's, each against its frame; NaN where unknown or
    nothing is there.

    Parameters
        a, b: of one comparison
    Returns
        [stops]; NaN where unknown or nothing is there
    """
    one, other = a.blur.background_share, b.blur.background_share
    return 2 * log2(other / one) if one > 0 and other > 0 else float("nan")


def is_soft(rig: RigFigures) -> bool:
    """Whether the background's disc passes the circle of confusion, which has to be known.

    Parameters
        rig: worked out
    Returns
        False where the circle of confusion is not known
    """
    return rig.blur.background_mm > rig.frames.coc_mm * (1 + ROUNDING)


def shapes_agree(a: RigFigures, b: RigFigures) -> bool:
    """Whether the frames are of one shape.

    Parameters
        a, b: of one comparison
    Returns
        to within rounding
    """
    one, other = a.frames.width_mm / a.frames.height_mm, b.frames.width_mm / b.frames.height_mm
    return bool(abs(other / one - 1) <= LEVEL_VIEW)


def goes_together(rig: RigFigures) -> bool:
    """Whether lens and body belong together as far as is known: one mount, and an image circle that covers the frame.

    Parameters
        rig: worked out
    Returns
        True where nobody said that they do not
    """
    share = rig.outfit.image_circle_share
    return bool(rig.outfit.mount_fits != 0 and (is_unknown(share) or covers(share, 1.0)))
