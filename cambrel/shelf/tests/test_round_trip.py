"""Files out and in again: what has one name stays two, what belongs together stays together, and nobody's later edit is
written over.
"""

import json
import random
from dataclasses import replace

from django.core.files.uploadedfile import SimpleUploadedFile

from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.choose.models import KeptDecision
from cambrel.decisions.choice import Choice, KitBag, Piece
from cambrel.field.models import Sheet
from cambrel.links.benches import encode
from cambrel.links.choices import encode_choice
from cambrel.owners.sections import SECTIONS
from cambrel.shelf.intake import door
from cambrel.shelf.models import Body, CropMode, ImportPreview, Kit, Lens, Mount
from cambrel.shelf.tests.test_shelf import ShelfTestCase, without_ids


class TransferTestCase(ShelfTestCase):
    def bring(self, *files):
        uploads = [SimpleUploadedFile(name, data if isinstance(data, bytes) else data.encode()) for name, data in files]
        self.client.post("/shelf/import/", {"files": uploads})
        preview = ImportPreview.objects.first()
        while preview.rows.filter(status="").exists():
            self.client.post(f"/shelf/import/{preview.pk}/work/")
        return preview

    def statuses(self, preview):
        return sorted(set(preview.rows.values_list("status", flat=True)))


class TwinTests(TransferTestCase):
    def setUp(self):
        for index in (1, 2):
            body = Body.objects.create(
                owner=self.owner, name="Muir Twin", mount="Muir", width_mm=20 + index, height_mm=15
            )
            CropMode.objects.create(owner=self.owner, body=body, name="Half", width_mm=10 + index, height_mm=7)
            Lens.objects.create(
                owner=self.owner, name="Muir Twin lens", fixed_to=body, focal_min_mm=index, focal_max_mm=index
            )
            lens = Lens.objects.create(
                owner=self.owner, name="Muir 30", mount="Muir", focal_min_mm=30, focal_max_mm=30, weight_g=100 * index
            )
            kit = Kit.objects.create(owner=self.owner, name="Twins", note=str(index))
            kit.bodies.add(body)
            kit.lenses.add(lens)
            SavedComparison.objects.create(owner=self.owner, name="Twins", token=encode(home_bench()))

    def families(self):
        found = []
        for body in Body.objects.filter(name="Muir Twin").order_by("width_mm"):
            kit = body.kits.get()
            (lens,) = kit.lenses.all()
            found.append(
                (
                    body.width_mm,
                    body.crop_modes.get().width_mm,
                    body.fixed_lenses.get().focal_min_mm,
                    kit.note,
                    lens.weight_g,
                )
            )
        return found

    def test_twins_come_back_as_two_with_what_is_theirs(self):
        wanted = [(21, 11, 1, "1", 100), (22, 12, 2, "2", 200)]
        self.assertEqual(self.families(), wanted)
        document = self.client.get("/shelf/export/shelf.json").content.decode()
        tables = [(f"{key}.csv", self.client.get(f"/shelf/export/{key}.csv").content) for key in SECTIONS]
        for files in ([("shelf.json", document)], tables):
            with self.subTest(files=len(files)):
                preview = self.bring(*files)
                self.assertEqual(self.statuses(preview), ["same"])
                for model in (Kit, CropMode, Lens, Body, Mount, SavedComparison):
                    model.objects.all().delete()
                preview = self.bring(*files)
                self.client.post(f"/shelf/import/{preview.pk}/apply/")
                self.assertEqual(self.families(), wanted)
                self.assertEqual(SavedComparison.objects.filter(name="Twins").count(), 2)
                again = json.loads(self.client.get("/shelf/export/shelf.json").content)
                self.assertEqual(without_ids(again), without_ids(json.loads(document)))

    def test_odd_names_come_back_from_tables_as_they_are(self):
        names = ("'=SUM(A1)", "=SUM(A1)", "''=x", "-5 lens", '"Fen" 30', "'Fen'", "Fen; 40", "Żuk Жук 👩\u200d🚒")
        for name in names:
            Lens.objects.create(owner=self.owner, name=name, mount='A; "B"', focal_min_mm=30, focal_max_mm=30)
        Mount.objects.create(owner=self.owner, name="=M;N", accepts=['A; "B"', "'=M", "C"])
        tables = [(f"{key}.csv", self.client.get(f"/shelf/export/{key}.csv").content) for key in ("lenses", "mounts")]
        self.assertEqual(self.statuses(self.bring(*tables)), ["same"])
        Lens.objects.filter(name__in=names).delete()
        Mount.objects.filter(name="=M;N").delete()
        preview = self.bring(*tables)
        self.client.post(f"/shelf/import/{preview.pk}/apply/")
        self.assertEqual(set(Lens.objects.filter(mount='A; "B"').values_list("name", flat=True)), set(names))
        self.assertEqual(Mount.objects.get(name="=M;N").accepts, ['A; "B"', "'=M", "C"])

    def test_two_shelves_with_the_same_ids_do_not_mix(self):
        def shelf(width):
            body = {"id": 1, "name": f"Fen {width}", "width_mm": width, "height_mm": 10}
            mode = {
                "id": 1,
                "name": "Half",
                "body": f"Fen {width}",
                "body_id": 1,
                "width_mm": width / 2,
                "height_mm": 5,
            }
            return json.dumps({"cambrel": 1, "sections": {"bodies": [body], "crop_modes": [mode]}})

        preview = self.bring(("a.json", shelf(20)), ("b.json", shelf(30)))
        self.client.post(f"/shelf/import/{preview.pk}/apply/")
        self.assertEqual(
            sorted(CropMode.objects.filter(body__name__startswith="Fen").values_list("body__width_mm", "width_mm")),
            [(20, 10), (30, 15)],
        )

    def test_without_ids_the_same_record_twice_is_a_slip(self):
        preview = self.bring(("t.csv", "name,mount,focal_min_mm\nFen 40,Muir,40\nFen 40,Muir,40\n"))
        self.assertEqual(sorted(preview.rows.values_list("status", flat=True)), ["new", "refused"])


class LaterEditTests(TransferTestCase):
    TABLE = (
        "name,mount,focal_min_mm,focal_max_mm,weight_g\nTarn 50 mm f/1.8,Tarn,50,50,999\nTarn 85 mm"
        " f/1.8,Tarn,85,85,888\nFen 40,Muir,40,40,1\n"
    )

    def lens(self, name):
        return Lens.objects.get(name=name)

    def edit(self, name, **values):
        lens = self.lens(name)
        page = self.client.get(f"/shelf/lenses/{lens.pk}/edit/")
        form = page.context["editing"].form
        data = {key: form.fields[key].prepare_value(form[key].value()) for key in form.fields}
        data = {key: "" if value is None else value for key, value in data.items()} | {
            "stabilised": "unknown",
            **values,
        }
        data["version"] = page.context["editing"].stamp
        return self.client.post(f"/shelf/lenses/{lens.pk}/edit/", data)

    def test_an_edit_after_the_preview_is_shown_and_asked_again_row_by_row(self):
        preview = self.bring(("m.csv", self.TABLE))
        self.edit("Tarn 50 mm f/1.8", weight_g="200")
        page = self.client.post(f"/shelf/import/{preview.pk}/apply/", {"take_all": "1"}, follow=True)
        self.assertContains(page, "1 record has changed on the shelf since")
        self.assertEqual(
            (self.lens("Tarn 50 mm f/1.8").weight_g, Lens.objects.filter(name="Fen 40").exists()), (200, False)
        )
        page = self.client.get(f"/shelf/import/{preview.pk}/?status=changed")
        self.assertContains(page, "changed since", count=1)
        self.assertContains(page, "200\u00a0g here, 999\u00a0g in the file")
        self.client.post(
            f"/shelf/import/{preview.pk}/apply/", {"take": preview.rows.get(row__name="Tarn 85 mm f/1.8").pk}
        )
        self.assertEqual((self.lens("Tarn 50 mm f/1.8").weight_g, self.lens("Tarn 85 mm f/1.8").weight_g), (200, 888))
        self.assertTrue(Lens.objects.filter(name="Fen 40").exists())

    def test_an_edit_of_something_else_does_not_stand_in_the_way(self):
        preview = self.bring(("m.csv", self.TABLE))
        self.edit("Tarn 24-70 mm f/2.8", weight_g="801")
        self.client.post(f"/shelf/import/{preview.pk}/apply/", {"take_all": "1"})
        self.assertEqual(
            (self.lens("Tarn 50 mm f/1.8").weight_g, self.lens("Tarn 24-70 mm f/2.8").weight_g), (999, 801)
        )

    def test_a_record_that_is_gone_since_is_asked_again(self):
        preview = self.bring(("m.csv", self.TABLE))
        self.client.post("/shelf/lenses/act/", {"action": "delete", "pk": self.lens("Tarn 50 mm f/1.8").pk})
        self.client.post(f"/shelf/import/{preview.pk}/apply/", {"take_all": "1"})
        self.assertEqual(preview.rows.get(row__name="Tarn 50 mm f/1.8").status, "new")
        self.assertFalse(Lens.objects.filter(name="Fen 40").exists())


def bounds_of(schema, depth=0):
    """How deep a schema goes, its longest text and its most parts, without what it says no bound of."""
    found = [(depth, schema.get("maxLength", 0), max(schema.get("maxItems", 0), schema.get("maxProperties", 0)))]
    inner = [*schema.get("properties", {}).values(), schema.get("items"), schema.get("additionalProperties")]
    found += [bounds_of(one, depth + 1) for one in inner if isinstance(one, dict)]
    return tuple(max(values) for values in zip(*found, strict=True))


class FullestTests(TransferTestCase):
    def test_whatever_a_kind_may_hold_passes_the_door(self):
        for key, section in SECTIONS.items():
            with self.subTest(key):
                depth, longest, parts = bounds_of(section.schema)
                self.assertLessEqual((depth, longest, parts), (door.DEEPEST, door.LONGEST_TEXT, door.MOST_PARTS))
                self.assertLessEqual(depth, door.DEEPEST)
                self.assertLessEqual(parts, door.MOST_PARTS)

    def test_a_measured_sheet_and_a_full_decision_come_back(self):
        rig = home_bench().slots[0].rig
        odd = random.Random(3)
        lenses = [
            replace(
                rig.lens, focal_min_mm=f, focal_max_mm=f, widest=((f, 2 + odd.random()),), weight_g=900 * odd.random()
            )
            for f in (20 + 80 * odd.random() for _ in range(45))
        ]
        bags = [
            KitBag(
                f"Bag {b}",
                (Piece("Body", rig.body, ("A",)), *(Piece(f"Lens {b} {k}", one) for k, one in enumerate(lenses))),
            )
            for b in range(4)
        ]
        choice = encode_choice(Choice(tuple(bags), ((home_bench().task, 1.0),), home_bench().conventions))
        self.assertGreater(len(choice), 4000)
        KeptDecision.objects.create(
            owner=self.owner, name="Which of four", token=choice, took="Bag 1", reasons="x" * 2000
        )
        back = {
            f"{k:032x}": {
                "body": "Tern " * 10,
                "f_number": 2.8,
                "shot": "noise-0-0",
                "notes": ["n" * 160] * 12,
                "is_resized": True,
            }
            for k in range(200)
        }
        reading = {
            "value": 1.5,
            "within": 0.1,
            "bound": "least",
            "doubts": ["resized", "low"],
            "box": [1, 2, 3, 4],
            "of": "0" * 32,
        }
        found = {f"noise-{k}-0": {"snr": reading, "level": reading} for k in range(400)}
        taken = dict.fromkeys(found, "2026-05-04T10:20:30+00:00")
        Sheet.objects.create(
            owner=self.owner,
            name="Full",
            token=encode(home_bench()),
            trials=["noise"],
            back=back,
            found=found,
            taken=taken,
        )
        document = self.client.get("/shelf/export/shelf.json").content
        tables = [
            (f"{key}.csv", self.client.get(f"/shelf/export/{key}.csv").content) for key in ("sheets", "decisions")
        ]
        for files in ([("shelf.json", document)], tables):
            with self.subTest(files=len(files)):
                Sheet.objects.all().delete()
                KeptDecision.objects.all().delete()
                preview = self.bring(*files)
                self.assertEqual([(r.section, r.reason) for r in preview.rows.filter(status="refused")], [])
                self.client.post(f"/shelf/import/{preview.pk}/apply/")
                sheet, decision = Sheet.objects.get(), KeptDecision.objects.get()
                self.assertEqual((sheet.back, sheet.found, sheet.taken), (back, found, taken))
                self.assertEqual((decision.token, decision.reasons), (choice, "x" * 2000))
