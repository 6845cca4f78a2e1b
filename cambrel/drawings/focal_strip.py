"""What each focal length sees, as a strip of frames over the bars that count its pictures."""

from __future__ import annotations

from collections.abc import Sequence

from cambrel.drawings.shapes import Circle, Clip, Drawing, Rect, Shape
from cambrel.optics.formats import FULL_FRAME

DISTANCE_M, PERSON_M = 6.0, 1.75
MOST_WIDE, SHARE_OF_ROOM = 54.0, 0.9
HEAD, TRUNK = 1 / 7, 0.26
"""Of a person: the height of the head, and the width of the trunk."""
ABOVE = 0.12
"""So much of the frame is left above the head of who fills it."""


def focal_strip(equivalent_mm: Sequence[float], *, width: float = 580.0) -> Drawing:
    """A frame for each focal length, with a person six metres away in it.

    Parameters
        equivalent_mm: in full-frame terms, one for each column [mm]
        width: of all columns [px]
    Returns
        shapes, a title and a description
    """
    room = width / max(len(equivalent_mm), 1)
    wide = min(room * SHARE_OF_ROOM, MOST_WIDE)
    high = wide * FULL_FRAME.height_mm / FULL_FRAME.width_mm
    shapes: list[Shape] = []
    for index, focal in enumerate(equivalent_mm):
        left, middle = index * room + (room - wide) / 2, (index + 0.5) * room
        tall = high * PERSON_M * focal / (DISTANCE_M * FULL_FRAME.height_mm)
        top = max((high - tall) / 2, high * ABOVE)
        window = Rect(left, 0.5, wide, high)
        head = tall * HEAD
        person: tuple[Shape, ...] = (
            Circle(middle, top + head / 2, head / 2, "strip-person"),
            Rect(middle - tall * TRUNK / 2, top + head * 1.1, tall * TRUNK, tall - head * 1.1, "strip-person"),
        )
        shapes += [Rect(left, 0.5, wide, high, "strip-ground"), Clip(f"strip-{index}", window, person)]
        shapes.append(Rect(left, 0.5, wide, high, "strip-frame"))
    ends = f"from {equivalent_mm[0]:g} to {equivalent_mm[-1]:g} mm" if equivalent_mm else "of none"
    said = f"Frames {ends} in full-frame terms, each with a person 6 m away."
    return Drawing(width, high + 1, tuple(shapes), "What each focal length sees of a person 6 m away", said)
