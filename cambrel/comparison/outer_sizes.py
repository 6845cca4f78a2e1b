"""How much room gear takes: boxes, litres, the longest piece, and whether a bag holds it. Lengths in mm, volumes in
litres.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import nan, pi

from cambrel.comparison.rig import Body, Lens
from cambrel.optics.quantities import is_unknown, positive

MM3_IN_LITRE = 1e6
MOST_FILLED = 0.6
"""Of a bag's volume, so much can be filled with gear: a rule of thumb that leaves the rest to padding and shapes."""
SLACK = 1e-9


@dataclass(frozen=True)
class Block:
    """A piece of gear as a block: its three sides [mm], NaN where they are not known; round ones are as wide as high.

    name: what it is called
    is_round: a lens, whose volume is that of a cylinder along the first side
    """

    name: str
    sides_mm: tuple[float, float, float]
    is_round: bool = False

    def __post_init__(self) -> None:
        for side in self.sides_mm:
            if not is_unknown(side):
                positive("sides_mm", side)

    @property
    def is_known(self) -> bool:
        return not any(is_unknown(side) for side in self.sides_mm)

    @property
    def volume_l(self) -> float:
        """Its own volume, of a round one that of the cylinder."""
        long, wide, high = self.sides_mm
        return long * wide * high / MM3_IN_LITRE * (pi / 4 if self.is_round else 1.0)

    @property
    def longest_mm(self) -> float:
        return max(self.sides_mm) if self.is_known else nan


def _known(value: float | None) -> float:
    return nan if value is None else value


def body_block(body: Body, name: str = "") -> Block:
    """A body as a piece: width, height and depth.

    Parameters
        body: with its outer sides, where they are known
        name: what it is called
    Returns
        a block
    """
    return Block(name, (_known(body.outer_width_mm), _known(body.outer_height_mm), _known(body.outer_depth_mm)))


def is_built_in(lens: Lens) -> bool:
    """Whether a lens is a part of its camera, whose size and weight hold it.

    Parameters
        lens: any
    Returns
        True for one that weighs nothing by itself and has no length
    """
    return lens.weight_g == 0 and lens.length_mm is None


def lens_block(lens: Lens, name: str = "") -> Block | None:
    """A lens as a piece: its length as it is packed, zoomed to its shortest, and its diameter.

    Parameters
        lens: with length and diameter, where they are known
        name: what it is called
    Returns
        a cylinder; None for one that is a part of its camera
    """
    if is_built_in(lens):
        return None
    across = _known(lens.diameter_mm)
    return Block(name, (_known(lens.length_mm), across, across), is_round=True)


def rig_volume_l(body: Body, lens: Lens) -> float:
    """Volume of a body and its lens [l]; NaN where either is not known.

    Parameters
        body, lens: as they are carried
    Returns
        [l]
    """
    of_lens = lens_block(lens)
    return body_block(body).volume_l + (0.0 if of_lens is None else of_lens.volume_l)


def rig_length_mm(body: Body, lens: Lens) -> float:
    """How far a camera reaches from its back to the front of its lens [mm]; NaN where that is not known.

    Parameters
        body, lens: as they are carried
    Returns
        [mm]
    """
    of_lens = lens_block(lens)
    return _known(body.outer_depth_mm) + (0.0 if of_lens is None else of_lens.sides_mm[0])


@dataclass(frozen=True)
class BagFit:
    """What comes of packing a bag.

    fits: None where a size that is not known decides
    too_large: names of pieces that go in no way round
    filled: share of its volume that the known pieces take
    unknown: how many pieces are of unknown size
    """

    fits: bool | None
    too_large: tuple[str, ...]
    filled: float
    unknown: int


def bag_fit(pieces: Sequence[Block], inner_mm: tuple[float, float, float]) -> BagFit:
    """Whether a bag holds some pieces: each goes in some way round, and together they fill no more than a share.

    Parameters
        pieces: to be carried
        inner_mm: the inner sides of the bag [mm]
    Returns
        whether they fit, and what does not
    Raises
        DomainError for a side that is not above 0
    """
    room = sorted(float(positive("inner_mm", side)) for side in inner_mm)
    known = [piece for piece in pieces if piece.is_known]
    too_large = tuple(
        piece.name
        for piece in known
        if any(side > most * (1 + SLACK) for side, most in zip(sorted(piece.sides_mm), room, strict=True))
    )
    volume = room[0] * room[1] * room[2] / MM3_IN_LITRE
    filled = sum(piece.volume_l for piece in known) / volume
    unknown = len(pieces) - len(known)
    fails = bool(too_large) or filled > MOST_FILLED * (1 + SLACK)
    return BagFit(False if fails else None if unknown else True, too_large, filled, unknown)
