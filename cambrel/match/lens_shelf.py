"""An owner's whole shelf as arrays: worked out once, kept until a recorded change raises the shelf's version."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.fit import LEAST_ROOM_MM
from cambrel.comparison.match import LensTable, lens_table
from cambrel.match.match_query import ShelfTargets
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import Array
from cambrel.owners.latest import Latest
from cambrel.owners.models import User
from cambrel.shelf.models import Adapter, Body, Lens, Mount, OwnFormat
from cambrel.shelf.table import LENSES

FIELDS = ("pk", "fixed_to_id", *(gear_field.key for gear_field in LENSES if gear_field.in_match))


@dataclass(frozen=True)
class LensShelf:
    """The lenses of an owner, as arrays and as rows, and the mounts."""

    rows: list[dict[str, Any]]
    table: LensTable
    weight_g: NDArray[np.float64]
    price: NDArray[np.float64]
    length_mm: NDArray[np.float64]
    circle_mm: NDArray[np.float64]
    mount: NDArray[np.str_]
    currency: NDArray[np.str_]
    stabilised: NDArray[np.float64]
    fixed_to: NDArray[np.int64]
    bodies: list[Body]
    mounts: dict[str, Mount]
    adapters: dict[tuple[str, str], Adapter]
    own_formats: dict[str, tuple[str, Sensor]]
    """Name and size of each of the owner's formats, by the key that stands in an address."""

    @cached_property
    def offered(self) -> ShelfTargets:
        """What Match may be asked about."""
        bodies = {f"body-{body.pk}": body.name for body in self.bodies}
        return ShelfTargets(self.own_formats, bodies, tuple(sorted(set(self.mount.tolist()) - {""})))

    @cached_property
    def lengths_mm(self) -> dict[str, float | None]:
        """How long each lens is, by its name; of several of one name, the first."""
        return {row["name"]: row["length_mm"] for row in reversed(self.rows)}

    @cached_property
    def diagonals_mm(self) -> list[float]:
        """The diagonal of each body's sensor."""
        return [body.sensor().diagonal_mm for body in self.bodies]

    def fits(self, body: Body, with_adapters: bool) -> NDArray[np.bool_]:
        """Which lenses go on a body, as they are or by an adapter without optics."""
        own: NDArray[np.bool_] = self.fixed_to == body.pk
        if own.any():
            return own
        names = {body.mount} | set(self.mounts[body.mount].accepts if body.mount in self.mounts else ())
        if with_adapters:
            names |= self._adaptable(body.mount)
        on = np.zeros(len(self.rows), dtype=bool)
        for name in names - {""}:
            on |= self.with_mount(name)
        fits: NDArray[np.bool_] = on & (self.fixed_to == 0)
        return fits

    def with_mount(self, name: str) -> NDArray[np.bool_]:
        """Which lenses have a mount."""
        places = self._by_mount.get(name)
        return np.zeros(len(self.rows), dtype=bool) if places is None else places

    @cached_property
    def _by_mount(self) -> dict[str, NDArray[np.bool_]]:
        return {str(name): self.mount == name for name in np.unique(self.mount)}

    def _adaptable(self, body_mount: str) -> set[str]:
        targets = {
            lens
            for (lens, body), adapter in self.adapters.items()
            if body == body_mount and adapter.kind == Adapter.PLAIN
        }
        mine = self.mounts.get(body_mount)
        if mine is not None and mine.register_mm is not None:
            for mount in self.mounts.values():
                if mount.register_mm is not None and mount.register_mm - mine.register_mm >= LEAST_ROOM_MM:
                    targets.add(mount.name)
        return targets


def _build(owner: User) -> LensShelf:
    rows = list(Lens.objects.for_owner(owner).order_by("pk").values(*FIELDS))
    lenses = [
        OpticsLens(
            row["focal_min_mm"],
            row["focal_max_mm"],
            tuple((float(f), float(n)) for f, n in row["widest"]),
            row["smallest_f_number"],
            max_magnification=row["max_magnification"],
            close_focus_m=row["close_focus_m"],
            rectilinear=row["rectilinear"],
        )
        for row in rows
    ]

    def numbers(name: str) -> Array:
        return np.array([np.nan if row[name] is None else row[name] for row in rows], dtype=float)

    diagonals = {slug: format_.diagonal_mm for slug, format_ in FORMATS.items()}
    circle = [row["image_circle_mm"] or diagonals.get(row["designed_for"], np.nan) for row in rows]
    return LensShelf(
        rows=rows,
        table=lens_table(lenses),
        weight_g=numbers("weight_g"),
        price=numbers("price"),
        length_mm=numbers("length_mm"),
        circle_mm=np.array(circle, dtype=float),
        mount=np.array([row["mount"] for row in rows], dtype=str),
        currency=np.array([row["currency"] for row in rows], dtype=str),
        stabilised=numbers("stabilised"),
        fixed_to=np.array([row["fixed_to_id"] or 0 for row in rows], dtype=np.int64),
        bodies=list(Body.objects.for_owner(owner).prefetch_related("crop_modes", "fixed_lenses")),
        mounts={mount.name: mount for mount in Mount.objects.for_owner(owner)},
        adapters={(a.lens_mount, a.mount): a for a in Adapter.objects.for_owner(owner)},
        own_formats={
            f"own-{own_format.pk}": (own_format.name, own_format.sensor())
            for own_format in OwnFormat.objects.for_owner(owner)
        },
    )


_SHELVES: Latest[LensShelf] = Latest("shelves", _build, lambda shelf: len(shelf.rows))


def shelf_of(owner: User) -> LensShelf:
    """The shelf of an owner as arrays, from memory while nothing has changed."""
    return _SHELVES.of(owner)
