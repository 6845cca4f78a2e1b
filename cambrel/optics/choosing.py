"""Which kit makes which pictures: the best rig of every kit for every picture, what limits a kit, and how two kits differ.

The best rig of a kit is the first by status, then by the least room it leaves, then by grams, then by name, and by nothing else.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import inf, isnan

import numpy as np

from cambrel.optics import asking
from cambrel.optics.backs import backs_of
from cambrel.optics.brief import Brief, Conventions, Hold
from cambrel.optics.comparison import Comparison, compare
from cambrel.optics.figures import Array
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.fulfilment import Fulfilment, fulfilment
from cambrel.optics.glass import glass_of
from cambrel.optics.missing import Ceiling, as_clean_iso
from cambrel.optics.quantities import DomainError
from cambrel.optics.rig import Body, Rig
from cambrel.optics.sentences import LEVEL_WEIGHT, Figure, Sentence
from cambrel.optics.status import Status

ORDER = (Status.DOES, Status.NEARLY, Status.UNKNOWN, Status.CANNOT)
SCORE = {Status.DOES: 1.0, Status.NEARLY: 0.5, Status.CANNOT: 0.0, Status.UNKNOWN: 0.0}
LEVEL_SHARE = 0.05
"""Of one's pictures: kits that differ by no more are level."""
USUAL_PIXELS = 24e6
AT_BEST = Hold(is_best=True)


@dataclass(frozen=True)
class Picture:
    """A picture that one makes, with its framing, and what share of one's pictures it is."""

    brief: Brief
    share: float


@dataclass(frozen=True)
class Cell:
    """A picture as a kit makes it best: the number of its rig, all its figures, how far it makes the picture, and what is clean on it."""

    rig: int
    comparison: Comparison
    judged: Fulfilment
    clean_iso: float

    @property
    def status(self) -> Status:
        return self.judged.status


def home_body(conventions: Conventions) -> Body:
    """The body on which the photographer's ceiling of ISO is meant: one of the format that they think in, with the usual pixels."""
    sensor = FORMATS[conventions.home]
    wide = round((USUAL_PIXELS * sensor.aspect_ratio) ** 0.5)
    return Body(Sensor(sensor.width_mm, sensor.height_mm, wide))


def grams(rig: Rig) -> float:
    """What body, lens and what is between them weigh; endless where that is not known, so that it wins nothing."""
    parts = (rig.body.weight_g, rig.lens.weight_g, rig.converter_weight_g)
    return inf if None in parts else sum(part for part in parts if part is not None)


def choose(
    pictures: Sequence[Picture], kits: Sequence[Sequence[Rig]], conventions: Conventions
) -> list[list[Cell | None]]:
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
    ceiling = Ceiling(conventions.iso_ceiling, home_body(conventions))
    glass = glass_of([rig.lens for rig in rigs], [rig.converter for rig in rigs]) if rigs else None
    weights = np.array([grams(rig) for rig in rigs])
    made: list[list[Cell | None]] = []
    for picture in pictures:
        row: list[Cell | None] = [None] * len(kits)
        if glass is not None:
            backs = backs_of(picture.brief, rigs, conventions)
            found = asking.asked_of(picture.brief, backs, glass, conventions, ceiling=ceiling)
            clean = as_clean_iso(
                backs, asking.cropped(backs.frames, found.kept_side, conventions), conventions, ceiling
            )
            places = np.array([ORDER.index(status) for status in found.status])
            for kit, (first, after) in enumerate(pairwise(starts)):
                if first < after:
                    # the last key decides first; of what is level the first by name
                    order = np.lexsort((weights[first:after], -found.margin_stops[first:after], places[first:after]))
                    best = first + int(order[0])
                    row[kit] = _cell(picture.brief, rigs[best], best - first, float(clean[best]), conventions)
        made.append(row)
    return made


def _cell(brief: Brief, rig: Rig, index: int, clean_iso: float, conventions: Conventions) -> Cell | None:
    """All figures of a rig at its best, with the ceiling carried over to it."""
    try:
        made = compare(brief, [rig], AT_BEST, replace(conventions, iso_ceiling=clean_iso))
    except DomainError:
        return None
    return Cell(index, made, fulfilment(made)[0], clean_iso)


def share_made(pictures: Sequence[Picture], cells: Sequence[Cell | None]) -> float:
    """What share of the pictures a kit makes."""
    total = sum(picture.share for picture in pictures)
    made = sum(one.share for one, cell in zip(pictures, cells, strict=True) if cell and cell.status == Status.DOES)
    return made / total if total else 0.0


def limits(pictures: Sequence[Picture], cells: Sequence[Cell | None]) -> str:
    """What fails most often where a kit does not make a picture; empty where it makes all."""
    found: dict[str, float] = {}
    for picture, cell in zip(pictures, cells, strict=True):
        if cell is not None and cell.status != Status.DOES and picture.share > 0:
            key = cell.judged.checks[0].key
            found[key] = found.get(key, 0.0) + picture.share
    return max(found, key=lambda key: found[key], default="")


def lead(pictures: Sequence[Picture], one: Sequence[Cell | None], other: Sequence[Cell | None]) -> float:
    """By what share of the pictures one kit is ahead of another: a picture counts one where it is made, half where it is just missed."""
    total = sum(picture.share for picture in pictures)
    ahead = sum(picture.share * (_score(a) - _score(b)) for picture, a, b in zip(pictures, one, other, strict=True))
    return ahead / total if total else 0.0


def _score(cell: Cell | None) -> float:
    return 0.0 if cell is None else SCORE[cell.status]


def is_as_good(one: Sequence[Cell | None], other: Sequence[Cell | None]) -> bool:
    """Whether a kit is at least as good in every picture."""
    return all(_place(a) <= _place(b) for a, b in zip(one, other, strict=True))


def _place(cell: Cell | None) -> int:
    return len(ORDER) if cell is None else ORDER.index(cell.status)


@dataclass(frozen=True)
class Kit:
    """A kit as it is spoken of: its name, its cells, and what it weighs and costs; NaN where a part of that is not known."""

    name: str
    cells: Sequence[Cell | None]
    grams: float
    price: float
    currency: str


def says_better(one: Kit, other: Kit) -> Sentence | None:
    """A kit that is at least as good in every picture, and lighter and cheaper, is better; None where that cannot be said."""
    if not is_as_good(one.cells, other.cells) or one.currency != other.currency:
        return None
    if not (one.grams < other.grams * (1 - LEVEL_WEIGHT) and one.price < other.price * (1 - LEVEL_WEIGHT)):
        return None
    figures = {
        "one": Figure(one.name, "word"),
        "other": Figure(other.name, "word"),
        "less": Figure(other.grams - one.grams, "g"),
        "cheaper": Figure(_money(other.price - one.price, one.currency), "word"),
    }
    return Sentence(
        "{one} is better than {other}: as good or better in every picture, {less} lighter and {cheaper} cheaper.",
        figures,
    )


def says_trade(one: Kit, other: Kit, pictures: Sequence[Picture], names: Sequence[str]) -> Sentence:
    """What one kit makes that the other does not, both ways, which is lighter and which is cheaper."""
    ahead, behind = (one, other) if lead(pictures, one.cells, other.cells) >= 0 else (other, one)

    def only(a: Kit, b: Kit) -> list[str]:
        pairs = zip(names, a.cells, b.cells, strict=True)
        return [name for name, mine, theirs in pairs if _makes(mine) and not _makes(theirs)]

    figures = {"ahead": Figure(ahead.name, "word"), "behind": Figure(behind.name, "word")}
    more, less = only(ahead, behind), only(behind, ahead)
    if not more and not less:
        text = "{ahead} and {behind} make the same pictures"
    else:
        text = "{ahead} makes {more}" if more else "{ahead} just misses what {behind} does not make"
        figures |= {"more": Figure(_listed(more), "word")} if more else {}
        if less:
            text += ", {behind} makes {less}"
            figures["less"] = Figure(_listed(less), "word")
        elif more:
            text += ", which {behind} does not"
    difference = ahead.grams - behind.grams
    if abs(difference) > LEVEL_WEIGHT * max(ahead.grams, behind.grams):
        figures |= {
            "light": Figure((behind if difference > 0 else ahead).name, "word"),
            "grams": Figure(abs(difference), "g"),
        }
        text += "; {light} is {grams} lighter"
    dearer = ahead.price - behind.price
    if ahead.currency == behind.currency and abs(dearer) > LEVEL_WEIGHT * max(ahead.price, behind.price):
        figures |= {
            "cheap": Figure((behind if dearer > 0 else ahead).name, "word"),
            "cheaper": Figure(_money(abs(dearer), ahead.currency), "word"),
        }
        text += "; {cheap} is {cheaper} cheaper"
    return Sentence(text + ".", figures)


def _money(amount: float, currency: str) -> str:
    return f"{amount:,.0f} {currency}".strip()


def _makes(cell: Cell | None) -> bool:
    return cell is not None and cell.status == Status.DOES


def _listed(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]


@dataclass(frozen=True)
class Addition:
    """What might be added to a kit: the rigs that it makes with what is there, what it weighs and what it costs; NaN where that is not known."""

    rigs: Sequence[Rig]
    grams: float
    price: float
    currency: str = ""


@dataclass(frozen=True)
class Change:
    """An addition by its number, and the share of the pictures that it turns: made where they were not, half where they were just missed."""

    index: int
    gain: float
    grams: float
    price: float
    currency: str
    is_undominated: bool = False


def changes(
    pictures: Sequence[Picture],
    kit: Sequence[Rig],
    additions: Sequence[Addition],
    conventions: Conventions,
    most: int = 5,
) -> list[Change]:
    """The additions that turn most of the pictures, the most first; of what turns as much the lightest.

    Parameters
        pictures: that one makes
        kit: the rigs that there are
        additions: one broadcast over the rigs of all of them finds which are worth a look, and those are then worked out whole
        most: so many at the most
    Returns
        those that gain more than is level; marked where none of them gains as much for less weight and less money
    """
    total = sum(picture.share for picture in pictures)
    if not additions or not total:
        return []
    now = [_score(row[0]) for row in choose(pictures, [kit], conventions)]
    worth = _at_most(pictures, now, additions, conventions)
    looked_at = [int(index) for index in np.argsort(-worth, kind="stable")[: 3 * most] if worth[index] > LEVEL_SHARE]
    whole = choose(pictures, [kit, *([*kit, *additions[index].rigs] for index in looked_at)], conventions)
    before = [row[0] for row in whole]
    found = []
    for place, index in enumerate(looked_at, 1):
        gain = lead(pictures, [row[place] for row in whole], before)
        one = additions[index]
        if gain > LEVEL_SHARE:
            found.append(Change(index, gain, one.grams, one.price, one.currency))
    found.sort(key=lambda one: (-round(one.gain, 9), *(inf if isnan(x) else x for x in (one.grams, one.price))))
    return [replace(one, is_undominated=not any(_dominates(other, one) for other in found)) for one in found[:most]]


def _dominates(one: Change, other: Change) -> bool:
    mine, theirs = (-one.gain, one.grams, one.price), (-other.gain, other.grams, other.price)
    return one.currency == other.currency and mine != theirs and all(a <= b for a, b in zip(mine, theirs, strict=True))


def _at_most(
    pictures: Sequence[Picture], now: Sequence[float], additions: Sequence[Addition], conventions: Conventions
) -> Array:
    """What each addition turns at most: by the settings that are asked alone, which what else is demanded can only lessen."""
    rigs = [rig for one in additions for rig in one.rigs]
    owner = np.array([index for index, one in enumerate(additions) for _ in one.rigs], dtype=int)
    if not rigs:
        return np.zeros(len(additions))
    glass = glass_of([rig.lens for rig in rigs], [rig.converter for rig in rigs])
    bodies: dict[tuple[Body, int | None], int] = {}
    at = np.array([bodies.setdefault((rig.body, rig.mode), len(bodies)) for rig in rigs])
    firsts = [rigs[int(np.flatnonzero(at == number)[0])] for number in range(len(bodies))]
    ceiling = Ceiling(conventions.iso_ceiling, home_body(conventions))
    scores = np.array([SCORE[status] for status in ORDER])
    total = sum(picture.share for picture in pictures)
    gained = np.zeros(len(additions))
    for picture, score_now in zip(pictures, now, strict=True):
        backs = backs_of(picture.brief, firsts, conventions).take(at)
        found = asking.asked_of(picture.brief, backs, glass, conventions, ceiling=ceiling)
        score = scores[[ORDER.index(status) for status in found.status]]
        best = np.zeros(len(additions))
        np.maximum.at(best, owner, score)
        gained += picture.share / total * np.maximum(best - score_now, 0.0)
    return gained
