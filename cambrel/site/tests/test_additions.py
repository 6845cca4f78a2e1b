"""A school, a hold, a trial, a drill, a panel and a look are one entry each: with made-up ones every screen still
answers.
"""

import os
import subprocess
import sys
from pathlib import Path

from django.test import SimpleTestCase, tag

ROOT = Path(__file__).resolve().parents[3]


@tag("long")
class AdditionTests(SimpleTestCase):
    def test_every_screen_with_one_more_entry_in_every_table(self):
        # tables are read as the house is put together, so that this has a process of its own
        told = subprocess.run(
            [sys.executable, "-m", "cambrel.site.tests.added"],
            cwd=ROOT,
            env={**os.environ, "CAMBREL_RENDERERS": "0"},
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(told.returncode, 0, told.stderr[-4000:])
