"""The demo shelf of the Wren Hollow Light Railway: invented gear as a Cambrel document, loaded once for an owner."""

from pathlib import Path

from django.db import transaction
from django.utils import timezone

from cambrel.owners.models import User
from cambrel.owners.samples import noted
from cambrel.owners.sections import SECTIONS
from cambrel.owners.undo import ChangePlan, raise_version
from cambrel.shelf.intake import read_file

GEAR = Path(__file__).with_name("gear.json")


def load_demo(owner: User) -> bool:
    """Put the demo gear on an owner's shelf; False when that was done before, whatever has become of it."""
    if owner.demo_loaded_at is not None:
        return False
    rows = read_file(GEAR.name, GEAR.read_bytes()).found
    plan = ChangePlan(owner)
    ids: dict[tuple[str, str], int] = {}
    for key, section in SECTIONS.items():
        section.plan(plan, [(None, section.check(row.row)) for row in rows if row.section == key], ids)
    with transaction.atomic():  # loading the demo is no action of the owner, so nothing is kept to be undone
        plan.batch.run()
        noted(owner, plan)
        raise_version(owner)
        owner.demo_loaded_at = timezone.now()
        owner.save(update_fields=["demo_loaded_at"])
    return True
