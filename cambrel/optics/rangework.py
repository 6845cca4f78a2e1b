"""Tonal range of the rigs of a comparison: by both schools, at the ISO in force and at base ISO, against the range of the scene."""

from __future__ import annotations

from dataclasses import dataclass
from math import isfinite, log2, sqrt

from cambrel.optics import light
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.sentences import Figure, Sentence

HEADROOM_STOPS = log2(light.SATURATION_LUX_S / light.MID_GREY_LUX_S)
"""From mid-grey to the brightest that is recorded: the same at every ISO and on every format in this model."""
ENGINEER_SNR, PICTURE_SNR = 1.0, 20.0
"""What the darkest tone must be told from noise by: of one pixel for the engineer, over the whole picture for the photographer."""
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
    """What one frame of a rig holds at an ISO [stops], by both schools."""

    iso: float
    engineer_stops: float
    picture_stops: float
    is_stated: bool = False
    """Whether it goes by what the maker states, not by the model."""

    def by(self, school: str) -> float:
        return self.picture_stops if school == "picture" else self.engineer_stops


def range_of(comparison: Comparison, rig: RigFigures, iso: float) -> Range | None:
    """The range at an ISO; None where the pixels are not known."""
    body, frames = rig.rig.body, rig.frames
    if not isfinite(frames.pitch_um) or not iso > 0:
        return None
    combined = rig.rig.frames
    area = frames.area_mm2 * 1e6 / frames.pixels
    full = combined * float(light.saturation_e(area, iso, body.quantum_efficiency, body.offset_stops))
    read, shown = body.read_noise_e * sqrt(rig.rig.reads), comparison.conventions.output_pixels
    is_stated = body.range_stops is not None and combined == 1
    engineer = float(light.dynamic_range_stops(full, read, ENGINEER_SNR))
    if is_stated:
        # as it was stated, and a stop less for each stop of ISO above that; its shadows are then as noisy as that says
        above = max(0.0, log2(iso / (body.range_iso or body.base_iso or iso)))
        engineer = (body.range_stops or 0.0) - above
        full *= iso / max(iso, body.range_iso or body.base_iso or iso)
        read = float(light.read_noise_for_range_e(full, engineer))
    picture = float(light.dynamic_range_stops(full, read, PICTURE_SNR, frames.pixels, shown))
    return Range(iso, engineer, picture, is_stated)


def lifted_snr(comparison: Comparison, rig: RigFigures, stops: float) -> float:
    """Signal to noise, over the whole picture, of a tone so many stops below mid-grey, which lifting it brings to light; unknown without pixels."""
    grey, frames = rig.light.electrons_per_pixel, rig.frames
    if not isfinite(grey) or not isfinite(frames.pixels):
        return float("nan")
    pixel = light.snr(grey / 2.0**stops, rig.rig.body.read_noise_e * sqrt(rig.rig.reads))
    return float(light.snr_picture(pixel, frames.pixels, comparison.conventions.output_pixels))


def frames_for(scene_stops: float, found: Range) -> float:
    """Frames to bracket the scene so that all of it is told from noise over the whole picture; unknown where one frame holds next to nothing."""
    if not found.picture_stops >= LEAST_STOPS:
        return float("nan")
    return float(light.frames_to_bracket(scene_stops, found.picture_stops, SPACING_STOPS))


LEVEL_SKY = 0.1
"""A frame that is higher or lower by more than this sees another share of sky, and a meter with it."""


def says_sky(first: RigFigures, rig: RigFigures) -> Sentence | None:
    """How much more or less of the sky a rig takes in than the reference, both held level, and what a meter makes of it."""
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
    text = "Held level {b} takes in {here} above the horizon, {a} {there}: a meter that weighs the whole frame sees {word} sky with {b}."
    return Sentence(text, figures)


def says_range(rig: RigFigures, scene_stops: float, found: Range) -> Sentence:
    """Whether one frame holds the scene, or how many would."""
    figures = {
        "b": Figure(rig.index, "rig"),
        "iso": Figure(found.iso, "iso"),
        "own": Figure(found.picture_stops, "stops"),
        "scene": Figure(scene_stops, "stops"),
    }
    frames = frames_for(scene_stops, found)
    if not isfinite(frames):
        return Sentence(
            "{b} holds less than a stop clean over the whole picture at {iso}: that is too little to bracket with.",
            figures,
        )
    if frames == 1:
        return Sentence(
            "{b} holds the {scene} of this scene in one frame at {iso}, clean over the whole picture.", figures
        )
    figures["frames"] = Figure(frames, "number")
    figures["deep"] = Figure(found.engineer_stops, "stops")
    text = "{b} holds {own} at {iso}, clean over the whole picture, of the {scene} of this scene: {frames} frames would hold it all"
    if found.engineer_stops >= scene_stops:
        return Sentence(text + ". In one frame its shadows are drawn, noisily, down to {deep}.", figures)
    return Sentence(text + ". In one frame even noisy shadows end at {deep}.", figures)
