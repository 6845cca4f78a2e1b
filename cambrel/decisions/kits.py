"""Which kit can take which pictures: the best rig of every kit for every picture, and what limits a kit.

The best rig of a kit is the first by status, then by the least room it leaves, then by grams, then by name, and by
nothing else.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from math import inf

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison import best_settings
from cambrel.comparison.bodies import bodies_of
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import Comparison, RigFigures, compare
from cambrel.comparison.fulfilment import Check, Fulfilment, fulfilment
from cambrel.comparison.lenses import lenses_of
from cambrel.comparison.rig import Rig
from cambrel.comparison.status import Status
from cambrel.optics.quantities import Array, DomainError

ORDER = (Status.DOES, Status.NEARLY, Status.UNKNOWN, Status.CANNOT)
SCORE = {Status.DOES: 1.0, Status.NEARLY: 0.5, Status.CANNOT: 0.0, Status.UNKNOWN: 0.0}
LEVEL_SHARE = 0.05
"""Of one's pictures: kits that differ by no more are even."""
AT_BEST = Hold(is_best=True)
LAST_ASKED = 256
"""So many comparisons are kept: whoever turns a decision over asks for the same ones again and again."""
UNFRAMED = Check("how wide it is framed is not known", {}, "framing", Status.UNKNOWN)


@dataclass(frozen=True)
class PictureShare:
    """A picture that one makes, with its framing, and what share of one's pictures it is."""

    brief: Brief
    share: float


@dataclass(frozen=True)
class BestRig:
    """A picture as a kit takes it best: the number of its rig in the kit, where that stands in a comparison, and how
    far it makes the picture.
    """

    rig: int
    comparison: Comparison
    place: int
    judged: Fulfilment

    @property
    def status(self) -> Status:
        return self.judged.status

    @property
    def figures(self) -> RigFigures:
        return self.comparison.of(self.place)


def grams(rig: Rig) -> float:
    """What body, lens and what is between them weigh; endless where that is not known, so that it wins nothing.

    Parameters
        rig: on any body
    Returns
        [g]; infinity where it is not known, so that it wins nothing
    """
    parts = (rig.body.weight_g, rig.lens.weight_g, rig.converter_weight_g)
    return inf if None in parts else sum(part for part in parts if part is not None)


def choose(
    pictures: Sequence[PictureShare], kits: Sequence[Sequence[Rig]], conventions: Conventions
) -> list[list[BestRig | None]]:
    """The best rig of every kit for every picture.

    Parameters
        pictures: that one makes
        kits: of each the rigs that can be made of it, in the order of their names
        conventions: the schools in force
    Returns
        for each picture a cell of each kit; None for a kit of which no rig can be made, or that sees nothing of it
    """
    rigs = [rig for kit in kits for rig in kit]
    starts = np.cumsum([0, *(len(kit) for kit in kits)]).tolist()
    glass = lenses_of([rig.lens for rig in rigs], [rig.converter for rig in rigs]) if rigs else None
    weights = np.array([grams(rig) for rig in rigs])
    made: list[list[BestRig | None]] = []
    for picture in pictures:
        best: dict[int, int] = {}
        if glass is not None:
            asked = best_settings.asked_of(
                picture.brief, bodies_of(picture.brief, rigs, conventions), glass, conventions
            )
            places = places_of(asked.status)
            for kit, (first, after) in enumerate(pairwise(starts)):
                if first < after:
                    # the last key decides first; where they are even the first by name
                    order = np.lexsort((weights[first:after], -asked.margin_stops[first:after], places[first:after]))
                    best[kit] = first + int(order[0])
        best_rigs = tuple(rigs[index] for index in best.values())
        cells = dict(zip(best, _at_best(picture.brief, best_rigs, conventions, conventions.home), strict=True))
        made.append([_as_numbered(cells.get(kit), best.get(kit, 0) - starts[kit]) for kit in range(len(kits))])
    return made


def _as_numbered(cell: BestRig | None, rig: int) -> BestRig | None:
    """The same with the number that its rig has in its kit."""
    return None if cell is None else replace(cell, rig=rig)


def places_of(statuses: NDArray[np.object_]) -> Array:
    """The places of statuses in their order, the best first.

    Parameters
        statuses: one for each rig
    Returns
        0 for the best
    """
    places = np.full(len(statuses), len(ORDER) - 1)
    for place, status in enumerate(ORDER[:-1]):
        places[statuses == status] = place
    return places


@lru_cache(maxsize=LAST_ASKED)
def _at_best(brief: Brief, rigs: tuple[Rig, ...], conventions: Conventions, home: str) -> tuple[BestRig | None, ...]:
    """All figures of rigs at their best, in their order; None for one that sees nothing of the picture. `home` is that
    of the conventions, in whose equality it does not count.
    """
    is_framed = brief.width_shown_m is not None or brief.framing_deg is not None
    try:
        if not is_framed and len(rigs) > 1:
            raise DomainError("framing", "what the picture asks for", len(rigs))
        made = compare(brief, rigs, AT_BEST, conventions)
    except DomainError:
        # each by itself: what one cannot is nothing to the others, and a picture without a framing has that of no other
        return (None,) if len(rigs) == 1 else tuple(_at_best(brief, (rig,), conventions, home)[0] for rig in rigs)
    judged = fulfilment(made) if is_framed else [Fulfilment(place, (UNFRAMED,)) for place in range(len(rigs))]
    return tuple(BestRig(0, made, place, judged[place]) for place in range(len(rigs)))


def share_made(pictures: Sequence[PictureShare], cells: Sequence[BestRig | None]) -> float:
    """What share of the pictures a kit makes.

    Parameters
        pictures: that one makes
        cells: the best rig of the kit for each, None where it has none
    Returns
        from 0 to 1
    """
    total = sum(picture.share for picture in pictures)
    made = sum(
        picture.share for picture, cell in zip(pictures, cells, strict=True) if cell and cell.status == Status.DOES
    )
    return made / total if total else 0.0


def limits(pictures: Sequence[PictureShare], cells: Sequence[BestRig | None]) -> str:
    """What fails most often where a kit cannot take a picture; empty where it can take all.

    Parameters
        pictures: that one makes
        cells: the best rig of the kit for each, None where it has none
    Returns
        the key of a demand; empty where it makes all
    """
    missing: dict[str, float] = {}
    for picture, cell in zip(pictures, cells, strict=True):
        if cell is not None and cell.status != Status.DOES and picture.share > 0:
            key = cell.judged.checks[0].key
            missing[key] = missing.get(key, 0.0) + picture.share
    return max(missing, key=lambda key: missing[key], default="")


def lead(pictures: Sequence[PictureShare], one: Sequence[BestRig | None], other: Sequence[BestRig | None]) -> float:
    """By what share of the pictures one kit is ahead of another: a picture counts one where it is made, half where it
    is just missed.

    Parameters
        pictures: that one makes
        one, other: the best rig of each kit for each picture, None where it has none
    Returns
        from -1 to 1
    """
    total = sum(picture.share for picture in pictures)
    ahead = sum(picture.share * (_score(a) - _score(b)) for picture, a, b in zip(pictures, one, other, strict=True))
    return ahead / total if total else 0.0


def _score(cell: BestRig | None) -> float:
    return 0.0 if cell is None else SCORE[cell.status]


def is_as_good(one: Sequence[BestRig | None], other: Sequence[BestRig | None]) -> bool:
    """Whether a kit is at least as good in every picture.

    Parameters
        one, other: the best rig of each kit for each picture, None where it has none
    Returns
        False where the other is better in any
    """
    return all(_place(a) <= _place(b) for a, b in zip(one, other, strict=True))


def makes(cell: BestRig | None) -> bool:
    """Whether a kit can take a picture.

    Parameters
        cell: the best rig of a kit for it, None where it has none
    Returns
        False where it is only nearly made
    """
    return cell is not None and cell.status == Status.DOES


def _place(cell: BestRig | None) -> int:
    return len(ORDER) if cell is None else ORDER.index(cell.status)
