"""What the name of a lens says of it, by the one reader of photographic wording. Taken only where nothing else says it,
and marked.
"""

from collections.abc import Mapping

from cambrel.owners.sections import Row
from cambrel.phrases.reader import read

NARROWEST, WIDEST = 0.5, 64


def figures_of_name(name: str, codes: Mapping[str, str] | None = None) -> Row:
    """The fields of a lens that its name states: focal lengths, f-numbers and, by the owner's letter codes, format and
    mount.
    """
    side = read(name, codes or {}).sides[0]
    if side.focal_min_mm is None or side.equivalent:
        return {}
    low, high = side.focal_min_mm, side.focal_max_mm or side.focal_min_mm
    said: dict[str, object] = {"focal_min_mm": low, "focal_max_mm": high}
    if side.f_number is not None and NARROWEST <= side.f_number <= WIDEST:
        said["widest"] = points_of(low, high, side.f_number, side.f_number_long)
    if side.format:
        said["designed_for"] = side.format
    if side.mount:
        said["mount"] = side.mount
    return said


def points_of(low: float, high: float, f_number: float, f_number_long: float | None = None) -> list[list[float]]:
    """F-numbers along a range: one point for a prime, two for a zoom."""
    return [[low, f_number]] if low == high else [[low, f_number], [high, f_number_long or f_number]]


def filled_from_name(row: Row, codes: Mapping[str, str] | None = None) -> Row:
    """A lens's row with what its name adds where the row says nothing; the fields that were added are named in
    `inferred`.
    """
    if row.get("focal_min_mm") is not None and row.get("widest"):
        return row
    said = figures_of_name(row.get("name", ""), codes)
    if row.get("focal_min_mm") is not None:
        stated = (row["focal_min_mm"], row.get("focal_max_mm", row["focal_min_mm"]))
        if (said.get("focal_min_mm"), said.get("focal_max_mm")) != stated:
            return row  # the name speaks of another range
    added = {name: value for name, value in said.items() if row.get(name) in (None, "", [])}
    if not added:
        return row
    return row | added | {"inferred": sorted({*row.get("inferred", ()), *added})}
