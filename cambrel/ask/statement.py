"""A question as it was understood: its quantities by their roles, the formats that it names, its terms, and what is
left. Pure.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from cambrel.phrases.concepts import PLAIN
from cambrel.phrases.reader import looks_like, scan_of
from cambrel.phrases.records import GearWords
from cambrel.phrases.scan import Mention, Scan

QUANTITIES = frozenset(
    {
        "focal",
        "f_number",
        "distance",
        "shutter",
        "iso",
        "converter",
        "magnification",
        "megapixels",
        "pitch",
        "stops",
        "dots",
        "angle",
        "percent",
        "rate",
        "ev",
        "density",
        "guide",
        "paper",
        "weight",
        "pixels_wide",
        "block",
        "price",
    }
)
"""What a role may be, besides "sensor" for a format, "crop" for a crop factor alone, "size" and "background" for a
length by what stands beside it, and "bare" for a number that says no role.
"""
ASKS_YES_OR_NO = frozenset({"is", "are", "does", "do", "would", "will", "can", "ist", "est", "es", "è"})
APART = frozenset(
    {
        "shutter",
        "iso",
        "distance",
        "stops",
        "dots",
        "megapixels",
        "weight",
        "ev",
        "angle",
        "percent",
        "rate",
        "paper",
        "density",
    }
)
SENSORS = frozenset({"format", "size", "type", "diagonal", "code"})
CONNECTORS = frozenset(
    {"-", "(", ")", ",", "a", "the", "sensor", "camera", "body", "format", "with", "type", "chip", "of"}
)
SIZED = frozenset({"tall", "wide", "high", "long", "big", "across", "broad"})
AWAY = frozenset({"away", "off", "distance", "from", "distant", "entfernt", "back", "metres"})
AT = frozenset({"at", "from", "@", "bei", "auf", "focused", "distance", "à", "aus", "focus", "focussed", "stand"})
DANGLING = frozenset({"at", "on", "with", "in", "of", "for", "to", "and", "vs", "a", "the"})
THINGS_M = {
    **dict.fromkeys(("person", "man", "woman", "player", "dancer", "full length", "full body", "head to toe"), 1.75),
    **dict.fromkeys(("face", "head", "headshot", "head shot"), 0.25),
    **dict.fromkeys(("head and shoulders", "bust"), 0.6),
    **dict.fromkeys(("half body", "half length"), 0.9),
}
"""How large what a question names is taken to be, where it does not say: people as tall, a head with its hair."""


@dataclass(frozen=True)
class TypedQuantity:
    """A figure of a question: its role, its values in our units, and the tokens that it was read from."""

    role: str
    values: tuple[float, ...]
    mention: Mention
    text: str = ""

    @property
    def value(self) -> float:
        return self.values[0]


@dataclass(frozen=True)
class NamedSensor:
    """A format as a question names it, with the crop factor that stands beside it: the words, and their tokens."""

    words: GearWords
    mentions: tuple[Mention, ...]
    formats: tuple[str, ...] = ()

    @property
    def notes(self) -> tuple[str, ...]:
        """What had to be taken for its name."""
        return tuple(mention.text for mention in self.mentions if mention.kind == "size" and mention.text)

    @property
    def first(self) -> int:
        return self.mentions[0].first

    @property
    def last(self) -> int:
        return self.mentions[-1].last


@dataclass
class Statement:
    """A question in its parts, each from the tokens of `scan`."""

    text: str
    scan: Scan
    quantities: list[TypedQuantity] = field(default_factory=list)
    sensors: list[NamedSensor] = field(default_factory=list)
    bares: list[Mention] = field(default_factory=list)
    concepts: list[Mention] = field(default_factory=list)
    unread: list[Mention] = field(default_factory=list)
    foreign: list[Mention] = field(default_factory=list)
    joins: list[Mention] = field(default_factory=list)
    """What asks, compares or calls something an equivalent."""

    def __post_init__(self) -> None:
        for mention in self.scan.mentions:
            self._take(mention)

    def _take(self, mention: Mention) -> None:
        if mention.kind == "distance":
            self.quantities.append(TypedQuantity(_length_role(self.scan, mention), mention.values, mention))
        elif mention.kind in QUANTITIES:
            self.quantities.append(TypedQuantity(mention.kind, mention.values, mention, mention.text))
        elif mention.kind in SENSORS or (mention.kind == "crop" and self._is_of_format(mention)):
            self._name(mention)
        elif mention.kind == "crop":
            self.quantities.append(TypedQuantity("crop", mention.values, mention))
        elif mention.kind == "label35":
            self.joins.append(mention)
        else:
            kept = {
                "bare": self.bares,
                "concept": self.concepts,
                "unread": self.unread,
                "foreign": self.foreign,
                "equivalent": self.joins,
                "question": self.joins,
                "split": self.joins,
                "true": self.joins,
            }.get(mention.kind)
            if kept is not None:
                kept.append(mention)
            if mention.kind == "equivalent" and mention.formats:
                self._name(mention)

    def _is_of_format(self, mention: Mention) -> bool:
        """Whether a crop factor stands right behind a format, or right before it."""
        return bool(self.sensors) and self._is_joined(self.sensors[-1].last, mention.first)

    def _is_joined(self, end: int, start: int) -> bool:
        return all(self.scan.low(at) in CONNECTORS for at in range(end, start))

    def _name(self, mention: Mention) -> None:
        given = _sensor_words(mention)
        before = self.sensors[-1] if self.sensors else None
        if before is not None and self._is_joined(before.last, mention.first) and _adds(before.words, given):
            known = {name: value for name, value in vars(given).items() if value is not None}
            self.sensors[-1] = NamedSensor(
                replace(before.words, **known), (*before.mentions, mention), before.formats or mention.formats
            )
            return
        self.sensors.append(NamedSensor(given, (mention,), mention.formats))

    # ---- what it says ---------------------------------------------------------------------------------------------
    def all(self, role: str) -> list[TypedQuantity]:
        return [quantity for quantity in self.quantities if quantity.role == role]

    @property
    def wants_a_look(self) -> bool:
        """Whether a look is wanted on a format that is named behind it, and no lens on that one is spoken of."""
        named = [mention for mention in self.scan.mentions if mention.kind == "format"]
        return any(looks_like(self.scan.mentions, mention) for mention in named)

    def sensors_but(self, slug: str | None) -> list[NamedSensor]:
        """The formats that it names, without one."""
        return [named for named in self.sensors if slug is None or named.words.format != slug]

    @cached_property
    def terms(self) -> frozenset[str]:
        """The keys of the terms that it names, without those that change nothing."""
        return frozenset(mention.text for mention in self.concepts) - {PLAIN}

    def piece(self, mention: Mention) -> str:
        """A part of the text, as it was typed."""
        start, end = self.place(mention.first, mention.last)
        return self.text[start:end]

    def place(self, first: int, last: int) -> tuple[int, int]:
        """Where tokens stand in the text."""
        return self.scan.tokens[first].start, self.scan.tokens[last - 1].end

    def is_apart(self, mention: Mention) -> bool:
        """Whether a number stands between figures of something else, with nothing of a lens beside it."""
        at = self.scan.mentions.index(mention)
        beside = [self.scan.mentions[place].kind for place in (at - 1, at + 1) if 0 <= place < len(self.scan.mentions)]
        return bool(beside) and all(kind in APART for kind in beside)

    def without(self, mentions: list[Mention]) -> str:
        """The text without some of its parts."""
        kept, end = [], 0
        for start, stop in sorted(self.place(mention.first, mention.last) for mention in mentions):
            kept.append(self.text[end:start])
            end = max(end, stop)
        rest = " ".join(" ".join([*kept, self.text[end:]]).split()).strip(" ,;-")
        while rest.rpartition(" ")[2].lower() in DANGLING:
            rest = rest.rpartition(" ")[0]
        return rest

    @cached_property
    def respelt(self) -> list[tuple[str, str]]:
        """Words that were read as those that they were written for."""
        return [(token.text, token.read_as) for token in self.scan.tokens if token.read_as]

    @cached_property
    def things(self) -> list[str]:
        """What it says is to be in the picture."""
        return [self.piece(mention).lower() for mention in self.concepts if mention.text == "thing"]

    def says(self, *words: str) -> bool:
        """Whether one of these words stands in it."""
        return any(token.low in words for token in self.scan.tokens)


def _sensor_words(mention: Mention) -> GearWords:
    if mention.kind == "code":
        return GearWords(format=mention.text.partition(":")[2])
    if mention.kind in {"format", "equivalent"}:
        return GearWords(format=mention.formats[0])
    if mention.kind == "type":
        return GearWords(type_designation=mention.text)
    if mention.kind == "size":
        return GearWords(width_mm=mention.values[0], height_mm=mention.values[1])
    if mention.kind == "diagonal":
        return GearWords(diagonal_mm=mention.values[0])
    return GearWords(crop=mention.values[0])


def _adds(before: GearWords, more: GearWords) -> bool:
    """Whether words of a format say more of the one before them, and nothing else of it."""
    if more.crop is not None:
        return before.crop is None
    sized = more.width_mm is not None or more.type_designation is not None
    return sized and before.format is not None and before.width_mm is None and before.type_designation is None


GENERAL = frozenset({"subject", "object", "thing", "motif", "target", "distance"})
PEOPLE = frozenset({"person", "man", "woman", "face", "head", "headshot", "player", "dancer", "child"})
TALLEST_M = 2.5
"""What is said behind people and is more than that is how far away they are."""


def _length_role(scan: Scan, mention: Mention) -> str:
    """Whether a length is how far away something is, how far behind it the background is, or how large it is; "length"
    where nothing beside it says so.
    """
    before, after = scan.low(mention.first - 1), scan.low(mention.last)
    after = scan.low(mention.last + 1) if after == "-" else after
    sized = {m.last for m in scan.mentions if m.kind == "distance"}
    near = [
        m
        for m in scan.mentions
        if m.kind == "concept"
        and (m.first in range(mention.last, mention.last + 4) or (m.last == mention.first and m.first not in sized))
    ]
    if after in {"behind"} or (before in {"background", "behind", "hintergrund"}):
        return "background"
    if scan.low(mention.first - 2) == "background" and before in AT:
        return "background"
    if after in SIZED or (_is_one_of_two(scan) and _is_a_depth(scan, mention, before)):
        return "size"
    if after in AWAY or before in AT or (after in GENERAL and scan.low(mention.last + 1) == "distance"):
        return "distance"
    things = {scan.tokens[m.first].low for m in near if m.text == "thing"} - GENERAL
    if things and not (things & PEOPLE and mention.values[0] > TALLEST_M):
        return "size"
    return "length"


def _is_one_of_two(scan: Scan) -> bool:
    return sum(mention.kind == "distance" for mention in scan.mentions) > 1


def _is_a_depth(scan: Scan, mention: Mention, before: str) -> bool:
    """Whether a length is that of a depth of field: right before the words, or behind them and an "of"."""
    depths = [m for m in scan.mentions if m.kind == "concept" and m.text == "depth"]
    return any(m.first == mention.last or (before == "of" and m.last == mention.first - 1) for m in depths)


def statement_of(text: str, codes: Mapping[str, str] | None = None) -> Statement:
    """A question in its parts.

    Parameters
        text: as a photographer types it
        codes: the owner's own letter codes
    Returns
        Statement
    """
    return Statement(text, scan_of(text, codes, spelling=True))
