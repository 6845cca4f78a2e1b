"""What a file holds, whatever its kind: rows with their place, or the reason why one cannot be read."""

from dataclasses import dataclass
from typing import Any

MOST_BYTES = 20 * 1024 * 1024
MOST_ROWS = 25_000
PACKED = (b"PK\x03\x04", b"\x1f\x8b", b"BZh", b"\xfd7zXZ", b"7z\xbc\xaf", b"Rar!")


class FileError(ValueError):
    """A file that cannot be read at all; the message is for the reader of the page."""


@dataclass(frozen=True)
class Found:
    """A record of a file. line: where it stands (for JSON, the number of the record in its section); reason: why it is refused, if it is."""

    section: str
    line: int
    row: dict[str, Any]
    reason: str = ""


def read_file(name: str, data: bytes) -> list[Found]:
    """The records of one file, told by its content.

    Raises
        FileError for a file that is too large, packed, or of no kind that is read
    """
    # each reader knows this module, so they are imported when one is wanted
    from cambrel.shelf.intake.documents import read_document
    from cambrel.shelf.intake.lens_xml import read_lens_xml
    from cambrel.shelf.intake.tables import read_table

    if len(data) > MOST_BYTES:
        raise FileError(f"“{name}” is larger than 20 MB; bring it in in parts.")
    if data.startswith(PACKED):
        raise FileError(f"“{name}” is packed. Unpack it first; only plain files are read.")
    start = data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1]
    if not start:
        raise FileError(f"“{name}” is empty.")
    reader = {b"{": read_document, b"<": read_lens_xml}.get(start, read_table)
    found = reader(data)
    if not found:
        raise FileError(f"“{name}” holds no records.")
    return found


def too_many(count: int) -> None:
    if count > MOST_ROWS:
        raise FileError(f"At most {MOST_ROWS:,} records are read at a time; bring them in in parts.")


def decoded(data: bytes) -> str:
    """Text in UTF-8, with or without a byte order mark."""
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FileError(f"The file is not in UTF-8 (byte {error.start}). Save it as UTF-8 and try again.") from None
