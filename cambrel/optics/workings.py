"""A line of working: a formula in the symbols of the field, what each symbol is in this case, and what it comes to."""

from __future__ import annotations

from dataclasses import dataclass

from cambrel.optics.sentences import Figure


@dataclass(frozen=True)
class Term:
    """A symbol of a formula: what it stands for, and its value here."""

    symbol: str
    name: str
    value: Figure


@dataclass(frozen=True)
class Working:
    """A formula with this case's numbers.

    formula: plain text in the symbols of the terms, with × and / for times and over, ² and √, and the functions log₂, atan, min and max; it is
        in the units of its terms, so that whoever puts their values in gets `result`
    symbol: of what is worked out
    """

    symbol: str
    formula: str
    terms: tuple[Term, ...]
    result: Figure


def term(symbol: str, name: str, value: float, kind: str = "number") -> Term:
    return Term(symbol, name, Figure(float(value), kind))


def working(symbol: str, formula: str, result: float, kind: str, *terms: Term) -> Working:
    return Working(symbol, formula, terms, Figure(float(result), kind))
