"""The gear of a photograph: what its file names, found on the shelf, and the camera that it is taken with anew."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import TypeVar

from django.contrib.auth.models import AnonymousUser
from django.db.models import Count, QuerySet

from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.fit import same_mount
from cambrel.comparison.photographed import format_of_equivalent
from cambrel.comparison.rig import Body as OpticsBody
from cambrel.comparison.rig import Lens as OpticsLens
from cambrel.comparison.rig import Rig
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.owners.models import User, gear_owner
from cambrel.photographs.taken import Taken, names_agree, words_of
from cambrel.shelf.gear_records import NamedRecord
from cambrel.shelf.models import Body, Lens
from cambrel.shelf.views.gear_choice import body_of

MOST_OFFERED = 200
ON_SHELF = "body-"
"""What stands before the key of a body where a camera is chosen; a format stands there by its name."""
SLACK = 1.005
"""A file writes figures a little otherwise than a lens is marked: 24.1 mm at the short end of a 24-70."""
R = TypeVar("R", bound=NamedRecord)


def _bodies(user: User | AnonymousUser) -> QuerySet[Body]:
    bodies: QuerySet[Body] = Body.objects.for_owner(gear_owner(user))
    return bodies


def named_as(name: str, records: Iterable[R]) -> R | None:
    """The record that a file names, the one with the fewest other words where it may be several."""
    agreeing = [record for record in records if names_agree(name, record.name)]
    return min(agreeing, key=lambda record: len(words_of(record.name) ^ words_of(name)), default=None)


def camera_of(user: User | AnonymousUser, taken: Taken) -> str:
    """The camera that took a picture as a form offers it: a body of the shelf by its name, else a format by the
    equivalent focal length; empty where neither is known.
    """
    body = named_as(taken.body, _bodies(user)) if taken.body else None
    if body is not None:
        return f"{ON_SHELF}{body.pk}"
    if not taken.focal_length_mm or not taken.focal_35_mm:
        return ""
    sides = taken.wide_px, taken.high_px
    aspect = max(sides) / min(sides) if sides[0] and sides[1] else None  # type: ignore[type-var,operator]
    found = format_of_equivalent(taken.focal_length_mm, taken.focal_35_mm, aspect)
    return found.slug if found else ""


def cameras(user: User | AnonymousUser) -> list[tuple[str, object]]:
    """What a form offers as the camera: the shelf, then formats."""
    own = [(f"{ON_SHELF}{body.pk}", body.name) for body in _bodies(user).only("pk", "name")[:MOST_OFFERED]]
    named = [(slug, format_.name) for slug, format_ in FORMATS.items()]
    return [("", "choose one"), ("On the shelf", own), ("Any camera of this format", named)]


def slot_of(user: User | AnonymousUser, camera: str, lens_name: str, rig: Rig) -> Slot | None:
    """A camera set as a picture was taken.

    Parameters
        camera: as the form offers it
        lens_name: as the file says it
        rig: its settings, whatever the gear
    Returns
        None where that camera is no longer on the shelf
    """
    if not camera.startswith(ON_SHELF):
        format_ = FORMATS[camera]
        return _set(
            OpticsBody(Sensor(format_.width_mm, format_.height_mm)), format_.name, OpticsLens(), "any lens", rig
        )
    body = _bodies(user).filter(pk=camera.removeprefix(ON_SHELF)).prefetch_related("fixed_lenses", "crop_modes").first()
    if body is None:
        return None
    lens = _lens_of(user, body, lens_name, rig)
    if lens is None:
        return _set(body_of(body), body.name, OpticsLens(), "any lens", rig)
    return _set(body_of(body), body.name, lens.to_optics(), lens.name, rig)


def _lens_of(user: User | AnonymousUser, body: Body, name: str, rig: Rig) -> Lens | None:
    """The lens that took it: one that the camera came with, else by its name; None where none of them can be so set."""
    fixed = list(body.fixed_lenses.all())
    able = [lens for lens in fixed if _can_be_set(lens, rig)]
    if fixed or not name:
        return able[0] if able else None
    own = Lens.objects.for_owner(gear_owner(user)).filter(fixed_to=None)
    mounted = [lens for lens in own if same_mount(lens.mount, body.mount) and _can_be_set(lens, rig)]
    return named_as(name, mounted)


def _can_be_set(record: Lens, rig: Rig) -> bool:
    if not record.rectilinear or not record.focal_min_mm / SLACK <= rig.focal_length_mm <= record.focal_max_mm * SLACK:
        return False
    return float(record.to_optics().widest_f_number(rig.focal_length_mm)) <= rig.f_number * SLACK


def _set(body: OpticsBody, body_name: str, lens: OpticsLens, lens_name: str, rig: Rig) -> Slot:
    return Slot(replace(rig, body=body, lens=lens), body_name, lens_name)


def other_cameras(user: User | AnonymousUser, standing: Bench, own: Slot) -> list[Slot]:
    """The cameras that take the picture too: those of the bench but the one that took it, else another of the shelf."""
    there = [slot for slot in standing.slots if slot.body_name != own.body_name]
    if there:
        return there
    bodies = _bodies(user).filter(fixed_lenses=None).exclude(name=own.body_name)
    body = bodies.annotate(in_kits=Count("kits")).order_by("-in_kits", "name", "pk").first()
    return [] if body is None else [_set(body_of(body), body.name, OpticsLens(), "any lens", own.rig)]
