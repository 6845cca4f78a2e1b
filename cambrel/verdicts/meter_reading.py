"""How the shape of a frame, and holding it upright, shifts the reading of an averaging meter over a sky."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, log2

from cambrel.optics.averaging_meter import averaged_light
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_STOPS, Sentence, listed


@dataclass(frozen=True)
class FrameWay:
    """A frame by its shape and how it is held: long and short side, and whether it stands upright."""

    label: str
    long: float
    short: float
    is_upright: bool

    def height_mm(self, diagonal_mm: float) -> float:
        return (self.long if self.is_upright else self.short) * diagonal_mm / hypot(self.long, self.short)


WAYS = (
    FrameWay("3:2 landscape", 3, 2, False),
    FrameWay("4:3 landscape", 4, 3, False),
    FrameWay("3:2 portrait", 3, 2, True),
    FrameWay("4:3 portrait", 4, 3, True),
)
"""The first is what the others are read against."""


def meter_shifts(
    diagonal_mm: float, image_distance_mm: float, horizon_mm: float, sky: Sequence[tuple[float, float]]
) -> list[float]:
    """By how many stops each way of framing reads more light than the first.

    Parameters
        diagonal_mm, image_distance_mm, horizon_mm: of a level camera [mm]
        sky: its light by elevation
    Returns
        [stops] for each of WAYS; 0 for the first
    """
    read = [averaged_light(way.height_mm(diagonal_mm), image_distance_mm, horizon_mm, sky) for way in WAYS]
    return [log2(light / read[0]) for light in read]


def says_meter(shifts: Sequence[float]) -> Sentence:
    """What that comes to.

    Parameters
        shifts: for each of WAYS [stops]
    Returns
        one sentence or two
    """
    apart = [(way, shift) for way, shift in zip(WAYS[1:], shifts[1:], strict=True) if abs(shift) > LEVEL_STOPS]
    if not apart:
        return Sentence("An averaging meter reads this sky the same in 3:2 and 4:3, landscape and portrait.", {})
    figures = {f"shift_{n}": Figure(abs(shift), "stops") for n, (_, shift) in enumerate(apart)}
    parts = [f"{way.label} {{shift_{n}}} {'more' if shift > 0 else 'less'}" for n, (way, shift) in enumerate(apart)]
    text = f"Against 3:2 landscape, an averaging meter over this sky reads {listed(parts)}. More sky, darker picture."
    return Sentence(text, figures)
