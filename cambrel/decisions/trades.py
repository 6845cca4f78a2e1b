"""How two kits differ over the pictures that one makes: better in all, or what is given up for what, in a sentence."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, isnan

from cambrel.decisions.kits import LEVEL_SHARE, BestRig, PictureShare, is_as_good, lead, makes, share_made
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_WEIGHT, Sentence, listed


@dataclass(frozen=True)
class KitSums:
    """A kit as it is spoken of: its name, its cells, and what it weighs and costs; NaN where a part of that is not
    known.
    """

    name: str
    cells: Sequence[BestRig | None]
    grams: float
    price: float
    currency: str


def says_better(one: KitSums, other: KitSums) -> Sentence | None:
    """A kit that is at least as good in every picture, and lighter and cheaper, is better; None where that cannot be
    said.

    Parameters
        one, other: kits with what they weigh and cost
    Returns
        None where it is not better in all
    """
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


def says_trade(one: KitSums, other: KitSums, pictures: Sequence[PictureShare], names: Sequence[str]) -> Sentence:
    """What one kit makes that the other does not, both ways, which is lighter and which is cheaper.

    Parameters
        one, other: kits with what they weigh and cost
        pictures: that one makes
        names: of the pictures
    Returns
        one sentence with its figures
    """
    ahead, behind = (one, other) if lead(pictures, one.cells, other.cells) >= 0 else (other, one)

    def only(a: KitSums, b: KitSums) -> list[str]:
        pairs = zip(names, a.cells, b.cells, strict=True)
        return [name for name, mine, theirs in pairs if makes(mine) and not makes(theirs)]

    figures = {"ahead": Figure(ahead.name, "word"), "behind": Figure(behind.name, "word")}
    more, less = only(ahead, behind), only(behind, ahead)
    if not more and not less:
        text = "{ahead} and {behind} can take the same pictures"
    else:
        text = "{ahead} can take {more}" if more else "{ahead} just falls short of what {behind} cannot take"
        figures |= {"more": Figure(listed(more), "word")} if more else {}
        if less:
            text += ", {behind} can take {less}"
            figures["less"] = Figure(listed(less), "word")
        elif more:
            text += ", {behind} cannot"
    difference = ahead.grams - behind.grams
    if abs(difference) > LEVEL_WEIGHT * max(ahead.grams, behind.grams):
        figures |= {
            "light": Figure((behind if difference > 0 else ahead).name, "word"),
            "grams": Figure(abs(difference), "g"),
        }
        text += ". {light} is {grams} lighter"
    dearer = ahead.price - behind.price
    if ahead.currency == behind.currency and abs(dearer) > LEVEL_WEIGHT * max(ahead.price, behind.price):
        figures |= {
            "cheap": Figure((behind if dearer > 0 else ahead).name, "word"),
            "cheaper": Figure(_money(abs(dearer), ahead.currency), "word"),
        }
        text += ". {cheap} is {cheaper} cheaper"
    return Sentence(text + ".", figures)


def _money(amount: float, currency: str) -> str:
    return f"{amount:,.0f} {currency}".strip()


def _weight(kit: KitSums) -> float:
    return inf if isnan(kit.grams) else kit.grams


def foremost(kits: Sequence[KitSums], pictures: Sequence[PictureShare]) -> int:
    """Of several kits the one that makes most, the lightest of those that make as much.

    Parameters
        kits: at least one, with what they weigh
        pictures: that one makes
    Returns
        its place among them
    """
    made = [round(share_made(pictures, kit.cells), 9) for kit in kits]
    return min(range(len(kits)), key=lambda index: (-made[index], _weight(kits[index]), index))


def says_first(kits: Sequence[KitSums], pictures: Sequence[PictureShare]) -> Sentence:
    """Of several kits the one that makes most, the lightest of those that make as much; and a lighter one that is level
    with it.

    Parameters
        kits: with what they weigh and cost
        pictures: that one makes
    Returns
        one sentence with its figures
    """
    made = [share_made(pictures, kit.cells) for kit in kits]

    def weight(index: int) -> float:
        return _weight(kits[index])

    first = foremost(kits, pictures)
    figures = {"first": Figure(kits[first].name, "word"), "made": Figure(made[first], "share")}
    rivals = [share for index, share in enumerate(made) if index != first and round(share - made[first], 9) >= 0]
    all_made = round(made[first] - 1, 9) >= 0
    can = "it can take all of the pictures" if all_made else "it can take {made} of the pictures"
    shared = ", and is not the only one" if all_made else ", and no other more"
    text = "Take {first}: " + can + (shared if rivals else ", more than the others")
    level = [
        index
        for index in range(len(kits))
        if abs(lead(pictures, kits[first].cells, kits[index].cells)) <= LEVEL_SHARE
        and weight(index) < weight(first) * (1 - LEVEL_WEIGHT)
    ]
    if level and weight(first) < inf:
        light = min(level, key=weight)
        figures |= {
            "light": Figure(kits[light].name, "word"),
            "less": Figure(weight(first) - weight(light), "g"),
            "as_much": Figure(made[light], "share"),
        }
        text += ". {light} is even with it at {as_much}, and {less} lighter"
    elif not rivals and len(kits) > 1:
        following = min((index for index in range(len(kits)) if index != first), key=lambda index: -made[index])
        figures |= {"following": Figure(kits[following].name, "word"), "then": Figure(made[following], "share")}
        text += ". Next is {following} with {then}"
        if weight(first) < inf and weight(following) < weight(first) * (1 - LEVEL_WEIGHT):
            figures["less"] = Figure(weight(first) - weight(following), "g")
            text += ", {less} lighter"
    return Sentence(text + ".", figures)
