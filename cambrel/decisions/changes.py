"""What one change to a kit would turn: a thing more from a shelf, one in place of another, or one left at home.

Of twenty thousand lenses what each wins at most is known (`offers`); the few that may be worth it are then worked out
whole.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from math import inf, isnan, nan

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison.brief import Conventions
from cambrel.comparison.rig import Rig
from cambrel.decisions.kits import LEVEL_SHARE, PictureShare, choose, is_as_good, lead
from cambrel.decisions.offers import AddedThings, KitRigs, RigsOf, WonAtMost, weighing
from cambrel.optics.quantities import Array
from cambrel.wording.sentences import LEVEL_WEIGHT

MOST_LISTED = 8
MOST_LOOKED_AT = 24
MOST_LIGHTENING, BATCH = 48, 8


@dataclass(frozen=True)
class KitChange:
    """What comes and what goes (by their numbers; None for nothing), the share of the pictures that it wins, made
    where they were not, half where they were just missed, and by how much the kit then weighs and costs more; NaN where
    that is not known."""

    comes: int | None
    goes: int | None
    gain: float
    grams: float
    price: float
    currency: str = ""
    is_as_good: bool = True
    """Whether no picture is made less well for it."""
    is_undominated: bool = False


@dataclass(frozen=True)
class TellingChanges:
    """The changes that win most, the most first; those that lose nothing and are lighter; and what would win most of
    all that is not wanted.
    """

    turning: list[KitChange] = field(default_factory=list)
    lighter: list[KitChange] = field(default_factory=list)
    unwanted: KitChange | None = None


def changes(
    pictures: Sequence[PictureShare],
    bag: KitRigs,
    offered: AddedThings,
    rigs_of: RigsOf,
    conventions: Conventions,
) -> TellingChanges:
    """The end of a search.

    Parameters
        pictures: that one makes
        bag: what there is
        offered: what might come
        rigs_of: the rigs of an offered thing, by its number
        conventions: the schools in force
    Returns
        the changes that are worth telling
    """
    *_, (_, found) = search(pictures, bag, offered, rigs_of, conventions)
    return found or TellingChanges()


def search(
    pictures: Sequence[PictureShare],
    bag: KitRigs,
    offered: AddedThings,
    rigs_of: RigsOf,
    conventions: Conventions,
) -> Iterator[tuple[float, TellingChanges | None]]:
    """The single changes to a kit that win most of the pictures, looked for in steps.

    Parameters
        pictures: that one makes
        bag: what there is
        offered: what might come
        rigs_of: the rigs of an offered thing, by its number
        conventions: the schools in force
    Returns
        after each step what share is done, at the end with what was found
    """
    found = TellingChanges()
    for done, most in weighing(pictures, bag, offered, conventions):
        yield 0.9 * done, None
        if most is not None:
            found = _picked(pictures, bag, offered, rigs_of, conventions, most)
    yield 1.0, found


def turns(
    pictures: Sequence[PictureShare],
    bag: KitRigs,
    offered: AddedThings,
    rigs_of: RigsOf,
    conventions: Conventions,
    most: WonAtMost,
) -> bool:
    """Whether any wanted change wins more than is level.

    Parameters
        pictures: that one makes
        bag: what there is
        offered: what might come
        rigs_of: the rigs of an offered thing, by its number
        conventions: the schools in force
        most: what every change wins at most
    Returns
        True where `changes` would list one
    """
    likely = _worth_looking_at(
        [change for change in _of_additions(pictures, bag, offered, most) if _is_wanted(change, offered)]
    )
    return any(
        change.gain > LEVEL_SHARE
        for start in range(0, len(likely), BATCH)
        for change in _looked_at(pictures, bag, rigs_of, conventions, likely[start : start + BATCH])
    )


def _picked(
    pictures: Sequence[PictureShare],
    bag: KitRigs,
    offered: AddedThings,
    rigs_of: RigsOf,
    conventions: Conventions,
    most: WonAtMost,
) -> TellingChanges:
    """Of all changes those that may be worth it, worked out whole."""
    likely = [*_of_additions(pictures, bag, offered, most)]
    level = LEVEL_WEIGHT * sum(0.0 if isnan(thing.grams) else thing.grams for thing in bag.things)
    looked_at = _looked_at(pictures, bag, rigs_of, conventions, _worth_looking_at(likely))
    lightening = sorted(
        (change for change in likely if change.gain <= LEVEL_SHARE), key=lambda change: _known_first(change.grams)
    )
    # the lightest first, until one of them loses nothing
    for start in range(0, min(len(lightening), MOST_LIGHTENING), BATCH):
        some = _looked_at(pictures, bag, rigs_of, conventions, lightening[start : start + BATCH])
        looked_at += some
        if any(change.is_as_good and change.grams < -level and _is_wanted(change, offered) for change in some):
            break
    wanted = [change for change in looked_at if _is_wanted(change, offered)]
    marked = _marked(
        [change for change in wanted if change.gain > LEVEL_SHARE or (change.is_as_good and change.grams < -level)]
    )
    turning = [change for change in marked if change.gain > LEVEL_SHARE]
    lighter = [change for change in marked if change.gain <= LEVEL_SHARE]
    beyond = [change for change in looked_at if change not in wanted and change.gain > LEVEL_SHARE]
    unwanted = max(beyond, key=lambda change: change.gain, default=None)
    if unwanted is not None and turning and unwanted.gain <= turning[0].gain + 1e-9:
        unwanted = None
    front = [change for change in turning if change.is_undominated][:MOST_LISTED]
    rest = [change for change in turning if not change.is_undominated][: MOST_LISTED - len(front)]
    return TellingChanges(
        sorted([*front, *rest], key=_by_gain), sorted(lighter, key=lambda change: change.grams)[:3], unwanted
    )


def _looked_at(
    pictures: Sequence[PictureShare],
    bag: KitRigs,
    rigs_of: RigsOf,
    conventions: Conventions,
    chosen: Sequence[KitChange],
) -> list[KitChange]:
    """Changes worked out whole."""
    kits = [[*_rest(bag, change), *([] if change.comes is None else rigs_of(change.comes))] for change in chosen]
    whole = choose(pictures, [bag.rigs, *kits], conventions)
    before = [row[0] for row in whole]
    whole_changes = []
    for place, change in enumerate(chosen, 1):
        column = [row[place] for row in whole]
        whole_changes.append(
            replace(change, gain=lead(pictures, column, before), is_as_good=is_as_good(column, before))
        )
    return whole_changes


def _is_wanted(change: KitChange, offered: AddedThings) -> bool:
    """Whether a change stays within what the photographer must have; what is not known does not."""
    if change.comes is not None and not offered.is_wanted[change.comes]:
        return False
    pairs = ((change.grams, offered.room_g), (change.price, offered.room_price))
    return all(room == inf or more <= room for more, room in pairs)


def _rest(bag: KitRigs, change: KitChange) -> Sequence[Rig]:
    return bag.rigs if change.goes is None else bag.without(change.goes)


def _of_additions(
    pictures: Sequence[PictureShare], bag: KitRigs, offered: AddedThings, won: WonAtMost
) -> Iterator[KitChange]:
    """What each change wins at most; only those that win something, or lose nothing and weigh less."""
    now, left, best = won.now, won.left, won.best
    weights = np.array([picture.share for picture in pictures]) / sum(picture.share for picture in pictures)
    for goes in (None, *range(len(bag.things))):
        gone = None if goes is None else bag.things[goes]
        base = now if goes is None else left[goes]
        if gone is not None and (base >= now).all():
            yield KitChange(None, goes, 0.0, -gone.grams, -gone.price, gone.currency)
        there = np.maximum(best, base[:, None]) - now[:, None]
        gain = weights @ there
        grams = offered.grams - (0.0 if gone is None else gone.grams)
        price = offered.price - (0.0 if gone is None else gone.price)
        if gone is not None:
            price = np.where(offered.currency == gone.currency, price, nan)
            gain = np.where(offered.is_body == gone.is_body, gain, -1.0)
        turns = gain > LEVEL_SHARE
        lightens = (there >= 0).all(axis=0) & (grams < 0) & (gain >= 0) & (gone is not None)
        for group, most in ((turns, None), (lightens & ~turns, MOST_LIGHTENING)):
            at = np.flatnonzero(group)
            if most is not None:
                at = at[np.argsort(grams[at], kind="stable")[:most]]
            elif len(at) > 200:
                at = _front(at, gain, grams, price, offered.is_wanted & (grams <= offered.room_g))
            for index in at.tolist():
                yield KitChange(
                    index,
                    goes,
                    float(gain[index]),
                    float(grams[index]),
                    float(price[index]),
                    str(offered.currency[index]),
                )


def _front(
    at: NDArray[np.int64], gain: Array, grams: Array, price: Array, wanted: NDArray[np.bool_]
) -> NDArray[np.int64]:
    """Of many the lightest and the cheapest few of each gain, with and without what is not wanted."""
    kept: list[NDArray[np.int64]] = []
    for group in (at, at[wanted[at]]):
        rounded = np.round(gain[group], 6)
        for value in np.unique(rounded)[::-1][:MOST_LOOKED_AT]:
            same = group[rounded == value]
            for by in (grams, price):
                kept.append(same[np.argsort(by[same], kind="stable")[:3]])
    return np.unique(np.concatenate(kept)) if kept else at


def _known_first(value: float) -> float:
    return inf if isnan(value) else value


def _by_gain(change: KitChange) -> tuple[float, ...]:
    return (-round(change.gain, 9), _known_first(change.grams), _known_first(change.price), change.goes is not None)


def _worth_looking_at(likely: list[KitChange]) -> list[KitChange]:
    """Those that win most for the least; not more than are soon worked out."""
    turning = [change for change in likely if change.gain > LEVEL_SHARE]
    front = sorted((change for change in _marked(turning) if change.is_undominated), key=_by_gain)
    chosen = list(front[: MOST_LOOKED_AT // 2])
    for change in sorted(turning, key=_by_gain):
        if len(chosen) >= MOST_LOOKED_AT:
            break
        if not any((change.comes, change.goes) == (other.comes, other.goes) for other in chosen):
            chosen.append(change)
    return chosen


def _marked(found: list[KitChange]) -> list[KitChange]:
    """By what they turn, each marked where no other wins as much for less weight and less money."""
    found = sorted(found, key=_by_gain)
    marked = []
    best: dict[str, list[KitChange]] = {}
    for change in found:
        rivals = best.setdefault(change.currency, [])
        beaten = any(_dominates(other, change) for other in rivals)
        marked.append(replace(change, is_undominated=not beaten))
        if not beaten:
            rivals.append(change)
    return marked


def _dominates(one: KitChange, other: KitChange) -> bool:
    mine, theirs = (-one.gain, one.grams, one.price), (-other.gain, other.grams, other.price)
    return one.currency == other.currency and mine != theirs and all(a <= b for a, b in zip(mine, theirs, strict=True))
