"""Verdicts on what a rig cannot reach, and by how much."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf, log2

from cambrel.comparison.demands import is_at_close_limit
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.figures import stands_elsewhere
from cambrel.comparison.rig import aperture_stops
from cambrel.optics.formats import nearest_format
from cambrel.optics.geometry import angle_of_view_deg, image_distance_mm
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, rests_on, rig_rule, say
from cambrel.verdicts.relations import same_spot, same_view, view_ratio
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, by_ratio, by_stops, known


@rig_rule
@rests_on("focal", "angle_diagonal")
def focal_limit(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A focal length that the lens does not have."""
    wanted, reached = b.settings.wanted_focal_length_mm, b.settings.focal_length_mm
    if not (b.settings.focusable and abs(wanted / reached - 1) > LEVEL_VIEW):
        return
    a = comparison.first
    figures = {
        "wanted": Figure(wanted, "mm"),
        "reached": Figure(reached, "mm"),
        "end": Figure("long" if reached < wanted else "wide", "word"),
        "side": Figure("wider" if reached < wanted else "tighter", "word"),
        "u": Figure(b.settings.object_distance_m, "m"),
        "d": Figure(b.settings.subject_distance_m, "m"),
        "a": Figure(a.index, "rig"),
    }
    size = by_ratio(wanted / reached, LEVEL_VIEW)
    text = "{b} would need {wanted}. {reached} is as {end} as its lens goes"
    if wanted >= 1000 * b.settings.object_distance_m:
        yield say("focal_limit", Topic.VIEW, size, text + ", and a {wanted} lens cannot focus at {u}.", b, **figures)
        return
    seen, subsumes = view_ratio(a, b), tuple[str, ...]()
    stays = b.index == a.index or same_spot(a, b)
    if stays:
        # the field grows as the image distance shrinks
        times = float(image_distance_mm(wanted, b.settings.object_distance_m)) / b.view.image_distance_mm
        figures["times"] = Figure(times, "times")
        text += ", so it sees {side}, {times} as much across"
        # the view that the hold asked for is the reference's, so that the shortfall says the difference as well
        is_asked = comparison.hold.of_lens.keeps_view and abs(seen / times - 1) <= LEVEL_VIEW
        subsumes = ("view", "gap") if is_asked else ()
    elif same_view(a, b) and comparison.hold.of_place.walks:
        text += ". From {d} it still sees as much as {a}"
    text += "."
    angle = float(angle_of_view_deg(b.frames.diagonal_mm, wanted))
    made = nearest_format(b.rig.sensor).widest_angle_deg
    if angle > made:
        text += " Do not expect a straight lens of {angle} on that format: the widest see about {made}."
        figures |= {"angle": Figure(angle, "deg"), "made": Figure(made, "deg")}
    yield say("focal_limit", Topic.VIEW, size, text, b, **figures).subsuming(*subsumes)


@rig_rule
@rests_on("f_number")
def f_number_limit(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """An f-number that the lens does not have."""
    wanted, reached = b.settings.wanted_f_number, b.settings.f_number
    if not b.settings.focusable:
        return
    topic = Topic.DEPTH if comparison.hold.of_aperture.keeps_depth else Topic.BLUR
    if wanted == inf:
        a = comparison.first
        text = "No aperture gives {b} the {front} in front of the focus that {a} has. At {reached} it is {short} short."
        figures = {
            "front": Figure(a.depth.front_m, "m"),
            "a": Figure(a.index, "rig"),
            "reached": Figure(reached, "f"),
            "short": Figure(a.depth.front_m - b.depth.front_m, "m"),
        }
        yield say("f_number_limit", topic, inf, text, b, **figures)
        return
    short = aperture_stops(reached, wanted)
    if not abs(short) > LEVEL_STOPS:
        return
    text = "{b} would need {wanted}. There its lens {end} {reached}: {stops} {off}."
    if b.index == comparison.reference and not comparison.hold.of_aperture.opens_reference:
        text = "{b} is set to {wanted}, but there its lens {end} {reached}: {stops} {off}."
    yield say(
        "f_number_limit",
        topic,
        by_stops(short),
        text,
        b,
        wanted=Figure(wanted, "f"),
        reached=Figure(reached, "f"),
        end=Figure("opens no wider than" if short > 0 else "closes no further than", "word"),
        off=Figure("short" if short > 0 else "too wide", "word"),
        stops=Figure(abs(short), "stops"),
    )


@rig_rule
@rests_on(
    "focus",
    of=("focus_limit", "no_focus"),
    says="How close a lens focuses is on its record, as its largest magnification or its marked distance.",
)
def focus_limit(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A distance at which the lens does not focus."""
    s = b.settings
    if not s.focusable:
        yield from _nowhere(comparison, b)
        return
    if stands_elsewhere(comparison.brief, s) or not s.object_distance_m > s.wanted_object_distance_m * (1 + LEVEL_VIEW):
        return
    figures = {"limit": Figure(s.object_distance_m, "m"), "wanted": Figure(s.wanted_object_distance_m, "m")}
    size = by_ratio(s.object_distance_m / s.wanted_object_distance_m, LEVEL_VIEW)
    at = "the subject" if comparison.brief.focus_distance_m is None else "what it is focused on"
    figures["at"] = Figure(at, "word")
    if s.subject_distance_m > s.wanted_distance_m:
        text = (
            "{b} would have to be {stand} from the subject, but cannot focus closer than {limit}. From "
            "{stood} the subject fills {fill} of the height."
        )
        figures |= {"stand": Figure(s.wanted_distance_m, "m"), "stood": Figure(s.subject_distance_m, "m")}
        yield say("focus_limit", Topic.FOCUS, size, text, b, fill=Figure(b.view.fill, "share"), **figures)
    elif b.blur.subject_mm <= b.frames.coc_mm:
        text = "{b} cannot focus closer than {limit}, and {at} is at {wanted}. The subject still looks sharp."
        yield say("focus_limit", Topic.TERMS, 1.0, text, b, **figures)
    else:
        text = (
            "{b} cannot focus closer than {limit}, and {at} is at {wanted}. The subject comes out soft, in discs of"
            " {share} of the frame."
        )
        yield say("focus_limit", Topic.FOCUS, size, text, b, share=Figure(b.blur.subject_share, "share"), **figures)


@rig_rule
@rests_on("focus", "subject_share", "coc")
def out_of_focus(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A subject that is not sharp because focus was put elsewhere."""
    s = b.settings
    if (
        not s.focusable
        or not b.blur.subject_mm > b.frames.coc_mm * 2 ** (LEVEL_STOPS / 2)
        or is_at_close_limit(comparison, b)
    ):
        return
    text = "{b} is focused at {u}, and the subject is at {d}. It comes out soft, in discs of {share} of the frame."
    if s.object_distance_m == inf:
        text = (
            "{b} is focused at infinity, and the subject is at {d}. It comes out soft, in discs of {share} of the"
            " frame."
        )
    yield say(
        "out_of_focus",
        Topic.FOCUS,
        by_stops(2 * log2(b.blur.subject_mm / b.frames.coc_mm)),
        text,
        b,
        u=Figure(s.object_distance_m, "m"),
        d=Figure(s.subject_distance_m, "m"),
        share=Figure(b.blur.subject_share, "share"),
    )


@rig_rule
@rests_on("distance", says="The picture says where you can be.")
def room_limit(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """Where the photographer would have to stand, and cannot."""
    s = b.settings
    if not s.focusable or not stands_elsewhere(comparison.brief, s):
        return
    ratio = s.subject_distance_m / s.wanted_distance_m
    if not abs(ratio - 1) > LEVEL_VIEW:
        return
    text = (
        "{b} would have to be {stand} from the subject, but you cannot be {word} than {stood}. From "
        "there the subject fills {fill} of the height."
    )
    figures = {"stand": Figure(s.wanted_distance_m, "m"), "stood": Figure(s.subject_distance_m, "m")}
    figures |= {"word": Figure("nearer" if ratio > 1 else "farther", "word"), "fill": Figure(b.view.fill, "share")}
    yield say("room_limit", Topic.VIEW, by_ratio(ratio, LEVEL_VIEW), text, b, **figures).subsuming("view")


def _nowhere(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A rig that has no image: why, in terms of the distance that it is about."""
    s = b.settings
    focus, f = s.wanted_object_distance_m, Figure(s.wanted_focal_length_mm, "mm")
    text, figures = "No distance gives {b} the subject in focus at this size. It has no figures here.", {}
    if not known(s.wanted_distance_m) and comparison.hold.of_place.is_own and b.rig.distance_m is not None:
        text = (
            "{b} cannot focus at {mark} from its sensor mark: a thin lens of {f} needs at least four "
            "focal lengths. It has no figures here."
        )
        figures = {"mark": Figure(b.rig.distance_m, "m"), "f": f}
    elif known(focus) and focus <= 0:
        text = "The focus is behind {b}, which is {d} from the subject. It has no figures here."
        figures = {"d": Figure(s.wanted_distance_m, "m")}
    elif known(focus):
        text = "{b} cannot focus at {u}: that is inside its focal length of {f}. It has no figures here."
        figures = {"u": Figure(focus, "m"), "f": f}
    yield say("no_focus", Topic.IMPOSSIBLE, inf, text, b, **figures)


@rig_rule
@rests_on("coc", says="You judge sharpness by pixels, and the record does not say how many there are.")
def unknown_depth(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """Depth of field that depends on pixels which nobody gave."""
    if b.settings.focusable and is_unknown(b.frames.coc_mm):
        text = "{b}'s pixel count is not on record, so its depth of field by two pixels is unknown."
        yield say("unknown_depth", Topic.DEPTH, 1.0, text, b)
