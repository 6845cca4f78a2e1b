"""A bag of lenses on a logarithmic scale of equivalent focal lengths: a bar each, and where nothing or more than one
reaches.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from cambrel import wording
from cambrel.comparison.ranges import Span
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Drawing, Label, Line, Rect, Shape, shortened

NAMES, ROW, BAR, TOP, BOTTOM = 190.0, 20.0, 11.0, 8.0, 24.0
MARK = 4.0
WORTH_SAYING = 1.06
"""A gap or overlap narrower than this ratio is not named."""


@dataclass(frozen=True)
class RangeBar:
    """A lens on a body: what it is called, its equivalent range [mm] and what is written beside it."""

    name: str
    low_mm: float
    high_mm: float
    says: str


@dataclass(frozen=True)
class BarGroup:
    """Lenses of one body, and the stretches that they leave open or reach twice; None where there are more than these,
    so that it is not known.
    """

    body: str
    bars: tuple[RangeBar, ...]
    spans: tuple[Span, ...] | None


def bag_drawing(groups: Sequence[BarGroup], width: float = 980.0) -> Drawing:
    """The bars of every body of a bag under one scale.

    Parameters
        groups: a body each, with at least one bar in all
        width: in pixels
    Returns
        Drawing as high as it needs to be
    """
    bars = [bar for group in groups for bar in group.bars]
    low, high = min(bar.low_mm for bar in bars) * 0.85, max(bar.high_mm for bar in bars) * 1.3
    scale = PixelScale(low, high, NAMES, width - 12, logarithmic=True)
    shapes: list[Shape] = []
    y = TOP
    for group in groups:
        if not group.bars:
            continue
        shapes.append(Label(0, y + 11, group.body, "label", size=12.5))
        shapes += _spans(group.spans or (), scale, y)
        y += ROW
        for bar in group.bars:
            shapes += _bar(bar, scale, y, width)
            y += ROW
        y += 6
    for tick in scale.ticks(10):
        shapes.insert(0, Line(scale(tick), TOP, scale(tick), y, "grid"))
        shapes.append(Label(scale(tick), y + 15, wording.significant(tick), "tick", "middle", 11))
    shapes.append(Label(0, y + 15, "mm on full frame", "tick", size=11))
    return Drawing(width, y + BOTTOM, tuple(shapes), "Equivalent focal lengths of the bag", describe(groups))


def _bar(bar: RangeBar, scale: PixelScale, y: float, width: float) -> list[Shape]:
    start, end = scale(bar.low_mm), scale(bar.high_mm)
    wide = max(end - start, MARK)
    name = Label(NAMES - 10, y + 9.5, shortened(bar.name, NAMES - 10, 11.5), "tick", "end", 11.5)
    beside = Label(start + wide + 5, y + 9.5, bar.says, "value", size=11)
    if beside.box.x + beside.box.width > width:
        beside = Label(start - 5, y + 9.5, bar.says, "value", "end", 11)
    return [name, Rect(start, y, wide, BAR, "bag-bar", f"{bar.name}: {bar.says}"), beside]


def _spans(spans: Sequence[Span], scale: PixelScale, y: float) -> list[Shape]:
    """The line of a body: dashed where nothing reaches, doubled where more than one does."""
    shapes: list[Shape] = []
    for span in spans:
        start, end = scale(span.low_mm), scale(span.high_mm)
        if not span.lenses:
            shapes.append(Line(start, y + 7, end, y + 7, "bag-gap"))
            if span.high_mm / span.low_mm >= WORTH_SAYING:
                label = Label((start + end) / 2, y + 4, "gap", "bag-gap-label", "middle", 10.5)
                shapes += [label] if label.box.width < end - start else []
        elif len(span.lenses) > 1:
            shapes.append(Rect(start, y + 4, max(end - start, 1), 6, "bag-overlap"))
        else:
            shapes.append(Line(start, y + 7, end, y + 7, "axis"))
    return shapes


def describe(groups: Sequence[BarGroup]) -> str:
    """The same in words.

    Parameters
        groups: of bars
    Returns
        sentences
    """
    said = []
    for group in groups:
        spans = group.spans or ()
        gaps = [s for s in spans if not s.lenses and s.high_mm / s.low_mm >= WORTH_SAYING]
        twice = [s for s in spans if len(s.lenses) > 1 and s.high_mm / s.low_mm >= WORTH_SAYING]
        parts = [f"{group.body}: {len(group.bars)} lens{'' if len(group.bars) == 1 else 'es'}"]
        parts += ["gaps at " + ", ".join(map(_range, gaps))] if gaps else [] if group.spans is None else ["no gaps"]
        parts += ["overlaps at " + ", ".join(map(_range, twice))] if twice else []
        said.append("; ".join(parts) + ".")
    return " ".join(said)


def _range(span: Span) -> str:
    return wording.focal_range(span.low_mm, span.high_mm)
