"""What softens a whole picture at once: a hand's shake along its path, the lens's own faults, and the pixels that
record it.
"""

from __future__ import annotations

from functools import lru_cache
from math import ceil, log, pi, sqrt

import cv2
import numpy as np

from cambrel.optics.colour import Pixels
from cambrel.rendering.discs import LEAST
from cambrel.rendering.take import Take

SPREAD = sqrt(log(2) / 2) / pi
"""A Gaussian of so much over the frequency of half contrast has exactly the lens's part in the blur budget."""
FINE_PX = 48.0
"""A longer path is followed at a reduced size."""
FINE_SIGMA_PX = 16.0
"""A wider Gaussian is laid on at a reduced size."""
STEPS = 512


def soften(picture: Pixels, view: Take) -> Pixels:
    """The picture as hand, lens and pixels leave it."""
    k = view.px_per_mm
    shaken = shake(picture, min(view.shake_mm * k, float(view.width_px)))
    if view.lens_per_mm:
        shaken = spread(shaken, min(SPREAD / view.lens_per_mm * k, float(view.width_px)))
    pixel = view.pitch_mm * k
    return sampled(shaken, pixel) if pixel > 1 else shaken


def spread(picture: Pixels, sigma_px: float) -> Pixels:
    """The picture blurred by a Gaussian; a wide one at a reduced size, so that its cost does not grow with it."""
    if sigma_px <= LEAST / 2:
        return picture
    high, wide = picture.shape[:2]
    factor = max(1, min(ceil(sigma_px / FINE_SIGMA_PX), high, wide))
    if factor == 1:
        return np.asarray(cv2.GaussianBlur(picture, (0, 0), sigma_px), np.float32)
    small = cv2.resize(picture, (max(1, wide // factor), max(1, high // factor)), interpolation=cv2.INTER_AREA)
    soft = cv2.GaussianBlur(small, (0, 0), sigma_px / factor)
    return np.asarray(cv2.resize(soft, (wide, high), interpolation=cv2.INTER_LINEAR), np.float32)


@lru_cache(maxsize=64)
def hand_path(quarters: int) -> Pixels:
    """Where a hand carries a point, as a kernel: one seeded way with its tremor, from end to end so many quarter pixels
    long.
    """
    length = quarters / 4
    t = np.linspace(0, 1, STEPS)
    chance = np.random.default_rng(23)
    across, along = 0.0 * t, t.copy()
    for swings in (1, 2, 3, 5):
        across += 0.13 / swings * np.sin(2 * pi * (swings * t + chance.random()))
        along += 0.06 / swings * np.sin(2 * pi * (swings * t + chance.random()))
    x, y = along * 0.94 - across * 0.34, along * 0.34 + across * 0.94
    reach = sqrt(float(((x[:, None] - x) ** 2 + (y[:, None] - y) ** 2).max()))
    x, y = ((value - (value.min() + value.max()) / 2) * length / reach for value in (x, y))
    size = 2 * ceil(length / 2 + 1) + 1
    made = np.zeros((size, size))
    left, top = np.floor(x).astype(int), np.floor(y).astype(int)
    right, low = x - left, y - top
    for down, over, weight in (
        (0, 0, (1 - right) * (1 - low)),
        (0, 1, right * (1 - low)),
        (1, 0, (1 - right) * low),
        (1, 1, right * low),
    ):
        np.add.at(made, (top + size // 2 + down, left + size // 2 + over), weight)
    kernel: Pixels = (made / made.sum()).astype(np.float32)
    kernel.flags.writeable = False
    return kernel


def shake(picture: Pixels, length_px: float) -> Pixels:
    """The picture spread along a hand's path of a length in pixels."""
    if length_px < LEAST:
        return picture
    high, wide = picture.shape[:2]
    factor = max(1, ceil(length_px / FINE_PX))
    small = picture
    if factor > 1:
        size = (max(1, wide // factor), max(1, high // factor))
        small = np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.float32)
    kernel = hand_path(max(2, round(4 * length_px / factor)))
    spread = cv2.filter2D(small, -1, kernel, borderType=cv2.BORDER_REPLICATE)
    if factor > 1:
        spread = cv2.resize(spread, (wide, high), interpolation=cv2.INTER_LINEAR)
    return np.asarray(spread, np.float32)


def sampled(picture: Pixels, pixel_px: float) -> Pixels:
    """The picture as pixels of a size record it, each the mean of what falls on it, and as a print smooths between
    them.
    """
    high, wide = picture.shape[:2]
    size = (max(1, round(wide / pixel_px)), max(1, round(high / pixel_px)))
    recorded = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
    return np.asarray(cv2.resize(recorded, (wide, high), interpolation=cv2.INTER_LINEAR), np.float32)
