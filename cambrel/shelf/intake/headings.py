"""The headings of tables as people write them: what each stands for, in which unit, and which kind of gear a table
lists.
"""

from __future__ import annotations

import json
import re
from dataclasses import dataclass
from pathlib import Path

from cambrel.shelf.cells import UNITS


@dataclass(frozen=True)
class TableColumn:
    """A column of a table. field: the field of a record that it fills, or one of the readings below; usual: how it is
    headed in a template;
    also: other headings; unit: in which a bare number is taken; example: a cell."""

    field: str
    usual: str
    also: tuple[str, ...] = ()
    unit: str = ""
    example: str = ""
    says: str = ""


def _columns() -> dict[str, tuple[TableColumn, ...]]:
    known = json.loads((Path(__file__).parent / "headings.json").read_text())
    both = known.pop("both")
    return {
        section: tuple(TableColumn(**{**column, "also": tuple(column.get("also", ()))}) for column in [*own, *both])
        for section, own in known.items()
    }


NATURAL = _columns()
"""The columns of the tables that people write themselves, by section; the first names the records."""
LONGEST = 80
KIND = ("kind", "type", "category", "gear type", "class")
"""Headings of a column that says of each row what it is."""
KIND_WORDS = {
    "lenses": ("lens", "lenses", "objective", "prime", "zoom", "glass"),
    "bodies": ("body", "bodies", "camera", "cameras", "phone", "smartphone", "compact"),
}


@dataclass(frozen=True)
class Heading:
    """A heading of a file and what it was taken for."""

    text: str
    column: TableColumn
    unit: str


def plain_heading(text: str) -> str:
    return " ".join(text.replace("_", " ").replace(".", " ").strip(" :*#").lower().split())


_IN_UNIT = re.compile(r"\s*(?:[(\[,/]\s*(?:in\s+)?|\sin\s+|\s)([a-z%µ]+|[€£$])\s*[)\]]?$", re.IGNORECASE)


def _spellings(columns: tuple[TableColumn, ...]) -> dict[str, TableColumn]:
    found: dict[str, TableColumn] = {}
    for column in columns:
        for spelling in (column.usual, *column.also, column.field):
            found.setdefault(plain_heading(spelling), column)
    return found


_SPELLINGS = {section: _spellings(columns) for section, columns in NATURAL.items()}


def heading(section: str, text: str) -> Heading | None:
    """What a heading stands for in a table of that section, with the unit that it names; None where it is not
    understood.
    """
    if len(text) > LONGEST:
        return None
    words = plain_heading(text)
    spellings = _SPELLINGS[section]
    if words in spellings:
        return Heading(text, spellings[words], spellings[words].unit)
    named = _IN_UNIT.search(words)
    if named and words[: named.start()] in spellings:
        column, unit = spellings[words[: named.start()]], named[1]
        if unit in UNITS.get(column.unit, ()) or column.field == "price":
            return Heading(text, column, unit)
    return None


def understood(section: str, texts: list[str]) -> list[Heading | None]:
    """Every heading of a table; of two that stand for the same the first is taken."""
    taken, columns = set(), []
    for text in texts:
        column_heading = heading(section, text) if text.strip() else None
        if column_heading is not None and column_heading.column.field in taken:
            column_heading = None
        if column_heading is not None:
            taken.add(column_heading.column.field)
        columns.append(column_heading)
    return columns


def section_of_word(text: str) -> str | None:
    """The section that a cell of a kind column names."""
    words = set(re.findall(r"[a-z]+", text.lower()))
    return next((section for section, known in KIND_WORDS.items() if words & set(known)), None)


def section_of_headings(texts: list[str]) -> str | None:
    """What a table lists, by its headings: the section that understands most of them, where they name the records."""
    counts = {}
    for section in NATURAL:
        columns = [column for column in understood(section, texts) if column is not None]
        if any(column_heading.column.field == "name" for column_heading in columns):
            # "lens" or "body" over the names says it outright
            said = any(
                plain_heading(column_heading.text).split()[0] == NATURAL[section][0].usual
                for column_heading in columns
                if column_heading.column.field == "name"
            )
            counts[section] = len(columns) + 3 * said
    return max(counts, key=lambda section: counts[section]) if counts else None
