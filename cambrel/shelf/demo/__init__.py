"""The demo shelf of the Wren Hollow Light Railway: invented bodies and lenses, loaded once for an owner."""

import json
from pathlib import Path

from django.db import transaction
from django.utils import timezone

from cambrel.shelf.models import Body, Lens

GEAR = Path(__file__).with_name("gear.json")


def load_demo(owner) -> bool:
    """Put the demo gear on an owner's shelf; False when that was done before, whatever has become of it."""
    if owner.demo_loaded_at is not None:
        return False
    gear = json.loads(GEAR.read_text())
    with transaction.atomic():
        bodies = {row["name"]: Body.objects.create(owner=owner, **row) for row in gear["bodies"]}
        for row in gear["lenses"]:
            fixed_to = bodies.get(row.pop("fixed_to", None))
            Lens.objects.create(owner=owner, fixed_to=fixed_to, **row)
        owner.demo_loaded_at = timezone.now()
        owner.save(update_fields=["demo_loaded_at"])
    return True
