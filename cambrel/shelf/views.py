"""The shelf's addresses."""

from dataclasses import dataclass

from django.db.models import Q
from django.shortcuts import render
from django.views.decorators.http import require_safe

from cambrel import wording
from cambrel.links import Gear, encode_gear
from cambrel.shelf.models import Body, Lens

MOST_SHOWN = 60


@dataclass(frozen=True)
class Offer:
    """A piece of gear to pick: how it reads, and the gear itself by value."""

    name: str
    system: str
    says: str
    token: str


@require_safe
def pick(request):
    """Gear to put on a bench, found by name, system or mount; lenses of the body's mount first."""
    kind = "lens" if request.GET.get("kind") == "lens" else "body"
    search = request.GET.get("q", "").strip()[:60]
    mount = request.GET.get("mount", "")[:40]
    rig = request.GET.get("rig", "0")
    found = (Lens if kind == "lens" else Body).objects.for_owner(request.user)
    for word in search.split():
        found = found.filter(Q(name__icontains=word) | Q(system__icontains=word) | Q(mount__icontains=word))
    if kind == "lens":
        records = sorted(
            found.filter(fixed_to=None)[:400],
            key=lambda lens: (lens.mount != mount or not mount, lens.system, lens.focal_min_mm),
        )
        offers = [_lens_offer(lens) for lens in records[:MOST_SHOWN]]
    else:
        offers = [_body_offer(body) for body in found.prefetch_related("fixed_lenses")[:MOST_SHOWN]]
    context = {
        "offers": offers,
        "search": search,
        "rig": rig if rig.isdecimal() else "0",
        "more": found.count() > MOST_SHOWN,
    }
    return render(request, "shelf/_offers.html", context)


def _body_offer(body):
    fixed = next(iter(body.fixed_lenses.all()), None)
    gear = Gear(body.to_optics(), body.name, fixed.to_optics() if fixed else None, fixed.name if fixed else "")
    pixels = (
        f", {body.pixels_wide * body.pixels_high / 1e6:.0f} megapixels"
        if body.pixels_wide and body.pixels_high
        else ", pixels unknown"
    )
    return Offer(body.name, body.system, f"{body.width_mm:g} × {body.height_mm:g} mm{pixels}", encode_gear(gear))


def _lens_offer(lens):
    weight = f", {wording.mass(lens.weight_g)}" if lens.weight_g else ""
    mount = f"{lens.mount} mount" if lens.mount else "fixed"
    return Offer(lens.name, lens.system, mount + weight, encode_gear(Gear(lens=lens.to_optics(), lens_name=lens.name)))
