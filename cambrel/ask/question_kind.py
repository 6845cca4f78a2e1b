"""A kind of question as one object: the terms and the quantities that it is made of, its answer, and examples. Pure.

A pattern lists roles: `focal f_number distance sensor?` needs a focal length, an f-number and a distance, and takes a
format where one is named. A reading that leaves a number or a term unexplained is never an answer.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from cambrel.ask.elsewhere import AdvertPart
from cambrel.ask.sensors import FULL_FRAME_ASSUMED, Named, judged_by, named_sensor
from cambrel.ask.statement import THINGS_M, Statement, TypedQuantity
from cambrel.comparison.brief import Conventions
from cambrel.optics.depth import circle_of_confusion_mm
from cambrel.optics.formats import FULL_FRAME, Sensor, crop_factor
from cambrel.optics.workings import Figure, Working
from cambrel.phrases.advertised import is_likely_equivalent
from cambrel.phrases.concepts import PLAIN
from cambrel.phrases.lens_figures import F_MARKS
from cambrel.phrases.scan import Mention
from cambrel.wording import METRES, Units, figure

SHORTEST_BARE_MM, LONGEST_BARE_MM = 3.0, 1600.0
"""Between them a number without a unit may be a focal length."""
YEARS = range(1900, 2101)


@dataclass(frozen=True)
class AnswerFigure:
    """A figure of an answer: its name, its value in the unit of its kind, and how that is shown."""

    name: str
    value: float
    kind: str

    def shown(self, units: Units = METRES) -> str:
        return figure(Figure(self.value, self.kind), units)


@dataclass(frozen=True)
class Reply:
    """What a question comes to.

    says: the answer in a sentence or two; figures: what it stands on; working: how each was worked out
    assumed: what was not said and had to be taken; opens: where it is seen, as (label, address); caution: what to mind
    sides: lenses that it is about, each by itself; more: what else there is to say
    """

    says: str
    figures: tuple[AnswerFigure, ...] = ()
    working: tuple[Working, ...] = ()
    assumed: tuple[str, ...] = ()
    opens: tuple[tuple[str, str], ...] = ()
    caution: str = ""
    sides: tuple[AdvertPart, ...] = ()
    more: tuple[str, ...] = ()


@dataclass(frozen=True)
class Terms:
    """On what terms a question is answered: the reader's conventions and units."""

    conventions: Conventions = field(default_factory=Conventions)
    units: Units = METRES


@dataclass(frozen=True)
class Pattern:
    """Roles with how many of each are needed, and how many are taken at most."""

    roles: Mapping[str, tuple[int, int]]

    @classmethod
    def of(cls, written: str) -> Pattern:
        roles: dict[str, tuple[int, int]] = {}
        for part in written.split():
            name = part.rstrip("?+")
            least, most = roles.get(name, (0, 0))
            roles[name] = (least + (not part.endswith("?")), 6 if part.endswith("+") else most + 1)
        return cls(roles)


@dataclass(frozen=True)
class GivenLine:
    """A question as one kind understands it."""

    statement: Statement
    terms: Terms
    quantities: Mapping[str, tuple[TypedQuantity, ...]]
    assumed: list[str] = field(default_factory=list)

    @property
    def taken(self) -> list[TypedQuantity]:
        """Every figure that was understood, by the role that it was taken in, in the order of the text."""
        every = [quantity for quantities in self.quantities.values() for quantity in quantities]
        return sorted(every, key=lambda quantity: quantity.mention.first)

    def assume(self, *lines: str) -> None:
        """Note what had to be taken, once."""
        self.assumed.extend(line for line in lines if line not in self.assumed)

    def all(self, role: str) -> list[float]:
        return [quantity.value for quantity in self.quantities.get(role, ())]

    def one(self, role: str) -> float | None:
        return next(iter(self.all(role)), None)

    def sure(self, role: str) -> float:
        """A figure that the pattern needs."""
        return self.all(role)[0]

    @cached_property
    def range_mm(self) -> tuple[float, float]:
        """Shortest and longest focal length of the lens itself, whether it was said as an equivalent or not."""
        values = self.quantities["focal"][0].values
        low, high = values[0], values[-1]
        marks = {mention.kind for mention in self.statement.joins}
        is_said = bool(marks & {"equivalent", "label35"})
        if "true" in marks or not (is_said or is_likely_equivalent(low, self.sensor)) or self.crop == 1:
            return low, high
        lens = figure(Figure(low / self.crop, "mm"))
        self.assumed.append(f"The focal length is read as an equivalent: the lens itself has {lens}.")
        return low / self.crop, high / self.crop

    @property
    def by(self) -> str:
        return self.terms.conventions.crop_by

    @cached_property
    def sensors(self) -> list[Named]:
        """The formats that it names, in their order."""
        stated = [
            named_sensor(words, self.by, self.one("megapixels"), self.one("pitch")) for words in self.statement.sensors
        ]
        for named in stated:
            self.assume(*named.assumed)
        return stated

    @cached_property
    def named(self) -> Named:
        """The format of a question of one, full frame where it says none."""
        if self.sensors:
            return self.sensors[0]
        factor = self.one("crop")
        if factor is not None:
            named = named_sensor(None, self.by, self.one("megapixels"), self.one("pitch"), crop=factor)
        else:
            named = named_sensor(None, self.by, self.one("megapixels"), self.one("pitch"))
            self.assume(FULL_FRAME_ASSUMED)
        self.assume(*named.assumed)
        return named

    @property
    def sensor(self) -> Sensor:
        return self.named.sensor

    @property
    def where(self) -> str:
        """The format as it stands in a sentence: on Micro Four Thirds."""
        return f"on {self.named.called}"

    @property
    def crop(self) -> float:
        return crop_factor(self.sensor, FULL_FRAME, self.by)

    @property
    def circle_mm(self) -> float | None:
        """What counts as sharp on its sensor, by the school in force; None where the pixels have to be known."""
        return self.circle_of(self.sensor)

    def circle_of(self, sensor: Sensor) -> float | None:
        """The same on any sensor."""
        conventions = self.terms.conventions
        return circle_of_confusion_mm(sensor, conventions.criterion, **judged_by(conventions))

    @property
    def size_m(self) -> float:
        """How large the thing is; the usual size of a person or a face where that is not said."""
        if sizes := self.all("size"):
            return sizes[0]
        thing = min((thing for thing in self.statement.things if thing in THINGS_M), key=lambda named: THINGS_M[named])
        said = self.write(THINGS_M[thing], "m")
        self.assume(f"A height of {said} is assumed for the {thing}.")
        return THINGS_M[thing]

    def write(self, value: float, kind: str) -> str:
        return figure(Figure(value, kind), self.terms.units)


@dataclass(frozen=True)
class KindReading:
    """A question as one kind reads it.

    missing: roles that it still needs; unexplained: parts of the text that it has no use for
    score: how much of the question it explains
    """

    kind: Kind
    given: GivenLine
    score: float
    missing: tuple[str, ...] = ()
    unexplained: tuple[Mention, ...] = ()

    @property
    def is_whole(self) -> bool:
        return not self.missing and not self.unexplained

    def answered(self) -> Reply:
        return self.kind.answer(self.given)


@dataclass(frozen=True)
class Kind:
    """One kind of question.

    asks: terms one of which has to be said; none where the quantities alone say it
    also: more terms that it knows what to do with; joins: whether it takes words that compare
    usual: what is added where a quantity is missing, to ask again
    """

    key: str
    title: str
    patterns: tuple[str, ...]
    answer: Callable[[GivenLine], Reply]
    examples: tuple[str, ...]
    asks: frozenset[str] = frozenset()
    also: frozenset[str] = frozenset()
    usual: Mapping[str, str] = field(default_factory=dict)
    weight: float = 0.0
    fits: Callable[[Statement], bool] = lambda statement: True

    def takes(self, role: str) -> bool:
        """Whether a figure of a role, or a format, may be said."""
        return any(role in pattern.roles for pattern in self._patterns)

    @cached_property
    def _patterns(self) -> tuple[Pattern, ...]:
        return tuple(Pattern.of(written) for written in self.patterns)

    def reads(self, statement: Statement, terms: Terms) -> KindReading | None:
        """The question as this kind reads it, by the pattern that leaves least; None where its terms are not said."""
        if (self.asks and not self.asks & statement.terms) or not self.fits(statement):
            return None
        candidates = [self._by(pattern, statement, terms) for pattern in self._patterns]
        return min(candidates, key=lambda read: (len(read.missing) + len(read.unexplained), -read.score))

    def _by(self, pattern: Pattern, statement: Statement, terms: Terms) -> KindReading:
        taken, over = _assigned(pattern, statement)
        bares = _fill(pattern, taken, statement)
        missing = [role for role, (least, _) in pattern.roles.items() for _ in range(least - len(taken.get(role, ())))]
        named = len(statement.sensors) or len(taken.get("crop", ()))
        missing = [role for role in missing if role != "sensor"]
        missing += ["sensor"] * (pattern.roles.get("sensor", (0, 0))[0] - named)
        if "size" in missing and any(thing in THINGS_M for thing in statement.things):
            missing.remove("size")
        left = [*over, *bares, *statement.unread, *statement.foreign]
        known = self.asks | self.also | {PLAIN}
        known |= {"phone"} if statement.sensors else frozenset()
        left += [mention for mention in statement.concepts if mention.text not in known]
        most = pattern.roles.get("sensor", (0, 0))[1]
        left += [mention for named in statement.sensors[most:] for mention in named.mentions]
        matched = sum(len(quantities) for quantities in taken.values()) + min(most, len(statement.sensors))
        score = 3.0 * len(self.asks & statement.terms) + 2.0 * matched - len(missing) + self.weight
        given = GivenLine(statement, terms, {role: tuple(quantities) for role, quantities in taken.items()})
        return KindReading(self, given, score, tuple(missing), tuple(left))


def _assigned(pattern: Pattern, statement: Statement) -> tuple[dict[str, list[TypedQuantity]], list[Mention]]:
    """The quantities of a question by the roles of a pattern, and those that it has no use for."""
    taken: dict[str, list[TypedQuantity]] = {}
    over: list[Mention] = []
    # a length that says what it is of comes before one that does not
    for quantity in sorted(statement.quantities, key=lambda said: said.role == "length"):
        role = _role_of(quantity, pattern, taken)
        if (
            role is None
            and quantity.role == "crop"
            and not statement.sensors
            and pattern.roles.get("sensor", (0, 0))[1]
        ):
            role = "crop"  # a crop factor says which format as well
        if role is None:
            over.append(quantity.mention)
            continue
        is_pair = len(quantity.values) == 2 and role != "focal" and pattern.roles[role][1] == 2
        as_role = replace(quantity, role=role)
        each = [replace(as_role, values=(value,)) for value in quantity.values] if is_pair else [as_role]
        taken.setdefault(role, []).extend(each)
    return taken, over


_STANDS_FOR = {
    "length": ("distance", "size", "background"),
    "crop": ("crop", "converter"),
    "ev": ("ev", "stops"),
}
"""What a quantity may be that does not say which: in the order in which it is tried."""


def _role_of(quantity: TypedQuantity, pattern: Pattern, taken: Mapping[str, list[TypedQuantity]]) -> str | None:
    for role in _STANDS_FOR.get(quantity.role, (quantity.role,)):
        if len(taken.get(role, ())) < pattern.roles.get(role, (0, 0))[1]:
            return role
    return None


def _fill(pattern: Pattern, taken: dict[str, list[TypedQuantity]], statement: Statement) -> list[Mention]:
    """Numbers without a unit, as what the pattern still needs where they can be nothing else; those that are left."""
    left = []
    for mention in statement.bares:
        low, high = mention.values
        role = None
        has_f = bool(taken.get("f_number"))
        if _has_room(pattern, taken, "focal") and may_be_focal(low, high):
            beside_f = has_f or (len(statement.bares) > 1 and _has_room(pattern, taken, "f_number"))
            role = "focal" if (beside_f or statement.sensors) and not statement.is_apart(mention) else None
        elif _has_room(pattern, taken, "f_number") and taken.get("focal") and _may_be_f(low, high):
            role = "f_number"
        if role is None:
            left.append(mention)
        else:
            values = mention.values if low != high else mention.values[:1]
            taken.setdefault(role, []).append(TypedQuantity(role, values, mention))
    return left


def _has_room(pattern: Pattern, taken: Mapping[str, list[TypedQuantity]], role: str) -> bool:
    return len(taken.get(role, ())) < pattern.roles.get(role, (0, 0))[1]


def may_be_focal(low: float, high: float) -> bool:
    return SHORTEST_BARE_MM <= low <= high <= LONGEST_BARE_MM and not (low.is_integer() and low in YEARS)


def _may_be_f(low: float, high: float) -> bool:
    return 0.7 <= low <= high <= 45 and (low in F_MARKS or not low.is_integer() or low <= 9)
