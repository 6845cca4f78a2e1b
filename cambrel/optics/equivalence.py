"""Equivalence between formats: focal length, f-number and ISO that take the same picture. Crop factors are against one
shared reference.

At infinity the simple rules below are exact. Close up `same_picture_focal_length_mm` is exact and the simple rule is
off by `simple_rule_error`. Source: "Applied Photographic Optics"; the rule that the entrance pupil stays the same.
"""

from __future__ import annotations

from cambrel.optics.geometry import focal_length_for_image_distance_mm, image_distance_mm
from cambrel.optics.quantities import Quantity, positive, positive_or_inf, refuse_unless


def equivalent_focal_length_mm(focal_length_mm: Quantity, crop_from: Quantity, crop_to: Quantity = 1.0) -> Quantity:
    """Focal length with the same angle of view at infinity on another format, f2 = f1 C1 / C2.

    Parameters
        focal_length_mm: [mm], scalar or array
        crop_from, crop_to: crop factors of the two formats by one measure
    Returns
        [mm]

    >>> equivalent_focal_length_mm(22, 2)
    44.0
    """
    f = positive("focal_length_mm", focal_length_mm)
    return f * positive("crop_from", crop_from) / positive("crop_to", crop_to)


def equivalent_f_number(f_number: Quantity, crop_from: Quantity, crop_to: Quantity = 1.0) -> Quantity:
    """F-number with the same entrance pupil, N2 = N1 C1 / C2: same depth, blur, diffraction (all relative to the frame)
    and total light.

    The exposure is not converted: for the same brightness the f-number stays as it is.

    Parameters
        f_number: scalar or array
        crop_from, crop_to: crop factors of the two formats by one measure
    Returns
        f-number

    >>> equivalent_f_number(1.8, 2)
    3.6
    """
    n = positive("f_number", f_number)
    return n * positive("crop_from", crop_from) / positive("crop_to", crop_to)


def equivalent_iso(iso: Quantity, crop_from: Quantity, crop_to: Quantity = 1.0) -> Quantity:
    """ISO that keeps the brightness at the same shutter time when the f-number is converted, ISO2 = ISO1 (C1 / C2)^2.

    Holds at a distance, where the magnification is small; close up use `iso_for_same_brightness`.

    Parameters
        iso: scalar or array
        crop_from, crop_to: crop factors of the two formats by one measure
    Returns
        ISO
    """
    k = positive("crop_from", crop_from) / positive("crop_to", crop_to)
    return positive("iso", iso) * k**2


def iso_for_same_brightness(iso: Quantity, effective_from: Quantity, effective_to: Quantity) -> Quantity:
    """ISO that keeps the brightness at the same shutter time between two effective f-numbers N (1 + m).

    Parameters
        iso: scalar or array
        effective_from, effective_to: effective f-numbers
    Returns
        ISO
    """
    ratio = positive("effective_to", effective_to) / positive("effective_from", effective_from)
    return positive("iso", iso) * ratio**2


def same_picture_focal_length_mm(focal_length_mm: Quantity, object_distance_m: Quantity, k: Quantity) -> Quantity:
    """Focal length that takes the same picture from the same spot, exactly: v2 = k v1, f2 = 1 / (1/u + 1/v2).

    Parameters
        focal_length_mm: of the first rig [mm]
        object_distance_m: focus distance from the lens, shared by both [m]
        k: crop factor of the first over that of the second, C1 / C2
    Returns
        [mm]
    Raises
        DomainError where the object is not beyond the focal length
    """
    v2 = positive("k", k) * image_distance_mm(focal_length_mm, object_distance_m)
    return focal_length_for_image_distance_mm(v2, object_distance_m)


def same_picture_f_number(f_number: Quantity, focal_length_mm: Quantity, other_focal_length_mm: Quantity) -> Quantity:
    """F-number that keeps the entrance pupil at another focal length, N2 = f2 / (f1 / N1).

    Parameters
        f_number, focal_length_mm: of the first rig [mm]
        other_focal_length_mm: of the second rig [mm]
    Returns
        f-number
    """
    n, f = positive("f_number", f_number), positive("focal_length_mm", focal_length_mm)
    return n * positive("other_focal_length_mm", other_focal_length_mm) / f


def simple_rule_error(focal_length_mm: Quantity, object_distance_m: Quantity, k: Quantity) -> Quantity:
    """By how much the simple rule f2 = k f1 overstates the focal length for the same picture, as a ratio; 0 at
    infinity.

    With f2 = 1 / (1/u + 1/(k v1)) it is k f1 / f2 - 1 = (k - 1) f1 / u, written so that no digits are lost.

    Parameters
        focal_length_mm: of the first rig [mm]
        object_distance_m: focus distance from the lens [m]
        k: C1 / C2
    Returns
        k f1 / f2 - 1
    Raises
        DomainError where the object is not beyond the focal length
    """
    f = positive("focal_length_mm", focal_length_mm)
    u = positive_or_inf("object_distance_m", object_distance_m) * 1000
    refuse_unless(u > f, "object_distance_m", "beyond the focal length", object_distance_m)
    return (positive("k", k) - 1) * f / u
