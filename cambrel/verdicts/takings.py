"""What it would take, in words: each lever with its value, whether the gear has it, and what it costs."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from cambrel.comparison.brief import SUPPORTS
from cambrel.comparison.levers import Stance
from cambrel.comparison.slowest_shutter import held_s
from cambrel.comparison.wishes import LeverMoved, LeverStuck, Taking
from cambrel.optics.formats import nearest_format
from cambrel.optics.workings import Figure
from cambrel.wording import in_words
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, Sentence

NEARLY = 0.01
"""Where the gear ends so near to what is needed, it is said that it ends just short."""
NAMED_FORMAT = 0.06
"""A frame whose diagonal is so near to a format's is called by its name."""


Saying = Callable[[Stance, float, Stance], Sentence]
"""How a lever is said: from where a rig stands, the value, and the standpoint with it."""


@dataclass(frozen=True)
class TakingLine:
    """A lever, or two, with what is said of it: what is done, whether the gear has it, what it costs."""

    moved: LeverMoved
    does: Sentence
    gear: Sentence | None
    costs: tuple[Sentence, ...]


def _opened(stands: Stance, value: float, moved: Stance) -> Sentence:
    text = "Open to {value}" if value < stands.f_number else "Stop down to {value}"
    return Sentence(text, {"value": Figure(value, "f")})


def _walked(stands: Stance, value: float, moved: Stance) -> Sentence:
    text = "Go {by} nearer, to {value}" if value < stands.distance_m else "Go {by} farther away, to {value}"
    return Sentence(text, {"value": Figure(value, "m"), "by": Figure(abs(value - stands.distance_m), "m")})


def _stepped(stands: Stance, value: float, moved: Stance) -> Sentence:
    figures = {"value": Figure(value, "mm"), "distance": Figure(moved.distance_m, "m")}
    return Sentence("Take {value} and stand {distance} away: the subject stays as large", figures)


def _resized(stands: Stance, value: float, moved: Stance) -> Sentence:
    format_ = nearest_format(moved.rig.body.sensor)
    is_named = abs(format_.diagonal_mm / value - 1) <= NAMED_FORMAT
    figures = {
        "value": Figure(value, "mm"),
        "focal": Figure(moved.focal_mm, "mm"),
        "name": Figure(f", about {in_words(format_.name)}" if is_named else "", "word"),
    }
    return Sentence("Take a frame of {value} from corner to corner{name}, with {focal}", figures)


def _plain(text: str, kind: str) -> Saying:
    return lambda stands, value, moved: Sentence(text, {"value": Figure(value, kind)})


SAYS: dict[str, Saying] = {
    "f_number": _opened,
    "distance": _walked,
    "step_back": _stepped,
    "format": _resized,
    "frame": _resized,
    "background": _plain("Move the background to {value} behind the subject", "m"),
    "focal": _plain("Take {value} from the same spot", "mm"),
    "shutter": _plain("Expose for {value}", "s"),
}
"""By lever, how it is said that it is moved."""


def _gear(stands: Stance, moved: LeverMoved) -> Sentence | None:
    if moved.is_owned is None:
        return None
    if moved.is_owned:
        return Sentence("Your gear has it.", {})
    lever, value = moved.values[-1]
    owned = lever.owned(lever.moved(stands, value))
    assert owned is not None
    end = owned[0] if value < owned[0] else owned[1]
    text = (
        "Your gear does not: it ends at {end}." if abs(end / value - 1) > NEARLY else "Your gear ends just short of it."
    )
    return Sentence(text, {"end": Figure(end, lever.kind)})


def _costs(stands: Stance, moved: LeverMoved) -> tuple[Sentence, ...]:
    said = []
    if abs(moved.stops) > LEVEL_STOPS:
        text = (
            "It is {stops} darker: {iso} makes up for it"
            if moved.stops < 0
            else "It is {stops} brighter: {iso} is enough"
        )
        iso = stands.rig.iso * 2.0**-moved.stops
        said.append(Sentence(text + ".", {"stops": Figure(abs(moved.stops), "stops"), "iso": Figure(iso, "iso")}))
    before, after = stands.figures, moved.stands.figures
    if abs(after.view.fill / before.view.fill - 1) > LEVEL_VIEW:
        figures = {"before": Figure(before.view.fill, "share"), "after": Figure(after.view.fill, "share")}
        said.append(Sentence("The subject fills {after} of the height instead of {before}.", figures))
    seconds = moved.stands.rig.shutter_s
    steady = held_s(moved.stands.comparison, after)
    if seconds > stands.rig.shutter_s and stands.brief.support and seconds > steady:
        carried = SUPPORTS[stands.brief.support].says
        figures = {"steady": Figure(steady, "s"), "carried": Figure(carried, "word")}
        said.append(Sentence("That is longer than {carried} is steady, {steady}: use a tripod.", figures))
    return tuple(said)


def lines_of(stands: Stance, taking: Taking) -> list[TakingLine]:
    """What it would take, line by line: levers alone, what the gear has first, then pairs.

    Parameters
        stands: how the rig stands
        taking: what was found
    Returns
        a line for each
    """
    return [
        TakingLine(moved, _does(stands, moved), _gear(stands, moved), _costs(stands, moved))
        for moved in (*taking.ordered, *taking.pairs)
    ]


def _does(stands: Stance, moved: LeverMoved) -> Sentence:
    """What is done, of two levers as one sentence."""
    text: list[str] = []
    figures: dict[str, Figure] = {}
    there = stands
    for number, (lever, value) in enumerate(moved.values):
        after = lever.moved(there.freed, value)
        said = SAYS[lever.key](there, value, after)
        renamed = {name: f"{name}{number}" for name in said.figures}
        part = said.text.format_map({name: f"{{{other}}}" for name, other in renamed.items()})
        text.append(part if not number else part[0].lower() + part[1:])
        figures |= {renamed[name]: figure for name, figure in said.figures.items()}
        there = after
    return Sentence(" and ".join(text) + ".", figures)


def stuck_says(taking: Taking, stuck: LeverStuck) -> Sentence:
    """That a lever never gives it, and how near it comes."""
    figures = {"nearest": Figure(stuck.nearest, taking.wish.kind)}
    return Sentence(f"{stuck.lever.label}: never enough, {{nearest}} is the nearest that it comes.", figures)
