"""Two pictures side by side on one base line and one scale."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from cambrel.drawings.shapes import Drawing, Image, Shape

GAP = 16.0


@dataclass(frozen=True)
class PlacedPicture:
    """A picture: where it is had, how large it stands, and its name."""

    href: str
    width: float
    height: float
    name: str


def pair(pictures: Sequence[PlacedPicture], title: str) -> Drawing:
    """Pictures as large as they are given, from left to right; their names are told beside the drawing.

    Parameters
        pictures: with their places
        title: of the drawing
    Returns
        shapes, a title and a description
    """
    high = max(picture.height for picture in pictures)
    shapes: list[Shape] = []
    x = 0.0
    for picture in pictures:
        shapes.append(Image(x, high - picture.height, picture.width, picture.height, picture.href))
        x += picture.width + GAP
    return Drawing(x - GAP, high, tuple(shapes), title, "; ".join(picture.name for picture in pictures) + ".")
