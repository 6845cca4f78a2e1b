"""The sections of an exported document: each application registers what it reads and writes, so that one file holds them all."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Any

Row = dict[str, Any]


@dataclass(frozen=True)
class Section:
    """One kind of record in the document.

    rows: the owner's records as rows of the document
    identity: what makes two rows the same record
    clean: a sound row from one that was read, or ValueError with the reason
    present: the owner's records by identity, as (key, row)
    write: create a record, or change the one with a key; every record touched is told to the recorder
    """

    key: str
    rows: Callable[[Any], list[Row]]
    identity: Callable[[Row], Hashable]
    clean: Callable[[Row], Row]
    present: Callable[[Any], dict[Hashable, tuple[int, Row]]]
    write: Callable[..., None]


SECTIONS: dict[str, Section] = {}
"""By key, in the order in which they are written and applied."""


def register(section: Section) -> None:
    SECTIONS[section.key] = section
