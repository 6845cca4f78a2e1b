"""Undo: one mechanism for every owned record. An action states what it touches; its change set is kept in the database."""

import json
from contextlib import contextmanager

from django.apps import apps
from django.core import serializers
from django.core.serializers.json import DjangoJSONEncoder
from django.db import transaction
from django.db.models import F
from django.utils import timezone

from cambrel.owners.models import ChangeSet, User

CHUNK = 900
"""So many keys at a time: SQLite bounds the parameters of a query."""


class UndoError(Exception):
    """A change set that can no longer be undone, with the reason for the reader."""


def _chunks(keys):
    keys = list(keys)
    return (keys[start : start + CHUNK] for start in range(0, len(keys), CHUNK))


def _snapshots(model, keys):
    """The fields of records by key; a record that is not there is left out."""
    found = {}
    for chunk in _chunks(keys):
        for row in serializers.serialize("python", model._base_manager.filter(pk__in=chunk)):
            found[row["pk"]] = row["fields"]
    return json.loads(json.dumps({str(key): fields for key, fields in found.items()}, cls=DjangoJSONEncoder))


class Recorder:
    """Collects the records that an action touches."""

    def __init__(self):
        self.touched = {}

    def touch(self, *records):
        """Call before records of one or more models are changed or deleted; children before their parents."""
        for model in dict.fromkeys(type(record) for record in records):
            keys = [record.pk for record in records if type(record) is model]
            before = _snapshots(model, keys)
            for key in keys:
                self.touched.setdefault((model, key), before.get(str(key)))

    def created(self, *records):
        """Call right after records were created; parents before their children."""
        for record in records:
            self.touched.setdefault((type(record), record.pk), None)

    def changes(self):
        """What was touched, each with its before and its after."""
        after = {}
        for model in dict.fromkeys(model for model, _ in self.touched):
            after[model] = _snapshots(model, [key for of, key in self.touched if of is model])
        return [
            {"model": model._meta.label_lower, "pk": key, "before": before, "after": after[model].get(str(key))}
            for (model, key), before in self.touched.items()
        ]


def raise_version(owner):
    """Mark what was worked out from an owner's records as stale."""
    User.objects.filter(pk=owner.pk).update(shelf_version=F("shelf_version") + 1)


@contextmanager
def recorded(owner, label):
    """Run an action in one transaction and keep what it changed; `change_set` of the recorder can be undone later."""
    recorder = Recorder()
    with transaction.atomic():
        yield recorder
        raise_version(owner)
        recorder.change_set = ChangeSet.objects.create(owner=owner, label=label[:200], changes=recorder.changes())


def undo(change_set):
    """Put every record of a change set back to what it was before.

    Raises
        UndoError where it was undone already, or a record has been changed since; then nothing is touched
    """
    with transaction.atomic():
        if change_set.undone_at is not None:
            raise UndoError(f"“{change_set.label}” has been undone already.")
        groups = _by_model(change_set.changes)
        for model, changes in groups.items():
            present = _snapshots(model, [change["pk"] for change in changes])
            if any(present.get(str(change["pk"])) != change["after"] for change in changes):
                raise UndoError(f"“{change_set.label}” cannot be undone: the record has been changed since.")
        for model, changes in reversed(groups.items()):
            for chunk in _chunks(change["pk"] for change in changes if change["before"] is None):
                model._base_manager.filter(pk__in=chunk).delete()
        for model, changes in reversed(groups.items()):
            rows = [
                {"model": model._meta.label_lower, "pk": change["pk"], "fields": change["before"]}
                for change in changes
                if change["before"] is not None
            ]
            for restored in serializers.deserialize("python", rows):
                restored.save()
        raise_version(change_set.owner)
        change_set.undone_at = timezone.now()
        change_set.save(update_fields=["undone_at"])


def _by_model(changes):
    groups = {}
    for change in changes:
        groups.setdefault(apps.get_model(change["model"]), []).append(change)
    return groups


def last_change(owner):
    """The owner's latest action that has not been undone, or None."""
    return ChangeSet.objects.for_owner(owner).filter(undone_at=None).defer("changes").first()
