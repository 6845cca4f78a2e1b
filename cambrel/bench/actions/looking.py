"""Presses that change how the bench is looked at, and nothing on it."""

from __future__ import annotations

from dataclasses import replace

from cambrel.bench.actions.action import ActionError, State, action, camera, each, words
from cambrel.wording import UNITS


@action(each(words))
def units(state: State, key: str) -> State:
    if key not in UNITS:
        raise ActionError("Choose metres or feet.")
    return replace(state, look=replace(state.look, units=UNITS[key]))


@action(each(words))
def sort(state: State, by: str) -> State:
    """Order the cameras by a figure of the Numbers."""
    return replace(state, look=state.look.choosing(sort=by))


@action(each(camera))
def pair(state: State, index: int) -> State:
    """A camera to be set against another: the third one that is pressed takes the place of the first."""
    chosen = state.look["pair"]
    pressed = tuple(number for number in chosen if number != index) if index in chosen else (*chosen, index)[-2:]
    return replace(state, look=state.look.choosing(pair=pressed))
