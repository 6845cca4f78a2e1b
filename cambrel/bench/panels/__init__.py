"""The panels of the bench. Tabs, number keys, help, addresses and what is shown first all follow from this table."""

from __future__ import annotations

from cambrel.bench import faces
from cambrel.bench.look import LookPart
from cambrel.bench.panels import (
    closeup,
    depth,
    film,
    frames,
    light,
    numbers,
    sharpness,
    size,
    stars,
    steadiness,
    walk,
)
from cambrel.bench.panels.panel import Panel
from cambrel.comparison.brief import Brief

PANELS: dict[str, Panel] = {
    module.PANEL.key: module.PANEL
    for module in (depth, frames, light, sharpness, closeup, stars, steadiness, film, walk, size, numbers)
}


def parts() -> dict[str, LookPart]:
    """All that may be chosen on pictures and in panels, by the keys of the address."""
    return {part.key: part for part in (*faces.PARTS, *(part for panel in PANELS.values() for part in panel.look))}


def panel_of(key: str, brief: Brief, remembered: str = "") -> Panel:
    """The panel of a key; else what the picture calls for, else what the reader looked at last, else the first. Their
    order is always the same.
    """
    called_for = next((panel for panel in PANELS.values() if panel.asks(brief)), None)
    return PANELS.get(key) or called_for or PANELS.get(remembered) or next(iter(PANELS.values()))
