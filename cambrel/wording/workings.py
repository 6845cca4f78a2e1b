"""A line of working as it is written out: the formula, the same with its numbers, and what each symbol is. Pure."""

from __future__ import annotations

import re
from dataclasses import dataclass

from cambrel import wording
from cambrel.optics.sentences import Figure
from cambrel.optics.workings import Working
from cambrel.wording import METRES, Units

SYMBOL = re.compile(r"[A-Za-zλπΦ]+[₀-₉ₑₕ]*")
DIGITS = 4


@dataclass(frozen=True)
class Line:
    """formula: f₂ = f × C₁ / C₂; numbers: 25 × 2 / 1 = 50 mm; terms: each symbol, what it is, and its figure"""

    formula: str
    numbers: str
    terms: tuple[tuple[str, str, str], ...]


def written(line: Working, units: Units = METRES) -> Line:
    """A line of working in text; lengths in the scene stay metres in it, as its formula is in those."""
    values = {one.symbol: _bare(one.value) for one in line.terms}
    numbers = SYMBOL.sub(lambda found: values.get(found[0], found[0]), line.formula)
    return Line(
        f"{line.symbol} = {line.formula}",
        f"{numbers} = {wording.figure(line.result, units)}",
        tuple((one.symbol, one.name, wording.figure(one.value)) for one in line.terms),
    )


def _bare(value: Figure) -> str:
    """A number without its unit, as it stands in a formula."""
    if isinstance(value.value, str):
        return value.value
    text = wording.shutter_text(value.value) if value.kind == "s" else wording.significant(value.value, DIGITS)
    return f"({text})" if "/" in text or text.startswith(wording.MINUS) else text
