"""How sure a choice between kits is: what it depends on is changed, one thing at a time, and all is worked out again.

Sure: the same kit leads every time. Likely: even now and then, never reversed. Could go either way: reversed once.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from cambrel.comparison import best_settings
from cambrel.comparison.bodies import bodies_of
from cambrel.comparison.brief import SCHOOLS, Conventions
from cambrel.comparison.lenses import lenses_of
from cambrel.comparison.rig import Rig
from cambrel.comparison.status import Status
from cambrel.decisions.changes import turns
from cambrel.decisions.kits import LEVEL_SHARE, ORDER, SCORE, BestRig, PictureShare, choose
from cambrel.decisions.offers import AddedThings, KitRigs, RigsOf, won_at_most

ROOT_TWO = 2**0.5
BESIDE = ("room", "range", "cover")
"""What is demanded beside the settings; it stays as it was found."""


class Sure(StrEnum):
    """How a conclusion stands up to changes."""

    FIRM = "firm"
    HOLDS = "holds"
    OPEN = "open"


@dataclass(frozen=True)
class Sureness:
    """Of two kits: which is ahead (1 the first, -1 the second, 0 even), how sure that is, and the changes that make
    another word of it.
    """

    ahead: int
    sure: Sure
    reversed_by: tuple[str, ...]
    levelled_by: tuple[str, ...]


Scores = list[list[float]]
"""For each picture what each kit gets for it."""


OTHER_SCHOOLS = {
    "criterion": "with sharp judged by {school.label}",
    "good_enough": "with good enough judged by {school.label}",
    "noise": "with noise judged {school.judged}",
    "hand": "with a hand held steady for {school.label}",
}
"""The questions of which other answers are tried, and how that is said."""


def changed(
    pictures: Sequence[PictureShare], conventions: Conventions
) -> Iterator[tuple[str, list[PictureShare], Conventions]]:
    """What is tried: a change in words, the pictures and the terms with it.

    Parameters
        pictures: that one makes
        conventions: the schools in force
    Returns
        in words, with the pictures and the terms under it, one after the other
    """

    for word, stops in (("brighter", 1.0), ("darker", -1.0)):
        lit = [
            replace(picture, brief=replace(picture.brief, light_ev=picture.brief.light_ev + stops))
            for picture in pictures
        ]
        yield f"with the light a stop {word}", lit, conventions
    for word, times in (("higher", 2.0), ("lower", 0.5)):
        yield (
            f"with your ceiling of ISO a stop {word}",
            list(pictures),
            replace(conventions, iso_ceiling=conventions.iso_ceiling * times),
        )
    for word, times in (("larger", ROOT_TWO), ("smaller", 1 / ROOT_TWO)):
        shown = [
            replace(picture, brief=replace(picture.brief, shown_long_side_mm=picture.brief.shown_long_side_mm * times))
            for picture in pictures
        ]
        yield f"shown a size {word}", shown, conventions
    for question, says in OTHER_SCHOOLS.items():
        for key, school in SCHOOLS[question].items():
            if school.is_tried and key != getattr(conventions, question):
                yield says.format(school=school), list(pictures), conventions.answering(question, key)


def scores(
    pictures: Sequence[PictureShare],
    kits: Sequence[Sequence[Rig]],
    cells: Sequence[Sequence[BestRig | None]],
    conventions: Conventions,
) -> Scores:
    """What each kit gets for each picture under some terms.

    Parameters
        pictures: that one makes
        kits: the rigs of each
        cells: what was found before, for what is demanded beside the settings
        conventions: the terms
    Returns
        from 0 to 1, kits by pictures
    """
    rigs = [rig for kit in kits for rig in kit]
    if not rigs:
        return [[0.0] * len(kits) for _ in pictures]
    glass = lenses_of([rig.lens for rig in rigs], [rig.converter for rig in rigs])
    words = []
    for picture, row in zip(pictures, cells, strict=True):
        asked = best_settings.asked_of(picture.brief, bodies_of(picture.brief, rigs, conventions), glass, conventions)
        places = [ORDER.index(status) for status in asked.status]
        got, start = [], 0
        for kit, cell in zip(kits, row, strict=True):
            best = min(places[start : start + len(kit)], default=None)
            start += len(kit)
            got.append(0.0 if best is None or cell is None else SCORE[ORDER[max(best, _beside(cell))]])
        words.append(got)
    return words


def _beside(cell: BestRig) -> int:
    checks = [ORDER.index(Status(check.status)) for check in cell.judged.checks if check.key in BESIDE]
    return max(checks, default=0)


def sure_of(
    pictures: Sequence[PictureShare],
    kits: Sequence[Sequence[Rig]],
    cells: Sequence[Sequence[BestRig | None]],
    conventions: Conventions,
    level: Collection[int] = (),
) -> dict[tuple[int, int], Sureness]:
    """How sure it is which of each two kits is ahead.

    Parameters
        cells: of each picture, one of each kit, as chosen
        level: the pictures that count as level, whatever is computed: those that nobody could tell apart
    Returns
        by the numbers of the two kits
    """
    shares = [picture.share for picture in pictures]
    now = scores(pictures, kits, cells, conventions)
    tried: list[tuple[str, Scores, list[float]]] = [
        (said, scores(other, kits, cells, terms), shares) for said, other, terms in changed(pictures, conventions)
    ]
    tried += [(said, now, weighed) for said, weighed in _weighed(shares)]
    for got in (now, *(got for _, got, _ in tried)):
        for index in level:
            got[index] = [0.0] * len(kits)
    found = {}
    for first in range(len(kits)):
        for second in range(first + 1, len(kits)):
            ahead = _ahead(now, shares, first, second)
            then = [(said, _ahead(got, weights, first, second)) for said, got, weights in tried]
            reversed_by = tuple(said for said, word in then if ahead and word == -ahead)
            levelled = tuple(said for said, word in then if word != ahead and said not in reversed_by)
            sure = (
                Sure.OPEN if reversed_by or (not ahead and _both_ways(then)) else Sure.HOLDS if levelled else Sure.FIRM
            )
            found[first, second] = Sureness(ahead, sure, reversed_by, levelled)
    return found


def falls_by(
    pictures: Sequence[PictureShare], before: Sequence[Rig], after: Sequence[Rig], conventions: Conventions
) -> Iterator[str]:
    """Under which changes a change to a kit no longer turns more than is level.

    Parameters
        pictures: that one makes
        before, after: the rigs of the kit as it is, and as it would be
        conventions: the schools in force
    Returns
        in words, one after the other as they are found; none for one that is firm
    """
    kits = [before, after]
    cells = choose(pictures, kits, conventions)
    shares = [picture.share for picture in pictures]
    for said, other, terms in changed(pictures, conventions):
        if _ahead(scores(other, kits, cells, terms), shares, 1, 0) != 1:
            yield said
    now = scores(pictures, kits, cells, conventions)
    for said, weighed in _weighed(shares):
        if _ahead(now, weighed, 1, 0) != 1:
            yield said


def lifted_by(
    pictures: Sequence[PictureShare],
    bag: KitRigs,
    offered: AddedThings,
    rigs_of: RigsOf,
    conventions: Conventions,
) -> Iterator[str]:
    """Under which changes one change to a kit would turn more than is level, where now none does.

    Parameters
        pictures: that one makes
        bag: what there is
        offered: what might come
        rigs_of: the rigs of an offered thing, by its number
        conventions: the schools in force
    Returns
        in words, one after the other as they are found; none for staying that is firm
    """
    for said, other, terms in changed(pictures, conventions):
        most = won_at_most(other, bag, offered, terms)
        if most is not None and turns(other, bag, offered, rigs_of, terms, most):
            yield said
    most = won_at_most(pictures, bag, offered, conventions)
    if most is None:
        return
    for said, shares in _weighed([picture.share for picture in pictures]):
        weighed = [replace(picture, share=share) for picture, share in zip(pictures, shares, strict=True)]
        if turns(weighed, bag, offered, rigs_of, conventions, most):
            yield said


def _weighed(shares: Sequence[float]) -> Iterator[tuple[str, list[float]]]:
    """Each picture made twice and half as often, one at a time."""
    for index in range(len(shares)):
        for word, times in (("twice", 2.0), ("half", 0.5)):
            yield (
                f"with picture {index} made {word} as often",
                [share * (times if place == index else 1.0) for place, share in enumerate(shares)],
            )


def _both_ways(then: Sequence[tuple[str, int]]) -> bool:
    """Whether what is level now becomes the one's lead by one change and the other's by another."""
    return {1, -1} <= {word for _, word in then}


def _ahead(got: Scores, shares: Sequence[float], first: int, second: int) -> int:
    total = sum(shares)
    if not total:
        return 0
    d = sum(share * (row[first] - row[second]) for share, row in zip(shares, got, strict=True)) / total
    return 0 if abs(d) <= LEVEL_SHARE else 1 if d > 0 else -1
