"""Load the built-in samples that visitors of a hosted service pick gear from. Run once after `migrate`."""

from typing import Any

from django.core.management.base import BaseCommand

from cambrel.owners.models import SAMPLES_OWNER, User
from cambrel.shelf.demo import load_demo


class Command(BaseCommand):
    help = __doc__

    def handle(self, **options: Any) -> None:
        owner, made = User.objects.get_or_create(username=SAMPLES_OWNER)
        if made:
            owner.set_unusable_password()
            owner.save()
        self.stdout.write("Samples loaded." if load_demo(owner) else "The samples are there already.")
