"""Gear by value: what a shelf hands to a bench, in a list to pick from or as a link."""

from dataclasses import dataclass

from django.db.models import Case, Q, Value, When
from django.shortcuts import render
from django.views.decorators.http import require_safe

from cambrel import wording
from cambrel.links import Gear, encode_gear, put_address
from cambrel.owners.models import gear_owner
from cambrel.shelf.models import Body, Converter, Lens

MOST_SHOWN = 60


@dataclass(frozen=True)
class Offer:
    """A piece of gear to pick: how it reads, and the bench's action that puts it on a rig, gear by value."""

    name: str
    system: str
    says: str
    action: str


def gear_of(record):
    """A body (with its fixed lens) or a lens, by value; None for a record that is neither."""
    if isinstance(record, Body):
        fixed = next(iter(record.fixed_lenses.all()), None)
        return Gear(record.to_optics(), record.name, fixed.to_optics() if fixed else None, fixed.name if fixed else "")
    return Gear(lens=record.to_optics(), lens_name=record.name) if isinstance(record, Lens) else None


def put_record_address(record):
    """The address that puts a record on the bench as one more rig; empty for what is no gear."""
    gear = gear_of(record)
    return "" if gear is None else put_address(gear)


@require_safe
def pick(request):
    """Gear to put on a bench, found by name, system or mount; lenses of the body's mount first."""
    kind = "lens" if request.GET.get("kind") == "lens" else "body"
    search = request.GET.get("q", "").strip()[:60]
    mount = request.GET.get("mount", "")[:40]
    rig = request.GET.get("rig", "0")
    rig = rig if rig.isdecimal() else "0"
    found = (Lens if kind == "lens" else Body).objects.for_owner(gear_owner(request.user))
    for word in search.split():
        found = found.filter(Q(name__icontains=word) | Q(system__icontains=word) | Q(mount__icontains=word))
    if kind == "lens":
        found = found.filter(fixed_to=None)
        fits_first = Case(When(mount=mount, then=0), default=1) if mount else Value(0)
        records = found.order_by(fits_first, "system", "focal_min_mm", "name")[:MOST_SHOWN]
        offers = [_lens_offer(lens, rig) for lens in records] + _converters(request, mount, rig)
    else:
        offers = [_body_offer(body, rig) for body in found.prefetch_related("fixed_lenses")[:MOST_SHOWN]]
    context = {
        "offers": offers,
        "search": search,
        "more": found.count() > MOST_SHOWN,
    }
    return render(request, "shelf/_offers.html", context)


def _converters(request, mount, rig):
    """What goes between lens and body on this mount, and taking it away again."""
    if not mount:
        return []
    found = Converter.objects.for_owner(gear_owner(request.user)).filter(mount=mount)
    offers = []
    for one in found:
        weight = f", {wording.mass(one.weight_g)}" if one.weight_g else ""
        offers.append(
            Offer(one.name, "Between lens and body", f"{one.factor:g} ×{weight}", f"convert:{rig}:{one.factor!r}")
        )
    return offers and [*offers, Offer("none", "Between lens and body", "", f"convert:{rig}:1")]


def _body_offer(body, rig):
    pixels = body.sensor().pixels
    known = f", {pixels / 1e6:.0f} megapixels" if pixels else ", pixels unknown"
    says = f"{body.width_mm:g} × {body.height_mm:g} mm{known}"
    return Offer(body.name, body.system, says, f"gear:{rig}:{encode_gear(gear_of(body))}")


def _lens_offer(lens, rig):
    weight = f", {wording.mass(lens.weight_g)}" if lens.weight_g else ""
    mount = f"{lens.mount} mount" if lens.mount else "fixed"
    return Offer(lens.name, lens.system, mount + weight, f"gear:{rig}:{encode_gear(gear_of(lens))}")
