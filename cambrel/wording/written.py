"""A line of working as it is written out: the formula, the same with its numbers, and what each symbol is. Pure."""

from __future__ import annotations

import re
from dataclasses import dataclass
from math import atan, log2, nan, sqrt

from cambrel import wording
from cambrel.optics.workings import Figure, Working
from cambrel.wording import METRES, Units

SYMBOL = re.compile(r"[A-Za-zλπΦ]+[₀-₉ₑₕ]*")
FEWEST_DIGITS, MOST_DIGITS, CLOSE = 4, 12, 2e-3
SIGNS = {"×": "*", "−": "-", "²": "**2", "^": "**", "√": "sqrt", "log₂": "log2"}
"""What a formula is written with, as Python reads it."""


@dataclass(frozen=True)
class WrittenLine:
    """formula: f₂ = f × C₁ / C₂; numbers: 25 × 2 / 1 = 50 mm; terms: each symbol, what it is, and its figure"""

    formula: str
    numbers: str
    terms: tuple[tuple[str, str, str], ...]


def written(line: Working, units: Units = METRES) -> WrittenLine:
    """A line of working in text; lengths in the scene stay metres in it, as its formula is in those.

    Parameters
        line: a formula with its figures
        units: of the reader, for the result
    Returns
        formula, figures and result in text; lengths in the scene stay metres in it, as its formula is in those
    """
    return WrittenLine(
        f"{line.symbol} = {line.formula}",
        f"{_numbers(line)} = {_result(line.result, units)}",
        tuple((term.symbol, term.name, wording.figure(term.value)) for term in line.terms),
    )


def _numbers(line: Working) -> str:
    """The formula with its numbers, in as few digits as come to the result: more where large ones are taken from each
    other.
    """
    result = float(line.result.value)
    text = ""
    for digits in range(FEWEST_DIGITS, MOST_DIGITS + 1):
        text = _with_numbers(line, digits)
        if abs(_worked_out(text) - result) <= CLOSE * abs(result):
            break
    return text


def _with_numbers(line: Working, digits: int) -> str:
    values = {term.symbol: _bare(term.value, digits) for term in line.terms}
    return SYMBOL.sub(lambda found: values.get(found[0], found[0]), line.formula)


def _worked_out(numbers: str) -> float:
    """What a formula with its numbers comes to; formulas are the house's own, nobody types them."""
    for sign, meant in SIGNS.items():
        numbers = numbers.replace(sign, meant)
    try:
        return float(eval(numbers, {"__builtins__": {}, "sqrt": sqrt, "log2": log2, "atan": atan, "min": min}))
    except (ZeroDivisionError, ValueError):
        return nan  # so few digits leave nothing of a difference


def _result(value: Figure, units: Units) -> str:
    """What a formula comes to: as it is shown elsewhere, but with its sign, a ratio in figures, and a time not rounded
    to the marks of shutters.
    """
    number = float(value.value)
    if value.kind == "stops" and number < 0:
        return wording.MINUS + wording.figure(value, units)
    if value.kind == "times":
        return wording.times_in_figures(number)
    if value.kind == "s" and number >= SLOW_S:
        return f"{wording.significant(number)}{wording.NBSP}s"
    return wording.figure(value, units)


SLOW_S = 0.29
"""From here on a time is not written as a fraction."""


def _bare(value: Figure, digits: int) -> str:
    """A number without its unit, as it stands in a formula."""
    if isinstance(value.value, str):
        return value.value
    number = value.value
    if value.kind == "s" and 0 < number < SLOW_S:
        return f"(1/{wording.significant(1 / number, digits)})"
    text = wording.significant(number, digits)
    return f"({text})" if text.startswith(wording.MINUS) else text
