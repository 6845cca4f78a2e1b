"""The Aperture walk: one rig through all its stops, the others following as held."""

from __future__ import annotations

from dataclasses import dataclass
from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.look import camera, switch
from cambrel.bench.panels.panel import Panel, PanelView, letters
from cambrel.comparison.engine import compare
from cambrel.comparison.reference import make_reference
from cambrel.drawings.walk import walk_drawing
from cambrel.optics.stops import F_NUMBERS, between
from cambrel.wording import LETTERS

WIDEST_WALKED = 1.0
"""Where the walk of a lens begins whose widest f-number is not known."""


@dataclass(frozen=True)
class WalkStop:
    """A stop of the walk, with each rig's depth and blur for the table."""

    label: str
    action: str
    present: bool
    cells: tuple[str, ...]


def build(seen: PanelView) -> dict[str, Any]:
    bench, comparison, look = seen.bench, seen.comparison, seen.look
    walked = bench.reference if look["walk"] < 0 else look["walk"]
    settings = comparison.of(walked).settings
    if not settings.focusable:
        return {
            "walked": walked,
            "letters": letters(bench),
            "problem": f"{LETTERS[walked]} cannot focus there, so there is nothing to walk through.",
        }
    brief, rigs, hold = make_reference(comparison, walked)
    carrier = comparison.carrier(walked)
    smallest, converter = carrier.lens.smallest_f_number or 22.0, carrier.converter
    widest = settings.widest_f_number if isfinite(settings.widest_f_number) else min(WIDEST_WALKED, settings.f_number)
    low, high = widest / converter, max(smallest, widest / converter)
    marks = [stop for stop in between(F_NUMBERS, low, high) if stop.typed >= low * 0.999] or [
        between(F_NUMBERS, low / 1.1, high * 1.1)[0]
    ]
    f_numbers = [stop.typed for stop in marks]
    values = [number * converter for number in f_numbers]
    walk = compare(brief, rigs, hold, comparison.conventions, walked, walked_f_numbers=values)
    present = settings.f_number
    nearest = min(range(len(values)), key=lambda index: abs(values[index] / present - 1))
    stops = []
    for index, stop in enumerate(marks):
        cells = []
        for rig in range(len(rigs)) if look["walk_table"] else ():
            cells.append(wording.distance(float(walk.depth.total_m[index, rig]), look.units))
            cells.append(wording.share(float(walk.blur.background_share[index, rig])))
        stops.append(WalkStop(f"f/{stop.marked}", f"stop:{walked}:{stop.typed}", index == nearest, tuple(cells)))
    return {
        "drawing": walk_drawing(walk, values, present, width=look.across, height=292, units=look.units)
        if len(values) > 1
        else None,
        "problem": ""
        if len(values) > 1
        else f"{LETTERS[walked]} has one aperture only, f/{marks[0].marked}: there is nothing to walk through.",
        "stops": stops,
        "walked": walked,
        "letters": letters(bench),
    }


PANEL = Panel("walk", "Aperture walk", "bench/panels/walk.html", build, (camera("walk"), switch("walk_table")))
