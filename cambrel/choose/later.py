"""What of each kit stays with another body later: which lenses go on and cover it, what they become, and what that
keeps.

A lens stays where it goes on by its mount or an adapter of the shelf, and covers the sensor.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Any

from cambrel import wording
from cambrel.choose.deciding import Decision
from cambrel.choose.packing import GearShelf, Packed
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.fit import ADAPTABLE, COVERS, SAME, TAKEN, Dark, cover, largest_crop, mount_fit
from cambrel.comparison.ranges import equivalent_range
from cambrel.decisions.choice import Piece
from cambrel.shelf.models import Adapter
from cambrel.shelf.sums import price_of, weight_of

NO_BODY = "No camera on the shelf takes other lenses."


@dataclass(frozen=True)
class Stays:
    """A lens on the later body: how it goes on, what it covers, what it becomes there; and why it does not stay, empty
    where it does.
    """

    kit: str
    lens: str
    mount: str
    cover: str
    becomes: str
    lost: str

    @property
    def stays(self) -> bool:
        return not self.lost


@dataclass(frozen=True)
class Later:
    """The bodies one may move to, the one that is looked at, its lenses and what is kept of each kit."""

    bodies: list[tuple[str, str]]
    chosen: str
    rows: list[Stays]
    says: list[str]


def later(decision: Decision, shelf: GearShelf, asked: str) -> Later:
    """What stays of each kit with a body of the shelf.

    Parameters
        asked: the key of the body; the first one for any other
    """
    bodies = [body_piece for body_piece in shelf.bodies() if not body_piece.fixed and body_piece.what.mount]
    if not bodies:
        return Later([], "", [], [NO_BODY])
    body = next((candidate for candidate in bodies if candidate.key == asked), bodies[0])
    adapters = {
        (adapter.lens_mount, adapter.mount): adapter.kind
        for adapter in Adapter.objects.for_owner(shelf.owner).filter(mount=body.what.mount)
    }
    rows, says = [], []
    for kit in decision.kits:
        stays = [(lens, _stays(kit, lens, body, shelf, adapters, decision)) for lens in kit.loose]
        rows += [row for _, row in stays]
        says.append(_kept(kit, body, stays))
    return Later([(choice.key, choice.name) for choice in bodies], body.key, rows, says)


def _stays(
    kit: Packed, lens: Piece[Any], body: Piece[Any], shelf: GearShelf, adapters: dict[Any, str], decision: Decision
) -> Stays:
    what: Any = lens.what
    fit = mount_fit(
        what.mount,
        body.what.mount,
        accepts=what.mount in body.accepts,
        lens_register_mm=shelf.registers.get(what.mount),
        body_register_mm=shelf.registers.get(body.what.mount),
        adapter=adapters.get((what.mount, body.what.mount), ""),
    )
    if fit.word not in (SAME, TAKEN, ADAPTABLE):
        return Stays(kit.name, lens.name, "does not fit", "", "drops out", "{n} do{es} not fit")
    mounted, lost = "fits", ""
    if fit.word is ADAPTABLE:
        mounted = "with an adapter"
        if (what.mount, body.what.mount) not in adapters:
            mounted, lost = (
                "with an adapter, none on the shelf",
                "{n} would fit with an adapter that is not on the shelf",
            )
    covered, word = _covered(what, body)
    if word is not COVERS:
        lost = lost or "{n} cover{s} only a part of its sensor"
    equivalent = equivalent_range(what, body.what.sensor, by=decision.conventions.crop_by)
    becomes = "unknown"
    if equivalent.equivalent_min_mm and equivalent.equivalent_max_mm:
        becomes = wording.focal_range(equivalent.equivalent_min_mm, equivalent.equivalent_max_mm)
        if equivalent.f_number_short and equivalent.f_number_long:
            becomes += f" {wording.f_number_range(equivalent.f_number_short, equivalent.f_number_long)}"
    return Stays(kit.name, lens.name, mounted, covered, becomes, lost)


def _covered(lens: OpticsLens, body: Piece[Any]) -> tuple[str, Dark]:
    """How much of the later sensor its image circle covers; one that is not known is taken to cover it."""
    if lens.image_circle_mm is None:
        return "cover unknown", COVERS
    sensor = body.what.sensor
    covered = cover(sensor, lens.image_circle_mm)
    if covered.word is COVERS:
        return "covers", COVERS
    left = largest_crop(sensor, lens.image_circle_mm)
    pixels = f", {wording.megapixels(left.pixels)} left" if left.pixels is not None else ""
    return f"covers {wording.share(covered.share)}{pixels}", covered.word


def _kept(kit: Packed, body: Piece[Any], found: list[tuple[Piece[Any], Stays]]) -> str:
    """What stays as it was, with its money and weight, and what becomes of the others."""
    kept = [lens.what for lens, stay in found if stay.stays]
    lost = Counter(loss.lost for _, loss in found if loss.lost)
    if not kept:
        text = f"no lens can be kept with {body.name}"
    elif len(found) == 1:
        text = f"its one lens can be kept with {body.name}"
    else:
        text = f"{len(kept)} of {len(found)} lenses can be kept with {body.name}"
    if kept:
        text += f", which keeps {weight_of(kept)} and {price_of(kept)}"
    whys = [why.format(n=n, es="es" if n == 1 else "", s="s" if n == 1 else "") for why, n in lost.items()]
    rest = f" {'; '.join(whys)}." if whys else ""
    return f"{kit.name}: {text}.{rest}"
