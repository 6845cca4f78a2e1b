"""Geometry of a thin lens in air: image distance, magnification, field and angle of view. Millimetres at the camera,
metres in the scene.

Assumptions throughout: thin lens, pupil magnification 1, unit focusing, rectilinear projection.
Source throughout: "Applied Photographic Optics", chapters on image formation and field of view.
"""

from __future__ import annotations

import numpy as np

from cambrel.optics.quantities import Quantity, not_negative, positive, positive_or_inf, refuse_unless

INF = float("inf")


def _focused(focal_length_mm: Quantity, object_distance_m: Quantity) -> tuple[Quantity, Quantity]:
    """Focal length [mm] and object distance [mm], refused where there is no image (u <= f)."""
    f = positive("focal_length_mm", focal_length_mm)
    u = positive_or_inf("object_distance_m", object_distance_m) * 1000
    refuse_unless(u > f, "object_distance_m", "beyond the focal length", object_distance_m)
    return f, u


def magnification(focal_length_mm: Quantity, object_distance_m: Quantity) -> Quantity:
    """Size of the image over size of the object, m = f / (u - f).

    Parameters
        focal_length_mm: [mm], scalar or array
        object_distance_m: from the lens [m], scalar or array; infinity gives 0
    Returns
        ratio, of the broadcast shape
    Raises
        DomainError where the object is not beyond the focal length
    """
    f, u = _focused(focal_length_mm, object_distance_m)
    return f / (u - f)


def image_distance_mm(focal_length_mm: Quantity, object_distance_m: Quantity = INF) -> Quantity:
    """Distance from lens to image, v = f (1 + m), from the lens equation 1/f = 1/u + 1/v.

    Parameters
        focal_length_mm: [mm], scalar or array
        object_distance_m: from the lens [m], scalar or array
    Returns
        [mm], of the broadcast shape; f itself at infinity
    Raises
        DomainError where the object is not beyond the focal length
    """
    f, u = _focused(focal_length_mm, object_distance_m)
    return f / (1 - f / u)  # lens equation, free of inf/inf


def object_distance_for_magnification_m(focal_length_mm: Quantity, magnification: Quantity) -> Quantity:
    """Where an object must stand to be recorded at a magnification, u = f (1 + 1/m).

    Parameters
        focal_length_mm: [mm], scalar or array
        magnification: ratio above 0, scalar or array
    Returns
        distance from the lens [m]
    """
    f = positive("focal_length_mm", focal_length_mm)
    m = positive("magnification", magnification)
    return f * (1 + 1 / m) / 1000


def near_over_far(object_distance_m: Quantity, deep_m: Quantity) -> Quantity:
    """How many times as large what is near is drawn as an equal thing farther back, (u + t) / u: the distance alone
    makes perspective.

    Parameters
        object_distance_m: to what is near, from the lens [m]
        deep_m: how much farther the other is [m]
    Returns
        ratio of the two magnifications; 1 where there is no depth between them
    References
        "The Manual of Photography", chapter on perspective
    """
    return 1 + not_negative("deep_m", deep_m) / positive("object_distance_m", object_distance_m)


def angle_of_view_deg(dimension_mm: Quantity, focal_length_mm: Quantity, object_distance_m: Quantity = INF) -> Quantity:
    """Angle that a side (or the diagonal) of the frame takes in, 2 atan(d / 2v), at the set focus.

    Parameters
        dimension_mm: width, height or diagonal of the frame [mm], scalar or array
        focal_length_mm: [mm], scalar or array
        object_distance_m: focus distance from the lens [m]; infinity by default
    Returns
        [degrees], above 0 and below 180
    Raises
        DomainError where the object is not beyond the focal length

    >>> round(angle_of_view_deg(36, 50), 1)
    39.6
    """
    d = positive("dimension_mm", dimension_mm)
    v = image_distance_mm(focal_length_mm, object_distance_m)
    angle: Quantity = np.degrees(2 * np.arctan(d / (2 * v)))
    return angle


def field_size_m(
    dimension_mm: Quantity,
    focal_length_mm: Quantity,
    object_distance_m: Quantity,
    at_distance_m: Quantity | None = None,
) -> Quantity:
    """Width (height, diagonal) of what the frame takes in at a distance, x d / v.

    Parameters
        dimension_mm: side of the frame [mm]
        focal_length_mm: [mm]
        object_distance_m: focus distance from the lens [m]
        at_distance_m: where the field is measured [m]; by default at the focus
    Returns
        [m], infinite at infinity
    Raises
        DomainError where the object is not beyond the focal length
    """
    d = positive("dimension_mm", dimension_mm)
    v = image_distance_mm(focal_length_mm, object_distance_m)
    x = positive_or_inf("at_distance_m", object_distance_m if at_distance_m is None else at_distance_m)
    return x * d / v


def focal_length_for_angle_mm(
    angle_deg: Quantity, dimension_mm: Quantity, object_distance_m: Quantity = INF
) -> Quantity:
    """Focal length that gives an angle of view at the set focus; the inverse of angle_of_view_deg.

    Parameters
        angle_deg: above 0 and below 180 [degrees]
        dimension_mm: side of the frame [mm]
        object_distance_m: focus distance from the lens [m]
    Returns
        [mm]
    Raises
        DomainError for an angle outside its range
    """
    angle = positive("angle_deg", angle_deg)
    refuse_unless(angle < 180, "angle_deg", "below 180", angle_deg)
    d = positive("dimension_mm", dimension_mm)
    v = d / (2 * np.tan(np.radians(angle) / 2))
    return focal_length_for_image_distance_mm(v, object_distance_m)


def focal_length_for_image_distance_mm(image_distance_mm: Quantity, object_distance_m: Quantity = INF) -> Quantity:
    """Focal length that puts the image at a distance, from the lens equation 1/f = 1/u + 1/v.

    Parameters
        image_distance_mm: [mm]
        object_distance_m: from the lens [m]
    Returns
        [mm]
    """
    v = positive("image_distance_mm", image_distance_mm)
    u = positive_or_inf("object_distance_m", object_distance_m) * 1000
    return v / (1 + v / u)  # lens equation


def object_distance_from_focus_distance_m(focus_distance_m: Quantity, focal_length_mm: Quantity) -> Quantity:
    """Distance from the lens when the distance was measured from the sensor mark, s = u + v.

    Parameters
        focus_distance_m: from the sensor mark [m]
        focal_length_mm: [mm]
    Returns
        [m], the longer of the two solutions
    Raises
        DomainError below four focal lengths, where a thin lens has no solution
    """
    s = positive_or_inf("focus_distance_m", focus_distance_m)
    f = positive("focal_length_mm", focal_length_mm) / 1000
    refuse_unless(s >= 4 * f, "focus_distance_m", "at least four focal lengths", focus_distance_m)
    u: Quantity = s * (1 + np.sqrt(1 - 4 * f / s)) / 2
    return u


def focus_distance_from_object_distance_m(object_distance_m: Quantity, focal_length_mm: Quantity) -> Quantity:
    """Distance from the sensor mark, s = u + v, when the distance was measured from the lens.

    Parameters
        object_distance_m: from the lens [m]
        focal_length_mm: [mm]
    Returns
        [m]
    Raises
        DomainError where the object is not beyond the focal length
    """
    u = positive_or_inf("object_distance_m", object_distance_m)
    return u + image_distance_mm(focal_length_mm, u) / 1000


def fill(
    object_height_m: Quantity, dimension_mm: Quantity, image_distance_mm: Quantity, subject_distance_m: Quantity
) -> Quantity:
    """Share of a side of the frame that an object fills, h v / (x d); above 1 when it does not fit.

    Parameters
        object_height_m: [m]
        dimension_mm: side of the frame [mm]
        image_distance_mm: distance from lens to sensor [mm]
        subject_distance_m: [m]
    Returns
        ratio
    """
    seen = not_negative("object_height_m", object_height_m) / positive_or_inf("subject_distance_m", subject_distance_m)
    return seen * positive("image_distance_mm", image_distance_mm) / positive("dimension_mm", dimension_mm)


def walking_distance_m(focal_length_mm: float, image_scale_mm: float, focus_offset_m: float = 0.0) -> float:
    """Subject distance at which the frame holds the subject at a scale, v / d = q, when the focus stays at an offset
    from the subject.

    With u = d + offset the lens equation makes it q d^2 + (q (offset - f) - f) d - f offset = 0. Its discriminant is a
    sum of squares, so there always is a solution; the larger root is the one with an image.

    Parameters
        focal_length_mm: [mm]
        image_scale_mm: q, image distance over subject distance [mm/m]: mm on the sensor for each metre of subject
        focus_offset_m: focus behind (or, negative, in front of) the subject [m]; infinite when focused at infinity
    Returns
        [m] from the lens
    """
    f = float(positive("focal_length_mm", focal_length_mm)) / 1000
    q = float(positive("image_scale_mm", image_scale_mm)) / 1000
    if focus_offset_m == INF:
        return f / q
    half = (q * (f - focus_offset_m) + f) / (2 * q)
    return half + float(np.sqrt(half**2 + f * focus_offset_m / q))


def closest_object_distance_m(
    focal_length_mm: Quantity, max_magnification: Quantity, close_focus_m: Quantity, is_zoom: Quantity
) -> Quantity:
    """How near a lens focuses, from the lens.

    By the largest magnification where that is known: u = f (1 + 1/m). A zoom reaches it at one end only, so there the
        marked distance
    holds too. Otherwise by the marked distance s from the sensor mark; an internal-focus lens with s < 4 f has no
    thin-lens solution and without a magnification its limit is unknown.

    Parameters
        focal_length_mm: of the lens itself
        max_magnification, close_focus_m: as they are stated; NaN where one is not
        is_zoom: whether the focal length can be changed
    Returns
        object distance [m]; NaN where it cannot be known
    Source
        "Optics", the Gaussian lens equation
    """
    f, s = np.asarray(focal_length_mm, dtype=float) / 1000, np.asarray(close_focus_m, dtype=float)
    with np.errstate(invalid="ignore", divide="ignore"):
        by_magnification = f * (1 + 1 / np.asarray(max_magnification, dtype=float))
        by_mark = np.where(s >= 4 * f, s * (1 + np.sqrt(np.maximum(1 - 4 * f / s, 0.0))) / 2, np.nan)
    both = np.where(is_zoom, np.fmax(by_magnification, by_mark), by_magnification)
    return np.where(np.isnan(by_magnification), by_mark, both)
