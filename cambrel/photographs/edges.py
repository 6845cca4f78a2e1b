"""Sharpness of a slanted edge: its spread and the frequency at half contrast, in cycles per pixel of the picture."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan, cos, degrees

import numpy as np

from cambrel.optics.colour import BYTE_TO_LINEAR
from cambrel.photographs.light import BLACK, BURNT, Codes, Light, MeasureError, luminance

LEAST_ANGLE, MOST_ANGLE = 1.0, 40.0
PERIODIC_DEG, NEAR_DEG = (14.04, 26.57), 0.35
LEAST_CONTRAST, LOW_CONTRAST = 1.5, 2.0
LEAST_SNR = 10.0
LEAST_ACROSS, LEAST_ALONG = 40, 60
MOST_SAG, SOME_SAG = 0.5, 0.3
OVERSHOOT, MTF_ABOVE_ONE = 0.04, 1.03
STEPS = 4
"""Bins to a pixel."""
TRIED = 0.35
"""Up to here the promise is tried; from 0.5 on only a bound is said."""


@dataclass(frozen=True)
class Edge:
    """A slanted edge.

    mtf50_per_px: cycles per pixel at half contrast; infinite where it never falls so far
    rise_px: from 10 to 90 % of the step; angle_deg: from the rows or columns
    within: what is promised of the MTF50, relative; is_bound: it is above 0.5, and no more is said
    is_sharpened, is_low, is_bent, is_periodic: what makes it doubtful
    """

    mtf50_per_px: float
    rise_px: float
    angle_deg: float
    within: float
    is_bound: bool = False
    is_sharpened: bool = False
    is_low: bool = False
    is_bent: bool = False
    is_periodic: bool = False


def slanted_edge(codes: Codes) -> Edge:
    """MTF50 of a patch with one slanted edge.

    Parameters
        codes: the patch, height x width x 3
    Returns
        Edge
    Raises
        MeasureError: no usable edge, with the reason
    Assumptions
        one straight edge between two even fields; of the picture as it was processed, not of the lens alone
    References
        ISO 12233, edge-based spatial frequency response; binned at a quarter of a pixel along the normal
    """
    light = luminance(codes)
    across, down = np.abs(np.diff(light, axis=1)).sum(), np.abs(np.diff(light, axis=0)).sum()
    if down > across:
        light = light.T
    if light.shape[1] < LEAST_ACROSS or light.shape[0] < LEAST_ALONG:
        raise MeasureError(f"Take at least {LEAST_ACROSS} pixels across the edge and {LEAST_ALONG} along it.")
    if light[:, -5:].mean() < light[:, :5].mean():
        light = light[:, ::-1]
    line, centroids = _line(light)
    rows = np.arange(light.shape[0], dtype=float)
    angle = degrees(atan(abs(line[0])))
    if not LEAST_ANGLE <= angle <= MOST_ANGLE:
        raise MeasureError(
            f"The edge is at {angle:.1f}° to the pixels. Turn it to between {LEAST_ANGLE:g}° and "
            f"{MOST_ANGLE:g}°, 5° at best."
        )
    sag = abs(float(np.polyfit(rows, centroids, 2)[0])) * (light.shape[0] / 2) ** 2
    if sag > MOST_SAG:
        raise MeasureError("The edge is bent: take a shorter piece of it.")
    distance = (np.arange(light.shape[1])[None, :] - (line[0] * rows + line[1])[:, None]) * cos(atan(line[0]))
    spread, at = _spread(light, distance)
    dark, bright, noise = _plateaus(light, distance, spread, at)
    _check(dark, bright, noise)
    rise = _rise(spread, at, dark, bright)
    half = max(8.0, 3 * rise)
    if half > min(-at[0], at[-1]):
        half = float(min(-at[0], at[-1]))
        if half < 1.5 * rise:
            raise MeasureError("The edge is too soft for this patch: take a wider one.")
    response, frequency = _response(spread, at, half)
    mtf50 = _half(response, frequency)
    over = _overshoot(spread, at, half, dark, bright)
    within = 0.03 if mtf50 < 0.2 else 0.06 if mtf50 <= TRIED else 0.15
    return Edge(
        mtf50, rise, angle, within, is_bound=mtf50 > 0.5,
        is_sharpened=over > OVERSHOOT or bool(response[frequency < 0.5].max() > MTF_ABOVE_ONE),
        is_low=bright / max(dark, 1e-9) < LOW_CONTRAST, is_bent=sag > SOME_SAG,
        is_periodic=any(abs(angle - periodic) < NEAR_DEG for periodic in PERIODIC_DEG),
    )  # fmt: skip


def _line(light: Light) -> tuple[Light, Light]:
    """Where the edge passes each row: a windowed centroid of the slope, a line through them, and twice again about that
    line.
    """
    slope = np.zeros_like(light)
    slope[:, 1:-1] = (light[:, 2:] - light[:, :-2]) / 2
    columns, rows = np.arange(light.shape[1], dtype=float), np.arange(light.shape[0], dtype=float)
    # noise is taken off by weighing with the mean slope of the rows around
    start = slope - np.median(slope)
    start = np.where(start > start.max() * 0.25, start, 0)
    total = start.sum(axis=1)
    if np.mean(total > 0) < 0.5:
        raise MeasureError("There is no edge in this patch that could be followed.")
    seen = total > 0
    first = (start[seen] * columns).sum(axis=1) / total[seen]
    line = np.polyfit(rows[seen], first, 1)
    for _ in range(2):
        middle = line[0] * rows + line[1]
        away = columns[None, :] - middle[:, None]
        reach = max(8.0, min(light.shape[1] / 4, 24.0))
        window = np.where(np.abs(away) < reach, 0.5 + 0.5 * np.cos(np.pi * away / reach), 0)
        weight = slope * window
        total = weight.sum(axis=1)
        seen = total > 0.2 * np.median(total)
        if seen.sum() < LEAST_ALONG / 2:
            raise MeasureError("There is no edge in this patch that could be followed.")
        places = (weight[seen] * away[seen]).sum(axis=1) / total[seen] + middle[seen]
        line = np.polyfit(rows[seen], places, 1)
    centroids = np.interp(rows, rows[seen], places)
    return line, centroids


def _spread(light: Light, distance: Light) -> tuple[Light, Light]:
    """The mean of the light in quarter pixels of distance along the normal."""
    reach = float(min(-distance.min(axis=1).max(), distance.max(axis=1).min()))
    if reach < 8:
        raise MeasureError("The edge leaves the patch: take it in the middle.")
    count = int(reach * STEPS)
    index = np.floor(distance * STEPS + 0.5).astype(int) + count
    inside = (index >= 0) & (index <= 2 * count)
    sums = np.bincount(index[inside], light[inside], minlength=2 * count + 1)
    counts = np.bincount(index[inside], minlength=2 * count + 1)
    at = (np.arange(2 * count + 1) - count) / STEPS
    filled = counts > 0
    return np.interp(at, at[filled], sums[filled] / counts[filled]), at


def _plateaus(light: Light, distance: Light, spread: Light, at: Light) -> tuple[float, float, float]:
    """The two fields' light and the noise on them."""
    outer = 0.7 * at[-1]
    low, high = light[(distance < -outer)], light[(distance > outer)]
    noise = float(max(low.std(), high.std()))
    _check_levels(float(np.median(low)), float(np.median(high)))
    return float(np.median(spread[at < -outer])), float(np.median(spread[at > outer])), noise


def _check_levels(dark: float, bright: float) -> None:
    if bright >= BYTE_TO_LINEAR[BURNT] or dark <= BYTE_TO_LINEAR[BLACK]:
        raise MeasureError("One side of the edge is burnt out or black: expose so that both are grey.")


def _check(dark: float, bright: float, noise: float) -> None:
    if bright / max(dark, 1e-9) < LEAST_CONTRAST:
        raise MeasureError("The two sides differ too little: take an edge with more contrast.")
    if noise > 0 and (bright - dark) / noise < LEAST_SNR:
        raise MeasureError("The patch is too noisy: take more light, or a longer piece of the edge.")


def _crossing(spread: Light, at: Light, level: float) -> float:
    """Where the spread passes a level, between the last point below it and the next."""
    middle = len(at) // 2
    above = spread >= level
    if level <= (spread[0] + spread[-1]) / 2:
        below = np.flatnonzero(~above[: middle + 1 + np.argmax(above[middle:])])
        k = int(below[-1]) if below.size else 0
    else:
        k = int(np.flatnonzero(above[1:] & ~above[:-1])[-1]) if np.any(above[1:] & ~above[:-1]) else middle
        first = np.flatnonzero(above[middle:])
        k = middle + int(first[0]) - 1 if first.size and first[0] > 0 else k
    k = min(max(k, 0), len(at) - 2)
    step = spread[k + 1] - spread[k]
    return float(at[k] + (level - spread[k]) / step / STEPS) if step > 0 else float(at[k])


def _rise(spread: Light, at: Light, dark: float, bright: float) -> float:
    return _crossing(spread, at, dark + 0.9 * (bright - dark)) - _crossing(spread, at, dark + 0.1 * (bright - dark))


def _response(spread: Light, at: Light, half: float) -> tuple[Light, Light]:
    """The modulation by frequency [cycles/px]: the difference of neighbouring bins under a window that is flat in its
    middle half.
    """
    slope, place = np.diff(spread), (at[1:] + at[:-1]) / 2
    away = np.abs(place) / half
    window = np.where(away <= 0.5, 1.0, np.where(away < 1, 0.5 + 0.5 * np.cos(2 * np.pi * (away - 0.5)), 0.0))
    padded = np.zeros(4096)
    values = slope * window
    padded[: min(len(values), 4096)] = values[:4096]
    response = np.abs(np.fft.rfft(padded))
    frequency = np.fft.rfftfreq(len(padded), 1 / STEPS)
    response = response / response[0]
    # a bin averages over a quarter pixel, and two of them a quarter apart are subtracted
    seen = frequency <= 1.0
    corrected = response[seen] / np.sinc(frequency[seen] / STEPS) ** 2
    return np.asarray(corrected, float), np.asarray(frequency[seen], float)


def _half(response: Light, frequency: Light) -> float:
    below = np.flatnonzero(response < 0.5)
    if not below.size:
        return float("inf")
    k = int(below[0])
    a, b = response[k - 1], response[k]
    return float(frequency[k - 1] + (a - 0.5) / (a - b) * (frequency[k] - frequency[k - 1]))


def _overshoot(spread: Light, at: Light, half: float, dark: float, bright: float) -> float:
    """How far the light goes past its fields, smoothed over a pixel, against the step."""
    smooth = np.convolve(spread, np.ones(STEPS) / STEPS, mode="same")
    near = (np.abs(at) < half) & (np.abs(at) < at[-1] - 1)
    return float(max(smooth[near].max() - bright, dark - smooth[near].min()) / (bright - dark))
