"""Saved comparisons: a bench by value, under a name."""

from typing import Any

from cambrel.links.benches import decode
from cambrel.owners.models import Saved


class SavedComparison(Saved):
    def bench(self) -> Any:
        return decode(self.token)
