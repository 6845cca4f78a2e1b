"""Depth of field and the circle of confusion. Millimetres at the camera, metres in the scene.

The exact thin-lens forms are used, not the ones that drop the focal length. Limits are where the blur disc on the sensor equals the
circle of confusion. Source: "Applied Photographic Optics", chapter on depth of field.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from cambrel.optics.formats import FULL_FRAME, Sensor
from cambrel.optics.quantities import Choices, DomainError, Quantity, positive, positive_or_inf, refuse_unless

FAR_TOLERANCE = 1e-12
"""Focus this close to the hyperfocal distance (relative) counts as being on it: the far limit is then infinite."""

PRINT_DISTANCE_MM = 250.0
"""Reading distance to which resolving powers on paper refer."""


@dataclass(frozen=True)
class DepthOfField:
    """Near and far limit from the lens and the depth between them [m]; far and total are infinite from the hyperfocal distance on."""

    near_m: Quantity
    far_m: Quantity
    total_m: Quantity


@dataclass(frozen=True)
class CircleOfConfusion:
    """One school of saying how large a blur disc may be before it is seen.

    judge: what it is judged by, as it reads after "judged by"; shows_at: where what passes it is seen
    """

    label: str
    reason: str
    diameter_mm: Callable[..., float | None]
    judge: str
    shows_at: str = "in the print"


def _print(
    sensor: Sensor, *, viewing_distance_mm: float, shown_long_side_mm: float, lines_per_mm: float = 5.0, **_: Any
) -> float:
    enlargement = shown_long_side_mm / max(sensor.width_mm, sensor.height_mm)
    return float(viewing_distance_mm / PRINT_DISTANCE_MM / (lines_per_mm * enlargement))


def _two_pixels(sensor: Sensor, **_: Any) -> float | None:
    return None if sensor.pixel_pitch_um is None else 2 * sensor.pixel_pitch_um / 1000


def _traditional(sensor: Sensor, *, full_frame: Sensor = FULL_FRAME, **_: Any) -> float:
    return 0.030 * sensor.diagonal_mm / full_frame.diagonal_mm


CIRCLE_OF_CONFUSION_SCHOOLS: Choices[CircleOfConfusion] = Choices(
    "criterion",
    {
        "diagonal_1500": CircleOfConfusion(
            "diagonal / 1500",
            "A fixed share of the frame, for a print looked at whole.",
            lambda sensor, **_: sensor.diagonal_mm / 1500,
            "1/1500 of the diagonal",
        ),
        "diagonal_1730": CircleOfConfusion(
            "diagonal / 1730",
            "A stricter fixed share of the frame, found in many lens tables.",
            lambda sensor, **_: sensor.diagonal_mm / 1730,
            "1/1730 of the diagonal",
        ),
        "traditional": CircleOfConfusion(
            "0.030 mm on full frame",
            "The figure engraved in most film-era depth scales, divided by the crop factor by diagonal.",
            _traditional,
            "0.030 mm on full frame",
        ),
        "print": CircleOfConfusion(
            "from the print",
            "What the eye resolves at the viewing distance, carried back to the sensor through the enlargement.",
            _print,
            "what the eye sees in the print",
        ),
        "two_pixels": CircleOfConfusion(
            "two pixels",
            "What shows at 100 percent on a screen, whatever the print.",
            _two_pixels,
            "two pixels",
            "at 100 percent",
        ),
    },
)


def circle_of_confusion_mm(sensor: Sensor, criterion: str = "diagonal_1500", **given: Any) -> float | None:
    """Largest blur disc on the sensor that still counts as sharp, by the school in force.

    Parameters
        sensor: the frame in use, after any output crop
        criterion: a key of CIRCLE_OF_CONFUSION_SCHOOLS
        given: for "print" viewing_distance_mm, shown_long_side_mm and lines_per_mm; for "traditional" full_frame, cropped alike
    Returns
        [mm], or None where it cannot be computed (two pixels, with the pixels unknown)
    Raises
        DomainError for an unknown school or a missing or impossible given
    References
        print: c = (L / 250 mm) / (R E), "The Manual of Photography", chapter on resolution
    """
    school = CIRCLE_OF_CONFUSION_SCHOOLS[criterion]
    for name, value in given.items():
        if not isinstance(value, Sensor):
            positive(name, value)
    try:
        return school.diameter_mm(sensor, **given)
    except TypeError as missing:
        raise DomainError("criterion", f"given with what it needs ({missing})", criterion) from None


def hyperfocal_distance_m(focal_length_mm: Any, f_number: Any, coc_mm: Any) -> Quantity:
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


def depth_of_field(focal_length_mm: Any, f_number: Any, object_distance_m: Any, coc_mm: Any) -> DepthOfField:
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


def _depth_of_one(u: Any, x: Any, share: Any) -> DepthOfField:
    """The scalar case of depth_of_field; focused at infinity the near limit is H'."""
    near = 1 / (1000 * share) if x == np.inf else u / (1 + x)
    if x >= 1 - FAR_TOLERANCE:
        return DepthOfField(near, np.inf, np.inf)
    return DepthOfField(near, u / (1 - x), 2 * u * x / (1 - x**2))


def f_number_for_limits(focal_length_mm: Any, object_distance_m: Any, coc_mm: Any, near_m: Any, far_m: Any) -> Quantity:
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
    f_number: Any,
    focal_length_mm: Any,
    object_distance_m: Any,
    coc_mm: Any,
    other_focal_length_mm: Any,
    other_object_distance_m: Any,
    other_coc_mm: Any,
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


def f_number_for_total_depth(focal_length_mm: Any, object_distance_m: Any, coc_mm: Any, total_m: Any) -> Quantity:
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


def f_number_for_endless_depth(focal_length_mm: Any, object_distance_m: Any, coc_mm: Any, front_m: Any) -> Quantity:
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


def _finite_focus(focal_length_mm: Any, object_distance_m: Any) -> tuple[Quantity, Quantity, Quantity]:
    """Focal length [mm], finite object distance [m] and g = u - f [mm]."""
    f = positive("focal_length_mm", focal_length_mm)
    u = positive("object_distance_m", object_distance_m)
    refuse_unless(1000 * u > f, "object_distance_m", "beyond the focal length", object_distance_m)
    return f, u, 1000 * u - f
