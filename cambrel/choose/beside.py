"""Kits side by side: as bars and figures, two of them owned together, and which lens of the one answers which of the
other.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations
from typing import Any

from cambrel import wording
from cambrel.choose.deciding import Decision
from cambrel.choose.packing import Packed
from cambrel.comparison.engine import Body as OpticsBody
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.fit import cover
from cambrel.comparison.opponents import answer
from cambrel.comparison.ranges import equivalent_range, spans
from cambrel.comparison.rig import Rig
from cambrel.comparison.status import Status
from cambrel.decisions.choice import Piece
from cambrel.decisions.kits import makes, share_made
from cambrel.drawings.bag import BarGroup, RangeBar, bag_drawing
from cambrel.drawings.kits import KitBars, kits_drawing
from cambrel.drawings.shapes import Drawing
from cambrel.optics.quantities import is_unknown
from cambrel.shelf.sums import weight_of
from cambrel.wording.sentences import LEVEL_STOPS, listed


@dataclass(frozen=True)
class BesideRow:
    """What stands side by side."""

    bars: Drawing | None
    ranges: Drawing | None
    both: list[str]
    asked_of: str
    opponents: list[tuple[str, list[str]]]
    others: list[str]


def side(decision: Decision) -> BesideRow:
    """All of it, for the kits of a decision."""
    kits = decision.kits
    opponents = list(_opponents(decision)) if len(kits) > 1 else []
    return BesideRow(
        kits_drawing([_bars(decision, index) for index in range(len(kits))]) if kits else None,
        _ranges(decision),
        list(_both(decision)) or ["No two together can take more than one alone."] * (len(kits) > 1),
        kits[0].name if kits else "",
        opponents,
        [kit.name for kit in kits[1:]],
    )


def _bars(decision: Decision, index: int) -> KitBars:
    kit = decision.kits[index]
    column = decision.column(index)
    total = sum(decision.shares.values()) or 1.0
    missed = sum(
        picture.share
        for picture, cell in zip(decision.pictures, column, strict=True)
        if cell and cell.status == Status.NEARLY
    )
    taken = kit.taken(decision.needed)
    kinds = [
        sum(piece.what.weight_g or 0.0 for piece in taken if piece.kind == kind) for kind in ("body", "lens", "support")
    ]
    kinds[1] += sum(thing.what.weight_g or 0.0 for thing in taken if thing.kind == "adapter")
    # prices in two currencies stand beside no common scale
    alike = {other.currency for other in decision.kits} == {kit.currency}
    return KitBars(
        kit.name,
        share_made(decision.pictures, column),
        missed / total,
        (kinds[0], kinds[1], kinds[2]),
        str(weight_of([piece.what for piece in taken])),
        kit.cost if alike and not is_unknown(kit.cost) else 0.0,
        str(kit.price),
    )


def _ranges(decision: Decision) -> Drawing | None:
    """The lenses of every kit as bars under one scale."""
    groups = []
    for index, kit in enumerate(decision.kits):
        bars = []
        for rig, (body, lens) in _one_each(kit):
            equivalent = equivalent_range(rig.lens, rig.body.sensor, by=decision.conventions.crop_by)
            low, high = equivalent.equivalent_min_mm, equivalent.equivalent_max_mm
            if low is None or high is None:
                continue
            says = wording.focal_range(low, high)
            if equivalent.f_number_short and equivalent.f_number_long:
                says += f" {wording.f_number_range(equivalent.f_number_short, equivalent.f_number_long)}"
            bars.append(RangeBar(body.name if lens in body.fixed else lens.name, low, high, says))
        ordered = tuple(sorted(bars, key=lambda bar: (bar.low_mm, bar.high_mm)))
        groups.append(
            BarGroup(
                f"{wording.LETTERS[index]} {kit.name}",
                ordered,
                tuple(spans([(bar.low_mm, bar.high_mm) for bar in ordered])),
            )
        )
    return bag_drawing(groups, 1216.0) if any(group.bars for group in groups) else None


def _both(decision: Decision) -> Iterator[str]:
    """Of each two kits what they make together, where that is more than one of them makes."""
    names = [f"“{task.task.name}”" for task in decision.tasks]
    for first, second in combinations(range(len(decision.kits)), 2):
        one, other = decision.kits[first], decision.kits[second]
        if not one.rigs or not other.rigs:
            continue
        columns = decision.column(first), decision.column(second)
        together = [a if makes(a) else b for a, b in zip(*columns, strict=True)]
        share, alone = (
            share_made(decision.pictures, together),
            max(share_made(decision.pictures, column) for column in columns),
        )
        if share <= alone + 1e-9:
            continue
        only = [name for name, a, b in zip(names, *columns, strict=True) if makes(b) and not makes(a)]
        yield (
            f"{one.name} and {other.name} together can take {wording.share(share)}, one bag at a time: "
            f"{other.name} for {listed(only)}, {one.name} for the rest."
        )


def _opponents(decision: Decision) -> Iterator[tuple[str, list[str]]]:
    """For each lens of the first kit the one that answers it in each of the others."""
    first, by = decision.kits[0], decision.conventions.crop_by
    for rig, (_, lens) in _one_each(first):
        yield lens.name, [_answered(rig, kit, by) for kit in decision.kits[1:]]


def _one_each(kit: Packed) -> list[tuple[Rig, tuple[Piece[OpticsBody], Piece[OpticsLens]]]]:
    """Each lens of a kit once, on the largest sensor that it covers."""
    best: dict[str, Any] = {}
    for rig, pair in zip(kit.rigs, kit.pairs, strict=True):
        circle = rig.lens.image_circle_mm
        covered = circle is None or cover(rig.body.sensor, circle).share > 0.999
        rank = (covered, rig.body.sensor.area_mm2)
        name = pair[1].name
        if name not in best or rank > best[name][0]:
            best[name] = (rank, rig, pair)
    return [(rig, pair) for _, rig, pair in best.values()]


def _answered(rig: Rig, kit: Packed, by: str) -> str:
    """The lens of a kit that answers a rig, in words."""
    offered = _one_each(kit)
    opponents = answer(rig, [thing for thing, _ in offered], by)
    if opponents is None:
        return "nothing"
    other, (body, lens) = offered[opponents.number]
    said: str = body.name if lens in body.fixed else lens.name
    if opponents.share < 0.995:
        said += f", {wording.share(opponents.share)} of the range"
    if opponents.stops is not None:
        level = abs(opponents.stops) <= LEVEL_STOPS
        said += (
            ", as much light"
            if level
            else f", {wording.stops(abs(opponents.stops))} {'more' if opponents.stops > 0 else 'less'} light"
        )
    if rig.lens.weight_g and other.lens.weight_g:
        more = other.lens.weight_g - rig.lens.weight_g
        said += f", {wording.mass(abs(more))} {'heavier' if more > 0 else 'lighter'}" if more else ""
    return said
