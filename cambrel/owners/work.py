"""Costly work of requests: in the process that answers by default, in processes of their own where the settings say so
(CAMBREL_WORKERS);
either way behind the queue and by the deadline of its door."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Any, TypeVar

from django.conf import settings
from django.db import close_old_connections

from cambrel.bounds.lanes import Crew, Lane

T = TypeVar("T")


def _prepare() -> None:
    import django

    django.setup()
    settings.WORKERS = 0  # what it calls it does itself


@cache
def crew() -> Crew:
    """Those who work, whatever it is; they are started when they are first needed."""
    return Crew("work", settings.WORKERS, _prepare)


def _called(function: Callable[..., T], arguments: tuple[Any, ...]) -> T:
    close_old_connections()
    try:
        return function(*arguments)
    finally:
        close_old_connections()


class Work(Lane):
    """One kind of costly work, by the key of its door."""

    def run(self, function: Callable[..., T], *arguments: object) -> T:
        """What a function of a module makes of plain values, once it is its turn.

        Raises
            BusyError, OverrunError, and what the function raises
        """
        with self.turn():
            if not settings.WORKERS:
                return function(*arguments)
            made: T = crew().run_within(self.door, _called, function, arguments)
            return made


@cache
def work_at(door: str) -> Work:
    """Those who wait at a door: one line, whoever sends them there."""
    return Work(door)
