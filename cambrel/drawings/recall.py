"""What is known over time: for each skill the chance of knowing it, which fades, and the answers that raised it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Circle, Drawing, Label, Line, Path, Shape, shortened
from cambrel.wording import share

LABELS, ENDS, ROW, TOP, FOOT = 270.0, 46.0, 30.0, 6.0, 20.0
SHORTEST = timedelta(days=1)
DATES = 110.0
"""So many pixels are left to a date."""


@dataclass(frozen=True)
class Skill:
    """answers: when, and whether it was right; chances: just before each of them, the chance of that; now: the chance
    now
    """

    name: str
    answers: Sequence[tuple[datetime, bool]]
    chances: Sequence[tuple[datetime, float]]
    now: float


def recall(skills: Sequence[Skill], now: datetime, width: float = 860.0) -> Drawing:
    """A row for each skill, over one axis of time.

    Parameters
        skills: with what was answered of each
        now: the right end of the axis
        width: [px]
    Returns
        shapes, a title and a description
    """
    first = min(min(at for at, _ in skill.answers) for skill in skills)
    first = min(first, now - SHORTEST)
    height = TOP + ROW * len(skills) + FOOT
    along = PixelScale(first.timestamp(), now.timestamp(), LABELS, width - ENDS)
    shapes: list[Shape] = list(_dates(along, first, now, height - FOOT))
    for index, skill in enumerate(skills):
        top = TOP + ROW * index
        up = PixelScale(0.0, 1.0, top + ROW - 6, top + 4)
        shapes.append(Label(0, top + ROW - 9, shortened(skill.name, LABELS - 8, 12), "label", size=12))
        shapes.append(Line(LABELS, up(0), width - ENDS, up(0), "grid"))
        shapes.append(Path(tuple(_fading(skill, along, up, now)), "recall-line"))
        for at, is_right in skill.answers:
            shapes.append(Circle(along(at.timestamp()), up(0), 3.0, "recall-right" if is_right else "recall-wrong"))
        shapes.append(Label(width, top + ROW - 9, share(round(skill.now, 2)), "value", "end", 12))
    said = "; ".join(
        f"{skill.name}: {sum(ok for _, ok in skill.answers)} of {len(skill.answers)} right, known now"
        f" {share(round(skill.now, 2))}"
        for skill in skills
    )
    return Drawing(width, height, tuple(shapes), "What is known, over time", said + ".")


def _fading(skill: Skill, along: PixelScale, up: PixelScale, now: datetime) -> list[tuple[float, float]]:
    """The chance from answer to answer: it fades up to each, is whole after a right one, and nothing after a wrong
    one.
    """
    points: list[tuple[float, float]] = []
    for (at, chance), (_, is_right) in zip(skill.chances, skill.answers, strict=True):
        x = along(at.timestamp())
        points += [(x, up(chance)), (x, up(1.0 if is_right else 0.0))]
    return [*points, (along(now.timestamp()), up(skill.now))]


def _dates(along: PixelScale, first: datetime, now: datetime, foot: float) -> list[Shape]:
    days = (now - first).total_seconds() / 86400
    every = max(1, round(days / max(1.0, (along.end - along.start) / DATES)))
    shapes: list[Shape] = []
    day = now.replace(hour=0, minute=0, second=0, microsecond=0)
    while day >= first:
        x = along(day.timestamp())
        shapes.append(Line(x, TOP, x, foot, "grid"))
        if along.start + 16 <= x <= along.end - 16:
            shapes.append(Label(x, foot + 14, f"{day:%-d %b}", "tick", "middle", 11))
        day -= timedelta(days=every)
    return shapes
