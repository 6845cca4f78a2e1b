"""A process that is bounded takes no more memory than it is given."""

import subprocess
import sys
from pathlib import Path
from unittest import TestCase

GREEDY = """
from cambrel.bounds.memory import bound_memory
bound_memory(200 * 2**20)
bytearray(50 * 2**20)
print("some", flush=True)
bytearray(400 * 2**20)
"""


class MemoryTests(TestCase):
    def test_what_is_given_can_be_taken_and_no_more(self):
        done = subprocess.run(
            [sys.executable, "-c", GREEDY], cwd=Path(__file__).parents[3], capture_output=True, text=True, check=False
        )
        self.assertEqual((done.returncode, done.stdout), (1, "some\n"))
        self.assertIn("MemoryError", done.stderr)
