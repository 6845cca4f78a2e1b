"""A panel as one object, and what several of them are made of."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from cambrel.bench.look import Look, LookPart
from cambrel.comparison.bench import Bench
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.scenes import Scene
from cambrel.shelf.own_things import OwnThings
from cambrel.wording import LETTERS


@dataclass(frozen=True)
class PanelView:
    """What a panel looks into: the bench, its comparison, how it is looked at, and what of the reader's shelf may
    serve.
    """

    bench: Bench
    comparison: Comparison
    look: Look
    own: OwnThings
    place: Scene
    """The scene, as whoever reads has it."""


@dataclass(frozen=True)
class Panel:
    """One way to look into a comparison.

    `build` makes the variables of the template; `look` names what may be chosen in it; `asks` says of which pictures it
    is what matters most, so that it is offered first there.
    """

    key: str
    label: str
    template: str
    build: Callable[[PanelView], Mapping[str, Any]]
    look: tuple[LookPart, ...] = ()
    asks: Callable[[Brief], bool] = lambda brief: False


@dataclass(frozen=True)
class TableRow:
    """A rig's row in the table beside a drawing."""

    index: int
    letter: str
    cells: tuple[str, ...]


@dataclass(frozen=True)
class PanelTable:
    caption: str
    heads: tuple[tuple[str, str], ...]
    """What stands above each column, and which figure of `optics.lines` that is, if one is known."""
    rows: tuple[TableRow, ...]


def rig_table(
    caption: str,
    heads: tuple[tuple[str, str], ...],
    comparison: Comparison,
    cells: Callable[[RigFigures], tuple[str, ...]],
) -> PanelTable:
    """A row for every rig. heads: what stands above each column, and the key of the figure that it holds; empty where
    it holds none
    """
    rows = []
    for index in range(len(comparison.rigs)):
        shown = cells(comparison.of(index))
        if len(shown) != len(heads):
            raise ValueError(f"{caption}: {len(shown)} cells under {len(heads)} heads")
        rows.append(TableRow(index, LETTERS[index], shown))
    return PanelTable(caption, heads, tuple(rows))


def letters(bench: Bench) -> list[tuple[int, str]]:
    return [(index, LETTERS[index]) for index in range(len(bench.slots))]
