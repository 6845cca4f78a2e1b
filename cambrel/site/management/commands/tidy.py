"""Forget what is kept for a while only: old changes, previews, pictures, sessions and attempts, of owners who do not come back too. Run it daily."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.utils import timezone

from cambrel.field.models import Sheet
from cambrel.owners.keeping import forget_changes
from cambrel.owners.models import Attempt, User
from cambrel.pictures import own
from cambrel.pictures.models import OwnScene
from cambrel.shelf.previews import forget_previews
from cambrel.site.clients import FORGOTTEN_AFTER


def _spoken_of(owner: Any) -> set[str]:
    """The pictures that an owner's records hold."""
    sheets = Sheet.objects.for_owner(owner).values_list("back", flat=True)
    scenes = OwnScene.objects.for_owner(owner).values_list("background", "subject")
    return {row.get("kept", "") for back in sheets for row in back.values()} | {
        token for both in scenes for token in both
    }


class Command(BaseCommand):
    help = __doc__

    def handle(self, **options: Any) -> None:
        for owner in User.objects.iterator():
            forget_changes(owner)
            forget_previews(owner)
            own.sweep(owner)
            own.forget(owner, _spoken_of(owner))
        Attempt.objects.filter(made_at__lt=timezone.now() - FORGOTTEN_AFTER).delete()
        call_command("clearsessions")
