"""What is sharp and what is not: depth of field, hyperfocal distance, background blur, the pupil behind them."""

from __future__ import annotations

from math import inf, isinf

from cambrel import wording
from cambrel.ask.answer_benches import on_bench, slot_of
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.comparison.brief import Brief
from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER
from cambrel.optics.blur import blur_disc_mm, entrance_pupil_mm
from cambrel.optics.depth import (
    CIRCLE_OF_CONFUSION_SCHOOLS,
    depth_of_field,
    f_number_for_total_depth,
    hyperfocal_distance_m,
)
from cambrel.optics.geometry import object_distance_for_magnification_m
from cambrel.optics.workings import Term, Working, term, working

PIXELS_NEEDED = "Two pixels are your measure of sharp, so the pixel count is needed. Add it, such as 24 MP."


def _sharp(given: GivenLine) -> str:
    circle = given.circle_mm or 0.0
    return (
        f"“Sharp” here means a blur disc under {wording.focal(circle)},"
        f" {CIRCLE_OF_CONFUSION_SCHOOLS[given.terms.conventions.criterion].judge}."
    )


def _circle_term(circle: float) -> Term:
    return term("c", "blur that still counts as sharp", circle, "mm")


def _hyperfocal_working(f: float, n: float, circle: float, result: float) -> Working:
    return working(
        "H",
        "(f² / (N × c) + f) / 1000",
        result,
        "m",
        term("f", "focal length", f, "mm"),
        term("N", "f-number", n, "f"),
        _circle_term(circle),
    )


def _depth(given: GivenLine) -> Reply:
    f, n, u = given.range_mm[0], given.sure("f_number"), given.sure("distance")
    circle = given.circle_mm
    if circle is None:
        return Reply(PIXELS_NEEDED)
    sharp = depth_of_field(f, n, u, circle)
    near, far, total = float(sharp.near_m), float(sharp.far_m), float(sharp.total_m)
    h = float(hyperfocal_distance_m(f, n, circle))
    depth = "everything behind that" if isinf(total) else f"{given.write(total, 'm')} in all"
    says = (
        f"Sharp from {wording.span(near, far, given.terms.units)}, {depth}: {wording.focal(f)} {wording.f_number(n)}"
        f" {given.where} focused at {given.write(u, 'm')}."
    )
    figures = (
        AnswerFigure("near limit", near, "m"),
        AnswerFigure("far limit", far, "m"),
        AnswerFigure("depth of field", total, "m"),
        AnswerFigure("hyperfocal distance", h, "m"),
        AnswerFigure("blur that counts as sharp", circle, "mm"),
    )
    lines = [_hyperfocal_working(f, n, circle, h)]
    lines.append(
        working(
            "n",
            "u × (H − f / 1000) / (H − f / 1000 + u − f / 1000)",
            near,
            "m",
            term("u", "focus distance", u, "m"),
            term("H", "hyperfocal distance", h, "m"),
            term("f", "focal length", f, "mm"),
        )
    )
    slot = slot_of(given.named, f, n)
    return Reply(says, figures, tuple(lines), (*given.assumed, _sharp(given)), (on_bench(given, slot, panel="depth"),))


def _close_up(given: GivenLine) -> Reply:
    """The depth at a magnification: exactly for a lens that is said, else for one much longer than the blur is wide."""
    m, n, circle = given.sure("magnification"), given.sure("f_number"), given.circle_mm
    if circle is None:
        return Reply(PIXELS_NEEDED)
    formula, by = "2 × N × c × (1 + m) / m² / 1000", "whatever the lens"
    terms = [term("N", "f-number", n, "f"), _circle_term(circle), term("m", "magnification", m)]
    if given.all("focal"):
        f = given.range_mm[0]
        u = float(object_distance_for_magnification_m(f, m))
        total = float(depth_of_field(f, n, u, circle).total_m)
        formula, by = "2 × N × c × (1 + m) / (m² − (N × c / f)²) / 1000", f"with {wording.focal(f)}"
        terms.append(term("f", "focal length", f, "mm"))
    else:
        total = 2 * n * circle * (1 + m) / m**2 / 1000
    says = (
        f"{given.write(total, 'm')} in all at {wording.significant(m)} times life size and {wording.f_number(n)}"
        f" {given.where}, {by}."
    )
    line = working("T", formula, total, "m", *terms)
    return Reply(says, (AnswerFigure("depth of field", total, "m"),), (line,), (*given.assumed, _sharp(given)))


def _for_depth(given: GivenLine) -> Reply:
    """The f-number that a depth takes."""
    f, u, wanted = given.range_mm[0], given.sure("distance"), given.sure("size")
    circle = given.circle_mm
    if circle is None:
        return Reply(PIXELS_NEEDED)
    n = float(f_number_for_total_depth(f, u, circle, wanted))
    says = (
        f"{wording.f_number(n)} gives a depth of field of {given.write(wanted, 'm')}: {wording.focal(f)} {given.where}"
        f" focused at {given.write(u, 'm')}."
    )
    if n < SMALLEST_POSSIBLE_F_NUMBER:
        says += f" No lens can be that fast: f/{SMALLEST_POSSIBLE_F_NUMBER:g} is the limit in air."
    line = working(
        "N",
        "f² / (c × (1000 × u − f) × (u / T + √(u² / T² + 1)))",
        n,
        "f",
        term("f", "focal length", f, "mm"),
        _circle_term(circle),
        term("u", "focus distance", u, "m"),
        term("T", "depth wanted", wanted, "m"),
    )
    slot = slot_of(given.named, f, max(n, SMALLEST_POSSIBLE_F_NUMBER))
    seen = on_bench(given, slot, panel="depth")
    return Reply(says, (AnswerFigure("f-number", n, "f"),), (line,), (*given.assumed, _sharp(given)), (seen,))


def _hyperfocal(given: GivenLine) -> Reply:
    f, n = given.range_mm[0], given.sure("f_number")
    circle = given.circle_mm
    if circle is None:
        return Reply(PIXELS_NEEDED)
    h = float(hyperfocal_distance_m(f, n, circle))
    near = float(depth_of_field(f, n, h, circle).near_m)
    says = (
        f"{given.write(h, 'm')}: focused there, {wording.focal(f)} {wording.f_number(n)} {given.where} is sharp from"
        f" {given.write(near, 'm')} to infinity."
    )
    figures = (
        AnswerFigure("hyperfocal distance", h, "m"),
        AnswerFigure("near limit", near, "m"),
        AnswerFigure("blur that counts as sharp", circle, "mm"),
    )
    seen = on_bench(given, slot_of(given.named, f, n), panel="depth", brief=Brief(distance_m=h, background_m=inf))
    return Reply(says, figures, (_hyperfocal_working(f, n, circle, h),), (*given.assumed, _sharp(given)), (seen,))


def _blur(given: GivenLine) -> Reply:
    f, n, u = given.range_mm[0], given.sure("f_number"), given.sure("distance")
    behind = given.one("background")
    x = inf if behind is None else u + behind
    disc = float(blur_disc_mm(f, n, u, x))
    share = disc / given.sensor.diagonal_mm
    where = "far away" if behind is None else f"{given.write(behind, 'm')} behind the subject"
    says = (
        f"A point {where} blurs to {wording.share(share)} of the frame’s diagonal: {wording.focal(f)}"
        f" {wording.f_number(n)} {given.where} focused at {given.write(u, 'm')}."
    )
    m = f / (1000 * u - f)
    full = f * f / (n * (1000 * u - f))
    line = working(
        "b",
        "(f / N) × m × s / (u + s)" if behind is not None else "(f / N) × m",
        disc,
        "mm",
        term("f", "focal length", f, "mm"),
        term("N", "f-number", n, "f"),
        term("m", "magnification", m),
        *(
            (term("s", "from the subject to the background", behind, "m"), term("u", "focus distance", u, "m"))
            if behind is not None
            else ()
        ),
    )
    figures = [AnswerFigure("blur, of the diagonal", share, "share"), AnswerFigure("blur on the sensor", disc, "mm")]
    if behind is not None:
        figures.append(AnswerFigure("at most, far behind", full / given.sensor.diagonal_mm, "share"))
    seen = on_bench(
        given,
        slot_of(given.named, f, n),
        panel="depth",
        brief=Brief(distance_m=u, background_m=inf if behind is None else behind),
    )
    return Reply(says, tuple(figures), (line,), tuple(given.assumed), (seen,))


def _pupil(given: GivenLine) -> Reply:
    (low, high), n = given.range_mm, given.sure("f_number")
    last = given.quantities["f_number"][0].values[-1]
    ends = [float(entrance_pupil_mm(low, n)), float(entrance_pupil_mm(high, last))]
    sizes = " to ".join(wording.focal(size) for size in dict.fromkeys(ends))
    says = (
        f"{sizes} across: the opening of {wording.focal_range(low, high)}"
        f" {wording.f_number_range(n, last)}. It decides depth, blur and light at one view, on any format."
    )
    line = working("A", "f / N", ends[0], "mm", term("f", "focal length", low, "mm"), term("N", "f-number", n, "f"))
    figures = tuple(
        AnswerFigure("entrance pupil" if low == high else f"entrance pupil at {wording.focal(f)}", size, "mm")
        for f, size in dict(zip((low, high), ends, strict=True)).items()
    )
    return Reply(says, figures, (line,))


LENS_AT = frozenset({"look", "distance", "aperture", "focal", "view", "background", "thing", "fit"})
KINDS = (
    Kind(
        "f-number-for-depth",
        "The f-number for a depth of field",
        ("focal size distance sensor?",),
        _for_depth,
        ("which f-number for 20 cm depth of field with 85 mm at 2 m",),
        frozenset({"depth"}),
        LENS_AT | {"size", "look"},
        {"distance": "at 2 m"},
        weight=1,
    ),
    Kind(
        "depth-close",
        "Depth of field close up",
        ("magnification f_number sensor?", "focal magnification f_number sensor?"),
        _close_up,
        ("depth of field at 1:1 f/8 mft",),
        frozenset({"depth"}),
        LENS_AT | {"macro", "magnified", "size"},
        {"f_number": "f/8"},
        weight=2,
    ),
    Kind(
        "depth",
        "Depth of field",
        ("focal f_number distance sensor? megapixels?",),
        _depth,
        ("dof 85 mm f/1.8 ff at 2 m",),
        frozenset({"depth"}),
        LENS_AT | {"size", "macro"},
        {"distance": "at 2 m", "f_number": "f/2.8"},
        weight=1,
    ),
    Kind(
        "hyperfocal",
        "Hyperfocal distance",
        ("focal f_number sensor? megapixels?",),
        _hyperfocal,
        ("hyperfocal 24 mm f/8 ff",),
        frozenset({"hyperfocal"}),
        LENS_AT | {"depth"},
        {"f_number": "f/8"},
        weight=2,
    ),
    Kind(
        "blur",
        "Background blur",
        ("focal f_number distance background? sensor?",),
        _blur,
        ("background blur of 85 mm f/1.4 ff at 2 m, background 5 m behind",),
        frozenset({"blur"}),
        LENS_AT | {"size", "depth"},
        {"distance": "at 2 m", "f_number": "f/1.8"},
        weight=1,
    ),
    Kind(
        "pupil",
        "Entrance pupil",
        ("focal f_number sensor?",),
        _pupil,
        ("entrance pupil of 85 mm f/1.4",),
        frozenset({"pupil"}),
        frozenset({"size", "diagonal", "aperture", "focal"}),
        weight=2,
    ),
)
