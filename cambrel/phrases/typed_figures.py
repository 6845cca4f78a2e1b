"""The one reader of typed figures, for forms, links and files: numbers as people write them, with their units; doubtful
ones are asked back.

A point or comma before three last digits may part thousands or decimals. What only one of them makes sense of is read
so; where both do, nobody guesses. Pure.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from math import inf

from cambrel.phrases.units import LENGTHS_M, MASSES_G

LONGEST = 40
HEAVIEST_G = 50_000.0
"""Nothing that is carried with a camera weighs more."""
SIGNS = {"€": "EUR", "£": "GBP", "¥": "JPY"}
"""Signs that stand for one currency; the dollar sign stands for many and is not guessed."""
LONGEST_S = 36_000.0
LONGEST_MARKED_S = 30.0
"""A bare whole number beyond it, in a shutter time, stands on cameras for its fraction: 250 for 1/250."""

_PLAIN = re.compile(r"(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d{1,3})?", re.IGNORECASE)
_GROUPED = re.compile(r"\d{1,3}(?:([.,'’ \u00a0])\d{3})(?:\1\d{3})*")
_WITH_CENTS = re.compile(r"(\d{1,3}(?:([.,'’ \u00a0])\d{3})+)(?!\2)[.,](\d{1,2})")
_SPACES = str.maketrans({"\u2212": "-", "\u00a0": " ", "\u202f": " ", "\u2009": " "})
_QUOTES = str.maketrans({"\u2032": "'", "\u2019": "'", "\u2033": '"', "\u201d": '"', "\u201c": '"'})
_PART = re.compile(r"([\d.,’]+(?:e[+-]?\d{1,3})?)\s*([^\W\d_]+|['\"]*)\s*", re.IGNORECASE)
_MONEY = re.compile(r"(?P<before>[^\d\s.,]*)\s*(?P<number>\d[\d.,'’ ]*?)(?:,-|\.-)?\s*(?P<after>[^\d\s.,]*)")


class DoubtfulError(ValueError):
    """A figure that may be two: it is asked back. The message is for the reader."""

    def __init__(self, text: str, one: str, other: str) -> None:
        super().__init__(f"“{text.strip()}” may be {one} or {other}. Type which.")


def _trimmed(text: str) -> str:
    """A text without what is about it and with its signs in one form. ValueError for one that no figure is as long
    as.
    """
    text = text.strip() if len(text) <= 2 * LONGEST else text
    if len(text) > LONGEST:
        raise ValueError(text[:LONGEST])
    return text.translate(_SPACES)


def _digits(text: str) -> str:
    return re.sub(r"\D", "", text)


def decimal(text: str) -> float:
    """A number as machines and our own files write it, with a decimal point or comma and never with thousands parted;
    with its sign.

    Parameters
        text: as it stands in a file
    Returns
        the number
    Raises
        ValueError for what is no number
    """
    text = _trimmed(text)
    if not _PLAIN.fullmatch(text.removeprefix("-") if text.startswith("-") else text.removeprefix("+")):
        raise ValueError(text)
    return float(text.replace(",", "."))


def readings(text: str) -> tuple[float, ...]:
    """What an unsigned number may be: one reading, or two, the decimals first.

    Parameters
        text: as it was typed
    Returns
        one number or two
    Raises
        ValueError for what is no number
    """
    text = _trimmed(text)
    grouped = _GROUPED.fullmatch(text)
    if grouped:
        thousands = float(_digits(text))
        is_single = text.count(grouped[1]) == 1 and grouped[1] in ".,"
        if not is_single:
            return (thousands,)
        decimals = float(text.replace(",", "."))
        return (decimals,) if text.startswith("0") else (decimals, thousands)
    cents = _WITH_CENTS.fullmatch(text)
    if cents:
        return (float(f"{_digits(cents[1])}.{cents[3]}"),)
    if not _PLAIN.fullmatch(text):
        raise ValueError(text)
    return (float(text.replace(",", ".")),)


def number(text: str, low: float = -inf, high: float = inf, *, unit: float = 1.0) -> float:
    """A number with its sign, within the range that makes sense.

    Parameters
        low, high: what makes sense, in the unit that is kept; unit: how much of that one of the text is
    Returns
        the number times `unit`; of two readings the one that makes sense, the decimals where neither does
    Raises
        DoubtfulError where both make sense; ValueError for what is no number
    """
    text = _trimmed(text)
    sign = -unit if text.startswith("-") else unit
    numbers = [sign * value for value in readings(text.removeprefix("+") if not text.startswith("-") else text[1:])]
    sound = [value for value in numbers if low <= value <= high]
    if len(sound) == 2 and sound[0] != sound[1]:
        digits = text.lstrip("+-")
        raise DoubtfulError(text, digits.replace(",", ".").rstrip("0").rstrip("."), _digits(digits))
    return (sound or numbers)[0]


def whole_number(text: str) -> float:
    """A number of what comes in whole ones, such as ISO, pixels or a price: 25,600 and 25.600 are the same.

    Parameters
        text: as it was typed
    Returns
        the number
    Raises
        ValueError for what is no number
    """
    return readings(text)[-1]


def _with_units(
    text: str, per: Mapping[str, float], usual: float | None, low: float, high: float
) -> list[tuple[float, float]]:
    """Unsigned numbers, each in the unit that is kept, with the factor of the unit behind it."""
    at, parts = 0, []
    while at < len(text):
        part = _PART.match(text, at)
        factor = None if not part else per.get(part[2].lower()) if part[2] else usual
        if not part or factor is None:
            raise ValueError(text)
        parts.append((number(part[1], low, high, unit=factor), factor))
        at = part.end()
    return parts


def length(text: str, usual: float | None = 1.0, low: float = -inf, high: float = inf, kept: float = 1.0) -> float:
    """A length: 2 m, 250 cm, 8 ft, 8' 2"; a bare number in the usual unit.

    Parameters
        usual: metres of the unit in force, None where it has to be said
        low, high: what makes sense, in the unit that is kept; kept: metres of that one
    Returns
        in the unit that is kept
    Raises
        ValueError, DoubtfulError among them
    """
    text = _trimmed(text).translate(_QUOTES).replace("''", '"')
    per = {name: metres / kept for name, metres in LENGTHS_M.items()}
    parts = _with_units(text.lstrip("+-"), per, None if usual is None else usual / kept, low, high)
    if not parts:
        raise ValueError(text)
    feet_and_inches = [factor for _, factor in parts] == [per["ft"], per["in"]]
    if len(parts) != 1 and not (feet_and_inches and parts[1][0] < 12 * per["in"]):
        raise ValueError(text)
    return (-1 if text.startswith("-") else 1) * sum(value for value, _ in parts)


def mass_g(text: str, usual: float | None = 1.0) -> float:
    """A mass: 400, 0.4 kg, 14 oz, 1 lb 3 oz; a bare number in the usual unit, whole grams as they are weighed: 1.299 is
    1299.

    Parameters
        text: as it was typed
        usual: grams to the unit of a bare number; None where it must say
    Returns
        [g]
    Raises
        ValueError for what is no mass
    """
    text = _trimmed(text)
    grams = re.fullmatch(r"([\d.,'’ ]+?)\s*(?:g|gr|grams?)?", text, re.IGNORECASE)
    if grams and (usual == 1.0 or grams.end(1) < len(text)):
        return whole_number(grams[1])
    parts = _with_units(text, MASSES_G, usual, 0.0, HEAVIEST_G)
    pounds_and_ounces = [per for _, per in parts] == [MASSES_G["lb"], MASSES_G["oz"]]
    if len(parts) != 1 and not pounds_and_ounces:
        raise ValueError(text)
    return sum(value for value, _ in parts)


def money(text: str, usual: str = "") -> tuple[float, str]:
    """An amount and its currency, which stands beside it or is the usual one: 480, 480 EUR, € 1,299.00. Prices have no
    thousandths.

    Parameters
        text: as it was typed
        usual: the currency where none stands there
    Returns
        the amount, and the currency's three letters
    Raises
        ValueError for what is no price
    """
    amount = _MONEY.fullmatch(_trimmed(text))
    if not amount:
        raise ValueError(text)
    beside = (amount["before"] or amount["after"] or usual).strip()
    currency = SIGNS.get(beside, beside.upper() if beside.isalpha() and len(beside) == 3 else "")
    if beside and not currency and beside != "$":
        raise ValueError(text)
    return whole_number(amount["number"]), currency


def seconds(text: str) -> float:
    """A shutter time: 1/250, 2.5, 30 s, 2". A bare number as cameras show fractions, such as 250, may be either and is
    asked back.

    Parameters
        text: as it was typed
    Returns
        [s]
    Raises
        ValueError for what is no time, or may be two
    """
    said = _trimmed(text).translate(_QUOTES).lower()
    bare = re.sub(r"\s*(?:\"|''|seconds?|secs?|s)$", "", said)
    over, slash, under = bare.partition("/")
    if slash:
        below = whole_number(under)
        if below == 0:
            raise ValueError(text)
        return number(over) / below
    value = number(bare, 1e-6, LONGEST_S)
    if bare == said and LONGEST_MARKED_S < value <= LONGEST_S and value == int(value):
        raise DoubtfulError(text, f"1/{bare}", f"{bare} s")
    return value


def f_number(text: str) -> float:
    """2.8, f/2.8, f2.8, 1:2.8.

    Parameters
        text: as it was typed
    Returns
        the f-number
    Raises
        ValueError for what is none
    """
    return number(re.sub(r"^(?:[fƒ]\s*/?|1:)\s*", "", _trimmed(text), flags=re.IGNORECASE), 0.5, 256.0)


def iso(text: str) -> float:
    """400, ISO 400, 12,800.

    Parameters
        text: as it was typed
    Returns
        the ISO
    Raises
        ValueError for what is none
    """
    return whole_number(re.sub(r"^iso\s*", "", _trimmed(text), flags=re.IGNORECASE))
