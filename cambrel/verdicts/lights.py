"""Verdicts on light: what the whole picture gets, brightness that could not be kept, and noise by both schools."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf, log2, nan

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.framing import light_lost_stops
from cambrel.comparison.rig import aperture_stops
from cambrel.comparison.seen_noise import Noise, noise_state
from cambrel.optics.noise_schools import NOISE_SCHOOLS
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, rig_rule, say
from cambrel.wording.sentences import LEVEL_EFFECTIVE_STOPS, LEVEL_STOPS, by_stops, known

REACH_TOLERANCE = 1e-9


@pair_rule
@rests_on("total_stops", "exposure_stops", "looks_like")
def total_light(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """The light in the whole picture, and what noise comes of it; an ISO speaks of noise only where both are exposed as
    the light asks.
    """
    stops = b.light.total_stops
    figures = {
        "stops": Figure(abs(stops), "stops"),
        "word": Figure("more" if stops > 0 else "less", "word"),
        "times": Figure(b.frames.area_mm2 / a.frames.area_mm2, "times"),
    }
    level = abs(stops) <= LEVEL_STOPS
    if level:
        text = "{b} and {a} gather the same light."
    elif b.rig.frames != a.rig.frames and abs(b.light.exposure_stops) <= LEVEL_STOPS:
        text = "At the same exposure a frame, {b} gathers {stops} {word} light than {a} over all of its frames."
    elif abs(b.light.exposure_stops) <= LEVEL_STOPS:
        text = "At the same exposure {b} gathers {stops} {word} light than {a}: its frame has {times} the area."
    else:
        text = "{b} gathers {stops} {word} light than {a}."
    if known(b.light.looks_like_iso):
        said, more = _noise(comparison, a, b)
        text, figures = text + said, figures | more
    yield say("total_light", Topic.LIGHT, 0.0 if level else by_stops(stops), text, a, b, **figures)


def cleaner_stops(a: RigFigures, b: RigFigures) -> float:
    """By how many stops of light b is cleaner than a, as noise is judged.

    Parameters
        a, b: of one comparison
    Returns
        [stops]; NaN where that depends on pixels that are not known
    """
    one, other = a.light.snr, b.light.snr
    return 2 * log2(other / one) if one > 0 and other > 0 else nan


def _noise(comparison: Comparison, a: RigFigures, b: RigFigures) -> tuple[str, dict[str, Figure]]:
    """Which ISO that is on the reference, why noise does not follow the light where it does not, and whether anybody
    sees it.
    """
    cleaner = cleaner_stops(a, b)
    why, whose = _beside_light(comparison, a, b)
    figures = {"iso_b": Figure(b.settings.iso, "iso"), "looks": Figure(b.light.looks_like_iso, "iso"), "whose": whose}
    by_pixel = comparison.conventions.noise != "picture"
    if abs(cleaner) <= LEVEL_STOPS:
        text = " Pixel by pixel they are equally clean" if by_pixel else " They are equally clean"
        return text + (f": {why}." if why else "."), figures
    text = " Pixel by pixel, {b} at {iso_b}" if by_pixel else " {b} at {iso_b}"
    text += " is as noisy as {a} at {looks}" + (f": {why}." if why else ".")
    said, more = seen(comparison, a, b)
    return text + said, figures | more


def _beside_light(comparison: Comparison, a: RigFigures, b: RigFigures) -> tuple[str, Figure]:
    """What makes noise differ from the light in the whole picture by more than is worth saying, most of all, and whose
    doing it is.
    """
    beside = cleaner_stops(a, b) - b.light.total_stops
    counts = [log2(rig.rig.body.quantum_efficiency) + rig.rig.body.offset_stops for rig in (a, b)]
    parts = {"{whose} records more of its light": counts[1] - counts[0]}
    if comparison.conventions.noise != "picture":
        parts["{whose} has fewer pixels to share its light"] = log2(a.frames.pixels / b.frames.pixels)
    parts["{whose}'s pixels add less noise of their own"] = beside - sum(parts.values())
    sign = 1 if beside > 0 else -1
    text = max(parts, key=lambda key: sign * parts[key])
    return text if abs(beside) > LEVEL_STOPS else "", Figure((b if sign > 0 else a).index, "rig")


def seen(comparison: Comparison, a: RigFigures, b: RigFigures) -> tuple[str, dict[str, Figure]]:
    """Whether a difference in noise is seen where noise is looked at: not while both are clean, and it disturbs from a
    point on.

    Parameters
        comparison: worked out
        a, b: of it
    Returns
        the end of a sentence with names in braces, and the figures by those names
    """
    noisier = min((a, b), key=lambda rig: rig.light.snr)
    size = Figure(NOISE_SCHOOLS[comparison.conventions.noise].size, "word")
    state = noise_state(comparison, noisier)
    texts = {
        Noise.CLEAN: " Both are clean. You will not see the difference {at}.",
        Noise.SEEN: " You can see the difference {at}.",
        Noise.DISTURBING: " {noisier}'s noise is disturbing {at}.",
        Noise.UNKNOWN: "",
    }
    return texts[state], {"at": size, "noisier": Figure(noisier.index, "rig")}


@rig_rule
@rests_on("pixels", says="You judge noise by the pixel, and the record does not say how many there are.")
def unknown_noise(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """Noise that is judged by pixels, of a camera whose pixels nobody gave."""
    if b.settings.focusable and noise_state(comparison, b) is Noise.UNKNOWN:
        text = "{b}'s pixel count is not on record, so its noise pixel by pixel is unknown."
        yield say("unknown_noise", Topic.LIGHT, 1.0, text, b)


@pair_rule
@rests_on("brightness")
def brightness(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Whose picture is brighter at its settings."""
    stops = b.light.brightness_stops
    if not abs(stops) > LEVEL_STOPS:
        return
    s, hold = b.settings, comparison.hold.of_exposure
    held_iso, held_t = s.iso != s.wanted_iso, s.shutter_s != s.wanted_shutter_s
    figures = {
        "stops": Figure(abs(stops), "stops"),
        "filter": Figure(abs(stops), "n-stop"),
        "word": Figure("brighter" if stops > 0 else "darker", "word"),
        "iso_end": Figure(s.iso, "iso"),
        "t_end": Figure(s.shutter_s, "s"),
        "shutter": Figure(s.shutter_s / 2**stops, "s-mark"),
        "iso": Figure(s.iso / 2**stops, "iso-mark"),
    }
    text = "{b} comes out {stops} {word} than {a}"
    if not hold.follows or not (held_iso or held_t):
        text += "." if comparison.asked is not None else " as set."
    else:
        text += ": {iso_end} is as far as its ISO goes." if held_iso else ": {t_end} is as far as its shutter goes."
        if held_iso and held_t:
            text = (
                "{b} comes out {stops} {word} than {a}: its ISO goes no further than {iso_end}, its shutter no further"
                " than {t_end}."
            )
        elif abs(a.light.error_stops) <= LEVEL_STOPS:
            # nobody is advised to match a reference that is itself exposed wrongly
            text += _rest(b, hold.follows, stops)
    yield say("brightness", Topic.BRIGHTNESS, by_stops(stops), text, a, b, **figures)


def _rest(b: RigFigures, follows: str, stops: float) -> str:
    """What would make up the rest within what the body has: the variable that does not follow, or a filter."""
    body, s = b.rig.body, b.settings
    if follows == "iso":
        low, high, value, cure = (
            body.fastest_shutter_s or 0.0,
            b.rig.slowest_shutter_s or inf,
            s.shutter_s / 2**stops,
            "a shutter of {shutter}",
        )
    else:
        low, high, value, cure = body.base_iso or 0.0, body.ceiling_iso or inf, s.iso / 2**stops, "{iso}"
    cures = [cure] if low * (1 - REACH_TOLERANCE) <= value <= high * (1 + REACH_TOLERANCE) else []
    cures += ["a {filter} ND filter"] if stops > 0 else []
    if not cures:
        return ""
    said = " or ".join(cures)
    return f" {said[0].upper()}{said[1:]} would make up the rest."


@rig_rule
@rests_on("error")
def reference_exposure(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """The reference's own error against the light; the others are compared with the reference."""
    stops = b.light.error_stops
    if b.index != comparison.reference or not abs(stops) > LEVEL_STOPS:
        return
    text = "{b} itself is set {stops} too {word} for this light."
    word = Figure("bright" if stops > 0 else "dark", "word")
    figures = {"stops": Figure(abs(stops), "stops"), "word": word}
    yield say("reference_exposure", Topic.BRIGHTNESS, by_stops(stops), text, b, **figures)


@pair_rule
@rests_on("snr_picture", "snr_pixel")
def noise_schools(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Where judging single pixels and judging the picture point opposite ways: the cleaner picture always has more
    pixels then.
    """
    if is_unknown(a.light.snr_pixel) or is_unknown(b.light.snr_pixel):
        return
    per_pixel = 2 * log2(b.light.snr_pixel / a.light.snr_pixel)
    whole = 2 * log2(b.light.snr_picture / a.light.snr_picture)
    if not (min(abs(per_pixel), abs(whole)) > LEVEL_STOPS and per_pixel * whole < 0):
        return
    cleaner, noisier = (b, a) if whole > 0 else (a, b)
    text = (
        "Which is cleaner depends on how you look. Over the whole picture it is {clean}, pixel by "
        "pixel {noisy}. {clean} has {more} pixels against {fewer}, each noisier, and the picture "
        "averages them out."
    )
    yield say(
        "noise_schools",
        Topic.TERMS,
        by_stops(per_pixel - whole),
        text,
        a,
        b,
        clean=Figure(cleaner.index, "rig"),
        noisy=Figure(noisier.index, "rig"),
        more=Figure(cleaner.frames.pixels, "count"),
        fewer=Figure(noisier.frames.pixels, "count"),
    )


@rig_rule
@rests_on("effective", "magnification")
def light_lost_close_up(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """What focusing close costs the reference; the others are set against it."""
    if b.index != comparison.reference or not light_lost_stops(b) > LEVEL_STOPS:
        return
    text = (
        "This close, {n} on {b} exposes like {ne}. It loses {stops} at a magnification of {m}, "
        "because the lens moves out as it focuses."
    )
    yield say(
        "light_lost_close_up",
        Topic.LIGHT,
        by_stops(light_lost_stops(b)),
        text,
        b,
        n=Figure(b.settings.f_number, "f"),
        ne=Figure(b.light.effective_f_number, "f"),
        stops=Figure(light_lost_stops(b), "stops"),
        m=Figure(b.view.magnification, "number"),
    )


@pair_rule
@rests_on("effective")
def effective_f_number(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Close up the marked f-number is not what the sensor sees, and not by the same amount on each format."""
    if not comparison.hold.of_aperture.keeps_f_number or a.settings.f_number != b.settings.f_number:
        return
    ne_a, ne_b = a.light.effective_f_number, b.light.effective_f_number
    if not abs(aperture_stops(ne_b, ne_a)) > LEVEL_EFFECTIVE_STOPS:
        return
    text = (
        "This close, a marked {n} exposes like {ne_b} on {b} and {ne_a} on {a}, {stops} apart. The "
        "lens moves out as it focuses."
    )
    yield say(
        "effective_f_number",
        Topic.LIGHT,
        abs(aperture_stops(ne_b, ne_a)) / LEVEL_EFFECTIVE_STOPS,
        text,
        a,
        b,
        n=Figure(a.settings.f_number, "f"),
        ne_a=Figure(ne_a, "f"),
        ne_b=Figure(ne_b, "f"),
        stops=Figure(abs(aperture_stops(ne_b, ne_a)), "stops"),
    )
