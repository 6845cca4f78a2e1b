"""The sections of an exported document: each application registers what it reads and writes, so that one file holds them all."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Any

Row = dict[str, Any]
Ids = dict[tuple[str, str], int]
REFERENCES = {"id", "body_id", "fixed_to_id", "body_ids", "lens_ids"}
"""What in a row points within the document; it is no figure of the record."""


@dataclass(frozen=True)
class Section:
    """One kind of record in the document.

    rows: the owner's records as (key, row), every field given
    identity: what makes two rows the same record
    check: a sound row from one that was read and stands up to the schema, or ValueError with the reason
    plan: add to a plan what creates or changes records, given as (key or None, row); the key of every new one is put into `ids`, keys by
        section and by the id within the document, by which later sections refer to it
    """

    key: str
    label: str
    model: type
    rows: Callable[[Any], list[tuple[int, Row]]]
    identity: Callable[[Row], Hashable]
    check: Callable[[Row], Row]
    plan: Callable[[Any, list[tuple[int | None, Row]], Ids], None]


SECTIONS: dict[str, Section] = {}
"""By key, in the order in which they are written and applied."""


def register(section: Section) -> None:
    SECTIONS[section.key] = section
