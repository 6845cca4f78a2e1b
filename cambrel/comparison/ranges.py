"""A bag as a whole: each lens on each body as full frame sees it, and where the range has gaps and overlaps. Lengths in
mm.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from cambrel.comparison.rig import Lens
from cambrel.optics.formats import Sensor, crop_factor
from cambrel.optics.geometry import angle_of_view_deg
from cambrel.optics.quantities import DomainError


@dataclass(frozen=True)
class EquivalentRange:
    """A lens on a body: its range and f-numbers as full frame sees them; None where unknown, or for a fisheye."""

    equivalent_min_mm: float | None
    equivalent_max_mm: float | None
    f_number_short: float | None
    f_number_long: float | None
    view_wide_deg: float | None
    view_long_deg: float | None


@dataclass(frozen=True)
class Span:
    """A stretch of focal lengths and how many lenses reach it: none is a gap, two and more an overlap."""

    low_mm: float
    high_mm: float
    lenses: tuple[int, ...]


def equivalent_range(lens: Lens, sensor: Sensor, by: str = "diagonal") -> EquivalentRange:
    """What a lens becomes on a sensor.

    Parameters
        lens, sensor: the two
        by: measure of the crop factor, a key of CROP_MEASURES
    Returns
        EquivalentRange with full-frame equivalents and diagonal angles of view at infinity; all None for a fisheye or a
        lens of any length
    """
    short, long = lens.focal_min_mm, lens.focal_max_mm
    if not lens.rectilinear or short is None or long is None:
        return EquivalentRange(None, None, None, None, None, None)
    crop = crop_factor(sensor, by=by)
    wide = float(angle_of_view_deg(dimension_mm=sensor.diagonal_mm, focal_length_mm=short))
    narrow = float(angle_of_view_deg(dimension_mm=sensor.diagonal_mm, focal_length_mm=long))
    if not lens.widest:
        return EquivalentRange(short * crop, long * crop, None, None, wide, narrow)
    ends = float(lens.widest_f_number(short)) * crop, float(lens.widest_f_number(long)) * crop
    return EquivalentRange(short * crop, long * crop, *ends, wide, narrow)


def spans(ranges: Sequence[tuple[float, float]]) -> list[Span]:
    """The whole stretch from the shortest to the longest focal length, cut where a range begins or ends.

    Parameters
        ranges: shortest and longest of each lens [mm]
    Returns
        spans from short to long; a single focal length is no stretch, but cuts the one it stands in
    Raises
        DomainError for a range that runs backwards
    """
    for index, (low, high) in enumerate(ranges):
        if not 0 < low <= high:
            raise DomainError("ranges", "from short to long and above 0", (low, high), (index,))
    edges = sorted({edge for pair in ranges for edge in pair})
    in_order: list[Span] = []
    for low, high in pairwise(edges):
        inside = tuple(i for i, (start, end) in enumerate(ranges) if start <= low and end >= high)
        if in_order and in_order[-1].lenses == inside and inside:
            in_order[-1] = Span(in_order[-1].low_mm, high, inside)
        else:
            in_order.append(Span(low, high, inside))
    return in_order
