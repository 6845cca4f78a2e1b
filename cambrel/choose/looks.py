"""What is looked at closer beside the table of Choose, one at a time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from cambrel.choose.beside import BesideRow, side
from cambrel.choose.choose_query import ChooseQuery
from cambrel.choose.deciding import Decision
from cambrel.choose.helping import Helped, helped
from cambrel.choose.later import Later, later
from cambrel.choose.packing import GearShelf
from cambrel.choose.swapping import ways
from cambrel.comparison.race import race
from cambrel.drawings.race import race_drawing
from cambrel.drawings.shapes import Drawing
from cambrel.owners.models import gear_owner
from cambrel.owners.requests import Request

MOST_RACING = 24


def race_of(decision: Decision, key: str) -> Drawing | None:
    """Depth of field against cleanliness for one picture, every rig of every kit; None where there is no such
    picture.
    """
    looked_at = next((task for task in decision.tasks if task.key == key), None)
    if looked_at is None:
        return None
    kits = []
    for kit in decision.kits:
        curves = [
            (f"{body.name}, {lens.name}", curve)
            for rig, (body, lens) in zip(kit.rigs[:MOST_RACING], kit.pairs, strict=False)
            if (curve := race(looked_at.task.brief, rig, decision.conventions)) is not None
        ]
        kits.append(curves)
    return race_drawing(kits, width=1216.0, height=320.0)


def _help(asked: ChooseQuery, request: Request) -> list[Helped] | None:
    *_, (_, found) = helped(asked.decision, gear_owner(request.user), asked.musts)
    return found


def _sure(asked: ChooseQuery, request: Request) -> list[str]:
    return list(asked.decision.sureness())


def _side(asked: ChooseQuery, request: Request) -> BesideRow:
    return side(asked.decision)


def _swap(asked: ChooseQuery, request: Request) -> dict[str, object]:
    found, says = ways(asked.decision)
    return {"ways": found, "says": says}


def _later(asked: ChooseQuery, request: Request) -> Later:
    return later(asked.decision, GearShelf(gear_owner(request.user)), request.GET.get("body", ""))


@dataclass(frozen=True)
class CloserLook:
    """Something that is looked at closer. template: what writes it; see: what it is written from"""

    key: str
    label: str
    template: str
    see: Callable[[ChooseQuery, Request], Any]


LOOKS: dict[str, CloserLook] = {
    look.key: look
    for look in (
        CloserLook("help", "What would help most?", "choose/_help.html", _help),
        CloserLook("sure", "How sure is this?", "choose/_sure.html", _sure),
        CloserLook("side", "Side by side", "choose/_side.html", _side),
        CloserLook("swap", "Zoom or primes?", "choose/_swap.html", _swap),
        CloserLook("later", "What could you keep?", "choose/_later.html", _later),
    )
}
"""What is looked at closer, one at a time."""
