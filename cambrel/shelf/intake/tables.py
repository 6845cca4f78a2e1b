"""Tables as CSV: UTF-8 with or without a byte order mark, comma, semicolon or tab, decimal point or comma. Read and
written here.

A table is headed by the fields of the document, as it is written here, or by headings as people write them.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from cambrel.bounds.documents import read_json, table_problem
from cambrel.exports.csv_tables import SEVERAL, Columns, cell, plain, table_lines
from cambrel.owners.sections import SECTIONS, Row, Schema
from cambrel.phrases.typed_figures import decimal
from cambrel.shelf.intake.found import Contents, FileError, FileRecord, Known, counted, decoded
from cambrel.shelf.intake.headings import (
    KIND,
    NATURAL,
    Heading,
    plain_heading,
    section_of_headings,
    section_of_word,
    understood,
)
from cambrel.shelf.intake.natural import record
from cambrel.shelf.resolution import POINTS
from cambrel.shelf.saying import label_of
from cambrel.shelf.widest import read_widest

if TYPE_CHECKING:
    from _csv import Reader

TOLD_BY = (
    ("trials", "sheets"),
    ("focal_35_mm", "logbook"),
    ("answered_at", "answers"),
    ("lens_mount", "adapters"),
    ("focal_min_mm", "lenses"),
    ("factor", "converters"),
    ("payload_g", "supports"),
    ("dioptres", "close_up_aids"),
    ("inner_width_mm", "bags"),
    ("register_mm", "mounts"),
    ("body", "crop_modes"),
    ("bench", "comparisons"),
    ("brief", "briefs"),
    ("choice", "decisions"),
    ("stands_for", "codes"),
    ("bodies", "kits"),
    ("designation", "formats"),
    ("width_mm", "bodies"),
)
"""A column that tells which table it is, the most telling first."""
NO_HEADINGS = (
    "The first line names no known columns. It needs one with the names (lens, body, name, "
    "model) and others such as focal length, max aperture, weight. The page lists them."
)
MOST_COLUMNS = 200
csv.field_size_limit(2 * 1024 * 1024)  # a measured sheet is one cell
YES, NO = {"yes", "true", "1"}, {"no", "false", "0"}


def _split(text: str) -> list[str]:
    """The values of a cell that holds several."""
    (parts,) = csv.reader([text.replace("\n", " ")], delimiter=SEVERAL, skipinitialspace=True)
    return [part.strip() for part in parts if part.strip()]


def _cell(name: str, value: Any) -> str:
    """A value of a record as its column writes it."""
    if name == "widest":
        return "; ".join(f"f/{number!r} at {focal!r}" for focal, number in value) if value else ""
    if name in POINTS and value is not None:
        return str(POINTS[name].write(value, repr))
    return cell(name, value)


def write_table(columns: Columns, rows: Iterable[Row]) -> str:
    """Records as CSV."""
    return "".join(table_lines(columns, rows, _cell))


def read_table(data: bytes, known: Known = Known()) -> Contents:  # noqa: B008
    """The records of a table; its headings say which section it is.

    Raises
        FileError for a text that is no such table
    """
    if problem := table_problem(data, "gear"):
        raise FileError(problem)
    text = decoded(data)
    head = text.split("\n", 1)[0]
    delimiter = max(";,\t", key=head.count)
    try:
        # counted before any is read
        counted(sum(any(row) for row in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)) - 1)
        reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
        columns = [plain(name) for name in next(reader)]
        if len(columns) > MOST_COLUMNS:
            raise FileError(f"A table has at most {MOST_COLUMNS} columns. This one has {len(columns):,}.")
        return _by_fields(columns, reader) or _by_headings(columns, reader, known)
    except csv.Error as error:
        raise FileError(f"The table cannot be read: {error}, line {reader.line_num}.") from None


def _lines(reader: Reader, columns: Sequence[str], refused: list[FileRecord]) -> Iterator[tuple[int, list[str]]]:
    """Rows with their line; one with too many cells is put among the refused."""
    for count, cells in enumerate((row for row in reader if any(text.strip() for text in row)), start=1):
        counted(count)
        while not cells[-1].strip():  # spreadsheets write empty cells to the end of the widest line
            cells.pop()
        if len(cells) > len(columns):
            refused.append(FileRecord("", reader.line_num, {}, "more cells than columns"))
        else:
            yield reader.line_num, [plain(text) for text in cells]


def _by_fields(columns: Sequence[str], reader: Reader) -> Contents | None:
    """A table headed by the fields of one section, or None; strange columns of kinds that people head in no other way
    are left out.
    """
    names = [name.lower() for name in columns]
    section = next((section for name, section in TOLD_BY if name in names), None)
    if section is None or "name" not in names:
        return None
    properties = SECTIONS[section].schema["properties"]
    strange = [name for name in names if name and name not in properties]
    if strange and section in NATURAL:
        return None
    names = ["" if name in strange else name for name in names]
    refused: list[FileRecord] = []
    rows = [
        _record(section, line, dict(zip(names, cells, strict=False)), properties)
        for line, cells in _lines(reader, names, refused)
    ]
    rows += [replace(row, section=section) for row in refused]
    return Contents(sorted(rows, key=lambda row: row.line), unread=strange)


def _by_headings(columns: list[str], reader: Reader, known: Known) -> Contents:
    """A table with headings as people write them."""
    kinds = [index for index, name in enumerate(columns) if plain_heading(name) in KIND]
    usual = section_of_headings(columns)
    if usual is None:
        raise FileError(NO_HEADINGS)
    by_section = {section: understood(section, columns) for section in NATURAL}
    rows: list[FileRecord] = []
    refused: list[FileRecord] = []
    met = {usual}
    for line, cells in _lines(reader, columns, refused):
        said = next((cells[index] for index in kinds if index < len(cells) and cells[index]), "")
        section = section_of_word(said) if said else usual
        if section is None:
            named = _named(by_section[usual], cells)
            refused.append(FileRecord("", line, {"name": named[:60]}, f"“{said[:40]}” is neither a lens nor a body"))
            continue
        met.add(section)
        rows.append(record(section, line, by_section[section], cells, known))
    rows += [replace(row, section=usual) for row in refused]
    contents = Contents(sorted(rows, key=lambda row: row.line))
    for index, text in enumerate(columns):
        meanings = list(
            dict.fromkeys(met_heading.column.usual for section in met if (met_heading := by_section[section][index]))
        )
        if meanings:
            contents.understood.append((text, " or ".join(meanings)))
        elif index in kinds:
            contents.understood.append((text, "lens or body"))
        elif text:
            contents.unread.append(text[:60])
    return contents


def _named(headings: Sequence[Heading | None], cells: Sequence[str]) -> str:
    pairs = zip(headings, cells, strict=False)
    return next((text for heading, text in pairs if heading and heading.column.field == "name"), "")


def _record(section: str, line: int, cells: dict[str, str], properties: Schema) -> FileRecord:
    row: Row = {}
    for name, text in cells.items():
        if not name or not text:
            continue
        try:
            row[name] = _value(name, text, properties[name], row)
        except (ValueError, OverflowError):
            return FileRecord(
                section, line, {"name": cells.get("name", "")[:60]}, f"{label_of(name)}: “{text[:40]}” cannot be read"
            )
    return FileRecord(section, line, row)


def _value(name: str, text: str, kind: Schema, row: Row) -> object:
    if name == "widest":
        return read_widest(text, row.get("focal_min_mm"), row.get("focal_max_mm"))
    if name in POINTS:
        return POINTS[name].read(text)
    types = kind.get("type", "string")
    types = [types] if isinstance(types, str) else types
    if "number" in types:
        return decimal(text)
    if "string" in types:
        return text
    if "integer" in types:
        number = decimal(text)
        return int(number) if number.is_integer() else number
    if "boolean" in types:
        if text.lower() in YES | NO:
            return text.lower() in YES
        raise ValueError(text)
    if "array" in types:
        return _split(text)
    if "object" in types:
        return read_json(text.encode(), "gear")
    return text
