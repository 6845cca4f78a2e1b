"""A lens on another format, and two lenses or three against each other."""

from __future__ import annotations

from dataclasses import dataclass, replace

from cambrel import wording
from cambrel.ask.against import less_depth, same_picture
from cambrel.ask.answering import ADD_THE_SIZE, answer
from cambrel.ask.elsewhere import AdvertPart, Equivalent
from cambrel.ask.question_kind import SHORTEST_BARE_MM, AnswerFigure, GivenLine, Kind, KindReading, Reply, Terms
from cambrel.ask.sensors import in_a_sentence
from cambrel.ask.statement import ASKS_YES_OR_NO, Statement, TypedQuantity
from cambrel.comparison.brief import Conventions
from cambrel.optics.formats import FORMATS, crop_factor
from cambrel.optics.workings import Working, term, working
from cambrel.phrases.concepts import PLAIN
from cambrel.phrases.reader import UNUSED, read_scan
from cambrel.phrases.records import GearWords, TextReading
from cambrel.phrases.scan import Mention
from cambrel.wording.sentences import known

PHONES = ("phone", "smartphone", "handy", "mobile", "cellphone")
OF_DEGREE = ("faster", "slower", "brighter", "darker", "better", "worse", "wider", "longer", "more", "less", "larger")
"""Words that ask for more than whether two are the same."""
EXPLAINED = frozenset(
    {
        "look",
        "view",
        "light",
        "noise",
        "blur",
        "aperture",
        "focal",
        "shutter",
        "iso",
        "crop_factor",
        "converter",
        "reducer",
        "format",
        "phone",
        "macro",
        "differ",
        "normal",
        "cropped",
        PLAIN,
    }
)
WITH_A_TARGET = frozenset({"size", "depth", "distance", "field", "angle", "stops", "across"})
"""Terms that say what is to be the same there, and ask for something else where no other format is named."""


@dataclass(frozen=True)
class GivenLenses(GivenLine):
    """A question about lenses, with its sides as they were read."""

    reading: TextReading | None = None

    @property
    def taken(self) -> list[TypedQuantity]:
        sides = self.reading.sides if self.reading else ()
        focals = {side.focal_min_mm for side in sides}
        bares = [
            TypedQuantity("focal" if mention.values[0] in focals else "f_number", mention.values, mention)
            for mention in self.statement.bares
        ]
        labels = [
            TypedQuantity("focal", mention.values, mention)
            for mention in self.statement.joins
            if mention.kind == "label35" and mention.values[0] in focals
        ]
        return sorted((*self.statement.quantities, *bares, *labels), key=lambda quantity: quantity.mention.first)


@dataclass(frozen=True)
class LensKind(Kind):
    """A question about lenses, read side by side: one on a format, or several against each other."""

    least: int = 1
    most: int = 1

    def takes(self, role: str) -> bool:
        return role == "distance" or (role == "sensor" and self.most == 1)

    def reads(self, statement: Statement, terms: Terms) -> KindReading | None:
        reading = _reading(statement)
        sides = list(reading.sides) if len(reading.sides) > 1 else [side for side in reading.sides if _is_said(side)]
        if not self.least <= len(sides) <= self.most:
            return None
        has_target = reading.target is not None or len(sides) > 1 or bool(statement.joins)
        left = [mention for mention in statement.scan.mentions if _is_left(mention, statement, reading)]
        allowed = EXPLAINED | (WITH_A_TARGET if has_target else frozenset())
        if len(sides) > 1 and all(side.megapixels for side in sides):
            allowed |= {"pixels"}
        if any(side.distance_m for side in sides):
            allowed |= {"distance"}
        left += [mention for mention in statement.concepts if mention.text not in allowed]
        left += _unsaid(statement, reading)
        left += [mention for mention in statement.foreign if mention not in left]
        matched = sum(value is not None for side in sides for value in vars(side).values())
        score = matched + 2.0 * (reading.target is not None) + self.weight
        lacks = ("sensor",) if _is_of_some_phone(statement, reading) else ()
        return KindReading(self, GivenLenses(statement, terms, {}, [], reading), score, lacks, tuple(left))


def _reading(statement: Statement) -> TextReading:
    reading = read_scan(statement.text, statement.scan)
    reading = replace(reading, sides=tuple(_with_its_crop(side) for side in reading.sides))
    sides = reading.sides
    if (
        len(sides) == 1
        and statement.says(*PHONES)
        and sides[0].focal_min_mm
        and not statement.sensors
        and sides[0].equivalent is None
    ):
        reading = replace(reading, sides=(replace(sides[0], equivalent=True),))
    if len(sides) == 1 and reading.target and sides[0].format and _keeps_the_lens(statement):
        # the same lens on the other format: what it is there, in terms of this one
        reading = replace(reading, sides=(replace(sides[0], format=reading.target),), target=sides[0].format)
    return reading


def _with_its_crop(side: GearWords) -> GearWords:
    """The size of a sensor from an equivalent and a true focal length, where nothing else is said of it."""
    sized = (side.crop, side.format, side.type_designation, side.width_mm, side.diagonal_mm)
    if any(sized) or not (side.equivalent and side.true_focal_mm and side.focal_min_mm):
        return side
    return replace(side, crop=side.focal_min_mm / side.true_focal_mm)


def _is_of_some_phone(statement: Statement, reading: TextReading) -> bool:
    """Whether a true focal length is of a phone that is not said: its sensor decides what that is."""
    return (
        statement.says(*PHONES)
        and not statement.sensors_but(reading.target)
        and not any(side.equivalent for side in reading.sides)
    )


def _keeps_the_lens(statement: Statement) -> bool:
    return "same lens" in " ".join(statement.text.lower().split())


def _is_said(side: GearWords) -> bool:
    return any(value is not None for value in (side.focal_min_mm, side.f_number, side.iso))


def _is_left(mention: Mention, statement: Statement, reading: TextReading) -> bool:
    """Whether a part of the text says nothing of a lens, or nothing that was taken."""
    if mention.kind in UNUSED and mention.kind != "skip":
        return True
    start, end = statement.place(mention.first, mention.last)
    return any(first <= start and end <= last for first, last in reading.unread_at)


def _unsaid(statement: Statement, reading: TextReading) -> list[Mention]:
    """Numbers that nothing calls a focal length: with neither a format nor an f-number, or apart from either."""
    if not statement.bares:
        return []
    if "iso" in statement.terms and not statement.all("iso"):
        return statement.bares  # "iso equivalent mft 200": no lens is spoken of
    if not statement.sensors and not any(side.f_number is not None or side.equivalent for side in reading.sides):
        return statement.bares[:1]
    focals = {side.focal_min_mm for side in reading.sides}
    return [
        mention
        for mention in statement.bares
        if statement.is_apart(mention) or (mention.values[0] in focals and mention.values[0] < SHORTEST_BARE_MM)
    ]


# ---- answers --------------------------------------------------------------------------------------------------------
def _elsewhere(given: GivenLine) -> Reply:
    assert isinstance(given, GivenLenses) and given.reading is not None
    line = answer(given.reading, given.terms.conventions)
    if not line.sides:
        return _view_only(given.reading, given.terms.conventions) if line.lacks_size else Reply("")
    side = line.sides[0]
    return Reply(
        line.says or f"{side.name}.",
        _figures(side, side.on),
        _working(side, given.terms.conventions),
        side.assumed,
        sides=line.sides,
        more=(side.depth,) if side.depth else (),
    )


def _view_only(reading: TextReading, conventions: Conventions) -> Reply:
    """The view of a lens of which only the equivalent is known."""
    side = reading.sides[0]
    slug = reading.target or conventions.home
    low = (side.focal_min_mm or 0.0) / crop_factor(FORMATS[slug], by=conventions.crop_by)
    figure = AnswerFigure(f"view on {FORMATS[slug].name}", low, "mm")
    assumed = () if side.equivalent is None else ("The focal length is read as an equivalent.",)
    return Reply(f"{wording.focal(low)} on {in_a_sentence(slug)} has its view. {ADD_THE_SIZE}", (figure,), (), assumed)


def _figures(side: AdvertPart, there: Equivalent) -> tuple[AnswerFigure, ...]:
    named = (
        ("focal length there", there.view_mm, "mm"),
        ("focal length there, long end", there.long_mm, "mm"),
        ("f-number of the same depth and light", there.f_number, "f"),
        ("f-number of the same depth and light, long end", there.long_f_number, "f"),
        ("exposes like", side.short, "f"),
        ("as noisy as", there.iso_value, "iso"),
    )
    return tuple(AnswerFigure(name, value, kind) for name, value, kind in named if value is not None and known(value))


def _working(side: AdvertPart, conventions: Conventions) -> tuple[Working, ...]:
    by = conventions.crop_by
    there = FORMATS[side.on.slug]
    here, away = crop_factor(side.sensor, by=by), crop_factor(there, by=by)
    lines = []
    if side.low_mm is not None and side.on.view_mm is not None and side.distance_m is None:
        lines.append(
            working(
                "f₂",
                "f × C₁ / C₂",
                side.on.view_mm,
                "mm",
                term("f", "focal length", side.low_mm, "mm"),
                term("C₁", "crop factor here", here),
                term("C₂", "crop factor there", away),
            )
        )
    if side.short is not None and side.on.f_number is not None and side.distance_m is None:
        lines.append(
            working(
                "N₂",
                "N × C₁ / C₂",
                side.on.f_number,
                "f",
                term("N", "f-number", side.short, "f"),
                term("C₁", "crop factor here", here),
                term("C₂", "crop factor there", away),
            )
        )
    return tuple(lines)


def _against(given: GivenLine) -> Reply:
    assert isinstance(given, GivenLenses) and given.reading is not None
    line = answer(given.reading, given.terms.conventions)
    says = line.says
    first = given.statement.scan.low(0)
    if len(line.sides) == 2 and first in ASKS_YES_OR_NO and not given.statement.says(*OF_DEGREE):
        says = f"{same_picture(*line.sides, given.terms.conventions)}. {says}"
    if len(line.sides) == 2 and "depth" in given.statement.terms:
        says = " ".join(filter(None, (less_depth(*line.sides, given.terms.conventions), says)))
    figures = tuple(
        replace(figure, name=f"{letter}: {figure.name}")
        for letter, side in zip("ABC", line.sides, strict=False)
        for figure in _figures(side, side.on)
    )
    assumed = tuple(dict.fromkeys(note for side in line.sides for note in side.assumed))
    return Reply(says, figures, (), assumed, sides=line.sides, more=(line.fair,) if line.fair else ())


KINDS = (
    LensKind(
        "lens",
        "A lens on another format",
        (),
        _elsewhere,
        (
            "21 f/2.2 aps-c 1.6",
            "what is 50 f/2 ff on mft",
            "which focal length on mft gives the look of 35",
            "25 mm equiv f/1.7 1/1.3",
            "300 f/4 with 1.4x ff",
            "iso 3200 ff on aps-c",
        ),
        usual={"sensor": "on a 1/1.3 type sensor"},
    ),
    LensKind(
        "lenses",
        "Lenses against each other",
        (),
        _against,
        ("25 f/1.4 mft vs 50 f/1.8 ff", "56 1.2 apsc vs 85 1.8", "400 mm 45 mp ff vs 20 mp mft"),
        least=2,
        most=3,
    ),
)
