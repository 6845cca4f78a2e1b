"""Copy the database while the application runs: one consistent file, checked before it counts."""

import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.utils import timezone


def check_is_file() -> None:
    """A database server is backed up and restored by its own tools."""
    if settings.DATABASE_URL:
        raise CommandError(
            "The database is on a server (DATABASE_URL): back it up and restore it by the server's own tools."
        )


def copy_database(source: Any, target: Any) -> None:
    """A consistent copy of a SQLite database, taken page by page while others write, and checked."""
    part = target.with_suffix(".part")
    part.unlink(missing_ok=True)
    part.touch(mode=0o600)
    with closing(sqlite3.connect(source)) as here, closing(sqlite3.connect(part)) as there:
        here.backup(there)
        there.execute("PRAGMA journal_mode=DELETE")
        sound = there.execute("PRAGMA integrity_check").fetchone()[0]
    if sound != "ok":
        part.unlink()
        raise CommandError(f"The copy is not sound: {sound}")
    part.replace(target)


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument(
            "file", nargs="?", help="where to; by default a dated file under backups/ beside the database"
        )

    def handle(self, *args: Any, file: Any, **options: Any) -> None:
        check_is_file()
        database = Path(str(settings.DATABASES["default"]["NAME"]))
        if not database.exists():
            raise CommandError(f"There is no database at {database}.")
        target = Path(file) if file else database.parent / "backups" / f"{timezone.now():%Y%m%d-%H%M%S}.sqlite3"
        target.parent.mkdir(parents=True, exist_ok=True)
        copy_database(database, target)
        self.stdout.write(f"Backed up to {target}")
