"""Kits as they are packed of a shelf or came by a link, and the rigs that can be made of them."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace
from functools import cached_property
from math import nan
from typing import Any

from cambrel import wording
from cambrel.bounds.names import LONGEST_NAME, shortened
from cambrel.choose.musts import Musts
from cambrel.comparison.brief import Conventions
from cambrel.comparison.ranges import equivalent_range
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.decisions.choice import Adapter, KitBag, Piece, Support
from cambrel.decisions.costs import Worth
from cambrel.decisions.offers import KitRigs, Thing
from cambrel.inputs.fields import whole
from cambrel.links.benches import decode_gear, encode_gear
from cambrel.links.codec import LinkError
from cambrel.owners.models import User
from cambrel.shelf.models import Adapter as AdapterRecord
from cambrel.shelf.models import Body as BodyRecord
from cambrel.shelf.models import Kit, Mount
from cambrel.shelf.models import Lens as LensRecord
from cambrel.shelf.models import Support as SupportRecord
from cambrel.shelf.sums import price_of, weight_of
from cambrel.shelf.typed import typed_gear
from cambrel.shelf.views.gear_choice import body_of, registers_of

HELD_BY_KITS = ("bodies__fixed_lenses", "bodies__crop_modes", "lenses", "adapters", "supports")
MOST_CHANGED = 12
"""What-if kits that an address may ask for."""


def taken_by(body: Piece[Body], adapters: Sequence[Piece[Adapter]] = ()) -> frozenset[str]:
    """The mounts whose lenses go on a body, as they are or with one of some adapters."""
    rings = {adapter.what.lens_mount for adapter in adapters if adapter.what.mount == body.what.mount}
    return frozenset() if body.fixed else frozenset({body.what.mount, *body.accepts, *rings} - {""})


class Packed:
    """A kit with the rigs that can be made of it, in the order of their names; those alone that have what the
    photographer must have.
    """

    def __init__(self, bag: KitBag, musts: Musts | None = None) -> None:
        self.bag, self.name, self.key = bag, bag.name, bag.key
        self.bodies = [piece for piece in bag.pieces if isinstance(piece.what, Body)]
        self.loose = [piece for piece in bag.pieces if isinstance(piece.what, Lens)]
        self.adapters = [piece for piece in bag.pieces if isinstance(piece.what, Adapter)]
        self.supports = [piece for piece in bag.pieces if isinstance(piece.what, Support)]
        pairs = sorted(pairs_of(self.bodies, self.loose, self.adapters), key=lambda pair: (pair[0].name, pair[1].name))
        made = [(pair, Rig(pair[0].what, pair[1].what)) for pair in pairs]
        kept = [(pair, rig) for pair, rig in made if musts is None or musts.rig(rig)]
        self.pairs = [pair for pair, _ in kept]
        self.rigs = [rig for _, rig in kept]
        self.price = price_of(self.carried)

    @property
    def carried(self) -> list[Any]:
        return [piece.what for piece in self.bag.pieces]

    @property
    def things(self) -> list[Piece[Any]]:
        """What a change may put another thing in the place of."""
        return [*self.bodies, *self.loose]

    @cached_property
    def optics(self) -> KitRigs:
        """The kit as what may be changed of it is worked out."""
        number = {id(piece): index for index, piece in enumerate(self.things)}
        made_of = [frozenset(number[id(piece)] for piece in pair if id(piece) in number) for pair in self.pairs]
        return KitRigs(self.rigs, [thing_of(thing) for thing in self.things], made_of)

    def weighs(self, needed: Collection[str]) -> float:
        """Bodies, lenses and the supports of the kinds that are needed [g]; NaN where one is not known, as that
        compares with nothing.
        """
        return _sum([piece.what.weight_g for piece in self.taken(needed)])

    @property
    def currency(self) -> str:
        return min(self._currencies, default="")

    @property
    def _currencies(self) -> set[str]:
        return {thing.currency for thing in self.carried if thing.price}

    @property
    def cost(self) -> float:
        """Of all of it; NaN where a price is not known or there is more than one currency."""
        return nan if len(self._currencies) > 1 else _sum([thing.price for thing in self.carried])

    def weight_said(self, needed: Collection[str]) -> str:
        """What all that is carried weighs, and apart of that bodies, lenses and supports."""
        taken = self.taken(needed)
        words = (("body", "bodies"), ("lens", "lenses"), ("adapter", "adapters"), ("support", "supports"))
        groups = [(single, many, [piece.what for piece in taken if piece.kind == single]) for single, many in words]
        parts = [f"{single if len(group) == 1 else many} {weight_of(group)}" for single, many, group in groups if group]
        return (
            f"{weight_of([piece.what for piece in taken])}: {', '.join(parts)}" if len(parts) > 1 else ", ".join(parts)
        )

    def taken(self, needed: Collection[str]) -> list[Piece[Any]]:
        """What is carried, of supports those of the kinds that are needed."""
        return [piece for piece in self.bag.pieces if not isinstance(piece.what, Support) or piece.what.kind in needed]

    def covers(self, conventions: Conventions) -> str:
        """The equivalent focal lengths that its lenses cover, with their gaps."""
        return ", ".join(wording.focal_range(low, high) for low, high in self.stretches(conventions))

    def stretches(self, conventions: Conventions) -> list[tuple[float, float]]:
        """The same [mm]."""
        ranges = [equivalent_range(rig.lens, rig.body.sensor, by=conventions.crop_by) for rig in self.rigs]
        known = [(span.equivalent_min_mm, span.equivalent_max_mm) for span in ranges]
        return _together([(low, high) for low, high in known if low and high])


def pairs_of(
    bodies: Sequence[Piece[Any]], loose: Sequence[Piece[Any]], adapters: Sequence[Piece[Adapter]] = ()
) -> Iterator[tuple[Piece[Body], Piece[Lens]]]:
    """Each body with each lens that goes on it, but no fisheye."""
    for body in bodies:
        on = [lens for lens in loose if lens.what.mount in taken_by(body, adapters)]
        yield from ((body, lens) for lens in (*on, *body.fixed) if lens.what.rectilinear)


def thing_of(piece: Piece[Any]) -> Thing:
    what = piece.what
    return Thing(
        isinstance(what, Body),
        nan if what.weight_g is None else what.weight_g,
        nan if what.price is None else what.price,
        what.currency,
    )


def _sum(values: list[float | None]) -> float:
    return sum(nan if value is None else value for value in values)


def _together(ranges: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """The stretches that ranges cover, gaps between them; a single focal length that none of them reaches stands by
    itself.
    """
    joined: list[tuple[float, float]] = []
    for low, high in sorted(ranges):
        if joined and low <= joined[-1][1] * (1 + 1e-9):
            joined[-1] = (joined[-1][0], max(joined[-1][1], high))
        else:
            joined.append((low, high))
    return joined


class GearShelf:
    """The gear of an owner, by value."""

    def __init__(self, owner: User) -> None:
        self.owner = owner
        self.accepts = {mount.name: tuple(mount.accepts) for mount in Mount.objects.for_owner(owner)}
        self.registers = registers_of(owner)

    def piece(self, record: BodyRecord | LensRecord | AdapterRecord | SupportRecord) -> Piece[Any]:
        """A record by value."""
        key = f"{type(record).__name__.lower()}-{record.pk}"
        if isinstance(record, SupportRecord):
            what = Support(record.kind, record.weight_g, record.price, record.currency, record.payload_g)
            return Piece(record.name, what, key=key)
        if isinstance(record, AdapterRecord):
            ring = Adapter(record.lens_mount, record.mount, record.weight_g, record.price, record.currency)
            return Piece(record.name, ring, key=key)
        if isinstance(record, LensRecord):
            return Piece(record.name, record.to_optics(), key=key)
        fixed = tuple(Piece(lens.name, lens.to_optics()) for lens in record.fixed_lenses.all())
        return Piece(record.name, body_of(record, self.registers), self.accepts.get(record.mount, ()), fixed, key)

    def bag(self, record: Kit) -> KitBag:
        """A kit by value; quickest of records that were fetched with what they hold, HELD_BY_KITS."""
        loose = [lens for lens in record.lenses.all() if lens.fixed_to_id is None]
        held = [*record.bodies.all(), *loose, *record.adapters.all(), *record.supports.all()]
        return KitBag(record.name, tuple(map(self.piece, held)), record.note, str(record.pk))

    def worth(self, piece: Piece[Any] | None) -> Worth | None:
        """What a piece costs and brings, as far as its record says; of one that came by value, its price alone."""
        if piece is None:
            return None
        kind, _, key = piece.key.partition("-")
        model = {"lens": LensRecord, "body": BodyRecord}.get(kind)
        record = model.objects.for_owner(self.owner).filter(pk=whole(key, 0)).first() if model else None
        said = piece.what if record is None else record
        figures = (said.price, *(getattr(said, name, None) for name in ("used_price", "resale_price", "rent_a_day")))
        return Worth(piece.name, said.currency, *(nan if figure is None else figure for figure in figures))

    def bodies(self) -> list[Piece[Any]]:
        """All cameras of the shelf."""
        return [
            self.piece(body_record)
            for body_record in BodyRecord.objects.for_owner(self.owner).prefetch_related("fixed_lenses", "crop_modes")
        ]

    def called(self, text: str) -> str | None:
        """The key of the lens or camera that is called so, or the only one with it in its name, or what states these
        figures; None for nothing.
        """
        for lookup in ("iexact", "icontains"):
            records = [
                piece
                for model in (LensRecord.objects.filter(fixed_to=None), BodyRecord.objects)
                for piece in model.filter(owner=self.owner, **{f"name__{lookup}": text})[:2]
            ]
            if len(records) == 1 or (records and lookup == "iexact"):
                return self.piece(records[0]).key
        for kind in ("lens", "body"):
            gear, _ = typed_gear(kind, text, self.owner)
            if gear is not None:
                return f"gear-{encode_gear(gear)}"
        return None

    def thing(self, key: str) -> Piece[Any] | None:
        """A camera or a lens by its key, {kind}-{number}, or gear by value, gear-{token}."""
        kind, _, rest = key.partition("-")
        if kind == "gear":
            return _typed(rest)
        model = {"lens": LensRecord, "body": BodyRecord}.get(kind)
        number = whole(rest)
        if model is None or number is None:
            return None
        record = model.objects.for_owner(self.owner).filter(pk=number).first()
        return None if record is None else self.piece(record)


def _typed(token: str) -> Piece[Any] | None:
    """Gear that is on no shelf."""
    try:
        gear = decode_gear(token)
    except LinkError:
        return None
    if gear.lens is not None and gear.body is None:
        return Piece(gear.lens_name, gear.lens, key=f"gear-{token}")
    return None if gear.body is None else Piece(gear.body_name, gear.body, key=f"gear-{token}")


def changed(bag: KitBag, goes: Piece[Any] | None, comes: Piece[Any] | None) -> KitBag:
    """A kit as it would be with one thing less and one more; a lens that says no mount is one for the kit's first
    camera.
    """
    pieces = [piece for piece in bag.pieces if piece is not goes]
    if comes is not None and isinstance(comes.what, Lens) and not comes.what.mount:
        mounts = [piece.what.mount for piece in bag.pieces if isinstance(piece.what, Body) and piece.what.mount]
        comes = replace(comes, what=replace(comes.what, mount=mounts[0] if mounts else ""))
    name = shortened(
        bag.name + (f" + {comes.name}" if comes else "") + (f" − {goes.name}" if goes else ""), LONGEST_NAME
    )
    return KitBag(name, (*pieces, *([comes] if comes else [])), bag.note, f"{bag.key}*")


def what_if(bags: Sequence[KitBag], asked: Sequence[str], shelf: GearShelf) -> Iterator[tuple[str, KitBag]]:
    """The kits as they would be, each under how it was asked for: {kit}:{what goes}:{what comes}, either of them
    empty.
    """
    by_key = {bag.key: bag for bag in bags}
    for text in asked[:MOST_CHANGED]:
        kit, _, rest = text.partition(":")
        goes_key, _, comes_key = rest.partition(":")
        bag = by_key.get(kit)
        if bag is None or not (goes_key or comes_key):
            continue
        goes = next((piece for piece in bag.pieces if piece.key == goes_key), None) if goes_key else None
        comes = shelf.thing(comes_key) if comes_key else None
        if (goes_key and goes is None) or (comes_key and comes is None):
            continue
        yield text, changed(bag, goes, comes)


def by_value(bags: Sequence[KitBag]) -> list[KitBag]:
    """Kits that came by a link, each with its things told apart by their places."""
    return [
        replace(
            bag,
            key=f"v{number}",
            pieces=tuple(replace(piece, key=f"{piece.kind}-v{index}") for index, piece in enumerate(bag.pieces)),
        )
        for number, bag in enumerate(bags)
    ]
