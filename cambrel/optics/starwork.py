"""Star figures of the rigs of a comparison: seconds by every school and by the exact drift, and the light gathered."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, isfinite, log2, nan, radians, tan

from cambrel.optics import stars
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.sentences import LEVEL_VIEW, Figure, Sentence

RULES = (500, 400, 300)
"""Schools of the rule of thumb."""
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
    rules_s: tuple[float, ...]
    aperture_pixel_s: float
    allowed_mm: float
    middle_s: float
    worst_s: float
    trail_mm: float
    middle_trail_mm: float
    points_stops: float
    sky_stops: float


def declination_of(comparison: Comparison) -> float:
    """Where the picture looks on the sky; the equator, where stars move fastest, unless it says."""
    asked = comparison.brief.declination_deg
    return 0.0 if asked is None else asked


def starlight(comparison: Comparison, rig: RigFigures, declination_deg: float) -> Starlight | None:
    """The figures of a rig; None for one that sees nothing, or for which no criterion is known."""
    allowed = rig.frames.coc_mm
    if not rig.settings.focusable or not isfinite(allowed):
        return None
    s, frame = rig.settings, rig.frames
    f, d, t = s.focal_length_mm, declination_deg, s.shutter_s
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
        tuple(float(stars.rule_seconds(f, frame.crop, constant)) for constant in RULES),
        float(stars.aperture_pixel_rule_seconds(s.f_number, f, frame.pitch_um)) if isfinite(frame.pitch_um) else nan,
        allowed,
        middle,
        allowed / worst_a_second,
        worst_a_second * t,
        0.0 if middle == inf else allowed / middle * t,
        points_stops,
        sky_stops,
    )


def longest_as_points_s(comparison: Comparison, rig: RigFigures, declination_deg: float) -> float:
    """How long stars are points by the school in force; unknown where what it goes by is not known."""
    s, frame, school = rig.settings, rig.frames, comparison.conventions.star_rule
    if school == "aperture_pixel":
        if not isfinite(frame.pitch_um):
            return nan
        return float(stars.aperture_pixel_rule_seconds(s.f_number, s.focal_length_mm, frame.pitch_um))
    if school != "exact":
        return float(stars.rule_seconds(s.focal_length_mm, frame.crop, float(school.removeprefix("rule_"))))
    a_second = float(stars.worst_drift_mm(s.focal_length_mm, declination_deg, 1.0, frame.width_mm, frame.height_mm))
    return frame.coc_mm / a_second


def _gathered(rig: RigFigures, seconds: float) -> float:
    """Light of a point that gathers on one disc: by the pupil's area, until it has drifted off."""
    return rig.blur.pupil_mm**2 * min(rig.settings.shutter_s, seconds)


def target_mm(rig: RigFigures, arc_minutes: float) -> float:
    """How large something of an angular size is in the middle of the frame [mm]."""
    return 2 * rig.settings.focal_length_mm * tan(radians(arc_minutes / 120))


def says_stars(rig: RigFigures, found: Starlight) -> Sentence:
    """How long stars stay points, and what the shutter in force makes of them."""
    figures = {
        "b": Figure(rig.index, "rig"),
        "worst": Figure(found.worst_s, "s"),
        "shutter": Figure(rig.settings.shutter_s, "s"),
    }
    text = "{b} keeps stars as points for {middle} in the middle of its frame and for {worst} at its worst edge"
    if found.middle_s == inf:
        text = "{b} keeps the star in the middle of its frame, the pole, where it is, and others as points for {worst} at its worst edge"
    else:
        figures["middle"] = Figure(found.middle_s, "s")
    longest = found.allowed_mm * (1 + LEVEL_VIEW)
    if found.trail_mm <= longest:
        return Sentence(text + "; at {shutter} they are points all over it.", figures)
    figures["times"] = Figure(found.trail_mm / found.allowed_mm, "times")
    if found.middle_trail_mm <= longest:
        return Sentence(
            text
            + "; at {shutter} they are points in the middle, and at the edge trails {times} as long as a point may be.",
            figures,
        )
    return Sentence(text + "; at {shutter} they are trails, up to {times} as long as a point may be.", figures)
