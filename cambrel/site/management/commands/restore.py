"""Put a backup in the place of the database's content, while the application runs; what was there is backed up first."""

import sqlite3
from contextlib import closing
from pathlib import Path
from secrets import randbelow
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connections
from django.db.models import F
from django.utils import timezone

from cambrel.owners.models import User
from cambrel.site.management.commands.backup import check_is_file, copy_database


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("file")

    def handle(self, *args: Any, file: Any, **options: Any) -> None:
        check_is_file()
        source, database = Path(file), Path(str(settings.DATABASES["default"]["NAME"]))
        if not source.is_file():
            raise CommandError(f"There is no file {source}.")
        with closing(sqlite3.connect(f"file:{source}?mode=ro", uri=True)) as backup:
            try:
                sound = backup.execute("PRAGMA integrity_check").fetchone()[0]
                known = backup.execute("SELECT count(*) FROM sqlite_master WHERE name = 'owners_user'").fetchone()[0]
            except sqlite3.DatabaseError as error:
                raise CommandError(f"{source} is no backup: {error}.") from error
            if sound != "ok" or not known:
                raise CommandError(f"{source} is no sound backup of Cambrel.")
            if database.exists():
                before = database.parent / "backups" / f"{timezone.now():%Y%m%d-%H%M%S}-before-restore.sqlite3"
                before.parent.mkdir(parents=True, exist_ok=True)
                copy_database(database, before)
                self.stdout.write(f"What was there is in {before}")
            connections.close_all()
            # through SQLite's own backup, so that those who have the database open see the old content or the new one, never a mixture
            with closing(sqlite3.connect(database, timeout=30)) as here:
                backup.backup(here)
        call_command("migrate", interactive=False, verbosity=0)
        # what was worked out from the records before is known to be stale, whatever version it was of
        User.objects.update(shelf_version=F("shelf_version") + 1_000_000 + randbelow(2**40))
        self.stdout.write(f"Restored from {source}")
