"""What the presses on a bench do. Each module registers its own; one dispatcher carries them out."""

from __future__ import annotations

from cambrel import wording

# each registers its presses
from cambrel.bench.actions import gear, leaving, looking, picture, rigs, touches  # noqa: F401
from cambrel.bench.actions.action import ACTIONS, ActionError, State
from cambrel.bounds.limits import named, outside

__all__ = ["ACTIONS", "ActionError", "State", "perform"]


def perform(press: str, state: State) -> State:
    """Carry out one press, written as name:argument:argument.

    Raises
        ActionError with the reason, for one that is not known or not possible, or that leads to a value no field takes
    """
    name, *arguments = press.split(":")
    if name not in ACTIONS:
        raise ActionError("This button is from an older page. Load the page again.")
    after = ACTIONS[name].on(state, arguments)
    for what, value in outside(after.bench):
        raise ActionError(
            f"That would take {wording.articled(f'a {named(what)}')} of {wording.significant(value)}, "
            f"more than can be set here."
        )
    return after
