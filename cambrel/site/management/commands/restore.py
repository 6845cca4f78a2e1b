"""Put a backup in the place of what is there, while the application runs; what was there is backed up first."""

import shutil
import sqlite3
import tempfile
import zipfile
from contextlib import closing
from pathlib import Path
from secrets import randbelow
from typing import Any

from django.conf import settings
from django.core.cache import caches
from django.core.files.base import ContentFile
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connections
from django.db.models import F
from django.utils import timezone

from cambrel.owners.models import User
from cambrel.pictures import own
from cambrel.site.management.commands.backup import IN_FILE, IN_SERVER, by_tools, copy_database, is_picture_of


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = ()  # a backup goes on where a page would not

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("file")

    def handle(self, *args: object, file: Any, **options: object) -> None:
        source = Path(file)
        if not source.is_file():
            raise CommandError(f"There is no file {source}.")
        if not zipfile.is_zipfile(source):
            self._database_file(source)
        else:
            with zipfile.ZipFile(source) as archive, tempfile.TemporaryDirectory(dir=settings.VAR) as folder:
                self._whole(archive, Path(folder))
        call_command("migrate", interactive=False, verbosity=0)
        # what was worked out from the records before is known to be stale, whatever version it was of
        User.objects.update(shelf_version=F("shelf_version") + 1_000_000 + randbelow(2**40))
        for name in settings.CACHES:
            caches[name].clear()
        own.reconcile()
        self.stdout.write(f"Restored from {source}")

    def _whole(self, archive: zipfile.ZipFile, folder: Path) -> None:
        """Database and pictures of one backup."""
        names = set(archive.namelist())
        wanted = IN_SERVER if settings.DATABASE_URL else IN_FILE
        if wanted not in names:
            raise CommandError("This backup is of another kind of database: restore it where it was made.")
        with archive.open(wanted) as held, (folder / wanted).open("wb") as copy:
            shutil.copyfileobj(held, copy)
        if settings.DATABASE_URL:
            connections.close_all()
            options = ("--clean", "--if-exists", "--no-owner", "--single-transaction")
            by_tools("pg_restore", *options, f"--dbname={settings.DATABASE_URL}", str(folder / wanted))
        else:
            self._database_file(folder / wanted)
        damaged = 0
        for name in sorted(name for name in names if name.startswith("own/") and name.count("/") == 2):
            content = archive.read(name)
            if is_picture_of(name, content):
                own.store().save(name.removeprefix("own/"), ContentFile(content))
            else:
                damaged += 1
        if damaged:
            self.stdout.write(f"{damaged} pictures of the backup are damaged and were left out.")

    def _database_file(self, source: Path) -> None:
        if settings.DATABASE_URL:
            raise CommandError("The database is on a server (DATABASE_URL): this backup is of a file.")
        database = Path(str(settings.DATABASES["default"]["NAME"]))
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
            # through SQLite's own backup, so that those who have the database open see the old content or the new
            # one, never a mixture
            with closing(sqlite3.connect(database, timeout=30)) as here:
                backup.backup(here)
