"""Many records written in a short transaction: their keys are taken and their statements made before it begins."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from copy import copy
from typing import Any, TypeVar

from django.db import connection, models, transaction

from cambrel.owners.models import Owned, check_storable

T = TypeVar("T")
CHUNK = 900
"""So many keys at a time: SQLite bounds the parameters of a query."""


def in_chunks(keys: Iterable[T]) -> Iterator[list[T]]:
    """Keys in lists of at most so many."""
    listed = list(keys)
    return (listed[start : start + CHUNK] for start in range(0, len(listed), CHUNK))


def give_keys(model: type[models.Model], records: Sequence[models.Model]) -> None:
    """Give new records the keys that they will have, which nobody else gets; keys that are not used stay a gap."""
    if not records:
        return
    for key, record in zip(_KEYS[connection.vendor](model, records), records, strict=True):
        record.pk = key


def _keys_of_sqlite(model: type[models.Model], records: Sequence[models.Model]) -> Iterable[int]:
    """SQLite gives out no key twice: a row that is written after the keys that are wanted, and taken away again, keeps
    them free.
    """
    rows, sample = model._base_manager, copy(records[0])
    with transaction.atomic():
        sample.pk = None
        for field in model._meta.concrete_fields:
            # what it is to belong to need not be there: it is gone before anybody looks
            if field.is_relation and not field.null and getattr(sample, field.attname) is None:
                setattr(sample, field.attname, 0)
        rows.bulk_create([sample])
        first = sample.pk
        rows.filter(pk=first).delete()
        if len(records) > 1:
            sample.pk = first + len(records) - 1
            rows.bulk_create([sample])
            rows.filter(pk=sample.pk).delete()
    return range(first, first + len(records))


def _keys_of_postgresql(model: type[models.Model], records: Sequence[models.Model]) -> list[int]:
    table, count = model._meta.db_table, len(records)
    with connection.cursor() as cursor:
        taken = "SELECT nextval(pg_get_serial_sequence(%s, 'id')) FROM generate_series(1, %s)"
        cursor.execute(taken, [connection.ops.quote_name(table), count])
        return [key for (key,) in cursor.fetchall()]


_KEYS = {"sqlite": _keys_of_sqlite, "postgresql": _keys_of_postgresql}
"""Keys that are taken before a transaction begins: each database has its own way, and Django none."""


def _value(record: models.Model, field: models.Field) -> object:  # type: ignore[type-arg]
    """What is written of a field; a moment that was left open is now."""
    return field.get_db_prep_save(field.pre_save(record, add=getattr(record, field.attname) is None), connection)


def _upsert(table: str, key: str, columns: Sequence[str]) -> str:
    """A statement that writes a row whether it is there already or not, as SQLite and PostgreSQL both read it."""
    quoted = [connection.ops.quote_name(name) for name in columns]
    unique = connection.ops.quote_name(key)
    changes = ", ".join(f"{name} = EXCLUDED.{name}" for name in quoted if name != unique)
    return (
        f"INSERT INTO {connection.ops.quote_name(table)} ({', '.join(quoted)}) "
        f"VALUES ({', '.join(['%s'] * len(quoted))}) ON CONFLICT ({unique}) DO UPDATE SET {changes}"
    )


class Batch:
    """Statements made beforehand, to be run in one transaction in the order in which they were added."""

    def __init__(self) -> None:
        self._runs: list[Callable[[Any], object]] = []

    def put(self, model: type[models.Model], records: Sequence[models.Model]) -> None:
        """Write records with all their columns, whether they are there already or not; they have their keys."""
        if not records:
            return
        for record in records:
            check_storable(record)
        fields = model._meta.concrete_fields
        columns = [str(field.column) for field in fields]
        statement = _upsert(model._meta.db_table, str(model._meta.pk.column), columns)
        rows = [tuple(_value(record, field) for field in fields) for record in records]
        self._runs.append(lambda cursor: cursor.executemany(statement, rows))

    def hold(self, model: type[models.Model], field_name: str, members: Mapping[int, Iterable[int]]) -> None:
        """Let records hold others, such as the lenses of a kit, and nothing else.

        Parameters
            members: keys of what each record holds, by its key
        """
        field: Any = model._meta.get_field(field_name)
        through, mine, other = field.remote_field.through, field.m2m_column_name(), field.m2m_reverse_name()
        pairs = [through(**{mine: key, other: member}) for key, held in members.items() for member in held]

        def run(cursor: Any) -> None:
            for chunk in in_chunks(members):
                through._base_manager.filter(**{f"{mine}__in": chunk}).delete()
            through._base_manager.bulk_create(pairs, batch_size=CHUNK // 3)

        if members:
            self._runs.append(run)

    def remove(self, model: type[Owned], keys: Sequence[int]) -> None:
        """Delete records, and what is part of them."""

        def run(cursor: Any) -> None:
            for chunk in in_chunks(keys):
                model._base_manager.filter(pk__in=chunk).only("pk").delete()

        if keys:
            self._runs.append(run)

    def run(self) -> None:
        """Run all statements; call it inside a transaction."""
        with connection.cursor() as cursor:
            for run in self._runs:
                run(cursor)
