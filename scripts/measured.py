"""What every part of the benchmark stands on: the house on a scratch database, how much of everything, and a clock."""

import os
import sys
import time
from dataclasses import replace
from pathlib import Path
from statistics import median

ROOT = Path(__file__).resolve().parent.parent
SCRATCH = ROOT / "var" / "bench"
sys.path.insert(0, str(ROOT))
os.environ["CAMBREL_VAR"] = str(SCRATCH)
os.environ["DJANGO_SETTINGS_MODULE"] = "cambrel.site.settings_tables"

import django  # noqa: E402

django.setup()

from django.conf import settings  # noqa: E402

from cambrel.bench.sample_benches import home_bench  # noqa: E402
from cambrel.comparison.bench import Bench  # noqa: E402

settings.WHITENOISE_AUTOREFRESH = False  # pages are asked for as readers do

SHORTEST = "--shortest" in sys.argv
"""All of it once, of little: not how fast it is, but whether it runs. CI runs it so."""
ROWS, LENSES, PICTURES, BROUGHT = (300, 60, 60, 60) if SHORTEST else (100_000, 20_000, 50_000, 5_000)


def took_ms(work, times=30, warm=3):
    """Median time of a piece of work, after warming up."""
    times, warm = (1, 0) if SHORTEST else (times, warm)
    for _ in range(warm):
        work()
    spent = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        spent.append(time.perf_counter() - start)
    return 1000 * median(spent)


def side_by_side_ms(works, rounds=6, times=6):
    """Median times of pieces of work by name, in short runs turn about, so that a machine that slows down slows all of
    them.
    """
    rounds, times = (1, 1) if SHORTEST else (rounds, times)
    spent = {name: [] for name in works}
    for work in works.values():
        took_ms(work, 1)
    for _ in range(rounds):
        for name, work in works.items():
            work()
            for _ in range(times):
                start = time.perf_counter()
                work()
                spent[name].append(time.perf_counter() - start)
    return {name: 1000 * median(each) for name, each in spent.items()}


def line(what, ms, note=""):
    print(f"  {what:<58}{ms:10.2f} ms   {note}")


def once_ms(work):
    start = time.perf_counter()
    found = work()
    return 1000 * (time.perf_counter() - start), found


def six_rigs() -> Bench:
    bench = home_bench()
    return replace(bench, slots=(*bench.slots, *bench.slots))
