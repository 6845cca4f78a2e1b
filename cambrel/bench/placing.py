"""Where the things of a bench's scene stand, as the form for arranging shows it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import isfinite

from cambrel.comparison.bench import MOST_CHANGES, Bench, LayerChange
from cambrel.scenes import Scene
from cambrel.wording import Units, distance_number


@dataclass(frozen=True)
class Placed:
    """A thing of the scene: where it stands, in figures and as text, and whether it was moved."""

    index: int
    name: str
    place: tuple[float, float, float]
    behind: str
    across: str
    scale: str
    is_changed: bool


def placed(bench: Bench, units: Units, place: Scene) -> list[Placed]:
    """Every thing of the bench's scene, where it stands now."""
    changed = {change.layer: change for change in bench.changes}
    made = []
    for index, layer in enumerate(place.layers):
        behind, across, scale = layer.behind_m, layer.x_m, 1.0
        if layer.anchor == "background" and isfinite(bench.brief.background_m or 0):
            behind = bench.brief.background_m or behind
        elif layer.anchor == "foreground" and bench.brief.foreground_m is not None:
            behind = -bench.brief.foreground_m
        if change := changed.get(index):
            behind, across, scale = change.behind_m, change.x_m, change.scale
        stands, shown = (behind, across, scale), (distance_number(behind, units), distance_number(across, units))
        made.append(Placed(index, layer.name, stands, *shown, f"{scale:.3g}", index in changed))
    return made


def with_change(bench: Bench, change: LayerChange) -> Bench | None:
    """The bench with a thing moved; None where no more fit into a link."""
    others = tuple(c for c in bench.changes if c.layer != change.layer)
    if len(others) >= MOST_CHANGES:
        return None
    return replace(bench, changes=tuple(sorted((*others, change), key=lambda c: c.layer)))
