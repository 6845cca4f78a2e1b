"""What is measured on a picture that came back: a patch, an edge, a disc, two views; and where on it to begin looking."""

from __future__ import annotations

from math import hypot
from typing import Any

import cv2
import numpy as np

from cambrel.photographs.edges import slanted_edge
from cambrel.photographs.light import Codes, MeasureError
from cambrel.photographs.noise import patch_noise
from cambrel.photographs.spots import disc_of_light
from cambrel.photographs.views import view_ratio
from cambrel.trials.outcomes import Reading

Box = tuple[int, int, int, int]
Readings = dict[str, Reading]
SMALL_PX = 600
TELLS = {
    "noise": "Drag over an even grey patch, away from edges and highlights.",
    "diffraction": "Drag over one slanted edge, about 5° off the sides of the picture, with an even field on each side.",
    "blur": "Drag around the disc of the point of light, with some dark about it.",
    "reach": "Drag from the top to the foot of the subject.",
    "framing": "The whole picture is compared with that of the first camera; nothing is to be marked.",
}
"""What to mark, by trial."""


def cut(pixels: Codes, box: Box) -> Codes:
    """The part of a picture under a box, in its own pixels.

    Raises
        MeasureError where nothing of the picture lies there
    """
    left, top, wide, high = box
    part = np.array(pixels[max(top, 0) : max(top + high, 0), max(left, 0) : max(left + wide, 0)])
    if part.shape[0] < 4 or part.shape[1] < 4:
        raise MeasureError("Mark a part of the picture.")
    return part


def suggested(trial: str, pixels: Codes) -> Box:
    """Where to begin looking: about the brightest spot, or in the middle."""
    high, wide = pixels.shape[:2]
    if trial == "reach":
        return wide // 4, 0, wide // 2, high
    if trial == "blur":
        return _about_the_brightest(pixels)
    across, down = (
        (min(110, wide), min(200, high)) if trial == "diffraction" else (min(240, wide // 3), min(240, high // 3))
    )
    return (wide - across) // 2, (high - down) // 2, across, down


def _about_the_brightest(pixels: Codes) -> Box:
    high, wide = pixels.shape[:2]
    times = max(1.0, max(high, wide) / SMALL_PX)
    small = cv2.resize(
        np.asarray(pixels), (max(1, round(wide / times)), max(1, round(high / times))), interpolation=cv2.INTER_AREA
    )
    grey = cv2.GaussianBlur(small.max(axis=-1), (0, 0), 1.0)
    _, _, _, (x, y) = cv2.minMaxLoc(grey)
    _, marks, stats, _ = cv2.connectedComponentsWithStats((grey > float(grey[y, x]) * 0.6).astype(np.uint8))
    left, top, across, down, _ = stats[marks[y, x]]
    around = max(across, down) * 0.5 + 8
    found = [round(times * side) for side in (left - around, top - around, across + 2 * around, down + 2 * around)]
    return max(found[0], 0), max(found[1], 0), found[2], found[3]


def measure(
    trial: str,
    pixels: Codes,
    box: Box,
    *,
    quality: float | None,
    first: Codes | None,
    second: Codes | None,
    pixels_high: float,
    is_resized: bool = False,
) -> Readings:
    """What a picture says, by the names of `optics.proving`.

    Parameters
        pixels: of the picture; box: the part that is marked
        quality: of a JPEG; None where it is kept without loss
        first: the picture of the reference in the same trial, for views
        second: another frame of the same shot, for noise
        pixels_high: of the camera's whole frame, for reach
        is_resized: it has other pixels than the camera recorded
    Raises
        MeasureError
    """
    if trial == "framing":
        if first is None:
            raise MeasureError("Bring in the picture of the first camera too: the view is measured against it.")
        found = view_ratio(np.asarray(pixels), np.asarray(first))
        return {"view": Reading(found.ratio, found.within)}
    part = cut(pixels, box)
    count = float(pixels.shape[0] * pixels.shape[1])
    if trial == "noise":
        other = cut(second, box) if second is not None and second.shape == pixels.shape else None
        noise = patch_noise(part, count, quality, other)
        doubts = tuple(key for key, is_so in (("reduced", noise.is_reduced), ("resized", is_resized)) if is_so)
        within = 4 * noise.within / np.log(2)  # two deviations, in stops of light, of which signal to noise is the root
        return {
            "snr": Reading(noise.snr, float(within), "least" if noise.is_bound else "", doubts),
            "level": Reading(noise.mean, 0.02),
        }
    if trial == "diffraction":
        edge = slanted_edge(part)
        marks = {
            "sharpened": edge.is_sharpened,
            "low": edge.is_low,
            "bent": edge.is_bent,
            "periodic": edge.is_periodic,
            "resized": is_resized,
        }
        doubts = tuple(key for key, is_so in marks.items() if is_so)
        return {
            "mtf50": Reading(min(edge.mtf50_per_px, 1.0), edge.within, "least" if edge.is_bound else "", doubts),
            "rise": Reading(edge.rise_px, edge.within),
        }
    if trial == "blur":
        disc = disc_of_light(part)
        share = disc.diameter_px / hypot(*pixels.shape[:2])
        return {"disc": Reading(share, disc.within, "most" if disc.is_at_most else "", ("cut",) if disc.is_cut else ())}
    if trial == "reach":
        return {"pixels": Reading(part.shape[0] * pixels_high / pixels.shape[0], 2 / part.shape[0])}
    raise MeasureError("Nothing is measured on the picture in this trial.")


def as_row(reading: Reading, **more: Any) -> dict[str, Any]:
    """A reading as it is kept on the sheet."""
    row = {"value": reading.value, "within": reading.within}
    return (
        row
        | ({"bound": reading.bound} if reading.bound else {})
        | ({"doubts": list(reading.doubts)} if reading.doubts else {})
        | ({} if reading.noted is None else {"noted": reading.noted})
        | more
    )


def as_reading(row: dict[str, Any]) -> Reading:
    return Reading(
        row["value"], row.get("within", 0.0), row.get("bound", ""), tuple(row.get("doubts", ())), row.get("noted")
    )
