"""Kits as they are packed of a shelf, with the rigs that can be made of them, and what one thing more from the shelf would turn."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import nan
from typing import Any

from cambrel import wording
from cambrel.fields import whole
from cambrel.optics.brief import Conventions
from cambrel.optics.choosing import Addition, Change, Picture, changes
from cambrel.optics.ranges import equivalent_range, spans
from cambrel.optics.rig import Rig
from cambrel.shelf.gear import body_of, registers_of
from cambrel.shelf.kits import goes_on
from cambrel.shelf.models import Body, Lens, Mount
from cambrel.shelf.sums import price_of, weight_of

MOST_KITS = 6


class Packed:
    """A kit with the rigs that can be made of it, in the order of their names; with more that is not bought yet, as it would be."""

    def __init__(self, record: Any, mounts: Any, registers: Any, more: Sequence[Any] = ()) -> None:
        self.record, self.more = record, more
        self.name = " + ".join([record.name, *(one.name for one in more)])
        bodies = [
            *record.bodies.prefetch_related("fixed_lenses", "crop_modes"),
            *(one for one in more if isinstance(one, Body)),
        ]
        loose = [*record.lenses.all(), *(one for one in more if isinstance(one, Lens))]
        lenses = [*loose, *(lens for body in bodies for lens in body.fixed_lenses.all())]
        self.bodies, self.loose = bodies, loose
        pairs = sorted(
            ((body, lens) for body in bodies for lens in lenses if lens.rectilinear and goes_on(lens, body, mounts)),
            key=lambda pair: (pair[0].name, pair[1].name, pair[0].pk, pair[1].pk),
        )
        self.pairs = pairs
        self.rigs = [Rig(body_of(body, registers), lens.to_optics()) for body, lens in pairs]
        carried = [*bodies, *loose, *record.supports.all()]
        self.weight, self.price = weight_of(carried), price_of(carried)
        # a sum with a part that is not known compares with nothing
        self.grams = sum(nan if one.weight_g is None else one.weight_g for one in carried)
        self.cost = sum(nan if one.price is None else one.price for one in carried)
        currencies = {one.currency for one in carried if one.price}
        self.currency = min(currencies, default="")
        if len(currencies) > 1:
            self.cost = nan

    def covers(self, conventions: Conventions) -> str:
        """The equivalent focal lengths that its lenses cover, with their gaps."""
        found = [equivalent_range(rig.lens, rig.body.sensor, by=conventions.crop_by) for rig in self.rigs]
        known = [
            (one.equivalent_min_mm, one.equivalent_max_mm)
            for one in found
            if one.equivalent_min_mm and one.equivalent_max_mm
        ]
        return ", ".join(wording.focal_range(low, high) for low, high in _together(known))


def _together(ranges: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """The stretches that ranges cover, gaps between them."""
    found: list[tuple[float, float]] = []
    for span in spans(ranges):
        if not span.lenses:
            continue
        if found and span.low_mm <= found[-1][1] * (1 + 1e-9):
            found[-1] = (found[-1][0], span.high_mm)
        else:
            found.append((span.low_mm, span.high_mm))
    return found


@dataclass(frozen=True)
class Help:
    """A change that would help a kit: what is added, what it turns, and what it weighs and costs."""

    name: str
    gain: str
    weight: str
    price: str
    is_undominated: bool
    token: str


MOST_OFFERED = 25_000


class Gear:
    """The gear of a shelf, as kits are packed of it."""

    def __init__(self, owner: Any) -> None:
        self.owner = owner
        self.mounts = {mount.name: mount for mount in Mount.objects.for_owner(owner)}
        self.registers = registers_of(owner)

    def packed(self, records: Any, what_if: Sequence[str]) -> list[Packed]:
        """The kits, and after them those as they would be with one thing more: {kit}-lens-{key} or {kit}-body-{key}."""
        found = [Packed(record, self.mounts, self.registers) for record in records[:MOST_KITS]]
        by_key = {str(kit.record.pk): kit.record for kit in found}
        for text in what_if[: MOST_KITS - len(found)]:
            kit, _, rest = text.partition("-")
            kind, _, key = rest.partition("-")
            model = {"lens": Lens, "body": Body}.get(kind)
            number = whole(key)
            if model is None or number is None or kit not in by_key:
                continue
            one = model.objects.for_owner(self.owner).filter(pk=number).first()
            if one is not None:
                found.append(Packed(by_key[kit], self.mounts, self.registers, [one]))
        return found

    def helps(self, kit: Packed, pictures: Sequence[Picture], conventions: Conventions) -> list[Help]:
        """The single additions from the shelf that turn most of the pictures for a kit."""
        mounts = {body.mount for body in kit.bodies if body.mount}
        taken = mounts | {name for mount in mounts if mount in self.mounts for name in self.mounts[mount].accepts}
        there = {lens.pk for lens in kit.loose}
        records: list[Any] = []
        for lens in Lens.objects.for_owner(self.owner).filter(fixed_to=None, rectilinear=True, mount__in=taken)[
            :MOST_OFFERED
        ]:
            if lens.pk not in there:
                records.append((lens, [(body, lens) for body in kit.bodies if goes_on(lens, body, self.mounts)]))
        have = {body.pk for body in kit.bodies}
        for body in Body.objects.for_owner(self.owner).prefetch_related("fixed_lenses", "crop_modes")[:MOST_OFFERED]:
            if body.pk not in have:
                pairs = [
                    (body, lens) for lens in (*kit.loose, *body.fixed_lenses.all()) if goes_on(lens, body, self.mounts)
                ]
                records.append((body, pairs))
        made: dict[Any, Any] = {}

        def of(body: Any) -> Any:
            if body.pk not in made:
                made[body.pk] = body_of(body, self.registers)
            return made[body.pk]

        offered = [(record, pairs) for record, pairs in records if pairs]
        additions = [
            Addition(
                [Rig(of(body), lens.to_optics()) for body, lens in pairs],
                nan if record.weight_g is None else record.weight_g,
                nan if record.price is None else record.price,
                record.currency,
            )
            for record, pairs in offered
        ]
        found = changes(pictures, kit.rigs, additions, conventions)
        return [self._help(kit, offered[one.index][0], one) for one in found]

    def _help(self, kit: Packed, record: Any, change: Change) -> Help:
        kind = "lens" if isinstance(record, Lens) else "body"
        return Help(
            record.name,
            wording.share(change.gain),
            "unknown" if record.weight_g is None else wording.mass(record.weight_g),
            "unknown" if record.price is None else wording.money(record.price, record.currency),
            change.is_undominated,
            f"{kit.record.pk}-{kind}-{record.pk}",
        )
