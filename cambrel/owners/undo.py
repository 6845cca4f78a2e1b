"""Undo: one mechanism for every owned record. An action states what it touches; its change set is kept in the database."""

from contextlib import contextmanager

from django.apps import apps
from django.db import transaction
from django.db.models import F
from django.utils import timezone

from cambrel.names import shortened
from cambrel.owners.models import ChangeSet, User

CHUNK = 900
"""So many keys at a time: SQLite bounds the parameters of a query."""


class UndoError(Exception):
    """A change set that can no longer be undone, with the reason for the reader."""


class StaleError(Exception):
    """Records that were changed by somebody else since they were read; `records` holds their keys by model."""

    def __init__(self, records):
        super().__init__("The record has been changed meanwhile.")
        self.records = records


def _chunks(keys):
    keys = list(keys)
    return (keys[start : start + CHUNK] for start in range(0, len(keys), CHUNK))


def _snapshots(model, keys):
    """The columns of records by key, and the keys of what they hold; a record that is not there is left out."""
    found = {}
    for chunk in _chunks(keys):
        for row in model._base_manager.filter(pk__in=chunk).values():
            found[row.pop(model._meta.pk.attname)] = row
        for field in model._meta.many_to_many:
            for pk in set(chunk) & set(found):
                found[pk].setdefault(field.name, [])
            through, mine, other = field.remote_field.through, field.m2m_column_name(), field.m2m_reverse_name()
            held = through._base_manager.filter(**{f"{mine}__in": chunk}).values_list(mine, other)
            for pk, member in held:
                if pk in found:
                    found[pk][field.name].append(member)
    return found


def versions(model, keys):
    """The versions of records by key."""
    found = {}
    for chunk in _chunks(keys):
        found |= model._base_manager.filter(pk__in=chunk).values_list("pk", "version")
    return found


class Recorder:
    """Collects the records that an action touches."""

    def __init__(self):
        self.touched = {}

    def touch(self, *records):
        """Call before records of one or more models are changed or deleted; children before their parents."""
        for model in dict.fromkeys(type(record) for record in records):
            of_model = self.touched.setdefault(model, {})
            keys = [record.pk for record in records if type(record) is model and record.pk not in of_model]
            before = _snapshots(model, keys)
            of_model |= {key: before.get(key) for key in keys}

    def created(self, *records):
        """Call right after records were created; parents before their children."""
        for record in records:
            self.touched.setdefault(type(record), {}).setdefault(record.pk, None)

    def check_unchanged(self):
        """Raise StaleError where a record that was touched before is another now."""
        stale = {}
        for model, of_model in self.touched.items():
            seen = {key: before["version"] for key, before in of_model.items() if before is not None}
            now = versions(model, seen)
            if changed := [key for key, version in seen.items() if now.get(key) != version]:
                stale[model] = changed
        if stale:
            raise StaleError(stale)

    def changes(self):
        """What was touched, model by model, as it is kept."""
        made = []
        for model, of_model in self.touched.items():
            after = versions(model, of_model)
            rows = [[key, before, after.get(key)] for key, before in of_model.items()]
            made.append({"model": model._meta.label_lower, "rows": rows})
        return made


def raise_version(owner):
    """Mark what was worked out from an owner's records as stale."""
    User.objects.filter(pk=owner.pk).update(shelf_version=F("shelf_version") + 1)


def shelf_version(owner):
    """The version of all that an owner keeps, as it is now."""
    return User.objects.values_list("shelf_version", flat=True).get(pk=owner.pk)


@contextmanager
def recorded(owner, label, prepared=None, seen=None):
    """Run an action in one transaction and keep what it changed; `change_set` of the recorder can be undone later.

    Parameters
        prepared: a recorder that was told before what will be changed, so that the transaction itself is short; if any of it has been
            changed meanwhile nothing is done
        seen: the owner's shelf version that the action was prepared for; likewise
    Raises
        StaleError
    """
    recorder = prepared or Recorder()
    with transaction.atomic():
        recorder.check_unchanged()
        if seen is not None and shelf_version(owner) != seen:
            raise StaleError({})
        yield recorder
        raise_version(owner)
        recorder.change_set = ChangeSet.objects.create(
            owner=owner, label=shortened(label, 200), changes=recorder.changes()
        )


def undo(change_set):
    """Put every record of a change set back to what it was before.

    Raises
        UndoError where it was undone already, or a record has been changed since; then nothing is touched
    """
    groups = [(apps.get_model(group["model"]), group["rows"]) for group in change_set.changes]
    restored = [
        (model, [_record(model, key, before) for key, before, _ in rows if before is not None])
        for model, rows in groups
    ]
    with transaction.atomic():
        if not ChangeSet.objects.filter(pk=change_set.pk, undone_at=None).exists():
            raise UndoError(f"“{change_set.label}” has been undone already.")
        for model, rows in groups:
            now = versions(model, [key for key, _, _ in rows])
            if any(now.get(key) != after for key, _, after in rows):
                raise UndoError(f"“{change_set.label}” cannot be undone: the record has been changed since.")
            _raise_versions(restored, model, now)
        for model, rows in reversed(groups):
            for chunk in _chunks(key for key, before, _ in rows if before is None):
                model._base_manager.filter(pk__in=chunk).delete()
        for model, records in reversed(restored):
            write_whole(model, records)
        for model, rows in groups:
            _hold_again(model, rows)
        raise_version(change_set.owner)
        change_set.undone_at = timezone.now()
        change_set.save(update_fields=["undone_at"])


def _record(model, key, before):
    """A record as it was."""
    columns = {f.attname: f.to_python(before[f.attname]) for f in model._meta.concrete_fields if f.attname in before}
    return model(pk=key, **columns)


def _raise_versions(restored, model, now):
    """A record that is put back is a new version, so that nobody takes it for the one that they have seen."""
    for of_model, records in restored:
        for record in records if of_model is model else ():
            record.version = max(record.version, now.get(record.pk) or 0) + 1


def write_whole(model, records):
    """Write records with all their columns in bulk, whether they are there already or not."""
    columns = [field.name for field in model._meta.concrete_fields if not field.primary_key]
    if records:
        model._base_manager.bulk_create(records, update_conflicts=True, update_fields=columns, unique_fields=["id"])


def _hold_again(model, rows):
    """What records held, such as the lenses of a kit."""
    for field in model._meta.many_to_many:
        through, mine, other = field.remote_field.through, field.m2m_column_name(), field.m2m_reverse_name()
        kept = [(key, before[field.name]) for key, before, _ in rows if before is not None]
        for chunk in _chunks(key for key, _ in kept):
            through._base_manager.filter(**{f"{mine}__in": chunk}).delete()
        pairs = [through(**{mine: key, other: member}) for key, members in kept for member in members]
        through._base_manager.bulk_create(pairs, batch_size=CHUNK // 3)


def last_change(owner):
    """The owner's latest action that has not been undone, or None."""
    return ChangeSet.objects.for_owner(owner).filter(undone_at=None).defer("changes").first()
