"""Verdicts on sharpness and reach, and the sentence that says what limits a rig now."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf, isfinite

from cambrel.comparison.blur_budget import is_limited_by_pixels, largest_streak, limiting
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.slowest_shutter import held_s
from cambrel.comparison.tighter_views import fields_of
from cambrel.optics.reach import megapixels_left
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, rig_rule, say
from cambrel.verdicts.relations import same_spot
from cambrel.wording.sentences import LEVEL_VIEW, Sentence, by_ratio

LEVEL_RESOLVED = 0.18
"""The product of defocus and diffraction is off by so much at most, so that less is level."""
LEVEL_PITCH = 0.03
HALF_SOFT = (1.0, 4.0)
"""Between so many circles of confusion a background is neither sharp nor clearly soft."""
NAMES = {
    "pixels": "its pixels",
    "diffraction": "diffraction",
    "defocus": "the focus, which is not on the subject",
    "lens": "its lens",
    "movement": "subject movement",
    "shake": "camera shake",
    "drift": "star drift",
}


@pair_rule
@rests_on("detail", "lines", "mtf50")
def resolved(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Who draws the finer detail on the subject; and where the frames show unlike much of the scene, who does in the
    whole picture.
    """
    ratio = a.sharpness.finest_detail_mm / b.sharpness.finest_detail_mm
    if not max(ratio, 1 / ratio if ratio > 0 else inf) > 1 + LEVEL_RESOLVED:
        return
    fine, coarse = (b, a) if ratio > 1 else (a, b)
    surely = "" if isfinite(a.sharpness.lens_mm) and isfinite(b.sharpness.lens_mm) else "At best "
    text = surely + "{fine} draws finer detail on the subject than {coarse}: lines of {fine_m} against {coarse_m}."
    lines = coarse.sharpness.lines_per_height / fine.sharpness.lines_per_height
    if lines > 1 + LEVEL_RESOLVED:
        text += " Over the whole height of its picture {coarse} has more: {more} line widths against {fewer}."
    yield say(
        "resolved",
        Topic.SHARPNESS,
        by_ratio(ratio, LEVEL_RESOLVED),
        text,
        a,
        b,
        fine=Figure(fine.index, "rig"),
        coarse=Figure(coarse.index, "rig"),
        fine_m=Figure(fine.sharpness.finest_detail_mm / 1000, "m"),
        coarse_m=Figure(coarse.sharpness.finest_detail_mm / 1000, "m"),
        more=Figure(coarse.sharpness.lines_per_height, "number"),
        fewer=Figure(fine.sharpness.lines_per_height, "number"),
    )


@pair_rule
@rests_on("pitch", "on_subject")
def reach(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """The same focal length from the same spot on two formats: what counts is the pixel, not the crop factor."""
    if not (a.settings.focusable and b.settings.focusable and same_spot(a, b)):
        return
    if abs(b.settings.focal_length_mm / a.settings.focal_length_mm - 1) > LEVEL_VIEW:
        return
    if abs(b.frames.crop / a.frames.crop - 1) <= LEVEL_VIEW:
        return
    pitch = a.frames.pitch_um / b.frames.pitch_um
    focused = b.view.image_distance_mm / a.view.image_distance_mm
    # one spot is one to within what is worth saying
    ratio = pitch * focused * (a.settings.subject_distance_m / b.settings.subject_distance_m)
    small = b if b.frames.crop > a.frames.crop else a
    far, near = (b, a) if ratio > 1 else (a, b)
    figures = {
        "f": Figure(a.settings.focal_length_mm, "mm"),
        "small": Figure(small.index, "rig"),
        "p_a": Figure(a.frames.pitch_um, "um"),
        "p_b": Figure(b.frames.pitch_um, "um"),
        "far": Figure(far.index, "rig"),
        "near": Figure(near.index, "rig"),
        "times": Figure(max(ratio, 1 / ratio), "times"),
    }
    because = "their pixels are {p_a} and {p_b}"
    if abs(focused - 1) > LEVEL_VIEW:
        because += ", and they are focused at different distances"
    if abs(ratio - 1) <= LEVEL_PITCH:
        text = (
            f"At {{f}} from the same spot {{a}} and {{b}} reach equally far: {because}. The crop of "
            f"{{small}} only cuts off what is around."
        )
        yield say("reach", Topic.SHARPNESS, 1.0, text, a, b, **figures)
        return
    text = (
        f"At {{f}} from the same spot {{far}} puts {{times}} as many pixels on the same part of the "
        f"subject as {{near}}: {because}. "
    )
    text += "The crop factor of {small} plays no part in that."
    yield say("reach", Topic.SHARPNESS, by_ratio(ratio, LEVEL_PITCH), text, a, b, **figures)


@pair_rule
@rests_on("lines", says="No pixel can show what the lens does not resolve. A crop enlarges both alike.")
def crop_of_the_lens(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """A crop keeps the lens as it is on the sensor: where the lens limits, finer pixels would not help."""
    if not (a.settings.focusable and b.settings.focusable and same_spot(a, b)):
        return
    wide, tight = (a, b) if a.field > b.field else (b, a)
    s = wide.sharpness
    if not wide.field / tight.field > 1 + LEVEL_VIEW or not isfinite(s.pixels_mm) or limiting(s) != ("lens",):
        return
    text = (
        "Cropped to {tight}'s view, {wide} keeps {left} megapixels, but is limited by its lens, not "
        "by its pixels. A perfect lens would make detail {by_lens} as fine, "
    )
    text += "finer pixels {by_pixels}." if s.pixels_price > 1 + LEVEL_VIEW else "finer pixels no finer."
    left = megapixels_left(wide.frames.pixels / 1e6, *fields_of(wide), *fields_of(tight))
    yield say(
        "crop_of_the_lens",
        Topic.SHARPNESS,
        1.0,
        text,
        a,
        b,
        wide=Figure(wide.index, "rig"),
        tight=Figure(tight.index, "rig"),
        left=Figure(float(left), "number"),
        by_lens=Figure(s.lens_price, "times"),
        by_pixels=Figure(s.pixels_price, "times"),
    )


@pair_rule
@rests_on("lines", says="The smaller frame leaves out the edge of the lens’s picture, and enlarges the rest more.")
def sweet_spot(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """One lens on two formats: the smaller keeps its better middle and enlarges it more. Judged in the picture, both
    ways.
    """
    if not comparison.hold.of_lens.is_shared or abs(b.frames.crop / a.frames.crop - 1) <= LEVEL_VIEW:
        return
    large, small = (a, b) if b.frames.diagonal_mm < a.frames.diagonal_mm else (b, a)
    corners = {rig.index: float(comparison.corner.lines_per_height[rig.index]) for rig in (large, small)}
    if not all(isfinite(value) for value in corners.values()):
        return
    ratio = corners[small.index] / corners[large.index]
    better = "softer" if ratio < 1 / (1 + LEVEL_RESOLVED) else "sharper" if ratio > 1 + LEVEL_RESOLVED else "as sharp"
    text = (
        "With the same lens, {small} uses the better middle and enlarges it more. Its corner is {better}"
        f" {'as' if better == 'as sharp' else 'than'} {{large}}'s: "
        "{small_corner} line widths per picture height against {large_corner}. In the middle it is {small_middle}"
        " against {large_middle}."
    )
    yield say(
        "sweet_spot",
        Topic.SHARPNESS,
        by_ratio(ratio, LEVEL_RESOLVED),
        text,
        a,
        b,
        small=Figure(small.index, "rig"),
        large=Figure(large.index, "rig"),
        better=Figure(better, "word"),
        small_corner=Figure(corners[small.index], "number"),
        large_corner=Figure(corners[large.index], "number"),
        small_middle=Figure(small.sharpness.lines_per_height, "number"),
        large_middle=Figure(large.sharpness.lines_per_height, "number"),
    )


@rig_rule
@rests_on(
    "background",
    "coc",
    says="A blur disc a few times the sharp limit looks neither sharp nor soft. It looks like a mistake.",
)
def half_soft(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A background neither sharp nor clearly soft reads as a mistake."""
    times = b.blur.background_mm / b.frames.coc_mm
    low, high = HALF_SOFT
    if not low * (1 + LEVEL_VIEW) < times < high:
        return
    n = b.settings.f_number
    closed, opened = n * times / low, n * times / high
    text = "{b}'s background is neither sharp nor clearly soft: its blur is {times} what still counts as sharp."
    figures = {"times": Figure(times, "times")}
    can_close = closed <= b.smallest_f_number
    can_open = opened >= b.widest_f_number(b.settings.focal_length_mm)
    if can_close and can_open:
        text += " {closed} makes it sharp and {opened} clearly soft, or move closer to soften it."
    elif can_close:
        text += " {closed} makes it sharp, or move closer to soften it."
    elif can_open:
        text += " {opened} makes it clearly soft, or move closer to soften it."
    else:
        text += " Move closer or farther away."
    figures |= {"closed": Figure(closed, "f-mark"), "opened": Figure(opened, "f-mark")}
    yield say("half_soft", Topic.BLUR, 1.0, text, b, **figures)


@rig_rule
@rests_on("shutter", "movement_share", says="A stabiliser corrects for your hand. It does nothing for the subject.")
def steady_hand_moving_subject(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A stabiliser steadies the hand, never the subject: said where it makes the shutter usable and the subject does
    not.
    """
    s, given = b.settings, b.rig.body.steadied_stops(b.carrier.lens)
    if not s.focusable or not given:
        return
    bare, held = held_s(comparison, b, 0.0), held_s(comparison, b)
    times = b.blur.movement_mm / b.frames.coc_mm
    if not (bare < s.shutter_s <= held and times > 1 + LEVEL_VIEW):
        return
    text = (
        "At {t} {b}'s stabiliser holds the camera steady, but not the subject. It moves {times} as "
        "far as still looks sharp. Set {needed} to freeze it."
    )
    yield say(
        "steady_hand_moving_subject",
        Topic.SHARPNESS,
        by_ratio(times, LEVEL_VIEW),
        text,
        b,
        t=Figure(s.shutter_s, "s"),
        times=Figure(times, "times"),
        needed=Figure(s.shutter_s / times, "s-mark"),
    )


def what_limits(b: RigFigures, away_m: float | None = None) -> Sentence:
    """What takes most of the sharpness of a rig that sees its subject, of all that is known of it.

    Parameters
        b: that sees its subject
        away_m: where it was judged, if not at the subject [m]
    Returns
        one sentence with its figures
    """
    s = b.sharpness
    figures = {"b": Figure(b.index, "rig"), "lines": Figure(s.lines_per_height, "number")}
    unknown = [name for name, value in (("its lens", s.lens_mm), ("its pixels", s.pixels_mm)) if not isfinite(value)]
    at, names = "", NAMES
    if away_m is not None:
        at, names = " at {away}", NAMES | {"defocus": "the focus, which is elsewhere"}
        figures["away"] = Figure(away_m, "m")
    text = "{b} resolves {lines} line widths per picture height" + at
    if unknown:
        text = "{b} resolves at best {lines} line widths per picture height" + at
    if is_limited_by_pixels(s):
        text += ", all that its pixels can hold"
    if unknown:
        text += f", and {' and '.join(unknown)} {'are' if 'its pixels' in unknown else 'is'} not on record"
    parts = limiting(s)
    price = getattr(s, f"{parts[0]}_price")
    named = [names[largest_streak(s) if part == "motion" else part] for part in parts]
    figures["parts"] = Figure(" and ".join(named), "word")
    if price == inf:
        return Sentence(text + ". Of what is known, only {parts} softens it.", figures)
    figures["times"] = Figure(price, "times")
    lost = ". Of what is known, most is lost to {parts}" if unknown else ". Most is lost to {parts}"
    if len(parts) == 1:
        return Sentence(text + lost + ". Without that, detail would be {times} as fine.", figures)
    return Sentence(text + lost + ", about equally. Without one of them, detail would be {times} as fine.", figures)
