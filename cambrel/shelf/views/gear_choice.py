"""Gear by value: what a shelf hands to a bench, in a list to pick from or as a link."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import overload

from django.db import models
from django.db.models import Case, Q, Value, When
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.views.decorators.http import require_safe

from cambrel import wording
from cambrel.comparison.bench import MOST_MODES, Gear
from cambrel.comparison.engine import Body as OpticsBody
from cambrel.inputs.fields import whole
from cambrel.links.addresses import put_address
from cambrel.links.benches import encode_gear
from cambrel.optics.formats import covers
from cambrel.owners.models import User, gear_owner
from cambrel.owners.requests import Request
from cambrel.shelf.models import Body, Converter, Lens, Mount, OwnFormat
from cambrel.shelf.typed import typed_gear

MOST_SHOWN = 60


@dataclass(frozen=True)
class Offer:
    """A piece of gear to pick: how it reads, and the bench's action that puts it on a rig, gear by value."""

    name: str
    system: str
    says: str
    action: str


Registers = dict[str, float | None]


def registers_of(owner: User) -> Registers:
    """How far each mount of a shelf holds a lens from the sensor."""
    return dict(Mount.objects.for_owner(owner).values_list("name", "register_mm"))


def body_of(record: Body, registers: Registers | None = None) -> OpticsBody:
    """A body by value, with what other records say of it: its modes, and how far its mount holds a lens."""
    modes = tuple(mode.to_optics() for mode in record.crop_modes.all()[:MOST_MODES])
    registers = registers_of(record.owner) if registers is None else registers
    return replace(record.to_optics(), modes=modes, register_mm=registers.get(record.mount))


@overload
def gear_of(record: Body | Lens | OwnFormat, registers: Registers | None = None) -> Gear: ...
@overload
def gear_of(record: models.Model, registers: Registers | None = None) -> Gear | None: ...
def gear_of(record: models.Model, registers: Registers | None = None) -> Gear | None:
    """A body (with its fixed lens), an own format as a body, or a lens, by value; None for a record that is none of
    these.
    """
    if isinstance(record, OwnFormat):
        return Gear(OpticsBody(record.sensor()), record.name)
    if isinstance(record, Body):
        fixed = next(iter(record.fixed_lenses.all()), None)
        return Gear(
            body_of(record, registers), record.name, fixed.to_optics() if fixed else None, fixed.name if fixed else ""
        )
    return Gear(lens=record.to_optics(), lens_name=record.name) if isinstance(record, Lens) else None


def carriers(owner: User, records: Iterable[models.Model]) -> dict[int, Body]:
    """For each lens among records a body of its mount from the owner's shelf: one that it covers before others, the
    larger first.
    """
    lenses = [record for record in records if isinstance(record, Lens) and record.mount and record.fixed_to_id is None]
    values: dict[str, list[Body]] = {}
    for body in Body.objects.for_owner(owner).filter(mount__in={lens.mount for lens in lenses}):
        values.setdefault(body.mount, []).append(body)

    def suits(lens: Lens, body: Body) -> tuple[bool, float]:
        diagonal, circle = body.sensor().diagonal_mm, lens.circle_mm
        return (circle is None or bool(covers(circle, diagonal)), diagonal)

    return {
        lens.pk: max(values[lens.mount], key=lambda body: suits(lens, body)) for lens in lenses if lens.mount in values
    }


def put_record_address(record: models.Model, carrier: Body | None = None) -> str:
    """The address that puts a record on the bench as one more rig, a lens with the body that can carry it; empty for
    what is no gear.
    """
    gear = gear_of(record)
    if gear is None:
        return ""
    if isinstance(record, Lens) and record.fixed_to is not None:
        return put_address(gear_of(record.fixed_to))
    return put_address(gear, Gear(body_of(carrier), carrier.name) if carrier else None)


@require_safe
def pick(request: Request) -> HttpResponseBase:
    """Gear to put on a bench, found by name, system or mount; lenses of the body's mount first."""
    kind = "lens" if request.GET.get("kind") == "lens" else "body"
    search = request.GET.get("q", "").strip()[:60]
    mount = request.GET.get("mount", "")[:40]
    rig = str(whole(request.GET.get("rig", "0"), 0))
    owner = gear_owner(request.user)
    offered = (Lens if kind == "lens" else Body).objects.for_owner(owner)
    for word in search.split():
        offered = offered.filter(Q(name__icontains=word) | Q(system__icontains=word) | Q(mount__icontains=word))
    if kind == "lens":
        offered = offered.filter(fixed_to=None)
        fits_first = Case(When(mount__iexact=mount, then=0), default=1) if mount else Value(0)
        records = offered.order_by(fits_first, "system", "focal_min_mm", "name")[:MOST_SHOWN]
        offers = [_lens_offer(lens, rig) for lens in records] + _converters(request, mount, rig)
    else:
        bodies = offered.prefetch_related("fixed_lenses", "crop_modes")[:MOST_SHOWN]
        registers = registers_of(owner)
        offers = [_body_offer(body, rig, registers) for body in bodies]
        own = OwnFormat.objects.for_owner(owner).filter(name__icontains=search)[:MOST_SHOWN]
        offers += [_format_offer(own_format, rig) for own_format in own]
    offers = [*_typed_offer(kind, search, owner, rig), *offers]
    context = {
        "offers": offers,
        "search": search,
        "more": offered.count() > MOST_SHOWN,
    }
    return render(request, "shelf/_offers.html", context)


def _typed_offer(kind: str, search: str, owner: User, rig: str) -> list[Offer]:
    """What was typed, taken by its figures: "25 f/1.4", "1/1.3"."""
    gear, at_f_number = typed_gear(kind, search, owner)
    if gear is None:
        return []
    at = "" if at_f_number is None else f":{at_f_number!r}"
    return [
        Offer(gear.lens_name or gear.body_name, "As typed", "by its figures", f"gear:{rig}:{encode_gear(gear)}{at}")
    ]


def _format_offer(own: OwnFormat, rig: str) -> Offer:
    says = f"{own.width_mm:g} × {own.height_mm:g} mm, pixels unknown"
    return Offer(own.name, "Your own formats", says, f"gear:{rig}:{encode_gear(gear_of(own))}")


def _converters(request: Request, mount: str, rig: str) -> list[Offer]:
    """What goes between lens and body on this mount, and taking it away again."""
    if not mount:
        return []
    converters = Converter.objects.for_owner(gear_owner(request.user)).filter(mount__iexact=mount)
    offers = []
    for converter in converters:
        weight = f", {wording.mass(converter.weight_g)}" if converter.weight_g else ""
        offers.append(
            Offer(
                converter.name,
                "Between lens and body",
                f"{converter.factor:g} ×{weight}",
                f"convert:{rig}:{converter.factor!r}:{'' if converter.weight_g is None else repr(converter.weight_g)}",
            )
        )
    return offers and [*offers, Offer("none", "Between lens and body", "", f"convert:{rig}:1:0")]


def _body_offer(body: Body, rig: str, registers: Registers) -> Offer:
    pixels = body.sensor().pixels
    known = f", {pixels / 1e6:.0f} megapixels" if pixels else ", pixels unknown"
    says = f"{body.width_mm:g} × {body.height_mm:g} mm{known}"
    return Offer(body.name, body.system, says, f"gear:{rig}:{encode_gear(gear_of(body, registers))}")


def _lens_offer(lens: Lens, rig: str) -> Offer:
    weight = f", {wording.mass(lens.weight_g)}" if lens.weight_g else ""
    mount = f"{lens.mount} mount" if lens.mount else "fixed"
    return Offer(lens.name, lens.system, mount + weight, f"gear:{rig}:{encode_gear(gear_of(lens))}")
