"""What the schools of a comparison need to know of each rig: the same for figures, advice and explanations."""

from __future__ import annotations

from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.figures import Frames, N
from cambrel.optics.good_enough import Resolved
from cambrel.optics.stars import UnderStars
from cambrel.optics.steadiness import SUPPORT_STOPS, Held


def support_of(brief: Brief) -> str:
    """What carries the camera; a hand, unless the picture says.

    Parameters
        brief: a picture
    Returns
        a key of SUPPORTS
    """
    return brief.support or "hand"


def held_by(
    brief: Brief,
    conventions: Conventions,
    frames: Frames[N],
    focal_length_mm: N,
    image_distance_mm: N,
    steadied_stops: N,
) -> Held:
    """How cameras are held, one or many.

    Parameters
        brief, conventions: what carries them, and how far a hand turns
        frames: of each
        focal_length_mm, image_distance_mm: [mm]
        steadied_stops: what stabilises each, 0 where that is not known
    Returns
        what a school of the hand depends on
    """
    stops = steadied_stops + SUPPORT_STOPS.get(support_of(brief), 0.0)
    return Held(focal_length_mm, frames.crop, stops, image_distance_mm, frames.coc_mm, conventions.shake_arc_s)


def under_stars(frames: Frames[N], focal_length_mm: N, f_number: N, declination_deg: float) -> UnderStars:
    """Cameras that look at the stars, one or many.

    Parameters
        frames: of each
        focal_length_mm: [mm]
        f_number: as set
        declination_deg: where they look on the sky [degrees]
    Returns
        what a school of the stars depends on
    """
    return UnderStars(
        focal_length_mm,
        f_number,
        frames.crop,
        frames.pitch_um,
        frames.width_mm,
        frames.height_mm,
        frames.coc_mm,
        declination_deg,
    )


def shown_by(brief: Brief, conventions: Conventions, resolved_per_mm: N, long_side_mm: N, pixels_along: N) -> Resolved:
    """Pictures as they are to be shown, one or many.

    Parameters
        brief, conventions: how large it is shown, from where it is looked at, and by which lines
        resolved_per_mm: on the sensor [cycles/mm]
        long_side_mm: of the frame [mm]
        pixels_along: that side
    Returns
        what a school of good enough depends on
    """
    return Resolved(
        resolved_per_mm,
        long_side_mm,
        pixels_along,
        brief.viewing_distance_mm,
        conventions.lines_per_mm,
        conventions.press_lines_per_inch,
    )
