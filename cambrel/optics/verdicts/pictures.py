"""Verdicts on what is in the frame: the view, its shape, the perspective, and the simple rule close up."""

from __future__ import annotations

from collections.abc import Iterator
from math import log2

from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.figures import LEVEL_DEPTH, LEVEL_STOPS, LEVEL_VIEW, Figure
from cambrel.optics.formats import CROP_MEASURES
from cambrel.optics.verdicts.registry import Verdict, pair_rule, rig_rule, say


def view_ratio(a: RigFigures, b: RigFigures) -> float:
    """How much wider b sees than a at the subject, by the measure in force: field ~ length of the frame times d / v."""
    per_frame_a = a.settings.subject_distance_m / a.view.image_distance_mm / a.frames.crop
    per_frame_b = b.settings.subject_distance_m / b.view.image_distance_mm / b.frames.crop
    return float(per_frame_b / per_frame_a)


def same_view(a: RigFigures, b: RigFigures) -> bool:
    return bool(abs(view_ratio(a, b) - 1) <= LEVEL_VIEW)


def same_spot(a: RigFigures, b: RigFigures) -> bool:
    return bool(abs(b.settings.subject_distance_m / a.settings.subject_distance_m - 1) <= LEVEL_VIEW)


def depth_level(a: RigFigures, b: RigFigures) -> bool:
    """Whether depths of field are level: both limits alike, also when far is infinite."""
    one, other = a.depth, b.depth
    if one.total_m == float("inf") or other.total_m == float("inf"):
        return bool(one.total_m == other.total_m and abs(other.near_m / one.near_m - 1) <= LEVEL_DEPTH)
    return bool(abs(other.total_m / one.total_m - 1) <= LEVEL_DEPTH)


def blur_stops(a: RigFigures, b: RigFigures) -> float:
    """How many stops of aperture b's background blur is ahead of a's, each against its frame; NaN where unknown or nothing is there."""
    one, other = a.blur.background_share, b.blur.background_share
    return 2 * log2(other / one) if one > 0 and other > 0 else float("nan")


@pair_rule
def same_picture(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    if not (same_view(a, b) and same_spot(a, b)):
        return
    blur = blur_stops(a, b)
    alike = depth_level(a, b) and (blur != blur or abs(blur) <= LEVEL_STOPS)
    settings = {
        "f_a": Figure(a.settings.focal_length_mm, "mm"),
        "n_a": Figure(a.settings.f_number, "f"),
        "f_b": Figure(b.settings.focal_length_mm, "mm"),
        "n_b": Figure(b.settings.f_number, "f"),
    }
    if alike:
        text = "{b} at {f_b} {n_b} makes the same picture as {a} at {f_a} {n_a}: view, depth of field and background blur are level."
        yield say("same_picture", 95, text, a, b, **settings)
    else:
        text = (
            "{b} at {f_b} frames like {a} at {f_a}, but {n_b} there is not {n_a} here: "
            "in {a}'s terms it is {n_eq} for depth and blur, and {n_b} for exposure."
        )
        yield say("same_picture", 87, text, a, b, n_eq=Figure(b.blur.equivalent_f_number, "f"), **settings)


@pair_rule
def view(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    ratio = view_ratio(a, b)
    if not abs(ratio - 1) > LEVEL_VIEW:
        return
    text = "{b} sees {direction} than {a}: {wide_b} by {high_b} at the subject against {wide_a} by {high_a}, {times} the view by {measure}."
    yield say(
        "view",
        70 + 8 * min(1.5, abs(log2(ratio))),
        text,
        a,
        b,
        direction=Figure("wider" if ratio > 1 else "tighter", "word"),
        wide_a=Figure(a.view.field_wide_m, "m"),
        high_a=Figure(a.view.field_high_m, "m"),
        wide_b=Figure(b.view.field_wide_m, "m"),
        high_b=Figure(b.view.field_high_m, "m"),
        times=Figure(ratio, "times"),
        measure=Figure(CROP_MEASURES[comparison.conventions.crop_by].label, "word"),
    )


@pair_rule
def shape(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """What remains of a view that is matched: the frames differ in shape."""
    wide, high = b.view.field_wide_m / a.view.field_wide_m, b.view.field_high_m / a.view.field_high_m
    if not (same_view(a, b) and abs(wide / high - 1) > LEVEL_VIEW):
        return
    across = "more" if wide > 1 else "less"
    down = "more" if high > 1 else "less"
    text = "The frames differ in shape: {b} shows {wide} {across} from side to side than {a}, and {high} {down} from top to bottom."
    if abs(wide - 1) <= LEVEL_VIEW:
        text = "The frames differ in shape: {b} shows {high} {down} from top to bottom than {a}; the width is level."
    elif abs(high - 1) <= LEVEL_VIEW:
        text = "The frames differ in shape: {b} shows {wide} {across} from side to side than {a}; the height is level."
    figures = {"wide": Figure(abs(wide - 1), "share"), "across": Figure(across, "word")}
    figures |= {"high": Figure(abs(high - 1), "share"), "down": Figure(down, "word")}
    yield say("shape", 38, text, a, b, **{name: figure for name, figure in figures.items() if "{" + name + "}" in text})


@pair_rule
def perspective(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    if same_spot(a, b):
        if comparison.hold.place == "walk" and comparison.hold.lens == "equivalent":
            text = "With equivalent lenses walking changes nothing: {b} fills its frame as {a} does from the same spot."
            if same_view(a, b):
                yield say("walk_same_spot", 45, text, a, b)
        return
    figures = {"d_a": Figure(a.settings.subject_distance_m, "m"), "d_b": Figure(b.settings.subject_distance_m, "m")}
    if comparison.brief.background_m in (None, float("inf")):
        text = "{b} stands at {d_b} from the subject, {a} at {d_a}: the perspective is not the same."
        yield say("perspective", 60, text, a, b, **figures)
        return
    scale = b.view.background_scale / a.view.background_scale
    text = (
        "{b} stands at {d_b} from the subject, {a} at {d_a}: the perspective changes, and the background is {times} as large "
        "against the subject."
    )
    yield say("perspective", 62 + 10 * min(1, abs(log2(scale))), text, a, b, times=Figure(scale, "times"), **figures)


@rig_rule
def behind_camera(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    foreground = comparison.brief.foreground_m
    if foreground is not None and b.settings.subject_distance_m <= foreground:
        text = "What stands {front} before the subject is behind the camera of {b}, which is {d_b} from it."
        front = Figure(foreground, "m")
        yield say("behind_camera", 50, text, b, d_b=Figure(b.settings.subject_distance_m, "m"), front=front)


@pair_rule
def simple_rule(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """How far the crop factor alone is off close up, where it was used for the same picture."""
    if comparison.hold.lens != "equivalent" or not same_view(a, b) or not same_spot(a, b):
        return
    simple = a.settings.focal_length_mm * a.frames.crop / b.frames.crop
    error = simple / b.settings.focal_length_mm - 1
    if not abs(error) > LEVEL_VIEW:
        return
    text = (
        "This close the crop factor alone is off by {error}: it says {simple} for {b}, the same picture from {d} takes {exact}, "
        "as focusing moves the lenses out by different shares."
    )
    yield say(
        "simple_rule",
        30 + 200 * min(0.1, abs(error)),
        text,
        a,
        b,
        error=Figure(abs(error), "share"),
        simple=Figure(simple, "mm"),
        exact=Figure(b.settings.focal_length_mm, "mm"),
        d=Figure(b.settings.object_distance_m, "m"),
    )
