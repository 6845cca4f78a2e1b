"""Questions of what a frame sees and how sharp it is, in the order in which they are learnt."""

from __future__ import annotations

from dataclasses import replace

from cambrel.comparison.brief import Brief
from cambrel.comparison.rig import Lens, Rig
from cambrel.drills import seeing
from cambrel.drills.given import Given
from cambrel.drills.kind import ONE_DEPTH, ONE_FOCAL, ONE_NUMBER, ONE_VIEW, TWICE, DrillKind, Needs, Pair, Words
from cambrel.drills.posing import F_NUMBER, RATIO
from cambrel.drills.seeing import SAME_LENS, SAME_PICTURE, WALKING, totals


def _one_circle(given: Given, brief: Brief, rigs: tuple[Rig, Rig]) -> Pair:
    """Both with a lens of the image circle that is asked about."""
    lens = Lens(given.focal_mm, given.focal_mm, image_circle_mm=given.circle_mm)
    first, second = rigs
    return brief, (replace(first, lens=lens), replace(second, lens=lens))


def _walked_pair(given: Given, crop: float) -> Given:
    focal = float(f"{40 / crop:.2g}")
    return replace(given, focal_mm=focal, second_focal_mm=3 * focal, f_number=4.0, distance_m=2.0)


SEEING = (
    DrillKind(
        "view",
        "mm",
        RATIO,
        seeing.view,
        lambda g, right: {"inverted": g.focal_mm / g.k, "unchanged": g.focal_mm, "squared": g.focal_mm * g.k**2},
        seeing.view_sizes,
        words=Words(
            "Focal length for the same view",
            "{f} is on A. Which focal length gives B the same view?",
            {
                "inverted": "Turned round: the smaller frame takes the shorter lens for the same view.",
                "unchanged": (
                    "The marking was carried over as it is. A focal length stays what it is, but each frame keeps"
                    " another part of its picture."
                ),
                "squared": TWICE,
            },
            (
                "B shows less of the scene than A.",
                "B shows as much of the scene as A.",
                "B shows more of the scene than A.",
            ),
            (ONE_FOCAL, ONE_VIEW),
            "mm",
            argued="exact",
        ),
    ),
    DrillKind(
        "depth",
        "f",
        F_NUMBER,
        seeing.same_depth,
        lambda g, right: {"unchanged": g.f_number, "inverted": g.f_number / g.k, "squared": g.f_number * g.k**2},
        lambda g: (totals(g.compared(SAME_LENS)), totals(g.compared(SAME_PICTURE))),
        words=Words(
            "F-number for the same depth and light",
            "A is set to {N}. Which f-number gives B the same depth of field in the print and the same light in the"
            " whole picture, at the same view?",
            {
                "unchanged": (
                    "Only the focal length was converted: depth of field and the light in the whole picture go by the"
                    " f-number as well, and it is converted like it."
                ),
                "inverted": "Turned round: the smaller frame has to open wider for the same depth of field.",
                "squared": TWICE,
            },
            (
                "At the same f-number and distance B has less depth of field than A.",
                "At the same f-number and distance B has as much depth of field as A.",
                "At the same f-number and distance B has more depth of field than A.",
            ),
            (ONE_FOCAL, ONE_VIEW),
            panel="depth",
            lead="f/",
            eye=(
                "The same view from the same spot, both at {N}. Which picture was made on the larger frame?",
                (
                    "At one f-number and one view the larger frame has the larger opening, so that its background is"
                    " softer."
                ),
            ),
            argued="sensor-and-depth",
        ),
    ),
    DrillKind(
        "same_lens",
        "m",
        RATIO,
        seeing.same_lens,
        lambda g, right: {
            "inverted": g.field_m**2 / right,
            "squared": right**2 / g.field_m,
            "unchanged": g.field_m,
        },
        seeing.perspective,
        words=Words(
            "The same lens on another frame",
            "A shows {W} across at the subject. The same lens goes on B, at the same spot. How wide does B show there?",
            {
                "inverted": "Turned round: under the same lens the smaller frame shows less.",
                "squared": "The ratio of the widths was used twice: that is how the areas compare.",
                "unchanged": (
                    "Nothing was taken off: the lens draws the same picture, but each frame keeps as much of it as it"
                    " is wide."
                ),
            },
            (
                "The background stands smaller behind the subject on B than on A.",
                "The background stands as large behind the subject on B as on A.",
                "The background stands larger behind the subject on B than on A.",
            ),
            ("with the same lens from the same spot", "with the same lens, walking until the subject is as large"),
            "m",
            hold=SAME_LENS,
        ),
        needs=Needs(one_lens=True),
    ),
    DrillKind(
        "walk",
        "m",
        RATIO,
        seeing.walk,
        lambda g, right: {
            "inverted": g.distance_m * g.focal_mm / g.second_focal_mm,
            "unchanged": g.distance_m,
            "squared": g.distance_m * (g.second_focal_mm / g.focal_mm) ** 2,
        },
        seeing.walked,
        words=Words(
            "Walking against changing the lens",
            "On A, {f} fills the frame with the subject from {u}. From how far does {f2} show it as large?",
            {
                "inverted": "Turned round: the longer lens is used from farther away.",
                "unchanged": "Nobody walked: a {steps} lens shows the subject at another size from there.",
                "squared": "The ratio of the focal lengths was used twice: the distance goes by it once.",
            },
            (
                "With {f2} instead of {f} on A, at the same f-number, there is less depth of field.",
                "With {f2} instead of {f} on A, at the same f-number, there is as much depth of field.",
                "With {f2} instead of {f} on A, at the same f-number, there is more depth of field.",
            ),
            ("walking until the subject is as large", "staying at the same spot"),
            "m",
            "walk",
            WALKING,
            two_lenses=True,
            eye=(
                "The subject as large in both, with {f} and with {f2}. Which picture was made from nearer?",
                "From nearer the background stands smaller against the subject, and more of it is in the frame.",
            ),
            argued="stepping-back",
        ),
        needs=Needs(two_lenses=True),
        seen_with=_walked_pair,
    ),
    DrillKind(
        "reach",
        "times",
        RATIO,
        seeing.reach,
        lambda g, right: {"crop": 1 / g.k, "inverted": 1 / right, "squared": right**2},
        seeing.reach_sizes,
        words=Words(
            "Reach against crop",
            "A has pixels of {p1}, B of {p2}. Under the same lens, from one spot: how many times as many pixels does B"
            " lay along the subject as A?",
            {
                "crop": (
                    "The crop factor was taken for reach: a smaller frame only keeps less of the picture. What lies on"
                    " the subject goes by the size of the pixels."
                ),
                "inverted": "Turned round: the finer pixels lay more of them along the subject.",
                "squared": "Counted over the area: along a line the ratio of the pixels counts once.",
            },
            (
                "B lays fewer pixels along the subject than A.",
                "B lays as many pixels along the subject as A.",
                "B lays more pixels along the subject than A.",
            ),
            ("with the same lens from the same spot", "with the lens for the same view on each"),
            "times",
            "sharpness",
            SAME_LENS,
            argued="reach",
        ),
        needs=Needs(one_lens=True),
        scene="viaduct",
    ),
    DrillKind(
        "circle",
        "number",
        RATIO,
        seeing.circle,
        seeing.circle_slips,
        seeing.circle_sizes,
        words=Words(
            "Image circle",
            "A lens with an image circle of {D}, made for A, goes on B, which has {P} megapixels. How many are left in"
            " the largest picture of B’s shape without black corners?",
            {
                "linear": "The ratio of the diameters counts twice: pixels go by the area.",
                "unchanged": (
                    "The circle does not reach the corners of that frame, so that some of its pixels stay black."
                ),
                "by_width": "The circle was held against the width. What it has to reach across is the diagonal.",
            },
            (
                "The image circle of {D} is smaller than the diagonal of the frame.",
                "The image circle of {D} is as large as the diagonal of the frame.",
                "The image circle of {D} is larger than the diagonal of the frame.",
            ),
            ("on A", "on B"),
            "MP",
            hold=SAME_LENS,
        ),
        needs=Needs(one_lens=True, from_smaller=True),
        staged=_one_circle,
    ),
    DrillKind(
        "hyperfocal",
        "m",
        RATIO,
        seeing.hyperfocal,
        seeing.hyperfocal_slips,
        seeing.hyperfocal_sizes,
        words=Words(
            "Hyperfocal distance in the field",
            "{f} at {N} on B, where a blur of {c} still counts as sharp. What is the nearest distance to focus at if"
            " all beyond is to be sharp?",
            {
                "full_frame_circle": (
                    "Worked out with what counts as sharp on full frame: another frame is enlarged by another factor,"
                    " so that its own circle counts."
                ),
                "equivalent_focal": (
                    "Worked out with the equivalent focal length: hyperfocal distance goes by the focal length that is"
                    " really there."
                ),
                "half": (
                    "Focused at the hyperfocal distance, all is sharp from half of it on: that half is where sharpness"
                    " begins."
                ),
                "f_number_converted": (
                    "The f-number was converted: the formula takes the one that is set, with the circle of the frame"
                    " that is used."
                ),
            },
            (
                "For all to be sharp up to the horizon, B can focus nearer than A at the same f-number.",
                "For all to be sharp up to the horizon, B has to focus as far away as A at the same f-number.",
                "For all to be sharp up to the horizon, B has to focus farther away than A at the same f-number.",
            ),
            (ONE_FOCAL, ONE_VIEW),
            "m",
            "depth",
            SAME_LENS,
        ),
        needs=Needs(of_other=True, full_frame=(14, 35)),
    ),
    DrillKind(
        "diffraction",
        "f",
        F_NUMBER,
        seeing.diffraction,
        seeing.diffraction_slips,
        seeing.diffraction_sizes,
        words=Words(
            "The habit of a small aperture",
            "On A diffraction shows in the print from {limit} on. From which f-number does it on B?",
            {
                "unchanged": (
                    "The habit of A was carried over: the Airy disc is as large at that f-number, but B’s frame is"
                    " enlarged by another factor."
                ),
                "inverted": (
                    "Turned round: the smaller frame is enlarged more, so that diffraction shows at a wider aperture."
                ),
                "squared": TWICE,
            },
            (
                "Diffraction softens B’s print less than A’s.",
                "Diffraction softens B’s print as much as A’s.",
                "Diffraction softens B’s print more than A’s.",
            ),
            (ONE_NUMBER, ONE_DEPTH),
            panel="sharpness",
            lead="f/",
        ),
    ),
)
