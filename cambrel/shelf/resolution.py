"""How finely a lens draws at its f-numbers, as it is written: 60 at f/2.8; 75 at f/5.6, in line pairs per mm."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from cambrel.phrases.typed_figures import f_number, number
from cambrel.shelf.widest import LONGEST, NUMBER

AT = re.compile(rf"\s*({NUMBER})\s*(?:lp/mm|/mm)?\s*(?:at|@)\s*f?/?\s*({NUMBER})\s*", re.IGNORECASE)

PLACE = re.compile(rf"\s*(?:at\s*)?({NUMBER})\s*mm\s*", re.IGNORECASE)
PER_MM, HEIGHTS, LOST_STOPS = (0.5, 10_000.0), (0.01, 1000.0), (0.0, 40.0)
"""What makes sense of line pairs, of heights in the picture [mm], and of stops."""
LOST = re.compile(rf"\s*({NUMBER})\s*(?:stops?|EV)?\s*(?:at|@)\s*({NUMBER})\s*mm\s*", re.IGNORECASE)


Write = Callable[[float], str]


def shortly(number: float) -> str:
    return f"{number:g}"


def resolution_text(points: Sequence[Sequence[float]] | None, write: Write = shortly) -> str:
    """Line pairs per mm at f-numbers, as they are read: 60 at f/2.8; 75 at f/5.6."""
    return "; ".join(f"{write(per_mm)} at f/{write(stop)}" for stop, per_mm in points or ())


def read_resolution(text: str) -> list[list[float]]:
    """Points (f-number, line pairs per mm) from a text, or ValueError."""
    parts = [part for part in text[: LONGEST + 1].split(";") if part.strip()]
    matched = [AT.fullmatch(part) for part in parts]
    if len(text) > LONGEST or not all(matched):
        raise ValueError(text[:LONGEST])
    points = sorted([f_number(match[2]), number(match[1], *PER_MM)] for match in matched if match)
    if len({stop for stop, _ in points}) < len(points) or any(not per_mm > 0 for _, per_mm in points):
        raise ValueError(text)
    return points


def away_text(points: Sequence[Sequence[float]] | None, write: Write = shortly) -> str:
    """The same away from the middle: at 10 mm: 50 at f/2.8, 60 at f/5.6; at 21 mm: 40 at f/2.8."""
    said: dict[float, list[str]] = {}
    for height, stop, per_mm in points or ():
        said.setdefault(height, []).append(f"{write(per_mm)} at f/{write(stop)}")
    return "; ".join(f"at {write(height)} mm: {', '.join(parts)}" for height, parts in said.items())


def read_away(text: str) -> list[list[float]]:
    """Points (image height, f-number, line pairs per mm) from a text, or ValueError."""
    points = []
    for part in filter(str.strip, text.split(";")):
        place, colon, said = part.partition(":")
        place_read = PLACE.fullmatch(place)
        if not place_read or not colon:
            raise ValueError(text)
        height = number(place_read[1], *HEIGHTS)
        points += [[height, *point] for point in read_resolution(said.replace(",", ";"))]
    if any(not height > 0 for height, *_ in points) or len({tuple(match[:2]) for match in points}) < len(points):
        raise ValueError(text)
    return sorted(points)


def fall_off_text(points: Sequence[Sequence[float]] | None, write: Write = shortly) -> str:
    """Stops of light lost at image heights: 0.5 at 10 mm; 1.5 at 21 mm."""
    return "; ".join(f"{write(stops)} at {write(height)} mm" for height, stops in points or ())


def read_fall_off(text: str) -> list[list[float]]:
    """Points (image height, stops) from a text, or ValueError."""
    losses = [LOST.fullmatch(part) for part in text.split(";") if part.strip()]
    if not all(losses):
        raise ValueError(text)
    points = sorted([number(loss[2], *HEIGHTS), number(loss[1], *LOST_STOPS)] for loss in losses if loss)
    if len({height for height, _ in points}) < len(points) or any(not height > 0 for height, _ in points):
        raise ValueError(text)
    return points


@dataclass(frozen=True)
class PointsText:
    """How a list of points is written and read as one text, with an example."""

    write: Callable[..., str]
    read: Callable[[str], list[list[float]]]
    example: str


POINTS = {
    "mtf50": PointsText(resolution_text, read_resolution, "60 at f/2.8; 75 at f/5.6"),
    "mtf50_away": PointsText(away_text, read_away, "at 10 mm: 50 at f/2.8, 60 at f/5.6; at 21 mm: 40 at f/2.8"),
    "fall_off": PointsText(fall_off_text, read_fall_off, "0.5 at 10 mm; 1.5 at 21 mm"),
}
