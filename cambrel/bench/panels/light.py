"""The Light panel: the light of each frame, and the noise that it leaves."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from cambrel import wording
from cambrel.bench.look import Look, number
from cambrel.bench.panels.panel import Panel, PanelView, rig_table
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.flash import flash, says_flash
from cambrel.comparison.seen_noise import Noise, noise_state
from cambrel.comparison.tonal_range import (
    HEADROOM_STOPS,
    SCENES,
    Range,
    frames_for,
    lifted_snr,
    range_of,
    says_range,
    says_sky,
)
from cambrel.drawings.light import light_drawing
from cambrel.drawings.tones import tones_drawing
from cambrel.optics.colour import hex_to_linear
from cambrel.optics.noise_schools import NOISE_SCHOOLS, RANGE_SCHOOLS, RangeSchool
from cambrel.optics.quantities import is_unknown
from cambrel.optics.scene import horizon_mm
from cambrel.photographs.light import LUMINANCE
from cambrel.pictures.shots import camera_of
from cambrel.verdicts.meter_reading import meter_shifts, says_meter
from cambrel.wording import DASH, LETTERS

DIM_EV = 3.0
"""In light like this or less, noise is what tells cameras apart."""


def build(seen: PanelView) -> dict[str, Any]:
    bench, comparison, look = seen.bench, seen.comparison, seen.look

    def cells(rig: RigFigures) -> tuple[str, ...]:
        light = rig.light
        first = rig.index == comparison.reference
        return (
            (
                wording.significant(light.exposure_lux_s) + wording.NBSP + "lux s"
                if not is_unknown(light.exposure_lux_s)
                else DASH
            ),
            "reference" if first else wording.signed_stops(light.exposure_stops),
            "reference" if first else wording.signed_stops(light.total_stops),
            wording.DASH if is_unknown(light.photons_total) else wording.big(light.photons_total),
            wording.significant(light.snr_pixel),
            wording.significant(light.snr_picture),
            DASH if (state := noise_state(comparison, rig)) is Noise.UNKNOWN else state,
            wording.iso(light.looks_like_iso) if not is_unknown(light.looks_like_iso) else DASH,
            wording.iso(light.ceiling_iso) if not is_unknown(light.ceiling_iso) else DASH,
        )

    ceiling = wording.iso_text(bench.conventions.iso_ceiling)
    heads = (
        ("exposure", "exposure"), ("light per area", "exposure_stops"), ("light, whole picture", "total_stops"),
        ("photons in all", "photons_total"), ("signal to noise per pixel", "snr_pixel"),
        ("signal to noise, picture", "snr_picture"),
        (f"noise {NOISE_SCHOOLS[bench.conventions.noise].judged}", "noise_state"),
        (f"as noisy as {LETTERS[comparison.reference]} at", "looks_like"), (f"your ceiling of {ceiling}", "ceiling"),
    )  # fmt: skip
    drawing = light_drawing(comparison, width=look.across, height=230)
    return {
        "drawing": drawing,
        "table": rig_table("Light and noise", heads, comparison, cells),
        **_tones(comparison, look),
        "meter": _meter(seen),
        "flash": [
            (LETTERS[rig.index], wording.sentence(says_flash(rig, fill), look.units))
            for rig in (comparison.of(index) for index in range(len(comparison.rigs)))
            if (fill := flash(comparison, rig)) is not None
        ],
        "sky": [
            (LETTERS[rig.index], wording.sentence(said))
            for rig in comparison.others()
            if (said := says_sky(comparison.first, rig)) is not None
        ],
    }


def _meter(seen: PanelView) -> str:
    """How 3:2 and 4:3, both ways up, shift a meter reading over the scene's own sky; empty for a scene without one."""
    sky, rig = seen.place.sky, seen.comparison.first
    if sky is None or not rig.settings.focusable:
        return ""
    camera = camera_of(seen.bench, seen.comparison, rig, seen.place)
    light = [(up, float(hex_to_linear(colour) @ LUMINANCE)) for up, colour in sky.stops]
    shifts = meter_shifts(float(rig.frames.diagonal_mm), camera.image_distance_mm, horizon_mm(camera), light)
    return wording.sentence(says_meter(shifts))


def _tones(comparison: Comparison, look: Look) -> dict[str, Any]:
    """Tonal range, at the ISO in force and at base ISO, against that of the scene where it is known."""
    scene, terms = comparison.brief.scene_range_stops, comparison.conventions
    judged = NOISE_SCHOOLS[terms.noise].judged
    schools = sorted(RANGE_SCHOOLS.values(), key=lambda range_school: not range_school.is_judged)
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    ranges = {rig.index: range_of(comparison, rig, rig.settings.iso) for rig in rigs}

    def cells(rig: RigFigures) -> tuple[str, ...]:
        now = ranges[rig.index]
        base = range_of(comparison, rig, rig.rig.body.base_iso) if rig.rig.body.base_iso else None
        shown = (*_by_school(now, schools), *_by_school(base, schools))
        frames = frames_for(scene, now.by[terms.range]) if scene and now else float("nan")
        above = wording.degrees(rig.view.angle_high_deg / 2) if rig.settings.focusable else DASH
        return (
            *shown,
            above,
            wording.significant(lifted_snr(comparison, rig, look["lift"])),
            wording.significant(frames),
        )

    heads = (
        *(
            (f"{school.column} {judged}" if school.is_judged else school.column, f"range_{school.key}")
            for school in schools
        ),
        *((f"{school.column} at base ISO", "base_range") for school in schools),
        ("above the horizon, held level", "horizon"),
        (f"signal to noise, {wording.significant(look['lift'])} stops down", "lifted"),
        ("frames to bracket", "bracket"),
    )  # fmt: skip
    return {
        "judged": judged,
        "tones": tones_drawing(ranges, scene, width=look.across),
        "tones_said": [
            (LETTERS[rig.index], wording.sentence(says_range(comparison, rig, scene, now)))
            for rig in rigs
            if scene and (now := ranges[rig.index]) is not None
        ],
        "tones_table": rig_table("Tonal range, stops", heads, comparison, cells),
        "headroom": wording.significant(HEADROOM_STOPS),
        "scenes": ", ".join(f"{name} {wording.significant(stops)}" for name, stops in SCENES),
    }


def _by_school(found: Range | None, schools: Sequence[RangeSchool]) -> list[str]:
    """The range by each school; what the maker states is said to be so."""
    if found is None:
        return [DASH] * len(schools)
    return [
        wording.significant(found.by[school.key]) + (", as stated" if found.is_stated and not school.is_judged else "")
        for school in schools
    ]


def asks(brief: Brief) -> bool:
    """In dim light; of stars it is the shutter that tells first."""
    return brief.light_ev <= DIM_EV and brief.declination_deg is None


PANEL = Panel("light", "Light", "bench/panels/light.html", build, (number("lift", 4.0, 0.0, 14.0),), asks)
