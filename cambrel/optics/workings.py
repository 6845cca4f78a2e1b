"""A line of working: a formula in the symbols of the field, what each symbol is in this case, and what it comes to."""

from __future__ import annotations

from dataclasses import dataclass

from cambrel.optics.quantities import Quantity

KINDS = frozenset(
    {
        "rig",
        "word",
        "m",
        "mm",
        "um",
        "f",
        "stops",
        "time",
        "MB",
        "l",
        "n-stop",
        "signed",
        "times",
        "share",
        "iso",
        "s",
        "f-mark",
        "s-mark",
        "iso-mark",
        "deg",
        "g",
        "number",
        "count",
        "whole",
    }
)
"""rig: an index, shown as its letter; f: an f-number; stops: an amount without its sign, "n-stop" the same before a
noun (a 3-stop filter),
"signed" with it;
f-mark, s-mark, iso-mark: a setting that is advised, shown as the nearest that a camera offers;
share: a ratio shown in percent; count: a large number in words; whole: in full."""


@dataclass(frozen=True)
class Figure:
    """A value and its kind, which says how it is shown."""

    value: float | str
    kind: str

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise ValueError(f"kind must be one of {sorted(KINDS)}, got {self.kind!r}")


@dataclass(frozen=True)
class Term:
    """A symbol of a formula: what it stands for, and its value here."""

    symbol: str
    name: str
    value: Figure


@dataclass(frozen=True)
class Working:
    """A formula with this case's numbers.

    formula: plain text in the symbols of the terms, with × and / for times and over, ² and √, and the functions log₂,
        atan, min and max; it is
        in the units of its terms, so that whoever puts their values in gets `result`
    symbol: of what is worked out
    """

    symbol: str
    formula: str
    terms: tuple[Term, ...]
    result: Figure


def term(symbol: str, name: str, value: Quantity, kind: str = "number") -> Term:
    """A symbol of a formula with what it stands for.

    Parameters
        symbol: as the formula writes it
        name: what it is, in words
        value: in the unit of its kind
        kind: how it is shown: "mm", "f", "stops", "number" and the others of `wording`
    Returns
        the term, its value as a plain float
    """
    return Term(symbol, name, Figure(float(value), kind))


def working(symbol: str, formula: str, result: Quantity, kind: str, *terms: Term) -> Working:
    """A formula with the figures put in.

    Parameters
        symbol: of the result
        formula: in the symbols of its terms
        result: in the unit of its kind
        kind: how it is shown
        terms: one for each symbol
    Returns
        the working, its result as a plain float
    """
    return Working(symbol, formula, terms, Figure(float(result), kind))
