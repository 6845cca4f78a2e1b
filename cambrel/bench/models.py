"""Saved comparisons: a bench by value, under a name."""

from cambrel.links import decode
from cambrel.owners.models import Saved


class SavedComparison(Saved):
    def bench(self):
        return decode(self.token)
