"""Questions on what a frame shows and how sharply: view, depth, place, reach, cover, diffraction. Right answers are the
core's own.
"""

from __future__ import annotations

from math import nan

from cambrel.comparison.brief import Hold
from cambrel.comparison.engine import Comparison, compare
from cambrel.comparison.fit import largest_crop
from cambrel.drills.given import Given
from cambrel.drills.posing import by_share, by_stops
from cambrel.optics.depth import hyperfocal_distance_m
from cambrel.optics.diffraction import AIRY_FACTOR, WAVELENGTH_NM, diffraction_limited_f_number
from cambrel.optics.equivalence import equivalent_f_number, equivalent_focal_length_mm
from cambrel.optics.formats import Sensor, crop_factor
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
    """The crop factors of both frames, as they stand in a working.

    Parameters
        given: the case
    Returns
        of the first and of the other
    """
    one, other = given.crops
    return term("C₁", "crop factor here", one), term("C₂", "crop factor there", other)


def totals(comparison: Comparison) -> float:
    """Depth of field of the second against the first, as a multiple of what is worth saying.

    Parameters
        comparison: of two
    Returns
        above 0 for more
    """
    one, other = (comparison.of(index).depth.total_m for index in (0, 1))
    return by_share(other / one, LEVEL_DEPTH) if one > 0 and other < float("inf") else nan


def view(given: Given) -> Working:
    """The focal length that frames alike on the other frame."""
    right = equivalent_focal_length_mm(given.focal_mm, *given.crops)
    return working(
        "f₂", "f × C₁ / C₂", float(right), "mm", term("f", "focal length", given.focal_mm, "mm"), *crops(given)
    )


def view_sizes(given: Given) -> tuple[float, float]:
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


def same_lens(given: Given) -> Working:
    """How wide the other frame sees with one lens."""
    wide_one, wide_other = given.one.width_mm, given.other.width_mm
    return working(
        "W₂", "W × w₂ / w₁", given.field_m * wide_other / wide_one, "m",
        term("W", "width shown", given.field_m, "m"), term("w₁", "width of the first frame", wide_one, "mm"),
        term("w₂", "width of the other frame", wide_other, "mm"),
    )  # fmt: skip


def perspective(given: Given) -> tuple[float, float]:
    """Size of the background against the subject.

    Parameters
        given: the case
    Returns
        signed multiples of what is worth saying
    """
    first, second = (
        by_share(b.of(1).view.background_scale / b.of(0).view.background_scale, LEVEL_VIEW)
        for b in (given.compared(SAME_LENS), given.compared(Hold("same", "walk", "f_number", "own")))
    )
    return first, second


def walk(given: Given) -> Working:
    """From where the subject is as large with the second focal length."""
    m = magnification(given.focal_mm, given.distance_m)
    right = object_distance_for_magnification_m(given.second_focal_mm, m)
    return working(
        "u₂", "f₂ × (1 + 1 / m) / 1000", float(right), "m",
        term("f₂", "the second focal length", given.second_focal_mm, "mm"),
        term("m", "magnification, f₁ / (u₁ − f₁)", float(m)),
    )  # fmt: skip


def walked(given: Given) -> tuple[float, float]:
    """Depth of field with the longer lens, walking and staying."""
    first, second = (
        totals(compare(given.brief, given.second_rigs, hold, given.conventions)) for hold in (WALKING, STAYING)
    )
    return first, second


def reach(given: Given) -> Working:
    """How many times as many pixels the subject gets."""
    one, other = (1000 * sensor.width_mm / (sensor.pixels_wide or nan) for sensor in (given.one, given.other))
    return working(
        "ratio", "p₁ / p₂", one / other, "times",
        term("p₁", "pixel pitch of the first", one, "um"), term("p₂", "pixel pitch of the other", other, "um"),
    )  # fmt: skip


def reach_sizes(given: Given) -> tuple[float, float]:
    """Pixels along the subject, under one lens and with the lens for one view."""
    lens = float(reach(given).result.value)
    first, second = (by_share(lens * f, LEVEL_PITCH) for f in (1.0, given.k))
    return first, second


def circle(given: Given) -> Working:
    """The megapixels that are left where the image circle ends before the frame."""
    frame, pixels = given.other, given.other.pixels_wide or nan
    megapixels = pixels * (frame.pixels_high or pixels * frame.height_mm / frame.width_mm) / 1e6
    left = largest_crop(frame, given.circle_mm)
    return working(
        "P₂", "P × min(1, D / d)²", megapixels * left.area_mm2 / frame.area_mm2, "number",
        term("P", "megapixels", megapixels), term("D", "image circle", given.circle_mm, "mm"),
        term("d", "diagonal of the frame", frame.diagonal_mm, "mm"),
    )  # fmt: skip


def circle_slips(given: Given, right: float) -> dict[str, float]:
    """Those who depend on the side in place of the area, by none, or by the width."""
    whole, *_ = (float(term.value.value) for term in circle(given).terms)
    shares = given.circle_mm / given.other.diagonal_mm, given.circle_mm / given.other.width_mm
    return {"linear": whole * shares[0], "unchanged": whole, "by_width": whole * min(1.0, shares[1]) ** 2}


def circle_sizes(given: Given) -> tuple[float, float]:
    """The image circle against the diagonal, on the frame it was made for and on the other."""
    first, second = (by_share(given.circle_mm / sensor.diagonal_mm, LEVEL_VIEW) for sensor in (given.one, given.other))
    return first, second


def hyperfocal(given: Given) -> Working:
    """The hyperfocal distance."""
    f, n, c = given.focal_mm, given.f_number, given.circle_of_confusion_mm(given.other)
    right = float(hyperfocal_distance_m(f, n, c)) if not is_unknown(c) else nan
    return working(
        "H", "(f² / (N × c) + f) / 1000", right, "m", term("f", "focal length", f, "mm"), term("N", "f-number", n, "f"),
        term("c", "largest blur that counts as sharp", c, "mm"),
    )  # fmt: skip


def hyperfocal_slips(given: Given, right: float) -> dict[str, float]:
    """Those who take the circle of full frame, the equivalent focal length or f-number, or the near limit."""
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


def hyperfocal_sizes(given: Given) -> tuple[float, float]:
    """The hyperfocal distance, with one lens and with the lens for one picture."""
    first, second = (
        by_share(b.of(1).depth.hyperfocal_m / b.of(0).depth.hyperfocal_m, LEVEL_DEPTH)
        for b in (given.compared(SAME_LENS), given.compared(SAME_PICTURE))
    )
    return first, second


def diffraction_limit(given: Given, frame: Sensor) -> float:
    """From which f-number on diffraction shows on a frame.

    Parameters
        given: the case, with its circle of confusion
        frame: of one of its cameras
    Returns
        the f-number
    """
    c = given.circle_of_confusion_mm(frame)
    return float(diffraction_limited_f_number(1000 * c)) if not is_unknown(c) else nan


def diffraction(given: Given) -> Working:
    """From which f-number on diffraction shows on the other frame."""
    c = given.circle_of_confusion_mm(given.other)
    return working(
        "N", "1000 × c / (a × λ)", diffraction_limit(given, given.other), "f",
        term("c", "largest blur that counts as sharp", c, "mm"),
        term("a", "the first dark ring, in units of λ N", AIRY_FACTOR),
        term("λ", "wavelength of green", WAVELENGTH_NM / 1000, "um"),
    )  # fmt: skip


def diffraction_slips(given: Given, right: float) -> dict[str, float]:
    """Those who keep the habit of the first frame, turn the factor round, or square it."""
    habit = diffraction_limit(given, given.one)
    return {"unchanged": habit, "inverted": habit**2 / right, "squared": right**2 / habit}


def diffraction_sizes(given: Given) -> tuple[float, float]:
    """The Airy disc against what counts as sharp."""
    first, second = (
        by_stops((b.of(1).diffraction.over_coc / b.of(0).diffraction.over_coc) ** 2)
        for b in (given.compared(SAME_PICTURE), given.compared(SAME_DEPTH))
    )
    return first, second
