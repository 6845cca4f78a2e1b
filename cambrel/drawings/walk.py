"""The aperture walk: depth, blur, light and diffraction against the f-number of one rig, the others following under the
hold.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from itertools import compress
from math import ceil, isfinite, log2

import numpy as np

from cambrel.comparison.engine import Comparison
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Drawing, Label, Line, Path, Rect, Shape, place_label, rig_role, spread
from cambrel.optics.quantities import Array
from cambrel.wording import LETTERS, METRES, Units, distance, f_number, share, significant

LETTER = 12.0
STOP_WIDE = 20.0
"""So wide a stop is written, so that not all are tried where there is no room."""


@dataclass(frozen=True)
class WalkChart:
    """One quantity along the walk: how it is read off the comparison, and how its ticks are written."""

    title: str
    values: Callable[[Comparison], Array]
    logarithmic: bool
    tick: Callable[[float, Units], str]


CHARTS = (
    WalkChart("depth of field", lambda c: c.depth.total_m, True, lambda v, units: distance(v, units, 1)),
    WalkChart("background blur, share of the frame", lambda c: c.blur.background_share, True, lambda v, _: share(v)),
    WalkChart("whole light, stops against the widest", lambda c: _light(c), False, lambda v, _: significant(v)),
    WalkChart(
        "diffraction over circle of confusion", lambda c: c.diffraction.over_coc, True, lambda v, _: significant(v)
    ),
)


def _light(walk: Comparison) -> Array:
    """Total light of each rig against the reference at the first stop, in stops."""
    collected: Array = walk.light.exposure_lux_s * walk.frames.area_mm2
    stops: Array = np.log2(collected / collected[0, walk.reference])
    return stops


def walk_drawing(
    walk: Comparison,
    f_numbers: list[float],
    present: float,
    *,
    width: float = 660.0,
    height: float = 300.0,
    units: Units = METRES,
) -> Drawing:
    """Four small charts over the same stops, with the present stop marked in each.

    Parameters
        walk: a comparison with the walked f-numbers along the first axis
        f_numbers: those
        present: the one that is set
        width, height: [px]
        units: of the reader
    Returns
        shapes, a title and a description
    """
    across = 4 if width > 1000 else 2 if width > 480 else 1
    down = len(CHARTS) // across
    height *= {4: 0.66, 2: 1.0, 1: 1.7}[across]
    wide, high = width / across, height / down
    shapes: list[Shape] = []
    for index, chart in enumerate(CHARTS):
        window = Rect((index % across) * wide + 40, (index // across) * high + 20, wide - 66, high - 40)
        shapes += _chart(chart, walk, f_numbers, present, window, units)
    letter = LETTERS[walk.reference]
    says = f"{letter} from {f_number(f_numbers[0])} to {f_number(f_numbers[-1])}: {_says(walk)}."
    return Drawing(width, height, tuple(shapes), f"Aperture walk of {letter}", says)


def _says(walk: Comparison) -> str:
    parts = []
    for index in range(len(walk.rigs)):
        depths = walk.depth.total_m[:, index]
        if isfinite(depths[0]):
            parts.append(
                f"depth of field of {LETTERS[index]} goes from {distance(depths[0])} to {distance(depths[-1])}"
            )
    return "; ".join(parts) or "no depth is known"


def _chart(
    chart: WalkChart, walk: Comparison, f_numbers: list[float], present: float, window: Rect, units: Units
) -> list[Shape]:
    shapes: list[Shape] = [Label(window.x - 34, window.y - 8, chart.title, "label", size=11.5)]
    values = chart.values(walk)
    shown = np.isfinite(values) & ((values > 0) | (not chart.logarithmic))
    known = values[shown]
    bottom = window.y + window.height
    if not known.size:
        return [*shapes, Label(window.x + 4, window.y + 20, "not known", "label", size=12)]
    low, high = float(known.min()), float(known.max())
    if chart.logarithmic:
        low, high = low / 1.15, high * 1.15
    else:
        low, high = low - 0.5, high + 0.5
    along = PixelScale(
        2 * log2(f_numbers[0]), 2 * log2(f_numbers[-1]) + 1e-9, window.x + 4, window.x + window.width - 4
    )
    up = PixelScale(low, high, bottom - 2, window.y + 2, chart.logarithmic)
    places = [along(2 * log2(n)) for n in f_numbers]
    shapes += _grid(chart, places, up, window, f_numbers, units)
    x = along(2 * log2(present))
    shapes.append(Line(x, window.y, x, bottom, "present"))
    ys: list[list[float]] = up.each(np.where(shown, values, low).T).tolist()
    ends: list[tuple[int, float, float]] = []
    for index in range(len(walk.rigs)):
        line = tuple(compress(zip(places, ys[index], strict=True), shown[:, index]))
        if line:
            shapes.append(Path(line, rig_role(index, "rig-line")))
            ends.append((index, *line[-1]))
    heights = spread([y for _, _, y in ends], LETTER + 1, window.y, bottom)
    for (index, _, _), y in zip(ends, heights, strict=True):
        x = window.x + window.width + 4
        shapes.append(Label(x, y + 4, LETTERS[index], rig_role(index, "letter"), size=LETTER))
    if chart.logarithmic and low < 1 < high and chart.title.startswith("diffraction"):
        shapes.append(Line(window.x, up(1), window.x + window.width, up(1), "limit"))
    return shapes


def _grid(
    chart: WalkChart, places: list[float], up: PixelScale, window: Rect, f_numbers: list[float], units: Units
) -> list[Shape]:
    bottom = window.y + window.height
    shapes: list[Shape] = [Line(window.x, bottom, window.x + window.width, bottom, "axis")]
    taken: list[Rect] = []
    for tick in up.ticks(4):
        y = up(tick)
        shapes.append(Line(window.x, y, window.x + window.width, y, "grid"))
        label = Label(window.x - 4, y + 4, chart.tick(tick, units), "tick", "end", 10)
        if place_label([label], taken, Rect(0, window.y - 6, window.x, window.height + 12)):
            taken.append(label.box)
            shapes.append(label)
    every = max(1, ceil(len(places) * STOP_WIDE / window.width))
    for x, n in zip(places[::every], f_numbers[::every], strict=True):
        shapes.append(Line(x, bottom, x, bottom + 3, "axis"))
        label = Label(x, bottom + 14, f_number(n).removeprefix("f/"), "tick", "middle", 10)
        if place_label([label], taken, Rect(window.x - 12, bottom, window.width + 24, 20)):
            taken.append(label.box)
            shapes.append(label)
    return shapes
