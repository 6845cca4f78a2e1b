"""Costly work in the order of asking: a bound on those who wait, a deadline, and processes that are replaced where they
overrun it.
"""

from __future__ import annotations

import multiprocessing
import os
import signal
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import AbstractContextManager, contextmanager
from multiprocessing.process import BaseProcess
from typing import Any, TypeVar

from pebble import ProcessExpired, ProcessPool

from cambrel.bounds.doors import DOORS, Door
from cambrel.bounds.memory import bound_memory

T = TypeVar("T")
LOOK_EVERY_S = 0.05
LONGEST_WAIT_S = 60.0
MOST_TASKS = 1000
"""After so many a process is replaced, so that none grows for good."""
NICE = 10
"""How far a process that works stands back behind those that answer."""


class BusyError(Exception):
    """More of this is waited for than is sensible; ask again in a moment. It says of what."""


class GoneError(Exception):
    """Whoever asked does not wait any more."""


class OverrunError(Exception):
    """The work took longer, or more memory, than it is given."""


class Lane:
    """Those who wait for one kind of work. One asks for a turn, in the order of asking, and works while one has it."""

    def __init__(self, key: str, at_once: int = 0) -> None:
        self.key, self.door = key, DOORS[key]
        self.at_once = at_once or self.door.at_once
        self._free, self._line = self.at_once, list[object]()
        self._turn = threading.Condition()

    @contextmanager
    def turn(self, is_gone: Callable[[], bool] = lambda: False) -> Iterator[float]:
        """Wait for a turn and have it; gives the moment by which the work has to be done.

        Parameters
            is_gone: whether whoever asked has stopped waiting, looked at now and then
        Raises
            BusyError, GoneError
        """
        me, patience = object(), time.monotonic() + (self.door.seconds or LONGEST_WAIT_S)
        with self._turn:
            if len(self._line) >= self.door.waiting and not (self._free and not self._line):
                raise BusyError(self.door.says)
            self._line.append(me)
            try:
                while not (self._free and self._line[0] is me):
                    self._turn.wait(LOOK_EVERY_S)
                    if is_gone():
                        raise GoneError(self.door.says)
                    if time.monotonic() > patience:
                        raise BusyError(self.door.says)
                self._free -= 1
            finally:
                self._line.remove(me)
                self._turn.notify_all()
        try:
            yield time.monotonic() + self.door.seconds
        finally:
            with self._turn:
                self._free += 1
                self._turn.notify_all()


def _nothing() -> None:
    """What needs no preparing."""


class Crew:
    """Who does the work of a lane: processes with the door's deadline and memory, or threads of this process where
    there are to be none.

    key: of the door; processes: how many; prepare: run in each before its first work, with `given`
    """

    def __init__(
        self, key: str, processes: int, prepare: Callable[..., None] = _nothing, given: tuple[Any, ...] = ()
    ) -> None:
        self.lane, self.processes, self.prepare, self.given = Lane(key, processes), processes, prepare, given
        self._lock = threading.Lock()
        self._pool: Any = None

    def turn(self, is_gone: Callable[[], bool] = lambda: False) -> AbstractContextManager[float]:
        """See `Lane.turn`."""
        return self.lane.turn(is_gone)

    def run(self, function: Callable[..., T], *arguments: Any) -> T:
        """What a function makes; call it within a turn. A process that died of something else is replaced and asked
        once more.

        Raises
            OverrunError
        """
        return self.run_within(self.lane.door, function, *arguments)

    def run_within(self, door: Door, function: Callable[..., T], *arguments: Any) -> T:
        """The same by the deadline of another door."""
        for is_last in (False, True):
            try:
                if self.processes:
                    made: T = self._started().schedule(function, arguments, timeout=door.seconds).result()
                else:
                    made = self._started().submit(function, *arguments).result(door.seconds)
                return made
            except (TimeoutError, MemoryError):
                raise OverrunError(door.says) from None
            except (ProcessExpired, BrokenProcessPool) as error:
                if isinstance(error, BrokenProcessPool):
                    with self._lock:
                        self._pool = None
                if is_last:
                    raise OverrunError(door.says) from error
        raise AssertionError("unreachable")

    def start(self) -> None:
        """Start the processes before anybody waits for them."""
        for _ in range(self.processes):
            self._started().schedule(int)

    def pids(self) -> list[int]:
        """The processes that work now."""
        manager = getattr(self._pool, "_pool_manager", None)
        return [] if manager is None else list(manager.worker_manager.workers)

    def _started(self) -> Any:
        with self._lock:
            if self._pool is None or (self.processes and not self._pool.active):
                if self.processes:
                    context = multiprocessing.get_context("spawn")
                    given = (self.lane.door, self.prepare, self.given)
                    self._pool = ProcessPool(self.processes, MOST_TASKS, _begin, given, context)
                else:
                    self._pool = ThreadPoolExecutor(self.lane.at_once, self.lane.key, self.prepare, self.given)
            return self._pool


def _begin(door: Door, prepare: Callable[..., None], given: tuple[Any, ...]) -> None:
    """What a process is before its first work: patient, bounded, and gone when the one that asked is."""
    if hasattr(os, "nice"):
        os.nice(NICE)
    # whoever stops the application by its keys stops this one through its parent
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    threading.Thread(target=_end_with, args=(multiprocessing.parent_process(),), daemon=True).start()
    bound_memory(door.memory)
    prepare(*given)


def _end_with(parent: BaseProcess | None) -> None:
    """End when the process that asked has ended, however it did."""
    if parent is not None:
        parent.join()
        os._exit(0)
