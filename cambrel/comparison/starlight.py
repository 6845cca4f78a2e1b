"""Star figures of the rigs of a comparison: seconds by every school and by the exact drift, and the light gathered."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import ceil, inf, isfinite, log2, nan, radians, tan

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.schools import under_stars
from cambrel.optics import stars
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stars import STAR_SCHOOLS, UnderStars
from cambrel.optics.steadiness import RADIANS_PER_ARC_SECOND
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_VIEW, Sentence

MOON_ARC_MIN = 31.0


@dataclass(frozen=True)
class Starlight:
    """Of one rig: how long stars stay points by each school, and what its shutter makes of them.

    allowed_mm: the trail that still counts as a point
    middle_s, worst_s: until it is reached in the middle and at the worst edge of the frame; without end at the pole
    trail_mm: the longest trail at the shutter in force
    points_stops, sky_stops: light gathered from points and from the sky, against the reference [stops]
    """

    declination_deg: float
    by_school_s: Mapping[str, float]
    """How long stars stay points, by the keys of STAR_SCHOOLS; unknown where a school depends on what is not known."""
    allowed_mm: float
    middle_s: float
    worst_s: float
    trail_mm: float
    middle_trail_mm: float
    points_stops: float
    sky_stops: float


def declination_of(comparison: Comparison) -> float:
    """Where the picture looks on the sky; the equator, where stars move fastest, unless it says.

    Parameters
        comparison: of any picture
    Returns
        [degrees]; 0 where the picture does not say
    """
    asked = comparison.brief.declination_deg
    return 0.0 if asked is None else asked


def starlight(comparison: Comparison, rig: RigFigures, declination_deg: float) -> Starlight | None:
    """The figures of a rig; None for one that sees nothing, or for which no criterion is known.

    Parameters
        comparison: worked out
        rig: one of it
        declination_deg: where it looks on the sky [degrees]
    Returns
        None for one that sees nothing, or for which no criterion is known
    """
    allowed = rig.frames.coc_mm
    if not rig.settings.focusable or not isfinite(allowed):
        return None
    s, frame = rig.settings, rig.frames
    f, d, t = s.focal_length_mm, declination_deg, s.shutter_s
    given = below_stars(rig, d)
    worst_a_second = float(stars.worst_drift_mm(f, d, 1.0, frame.width_mm, frame.height_mm))
    middle = float(stars.seconds_for_drift(f, d, allowed))
    gathered, sky = _gathered(rig, middle), t / s.f_number**2
    first = comparison.first
    points_stops = sky_stops = nan
    if first.settings.focusable and isfinite(first.frames.coc_mm):
        then = float(stars.seconds_for_drift(first.settings.focal_length_mm, d, first.frames.coc_mm))
        points_stops = log2(gathered / _gathered(first, then))
        sky_stops = log2(sky / (first.settings.shutter_s / first.settings.f_number**2))
    return Starlight(
        d,
        {key: float(school.value(given)) for key, school in STAR_SCHOOLS.items()},
        allowed,
        middle,
        allowed / worst_a_second,
        worst_a_second * t,
        0.0 if middle == inf else allowed / middle * t,
        points_stops,
        sky_stops,
    )


def below_stars(rig: RigFigures, declination_deg: float) -> UnderStars:
    """What of a rig the seconds of stars depend on.

    Parameters
        rig: worked out
        declination_deg: where it looks on the sky [degrees]
    Returns
        what a school of the stars depends on
    """
    return under_stars(rig.frames, rig.settings.focal_length_mm, rig.settings.f_number, declination_deg)


def longest_as_points_s(comparison: Comparison, rig: RigFigures, declination_deg: float, school: str = "") -> float:
    """How long stars are points by a school.

    Parameters
        comparison: worked out
        rig: one of it
        declination_deg: where it looks on the sky [degrees]
        school: a key of STAR_SCHOOLS; by default the one in force
    Returns
        [s]; NaN where what it depends on is not known
    """
    return float(STAR_SCHOOLS[school or comparison.conventions.star_rule].value(below_stars(rig, declination_deg)))


def _gathered(rig: RigFigures, seconds: float) -> float:
    """Light of a point that gathers on one disc: by the pupil's area, until it has drifted off."""
    return rig.blur.pupil_mm**2 * min(rig.settings.shutter_s, seconds)


def target_mm(rig: RigFigures, arc_minutes: float) -> float:
    """How large something of an angular size is in the middle of the frame [mm].

    Parameters
        rig: worked out
        arc_minutes: its angular size [arc minutes]
    Returns
        [mm]
    """
    return 2 * rig.settings.focal_length_mm * tan(radians(arc_minutes / 120))


@dataclass(frozen=True)
class Tracked:
    """A total exposure in frames, with and without a tracker that turns with the sky.

    still_s, tracked_s: how long one frame may be; its shake and its wind are not in it
    megabytes: of the raw files of the frames without a tracker; unknown where one is
    load: the weight of body and lens over what the tracker carries; unknown where either is
    """

    total_s: float
    still_s: float
    still_frames: float
    tracked_s: float
    tracked_frames: float
    megabytes: float
    tracked_megabytes: float
    load: float


HEAVY = 0.5
"""A tracker that carries more than this share of what it may is unsteady."""


def tracked(
    comparison: Comparison,
    rig: RigFigures,
    declination_deg: float,
    payload_g: float,
    error_arc_s_per_min: float,
    total_s: float,
) -> Tracked | None:
    """What a total exposure takes with and without a tracker.

    Parameters
        comparison: worked out
        rig: one of it
        declination_deg: where it looks on the sky [degrees]
        payload_g: that the tracker carries [g]
        error_arc_s_per_min: by which it strays [arc seconds a minute]
        total_s: of all frames [s]
    Returns
        None for a rig that sees nothing, or for which it is not known how long stars are points
    """
    if not rig.settings.focusable or not isfinite(rig.frames.coc_mm):
        return None
    still = longest_as_points_s(comparison, rig, declination_deg)
    if is_unknown(still):
        return None
    wandering = error_arc_s_per_min / 60 * RADIANS_PER_ARC_SECOND * rig.settings.focal_length_mm
    followed = rig.frames.coc_mm / wandering
    counts = [float(ceil(total_s / each - ROUNDING)) for each in (still, followed)]
    each = rig.rig.body.raw_megabytes
    sizes = [nan if each is None else max(1.0, count) * each for count in counts]
    return Tracked(
        total_s,
        still,
        max(1.0, counts[0]),
        followed,
        max(1.0, counts[1]),
        sizes[0],
        sizes[1],
        rig.outfit.weight_g / payload_g,
    )


ROUNDING = 1e-9


def says_tracker(rig: RigFigures, found: Tracked) -> Sentence:
    """How many frames a total takes with and without the tracker, the disk they fill, and whether it carries the rig.

    Parameters
        rig: on the tracker
        found: its figures
    Returns
        one sentence with its figures
    """
    figures = {
        "b": Figure(rig.index, "rig"),
        "total": Figure(found.total_s, "time"),
        "frames": Figure(found.still_frames, "number"),
        "each": Figure(min(found.still_s, found.total_s), "time"),
        "fewer": Figure(found.tracked_frames, "number"),
        "longer": Figure(min(found.tracked_s, found.total_s), "time"),
    }
    text = "For {total} in all {b} takes {frames} frames of {each} on a tripod"
    if found.still_frames == 1:
        text = "For {total} in all {b} takes one frame on a tripod"
    if isfinite(found.megabytes):
        figures |= {"disk": Figure(found.megabytes, "MB"), "less": Figure(found.tracked_megabytes, "MB")}
        text += ", {disk} of raw files"
    text += (
        ". On the tracker it is one frame"
        if found.tracked_frames == 1
        else ". On the tracker it is {fewer} of {longer}"
    )
    if isfinite(found.megabytes):
        text += ", {less}"
    if not isfinite(found.load):
        return Sentence(text + ". Whether the tracker carries it is not known.", figures)
    figures["load"] = Figure(found.load, "share")
    if found.load > 1:
        return Sentence(
            text + ". The camera and lens are {load} of what the tracker carries: too heavy for it.", figures
        )
    if found.load > HEAVY:
        return Sentence(
            text + ". The camera and lens are {load} of what the tracker carries. Over half, it may not track well.",
            figures,
        )
    return Sentence(text + ". The camera and lens are {load} of what the tracker carries.", figures)


def says_stars(rig: RigFigures, found: Starlight) -> Sentence:
    """How long stars stay points, and what the shutter in force makes of them.

    Parameters
        rig: under the stars
        found: its figures
    Returns
        one sentence with its figures
    """
    figures = {
        "b": Figure(rig.index, "rig"),
        "worst": Figure(found.worst_s, "s"),
        "shutter": Figure(rig.settings.shutter_s, "s"),
    }
    text = "{b} keeps stars as points for {middle} in the middle of its frame and {worst} at its worst edge"
    if found.middle_s == inf:
        text = (
            "{b} keeps the pole star in the middle of its frame in place, and stars at its worst edge as "
            "points for {worst}"
        )
    else:
        figures["middle"] = Figure(found.middle_s, "s")
    longest = found.allowed_mm * (1 + LEVEL_VIEW)
    if found.trail_mm <= longest:
        return Sentence(text + ". At {shutter} they are points all over the frame.", figures)
    figures["times"] = Figure(found.trail_mm / found.allowed_mm, "times")
    if found.middle_trail_mm <= longest:
        return Sentence(
            text + ". At {shutter} they are points in the middle, and at the edge trails {times} as long as a "
            "point may be.",
            figures,
        )
    return Sentence(text + ". At {shutter} they trail, up to {times} as long as a point may be.", figures)
