"""The slowest usable shutter of the rigs of a comparison, and what limits it."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, isfinite, nan, sqrt

from cambrel.comparison.brief import SUPPORTS
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.schools import held_by, support_of
from cambrel.comparison.starlight import longest_as_points_s
from cambrel.optics import light
from cambrel.optics.noise_schools import Collecting, collecting, iso_as_noisy
from cambrel.optics.quantities import is_unknown
from cambrel.optics.steadiness import HAND_SCHOOLS, Held
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import Sentence

BINDS = {
    "movement": "subject movement",
    "stars": "the stars",
    "brief": "the time that the picture allows",
    "body": "the body's slowest shutter",
}
"""What may bind, in words."""


@dataclass(frozen=True)
class Steady:
    """The slowest usable shutter of a rig, each limit [s], infinite where there is none, and the ISO that it means in
    this light.
    """

    limits_s: dict[str, float]
    slowest_s: float
    binds: str
    """What limits, in words."""
    iso: float
    looks_like_iso: float
    """At which the reference is as noisy over the whole picture; unknown where nothing limits the shutter."""


def held(comparison: Comparison, rig: RigFigures, stops: float | None = None) -> Held:
    """How a rig is held, with all that its stabiliser gives unless `stops` says otherwise.

    Parameters
        comparison: what carries the cameras
        rig: one of it
        stops: that its stabiliser gives; all that it has by default
    Returns
        what a school of the hand depends on
    """
    given = (rig.rig.body.steadied_stops(rig.carrier.lens) or 0.0) if stops is None else stops
    s = rig.settings
    return held_by(
        comparison.brief, comparison.conventions, rig.frames, s.focal_length_mm, rig.view.image_distance_mm, given
    )


def held_s(comparison: Comparison, rig: RigFigures, stops: float | None = None) -> float:
    """How long what carries a rig holds it steady, by the school in force.

    Parameters
        comparison: what carries the cameras
        rig: one of it
        stops: of its stabiliser, by default all that it gives
    Returns
        [s]; infinity on a tripod
    """
    if support_of(comparison.brief) == "tripod":
        return inf
    seconds = float(HAND_SCHOOLS[comparison.conventions.hand].value(held(comparison, rig, stops)))
    return inf if is_unknown(seconds) else seconds


def steady(comparison: Comparison, rig: RigFigures) -> Steady | None:
    """What limits a rig's shutter; None for one that sees nothing.

    Parameters
        comparison: worked out
        rig: one of it
    Returns
        None for one that sees nothing
    """
    if not rig.settings.focusable:
        return None
    brief, s, support = comparison.brief, rig.settings, support_of(comparison.brief)
    limits = {
        "support": held_s(comparison, rig),
        "movement": inf,
        "stars": inf,
        "brief": brief.slowest_shutter_s or inf,
    }
    if brief.subject_speed_m_per_s > 0 and isfinite(rig.frames.coc_mm):
        a_second = brief.subject_speed_m_per_s * rig.view.image_distance_mm / s.subject_distance_m
        limits["movement"] = rig.frames.coc_mm / a_second
    if brief.declination_deg is not None:
        as_points = longest_as_points_s(comparison, rig, brief.declination_deg)
        limits["stars"] = as_points if isfinite(as_points) else inf
    limits["body"] = rig.rig.slowest_shutter_s or inf
    binds = min(limits, key=lambda key: limits[key])
    slowest = limits[binds]
    says = (BINDS | {"support": SUPPORTS[support].says})[binds]
    if not isfinite(slowest):
        return Steady(limits, slowest, says, 0.0, nan)
    iso = float(light.iso_for_light(rig.light.effective_f_number, slowest, brief.light_ev))
    return Steady(limits, slowest, says, iso, as_noisy_iso(comparison, rig, iso))


def as_noisy_iso(comparison: Comparison, rig: RigFigures, iso: float) -> float:
    """The ISO at which the reference is as noisy as a rig at another, by the school in force.

    Parameters
        comparison: whose school of noise is in force
        rig: one of it
        iso: of that rig
    Returns
        ISO of the reference; NaN where the noise of either is not known
    """
    shown = comparison.conventions.output_pixels

    def sensor(rig: RigFigures) -> Collecting:
        body, frames = rig.rig.body, rig.frames
        return collecting(
            frames.pixels, rig.rig.frames * frames.area_mm2, body.quantum_efficiency, body.offset_stops,
            body.read_noise_e * sqrt(rig.rig.reads), shown,
        )  # fmt: skip

    noise = comparison.conventions.noise
    return float(iso_as_noisy(iso, sensor(rig), sensor(comparison.first), shown, noise))


def says_steady(rig: RigFigures, found: Steady) -> Sentence:
    """The slowest usable shutter, what limits it, what ISO that means, and whether the shutter in force keeps to it.

    Parameters
        rig: whose shutter it is
        found: what limits it
    Returns
        one sentence with its figures
    """
    figures = {"b": Figure(rig.index, "rig"), "shutter": Figure(rig.settings.shutter_s, "s")}
    if found.slowest_s == inf:
        return Sentence("Nothing here limits the shutter of {b}.", figures)
    figures |= {
        "slowest": Figure(found.slowest_s, "s"),
        "binds": Figure(found.binds, "word"),
        "iso": Figure(found.iso, "iso"),
        "n": Figure(rig.settings.f_number, "f"),
    }
    text = "{b}: {slowest} at most, limited by {binds}. In this light that is {iso} at {n}"
    ceiling, base = rig.rig.body.ceiling_iso, rig.rig.body.base_iso
    if ceiling is not None and found.iso > ceiling:
        figures["end"] = Figure(ceiling, "iso")
        text += ", above its highest of {end}"
    elif base is not None and found.iso < base:
        figures["end"] = Figure(base, "iso")
        text += ", below its base of {end}, so use a shorter time"
    long = rig.settings.shutter_s > found.slowest_s * (1 + 1e-9)
    return Sentence(
        text + (". The {shutter} set is too slow." if long else ". The {shutter} set is fast enough."),
        figures,
    )
