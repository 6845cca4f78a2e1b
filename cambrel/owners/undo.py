"""Undo: one mechanism for every owned record. An action states what it touches; its change set is kept in the database."""

import json
from contextlib import contextmanager

from django.core import serializers
from django.core.serializers.json import DjangoJSONEncoder
from django.db import transaction
from django.utils import timezone

from cambrel.owners.models import ChangeSet


class UndoError(Exception):
    """A change set that can no longer be undone, with the reason for the reader."""


def _snapshot(model, pk):
    found = model._base_manager.filter(pk=pk)
    rows = serializers.serialize("python", found)
    return json.loads(json.dumps(rows[0]["fields"], cls=DjangoJSONEncoder)) if rows else None


class Recorder:
    """Collects the records that an action touches."""

    def __init__(self):
        self.touched = []

    def touch(self, record):
        """Call before a record is changed or deleted, or right after one is created with `created`."""
        self.touched.append((type(record), record.pk, _snapshot(type(record), record.pk)))

    def created(self, record):
        self.touched.append((type(record), record.pk, None))


@contextmanager
def recorded(owner, label):
    """Run an action in one transaction and keep what it changed; `change_set` of the recorder can be undone later."""
    recorder = Recorder()
    with transaction.atomic():
        yield recorder
        changes = [
            {"model": model._meta.label_lower, "pk": pk, "before": before, "after": _snapshot(model, pk)}
            for model, pk, before in recorder.touched
        ]
        recorder.change_set = ChangeSet.objects.create(owner=owner, label=label, changes=changes)


def undo(change_set):
    """Put every record of a change set back to what it was before.

    Raises
        UndoError where it was undone already, or a record has been changed since; then nothing is touched
    """
    from django.apps import apps

    with transaction.atomic():
        if change_set.undone_at is not None:
            raise UndoError(f"“{change_set.label}” has been undone already.")
        for change in change_set.changes:
            model = apps.get_model(change["model"])
            if _snapshot(model, change["pk"]) != change["after"]:
                raise UndoError(f"“{change_set.label}” cannot be undone: the record has been changed since.")
        for change in reversed(change_set.changes):
            model = apps.get_model(change["model"])
            if change["before"] is None:
                model._base_manager.filter(pk=change["pk"]).delete()
                continue
            row = {"model": change["model"], "pk": change["pk"], "fields": change["before"]}
            for restored in serializers.deserialize("python", [row]):
                restored.save()
        change_set.undone_at = timezone.now()
        change_set.save(update_fields=["undone_at"])
