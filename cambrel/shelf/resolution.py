"""How finely a lens draws at its f-numbers, as it is written: 60 at f/2.8; 75 at f/5.6, in line pairs per mm."""

import re
from typing import Any

from cambrel.fields import parse_number
from cambrel.shelf.widest import LONGEST, NUMBER

AT = re.compile(rf"\s*({NUMBER})\s*(?:lp/mm|/mm)?\s*(?:at|@)\s*f?/?\s*({NUMBER})\s*", re.IGNORECASE)


def resolution_text(points: Any) -> str:
    """Line pairs per mm at f-numbers, as they are read: 60 at f/2.8; 75 at f/5.6."""
    return "; ".join(f"{per_mm:g} at f/{number:g}" for number, per_mm in points or ())


def read_resolution(text: str) -> list[list[float]]:
    """Points (f-number, line pairs per mm) from a text, or ValueError."""
    parts = [part for part in text[: LONGEST + 1].split(";") if part.strip()]
    found = [AT.fullmatch(part) for part in parts]
    if len(text) > LONGEST or not all(found):
        raise ValueError(text[:LONGEST])
    points = sorted([parse_number(one[2]), parse_number(one[1])] for one in found if one)
    if len({number for number, _ in points}) < len(points) or any(not per_mm > 0 for _, per_mm in points):
        raise ValueError(text)
    return points
