"""Verdicts on what is in the frame: the same picture, the view, its shape, the perspective, and the simple rule close
up.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from math import inf

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.rig import aperture_stops
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.formats import CROP_MEASURES
from cambrel.optics.geometry import near_over_far
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, say, whole_rule
from cambrel.verdicts.relations import (
    EQUIVALENT_VIEW,
    NEAR_HYPERFOCAL,
    blur_stops,
    circles_agree,
    depth_level,
    goes_together,
    pupil_stops,
    same_focus,
    same_spot,
    same_view,
    shapes_agree,
    view_ratio,
)
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, by_ratio, by_stops, listed


def _shown_alike(a: RigFigures, b: RigFigures) -> bool:
    """One format with one setting: that the picture is the same goes without saying."""
    same_frame = abs(b.frames.crop / a.frames.crop - 1) <= LEVEL_VIEW
    same_focal = abs(b.settings.focal_length_mm / a.settings.focal_length_mm - 1) <= LEVEL_VIEW
    return same_frame and same_focal and abs(aperture_stops(b.settings.f_number, a.settings.f_number)) <= LEVEL_STOPS


@pair_rule
@rests_on(
    "eq_focal",
    "eq_f",
    "same",
    "same_f",
    of=("same_picture", "equivalent", "gap", "no_such_lens", "cannot_exist"),
    says=(
        "The same opening behind the same angle takes the same picture. Which lenses exist is a "
        "table by format. No lens in air is faster than f/0.5."
    ),
)
def same_picture(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Both take the same picture: view, depth and blur alike."""
    nearly = abs(view_ratio(a, b) - 1) <= EQUIVALENT_VIEW
    if not (nearly and same_spot(a, b) and same_focus(a, b)) or _shown_alike(a, b):
        return
    settings = {
        "f_a": Figure(a.settings.focal_length_mm, "mm"),
        "n_a": Figure(a.settings.f_number, "f"),
        "f_b": Figure(b.settings.focal_length_mm, "mm"),
        "n_b": Figure(b.settings.f_number, "f"),
    }
    apart = pupil_stops(a, b)
    if abs(apart) <= LEVEL_STOPS:
        # what does not fit takes no picture at all; the mount and the image circle have their own sentences
        if goes_together(a) and goes_together(b):
            yield _equivalent(comparison, a, b, settings)
        return
    if not same_view(a, b):
        return
    what = "depth and blur" if circles_agree(a, b) else "blur"
    text = (
        "{b} at {f_b} {n_b} frames like {a} at {f_a} {n_a}. In {a}'s terms it is {n_eq} for {what}, "
        "and it exposes like {n_ex}."
    )
    if abs(aperture_stops(b.settings.f_number, a.settings.f_number)) <= LEVEL_STOPS:
        text = (
            "{b} at {f_b} frames like {a} at {f_a}, but {n_b} there is not {n_a} here. In {a}'s terms it "
            "is {n_eq} for {what}, and {n_ex} for exposure."
        )
    figures = {
        "n_eq": Figure(_in_terms(b), "f"),
        "n_ex": Figure(b.light.effective_f_number, "f"),
        "what": Figure(what, "word"),
    }
    yield say("same_picture", Topic.DEPTH, by_stops(apart), text, a, b, **settings, **figures)


def _in_terms(b: RigFigures) -> float:
    """The f-number that does the same on the reference's format: by the crop factor, as people say it, where that is as
    good as the exact one.
    """
    simple, exact = b.blur.equivalent_f_number, b.blur.same_picture_f_number
    return simple if abs(aperture_stops(simple, exact)) <= LEVEL_STOPS else exact


def _equivalent(comparison: Comparison, a: RigFigures, b: RigFigures, settings: dict[str, Figure]) -> Verdict:
    """Nearly the same view, same pupil: what is the same, what is a little off, and why the rest is not the same."""
    same: list[str] = ["same view"] if same_view(a, b) else []
    rest: list[str] = []
    if not is_unknown(a.depth.total_m) and not is_unknown(b.depth.total_m):
        (same if depth_level(a, b) else rest).append("depth of field")
    blur = blur_stops(a, b)
    if not is_unknown(blur):
        (same if abs(blur) <= LEVEL_STOPS else rest).append("background blur")
    if abs(b.light.total_stops) <= LEVEL_STOPS:
        same.append("light")
    same = [word if word.startswith("same") else f"same {word}" for word in same]
    text = "{b} at {f_b} {n_b} and {a} at {f_a} {n_a} are equivalent" + (": {same}." if same else ".")
    ratio = view_ratio(a, b)
    if not same_view(a, b):
        text += " {b} sees {off} {side}."
    if rest:
        verb = "are" if len(rest) > 1 else "is"
        text += f" {listed(rest).capitalize()} {verb} not the same: {_why_not(comparison, a, b)}."
    figures = {
        "same": Figure(", ".join(same), "word"),
        "off": Figure(abs(ratio - 1), "share"),
        "side": Figure("wider" if ratio > 1 else "tighter", "word"),
        "judge": Figure(CIRCLE_OF_CONFUSION_SCHOOLS[comparison.conventions.criterion].judge, "word"),
    }
    verdict = say("equivalent", Topic.EQUIVALENT, 0.0, text, a, b, **settings, **figures)
    return verdict.subsuming("view")


def _why_not(comparison: Comparison, a: RigFigures, b: RigFigures) -> str:
    """What makes depth or blur of equivalent pictures differ all the same."""
    if not circles_agree(a, b):
        return "what counts as sharp, {judge}, does not grow with the frame"
    if not shapes_agree(a, b):
        return "the frames have different shapes"
    if all(rig.settings.object_distance_m > NEAR_HYPERFOCAL * rig.depth.hyperfocal_m for rig in (a, b)):
        return "near the hyperfocal distance small differences grow large"
    return "view and aperture are nearly the same, not exactly"


@pair_rule
@rests_on("field_wide", "angle_wide")
def view(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Which sees wider at the subject."""
    ratio = view_ratio(a, b)
    if not abs(ratio - 1) > LEVEL_VIEW:
        return
    wide, high = b.view.field_wide_m / a.view.field_wide_m, b.view.field_high_m / a.view.field_high_m
    text = "{b} sees {direction} than {a}"
    if (wide - 1) * (high - 1) < 0 and max(abs(wide - 1), abs(high - 1)) > LEVEL_VIEW:
        text = "{b} shows {across} from side to side than {a}, and {down} from top to bottom"
    text += ": {wide_b} by {high_b} at the subject against {wide_a} by {high_a}, {times} the view by {measure}."
    yield say(
        "view",
        Topic.VIEW,
        by_ratio(ratio, EQUIVALENT_VIEW),
        text,
        a,
        b,
        across=Figure("more" if wide > 1 else "less", "word"),
        down=Figure("more" if high > 1 else "less", "word"),
        direction=Figure("wider" if ratio > 1 else "tighter", "word"),
        wide_a=Figure(a.view.field_wide_m, "m"),
        high_a=Figure(a.view.field_high_m, "m"),
        wide_b=Figure(b.view.field_wide_m, "m"),
        high_b=Figure(b.view.field_high_m, "m"),
        times=Figure(ratio, "times"),
        measure=Figure(CROP_MEASURES[comparison.conventions.crop_by].label, "word"),
    )


@pair_rule
@rests_on(
    "width",
    "height",
    says="Frames of different shapes do not match both ways. The crop measure decides which way does.",
)
def shape(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """What remains of a view that is matched: the frames differ in shape."""
    wide, high = b.view.field_wide_m / a.view.field_wide_m, b.view.field_high_m / a.view.field_high_m
    if not (same_view(a, b) and abs(wide / high - 1) > LEVEL_VIEW):
        return
    across = "more" if wide > 1 else "less"
    down = "more" if high > 1 else "less"
    text = (
        "The frames have different shapes: {b} shows {wide} {across} from side to side than {a}, and {high} {down} from"
        " top to bottom."
    )
    if abs(wide - 1) <= LEVEL_VIEW:
        text = (
            "The frames have different shapes: {b} shows {high} {down} from top to bottom than {a}, and the same from"
            " side to side."
        )
    elif abs(high - 1) <= LEVEL_VIEW:
        text = (
            "The frames have different shapes: {b} shows {wide} {across} from side to side than {a}, and the same from"
            " top to bottom."
        )
    figures = {"wide": Figure(abs(wide - 1), "share"), "across": Figure(across, "word")}
    figures |= {"high": Figure(abs(high - 1), "share"), "down": Figure(down, "word")}
    yield say("shape", Topic.TERMS, by_ratio(wide / high, LEVEL_VIEW), text, a, b, **figures)


@pair_rule
@rests_on("scale", "distance", of=("perspective", "walk_same_spot"))
def perspective(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Whether near and far stand to each other alike: where the place is one."""
    if same_spot(a, b):
        if comparison.hold.of_place.walks and comparison.hold.of_lens.keeps_view:
            text = "With equivalent lenses there is no need to walk: {b} fills its frame like {a} from the same spot."
            if same_view(a, b):
                yield say("walk_same_spot", Topic.TERMS, 0.0, text, a, b)
        return
    ratio = b.settings.subject_distance_m / a.settings.subject_distance_m
    figures = {"d_a": Figure(a.settings.subject_distance_m, "m"), "d_b": Figure(b.settings.subject_distance_m, "m")}
    if comparison.brief.background_m in (None, inf):
        text = "{b} is {d_b} from the subject, {a} is {d_a}: the perspective is not the same."
        yield say("perspective", Topic.VIEW, by_ratio(ratio, LEVEL_VIEW), text, a, b, **figures)
        return
    scale = b.view.background_scale / a.view.background_scale
    text = (
        "{b} is {d_b} from the subject, {a} is {d_a}: the perspective changes. The background is "
        "{times} as large against the subject."
    )
    if abs(scale - 1) <= LEVEL_VIEW:
        text = "{b} is {d_b} from the subject, {a} is {d_a}. The background is the same size against the subject."
    size = by_ratio(scale, LEVEL_VIEW)
    yield say("perspective", Topic.VIEW, size, text, a, b, times=Figure(scale, "times"), **figures)


@whole_rule
@rests_on("fill", says="The subject's height against what the frame shows from bottom to top at that distance.")
def taller_than_frame(comparison: Comparison) -> Iterator[Verdict]:
    """A subject of which a frame shows a part only."""
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    cut = [rig for rig in rigs if rig.view.fill > 1 + LEVEL_VIEW]
    if not cut:
        return
    shown = ", ".join(f"{{rig_{rig.index}}} shows {{part_{rig.index}}} of it" for rig in cut)
    figures = {f"rig_{rig.index}": Figure(rig.index, "rig") for rig in cut}
    figures |= {f"part_{rig.index}": Figure(1 / rig.view.fill, "share") for rig in cut}
    text = f"The subject, {{height}} tall, is taller than the frame: {shown}."
    height = Figure(comparison.brief.subject_height_m, "m")
    verdict = say("taller_than_frame", Topic.TERMS, 1.0, text, cut[-1], height=height, **figures)
    yield replace(verdict, rigs=tuple(rig.index for rig in cut))


HEAD_DEEP_M = 0.12
"""From the tip of a nose back to the ears."""
PERSON_M = (1.0, 2.3)
"""A subject of such a height is taken for a person."""
LEVEL_NEARNESS = 0.01
"""Less than a hundredth more is not seen in a face."""


@pair_rule
@rests_on("distance")
def nearness(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Near against far within a face: the doing of the distance, whatever the camera."""
    if not (a.settings.focusable and b.settings.focusable):
        return
    if not PERSON_M[0] <= comparison.brief.subject_height_m <= PERSON_M[1]:
        return
    distances = a.settings.subject_distance_m, b.settings.subject_distance_m
    share_a, share_b = (float(near_over_far(distance, HEAD_DEEP_M)) - 1 for distance in distances)
    if abs(share_b - share_a) <= LEVEL_NEARNESS:
        return
    text = (
        "In a face the nose looks {share_b} larger than the ears from {d_b} on {b}, and {share_a} "
        "larger from {d_a} on {a}. That comes from the distance, not the camera."
    )
    figures = {"share_a": Figure(share_a, "share"), "d_a": Figure(distances[0], "m")}
    figures |= {"share_b": Figure(share_b, "share"), "d_b": Figure(distances[1], "m")}
    yield say("nearness", Topic.VIEW, abs(share_b - share_a) / LEVEL_NEARNESS, text, a, b, **figures)


@whole_rule
@rests_on("distance", says="What is in front of the subject stays in place when you walk.")
def behind_camera(comparison: Comparison) -> Iterator[Verdict]:
    """What stands in front of the subject may be behind a camera that stands near."""
    foreground = comparison.brief.foreground_m
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    past = [rig for rig in rigs if foreground is not None and rig.settings.subject_distance_m <= foreground]
    if not past or foreground is None:
        return
    names = [f"{{rig_{rig.index}}}" for rig in past]
    text = f"What is {{front}} in front of the subject is behind {listed(names)}'s camera."
    letters = {f"rig_{rig.index}": Figure(rig.index, "rig") for rig in past}
    verdict = say("behind_camera", Topic.VIEW, 1.0, text, past[-1], front=Figure(foreground, "m"), **letters)
    yield replace(verdict, rigs=tuple(rig.index for rig in past))


@pair_rule
@rests_on(
    "rule_error",
    "same",
    says=(
        "The crop factor scales the image distance. Close up that is no longer the focal length, and "
        "it differs from camera to camera."
    ),
)
def simple_rule(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """How far the crop factor alone is off close up, where it was used for the same picture."""
    if not comparison.hold.of_lens.keeps_view or not same_view(a, b) or not same_spot(a, b):
        return
    simple = a.settings.focal_length_mm * a.frames.crop / b.frames.crop
    error = simple / b.settings.focal_length_mm - 1
    if not abs(error) > LEVEL_VIEW:
        return
    text = (
        "This close, the crop factor alone is off by {error}. It says {simple} for {b}, but the same "
        "view from {d} takes {exact}. Focusing moves each lens out by its own amount."
    )
    yield say(
        "simple_rule",
        Topic.TERMS,
        by_ratio(1 + error, LEVEL_VIEW),
        text,
        a,
        b,
        error=Figure(abs(error), "share"),
        simple=Figure(simple, "mm"),
        exact=Figure(b.settings.focal_length_mm, "mm"),
        d=Figure(b.settings.subject_distance_m, "m"),
    )
