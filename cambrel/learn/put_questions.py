"""One question as it is put: drawn, written into a token that comes back with the answer, and judged."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, fields
from random import Random
from time import time
from typing import Any

from django.core import signing

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.drills.all_drills import KINDS
from cambrel.drills.drawing import TRIES, USUAL_POOL, Case, GearPool, drawn, seen
from cambrel.drills.given import Given
from cambrel.drills.kind import Words
from cambrel.drills.posing import Posed
from cambrel.learn.schedule import LEVELS
from cambrel.optics.formats import Sensor
from cambrel.optics.workings import Figure
from cambrel.wording import METRES, Units

SALT = "cambrel.learn"
OLDEST_S, LONGEST_S = 7 * 24 * 3600, 600.0
EYE, SHARE_OF_PICTURES = "eye", 0.5
"""Two pictures to tell apart, instead of an estimate."""
BOTH_WAYS = ((True, True), (True, False), (False, True), (False, False))


class TokenError(ValueError):
    """A question that is none of ours, or too old to be answered."""


@dataclass(frozen=True)
class Put:
    """A question of a round. seed: in which order its answers stand."""

    round: str
    ordinal: int
    kind: str
    level: str
    seed: int
    case: Case
    put_at: float = 0.0
    """When, in seconds; it says how long was thought."""

    @property
    def words(self) -> Words:
        return KINDS[self.kind].words

    @property
    def posed(self) -> Posed:
        return KINDS[self.kind].pose(self.case.given)

    @property
    def text(self) -> str:
        if self.level == EYE:
            return self.words.asked_of(self.words.eye[0], self.case.given)
        return self.words.question(self.case.given)

    @property
    def claim(self) -> str:
        return self.words.claim(self.case.given)

    def values(self) -> list[float]:
        """The answers to pick from, mixed."""
        posed = self.posed
        answers = [posed.right, *(slip.value for slip in posed.offered)]
        Random(self.seed).shuffle(answers)
        return answers

    def said(self, value: float, units: Units = METRES) -> str:
        """An answer as it is written."""
        figure = Figure(value, KINDS[self.kind].unit)
        if figure.kind == "stops" and value == 0:
            return "nothing"
        text = wording.figure(figure, units)
        return f"{text}{wording.NBSP}{self.words.unit}" if figure.kind == "number" else text

    def choices(self, units: Units = METRES) -> list[str]:
        """What there is to pick from, in its order."""
        if self.level == EYE:
            return ["The first", "The second"]
        if self.level == "judge":
            first, second = self.words.terms
            return [
                f"True either way: {first}, and {second}",
                f"Only true {first}",
                f"Only true {second}",
                "Not true either way",
            ]
        return [self.said(value, units) for value in self.values()]

    def judged(self, answer: int | float) -> tuple[bool, str]:
        """Whether an answer is right, and which mistake gives it: the number of what was picked, or what was typed."""
        kind, given = KINDS[self.kind], self.case.given
        if self.level == EYE:
            is_right = int(answer) == self.shown_first
            return is_right, "" if is_right else EYE
        if self.level == "judge":
            right, picked = kind.holds(given), BOTH_WAYS[int(answer)]
            return picked == right, _misjudged(right, picked)
        value = self.values()[int(answer)] if self.level == "estimate" else float(answer)
        return kind.is_right(given, value), kind.slip_of(given, value)

    @property
    def shown_first(self) -> int:
        """At which place stands the picture that is asked for."""
        return self.seed % 2

    def token(self) -> str:
        """The whole question, signed, so that what comes back is what was put."""
        given = asdict(self.case.given)
        frames = [list(given.pop(name).values())[:4] for name in ("one", "other")]
        cells = [self.round, self.ordinal, self.kind, self.level, self.seed, time(), frames, list(given.values())]
        return signing.dumps([*cells, self.case.one, self.case.other, self.case.lens], salt=SALT, compress=True)

    @property
    def seconds(self) -> float | None:
        """How long was thought; None where that is no time that anybody thinks."""
        passed = time() - self.put_at
        return passed if 0 <= passed < LONGEST_S else None


def _misjudged(right: tuple[bool, bool], picked: tuple[bool, bool]) -> str:
    """What kind of a wrong judgement it is."""
    if right == picked:
        return ""
    if picked == (right[1], right[0]):
        return "other_terms"
    return "one_for_both" if picked[0] == picked[1] else "one_of_two"


def read(token: str) -> Put:
    """The question of a token.

    Raises
        TokenError
    """
    try:
        cells = signing.loads(token, salt=SALT, max_age=OLDEST_S)
        round_, ordinal, kind, level, seed, put_at, frames, numbers, one, other, lens = cells
        names = [field.name for field in fields(Given)][2:]
        if kind not in KINDS or level not in (*LEVELS, EYE):
            raise ValueError(kind)
        one_frame, other_frame = (Sensor(*frame) for frame in frames)
        given = Given(one_frame, other_frame, **dict(zip(names, numbers, strict=True)))
        return Put(round_, ordinal, kind, level, seed, Case(given, one, other, lens), put_at)
    except (signing.BadSignature, ValueError, TypeError) as error:
        raise TokenError("This question was asked too long ago. Here is another.") from error


def put(
    round_: str, ordinal: int, kind: str, level: str, pool: GearPool, conventions: Conventions, before: int = 0
) -> Put:
    """A question of a round; the same one however often it is asked for.

    Parameters
        before: how many of the kind were asked in this round, none of which is asked again
    """
    order = Random(f"{round_} {ordinal} {kind} {level}")
    seed = order.randrange(10**6)
    is_seen = not before and level == LEVELS[0] and bool(KINDS[kind].words.eye) and order.random() < SHARE_OF_PICTURES
    to_judge = level == LEVELS[2]

    def case_of(among: GearPool) -> Case:
        return _unlike(
            kind,
            round_,
            before,
            lambda random: drawn(kind, random, among, conventions, to_judge=to_judge, is_seen=is_seen),
        )

    try:
        case = case_of(pool)
    except LookupError:
        # records without pixels, or of frames that are too alike for this: then the usual formats
        case = case_of(USUAL_POOL)
    level, case = (EYE, seen(kind, case)) if is_seen else (level, case)
    return Put(round_, ordinal, kind, level, seed, case)


def _unlike(kind: str, round_: str, before: int, draw: Callable[[Random], Case]) -> Case:
    """The case that comes after so many of a round, none of which reads like another."""
    random = Random(f"{round_} {kind}")
    met: set[tuple[str, str, str]] = set()
    for _ in range(TRIES):
        case = draw(random)
        text = KINDS[kind].words.question(case.given), case.one, case.other
        if text not in met and len(met) == before:
            break
        met.add(text)
    return case


def wrong_words(put_: Put, slip: str) -> str:
    """What was done by whoever makes a mistake."""
    judged: Mapping[str, str] = {
        "other_terms": "You swapped the terms. What is kept the same decides.",
        "one_for_both": "The two terms give different answers here.",
        "one_of_two": "The two terms give the same answer here.",
    }
    if put_.level == LEVELS[2]:
        return judged.get(slip, "")
    if slip == EYE:
        return put_.words.eye[1]
    text = put_.words.slips.get(slip, "")
    return put_.words.asked_of(text, put_.case.given) if text else ""


def truths(put_: Put) -> list[str]:
    """What of a sentence is true under which terms."""
    said: list[Any] = []
    for terms, size in zip(put_.words.terms, KINDS[put_.kind].sizes(put_.case.given), strict=True):
        claim = put_.words.claims[0 if size < -1 else 2 if size > 1 else 1]
        said.append(f"{terms[:1].upper()}{terms[1:]}: {put_.words.asked_of(claim, put_.case.given)}")
    return said
