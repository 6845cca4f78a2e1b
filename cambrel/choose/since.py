"""What has changed since a decision: in the kits, in what is known of the gear, and in what it comes to."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import fields
from typing import Any

from cambrel import wording
from cambrel.bounds.limits import named
from cambrel.choose.deciding import Decision, WantedPicture
from cambrel.choose.packing import GearShelf, Packed
from cambrel.comparison.brief import Conventions
from cambrel.decisions.choice import Choice, KitBag, Piece
from cambrel.shelf.models import Kit
from cambrel.wording.sentences import listed

MOST_SAID = 40
SAME = "Nothing has changed since."


def changed_since(choice: Choice, shelf: GearShelf, conventions: Conventions) -> list[str]:
    """In words, what is other today than when it was decided."""
    today = {record.name: shelf.bag(record) for record in Kit.objects.for_owner(shelf.owner)}
    said = [*_of_kits(choice.kits, today), *_of_terms(choice.conventions, conventions)]
    said += _of_pictures(choice, today, conventions)
    return said[:MOST_SAID] or [SAME]


def _of_kits(kits: Sequence[KitBag], today: dict[str, KitBag]) -> Iterator[str]:
    told: set[str] = set()
    for kit in kits:
        now = today.get(kit.name)
        if now is None:
            yield f"The kit “{kit.name}” is no longer on the shelf."
            continue
        before, after = ({(piece.kind, piece.name): piece for piece in bag.pieces} for bag in (kit, now))
        came = [name for key, name in ((key, key[1]) for key in after) if key not in before]
        went = [name for key, name in ((key, key[1]) for key in before) if key not in after]
        if came:
            yield f"{kit.name} now has {listed(came)} too."
        if went:
            yield f"{kit.name} is without {listed(went)} now."
        for key in before.keys() & after.keys():
            for line in _of_piece(before[key], after[key]):
                if line not in told:
                    told.add(line)
                    yield line


def _of_piece(before: Piece[Any], after: Piece[Any]) -> Iterator[str]:
    """Which figures of a thing are other."""
    if before.what.weight_g != after.what.weight_g:
        yield f"{after.name} weighs {_mass(after.what.weight_g)} now, {_mass(before.what.weight_g)} then."
    price = (before.what.price, before.what.currency), (after.what.price, after.what.currency)
    if price[0] != price[1]:
        yield f"{after.name} costs {_price(*price[1])} now, {_price(*price[0])} then."
    others = [
        named(field.name)
        for field in fields(after.what)
        if field.name not in ("weight_g", "price", "currency")
        and getattr(before.what, field.name) != getattr(after.what, field.name)
    ]
    if others:
        yield f"{after.name}: {listed(others)} recorded differently since."


def _mass(grams: float | None) -> str:
    return "unknown" if grams is None else wording.mass(grams)


def _price(amount: float | None, currency: str) -> str:
    return "an unknown price" if amount is None else wording.money(amount, currency)


def _of_terms(before: Conventions, now: Conventions) -> Iterator[str]:
    other = [named(field.name) for field in fields(now) if getattr(before, field.name) != getattr(now, field.name)]
    if other:
        yield f"You judge by another {listed(other)} now."


def _of_pictures(choice: Choice, today: dict[str, KitBag], conventions: Conventions) -> Iterator[str]:
    """Which pictures a kit makes otherwise today."""
    pairs = [(kit, today[kit.name]) for kit in choice.kits if kit.name in today]
    tasks = [WantedPicture(f"p{index}", task) for index, (task, _) in enumerate(choice.pictures)]
    shares = {f"p{index}": share for index, (_, share) in enumerate(choice.pictures)}
    then, now = (
        Decision([Packed(pair[which]) for pair in pairs], tasks, shares, terms)
        for which, terms in ((0, choice.conventions), (1, conventions))
    )
    for index, (kit, _) in enumerate(pairs):
        for task, old, new in zip(tasks, then.column(index), now.column(index), strict=True):
            words = ["nothing" if cell is None else str(cell.status) for cell in (old, new)]
            if words[0] != words[1]:
                yield f"“{task.task.name}” with {kit.name}: {words[1]} now, {words[0]} then."
