"""What no record may hold, refused where it comes in with the reason: texts that cannot be shown, and numbers beyond
all sense.
"""

from collections.abc import Iterator
from math import isfinite
from typing import Any

from cambrel.bounds.names import is_shown, shortened
from cambrel.links.choices import LONGEST_KEPT
from cambrel.shelf.intake.found import FileRecord

SMALLEST, LARGEST = 1e-9, 1e15
DEEPEST = 8
LONGEST_TEXT = LONGEST_KEPT
MOST_PARTS = 2000
"""As deep, long and many as the fullest record that is kept; the schema of each kind says less."""


def refused(found: FileRecord) -> FileRecord:
    """A record as it was read, or, where something in it cannot be kept, its name and the reason."""
    reason = next(_problems(found.row), "")
    if not reason:
        return found
    name = found.row.get("name")
    shown = shortened("".join(c for c in name if is_shown(c))) if isinstance(name, str) else ""
    return FileRecord(found.section, found.line, {"name": shown}, found.reason or reason)


def _problems(value: object, where: str = "", depth: int = 0) -> Iterator[Any]:
    """Why something of a row cannot be kept."""
    if depth > DEEPEST:
        yield f"{where}: nested too deeply"
    elif isinstance(value, dict | list) and len(value) > MOST_PARTS:
        yield f"{where or 'the record'}: more than {MOST_PARTS:,} parts"
    elif isinstance(value, dict):
        for name, part in value.items():
            if not (isinstance(name, str) and is_shown(name)):
                yield "a field's name has characters that cannot be shown"
            else:
                yield from _problems(part, where or name, depth + 1)
    elif isinstance(value, list):
        for part in value:
            yield from _problems(part, where, depth + 1)
    elif isinstance(value, str):
        if not is_shown(value.replace("\n", " ").replace("\t", " ")):
            yield f"{where}: characters that cannot be shown"
        elif len(value) > LONGEST_TEXT:
            yield f"{where}: longer than any text here, {len(value):,} characters"
    elif isinstance(value, int | float) and not isinstance(value, bool):
        if not isfinite(value) or abs(value) > LARGEST:
            yield f"{where}: a number too large to be real"
        elif 0 < abs(value) < SMALLEST:
            yield f"{where}: a number too small to be real"
