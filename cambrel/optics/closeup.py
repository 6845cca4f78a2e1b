"""Close-up work: stacks of frames, and what gives a rig the magnification that it lacks. Millimetres at the camera,
metres in the scene.

Source: "Applied Photographic Optics", close-up photography; the marching of a stack follows from the exact limits of
    depth of field.
"""

from __future__ import annotations

from math import inf

import numpy as np

from cambrel.optics.quantities import DomainError, Quantity, not_negative, positive, positive_or_inf, refuse_unless

MOST_FRAMES = 100_000


def frames_to_cover(
    focal_length_mm: float, f_number: float, coc_mm: float, near_m: float, far_m: float, overlap: float = 0.0
) -> tuple[int, tuple[float, ...]]:
    """A stack that is sharp from one distance to another: the near limit of each frame lies on the far limit of the one
    before.

    Parameters
        focal_length_mm: [mm]
        f_number: as marked
        coc_mm: circle of confusion [mm]
        near_m, far_m: from the lens [m]; far may be infinite
        overlap: share of a frame's depth that the next one takes again, from 0 to below 1
    Returns
        how many frames, and the distance to focus each at [m]; the last may be infinity
    Raises
        DomainError for a stack of more than 100,000 frames
    """
    f = float(positive("focal_length_mm", focal_length_mm)) / 1000
    reach = f * f * 1000 / float(positive("f_number", f_number) * positive("coc_mm", coc_mm))
    near, far = float(positive("near_m", near_m)), float(positive_or_inf("far_m", far_m))
    again = float(not_negative("overlap", overlap))
    refuse_unless(near > f, "near_m", "beyond the focal length", near_m)
    refuse_unless(far >= near, "far_m", "at least near_m", far_m)
    refuse_unless(again < 1, "overlap", "below 1", overlap)
    focused: list[float] = []
    at = near
    while True:
        if at >= reach:
            return len(focused) + 1, (*focused, inf)
        u = at * (reach - f) / (reach - at)
        behind = reach - (u - f)
        end = u * reach / behind if behind > 0 else inf
        focused.append(u)
        # what is left over by rounding is no frame of its own
        if end >= far * (1 - 1e-12):
            return len(focused), tuple(focused)
        if len(focused) >= MOST_FRAMES:
            raise DomainError("far_m", f"within {MOST_FRAMES:,} frames of near_m", far_m)
        at = end - again * (end - at)


def extension_tube_mm(focal_length_mm: Quantity, magnification: Quantity, wanted_magnification: Quantity) -> Quantity:
    """Length of tube that takes a lens from one magnification to another, (m - m0) f.

    Parameters
        focal_length_mm: [mm], scalar or array
        magnification: that the lens reaches by itself
        wanted_magnification: at least that
    Returns
        [mm]
    """
    more = _more(magnification, wanted_magnification)
    return more * positive("focal_length_mm", focal_length_mm)


def tube_light_stops(magnification: Quantity, wanted_magnification: Quantity) -> Quantity:
    """What such a tube costs in light, 2 log2((1 + m) / (1 + m0)) [stops].

    Parameters
        magnification: what the lens reaches by itself, scalar or array
        wanted_magnification: at least that
    Returns
        [stops], 0 or more
    Raises
        DomainError where less is wanted than the lens reaches
    """
    _more(magnification, wanted_magnification)
    cost: Quantity = 2 * np.log2((1 + np.asarray(wanted_magnification)) / (1 + np.asarray(magnification)))
    return cost


def close_up_lens_dioptres(
    focal_length_mm: Quantity, magnification: Quantity, wanted_magnification: Quantity
) -> Quantity:
    """Power of the close-up lens that takes a lens at its closest from one magnification to another, (m - m0) / (f (1 +
    m0)).

    Parameters
        focal_length_mm: [mm], scalar or array
        magnification: m0, that the lens reaches by itself
        wanted_magnification: m, at least that
    Returns
        [dioptres]; it costs no light beyond that of the lens as it was focused, N (1 + m0)
    """
    more = _more(magnification, wanted_magnification)
    focal_m = positive("focal_length_mm", focal_length_mm) / 1000
    return more / (focal_m * (1 + np.asarray(magnification)))


def _more(magnification: Quantity, wanted: Quantity) -> Quantity:
    has, wants = not_negative("magnification", magnification), not_negative("wanted_magnification", wanted)
    refuse_unless(np.asarray(wants) >= has, "wanted_magnification", "at least magnification", wanted)
    return wants - has


def working_distance_m(
    object_distance_m: Quantity, image_distance_mm: Quantity, register_mm: Quantity, lens_length_mm: Quantity
) -> Quantity:
    """From the front of the lens to the subject, u + v - register - the lens's length as extended.

    Parameters
        object_distance_m: of the subject from the lens [m]
        image_distance_mm: [mm]
        register_mm: from the mount to the sensor [mm]
        lens_length_mm: from the mount to the front of the lens, as far as it is extended [mm]
    Returns
        [m]; 0 or less where the subject would stand inside the lens
    """
    mark = positive("object_distance_m", object_distance_m) + positive("image_distance_mm", image_distance_mm) / 1000
    return mark - (positive("register_mm", register_mm) + positive("lens_length_mm", lens_length_mm)) / 1000


def flash_stops(f_number: Quantity, magnification: Quantity, iso: Quantity) -> Quantity:
    """How much flash a rig asks for, log2 of N^2 (1 + m)^2 / ISO: between rigs the difference counts, and the shutter
    does not matter.

    Parameters
        f_number: as marked, scalar or array
        magnification: of the subject
        iso: of the camera
    Returns
        [stops]
    """
    effective = positive("f_number", f_number) * (1 + np.asarray(not_negative("magnification", magnification)))
    asked: Quantity = 2 * np.log2(effective) - np.log2(positive("iso", iso))
    return asked
