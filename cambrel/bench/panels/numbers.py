"""The Numbers panel: every figure of every rig, with its exact value, ordered on demand and written out as CSV."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass, replace
from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.look import line
from cambrel.bench.panels.panel import Panel, PanelView
from cambrel.comparison.bench import Bench
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.lines import LINES, FigureLine
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.wording import LETTERS, Units

AREA = "mm²"


@dataclass(frozen=True)
class NumberCell:
    text: str
    exact: str
    is_first: bool = False
    """Whether it is the first of the figure by which the cameras are ordered."""


@dataclass(frozen=True)
class ShownLine:
    """A row as shown: its cells in the order of the rigs, and the group's name where a group begins."""

    key: str
    label: str
    group: str
    cells: tuple[NumberCell, ...]
    sort: str = ""


@dataclass(frozen=True)
class NumbersTable:
    heads: tuple[tuple[int, str, str], ...]
    lines: tuple[ShownLine, ...]


def ordered(comparison: Comparison, sort: str) -> list[RigFigures]:
    """The rigs as they stand, or by one figure: its key, with a minus in front for the largest first; unknown ones
    last.
    """
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    row = LINES.get(sort.removeprefix("-"))
    if row is None:
        return rigs
    sign = -1 if sort.startswith("-") else 1

    def by_figure(rig: RigFigures) -> tuple[bool, float]:
        value = row.read(rig)
        return (is_unknown(value), 0.0 if is_unknown(value) else sign * value)

    return sorted(rigs, key=by_figure)


def numbers_table(bench: Bench, comparison: Comparison, sort: str, units: Units) -> NumbersTable:
    """All figures, rigs across."""
    rigs = ordered(comparison, sort)
    heads = tuple((rig.index, LETTERS[rig.index], bench.slots[rig.index].body_called) for rig in rigs)
    lines, group = [], ""
    for row in LINES.values():
        cells = tuple(_cell(bench, row, rig, units) for rig in rigs)
        if sort.removeprefix("-") == row.key and not is_unknown(row.read(rigs[0])):
            cells = (replace(cells[0], is_first=True), *cells[1:])
        direction = "ascending" if sort == row.key else "descending" if sort == "-" + row.key else ""
        lines.append(ShownLine(row.key, row.label, row.group if row.group != group else "", cells, direction))
        group = row.group
    return NumbersTable(heads, tuple(lines))


def _cell(bench: Bench, row: FigureLine, rig: RigFigures, units: Units) -> NumberCell:
    value = row.read(rig)
    if row.key == "price":
        return NumberCell(wording.money(value, rig.rig.body.currency if isfinite(value) else ""), wording.exact(value))
    shown = wording.figure(Figure(value, row.kind), units)
    if row.unit == AREA:
        shown += wording.NBSP + AREA
    return NumberCell(shown, f"{wording.exact(value)} {row.unit}".strip())


def numbers_csv(bench: Bench, comparison: Comparison) -> str:
    """All figures at full precision, one row for each figure and one column for each rig."""
    out = io.StringIO()
    writer = csv.writer(out)
    heads = [f"{LETTERS[i]} {slot.body_called}, {slot.lens_name}".strip(" ,") for i, slot in enumerate(bench.slots)]
    # each begins with its letter, so that no spreadsheet takes a name for a formula
    writer.writerow(["group", "figure", "unit", *heads])
    for row in LINES.values():
        values = (row.read(comparison.of(index)) for index in range(len(bench.slots)))
        writer.writerow(
            [row.group, row.label, row.unit, *("" if is_unknown(value) else repr(float(value)) for value in values)]
        )
    return out.getvalue()


def numbers_document(bench: Bench, comparison: Comparison) -> dict[str, Any]:
    """The same for scripts and other sites: every figure of every camera, null where it is unknown or has no end."""
    rigs = range(len(bench.slots))
    return {
        "version": 1,
        "cameras": [
            {"letter": LETTERS[index], "body": slot.body_called, "lens": slot.lens_name}
            for index, slot in enumerate(bench.slots)
        ],
        "kept_the_same": bench.hold.sentence(),
        "figures": [
            {
                "group": row.group,
                "name": row.label,
                "unit": row.unit,
                "values": [_finite(row.read(comparison.of(index))) for index in rigs],
            }
            for row in LINES.values()
        ],
    }


def _finite(value: float) -> float | None:
    return float(value) if isfinite(value) else None


def build(seen: PanelView) -> dict[str, Any]:
    bench, comparison, look = seen.bench, seen.comparison, seen.look
    return {"numbers": numbers_table(bench, comparison, look["sort"], look.units)}


PANEL = Panel("numbers", "Numbers", "bench/panels/numbers.html", build, (line("sort"),))
