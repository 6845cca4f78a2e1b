"""Forget what is kept for a while only: old changes, previews, pictures, sessions and attempts, of owners who do not
come back too. Run it daily.
"""

from functools import partial
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.utils import timezone

from cambrel.field.models import spoken_of, undoable
from cambrel.owners.keeping import forget_changes
from cambrel.owners.models import Attempt, User
from cambrel.pictures import own
from cambrel.shelf.previews import forget_previews
from cambrel.site.clients import FORGOTTEN_AFTER


def _tokens(owner: User) -> tuple[set[str], set[str]]:
    return spoken_of(owner), undoable(owner)


class Command(BaseCommand):
    help = __doc__

    def handle(self, **options: Any) -> None:
        for owner in User.objects.iterator():
            forget_changes(owner)
            forget_previews(owner)
            own.sweep(owner)
            own.forget(owner, partial(_tokens, owner))
        Attempt.objects.filter(made_at__lt=timezone.now() - FORGOTTEN_AFTER).delete()
        own.settle()
        own.reconcile()
        own.sweep_scratch()
        call_command("clearsessions")
