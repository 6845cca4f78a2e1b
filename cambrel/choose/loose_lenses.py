"""The lenses of a whole shelf as arrays, of which kits could be made otherwise."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from cambrel.choose.musts import TRAITS
from cambrel.choose.packing import taken_by
from cambrel.comparison.lenses import Lenses, lenses_of
from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER
from cambrel.decisions.choice import Piece
from cambrel.owners.latest import Latest
from cambrel.owners.models import User
from cambrel.shelf.models import Lens

FAST = 2.8 * (1 + 1e-9)
"""An f-number that counts as fast."""
COVERED = 1 - 1e-3


@dataclass(frozen=True)
class Loose:
    """The lenses that go on a body and have a mount and straight lines: keys, mounts, figures; a number each."""

    pk: NDArray[np.int64]
    mount: NDArray[np.str_]
    glass: Lenses
    circle_mm: NDArray[np.float64]
    grams: NDArray[np.float64]
    price: NDArray[np.float64]
    currency: NDArray[np.str_]
    traits: Mapping[str, NDArray[np.bool_]]
    """Which of them have what may be asked of a lens, by its key."""
    handling: Sequence[str]

    def with_mounts(self, names: frozenset[str]) -> NDArray[np.bool_]:
        """Which of them have one of some mounts."""
        fits = np.zeros(len(self.pk), dtype=bool)
        for name in names & self._by_mount.keys():
            fits |= self._by_mount[name]
        return fits

    @cached_property
    def _by_mount(self) -> dict[str, NDArray[np.bool_]]:
        return {str(name): self.mount == name for name in np.unique(self.mount)}

    @cached_property
    def _is_fast(self) -> NDArray[np.bool_]:
        slowest = np.exp(self.glass.log_widest.max(axis=1, initial=-np.inf))
        fast: NDArray[np.bool_] = (slowest <= FAST) & (slowest > SMALLEST_POSSIBLE_F_NUMBER)
        return fast

    def fitting(self, bodies: Sequence[Piece[Any]]) -> tuple[int, int, int]:
        """How many of them go on any of some cameras: covering it, only cropped, and fast over their whole range."""
        covering, cropped = (np.zeros(len(self.pk), dtype=bool) for _ in range(2))
        for body in bodies:
            on = self.with_mounts(taken_by(body))
            with np.errstate(invalid="ignore"):
                small = self.circle_mm < body.what.sensor.diagonal_mm * COVERED
            covering |= on & ~small
            cropped |= on & small
        fast = self._is_fast & (covering | cropped)
        return int(covering.sum()), int((cropped & ~covering).sum()), int(fast.sum())


def _build(owner: User) -> Loose:
    records = list(Lens.objects.for_owner(owner).filter(fixed_to=None, rectilinear=True).exclude(mount=""))
    lenses = [record.to_optics() for record in records]

    def numbers(values: list[float | None]) -> NDArray[np.float64]:
        return np.array([np.nan if value is None else value for value in values], dtype=float)

    return Loose(
        np.array([record.pk for record in records], dtype=np.int64),
        np.array([lens.mount for lens in lenses], dtype=str),
        lenses_of(lenses),
        numbers([lens.image_circle_mm for lens in lenses]),
        numbers([lens.weight_g for lens in lenses]),
        numbers([lens.price for lens in lenses]),
        np.array([lens.currency for lens in lenses], dtype=str),
        {key: np.array([trait.of_lens(lens) for lens in lenses], dtype=bool) for key, trait in TRAITS.items()},
        [lens.handling for lens in lenses],
    )


_LOOSE: Latest[Loose] = Latest("loose", _build, lambda loose: len(loose.pk))


def loose_of(owner: User) -> Loose:
    """The loose lenses of an owner, from memory while nothing has changed."""
    return _LOOSE.of(owner)
