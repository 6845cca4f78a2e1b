"""Saved comparisons: a bench by value, under a name."""

from cambrel.comparison.bench import Bench
from cambrel.links.benches import decode
from cambrel.owners.models import Saved


class SavedComparison(Saved):
    def bench(self) -> Bench:
        return decode(self.token)
