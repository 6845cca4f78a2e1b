"""What a file holds, whatever its kind: rows with their place, or the reason why one cannot be read; and how its
headings were taken.
"""

import time
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from math import inf

from cambrel.bounds.doors import DOORS
from cambrel.owners.sections import Row

MOST_BYTES, MOST_ROWS, MOST_SECONDS = DOORS["gear"].most_bytes, DOORS["gear"].most_rows, DOORS["gear"].seconds


class FileError(ValueError):
    """A file that cannot be read at all; the message is for the reader of the page."""


@dataclass(frozen=True)
class FileRecord:
    """A record of a file. line: where it stands (for JSON, the number of the record in its section); reason: why it is
    refused, if it is.
    """

    section: str
    line: int
    row: Row
    reason: str = ""


@dataclass
class Contents:
    """The records of a file; for a table, what each heading was taken for, and the headings that were not understood.

    scope: within which ids are told apart; the tables of one shelf share one, a document has its own
    """

    found: list[FileRecord]
    understood: list[tuple[str, str]] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    scope: str = ""


@dataclass(frozen=True)
class Known:
    """What of the owner's is needed to read a file: letter codes, own formats (width and height in mm by name),
    register distances of mounts, and a currency for bare prices."""

    codes: dict[str, str] = field(default_factory=dict)
    formats: dict[str, tuple[float, float]] = field(default_factory=dict)
    registers_mm: dict[str, float] = field(default_factory=dict)
    currency: str = ""


_until: ContextVar[float] = ContextVar("until", default=inf)


@contextmanager
def time_limit(seconds: float = MOST_SECONDS) -> Iterator[None]:
    """Within this so much time is given to reading; every reader counts its records and so meets the limit."""
    token = _until.set(time.monotonic() + seconds)
    try:
        yield
    finally:
        _until.reset(token)


def counted(count: int) -> None:
    """Called by every reader for each record. Raises FileError for too many of them, or when the time is up."""
    if count > MOST_ROWS:
        raise FileError(f"At most {MOST_ROWS:,} records are read at a time. Bring them in in parts.")
    if time.monotonic() > _until.get():
        raise FileError("Reading this takes too long. Bring it in in parts.")


def decoded(data: bytes) -> str:
    """Text in UTF-8, with or without a byte order mark."""
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FileError(f"The file is not in UTF-8 (byte {error.start}). Save it as UTF-8 and try again.") from None
