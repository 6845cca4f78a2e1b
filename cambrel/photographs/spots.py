"""The disc that a point of light makes out of focus: its diameter in pixels of the picture."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from cambrel.photographs.light import BURNT, Codes, Light, MeasureError, luminance

RAYS = 180
STEP = 0.25
LEAST_PX, LEAST_OF_CUT_PX = 5.0, 40.0
PROMISED = ((15.0, 0.01), (8.0, 0.03), (LEAST_PX, 0.05))
"""From so many pixels on, within so much."""
SOFT = 1 / 8
"""An edge softer than this part of the diameter is no disc."""
CAT_EYE, CAT_EYE_SMALL = 0.95, 0.85
CUT_WITHIN, CUT_NEAR_PX = 0.02, 0.35
BURNT_SHARE = 0.02
LEAST_SNR = 10.0


@dataclass(frozen=True)
class Disc:
    """A disc.

    diameter_px: of the circle; within: what is promised of it, relative
    is_at_most: burnt out, so that its soft edge reads too wide; is_cut: the lens's barrel cuts it (cat's eye), the
        circle is that of its round part
    """

    diameter_px: float
    within: float
    is_at_most: bool = False
    is_cut: bool = False


def disc_of_light(codes: Codes) -> Disc:
    """Diameter of the one disc in a patch.

    Parameters
        codes: the patch, height x width x 3, the whole disc with some dark around it
    Returns
        Disc
    Raises
        MeasureError with the reason
    Assumptions
        a point of light, even over the pupil; the edge lies at half of the level within
    """
    if min(codes.shape[:2]) < 3 * LEAST_PX:
        raise MeasureError("The patch is too small: take the whole disc with some dark around it.")
    light = luminance(codes)
    border = np.concatenate([light[0], light[-1], light[1:-1, 0], light[1:-1, -1]])
    light = light - np.median(border)
    top = float(np.quantile(light, 0.995))
    noise = 1.4826 * float(np.median(np.abs(border - np.median(border))))
    if top <= 0 or top < LEAST_SNR * noise / 2:
        raise MeasureError(
            "No disc stands out from the ground here: take a brighter point of light before a darker ground."
        )
    lit = light > top / 2
    if lit[0].any() or lit[-1].any() or lit[:, 0].any() or lit[:, -1].any():
        raise MeasureError("The disc is cut by the edge of the patch: take all of it.")
    level = float(np.median(light[lit]))
    y, x = np.nonzero(light > level / 2)
    middle = np.array([x.mean(), y.mean()])
    radii, edge, angles = _radii(light, middle, level)
    points = middle + np.stack([np.cos(angles), np.sin(angles)], axis=-1) * radii[:, None]
    diameter = 2 * _circle(points)
    widths = radii[: RAYS // 2] + radii[RAYS // 2 :]
    # a cut by the barrel is a slow change of width with the angle; what is quicker is noise
    slow = np.fft.rfft(widths)
    slow[3:] = 0
    smooth = np.fft.irfft(slow, len(widths))
    is_cut = bool(smooth.min() / smooth.max() < (CAT_EYE if diameter >= PROMISED[0][0] else CAT_EYE_SMALL))
    if is_cut:
        if smooth.max() < LEAST_OF_CUT_PX:
            raise MeasureError(
                "The disc is cut to a cat’s eye and too small to tell its circle: take one in the middle of the"
                " picture."
            )
        diameter = 2 * _round_part(points)
    if diameter < LEAST_PX:
        raise MeasureError(f"The disc is under {LEAST_PX:g} pixels wide: too small to be measured.")
    if edge > SOFT * diameter:
        raise MeasureError("This has no edge as a disc has: it is not a point of light far out of focus.")
    burnt = float(np.mean(np.any(codes[lit] >= BURNT, axis=-1))) > BURNT_SHARE
    within = CUT_WITHIN if is_cut else next(share for least, share in PROMISED if diameter >= least)
    return Disc(diameter, within, is_at_most=burnt, is_cut=is_cut)


def _radii(light: Light, middle: Light, level: float) -> tuple[Light, float, Light]:
    """Along rays from the middle, where the light falls through half its level, and the spread of the edge [px]."""
    angles = np.arange(RAYS) * 2 * np.pi / RAYS
    far = float(np.hypot(*light.shape)) / 2
    away = np.arange(0, far, STEP)
    x = middle[0] + np.cos(angles)[:, None] * away
    y = middle[1] + np.sin(angles)[:, None] * away
    seen = np.asarray(
        cv2.remap(
            light.astype(np.float32),
            x.astype(np.float32),
            y.astype(np.float32),
            cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        ),
        float,
    )
    # what is beyond the disc may be noise: the crossing is the last one before the light stays low, on rays smoothed
    # over a pixel
    soft = np.apply_along_axis(lambda ray: np.convolve(ray, np.ones(5) / 5, mode="same"), 1, seen)
    soft[:, :3] = level

    def crossing(share: float) -> Light:
        wanted = level * share
        below = soft < wanted
        if not below.any(axis=1).all():
            raise MeasureError("The disc does not stand out all around: take more of the dark about it.")
        k = np.maximum(np.argmax(below, axis=1), 1)
        rows = np.arange(RAYS)
        a, b = soft[rows, k - 1], soft[rows, k]
        return np.asarray((k - 1 + (a - wanted) / np.maximum(a - b, 1e-12)) * STEP)

    edge = float(np.median(crossing(0.25) - crossing(0.75))) / 1.349
    return crossing(0.5), edge, angles


def _circle(points: Light) -> float:
    """The radius of the circle nearest to points (algebraic least squares)."""
    x, y = points[:, 0], points[:, 1]
    terms = np.stack([x, y, np.ones_like(x)], axis=-1)
    a, b, c = np.linalg.lstsq(terms, x**2 + y**2, rcond=None)[0]
    return float(np.sqrt(c + (a**2 + b**2) / 4))


def _round_part(points: Light) -> float:
    """The radius of the circle that most of the points of a cut disc lie on, found by trying three at a time."""
    random = np.random.default_rng(0)
    best, most = points, 0
    for _ in range(400):
        three = points[random.choice(len(points), 3, replace=False)]
        terms = np.concatenate([three, np.ones((3, 1))], axis=1)
        if abs(np.linalg.det(terms)) < 1e-6:
            continue
        a, b, c = np.linalg.solve(terms, (three**2).sum(axis=1))
        away = np.abs(np.hypot(points[:, 0] - a / 2, points[:, 1] - b / 2) - np.sqrt(max(c + (a**2 + b**2) / 4, 0)))
        near = away < CUT_NEAR_PX
        if near.sum() > most:
            best, most = points[near], int(near.sum())
    return _circle(best)
