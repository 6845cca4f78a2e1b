"""Convolution with a true disc: area-covered kernels, large ones at a reduced size."""

from __future__ import annotations

from functools import lru_cache
from math import ceil

import cv2
import numpy as np

from cambrel.rendering.colour import Pixels

LEAST = 0.35
"""A disc below this many pixels is not seen."""
FINE = 8
QUARTER = 0.25
REDUCE_FROM = 12.0
"""From this diameter on a picture is blurred at half size, from twice as much at a quarter, and so on."""


@lru_cache(maxsize=512)
def kernel(quarters: int) -> Pixels:
    """A disc of so many quarter pixels across, each cell by the area covered; the sum is 1."""
    diameter = quarters * QUARTER
    size = 2 * ceil((diameter - 1) / 2 + 1e-9) + 1 if diameter > 1 else 3
    at = (np.arange(size * FINE) + 0.5) / FINE - size / 2
    inside = (at[:, None] ** 2 + at[None, :] ** 2 <= (diameter / 2) ** 2).astype(np.float64)
    cells = inside.reshape(size, FINE, size, FINE).sum(axis=(1, 3))
    if cells.sum() == 0:
        cells[size // 2, size // 2] = 1
    made: Pixels = (cells / cells.sum()).astype(np.float32)
    made.flags.writeable = False
    return made


def margin(diameter: float) -> int:
    """How far beyond the frame a layer must be drawn so that its edge does not darken."""
    return ceil(diameter / 2) + 3 if diameter >= LEAST else 1


def reduction(diameter: float) -> int:
    """By how much a layer may be reduced before it is blurred: 1, 2, 4, 8 ..."""
    factor = 1
    while diameter / factor >= REDUCE_FROM and factor < 32:
        factor *= 2
    return factor


def blur(pixels: Pixels, diameter: float) -> Pixels:
    """Convolve premultiplied channels with a disc of a diameter in pixels."""
    quarters = round(diameter / QUARTER)
    if diameter < LEAST or quarters < 2:
        return pixels
    return np.asarray(cv2.filter2D(pixels, -1, kernel(quarters), borderType=cv2.BORDER_REPLICATE), np.float32)


def smear(pixels: Pixels, length: float) -> Pixels:
    """Spread channels along the rows: the streak of what moves while the shutter is open."""
    if length < LEAST:
        return pixels
    size = 2 * ceil((length - 1) / 2 + 1e-9) + 1 if length > 1 else 3
    edges = np.clip(length / 2 - np.abs(np.arange(size) - size // 2) + 0.5, 0, 1)
    row = (edges / edges.sum()).astype(np.float32)[None, :]
    return np.asarray(cv2.filter2D(pixels, -1, row, borderType=cv2.BORDER_REPLICATE), np.float32)
