"""The slowest usable shutter of the rigs of a comparison, and what binds it."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, isfinite

from cambrel.optics import light, stars, steadiness
from cambrel.optics.brief import Option
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.quantities import Choices
from cambrel.optics.sentences import Figure, Sentence

SUPPORTS: Choices[Option] = Choices(
    "support",
    {
        "hand": Option("in the hand", "the hand"),
        "monopod": Option("on a monopod", "the monopod"),
        "tripod": Option("on a tripod", "the tripod"),
    },
)
HANDS: Choices[Option] = Choices(
    "hand_school",
    {
        "habit": Option("one over the equivalent focal length", "the habit"),
        "careful": Option("half of that", "the careful, or what is looked at closely"),
    },
)
_FACTORS = {"habit": 1.0, "careful": 2.0}
BINDS = {
    "movement": "the subject's movement",
    "stars": "the stars",
    "brief": "what the picture asks for",
    "body": "the body's slowest shutter",
}
"""What may bind, in words."""


@dataclass(frozen=True)
class Steady:
    """The slowest usable shutter of a rig, each limit [s], infinite where there is none, and the ISO that it means in this light."""

    limits_s: dict[str, float]
    slowest_s: float
    binds: str
    """What binds, in words."""
    iso: float


def steady(comparison: Comparison, rig: RigFigures, support: str, school: str) -> Steady | None:
    """What binds a rig's shutter; None for one that sees nothing."""
    if not rig.settings.focusable:
        return None
    brief, s, body = comparison.brief, rig.settings, rig.rig.body
    SUPPORTS[support], HANDS[school]
    limits = {"support": inf, "movement": inf, "stars": inf, "brief": brief.slowest_shutter_s or inf}
    if support != "tripod":
        given = (body.stabilisation_stops or 0.0) + (steadiness.MONOPOD_STOPS if support == "monopod" else 0.0)
        limits["support"] = float(
            steadiness.handheld_seconds(s.focal_length_mm, rig.frames.crop, given, _FACTORS[school])
        )
    if brief.subject_speed_m_per_s > 0 and isfinite(rig.frames.coc_mm):
        a_second = brief.subject_speed_m_per_s * rig.view.image_distance_mm / s.subject_distance_m
        limits["movement"] = rig.frames.coc_mm / a_second
    if brief.declination_deg is not None and isfinite(rig.frames.coc_mm):
        drift = stars.worst_drift_mm(
            s.focal_length_mm, brief.declination_deg, 1.0, rig.frames.width_mm, rig.frames.height_mm
        )
        limits["stars"] = rig.frames.coc_mm / float(drift)
    limits["body"] = body.slowest_shutter_s or inf
    binds = min(limits, key=lambda key: limits[key])
    slowest = limits[binds]
    iso = (
        float(light.iso_for_light(rig.light.effective_f_number, slowest, brief.light_ev)) if isfinite(slowest) else 0.0
    )
    return Steady(limits, slowest, (BINDS | {"support": SUPPORTS[support].says})[binds], iso)


def says_steady(rig: RigFigures, found: Steady) -> Sentence:
    """The slowest usable shutter, what binds it, what ISO that means, and whether the shutter in force keeps to it."""
    figures = {"b": Figure(rig.index, "rig"), "shutter": Figure(rig.settings.shutter_s, "s")}
    if found.slowest_s == inf:
        return Sentence("Nothing here limits the shutter of {b}.", figures)
    figures |= {
        "slowest": Figure(found.slowest_s, "s"),
        "binds": Figure(found.binds, "word"),
        "iso": Figure(found.iso, "iso"),
        "n": Figure(rig.settings.f_number, "f"),
    }
    text = "{b} may be open for {slowest} at most: {binds} binds. In this light that is {iso} at {n}"
    ceiling, base = rig.rig.body.ceiling_iso, rig.rig.body.base_iso
    if ceiling is not None and found.iso > ceiling:
        figures["end"] = Figure(ceiling, "iso")
        text += ", beyond its end at {end}"
    elif base is not None and found.iso < base:
        figures["end"] = Figure(base, "iso")
        text += ", below its base of {end}, so that a shorter time serves"
    long = rig.settings.shutter_s > found.slowest_s * (1 + 1e-9)
    return Sentence(
        text + ("; {shutter}, as it is set, is too long." if long else "; {shutter}, as it is set, is short enough."),
        figures,
    )
