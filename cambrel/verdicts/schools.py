"""Verdicts on conventions: where the same hold under another school would read differently."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS, depth_of_field
from cambrel.optics.formats import CROP_MEASURES, Sensor
from cambrel.optics.geometry import focal_length_for_image_distance_mm, image_distance_mm
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, say
from cambrel.wording.sentences import LEVEL_DEPTH, LEVEL_VIEW, by_ratio, known


def _frame(rig: RigFigures) -> Sensor:
    return Sensor(rig.frames.width_mm, rig.frames.height_mm)


@pair_rule
@rests_on("crop", "eq_focal", says="The same two frames by another measure of the crop.")
def other_crop(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """The measure that would change the equivalent focal length most."""
    if not comparison.hold.of_lens.keeps_view or not (a.settings.focusable and b.settings.focusable):
        return
    frame_a, frame_b = _frame(a), _frame(b)
    in_force = CROP_MEASURES[comparison.conventions.crop_by]
    changes = {
        key: (
            (measure.length_mm(frame_b) / measure.length_mm(frame_a))
            / (in_force.length_mm(frame_b) / in_force.length_mm(frame_a))
            - 1
        )
        for key, measure in CROP_MEASURES.items()
    }
    key = max(changes, key=lambda key: abs(changes[key]))
    # the view scales the image distance; what that makes of the focal length depends on the focus
    u = b.settings.object_distance_m
    if not 1000 * u > b.settings.wanted_focal_length_mm:
        return
    image = float(image_distance_mm(b.settings.wanted_focal_length_mm, u))
    would = float(focal_length_for_image_distance_mm(image * (1 + changes[key]), u))
    change = would / b.settings.wanted_focal_length_mm - 1
    if not abs(change) > LEVEL_VIEW:
        return
    text = (
        "By {other} instead of {measure}, the equivalent on {b} would be {would}, {change} {word}. "
        "The frames differ in shape."
    )
    yield say(
        "other_crop",
        Topic.TERMS,
        by_ratio(1 + change, LEVEL_VIEW),
        text,
        a,
        b,
        other=Figure(CROP_MEASURES[key].label, "word"),
        measure=Figure(in_force.label, "word"),
        would=Figure(would, "mm"),
        change=Figure(abs(change), "share"),
        word=Figure("longer" if change > 0 else "shorter", "word"),
    )


@pair_rule
@rests_on(
    "coc",
    "total",
    says=(
        "The same two pictures, judged by what shows at 100 percent instead of what shows in the print, or the other"
        " way."
    ),
)
def other_circle(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Whether judging by pixels instead of by the picture, or the other way, turns who has more depth."""
    now, then = comparison.conventions.criterion, "two_pixels"
    if now == then:
        then = "diagonal_1500"
        circles = [rig.frames.diagonal_mm / 1500 for rig in (a, b)]
    else:
        circles = [2 * rig.frames.pitch_um / 1000 for rig in (a, b)]
    if not all(known(circle) for circle in circles) or not (a.settings.focusable and b.settings.focusable):
        return
    totals = [
        float(
            depth_of_field(
                rig.settings.focal_length_mm, rig.settings.f_number, rig.settings.object_distance_m, circle
            ).total_m
        )
        for rig, circle in zip((a, b), circles, strict=True)
    ]
    present = b.depth.total_m / a.depth.total_m if a.depth.total_m < inf else float("nan")
    other = totals[1] / totals[0] if totals[0] < inf else float("nan")
    if not (known(present) and known(other) and abs(present - 1) > LEVEL_DEPTH and abs(other - 1) > LEVEL_DEPTH):
        return
    if (present > 1) == (other > 1):
        return
    text = (
        "Judged by {other} instead of {school}, {b} would have {word} depth of field than {a}, "
        "{times} as much. Who is right depends on how you look."
    )
    yield say(
        "other_circle",
        Topic.TERMS,
        by_ratio(other, LEVEL_DEPTH),
        text,
        a,
        b,
        other=Figure(CIRCLE_OF_CONFUSION_SCHOOLS[then].judge, "word"),
        school=Figure(CIRCLE_OF_CONFUSION_SCHOOLS[now].judge, "word"),
        word=Figure("more" if other > 1 else "less", "word"),
        times=Figure(other, "times"),
    )
