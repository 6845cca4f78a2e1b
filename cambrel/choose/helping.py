"""What one change from the shelf would turn for a kit: looked for in steps, so that it can be watched and left, and
kept until the shelf changes.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Generator
from contextlib import nullcontext
from dataclasses import dataclass
from hashlib import sha256
from math import inf, nan
from typing import Any

import numpy as np
from django.core.cache import cache

from cambrel import wording
from cambrel.bounds.lanes import OverrunError
from cambrel.choose.deciding import Decision
from cambrel.choose.loose_lenses import Loose, loose_of
from cambrel.choose.musts import TRAITS, Musts
from cambrel.choose.packing import GearShelf, Packed, pairs_of, taken_by, thing_of
from cambrel.comparison.lenses import lenses_of
from cambrel.comparison.rig import Lens, Rig
from cambrel.decisions.changes import KitChange, TellingChanges, search
from cambrel.decisions.choice import Piece
from cambrel.decisions.costs import change_costs
from cambrel.decisions.offers import AddedThings
from cambrel.decisions.sureness import falls_by, lifted_by
from cambrel.links.choices import encode_choice
from cambrel.optics.quantities import Flags, Ints, is_unknown
from cambrel.owners.models import User
from cambrel.owners.undo import shelf_version
from cambrel.owners.work import work_at

LANE = work_at("helping")
KEPT_S = 3600
MOST_TRIED = 2000
"""Lenses of a shelf for which it is tried how sure staying is."""


@dataclass(frozen=True)
class Help:
    """A change that would help a kit: what it is, what it turns, what it weighs and costs more, and how it is tried."""

    name: str
    gain: str
    weight: str
    price: str
    per_gram: str
    per_price: str
    is_undominated: bool
    token: str
    costs: tuple[str, ...] = ()
    """What it costs used, after selling, and against renting, as far as the shelf says."""


@dataclass(frozen=True)
class Helped:
    """A kit with the changes that would help it, how staying compares, and what the musts cost it."""

    kit: str
    turning: list[Help]
    lighter: list[Help]
    says: str
    sure: str
    musts_cost: str

    @property
    def groups(self) -> tuple[list[Help], list[Help]]:
        return self.turning, self.lighter


def helped(
    decision: Decision, owner: User, musts: Musts, *, is_alone: bool = False
) -> Generator[tuple[float, list[Helped] | None], None, None]:
    """What would help each of the kits; after each step what share is done, at the end with what was found.

    Parameters
        is_alone: it is in a process of its own, whose turn was waited for already
    """
    key = _key(decision, owner, musts)
    known = cache.get(key)
    if known is not None:
        yield 1.0, known
        return
    with nullcontext(time.monotonic() + LANE.door.seconds) if is_alone else LANE.turn() as until:
        known = cache.get(key)  # somebody may have asked for the same
        if known is None:
            shelf, loose = GearShelf(owner), loose_of(owner)
            kits = [kit for kit in decision.kits if not kit.key.endswith("*")]
            known = []
            for number, kit in enumerate(kits):
                offers = _Offers(kit, shelf, loose, musts, decision.needed)
                steps = search(decision.pictures, kit.optics, offers.offered, offers.rigs_of, decision.conventions)
                for done, found in steps:
                    if time.monotonic() > until:
                        raise OverrunError(LANE.door.says)
                    if found is None:
                        yield (number + done) / len(kits), None
                    else:
                        known.append(offers.helped(found, decision))
            cache.set(key, known, KEPT_S)
    yield 1.0, known


def _key(decision: Decision, owner: User, musts: Musts) -> str:
    # kits of a link are the same by value as those of the shelf, and are tried under other keys
    keys = " ".join(kit.key for kit in decision.kits)
    asked = sha256(f"{encode_choice(decision.choice)} {musts} {keys}".encode()).hexdigest()
    return f"choose:{owner.pk}:{owner.date_joined.timestamp()}:{shelf_version(owner)}:{asked}"


class _Offers:
    """What a shelf offers a kit."""

    def __init__(self, kit: Packed, shelf: GearShelf, loose: Loose, musts: Musts, needed: frozenset[str]) -> None:
        self.kit, self.shelf, self.musts, self.needed = kit, shelf, musts, needed
        there = {piece.key for piece in kit.things}
        self.bodies = [body for body in shelf.bodies() if body.key not in there]
        glass, lens, back, thing = loose.glass, [], [], []
        fresh = ~np.isin(
            loose.pk, [int(key.partition("-")[2]) for key in there if key.startswith("lens-") and key[5:].isdigit()]
        )
        goes = [loose.with_mounts(taken_by(body, kit.adapters)) & fresh for body in kit.bodies]
        any_on = np.logical_or.reduce(goes) if goes else np.zeros(len(loose.pk), dtype=bool)
        number = np.cumsum(any_on) - 1
        wanted = np.zeros(int(any_on.sum()), dtype=bool)
        for index, (body, on) in enumerate(zip(kit.bodies, goes, strict=True)):
            at = np.flatnonzero(on)
            lens.append(at)
            back.append(np.full(len(at), index))
            thing.append(number[at])
            wanted[number[at]] |= self._has(body, loose, at)
        self.lenses = loose.pk[any_on].tolist()
        backs = [Rig(body.what, Lens()) for body in kit.bodies]
        of_bodies: list[Any] = []
        for place, body in enumerate(self.bodies):
            for _, fitted in pairs_of([body], kit.loose, kit.adapters):
                lens.append(np.array([len(glass) + len(of_bodies)]))
                back.append(np.array([len(backs)]))
                thing.append(np.array([len(self.lenses) + place]))
                of_bodies.append(fitted.what)
            backs.append(Rig(body.what, Lens()))
        if of_bodies:
            glass = glass.beside(lenses_of(of_bodies)) if len(glass) else lenses_of(of_bodies)
        bodies = [thing_of(body) for body in self.bodies]
        self.offered = AddedThings(
            backs, glass, _joined(lens), _joined(back), _joined(thing),
            np.concatenate([loose.grams[any_on], [body.grams for body in bodies]]),
            np.concatenate([loose.price[any_on], [body.price for body in bodies]]),
            np.concatenate([loose.currency[any_on], np.array([body.currency for body in bodies], dtype=str)]),
            np.concatenate([np.zeros(len(self.lenses), dtype=bool), np.ones(len(bodies), dtype=bool)]),
            np.concatenate([wanted,
                np.array([any(map(musts.rig, self._rigs(body))) for body in self.bodies], dtype=bool)]),
            *self._rooms(),
        )  # fmt: skip

    def _has(self, body: Piece[Any], loose: Loose, at: Ints) -> Flags:
        """Which lenses make a rig with a body that has what it must."""
        musts = self.musts
        ok = np.full(len(at), not musts.mount or body.what.mount == musts.mount)
        if musts.is_stabilised:
            ok &= bool(body.what.stabilisation_stops) | (loose.glass.stabilised[at] > 0)
        for key in musts.traits:
            ok &= TRAITS[key].of_body(body.what) & loose.traits[key][at]
        if musts.handling:
            ok &= np.array([musts.handled(body.what.handling, loose.handling[number]) for number in at], dtype=bool)
        if musts.carries_g is not None:
            grams = nan if body.what.weight_g is None else body.what.weight_g
            ok &= loose.grams[at] + grams <= musts.carries_g
        return ok

    def _rooms(self) -> tuple[float, float]:
        most, price = self.musts.most_g, self.musts.most_price
        same = self.kit.currency == self.musts.currency
        return (
            inf if most is None else most - self.kit.weighs(self.needed),
            inf if price is None else price - self.kit.cost if same else -inf,
        )

    def _rigs(self, piece: Piece[Any]) -> list[Rig]:
        """The rigs that a thing makes with what is in the kit."""
        if isinstance(piece.what, Lens):
            pairs = pairs_of([body for body in self.kit.bodies if not body.fixed], [piece], self.kit.adapters)
        else:
            pairs = pairs_of([piece], self.kit.loose, self.kit.adapters)
        return [Rig(body.what, lens.what) for body, lens in pairs]

    def piece(self, thing: int) -> Piece[Any] | None:
        if thing >= len(self.lenses):
            return self.bodies[thing - len(self.lenses)]
        return self.shelf.thing(f"lens-{self.lenses[thing]}")

    def rigs_of(self, thing: int) -> list[Rig]:
        piece = self.piece(thing)
        rigs = [] if piece is None else self._rigs(piece)
        return [rig for rig in rigs if self.musts.rig(rig)] or rigs

    def _sure(self, found: TellingChanges, decision: Decision) -> str:
        """How sure the first change is, or staying where there is none."""
        pictures, terms = decision.pictures, decision.conventions
        if found.turning:
            first = found.turning[0]
            rest = self.kit.rigs if first.goes is None else self.kit.optics.without(first.goes)
            comes = [] if first.comes is None else self.rigs_of(first.comes)
            falls = next(falls_by(pictures, self.kit.rigs, [*rest, *comes], terms), None)
            name = self._help(first).name
            return (
                f"Could go either way: {decision.named(falls)} {name} wins no more than 5%."
                if falls
                else f"Sure: {name} helps, whatever was changed."
            )
        if found.lighter or len(self.offered.lens) > MOST_TRIED:
            return ""
        lifted = next(lifted_by(pictures, self.kit.optics, self.offered, self.rigs_of, terms), None)
        if lifted:
            return f"Could go either way: {decision.named(lifted)} one change would win more than 5%."
        return "Sure: nothing wins more than 5%, whatever was changed."

    def helped(self, found: TellingChanges, decision: Decision) -> Helped:
        turning = [self._help(change) for change in found.turning]
        lighter = [self._help(change) for change in found.lighter]
        says = ""
        out = self.musts.kit(self.kit.weighs(self.needed), self.kit.cost, self.kit.currency)
        if out:
            says = f"It is out: {out}." + ("" if turning or lighter else " No single change brings it back in.")
        elif lighter and not turning:
            says = self._swap(found.lighter[0])
        elif not turning:
            says = "Stay: no single change from the shelf wins more than 5% of these pictures."
        cost = ""
        if found.unwanted is not None:
            most = self._help(found.unwanted)
            cost = f"The must-haves have a price. Without them {most.name} would win {most.gain}"
            cost += f", with them {turning[0].gain} is the most." if turning else ", with them nothing does."
        return Helped(self.kit.name, turning, lighter, says, self._sure(found, decision), cost)

    def _swap(self, change: KitChange) -> str:
        """What is given up for nothing but weight."""
        comes = None if change.comes is None else self.piece(change.comes)
        goes = None if change.goes is None else self.kit.things[change.goes]
        left = "" if goes is None else goes.name
        do = f"Swap {left} for {comes.name}" if comes else f"Leave out {left}"
        return f"{do}: nothing is lost, and {self.kit.name} is {wording.mass(-change.grams)} lighter."

    def _help(self, change: KitChange) -> Help:
        comes = None if change.comes is None else self.piece(change.comes)
        goes = None if change.goes is None else self.kit.things[change.goes]
        name = f"{comes.name} in place of {goes.name}" if comes and goes else comes.name if comes else ""
        if comes is None and goes is not None:
            name = f"without {goes.name}"
        return Help(
            name,
            wording.share(change.gain),
            _more(change.grams, wording.mass),
            _more(change.price, lambda amount: wording.money(amount, change.currency)),
            _per(change.gain, change.grams, 100.0),
            _per(change.gain, change.price, 100.0),
            change.is_undominated,
            ":".join([self.kit.key, goes.key if goes else "", comes.key if comes else ""]),
            tuple(wording.sentence(said) for said in change_costs(self.shelf.worth(comes), self.shelf.worth(goes))),
        )


def _joined(parts: list[Ints]) -> Ints:
    return np.concatenate(parts).astype(np.int64) if parts else np.zeros(0, dtype=np.int64)


def _more(amount: float, said: Callable[[float], str]) -> str:
    """By how much more, with its sign."""
    if is_unknown(amount):
        return "unknown"
    return f"{'+' if amount >= 0 else wording.MINUS}{said(abs(amount))}"


def _per(gain: float, amount: float, unit: float) -> str:
    """What is turned for so much of it; nothing where it is not known, or is less than before."""
    return wording.share(gain / amount * unit) if amount > 0 else wording.DASH
