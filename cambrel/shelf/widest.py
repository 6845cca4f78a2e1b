"""F-numbers along a range as they are written: f/2.8, f/3.5-5.6, or f/3.5 at 15; f/4.2 at 23."""

import re
from collections.abc import Sequence

from cambrel.phrases.typed_figures import f_number, number

LONGEST = 200
FOCALS = 0.5, 10_000.0
NUMBER = r"\d+(?:[.,]\d+)?"
AT = re.compile(rf"[fƒ]?/?\s*({NUMBER})\s*(?:at|@)\s*({NUMBER})\s*(?:mm)?", re.IGNORECASE)
ENDS = re.compile(rf"(?:[fƒ]/?|1:)?\s*({NUMBER})(?:\s*[-–]\s*({NUMBER}))?", re.IGNORECASE)


def widest_text(points: Sequence[tuple[float, float]]) -> str:
    """F-numbers along the range as they are read: f/2.8, or f/3.5 at 15; f/5.6 at 45."""
    if not points:
        return ""
    if len({number for _, number in points}) == 1:
        return f"f/{points[0][1]:g}"
    return "; ".join(f"f/{number:g} at {focal:g}" for focal, number in points)


def read_widest(text: str, focal_min: float | None, focal_max: float | None) -> list[list[float]]:
    """Points (focal length, f-number) from a text, or ValueError."""
    if len(text) > LONGEST:
        raise ValueError(text[:LONGEST])
    points = AT.findall(text)
    if points and not AT.sub("", text).strip(" ;,"):
        return sorted([number(focal, *FOCALS), f_number(widest)] for widest, focal in points)
    ends = ENDS.fullmatch(text.strip())
    if not ends:
        raise ValueError(text)
    first, last = f_number(ends[1]), f_number(ends[2] or ends[1])
    if focal_min is None:
        raise ValueError(text)
    if focal_min == focal_max or focal_max is None:
        return [[focal_min, first]]
    return [[focal_min, first], [focal_max, last]]
