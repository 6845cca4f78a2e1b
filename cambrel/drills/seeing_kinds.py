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
                "inverted": "The wrong way round: the smaller frame takes the shorter lens for the same view.",
                "unchanged": (
                    "You kept the marking as it is. A focal length stays what it is, but each frame keeps "
                    "another part of the image."
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
                    "You converted only the focal length. Depth of field and the light in the whole picture "
                    "depend on the f-number as well. Convert it the same way."
                ),
                "inverted": "The wrong way round: the smaller frame has to open wider for the same depth of field.",
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
                "The same view from the same spot, both at {N}. Which picture was taken on the larger frame?",
                ("At one f-number and one view the larger frame has the larger opening, so its background is softer."),
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
                "inverted": "The wrong way round: with the same lens the smaller frame shows less.",
                "squared": "You used the ratio of the widths twice. That is how the areas compare.",
                "unchanged": (
                    "You took nothing off. The lens draws the same image, but each frame keeps only its own "
                    "width of it."
                ),
            },
            (
                "The background looks smaller behind the subject on B than on A.",
                "The background looks as large behind the subject on B as on A.",
                "The background looks larger behind the subject on B than on A.",
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
                "inverted": "The wrong way round: the longer lens is used from farther away.",
                "unchanged": "You did not walk. From there a {steps} lens shows the subject at another size.",
                "squared": "You used the ratio of the focal lengths twice. The distance takes it once.",
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
                "The subject as large in both, with {f} and with {f2}. Which picture was taken from closer?",
                "From closer the background looks smaller against the subject, and more of it is in the frame.",
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
            "A has pixels of {p1}, B of {p2}. With the same lens from one spot, how many times as many "
            "pixels does B put along the subject as A?",
            {
                "crop": (
                    "You took the crop factor for reach. A smaller frame only keeps less of the image. Pixel "
                    "size decides how many pixels are on the subject."
                ),
                "inverted": "The wrong way round: finer pixels put more of them on the subject.",
                "squared": "You counted over the area. Along a line the ratio of the pixels counts once.",
            },
            (
                "B puts fewer pixels on the subject than A.",
                "B puts as many pixels on the subject as A.",
                "B puts more pixels on the subject than A.",
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
                "linear": "The ratio of the diameters counts twice, because pixels fill an area.",
                "unchanged": ("The circle does not reach the corners of that frame, so some of its pixels stay black."),
                "by_width": "You held the circle against the width. It has to reach across the diagonal.",
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
                    "You used what counts as sharp on full frame. This frame is enlarged by another factor, so "
                    "its own circle counts."
                ),
                "equivalent_focal": ("You used the equivalent focal length. Hyperfocal distance takes the real one."),
                "half": (
                    "Focused at the hyperfocal distance, everything is sharp from half of it on. That half is "
                    "where sharpness begins, not where to focus."
                ),
                "f_number_converted": (
                    "You converted the f-number. The formula takes the one that is set, with the circle of the "
                    "frame in use."
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
            "On A diffraction shows in the print from {limit} on. From which f-number on does it show on B?",
            {
                "unchanged": (
                    "You kept A’s habit. The Airy disc is as large at that f-number, but B’s frame is enlarged "
                    "by another factor."
                ),
                "inverted": (
                    "The wrong way round: the smaller frame is enlarged more, so diffraction shows at a wider aperture."
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
