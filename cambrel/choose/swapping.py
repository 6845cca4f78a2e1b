"""One zoom or several primes: what each kit makes with the one kind of its lenses alone, at what weight, in what light,
with what changes.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from cambrel import wording
from cambrel.choose.deciding import Decision
from cambrel.choose.packing import Packed
from cambrel.comparison.rig import Lens
from cambrel.decisions.choice import KitBag, Piece
from cambrel.decisions.kits import BestRig, makes, share_made
from cambrel.optics.quantities import is_unknown
from cambrel.wording.sentences import listed


@dataclass(frozen=True)
class LensWay:
    """A kit with its zooms or its primes alone."""

    name: str
    made: str
    weighs: str
    covers: str
    light: str
    changes: str


def ways(decision: Decision) -> tuple[list[LensWay], list[str]]:
    """Each kit that has both kinds, with the one and the other alone; and in words which makes more."""
    all_ways: list[LensWay] = []
    said: list[str] = []
    for kit in decision.kits:
        zooms = [piece for piece in kit.loose if piece.what.is_zoom]
        primes = [piece for piece in kit.loose if not piece.what.is_zoom]
        if not zooms or not primes:
            continue
        bags = [_with(kit, zooms, "zooms"), _with(kit, primes, "primes")]
        apart = Decision([Packed(bag) for bag in bags], decision.tasks, decision.shares, decision.conventions)
        all_ways += [_way(apart, index) for index in range(2)]
        said.append(_said(kit, apart))
    return all_ways, said


def _with(kit: Packed, lenses: list[Piece[Any]], kind: str) -> KitBag:
    pieces = tuple(piece for piece in kit.bag.pieces if not isinstance(piece.what, Lens) or piece in lenses)
    return KitBag(f"{kit.name}, its {kind}", pieces)


def _way(apart: Decision, index: int) -> LensWay:
    kit, column = apart.kits[index], apart.column(index)
    return LensWay(
        kit.name,
        wording.share(share_made(apart.pictures, column)),
        wording.mass(kit.weighs(apart.needed)) if not is_unknown(kit.weighs(apart.needed)) else "unknown",
        kit.covers(apart.conventions) or "nothing that is known",
        _light(kit),
        _changes(kit, column),
    )


def _light(kit: Packed) -> str:
    """The widest and the narrowest of what its lenses open to."""
    numbers = [number for piece in kit.loose for _, number in piece.what.widest]
    return wording.f_number_range(min(numbers), max(numbers)) if numbers else "unknown"


def _changes(kit: Packed, column: list[BestRig | None]) -> str:
    """How often the lens is changed from picture to picture, taken in their order."""
    used = [kit.pairs[cell.rig] for cell in column if cell is not None and makes(cell)]
    on: dict[str, str] = {}
    count = 0
    for body, lens in used:
        count += on.get(body.name, lens.name) != lens.name
        on[body.name] = lens.name
    return f"{count} in {len(used)} pictures" if used else "no picture"


def _said(kit: Packed, apart: Decision) -> str:
    names = [f"“{task.task.name}”" for task in apart.tasks]
    zooms, primes = apart.column(0), apart.column(1)
    only = [
        [name for name, a, b in zip(names, *pair, strict=True) if makes(a) and not makes(b)]
        for pair in ((zooms, primes), (primes, zooms))
    ]
    if not any(only):
        return f"{kit.name}: its zooms and its primes can take the same pictures."
    parts = [
        f"its {kind} alone can take {listed(those)}"
        for kind, those in zip(("zooms", "primes"), only, strict=True)
        if those
    ]
    return f"{kit.name}: " + ", ".join(parts) + "."
