"""Shots that would prove a comparison: where to stand, what to set, what to look at, and what is predicted of it.

A shot is planned at the settings that a camera offers, and its prediction is worked out anew at those. Source: the comparison's own figures.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import ceil, floor, inf, isfinite, log2

from cambrel.comparison.at_best import AS_SET
from cambrel.comparison.engine import Comparison, RigFigures, compare
from cambrel.comparison.marks import marks_of
from cambrel.comparison.slowest_shutter import steady
from cambrel.comparison.starlight import longest_as_points_s
from cambrel.comparison.tonal_range import range_of
from cambrel.optics.noise_schools import NOISE_SCHOOLS
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, nearest_within
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, Sentence

CLOSE = 0.05
"""From this magnification on depth is measured as close up."""
FAR_M = 30.0
"""What is as far away as this is tried for reach."""
SIDE_BY_SIDE_M = 0.3
"""Between two tripods that stand beside each other."""
HELD_TIMES = 10
AS_TAKEN = replace(AS_SET, is_best=False, place="own")
"""Each rig as it is set, where it stands."""


@dataclass(frozen=True)
class Shot:
    """One shot to take. rig: its index; place_m, focus_m: from the lens; times: how many of the same.

    focal_length_mm, f_number: as the camera shows them, behind a converter those of both together
    cost_stops: by how much it is brighter than what was computed, as settings come in steps
    predicted: what it should show; key: told apart by, as long as the sheet is the same
    """

    key: str
    trial: str
    rig: int
    focal_length_mm: float
    f_number: float
    shutter_s: float
    iso: float
    place_m: float
    focus_m: float
    cost_stops: float
    predicted: Sentence
    times: int = 1


def rounded(comparison: Comparison) -> Comparison:
    """The same at the settings that the cameras offer, each rig by itself; what one step loses of the light the ISO takes up where it can."""
    rigs = []
    for index in range(len(comparison.rigs)):
        rig, s = comparison.of(index).rig, comparison.of(index).settings
        if not s.focusable:
            rigs.append(rig)
            continue
        carrier, marks, body = comparison.of(index).carrier, marks_of(comparison.of(index)), rig.body
        lens, times, n = carrier.lens, carrier.converter, marks.f_number
        t = min(marks.shutter_s, SHUTTERS[-1].typed)
        wanted = s.iso * (n * times / s.f_number) ** 2 * s.shutter_s / t
        iso = nearest_within(wanted, ISOS, body.base_iso, body.ceiling_iso).typed
        rigs.append(
            replace(
                rig, lens=lens, converter=times, focal_length_mm=s.focal_length_mm / times, f_number=n, shutter_s=t, iso=iso,
                distance_m=s.subject_distance_m, by_hand="fnti" if comparison.hold.is_best else "",
            )
        )  # fmt: skip
    first = comparison.first.settings
    focus = None if comparison.brief.focus_distance_m is None else first.wanted_object_distance_m
    brief = replace(comparison.brief, distance_from="lens", distance_m=first.subject_distance_m, focus_distance_m=focus)
    if comparison.hold.is_best:
        rigs = [replace(rig, distance_m=None) for rig in rigs]
        return compare(brief, rigs, replace(AS_SET, is_best=True), comparison.conventions, comparison.reference)
    return compare(brief, rigs, AS_TAKEN, comparison.conventions, comparison.reference)


def _word(text: str, **figures: Figure) -> Sentence:
    return Sentence(text, figures)


def _framing(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
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
                "{wide} wide at the subject, {ratio} that of {first}",
                wide=wide,
                ratio=Figure(ratio, "times"),
                first=first,
            ),
            1,
        )


def _depth(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
    d = rig.depth
    if not isfinite(d.near_m) or rig.view.magnification >= CLOSE:
        return
    if isfinite(d.far_m):
        text = "sharp from {near} to {far}; the marks at {before} and {behind} are soft"
        figures = {"far": Figure(d.far_m, "m"), "behind": Figure(d.far_m * 1.25, "m")}
    else:
        text, figures = "sharp from {near} to the horizon; the mark at {before} is soft", {}
    yield {}, _word(text, near=Figure(d.near_m, "m"), before=Figure(d.near_m * 0.8, "m"), **figures), 1


def _close(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
    if rig.view.magnification >= CLOSE and isfinite(rig.depth.total_m):
        figures = {"total": Figure(rig.depth.total_m, "m"), "ruler": Figure(rig.depth.total_m * 2**0.5, "m")}
        yield {}, Sentence("{total} deep: {ruler} of a ruler at 45° are sharp", figures), 1


def _blur(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
    if comparison.brief.background_m is None or not rig.blur.background_share > 0:
        return
    text = "a point of light there is a disc of {share} of the picture’s diagonal"
    yield {}, _word(text, share=Figure(rig.blur.background_share, "share")), 1


def _noise(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
    """A grey patch at one shutter and one light, as metered."""
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


def _diffraction(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
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


def _reach(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
    pixels = rig.sharpness.pixels_on_subject
    if rig.settings.subject_distance_m >= FAR_M and isfinite(pixels):
        yield {}, _word("{pixels} pixels high on the subject", pixels=Figure(pixels, "count")), 1


def _stars(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
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
    """The mark of the shutter at or below a time, or at or above it; beyond the marks whole seconds, as they are counted."""
    if wanted >= SHUTTERS[-1].typed:
        return float(floor(wanted) if down else ceil(wanted))
    if down:
        return max((stop.typed for stop in SHUTTERS if stop.typed <= wanted), default=SHUTTERS[0].typed)
    return min(stop.typed for stop in SHUTTERS if stop.typed >= wanted)


def _steadiness(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
    found = steady(comparison, rig)
    if comparison.brief.support == "tripod" or found is None:
        return
    held = found.limits_s["support"]
    if isfinite(held):
        text = "most of them sharp at {t}, few at twice that"
        yield {"shutter_s": held}, _word(text, t=Figure(held, "s")), HELD_TIMES


def _range(comparison: Comparison, rig: RigFigures) -> Iterator[tuple[dict[str, float], Sentence, int]]:
    found = range_of(comparison, rig, rig.settings.iso)
    if found is None:
        return
    stops = found.by[comparison.conventions.range]
    if stops > LEVEL_STOPS:
        yield (
            {},
            _word("{stops} from the brightest to the darkest that is told from noise", stops=Figure(stops, "stops")),
            1,
        )


Shots = Callable[[Comparison, RigFigures], Iterator[tuple[dict[str, float], Sentence, int]]]
TRIALS: dict[str, Shots] = {
    "framing": _framing,
    "depth": _depth,
    "close": _close,
    "blur": _blur,
    "noise": _noise,
    "diffraction": _diffraction,
    "reach": _reach,
    "stars": _stars,
    "steadiness": _steadiness,
    "range": _range,
}
"""The kinds of trial, in the order in which they are offered: of one rig what else is set for each shot, what is predicted, how many times."""


def shots_of(comparison: Comparison, trials: Sequence[str]) -> list[Shot]:
    """The shots of some trials at the settings that the cameras offer, in the order of least work: place by place, rig by rig.

    Parameters
        comparison: what is to be proved
        trials: keys of TRIALS
    Returns
        those that can be taken; a rig that sees nothing has none
    """
    made = rounded(comparison)
    found = []
    for index in range(len(made.rigs)):
        rig, wanted = made.of(index), comparison.of(index).settings
        if not rig.settings.focusable or not wanted.focusable:
            continue
        for key in trials:
            for number, (other, predicted, times) in enumerate(TRIALS[key](made, rig)):
                if predicted.is_sound:
                    found.append(_shot(rig, key, number, other, predicted, times, comparison))
    return _by_least_work(found)


def _shot(
    rig: RigFigures,
    trial: str,
    number: int,
    other: dict[str, float],
    predicted: Sentence,
    times: int,
    comparison: Comparison,
) -> Shot:
    s, times_n, lens, body = rig.settings, rig.rig.converter, rig.carrier.lens, rig.rig.body
    as_computed = comparison.of(rig.index).settings
    n, t, iso = other.get("f_number", s.f_number / times_n), other.get("shutter_s", s.shutter_s), s.iso
    # what another setting takes of the light that was computed the others give back where they can
    if "f_number" in other:
        widest = None if is_unknown(s.widest_f_number) else s.widest_f_number / times_n
        n = nearest_within(n, F_NUMBERS, widest, lens.smallest_f_number).typed
        t = as_computed.shutter_s * (n * times_n / as_computed.f_number) ** 2
    if other and trial != "stars":
        t = nearest_within(t, SHUTTERS, body.fastest_shutter_s, rig.rig.slowest_shutter_s).typed
    if other:
        wanted = as_computed.iso * (n * times_n / as_computed.f_number) ** 2 * as_computed.shutter_s / t
        iso = nearest_within(wanted, ISOS, body.base_iso, body.ceiling_iso).typed
    if trial == "steadiness":
        # how sharp it is held has nothing to do with the stop, which takes what light is too much
        over = 2 * log2(as_computed.f_number / (n * times_n)) + log2(t / as_computed.shutter_s * iso / as_computed.iso)
        n = nearest_within(n * 2.0 ** (max(over, 0.0) / 2), F_NUMBERS, n, lens.smallest_f_number).typed
    cost = (
        2 * log2(as_computed.f_number / (n * times_n)) + log2(t / as_computed.shutter_s) + log2(iso / as_computed.iso)
    )
    key = f"{trial}-{rig.index}-{number}"
    return Shot(
        key, trial, rig.index, s.focal_length_mm, n * times_n, t, iso, s.subject_distance_m, s.object_distance_m, cost, predicted, times
    )  # fmt: skip


def _by_least_work(shots: list[Shot]) -> list[Shot]:
    """Place by place from the nearest, at each rig by rig; a rig that is on the tripod stays on it for the next place."""
    order = list(TRIALS)
    places: list[float] = []
    for shot in sorted(shots, key=lambda one: one.place_m):
        if not places or shot.place_m > places[-1] * (1 + 1e-3):
            places.append(shot.place_m)
    found: list[Shot] = []
    mounted: int | None = None
    for place in places:
        here = [one for one in shots if place <= one.place_m <= place * (1 + 1e-3)]
        rigs = sorted({one.rig for one in here}, key=lambda rig: (rig != mounted, rig))
        for rig in rigs:
            found += sorted((one for one in here if one.rig == rig), key=lambda one: order.index(one.trial))
            mounted = rig
    return found


def changes_of_rig(shots: Sequence[Shot]) -> int:
    """How often the camera on the tripod is another."""
    return sum(one.rig != other.rig for one, other in pairwise(shots))


def shift_mm(comparison: Comparison, rig: RigFigures, gap_m: float = SIDE_BY_SIDE_M) -> float:
    """By how much two cameras side by side see the background elsewhere against the subject, on the sensor [mm]: v gap (1/u - 1/x)."""
    there, behind = rig.settings.subject_distance_m, comparison.brief.background_m
    far = 1 / there if behind is None else 0.0 if behind == inf else 1 / (there + behind)
    return float(rig.view.image_distance_mm * gap_m * (1 / there - far))


def usual(comparison: Comparison) -> list[str]:
    """The trials that a comparison asks for by itself: those of what its picture is about."""
    brief, first = comparison.brief, comparison.first
    wanted = {"framing": True, "noise": True}
    is_close = first.view.magnification >= CLOSE
    wanted |= {"depth": not is_close, "close": is_close, "blur": brief.background_m is not None}
    wanted |= {"stars": brief.declination_deg is not None, "steadiness": brief.support == "hand"}
    wanted |= {"reach": first.settings.subject_distance_m >= FAR_M, "range": brief.scene_range_stops is not None}
    return [key for key in TRIALS if wanted.get(key)]
