"""A press as one object: how its arguments are read and what it makes of the bench; those who read them stand here too."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from cambrel.fields import parse_number, whole
from cambrel.links import Bench, Gear, decode_gear
from cambrel.optics.comparison import Comparison
from cambrel.optics.quantities import DomainError
from cambrel.scenes import scene_named
from cambrel.wording import METRES, Units


class ActionError(ValueError):
    """A press that cannot be carried out; the message is for the reader."""


@dataclass(frozen=True)
class State:
    """What a press is made on; distances in it are typed in the units in force."""

    bench: Bench
    comparison: Comparison
    units: Units = METRES


@dataclass(frozen=True)
class Action:
    """A press: what reads each of its arguments, the last `optional` of which may be left out, and what it makes of the bench."""

    key: str
    takes: tuple[Callable[[State, str], Any], ...]
    optional: int
    run: Callable[..., Bench]

    def on(self, state: State, arguments: list[str]) -> Bench:
        """The bench after the press.

        Raises
            ActionError with the reason; an error in what it runs is one of ours, and is none
        """
        if not len(self.takes) - self.optional <= len(arguments) <= len(self.takes):
            raise ActionError(INCOMPLETE)
        try:
            read = [parse(state, text) for parse, text in zip(self.takes, arguments, strict=False)]
        except ActionError:
            raise
        except (ValueError, OverflowError) as error:
            raise ActionError(INCOMPLETE) from error
        try:
            return self.run(state, *read)
        except DomainError as error:
            raise ActionError(f"That cannot be done: {error}.") from error


INCOMPLETE = "This button's request is incomplete."
ACTIONS: dict[str, Action] = {}


def action(
    *takes: Callable[[State, str], Any], optional: int = 0
) -> Callable[[Callable[..., Bench]], Callable[..., Bench]]:
    """Register a press under the name of its function."""

    def register(run: Callable[..., Bench]) -> Callable[..., Bench]:
        ACTIONS[run.__name__] = Action(run.__name__, takes, optional, run)
        return run

    return register


def camera(state: State, text: str) -> int:
    """A camera by its number."""
    index = whole(text)
    if index is None:
        raise ValueError(text)
    if index >= len(state.bench.slots):
        raise ActionError("There is no such camera on the bench.")
    return index


def thing(state: State, text: str) -> int:
    """A thing of the scene by its number."""
    index = whole(text)
    if index is None or index >= len(scene_named(state.bench.scene).layers):
        raise ActionError("There is no such thing in the scene.")
    return index


def number(state: State, text: str) -> float:
    return parse_number(text)


def number_or_none(state: State, text: str) -> float | None:
    return parse_number(text) if text else None


def words(state: State, text: str) -> str:
    return text


def gear_sent(state: State, text: str) -> Gear:
    """Gear by value."""
    return decode_gear(text)


def gear_or_none(state: State, text: str) -> Gear | None:
    return decode_gear(text) if text else None
