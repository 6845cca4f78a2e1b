"""Verdicts on light: what is collected in all, brightness that could not be kept, and noise by both schools."""

from __future__ import annotations

from collections.abc import Iterator
from math import log2

from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.figures import LEVEL_EFFECTIVE_STOPS, LEVEL_STOPS, Figure
from cambrel.optics.rig import aperture_stops
from cambrel.optics.verdicts.registry import Verdict, pair_rule, rig_rule, say


@pair_rule
def total_light(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    stops = b.light.total_stops
    looks = {"iso_b": Figure(b.settings.iso, "iso"), "looks": Figure(b.light.looks_like_iso, "iso")}
    if abs(stops) <= LEVEL_STOPS:
        text = "{b} and {a} collect level light in all; over the whole picture {b} at {iso_b} is as noisy as {a} would be at {looks}."
        yield say("total_light", 56, text, a, b, **looks)
        return
    text = "{b} collects {stops} {word} light in all than {a}: over the whole picture {b} at {iso_b} is as noisy as {a} would be at {looks}."
    if abs(b.light.exposure_stops) <= LEVEL_STOPS:
        text = (
            "Exposed alike, {b} still collects {stops} {word} light in all than {a}, having {times} the area: "
            "over the whole picture {b} at {iso_b} is as noisy as {a} would be at {looks}."
        )
        looks["times"] = Figure(b.frames.area_mm2 / a.frames.area_mm2, "times")
    word = Figure("more" if stops > 0 else "less", "word")
    yield say(
        "total_light", 71 + 4 * min(4, abs(stops)), text, a, b, stops=Figure(abs(stops), "stops"), word=word, **looks
    )


@pair_rule
def brightness(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    stops = b.light.brightness_stops
    if not abs(stops) > LEVEL_STOPS:
        return
    word = Figure("brighter" if stops > 0 else "darker", "word")
    size = Figure(abs(stops), "stops")
    s, hold = b.settings, comparison.hold.exposure
    held_iso, held_t = s.iso != s.wanted_iso, s.shutter_s != s.wanted_shutter_s
    if hold == "own" or not (held_iso or held_t):
        text = "{b} comes out {stops} {word} than {a} as set."
        yield say("brightness", 74, text, a, b, stops=size, word=word)
    elif hold == "shutter":
        text = (
            "{b} comes out {stops} {word} than {a}: its ISO ends at {end}. A shutter of {shutter} would take the rest."
        )
        if stops > 0:
            text = "{b} comes out {stops} {word} than {a}: its ISO ends at {end}. A shutter of {shutter} or a {stops} ND filter would take the rest."
        shutter = Figure(s.shutter_s / 2**stops, "s")
        yield say("brightness", 79, text, a, b, stops=size, word=word, end=Figure(s.iso, "iso"), shutter=shutter)
    else:
        text = "{b} comes out {stops} {word} than {a}: its shutter ends at {end}. {iso} would take the rest."
        iso = Figure(s.iso / 2**stops, "iso")
        yield say("brightness", 79, text, a, b, stops=size, word=word, end=Figure(s.shutter_s, "s"), iso=iso)


@rig_rule
def reference_exposure(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """The reference's own error against the light; the others are compared with the reference."""
    stops = b.light.error_stops
    if b.index != comparison.reference or not abs(stops) > 1 / 3:
        return
    text = "{b} itself is set {stops} too {word} for this light."
    word = Figure("bright" if stops > 0 else "dark", "word")
    yield say("reference_exposure", 55 + 6 * min(3, abs(stops)), text, b, stops=Figure(abs(stops), "stops"), word=word)


@pair_rule
def noise_schools(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Where judging single pixels and judging the picture point opposite ways."""
    if a.light.snr_pixel != a.light.snr_pixel or b.light.snr_pixel != b.light.snr_pixel:
        return
    per_pixel = 2 * log2(b.light.snr_pixel / a.light.snr_pixel)
    whole = 2 * log2(b.light.snr_picture / a.light.snr_picture)
    if not (min(abs(per_pixel), abs(whole)) > LEVEL_STOPS and per_pixel * whole < 0):
        return
    cleaner, noisier = (b, a) if whole > 0 else (a, b)
    text = (
        "Which is cleaner depends on the school: over the whole picture {clean}, pixel by pixel {noisy}, "
        "as {clean} spreads its light over smaller pixels ({pitch_clean} against {pitch_noisy})."
    )
    yield say(
        "noise_schools",
        46,
        text,
        a,
        b,
        clean=Figure(cleaner.index, "rig"),
        noisy=Figure(noisier.index, "rig"),
        pitch_clean=Figure(cleaner.frames.pitch_um, "um"),
        pitch_noisy=Figure(noisier.frames.pitch_um, "um"),
    )


@pair_rule
def effective_f_number(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Close up the marked f-number is not what the sensor sees, and not by the same amount on each format."""
    if comparison.hold.aperture != "f_number" or a.settings.f_number != b.settings.f_number:
        return
    ne_a, ne_b = a.light.effective_f_number, b.light.effective_f_number
    if not abs(aperture_stops(ne_b, ne_a)) > LEVEL_EFFECTIVE_STOPS:
        return
    text = "This close {n} as marked acts as {ne_b} on {b} and {ne_a} on {a}, {stops} apart: the lens moves out as it focuses."
    yield say(
        "effective_f_number",
        54,
        text,
        a,
        b,
        n=Figure(a.settings.f_number, "f"),
        ne_a=Figure(ne_a, "f"),
        ne_b=Figure(ne_b, "f"),
        stops=Figure(abs(aperture_stops(ne_b, ne_a)), "stops"),
    )
