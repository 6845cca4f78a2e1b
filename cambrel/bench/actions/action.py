"""A press as one object: a form that reads all it is given, and a pure function from one state of the bench to the
next.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from cambrel.bench.look import Look
from cambrel.comparison.bench import Bench, Gear
from cambrel.comparison.engine import Comparison, Rig, compare
from cambrel.inputs.fields import whole
from cambrel.links.benches import decode_gear
from cambrel.optics.quantities import DomainError
from cambrel.phrases.typed_figures import decimal
from cambrel.scenes import Find, Scene, shipped

INCOMPLETE = "This button sent too little. Load the page again."


class ActionError(ValueError):
    """A press that cannot be carried out; the message is for the reader."""


@dataclass(frozen=True)
class State:
    """What a press is made on and what it leads to; `sent` are the fields sent along, `goes_to` the page that it leads
    to elsewhere.
    """

    bench: Bench
    look: Look
    sent: Mapping[str, str] = field(default_factory=dict)
    goes_to: str = ""

    find: Find = shipped
    """Finds scenes, as whoever reads has them."""
    worked_out: list[Comparison] = field(default_factory=list, init=False, compare=False, repr=False)

    @property
    def comparison(self) -> Comparison:
        """Worked out for those presses only that go by the figures."""
        if not self.worked_out:
            b = self.bench
            self.worked_out.append(compare(b.brief, b.rigs, b.hold, b.conventions, b.reference))
        return self.worked_out[0]

    @property
    def known_comparison(self) -> Comparison | None:
        """The comparison, where some press has asked for it."""
        return self.worked_out[0] if self.worked_out else None

    @property
    def place(self) -> Scene:
        """The scene of the bench."""
        return self.find(self.bench.scene)

    def on(self, bench: Bench) -> State:
        return self if bench is self.bench else replace(self, bench=bench)

    def with_rig(self, index: int, rig: Rig, **names: str) -> State:
        slots = list(self.bench.slots)
        slots[index] = replace(slots[index], rig=rig, **names)
        return self.on(replace(self.bench, slots=tuple(slots)))


Form = Callable[[State, list[str]], tuple[Any, ...]]
"""Reads the arguments of a press; ValueError for what is not complete, ActionError for what is not there."""


@dataclass(frozen=True)
class Action:
    """A press: how all it is given is read, and what it makes of the bench."""

    key: str
    form: Form
    run: Callable[..., State]

    def on(self, state: State, arguments: list[str]) -> State:
        """The state after the press.

        Raises
            ActionError with the reason; an error in what it runs is one of ours, and is none
        """
        try:
            read = self.form(state, arguments)
        except ActionError:
            raise
        except (ValueError, OverflowError) as error:
            raise ActionError(INCOMPLETE) from error
        try:
            return self.run(state, *read)
        except DomainError as error:
            raise ActionError(f"That does not work: {error}.") from error


ACTIONS: dict[str, Action] = {}


def action(form: Form) -> Callable[[Callable[..., State]], Callable[..., State]]:
    """Register a press under the name of its function."""

    def register(run: Callable[..., State]) -> Callable[..., State]:
        ACTIONS[run.__name__] = Action(run.__name__, form, run)
        return run

    return register


def each(*takes: Callable[[State, str], Any], optional: int = 0) -> Form:
    """A form of so many arguments, each with what reads it; the last `optional` may be left out."""

    def read(state: State, arguments: list[str]) -> tuple[Any, ...]:
        if not len(takes) - optional <= len(arguments) <= len(takes):
            raise ValueError(arguments)
        return tuple(parse(state, text) for parse, text in zip(takes, arguments, strict=False))

    return read


def camera(state: State, text: str) -> int:
    """A camera by its number."""
    index = whole(text)
    if index is None:
        raise ValueError(text)
    if index >= len(state.bench.slots):
        raise ActionError("That camera is no longer on the bench.")
    return index


def thing(state: State, text: str) -> int:
    """A thing of the scene by its number."""
    index = whole(text)
    if index is None or index >= len(state.place.layers):
        raise ActionError("That thing is no longer in the scene.")
    return index


def number(state: State, text: str) -> float:
    return decimal(text)


def number_or_none(state: State, text: str) -> float | None:
    return decimal(text) if text else None


def words(state: State, text: str) -> str:
    return text


def gear_sent(state: State, text: str) -> Gear:
    """Gear by value."""
    return decode_gear(text)


def gear_or_none(state: State, text: str) -> Gear | None:
    return decode_gear(text) if text else None
