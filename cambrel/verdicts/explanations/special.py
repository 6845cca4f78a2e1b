"""Why the figures of stars, of steady hands and of close work are what they are: figures of a panel, which are no line of every rig."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import cos, inf, nan, radians

from cambrel.comparison.blur_budget import HAND_FACTORS
from cambrel.comparison.brief import SUPPORTS
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.slowest_shutter import held_s, steady, support_of
from cambrel.comparison.starlight import declination_of, longest_as_points_s
from cambrel.optics import stars
from cambrel.optics.steadiness import MONOPOD_STOPS
from cambrel.optics.workings import Term, Working, term, working
from cambrel.verdicts.explanations.why import Why, circle, focal, magnified, number


@dataclass(frozen=True)
class Special:
    """A figure of a panel: its name and kind, where it is read, and why it is so."""

    label: str
    kind: str
    read: Callable[[Comparison, RigFigures], float]
    why: Why


def _crop(r: RigFigures) -> Term:
    return term("C", "crop factor", r.frames.crop)


def _pitch(r: RigFigures) -> Term:
    return term("p", "pixel pitch", r.frames.pitch_um, "um")


def _rule(constant: int) -> Special:
    return Special(
        f"{constant} rule",
        "s",
        lambda c, r: float(stars.rule_seconds(r.settings.focal_length_mm, r.frames.crop, constant)),
        Why(
            "A rule of thumb: the longer the lens in full-frame terms, the sooner stars trail. It knows neither the pixels nor where you look.",
            lambda c, r: working("t", f"{constant} / (C × f)", _rules[constant].read(c, r), "s", _crop(r), focal(r)),
            ("crop_by",),
            ("sky",),
        ),
    )


def _aperture_pixel(c: Comparison, r: RigFigures) -> float:
    if r.frames.pitch_um != r.frames.pitch_um:
        return nan
    return float(stars.aperture_pixel_rule_seconds(r.settings.f_number, r.settings.focal_length_mm, r.frames.pitch_um))


def _middle(c: Comparison, r: RigFigures) -> float:
    if r.frames.coc_mm != r.frames.coc_mm:
        return nan
    return float(stars.seconds_for_drift(r.settings.focal_length_mm, declination_of(c), r.frames.coc_mm))


def drift(c: Comparison, r: RigFigures) -> float:
    f, frame = r.settings.focal_length_mm, r.frames
    return float(stars.worst_drift_mm(f, declination_of(c), 1.0, frame.width_mm, frame.height_mm))


def points_for(c: Comparison, r: RigFigures) -> Working | None:
    school = c.conventions.star_rule
    if school == "aperture_pixel":
        return _by_pixel(c, r)
    if school != "exact":
        return working(
            "t", f"{school.removeprefix('rule_')} / (C × f)", SPECIAL["stars"].read(c, r), "s", _crop(r), focal(r)
        )
    return working("t", "c / s", SPECIAL["stars"].read(c, r), "s", circle(r), _edge(c, r))


def _edge(c: Comparison, r: RigFigures) -> Term:
    return term("s", "drift in a second at the worst edge of the frame, mm", drift(c, r))


def _by_pixel(c: Comparison, r: RigFigures) -> Working:
    return working("t", "(35 × N + 30 × p) / f", _aperture_pixel(c, r), "s", number(r), _pitch(r), focal(r))


def _in_the_middle(c: Comparison, r: RigFigures) -> Working:
    return working(
        "t", "c / (f × a × q)", _middle(c, r), "s", circle(r), focal(r), term("a", "turn of the sky in a second, radians", stars.SIDEREAL_RADIANS),
        term("q", "cosine of the declination", cos(radians(declination_of(c)))),
    )  # fmt: skip


def _stops(c: Comparison, r: RigFigures) -> float:
    given = r.rig.body.steadied_stops(r.carrier.lens) or 0.0
    return given + (MONOPOD_STOPS if support_of(c.brief) == "monopod" else 0.0)


def _held(c: Comparison, r: RigFigures) -> Working | None:
    if c.conventions.hand == "typed" or support_of(c.brief) == "tripod":
        return None
    return working(
        "t", "2^B / (F × C × f)", held_s(c, r), "s", term("B", "stops that it is steadied by", _stops(c, r)),
        term("F", "how careful the school is", HAND_FACTORS[c.conventions.hand]), _crop(r), focal(r),
    )  # fmt: skip


def _slowest(c: Comparison, r: RigFigures) -> float:
    found = steady(c, r)
    return nan if found is None else found.slowest_s


def _fastest(c: Comparison, r: RigFigures) -> Working | None:
    found = steady(c, r)
    known = [] if found is None else [(key, value) for key, value in found.limits_s.items() if value < inf]
    if found is None or not known:
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
    return working("t", formula, found.slowest_s, "s", *terms)


_rules = {constant: _rule(constant) for constant in (500, 400, 300)}
SPECIAL: dict[str, Special] = {
    "stars": Special(
        "Stars are points for",
        "s",
        lambda c, r: longest_as_points_s(c, r, declination_of(c)),
        Why(
            "Until the trail of a star passes what counts as a point, by the school in force.",
            points_for,
            ("star_rule", "criterion"),
            ("sky",),
        ),
    ),
    **{f"rule_{constant}": one for constant, one in _rules.items()},
    "aperture_pixel": Special(
        "By aperture and pixel",
        "s",
        _aperture_pixel,
        Why("A rule that lets a star trail by about what aperture and pixels blur it anyway.", _by_pixel, (), ("sky",)),
    ),
    "star_worst": Special(
        "Stars at the worst edge of the frame",
        "s",
        lambda c, r: r.frames.coc_mm / drift(c, r),
        Why(
            "Wide lenses stretch the sky towards the edge of the frame, where trails are longest.",
            lambda c, r: working("t", "c / s", r.frames.coc_mm / drift(c, r), "s", circle(r), _edge(c, r)),
            ("criterion",),
            ("sky",),
        ),
    ),
    "star_middle": Special(
        "Stars in the middle of the frame",
        "s",
        _middle,
        Why(
            "The sky turns by 15 arc seconds a second, less towards the pole; "
            "a trail as long as the blur that counts as sharp ends it.",
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
            "By what carries the camera; a stabiliser doubles it for each of its stops. Nothing steadies the subject.",
            _held,
            ("hand", "crop_by"),
            ("hand",),
        ),
    ),
    "slowest": Special(
        "Slowest usable shutter",
        "s",
        _slowest,
        Why("The shortest of all that limits it.", _fastest, ("hand", "star_rule"), ("hand",)),
    ),
    "equal_size": Special(
        "Magnification as on full frame",
        "number",
        lambda c, r: r.view.magnification * r.frames.crop,
        Why(
            "How large the subject is in the frame, said as on full frame. Light goes by the magnification on the sensor.",
            lambda c, r: working("M", "m × C", r.view.magnification * r.frames.crop, "number", magnified(r), _crop(r)),
            ("crop_by",),
            ("thin",),
        ),
    ),
}
