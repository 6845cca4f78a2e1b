"""A row of a table with headings as people write them, made into a record: every cell is read by what its heading
stands for.
"""

from __future__ import annotations

from collections.abc import Callable

from cambrel.owners.sections import Row
from cambrel.phrases.typed_figures import DoubtfulError
from cambrel.shelf import cells
from cambrel.shelf.intake.found import FileRecord, Known
from cambrel.shelf.intake.headings import Heading
from cambrel.shelf.naming import filled_from_name
from cambrel.shelf.table import BY_KEY

LONGEST_CELL = 300


class RowError(ValueError):
    """A row that makes no record; the message is for the reader."""


def _unread(heading: str, text: str) -> RowError:
    return RowError(f"{heading}: “{text[:40]}” cannot be read")


def _read(field: str, text: str, unit: str) -> dict[str, object]:
    """What a cell says, as fields of the record; some say several."""
    if field in TOGETHER:
        return TOGETHER[field](text, unit)
    if field == "price":
        return cells.price(text, unit)
    return {field: BY_KEY[field].sort.cell(text, unit) if field in BY_KEY and field not in LATER else text.strip()}


TOGETHER: dict[str, Callable[[str, str], dict[str, object]]] = {
    "focal": cells.focal,
    "iso": lambda text, unit: cells.iso_range(text),
}
"""Columns that fill several fields."""
LATER = {"format", "megapixels", "widest", "designed_for"}
"""Cells that are read together with others of their row."""
SENSOR = ("format", "size", "crop", "megapixels")


def record(section: str, line: int, headings: list[Heading | None], texts: list[str], known: Known) -> FileRecord:
    """A row of a table as a record of the section, or with the reason why it cannot be one."""
    said: dict[str, object] = {}
    name = next(
        (
            text
            for column_heading, text in zip(headings, texts, strict=False)
            if column_heading and column_heading.column.field == "name"
        ),
        "",
    )
    try:
        for column_heading, text in zip(headings, texts, strict=False):
            if column_heading is None or text.strip().lower() in cells.EMPTY:
                continue
            try:
                if len(text) > LONGEST_CELL:
                    raise ValueError(text)
                said |= _read(column_heading.column.field, text, column_heading.unit)
            except DoubtfulError as doubt:
                raise RowError(f"{column_heading.text}: {doubt}") from None
            except (ValueError, OverflowError):
                raise _unread(column_heading.text, text) from None
        row = _lens(said, known) if section == "lenses" else _body(said, known)
    except RowError as error:
        return FileRecord(section, line, {"name": name[:60]}, str(error))
    if "price" in row and not row.get("currency") and known.currency:
        row["currency"] = known.currency
    return FileRecord(section, line, row)


def _named(said: Row) -> Row:
    """With the maker before the name, where it does not stand there."""
    maker, name = said.pop("maker", ""), said.get("name", "")
    if maker and name and not name.lower().startswith(maker.lower()):
        said["name"] = f"{maker} {name}"
    if "currency" in said:
        said["currency"] = said["currency"].upper()
    return said


def _lens(said: dict[str, object], known: Known) -> dict[str, object]:
    row = _named(dict(said))
    widest, designed_for = row.pop("widest", ""), row.pop("designed_for", "")
    if widest:
        filled = row if "focal_min_mm" in row else filled_from_name(row, known.codes)
        try:
            row = filled | cells.widest(widest, filled.get("focal_min_mm"), filled.get("focal_max_mm"))
            row["inferred"] = [name for name in row.get("inferred", []) if name != "widest"]
        except ValueError:
            raise _unread("max aperture", widest) from None
        if not row["inferred"]:
            del row["inferred"]
    if designed_for:
        try:
            named = cells.named_format(designed_for, known.formats)
        except ValueError:
            raise _unread("designed for", designed_for) from None
        if isinstance(named, str):
            row["designed_for"] = named
        else:
            row["image_circle_mm"] = (named[0] ** 2 + named[1] ** 2) ** 0.5
    row = dict(filled_from_name(row, known.codes))
    if "focal_min_mm" not in row and row.get("name"):
        raise RowError("no focal length, neither in a column nor in the name")
    return row


def _body(said: dict[str, object], known: Known) -> dict[str, object]:
    row = _named(dict(said))
    sizes = {name: row.pop(name) for name in SENSOR if name in row}
    try:
        if "size" in sizes:
            row |= cells.size(sizes.pop("size"))
        if sizes or "width_mm" in row:
            row |= {
                name: value for name, value in cells.sensor({**sizes, **row}, known.formats).items() if name not in row
            }
    except ValueError:
        raise _unread("sensor", ", ".join(sizes.values())) from None
    return row
