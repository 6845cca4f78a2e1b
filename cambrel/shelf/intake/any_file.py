"""The way in for every file: its kind is told by its content."""

from cambrel.shelf.intake.door import refused
from cambrel.shelf.intake.found import MOST_BYTES, Contents, FileError, Known
from cambrel.shelf.intake.lens_xml import read_lens_xml
from cambrel.shelf.intake.shelf_documents import read_document
from cambrel.shelf.intake.tables import read_table

PICTURES = (b"\xff\xd8\xff", b"\x89PNG", b"GIF8", b"II*\x00", b"MM\x00*")
PACKED = (b"PK\x03\x04", b"\x1f\x8b", b"BZh", b"\xfd7zXZ", b"7z\xbc\xaf", b"Rar!")


def is_picture(data: bytes) -> bool:
    """Whether a file begins as pictures do: JPEG, PNG, GIF, TIFF and most raw files, WebP, HEIF."""
    return data.startswith(PICTURES) or data[8:12] == b"WEBP" or data[4:8] == b"ftyp"


def read_file(name: str, data: bytes, known: Known = Known()) -> Contents:  # noqa: B008
    """What one file holds.

    Raises
        FileError for a file that is too large, packed, or of no kind that is read
    """
    if len(data) > MOST_BYTES:
        raise FileError(f"“{name}” is larger than 20 MB. Bring it in in parts.")
    if data.startswith(PACKED):
        raise FileError(f"“{name}” is packed. Unpack it first. Only plain files are read.")
    if is_picture(data):
        raise FileError(f"“{name}” is a picture. Here lists of gear are read: tables, documents, lens databases.")
    start = data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1]
    if not start:
        raise FileError(f"“{name}” is empty.")
    if start == b"{":
        contents = Contents(read_document(data), scope=name)
    elif start == b"<":
        contents = read_lens_xml(data, known)
    else:
        contents = read_table(data, known)
    contents.found = [refused(row) for row in contents.found]
    if not contents.found:
        contents.notes.append("It holds no records.")
    return contents
