"""Where in a file its EXIF stands and how many pixels it has: read from its first bytes, asking for those further on
that are needed.
"""

from __future__ import annotations

import re
import struct
import zlib
from collections.abc import Callable
from dataclasses import dataclass
from itertools import islice

from cambrel.photographs.tags import FileParts, MissingError, TagError, Tags, read_tags

HEAD_BYTES = 64 * 1024
MOST_ROUNDS = 4
MOST_STEPS = 600
MOST_BLOCKS = 4
MOST_PROFILE_BYTES = 256 * 1024
BLOCK = re.compile(rb"II\*\0|MM\0\*")
"""How a block of EXIF begins."""
SCANNED_BYTES = 1024 * 1024
"""So far into a file blocks are looked for, and"""
MOST_TRIED = 256
"""so many places are tried."""


@dataclass(frozen=True)
class Head:
    """What the head of a file says.

    kind: of file; tags: as they stand; wide_px, high_px: of the picture as it is stored; asked: parts that are missing
    """

    kind: str
    tags: Tags
    wide_px: int | None = None
    high_px: int | None = None
    asked: tuple[tuple[int, int], ...] = ()


def read_head(source: FileParts) -> Head:
    """The EXIF of a file of which some parts are there.

    Parameters
        source: the first 64 KB at least, or all where it is shorter
    Returns
        Head; where `asked` is not empty, send those parts too and read again, at most four rounds
    Raises
        TagError: it is no picture file that is read here, or is not laid out as it says
    """
    try:
        start = source.get(0, min(source.size, 16))
    except MissingError:
        raise TagError("its first bytes were not sent") from None
    for kind, is_it, read in KINDS:
        if is_it(start):
            try:
                tags, wide, high = read(source)
            except MissingError:
                tags, wide, high = {}, None, None
            return Head(kind, tags, wide, high, tuple(source.asked()))
    tags = _scanned(source)
    if not tags:
        raise TagError("it is not a picture file that can be read here")
    return Head("raw", tags)


Found = tuple[Tags, int | None, int | None]


def _tags_at(source: FileParts, base: int) -> Tags:
    try:
        return read_tags(source, base)
    except TagError:
        return {}


def _jpeg(source: FileParts) -> Found:
    tags: Tags = {}
    at, wide, high = 2, None, None
    for _ in range(MOST_STEPS):
        try:
            marker = source.get(at, 4)
        except MissingError:
            if "exif_wide" not in tags:
                raise
            source.wanted.clear()  # its EXIF says how large it is
            break
        if marker[0] != 0xFF:
            raise TagError("it is cut short or damaged")
        if marker[1] == 0xFF:
            at += 1
            continue
        code, length = marker[1], struct.unpack(">H", marker[2:])[0]
        if code in (0xD9, 0xDA):
            break
        if code == 0xE1 and not tags and length >= 16 and source.get(at + 4, 6) == b"Exif\0\0":
            tags = _tags_at(source, at + 10)
        if 0xC0 <= code <= 0xCF and code not in (0xC4, 0xC8, 0xCC):
            high, wide = struct.unpack(">HH", source.get(at + 5, 4))
            break
        at += 2 + length
    return tags, wide, high


def _png(source: FileParts) -> Found:
    wide, high = struct.unpack(">II", source.get(16, 8))
    at = 8
    for _ in range(MOST_STEPS):
        try:
            length, kind = struct.unpack(">I4s", source.get(at, 8))
        except TagError:
            break
        if kind == b"eXIf":
            return _tags_at(source, at + 8), wide, high
        if kind in (b"tEXt", b"zTXt") and (tags := _profile(source, at + 8, length, is_packed=kind == b"zTXt")):
            return tags, wide, high
        if kind == b"IEND":
            break
        at += 12 + length
    return {}, wide, high


def _profile(source: FileParts, at: int, length: int, *, is_packed: bool) -> Tags:
    """The EXIF that a chunk of text holds in figures of sixteen, as some programs write it; none where it is another
    text.
    """
    named = source.get(at, min(length, 40))
    name = named.split(b"\0")[0]
    if name not in (b"Raw profile type exif", b"Raw profile type APP1") or length > MOST_PROFILE_BYTES:
        return {}
    text = source.get(at, length)[len(name) + 1 + is_packed :]
    try:
        unpacked = zlib.decompressobj().decompress(text, MOST_PROFILE_BYTES) if is_packed else text
        held = bytes.fromhex("".join(unpacked.decode("ascii").split()[2:]))
    except (zlib.error, ValueError):
        return {}
    held = held.removeprefix(b"Exif\0\0")
    return _tags_at(FileParts(len(held), [(0, held)]), 0)


def _webp(source: FileParts) -> Found:
    at, wide, high = 12, None, None
    for _ in range(MOST_STEPS):
        try:
            kind, length = struct.unpack("<4sI", source.get(at, 8))
        except TagError:
            break
        if kind == b"VP8X":
            size = source.get(at + 12, 6)
            wide, high = (int.from_bytes(size[k : k + 3], "little") + 1 for k in (0, 3))
        if kind == b"VP8 " and wide is None:
            wide, high = (side & 0x3FFF for side in struct.unpack("<HH", source.get(at + 14, 4)))
        if kind == b"VP8L" and wide is None:
            sides = int.from_bytes(source.get(at + 9, 4), "little")
            wide, high = (sides & 0x3FFF) + 1, (sides >> 14 & 0x3FFF) + 1
        if kind == b"EXIF":
            skip = 6 if source.get(at + 8, 6) == b"Exif\0\0" else 0
            return _tags_at(source, at + 8 + skip), wide, high
        at += 8 + length + length % 2
    return {}, wide, high


def _tiff(source: FileParts) -> Found:
    tags = read_tags(source)
    return tags, _whole(tags.get("wide")), _whole(tags.get("high"))


def _whole(value: object) -> int | None:
    return value if isinstance(value, int) and value > 0 else None


def _boxes(source: FileParts, start: int, end: int) -> dict[bytes, tuple[int, int]]:
    """The first box of each kind between two places, as where its content begins and ends."""
    boxes: dict[bytes, tuple[int, int]] = {}
    at = start
    for _ in range(MOST_STEPS):
        if at + 8 > end:
            break
        size, kind = struct.unpack(">I4s", source.get(at, 8))
        content = at + 8
        if size == 1:
            size, content = struct.unpack(">Q", source.get(at + 8, 8))[0], at + 16
        stop = end if size == 0 else at + size
        if stop < content or stop > source.size:
            raise TagError("it is cut short or damaged")
        boxes.setdefault(kind, (content, stop))
        at = stop
    return boxes


def _iso(source: FileParts) -> Found:
    """HEIC, AVIF: boxes; the EXIF is an item whose place a table says."""
    top = _boxes(source, 0, source.size) if source.size <= HEAD_BYTES else _boxes_until(source, b"meta")
    if b"meta" not in top:
        tags = (_boxed(source, *top[b"moov"]) if b"moov" in top else {}) or _scanned(source)
        return tags, _whole(tags.get("wide")), _whole(tags.get("high"))
    start, end = top[b"meta"]
    inside = _boxes(source, start + 4, end)
    wide, high = _shown_size(source, inside)
    place = _exif_place(source, inside)
    if place is None:
        return {}, wide, high
    skip = struct.unpack(">I", source.get(place, 4))[0]
    return _tags_at(source, place + 4 + skip), wide, high


def _boxed(source: FileParts, start: int, end: int) -> Tags:
    """The blocks of EXIF that stand as boxes of their own in a file of raw values, one level down where a box has a
    name of sixteen bytes.
    """
    tags: Tags = {}
    waiting, blocks = [(start, end)], 0
    while waiting:
        at, stop = waiting.pop(0)
        for _ in range(64):
            if at + 16 > stop or blocks == 2 * MOST_BLOCKS:
                break
            size, kind = struct.unpack(">I4s", source.get(at, 8))
            if size < 8 or at + size > stop:
                break
            if BLOCK.match(source.get(at + 8, 8)):
                tags, blocks = {**_tags_at(source, at + 8), **tags}, blocks + 1
            elif kind == b"uuid" and len(waiting) < MOST_BLOCKS:
                waiting.append((at + 24, at + size))
            at += size
    return tags


def _boxes_until(source: FileParts, wanted: bytes) -> dict[bytes, tuple[int, int]]:
    at = 0
    for _ in range(64):
        if at + 8 > source.size:
            return {}
        size, kind = struct.unpack(">I4s", source.get(at, 8))
        content = at + 8
        if size == 1:
            size, content = struct.unpack(">Q", source.get(at + 8, 8))[0], at + 16
        if kind == wanted or kind == b"moov":
            return {kind: (content, min(at + size, source.size))}
        if size < 8:
            return {}
        at += size
    return {}


def _shown_size(source: FileParts, inside: dict[bytes, tuple[int, int]]) -> tuple[int | None, int | None]:
    """The largest picture that the properties speak of: the parts of a tiled one are smaller."""
    if b"iprp" not in inside:
        return None, None
    properties = _boxes(source, *inside[b"iprp"]).get(b"ipco")
    if properties is None:
        return None, None
    best: tuple[int | None, int | None] = (None, None)
    at = properties[0]
    for _ in range(256):
        if at + 8 > properties[1]:
            break
        size, kind = struct.unpack(">I4s", source.get(at, 8))
        if kind == b"ispe":
            wide, high = struct.unpack(">II", source.get(at + 12, 8))
            if wide * high > (best[0] or 0) * (best[1] or 0):
                best = wide, high
        if size < 8:
            break
        at += size
    return best


def _exif_place(source: FileParts, inside: dict[bytes, tuple[int, int]]) -> int | None:
    """Where the item of the kind Exif begins."""
    if b"iinf" not in inside or b"iloc" not in inside:
        return None
    at, end = inside[b"iinf"]
    long_count = source.get(at, 1)[0] != 0
    at += 8 if long_count else 6
    wanted = None
    for _ in range(256):
        if at + 20 > end:
            break
        size = struct.unpack(">I", source.get(at, 4))[0]
        version = source.get(at + 8, 1)[0]
        if version >= 2:
            wide_id = version > 2
            number = int.from_bytes(source.get(at + 12, 4 if wide_id else 2), "big")
            if source.get(at + (18 if wide_id else 16), 4) == b"Exif":
                wanted = number
                break
        if size < 8:
            break
        at += size
    return None if wanted is None else _item_place(source, inside[b"iloc"][0], wanted)


def _item_place(source: FileParts, at: int, wanted: int) -> int | None:
    version = source.get(at, 1)[0]
    sizes = source.get(at + 4, 2)
    offset_size, length_size, base_size = sizes[0] >> 4, sizes[0] & 15, sizes[1] >> 4
    index_size = sizes[1] & 15 if version in (1, 2) else 0
    wide = 4 if version == 2 else 2
    count, at = int.from_bytes(source.get(at + 6, wide), "big"), at + 6 + wide
    for _ in range(min(count, 512)):
        number, at = int.from_bytes(source.get(at, wide), "big"), at + wide
        method = 0
        if version in (1, 2):
            method, at = source.get(at, 2)[1] & 15, at + 2
        at += 2
        base, at = int.from_bytes(source.get(at, base_size), "big"), at + base_size
        extents, at = int.from_bytes(source.get(at, 2), "big"), at + 2
        if number == wanted:
            if method != 0 or extents < 1:
                return None
            return base + int.from_bytes(source.get(at + index_size, offset_size), "big")
        at += extents * (index_size + offset_size + length_size)
    return None


def _scanned(source: FileParts) -> Tags:
    """The EXIF blocks that stand somewhere in the head, as in files of raw values that hold a preview."""
    start, held = source.parts[0]
    if start != 0:
        return {}
    tags: Tags = {}
    blocks = 0
    for met in islice(BLOCK.finditer(held, 1, SCANNED_BYTES), MOST_TRIED):
        try:
            own_tags = read_tags(source, met.start())
        except (TagError, MissingError):
            continue
        tags, blocks = {**own_tags, **tags}, blocks + 1
        if blocks == MOST_BLOCKS:
            break
    source.wanted.clear()
    return tags


KINDS: tuple[tuple[str, Callable[[bytes], bool], Callable[[FileParts], Found]], ...] = (
    ("JPEG", lambda start: start[:3] == b"\xff\xd8\xff", _jpeg),
    ("PNG", lambda start: start[:8] == b"\x89PNG\r\n\x1a\n", _png),
    ("WebP", lambda start: start[:4] == b"RIFF" and start[8:12] == b"WEBP", _webp),
    ("HEIC", lambda start: start[4:8] == b"ftyp", _iso),
    ("TIFF", lambda start: start[:2] in (b"II", b"MM"), _tiff),
)
"""The kinds of file by how they begin."""
