"""What is measured on a picture that came back: a patch, an edge, a disc, two views; and where on it to begin
looking.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import hypot

import cv2
import numpy as np

from cambrel.photographs.edges import slanted_edge
from cambrel.photographs.light import Codes, MeasureError
from cambrel.photographs.noise import patch_noise
from cambrel.photographs.spots import disc_of_light
from cambrel.photographs.views import view_ratio
from cambrel.trials.outcomes import PictureReading

Box = tuple[int, int, int, int]
Readings = dict[str, PictureReading]
SMALL_PX = 600


@dataclass(frozen=True)
class Marked:
    """A picture with the part of it that is marked.

    quality: of a JPEG; None where it is kept without loss
    first: the picture of the reference in the same trial, for views
    second: another frame of the same shot, for noise
    pixels_high: of the camera's whole frame, for reach
    is_resized: it has other pixels than the camera recorded
    """

    pixels: Codes
    box: Box
    pixels_high: float
    quality: float | None = None
    first: Codes | None = None
    second: Codes | None = None
    is_resized: bool = False

    @property
    def part(self) -> Codes:
        """What is marked, in its own pixels."""
        return cut(self.pixels, self.box)


def cut(pixels: Codes, box: Box) -> Codes:
    """The part of a picture under a box, in its own pixels.

    Parameters
        pixels: height × width × 3
        box: in shares of the picture
    Returns
        of the same depth
    Raises
        MeasureError where nothing of the picture lies there
    """
    left, top, wide, high = box
    part = np.array(pixels[max(top, 0) : max(top + high, 0), max(left, 0) : max(left + wide, 0)])
    if part.shape[0] < 4 or part.shape[1] < 4:
        raise MeasureError("Mark a part of the picture.")
    return part


def in_the_middle(most_wide: int, most_high: int, share: int) -> Callable[[Codes], Box]:
    """A part in the middle, so wide and high at most, and no more than a share of the picture.

    Parameters
        most_wide, most_high: [pixels]
        share: of each side at most, as one over it
    Returns
        what gives the box of a picture
    """

    def suggested(pixels: Codes) -> Box:
        high, wide = pixels.shape[:2]
        across, down = min(most_wide, wide // share), min(most_high, high // share)
        return (wide - across) // 2, (high - down) // 2, across, down

    return suggested


def upright_in_the_middle(pixels: Codes) -> Box:
    """The middle half, from top to foot.

    Parameters
        pixels: height × width × 3
    Returns
        in shares of the picture
    """
    high, wide = pixels.shape[:2]
    return wide // 4, 0, wide // 2, high


def about_the_brightest(pixels: Codes) -> Box:
    """Around the brightest spot.

    Parameters
        pixels: height × width × 3
    Returns
        in shares of the picture
    """
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
    sides = [round(times * side) for side in (left - around, top - around, across + 2 * around, down + 2 * around)]
    return max(sides[0], 0), max(sides[1], 0), sides[2], sides[3]


def view(marked: Marked) -> Readings:
    """How much more the picture takes in than that of the reference.

    Parameters
        marked: the picture, the box on it, and the reference's
    Returns
        readings by the names of SCALES
    Raises
        MeasureError where the reference is not there, or the two do not show the same
    """
    if marked.first is None:
        raise MeasureError("Bring in the picture of the first camera too: the view is measured against it.")
    ratio = view_ratio(np.asarray(marked.pixels), np.asarray(marked.first))
    return {"view": PictureReading(ratio.ratio, ratio.within)}


def noise(marked: Marked) -> Readings:
    """Signal to noise, and the level, of an even grey patch.

    Parameters
        marked: the picture and the box on it
    Returns
        readings by the names of SCALES
    Raises
        MeasureError where the patch is not even
    """
    count = float(marked.pixels.shape[0] * marked.pixels.shape[1])
    other = (
        cut(marked.second, marked.box)
        if marked.second is not None and marked.second.shape == marked.pixels.shape
        else None
    )
    patch = patch_noise(marked.part, count, marked.quality, other)
    doubts = tuple(key for key, is_so in (("reduced", patch.is_reduced), ("resized", marked.is_resized)) if is_so)
    within = 4 * patch.within / np.log(2)  # two deviations, in stops of light, of which signal to noise is the root
    return {
        "snr": PictureReading(patch.snr, float(within), "least" if patch.is_bound else "", doubts),
        "level": PictureReading(patch.mean, 0.02),
    }


def edge(marked: Marked) -> Readings:
    """The sharpness of a slanted edge.

    Parameters
        marked: the picture and the box on it
    Returns
        readings by the names of SCALES
    Raises
        MeasureError where there is no edge
    References
        ISO 12233, slanted edges
    """
    slanted = slanted_edge(marked.part)
    marks = {
        "sharpened": slanted.is_sharpened,
        "low": slanted.is_low,
        "bent": slanted.is_bent,
        "periodic": slanted.is_periodic,
        "resized": marked.is_resized,
    }
    doubts = tuple(key for key, is_so in marks.items() if is_so)
    return {
        "mtf50": PictureReading(
            min(slanted.mtf50_per_px, 1.0), slanted.within, "least" if slanted.is_bound else "", doubts
        ),
        "rise": PictureReading(slanted.rise_px, slanted.within),
    }


def disc(marked: Marked) -> Readings:
    """The width of a disc of light, as a share of the picture's diagonal.

    Parameters
        marked: the picture and the box on it
    Returns
        readings by the names of SCALES
    Raises
        MeasureError where there is no disc
    """
    spot = disc_of_light(marked.part)
    share = spot.diameter_px / hypot(*marked.pixels.shape[:2])
    return {
        "disc": PictureReading(share, spot.within, "most" if spot.is_at_most else "", ("cut",) if spot.is_cut else ())
    }


def height(marked: Marked) -> Readings:
    """How many of the camera's pixels the marked part is high.

    Parameters
        marked: the picture and the box on it
    Returns
        readings by the names of SCALES
    """
    high = marked.part.shape[0]
    return {"pixels": PictureReading(high * marked.pixels_high / marked.pixels.shape[0], 2 / high)}
