"""The frames panel: each rig's frame to true scale over the drawn scene, in shape as well as size, and the sensors to
one scale.

Rigs that stand at one spot share a picture, as they share a perspective; rigs that stand apart get a picture each,
never a shared one.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import ceil, isfinite
from typing import TypeAlias

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.drawings.scales import linear_ticks
from cambrel.drawings.shapes import Drawing, Image, Label, Path, Rect, Shape, place_label, rig_role
from cambrel.wording import LETTERS, METRES, Units, distance

Backdrop: TypeAlias = Callable[[float, float, float], str]
"""From a distance to the subject and a width and height seen there [m] to the address of the scene's picture."""
SAME_SPOT = 1e-3
MARGIN = 1.05


@dataclass(frozen=True)
class Standpoint:
    """A spot from which one or more rigs see the scene."""

    distance_m: float
    rigs: tuple[RigFigures, ...]


@dataclass(frozen=True)
class Window:
    """Where the picture taken from a standpoint lies on paper: pixels per metre at the subject, and the pixel of the
    aim.
    """

    area: Rect
    scale: float
    centre_x: float
    centre_y: float


def standpoints(comparison: Comparison) -> list[Standpoint]:
    """The rigs by the spot on which they stand, the reference's first.

    Parameters
        comparison: worked out
    Returns
        each with the rigs that stand there
    """
    groups: list[list[RigFigures]] = []
    rigs = [comparison.of(i) for i in range(len(comparison.rigs)) if comparison.of(i).settings.focusable]
    rigs.sort(key=lambda rig: (rig.index != comparison.reference, rig.index))
    for rig in rigs:
        d = rig.settings.subject_distance_m
        group = next((g for g in groups if abs(g[0].settings.subject_distance_m / d - 1) < SAME_SPOT), None)
        if group is None:
            groups.append([rig])
        else:
            group.append(rig)
    return [Standpoint(group[0].settings.subject_distance_m, tuple(group)) for group in groups]


def frames_drawing(
    comparison: Comparison, backdrop: Backdrop, *, width: float = 660.0, height: float = 330.0, units: Units = METRES
) -> Drawing:
    """The scene from each standpoint with the frames of the rigs that stand there.

    Parameters
        comparison: worked out
        backdrop: gives the address of the scene's picture
        width, height: [px]
        units: of the reader
    Returns
        shapes, a title and a description
    """
    spots = standpoints(comparison)
    title = "Frames over the scene"
    if not spots:
        return Drawing(
            width,
            height,
            (Label(8, 24, "None of them can focus there.", "label"),),
            title,
            "None of them can focus there.",
        )
    columns = min(len(spots), 3 if width > 480 else 2)
    rows = ceil(len(spots) / columns)
    gap = 8.0
    wide, high = (width - gap * (columns - 1)) / columns, (height - gap * (rows - 1)) / rows
    shapes: list[Shape] = []
    for index, spot in enumerate(spots):
        area = Rect((index % columns) * (wide + gap), (index // columns) * (high + gap), wide, high)
        shapes += _picture(backdrop, spot, area, units, named=len(spots) > 1)
    return Drawing(width, height, tuple(shapes), title, frames_sentence(comparison, units))


def frames_sentence(comparison: Comparison, units: Units = METRES) -> str:
    """What the drawing shows, in words.

    Parameters
        comparison: worked out
        units: of the reader
    Returns
        one sentence or several
    """
    parts = []
    for spot in standpoints(comparison):
        sizes = ", ".join(
            f"{LETTERS[rig.index]} takes in {distance(rig.view.field_wide_m, units)} by"
            f" {distance(rig.view.field_high_m, units)}"
            for rig in spot.rigs
        )
        parts.append(f"from {distance(spot.distance_m, units)} at the subject {sizes}")
    text = "; ".join(parts) + "."
    return text[0].upper() + text[1:]


def _picture(backdrop: Backdrop, spot: Standpoint, area: Rect, units: Units, *, named: bool) -> list[Shape]:
    widest = max(rig.view.field_wide_m for rig in spot.rigs) * MARGIN
    highest = max(rig.view.field_high_m for rig in spot.rigs) * MARGIN
    scale = min(area.width / widest, area.height / highest)
    window = Window(area, scale, area.x + area.width / 2, area.y + area.height / 2)
    href = backdrop(spot.distance_m, area.width / scale, area.height / scale)
    shapes: list[Shape] = [Image(area.x, area.y, area.width, area.height, href)]
    shapes += _shade(spot, window)
    taken: list[Rect] = []
    for rig in spot.rigs:
        shapes += _frame(rig, window)
    for rig in spot.rigs:
        label = place_label(_letter_places(rig, window), taken, area)
        if label:
            box = label.box
            shapes += [Rect(box.x - 2, box.y - 2, box.width + 4, box.height + 4, "plaque"), label]
            taken.append(box)
    shapes += _measure(window, taken, units)
    if named:
        note = f"from {distance(spot.distance_m, units)}"
        candidates = [
            Label(area.x + area.width - 6, area.y + y, note, "on-scene", "end", 12) for y in (16, 32, area.height - 8)
        ]
        label = place_label(candidates, taken, area)
        if label:
            shapes += [_behind(label), label]
    return shapes


def _corners(box: Rect) -> tuple[tuple[float, float], ...]:
    right, bottom = box.x + box.width, box.y + box.height
    return (box.x, box.y), (right, box.y), (right, bottom), (box.x, bottom)


def _box(rig: RigFigures, window: Window) -> Rect:
    wide, high = rig.view.field_wide_m * window.scale, rig.view.field_high_m * window.scale
    return Rect(window.centre_x - wide / 2, window.centre_y - high / 2, wide, high)


def _shade(spot: Standpoint, window: Window) -> list[Shape]:
    """What no frame holds is dimmed."""
    boxes = [_box(rig, window) for rig in spot.rigs]
    wide, high = max(box.width for box in boxes), max(box.height for box in boxes)
    a = window.area
    left, top = window.centre_x - wide / 2, window.centre_y - high / 2
    side, edge = left - a.x, top - a.y
    bands = (
        Rect(a.x, a.y, side, a.height, "dim"),
        Rect(left + wide, a.y, side, a.height, "dim"),
        Rect(left, a.y, wide, edge, "dim"),
        Rect(left, top + high, wide, edge, "dim"),
    )
    return [band for band in bands if band.width > 0.1 and band.height > 0.1]


def _frame(rig: RigFigures, window: Window) -> list[Shape]:
    corners = _corners(_box(rig, window))
    return [Path(corners, "frame-halo", closed=True), Path(corners, rig_role(rig.index, "frame-line"), closed=True)]


def _letter_places(rig: RigFigures, window: Window) -> list[Label]:
    box, role, letter = _box(rig, window), rig_role(rig.index, "letter"), LETTERS[rig.index]
    size = 14.0
    across = [box.x + 7 + step * 20 for step in range(7)]
    rows = (box.y + size + 3, box.y + box.height - 6)
    inside = [Label(x, y, letter, role, size=size) for y in rows for x in across if x < box.x + box.width - 10]
    outside = [Label(x, box.y - 5, letter, role, size=size) for x in across]
    return inside + outside


def _behind(label: Label) -> Rect:
    box = label.box
    return Rect(box.x - 4, box.y - 3, box.width + 8, box.height + 6, "plaque")


def _measure(window: Window, taken: list[Rect], units: Units) -> list[Shape]:
    """A bar of a round length at the subject."""
    area = window.area
    longest = area.width * 0.28 / window.scale / units.metres
    ticks = linear_ticks(0, longest, 2)
    length = ticks[-1] if len(ticks) > 1 else longest
    pixels = length * units.metres * window.scale
    label = f"{distance(length * units.metres, units)} at the subject"
    wide = max(pixels, Label(0, 0, label, size=11).box.width)
    for x, y in ((area.x + 8, area.y + area.height - 8), (area.x + area.width - wide - 8, area.y + area.height - 8)):
        text = Label(x, y - 6, label, "on-scene", size=11)
        if place_label([text], taken, area):
            taken.append(text.box)
            panel = Rect(x - 4, y - 19, wide + 8, 24, "plaque")
            bar = Path(((x, y - 3), (x, y), (x + pixels, y), (x + pixels, y - 3)), "measure")
            return [panel, text, bar]
    return []


def sensors_drawing(comparison: Comparison, *, width: float = 150.0, height: float = 110.0) -> Drawing:
    """The frames in use on the sensors, to one scale on a common centre.

    Parameters
        comparison: worked out
        width, height: [px]
    Returns
        shapes, a title and a description
    """
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    widest = max(rig.frames.width_mm for rig in rigs)
    highest = max(rig.frames.height_mm for rig in rigs)
    scale = min((width - 8) / widest, (height - 8) / highest)
    shapes: list[Shape] = []
    taken: list[Rect] = []
    for rig in sorted(rigs, key=lambda rig: -rig.frames.area_mm2):
        wide, high = rig.frames.width_mm * scale, rig.frames.height_mm * scale
        box = Rect(width / 2 - wide / 2, height / 2 - high / 2, wide, high, rig_role(rig.index, "sensor-fill"))
        shapes += [box, Path(_corners(box), rig_role(rig.index, "rig-line"), closed=True)]
        letter = LETTERS[rig.index]
        offers = [
            Label(
                box.x + box.width - 3 - step * 11,
                box.y + box.height - 4,
                letter,
                rig_role(rig.index, "letter"),
                "end",
                12,
            )
            for step in range(6)
        ]
        label = place_label(offers, taken, Rect(0, 0, width, height))
        if label:
            shapes.append(label)
            taken.append(label.box)
    sizes = ", ".join(f"{LETTERS[r.index]} {r.frames.width_mm:.4g} by {r.frames.height_mm:.4g} mm" for r in rigs)
    return Drawing(width, height, tuple(shapes), "Sensors to one scale", f"Frames on the sensors: {sizes}.")


def gained_and_lost(first: RigFigures, rig: RigFigures) -> tuple[float, float]:
    """How much wider and higher a rig's frame is at the subject than the reference's.

    Parameters
        first: the reference
        rig: another
    Returns
        [m]; below 0 where it cuts off
    """
    wide = rig.view.field_wide_m - first.view.field_wide_m
    high = rig.view.field_high_m - first.view.field_high_m
    return (wide, high) if isfinite(wide) and isfinite(high) else (float("nan"), float("nan"))
