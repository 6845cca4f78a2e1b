"""Lenses by what they cost in weight or money against their equivalent f-number: a mark each, those that none betters
joined by a line.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import log2

from cambrel import wording
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Circle, Drawing, Label, Line, Path, Rect, Shape, place_label, shortened
from cambrel.optics.stops import F_NUMBERS, between

LEFT, RIGHT, TOP, BOTTOM = 38.0, 8.0, 16.0, 34.0
LONGEST_NAME = 120.0


@dataclass(frozen=True)
class Candidate:
    """A lens: what it costs, its equivalent f-number, and whether none other is both lighter (or cheaper) and
    faster.
    """

    name: str
    cost: float
    f_number: float
    is_efficient: bool


def tradeoff_drawing(
    candidates: Sequence[Candidate], cost_label: str, width: float = 340.0, height: float = 220.0
) -> Drawing:
    """Cost along, equivalent f-number down, so that left and down is lighter and faster.

    Parameters
        candidates: at least one, with known figures above zero
        cost_label: what is paid, with its unit
        width, height: [px]
    Returns
        shapes, a title and a description
    """
    window = Rect(LEFT, TOP, width - LEFT - RIGHT, height - TOP - BOTTOM)
    costs, numbers = [c.cost for c in candidates], [c.f_number for c in candidates]
    along = PixelScale(0.0, max(costs) * 1.08, window.x, window.x + window.width)
    up = PixelScale(min(numbers) / 1.12, max(numbers) * 1.12, window.y + window.height, window.y, logarithmic=True)
    shapes = _grid(along, up, window, cost_label)
    best = sorted((c for c in candidates if c.is_efficient), key=lambda c: c.cost)
    shapes.append(Path(tuple((along(c.cost), up(c.f_number)) for c in best), "tradeoff-line"))
    taken: list[Rect] = []
    for c in candidates:
        x, y = along(c.cost), up(c.f_number)
        tip = f"{c.name}: {wording.significant(c.cost)}, {wording.f_number(c.f_number)}"
        if c.is_efficient:
            shapes.append(Path(((x, y - 5), (x + 5, y), (x, y + 5), (x - 5, y)), "tradeoff-best", closed=True))
            shapes.append(Circle(x, y, 6, "tradeoff-touch", tip))
            taken.append(Rect(x - 5, y - 5, 10, 10))
        else:
            shapes.append(Circle(x, y, 3, "tradeoff-other", tip))
            taken.append(Rect(x - 3, y - 3, 6, 6))
    for c in best:
        name, x, y = shortened(c.name, LONGEST_NAME, 10.5), along(c.cost), up(c.f_number)
        around = [
            Label(x + 8, y + 4, name, "value", size=10.5),
            Label(x - 8, y + 4, name, "value", "end", 10.5),
            Label(x, y - 8, name, "value", "middle", 10.5),
            Label(x, y + 15, name, "value", "middle", 10.5),
        ]
        if label := place_label(around, taken, window):
            taken.append(label.box)
            shapes.append(label)
    title = f"Equivalent f-number against {cost_label}"
    return Drawing(width, height, tuple(shapes), title, describe(candidates, cost_label))


def _grid(along: PixelScale, up: PixelScale, window: Rect, cost_label: str) -> list[Shape]:
    bottom, right = window.y + window.height, window.x + window.width
    shapes: list[Shape] = [Line(window.x, bottom, right, bottom, "axis")]
    for tick in along.ticks(6):
        shapes.append(Line(along(tick), window.y, along(tick), bottom, "grid"))
        shapes.append(Label(along(tick), bottom + 14, wording.significant(tick), "tick", "middle", 10.5))
    stops = between(F_NUMBERS, up.low, up.high)
    whole = [stop for stop in stops if abs(2 * log2(stop.exact) - round(2 * log2(stop.exact))) < 0.05] or stops
    for stop in whole:
        y = up(stop.exact)
        shapes.append(Line(window.x, y, right, y, "grid"))
        shapes.append(Label(window.x - 4, y + 4, f"f/{stop.marked}", "tick", "end", 10.5))
    shapes.append(Label(right, bottom + 28, cost_label, "label", "end", 11))
    shapes.append(Label(2, window.y - 5, "equivalent f-number", "label", size=11))
    return shapes


def describe(candidates: Sequence[Candidate], cost_label: str) -> str:
    """The same in words.

    Parameters
        candidates: at least one
        cost_label: what is paid, with its unit
    Returns
        sentences
    """
    best = sorted((c for c in candidates if c.is_efficient), key=lambda c: c.cost)
    named = "; ".join(f"{c.name} {wording.significant(c.cost)}, {wording.f_number(c.f_number)}" for c in best)
    return f"{len(candidates)} by {cost_label}. No other is both lighter or cheaper and faster than: {named}."
