"""The coded bytes of a picture as linear light, white = 1, and what could not be measured on them."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from cambrel.optics.colour import BYTE_TO_LINEAR

Codes = NDArray[np.uint8]
Light = NDArray[np.float64]
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
"""The shares of red, green and blue (IEC 61966-2-1)."""
BURNT, BLACK = 250, 2
"""Codes from which on, and up to which, a channel is taken as clipped."""


class MeasureError(ValueError):
    """What cannot be measured here; the message says why and what would help."""


def luminance(codes: Codes) -> Light:
    """Linear luminance of coded bytes.

    Parameters
        codes: height x width x 3, sRGB; the tone curve of Display P3 is the same, those of others are near to it
    Returns
        height x width, white is 1
    """
    return np.asarray(BYTE_TO_LINEAR[codes] @ LUMINANCE, float)


def clipped(codes: Codes) -> bool:
    """Whether a patch holds burnt pixels in any channel, more than one in a thousand."""
    return bool(np.mean(np.any(codes >= BURNT, axis=-1)) > 0.001)


def surface(values: Light, degree: int) -> Light:
    """The smooth surface of a degree in x and y that is nearest to a patch (least squares)."""
    y, x = np.mgrid[-1 : 1 : values.shape[0] * 1j, -1 : 1 : values.shape[1] * 1j]
    terms = np.stack([x**i * y**j for i in range(degree + 1) for j in range(degree + 1 - i)], axis=-1)
    flat: Any = terms.reshape(-1, terms.shape[-1])
    fitted = np.linalg.lstsq(flat, values.ravel(), rcond=None)[0]
    return np.asarray((flat @ fitted).reshape(values.shape))
