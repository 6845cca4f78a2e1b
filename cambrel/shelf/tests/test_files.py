"""The shelf through its pages: lists, records, kits, files in and out, and undo."""

import json
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile

from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.links.benches import encode
from cambrel.owners.sections import document_schema
from cambrel.shelf.intake.shelf_documents import problem_of
from cambrel.shelf.models import Body, CropMode, ImportPreview, Kit, Lens, Mount, PreviewRow
from cambrel.shelf.tests.test_shelf import ShelfTestCase, without_ids


class FileTests(ShelfTestCase):
    def bring(self, *files):
        files = [SimpleUploadedFile(name, data if isinstance(data, bytes) else data.encode()) for name, data in files]
        page = self.client.post("/shelf/import/", {"files": files}, follow=True)
        preview = ImportPreview.objects.first()
        while preview.rows.filter(status="").exists():
            page = self.client.post(f"/shelf/import/{preview.pk}/work/", follow=True)
        return preview, page

    def by_status(self, preview):
        found = {}
        for row in preview.rows.all():
            found.setdefault(row.status, []).append(row.row.get("name"))
        return found

    def test_the_document_stands_up_to_its_schema_and_comes_back_whole(self):
        SavedComparison.objects.create(owner=self.owner, name="Two of them", token=encode(home_bench()))
        text = self.client.get("/shelf/export/shelf.json").content.decode()
        document = json.loads(text)
        self.assertEqual(set(document["sections"]), set(document_schema()["$defs"]))
        for section, rows in document["sections"].items():
            for row in rows:
                self.assertEqual(problem_of(section, row), "", (section, row))
        before = self.snapshot()
        preview, _ = self.bring(("shelf.json", text))
        self.assertEqual(set(self.by_status(preview)), {"same"})
        for model in (Kit, CropMode, Lens, Body, Mount, SavedComparison):
            model.objects.all().delete()
        preview, _ = self.bring(("shelf.json", text))
        self.client.post(f"/shelf/import/{preview.pk}/apply/")
        again = json.loads(self.client.get("/shelf/export/shelf.json").content)
        self.assertEqual(without_ids(again), without_ids(document))
        self.undo()
        self.assertFalse(Lens.objects.exists())
        self.assertTrue(before["lenses"])

    def test_tables_come_back(self):
        for key in (
            "bodies",
            "lenses",
            "mounts",
            "crop_modes",
            "converters",
            "adapters",
            "supports",
            "close_up_aids",
            "bags",
            "kits",
        ):
            with self.subTest(key):
                preview, _ = self.bring((f"{key}.csv", self.client.get(f"/shelf/export/{key}.csv").content))
                self.assertEqual(
                    set(self.by_status(preview)), {"same"}, [r.reason for r in preview.rows.exclude(status="same")]
                )

    def test_new_same_changed_refused_then_all_or_nothing(self):
        table = (
            "name,mount,focal_min_mm,weight_g\nTarn 50 mm f/1.8,Tarn,50,999\nTarn 85 mm f/1.8,Tarn,85,\nBeck"
            " 31,Tarn,31,200\nBeck 31,Tarn,31,200\nBeck 0,Tarn,0,\n"
        )
        preview, page = self.bring(("more.csv", table))
        found = self.by_status(preview)
        self.assertEqual(found["changed"], ["Tarn 50 mm f/1.8"])
        self.assertEqual(
            (found["new"], found["same"], found["refused"]), (["Beck 31"], ["Tarn 85 mm f/1.8"], ["Beck 31", "Beck 0"])
        )
        self.assertIn("weight: 208\u00a0g here, 999", preview.rows.get(status="changed").reason)
        self.assertContains(
            self.client.get(f"/shelf/import/{preview.pk}/?status=refused"), "stands in more.csv at 4 already"
        )
        page = self.client.post(f"/shelf/import/{preview.pk}/apply/", follow=True)
        self.assertContains(page, "2 records are refused")
        self.assertFalse(Lens.objects.filter(name="Beck 31").exists())
        self.client.post(f"/shelf/import/{preview.pk}/apply/", {"leave_out": "1"})
        self.assertTrue(Lens.objects.filter(name="Beck 31").exists())
        self.assertEqual(Lens.objects.get(name="Tarn 50 mm f/1.8").weight_g, 208)
        self.undo()
        self.assertFalse(Lens.objects.filter(name="Beck 31").exists())

    def test_a_changed_record_is_taken_only_when_ticked(self):
        preview, _ = self.bring(("m.csv", "name,mount,focal_min_mm,weight_g\nTarn 50 mm f/1.8,Tarn,50,999\n"))
        self.client.post(f"/shelf/import/{preview.pk}/apply/", {"take": preview.rows.get().pk})
        self.assertEqual(Lens.objects.get(name="Tarn 50 mm f/1.8").weight_g, 999)
        self.undo()
        self.assertEqual(Lens.objects.get(name="Tarn 50 mm f/1.8").weight_g, 208)

    def test_what_a_file_leaves_out_stays_and_what_it_would_break_is_refused(self):
        table = (
            "name,mount,focal_min_mm,weight_g,price\nTarn 24-70 mm f/2.8,Tarn,24,700,2000\n"
            "Tarn 70-300 mm f/4.5-5.6,Tarn,400,,\nBeck 28,Tarn,28,,300\n"
        )
        preview, _ = self.bring(("part.csv", table))
        changed, broken, priced = preview.rows.all()
        self.assertEqual(
            (changed.status, set(changed.row)), ("changed", {"name", "mount", "focal_min_mm", "weight_g", "price"})
        )
        self.assertEqual((broken.status, priced.status), ("refused", "refused"))
        self.assertEqual(broken.reason, "longest must be at least shortest focal length 400")
        # whatever is wrong with a record is said in the words of the form, never in those of the file
        for row, says in (
            ({"name": "A", "height_mm": 16, "width_mm": -3}, "width: -3 is less than or equal to the minimum of 0"),
            ({"name": "A", "width_mm": 24}, "height is missing"),
            ({"name": "A", "width_mm": 24, "height_mm": 9000}, "height: 9000 is out of range"),
        ):
            document = {"cambrel": 1, "sections": {"bodies": [row]}}
            refused = self.bring(("shelf.json", json.dumps(document)))[0].rows.get()
            self.assertEqual((refused.status, refused.reason), ("refused", says))
        self.assertIn("currency", priced.reason)
        self.client.post(f"/shelf/import/{preview.pk}/apply/", {"take_all": "1", "leave_out": "1"})
        zoom = Lens.objects.get(name="Tarn 24-70 mm f/2.8")
        self.assertEqual((zoom.focal_max_mm, zoom.weight_g, zoom.currency), (70, 700, "EUR"))
        self.assertEqual(self.client.get("/shelf/lenses/").status_code, 200)

    def test_a_failure_on_the_way_leaves_nothing(self):
        preview, _ = self.bring(
            ("k.json", json.dumps({"cambrel": 1, "sections": {"mounts": [{"name": "Fen"}], "kits": [{"name": "K"}]}}))
        )
        with (
            mock.patch("cambrel.owners.undo.raise_version", side_effect=RuntimeError),
            self.assertRaises(RuntimeError),
            self.assertLogs("django.request", "ERROR"),
        ):
            self.client.post(f"/shelf/import/{preview.pk}/apply/")
        self.assertFalse(Mount.objects.filter(name="Fen").exists())

    def test_what_points_nowhere_and_what_changed_since_is_refused(self):
        rows = {
            "crop_modes": [{"name": "Half", "body": "No such body", "width_mm": 9, "height_mm": 6}],
            "mounts": [{"name": "Fen"}],
        }
        preview, _ = self.bring(("p.json", json.dumps({"cambrel": 1, "sections": rows})))
        self.assertIn("neither on the shelf nor in the file", preview.rows.get(section="crop_modes").reason)
        self.client.post("/shelf/mounts/new/", {"name": "Fen"})
        page = self.client.post(f"/shelf/import/{preview.pk}/apply/", {"leave_out": "1"}, follow=True)
        self.assertContains(page, "1 record has changed on the shelf since")

    def test_bad_files_get_a_message(self):
        for name, data, word in (("a.zip", b"PK\x03\x04", "packed"), ("b.json", b"{", "not JSON")):
            page = self.client.post("/shelf/import/", {"files": SimpleUploadedFile(name, data)})
            self.assertContains(page, word, status_code=422)
        self.assertContains(self.client.post("/shelf/import/"), "Choose", status_code=422)
        self.assertFalse(PreviewRow.objects.exists())
