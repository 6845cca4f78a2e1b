"""How many pictures fall to each mark of a camera's scale, as bars on a logarithmic axis: the marks are a stop or part
of one apart.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from cambrel.drawings.shapes import CHARACTER_WIDTH

LABEL_PX, NARROW_PX = 10.5, 17.0
"""Letters of the drawing as it is, and on a phone, where all of it is shown at three fifths."""
FOOT, TOP, LABEL_DROP = 18.0, 16.0, 5.0
"""Above the bars there is room for a number."""
LEAST_PX = 1.5
"""So high is the bar of a mark that has any."""
MOST_WIDE = 34.0


@dataclass(frozen=True)
class CountBar:
    """A bar, with the room that is pressed: the whole height of the drawing. index: of its mark."""

    index: int
    x: float
    y: float
    width: float
    height: float
    room_x: float
    room_width: float
    label: str
    label_x: float
    shows_label: bool
    is_wide_only: bool = False
    """Whether its label has no room on a phone."""
    count: str = ""
    """How many, where there is room for the number; above the bar at `count_y`."""
    count_y: float = 0.0

    @property
    def middle(self) -> float:
        return self.x + self.width / 2


@dataclass(frozen=True)
class Bars:
    width: float
    height: float
    base: float
    label_y: float
    bars: tuple[CountBar, ...]


def bars(counts: Sequence[int], labels: Sequence[str], *, width: float = 580.0, height: float = 110.0) -> Bars:
    """The bars of the marks from the first to the last that has any.

    Parameters
        counts, labels: of each mark
        width, height: [px]
    Returns
        one for each mark between the first and the last that has any
    """
    used = [index for index, count in enumerate(counts) if count]
    if not used:
        return Bars(width, height, height - FOOT, height - LABEL_DROP, ())
    first, last = used[0], used[-1]
    room = width / (last - first + 1)
    wide = min(room * 0.8, MOST_WIDE)
    most, base = max(counts), height - FOOT
    found, free_from, free_from_narrow = [], 0.0, 0.0
    for index in range(first, last + 1):
        x = (index - first) * room
        tall = (base - TOP) * counts[index] / most
        middle = x + room / 2
        half = len(labels[index]) * LABEL_PX * CHARACTER_WIDTH / 2
        half_narrow = half * NARROW_PX / LABEL_PX
        at = min(max(middle, half_narrow), width - half_narrow)
        shows = at - half >= free_from
        if shows:
            free_from = at + half + 5
        is_wide_only = at - half_narrow < free_from_narrow
        if shows and not is_wide_only:
            free_from_narrow = at + half_narrow + 5
        tall = max(tall, LEAST_PX) if counts[index] else 0.0
        count = f"{counts[index]:,}" if counts[index] else ""
        has_room = len(count) * LABEL_PX * CHARACTER_WIDTH <= room
        found.append(
            CountBar(
                index, middle - wide / 2, base - tall, wide, tall, x, room, labels[index], at, shows,
                is_wide_only, count if has_room else "", base - tall - 3,
            )
        )  # fmt: skip
    return Bars(width, height, base, height - LABEL_DROP, tuple(found))
