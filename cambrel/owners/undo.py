"""Undo: one mechanism for every owned record. An action states what it touches; its change set is kept in the
database.
"""

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from typing import Any, TypeVar

from django.apps import apps
from django.db import models, transaction
from django.db.models import F
from django.http import Http404
from django.utils import timezone

from cambrel.bounds.names import shortened
from cambrel.owners.keeping import check_quota, forget_changes
from cambrel.owners.models import ChangeSet, Owned, User, fresh_version
from cambrel.owners.writing import Batch, give_keys, in_chunks

T = TypeVar("T")
R = TypeVar("R", bound=Owned)
Key = int
Columns = dict[str, Any]
"""The columns of a record as the database has them, and the keys of what it holds."""


class UndoError(Exception):
    """A change set that can no longer be undone, with the reason for the reader."""


class StaleError(Exception):
    """Something was changed since the action was prepared."""


def _snapshots(model: type[Owned], keys: Iterable[Key]) -> dict[Key, Columns]:
    """The columns of records by key, and the keys of what they hold; a record that is not there is left out."""
    values: dict[Key, Columns] = {}
    for chunk in in_chunks(keys):
        for columns in model._base_manager.filter(pk__in=chunk).values():
            row: Columns = dict(columns)
            values[row.pop(model._meta.pk.attname)] = row
        for field in model._meta.many_to_many:
            for pk in set(chunk) & set(values):
                values[pk].setdefault(field.name, [])
            through: Any = field.remote_field.through
            mine, other = field.m2m_column_name(), field.m2m_reverse_name()
            held = through._base_manager.filter(**{f"{mine}__in": chunk}).values_list(mine, other)
            for pk, member in held:
                if pk in values:
                    values[pk][field.name].append(member)
    return values


def versions(model: type[Owned], keys: Iterable[Key]) -> dict[Key, int]:
    """The versions of records by key."""
    values: dict[Key, int] = {}
    for chunk in in_chunks(keys):
        values |= model._base_manager.filter(pk__in=chunk).values_list("pk", "version")
    return values


class Recorder:
    """Collects the records that an action touches."""

    def __init__(self) -> None:
        self.touched: dict[type[Owned], dict[Key, Columns | None]] = {}

    def touch(self, *records: Owned) -> None:
        """Call before records of one or more models are changed or deleted; children before their parents."""
        for model in dict.fromkeys(type(record) for record in records):
            of_model = self.touched.setdefault(model, {})
            keys = [record.pk for record in records if type(record) is model and record.pk not in of_model]
            before = _snapshots(model, keys)
            of_model |= {key: before.get(key) for key in keys}

    def created(self, *records: Owned) -> None:
        """Call right after records were created; parents before their children."""
        for record in records:
            self.touched.setdefault(type(record), {}).setdefault(record.pk, None)

    def fresh(self, record: R) -> R:
        """A record as it is now, touched: what was read of it before the transaction may be another's since.

        Raises
            Http404 where somebody has thrown it away
        """
        now: R | None = type(record).objects.filter(pk=record.pk, owner=record.owner_id).first()
        if now is None:
            raise Http404
        self.touch(now)
        return now

    def save(self, record: Owned) -> None:
        """Save what was changed of a record that was touched: those columns, and no others."""
        before = self.touched[type(record)][record.pk] or {}
        fields = record._meta.concrete_fields
        changed = [
            field.name
            for field in fields
            if not field.primary_key and before[field.attname] != getattr(record, field.attname)
        ]
        moments = [model_field.name for model_field in fields if getattr(model_field, "auto_now", False)]
        record.save(update_fields=[*changed, *moments, "version"])

    def remove(self, *records: Owned) -> None:
        """Throw records away; children before their parents."""
        for record in records:
            self.fresh(record).delete()

    def versions_after(self, model: type[Owned]) -> dict[Key, int]:
        """The versions of what was touched, now that it is done."""
        return versions(model, self.touched[model])

    def change_set(self, owner: User, label: str) -> ChangeSet:
        """What was touched, model by model, as it is kept."""
        made = []
        for model, of_model in self.touched.items():
            after = self.versions_after(model)
            rows = [[key, before, after.get(key)] for key, before in of_model.items()]
            made.append({"model": model._meta.label_lower, "rows": rows})
        return ChangeSet(
            owner=owner, label=shortened(label, 200), changes=made, size=sum(map(len, self.touched.values()))
        )


class ChangePlan(Recorder):
    """An action with many records, prepared before its transaction, so that this is short: what is written, with its
    keys, and what was there.
    """

    def __init__(self, owner: User) -> None:
        super().__init__()
        self.owner, self.batch = owner, Batch()
        self.new: dict[type[Owned], list[Owned]] = {}
        self._after: dict[type[Owned], dict[Key, int]] = {}

    def change(self, model: type[Owned], changes: Mapping[Key, T], assign: Callable[[Any, T], None]) -> None:
        """Change records of the owner.

        Parameters
            changes: by key, what `assign(record, change)` puts into each
        """
        records = [r for keys in in_chunks(changes) for r in model.objects.for_owner(self.owner).filter(pk__in=keys)]
        self.touch(*records)
        for record in records:
            assign(record, changes[record.pk])
            record.version = fresh_version()
        self._put(model, records)

    def add(self, model: type[Owned], records: Sequence[Owned]) -> None:
        """Add new records; they get their keys now."""
        give_keys(model, records)
        self.created(*records)
        self.new.setdefault(model, []).extend(records)
        self._put(model, records)

    def discard(self, model: type[Owned], records: Collection[Owned]) -> None:
        """Delete records of the owner; children before their parents."""
        self.touch(*records)
        self.batch.remove(model, [record.pk for record in records])

    def _put(self, model: type[Owned], records: Sequence[Owned]) -> None:
        self._after.setdefault(model, {}).update((record.pk, record.version) for record in records)
        self.batch.put(model, records)

    def versions_after(self, model: type[Owned]) -> dict[Key, int]:
        return self._after.get(model, {})


def raise_version(owner: User) -> None:
    """Mark what was worked out from an owner's records as stale."""
    User.objects.filter(pk=owner.pk).update(shelf_version=F("shelf_version") + 1)


def shelf_version(owner: User) -> int:
    """The version of all that an owner keeps, as it is now."""
    return User.objects.values_list("shelf_version", flat=True).get(pk=owner.pk)


def _alone(owner: User) -> int:
    """Nobody else changes what the owner keeps until the transaction ends; a database that lets only one write at a
    time needs no lock.
    """
    return int(User.objects.select_for_update().values_list("shelf_version", flat=True).get(pk=owner.pk))


@contextmanager
def alone(owner: User) -> Iterator[None]:
    """A transaction in which nobody else changes what an owner keeps."""
    with transaction.atomic():
        _alone(owner)
        yield


@contextmanager
def recorded(
    owner: User, label: str, prepared: ChangePlan | None = None, seen: int | None = None, *, goes_on: bool = False
) -> Iterator[Recorder]:
    """Run an action in one transaction and keep what it changed, to be undone later.

    Parameters
        prepared: a plan, whose statements are run
        goes_on: it is one with the latest change where that has the same label, so that many small steps are undone
            together
        seen: the owner's shelf version that the action was prepared for; if it is another now nothing is done
    Raises
        StaleError, QuotaError
    """
    if prepared is not None:
        change_set = prepared.change_set(owner, label)
        give_keys(ChangeSet, [change_set])
        prepared.batch.put(ChangeSet, [change_set])
    recorder = prepared or Recorder()
    with transaction.atomic():
        version = _alone(owner)
        if seen is not None and version != seen:
            raise StaleError
        if prepared is not None:
            prepared.batch.run()
        yield recorder
        raise_version(owner)
        if prepared is None:
            _kept(recorder.change_set(owner, label), goes_on)
        check_quota(owner)
        forget_changes(owner)


def _kept(made: ChangeSet, goes_on: bool) -> None:
    last = last_change(made.owner) if goes_on else None
    if last is not None and last.label == made.label:
        last.changes, last.size = [*last.changes, *made.changes], last.size + made.size
        made = last
    made.save()


def carry_out(plan: ChangePlan, label: str, seen: int | None) -> None:
    """Do what was planned, as one change; see `recorded`."""
    with recorded(plan.owner, label, plan, seen):
        pass


def undo(change_set: ChangeSet) -> None:
    """Put every record of a change set back to what it was before.

    Raises
        UndoError where it was undone already, or a record has been changed since; then nothing is touched
    """
    groups = [(apps.get_model(group["model"]), group["rows"]) for group in change_set.changes]
    batch = Batch()
    for model, rows in reversed(groups):
        batch.remove(model, [key for key, before, _ in rows if before is None])
    for model, rows in reversed(groups):
        batch.put(model, [_record(model, key, before) for key, before, _ in rows if before is not None])
    for model, rows in groups:
        for field in model._meta.many_to_many:
            batch.hold(model, field.name, {key: before[field.name] for key, before, _ in rows if before is not None})
    with transaction.atomic():
        _alone(change_set.owner)
        if not ChangeSet.objects.filter(pk=change_set.pk, undone_at=None).exists():
            raise UndoError(f"“{change_set.label}” has been undone already.")
        for model, rows in groups:
            now = versions(model, [key for key, _, _ in rows])
            if any(now.get(key) != after for key, _, after in rows):
                raise UndoError(f"“{change_set.label}” cannot be undone: the record has been changed since.")
        batch.run()
        raise_version(change_set.owner)
        ChangeSet.objects.filter(pk=change_set.pk).update(undone_at=timezone.now())


def _record(model: type[models.Model], key: Key, before: Columns) -> models.Model:
    """A record as it was, its version with it: it stands for that state."""
    columns = {f.attname: f.to_python(before[f.attname]) for f in model._meta.concrete_fields if f.attname in before}
    return model(pk=key, **columns)


def last_change(owner: User) -> ChangeSet | None:
    """The owner's latest action that has not been undone, or None."""
    latest: ChangeSet | None = ChangeSet.objects.for_owner(owner).filter(undone_at=None).defer("changes").first()
    return latest
