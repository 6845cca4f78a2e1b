"""The plain geometry that drawings return: frozen shapes in pixels, with a role that says how they look."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import TypeAlias

CHARACTER_WIDTH = 0.54
"""Width of an average character over its size, on the safe side for the shipped font and its fallbacks."""


@dataclass(frozen=True)
class Rect:
    x: float
    y: float
    width: float
    height: float
    role: str = ""
    tip: str = ""


@dataclass(frozen=True)
class Line:
    x1: float
    y1: float
    x2: float
    y2: float
    role: str = ""


@dataclass(frozen=True)
class Path:
    points: tuple[tuple[float, float], ...]
    role: str = ""
    closed: bool = False


@dataclass(frozen=True)
class Circle:
    x: float
    y: float
    radius: float
    role: str = ""
    tip: str = ""


@dataclass(frozen=True)
class Label:
    """A label; `anchor` is start, middle or end, and y is the baseline."""

    x: float
    y: float
    text: str
    role: str = ""
    anchor: str = "start"
    size: float = 12.0

    @property
    def box(self) -> Rect:
        width = len(self.text) * self.size * CHARACTER_WIDTH
        left = self.x - {"start": 0.0, "middle": width / 2, "end": width}[self.anchor]
        return Rect(left, self.y - 0.8 * self.size, width, self.size)


@dataclass(frozen=True)
class Image:
    """A picture at an address, filling its box."""

    x: float
    y: float
    width: float
    height: float
    href: str


@dataclass(frozen=True)
class Clip:
    """Shapes cut off at a rectangle."""

    name: str
    window: Rect
    shapes: tuple[Shape, ...]


Shape: TypeAlias = Rect | Line | Path | Circle | Label | Image | Clip


@dataclass(frozen=True)
class Drawing:
    """A drawing of so many pixels, with its title and the sentence that says the same."""

    width: float
    height: float
    shapes: tuple[Shape, ...]
    title: str
    description: str

    def texts(self) -> list[Label]:
        return [shape for shape in flattened(self.shapes) if isinstance(shape, Label)]


def without_figures(width: float, title: str, said: str = "None of them has figures here.") -> Drawing:
    """What stands in the place of a drawing for which nothing is known: why.

    Parameters
        width: [px]
        title: of the drawing
        said: why
    Returns
        shapes, a title and a description
    """
    return Drawing(width, 40.0, (Label(8, 24, said, "label"),), title, said)


def flattened(shapes: Iterable[Shape]) -> list[Shape]:
    """All shapes, those inside clips included.

    Parameters
        shapes: of a drawing
    Returns
        none of them a clip
    """
    flat: list[Shape] = []
    for shape in shapes:
        flat.append(shape)
        if isinstance(shape, Clip):
            flat += flattened(shape.shapes)
    return flat


def overlap(one: Rect, other: Rect, gap: float = 0.0) -> bool:
    """Whether two boxes overlap, or come closer than a gap.

    Parameters
        one, other: boxes
        gap: [px]
    Returns
        True where they come closer than the gap
    """
    return (
        one.x < other.x + other.width + gap
        and other.x < one.x + one.width + gap
        and one.y < other.y + other.height + gap
        and other.y < one.y + one.height + gap
    )


def place_label(candidates: Sequence[Label], taken: Sequence[Rect], window: Rect) -> Label | None:
    """The first candidate that lies inside the window and overlaps nothing taken; None where there is no room.

    Parameters
        candidates: the best first
        taken: where something stands
        window: that it stays in
    Returns
        None where there is no room
    """
    for text in candidates:
        box = text.box
        inside = (
            box.x >= window.x
            and box.y >= window.y
            and box.x + box.width <= window.x + window.width
            and box.y + box.height <= window.y + window.height
        )
        if inside and not any(overlap(box, other, 2) for other in taken):
            return text
    return None


def shortened(text: str, width: float, size: float) -> str:
    """A text cut to a width in pixels, with an ellipsis where something is missing.

    Parameters
        text: of any length
        width: [px]
        size: of the text [px]
    Returns
        the text itself where it fits
    """
    room = max(2, int(width / (size * CHARACTER_WIDTH)))
    return text if len(text) <= room else text[: room - 1] + "…"


def spread(wanted: Sequence[float], gap: float, low: float, high: float) -> list[float]:
    """Positions as near to those wanted as a gap between neighbours allows, between low and high, in the order given.

    Parameters
        wanted: positions [px]
        gap: between neighbours [px]
        low, high: the ends [px]
    Returns
        in the order given
    """
    order = sorted(range(len(wanted)), key=lambda index: wanted[index])
    placed = [0.0] * len(wanted)
    edge = low
    for index in order:
        placed[index] = max(wanted[index], edge)
        edge = placed[index] + gap
    edge = high
    for index in reversed(order):
        placed[index] = min(placed[index], edge)
        edge = placed[index] - gap
    return placed


def rig_role(index: int, kind: str = "") -> str:
    """The role of a shape that belongs to a rig: its letter gives colour and pattern.

    Parameters
        index: of the rig
        kind: of the shape
    Returns
        classes
    """
    return f"{kind} rig-{'abcdef'[index]}".strip()
