"""Whether a lens fits a body: its image circle over the sensor, and its mount. Lengths in mm.

The circle is taken as centred on the sensor and as having an edge; real circles fade, so that figures near the edge are
a guide.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from math import acos, hypot, pi, sqrt

from cambrel.optics.formats import Sensor, covers
from cambrel.optics.quantities import positive


class Dark(StrEnum):
    """What an image circle leaves dark: nothing, the corners, or all around the picture."""

    COVERS = "covers"
    CORNERS = "corners"
    AROUND = "around"


class Mounting(StrEnum):
    """How a lens goes on a body."""

    SAME = "same"
    TAKEN = "taken"
    ADAPTABLE = "adaptable"
    WITH_OPTICS = "with optics"
    NOT = "not"
    UNKNOWN = "unknown"


COVERS, CORNERS, AROUND = Dark
SAME, TAKEN, ADAPTABLE, WITH_OPTICS, NOT, UNKNOWN = Mounting
LEAST_ROOM_MM = 0.5
"""An adapter without optics takes at least so much room between the two flanges."""


@dataclass(frozen=True)
class Cover:
    """A circle on a sensor.

    share: of the sensor's area that lies inside; corner_gap_mm: from the circle's edge to a corner, 0 where it is
        inside (all four alike)
    circle_used: share of the circle's area that the sensor takes; word: COVERS, CORNERS (a crop inside
    it is a picture of good size) or AROUND (the whole circle lies on the sensor, black all around it)
    """

    share: float
    corner_gap_mm: float
    circle_used: float
    word: Dark


def cover(sensor: Sensor, image_circle_mm: float) -> Cover:
    """How an image circle lies over a sensor.

    Parameters
        sensor: the frame
        image_circle_mm: diameter
    Returns
        Cover
    Raises
        DomainError for a diameter that is not above 0 and finite
    """
    radius = float(positive("image_circle_mm", image_circle_mm)) / 2
    inside = covered_area_mm2(sensor.width_mm, sensor.height_mm, radius)
    gap = max(0.0, sensor.diagonal_mm / 2 - radius)
    if covers(2 * radius, sensor.diagonal_mm):
        word = COVERS
    elif radius >= min(sensor.width_mm, sensor.height_mm) / 2:
        word = CORNERS
    else:
        word = AROUND
    return Cover(min(inside / sensor.area_mm2, 1.0), gap, inside / (pi * radius**2), word)


def covered_area_mm2(width_mm: float, height_mm: float, radius_mm: float) -> float:
    """The area of a rectangle inside a circle about its centre, in closed form.

    Parameters
        width_mm, height_mm, radius_mm: above 0
    Returns
        [mm^2]
    """
    a, b, r = width_mm / 2, height_mm / 2, radius_mm
    if r >= hypot(a, b):
        return width_mm * height_mm
    outside = 0.0
    # segments beyond the sides; they do not overlap while the corners lie outside
    for half in (a, b):
        if r > half:
            outside += 2 * (r**2 * acos(half / r) - half * sqrt(r**2 - half**2))
    return pi * r**2 - outside


def largest_crop(sensor: Sensor, image_circle_mm: float, aspect_ratio: float | None = None) -> Sensor:
    """The largest part of a sensor, of one shape, that a circle covers; the whole shape where it covers that.

    Parameters
        sensor: the frame, with its pixels where known
        image_circle_mm: diameter
        aspect_ratio: long over short side, None for the sensor's own
    Returns
        Sensor of the same pixel pitch
    """
    shape = sensor.cropped(aspect_ratio)
    scale = min(1.0, float(positive("image_circle_mm", image_circle_mm)) / shape.diagonal_mm)
    return Sensor(
        shape.width_mm * scale,
        shape.height_mm * scale,
        shape.pixels_wide and shape.pixels_wide * scale,
        shape.pixels_high and shape.pixels_high * scale,
    )


@dataclass(frozen=True)
class MountFit:
    """Whether a lens's mount goes on a body's: the word, and how many mm of room an adapter has (below 0 none)."""

    word: Mounting
    room_mm: float | None


def folded_mount(name: str) -> str:
    """The name of a mount as it is compared: people mind neither its case nor its spaces.

    Parameters
        name: as somebody wrote it
    Returns
        without case and spaces
    """
    return " ".join(name.split()).casefold()


def same_mount(one: str, other: str) -> bool:
    """Whether two names are of one mount.

    Parameters
        one, other: names as somebody wrote them
    Returns
        True where they differ in case and spaces at most
    """
    return folded_mount(one) == folded_mount(other)


def mount_fit(
    lens_mount: str,
    body_mount: str,
    *,
    accepts: bool = False,
    lens_register_mm: float | None = None,
    body_register_mm: float | None = None,
    adapter: str = "",
) -> MountFit:
    """Whether a lens goes on a body.

    Parameters
        lens_mount, body_mount: names; empty for unknown
        accepts: whether the body's mount is recorded to take the lens's as it is
        lens_register_mm, body_register_mm: flange to sensor [mm]; None for unknown
        adapter: kind of an adapter that is recorded between the two: "plain", "optics" or none
    Returns
        MountFit. A lens whose register is longer than the body's leaves room for a ring; a shorter one would need
        optics to focus far
    """
    if not lens_mount or not body_mount:
        return MountFit(UNKNOWN, None)
    room = None if lens_register_mm is None or body_register_mm is None else lens_register_mm - body_register_mm
    if same_mount(lens_mount, body_mount):
        return MountFit(SAME, room)
    if accepts:
        return MountFit(TAKEN, room)
    if adapter:
        return MountFit(ADAPTABLE if adapter == "plain" else WITH_OPTICS, room)
    if room is None:
        return MountFit(UNKNOWN, None)
    return MountFit(ADAPTABLE if room >= LEAST_ROOM_MM else WITH_OPTICS if room > -LEAST_ROOM_MM * 40 else NOT, room)
