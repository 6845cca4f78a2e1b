"""EXIF as its blocks hold it: the few tags that say how a picture was taken, read within bounds from what is there of a
file.

Position, serial numbers, names of people and thumbnails are never looked at.
"""

from __future__ import annotations

import struct
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

MOST_READS, MOST_ENTRIES, MOST_VALUE_BYTES, MOST_DIRECTORIES = 4000, 512, 256, 4
AT_LEAST_BYTES = 16 * 1024
MOST_ASKED = 8
"""Parts that are asked for in one round."""
WANTED = {
    0x0100: "wide", 0x0101: "high", 0x010F: "maker", 0x0110: "model", 0x0112: "orientation",
    0x829A: "exposure_s", 0x829D: "f_number", 0x8827: "iso", 0x8832: "iso_index", 0x8833: "iso_speed",
    0x9003: "taken_at", 0x9201: "shutter_apex", 0x9202: "aperture_apex", 0x9206: "distance_m",
    0x9209: "flash", 0x920A: "focal_mm", 0xA002: "exif_wide", 0xA003: "exif_high",
    0xA404: "digital_zoom", 0xA405: "focal_35_mm", 0xA434: "lens",
}  # fmt: skip
"""By their numbers in the standard (EXIF, CIPA DC-008), what is read; all else is passed over."""
BELOW = 0x8769
"""Where the directory of settings stands."""
SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4}
MAGIC = {42, 0x4F52, 0x5352, 0x55}
"""What stands after the byte order: TIFF, and files of raw values that are built like it."""
Tags = dict[str, Any]


class TagError(ValueError):
    """What is not laid out as it says."""


class MissingError(Exception):
    """A part of the file that is wanted and was not sent."""

    def __init__(self, start: int, length: int) -> None:
        super().__init__(start, length)
        self.start, self.length = start, length


@dataclass
class FileParts:
    """What is there of a file: its length, and some of its parts as (start, bytes)."""

    size: int
    parts: list[tuple[int, bytes]]
    wanted: list[tuple[int, int]] = field(default_factory=list)
    """Parts that were asked for and are not there."""
    reads: int = 0

    def get(self, start: int, length: int) -> bytes:
        """Some bytes.

        Raises
            MissingError for what was not sent; TagError for what the file does not have
        """
        self.reads += 1
        if self.reads > MOST_READS:
            raise TagError("it asks for too many readings")
        if start < 0 or length < 0 or start + length > self.size:
            raise TagError("it ends before what it says it holds")
        for at, held in self.parts:
            if at <= start and start + length <= at + len(held):
                return held[start - at : start - at + length]
        self.wanted.append((start, length))
        raise MissingError(start, length)

    def asked(self) -> list[tuple[int, int]]:
        """The parts that are wanted, at least of a usual size, each once and inside the file."""
        directories: list[tuple[int, int]] = []
        for start, length in sorted(self.wanted):
            end = min(self.size, start + max(length, AT_LEAST_BYTES))
            if directories and start <= directories[-1][1]:
                directories[-1] = (directories[-1][0], max(directories[-1][1], end))
            else:
                directories.append((start, end))
        return [(start, end - start) for start, end in directories[:MOST_ASKED]]


def read_tags(source: FileParts, base: int = 0) -> Tags:
    """The tags of a block that begins like a TIFF file.

    Parameters
        source: what is there of the file
        base: where the block begins
    Returns
        the wanted tags by name, as they stand: numbers, pairs for fractions, texts; what is missing is noted by the
            source
    Raises
        TagError, MissingError for the first directory
    """
    head = source.get(base, 8)
    order = {b"II": "<", b"MM": ">"}.get(head[:2])
    if order is None or struct.unpack(order + "H", head[2:4])[0] not in MAGIC:
        raise TagError("this is no EXIF block")
    tags: Tags = {}
    waiting, visited = [struct.unpack(order + "I", head[4:8])[0]], set[int]()
    while waiting and len(visited) < MOST_DIRECTORIES:
        at = waiting.pop(0)
        if at in visited:
            continue
        visited.add(at)
        for tag, kind, count, where in _entries(source, base, at, order):
            if tag == BELOW:
                waiting.append(struct.unpack(order + "I", where[1])[0])
            elif tag in WANTED and WANTED[tag] not in tags:
                value = _value(source, base, order, kind, count, where)
                if value is not None:
                    tags[WANTED[tag]] = value
    return tags


def _entries(source: FileParts, base: int, at: int, order: str) -> Iterator[tuple[int, int, int, tuple[int, bytes]]]:
    count = struct.unpack(order + "H", source.get(base + at, 2))[0]
    if count > MOST_ENTRIES:
        raise TagError("a directory of it is too long")
    held = source.get(base + at + 2, 12 * count)
    for k in range(count):
        tag, kind, many = struct.unpack_from(order + "HHI", held, 12 * k)
        yield tag, kind, many, (base + at + 2 + 12 * k + 8, held[12 * k + 8 : 12 * k + 12])


def _value(source: FileParts, base: int, order: str, kind: int, count: int, where: tuple[int, bytes]) -> Any:
    size = SIZES.get(kind, 0) * count
    if not 0 < size <= MOST_VALUE_BYTES:
        return None
    try:
        held = where[1][:size] if size <= 4 else source.get(base + struct.unpack(order + "I", where[1])[0], size)
    except (MissingError, TagError):
        return None  # what is missing is asked for; what lies outside the file is not there
    if kind == 2:
        return held.split(b"\0")[0].decode("utf-8", "replace").strip()
    if kind in (5, 10):
        return struct.unpack(order + ("II" if kind == 5 else "ii"), held[:8])
    code = {1: "B", 3: "H", 4: "I", 6: "b", 8: "h", 9: "i", 11: "f", 12: "d", 13: "I"}.get(kind)
    return None if code is None else struct.unpack(order + code, held[: SIZES[kind]])[0]
