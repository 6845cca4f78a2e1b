"""Processes that write and are killed, for `test_restart`: python -m cambrel.site.tests.restarted

The house is put together once. Each line that comes in is done by a process of its own, which comes of this one and
ends by a kill, or by itself where it is a command of manage.py; what it printed and how it ended go out as a line.
"""

import json
import os
import signal
import sqlite3
import sys
import threading
import traceback

import django

django.setup()

from django.conf import settings  # noqa: E402 - the house first
from django.core.files.uploadedfile import SimpleUploadedFile  # noqa: E402
from django.core.management import execute_from_command_line  # noqa: E402
from django.db import connection  # noqa: E402
from django.db.migrations.executor import MigrationExecutor  # noqa: E402
from django.test import Client  # noqa: E402
from django.urls import get_resolver  # noqa: E402

from cambrel.bench.models import SavedComparison  # noqa: E402
from cambrel.bench.sample_benches import home_bench  # noqa: E402
from cambrel.links.benches import encode  # noqa: E402
from cambrel.owners.models import ChangeSet  # noqa: E402
from cambrel.photographs.tests.test_heads import picture  # noqa: E402
from cambrel.pictures.models import OwnScene  # noqa: E402
from cambrel.shelf.models import ImportPreview  # noqa: E402

OLD_ANSWERS = {
    "crop_by": "area", "criterion": "print", "noise": "pixel", "lines_per_mm": 4, "iso_ceiling": 800, "units": "ft",
}  # fmt: skip
client = Client(headers={"host": "localhost"})


def bring_in():
    file = SimpleUploadedFile("new.csv", b"name,mount,focal_min_mm\nFen Macro,Tarn,40\nFen 2 Macro,Tarn,50\n")
    client.post("/shelf/import/", {"files": file})
    key = ImportPreview.objects.get().pk
    client.post(f"/shelf/import/{key}/work/")
    client.post(f"/shelf/import/{key}/apply/")


def rename():
    client.post("/saved/comparisons/new/", {"name": "Before", "b": encode(home_bench())})
    saved = SavedComparison.objects.get()
    client.post(f"/saved/comparisons/{saved.pk}/rename/", {"name": "After", "version": saved.version})


def delete():
    client.post("/shelf/lenses/act/", {"action": "delete", "all": "1", "q": "macro"})


def scene():
    figures = {
        "distance_m": "2", "subject_height_m": "1.8", "background_m": "6", "background_height_m": "8",
        "background_foot_m": "0", "camera_height_m": "1.5", "name": "Street",
    }  # fmt: skip
    client.post("/field/scenes/new/", figures | {"background": SimpleUploadedFile("x.jpg", picture())})


def remove_scene():
    client.post(f"/field/scenes/{OwnScene.objects.get().pk}/remove/")


def undo():
    for change in list(ChangeSet.objects.all()):
        client.post(f"/undo/{change.pk}/")


def write_beside(seconds):
    """Save while another holds the database for so long."""
    connection.settings_dict["OPTIONS"]["timeout"] = 1
    other = sqlite3.connect(settings.DATABASES["default"]["NAME"], check_same_thread=False, isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    threading.Timer(seconds, other.rollback).start()
    client.raise_request_exception = False
    page = client.post("/saved/comparisons/new/", {"name": "<In between>", "b": encode(home_bench())})
    print(page.status_code, page.headers.get("Retry-After"), page.content.decode(), flush=True)


def keep_old_answers():
    """Preferences as they were kept in columns of their own, and a change of them that can be undone."""
    apps = MigrationExecutor(connection).loader.project_state([("owners", "0005_keeping")]).apps
    owner = apps.get_model("owners", "User").objects.create(username="ada")
    kept = apps.get_model("owners", "Preferences").objects.create(owner=owner, crop_by="width", lines_per_mm=6)
    rows = [{"model": "owners.preferences", "rows": [[kept.pk, {**OLD_ANSWERS, "owner_id": owner.pk}, 7]]}]
    apps.get_model("owners", "ChangeSet").objects.create(owner=owner, label="Changed the conventions", changes=rows)
    print(json.dumps(OLD_ANSWERS), flush=True)


ACTIONS = {
    "import": bring_in,
    "rename": rename,
    "delete": delete,
    "scene": scene,
    "remove scene": remove_scene,
    "undo": undo,
    "keep old answers": keep_old_answers,
    "short": lambda: write_beside(0.3),
    "long": lambda: write_beside(30),
}


def work(arguments):
    """In a process of its own: a command of manage.py, or actions and the kill."""
    try:
        if arguments[0] == "manage.py":
            execute_from_command_line(arguments)
            sys.exit(0)
        for action in arguments:
            ACTIONS[action]()
        os.kill(os.getpid(), signal.SIGKILL)
    except SystemExit as ended:
        code = ended.code
    except BaseException:
        traceback.print_exc()
        code = 99
    sys.stdout.flush()
    os._exit(code)


if __name__ == "__main__":
    assert get_resolver().url_patterns, "the addresses are put together"
    for line in sys.stdin:
        there, here = os.pipe()
        child = os.fork()
        if not child:
            os.dup2(here, 1)
            os.dup2(here, 2)
            work(json.loads(line))
        os.close(here)
        with os.fdopen(there) as printed:
            said = printed.read()
        print(json.dumps([os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]), said]), flush=True)
