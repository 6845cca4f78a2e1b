"""What stands behind a figure: what it is, the formula with this case's numbers, the schools it depends on, and what it
leaves out.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import nan

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.optics.workings import Term, Working, term

LIMITS = {
    "thin": (
        "A thin lens in air: a real one may shorten its focal length as it focuses close, and its two pupils may differ"
        " in size."
    ),
    "infinity": (
        "By the crop factor alone, as people say it: exact far away, off close up by the figure named “crop factor"
        " alone is off by”."
    ),
    "distance": "From the lens. A tape from the sensor mark reads longer by about the length of the lens.",
    "disc": (
        "A plain disc of even light. How the edges of a blur look, and what a lens does in its "
        "corners, no formula here knows."
    ),
    "eye": ("There is no edge between sharp and soft, only the line that your rule draws."),
    "marks": (
        "By the marked f-number. Lenses pass a little less light than that, some by a third of a "
        "stop, and no marking is exact."
    ),
    "light": (
        "For the light that is given, and a mid-grey subject. What a meter reads in the scene is another question."
    ),
    "green": (
        "For light of 555 nm. Daylight as a whole brings about 2.7 times as many photons. Ratios do not depend on it."
    ),
    "sensor": (
        "By a typical sensor of its generation, where the record says nothing else. Sensors differ "
        "by a few tenths of a stop."
    ),
    "airy": "For a round opening and green light. Blades, and red or blue light, change it by a fifth.",
    "lens": "Where the record has no measurements, the lens is taken as perfect. Then this is the best case.",
    "record": "As good as the record on the shelf.",
    "sky": (
        "Stars as points of no size, in steady air, on a camera that is still. Moonlight and lamps "
        "below the horizon are left out."
    ),
    "hand": "Hands differ, and one hand differs from frame to frame. Take several.",
    "straight": "For a straight lens. A fisheye shows more.",
}
"""What the model leaves out, in the reader's words."""


@dataclass(frozen=True)
class Why:
    """says: what the figure is; working: one line of it for a rig, None where there is none; asks: the conventions that
    it depends on
    """

    says: str
    working: Callable[[Comparison, RigFigures], Working | None] = lambda comparison, rig: None
    asks: tuple[str, ...] = ()
    limits: tuple[str, ...] = ()


def focal(rig: RigFigures) -> Term:
    """The focal length of a rig, f, as it stands in a working."""
    return term("f", "focal length", rig.settings.focal_length_mm, "mm")


def number(rig: RigFigures) -> Term:
    """Its f-number, N."""
    return term("N", "f-number", rig.settings.f_number, "f")


def focus(rig: RigFigures) -> Term:
    """Its focus distance from the lens, u."""
    return term("u", "focus distance", rig.settings.object_distance_m, "m")


def away(rig: RigFigures) -> Term:
    """The subject's distance from the lens, d."""
    return term("d", "subject distance", rig.settings.subject_distance_m, "m")


def image(rig: RigFigures) -> Term:
    """Its image distance, v."""
    return term("v", "image distance", rig.view.image_distance_mm, "mm")


def magnified(rig: RigFigures) -> Term:
    """Its magnification, m."""
    return term("m", "magnification", rig.view.magnification)


def circle(rig: RigFigures) -> Term:
    """Its circle of confusion, c."""
    return term("c", "largest blur that counts as sharp", rig.frames.coc_mm, "mm")


def diagonal(rig: RigFigures) -> Term:
    """The diagonal of its frame."""
    return term("D", "diagonal of the frame", rig.frames.diagonal_mm, "mm")


def behind_m(comparison: Comparison, rig: RigFigures) -> float:
    """How far the background is from the lens.

    Parameters
        comparison: worked out
        rig: one of it
    Returns
        [m]
    """
    behind = comparison.brief.background_m
    return nan if behind is None else rig.settings.subject_distance_m + behind


def before_m(comparison: Comparison, rig: RigFigures) -> float:
    """How far the foreground is from the lens.

    Parameters
        comparison: worked out
        rig: one of it
    Returns
        [m]
    """
    before = comparison.brief.foreground_m
    return nan if before is None else rig.settings.subject_distance_m - before
