"""What a change really costs: new or used, after selling what it takes the place of, and against renting it."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, isnan, nan

from cambrel import wording
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import Sentence


@dataclass(frozen=True)
class Worth:
    """What a thing costs and brings, in one currency; NaN where that is not known.

    new, used: to buy it; resale: what it sells for; rent_a_day: to have it for a day
    """

    name: str
    currency: str
    new: float = nan
    used: float = nan
    resale: float = nan
    rent_a_day: float = nan


def _money(amount: float, currency: str) -> Figure:
    return Figure(wording.money(amount, currency), "word")


def _net(price: float, goes: Worth, currency: str) -> str:
    """What is left to pay, or what is left over."""
    left = price - goes.resale
    if left < 0:
        return f"leaves {wording.money(-left, currency)} over"
    return f"costs {wording.money(left, currency)}"


def change_costs(comes: Worth | None, goes: Worth | None) -> list[Sentence]:
    """What a change costs beyond its list price, as far as it is known.

    Parameters
        comes: what is bought, if anything is
        goes: what is sold, if anything is
    Returns
        a sentence for each way; prices in two currencies are never set against each other
    """
    said: list[Sentence] = []
    sells = goes is not None and not isnan(goes.resale)
    if comes is None:
        if goes is not None and sells:
            figures = {"goes": Figure(goes.name, "word"), "resale": _money(goes.resale, goes.currency)}
            said.append(Sentence("Selling {goes} brings {resale}.", figures))
        return said
    can_net = goes is not None and sells and goes.currency == comes.currency
    if goes is not None and can_net and not isnan(comes.new):
        figures = {
            "goes": Figure(goes.name, "word"),
            "resale": _money(goes.resale, goes.currency),
            "net": Figure(_net(comes.new, goes, comes.currency), "word"),
        }
        said.append(Sentence("After selling {goes} for {resale} it {net}.", figures))
    if not isnan(comes.used):
        text, figures = "Used it costs {used}.", {"used": _money(comes.used, comes.currency)}
        if goes is not None and can_net:
            text = "Used it costs {used} and, after selling {goes}, {net}."
            net = _net(comes.used, goes, comes.currency)
            figures |= {"goes": Figure(goes.name, "word"), "net": Figure(net, "word")}
        said.append(Sentence(text, figures))
    if comes.rent_a_day > 0:
        text, figures = "Renting it is {rent} a day.", {"rent": _money(comes.rent_a_day, comes.currency)}
        if comes.new > 0:
            text = "Renting it is {rent} a day: buying it new pays from {days} days on."
            figures |= {"days": Figure(ceil(comes.new / comes.rent_a_day), "whole")}
        said.append(Sentence(text, figures))
    return said
