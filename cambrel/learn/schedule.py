"""What is known of each kind of question, and when it is asked again: worked out from the answers alone, by a
spaced-repetition library.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from fsrs import Card, Rating, Scheduler

from cambrel.learn.models import Answered

LEVELS = ("estimate", "number", "judge")
"""From picking an answer to typing it to judging a sentence about it."""
TO_RISE = 2
"""So many right answers in a row lead on to the next level; a wrong one leads back."""
SLOW_S, USUAL_S = 45.0, 25.0
"""A right answer that took longer is known, but not well."""
AGAIN_AFTER, MOST_TIMES = 2, 2
"""What went wrong comes again in its round once at least so many others were asked, and so many times in all."""
SCHEDULER = Scheduler(enable_fuzzing=False)


@dataclass
class SkillStanding:
    """How one kind of question stands."""

    kind: str
    card: Card = field(default_factory=lambda: Card(card_id=0))
    level: str = LEVELS[0]
    in_a_row: int = 0
    asked: int = 0
    right: int = 0
    answers: list[tuple[datetime, bool]] = field(default_factory=list)
    chances: list[tuple[datetime, float]] = field(default_factory=list)
    """Just before each answer, the chance that it would be right."""
    slips: dict[str, int] = field(default_factory=dict)
    seconds: list[float] = field(default_factory=list)
    """That were thought, where it is known."""

    @property
    def is_new(self) -> bool:
        return self.asked == 0

    def chance(self, now: datetime) -> float:
        """The chance that it is still known: 0 where it never was asked, and where the last answer was wrong."""
        if self.is_new or not self.answers[-1][1]:
            return 0.0
        return float(SCHEDULER.get_card_retrievability(self.card, now))

    def is_due(self, now: datetime) -> bool:
        return not self.is_new and self.card.due <= now

    def take(self, answer: Answered) -> None:
        """One more answer, in the order of time."""
        at = answer.answered_at
        self.chances.append((at, self.chance(at)))
        self.card, _ = SCHEDULER.review_card(self.card, _rating(answer), at)
        self.answers.append((at, answer.is_right))
        self.asked, self.right = self.asked + 1, self.right + answer.is_right
        if answer.seconds is not None:
            self.seconds.append(answer.seconds)
        if answer.slip:
            self.slips[answer.slip] = self.slips.get(answer.slip, 0) + 1
        place = LEVELS.index(self.level)
        if not answer.is_right:
            self.level, self.in_a_row = LEVELS[max(0, place - 1)], 0
            return
        self.in_a_row += 1
        if self.in_a_row >= TO_RISE:
            self.level, self.in_a_row = LEVELS[(place + 1) % len(LEVELS)], 0


def _rating(answer: Answered) -> Rating:
    if not answer.is_right:
        return Rating.Again
    return Rating.Hard if answer.seconds is not None and answer.seconds > SLOW_S else Rating.Good


def standings(kinds: Iterable[str], answers: Iterable[Answered]) -> dict[str, SkillStanding]:
    """How each kind stands after the answers, which come in the order of time."""
    by_kind = {kind: SkillStanding(kind) for kind in kinds}
    for answer in answers:
        if answer.kind in by_kind:
            by_kind[answer.kind].take(answer)
    return by_kind


def next_kind(found: Mapping[str, SkillStanding], now: datetime, in_round: Sequence[str]) -> str:
    """What to ask next: what is due, the longest first; then what was never asked; then what is likeliest to be
    forgotten.

    Parameters
        in_round: the kinds that were asked in this round, in their order; only what went wrong comes again
    """
    open_to = [
        standing for standing in found.values() if standing.kind not in in_round or _comes_again(standing, in_round)
    ]
    open_to = open_to or [standing for standing in found.values() if standing.kind != in_round[-1]]
    due = sorted((standing for standing in open_to if standing.is_due(now)), key=lambda standing: standing.card.due)
    new = [standing for standing in open_to if standing.is_new]
    if due or new:
        return (due or new)[0].kind
    return min(open_to, key=lambda standing: standing.chance(now)).kind


def _comes_again(standing: SkillStanding, in_round: Sequence[str]) -> bool:
    """Whether a kind that was asked in a round is asked again in it."""
    went_wrong = bool(standing.answers) and not standing.answers[-1][1]
    return went_wrong and standing.kind not in in_round[-AGAIN_AFTER:] and in_round.count(standing.kind) < MOST_TIMES


def minutes_for(found: Mapping[str, SkillStanding], count: int) -> int:
    """About how many minutes so many questions take, by how long the reader thinks."""
    known = sorted(seconds for standing in found.values() for seconds in standing.seconds)
    usual = known[len(known) // 2] if known else USUAL_S
    return max(1, round(count * usual / 60))


def due_now(found: Mapping[str, SkillStanding], now: datetime) -> int:
    """How many kinds are due."""
    return sum(standing.is_due(now) for standing in found.values())
