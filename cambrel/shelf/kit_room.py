"""What a kit takes of room: its pieces as blocks, their sum, the bag that is asked about, and another kit beside it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from math import nan

from django.db.models import Sum

from cambrel import wording
from cambrel.bounds.limits import LIMITS
from cambrel.comparison.outer_sizes import Block, bag_fit, body_block, lens_block
from cambrel.drawings.gear_sizes import SheetPiece
from cambrel.inputs.fields import whole
from cambrel.owners.models import User
from cambrel.phrases.typed_figures import length
from cambrel.phrases.units import LENGTHS_M
from cambrel.shelf.models import Bag, Kit
from cambrel.verdicts.kit_sizes import against_says, bag_says
from cambrel.wording.sentences import Sentence

Sides = tuple[float, float, float]
MM = LENGTHS_M["mm"]
TIMES = re.compile(r"\s*[x×*]\s*|\s+by\s+", re.IGNORECASE)
NO_BAG = "That is not a size. Type the inner width, height and depth, such as 260 x 180 x 130."


def pieces_of(kit: Kit) -> list[SheetPiece]:
    """The bodies and lenses of a kit as blocks, each lens with its largest entrance pupil."""
    pieces = [SheetPiece(body_block(body.to_optics(), body.name), nan) for body in kit.bodies.all()]
    for record in kit.lenses.filter(fixed_to=None):
        lens = record.to_optics()
        block = lens_block(lens, record.name)
        if block is None:
            continue
        pupil = max((focal / f_number for focal, f_number in lens.widest), default=nan)
        pieces.append(SheetPiece(block, pupil))
    return pieces


@dataclass(frozen=True)
class Room:
    """The room that some pieces take together: in words, how many are left out, and the longest of them."""

    volume_l: float
    volume: str
    unknown: int
    longest: str


def room_of(blocks: Sequence[Block]) -> Room:
    known = [block for block in blocks if block.is_known]
    volume = sum(block.volume_l for block in known)
    longest = max(known, key=lambda block: block.longest_mm, default=None)
    return Room(
        volume if known else nan,
        wording.litres(volume) if known else "unknown",
        len(blocks) - len(known),
        f"{longest.name}, {wording.focal(longest.longest_mm)}" if longest else "unknown",
    )


@dataclass(frozen=True)
class BagAsked:
    """A bag that is asked about: its name, its inner sides, what was typed, and why that is none."""

    name: str = ""
    sides_mm: Sides | None = None
    typed: str = ""
    problem: str = ""


def bag_asked(owner: User, chosen: str, typed: str) -> BagAsked:
    """The bag of a page: one of the shelf by its key, else by the sides that were typed."""
    bag = Bag.objects.for_owner(owner).filter(pk=whole(chosen, 0)).first()
    if bag is not None:
        return BagAsked(bag.name, bag.sides_mm)
    if not typed.strip():
        return BagAsked()
    low, high = LIMITS["inner_width_mm"]
    try:
        across, high_mm, deep = (length(part, MM, low, high, kept=MM) for part in TIMES.split(typed.strip()[:60]))
        if not all(low <= side <= high for side in (across, high_mm, deep)):
            raise ValueError(typed)
    except (ValueError, OverflowError):
        return BagAsked(typed=typed, problem=NO_BAG)
    return BagAsked("this bag", (across, high_mm, deep), typed)


def bag_sentence(blocks: Sequence[Block], bag: BagAsked) -> Sentence | None:
    """Whether the pieces go into it."""
    return None if bag.sides_mm is None or not blocks else bag_says(bag_fit(blocks, bag.sides_mm))


def against(kit: Kit, other: Kit) -> Sentence | None:
    """How two kits compare in weight and in room, where all of both is known."""
    rooms = [room_of([piece.block for piece in pieces_of(one)]) for one in (kit, other)]
    volume = nan if any(room.unknown for room in rooms) else rooms[0].volume_l / rooms[1].volume_l
    weights = [_weight_g(one) for one in (kit, other)]
    weight = nan if None in weights or not weights[1] else weights[0] / weights[1]  # type: ignore[operator]
    return against_says(other.name, weight, volume)


def _weight_g(kit: Kit) -> float | None:
    """What a kit weighs; None where something of it is not known."""
    sums = 0.0
    for held in (kit.bodies, kit.lenses, kit.adapters, kit.supports):
        if held.filter(weight_g=None).exists():
            return None
        sums += held.aggregate(sum=Sum("weight_g"))["sum"] or 0.0
    return sums
