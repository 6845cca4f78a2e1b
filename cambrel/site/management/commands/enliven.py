"""Load what a demo holds beside its gear: saved comparisons, a sheet, a logbook, a decision, drills."""

from django.core.management.base import BaseCommand
from django.utils import timezone

from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.site.living_demo import enliven


class Command(BaseCommand):
    help = __doc__

    def handle(self, **options: object) -> None:
        enliven(User.objects.get(username=LOCAL_OWNER), timezone.localtime())
        self.stdout.write("The samples are there.")
