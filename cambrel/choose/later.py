"""What of each kit stays useful with another body later: which lenses go on, what they cover and become, and what that keeps."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from cambrel import wording
from cambrel.choose.deciding import Decision
from cambrel.choose.packing import Packed, Shelf
from cambrel.links.choices import Piece
from cambrel.optics.fit import ADAPTABLE, SAME, TAKEN, cover, largest_crop, mount_fit
from cambrel.optics.ranges import equivalent_range
from cambrel.shelf.models import Adapter
from cambrel.shelf.sums import price_of, weight_of

NO_BODY = "There is no camera on the shelf that takes other lenses."


@dataclass(frozen=True)
class Stays:
    """A lens on the later body: whether and how it goes on, what it covers, what it becomes."""

    kit: str
    lens: str
    stays: bool
    mount: str
    cover: str
    becomes: str


@dataclass(frozen=True)
class Later:
    """The bodies one may move to, the one that is looked at, its lenses and what is kept of each kit."""

    bodies: list[tuple[str, str]]
    chosen: str
    rows: list[Stays]
    says: list[str]


def later(decision: Decision, shelf: Shelf, asked: str) -> Later:
    """What stays of each kit with a body of the shelf.

    Parameters
        asked: the key of the body; the first one for any other
    """
    bodies = [one for one in shelf.bodies() if not one.fixed and one.what.mount]
    if not bodies:
        return Later([], "", [], [NO_BODY])
    body = next((one for one in bodies if one.key == asked), bodies[0])
    adapters = {
        (one.lens_mount, one.mount): one.kind
        for one in Adapter.objects.for_owner(shelf.owner).filter(mount=body.what.mount)
    }
    rows, says = [], []
    for kit in decision.kits:
        found = [(lens, _stays(kit, lens, body, shelf, adapters, decision)) for lens in kit.loose]
        rows += [one for _, one in found]
        says.append(_kept(kit, body, [lens for lens, one in found if one.stays]))
    return Later([(one.key, one.name) for one in bodies], body.key, rows, says)


def _stays(
    kit: Packed, lens: Piece[Any], body: Piece[Any], shelf: Shelf, adapters: dict[Any, str], decision: Decision
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
        return Stays(kit.name, lens.name, False, "does not go on", "", "falls away")
    mounted = "goes on" if fit.word in (SAME, TAKEN) else "with an adapter"
    found = equivalent_range(what, body.what.sensor, by=decision.conventions.crop_by)
    becomes = "unknown"
    if found.equivalent_min_mm and found.equivalent_max_mm:
        becomes = wording.focal_range(found.equivalent_min_mm, found.equivalent_max_mm)
        if found.f_number_short and found.f_number_long:
            becomes += f" {wording.f_number_range(found.f_number_short, found.f_number_long)}"
    return Stays(kit.name, lens.name, True, mounted, _covered(what, body), becomes)


def _covered(lens: Any, body: Piece[Any]) -> str:
    if lens.image_circle_mm is None:
        return "cover unknown"
    sensor = body.what.sensor
    covered = cover(sensor, lens.image_circle_mm)
    if covered.share > 0.999:
        return "covers"
    left = largest_crop(sensor, lens.image_circle_mm)
    pixels = f", {wording.megapixels(left.pixels)} left" if left.pixels is not None else ""
    return f"covers {wording.share(covered.share)}{pixels}"


def _kept(kit: Packed, body: Piece[Any], staying: list[Piece[Any]]) -> str:
    """What money and weight stays."""
    if not staying:
        return f"{kit.name}: no lens stays with {body.name}."
    kept = [one.what for one in staying]
    count = "its one lens stays" if len(kit.loose) == 1 else f"{len(staying)} of {len(kit.loose)} lenses stay"
    return f"{kit.name}: {count} with {body.name}, which keeps {weight_of(kept)} and {price_of(kept)}."
