"""Who draws: turns in their order, a bound on those who wait, and processes that come back and go with the one that
asked.
"""

import os
import subprocess
import sys
import threading
import time
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

from cambrel.bounds.lanes import LOOK_EVERY_S, BusyError, GoneError, Lane

SCRIPT = """
import os, signal, sys
from pathlib import Path
from cambrel.comparison.brief import Brief
from cambrel.optics.scene import Camera
from cambrel.rendering.pool import RenderPool
from cambrel.rendering.take import Take
from cambrel.scenes import scenes

folder = Path(sys.argv[1])
view = Take(scenes()["footplate"].arranged(Brief()), Camera(50, 2, 2, 2, 36, 24), 90, 60)
if __name__ == "__main__":
    pool = RenderPool(folder, 1)
    drawn = [pool.draw(view, "png")]
    (process,) = pool.pids()
    os.kill(process, signal.SIGKILL)
    drawn.append(pool.draw(view, "png"))
    drawn.append(RenderPool(folder, 0).draw(view, "png"))
    print(len(set(drawn)), drawn[0][:4], *pool.pids(), flush=True)
    os.kill(os.getpid(), signal.SIGKILL)
"""
OVERRUN = """
import sys, time
from dataclasses import replace
from cambrel.bounds import doors
from cambrel.bounds.lanes import Crew, OverrunError

doors.DOORS["drawing"] = replace(doors.DOORS["drawing"], seconds=1.0, memory=300 * doors.MB)

def outcome(crew, function, *arguments):
    begun = time.monotonic()
    try:
        said = crew.run(function, *arguments)
    except OverrunError as error:
        said = "overrun"
    return said, time.monotonic() - begun < 4

if __name__ == "__main__":
    crew = Crew("drawing", 1)
    crew.run(int)
    (before,) = crew.pids()
    late = outcome(crew, time.sleep, 60)
    large = outcome(crew, bytearray, 2_000_000_000)
    again = outcome(crew, len, "abc")
    print(late, large, again, before not in crew.pids(), flush=True)
"""


def run(script, folder):
    """A script run as a file, so that the processes it starts can load it too."""
    file = Path(folder) / "script.py"
    file.write_text(script)
    command = [sys.executable, str(file), folder]
    return subprocess.run(
        command, capture_output=True, text=True, check=False, env={**os.environ, "PYTHONPATH": str(Path.cwd())}
    )


class Turns:
    """Threads that take a turn and hold it until they are let go; what became of each."""

    def __init__(self, lane):
        self.lane, self.became, self.threads, self.let_go = lane, [], [], threading.Semaphore(0)

    def ask(self, name, is_gone=lambda: False):
        thread = threading.Thread(target=self._take, args=(name, is_gone))
        thread.start()
        self.threads.append(thread)
        self.wait_for(lambda: len(self.became) + len(self.lane._line) == len(self.threads))

    def _take(self, name, is_gone):
        try:
            with self.lane.turn(is_gone):
                self.became.append(name)
                self.let_go.acquire()
        except (BusyError, GoneError) as error:
            self.became.append(f"{name} {type(error).__name__}")

    def wait_for(self, is_so):
        deadline = time.monotonic() + 10
        while not is_so() and time.monotonic() < deadline:
            time.sleep(LOOK_EVERY_S / 10)

    def end_one(self):
        before, waiting = len(self.became), len(self.lane._line)
        self.let_go.release()
        self.wait_for(lambda: len(self.became) == before + min(waiting, 1))


class PoolTests(TestCase):
    tags = frozenset({"long"})

    def setUp(self):
        self.turns = Turns(Lane("simulating", 2))

    def tearDown(self):
        for _ in self.turns.threads:
            self.turns.let_go.release()
        for thread in self.turns.threads:
            thread.join()

    def test_turns_come_in_their_order_and_too_many_are_told(self):
        self.assertEqual(self.turns.lane.door.waiting, 3)
        for name in "abcdef":
            self.turns.ask(name)
        self.assertEqual(self.turns.became, ["a", "b", "f BusyError"])
        self.turns.end_one()
        self.turns.ask("g")
        self.turns.end_one()
        self.assertEqual(self.turns.became[3:], ["c", "d"])
        self.turns.end_one()
        self.turns.end_one()
        self.assertEqual(self.turns.became[5:], ["e", "g"])

    def test_who_has_gone_leaves_the_line_and_is_not_drawn_for(self):
        gone = threading.Event()
        for name in "ab":
            self.turns.ask(name)
        self.turns.ask("c", gone.is_set)
        self.turns.ask("d")
        gone.set()
        self.turns.wait_for(lambda: len(self.turns.became) == 3)
        self.turns.end_one()
        self.assertEqual(self.turns.became, ["a", "b", "c GoneError", "d"])

    def test_a_process_draws_the_same_comes_back_when_it_dies_and_goes_with_the_one_that_asked(self):
        with TemporaryDirectory() as folder:
            done = run(SCRIPT, folder)
        self.assertEqual(done.returncode, -9, done.stderr)
        different, start, *processes = done.stdout.split()
        self.assertEqual((different, start), ("1", "b'\\x89PNG'"))
        deadline = time.monotonic() + 10
        while any(Path(f"/proc/{process}").exists() for process in processes) and time.monotonic() < deadline:
            time.sleep(0.05)
        self.assertEqual([process for process in processes if Path(f"/proc/{process}").exists()], [])
        self.assertNotIn(str(os.getpid()), processes)

    def test_work_that_takes_too_long_or_too_much_is_ended_and_its_process_replaced(self):
        with TemporaryDirectory() as folder:
            done = run(OVERRUN, folder)
        self.assertEqual(done.stdout.strip(), "('overrun', True) ('overrun', True) (3, True) True", done.stderr)
