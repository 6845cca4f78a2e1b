"""A text's tokens read from left to right into mentions. Each reader looks a bounded number of tokens ahead, so that
the time taken is in proportion to the text.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass

from cambrel.phrases.lexicon import FILLERS, FORMAT_NAMES, LONGEST_NAME
from cambrel.phrases.tokens import Token
from cambrel.phrases.units import LENGTHS_M, OTHER_UNITS


@dataclass
class Mention:
    """A stretch of tokens, from first up to but not including last, and what it says.

    kind: focal, f_number, bare, format, crop, type, size, diagonal, megapixels, pitch, distance, shutter, iso, weight,
        converter, equivalent,
    label35 ("35 mm equivalent"), true, split, prep, question, skip (understood and not wanted), filler, unread, code
    """

    kind: str
    first: int
    last: int
    values: tuple[float, ...] = ()
    text: str = ""
    formats: tuple[str, ...] = ()


UNITS = frozenset({*LENGTHS_M, "s", "g", "kg"}) - {"mm", "in", "inch", '"'}
"""Behind a number they make it a figure, and no part of a format's name."""

Reader = Callable[["Scan", int], "Mention | None"]
"""What stands at a place of a text, or None where that is nothing that this reader knows."""


class Scan:
    """The tokens of one text, read from left to right into mentions."""

    def __init__(self, tokens: list[Token], codes: Mapping[str, str], readers: Sequence[Reader]) -> None:
        self.tokens, self.codes = tokens, codes
        self.mentions: list[Mention] = []
        at = 0
        while at < len(tokens):
            mention = next((m for m in (reader(self, at) for reader in readers) if m is not None), None)
            if mention is None:
                kind = "filler" if tokens[at].kind == "sign" or tokens[at].low in FILLERS else "unread"
                mention = Mention(kind, at, at + 1)
            self.mentions.append(mention)
            at = mention.last

    # ---- looking ahead --------------------------------------------------------------------------------------------
    def low(self, at: int) -> str:
        return self.tokens[at].low if 0 <= at < len(self.tokens) else ""

    def is_number(self, at: int) -> bool:
        return 0 <= at < len(self.tokens) and self.tokens[at].kind == "number"

    def glued(self, at: int) -> bool:
        """Whether a token stands right after the one before it."""
        return 0 < at < len(self.tokens) and not self.tokens[at].spaced

    def value(self, at: int) -> float:
        return self.tokens[at].value

    def past(self, at: int, *signs: str) -> int:
        """The next place behind at most one of these."""
        return at + 1 if self.low(at) in signs else at

    def range_end(self, at: int) -> int:
        """The place of the second number of a range whose first stands at a place, or 0."""
        nxt = at + 1
        if self.low(nxt) in {"-", "to", "~", "and", "bis"} and self.is_number(nxt + 1):
            return nxt + 1
        if self.low(nxt) == "." and self.low(nxt + 1) == "." and self.is_number(nxt + 2):
            return nxt + 2
        return 0

    def format_at(self, at: int) -> tuple[int, tuple[str, ...]]:
        """Where the longest name of a format that begins here ends, and the formats that it may mean; at itself where
        none does.
        """
        best: tuple[int, tuple[str, ...]] = (at, ())
        said: list[str] = []
        place = at
        while place < len(self.tokens) and len(said) < LONGEST_NAME:
            low = self.low(place)
            if low in {"-", "."} and said:
                place += 1
                continue
            if said and len(said[0]) == 1 and said[0].isalpha() and len(said) == 1 and not self.glued(place):
                break  # "m 43" is a distance and a number, "m43" a format
            said.append(f"{self.value(place):g}" if self.is_number(place) and low not in {"4", "3"} else low)
            place += 1
            is_figure = self.is_number(place - 1) and self.low(place) in UNITS and self.glued(place)
            if (formats := FORMAT_NAMES.get(tuple(said))) and not is_figure:
                best = (place, formats)
        return best

    def is_other(self, at: int) -> bool:
        """Whether the number at a place has a unit that no lens and no setting has."""
        return self.low(self.past(at + 1, "-")) in OTHER_UNITS

    def before(self, at: int, words: set[str], reach: int = 3) -> bool:
        """Whether one of these words stands shortly before, with no number between."""
        for place in range(at - 1, max(-1, at - 1 - reach), -1):
            if self.low(place) in words:
                return True
            if self.is_number(place):
                return False
        return False

    def has_unit(self, at: int, *units: Collection[str]) -> bool:
        """Whether the number at a place is followed by one of these units."""
        place = self.past(at + 1, "-")
        if self.format_at(place)[1]:
            return False
        return any(self.low(place) in words for words in units)
