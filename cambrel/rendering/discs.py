"""Convolution with a true disc: area-covered kernels, large ones at a reduced size."""

from __future__ import annotations

from functools import lru_cache
from math import ceil

import cv2
import numpy as np

from cambrel.optics.colour import Pixels

LEAST = 0.35
"""A disc below this many pixels is not seen."""
FINE = 8
MOST_FINE_SIDE = 2400
"""A large kernel is taken less finely: its edge is a small part of it."""
QUARTER = 0.25
REDUCE_FROM = 12.0
"""From this diameter on a picture is blurred at half size, from twice as much at a quarter, and so on."""
LARGEST_SHARE = 1.6
"""A disc wider than so many times the picture is drawn as that wide: all is one veil by then."""


def largest_disc(wide: float, high: float) -> float:
    """The widest disc that is drawn in a picture of a size."""
    return LARGEST_SHARE * max(wide, high)


@lru_cache(maxsize=256)
def kernel(quarters: int) -> Pixels:
    """A disc of so many quarter pixels across, each cell by the area covered; the sum is 1."""
    diameter = quarters * QUARTER
    size = 2 * ceil((diameter - 1) / 2 + 1e-9) + 1 if diameter > 1 else 3
    fine = max(1, min(FINE, MOST_FINE_SIDE // size))
    at = (np.arange(size * fine) + 0.5) / fine - size / 2
    inside = at[:, None] ** 2 + at[None, :] ** 2 <= (diameter / 2) ** 2
    cells = inside.reshape(size, fine, size, fine).sum(axis=(1, 3), dtype=np.float64)
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
    diameter = min(diameter, 2.0 * max(pixels.shape[:2]))
    quarters = round(diameter / QUARTER)
    if diameter < LEAST or quarters < 2:
        return pixels
    return np.asarray(cv2.filter2D(pixels, -1, kernel(quarters), borderType=cv2.BORDER_REPLICATE), np.float32)


def blurred(pixels: Pixels, diameter: float) -> Pixels:
    """The same, reduced before where the disc is large."""
    factor = min(reduction(diameter), max(1, min(pixels.shape[:2]) // 4))
    if factor == 1:
        return blur(pixels, diameter)
    size = (max(1, pixels.shape[1] // factor), max(1, pixels.shape[0] // factor))
    small = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA)
    soft = blur(np.asarray(small, np.float32), diameter / factor)
    return np.asarray(cv2.resize(soft, (pixels.shape[1], pixels.shape[0]), interpolation=cv2.INTER_LINEAR), np.float32)


def smear(pixels: Pixels, length: float) -> Pixels:
    """Spread channels along the rows: the streak of what moves while the shutter is open."""
    if length < LEAST:
        return pixels
    size = 2 * ceil((length - 1) / 2 + 1e-9) + 1 if length > 1 else 3
    edges = np.clip(length / 2 - np.abs(np.arange(size) - size // 2) + 0.5, 0, 1)
    row = (edges / edges.sum()).astype(np.float32)[None, :]
    return np.asarray(cv2.filter2D(pixels, -1, row, borderType=cv2.BORDER_REPLICATE), np.float32)
