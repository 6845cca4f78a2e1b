"""Heads of files as a browser sends them: the first bytes, then what was asked for besides."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from cambrel.bounds.documents import read_json
from cambrel.bounds.doors import DOORS
from cambrel.photographs.heads import HEAD_BYTES, MOST_ROUNDS, read_head
from cambrel.photographs.tags import FileParts, TagError
from cambrel.photographs.taken import Taken, taken

MOST_AT_ONCE = DOORS["heads"].most_rows
INCOMPLETE = "These files arrived incomplete. Send them once more."
MOST_SENT_BYTES = 4 * MOST_ROUNDS * HEAD_BYTES


@dataclass(frozen=True)
class SentHead:
    """What the parts of one file that were sent say.

    key: which file, as the browser calls it
    picture: how it was taken, where its head is read; else asked: the parts that are still to be sent as (start,
        length); or problem: why it is not read
    """

    key: object
    picture: Taken | None
    asked: tuple[tuple[int, int], ...]
    problem: str

    def answer(self) -> dict[str, object]:
        """What the browser is told of it so far: its key, and what is still to be sent or why it is not read."""
        if self.problem:
            return {"id": self.key, "problem": self.problem}
        return {"id": self.key} if self.picture is not None else {"id": self.key, "asked": self.asked}


def sent_heads(says: str, files: Iterable[bytes], now: datetime) -> list[SentHead]:
    """What the heads of files say, of which parts are sent.

    Parameters
        says: of each file its key, size, how often it was asked, and where its parts begin and how long they are, as
            JSON
        files: the parts, one after the other
        now: by which a date in the future is told
    Returns
        one for each file
    Raises
        ValueError for what is not sent so
    """
    try:
        sent = _parts_sent(says, files)
    except (KeyError, TypeError, StopIteration, RuntimeError) as error:
        raise ValueError("not parts of files") from error
    return [SentHead(key, *_read(parts, size, now, rounds)) for key, size, rounds, parts in sent]


def _parts_sent(says: str, files: Iterable[bytes]) -> list[tuple[Any, int, int, list[tuple[int, bytes]]]]:
    """The parts of files: which file, its size, how often it was asked, and its parts."""
    told = read_json(says.encode(), "heads")
    if not isinstance(told, list) or not 0 < len(told) <= MOST_AT_ONCE:
        raise ValueError("between 1 and 32 files at a time")
    sent, found = iter(files), []
    for entry in told:
        size, rounds = entry["size"], entry["rounds"]
        parts = []
        for start, length in entry["parts"]:
            content = next(sent)
            if not isinstance(start, int) or start < 0 or len(content) != length:
                raise ValueError("a part of another length")
            parts.append((start, content))
        if (
            not isinstance(size, int)
            or not isinstance(rounds, int)
            or not parts
            or sum(len(part) for _, part in parts) > MOST_SENT_BYTES
        ):
            raise ValueError("no part, or more than is read")
        found.append((entry["id"], size, rounds, parts))
    return found


def _read(
    parts: list[tuple[int, bytes]], size: int, now: datetime, rounds: int
) -> tuple[Taken | None, tuple[tuple[int, int], ...], str]:
    """What the sent parts of a file say.

    Parameters
        rounds: how often it was asked before; after four no more is asked
    Returns
        the settings, or what is still to be sent, or why it is not read
    """
    try:
        head = read_head(FileParts(size, parts))
    except TagError as error:
        return None, (), str(error)
    if head.asked and rounds < MOST_ROUNDS:
        return None, head.asked, ""
    return taken(head, now), (), ""


def read_whole(content: bytes, now: datetime) -> tuple[Taken | None, str]:
    """What a file says of which all is there, or its head where that is all that is read: the settings, or why they are
    not read.
    """
    picture, _, problem = _read([(0, content)], len(content), now, MOST_ROUNDS)
    return picture, problem
