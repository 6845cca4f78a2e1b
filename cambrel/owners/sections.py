"""The sections of an exported document: each application registers what it reads and writes, so that one file holds
them all.
"""

from collections.abc import Callable, Collection, Hashable, Iterable, Mapping
from dataclasses import dataclass
from itertools import chain
from typing import Any, TypeVar

from django.db.models import Model, QuerySet

from cambrel.owners.models import Owned, Saved, User
from cambrel.owners.undo import ChangePlan
from cambrel.owners.writing import in_chunks

R = TypeVar("R", bound=Model)

Row = dict[str, Any]
"""A record of a file or a document, as JSON has it."""
Schema = dict[str, Any]
Ids = dict[tuple[str, str], int]
REFERENCES = {"id", "body_id", "fixed_to_id", "body_ids", "lens_ids", "adapter_ids", "support_ids"}
"""What in a row points within the document; it is no figure of the record."""


@dataclass(frozen=True)
class Section:
    """One kind of record in the document.

    rows: the owner's records as (key, row), every field given; all of them, or those that are called by any of some
        names
    identity: what makes two rows the same record
    check: a sound row from one that was read and stands up to the schema, or ValueError with the reason
    plan: add to a plan what creates or changes records, given as (key or None, row); the key of every new one is put
        into `ids`, keys by section and by the id within the document, by which later sections refer to it
    """

    key: str
    label: str
    model: type[Owned]
    rows: Callable[..., list[tuple[int, Row]]]
    identity: Callable[[Row], Hashable]
    check: Callable[[Row], Row]
    plan: Callable[[ChangePlan, list[tuple[int | None, Row]], Ids], None]
    schema: Schema


MOST_ROWS = 60_000
"""That one section of a document may hold."""
NAME = {"type": "string", "minLength": 1, "maxLength": 60, "pattern": "\\S"}
REFERENCE = {
    "description": "Within the document: keeps records of one name apart, and is what others refer to",
    "type": ["integer", "string", "null"],
    "maxLength": 120,
}
SECTIONS: dict[str, Section] = {}
"""By key, in the order in which they are written and applied."""


def those_called(records: QuerySet[R], called: Collection[str] | None) -> Iterable[R]:
    """Those of a query's records that are called by any of some names; all of them where there are none given."""
    if called is None:
        every: Iterable[Any] = records
        return every
    return chain.from_iterable(records.filter(name__in=part) for part in in_chunks(called))


def record_schema(says: str, properties: Schema, stated: list[str]) -> Schema:
    """The JSON schema of a record: what it may say and what it must; nothing else."""
    return {
        "description": says,
        "type": "object",
        "additionalProperties": False,
        "required": stated,
        "properties": properties,
    }


def document_schema() -> Schema:
    """The JSON schema of a whole document; docs/document.schema.json is its copy."""
    lists = {key: {"type": "array", "maxItems": MOST_ROWS, "items": {"$ref": f"#/$defs/{key}"}} for key in SECTIONS}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Cambrel document",
        "description": (
            "A shelf and its comparisons, version 1. Null means unknown, never zero. Records are known "
            "by their names. A record that is not named here is left alone when the document is read."
        ),
        "type": "object",
        "additionalProperties": False,
        "required": ["cambrel", "sections"],
        "properties": {
            "cambrel": {"description": "version of this schema", "const": 1},
            "sections": {"type": "object", "additionalProperties": False, "properties": lists},
        },
        "$defs": {key: section.schema for key, section in SECTIONS.items()},
    }


def register(section: Section) -> None:
    SECTIONS[section.key] = section


def saved_section(
    key: str,
    label: str,
    model: type[Saved],
    field: str,
    says: str,
    read: Callable[[str], Any],
    *,
    longest: int = 3500,
    texts: Mapping[str, Row] | None = None,
    check_also: Callable[[Row], None] = lambda row: None,
) -> Section:
    """The section of what is saved by value, under a name.

    Parameters
        field: what the value is called in a row; read: raises ValueError, with the reason, for what is none
        longest: characters of the value
        texts: the schemas of what else is said of it, by the names of its fields
        check_also: raises ValueError, with the reason, for a row that stands up to its schema and is not sound all the
            same
    """
    words = texts or {}
    fields = {field.name: field for field in model._meta.concrete_fields}
    usual = {word: fields[word].get_default() for word in words}

    def rows(owner: User, called: Collection[str] | None = None) -> list[tuple[int, Row]]:
        called_so = those_called(model.objects.for_owner(owner), called)
        return [
            (
                saved.pk,
                {"id": saved.pk, "name": saved.name, field: saved.token}
                | {word: getattr(saved, word) for word in words},
            )
            for saved in called_so
        ]

    def check(row: Row) -> Row:
        read(row[field])
        check_also(row)
        return row | {"name": " ".join(row["name"].split())}

    def assign(saved: Saved, row: Row) -> None:
        saved.name, saved.token = row["name"], row[field]
        for word in words:
            setattr(saved, word, row.get(word, usual[word]))

    def plan(made: ChangePlan, pairs: list[tuple[int | None, Row]], ids: Ids) -> None:
        made.change(model, {pk: row for pk, row in pairs if pk is not None}, assign)
        new = [row for pk, row in pairs if pk is None]
        made.add(
            model,
            [
                model(
                    owner=made.owner,
                    name=row["name"],
                    token=row[field],
                    **{word: row.get(word, usual[word]) for word in words},
                )
                for row in new
            ],
        )

    properties = {
        "name": NAME,
        field: {"type": "string", "minLength": 1, "maxLength": longest},
        "id": REFERENCE,
        **words,
    }
    schema = record_schema(says, properties, ["name", field])
    return Section(key, label, model, rows, lambda row: row["name"], check, plan, schema)
