"""Copy the database and the pictures that its records speak of, while the application runs: one consistent file,
checked before it counts.
"""

import hashlib
import sqlite3
import subprocess
import tempfile
import zipfile
from contextlib import closing
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.utils import timezone

from cambrel.pictures import own
from cambrel.pictures.models import OwnFile

IN_FILE, IN_SERVER = "cambrel.sqlite3", "cambrel.dump"
"""The database within a backup: a file of its own, or what the tools of a server make of it."""


def copy_database(source: str | Path, target: Path) -> None:
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


def by_tools(tool: str, *arguments: str) -> None:
    """Run a tool of the database server."""
    try:
        subprocess.run([tool, *arguments], check=True, capture_output=True, text=True)
    except FileNotFoundError:
        raise CommandError(f"{tool} is not installed; it comes with the database server's client.") from None
    except subprocess.CalledProcessError as error:
        raise CommandError(f"{tool}: {error.stderr.strip()[-400:]}") from None


def whole_backup(target: Path) -> int:
    """Write a backup of the database and the pictures beside each other; how many pictures were not there any more."""
    part, missing = target.with_suffix(".part"), 0
    with tempfile.TemporaryDirectory(dir=target.parent) as folder:
        if settings.DATABASE_URL:
            database = Path(folder) / IN_SERVER
            by_tools("pg_dump", "--format=custom", f"--file={database}", settings.DATABASE_URL)
        else:
            database = Path(folder) / IN_FILE
            copy_database(settings.DATABASES["default"]["NAME"], database)
        part.touch(mode=0o600)
        with zipfile.ZipFile(part, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
            archive.write(database, database.name)
            # after the database: what has come since is not spoken of in it, and what has gone since was let go of
            for row in OwnFile.objects.exclude(ending=own.WORKING).select_related("owner").iterator():
                content = own.kept(row.owner, row.token, row.ending)
                if content is None:
                    missing += 1
                else:
                    archive.writestr(f"own/{row.owner_id}/{row.token}{row.ending}", content)
    part.replace(target)
    return missing


def is_picture_of(name: str, content: bytes) -> bool:
    """Whether a file of a backup is what its name says."""
    _, owner, file = name.split("/")
    return hashlib.sha256(owner.encode() + content).hexdigest()[:32] == Path(file).stem


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = ()  # a backup goes on where a page would not

    def add_arguments(self, parser: Any) -> None:
        where = (
            "where to; by default a dated file under backups/ below CAMBREL_VAR; one that ends in .sqlite3 gets the"
            " database alone"
        )
        parser.add_argument("file", nargs="?", help=where)

    def handle(self, *args: object, file: Any, **options: object) -> None:
        database = Path(str(settings.DATABASES["default"]["NAME"]))
        if not settings.DATABASE_URL and not database.exists():
            raise CommandError(f"There is no database at {database}.")
        target = Path(file) if file else Path(settings.VAR) / "backups" / f"{timezone.now():%Y%m%d-%H%M%S}.zip"
        target.parent.mkdir(parents=True, exist_ok=True)
        if target.suffix == ".sqlite3":
            if settings.DATABASE_URL:
                raise CommandError("The database is on a server (DATABASE_URL): give the backup another ending.")
            copy_database(database, target)
        elif missing := whole_backup(target):
            self.stdout.write(f"{missing} pictures were not there any more.")
        self.stdout.write(f"Backed up to {target}")
