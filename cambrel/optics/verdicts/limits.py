"""Verdicts on what a rig cannot reach, and by how much; and on diffraction in force."""

from __future__ import annotations

from collections.abc import Iterator

from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.figures import LEVEL_STOPS, LEVEL_VIEW, Figure, known
from cambrel.optics.formats import nearest_format
from cambrel.optics.geometry import angle_of_view_deg, image_distance_mm
from cambrel.optics.rig import aperture_stops
from cambrel.optics.verdicts.registry import Verdict, pair_rule, rig_rule, say


@rig_rule
def focal_limit(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    wanted, reached = b.settings.wanted_focal_length_mm, b.settings.focal_length_mm
    if not (b.settings.focusable and abs(wanted / reached - 1) > LEVEL_VIEW):
        return
    side = "wider" if reached < wanted else "tighter"
    # the field grows as the image distance shrinks
    times = float(image_distance_mm(wanted, b.settings.object_distance_m)) / b.view.image_distance_mm
    figures = {
        "wanted": Figure(wanted, "mm"),
        "reached": Figure(reached, "mm"),
        "times": Figure(times, "times"),
        "side": Figure(side, "word"),
    }
    angle = float(angle_of_view_deg(b.frames.diagonal_mm, wanted))
    made = nearest_format(b.rig.body.sensor).widest_angle_deg
    if angle > made:
        text = (
            "{b} would need {wanted}; its lens ends at {reached}, so it sees {side}, {times} as much across. "
            "No rectilinear lens of {angle} is to be expected on that format, the widest see about {made}."
        )
        figures |= {"angle": Figure(angle, "deg"), "made": Figure(made, "deg")}
    else:
        text = "{b} would need {wanted}; its lens ends at {reached}, so it sees {side}, {times} as much across."
    yield say("focal_limit", 92, text, b, **figures)


@rig_rule
def f_number_limit(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    wanted, reached = b.settings.wanted_f_number, b.settings.f_number
    if not b.settings.focusable:
        return
    if wanted == float("inf"):
        a = comparison.first
        text = (
            "No aperture gives {b} the {front} in front of the subject that {a} has; at {reached} it is {short} short."
        )
        figures = {
            "front": Figure(a.depth.front_m, "m"),
            "a": Figure(a.index, "rig"),
            "reached": Figure(reached, "f"),
            "short": Figure(a.depth.front_m - b.depth.front_m, "m"),
        }
        yield say("f_number_limit", 82, text, b, **figures)
        return
    short = aperture_stops(reached, wanted)
    if not abs(short) > LEVEL_STOPS:
        return
    end = "opens no wider than" if short > 0 else "closes no further than"
    text = "{b} would need {wanted}; its lens {end} {reached} there: {stops} short."
    yield say(
        "f_number_limit",
        83,
        text,
        b,
        wanted=Figure(wanted, "f"),
        reached=Figure(reached, "f"),
        end=Figure(end, "word"),
        stops=Figure(abs(short), "stops"),
    )


@rig_rule
def focus_limit(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    s = b.settings
    if not s.focusable:
        if known(s.wanted_distance_m):
            text = "{b} cannot focus at {d}: that is inside its focal length of {f}. It has no figures here."
            yield say(
                "focus_limit", 90, text, b, d=Figure(s.wanted_distance_m, "m"), f=Figure(s.wanted_focal_length_mm, "mm")
            )
        else:
            yield say(
                "focus_limit", 90, "No distance gives {b} the subject at this size in focus. It has no figures here.", b
            )
        return
    if not s.object_distance_m > s.wanted_object_distance_m * (1 + LEVEL_VIEW):
        return
    figures = {"limit": Figure(s.object_distance_m, "m"), "wanted": Figure(s.wanted_object_distance_m, "m")}
    if s.subject_distance_m > s.wanted_distance_m:
        text = "{b} would have to stand at {wanted}, but focuses no nearer than {limit}: there the subject fills {fill} of the height."
        yield say("focus_limit", 83, text, b, fill=Figure(b.view.fill, "share"), **figures)
    else:
        text = "{b} focuses no nearer than {limit}, the subject is at {wanted}: it is drawn soft, in discs of {share} of the frame."
        yield say("focus_limit", 88, text, b, share=Figure(b.blur.subject_share, "share"), **figures)


@rig_rule
def unknown_depth(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    if b.settings.focusable and b.frames.coc_mm != b.frames.coc_mm:
        yield say(
            "unknown_depth",
            57,
            "The pixels of {b} are not known, so its depth by two pixels is not known either; no other rule is put in.",
            b,
        )


@rig_rule
def diffraction(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    d = b.diffraction
    figures = {"n": Figure(b.settings.f_number, "f"), "airy": Figure(d.airy_um, "um")}
    if d.over_coc > 1:
        text = "{b} at {n} is past its diffraction limit: Airy discs of {airy}, circles of confusion of {coc}; the print shows it from {limit} on."
        limit = {"coc": Figure(1000 * b.frames.coc_mm, "um"), "limit": Figure(d.limited_f_number, "f")}
        yield say("diffraction", 65 + 4 * min(3, d.over_coc), text, b, **figures, **limit)
    elif d.over_two_pixels > 1:
        text = "{b} at {n} shows diffraction at 100 percent only: Airy discs of {airy} pass two pixels from {limit} on; not seen in the print."
        yield say("diffraction_pixels", 26, text, b, limit=Figure(d.pixel_limited_f_number, "f"), **figures)


@pair_rule
def diffraction_trap(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """The habit of an f-number carried from one format to another."""
    if not (a.diffraction.over_coc > 1) ^ (b.diffraction.over_coc > 1):
        return
    if abs(aperture_stops(b.settings.f_number, a.settings.f_number)) > LEVEL_STOPS:
        return
    soft, clean = (b, a) if b.diffraction.over_coc > 1 else (a, b)
    text = "{n} is one thing on {clean} and another on {soft}: there diffraction is {times} as large against the frame."
    yield say(
        "diffraction_trap",
        59,
        text,
        a,
        b,
        n=Figure(a.settings.f_number, "f"),
        clean=Figure(clean.index, "rig"),
        soft=Figure(soft.index, "rig"),
        times=Figure(soft.diffraction.airy_share / clean.diffraction.airy_share, "times"),
    )
