"""Tonal range of the rigs of a comparison: by both schools, at the ISO in force and at base ISO, against the range of
the scene.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import isfinite, log2, nan, sqrt

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.optics import light
from cambrel.optics.noise_schools import NOISE_SCHOOLS, RANGE_SCHOOLS, Collecting, FullPixel
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_STOPS, Sentence

HEADROOM_STOPS = log2(light.SATURATION_LUX_S / light.MID_GREY_LUX_S)
"""From mid-grey to the brightest that is recorded: the same at every ISO and on every format in this model."""
SPACING_STOPS = 2.0
LEAST_STOPS = 1.0
"""Less than this is nothing to bracket with."""
SCENES: tuple[tuple[str, float], ...] = (
    ("overcast, flat", 6.0),
    ("sun behind the camera", 8.0),
    ("sun behind the subject", 12.0),
    ("a window from inside", 14.0),
    ("the sun in the frame", 18.0),
)
"""Ranges of scenes in plain words [stops]."""


@dataclass(frozen=True)
class Range:
    """What one frame of a rig holds at an ISO [stops], by each school of RANGE_SCHOOLS."""

    iso: float
    by: Mapping[str, float]
    pixel: FullPixel
    is_stated: bool = False
    """Whether it depends on what the maker states, not by the model."""


def range_of(comparison: Comparison, rig: RigFigures, iso: float) -> Range | None:
    """The range at an ISO; None where the pixels are not known.

    Parameters
        comparison: whose school of the range is in force
        rig: one of it
        iso: as marked
    Returns
        None where the pixels are not known
    """
    body, frames = rig.rig.body, rig.frames
    if not isfinite(frames.pitch_um) or not iso > 0:
        return None
    combined = rig.rig.frames
    area = frames.area_mm2 * 1e6 / frames.pixels
    full = combined * float(light.saturation_e(area, iso, body.quantum_efficiency, body.offset_stops))
    read = body.read_noise_e * sqrt(rig.rig.reads)
    is_stated = body.range_stops is not None and combined == 1
    stated = {}
    if is_stated:
        # as it was stated, and a stop less for each stop of ISO above that; its shadows are then as noisy as that says
        above = max(0.0, log2(iso / (body.range_iso or body.base_iso or iso)))
        own = (body.range_stops or 0.0) - above
        stated = {key: own for key, school in RANGE_SCHOOLS.items() if not school.is_judged}
        full *= iso / max(iso, body.range_iso or body.base_iso or iso)
        read = float(light.read_noise_for_range_e(full, own))
    pixel = FullPixel(full, read, judged_over_pixel(comparison, rig))
    by = {key: float(school.value(pixel)) for key, school in RANGE_SCHOOLS.items()}
    return Range(iso, by | stated, pixel, is_stated)


def judged_over_pixel(comparison: Comparison, rig: RigFigures) -> float:
    """The signal to noise that the noise school in force judges over that of one pixel; for a rig whose pixels are
    known.

    Parameters
        comparison: whose school of noise is in force
        rig: whose pixels are known
    Returns
        a ratio
    """
    terms = comparison.conventions
    made = Collecting(rig.frames.pixels, nan, nan, nan, nan)
    return float(NOISE_SCHOOLS[terms.noise].scale(made, terms.output_pixels))


def lifted_snr(comparison: Comparison, rig: RigFigures, stops: float) -> float:
    """Signal to noise, by the school in force, of a tone below mid-grey, which lifting it brings to light.

    Parameters
        comparison: whose school of noise is in force
        rig: one of it
        stops: below mid-grey
    Returns
        a ratio; NaN where the pixels are not known
    """
    grey, frames = rig.light.electrons_per_pixel, rig.frames
    if not isfinite(grey) or not isfinite(frames.pixels):
        return float("nan")
    pixel = light.snr(grey / 2.0**stops, rig.rig.body.read_noise_e * sqrt(rig.rig.reads))
    return float(pixel) * judged_over_pixel(comparison, rig)


def frames_for(scene_stops: float, own_stops: float) -> float:
    """Frames that take all of a scene; unknown where one of them holds next to nothing, and one that falls short by no
    more than is worth saying holds it.

    Parameters
        scene_stops: from the darkest tone to the brightest
        own_stops: that one frame holds
    Returns
        a whole number; NaN where one of them holds next to nothing; one that falls short by no more than is worth
            saying holds it
    """
    if not own_stops >= LEAST_STOPS:
        return nan
    if scene_stops - own_stops <= LEVEL_STOPS:
        return 1.0
    return float(light.frames_to_bracket(scene_stops, own_stops, SPACING_STOPS))


LEVEL_SKY = 0.1
"""A frame that is higher or lower by more than this sees another share of sky, and a meter with it."""


def says_sky(first: RigFigures, rig: RigFigures) -> Sentence | None:
    """How much more or less of the sky a rig takes in than the reference, both held level, and what a meter makes of
    it.

    Parameters
        first: the reference
        rig: another
    Returns
        None where they take in as much
    """
    if not (first.settings.focusable and rig.settings.focusable):
        return None
    there, here = first.view.angle_high_deg / 2, rig.view.angle_high_deg / 2
    if abs(here / there - 1) <= LEVEL_SKY:
        return None
    figures = {
        "b": Figure(rig.index, "rig"),
        "a": Figure(first.index, "rig"),
        "here": Figure(here, "deg"),
        "there": Figure(there, "deg"),
        "word": Figure("more" if here > there else "less", "word"),
    }
    text = (
        "Held level, {b} takes in {here} above the horizon, {a} {there}. A meter that averages the "
        "whole frame sees {word} sky with {b}."
    )
    return Sentence(text, figures)


def says_range(comparison: Comparison, rig: RigFigures, scene_stops: float, found: Range) -> Sentence:
    """Whether one frame holds the scene by the school in force, or how many would.

    Parameters
        comparison: whose school of the range is in force
        rig: one of it
        scene_stops: from the darkest tone to the brightest
        found: its range
    Returns
        one sentence with its figures
    """
    terms = comparison.conventions
    own, holds = found.by[terms.range], RANGE_SCHOOLS[terms.range].holds(terms.noise)
    figures = {
        "b": Figure(rig.index, "rig"),
        "iso": Figure(found.iso, "iso"),
        "own": Figure(own, "stops"),
        "scene": Figure(scene_stops, "stops"),
        "holds": Figure(holds, "word"),
    }
    frames = frames_for(scene_stops, own)
    if not isfinite(frames):
        return Sentence(
            "At {iso} one frame of {b} holds less than a stop, {holds}. That is too little to bracket.", figures
        )
    if frames == 1:
        return Sentence("At {iso} one frame of {b} holds all {scene} of this scene, {holds}.", figures)
    figures["frames"] = Figure(frames, "number")
    text = (
        "At {iso} one frame of {b} holds {own} of the {scene} of this scene, {holds}. Bracketing takes {frames} frames."
    )
    return Sentence(text, figures)
