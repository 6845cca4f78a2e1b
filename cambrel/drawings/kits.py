"""Kits as bars: the share of one's pictures that each makes, what it weighs and what it costs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from cambrel.drawings.shapes import Drawing, Label, Rect, Shape, rig_role, shortened
from cambrel.wording import LETTERS, share

NAMES, GAP, ROW, BAR, TOP = 190.0, 28.0, 24.0, 13.0, 22.0
BESIDE = 110.0
"""Left beside each bar for its figure."""


@dataclass(frozen=True)
class KitBars:
    """A kit: the shares of the pictures that it makes and just misses, the grams of its bodies, lenses and supports,
    what it costs.
    """

    name: str
    made: float
    missed: float
    grams: tuple[float, float, float]
    weighs: str
    price: float
    costs: str


def kits_drawing(kits: Sequence[KitBars], width: float = 1216.0) -> Drawing:
    """Three bars of every kit, each kind under one scale.

    Parameters
        kits: one or more
        width: [px]
    Returns
        shapes, a title and a description
    """
    column = (width - NAMES - 2 * GAP) / 3
    most = (1.0, max(max(sum(kit.grams) for kit in kits), 1.0), max(max(kit.price for kit in kits), 1.0))
    starts = [NAMES + index * (column + GAP) for index in range(3)]
    shapes: list[Shape] = [
        Label(x, 13, label, "label", size=12)
        for x, label in zip(
            starts, ("pictures made, paler: just missed", "weight: bodies, lenses, supports", "price"), strict=True
        )
    ]
    for index, kit in enumerate(kits):
        y = TOP + index * ROW
        shapes.append(Label(0, y + 11, LETTERS[index], rig_role(index, "letter"), size=13))
        shapes.append(Label(18, y + 11, shortened(kit.name, NAMES - 28, 12), "label", size=12))
        rows = (
            ((kit.made, kit.missed), f"{share(kit.made)}" + (f" + {share(kit.missed)}" if kit.missed else "")),
            (kit.grams, kit.weighs),
            ((kit.price,), kit.costs),
        )
        for start, end, (parts, says) in zip(starts, most, rows, strict=True):
            x = start
            for place, part in enumerate(parts):
                wide = part / end * (column - BESIDE)
                if wide > 0:
                    shapes.append(Rect(x, y, wide, BAR, f"kit-part-{place}", f"{kit.name}: {says}"))
                    x += wide
            shapes.append(Label(x + 5, y + 11, shortened(says, start + column + GAP - x - 8, 11), "value", size=11))
    said = " ".join(f"{kit.name}: makes {share(kit.made)}, weighs {kit.weighs}, costs {kit.costs}." for kit in kits)
    return Drawing(width, TOP + len(kits) * ROW + 4, tuple(shapes), "Kits side by side", said)
