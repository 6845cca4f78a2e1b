"""Verdicts of special work: stacks, close-ups, stars, scenes with more range than a sensor, and who needs the least
ISO.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import inf, isfinite, log2

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.framing import framing, stack
from cambrel.comparison.slowest_shutter import steady
from cambrel.comparison.starlight import starlight
from cambrel.comparison.tonal_range import frames_for, range_of
from cambrel.optics.noise_schools import RANGE_SCHOOLS
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, rig_rule, say
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, LEVEL_WEIGHT, by_ratio, by_stops

CLOSE_M = 0.3
"""A width no larger than this is framed by a close-up."""
LEVEL_SECONDS = 2 ** (1 / 3)


@pair_rule
@rests_on(
    "f_number",
    "total",
    says="Where no aperture covers the range before diffraction softens it, a stack does.",
)
def stack_for_depth(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """The deeper picture has in one frame what the other would have to stack."""
    stacks = {rig.index: stack(comparison, rig, rig.settings.f_number) for rig in (a, b)}
    in_one = [rig for rig in (a, b) if (own := stacks[rig.index]) and own.is_near_enough and own.frames == 1]
    if len(in_one) != 1:
        return
    deep, thin = (a, b) if in_one[0] is a else (b, a)
    stacked = stacks[thin.index]
    if stacked is None or not stacked.is_near_enough or not isfinite(stacked.frames):
        return
    text = "{deep} gets the whole range sharp in one frame at {n_deep}. {thin} needs a stack of {frames} at {n_thin}."
    yield say(
        "stack_for_depth",
        Topic.DEPTH,
        by_ratio(stacked.frames, LEVEL_WEIGHT),
        text,
        a,
        b,
        deep=Figure(deep.index, "rig"),
        thin=Figure(thin.index, "rig"),
        n_deep=Figure(deep.settings.f_number, "f"),
        n_thin=Figure(thin.settings.f_number, "f"),
        frames=Figure(stacked.frames, "number"),
    )


@pair_rule
@rests_on(
    "total_stops",
    says="Close up, light is lost with the magnification on the sensor, which is less on the smaller frame.",
)
def lighter_close_up(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Close up the smaller format is often the sensible choice: where it reaches the framing, is lighter, and is good
    enough as shown.
    """
    width = comparison.brief.width_shown_m
    if width is None or width > CLOSE_M or abs(b.frames.crop / a.frames.crop - 1) <= LEVEL_VIEW:
        return
    small, large = (b, a) if b.frames.crop > a.frames.crop else (a, b)
    framed, other = framing(comparison, small), framing(comparison, large)
    less = 1 - small.outfit.weight_g / large.outfit.weight_g
    shown = comparison.brief.shown_long_side_mm
    if (
        framed is None
        or not framed.is_reached
        or not less > LEVEL_WEIGHT
        or not small.sharpness.largest_print_mm >= shown
    ):
        return
    text = "{small} frames {width} with {less} less to carry than {large}, and is sharp enough for a print {shown} wide"
    if other is not None and isfinite(other.largest) and not other.is_reached:
        text += ". {large} cannot get close enough"
    yield say(
        "lighter_close_up",
        Topic.GEAR,
        by_ratio(1 / (1 - less), LEVEL_WEIGHT),
        text + ".",
        a,
        b,
        small=Figure(small.index, "rig"),
        large=Figure(large.index, "rig"),
        width=Figure(width, "m"),
        less=Figure(large.outfit.weight_g - small.outfit.weight_g, "g"),
        shown=Figure(shown, "mm"),
    )


@rig_rule
@rests_on(
    "pitch",
    says=("The frames are combined pixel between pixel. What moves by half a pixel shows twice."),
)
def combined_frames_move(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """Frames that are made one with a shifted sensor: nothing may move by half a pixel of the picture."""
    if b.rig.frames == 1 or not b.settings.focusable or not isfinite(b.frames.pitch_um):
        return
    half_um = b.frames.pitch_um / 2
    moved_um = 1000 * max(b.blur.movement_mm, float(comparison.shake_mm[b.index]))
    if not moved_um > half_um:
        return
    text = (
        "{b} combines {frames} frames into one picture, so nothing may move by more than {half}: "
        "{what} moves by {moved} in one of them alone."
    )
    shakes = float(comparison.shake_mm[b.index]) > b.blur.movement_mm
    yield say(
        "combined_frames_move",
        Topic.SHARPNESS,
        by_ratio(moved_um / half_um, LEVEL_VIEW),
        text,
        b,
        frames=Figure(float(b.rig.frames), "number"),
        half=Figure(half_um, "um"),
        moved=Figure(moved_um, "um"),
        what=Figure("your hand" if shakes else "the subject", "word"),
    )


@rig_rule
@rests_on("rule_500", "star_middle", "exact")
def star_rule_and_drift(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """What the best known rule allows, against the drift itself where the picture looks, in the middle and in the
    corner.
    """
    declination = comparison.brief.declination_deg
    sky = None if declination is None else starlight(comparison, b, declination)
    if sky is None:
        return
    rule = sky.by_school_s["rule_500"]
    if LEVEL_SECONDS > rule / sky.worst_s > 1 / LEVEL_SECONDS:
        return
    figures = {"rule": Figure(rule, "s"), "worst": Figure(sky.worst_s, "s"), "middle": Figure(sky.middle_s, "s")}
    text = "The 500 rule gives {b} {rule}. By their drift here, stars stay points for "
    if sky.middle_s == inf:
        text += "{worst} at the worst edge, and without limit at the pole."
    else:
        text += "{middle} in the middle and {worst} at the worst edge."
    yield say(
        "star_rule_and_drift", Topic.SHARPNESS, by_ratio(rule / sky.worst_s, LEVEL_SECONDS - 1), text, b, **figures
    )


@pair_rule
@rests_on("iso", "snr_pixel", says="From the brightest tone recorded down to where a shadow is as much noise as light.")
def tonal_range(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Which holds more of the scene's range in one frame, and what the bracket costs."""
    scene, school = comparison.brief.scene_range_stops, comparison.conventions.range
    if scene is None or not (a.settings.focusable and b.settings.focusable):
        return
    ranges = {rig.index: range_of(comparison, rig, rig.settings.iso) for rig in (a, b)}
    of_a, of_b = ranges[a.index], ranges[b.index]
    if of_a is None or of_b is None or not abs(of_b.by[school] - of_a.by[school]) > LEVEL_STOPS:
        return
    more, less = (b, a) if of_b.by[school] > of_a.by[school] else (a, b)
    own, other = (max(of_a.by[school], of_b.by[school]), min(of_a.by[school], of_b.by[school]))
    few, many = frames_for(scene, own), frames_for(scene, other)
    if not isfinite(few):
        return
    figures = {
        "more": Figure(more.index, "rig"),
        "less": Figure(less.index, "rig"),
        "scene": Figure(scene, "stops"),
        "own": Figure(own, "stops"),
        "other": Figure(other, "stops"),
        "iso_more": Figure(more.settings.iso, "iso"),
        "iso_less": Figure(less.settings.iso, "iso"),
        "few": Figure(few, "number"),
        "many": Figure(many, "number"),
        "holds": Figure(RANGE_SCHOOLS[school].holds(comparison.conventions.noise), "word"),
    }
    text = (
        "One frame of {more} at {iso_more} holds {own} of this scene's {scene}, {holds}. One of "
        "{less} at {iso_less} holds "
    )
    if not isfinite(many):
        text += "next to nothing."
        figures.pop("many")
    elif many == 1:
        text = (
            "One frame holds this scene's {scene} on both, {holds}: {more} at {iso_more} has {own}, {less} at"
            " {iso_less} {other}."
        )
    elif few == 1:
        text += "{other}: it needs {many} frames."
    elif few == many:
        text += "{other}. Both need {few} frames."
    else:
        text += "{other}. {more} needs {few} frames, {less} {many}."
    yield say("tonal_range", Topic.LIGHT, by_stops(own - other), text, a, b, **figures)


@pair_rule
@rests_on(
    "slowest",
    "iso",
    "ceiling",
    says="The slowest shutter that blurs nothing, at the f-number of the picture, leaves the ISO.",
)
def least_iso(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Who needs the least ISO for this picture: each as slow as hand, subject, stars and picture let it be."""
    brief = comparison.brief
    asks = brief.support or brief.slowest_shutter_s or brief.subject_speed_m_per_s or brief.declination_deg is not None
    if not asks:
        return
    isos = []
    for rig in (a, b):
        steadied = steady(comparison, rig)
        if steadied is None or not isfinite(steadied.slowest_s):
            return
        isos.append(max(steadied.iso, rig.rig.body.base_iso or 0.0))
    stops = log2(isos[1] / isos[0])
    if not abs(stops) > LEVEL_STOPS:
        return
    least, most = (b, a) if stops < 0 else (a, b)
    yield say(
        "least_iso",
        Topic.LIGHT,
        by_stops(stops),
        "At the slowest safe shutter, {least} needs {low} for this picture at {n_least} and {most} "
        "needs {high} at {n_most}.",
        a,
        b,
        least=Figure(least.index, "rig"),
        most=Figure(most.index, "rig"),
        low=Figure(min(isos), "iso"),
        high=Figure(max(isos), "iso"),
        n_least=Figure(least.settings.f_number, "f"),
        n_most=Figure(most.settings.f_number, "f"),
    )
