"""Django's own, and before it: what an upgrade ends is said, and a database file is copied."""

from typing import Any

from django.conf import settings
from django.core.management.base import CommandError
from django.core.management.commands.migrate import Command as Migrate
from django.db import connections
from django.db.migrations.executor import MigrationExecutor
from django.utils import timezone

from cambrel.site.management.commands.backup import copy_database

ENDS_UNDO = ("owners", "0004_version")


class Command(Migrate):
    def handle(self, *arguments: object, **options: Any) -> None:
        connection = connections[options["database"]]
        executor = MigrationExecutor(connection)
        targets = executor.loader.graph.leaf_nodes()
        pending = {(migration.app_label, migration.name) for migration, _ in executor.migration_plan(targets)}
        is_new = not executor.loader.applied_migrations
        if pending and not is_new and not options.get("app_label"):
            self._ends(connection, pending, options)
            self._copied(connection)
        super().handle(*arguments, **options)

    def _ends(self, connection: Any, pending: Any, options: Any) -> None:
        if ENDS_UNDO not in pending:
            return
        with connection.cursor() as cursor:
            cursor.execute("SELECT count(*) FROM owners_changeset WHERE undone_at IS NULL")
            (count,) = cursor.fetchone()
        if not count:
            return
        self.stdout.write(
            f"After this upgrade the {count} changes made before it can no longer be undone; the records stay."
        )
        if options["interactive"] and input("Go on? [y/N] ").strip().lower() not in ("y", "yes"):
            raise CommandError("Nothing was changed.")

    def _copied(self, connection: Any) -> None:
        if (
            connection.vendor != "sqlite"
            or settings.DATABASE_URL
            or connection.settings_dict["NAME"] != settings.DATABASE
        ):
            return
        kept = settings.DATABASE.parent / "backups" / f"{timezone.now():%Y%m%d-%H%M%S}-before-upgrade.sqlite3"
        kept.parent.mkdir(parents=True, exist_ok=True)
        copy_database(settings.DATABASE, kept)
        self.stdout.write(f"What was there is in {kept}")
