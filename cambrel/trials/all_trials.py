"""The kinds of trial, in the order in which they are offered: each is one object, and nothing elsewhere depends on its
key.
"""

from __future__ import annotations

from collections.abc import Mapping
from math import sqrt

from cambrel.comparison.engine import Comparison
from cambrel.trials import measured, planned
from cambrel.trials.outcomes import PictureReading
from cambrel.trials.proofs import along_the_run, most_of_them, points_or_trails
from cambrel.trials.trial import Eye, EyeAnswers, Measured, Trial, Typed

MARKS_M = 0.05
RANGE_WITHIN_STOPS = 0.5
POINTS, DRAWN = "points", "drawn"


def is_close(comparison: Comparison) -> bool:
    """Whether it is close-up work.

    Parameters
        comparison: worked out
    Returns
        by the magnification of the reference
    """
    return comparison.first.view.magnification >= planned.CLOSE


def _seen_marks(d: EyeAnswers) -> dict[str, PictureReading]:
    # the last sharp mark and the first soft one are a step apart, and the limit lies between
    half = (d.get("step") or MARKS_M) / 2
    readings = {}
    if d.get("near"):
        near = d["near"] - half if d["near"] > 2 * half else d["near"]
        readings["near"] = PictureReading(near, half / near, noted=d["near"])
    if d.get("far"):
        readings["far"] = PictureReading(d["far"] + half, half / d["far"], noted=d["far"])
    return readings


def _noted_marks(held: Mapping[str, PictureReading]) -> EyeAnswers:
    near, far = held.get("near"), held.get("far")
    half = near.within * near.value if near else far.within * (far.noted or far.value) if far else MARKS_M / 2
    marks: EyeAnswers = {"step": 2 * half} if near or far else {}
    if near:
        marks["near"] = near.noted or near.value
    if far:
        marks["far"] = far.noted or far.value
    return marks


MARKS = Eye(
    {
        "near": Typed("distance", "First sharp mark", is_required=False),
        "far": Typed("distance", "last sharp mark", is_required=False),
        "step": Typed("distance", "marks every", is_required=False, usual=("5 cm", "2 in")),
    },
    _seen_marks,
    _noted_marks,
)
RULER = Eye(
    {"ruler": Typed("millimetres", "Millimetres of the ruler that are sharp", 0.1, 5000.0)},
    lambda d: {"total": PictureReading(d["ruler"] / sqrt(2) / 1000, 1 / d["ruler"])},
    lambda held: {"ruler": held["total"].value * sqrt(2) * 1000},
)
POINTS_OR_TRAILS = Eye(
    {"seen": Typed("answer", "The stars are", choices=((POINTS, "points"), (DRAWN, "drawn out")))},
    lambda d: {"points": PictureReading(1.0 if d["seen"] == POINTS else 0.0)},
    lambda held: {"seen": POINTS if held["points"].value else DRAWN},
)
SHARP_FRAMES = Eye(
    {"sharp": Typed("number", "How many of the ten are sharp", 0, planned.HELD_TIMES)},
    lambda d: {"steady": PictureReading(float(round(d["sharp"])))},
    lambda held: {"sharp": held["steady"].value},
)
STOPS = Eye(
    {"stops": Typed("number", "Stops from the brightest to the darkest that stands out from noise", 0.5, 40)},
    lambda d: {"range": PictureReading(d["stops"], RANGE_WITHIN_STOPS)},
    lambda held: {"stops": held["range"].value},
)

KINDS = (
    Trial(
        "framing",
        "Framing",
        "the same view?",
        "A mark at each side of the subject, as far apart as is predicted.",
        "Whether the marks are at the edges of the picture.",
        "field_wide",
        planned.framing,
        what=("view",),
        is_usual=lambda comparison: True,
        measured=Measured(
            "The whole picture is compared with the first camera’s. There is nothing to mark.",
            measured.view,
            measured.in_the_middle(240, 240, 3),
            is_marked=False,
            needs_first=True,
        ),
    ),
    Trial(
        "depth",
        "Depth",
        "from where to where is it sharp?",
        "A tape measure along the ground, from before the near limit to behind the far one.",
        "The first and the last mark that is sharp, at the size in which it is shown.",
        "total",
        planned.depth,
        what=("near", "far"),
        is_usual=lambda comparison: not is_close(comparison),
        eye=MARKS,
    ),
    Trial(
        "close",
        "Close-up depth",
        "how much of a ruler is sharp?",
        "A ruler across the subject at 45°: 1.4 times the depth of it is sharp.",
        "The millimetres between the first and the last sharp line, over 1.4.",
        "total",
        planned.close,
        what=("total",),
        is_usual=is_close,
        eye=RULER,
    ),
    Trial(
        "blur",
        "Background blur",
        "how soft is it behind?",
        "A point of light where the background is.",
        "The width of its disc against the diagonal of the picture.",
        "background_share",
        planned.blur,
        what=("disc",),
        is_usual=lambda comparison: comparison.brief.background_m is not None,
        measured=Measured(
            "Drag around the disc of the point of light, with some dark around it.",
            measured.disc,
            measured.about_the_brightest,
        ),
        before="lamp",
    ),
    Trial(
        "noise",
        "Noise",
        "how clean is it?",
        "A grey card in even light, the same for all.",
        "The card at one size on one display, measured on a patch of it.",
        "snr_picture",
        planned.noise,
        what=("snr", "brightness", "level"),
        is_usual=lambda comparison: True,
        measured=Measured(
            "Drag over an even grey patch, away from edges and highlights.",
            measured.noise,
            measured.in_the_middle(240, 240, 3),
        ),
        before="card",
        teaches="offset_stops",
    ),
    Trial(
        "diffraction",
        "Diffraction",
        "from which stop on is it softer?",
        "A chart or a brick wall square to the camera, self-timer.",
        "The stop from which fine lines lose contrast.",
        "airy",
        planned.diffraction,
        what=("mtf50",),
        judge=along_the_run,
        measured=Measured(
            "Drag over one slanted edge, about 5° off the sides of the picture, with an even field on each side.",
            measured.edge,
            measured.in_the_middle(110, 200, 1),
        ),
        before="edge",
        teaches="mtf50",
        caution="sensor",
    ),
    Trial(
        "reach",
        "Reach",
        "how much detail far off?",
        "A chart or lettering at the distance of the subject.",
        "The finest lines or letters that can be read.",
        "detail",
        planned.reach,
        what=("pixels",),
        is_usual=lambda comparison: comparison.first.settings.subject_distance_m >= planned.FAR_M,
        measured=Measured(
            "Drag from the top to the foot of the subject.",
            measured.height,
            measured.upright_in_the_middle,
            is_by_itself=False,
        ),
    ),
    Trial(
        "stars",
        "Stars",
        "how long do they stay points?",
        "A clear sky, self-timer, focused on a star.",
        "The stars in the corners, at the size in which it is shown.",
        "stars",
        planned.stars,
        what=("points",),
        is_usual=lambda comparison: comparison.brief.declination_deg is not None,
        judge=points_or_trails,
        eye=POINTS_OR_TRAILS,
        is_counted=True,
    ),
    Trial(
        "steadiness",
        "Steadiness",
        "how slow can it be held?",
        "Ten frames, held as you always do.",
        "How many of the ten are sharp.",
        "steady",
        planned.steadiness,
        what=("steady",),
        is_usual=lambda comparison: comparison.brief.support == "hand",
        judge=most_of_them,
        eye=SHARP_FRAMES,
        stop_takes_rest=True,
    ),
    Trial(
        "range",
        "Tonal range",
        "how much from shadow to light?",
        "Deep shadow and bright sky in one picture, metered for the sky.",
        "Shadows lifted and highlights drawn down by the same amount in all of them.",
        "snr_picture",
        planned.range,
        what=("range",),
        is_usual=lambda comparison: comparison.brief.scene_range_stops is not None,
        eye=STOPS,
    ),
)
TRIALS: dict[str, Trial] = {kind.key: kind for kind in KINDS}

FAIR = (
    "One display for all, at one size: the whole picture, or the print that the comparison is about.",
    (
        "Raw files through one converter with the same settings, or each camera’s own pictures with noise reduction and"
        " sharpening off."
    ),
    "No upload or messenger in between: they shrink and sharpen.",
    "White balance set by hand, the same for all.",
)
"""How the pictures are looked at so that nobody is favoured."""
