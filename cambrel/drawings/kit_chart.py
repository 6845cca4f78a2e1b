"""Kits by the share of the pictures that each can take against what it weighs or costs: a letter each, that can be
pressed.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import isfinite, sqrt

from cambrel import wording
from cambrel.drawings.scales import PixelScale

LEFT, RIGHT, TOP, BOTTOM = 42.0, 20.0, 14.0, 34.0
RADIUS = 10.0
MOST_TICKS = 5


@dataclass(frozen=True)
class KitPoint:
    """A kit: its letter and name, the share it can take, and what it weighs or costs; unknown as NaN."""

    index: int
    name: str
    share: float
    cost: float


@dataclass(frozen=True)
class KitMark:
    """A letter on the chart; says: all of it in words."""

    letter: str
    name: str
    x: float
    y: float
    says: str


@dataclass(frozen=True)
class KitChart:
    """The places of all that is drawn, and the ticks of both scales as (place, text)."""

    width: float
    height: float
    base: float
    left: float
    right: float
    label: str
    marks: tuple[KitMark, ...]
    costs: tuple[tuple[float, str], ...]
    shares: tuple[tuple[float, str], ...]


def kit_chart(
    points: Sequence[KitPoint],
    label: str,
    say: Callable[[float], str],
    width: float = 340.0,
    height: float = 130.0,
) -> KitChart | None:
    """Cost along, share up, so that up and left is more for less; letters on one place stand beside each other.

    Parameters
        points: the kits
        label: what is weighed against the pictures
        say: an amount of it in words
        width, height: [px]
    Returns
        the chart of those whose cost is known; None for fewer than two
    """
    known = [point for point in points if isfinite(point.cost) and point.cost > 0]
    if len(known) < 2:
        return None
    along = PixelScale(0.0, max(point.cost for point in known) * 1.05, LEFT, width - RIGHT)
    up = PixelScale(0.0, 1.0, height - BOTTOM, TOP)
    ordered = sorted(known, key=lambda point: point.cost)
    heights = [up(point.share) for point in ordered]
    places = _beside([along(point.cost) for point in ordered], heights, LEFT, width - RIGHT)
    marks = tuple(_mark(point, x, y, say) for point, x, y in zip(ordered, places, heights, strict=True))
    return KitChart(
        width, height, height - BOTTOM, LEFT, width - RIGHT, label, marks,
        tuple((along(value), say(value)) for value in along.ticks(MOST_TICKS) if value > 0),
        tuple((up(share), wording.share(share)) for share in (0.0, 0.5, 1.0)),
    )  # fmt: skip


def _mark(point: KitPoint, x: float, y: float, say: Callable[[float], str]) -> KitMark:
    letter = wording.LETTERS[point.index]
    says = f"{letter}, {point.name}: {wording.share(point.share)} of the pictures, {say(point.cost)}"
    return KitMark(letter, point.name, x, y, says)


def _beside(places: Sequence[float], heights: Sequence[float], least: float, most: float) -> list[float]:
    """Ascending places, moved to both sides so that no letter covers another or leaves the scale; their order stays."""
    count = len(places)
    gaps = [[sqrt(max(0.0, (2 * RADIUS) ** 2 - (y - other) ** 2)) for other in heights] for y in heights]

    def pushed_right(moved: Sequence[float]) -> list[float]:
        right: list[float] = []
        for index, place in enumerate(moved):
            right.append(max([place, *(right[of] + gaps[index][of] for of in range(index) if gaps[index][of])]))
        return right

    def pushed_left(moved: Sequence[float]) -> list[float]:
        left = list(moved)
        for index in reversed(range(count)):
            later = range(index + 1, count)
            left[index] = min([left[index], *(left[of] - gaps[index][of] for of in later if gaps[index][of])])
        return left

    between = [(right + left) / 2 for right, left in zip(pushed_right(places), pushed_left(places), strict=True)]
    from_least = pushed_right([max(least, place) for place in between])
    return pushed_left([min(most, place) for place in from_least])
