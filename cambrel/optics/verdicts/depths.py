"""Verdicts on depth of field and, apart from it, on the blur of the background; and the lens that would close the gap."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf, log2

from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.equivalence import same_picture_f_number, same_picture_focal_length_mm
from cambrel.optics.figures import LEVEL_DEPTH, LEVEL_STOPS, Figure
from cambrel.optics.formats import nearest_format
from cambrel.optics.rig import SMALLEST_POSSIBLE_F_NUMBER, aperture_stops
from cambrel.optics.verdicts.pictures import blur_stops, depth_level, same_spot
from cambrel.optics.verdicts.registry import Verdict, pair_rule, say


@pair_rule
def depth(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    one, other = a.depth, b.depth
    school = Figure(CIRCLE_OF_CONFUSION_SCHOOLS[comparison.conventions.criterion].label, "word")
    if one.total_m != one.total_m or other.total_m != other.total_m:
        return
    if depth_level(a, b):
        if one.total_m < inf and not same_spot(a, b):
            text = "Depth of field is level, {total_b} on {b} and {total_a} on {a}, although they stand apart."
            yield say("depth", 58, text, a, b, total_a=Figure(one.total_m, "m"), total_b=Figure(other.total_m, "m"))
        return
    if one.total_m < inf and other.total_m < inf:
        ratio = other.total_m / one.total_m
        text = "{b} has {word} depth of field than {a}: {total_b} against {total_a}, {times} as much. Held: {held}; judged by {school}."
        yield say(
            "depth",
            76 + 8 * min(1, abs(log2(ratio)) / 3),
            text,
            a,
            b,
            word=Figure("more" if ratio > 1 else "less", "word"),
            total_a=Figure(one.total_m, "m"),
            total_b=Figure(other.total_m, "m"),
            times=Figure(ratio, "times"),
            held=Figure(comparison.hold.in_brief(), "word"),
            school=school,
        )
        return
    near_a, near_b = Figure(one.near_m, "m"), Figure(other.near_m, "m")
    if one.total_m == other.total_m:
        text = "Both are sharp to infinity: {b} from {near_b}, {a} from {near_a}, judged by {school}."
        yield say("depth", 72, text, a, b, near_a=near_a, near_b=near_b, school=school)
    elif other.total_m == inf:
        text = "{b} is sharp from {near_b} to infinity; {a} only from {near_a} to {far}, judged by {school}."
        yield say("depth", 84, text, a, b, near_a=near_a, near_b=near_b, far=Figure(one.far_m, "m"), school=school)
    else:
        text = "{b} is sharp only from {near_b} to {far}; {a} from {near_a} to infinity, judged by {school}."
        yield say("depth", 84, text, a, b, near_a=near_a, near_b=near_b, far=Figure(other.far_m, "m"), school=school)


@pair_rule
def background_blur(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    ahead = blur_stops(a, b)
    if not abs(ahead) > LEVEL_STOPS:
        return
    share_a, share_b = a.blur.background_share, b.blur.background_share
    apart = depth_level(a, b)
    text = (
        "{b} blurs the background {word} than {a}: discs of {share_b} of the frame against {share_a}, {times} the size."
    )
    if apart:
        text = "Depth of field is level, the blur is not: background discs on {b} are {share_b} of the frame, on {a} {share_a}, {times} the size."
    figures = {
        "share_a": Figure(share_a, "share"),
        "share_b": Figure(share_b, "share"),
        "times": Figure(share_b / share_a, "times"),
    }
    if not apart:
        figures["word"] = Figure("more" if ahead > 0 else "less", "word")
    yield say("background_blur", (78 if apart else 66) + 2 * min(4, abs(ahead)), text, a, b, **figures)


@pair_rule
def same_lens_depth(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Both schools of "does the sensor matter", each under its own terms."""
    hold = comparison.hold
    if hold.lens != "same" or hold.place != "spot" or not same_spot(a, b):
        return
    if abs(aperture_stops(b.settings.f_number, a.settings.f_number)) > LEVEL_STOPS:
        return
    ratio = b.depth.total_m / a.depth.total_m
    size = b.frames.diagonal_mm / a.frames.diagonal_mm
    if not (abs(ratio - 1) > LEVEL_DEPTH and (ratio < 1) == (size < 1)):
        return
    smaller = size < 1
    text = (
        "On the sensors the two images are alike: same lens, same spot, same {n}. {small}'s frame is enlarged {times} as much to the same "
        "print, so the print shows less depth of field. Sensor size changes nothing on the sensor and something on the wall."
    )
    yield say(
        "same_lens_depth",
        68,
        text,
        a,
        b,
        n=Figure(a.settings.f_number, "f"),
        small=Figure((b if smaller else a).index, "rig"),
        times=Figure(1 / size if smaller else size, "times"),
    )


@pair_rule
def closing_the_gap(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """The f-number, or the lens, that would give b the reference's picture from the same spot."""
    if not (a.settings.focusable and b.settings.focusable and same_spot(a, b)):
        return
    focal = float(same_picture_focal_length_mm(a.settings.focal_length_mm, a.settings.object_distance_m, b.frames.k))
    wanted = float(same_picture_f_number(a.settings.f_number, a.settings.focal_length_mm, focal))
    if abs(aperture_stops(b.settings.f_number * focal / b.settings.focal_length_mm, wanted)) <= LEVEL_STOPS:
        return
    widest = b.settings.widest_f_number
    made = nearest_format(b.rig.body.sensor).fastest_f_number
    figures = {"f": Figure(focal, "mm"), "n": Figure(wanted, "f")}
    if wanted < SMALLEST_POSSIBLE_F_NUMBER:
        text = "To make {a}'s picture {b} would need {f} {n}: that lens cannot exist in air, where {limit} is the end."
        yield say("gap", 64, text, a, b, limit=Figure(SMALLEST_POSSIBLE_F_NUMBER, "f"), **figures)
    elif wanted < made * 0.97:
        text = "To make {a}'s picture {b} would need {f} {n}; no such lens is to be expected there, the fastest made are about {made}."
        yield say("gap", 63, text, a, b, made=Figure(made, "f"), **figures)
    elif wanted < widest * 0.995:
        text = "To make {a}'s picture {b} would need a {f} {n} lens; this one opens to {widest}, {stops} short."
        short = Figure(aperture_stops(widest, wanted), "stops")
        yield say("gap", 60, text, a, b, widest=Figure(widest, "f"), stops=short, **figures)
    elif wanted <= (b.rig.lens.smallest_f_number or inf):
        text = "For {a}'s depth and blur in the same framing set {b} to {f} {n}."
        yield say("gap", 52, text, a, b, **figures)


@pair_rule
def depth_overshoot(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    if not b.settings.depth_overshoot or not b.depth.front_m > a.depth.front_m * (1 + LEVEL_DEPTH):
        return
    text = (
        "To be sharp to infinity from {d}, {b} must take {front_b} in front of the subject with it; {a} has {front_a}."
    )
    yield say(
        "depth_overshoot",
        48,
        text,
        a,
        b,
        d=Figure(b.settings.subject_distance_m, "m"),
        front_a=Figure(a.depth.front_m, "m"),
        front_b=Figure(b.depth.front_m, "m"),
    )
