"""The Depth panel: what is sharp along the scene, and the blur of what is not."""

from __future__ import annotations

from typing import Any

from cambrel import wording
from cambrel.bench.faces import what_dissolves
from cambrel.bench.look import one_of
from cambrel.bench.panels.panel import Panel, PanelView, rig_table
from cambrel.comparison.engine import RigFigures
from cambrel.drawings.depth import Landmarks, depth_drawing
from cambrel.wording import LETTERS


def build(seen: PanelView) -> dict[str, Any]:
    bench, comparison, look = seen.bench, seen.comparison, seen.look
    units = look.units
    names = Landmarks(bench.background_name or "background", bench.foreground_name or "foreground")

    def cells(rig: RigFigures) -> tuple[str, ...]:
        d, b = rig.depth, rig.blur
        return (
            wording.distance(d.near_m, units),
            wording.distance(d.far_m, units),
            wording.distance(d.total_m, units),
            wording.distance(d.hyperfocal_m, units),
            wording.share(b.foreground_share),
            wording.share(b.background_share),
            wording.share(b.infinity_share),
        )

    heads = (
        ("near", "near"),
        ("far", "far"),
        ("depth", "total"),
        ("hyperfocal", "hyperfocal"),
        (f"blur of {names.foreground}", "foreground_share"),
        (f"blur of {names.background}", "background_share"),
        ("blur at infinity", "infinity_share"),
    )
    drawing = depth_drawing(
        comparison, width=look.across, logarithmic=look["scale"] == "log", units=units, landmarks=names
    )
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    return {
        "drawing": drawing,
        "dissolves": [
            (LETTERS[rig.index], said)
            for rig in rigs
            if (said := what_dissolves(bench, comparison, rig, units, seen.place))
        ],
        "table": rig_table(
            "Depth of field from the lens, and blur as share of the frame's diagonal", heads, comparison, cells
        ),
    }


PANEL = Panel("depth", "Depth", "bench/panels/depth.html", build, (one_of("scale", "linear", "log"),))
