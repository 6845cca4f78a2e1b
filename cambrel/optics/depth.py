"""Depth of field and the circle of confusion. Millimetres at the camera, metres in the scene.

The exact thin-lens forms are used, not the ones that drop the focal length. Limits are where the blur disc on the
sensor equals the
circle of confusion. Source: "Applied Photographic Optics", chapter on depth of field.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cambrel.optics.formats import FULL_FRAME, Sensor
from cambrel.optics.quantities import (
    Choices,
    DomainError,
    Quantity,
    is_unknown,
    positive,
    positive_or_inf,
    refuse_unless,
)
from cambrel.optics.schools import School, by_key
from cambrel.optics.sharpness import LINES_PER_MM
from cambrel.optics.workings import Working, term, working

FAR_TOLERANCE = 1e-12
"""Focus this close to the hyperfocal distance (relative) counts as being on it: the far limit is then infinite."""

PRINT_DISTANCE_MM = 250.0
"""Reading distance to which resolving powers on paper refer."""


@dataclass(frozen=True)
class DepthOfField:
    """Near and far limit from the lens and the depth between them [m]; far and total are infinite from the hyperfocal
    distance on.
    """

    near_m: Quantity
    far_m: Quantity
    total_m: Quantity


@dataclass(frozen=True)
class Viewed:
    """A frame in use, and how its picture is looked at: what a circle of confusion may depend on.

    Lengths in mm, scalars or arrays.

    pixel_pitch_um: NaN where it is not known; full_frame_diagonal_mm: of full frame, cropped alike
    viewing_distance_mm, shown_long_side_mm, lines_per_mm: of the print and the eye; None where nobody said
    """

    long_side_mm: Quantity
    diagonal_mm: Quantity
    pixel_pitch_um: Quantity
    full_frame_diagonal_mm: Quantity = FULL_FRAME.diagonal_mm
    viewing_distance_mm: Quantity | None = None
    shown_long_side_mm: Quantity | None = None
    lines_per_mm: Quantity = LINES_PER_MM


@dataclass(frozen=True)
class CircleOfConfusion(School[Viewed]):
    """How large a blur disc may be before it is seen [mm].

    judge: what it is judged by, as it reads after "judged by"; shows_at: where what passes it is seen
    is_of_frame: whether it grows and shrinks with the part of the frame that is used
    """

    judge: str = ""
    shows_at: str = "in the print"
    is_of_frame: bool = True


def _share(part: int, reason: str) -> CircleOfConfusion:
    def written(given: Viewed) -> Working:
        whole = term("D", "diagonal of the frame", given.diagonal_mm, "mm")
        return working("c", f"1000 × D / {part}", 1000 * given.diagonal_mm / part, "um", whole)

    key, label = f"diagonal_{part}", f"diagonal / {part}"
    return CircleOfConfusion(
        key,
        label,
        reason,
        lambda given: positive("diagonal_mm", given.diagonal_mm) / part,
        written,
        judge=f"1/{part} of the diagonal",
    )


TRADITIONAL_MM = 0.030
"""The circle of confusion of most depth scales of film days, on full frame."""


def _traditional_mm(given: Viewed) -> Quantity:
    return (
        positive("diagonal_mm", given.diagonal_mm)
        * TRADITIONAL_MM
        / positive("full_frame_diagonal_mm", given.full_frame_diagonal_mm)
    )


def _traditional_working(given: Viewed) -> Working:
    return working(
        "c", f"1000 × {TRADITIONAL_MM} × D / D₀", 1000 * float(_traditional_mm(given)), "um",
        term("D", "diagonal of the frame", given.diagonal_mm, "mm"),
        term("D₀", "diagonal of full frame", given.full_frame_diagonal_mm, "mm"),
    )  # fmt: skip


def _shown(given: Viewed) -> tuple[Quantity, Quantity]:
    """From how far the print is looked at, and how long its long side is [mm]."""
    if given.viewing_distance_mm is None or given.shown_long_side_mm is None:
        raise DomainError("criterion", "given with viewing_distance_mm and shown_long_side_mm", "print")
    return (
        positive("viewing_distance_mm", given.viewing_distance_mm),
        positive("shown_long_side_mm", given.shown_long_side_mm),
    )


def _print_mm(given: Viewed) -> Quantity:
    away, shown = _shown(given)
    enlargement = shown / positive("long_side_mm", given.long_side_mm)
    return away / PRINT_DISTANCE_MM / (positive("lines_per_mm", given.lines_per_mm) * enlargement)


def _print_working(given: Viewed) -> Working:
    away, shown = _shown(given)
    return working(
        "c", "1000 × L / 250 / (R × E)", 1000 * _print_mm(given), "um", term("L", "viewing distance", away, "mm"),
        term("R", "line pairs per mm that the eye tells apart at 250 mm", given.lines_per_mm),
        term("E", "enlargement from the frame to the print", shown / given.long_side_mm),
    )  # fmt: skip


def _two_pixels_working(given: Viewed) -> Working | None:
    if is_unknown(given.pixel_pitch_um):
        return None
    pitch = term("p", "pixel pitch", given.pixel_pitch_um, "um")
    return working("c", "2 × p", 2 * given.pixel_pitch_um, "um", pitch)


CIRCLE_OF_CONFUSION_SCHOOLS: Choices[CircleOfConfusion] = by_key(
    "criterion",
    _share(1500, "A fixed share of the frame, for a print looked at whole."),
    _share(1730, "A stricter fixed share of the frame, found in many lens tables."),
    CircleOfConfusion(
        "traditional",
        "0.030 mm on full frame",
        "The figure engraved in most film-era depth scales, divided by the crop factor by diagonal.",
        _traditional_mm,
        _traditional_working,
        judge="0.030 mm on full frame",
    ),
    CircleOfConfusion(
        "print",
        "from the print",
        "What the eye resolves at the viewing distance, traced back to the sensor.",
        _print_mm,
        _print_working,
        judge="what the eye sees in the print",
    ),
    CircleOfConfusion(
        "two_pixels",
        "two pixels",
        "What shows at 100 percent on a screen, whatever the print.",
        lambda given: 2 * given.pixel_pitch_um / 1000,
        _two_pixels_working,
        is_tried=False,
        judge="two pixels",
        shows_at="at 100 percent",
        is_of_frame=False,
    ),
)


def viewed(sensor: Sensor, full_frame: Sensor = FULL_FRAME, **shown: Quantity) -> Viewed:
    """What a circle of confusion may depend on, from a frame.

    Parameters
        sensor: the frame in use, after any output crop
        full_frame: cropped alike
        shown: viewing_distance_mm, shown_long_side_mm [mm] and lines_per_mm, where they are known
    Returns
        Viewed, with the pitch NaN where the pixels are not known
    """
    pitch = np.nan if sensor.pixel_pitch_um is None else sensor.pixel_pitch_um
    long_side = max(sensor.width_mm, sensor.height_mm)
    return Viewed(long_side, sensor.diagonal_mm, pitch, full_frame.diagonal_mm, **shown)


def circle_of_confusion_mm(
    sensor: Sensor, criterion: str = "diagonal_1500", **given: Quantity | Sensor
) -> float | None:
    """Largest blur disc on the sensor that still counts as sharp, by the school in force.

    Parameters
        sensor: the frame in use, after any output crop
        criterion: a key of CIRCLE_OF_CONFUSION_SCHOOLS
        given: for "print" viewing_distance_mm, shown_long_side_mm and lines_per_mm; for "traditional" full_frame,
            cropped alike
    Returns
        [mm], or None where it cannot be computed (two pixels, with the pixels unknown)
    Raises
        DomainError for an unknown school or a missing or impossible given
    References
        print: c = (L / 250 mm) / (R E), "The Manual of Photography", chapter on resolution
    """
    full_frame = given.pop("full_frame", FULL_FRAME)
    if not isinstance(full_frame, Sensor):
        raise DomainError("full_frame", "a sensor", full_frame)
    shown = {name: value for name, value in given.items() if not isinstance(value, Sensor)}
    size_mm = float(CIRCLE_OF_CONFUSION_SCHOOLS[criterion].value(viewed(sensor, full_frame, **shown)))
    return None if is_unknown(size_mm) else size_mm


def hyperfocal_distance_m(focal_length_mm: Quantity, f_number: Quantity, coc_mm: Quantity) -> Quantity:
    """Nearest focus at which the far limit is infinite, H = f^2 / (N c) + f.

    Parameters
        focal_length_mm: [mm], scalar or array
        f_number: scalar or array
        coc_mm: circle of confusion [mm]
    Returns
        [m] from the lens
    """
    f = positive("focal_length_mm", focal_length_mm)
    return (f**2 / (positive("f_number", f_number) * positive("coc_mm", coc_mm)) + f) / 1000


def depth_of_field(
    focal_length_mm: Quantity, f_number: Quantity, object_distance_m: Quantity, coc_mm: Quantity
) -> DepthOfField:
    """Near and far limits of what is sharp, and the depth between them.

    With x = g / H', g = u - f and H' = f^2 / (N c): near = u / (1 + x), far = u / (1 - x), total = 2 u x / (1 - x^2).

    Parameters
        focal_length_mm: [mm], scalar or array
        f_number: scalar or array
        object_distance_m: focus distance from the lens [m]; infinity is allowed
        coc_mm: circle of confusion [mm]
    Returns
        DepthOfField in metres, each of the broadcast shape; far and total infinite from the hyperfocal distance on
    Raises
        DomainError where the object is not beyond the focal length
    """
    f = positive("focal_length_mm", focal_length_mm)
    n = positive("f_number", f_number)
    c = positive("coc_mm", coc_mm)
    u = positive_or_inf("object_distance_m", object_distance_m)
    if not all(isinstance(value, float) for value in (f, n, c, u)):
        f, n, c, u = np.broadcast_arrays(f, n, c, u)
    beyond = 1000 * u - f
    if np.size(beyond) and not np.min(beyond) > 0:
        refuse_unless(beyond > 0, "object_distance_m", "beyond the focal length", object_distance_m)
    share = n * c / f / f  # 1 / H' [1/mm]
    if isinstance(beyond, float):
        return _depth_of_one(u, beyond * share, share)
    # in place from here on: fetching fresh memory takes longer than the arithmetic
    x = np.multiply(beyond, share, out=beyond)
    with np.errstate(invalid="ignore", divide="ignore"):
        near, left = 1 + x, 1 - x
        np.divide(u, near, out=near)
        far = u / left
        x *= near
        x *= 2
        total = np.divide(x, left, out=x)
    endless = left <= FAR_TOLERANCE
    if endless.any():
        np.copyto(far, np.inf, where=endless)
        np.copyto(total, np.inf, where=endless)
        if left.min() == -np.inf:
            near = np.where(left == -np.inf, 1 / (1000 * share), near)
    return DepthOfField(near, far, total)


def _depth_of_one(u: Quantity, x: Quantity, share: Quantity) -> DepthOfField:
    """The scalar case of depth_of_field; focused at infinity the near limit is H'."""
    near = 1 / (1000 * share) if x == np.inf else u / (1 + x)
    if x >= 1 - FAR_TOLERANCE:
        return DepthOfField(near, np.inf, np.inf)
    return DepthOfField(near, u / (1 - x), 2 * u * x / (1 - x**2))


def f_number_for_limits(
    focal_length_mm: Quantity, object_distance_m: Quantity, coc_mm: Quantity, near_m: Quantity, far_m: Quantity
) -> Quantity:
    """Smallest f-number at which all from near to far is sharp when focused in between.

    Parameters
        focal_length_mm: [mm]
        object_distance_m: focus distance from the lens [m]
        coc_mm: circle of confusion [mm]
        near_m, far_m: what must be sharp, from the lens [m]; far may be infinite
    Returns
        f-number; 0 where nothing but the plane of focus is asked for
    Raises
        DomainError where near is not above 0
    """
    f = positive("focal_length_mm", focal_length_mm)
    u = positive_or_inf("object_distance_m", object_distance_m)
    near = positive("near_m", near_m)
    far = positive_or_inf("far_m", far_m)
    refuse_unless(1000 * u > f, "object_distance_m", "beyond the focal length", object_distance_m)
    at_infinity = np.isinf(u)
    finite_u = np.where(at_infinity, near, u)
    x = np.maximum(np.maximum(finite_u / near - 1, 1 - finite_u / far), 0.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        # focused at infinity x / (1000 u - f) tends to 1 / (1000 near): the near limit is H' itself
        slope = np.where(at_infinity, 1 / (1000 * near), x / (1000 * finite_u - f))
    wanted: Quantity = (slope * f**2 / positive("coc_mm", coc_mm))[()]
    return wanted


def f_number_for_same_limits(
    f_number: Quantity,
    focal_length_mm: Quantity,
    object_distance_m: Quantity,
    coc_mm: Quantity,
    other_focal_length_mm: Quantity,
    other_object_distance_m: Quantity,
    other_coc_mm: Quantity,
) -> Quantity:
    """F-number of a second rig focused at the same distance with both limits the same: g N c / f^2 kept.

    Parameters
        f_number, focal_length_mm [mm], object_distance_m [m], coc_mm [mm]: of the first rig
        other_...: of the second rig; the distances are equal (or both infinite)
    Returns
        f-number of the second rig
    """
    u1, u2 = (positive_or_inf("object_distance_m", u) for u in (object_distance_m, other_object_distance_m))
    f1, f2 = (positive("focal_length_mm", f) for f in (focal_length_mm, other_focal_length_mm))
    # g1 / g2 written per metre of distance, so that infinity gives 1
    ratio = (1 - f1 / (1000 * u1)) / (1 - f2 / (1000 * u2))
    coc_ratio = positive("coc_mm", coc_mm) / positive("other_coc_mm", other_coc_mm)
    return positive("f_number", f_number) * coc_ratio * (f2 / f1) ** 2 * ratio


def f_number_for_total_depth(
    focal_length_mm: Quantity, object_distance_m: Quantity, coc_mm: Quantity, total_m: Quantity
) -> Quantity:
    """F-number that gives a total depth of field, H' = g (u + sqrt(u^2 + T^2)) / T.

    Parameters
        focal_length_mm: [mm]
        object_distance_m: finite focus distance from the lens [m]
        coc_mm: circle of confusion [mm]
        total_m: far limit minus near limit [m]; infinity gives the smallest f-number with an infinite far limit
    Returns
        f-number
    """
    f, u, g = _finite_focus(focal_length_mm, object_distance_m)
    t = positive_or_inf("total_m", total_m)
    hyperfocal = g * (u / t + np.hypot(u / t, 1))
    wanted: Quantity = f**2 / (positive("coc_mm", coc_mm) * hyperfocal)
    return wanted


def f_number_for_endless_depth(
    focal_length_mm: Quantity, object_distance_m: Quantity, coc_mm: Quantity, front_m: Quantity
) -> Quantity:
    """Smallest f-number with an infinite far limit and at least a depth in front of the focus.

    Parameters
        focal_length_mm: [mm]
        object_distance_m: finite focus distance from the lens [m]
        coc_mm: circle of confusion [mm]
        front_m: depth in front of the focus [m]
    Returns
        f-number; infinite where the depth in front is not less than the distance, as no aperture gives that
    """
    f, u, g = _finite_focus(focal_length_mm, object_distance_m)
    front = positive("front_m", front_m)
    least = f**2 / (positive("coc_mm", coc_mm) * g)
    with np.errstate(divide="ignore"):
        in_front = np.where(np.asarray(front) < u, least / np.asarray(u / front - 1), np.inf)
    wanted: Quantity = np.maximum(least, in_front)[()]
    return wanted


def _finite_focus(focal_length_mm: Quantity, object_distance_m: Quantity) -> tuple[Quantity, Quantity, Quantity]:
    """Focal length [mm], finite object distance [m] and g = u - f [mm]."""
    f = positive("focal_length_mm", focal_length_mm)
    u = positive("object_distance_m", object_distance_m)
    refuse_unless(1000 * u > f, "object_distance_m", "beyond the focal length", object_distance_m)
    return f, u, 1000 * u - f
