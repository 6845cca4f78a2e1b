"""Why the figures of depth, blur and diffraction are what they are."""

from __future__ import annotations

from math import isinf, isnan

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.figure_groups import circle_given
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.diffraction import AIRY_FACTOR
from cambrel.optics.workings import Term, Working, term, working
from cambrel.verdicts.explanations.why import (
    Why,
    away,
    before_m,
    behind_m,
    circle,
    diagonal,
    focal,
    focus,
    image,
    magnified,
    number,
)

SHARP = ("criterion",)
OF_DEPTH = ("thin", "eye")


def _circle(c: Comparison, r: RigFigures) -> Working | None:
    return CIRCLE_OF_CONFUSION_SCHOOLS[c.conventions.criterion].working(circle_given(c.brief, c.conventions, r.rig))


def _pitch(r: RigFigures) -> Term:
    return term("p", "pixel pitch", r.frames.pitch_um, "um")


def _reach(r: RigFigures) -> Term:
    """What the formulas of depth are written with: the hyperfocal distance without the focal length."""
    f, n = r.settings.focal_length_mm, r.settings.f_number
    return term("H", "f² / (N × c), in metres", f * f / (n * r.frames.coc_mm) / 1000, "m")


def _near(c: Comparison, r: RigFigures) -> Working:
    if isinf(r.settings.object_distance_m):
        return working("near", "f² / (N × c) / 1000", r.depth.near_m, "m", focal(r), number(r), circle(r))
    return working("near", "u × H / (H + u − f / 1000)", r.depth.near_m, "m", focus(r), _reach(r), focal(r))


def _far(c: Comparison, r: RigFigures) -> Working:
    return working("far", "u × H / (H − u + f / 1000)", r.depth.far_m, "m", focus(r), _reach(r), focal(r))


def _limits(r: RigFigures) -> tuple[Term, Term]:
    return term("near", "near limit", r.depth.near_m, "m"), term("far", "far limit", r.depth.far_m, "m")


def _pupil(r: RigFigures) -> Term:
    return term("A", "entrance pupil", r.blur.pupil_mm, "mm")


def _disc(r: RigFigures, point_m: float, name: str, value: float) -> Working | None:
    """The disc of a point at a distance."""
    u = r.settings.object_distance_m
    if isnan(point_m) or point_m <= 0:
        return None
    if isinf(u):
        if isinf(point_m):
            return None
        return working(
            "b",
            "A × f / (1000 × x)",
            value,
            "mm",
            _pupil(r),
            focal(r),
            term("x", f"distance of the {name}", point_m, "m"),
        )
    if isinf(point_m):
        return working("b", "A × m", value, "mm", _pupil(r), magnified(r))
    formula = "A × m × (x − u) / x" if point_m >= u else "A × m × (u − x) / x"
    return working(
        "b", formula, value, "mm", _pupil(r), magnified(r), focus(r), term("x", f"distance of the {name}", point_m, "m")
    )


def _share(r: RigFigures, name: str, disc: float, share: float) -> Working:
    return working("share", "b / D", share, "share", term("b", name, disc, "mm"), diagonal(r))


def _dissolves(r: RigFigures, point_m: float, disc: float, name: str, value: float) -> Working:
    return working(
        "size", "b × x / v", value / 1000, "m", term("b", f"{name} blur on the sensor", disc, "mm"),
        term("x", f"distance of the {name}", point_m, "m"), image(r),
    )  # fmt: skip


def _movement(c: Comparison, r: RigFigures) -> Working:
    return working(
        "share", "s × t × v / (d × D)", r.blur.movement_share, "share",
        term("s", "speed across the frame, m/s", c.brief.subject_speed_m_per_s),
        term("t", "shutter time", r.settings.shutter_s, "s"), image(r), away(r), diagonal(r),
    )  # fmt: skip


def _ring() -> Term:
    return term("a", "the first dark ring, in units of λ N", AIRY_FACTOR)


def _wave(c: Comparison) -> Term:
    return term("λ", "wavelength of the light", c.conventions.wavelength_nm / 1000, "um")


def _airy(r: RigFigures) -> Term:
    return term("airy", "Airy disc", r.diffraction.airy_um, "um")


WHYS = {
    "coc": Why(
        "How large a disc may be before you see it as one. This is where the schools of sharpness differ.",
        _circle,
        SHARP,
        ("eye",),
    ),
    "near": Why(
        "Where the disc of a point in front of the focus is as large as what counts as sharp.", _near, SHARP, OF_DEPTH
    ),
    "far": Why(
        "Where the disc of a point behind the focus is as large as what counts as sharp. It is "
        "infinite where even the disc of infinity stays smaller.",
        _far,
        SHARP,
        OF_DEPTH,
    ),
    "total": Why(
        "From the near limit to the far one. It depends on the opening, on how far the frame is "
        "enlarged, and on the distance.",
        lambda c, r: working("depth", "far − near", r.depth.total_m, "m", *_limits(r)),
        SHARP,
        OF_DEPTH,
    ),
    "front": Why(
        "From the near limit to the focus.",
        lambda c, r: working("front", "u − near", r.depth.front_m, "m", focus(r), _limits(r)[0]),
        SHARP,
        OF_DEPTH,
    ),
    "behind": Why(
        "From the focus to the far limit.",
        lambda c, r: working("behind", "far − u", r.depth.behind_m, "m", _limits(r)[1], focus(r)),
        SHARP,
        OF_DEPTH,
    ),
    "hyperfocal": Why(
        "Focus there, and everything from half that distance to infinity is sharp.",
        lambda c, r: working(
            "H", "(f² / (N × c) + f) / 1000", r.depth.hyperfocal_m, "m", focal(r), number(r), circle(r)
        ),
        SHARP,
        OF_DEPTH,
    ),
    "pupil": Why(
        "The opening as seen from the front. At one view it decides depth, blur and the light of the "
        "whole picture, on every format alike.",
        lambda c, r: working("A", "f / N", r.blur.pupil_mm, "mm", focal(r), number(r)),
        (),
        ("marks",),
    ),
    "background": Why(
        "How large a point of the background becomes on the sensor.",
        lambda c, r: _disc(r, behind_m(c, r), "background", r.blur.background_mm),
        (),
        ("thin", "disc"),
    ),
    "background_share": Why(
        "The disc of a point of the background against the frame, the same in every print. Depth of "
        "field does not say how soft the background is.",
        lambda c, r: _share(r, "background blur on the sensor", r.blur.background_mm, r.blur.background_share),
        (),
        ("thin", "disc"),
    ),
    "dissolves": Why(
        "What is smaller than that on the background is lost in the blur.",
        lambda c, r: _dissolves(r, behind_m(c, r), r.blur.background_mm, "background", r.blur.background_dissolves_mm),
        (),
        ("thin", "disc"),
    ),
    "front_dissolves": Why(
        "What is smaller than that on the foreground is lost in the blur.",
        lambda c, r: _dissolves(r, before_m(c, r), r.blur.foreground_mm, "foreground", r.blur.foreground_dissolves_mm),
        (),
        ("thin", "disc"),
    ),
    "foreground_share": Why(
        "The disc of a point of the foreground against the frame.",
        lambda c, r: _share(r, "foreground blur on the sensor", r.blur.foreground_mm, r.blur.foreground_share),
        (),
        ("thin", "disc"),
    ),
    "infinity_share": Why(
        "The disc of a light far away against the frame.",
        lambda c, r: _share(r, "blur of infinity on the sensor", r.blur.infinity_mm, r.blur.infinity_share),
        (),
        ("thin", "disc"),
    ),
    "subject_share": Why(
        "The subject’s own blur against the frame, where the focus is elsewhere.",
        lambda c, r: _share(r, "blur of the subject on the sensor", r.blur.subject_mm, r.blur.subject_share),
        (),
        ("thin", "disc"),
    ),
    "movement_share": Why(
        "How far the subject moves in the frame while the shutter is open.", _movement, (), ("thin",)
    ),
    "airy": Why(
        "The smallest disc any lens can make of a point at this aperture. On the sensor it depends "
        "on the f-number alone, whatever the format.",
        lambda c, r: working(
            "airy", "a × λ × N × (1 + m)", r.diffraction.airy_um, "um", _ring(), _wave(c), number(r), magnified(r)
        ),
        (),
        ("airy",),
    ),
    "airy_coc": Why(
        "Over 1, you see the softness of diffraction when the picture is viewed as your sharpness rule assumes.",
        lambda c, r: working("ratio", "airy / (1000 × c)", r.diffraction.over_coc, "number", _airy(r), circle(r)),
        SHARP,
        ("airy", "eye"),
    ),
    "airy_pixels": Why(
        "Over 1, you see the softness of diffraction at 100 percent.",
        lambda c, r: working("ratio", "airy / (2 × p)", r.diffraction.over_two_pixels, "number", _airy(r), _pitch(r)),
        (),
        ("airy",),
    ),
    "limited": Why(
        "Where the Airy disc is as large as what counts as sharp. A smaller frame gets there sooner.",
        lambda c, r: working(
            "N",
            "1000 × c / (a × λ × (1 + m))",
            r.diffraction.limited_f_number,
            "f",
            circle(r),
            _ring(),
            _wave(c),
            magnified(r),
        ),
        SHARP,
        ("airy", "eye"),
    ),
    "pixel_limited": Why(
        "Where the Airy disc is as large as two pixels.",
        lambda c, r: working(
            "N",
            "2 × p / (a × λ × (1 + m))",
            r.diffraction.pixel_limited_f_number,
            "f",
            _pitch(r),
            _ring(),
            _wave(c),
            magnified(r),
        ),
        (),
        ("airy",),
    ),
}
