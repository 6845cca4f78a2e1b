"""The litres that gear takes, whether a bag holds it, and what it costs after selling, or against renting it."""

from __future__ import annotations

from math import nan

from cambrel import wording
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.ask.statement import TypedQuantity
from cambrel.comparison.outer_sizes import MOST_FILLED, Block, bag_fit
from cambrel.decisions.costs import Worth, change_costs
from cambrel.optics.workings import term, working
from cambrel.phrases.units import CURRENCIES
from cambrel.wording.sentences import listed


def _block(given: GivenLine, quantity: TypedQuantity) -> Block:
    """What is named by three sides, called as it was typed."""
    long, wide, high = quantity.values
    return Block(given.statement.piece(quantity.mention), (long, wide, high))


def _of_bag(given: GivenLine) -> TypedQuantity:
    """The sides that stand right before a word for a bag, or else behind it; the last where none is said."""
    named = given.quantities["block"]
    for bag in (mention for mention in given.statement.concepts if mention.text == "bag"):
        before = [quantity for quantity in named if quantity.mention.last == bag.first]
        behind = [quantity for quantity in named if quantity.mention.first >= bag.last]
        if before or behind:
            return (before or behind)[0]
    return named[-1]


def _volume(given: GivenLine) -> Reply:
    block = _block(given, given.quantities["block"][0])
    long, wide, high = block.sides_mm
    line = working(
        "V", "L × W × H / 1000000", block.volume_l, "l", term("L", "length", long, "mm"),
        term("W", "width", wide, "mm"), term("H", "height", high, "mm"),
    )  # fmt: skip
    return Reply(f"{wording.litres(block.volume_l)}.", (AnswerFigure("volume", block.volume_l, "l"),), (line,))


def _bag(given: GivenLine) -> Reply:
    of_bag = _of_bag(given)
    bag = _block(given, of_bag)
    pieces = [_block(given, quantity) for quantity in given.quantities["block"] if quantity is not of_bag]
    long, wide, high = bag.sides_mm
    fit = bag_fit(pieces, (long, wide, high))
    share, most = wording.share(fit.filled), wording.share(MOST_FILLED)
    rule = f"A bag takes about {most} of its volume: the rest goes to padding and shapes, a rule of thumb."
    if fit.too_large:
        names = listed(list(fit.too_large))
        says = f"No: {names} {'goes' if len(fit.too_large) == 1 else 'go'} in no way round."
    elif fit.fits:
        says = f"Yes: it fills {share} of the bag."
    else:
        says = f"No: it would fill {share} of the bag."
    volume = sum(piece.volume_l for piece in pieces)
    line = working(
        "S", "V / B", fit.filled, "share", term("V", "volume of what goes in", volume, "l"),
        term("B", "volume of the bag", bag.volume_l, "l"),
    )  # fmt: skip
    return Reply(says, (AnswerFigure("filled", fit.filled, "share"),), (line,), more=(rule,))


def _currencies(given: GivenLine) -> list[str]:
    scan = given.statement.scan
    return [
        next(CURRENCIES[scan.low(at)] for at in range(mention.first, mention.last) if scan.low(at) in CURRENCIES)
        for mention in (quantity.mention for quantity in given.quantities["price"])
    ]


APART = "The two prices are in two currencies. Type both in one."


def _rent(given: GivenLine) -> Reply:
    """The smaller of two prices is that of a day."""
    currency, other = _currencies(given)
    if currency != other:
        return Reply(APART)
    a_day, new = sorted(given.all("price"))
    (said,) = change_costs(Worth("it", currency, new=new, rent_a_day=a_day), None)
    line = working("D", "P / R", new / a_day, "number", term("P", "price", new), term("R", "rent a day", a_day))
    return Reply(wording.sentence(said), (AnswerFigure("days that cost as much", new / a_day, "number"),), (line,))


def _sell(given: GivenLine) -> Reply:
    """The price behind a word for selling is what it brings, the other what is bought for."""
    currency, other = _currencies(given)
    if currency != other:
        return Reply(APART)
    quantities = given.quantities["price"]
    sold_at = min(mention.first for mention in given.statement.concepts if mention.text == "sell")
    behind = [quantity for quantity in quantities if quantity.mention.first > sold_at]
    resale = (behind or quantities)[0]
    new = next(quantity for quantity in quantities if quantity is not resale)
    comes = Worth("it", currency, new=new.value)
    (said,) = change_costs(comes, Worth("what you have", currency, nan, nan, resale.value))
    left = new.value - resale.value
    line = working(
        "C", "P - S", left, "number", term("P", "price", new.value), term("S", "selling brings", resale.value)
    )
    return Reply(wording.sentence(said), (AnswerFigure("left to pay", left, "number"),), (line,))


KINDS = (
    Kind(
        "volume",
        "How much room a body or a lens takes",
        ("block",),
        _volume,
        ("how many litres is 134 x 98 x 70 mm",),
        asks=frozenset({"volume"}),
    ),
    Kind(
        "bag",
        "Whether a bag holds it",
        ("block block+",),
        _bag,
        ("does 134 x 98 x 70 mm fit a bag of 300 x 200 x 150 mm",),
        asks=frozenset({"bag", "fit"}),
        also=frozenset({"bag", "fit", "volume"}),
    ),
    Kind(
        "rent",
        "Renting or buying",
        ("price price",),
        _rent,
        ("rent at 40 EUR a day or buy for 1200 EUR",),
        asks=frozenset({"rent"}),
    ),
    Kind(
        "after-selling",
        "What it costs after selling",
        ("price price",),
        _sell,
        ("buy for 1500 EUR and sell mine for 600 EUR",),
        asks=frozenset({"sell"}),
    ),
)
