"""Reach: how many pixels stand on a distant subject, and what a crop keeps. It is pixel pitch and lens, never crop
factor.

Source: "Applied Photographic Optics" for magnification and angle; a crop is exactly a smaller format.
"""

from __future__ import annotations

import numpy as np

from cambrel.optics.quantities import Quantity, positive, refuse_unless

ARC_SECONDS_PER_RADIAN = 3600 * 180 / np.pi


def pixels_on_subject(
    subject_height_m: Quantity, image_distance_mm: Quantity, subject_distance_m: Quantity, pixel_pitch_um: Quantity
) -> Quantity:
    """Pixels from the foot to the head of a subject, height x v / d / pitch, wherever the lens is focused.

    Parameters
        subject_height_m: [m], scalar or array
        image_distance_mm: of the focus [mm]
        subject_distance_m: from the lens [m]; at infinity nothing is left
        pixel_pitch_um: of the sampling [um]
    Returns
        pixels
    """
    height_um = positive("subject_height_m", subject_height_m) * 1e6
    scale = positive("image_distance_mm", image_distance_mm) / (
        1000 * positive("subject_distance_m", subject_distance_m)
    )
    return height_um * scale / positive("pixel_pitch_um", pixel_pitch_um)


def arc_seconds_per_pixel(focal_length_mm: Quantity, pixel_pitch_um: Quantity) -> Quantity:
    """Angle that one pixel in the middle of the frame sees, focused far away.

    Parameters
        focal_length_mm: [mm]
        pixel_pitch_um: [um]
    Returns
        [arc seconds]
    """
    ratio = positive("pixel_pitch_um", pixel_pitch_um) / 1000 / positive("focal_length_mm", focal_length_mm)
    angle: Quantity = np.arctan(ratio) * ARC_SECONDS_PER_RADIAN
    return angle


def megapixels_left(
    megapixels: Quantity,
    field_width_m: Quantity,
    field_height_m: Quantity,
    to_field_width_m: Quantity,
    to_field_height_m: Quantity,
) -> Quantity:
    """What is left of a picture cropped to what another rig sees at the subject, on both sides; at most all of it.

    Parameters
        megapixels: of the picture, scalar or array
        field_width_m, field_height_m: what it shows at the subject, w d/v, as it stands and is focused [m]
        to_field_width_m, to_field_height_m: what is wanted of it [m]
    Returns
        megapixels
    """
    left = positive("megapixels", megapixels)
    for wanted, has in (
        (positive("to_field_width_m", to_field_width_m), positive("field_width_m", field_width_m)),
        (positive("to_field_height_m", to_field_height_m), positive("field_height_m", field_height_m)),
    ):
        left = left * np.minimum(1.0, wanted / has)
    return left


def crop_equivalent(
    focal_length_mm: Quantity, f_number: Quantity, side_kept: Quantity
) -> tuple[Quantity, Quantity, Quantity]:
    """What a crop does to a picture, in terms of the whole frame: exactly what a format as small as the crop would.

    Parameters
        focal_length_mm: [mm]
        f_number: as marked
        side_kept: share of each side that is kept, above 0 and at most 1
    Returns
        equivalent focal length [mm], equivalent f-number, and the change of the light in the whole picture [stops],
        below 0
    """
    kept = positive("side_kept", side_kept)
    refuse_unless(kept <= 1, "side_kept", "at most 1", side_kept)
    lost: Quantity = 2 * np.log2(kept)
    return positive("focal_length_mm", focal_length_mm) / kept, positive("f_number", f_number) / kept, lost


def sampling_pitch_um(pixel_pitch_um: Quantity, pixels_ratio: Quantity) -> Quantity:
    """Pitch of the samples in a high-resolution mode that shifts the sensor; the size of the pixel itself stays.

    Parameters
        pixel_pitch_um: [um]
        pixels_ratio: pixels of the mode over those of the sensor, at least 1
    Returns
        [um]
    """
    ratio = positive("pixels_ratio", pixels_ratio)
    refuse_unless(ratio >= 1, "pixels_ratio", "at least 1", pixels_ratio)
    pitch: Quantity = positive("pixel_pitch_um", pixel_pitch_um) / np.sqrt(ratio)
    return pitch
