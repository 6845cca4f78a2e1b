"""Verdicts on depth of field and, apart from it, on the blur of the background; and the lens that would close the
gap.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER, aperture_stops
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.equivalence import same_picture_f_number, same_picture_focal_length_mm
from cambrel.optics.formats import nearest_format
from cambrel.optics.geometry import focus_distance_from_object_distance_m
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, rig_rule, say
from cambrel.verdicts.relations import (
    blur_stops,
    circles_agree,
    depth_level,
    is_soft,
    pupil_stops,
    same_spot,
    same_view,
)
from cambrel.wording.sentences import LEVEL_DEPTH, LEVEL_STOPS, LEVEL_VIEW, by_ratio, by_stops


def _judge(comparison: Comparison) -> Figure:
    return Figure(CIRCLE_OF_CONFUSION_SCHOOLS[comparison.conventions.criterion].judge, "word")


def _kept(a: RigFigures, b: RigFigures) -> str:
    """What is the same between two rigs, of what depth of field depends on; empty where nothing is."""
    s, t = a.settings, b.settings
    same = {
        "same view": same_view(a, b),
        "same size of the subject": not same_view(a, b) and abs(b.view.fill / a.view.fill - 1) <= LEVEL_VIEW,
        "same spot": same_spot(a, b),
        "same focal length": abs(t.focal_length_mm / s.focal_length_mm - 1) <= LEVEL_VIEW,
        "same f-number": abs(aperture_stops(t.f_number, s.f_number)) <= LEVEL_STOPS,
    }
    return ", ".join(word for word, is_same in same.items() if is_same)


SHARP_MEANS = " “Sharp” here means a blur disc under {school}."


@pair_rule
@rests_on("near", "far", "total", "coc")
def depth(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Which has more depth of field, and from where to where."""
    one, other = a.depth, b.depth
    school, kept = _judge(comparison), _kept(a, b)
    held = " Kept the same: {held}." if kept else " Nothing was kept the same."
    if is_unknown(one.total_m) or is_unknown(other.total_m):
        return
    if depth_level(a, b):
        if one.total_m < inf and not same_spot(a, b):
            text = "Depth of field is the same: {total_b} on {b} and {total_a} on {a}, although their distances differ."
            totals = {"total_a": Figure(one.total_m, "m"), "total_b": Figure(other.total_m, "m")}
            yield say("depth", Topic.DEPTH, 0.0, text, a, b, **totals)
        return
    figures = {
        "near_a": Figure(one.near_m, "m"),
        "near_b": Figure(other.near_m, "m"),
        "held": Figure(kept, "word"),
        "school": school,
    }
    if one.total_m < inf and other.total_m < inf:
        ratio = other.total_m / one.total_m
        text = "{b} has {word} depth of field than {a}: {total_b} against {total_a}, {times} as much."
        figures |= {
            "word": Figure("more" if ratio > 1 else "less", "word"),
            "total_a": Figure(one.total_m, "m"),
            "total_b": Figure(other.total_m, "m"),
            "times": Figure(ratio, "times"),
        }
        yield say("depth", Topic.DEPTH, by_ratio(ratio, LEVEL_DEPTH), text + held + SHARP_MEANS, a, b, **figures)
        return
    if one.total_m == other.total_m:
        text, size = (
            "Both are sharp to infinity: {b} from {near_b}, {a} from {near_a}.",
            by_ratio(other.near_m / one.near_m, LEVEL_DEPTH),
        )
    elif other.total_m == inf:
        text, size = "{b} is sharp from {near_b} to infinity, {a} only from {near_a} to {far}.", inf
    else:
        text, size = "{b} is sharp only from {near_b} to {far}, {a} from {near_a} to infinity.", inf
    far = Figure(min(one.far_m, other.far_m), "m")
    yield say("depth", Topic.DEPTH, size, text + held + SHARP_MEANS, a, b, far=far, **figures)


@pair_rule
@rests_on("background_share", "pupil")
def background_blur(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Whose background is softer, each against its frame."""
    ahead = blur_stops(a, b)
    if not abs(ahead) > LEVEL_STOPS:
        return
    share_a, share_b = a.blur.background_share, b.blur.background_share
    figures = {
        "share_a": Figure(share_a, "share"),
        "share_b": Figure(share_b, "share"),
        "times": Figure(share_b / share_a, "times"),
        "word": Figure("more" if ahead > 0 else "less", "word"),
        "school": _judge(comparison),
    }
    is_known = not is_unknown(a.frames.coc_mm) and not is_unknown(b.frames.coc_mm)
    if is_known and not is_soft(a) and not is_soft(b):
        text = (
            "The background looks sharp on both {b} and {a}. You will not see the difference in its blur." + SHARP_MEANS
        )
        yield say("background_blur", Topic.BLUR, 0.0, text, a, b, **figures)
        return
    text = (
        "{b} blurs the background {word} than {a}: discs of {share_b} of the frame against {share_a}, {times} the size."
    )
    if depth_level(a, b):
        text = (
            "Depth of field is the same. The background blur is not: discs are {share_b} of the frame on {b}, {share_a}"
            " on {a}, {times} the size."
        )
    elif is_known and is_soft(a) != is_soft(b):
        text = (
            "The background looks sharp on {sharp} and soft on {soft}: discs are {share_b} of the frame on {b},"
            " {share_a} on {a}."
        )
        text += SHARP_MEANS
        figures |= {
            "sharp": Figure((a if is_soft(b) else b).index, "rig"),
            "soft": Figure((b if is_soft(b) else a).index, "rig"),
        }
    yield say("background_blur", Topic.BLUR, by_stops(ahead), text, a, b, **figures)


@pair_rule
@rests_on("diagonal", "coc", "total")
def same_lens_depth(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Both schools of "does the sensor matter", each under its own terms."""
    hold = comparison.hold
    if not hold.of_lens.is_shared or not same_spot(a, b):
        return
    if abs(aperture_stops(b.settings.f_number, a.settings.f_number)) > LEVEL_STOPS:
        return
    if abs(b.frames.coc_mm / a.frames.coc_mm / (b.frames.diagonal_mm / a.frames.diagonal_mm) - 1) > LEVEL_DEPTH:
        return  # judged by pixels the print has no part in it
    ratio = b.depth.total_m / a.depth.total_m
    size = b.frames.diagonal_mm / a.frames.diagonal_mm
    if not (abs(ratio - 1) > LEVEL_DEPTH and (ratio < 1) == (size < 1)):
        return
    smaller = size < 1
    text = (
        "On the sensor {b} and {a} draw the same image: same lens, same spot, same {n}. {small}'s "
        "frame is enlarged {times} as much for the same print, so its print shows less depth of "
        "field."
    )
    yield say(
        "same_lens_depth",
        Topic.TERMS,
        by_ratio(ratio, LEVEL_DEPTH),
        text,
        a,
        b,
        n=Figure(a.settings.f_number, "f"),
        small=Figure((b if smaller else a).index, "rig"),
        times=Figure(1 / size if smaller else size, "times"),
    )


@pair_rule
@rests_on("eq_f", "eq_wide")
def closing_the_gap(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """The setting, or the lens, that would give b the reference's picture from the same spot; only what its own lens
    can do is advised.
    """
    if comparison.asked is not None or not (a.settings.focusable and b.settings.focusable and same_spot(a, b)):
        return
    if abs(pupil_stops(a, b)) <= LEVEL_STOPS:
        return
    u = a.settings.object_distance_m
    focal = float(same_picture_focal_length_mm(a.settings.focal_length_mm, u, b.frames.k))
    wanted = float(same_picture_f_number(a.settings.f_number, a.settings.focal_length_mm, focal))
    made = nearest_format(b.rig.sensor).fastest_f_number
    low, high = b.focal_range_mm
    end = min(max(focal, low), high)
    figures = {"f": Figure(focal, "mm"), "n": Figure(wanted, "f")}
    size = by_stops(pupil_stops(a, b))
    if wanted < SMALLEST_POSSIBLE_F_NUMBER:
        text = "To take {a}'s picture {b} would need {f} {n}. No lens can be that fast: {limit} is the limit in air."
        limit = Figure(SMALLEST_POSSIBLE_F_NUMBER, "f")
        yield say("cannot_exist", Topic.IMPOSSIBLE, inf, text, a, b, limit=limit, **figures)
        return
    widest = b.widest_f_number(end)
    if aperture_stops(made, wanted) > LEVEL_STOPS:
        text = (
            "To take {a}'s picture {b} would need {f} {n}. Do not expect such a lens: the fastest made "
            "for it are about {made}."
        )
        yield say("no_such_lens", Topic.BLUR, size, text, a, b, made=Figure(made, "f"), **figures)
    elif abs(end / focal - 1) > LEVEL_VIEW:
        text = "To take {a}'s picture {b} would need {f} {n}. {end} is as {goes} as its lens goes."
        goes = Figure("wide" if end > focal else "long", "word")
        yield say("gap", Topic.BLUR, size, text, a, b, goes=goes, end=Figure(end, "mm"), **figures)
    elif aperture_stops(widest, wanted) > LEVEL_STOPS:
        text = "To take {a}'s picture {b} would need a {f} {n} lens. This one opens to {widest}, {stops} short."
        short = Figure(aperture_stops(widest, wanted), "stops")
        yield say("gap", Topic.BLUR, size, text, a, b, widest=Figure(widest, "f"), stops=short, **figures)
    elif aperture_stops(wanted, b.smallest_f_number) > LEVEL_STOPS:
        text = "To take {a}'s picture {b} would need {f} {n}. Its smallest aperture is {smallest}, {stops} off."
        off = Figure(aperture_stops(wanted, b.smallest_f_number), "stops")
        smallest = Figure(b.smallest_f_number, "f")
        yield say("gap", Topic.BLUR, size, text, a, b, smallest=smallest, stops=off, **figures)
    else:
        figures["n"] = Figure(min(max(wanted, widest), b.smallest_f_number), "f-mark")
        figures["f"] = Figure(end, "mm")
        what = Figure("depth and blur" if circles_agree(a, b) else "blur", "word")
        text = "For {a}'s {what} in the same framing, set {b} to {f} {n}."
        yield say("gap", Topic.BLUR, 1.0, text, a, b, what=what, **figures)


@pair_rule
@rests_on("near", "front")
def depth_overshoot(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """More depth in front came with a far limit at infinity than was asked for."""
    ratio = b.depth.front_m / a.depth.front_m
    if not b.settings.depth_overshoot or not ratio > 1 + LEVEL_DEPTH or b.depth.far_m < inf:
        return
    text = (
        "Focused at {u} and sharp to infinity, {b} is also sharp for {front_b} in front. {a} is "
        "sharp for {front_a} in front."
    )
    yield say(
        "depth_overshoot",
        Topic.TERMS,
        by_ratio(ratio, LEVEL_DEPTH),
        text,
        a,
        b,
        u=Figure(b.settings.object_distance_m, "m"),
        front_a=Figure(a.depth.front_m, "m"),
        front_b=Figure(b.depth.front_m, "m"),
    )


@rig_rule
@rests_on("hyperfocal")
def hyperfocal_from_the_mark(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """Set by the mark on the body at its hyperfocal distance a lens just misses infinity: that distance counts from the
    lens.
    """
    s, d = b.settings, b.depth
    if comparison.brief.distance_from != "sensor" or not d.far_m < inf:
        return
    f = s.focal_length_mm
    if not (1000 * s.object_distance_m > 2 * f and d.hyperfocal_m > s.object_distance_m):
        return
    set_at = float(focus_distance_from_object_distance_m(s.object_distance_m, f))
    if set_at < d.hyperfocal_m * (1 - LEVEL_VIEW):
        return
    text = (
        "{b} just misses infinity. Its hyperfocal distance is {hyperfocal} from the lens, which is "
        "{mark} from the sensor mark. Focused at {set_at} from the mark, it is sharp to {far}."
    )
    mark = float(focus_distance_from_object_distance_m(d.hyperfocal_m, f))
    yield say(
        "hyperfocal_from_the_mark",
        Topic.DEPTH,
        1.0,
        text,
        b,
        hyperfocal=Figure(d.hyperfocal_m, "m"),
        mark=Figure(mark, "m"),
        set_at=Figure(set_at, "m"),
        far=Figure(d.far_m, "m"),
    )
