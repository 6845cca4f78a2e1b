"""Doors: hostile files are refused in little time and memory, whoever asks too often waits, and what is damaged heals
or is said.
"""

import errno
import io
import json
import shutil
import sqlite3
import struct
import subprocess
import sys
import tempfile
import time
import zipfile
import zlib
from pathlib import Path
from unittest.mock import patch

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError
from django.test import SimpleTestCase, TestCase, override_settings, tag
from django.urls import reverse
from PIL import Image

from cambrel.bench.sample_benches import home_bench
from cambrel.bounds.documents import NO_TEXT, DocumentError, read_json
from cambrel.bounds.doors import DOORS, MB
from cambrel.bounds.lanes import BusyError, OverrunError
from cambrel.choose import helping
from cambrel.field.models import Sheet
from cambrel.field.views import returning
from cambrel.links.benches import encode
from cambrel.owners.latest import Latest
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.pictures.tests.folder import own_folder
from cambrel.site import health
from cambrel.site.caches import FileCache
from cambrel.site.door_middleware import BY_VIEW

MEMORY = """
import re, sys
from pathlib import Path
from cambrel.photographs import child
code = child.main(sys.argv[1], sys.argv[2], "0", sys.argv[3])
print(code, int(re.search("VmHWM:\\s+(\\d+)", Path("/proc/self/status").read_text())[1]) // 1024)
"""


def packed_scenes(*parts, method=zipfile.ZIP_DEFLATED):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as archive:
        for name, content in parts:
            archive.writestr(name, content)
    return out.getvalue()


def large_png(wide, high):
    """A picture of so many pixels in a few bytes."""
    squeeze = zlib.compressobj(1)
    row = b"\0" + b"\x40" * (3 * wide)
    data = b"".join(squeeze.compress(row) for _ in range(high)) + squeeze.flush()

    def chunk(kind, content):
        return struct.pack(">I", len(content)) + kind + content + struct.pack(">I", zlib.crc32(kind + content))

    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", struct.pack(">IIBBBBB", wide, high, 8, 2, 0, 0, 0))
        + chunk(b"IDAT", data)
        + chunk(b"IEND", b"")
    )


@tag("long")
class HostileTests(TestCase):
    def setUp(self):
        self.folder = own_folder(self)
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)

    def sent(self, address, field, content, name="x"):
        begun = time.process_time()
        page = self.client.post(address, {field: SimpleUploadedFile(name, content)}, follow=True)
        self.assertLess(time.process_time() - begun, 3.0)
        return page

    def test_more_rows_or_values_than_are_read_are_refused_before_any_is(self):
        long = b"name,mount,focal_min_mm\n" + b"Fen 40,Tarn,40\n" * 200_000
        many = b'{"cambrel": 1, "sections": {"lenses": [' + b"{}," * 5_000_000 + b"{}]}}"
        for address, field in (("/shelf/import/", "files"), (reverse("field:table"), "file")):
            page = self.sent(address, field, long if field == "files" else b"f-number\n" + b"2.8\n" * 200_000)
            self.assertContains(page, "60,000", status_code=422)
            page = self.sent(address, field, many)
            self.assertContains(page, "2,000,000 values", status_code=422)
        for content, says in (
            (b"name,mount\n" + b"\n" * 1_000_000, "lines"),
            (b"name,mount\n" + b"," * 5_000_000, "cells"),
            (b"<lensdatabase>" + b"<a/>" * 1_000_000, "elements"),
            (b"<lensdatabase><lens " + b" a='1'" * 700_000 + b"/>", "elements"),
        ):
            self.assertContains(self.sent("/shelf/import/", "files", content), says, status_code=422)
        self.assertContains(
            self.sent(reverse("field:table"), "file", b"f-number\n" + b"\n" * 1_000_000), "lines", status_code=422
        )
        rows = json.dumps({"cambrel": 1, "sections": {"lenses": [{"name": "a"}] * 60_001}}).encode()
        self.assertContains(self.sent("/shelf/import/", "files", rows), "60,000", status_code=422)

    def test_scenes_are_counted_as_they_are_unpacked(self):
        sign = ("scenes.json", json.dumps({"cambrel_scenes": 1, "scenes": []}))
        many = packed_scenes(sign, *((f"pictures/{k}", b"x") for k in range(4000)))
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as archive:
            archive.writestr(*sign)
            with self.assertWarns(UserWarning):
                archive.writestr(*sign)
        bomb = packed_scenes(("scenes.json", b" " * (200 * MB)))
        for content, says in (
            (many, "more than is read"),
            (out.getvalue(), "not a file of scenes"),
            (bomb, "more than is read"),
            (packed_scenes(sign, method=zipfile.ZIP_BZIP2), "not a file of scenes"),
            (packed_scenes(sign, method=zipfile.ZIP_LZMA), "not a file of scenes"),
            (packed_scenes(sign)[:-30], "not a file of scenes"),
        ):
            with self.subTest(says=says, size=len(content)):
                self.assertContains(self.sent(reverse("field:places-in"), "file", content), says)

    def test_a_picture_of_many_pixels_is_decoded_or_refused_in_little_memory(self):
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        jpeg = io.BytesIO()
        Image.new("RGB", (9000, 8000), (90, 100, 110)).save(jpeg, "JPEG", quality=60)
        progressive = io.BytesIO()
        Image.new("RGB", (9000, 8000), (90, 100, 110)).save(progressive, "JPEG", quality=60, progressive=True)
        for name, content, code in (
            ("jpeg", jpeg.getvalue(), 0), ("progressive", progressive.getvalue(), 3), ("png", large_png(8000, 6000), 0),
            ("bomb", large_png(12_000, 11_000), 3),
        ):  # fmt: skip
            (folder / "file").write_bytes(content)
            for side in ("0", "2000") if code == 0 else ("0",):
                with self.subTest(name=name, side=side):
                    command = [sys.executable, "-c", MEMORY, str(folder / "file"), str(folder / "out.npy"), side]
                    done = subprocess.run(command, capture_output=True, text=True, check=True, cwd=settings.ROOT)
                    ended, megabytes = map(int, done.stdout.split()[-2:])
                    self.assertEqual(ended, code, done.stdout)
                    self.assertLess(megabytes, 300)


class DocumentTests(SimpleTestCase):
    def test_numbers_texts_and_depth_are_bounded(self):
        self.assertEqual(read_json(b'[1, 2.5, "a"]', "page"), [1, 2.5, "a"])
        self.assertEqual(read_json(b"[" + b"9" * 4000 + b"]", "page"), [float("inf")])
        self.assertEqual(read_json(b"[NaN, Infinity]", "page"), ["NaN", "Infinity"])
        self.assertEqual(read_json(b'{"\\ud800": "a\\udfffb"}', "page"), {NO_TEXT: f"a{NO_TEXT}b"})
        self.assertEqual(read_json('["🚂"]'.encode(), "page"), ["🚂"])
        self.assertEqual(read_json(b'["\\ud83d\\ude82"]', "page"), ["🚂"])
        for data, says in (
            (b"[" * 100_000, "values"),
            (b"[" * 400 + b"1" * 5 + b"]" * 400, ""),
            (b"{", "not JSON"),
            (b"\xff", "UTF-8"),
        ):
            with self.subTest(says=says):
                if says:
                    with self.assertRaisesRegex(DocumentError, says):
                        read_json(data, "page")
                else:
                    read_json(data, "page")

    def test_every_door_of_the_table_is_used_and_every_address_has_one(self):
        self.assertLessEqual(set(BY_VIEW.values()), set(DOORS))
        files = [
            path for path in (settings.ROOT / "cambrel").rglob("*.py") if not {"tests", "doors.py"} & set(path.parts)
        ]
        source = "".join(path.read_text() for path in files)
        self.assertEqual([key for key in DOORS if f'"{key}"' not in source], [])


class WaitingTests(TestCase):
    def setUp(self):
        own_folder(self)
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        self.client.raise_request_exception = False

    def test_who_asks_for_much_waits_in_a_line_of_its_own_and_is_told_where_it_is_too_long(self):
        sheet = Sheet.objects.create(owner=self.owner, name="Proof", token=encode(home_bench()), trials=["noise"])
        costly = (
            (helping.LANE, "get", reverse("choose:helping")),
            (returning.SIMULATING, "post", reverse("field:simulate", args=[sheet.pk, "noise-0-0"])),
        )
        for lane, how, address in costly:
            for error, status in ((BusyError("it"), 503), (OverrunError("it"), 503)):
                with self.subTest(address=address, error=error), patch.object(lane, "turn", side_effect=error):
                    page = getattr(self.client, how)(address)
                    self.assertEqual(page.status_code, status)
                    self.assertContains(page, ": it.", status_code=status)

    @override_settings(HOSTED=True)
    def test_whoever_asks_too_often_waits_and_nobody_else(self):
        self.client.force_login(self.owner)
        held = {"most": DOORS["export"].per_minute}
        with patch("django_ratelimit.core._get_window", return_value=int(time.time()) + 77):
            pages = [self.client.get("/shelf/export/lenses.csv").status_code for _ in range(held["most"] + 1)]
            self.assertEqual(set(pages[:-1]), {200})
            self.assertEqual(pages[-1], 429)
            self.assertEqual(self.client.get("/formats/").status_code, 200)
            self.client.force_login(User.objects.create(username="somebody"))
            self.assertEqual(self.client.get("/shelf/export/lenses.csv").status_code, 200)

    def test_a_full_disk_and_a_database_that_is_away_have_a_page(self):
        for fault, status, says in (
            (OSError(errno.ENOSPC, "No space left on device"), 507, "disk of this service is full"),
            (OSError(errno.EROFS, "Read-only file system"), 507, "disk of this service is full"),
            (OperationalError("connection refused"), 503, "Away for a moment"),
            (OperationalError("database or disk is full"), 503, "Away for a moment"),
            (OperationalError("attempt to write a readonly database"), 503, "Away for a moment"),
            (OperationalError("database is locked"), 503, "Busy, trying again"),
        ):
            with self.subTest(fault=str(fault)), patch("cambrel.bench.views.saved.recorded", side_effect=fault):
                page = self.client.post("/saved/comparisons/new/", {"b": encode(home_bench()), "name": "A"})
                self.assertContains(page, says, status_code=status)

    def test_signing_out_empties_what_the_browser_keeps(self):
        with override_settings(HOSTED=True):
            self.client.force_login(self.owner)
            self.assertEqual(self.client.post("/sign-out/")["Clear-Site-Data"], '"cache", "storage"')


class HealingTests(SimpleTestCase):
    def test_a_damaged_cache_begins_anew(self):
        folder = tempfile.mkdtemp()
        self.addCleanup(shutil.rmtree, folder, True)
        params = {"OPTIONS": {"size_limit": 10_000_000}, "SHARDS": 1, "TIMEOUT": None}
        cache = FileCache(folder, params)
        cache.set("a", 1)
        cache.close()
        for file in Path(folder).rglob("cache.db*"):
            file.write_bytes(b"no database at all" * 100)
        again = FileCache(folder, params)
        self.assertIsNone(again.get("a"))
        again.set("a", 2)
        self.assertEqual(again.get("a"), 2)
        # damaged while it is open
        with (
            patch("diskcache.DjangoCache.get", side_effect=sqlite3.DatabaseError("file is not a database")),
            self.assertLogs("cambrel.caches", "WARNING"),
        ):
            self.assertIsNone(again.get("a"))
        again.set("a", 3)
        self.assertEqual(again.get("a"), 3)

    def test_what_another_version_has_put_in_is_not_there(self):
        folder = tempfile.mkdtemp()
        self.addCleanup(shutil.rmtree, folder, True)
        cache = FileCache(folder, {"OPTIONS": {}, "SHARDS": 1})
        with (
            patch("diskcache.DjangoCache.get", side_effect=AttributeError("no such class")),
            self.assertLogs("cambrel.caches", "WARNING"),
        ):
            self.assertEqual(cache.get("a", "usual"), "usual")
        with (
            patch("diskcache.DjangoCache.set", side_effect=sqlite3.OperationalError("database or disk is full")),
            self.assertLogs("cambrel.caches"),
        ):
            cache.set("a", 1)

    def test_health_names_what_is_wrong(self):
        self.assertEqual(health._static(), "")
        root = Path(settings.STATIC_ROOT)
        name = next(iter(json.loads((root / "staticfiles.json").read_text())["paths"].values()))
        whole = (root / name).read_bytes()
        try:
            (root / name).write_bytes(whole + b" ")
            with self.assertLogs("cambrel.health", "ERROR"):
                self.assertIn("another than it was", health._looked({"static": health._static})["static"])
        finally:
            (root / name).write_bytes(whole)
        with patch("shutil.disk_usage", return_value=shutil._ntuple_diskusage(1, 1, 10 * MB)):
            self.assertEqual(health._disk(), "only 10 MB are free")


class SharedTests(TestCase):
    def test_what_one_server_made_another_does_not_make_again(self):
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        made = []

        def build(owner):
            made.append(owner)
            return list(range(5000))

        with override_settings(CACHE_URL="redis://shared"):
            for _ in range(2):
                self.assertEqual(len(Latest("test of sharing", build, len).of(owner)), 5000)
        self.assertEqual(len(made), 1)
        Latest("test of sharing", build, len).of(owner)
        self.assertEqual(len(made), 2)
