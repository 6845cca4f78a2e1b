"""What is done to many records at once, each told to the plan of a change, so that its transaction is short and it can
be undone.
"""

from collections.abc import Collection, Iterable
from copy import copy
from itertools import chain
from typing import Any, TypeVar

from cambrel.bounds.names import LONGEST_NAME
from cambrel.owners.models import Owned, User
from cambrel.owners.samples import samples_of
from cambrel.owners.undo import ChangePlan, carry_out, shelf_version
from cambrel.owners.writing import in_chunks
from cambrel.shelf.models import HELD, Body, CropMode, Kit, Lens

COPY = " (copy)"

R = TypeVar("R", bound=Owned)


def delete_all(chosen: list[Any], plan: ChangePlan, beside: Collection[Owned] = ()) -> None:
    """Delete records of one kind; a body takes its crop modes and fixed lens along, and kits lose what they held.

    Parameters
        chosen: the records
        plan: of the action
        beside: what goes too, and is deleted by itself
    """
    model, going = type(chosen[0]), set(beside)
    if model is Body:
        for part, field in ((CropMode, "body"), (Lens, "fixed_to")):
            plan.discard(part, [record for record in _of(part, field, chosen) if record not in going])
    if model in HELD:
        kits = [kit for kit in _of(Kit, HELD[model], chosen) if kit not in going]
        plan.change(Kit, {kit.pk: None for kit in kits}, _as_it_is)  # they hold less
    plan.discard(model, chosen)


def remove_samples(owner: User) -> None:
    """Throw away all that a demo loaded and that is still there; it can be undone."""
    seen, plan = shelf_version(owner), ChangePlan(owner)
    samples = [records for records in samples_of(owner) if records]
    beside = set(chain.from_iterable(samples))
    for records in samples:
        delete_all(records, plan, beside)
    carry_out(plan, "Removed the samples", seen)


def _of(model: type[Owned], field: str, records: Iterable[Owned]) -> list[Any]:
    """The records that point at any of others."""
    chunks = in_chunks(record.pk for record in records)
    pointing = [record for keys in chunks for record in model.objects.filter(**{f"{field}__in": keys})]
    return list({record.pk: record for record in pointing}.values())


def _as_it_is(record: Owned, _: object) -> None:
    pass


def duplicate_all(chosen: list[Any], plan: ChangePlan) -> None:
    """A copy of each record, with its parts."""
    model = type(chosen[0])
    copies = {record.pk: _copy(record, name=record.name[: LONGEST_NAME - len(COPY)] + COPY) for record in chosen}
    plan.add(model, list(copies.values()))
    if model is Body:
        for part, field in ((CropMode, "body"), (Lens, "fixed_to")):
            parts = _of(part, field, chosen)
            plan.add(part, [_copy(member, **{field: copies[getattr(member, f"{field}_id")]}) for member in parts])
    if model is Kit:
        for field in HELD.values():
            held = {copies[kit.pk].pk: [member.pk for member in getattr(kit, field).all()] for kit in chosen}
            plan.batch.hold(Kit, field, held)


def _copy(record: R, **changes: object) -> R:
    made = copy(record)
    made.version = 0
    for name, value in changes.items():
        setattr(made, name, value)
    return made


def add_to_kit(kit: Kit, chosen: list[Any], plan: ChangePlan) -> None:
    """Put records into a kit besides what it holds."""
    field = HELD[type(chosen[0])]
    held = getattr(kit, field).values_list("pk", flat=True)
    plan.change(Kit, {kit.pk: None}, _as_it_is)
    plan.batch.hold(Kit, field, {kit.pk: list(dict.fromkeys([*held, *(record.pk for record in chosen)]))})
