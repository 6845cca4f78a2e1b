"""The random benches that are judged, and what is said of each, worked out once for all tests.

Some benches run with the other tests; `make truth` runs some thousands (CAMBREL_TRUTH_BENCHES).
"""

import os
import re
from functools import lru_cache

from cambrel.comparison.engine import compare
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench
from cambrel.verdicts.ranking import found as found_anew

BENCHES = int(os.environ.get("CAMBREL_TRUTH_BENCHES", 40))
UGLY = re.compile(
    r"\bnan\b|\binf\b|None|\{|\}|  |\d[eE][+-]?\d|(?<![\d.])1\.00?\u00a0times|(?<![\d.])0\u00a0stops"
    r"|\ba (?:8|11\b|18\b|f/)|\ba \d\u00a0stops|−0(?![\d.])"
)


def parts_of(text):
    """The sentences of a verdict, each as it was read through."""
    return re.split(r"(?<=\.) ", re.sub(r"\{(rig|part)_\d\}", r"{\1}", text))


def parts_of_check(text):
    """What is missed, and apart from it the settings that would cure it."""
    said, cure, rest = text.partition("; ")
    return [said, cure + rest] if "_then}" in rest or "focus at" in rest else [text]


KEPT = 512
"""So many benches are worked out once for all tests: all of a few hundred, of some thousands none."""


@lru_cache(maxsize=KEPT)
def bench(seed):
    try:
        return compare(*a_bench(seed))
    except DomainError:
        return None


def benches():
    for seed in range(BENCHES):
        compared = bench(seed)
        if compared is not None:
            yield seed, compared


class _Same:
    """A comparison, the same as itself alone."""

    def __init__(self, compared):
        self.compared = compared

    def __hash__(self):
        return id(self.compared)

    def __eq__(self, other):
        return self.compared is other.compared


@lru_cache(maxsize=KEPT)
def _found(same):
    return found_anew(same.compared)


def found(compared):
    """All that is said of a comparison, before it is put into an order."""
    return _found(_Same(compared))
