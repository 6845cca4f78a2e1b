"""Tonal range of each rig as a bar about mid-grey, with the range of the scene over it."""

from __future__ import annotations

from cambrel.comparison.tonal_range import HEADROOM_STOPS, Range
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Drawing, Label, Line, Rect, Shape, rig_role, without_figures
from cambrel.wording import LETTERS, iso, significant

ROW = 26.0
LEFT, RIGHT = 40.0, 150.0


def tones_drawing(found: dict[int, Range | None], scene_stops: float | None, *, width: float = 660.0) -> Drawing:
    """Stops below and above mid-grey: strong where it is clean as noise is judged, faint as far as anything is told
    from noise.

    Parameters
        found: the range of each rig by index
        scene_stops: of the scene; None where the picture does not say
        width: [px]
    Returns
        shapes, a title and a description
    """
    title = "Tonal range about mid-grey, stops"
    known = {index: held_range for index, held_range in found.items() if held_range is not None}
    if not known:
        return without_figures(width, title, "No range is known, as no pixels are.")
    deepest = max([usable_range.by["engineer"] for usable_range in known.values()] + [scene_stops or 0.0])
    along = PixelScale(HEADROOM_STOPS - deepest - 0.6, HEADROOM_STOPS + 0.6, LEFT, width - RIGHT)
    bottom = 22 + len(found) * ROW
    shapes: list[Shape] = []
    if scene_stops:
        x = along(HEADROOM_STOPS - scene_stops)
        shapes.append(Rect(x, 16, along(HEADROOM_STOPS) - x, bottom - 16, "asked-range"))
        shapes.append(Label(x, 11, f"this scene, {significant(scene_stops)} stops", "tick", size=11))
    for tick in along.ticks(12):
        shapes.append(Line(along(tick), 18, along(tick), bottom, "grid"))
        label = "mid-grey" if abs(tick) < 1e-9 else f"{'+' if tick > 0 else '−'}{significant(abs(tick))}"
        shapes.append(Label(along(tick), bottom + 14, label, "tick", "middle", 11))
    for row, (index, usable_range) in enumerate(found.items()):
        y = 22 + row * ROW
        shapes.append(Label(LEFT - 12, y + 14, LETTERS[index], rig_role(index, "letter"), "end", 14))
        if usable_range is None:
            shapes.append(Label(LEFT, y + 14, "pixels not known", "tick", size=11))
            continue
        end = along(HEADROOM_STOPS)
        deep, clean = (
            along(HEADROOM_STOPS - usable_range.by["engineer"]),
            along(HEADROOM_STOPS - max(usable_range.by["picture"], 0.0)),
        )
        shapes.append(Rect(deep, y + 3, end - deep, 14, rig_role(index, "depth-bar")))
        shapes.append(Rect(clean, y + 6, end - clean, 8, rig_role(index, "rig-bar")))
        shapes.append(
            Label(
                width - RIGHT + 8,
                y + 14,
                _told(usable_range),
                "tick",
                size=11,
            )
        )
    said = "; ".join(f"{LETTERS[index]} holds {_told(usable_range)}" for index, usable_range in known.items())
    return Drawing(width, bottom + 22, tuple(shapes), title, said + ".")


def _told(held_range: Range) -> str:
    clean, deepest = held_range.by["picture"], held_range.by["engineer"]
    return f"{significant(clean, 2)} clean of {significant(deepest, 3)}, {iso(held_range.iso)}"
