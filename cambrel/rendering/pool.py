"""Drawing in a few processes of its own, behind a short queue, so that whoever only reads pages is not kept waiting by pictures."""

from __future__ import annotations

import multiprocessing
import os
import signal
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import Executor, ProcessPoolExecutor, ThreadPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import contextmanager
from multiprocessing.process import BaseProcess
from pathlib import Path

import cv2

from cambrel.rendering.render import encode, finish, render
from cambrel.rendering.sheets import Shop
from cambrel.rendering.take import Take

LOOK_EVERY_S = 0.05
NICE = 10
"""How far a process that draws stands back behind those that answer."""
HERE = 2
"""So many are drawn at once where there are no processes for it."""

_shop: Shop | None = None


class BusyError(Exception):
    """More pictures are waited for than is sensible; ask again in a moment."""


class GoneError(Exception):
    """Whoever asked does not wait any more."""


def _start(folder: Path) -> None:
    """What a process needs before its first picture. One core a picture: several are drawn at once."""
    global _shop
    cv2.setNumThreads(1)
    _shop = Shop(folder)


def _start_process(folder: Path) -> None:
    if hasattr(os, "nice"):
        os.nice(NICE)
    signal.signal(
        signal.SIGINT, signal.SIG_IGN
    )  # whoever stops the application by its keys stops this one through its parent
    threading.Thread(target=_end_with, args=(multiprocessing.parent_process(),), daemon=True).start()
    _start(folder)


def _end_with(parent: BaseProcess | None) -> None:
    """End when the process that asked for pictures has ended, however it did."""
    if parent is not None:
        parent.join()
        os._exit(0)


def _draw(view: Take, kind: str) -> bytes:
    assert _shop is not None
    return encode(finish(render(view, _shop), view), kind)


class Pool:
    """Who draws. One asks for a turn, in the order of asking, and draws while one has it.

    folder: where the cut-outs are kept
    processes: how many draw at once; 0 draws in threads of this process
    most_waiting: how many may wait for their turn; one more is told that it is busy
    """

    def __init__(self, folder: Path, processes: int, most_waiting: int) -> None:
        self.folder, self.processes, self.most_waiting = folder, processes, most_waiting
        self._free = processes or HERE
        self._line: list[object] = []
        self._turn = threading.Condition()
        self._executor: Executor | None = None

    @contextmanager
    def turn(self, is_gone: Callable[[], bool] = lambda: False) -> Iterator[None]:
        """Wait for a turn and have it.

        Parameters
            is_gone: whether whoever asked has stopped waiting, looked at now and then
        Raises
            BusyError, GoneError
        """
        me = object()
        with self._turn:
            if len(self._line) >= self.most_waiting and not (self._free and not self._line):
                raise BusyError
            self._line.append(me)
            try:
                while not (self._free and self._line[0] is me):
                    self._turn.wait(LOOK_EVERY_S)
                    if is_gone():
                        raise GoneError
                self._free -= 1
            finally:
                self._line.remove(me)
                self._turn.notify_all()
        try:
            yield
        finally:
            with self._turn:
                self._free += 1
                self._turn.notify_all()

    def draw(self, view: Take, kind: str) -> bytes:
        """The file of a picture; call it within a turn. A process that died is replaced once."""
        try:
            return self._started().submit(_draw, view, kind).result()
        except BrokenProcessPool:
            with self._turn:
                self._executor = None
            return self._started().submit(_draw, view, kind).result()

    def start(self) -> None:
        """Start the processes before anybody waits for a picture."""
        for _ in range(self.processes):
            self._started().submit(int)

    def _started(self) -> Executor:
        with self._turn:
            if self._executor is None:
                given = (self.folder,)
                if self.processes:
                    context = multiprocessing.get_context("spawn")
                    self._executor = ProcessPoolExecutor(self.processes, context, _start_process, given)
                else:
                    self._executor = ThreadPoolExecutor(HERE, "draw", _start, given)
            return self._executor
