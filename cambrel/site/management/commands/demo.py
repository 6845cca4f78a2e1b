"""Bring the database up to date, load the demo shelf once, and serve the application on this machine."""

import os
import subprocess
import sys
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError

from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--port", type=int, default=8000)
        parser.add_argument("--prepare", action="store_true", help="set up only, do not serve")
        parser.add_argument("--bare", action="store_true", help="only the gear, nothing beside it")

    def handle(self, *args: object, port: Any, prepare: Any, bare: Any, **options: object) -> None:
        if settings.HOSTED:
            raise CommandError("The demo runs in local mode; see docs/running.md for a hosted service.")
        if not prepare:
            # at low priority and beside, the first scene first, so that its pictures are there when its page is
            subprocess.Popen(
                [sys.executable, "manage.py", "bake"],
                cwd=settings.ROOT,
                stdout=subprocess.DEVNULL,
                start_new_session=True,
            )
        call_command("migrate", interactive=False, verbosity=0)
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        loaded = load_demo(owner)
        if loaded and prepare and not bare:
            call_command("enliven")
        elif loaded and not bare:  # beside, so that the first page need not wait
            subprocess.Popen(
                [sys.executable, "manage.py", "enliven"],
                cwd=settings.ROOT,
                stdout=subprocess.DEVNULL,
                start_new_session=True,
            )
        call_command("collectstatic", interactive=False, verbosity=0)
        self.stdout.write("Demo shelf loaded." if loaded else "Your shelf is as you left it.")
        if prepare:
            return
        address = f"http://127.0.0.1:{port}/"
        self.stdout.write(self.style.SUCCESS(f"Cambrel is at {address} (stop it with Ctrl+C)"))
        self.stdout.flush()
        arguments = [
            "gunicorn",
            "cambrel.site.wsgi",
            "--bind",
            f"127.0.0.1:{port}",
            "--workers",
            "2",
            "--threads",
            "8",
            "--log-level",
            "warning",
        ]
        os.execv(sys.executable, [sys.executable, "-m", *arguments])
