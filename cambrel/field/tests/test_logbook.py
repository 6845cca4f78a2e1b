"""The logbook: tables as people have them, kept once and undone, exported, looked at by a pressed bar, and serving
Choose and the card.
"""

import json
from datetime import datetime

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from django.urls import reverse

from cambrel.field import logbook
from cambrel.field.logbook import TableError, book_of, identity, read_table, sound
from cambrel.field.models import Logged
from cambrel.field.sample import sample_rows
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, User
from cambrel.owners.sections import SECTIONS
from cambrel.shelf.models import Kit
from cambrel.shelf.tests.test_shelf import ShelfTestCase
from cambrel.trials.habits import LEAST

NOW = datetime(2026, 11, 26)
ROW = {
    "taken_at": "2026-05-04 10:20:30",
    "body": "K 3",
    "lens": "Tern 35",
    "focal_length_mm": 35.0,
    "f_number": 2.8,
    "shutter_s": 0.004,
    "iso": 400.0,
}


class TableTests(TestCase):
    def test_tables_are_read_as_people_have_them(self):
        wanted = (
            ("Date;Camera;Lens;Focal length (mm);Aperture;Shutter (s);ISO\n"
                "2026:05:04 10:20:30;K 3;Tern 35;35,0;2,8;1/250;400\n"),
            ("\ufeffDateTimeOriginal,Model,LensModel,FocalLength,FNumber,ExposureTime,ISO\n"
                "2026-05-04 10:20:30,K 3,Tern 35,35 mm,f/2.8,0.004,ISO 400\n"),
            ("taken at\tbody\tlens\tfocal\tf-number\texposure time\tiso speed\n"
                "2026-05-04T10:20:30\tK 3\tTern 35\t35mm\tF2.8\t1/250 s\t400\n"),
            json.dumps([{
                "Model": "K 3", "LensModel": "Tern 35", "FocalLength": "35.0 mm", "FNumber": 2.8,
                "ExposureTime": "1/250", "ISO": 400,
                "DateTimeOriginal": "2026:05:04 10:20:30", "SerialNumber": "77", "GPSLatitude": 51.5,
            }]),
            json.dumps({"pictures": [ROW]}),
        )  # fmt: skip
        for text in wanted:
            with self.subTest(text[:50]):
                (row,), problems = read_table(text.encode(), NOW)
                self.assertEqual({key: row[key] for key in ROW}, ROW)
                self.assertEqual(problems, [])
                self.assertNotIn("77", str(row))

    def test_what_cannot_be_read_is_named_by_its_line(self):
        text = (
            "date,f-number,iso\n2026-05-04 10:00:00,2.8,400\n,,\nx,y,z\n2099-01-01 00:00:00,0,400\n2026-05-04"
            " 10:00:00,900,400\n"
        )
        rows, problems = read_table(text.encode(), NOW)
        self.assertEqual([row["f_number"] for row in rows], [2.8, None, None])
        self.assertEqual([problem.split(":")[0] for problem in problems], ["line 4", "line 5", "line 6"])
        for content, says in (
            (b"name,colour\na,b\n", "names no columns"), (b"[1, 2", "not JSON"), (b'{"a": 1}', "no list"),
            (b"\xff\xfe\x00", "UTF-8"),
            (b"", "names no columns"),
            (b"[" * 100_000, "nested too deeply"), (b'f-number\n"' + b"x" * 3_000_000, "not a table"),
        ):  # fmt: skip
            with self.subTest(says=says), self.assertRaisesRegex(TableError, says):
                read_table(content, NOW)

    def test_only_sound_pictures_are_kept(self):
        self.assertEqual(sound(ROW)["f_number"], 2.8)
        for change in (
            {"f_number": -1},
            {"iso": float("nan")},
            {"iso": 1e400},
            {"body": 3},
            {"taken_at": "soon"},
            {"shutter_s": True},
            {"lens": "a\nb"},
        ):
            self.assertIsNone(sound(ROW | change), change)
        self.assertIsNone(sound({"taken_at": ROW["taken_at"]}), "it says nothing that is counted")
        self.assertIsNone(sound([1]))


class LogbookTests(ShelfTestCase):
    def setUp(self):
        super().setUp()
        # keys and versions of a test that was rolled back come again
        logbook._STORED.clear()
        logbook._BOOKS._kept.clear()

    def keep(self, rows):
        return self.client.post(reverse("field:log"), {"rows": SimpleUploadedFile("rows", json.dumps(rows).encode())})

    def test_pictures_are_kept_once_undone_and_brought_back(self):
        rows = [ROW | {"iso": float(100 * (k + 1))} for k in range(40)]
        self.assertEqual(self.keep([*rows, *rows[:5], {"iso": "x"}]).json(), {"kept": 40})
        page = self.client.get(reverse("field:habits"))
        self.assertContains(
            page, "40 pictures are in the logbook now, 5 were there already, 1 hold nothing that is counted."
        )
        self.assertEqual(self.keep(rows).json(), {"kept": 0})
        self.client.post(reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/field/habits/"})
        self.assertEqual(len(book_of(self.owner).log), 0)
        self.keep(rows)
        self.client.post(reverse("field:clear"))
        self.assertFalse(Logged.objects.exists())
        self.assertNotContains(self.client.get(reverse("field:habits")), "pictures in the logbook.")
        self.client.post(reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/field/habits/"})
        self.assertEqual(len(book_of(self.owner).log), 40)
        for sent in ({}, {"rows": SimpleUploadedFile("rows", b"{")}, {"rows": SimpleUploadedFile("rows", b"{}")}):
            self.assertEqual(self.client.post(reverse("field:log"), sent).status_code, 422)
        table = self.client.post(
            reverse("field:table"), {"file": SimpleUploadedFile("t.csv", b"f-number,iso\n2.8,400\n0,0\n")}
        ).json()
        self.assertEqual(
            (len(table["rows"]), table["problems"], table["more"]), (1, ["line 3: no setting that could be read"], 0)
        )
        self.assertEqual(self.client.post(reverse("field:table")).status_code, 422)

    def test_it_travels_in_the_document_and_through_the_shelf_s_door(self):
        self.keep([ROW, ROW | {"taken_at": "", "iso": None}])
        rows = [row for _, row in SECTIONS["logbook"].rows(self.owner)]
        self.assertEqual({row["name"] for row in rows}, {"undated", ROW["taken_at"]})
        for row in rows:
            self.assertEqual(SECTIONS["logbook"].check(row), row)
        csv = self.client.get(reverse("shelf:table", args=["logbook"])).content
        other = {"name": "2026-06-01 08:00:00", "iso": 200}
        bad = {"name": "yesterday", "iso": 200}
        document = json.dumps({"cambrel": 1, "sections": {"logbook": [*rows, other, bad]}}).encode()
        for name, content, new, same, refused in (("t.csv", csv, 0, 2, 0), ("d.json", document, 1, 2, 1)):
            answer = self.client.post(reverse("shelf:import"), {"files": SimpleUploadedFile(name, content)})
            pk = answer["Location"].rstrip("/").split("/")[-1]
            self.client.post(reverse("shelf:work", args=[pk]))
            count = dict(self.client.get(answer["Location"]).context["counts"])
            self.assertEqual(
                (count["new"], count["same"], count["refused"], count["changed"]), (new, same, refused, 0), name
            )
        self.client.post(reverse("shelf:apply", args=[pk]), {"leave_out": "1"})
        self.assertEqual(Logged.objects.count(), 3)

    def test_a_pressed_bar_leaves_its_pictures_and_what_they_say(self):
        self.client.post(reverse("field:sample"))
        page = self.client.get(reverse("field:habits"))
        self.assertContains(page, "3,000 pictures in the logbook")
        chart = page.context["charts"][1]
        one = max(chart.pressed, key=lambda bar: bar.bar.height)
        left = self.client.get(one.address)
        wanted = sum(abs(row["f_number"] / float(one.bar.label) - 1) < 0.05 for row in sample_rows())
        self.assertEqual(left.context["left"], f"{wanted:,}")
        self.assertIn(f"{wanted:,} pictures", one.says)
        # the chart that was pressed still shows the others, and pressing it again lets go
        again = next(bar for bar in left.context["charts"][1].pressed if bar.is_on)
        self.assertGreater(len(left.context["charts"][1].pressed), 3)
        self.assertEqual(again.address, reverse("field:habits"))
        lens = next(
            row for label, rows in page.context["lists"] if label == "Lens" for row in rows if "70-300" in row.name
        )
        self.assertContains(self.client.get(lens.address), "you need more reach")
        few = self.client.get(
            reverse("field:habits"), {"f": "1.4", "year": "2023", "lens": "Pipwren 25 mm f/1.4", "iso": "100"}
        )
        if int(few.context["left"]) < LEAST:
            self.assertContains(few, "Nothing is concluded from fewer than 30 pictures")
        self.assertEqual(
            self.client.get(reverse("field:habits"), {"f": "x", "year": "²", "lens": "y", "iso": "-1"}).context["left"],
            "3,000",
        )

    def test_habits_feed_choose_and_the_card(self):
        before = self.client.get(reverse("field:card", args=[Kit.objects.get(name="Lineside bag").pk])).context[
            "bodies"
        ][0]
        self.client.post(reverse("field:sample"))
        page = self.client.get(reverse("field:habits"))
        chosen = self.client.get(page.context["choose"])
        self.assertEqual(chosen.status_code, 200)
        self.assertAlmostEqual(sum(chosen.context["form"].shares().values()), 100, delta=1)
        after = self.client.get(reverse("field:card", args=[Kit.objects.get(name="Lineside bag").pk])).context[
            "bodies"
        ][0]
        zoom = "Tarn 24-70 mm f/2.8"
        self.assertEqual((len(dict(before.lenses)[zoom]), len(dict(after.lenses)[zoom])), (2, 3))
        self.assertLess(len(after.ladder), len(before.ladder))

    def test_cameras_of_the_shelf_say_what_a_file_does_not(self):
        self.keep([ROW | {"body": "Pipwren Tern", "focal_length_mm": 25.0, "wide_px": 2640, "high_px": 1984}])
        log = book_of(self.owner).log
        self.assertAlmostEqual(log.equivalent_mm[0], 50, delta=0.6)
        self.assertAlmostEqual(log.kept[0], 0.5)
        self.assertTrue(500 < log.ceiling_iso[0] < 1200, log.ceiling_iso[0])
        self.keep([ROW | {"body": "Pipwren Tern", "wide_px": 9000, "high_px": 7000}])
        self.assertEqual(book_of(self.owner).log.kept[-1], 1.0, "several frames made one are not cropped")
        # a camera that is on no shelf goes by what its other files say
        self.keep([ROW | {"body": "K 4", "focal_35_mm": 70.0}, ROW | {"body": "K 4"}])
        log = book_of(self.owner).log
        self.assertAlmostEqual(log.equivalent_mm[-1], 70)

    def test_what_was_made_smaller_outside_is_not_taken_as_cropped(self):
        rows = [
            ROW
            | {
                "taken_at": f"2026-01-02 10:00:{k:02d}",
                "body": "Pipwren Tern",
                "wide_px": wide,
                "high_px": wide * 3 // 4,
            }
            for k, wide in enumerate([2048] * 6 + [2400 + 7 * k for k in range(6)])
        ]
        self.keep(rows)
        kept = book_of(self.owner).log.kept
        self.assertEqual(np.isnan(kept).tolist(), [True] * 6 + [False] * 6)

    def test_who_empties_a_logbook_empties_their_own(self):
        somebody = User.objects.create(username="somebody")
        Logged.objects.create(owner=somebody, body="Theirs", iso=100)
        self.keep([ROW])
        self.client.post(reverse("field:clear"))
        self.assertEqual([logged.body for logged in Logged.objects.all()], ["Theirs"])

    def test_nobody_reads_anothers_logbook(self):
        somebody = User.objects.create(username="somebody")
        Logged.objects.create(owner=somebody, body="Theirs", iso=100)
        self.assertEqual(len(book_of(User.objects.get(username=LOCAL_OWNER)).log), 0)
        self.assertEqual(len({identity(ROW), identity(dict(ROW))}), 1)
