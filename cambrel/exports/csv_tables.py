"""Tables as files: CSV that spreadsheets read, whose cells no spreadsheet takes for a formula."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Any

FORMULA = ("=", "+", "-", "@", "\t", "\r")
SEVERAL = ";"
Columns = Sequence[str] | Mapping[str, str]


def _is_marked(text: str) -> bool:
    return text.lstrip("'").startswith(FORMULA)


def neutral(text: str) -> str:
    """A cell that no spreadsheet takes for a formula; `plain` gives back what was written, quotes before it
    included.
    """
    return f"'{text}" if _is_marked(text) else text


def plain(text: str) -> str:
    """A cell without the mark of `neutral`."""
    text = text.strip()
    return text[1:] if text.startswith("'") and _is_marked(text) else text


def _joined(parts: Iterable[str]) -> str:
    """Several values in one cell; one that holds the sign between them stands in quotes."""
    out = io.StringIO()
    csv.writer(out, delimiter=SEVERAL, lineterminator="").writerow(parts)
    return out.getvalue()


def cell(name: str, value: object) -> str:
    """A value as it stands in a cell: exact numbers, yes and no, several values behind each other."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list):
        return _joined(map(str, value))
    if isinstance(value, dict):
        return json.dumps(value, ensure_ascii=False)
    return repr(value) if isinstance(value, float) else str(value)


def table_lines(
    columns: Columns, rows: Iterable[Mapping[str, Any]], written: Callable[[str, Any], str] = cell
) -> Iterator[str]:
    """Rows as lines of CSV with a byte order mark, which spreadsheets need to read UTF-8.

    Parameters
        columns: keys of the rows, each its own heading, or a mapping of keys to headings
        written: a value as it stands in the cell of a key
    """
    out = io.StringIO()
    writer = csv.writer(out)
    out.write("\ufeff")
    writer.writerow([neutral(columns[name] if isinstance(columns, Mapping) else name) for name in columns])
    for row in rows:
        yield out.getvalue()
        out.seek(0)
        out.truncate()
        writer.writerow([neutral(written(name, row.get(name))) for name in columns])
    yield out.getvalue()
