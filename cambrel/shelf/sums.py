"""Weights and prices of what is carried together. What is unknown is left out and said; prices are never converted."""

from collections import defaultdict
from collections.abc import Collection
from dataclasses import dataclass

from cambrel import wording
from cambrel.shelf.gear_records import Priced

UNKNOWN = "unknown"


@dataclass(frozen=True)
class Sum:
    """A sum over the records where a figure is known, and how many are left out."""

    text: str
    unknown: int

    def __str__(self) -> str:
        return f"{self.text}, without {self.unknown} unknown" if self.unknown and self.text != UNKNOWN else self.text


def weight_of(carried: Collection[Priced]) -> Sum:
    """The weight of bodies and lenses together."""
    known = [record.weight_g for record in carried if record.weight_g is not None]
    return Sum(wording.mass(sum(known)) if known else UNKNOWN, len(carried) - len(known))


def price_of(carried: Collection[Priced]) -> Sum:
    """Their price, a sum for each currency."""
    sums: dict[str, float] = defaultdict(float)
    for record in carried:
        if record.price:
            sums[record.currency] += record.price
    text = " + ".join(wording.money(amount, currency) for currency, amount in sorted(sums.items()))
    return Sum(text or UNKNOWN, sum(record.price is None for record in carried))
