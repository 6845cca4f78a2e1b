"""Blur discs: how large a point out of focus is drawn on the sensor. Millimetres at the camera, metres in the scene.

Source: "Applied Photographic Optics", chapter on depth of field; b = A m |x - u| / x with the entrance pupil A = f / N.
"""

from __future__ import annotations

import numpy as np

from cambrel.optics.quantities import Quantity, not_negative, positive, positive_or_inf, refuse_unless


def entrance_pupil_mm(focal_length_mm: Quantity, f_number: Quantity) -> Quantity:
    """Diameter of the entrance pupil, A = f / N.

    Parameters
        focal_length_mm: [mm], scalar or array
        f_number: scalar or array
    Returns
        [mm]
    """
    return positive("focal_length_mm", focal_length_mm) / positive("f_number", f_number)


def blur_disc_mm(
    focal_length_mm: Quantity, f_number: Quantity, object_distance_m: Quantity, point_distance_m: Quantity
) -> Quantity:
    """Diameter on the sensor of a point out of focus, b = A m |x - u| / x.

    Written as A |1/u - 1/x| / (1/f - 1/u), so that infinity is exact on either side.

    Parameters
        focal_length_mm: [mm], scalar or array
        f_number: scalar or array
        object_distance_m: focus distance from the lens [m]; infinity is allowed
        point_distance_m: distance of the point from the lens [m]; infinity is allowed
    Returns
        [mm]; 0 for a point in the plane of focus
    Raises
        DomainError where the focus is not beyond the focal length
    """
    f = positive("focal_length_mm", focal_length_mm)
    n = positive("f_number", f_number)
    u = positive_or_inf("object_distance_m", object_distance_m)
    x = positive_or_inf("point_distance_m", point_distance_m)
    refuse_unless(1000 * u > f, "object_distance_m", "beyond the focal length", object_distance_m)
    # in reciprocal metres no infinity meets another
    defocus: Quantity = np.abs(1 / u - 1 / x)
    return f / n * defocus / (1000 / f - 1 / u)


def f_number_for_blur(
    focal_length_mm: Quantity, object_distance_m: Quantity, point_distance_m: Quantity, disc_mm: Quantity
) -> Quantity:
    """F-number at which a point out of focus is drawn as a disc of a size, N = f |1/u - 1/x| / ((1/f - 1/u) b); the
    inverse of blur_disc_mm.

    Parameters
        focal_length_mm: [mm], scalar or array
        object_distance_m: focus distance from the lens [m]; infinity is allowed
        point_distance_m: distance of the point from the lens [m]; infinity is allowed
        disc_mm: on the sensor [mm]
    Returns
        f-number; 0 for a point in the plane of focus
    Raises
        DomainError where the focus is not beyond the focal length
    """
    return blur_disc_mm(focal_length_mm, 1.0, object_distance_m, point_distance_m) / positive("disc_mm", disc_mm)


def dissolving_mm(
    focal_length_mm: Quantity, f_number: Quantity, object_distance_m: Quantity, point_distance_m: Quantity
) -> Quantity:
    """Size at a distance below which detail is lost in its blur, A |x - u| / u.

    It is the blur disc carried back to where the point is, so no format and no magnification is in it: the pupil and
        the two distances alone.

    Parameters
        focal_length_mm: [mm], scalar or array
        f_number: scalar or array
        object_distance_m: focus distance from the lens [m]; infinity is allowed and gives the pupil itself
        point_distance_m: distance of the detail from the lens [m]; infinity is allowed
    Returns
        [mm] on the thing itself; 0 in the plane of focus
    References
        "Applied Photographic Optics", chapter on depth of field (object-space blur)
    """
    u = positive_or_inf("object_distance_m", object_distance_m)
    x = positive_or_inf("point_distance_m", point_distance_m)
    pupil = entrance_pupil_mm(focal_length_mm, f_number)
    at_infinity = np.isinf(u)
    with np.errstate(invalid="ignore"):
        # focused at infinity the cone is as wide as the pupil all along
        ratio = np.where(at_infinity, np.where(np.isinf(x), 0.0, 1.0), np.abs(x / np.where(at_infinity, 1.0, u) - 1))
    wanted: Quantity = (pupil * ratio)[()]
    return wanted


def movement_mm(
    speed_m_per_s: Quantity, shutter_s: Quantity, image_distance_mm: Quantity, subject_distance_m: Quantity
) -> Quantity:
    """How far the image of something that crosses the frame moves on the sensor while the shutter is open, s t v / d.

    Parameters
        speed_m_per_s: across the line of sight [m/s]
        shutter_s: [s]
        image_distance_mm: lens to sensor [mm]
        subject_distance_m: [m]
    Returns
        [mm]
    """
    s = not_negative("speed_m_per_s", speed_m_per_s)
    v = positive("image_distance_mm", image_distance_mm)
    return s * positive("shutter_s", shutter_s) * v / positive_or_inf("subject_distance_m", subject_distance_m)
