"""Between sRGB and linear light, and from linear light to the eight bits of a picture."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Pixels = NDArray[np.float32]
SHOULDER = 0.75
"""Above this the tone curve bends, so that bright lamps keep their colour and never clip hard."""
STEPS = 16384


def to_linear(srgb: NDArray[np.float64] | float) -> NDArray[np.float64]:
    """sRGB from 0 to 1 as linear light (IEC 61966-2-1).

    Parameters
        srgb: as stored, from 0 to 1, scalar or array
    Returns
        from 0 to 1, an array of the same shape
    References
        IEC 61966-2-1
    """
    value = np.asarray(srgb, dtype=float)
    return np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)


def to_srgb(linear: NDArray[np.float64] | float) -> NDArray[np.float64]:
    """Linear light from 0 to 1 as sRGB; the inverse of to_linear.

    Parameters
        linear: from 0 to 1, scalar or array
    Returns
        from 0 to 1, an array of the same shape
    References
        IEC 61966-2-1
    """
    value = np.asarray(linear, dtype=float)
    return np.where(value <= 0.0031308, 12.92 * value, 1.055 * np.maximum(value, 1e-12) ** (1 / 2.4) - 0.055)


BYTE_TO_LINEAR: Pixels = to_linear(np.arange(256) / 255).astype(np.float32)


def hex_to_linear(colour: str) -> Pixels:
    """#rrggbb as linear light.

    Parameters
        colour: # and six hexadecimal digits
    Returns
        red, green and blue from 0 to 1
    """
    return BYTE_TO_LINEAR[[int(colour[i : i + 2], 16) for i in (1, 3, 5)]]


def shoulder(linear: Pixels) -> Pixels:
    """The soft end of the tone curve: straight up to SHOULDER, then towards 1 without reaching it.

    Parameters
        linear: light from 0 on, an array
    Returns
        below 1, of the same shape
    """
    room = 1 - SHOULDER
    over = np.maximum(linear - SHOULDER, 0)
    bent: Pixels = np.minimum(linear, SHOULDER) + room * over / (over + room)
    return bent


def to_bytes(linear: Pixels, dither: Pixels | None = None) -> NDArray[np.uint8]:
    """Linear light as sRGB bytes, with half a level of dither so that dusk skies do not band.

    Parameters
        linear: from 0 to 1, height × width × 3
        dither: height × width, from -0.5 to 0.5 levels; none where there is no gradient to band
    Returns
        from 0 to 255, height × width × 3
    """
    # the square root spreads the table's steps where the eye is keenest
    level = _ROOT_TO_LEVEL.take((np.sqrt(linear) * np.float32(STEPS)).astype(np.int32), mode="clip")
    if dither is not None:
        level = level + dither[..., None]
    level += np.float32(0.5)
    return np.clip(level, 0, 255, out=level).astype(np.uint8)


_ROOT_TO_LEVEL: Pixels = (255 * to_srgb(np.minimum((np.arange(STEPS + 1) / STEPS) ** 2, 1))).astype(np.float32)
