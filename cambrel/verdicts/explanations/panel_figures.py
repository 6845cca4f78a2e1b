"""Why the figures of stars, of steady hands and of close work are what they are: figures of a panel, which are no line
of every rig.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import cos, inf, nan, radians

from cambrel.comparison.brief import SUPPORTS
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.schools import support_of
from cambrel.comparison.slowest_shutter import held, held_s, steady
from cambrel.comparison.starlight import below_stars, declination_of, longest_as_points_s
from cambrel.optics import stars
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stars import STAR_SCHOOLS, StarSchool
from cambrel.optics.steadiness import HAND_SCHOOLS
from cambrel.optics.workings import Term, Working, term, working
from cambrel.verdicts.explanations.why import Why, circle, focal, magnified


@dataclass(frozen=True)
class Special:
    """A figure of a panel: its name and kind, where it is read, and why it is so."""

    label: str
    kind: str
    read: Callable[[Comparison, RigFigures], float]
    why: Why


def _crop(r: RigFigures) -> Term:
    return term("C", "crop factor", r.frames.crop)


def _star_school(school: StarSchool) -> Special:
    """How long stars stay points by a school, whichever is in force."""
    return Special(
        school.label[0].upper() + school.label[1:],
        "s",
        lambda c, r: longest_as_points_s(c, r, declination_of(c), school.key),
        Why(
            school.explains or school.reason,
            lambda c, r: school.working(below_stars(r, declination_of(c))),
            school.asks,
            ("sky",),
        ),
    )


def _middle(c: Comparison, r: RigFigures) -> float:
    if is_unknown(r.frames.coc_mm):
        return nan
    return float(stars.seconds_for_drift(r.settings.focal_length_mm, declination_of(c), r.frames.coc_mm))


def drift(c: Comparison, r: RigFigures) -> float:
    """How far stars drift in a second where the picture looks, at worst within the frame [mm]."""
    f, frame = r.settings.focal_length_mm, r.frames
    return float(stars.worst_drift_mm(f, declination_of(c), 1.0, frame.width_mm, frame.height_mm))


def points_for(c: Comparison, r: RigFigures) -> Working | None:
    """The working of how long stars stay points; None where that is not known."""
    return STAR_SCHOOLS[c.conventions.star_rule].working(below_stars(r, declination_of(c)))


def _in_the_middle(c: Comparison, r: RigFigures) -> Working:
    return working(
        "t", "c / (f × a × q)", _middle(c, r), "s", circle(r), focal(r),
        term("a", "turn of the sky in a second, radians", stars.SIDEREAL_RADIANS),
        term("q", "cosine of the declination", cos(radians(declination_of(c)))),
    )  # fmt: skip


def _held(c: Comparison, r: RigFigures) -> Working | None:
    return None if support_of(c.brief) == "tripod" else HAND_SCHOOLS[c.conventions.hand].working(held(c, r))


def _slowest(c: Comparison, r: RigFigures) -> float:
    steadied = steady(c, r)
    return nan if steadied is None else steadied.slowest_s


def _fastest(c: Comparison, r: RigFigures) -> Working | None:
    steadied = steady(c, r)
    known = [] if steadied is None else [(key, value) for key, value in steadied.limits_s.items() if value < inf]
    if steadied is None or not known:
        return None
    names = {
        "support": SUPPORTS[support_of(c.brief)].says,
        "movement": "movement",
        "stars": "stars",
        "brief": "asked for",
        "body": "the body",
    }
    terms = [term(f"t{'₁₂₃₄₅'[i]}", names[key], value, "s") for i, (key, value) in enumerate(known)]
    formula = terms[0].symbol if len(terms) == 1 else f"min({', '.join(one.symbol for one in terms)})"
    return working("t", formula, steadied.slowest_s, "s", *terms)


SPECIAL: dict[str, Special] = {
    "stars": Special(
        "Stars are points for",
        "s",
        lambda c, r: longest_as_points_s(c, r, declination_of(c)),
        Why(
            "Until a star's trail is longer than what counts as a point, by your rule.",
            points_for,
            ("star_rule", "criterion"),
            ("sky",),
        ),
    ),
    **{school.key: _star_school(school) for school in STAR_SCHOOLS.values()},
    "star_middle": Special(
        "Stars in the middle of the frame",
        "s",
        _middle,
        Why(
            "The sky turns by 15 arc seconds a second, less towards the pole. The limit is a trail as "
            "long as the blur that still counts as sharp.",
            _in_the_middle,
            ("criterion",),
            ("sky",),
        ),
    ),
    "steady": Special(
        "Held steady for",
        "s",
        held_s,
        Why(
            "By how the camera is held. A stabiliser doubles it for each of its stops. Nothing steadies the subject.",
            _held,
            ("hand", "crop_by"),
            ("hand",),
        ),
    ),
    "slowest": Special(
        "Slowest usable shutter",
        "s",
        _slowest,
        Why("The shortest of all its limits.", _fastest, ("hand", "star_rule"), ("hand",)),
    ),
    "equal_size": Special(
        "Magnification as on full frame",
        "number",
        lambda c, r: r.view.magnification * r.frames.crop,
        Why(
            "How large the subject is in the frame, in full-frame terms. Light depends on the "
            "magnification on the sensor.",
            lambda c, r: working("M", "m × C", r.view.magnification * r.frames.crop, "number", magnified(r), _crop(r)),
            ("crop_by",),
            ("thin",),
        ),
    ),
}
