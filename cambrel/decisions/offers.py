"""What a shelf offers a kit, and what each thing of it wins at most: the settings that are asked alone decide that, in
one broadcast a picture, as what else is demanded can only lessen it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import inf, nan

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison import best_settings
from cambrel.comparison.bodies import Bodies, bodies_of
from cambrel.comparison.brief import Conventions
from cambrel.comparison.lenses import Lenses, lenses_of
from cambrel.comparison.rig import Rig
from cambrel.decisions.kits import ORDER, SCORE, BestRig, PictureShare, choose, places_of
from cambrel.optics.quantities import Array

CHUNK = 6_000
"""Lenses that are worked out at once: more leaves the processor's cache."""
_SCORES = np.array([SCORE[status] for status in ORDER])


RigsOf = Callable[[int], Sequence[Rig]]
"""The rigs of an offered thing, by its number."""


@dataclass(frozen=True)
class Thing:
    """A body or a lens: what it weighs and costs; NaN where that is not known."""

    is_body: bool
    grams: float = nan
    price: float = nan
    currency: str = ""


@dataclass(frozen=True)
class KitRigs:
    """A kit: the rigs that can be made of it, the things in it, and for each rig the numbers of those that it is made
    of.
    """

    rigs: Sequence[Rig]
    things: Sequence[Thing] = ()
    made_of: Sequence[frozenset[int]] = ()

    def without(self, number: int) -> list[Rig]:
        """The rigs that are left without one of the things."""
        return [rig for rig, needs in zip(self.rigs, self.made_of, strict=True) if number not in needs]

    def needing(self, number: int) -> NDArray[np.bool_]:
        """Which rigs go with a thing."""
        return np.array([number in needs for needs in self.made_of], dtype=bool)


@dataclass(frozen=True)
class AddedThings:
    """The things of a shelf that are not in the kit, and what rigs each makes with what is there: of which lens, on
    which body.

    backs: a rig of each body; glass: of every lens that goes on one; lens, back, thing: of each rig their numbers
    grams, price, currency, is_body, is_wanted: of each thing; what is not wanted, by what the photographer must have,
        is only told apart
    """

    backs: Sequence[Rig]
    glass: Lenses
    lens: NDArray[np.int64]
    back: NDArray[np.int64]
    thing: NDArray[np.int64]
    grams: Array
    price: Array
    currency: NDArray[np.str_]
    is_body: NDArray[np.bool_]
    is_wanted: NDArray[np.bool_]
    room_g: float = inf
    """By how much more the kit may weigh, and cost, to be wanted."""
    room_price: float = inf

    def __len__(self) -> int:
        return len(self.grams)


@dataclass(frozen=True)
class WonAtMost:
    """By the settings that are asked alone, from 0 to 1: what a kit gets for each picture now, with all that is
    demanded; what it gets without each of its things (things by pictures); what each offered thing gets (pictures by
    things).
    """

    now: Array
    left: Array
    best: Array


def won_at_most(
    pictures: Sequence[PictureShare], bag: KitRigs, offered: AddedThings, conventions: Conventions
) -> WonAtMost | None:
    """What every change wins at most.

    Parameters
        pictures: that one makes
        bag: what there is
        offered: what might come
        conventions: the schools in force
    Returns
        None where no picture has a share
    """
    *_, (_, most) = [(0.0, None), *weighing(pictures, bag, offered, conventions)]
    return most


def weighing(
    pictures: Sequence[PictureShare], bag: KitRigs, offered: AddedThings, conventions: Conventions
) -> Iterator[tuple[float, WonAtMost | None]]:
    """The same in steps.

    Parameters
        pictures, bag, offered, conventions: the same
    Returns
        after each step what share is done, at the end with what was found; nothing where no picture has a share
    """
    total = sum(picture.share for picture in pictures)
    if not total:
        return
    now = np.array(made_now(pictures, bag.rigs, conventions))
    left = np.zeros((len(bag.things), len(pictures)))
    # a picture that is never made turns nothing, and none is taken to be made less well before it is worked out
    best = np.array([[0.0 if picture.share else 1.0] * len(offered) for picture in pictures])
    parts = [slice(start, start + CHUNK) for start in range(0, len(offered.lens), CHUNK)]
    for at, picture in enumerate(pictures):
        if bag.rigs:
            got = _asked(picture, bodies_of(picture.brief, bag.rigs, conventions), _glass(bag.rigs), conventions)
            for number in range(len(bag.things)):
                left[number, at] = np.max(got[~bag.needing(number)], initial=0.0)
        backs = bodies_of(picture.brief, offered.backs, conventions) if parts else None
        for index, part in enumerate(parts):
            if backs is not None and picture.share:
                made = _asked(
                    picture, backs.take(offered.back[part]), offered.glass.take(offered.lens[part]), conventions
                )
                np.maximum.at(best[at], offered.thing[part], made)
            yield (at + (index + 1) / len(parts)) / len(pictures), None
    yield 1.0, WonAtMost(now, left, best)


def made_now(pictures: Sequence[PictureShare], rigs: Sequence[Rig], conventions: Conventions) -> list[float]:
    """What a kit gets for each picture.

    Parameters
        pictures: that one makes
        rigs: of the kit
        conventions: the schools in force
    Returns
        from 0 to 1, one for each picture
    """
    return [_score(row[0]) for row in choose(pictures, [rigs], conventions)]


def _glass(rigs: Sequence[Rig]) -> Lenses:
    return lenses_of([rig.lens for rig in rigs], [rig.converter for rig in rigs])


def _asked(picture: PictureShare, backs: Bodies, glass: Lenses, conventions: Conventions) -> Array:
    asked = best_settings.asked_of(picture.brief, backs, glass, conventions)
    return np.asarray(_SCORES[places_of(asked.status)])


def _score(cell: BestRig | None) -> float:
    return 0.0 if cell is None else SCORE[cell.status]
