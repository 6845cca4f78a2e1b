"""The sections of an exported document: each application registers what it reads and writes, so that one file holds them all."""

from collections.abc import Callable, Collection, Hashable, Iterable
from dataclasses import dataclass
from itertools import chain
from typing import Any

from cambrel.owners.writing import in_chunks

Row = dict[str, Any]
Ids = dict[tuple[str, str], int]
REFERENCES = {"id", "body_id", "fixed_to_id", "body_ids", "lens_ids"}
"""What in a row points within the document; it is no figure of the record."""


@dataclass(frozen=True)
class Section:
    """One kind of record in the document.

    rows: the owner's records as (key, row), every field given; all of them, or those that are called by any of some names
    identity: what makes two rows the same record
    check: a sound row from one that was read and stands up to the schema, or ValueError with the reason
    plan: add to a plan what creates or changes records, given as (key or None, row); the key of every new one is put into `ids`, keys by
        section and by the id within the document, by which later sections refer to it
    """

    key: str
    label: str
    model: type
    rows: Callable[..., list[tuple[int, Row]]]
    identity: Callable[[Row], Hashable]
    check: Callable[[Row], Row]
    plan: Callable[[Any, list[tuple[int | None, Row]], Ids], None]


SECTIONS: dict[str, Section] = {}
"""By key, in the order in which they are written and applied."""


def those_called(records: Any, called: Collection[str] | None) -> Iterable[Any]:
    """Those of a query's records that are called by any of some names; all of them where there are none given."""
    if called is None:
        return records
    return chain.from_iterable(records.filter(name__in=part) for part in in_chunks(called))


def register(section: Section) -> None:
    SECTIONS[section.key] = section
