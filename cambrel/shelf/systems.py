"""What questions are worked out on: two systems and a phone of the reader's own shelf, or the usual formats."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any
from urllib.parse import urlencode

from django.contrib.auth.models import AnonymousUser
from django.db.models import Count, F
from django.urls import reverse

from cambrel.comparison.bench import Slot
from cambrel.comparison.engine import Body, Lens, Rig
from cambrel.optics.formats import FORMATS, Sensor, crop_factor
from cambrel.owners.models import User, gear_owner
from cambrel.shelf import models

LEVEL = 0.02
"""Systems that differ by less than this are not compared."""
MOST_BODIES, MOST_SYSTEMS = 200, 2


@dataclass(frozen=True)
class OwnCamera:
    """A body that questions are worked out on, and what the reader calls it."""

    name: str
    body: Body

    def with_lens(self, focal_mm: float, f_number: float, iso: float = 400.0, distance_m: float | None = None) -> Slot:
        """With a lens of that focal length, which opens that far."""
        rig = Rig(
            self.body,
            Lens(focal_mm, focal_mm, ((focal_mm, f_number),)),
            focal_mm,
            f_number,
            iso=iso,
            distance_m=distance_m,
        )
        return Slot(rig, self.name, f"{focal_mm:g} mm f/{f_number:g}")

    def with_any(self, focal_mm: float, f_number: float, distance_m: float | None = None) -> Slot:
        """With a lens that can be set to anything."""
        return Slot(Rig(self.body, Lens(), focal_mm, f_number, distance_m=distance_m), self.name, "any lens")


@dataclass(frozen=True)
class Own:
    """What the questions are worked out on: a larger and a smaller system, a phone, a zoom lens of the larger and a
    lens of the smaller.
    """

    large: OwnCamera
    small: OwnCamera
    phone: OwnCamera
    zoom: Lens
    zoom_name: str
    lens: Lens
    lens_name: str
    fit: str = ""
    """Where it is seen whether the lens covers the larger sensor, if both are on the shelf."""
    crop_by: str = "diagonal"

    @property
    def k(self) -> float:
        """How many times the crop factor of the larger sensor that of the smaller is, by the measure in force."""
        small, large = (crop_factor(system.body.sensor, by=self.crop_by) for system in (self.small, self.large))
        return small / large


def _plain(slug: str, name: str, pixels_wide: float) -> OwnCamera:
    made = FORMATS[slug]
    return OwnCamera(name, Body(Sensor(made.width_mm, made.height_mm, pixels_wide)))


USUAL = Own(
    _plain("full-frame", "full frame", 6000),
    _plain("micro-four-thirds", "Micro Four Thirds", 5200),
    _plain("type-1-1.3", "the phone", 8192),
    Lens(24, 70, ((24, 2.8), (70, 2.8))),
    "24-70 f/2.8",
    Lens(12, 40, ((12, 2.8), (40, 2.8)), image_circle_mm=21.8),
    "12-40 mm made for Micro Four Thirds",
)
"""For a reader whose shelf says nothing."""


def own_of(user: User | AnonymousUser) -> Own:
    """What a reader has on the shelf, where it has two systems; else the usual formats."""
    owner = gear_owner(user)
    mounts = dict(models.Lens.objects.for_owner(owner).exclude(mount="").values_list("mount").annotate(n=Count("pk")))
    bodies = [
        body
        for body in models.Body.objects.for_owner(owner).exclude(mount="").order_by("pk")[:MOST_BODIES]
        if body.mount in mounts
    ]
    kinds: dict[tuple[str, float], Any] = {}
    for body in bodies:
        kinds.setdefault((body.mount, round(body.width_mm)), body)
    ordered = sorted(kinds.values(), key=lambda body: -mounts[body.mount])[:MOST_SYSTEMS]
    ordered.sort(key=lambda body: -body.sensor().area_mm2)
    system = USUAL
    phone = models.Body.objects.for_owner(owner).filter(system="Phone").order_by("-width_mm", "pk").first()
    if phone is not None:
        system = replace(system, phone=OwnCamera(phone.name, phone.to_optics()))
    if len(ordered) < 2 or ordered[0].sensor().diagonal_mm / ordered[-1].sensor().diagonal_mm < 1 + LEVEL:
        return system
    large, small = ordered[0], ordered[-1]
    system = replace(
        system, large=OwnCamera(large.name, large.to_optics()), small=OwnCamera(small.name, small.to_optics())
    )
    lenses = models.Lens.objects.for_owner(owner).filter(rectilinear=True).order_by("pk")
    zoom = lenses.filter(mount=large.mount, focal_max_mm__gt=F("focal_min_mm")).exclude(widest=[]).first()
    if zoom is not None:
        system = replace(system, zoom=zoom.to_optics(), zoom_name=zoom.name)
    lens = lenses.filter(mount=small.mount, image_circle_mm__gt=0).first()
    if lens is not None:
        fit = f"{reverse('match:fit')}?{urlencode({'lens': lens.pk, 'body': large.pk})}"
        system = replace(system, lens=lens.to_optics(), lens_name=lens.name, fit=fit)
    return system
