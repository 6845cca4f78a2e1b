"""Where to stand and lay the tape: cameras, subject and marks from above and from the side, to one scale."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from math import isfinite

from cambrel import wording
from cambrel.drawings.shapes import Circle, Drawing, Label, Line, Path, Rect, Shape, rig_role
from cambrel.wording import LETTERS

EDGE, GAP, TOP = 26.0, 18.0, 22.0
"""Beside what stands farthest out, between the two views, and above both [px]."""
ABOVE, SIDE = 240.0, 150.0
"""The most that either view is high [px]."""
NEAREST_FAR = 1.6
"""Where what lies behind is farther than this many times the room before it, the way there is drawn cut."""


@dataclass(frozen=True)
class TripodPlace:
    """A camera at a place: its letter's index, how far from the subject, and how wide it sees there [m]."""

    index: int
    place_m: float
    wide_m: float


@dataclass(frozen=True)
class Staging:
    """The subject and what stands before and behind it, by distance from the subject and by name; None for nothing.

    height_m: of the subject; camera_m: of the camera, both over the ground
    """

    height_m: float
    camera_m: float
    front_m: float | None = None
    behind_m: float | None = None
    front: str = "foreground"
    behind: str = "background"


def standpoints_drawing(stands: Sequence[TripodPlace], staging: Staging, width: float = 660.0) -> Drawing:
    """Both views, the subject at one place in either.

    Parameters
        stands: at least one, with known figures above zero
        staging: what is photographed
        width: [px]
    Returns
        shapes, a title and a description
    """
    farthest = max(stand.place_m for stand in stands)
    behind = staging.behind_m
    drawn_behind = 0.0 if behind is None else min(behind, NEAREST_FAR * farthest)
    widest = max(stand.wide_m for stand in stands)
    tallest = max(staging.height_m, staging.camera_m)
    k = min((width - 2 * EDGE) / (farthest + drawn_behind), ABOVE / widest, SIDE / tallest)
    at, half = EDGE + k * farthest, k * widest / 2  # of the subject
    axis = TOP + half
    shapes: list[Shape] = [
        Label(4, 12, "from above", "tick", "start", 11),
        Line(EDGE, axis, at + k * drawn_behind, axis, "axis"),
        Line(at, axis - half, at, axis + half, "grid"),
        Circle(at, axis, 4.5, "depth-bar"),
    ]
    for stand in stands:
        x, side = at - k * stand.place_m, k * stand.wide_m / 2
        shapes.append(Path(((at, axis - side), (x, axis), (at, axis + side)), rig_role(stand.index, "rig-line")))
    if behind is not None and behind > drawn_behind:  # the way there is cut
        middle = at + k * drawn_behind / 2
        shapes += [Line(middle + gap, axis - 6, middle + gap - 4, axis + 6, "axis") for gap in (-2, 3)]
    foot, named = _named(stands, staging, at, k, drawn_behind, axis + half + 16, width)
    shapes += named
    for x in {label.x for label in named if isinstance(label, Label)}:
        shapes.append(Line(x, axis - 8, x, axis + half + 4, "landmark"))
    ground = foot + GAP + k * tallest
    shapes += _from_the_side(stands, staging, at, ground, k, drawn_behind)
    return Drawing(width, ground + 14, tuple(shapes), "Where to stand", _said(stands, staging))


def _places(stands: Sequence[TripodPlace]) -> list[tuple[float, list[int]]]:
    """Each place with those that stand there, the farthest first."""
    ordered = sorted(stands, key=lambda stand: (-stand.place_m, stand.index))
    return [
        (place, [stand.index for stand in here]) for place, here in groupby(ordered, key=lambda stand: stand.place_m)
    ]


def _named(
    stands: Sequence[TripodPlace],
    staging: Staging,
    at: float,
    k: float,
    behind: float,
    y: float,
    width: float,
) -> tuple[float, list[Shape]]:
    """What stands where, below the view from above, in as many lines as there is need; and where they end."""
    names = [
        (at - k * place, f"{' '.join(LETTERS[index] for index in here)}: {wording.distance(place)} of tape")
        for place, here in _places(stands)
    ]
    if staging.front_m is not None and staging.front_m < max(stand.place_m for stand in stands):
        names.append((at - k * staging.front_m, f"{staging.front}, {wording.distance(staging.front_m)} before"))
    names.append((at, "subject"))
    if staging.behind_m is not None:
        far = "far away" if not isfinite(staging.behind_m) else f"{wording.distance(staging.behind_m)} behind"
        names.append((at + k * behind, f"{staging.behind}, {far}"))
    shapes: list[Shape] = []
    free: list[float] = []
    for x, text in sorted(names):
        middle = Label(x, y, text, "label", "middle", 11).box
        label = Label(x, y, text, "label", _anchor(x, middle.width, width), 11)
        row = next((number for number, ends in enumerate(free) if ends + 6 < label.box.x), len(free))
        free[row : row + 1] = [label.box.x + label.box.width]
        shapes.append(replace(label, y=y + 14 * row))
    return y + 14 * len(free), shapes


def _anchor(x: float, wide: float, width: float) -> str:
    """So that a label about a place stays on the sheet."""
    return "start" if x - wide / 2 < 2 else "end" if x + wide / 2 > width - 2 else "middle"


def _from_the_side(
    stands: Sequence[TripodPlace], staging: Staging, at: float, ground: float, k: float, behind: float
) -> list[Shape]:
    """The heights of camera and subject over the ground, to the same scale."""
    high, camera = k * staging.height_m, k * staging.camera_m
    shapes: list[Shape] = [
        Label(at + 12, ground - high + 8, "from the side", "tick", "start", 11),
        Line(EDGE - 10, ground, at + k * behind, ground, "axis"),
        Rect(at - 4, ground - high, 8, high, "depth-bar"),
    ]
    for place, here in _places(stands):
        x = at - k * place
        shapes += [
            Path(((x - 6, ground), (x, ground - camera), (x + 6, ground)), "measure"),
            Rect(x - 7, ground - camera - 6, 12, 10, rig_role(here[0], "mark")),
        ]
    return shapes


def _said(stands: Sequence[TripodPlace], staging: Staging) -> str:
    places = "; ".join(f"{LETTERS[stand.index]} {wording.distance(stand.place_m)} from the subject" for stand in stands)
    return f"{places}. The camera is {wording.distance(staging.camera_m)} over the ground."
