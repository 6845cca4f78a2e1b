"""A text cut into numbers, words and signs, in one pass."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cached_property

from cambrel.phrases.typed_figures import readings

LONGEST = 1000
"""Longer texts are refused: nobody writes a lens in a thousand characters."""
MOST_DIGITS = 9

_TOKEN = re.compile(r"(?P<number>\d+(?:[.,]\d+)*)|(?P<word>mm(?=[fF])|[^\W\d_]+)|(?P<sign>\S)")
_SAME = str.maketrans(
    {
        "ƒ": "f", "Ƒ": "F", "μ": "µ", "–": "-", "—": "-", "−": "-", "‐": "-", "‑": "-", "×": "x", "✕": "x", "″": '"',
        "”": '"', "“": '"',
        "′": "'", "’": "'", "‘": "'", "：": ":", "／": "/", "\u00a0": " ", "\u202f": " ", "\u2009": " ", "≈": "~",
        "→": ">",
    }
)  # fmt: skip
"""Signs that are written in several ways; each becomes one character, so that places in the text stay what they were.
"""


@dataclass(frozen=True)
class Token:
    """A number, a word or a sign; where it stands, and whether white space stands before it.

    read_as: the word that it was written for, where it is misspelt
    """

    kind: str
    text: str
    start: int
    end: int
    spaced: bool
    read_as: str = ""

    @cached_property
    def low(self) -> str:
        return self.read_as or self.text.lower()

    @property
    def value(self) -> float:
        """The number: decimal point or comma; a comma or point before three last digits of a longer number parts
        thousands.
        """
        return self._readings[0]

    @property
    def whole(self) -> float:
        """The number where a large one is expected: 12,800 is twelve thousand eight hundred."""
        return self._readings[-1]

    @property
    def _readings(self) -> tuple[float, ...]:
        try:
            return readings(self.text)
        except ValueError:
            # a version, a date: its first two parts
            over, _, rest = self.text.replace(",", ".").partition(".")
            return (float(f"{over}.{rest.partition('.')[0]}"),)

    @property
    def has_decimals(self) -> bool:
        return "." in self.text or "," in self.text


def plain(text: str) -> str:
    """The text with every sign in one form, letter for letter.

    Parameters
        text: as it was typed
    Returns
        of the same length
    """
    return text.translate(_SAME)


def tokens_of(text: str) -> list[Token]:
    """The tokens of a plain text. Numbers of absurd length are words, which nobody reads.

    Parameters
        text: as `plain` gives it
    Returns
        in their order, each with its place in the text
    """
    found, end = [], 0
    for match in _TOKEN.finditer(text):
        kind = match.lastgroup or "sign"
        piece = match[0]
        if kind == "number" and len(piece) > MOST_DIGITS:
            kind = "word"
        found.append(Token(kind, piece, match.start(), match.end(), match.start() > end or match.start() == 0))
        end = match.end()
    return found
