"""What the side and the head of every list say of a whole shelf: counted once, and again when a recorded change has
raised its version.
"""

from dataclasses import dataclass, field
from typing import Any

from django.core.cache import cache

from cambrel.owners.models import User
from cambrel.shelf.kinds import KINDS

KEPT_S = 3600


@dataclass(frozen=True)
class Summary:
    """How many records there are of each kind, and by what its list can be narrowed: field, label and values."""

    counts: dict[str, int] = field(default_factory=dict)
    choices: dict[str, list[Any]] = field(default_factory=dict)


def summary_of(owner: User) -> Summary:
    # with the moment at which the owner came, as keys and versions of those who have gone may be given out again
    key = f"shelf:{owner.pk}:{owner.date_joined.timestamp()}:{owner.shelf_version}"
    return cache.get_or_set(key, lambda: _summed(owner), KEPT_S) or _summed(owner)


def _summed(owner: User) -> Summary:
    counts: dict[str, int] = {}
    choices: dict[str, list[Any]] = {}
    for key, kind in KINDS.items():
        counts[key] = kind.records(owner).count()
        choices[key] = []
        for name, label in (kind.narrowed or {}).items():
            values = kind.records(owner).order_by(name).values_list(name, flat=True).distinct()
            choices[key].append((name, label, [value for value in values if value]))
    return Summary(counts, choices)
