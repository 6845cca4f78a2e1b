"""The shelf through its pages: lists, records, kits, files in and out, and undo."""

from unittest import mock

from django.test import TestCase
from django.urls import reverse

from cambrel.bench.sample_benches import home_bench
from cambrel.comparison.brief import Conventions
from cambrel.links.benches import encode
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, Preferences, User
from cambrel.owners.sections import REFERENCES
from cambrel.owners.undo import raise_version
from cambrel.shelf.columns import equivalents
from cambrel.shelf.demo import load_demo
from cambrel.shelf.editing import stamp_of
from cambrel.shelf.kinds import KINDS
from cambrel.shelf.models import MOST_IN_KIT, Body, CropMode, Kit, Lens

NEW_LENS = {
    "name": "Tarn 40 mm f/2",
    "mount": "Tarn",
    "focal_min_mm": "40",
    "widest": "f/2",
    "rectilinear": "True",
    "stabilised": "unknown",
}


class ShelfTestCase(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)

    def snapshot(self):
        def rows(model):
            return [{**row, "version": None} for row in model.objects.order_by("pk").values()]

        return {key: rows(kind.model) for key, kind in KINDS.items()} | {
            "modes": rows(CropMode),
            "packed": sorted(Kit.lenses.through.objects.values_list("kit", "lens")),
        }

    def undo(self):
        change = ChangeSet.objects.filter(undone_at=None).first()
        return self.client.post(reverse("owners:undo", args=[change.pk]), {"next": "/shelf/lenses/"}, follow=True)


def without_ids(document):
    """A document whose records are told apart by nothing but what they are."""
    return {
        section: [{name: value for name, value in row.items() if name not in REFERENCES} for row in rows]
        for section, rows in document["sections"].items()
    }


class ListTests(ShelfTestCase):
    def test_every_list_shows_its_records_and_its_empty_state(self):
        for key, kind in KINDS.items():
            with self.subTest(key):
                page = self.client.get(kind.address())
                first = kind.records(self.owner).first()
                self.assertContains(page, first.name if first else "yet.")
        self.assertEqual(self.client.get("/shelf/nothing/").status_code, 404)

    def test_search_narrow_sort_and_page(self):
        page = self.client.get("/shelf/lenses/?q=tarn+70&sort=-weight_g")
        names = [row.name for row in page.context["listing"].rows]
        self.assertEqual(names[0], "Tarn 70-300 mm f/4.5-5.6")
        self.assertTrue(all("70" in name for name in names))
        self.assertContains(self.client.get("/shelf/lenses/?q=zebra"), "matches")
        narrowed = self.client.get("/shelf/lenses/?mount=Pipwren&sort=focal").context["listing"]
        self.assertEqual({row.cells[0] for row in narrowed.rows}, {"Pipwren"})
        Lens.objects.bulk_create(
            Lens(owner=self.owner, name=f"L{i:03}", focal_min_mm=20, focal_max_mm=20) for i in range(130)
        )
        raise_version(self.owner)
        self.client.get("/shelf/lenses/")
        with self.assertNumQueries(6):  # what the side says of the whole shelf is known by now
            second = self.client.get("/shelf/lenses/?page=2").context["listing"]
        self.assertEqual(second.page.number, 2)
        self.assertEqual(len(second.rows), 50)

    def test_unknown_is_shown_as_unknown_and_fisheyes_have_no_equivalent(self):
        page = self.client.get("/shelf/lenses/?q=old").content.decode()
        self.assertIn("unknown", page)
        fisheye = Lens.objects.get(rectilinear=False)
        sensor = Body.objects.get(name="Tarn Ridgeway").sensor()
        self.assertIn("no equivalent", equivalents(fisheye.to_optics(), sensor, Conventions()))

    def test_a_refresh_is_the_same_partial(self):
        whole = self.client.get("/shelf/lenses/?q=macro").content.decode()
        part = self.client.get("/shelf/lenses/?q=macro", headers={"HX-Request": "true"}).content.decode()
        self.assertLess(len(part), len(whole))
        self.assertIn("Pipwren 60 mm f/2.8 Macro", part)

    def test_bulk_delete_duplicate_and_pack_are_undone_whole(self):
        before = self.snapshot()
        bodies = list(Body.objects.filter(name__startswith="Tarn").values_list("pk", flat=True))
        for action, kind, keys in (
            ({"action": "delete"}, "bodies", bodies),
            ({"action": "duplicate"}, "bodies", bodies),
            ({"action": "duplicate"}, "kits", list(Kit.objects.values_list("pk", flat=True))),
            ({"action": "delete"}, "lenses", list(Lens.objects.filter(mount="Tarn").values_list("pk", flat=True))),
            (
                {"action": "", "kit": Kit.objects.first().pk},
                "lenses",
                list(Lens.objects.filter(mount="Pipwren").values_list("pk", flat=True)),
            ),
        ):
            with self.subTest(str(action), kind=kind):
                self.client.post(f"/shelf/{kind}/act/", {"pk": keys, **action})
                self.assertNotEqual(self.snapshot(), before)
                self.assertContains(self.undo(), "Undone")
                self.assertEqual(self.snapshot(), before)

    def test_all_that_was_found_and_nothing_ticked(self):
        self.client.post("/shelf/lenses/act/", {"action": "delete", "all": "1", "q": "macro"})
        self.assertFalse(Lens.objects.filter(name__icontains="macro").exists())
        page = self.client.post("/shelf/lenses/act/", {"action": "delete"}, follow=True)
        self.assertContains(page, "Tick at least one")


class RecordTests(ShelfTestCase):
    def test_a_lens_is_added_changed_and_undone(self):
        self.client.post("/shelf/lenses/new/", NEW_LENS)
        lens = Lens.objects.get(name="Tarn 40 mm f/2")
        self.assertEqual(
            (lens.focal_max_mm, lens.widest, lens.weight_g, lens.stabilised), (40, [[40, 2.0]], None, None)
        )
        more = {"weight_g": "210 g", "price": "300", "currency": "eur", "version": stamp_of(lens)}
        self.client.post(f"/shelf/lenses/{lens.pk}/edit/", NEW_LENS | more)
        lens.refresh_from_db()
        self.assertEqual((lens.weight_g, lens.currency), (210, "EUR"))
        self.undo()
        lens.refresh_from_db()
        self.assertIsNone(lens.weight_g)

    def test_bad_input_is_named_by_the_field_and_kept(self):
        for field, value, word in (
            ("focal_min_mm", "", "shortest"),
            ("focal_min_mm", "-5", "out of range"),
            ("focal_min_mm", "1e400", "out of range"),
            ("focal_min_mm", "NaN", "not a"),
            ("focal_max_mm", "20", "at least"),
            ("focal_max_mm", "NaN", "not a"),
            ("widest", "wide", "cannot be read"),
            ("widest", "f/0.2", "limit in air"),
            ("widest", "f/2 at 300", "within the range"),
            ("smallest_f_number", "1", "at least"),
            ("price", "100", "currency"),
            ("name", "", "name"),
        ):
            with self.subTest(field=field, value=value):
                page = self.client.post("/shelf/lenses/new/", NEW_LENS | {"name": "Tarn long", field: value})
                self.assertContains(page, word, status_code=422)
                if value:
                    self.assertContains(page, f'value="{value}"', status_code=422)
        self.assertFalse(Lens.objects.filter(name="Tarn long").exists())

    def test_what_is_folded_away_opens_where_it_has_a_message(self):
        opened = '<details class="record-part" open>'
        self.assertNotContains(self.client.get("/shelf/lenses/new/"), opened)
        page = self.client.post("/shelf/lenses/new/", NEW_LENS | {"close_focus_m": "near"})
        self.assertContains(page, opened, count=1, status_code=422)
        (part,) = [part for part in page.context["editing"].form.folded() if part.is_open]
        self.assertEqual(part.heading, "Close")

    def test_what_concerns_no_one_field_is_said_at_the_top(self):
        body = {
            "name": "Muir Fen",
            "width_mm": "36",
            "height_mm": "24",
            "offset_stops": "0",
            "modes-TOTAL_FORMS": 0,
            "modes-INITIAL_FORMS": 0,
        }
        refusal = DomainError("sensor", "a sensor that can be", 0)
        with mock.patch.object(Body, "to_optics", side_effect=refusal):
            page = self.client.post("/shelf/bodies/new/", body)
        self.assertContains(page, "This must be a sensor that can be.", status_code=422)
        many = body | {"modes-TOTAL_FORMS": 13}
        for index in range(13):
            values = {"name": f"Mode {index}", "use": "stills", "width_mm": "20", "height_mm": "10"}
            many |= {f"modes-{index}-{name}": value for name, value in values.items()}
        self.assertContains(self.client.post("/shelf/bodies/new/", many), "at most 12", status_code=422)

    def test_exact_values_survive_an_untouched_form(self):
        body = Body.objects.get(name="Tarn Ridgeway")
        Body.objects.filter(pk=body.pk).update(width_mm=35.98765432, fastest_shutter_s=1 / 8001.5)
        page = self.client.get(f"/shelf/bodies/{body.pk}/edit/")
        form, modes = page.context["editing"].form, page.context["editing"].crop_modes
        data = {name: form[name].value() if form[name].value() is not None else "" for name in form.fields}
        data = {name: form.fields[name].prepare_value(value) for name, value in data.items()}
        data |= {"modes-TOTAL_FORMS": 0, "modes-INITIAL_FORMS": 0, "version": page.context["editing"].stamp}
        self.assertEqual(len(modes.initial_forms), 2)
        self.client.post(f"/shelf/bodies/{body.pk}/edit/", data | {"note": "Serviced"})
        body.refresh_from_db()
        self.assertEqual((body.width_mm, body.fastest_shutter_s, body.note), (35.98765432, 1 / 8001.5, "Serviced"))

    def test_a_camera_with_its_lens_is_one_record(self):
        data = {
            "name": "Bothy Inlet", "width_mm": "13.2", "height_mm": "8.8", "offset_stops": "0", "weight_g": "290",
            "has_fixed": "1",
            "fixed-focal_min_mm": "8.8", "fixed-focal_max_mm": "36", "fixed-widest": "f/1.8-2.8",
            "fixed-stabilised": "unknown",
            "modes-TOTAL_FORMS": "1", "modes-INITIAL_FORMS": "0", "modes-0-name": "4K", "modes-0-use": "video",
            "modes-0-width_mm": "12", "modes-0-height_mm": "6.75", "modes-0-pixels_wide": "3840",
            "modes-0-pixels_high": "2160",
        }  # fmt: skip
        self.client.post("/shelf/bodies/new/", data)
        body = Body.objects.get(name="Bothy Inlet")
        self.assertEqual(body.fixed_lenses.get().widest, [[8.8, 1.8], [36.0, 2.8]])
        self.assertEqual(body.crop_modes.get().pixels_wide, 3840)
        self.assertNotContains(self.client.get("/shelf/lenses/?q=Inlet"), "Bothy Inlet lens")
        self.assertContains(self.client.get("/shelf/bodies/?q=Inlet"), "f/4.9")
        self.undo()
        self.assertFalse(Lens.objects.filter(fixed_to__name="Bothy Inlet").exists())

    def test_kit_table_bars_and_packing(self):
        kit = Kit.objects.get(name="Two systems")
        page = self.client.get(reverse("shelf:kit", args=[kit.pk]))
        self.assertContains(page, "other mount")
        self.assertNotContains(page, "Larkmoor 12 mm f/2<")
        self.assertContains(
            self.client.get(reverse("shelf:kit", args=[kit.pk]), {"find": "larkmoor 12"}), "Larkmoor 12 mm f/2<"
        )
        self.assertContains(page, "24.5–84.4")
        self.assertIn("no gaps", page.context["bag"].drawing.description)
        other = self.client.get(reverse("shelf:kit", args=[Kit.objects.get(name="Footplate bag").pk]))
        self.assertIn("gaps at 18–24\u00a0mm, 80–200\u00a0mm", other.context["bag"].drawing.description)
        lens = Lens.objects.get(name="Larkmoor 12 mm f/2")
        self.client.post(reverse("shelf:pack", args=[kit.pk]), {"kind": "lens", "record": lens.pk})
        self.assertIn(lens, kit.lenses.all())
        self.undo()
        self.assertNotIn(lens, kit.lenses.all())

    def test_a_large_kit_is_read_a_page_at_a_time_and_has_its_bound(self):
        kit, other = Kit.objects.get(name="Two systems"), Kit.objects.get(name="Footplate bag")
        for model, extra in (
            (Body, {"width_mm": 20, "height_mm": 15}),
            (Lens, {"focal_min_mm": 30, "focal_max_mm": 30}),
        ):
            model.objects.bulk_create(
                model(owner=self.owner, name=f"Fen {n}", mount="Fen", **extra) for n in range(130)
            )
        kit.bodies.add(*Body.objects.filter(name__startswith="Fen")[: MOST_IN_KIT - kit.held() - 70])
        kit.lenses.add(*Lens.objects.filter(name__startswith="Fen")[:70])
        address = reverse("shelf:kit", args=[kit.pk])
        page = self.client.get(address)
        self.assertLess(len(page.content), 400_000)
        self.assertContains(page, "lenses 1 to 50 of 74")
        self.assertNotIn("gaps", page.context["bag"].drawing.description, "the others may fill them")
        self.assertContains(self.client.get(address, {"page": 2, "across": 2}), "bodies 7 to 12 of 125")
        found = self.client.get(address, {"q": "larkmoor 23", "on": "tarn"})
        self.assertEqual([lens.name for lens, _, _ in found.context["bag"].rows], ["Larkmoor 23 mm f/1.4"])
        self.assertEqual(found.context["bag"].weight, page.context["bag"].weight, "the sums are of all of it")
        offered = dict(self.client.get(address, {"find": "fen 11"}).context["offered"])
        self.assertTrue({lens.name for lens in offered["lens"]} <= {"Fen 11", *(f"Fen {n}" for n in range(110, 120))})
        self.assertEqual(kit.held(), MOST_IN_KIT)
        full = {"kind": "lens", "record": Lens.objects.get(name="Tarn 50 mm f/1.8").pk}
        self.assertContains(self.client.post(reverse("shelf:pack", args=[kit.pk]), full, follow=True), "at most 200")
        many = {"action": "", "kit": other.pk, "all": "1", "q": "fen"}
        other.lenses.add(*Lens.objects.filter(name__startswith="Fen")[:100])
        self.client.post("/shelf/bodies/act/", many)
        self.assertLess(other.held(), MOST_IN_KIT)


class PageTests(ShelfTestCase):
    def test_formats_page(self):
        page = self.client.get("/formats/?f=full-frame&f=micro-four-thirds&shape=3:2&megapixels=20&by=width&sort=-5")
        self.assertContains(page, "about four of these fit on full frame")
        self.assertContains(page, "2.08")
        self.assertContains(page, "17.7\u00a0MP")
        self.assertEqual([row.named.key for row in page.context["rows"]], ["full-frame", "micro-four-thirds"])
        for query, status in (
            ("?f=nothing", 200),
            ("?none=1", 200),
            ("?megapixels=NaN", 422),
            ("?megapixels=1e400", 422),
        ):
            self.assertEqual(self.client.get("/formats/" + query).status_code, status)
        self.assertContains(self.client.get("/formats/?f=one-inch"), "outer diameter of a video tube")

    def test_a_focal_length_of_which_nothing_is_said_is_turned_by_one_press(self):
        page = self.client.get("/advert/", {"text": "24 mm f/1.8, 1/1.3 type"})
        self.assertContains(page, "Read it as the lens’s own focal length")
        turned = self.client.get(page.context["turned"][1])
        self.assertAlmostEqual(turned.context["reading"].short.full_frame_focal_length_mm, 24 * 3.606, delta=0.1)
        self.assertIsNone(turned.context["turned"], "what is said is not turned")
        true = self.client.get("/advert/", {"text": "12 mm f/1.8, 1/1.3 type"})
        self.assertContains(true, "Read it as an equivalent")

    def test_reader(self):
        page = self.client.get("/advert/", {"text": "24 mm equivalent f/1.8, 1/1.3 type, 50 MP"})
        self.assertContains(page, "f/1.8 had not")
        self.assertContains(page, "focal length 24 mm, an equivalent")
        slip = self.client.get("/advert/", {"text": "24 mm equiv f/1.8 wobble, 12 x 9 mm, 1/1.3 type"})
        self.assertContains(slip, "given as a side")
        self.assertContains(slip, "not understood")
        unknown = self.client.get("/advert/", {"text": "24 mm equiv, 1/1.56 type"})
        self.assertNotContains(unknown, "unknown, give or take")
        dual = "/advert/?focal_min_mm=24&said=yes&type=1&f_number=4&f_number_long=2.8"
        self.assertContains(self.client.get(dual), "Two f-numbers at one focal length")
        self.client.post("/shelf/codes/new/", {"name": "QX", "stands_for": "aps-c", "mount": ""})
        self.assertContains(self.client.get("/advert/", {"text": "35mm f/1.8 QX"}), "by your own table")
        self.assertEqual(self.client.get("/advert/", {"text": "f/" * 9_000}).status_code, 422)
        self.assertContains(page, "f/6.5")
        self.assertEqual(self.client.get("/advert/", {"text": "a fine camera"}).status_code, 422)
        self.assertEqual(self.client.get("/advert/", {"focal_min_mm": "1e400", "type": "1"}).status_code, 422)
        self.client.post(
            "/advert/keep/",
            {"focal_min_mm": "24", "said": "yes", "f_number": "1.8", "type": "1/1.3", "name": "Advert phone"},
        )
        body = Body.objects.get(name="Advert phone")
        self.assertAlmostEqual(body.fixed_lenses.get().focal_min_mm, 24 / (43.2666153 / 12), places=5)
        self.assertContains(self.client.get(page.context["put"], follow=True), "As advertised")

    def test_conventions_hold_on_a_new_bench_and_not_on_a_link(self):
        given = {
            "crop_by": "width",
            "criterion": "diagonal_1730",
            "noise": "pixel",
            "units": "ft",
            "lines_per_mm": "5",
            "iso_ceiling": "1600",
        }
        self.client.post("/conventions/", given)
        page = self.client.get("/")
        self.assertContains(page, "crop by width; sharp by diagonal / 1730; noise by per pixel")
        self.assertContains(page, "6.56")
        linked = self.client.get("/?b=" + encode(home_bench()))
        self.assertContains(linked, "from the link, not your own choice")
        self.assertContains(self.client.get("/formats/?f=micro-four-thirds"), "2.08")
        bad = self.client.post("/conventions/", given | {"lines_per_mm": "0"})
        self.assertContains(bad, "out of range", status_code=422)
        self.assertEqual(Preferences.objects.get().answers["lines_per_mm"], 5)
