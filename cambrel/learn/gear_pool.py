"""What questions are asked about: cameras and lenses of the reader's own shelf, or of the demo world; the usual formats
where there are none.
"""

from __future__ import annotations

from dataclasses import replace

from django.contrib.auth.models import AnonymousUser

from cambrel.comparison.fit import ADAPTABLE, SAME, TAKEN, mount_fit
from cambrel.comparison.rig import Lens
from cambrel.drills.drawing import USUAL_POOL, DrillCamera, GearPool, are_apart
from cambrel.owners.models import User, gear_owner
from cambrel.shelf import models
from cambrel.shelf.systems import own_of

MOST = 200


def pool_of(user: User | AnonymousUser) -> GearPool:
    """The gear of a reader's shelf; the usual formats where it holds less than two sizes of sensor."""
    owner = gear_owner(user)
    two = own_of(user)
    own = tuple(DrillCamera(camera.name, camera.body.sensor, camera.body.mount) for camera in (two.large, two.small))
    bodies = list(models.Body.objects.for_owner(owner).prefetch_related("fixed_lenses").order_by("pk")[:MOST])
    records = models.Lens.objects.for_owner(owner).filter(rectilinear=True).exclude(mount="").order_by("pk")[:MOST]
    lenses: dict[str, list[tuple[str, Lens]]] = {}
    for lens in records:
        lenses.setdefault(lens.mount, []).append((lens.name, lens.to_optics()))
    taken = _taken(owner, {body.mount for body in bodies} - {""}, set(lenses))
    cameras = tuple(
        DrillCamera(
            body.name,
            body.sensor(),
            body.mount,
            taken.get(body.mount, frozenset()),
            tuple((lens.name, lens.to_optics()) for lens in body.fixed_lenses.all() if lens.rectilinear),
        )
        for body in bodies
    )
    if not any(are_apart(camera, other) for camera in cameras for other in cameras):
        return replace(USUAL_POOL, own=own)
    return GearPool(cameras, lenses, own)


def _taken(owner: User, of_bodies: set[str], of_lenses: set[str]) -> dict[str, frozenset[str]]:
    """By the mount of a body, the mounts whose lenses go on it."""
    mounts = {record.name: record for record in models.Mount.objects.for_owner(owner)}
    adapters = {
        (adapter.lens_mount, adapter.mount): adapter.kind for adapter in models.Adapter.objects.for_owner(owner)
    }

    def goes_on(lens: str, body: str) -> bool:
        registers = (mounts[name].register_mm if name in mounts else None for name in (lens, body))
        accepts = body in mounts and lens in mounts[body].accepts
        by = dict(zip(("lens_register_mm", "body_register_mm"), registers, strict=True))
        fit = mount_fit(lens, body, accepts=accepts, adapter=adapters.get((lens, body), ""), **by)
        return fit.word in (SAME, TAKEN, ADAPTABLE)

    return {body: frozenset(lens for lens in of_lenses | {body} if goes_on(lens, body)) for body in of_bodies}
