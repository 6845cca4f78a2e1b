"""Verdicts on diffraction: in force, as the habit of an f-number, and where it costs nothing."""

from __future__ import annotations

from collections.abc import Iterator

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.rig import aperture_stops
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS, circle_of_confusion_mm
from cambrel.optics.formats import Sensor
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, rig_rule, say
from cambrel.verdicts.relations import pupil_stops, same_spot, same_view
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, by_ratio


def print_circle_mm(comparison: Comparison, rig: RigFigures) -> float:
    """What the eye still takes for a point in this picture as it is shown, on the sensor, whichever school is in force.

    Parameters
        comparison: how the picture is shown
        rig: one of it
    Returns
        on the sensor [mm]
    """
    brief, frame = comparison.brief, Sensor(rig.frames.width_mm, rig.frames.height_mm)
    circle_mm = circle_of_confusion_mm(
        frame,
        "print",
        viewing_distance_mm=brief.viewing_distance_mm,
        shown_long_side_mm=brief.shown_long_side_mm,
        lines_per_mm=comparison.conventions.lines_per_mm,
    )
    assert circle_mm is not None
    return circle_mm


@rig_rule
@rests_on("airy", "airy_coc", of=("diffraction", "diffraction_pixels"))
def diffraction(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A stop at which diffraction softens what still counts as sharp."""
    d = b.diffraction
    school = CIRCLE_OF_CONFUSION_SCHOOLS[comparison.conventions.criterion]
    brief = comparison.brief
    figures = {
        "n": Figure(b.settings.f_number, "f"),
        "airy": Figure(d.airy_um, "um"),
        "long": Figure(brief.shown_long_side_mm / 1000, "m"),
        "from_m": Figure(brief.viewing_distance_mm / 1000, "m"),
    }
    if d.over_coc > 1:
        text = (
            "{b} at {n} is past its diffraction limit: Airy discs of {airy}, over the {coc} that still "
            "counts as sharp. It shows {where} from {limit} on."
        )
        figures |= {
            "coc": Figure(1000 * b.frames.coc_mm, "um"),
            "limit": Figure(d.limited_f_number, "f"),
            "where": Figure(school.shows_at, "word"),
        }
        size = by_ratio(d.over_coc, LEVEL_VIEW)
        yield say("diffraction", Topic.DIFFRACTION, size, text, b, **figures)
    elif d.over_two_pixels > 1:
        text = "{b} at {n} shows diffraction at 100 percent: Airy discs of {airy} pass two pixels from {limit} on."
        text += " In a print {long} wide, seen from {from_m}, you " + (
            "will not see it." if d.airy_um <= 1000 * print_circle_mm(comparison, b) else "will see it too."
        )
        limit = Figure(d.pixel_limited_f_number, "f")
        yield say("diffraction_pixels", Topic.TERMS, 1.0, text, b, limit=limit, **figures)


@pair_rule
@rests_on("f_number", "airy_coc", "limited")
def diffraction_trap(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """The habit of an f-number carried from one format to another."""
    if not (a.diffraction.over_coc > 1) ^ (b.diffraction.over_coc > 1):
        return
    if abs(aperture_stops(b.settings.f_number, a.settings.f_number)) > LEVEL_STOPS:
        return
    soft, clean = (b, a) if b.diffraction.over_coc > 1 else (a, b)
    ratio = soft.diffraction.airy_share / clean.diffraction.airy_share
    if not ratio > 2 ** (LEVEL_STOPS / 2):
        return
    text = "{n} softens {soft}'s picture more than {clean}'s: diffraction is {times} as large against the frame."
    yield say(
        "diffraction_trap",
        Topic.DIFFRACTION,
        by_ratio(ratio, LEVEL_VIEW),
        text,
        a,
        b,
        n=Figure(a.settings.f_number, "f"),
        clean=Figure(clean.index, "rig"),
        soft=Figure(soft.index, "rig"),
        times=Figure(ratio, "times"),
    )


@pair_rule
@rests_on("f_number", "airy_coc")
def equal_diffraction(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """That a smaller format "diffracts earlier" costs nothing where the pictures are the same."""
    small = b if b.frames.diagonal_mm < a.frames.diagonal_mm else a
    if abs(b.frames.crop / a.frames.crop - 1) <= LEVEL_VIEW or not (same_view(a, b) and same_spot(a, b)):
        return
    if (
        abs(pupil_stops(a, b)) > LEVEL_STOPS
        or not max(small.diffraction.over_coc, small.diffraction.over_two_pixels) > 1
    ):
        return
    if abs(aperture_stops(b.diffraction.airy_share, a.diffraction.airy_share)) > LEVEL_STOPS:
        return
    text = (
        "Diffraction is the same: {n_b} on {b} softens its picture just as {n_a} on {a} does. That "
        "{small} reaches its limit at a smaller f-number costs nothing here."
    )
    yield say(
        "equal_diffraction",
        Topic.TERMS,
        1.0,
        text,
        a,
        b,
        n_a=Figure(a.settings.f_number, "f"),
        n_b=Figure(b.settings.f_number, "f"),
        small=Figure(small.index, "rig"),
    )
