"""How much of an owner is kept, and for how long: a quota of records, and what was changed, which can be undone for a
while.
"""

from datetime import timedelta
from typing import Any

from django.apps import apps
from django.conf import settings
from django.utils import timezone

from cambrel.owners.models import ChangeSet, Owned, Preferences, User

CHANGES_KEPT_FOR = timedelta(days=90)
MOST_CHANGES = 200
MOST_CHANGED_RECORDS = 100_000
"""Of all the changes that are kept of an owner together; the latest is always kept."""


class QuotaError(Exception):
    """More records than one owner may keep; the message is for the reader."""


def _counted() -> list[Any]:
    """The models whose records count: those that an owner makes."""
    not_made = {ChangeSet, Preferences}
    return [m for m in apps.get_models() if issubclass(m, Owned) and m not in not_made and m.counts]


def records_of(owner: User) -> int:
    """How many records an owner keeps."""
    return sum(model.objects.for_owner(owner).count() for model in _counted())


def check_quota(owner: User) -> None:
    """Refuse a change after which an owner would keep too much.

    Raises
        QuotaError
    """
    most = settings.MOST_RECORDS
    if most is not None and (kept := records_of(owner)) > most:
        raise QuotaError(f"That would be {kept:,} records, and at most {most:,} are kept. Nothing was changed.")


def forget_changes(owner: User) -> None:
    """Drop the changes that nobody will undo any more: those that are old, or far back."""
    changes, records = ChangeSet.objects.for_owner(owner), 0
    keep: list[int] = []
    since = timezone.now() - CHANGES_KEPT_FOR
    for pk, made_at, size in changes.order_by("-pk").values_list("pk", "made_at", "size")[: MOST_CHANGES + 1]:
        records += size
        if keep and (len(keep) >= MOST_CHANGES or records > MOST_CHANGED_RECORDS or made_at < since):
            changes.filter(pk__lte=pk).delete()
            break
        keep.append(pk)
