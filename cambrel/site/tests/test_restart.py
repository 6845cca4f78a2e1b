"""What must hold between processes, on a database of its own: undo after a kill, and backup and restore while others
have it open.
"""

import contextlib
import json
import shutil
import sqlite3
import subprocess
import sys
import zipfile

from django.conf import settings
from django.test import SimpleTestCase, tag

VAR = settings.ROOT / "var" / "restart-test"
DATABASE = VAR / "cambrel.sqlite3"


@tag("long")
class RestartTests(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        shutil.rmtree(VAR, ignore_errors=True)
        env = {"CAMBREL_VAR": str(VAR), "DJANGO_SETTINGS_MODULE": "cambrel.site.settings", "PATH": ""}
        command = [sys.executable, "-m", "cambrel.site.tests.restarted"]
        cls.house = subprocess.Popen(
            command, cwd=settings.ROOT, env=env, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        )
        cls.addClassCleanup(cls.house.__exit__, None, None, None)
        code, said = cls.run_there("manage.py", "demo", "--prepare", "--bare")
        assert code == 0, said
        with contextlib.closing(sqlite3.connect(DATABASE)) as made:
            made.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        cls.prepared = DATABASE.read_bytes()

    @classmethod
    def run_there(cls, *arguments):
        """Another process on that database: its end and what it printed."""
        cls.house.stdin.write(json.dumps(arguments) + "\n")
        cls.house.stdin.flush()
        code, said = json.loads(cls.house.stdout.readline())
        return code, said

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

        self.assertEqual(self.run_there("delete", "import", "rename")[0], -9)
        self.assertEqual((self.macros(), names()), (2, ["After"]))
        self.assertEqual(self.run_there("undo")[0], -9)
        self.assertEqual((self.macros(), names()), (before, []))

    def test_a_write_waits_for_another_and_in_the_end_says_that_it_is_busy(self):
        self.assertEqual(self.run_there("short")[1].split()[0], "302")
        saved = "SELECT count(*) FROM bench_savedcomparison"
        self.assertEqual(self.live.execute(saved).fetchone(), (1,))
        said = self.run_there("long")[1]
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
        code, said = self.run_there("manage.py", "backup", str(VAR / "copy.sqlite3"))
        self.assertEqual(code, 0, said)
        self.live.rollback()
        with contextlib.closing(sqlite3.connect(VAR / "copy.sqlite3")) as copy:
            self.assertEqual(self.macros(copy), before)
        self.live.execute("PRAGMA foreign_keys=OFF")
        self.live.execute("DELETE FROM shelf_lens")
        self.live.commit()
        code, said = self.run_there("manage.py", "restore", str(VAR / "copy.sqlite3"))
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
            code, said = self.run_there("manage.py", "restore", str(wrong))
            self.assertEqual(code, 1)
            self.assertIn("CommandError", said)
        self.assertEqual(self.macros(), before)

    def test_pictures_go_with_the_backup_and_come_back_with_it(self):
        self.assertEqual(self.run_there("scene")[0], -9)
        (picture,) = (VAR / "own").rglob("*.jpg")
        whole = picture.read_bytes()
        code, said = self.run_there("manage.py", "backup", str(VAR / "copy.zip"))
        self.assertEqual(code, 0, said)
        with zipfile.ZipFile(VAR / "copy.zip") as archive:
            self.assertEqual(sorted(archive.namelist()), ["cambrel.sqlite3", str(picture.relative_to(VAR))])
        self.assertEqual(self.run_there("remove scene")[0], -9)
        picture.write_bytes(b"damaged")
        code, said = self.run_there("manage.py", "restore", str(VAR / "copy.zip"))
        self.assertEqual(code, 0, said)
        self.assertEqual(picture.read_bytes(), whole)
        self.assertEqual(self.live.execute("SELECT name FROM pictures_ownscene").fetchall(), [("Street",)])
        for folder in (VAR, VAR / "own", picture.parent, VAR / "scratch"):
            self.assertEqual(folder.stat().st_mode & 0o077, 0, folder)

    def test_an_upgrade_says_what_it_ends_and_copies_the_database_before(self):
        self.run_there("rename")
        self.assertEqual(self.run_there("manage.py", "migrate", "owners", "0003")[0], 0)
        code, said = self.run_there("manage.py", "migrate", "--noinput")
        self.assertEqual(code, 0, said)
        self.assertIn("changes made before it can no longer be undone", said)
        (kept,) = (VAR / "backups").glob("*-before-upgrade.sqlite3")
        self.assertIn(str(kept), said)

    def test_what_was_preferred_and_what_undoing_it_brings_back_become_answers(self):
        self.assertEqual(self.run_there("manage.py", "migrate", "owners", "0005")[0], 0)
        ended, old = self.run_there("keep old answers")
        self.assertEqual(ended, -9)
        code, said = self.run_there("manage.py", "migrate", "--noinput")
        self.assertEqual(code, 0, said)
        newest = "ORDER BY id DESC LIMIT 1"
        ((answers,),) = self.live.execute(f"SELECT answers FROM owners_preferences {newest}")
        answers = json.loads(answers)
        self.assertEqual((answers["crop_by"], answers["lines_per_mm"], answers["units"]), ("width", 6, "m"))
        ((owner, changes),) = self.live.execute(f"SELECT owner_id, changes FROM owners_changeset {newest}")
        ((row,),) = [change["rows"] for change in json.loads(changes)]
        self.assertEqual(row[1], {"owner_id": owner, "answers": json.loads(old)})
