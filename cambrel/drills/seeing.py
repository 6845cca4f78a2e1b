"""Questions on what a frame shows and how sharply: view, depth, place, reach, cover, diffraction. Right answers are the core's own."""

from __future__ import annotations

from math import nan

from cambrel.comparison.brief import Hold
from cambrel.comparison.engine import Comparison, compare
from cambrel.comparison.fit import largest_crop
from cambrel.drills.given import Given
from cambrel.drills.posing import F_NUMBER, RATIO, Kind, by_share, by_stops
from cambrel.optics.depth import hyperfocal_distance_m
from cambrel.optics.diffraction import AIRY_FACTOR, WAVELENGTH_NM, diffraction_limited_f_number
from cambrel.optics.equivalence import equivalent_f_number, equivalent_focal_length_mm
from cambrel.optics.formats import crop_factor
from cambrel.optics.geometry import magnification, object_distance_for_magnification_m
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Term, Working, term, working
from cambrel.verdicts.sharp import LEVEL_PITCH
from cambrel.wording.sentences import LEVEL_DEPTH, LEVEL_VIEW

SAME_LENS = Hold("same", "spot", "f_number", "own")
SAME_PICTURE = Hold("equivalent", "spot", "f_number", "own")
SAME_DEPTH = Hold("equivalent", "spot", "depth", "own")
STAYING = Hold("own", "spot", "f_number", "own")
WALKING = Hold("own", "walk", "f_number", "own")


def crops(given: Given) -> tuple[Term, Term]:
    one, other = given.crops
    return term("C₁", "crop factor here", one), term("C₂", "crop factor there", other)


def _totals(comparison: Comparison) -> float:
    """Depth of field of the second against the first, as a multiple of what is worth saying."""
    one, other = (comparison.of(index).depth.total_m for index in (0, 1))
    return by_share(other / one, LEVEL_DEPTH) if one > 0 and other < float("inf") else nan


def _view(given: Given) -> Working:
    right = equivalent_focal_length_mm(given.focal_mm, *given.crops)
    return working(
        "f₂", "f × C₁ / C₂", float(right), "mm", term("f", "focal length", given.focal_mm, "mm"), *crops(given)
    )


def _view_sizes(given: Given) -> tuple[float, float]:
    """How much of the scene is shown, by the measure in force: the frame over the image distance."""

    def shown(comparison: Comparison, index: int) -> float:
        rig = comparison.of(index)
        return 1 / (rig.frames.crop * rig.view.image_distance_mm)

    first, second = (
        by_share(shown(comparison, 1) / shown(comparison, 0), LEVEL_VIEW)
        for comparison in (given.compared(SAME_LENS), given.compared(SAME_PICTURE))
    )
    return first, second


def same_depth(given: Given) -> Working:
    """The f-number of the same opening on the other frame."""
    right = equivalent_f_number(given.f_number, *given.crops)
    return working("N₂", "N × C₁ / C₂", float(right), "f", term("N", "f-number", given.f_number, "f"), *crops(given))


def _same_lens(given: Given) -> Working:
    wide_one, wide_other = given.one.width_mm, given.other.width_mm
    return working(
        "W₂", "W × w₂ / w₁", given.field_m * wide_other / wide_one, "m",
        term("W", "width shown", given.field_m, "m"), term("w₁", "width of the first frame", wide_one, "mm"),
        term("w₂", "width of the other frame", wide_other, "mm"),
    )  # fmt: skip


def _perspective(given: Given) -> tuple[float, float]:
    """Size of the background against the subject."""
    first, second = (
        by_share(b.of(1).view.background_scale / b.of(0).view.background_scale, LEVEL_VIEW)
        for b in (given.compared(SAME_LENS), given.compared(Hold("same", "walk", "f_number", "own")))
    )
    return first, second


def _walk(given: Given) -> Working:
    m = magnification(given.focal_mm, given.distance_m)
    right = object_distance_for_magnification_m(given.second_focal_mm, m)
    return working(
        "u₂", "f₂ × (1 + 1 / m) / 1000", float(right), "m",
        term("f₂", "the second focal length", given.second_focal_mm, "mm"),
        term("m", "magnification, f₁ / (u₁ − f₁)", float(m)),
    )  # fmt: skip


def _walked(given: Given) -> tuple[float, float]:
    """Depth of field with the longer lens, walking and staying."""
    first, second = (
        _totals(compare(given.brief, given.second_rigs, hold, given.conventions)) for hold in (WALKING, STAYING)
    )
    return first, second


def _reach(given: Given) -> Working:
    one, other = (1000 * sensor.width_mm / (sensor.pixels_wide or nan) for sensor in (given.one, given.other))
    return working(
        "ratio", "p₁ / p₂", one / other, "times",
        term("p₁", "pixel pitch of the first", one, "um"), term("p₂", "pixel pitch of the other", other, "um"),
    )  # fmt: skip


def _reach_sizes(given: Given) -> tuple[float, float]:
    """Pixels along the subject, under one lens and with the lens for one view."""
    lens = float(_reach(given).result.value)
    first, second = (by_share(lens * f, LEVEL_PITCH) for f in (1.0, given.k))
    return first, second


def _circle(given: Given) -> Working:
    frame, pixels = given.other, given.other.pixels_wide or nan
    megapixels = pixels * (frame.pixels_high or pixels * frame.height_mm / frame.width_mm) / 1e6
    left = largest_crop(frame, given.circle_mm)
    return working(
        "P₂", "P × min(1, D / d)²", megapixels * left.area_mm2 / frame.area_mm2, "number",
        term("P", "megapixels", megapixels), term("D", "image circle", given.circle_mm, "mm"),
        term("d", "diagonal of the frame", frame.diagonal_mm, "mm"),
    )  # fmt: skip


def _circle_slips(given: Given, right: float) -> dict[str, float]:
    whole, *_ = (float(one.value.value) for one in _circle(given).terms)
    shares = given.circle_mm / given.other.diagonal_mm, given.circle_mm / given.other.width_mm
    return {"linear": whole * shares[0], "unchanged": whole, "by_width": whole * min(1.0, shares[1]) ** 2}


def _circle_sizes(given: Given) -> tuple[float, float]:
    """The image circle against the diagonal, on the frame it was made for and on the other."""
    first, second = (by_share(given.circle_mm / sensor.diagonal_mm, LEVEL_VIEW) for sensor in (given.one, given.other))
    return first, second


def _hyperfocal(given: Given) -> Working:
    f, n, c = given.focal_mm, given.f_number, given.circle_of_confusion_mm(given.other)
    right = float(hyperfocal_distance_m(f, n, c)) if not is_unknown(c) else nan
    return working(
        "H", "(f² / (N × c) + f) / 1000", right, "m", term("f", "focal length", f, "mm"), term("N", "f-number", n, "f"),
        term("c", "largest blur that counts as sharp", c, "mm"),
    )  # fmt: skip


def _hyperfocal_slips(given: Given, right: float) -> dict[str, float]:
    f, n, c = given.focal_mm, given.f_number, given.circle_of_confusion_mm(given.other)
    crop = crop_factor(given.other, by=given.crop_by)
    if is_unknown(c):
        return {}
    return {
        "full_frame_circle": float(hyperfocal_distance_m(f, n, given.full_frame_circle_mm)),
        "equivalent_focal": float(hyperfocal_distance_m(f * crop, n, c)),
        "half": right / 2,
        "f_number_converted": float(hyperfocal_distance_m(f, n * crop, c)),
    }


def _hyperfocal_sizes(given: Given) -> tuple[float, float]:
    first, second = (
        by_share(b.of(1).depth.hyperfocal_m / b.of(0).depth.hyperfocal_m, LEVEL_DEPTH)
        for b in (given.compared(SAME_LENS), given.compared(SAME_PICTURE))
    )
    return first, second


def _limit(given: Given, frame: str) -> float:
    c = given.circle_of_confusion_mm(getattr(given, frame))
    return float(diffraction_limited_f_number(1000 * c)) if not is_unknown(c) else nan


def _diffraction(given: Given) -> Working:
    c = given.circle_of_confusion_mm(given.other)
    return working(
        "N", "1000 × c / (a × λ)", _limit(given, "other"), "f", term("c", "largest blur that counts as sharp", c, "mm"),
        term("a", "the first dark ring, in units of λ N", AIRY_FACTOR), term("λ", "wavelength of green", WAVELENGTH_NM / 1000, "um"),
    )  # fmt: skip


def _diffraction_slips(given: Given, right: float) -> dict[str, float]:
    habit = _limit(given, "one")
    return {"unchanged": habit, "inverted": habit**2 / right, "squared": right**2 / habit}


def _diffraction_sizes(given: Given) -> tuple[float, float]:
    """The Airy disc against what counts as sharp."""
    first, second = (
        by_stops((b.of(1).diffraction.over_coc / b.of(0).diffraction.over_coc) ** 2)
        for b in (given.compared(SAME_PICTURE), given.compared(SAME_DEPTH))
    )
    return first, second


KINDS = (
    Kind(
        "view",
        "mm",
        RATIO,
        _view,
        lambda g, right: {"inverted": g.focal_mm / g.k, "unchanged": g.focal_mm, "squared": g.focal_mm * g.k**2},
        _view_sizes,
    ),
    Kind(
        "depth",
        "f",
        F_NUMBER,
        same_depth,
        lambda g, right: {"unchanged": g.f_number, "inverted": g.f_number / g.k, "squared": g.f_number * g.k**2},
        lambda g: (_totals(g.compared(SAME_LENS)), _totals(g.compared(SAME_PICTURE))),
    ),
    Kind(
        "same_lens",
        "m",
        RATIO,
        _same_lens,
        lambda g, right: {
            "inverted": g.field_m**2 / right,
            "squared": right**2 / g.field_m,
            "unchanged": g.field_m,
        },
        _perspective,
    ),
    Kind(
        "walk",
        "m",
        RATIO,
        _walk,
        lambda g, right: {
            "inverted": g.distance_m * g.focal_mm / g.second_focal_mm,
            "unchanged": g.distance_m,
            "squared": g.distance_m * (g.second_focal_mm / g.focal_mm) ** 2,
        },
        _walked,
    ),
    Kind(
        "reach",
        "times",
        RATIO,
        _reach,
        lambda g, right: {"crop": 1 / g.k, "inverted": 1 / right, "squared": right**2},
        _reach_sizes,
    ),
    Kind("circle", "number", RATIO, _circle, _circle_slips, _circle_sizes),
    Kind("hyperfocal", "m", RATIO, _hyperfocal, _hyperfocal_slips, _hyperfocal_sizes),
    Kind("diffraction", "f", F_NUMBER, _diffraction, _diffraction_slips, _diffraction_sizes),
)
