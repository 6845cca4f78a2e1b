"""Depth of field along, cleanliness up: each rig of each kit as a line from its widest stop to its smallest."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from cambrel import wording
from cambrel.comparison.race import Curve, endless
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Circle, Drawing, Label, Line, Path, Shape, rig_role, without_figures
from cambrel.wording import LETTERS

LEFT, RIGHT, TOP, BOTTOM = 46.0, 14.0, 18.0, 36.0
LEAST_STOPS = 1.0


def race_drawing(
    kits: Sequence[Sequence[tuple[str, Curve]]], *, width: float = 660.0, height: float = 300.0
) -> Drawing:
    """The curves of kits, each with the name of its rig.

    Parameters
        kits: of each kit the rigs that frame the picture
        width, height: [px]
    Returns
        shapes, a title and a description
    """
    title = "Depth of field against cleanliness"
    curves = [curve for kit in kits for _, curve in kit]
    depths = np.concatenate([curve.depth_m for curve in curves]) if curves else np.zeros(0)
    finite = depths[np.isfinite(depths) & (depths > 0)]
    if not len(finite):
        return without_figures(width, title, "No kit here frames this picture with a depth that ends.")
    most = float(finite.max()) * 2
    along = PixelScale(float(finite.min()) / 1.2, most * 1.2, LEFT, width - RIGHT, logarithmic=True)
    clean = np.concatenate([curve.clean_stops for curve in curves])
    low, high = min(float(clean.min()), -LEAST_STOPS) - 0.5, max(float(clean.max()), LEAST_STOPS) + 0.5
    up = PixelScale(low, high, height - BOTTOM, TOP)
    shapes: list[Shape] = []
    for tick in along.ticks(7):
        shapes.append(Line(along(tick), TOP, along(tick), height - BOTTOM, "grid"))
        shapes.append(Label(along(tick), height - BOTTOM + 14, wording.distance(tick), "tick", "middle", 10.5))
    for tick in up.ticks(7):
        shapes.append(Label(LEFT - 5, up(tick) + 4, wording.significant(tick), "tick", "end", 10.5))
    shapes.append(Line(LEFT, up(0.0), width - RIGHT, up(0.0), "present"))
    shapes.append(Label(LEFT + 4, up(0.0) + 13, "as clean as you ask", "label", size=11))
    shapes.append(Label(2, TOP - 5, "stops cleaner", "label", size=11))
    shapes.append(Label(width - RIGHT, height - 6, "depth of field", "label", "end", 11))
    said = []
    for index, kit in enumerate(kits):
        for name, curve in kit:
            drawn = endless(curve, most)
            points = [
                (along(x), up(y)) for x, y in zip(drawn.depth_m.tolist(), drawn.clean_stops.tolist(), strict=True)
            ]
            shapes.append(Path(tuple(points), rig_role(index, "rig-line")))
            tip = f"{LETTERS[index]}: {name}, from {wording.f_number(float(curve.f_numbers[0]))}"
            shapes.append(Circle(points[0][0], points[0][1], 4, rig_role(index, "focus-mark"), tip))
            beside = points[0][0] + 6 if points[0][0] < width - RIGHT - 24 else points[0][0] - 16
            shapes.append(Label(beside, points[0][1] - 5, LETTERS[index], rig_role(index, "letter"), size=12))
            ends = [wording.distance(float(curve.depth_m[at])) for at in (0, -1)]
            stops = [wording.significant(float(curve.clean_stops[at])) for at in (0, -1)]
            said.append(f"{tip}: {ends[0]} deep and {stops[0]} stops cleaner than asked, to {ends[1]} and {stops[1]}")
    return Drawing(width, height, tuple(shapes), title, ". ".join(said) + ".")
