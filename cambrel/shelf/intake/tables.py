"""Tables as CSV: UTF-8 with or without a byte order mark, comma, semicolon or tab, decimal point or comma. Read and written here."""

import csv
import io

from cambrel.fields import parse_number
from cambrel.shelf.forms import read_widest
from cambrel.shelf.intake.documents import schema
from cambrel.shelf.intake.found import FileError, Found, decoded, too_many

FORMULA = ("=", "+", "-", "@", "\t", "\r")
TOLD_BY = (
    ("lens_mount", "adapters"),
    ("focal_min_mm", "lenses"),
    ("factor", "converters"),
    ("register_mm", "mounts"),
    ("body", "crop_modes"),
    ("bench", "comparisons"),
    ("bodies", "kits"),
    ("designation", "formats"),
    ("width_mm", "bodies"),
)
"""A column that tells which table it is, the most telling first."""
YES, NO = {"yes", "true", "1"}, {"no", "false", "0"}
SEVERAL = "; "


def neutral(text):
    """A cell that no spreadsheet takes for a formula."""
    return f"'{text}" if text.startswith(FORMULA) else text


def plain(text):
    """A cell without the mark of `neutral`."""
    text = text.strip()
    return text[1:] if text.startswith("'") and text[1:].startswith(FORMULA) else text


def _cell(name, value):
    if value is None:
        return ""
    if name == "widest":
        return SEVERAL.join(f"f/{number!r} at {focal!r}" for focal, number in value) if value else ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list):
        return SEVERAL.join(map(str, value))
    return repr(value) if isinstance(value, float) else str(value)


def write_table(columns, rows):
    """Rows as CSV with a byte order mark, which spreadsheets need to read UTF-8."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(columns)
    for row in rows:
        writer.writerow([neutral(_cell(name, row.get(name))) for name in columns])
    return "\ufeff" + out.getvalue()


def read_table(data):
    """The records of a table; its columns say which section it is.

    Raises
        FileError for a text that is no such table
    """
    text = decoded(data)
    head = text.split("\n", 1)[0]
    delimiter = max(";,\t", key=head.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
    found = []
    try:
        columns = [plain(name).lower() for name in next(reader)]
        section = next((section for name, section in TOLD_BY if name in columns), None)
        if section is None or "name" not in columns:
            raise FileError("The first line names no columns that are known here; see docs/open-formats.md.")
        properties = schema()["$defs"][section]["properties"]
        strange = [name for name in columns if name and name not in properties]
        if strange:
            raise FileError(f"A column is not known here: {strange[0][:40]}.")
        for cells in reader:
            if not any(cells):
                continue
            too_many(len(found) + 1)
            if len(cells) > len(columns):
                found.append(Found(section, reader.line_num, {}, "more cells than columns"))
                continue
            found.append(_record(section, reader.line_num, dict(zip(columns, cells, strict=False)), properties))
    except csv.Error as error:
        raise FileError(f"The table cannot be read: {error}, line {reader.line_num}.") from None
    return found


def _record(section, line, cells, properties):
    row = {}
    for name, cell in cells.items():
        text = plain(cell)
        if not name or not text:
            continue
        try:
            row[name] = _value(name, text, properties[name], row)
        except (ValueError, OverflowError):
            return Found(section, line, {"name": cells.get("name", "")[:60]}, f"{name}: “{text[:40]}” cannot be read")
    return Found(section, line, row)


def _value(name, text, kind, row):
    if name == "widest":
        return read_widest(text, row.get("focal_min_mm"), row.get("focal_max_mm"))
    types = kind.get("type", "string")
    types = [types] if isinstance(types, str) else types
    if "number" in types:
        return parse_number(text)
    if "integer" in types:
        number = parse_number(text)
        return int(number) if number.is_integer() else number
    if "boolean" in types:
        if text.lower() in YES | NO:
            return text.lower() in YES
        raise ValueError(text)
    if "array" in types:
        return [part.strip() for part in text.split(SEVERAL.strip()) if part.strip()]
    return text
