"""What must hold between processes, on a database of its own: undo after a kill, and backup and restore while others
have it open.
"""

import contextlib
import shutil
import sqlite3
import subprocess
import sys
import zipfile

from django.conf import settings
from django.test import SimpleTestCase, tag

VAR = settings.ROOT / "var" / "restart-test"
DATABASE = VAR / "cambrel.sqlite3"
SCRIPT = """
import os, sqlite3, sys, threading, django; django.setup()
from django.conf import settings
from django.db import connection
from django.test import Client
from django.core.files.uploadedfile import SimpleUploadedFile
from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.links.benches import encode
from cambrel.owners.models import ChangeSet
from cambrel.shelf.models import ImportPreview
client = Client(headers={"host": "localhost"})
def bring_in():
    file = SimpleUploadedFile("new.csv", b"name,mount,focal_min_mm\\nFen Macro,Tarn,40\\nFen 2 Macro,Tarn,50\\n")
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
    from cambrel.photographs.tests.test_heads import picture
    figures = {"distance_m": "2", "subject_height_m": "1.8", "background_m": "6", "background_height_m": "8",
               "background_foot_m": "0",
               "camera_height_m": "1.5", "name": "Street", "background": SimpleUploadedFile("x.jpg", picture())}
    client.post("/field/scenes/new/", figures)
def unscene():
    from cambrel.pictures.models import OwnScene
    client.post(f"/field/scenes/{OwnScene.objects.get().pk}/remove/")
def undo():
    for change in list(ChangeSet.objects.all()):
        client.post(f"/undo/{change.pk}/")
def wait(seconds):
    connection.settings_dict["OPTIONS"]["timeout"] = 1
    other = sqlite3.connect(settings.DATABASES["default"]["NAME"], check_same_thread=False, isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    threading.Timer(seconds, other.rollback).start()
    client.raise_request_exception = False
    page = client.post("/saved/comparisons/new/", {"name": "<In between>", "b": encode(home_bench())})
    print(page.status_code, page.headers.get("Retry-After"), page.content.decode(), flush=True)
def short():
    wait(0.3)
def long():
    wait(30)
for action in sys.argv[1:]:
    globals()["bring_in" if action == "import" else action]()
os.kill(os.getpid(), 9)
"""


def run(*arguments):
    """Another process on that database: its end and what it printed."""
    env = {"CAMBREL_VAR": str(VAR), "DJANGO_SETTINGS_MODULE": "cambrel.site.settings", "PATH": ""}
    done = subprocess.run(
        [sys.executable, *arguments], cwd=settings.ROOT, env=env, capture_output=True, text=True, check=False
    )
    return done.returncode, done.stdout + done.stderr


@tag("long")
class RestartTests(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        shutil.rmtree(VAR, ignore_errors=True)
        code, said = run("manage.py", "demo", "--prepare", "--bare")
        assert code == 0, said
        with contextlib.closing(sqlite3.connect(DATABASE)) as made:
            made.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        cls.prepared = DATABASE.read_bytes()

    def setUp(self):
        for beside in VAR.glob(f"{DATABASE.name}*"):
            beside.unlink()
        for folder in ("backups", "own"):
            shutil.rmtree(VAR / folder, ignore_errors=True)
        DATABASE.touch(mode=0o600)
        DATABASE.write_bytes(self.prepared)
        self.live = sqlite3.connect(DATABASE)
        self.addCleanup(self.live.close)

    def macros(self, connection=None):
        return (
            (connection or self.live).execute("SELECT count(*) FROM shelf_lens WHERE name LIKE '%Macro'").fetchone()[0]
        )

    def test_undo_of_delete_import_and_rename_survives_a_kill(self):
        before = self.macros()
        self.assertGreater(before, 2)

        def names():
            return [name for (name,) in self.live.execute("SELECT name FROM bench_savedcomparison")]

        self.assertEqual(run("-c", SCRIPT, "delete", "import", "rename")[0], -9)
        self.assertEqual((self.macros(), names()), (2, ["After"]))
        self.assertEqual(run("-c", SCRIPT, "undo")[0], -9)
        self.assertEqual((self.macros(), names()), (before, []))

    def test_a_write_waits_for_another_and_in_the_end_says_that_it_is_busy(self):
        self.assertEqual(run("-c", SCRIPT, "short")[1].split()[0], "302")
        saved = "SELECT count(*) FROM bench_savedcomparison"
        self.assertEqual(self.live.execute(saved).fetchone(), (1,))
        said = run("-c", SCRIPT, "long")[1]
        self.assertIn("503 3 ", said)
        for part in (
            "Busy, trying again",
            'name="name" value="&lt;In between&gt;"',
            'method="post"',
            'action="/saved/comparisons/new/"',
        ):
            self.assertIn(part, said)
        self.assertEqual(self.live.execute(saved).fetchone(), (1,))

    def test_backup_and_restore_while_the_database_is_open(self):
        before = self.macros()
        self.live.execute(
            "DELETE FROM shelf_lens WHERE name LIKE '%Macro'"
        )  # a write in progress is not part of the copy
        code, said = run("manage.py", "backup", str(VAR / "copy.sqlite3"))
        self.assertEqual(code, 0, said)
        self.live.rollback()
        with contextlib.closing(sqlite3.connect(VAR / "copy.sqlite3")) as copy:
            self.assertEqual(self.macros(copy), before)
        self.live.execute("PRAGMA foreign_keys=OFF")
        self.live.execute("DELETE FROM shelf_lens")
        self.live.commit()
        code, said = run("manage.py", "restore", str(VAR / "copy.sqlite3"))
        self.assertEqual(code, 0, said)
        self.assertEqual(self.macros(), before)
        self.assertGreater(
            self.live.execute("SELECT shelf_version FROM owners_user").fetchone()[0],
            1_000_000,
            "what was worked out is stale",
        )
        (kept,) = (VAR / "backups").glob("*-before-restore.sqlite3")
        with contextlib.closing(sqlite3.connect(kept)) as copy:
            self.assertEqual(self.macros(copy), 0)
        for path in (DATABASE, kept, VAR / "copy.sqlite3"):
            self.assertEqual(path.stat().st_mode & 0o777, 0o600, path)
        broken = VAR / "broken.sqlite3"
        broken.write_bytes(kept.read_bytes()[:9000])
        for wrong in (broken, VAR / "nothing"):
            code, said = run("manage.py", "restore", str(wrong))
            self.assertEqual(code, 1)
            self.assertIn("CommandError", said)
        self.assertEqual(self.macros(), before)

    def test_pictures_go_with_the_backup_and_come_back_with_it(self):
        self.assertEqual(run("-c", SCRIPT, "scene")[0], -9)
        (picture,) = (VAR / "own").rglob("*.jpg")
        whole = picture.read_bytes()
        code, said = run("manage.py", "backup", str(VAR / "copy.zip"))
        self.assertEqual(code, 0, said)
        with zipfile.ZipFile(VAR / "copy.zip") as archive:
            self.assertEqual(sorted(archive.namelist()), ["cambrel.sqlite3", str(picture.relative_to(VAR))])
        self.assertEqual(run("-c", SCRIPT, "unscene")[0], -9)
        picture.write_bytes(b"damaged")
        code, said = run("manage.py", "restore", str(VAR / "copy.zip"))
        self.assertEqual(code, 0, said)
        self.assertEqual(picture.read_bytes(), whole)
        self.assertEqual(self.live.execute("SELECT name FROM pictures_ownscene").fetchall(), [("Street",)])
        for folder in (VAR, VAR / "own", picture.parent, VAR / "scratch"):
            self.assertEqual(folder.stat().st_mode & 0o077, 0, folder)

    def test_an_upgrade_says_what_it_ends_and_copies_the_database_before(self):
        run("-c", SCRIPT, "rename")
        self.assertEqual(run("manage.py", "migrate", "owners", "0003")[0], 0)
        code, said = run("manage.py", "migrate", "--noinput")
        self.assertEqual(code, 0, said)
        self.assertIn("changes made before it can no longer be undone", said)
        (kept,) = (VAR / "backups").glob("*-before-upgrade.sqlite3")
        self.assertIn(str(kept), said)
