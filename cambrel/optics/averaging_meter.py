"""What an averaging meter reads of a frame with sky in its upper part. Lengths in mm, light in shares of white."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from cambrel.optics.quantities import DomainError, finite, positive

MID_GREY = 0.18
"""What all that is not sky is taken to reflect on average."""
ROWS = 4096


def averaged_light(
    height_mm: float, image_distance_mm: float, horizon_mm: float, sky: Sequence[tuple[float, float]]
) -> float:
    """Mean light over a frame of a level camera: sky above the horizon by its elevation, mid-grey below.

    Parameters
        height_mm: of the frame [mm]
        image_distance_mm: from the lens to the sensor [mm]
        horizon_mm: from the frame's middle, down [mm]
        sky: light of the sky, white = 1, at elevations in degrees, from low to high; linear between
    Returns
        white = 1
    Raises
        DomainError for a frame without height, and for a sky without an elevation
    Assumptions
        the sky depends on its elevation above the middle of the frame alone
    """
    high, v = float(positive("height_mm", height_mm)), float(positive("image_distance_mm", image_distance_mm))
    if not sky:
        raise DomainError("sky", "at least one elevation with its light", sky)
    rows = (np.arange(ROWS) + 0.5) / ROWS * high - high / 2
    up = float(finite("horizon_mm", horizon_mm)) - rows
    at, light = zip(*sky, strict=True)
    elevation = np.degrees(np.arctan(up / v))
    return float(np.where(up > 0, np.interp(elevation, at, light), MID_GREY).mean())
