"""What was understood of a question, piece by piece, each to be changed in place: the line is then asked anew. Pure."""

from __future__ import annotations

from dataclasses import dataclass

from cambrel.ask.answering import ADD_THE_SIZE
from cambrel.ask.question_kind import KindReading, Reply
from cambrel.ask.sensors import FULL_FRAME_ASSUMED
from cambrel.ask.statement import NamedSensor, Statement
from cambrel.optics.designations import type_size
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.phrases.advertised import is_likely_equivalent
from cambrel.phrases.scan import Mention

ROLES = {
    "focal": "Focal length",
    "f_number": "F-number",
    "distance": "Distance",
    "size": "Size",
    "background": "Background",
    "shutter": "Shutter time",
    "iso": "ISO",
    "converter": "Converter",
    "magnification": "Magnification",
    "megapixels": "Pixels",
    "pitch": "Pixel size",
    "stops": "Stops",
    "dots": "Print",
    "angle": "Angle",
    "percent": "Share",
    "rate": "Frames a second",
    "ev": "Light",
    "density": "Filter",
    "guide": "Guide number",
    "paper": "Print",
    "weight": "Weight",
    "block": "Sides",
    "price": "Price",
    "length": "Length",
    "crop": "Crop factor",
    "pixels_wide": "Pixels",
}
LENGTHS = frozenset({"distance", "length"})
TYPED = (
    ("full frame", "full-frame"),
    ("aps-c", "aps-c"),
    ("aps-c 1.6x", "aps-c-small"),
    ("mft", "micro-four-thirds"),
    ("1 inch", "one-inch"),
    ("1/1.3 type", "type-1-1.3"),
    ("1/2.3 type", "type-1-2.3"),
    ("44x33", "44x33"),
    ("54x40", "54x40"),
    ("6x4.5", "film-645"),
    ("6x6", "film-66"),
    ("6x7", "film-67"),
    ("4x5", "sheet-4x5"),
)
"""How each format that is offered is typed."""


@dataclass(frozen=True)
class Chip:
    """A piece of a question: its label, where it stands in the line, and what it says.

    start, end: of the piece; both at the end of the line for one that is not said, which `before` then leads in
    choices: what it may be instead, each as it is typed and as it is shown; none for what is typed freely
    """

    label: str
    start: int
    end: int
    value: str
    choices: tuple[tuple[str, str], ...] = ()
    before: str = ""


def chips_of(candidate: KindReading, answer: Reply) -> tuple[Chip, ...]:
    """The pieces of a question as it was understood, in their order: and a format that the answer had to assume."""
    statement = candidate.given.statement
    labels = {quantity.mention.first: (quantity.mention, ROLES[quantity.role]) for quantity in candidate.given.taken}
    made = [_piece(statement, mention, label) for mention, label in labels.values()]
    made += [_format(statement, named) for named in statement.sensors]
    made += _equivalent(statement)
    made.sort(key=lambda chip: chip.start)
    if FULL_FRAME_ASSUMED in answer.assumed or ADD_THE_SIZE in answer.says:
        end = len(statement.text)
        made.append(Chip("Format", end, end, "full frame", _formats("full frame"), " on "))
    if candidate.kind.takes("distance") and not any(quantity.role in LENGTHS for quantity in candidate.given.taken):
        end = len(statement.text)
        made.append(Chip("Distance", end, end, "", (), " at "))
    return (*made, *_held(statement))


def _piece(statement: Statement, mention: Mention, label: str) -> Chip:
    start, end = statement.place(mention.first, mention.last)
    return Chip(label, start, end, statement.text[start:end])


def _formats(value: str) -> tuple[tuple[str, str], ...]:
    named = tuple((typed, FORMATS[slug].name) for typed, slug in TYPED)
    return named if value in dict(TYPED) else ((value, value), *named)


def _format(statement: Statement, named: NamedSensor) -> Chip:
    start, end = statement.place(named.first, named.last)
    value = statement.text[start:end]
    slug = named.words.format if named.words.crop is None else None
    typed = next((typed for typed, known in TYPED if known == slug), "")
    choices = tuple((value if word == typed else word, FORMATS[known].name) for word, known in TYPED)
    return Chip("Format", start, end, value, choices if typed else ((value, value), *choices))


def _equivalent(statement: Statement) -> list[Chip]:
    """Where a focal length may be an equivalent or the lens's own: the other one by one press."""
    focal = next(iter(statement.all("focal")), None)
    if focal is None or len(statement.sensors) != 1:
        return []
    words = statement.sensors[0].words
    marks = [m for m in statement.scan.mentions if m.kind in {"equivalent", "true"}]
    small = _sensor_named(words.format, words.type_designation)
    if not marks and not (small and is_likely_equivalent(focal.value, small)):
        return []
    if marks:
        start, end = statement.place(marks[0].first, marks[0].last)
        value = statement.text[start:end]
        now, other = ("equivalent", "true") if marks[0].kind == "equivalent" else ("true", "equivalent")
        shown = {"equivalent": "an equivalent", "true": "the lens’s own"}
        return [Chip("Read as", start, end, value, ((value, shown[now]), (other, shown[other])))]
    _, end = statement.place(focal.mention.first, focal.mention.last)
    return [Chip("Read as", end, end, "", (("", "an equivalent"), ("true", "the lens’s own")), " ")]


def _sensor_named(slug: str | None, designation: str | None) -> Sensor | None:
    return FORMATS.get(slug or "") or (type_size(designation).sensor if designation else None)


def _held(statement: Statement) -> list[Chip]:
    """What is kept the same from one format to the other: the picture, or the lens."""
    formats = [named for named in statement.sensors if named.words.format]
    is_one_lens = not any(m.kind == "split" and m.text == "strong" for m in statement.joins)
    if len(formats) != 2 or not is_one_lens or not (statement.all("focal") or statement.bares):
        return []
    text = statement.text.lower()
    at = text.find("same lens")
    choices = (("same picture", "the picture"), ("same lens", "the lens"))
    if at >= 0:
        return [Chip("Kept the same", at, at + len("same lens"), "same lens", choices)]
    end = len(statement.text)
    return [Chip("Kept the same", end, end, "same picture", choices, ", ")]
