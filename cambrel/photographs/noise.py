"""How clean a patch is: signal to noise of the whole picture at one output size, from linear light and block means."""

from __future__ import annotations

from dataclasses import dataclass
from math import log2, sqrt

import numpy as np

from cambrel.photographs.light import LUMINANCE, Codes, Light, MeasureError, clipped, luminance, surface

BLOCK = 4
LEAST_BLOCKS, LARGE_BLOCKS = 60, 400
DARKEST, BRIGHTEST = 0.1, 0.3
"""Linear light of a patch that is measured: about mid-grey."""
MID_GREY = 0.18
OUTPUT_PIXELS = 8e6
COMPRESSED_CODES = 0.5
"""Below this deviation of block means, in code values, a JPEG holds no noise that could be measured."""
SPREAD_CODES = 0.45
"""Below this deviation of single pixels, in code values, the steps of a picture without loss hide the noise too."""
BOUND_PER_PIXEL = 27.0
REDUCED = 2.3
"""From this ratio on a patch has been smoothed: 1 is white noise, 1.7 demosaiced, up to 2.1 with fine JPEG."""
FINE_QUALITY = 90.0


@dataclass(frozen=True)
class PatchNoise:
    """Signal to noise at mid-grey.

    snr: of the whole picture at 8 megapixels; is_bound: it is at least that
    within: relative uncertainty (one deviation) from the number of blocks
    mean: linear light of the patch; is_reduced: smoothed, so that the figure flatters
    """

    snr: float
    within: float
    mean: float
    is_bound: bool = False
    is_reduced: bool = False


def _blocks(values: Light, size: int = BLOCK) -> Light:
    high, wide = (side // size for side in values.shape)
    cut = values[: high * size, : wide * size]
    return np.asarray(cut.reshape(high, size, wide, size).mean(axis=(1, 3)))


def _spilt(flat: Light, deviation: float) -> tuple[float, int] | None:
    """How much noise developing has moved out of the blocks, by blocks of twice the side, and how many those are; None
    for a small patch.
    """
    larger = _blocks(flat, 2 * BLOCK)
    if larger.size < LARGE_BLOCKS:
        return None
    return 2 * sqrt(float((larger**2).sum()) / (larger.size - 6)) / deviation, larger.size


def _scaled(per_block: float, mean: float, pixels: float) -> float:
    """From mean over deviation of block means to the whole picture at mid-grey: photon noise grows with the root of the
    light.
    """
    return per_block * sqrt(pixels / (BLOCK**2 * OUTPUT_PIXELS)) * sqrt(MID_GREY / mean)


def patch_noise(codes: Codes, pixels: float, quality: float | None = None, other: Codes | None = None) -> PatchNoise:
    """Signal to noise of an even grey patch.

    Parameters
        codes: the patch, height x width x 3
        pixels: of the whole picture
        quality: of the JPEG it comes from, 0 to 100; None for a picture that was kept without loss
        other: the same patch of a second frame of the same, without loss: free of the subject's own texture and shading
    Returns
        Noise
    Raises
        MeasureError for a patch that is too small, too bright, too dark or clipped
    References
        mean and deviation of linear luminance as in ISO 15739, over 4 x 4 block means so that compression does not hide
        the noise;
        in large patches without loss over 8 x 8, as developing from colour filters moves noise from block to block
    """
    if codes.shape[0] // BLOCK * (codes.shape[1] // BLOCK) < LEAST_BLOCKS:
        raise MeasureError(f"The patch is too small: take at least {LEAST_BLOCKS} squares of {BLOCK} pixels.")
    if clipped(codes):
        raise MeasureError("The patch is burnt out in places: choose one without highlights.")
    light = luminance(codes)
    mean = float(light.mean())
    if not DARKEST <= mean <= BRIGHTEST:
        stops = abs(log2(max(mean, 1e-4) / MID_GREY))
        way, cure, mark = ("darker", "more", "brighter") if mean < DARKEST else ("brighter", "less", "darker")
        raise MeasureError(
            f"The patch is {stops:.1f} stops {way} than mid-grey, too far to compare. Take the shot again "
            f"with that much {cure} light, or mark a {mark} patch (89 to 149 of 255)."
        )
    if other is not None and quality is None:
        return _of_two(light, luminance(other), mean, pixels)
    flat = light - surface(light, 2)
    means = _blocks(flat)
    free = means.size - 6
    deviation = sqrt(float((means**2).sum()) / free)
    single = sqrt(float((flat**2).sum()) / (flat.size - 6))
    within = 1 / sqrt(2 * free)
    is_reduced = (quality is None or quality >= FINE_QUALITY) and BLOCK * deviation > REDUCED * single
    if quality is None and (spilt := _spilt(flat, deviation)) is not None:
        deviation, within = deviation * spilt[0], 1 / sqrt(2 * (spilt[1] - 6))
    bound = PatchNoise(
        BOUND_PER_PIXEL * sqrt(pixels / OUTPUT_PIXELS), within, mean, is_bound=True, is_reduced=is_reduced
    )
    coded = codes.astype(float)
    in_codes = _blocks(coded @ LUMINANCE - surface(coded @ LUMINANCE, 2)).std()
    if in_codes < COMPRESSED_CODES:
        # the steps of the code are noise of their own, which falls out of block means while the light's noise is wide
        # enough to spread over them
        left = deviation**2 - mean_step(codes) ** 2 / 12 / BLOCK**2
        spread = float(np.mean([(plane - surface(plane, 2)).std() for plane in np.moveaxis(coded, -1, 0)]))
        if quality is not None or spread < SPREAD_CODES or left <= 0:
            return bound
        deviation = sqrt(left)
    return PatchNoise(_scaled(mean / deviation, mean, pixels), within, mean, is_reduced=is_reduced)


def _of_two(one: Light, other: Light, mean: float, pixels: float) -> PatchNoise:
    if one.shape != other.shape:
        raise MeasureError("The two frames are not of one size.")
    apart = one - other * (mean / float(other.mean()))
    flat = apart - surface(apart, 2)
    means = _blocks(flat)
    free = means.size - 6
    deviation = sqrt(float((means**2).sum()) / free) / sqrt(2)
    single = sqrt(float((flat**2).sum()) / (flat.size - 6)) / sqrt(2)
    if deviation == 0:
        raise MeasureError("The two frames are the same picture: take two.")
    is_reduced = BLOCK * deviation / single > REDUCED
    return PatchNoise(_scaled(mean / deviation, mean, pixels), 1 / sqrt(2 * free), mean, is_reduced=is_reduced)


def mean_step(codes: Codes) -> float:
    """The step of linear luminance between neighbouring codes at a patch's level, as three independent channels make
    it.
    """
    levels = codes.reshape(-1, 3).mean(axis=0) / 255
    slopes = np.where(levels <= 0.04045, 1 / 12.92, 2.4 / 1.055 * ((levels + 0.055) / 1.055) ** 1.4) / 255
    return float(np.sqrt(((slopes * LUMINANCE) ** 2).sum()))
