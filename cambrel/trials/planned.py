"""What the shots of each kind of trial are, of one rig: what else is set, what is predicted, and how many times it is
taken.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, floor, inf, isfinite, log2

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.slowest_shutter import steady
from cambrel.comparison.starlight import longest_as_points_s
from cambrel.comparison.tonal_range import range_of
from cambrel.optics.noise_schools import NOISE_SCHOOLS
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import F_NUMBERS, SHUTTERS
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, Sentence

CLOSE = 0.05
"""From this magnification on depth is measured as close up."""
FAR_M = 30.0
"""What is as far away as this is tried for reach."""
HELD_TIMES = 10
Planned = tuple[dict[str, float], Sentence, int]
"""What is set otherwise than the picture asks, what is predicted, and how many times it is taken."""


def _word(text: str, **figures: Figure) -> Sentence:
    return Sentence(text, figures)


def framing(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A picture of the marks at both sides of the subject.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    wide = Figure(rig.view.field_wide_m, "m")
    if rig.index == comparison.reference:
        yield {}, _word("{wide} wide at the subject", wide=wide), 1
        return
    ratio = rig.view.field_wide_m / comparison.first.view.field_wide_m
    first = Figure(comparison.reference, "rig")
    if abs(ratio - 1) <= LEVEL_VIEW:
        yield {}, _word("{wide} wide at the subject, as {first}", wide=wide, first=first), 1
    else:
        yield (
            {},
            _word(
                "{wide} wide at the subject, {ratio} as wide as {first}",
                wide=wide,
                ratio=Figure(ratio, "times"),
                first=first,
            ),
            1,
        )


def depth(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A picture of a tape along the ground.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    d = rig.depth
    if not isfinite(d.near_m) or rig.view.magnification >= CLOSE:
        return
    if isfinite(d.far_m):
        text = "sharp from {near} to {far}, soft at {before} and {behind}"
        figures = {"far": Figure(d.far_m, "m"), "behind": Figure(d.far_m * 1.25, "m")}
    else:
        text, figures = "sharp from {near} to the horizon, soft at {before}", {}
    yield {}, _word(text, near=Figure(d.near_m, "m"), before=Figure(d.near_m * 0.8, "m"), **figures), 1


def close(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A picture of a ruler close up.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    if rig.view.magnification >= CLOSE and isfinite(rig.depth.total_m):
        figures = {"total": Figure(rig.depth.total_m, "m"), "ruler": Figure(rig.depth.total_m * 2**0.5, "m")}
        yield {}, Sentence("{total} deep: {ruler} of a ruler at 45° are sharp", figures), 1


def blur(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A picture of a lamp out of focus.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    if comparison.brief.background_m is None or not rig.blur.background_share > 0:
        return
    text = "a point of light there is a disc of {share} of the picture’s diagonal"
    yield {}, _word(text, share=Figure(rig.blur.background_share, "share")), 1


def noise(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A grey patch at one shutter and one light, as metered.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    snr = rig.light.snr
    if not isfinite(snr):
        return
    figures = {"snr": Figure(snr, "number")}
    text = "signal to noise {snr} on mid-grey, " + NOISE_SCHOOLS[comparison.conventions.noise].judged
    if rig.index != comparison.reference:
        stops = 2 * log2(snr / comparison.first.light.snr)
        figures["first"] = Figure(comparison.reference, "rig")
        if abs(stops) <= LEVEL_STOPS:
            text += ", as clean as {first}"
        else:
            figures["stops"] = Figure(abs(stops), "stops")
            text += ", {stops} " + ("cleaner" if stops > 0 else "noisier") + " than {first}"
    yield {}, Sentence(text, figures), 1


def diffraction(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A run of stops before a slanted edge.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    limit = rig.diffraction.limited_f_number
    if not isfinite(limit):
        return
    times = rig.rig.converter
    widest = 0.0 if is_unknown(rig.settings.widest_f_number) else rig.settings.widest_f_number / times
    smallest = rig.carrier.lens.smallest_f_number or 22.0
    # whole stops only
    for stop in F_NUMBERS[::3]:
        if widest * 0.99 <= stop.exact <= smallest * 1.01 and limit / times / 4.5 <= stop.exact:
            softened = stop.typed * times > limit
            text = "softened by diffraction" if softened else "not softened by diffraction yet"
            yield (
                {"f_number": stop.typed},
                _word(text + ", which begins to show at {limit}", limit=Figure(limit, "f")),
                1,
            )


def reach(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A picture of the subject, to count its pixels.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    pixels = rig.sharpness.pixels_on_subject
    if rig.settings.subject_distance_m >= FAR_M and isfinite(pixels):
        yield {}, _word("{pixels} pixels high on the subject", pixels=Figure(pixels, "count")), 1


def stars(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A picture of the stars, at the time for points and at twice that.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    if comparison.brief.declination_deg is None:
        return
    longest = longest_as_points_s(comparison, rig, comparison.brief.declination_deg)
    slowest = rig.rig.slowest_shutter_s or inf
    if isfinite(longest) and longest > 0:
        for times, text in ((1.0, "points: they stay so up to {t}"), (2.0, "drawn out: points stay so up to {t}")):
            # as points no longer than that, and drawn out only where the camera goes so slow
            seconds = _seconds(longest * times, down=times == 1.0)
            if times == 1.0 or seconds <= slowest:
                yield {"shutter_s": min(seconds, slowest)}, _word(text, t=Figure(longest, "time")), 1


def _seconds(wanted: float, *, down: bool) -> float:
    """The mark of the shutter at or below a time, or at or above it; beyond the marks whole seconds, as they are
    counted.
    """
    if wanted >= SHUTTERS[-1].typed:
        return float(floor(wanted) if down else ceil(wanted))
    if down:
        return max((stop.typed for stop in SHUTTERS if stop.typed <= wanted), default=SHUTTERS[0].typed)
    return min(stop.typed for stop in SHUTTERS if stop.typed >= wanted)


def steadiness(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """Several frames by hand at one time.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    steadied = steady(comparison, rig)
    if comparison.brief.support == "tripod" or steadied is None:
        return
    held = steadied.limits_s["support"]
    if isfinite(held):
        text = "most of them sharp at {t}, few at twice that"
        yield {"shutter_s": held}, _word(text, t=Figure(held, "s")), HELD_TIMES


def range(comparison: Comparison, rig: RigFigures) -> Iterator[Planned]:
    """A picture of a scale of greys.

    Parameters
        comparison: at marked settings
        rig: one of it
    Returns
        its shots in their order
    """
    held_range = range_of(comparison, rig, rig.settings.iso)
    if held_range is None:
        return
    stops = held_range.by[comparison.conventions.range]
    if stops > LEVEL_STOPS:
        yield (
            {},
            _word("{stops} from the brightest to the darkest that stands out from noise", stops=Figure(stops, "stops")),
            1,
        )
