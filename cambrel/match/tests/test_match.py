"""Match and Fit through their pages."""

import re
from collections import OrderedDict
from unittest import mock
from urllib.parse import parse_qs, urlsplit

import numpy as np
from django.db import connection
from django.test import TestCase, tag
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from cambrel.bench.sample_benches import home_bench
from cambrel.comparison.bench import Gear
from cambrel.comparison.brief import Conventions
from cambrel.links.benches import decode, encode, encode_gear
from cambrel.match import lens_shelf, views
from cambrel.match.fit_matrix import cell, cells_of, fit_of, mounted, upgrade
from cambrel.match.lens_shelf import shelf_of
from cambrel.match.models import KeptQuestion
from cambrel.owners import latest
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, User
from cambrel.owners.undo import raise_version
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Adapter, Body, Kit, Lens

CONVENTIONS = Conventions()


class MatchTestCase(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)

    def lens(self, name):
        return Lens.objects.get(name=name)

    def body(self, name):
        return Body.objects.get(name=name)


class MatchPageTests(MatchTestCase):
    def answer(self, query):
        return self.client.get("/match/", query).context["full"]

    def test_a_prime_finds_its_true_equal_elsewhere(self):
        full = self.answer(
            {"format": "full-frame", "focal_length_mm": "50", "f_number": "2.8", "t": "micro-four-thirds", "iso": "400"}
        )
        self.assertEqual(full.says, "25 mm f/1.4".replace(" mm", "\u00a0mm"))
        first = full.rows[0]
        self.assertEqual(
            (first.name, first.word, first.view, first.light), ("Pipwren 25 mm f/1.4", "exact", "same", "same")
        )
        self.assertIn("ISO 100", dict(full.settings)["as a camera sets it"])
        statuses = [row.status for row in full.rows]
        self.assertEqual(statuses, sorted(statuses, key=["exact", "near", "no", "unknown"].index))
        self.assertNotIn("Fisheye", " ".join(row.name for row in full.rows))

    def test_a_format_that_was_not_sent_stands_in_its_field_as_it_is_answered(self):
        page = self.client.get("/match/", {"focal_length_mm": "50", "f_number": "2"})
        self.assertInHTML('<option value="full-frame" selected>Full frame (135)</option>', page.content.decode())

    def test_rounding_to_a_camera_setting_says_which_way(self):
        for number, words in (("2", "f/3.2 (0.1\u00a0stops narrower)"), ("2.15", "f/3.2 (0.1\u00a0stops wider)")):
            full = self.answer({"format": "aps-c", "focal_length_mm": "12", "f_number": number, "t": "full-frame"})
            exact, marked = full.needed.f_number_short, 2 ** (10 / 6)
            self.assertEqual("narrower" in words, marked > exact)
            self.assertIn(words, dict(full.settings)["as a camera sets it"])

    def test_close_up_the_exact_rule_is_used(self):
        far = self.answer(
            {"format": "full-frame", "focal_length_mm": "100", "f_number": "2.8", "t": "micro-four-thirds"}
        )
        near = self.answer(
            {
                "format": "full-frame",
                "focal_length_mm": "100",
                "f_number": "2.8",
                "distance_m": "0.5",
                "t": "micro-four-thirds",
            }
        )
        self.assertGreater(near.needed.focal_min_mm, 1.05 * 100 * near.needed.k)
        self.assertNotAlmostEqual(near.needed.focal_min_mm, far.needed.focal_min_mm, places=1)

    def test_zoom_against_zoom_and_the_fair_opponent(self):
        page = self.client.get(reverse("match:lens", args=[self.lens("Larkmoor 16-55 mm f/2.8").pk]), follow=True)
        full = page.context["full"]
        self.assertEqual(full.target.name, "Full frame")
        rows = {row.name: row for row in full.rows}
        self.assertEqual(rows["Tarn 24-70 mm f/2.8"].view, "85% of the range")
        self.assertIn("24.5–70", rows["Tarn 24-70 mm f/2.8"].equivalent)
        self.assertIn("not an equal", full.fair)
        self.assertIn("whole=1", page.context["turned"])

    def test_the_lightest_is_no_equal_where_it_does_not_focus_so_near(self):
        page = self.client.get(reverse("match:lens", args=[self.lens("Larkmoor 56 mm f/1.2").pk]))
        said = {
            distance: self.client.get(f"{page.url}&distance_m={distance}&t=full-frame").context["full"].fair
            for distance in ("0.25", "9")
        }
        self.assertIn("it focuses from 46.7\u00a0cm. The shelf has no true equal", said["0.25"])
        self.assertNotIn("focuses from", said["9"])
        self.assertIn("The fair opponent is Tarn 85 mm f/1.8", said["9"])

    def test_the_lightest_that_goes_on_is_named_and_what_weighs_nobody_knows_is_within_no_limit(self):
        lens = self.lens("Larkmoor 16-55 mm f/2.8")
        query = parse_qs(urlsplit(self.client.get(reverse("match:lens", args=[lens.pk])).url).query) | {
            "t": ["full-frame"]
        }
        rows = [row for page in (1, 2, 3) for row in self.answer(query | {"page": page}).rows]
        grams = dict(
            Lens.objects.filter(pk__in=[row.pk for row in rows], weight_g__isnull=False).values_list("name", "weight_g")
        )
        lightest = min(grams, key=grams.get)
        self.assertGreater(len(set(grams.values())), 2)
        self.assertTrue(self.answer(query).fair.startswith(f"The lightest, {lightest} at "), self.answer(query).fair)
        Lens.objects.filter(name=lightest).update(weight_g=None)
        raise_version(self.owner)
        others = [row.name for row in self.answer(query | {"max_weight_g": "100000"}).rows]
        self.assertNotIn(lightest, others)
        self.assertIn(lightest, [row.name for page in (1, 2, 3) for row in self.answer(query | {"page": page}).rows])
        Lens.objects.filter(name=lightest).update(price=None)
        raise_version(self.owner)
        self.assertNotIn(lightest, [row.name for row in self.answer(query | {"max_price": "1000000"}).rows])

    def test_what_is_impossible_says_why(self):
        for query, word in (
            ({"focal_length_mm": "50", "f_number": "0.95", "t": "micro-four-thirds"}, "No lens in air is faster"),
            ({"focal_length_mm": "50", "f_number": "1.2", "t": "type-1-1.3"}, "No lens in air is faster"),
            ({"focal_length_mm": "50", "f_number": "2.8", "t": "type-1-1.3"}, "faster than the fastest made"),
            ({"focal_length_mm": "8", "f_number": "4", "t": "micro-four-thirds"}, "would have to see"),
        ):
            with self.subTest(query):
                self.assertIn(word, self.answer({"format": "full-frame", **query}).expected)

    def test_filters_and_adapters(self):
        query = {
            "format": "full-frame",
            "focal_length_mm": "135",
            "f_number": "2",
            "t": f"body-{self.body('Tarn Ridgeway').pk}",
        }
        self.assertNotIn("Tarn Reflex 135 mm f/2", [row.name for row in self.answer(query).rows])
        adapted = {row.name: row for row in self.answer(query | {"adapters": "on"}).rows}
        name = Adapter.objects.get(lens_mount="Tarn Reflex", mount="Tarn").name
        self.assertEqual(adapted["Tarn Reflex 135 mm f/2"].fits_by, f"with {name}")
        for limit, test in (({"max_weight_g": "300"}, "weight_g"), ({"max_price": "500"}, "price")):
            for row in self.answer(query | limit).rows:
                self.assertLessEqual(getattr(Lens.objects.get(pk=row.pk), test), float(next(iter(limit.values()))))
        for row in self.answer(query | {"stabilised": "on"}).rows:
            self.assertTrue(Lens.objects.get(pk=row.pk).stabilised)
        self.assertIn(
            "does not cover",
            self.answer({"format": "aps-c", "focal_length_mm": "23", "f_number": "2", "t": "full-frame"}).left_out,
        )

    def test_from_the_bench_and_back(self):
        page = self.client.get("/", {"b": encode(home_bench()), "action": "match:1"}, follow=True)
        self.assertContains(page, "Pipwren 12-40 mm f/2.8")
        full = page.context["full"]
        bench = decode(full.rows[0].bench.removeprefix("/?b="))
        self.assertEqual(bench.slots[0].body_name, "Pipwren Tern")
        self.assertEqual(self.client.get(full.rows[0].bench).status_code, 200)
        pressed = self.client.get("/", {"b": encode(home_bench()), "action": "match:0"}, headers={"HX-Request": "true"})
        self.assertTrue(pressed["HX-Redirect"].startswith("/match/?g="))

    @tag("long")
    def test_csv_holds_every_row(self):
        query = {"format": "full-frame", "focal_length_mm": "50", "f_number": "2.8", "t": "micro-four-thirds"}
        lines = self.client.get("/match/answers.csv", query).getvalue().decode().splitlines()
        self.assertEqual(len(lines) - 1, sum(self.answer(query).counts.values()))
        self.assertIn("Pipwren 25 mm f/1.4", lines[1])
        Lens.objects.bulk_create(
            Lens(
                owner=self.owner, name=f"Fen {n}", mount="Pipwren", focal_min_mm=25, focal_max_mm=25, widest=[[25, 1.4]]
            )
            for n in range(2100)
        )
        raise_version(self.owner)
        with CaptureQueriesContext(connection) as asked:
            table = self.client.get("/match/answers.csv", query).getvalue().decode()
        self.assertEqual(len(set(table.splitlines())) - len(lines), 2100)
        self.assertLess(len(asked), 30, "one computation, however many rows")

    def test_bad_input_is_named_and_nothing_is_replaced(self):
        good = {"format": "full-frame", "focal_length_mm": "50", "f_number": "2"}
        for field, value, word in (
            ("focal_length_mm", "", "number"), ("focal_length_mm", "x", "not a"), ("f_number", "0", "out of range"),
            ("f_number", "1e400", "out of range"),
            ("iso", "NaN", "not a"), ("distance_m", "0.03", "beyond"), ("max_weight_g", "-1", "not a weight"),
            ("g", "damaged", "damaged"),
        ):  # fmt: skip
            with self.subTest(field=field, value=value):
                page = self.client.get("/match/", good | {field: value})
                self.assertContains(page, word, status_code=422)
                messages = re.findall(r'class="field-error"[^>]*>([^<]+)<', page.content.decode())
                self.assertTrue(any(word in message for message in messages), f"{word} is said beside the answers")
        self.assertContains(self.client.get("/match/", good | {"t": ["body-999999", "nothing"]}), "Match")

    def test_arrays_are_kept_until_a_change(self):
        first = shelf_of(self.owner)
        self.assertIs(shelf_of(self.owner), first)
        self.client.post("/shelf/lenses/act/", {"action": "delete", "pk": [self.lens("Pipwren 25 mm f/1.4").pk]})
        second = shelf_of(self.owner)
        self.assertEqual(len(second.rows), len(first.rows) - 1)
        with self.assertNumQueries(1):
            shelf_of(self.owner)
        change = ChangeSet.objects.filter(undone_at=None).first()
        self.client.post(f"/undo/{change.pk}/", {"next": "/match/"})
        self.assertEqual(len(shelf_of(self.owner).rows), len(first.rows), "what was undone is there again")

    def test_the_arrays_of_those_who_came_last_are_kept(self):
        owners = [User.objects.create_user(f"guest-{index}") for index in range(3)]
        kept = OrderedDict()
        with mock.patch.object(latest, "MOST_OWNERS", 2), mock.patch.object(lens_shelf._SHELVES, "_kept", kept):
            first, _ = shelf_of(owners[0]), shelf_of(owners[1])
            self.assertIs(shelf_of(owners[0]), first)
            shelf_of(owners[2])
            self.assertEqual(list(kept), [owners[0].pk, owners[2].pk])
            self.assertIs(shelf_of(owners[0]), first)
            with mock.patch.object(latest, "MOST_ROWS", 1):
                shelf_of(self.owner)
                self.assertEqual(list(kept), [self.owner.pk], "a large one is held alone")

    def test_questions_are_kept_and_forgotten_with_undo(self):
        path = "/match/?format=full-frame&focal_length_mm=50&f_number=2"
        self.client.post("/match/keep/", {"name": "Fifty elsewhere", "path": path})
        kept = KeptQuestion.objects.get()
        self.assertContains(self.client.get("/match/"), "Fifty elsewhere")
        self.client.post(f"/match/kept/{kept.pk}/delete/")
        self.assertFalse(KeptQuestion.objects.exists())
        self.client.post("/match/keep/", {"name": "Away", "path": "//elsewhere.example/"})
        self.assertFalse(KeptQuestion.objects.exists())

    def test_unknown_figures_stay_unknown(self):
        Lens.objects.filter(name="Pipwren 25 mm f/1.4").update(widest=[], weight_g=None)
        User.objects.filter(pk=self.owner.pk).update(shelf_version=99)
        gear = encode_gear(Gear(self.body("Tarn Ridgeway").to_optics(), "Tarn Ridgeway"))
        rows = {
            r.name: r
            for r in self.answer({"g": gear, "focal_length_mm": "50", "f_number": "2.8", "t": "micro-four-thirds"}).rows
        }
        self.assertEqual((rows["Pipwren 25 mm f/1.4"].word, rows["Pipwren 25 mm f/1.4"].weight), ("unknown", "unknown"))


@tag("long")
class FitPageTests(MatchTestCase):
    def setUp(self):
        User.objects.filter(pk=self.owner.pk).update(shelf_version=np.random.randint(1_000, 1_000_000))
        self.shelf = shelf_of(self.owner)

    def fit(self, lens, body, shape="native"):
        bodies = {b.name: b for b in self.shelf.bodies}
        return fit_of(self.lens(lens), bodies[body], self.shelf, shape, CONVENTIONS)

    def test_cover_in_words_and_what_a_crop_leaves(self):
        found = self.fit("Tarn Compact 18-50 mm f/2.8", "Tarn Ridgeway")
        self.assertEqual(found.cover.word, "corners")
        self.assertIn("Dark corners", found.cover_says[-1])
        self.assertIn("Cropped to the circle, 44% of the frame is left, 10.9", found.cover_says[-1])
        crops = {crop.name: crop for crop in found.crops}
        self.assertEqual((crops["APS-C crop"].word, crops["APS-C crop"].megapixels), ("full cover", "10.7\u00a0MP"))
        self.assertIn("largest crop inside", crops)
        self.assertIn("27.6", crops["APS-C crop"].equivalent)
        square = {crop.name: crop for crop in self.fit("Tarn Compact 18-50 mm f/2.8", "Tarn Ridgeway", "1:1").crops}
        self.assertIn("largest 1:1 inside", square)

    def test_only_the_centre_is_used_and_an_assumed_circle_is_marked(self):
        said = " ".join(self.fit("Tarn Reflex 135 mm f/2", "Pipwren Tern").cover_says)
        self.assertIn("only the centre of the circle", said)
        self.assertIn("assumed from the format", " ".join(self.fit("Larkmoor 23 mm f/1.4", "Larkmoor Fell").cover_says))
        unknown = self.fit("Pipwren old 50 mm", "Pipwren Tern")
        self.assertIsNone(unknown.cover)
        self.assertIn("unknown", unknown.cover_says[0])

    def test_mounts_in_words_and_what_is_lost_comes_from_the_record(self):
        for lens, body, words in (
            ("Tarn 50 mm f/1.8", "Tarn Ridgeway", "Same mount"),
            ("Tarn Reflex 135 mm f/2", "Tarn Ridgeway", "autofocus is slower"),
            ("Tarn Reflex 135 mm f/2", "Holmgate Vale", "what is lost is not recorded"),
            ("Holmgate 55 mm f/3.5 for 54 x 40", "Holmgate Vale", "takes Holmgate Long lenses as they are"),
            ("Tarn 50 mm f/1.8", "Pipwren Tern", "only with an adapter with optics"),
            ("Tarn 50 mm f/1.8", "Sorrel Nine phone", "does not fit"),
            ("Tarn 200-600 mm f/5.6-6.3", "Tarn Ridgeway", "Support a heavy lens itself"),
        ):
            with self.subTest(lens, body=body):
                self.assertIn(words, self.fit(lens, body).mount_says)

    def test_matrix_says_the_same_as_the_drawing(self):
        page = self.client.get("/fit/matrix/")
        self.assertEqual(page.status_code, 200)
        for lens, cells in page.context["rows"]:
            for body, verdict in cells:
                word = mounted(lens, body, self.shelf)[0].word
                self.assertEqual(verdict, cell(lens, body, self.shelf))
                if word in ("same", "taken") and lens.circle_mm:
                    covers = fit_of(lens, body, self.shelf, "native", CONVENTIONS).cover.word == "covers"
                    self.assertEqual(verdict == "yes", covers)
        known = cells_of(self.shelf)  # whichever was looked at first
        for lens in reversed(Lens.objects.all()):
            for body in reversed(self.shelf.bodies):
                self.assertEqual(known(lens, body), cell(lens, body, self.shelf))

    @tag("long")
    def test_the_matrix_of_a_large_shelf_is_read_a_page_at_a_time(self):
        Body.objects.bulk_create(
            Body(owner=self.owner, name=f"Muir {n}", mount="Muir", width_mm=20 + n % 9, height_mm=15)
            for n in range(300)
        )
        Lens.objects.bulk_create(
            Lens(owner=self.owner, name=f"Fen {n}", mount="Muir", focal_min_mm=30, focal_max_mm=30) for n in range(200)
        )
        raise_version(self.owner)
        page = self.client.get("/fit/matrix/")
        self.assertLess(len(page.content), 400_000)
        for query, words in (
            ("?page=2", "lenses 51 to 100 of"),
            ("?across=3&q=fen+7", "bodies 61 to 90 of"),
            ("?page=999&across=x", "of 319"),
        ):
            self.assertContains(self.client.get("/fit/matrix/" + query), words)
        found = self.client.get("/fit/matrix/?q=tarn+50+f/1&on=ridgeway")
        self.assertEqual([lens.name for lens, _ in found.context["rows"]], ["Tarn 50 mm f/1.8"])
        self.assertEqual({body.name for body in found.context["grid"].columns}, {"Tarn Ridgeway", "Tarn Ridgeway Fine"})
        self.assertContains(self.client.get("/fit/matrix/?q=zebra"), "Nothing on the shelf is named like that")
        with mock.patch.object(views, "MOST_CELLS", 60_000):
            self.assertContains(self.client.get("/fit/matrix/?as=csv"), "Narrow the search first", status_code=422)
        table = self.client.get("/fit/matrix/?as=csv&q=fen&on=muir+89").getvalue().decode().splitlines()
        self.assertEqual((len(table), table[0].count(",")), (201, 3))

    def test_upgrade_before_and_after(self):
        kit, body = Kit.objects.get(name="Two systems"), next(b for b in self.shelf.bodies if b.name == "Larkmoor Fell")
        found = upgrade(kit, body, self.shelf, CONVENTIONS)
        rows = {row.lens.name: row for row in found.rows}
        self.assertTrue(rows["Larkmoor 16-55 mm f/2.8"].stays)
        self.assertIn("35.3", rows["Larkmoor 23 mm f/1.4"].becomes)
        self.assertIn("53.7", rows["Tarn 35 mm f/1.8"].becomes)
        self.assertNotEqual(found.weight_before, found.weight_after)
        on_tarn = rows["Tarn 35 mm f/1.8"]
        self.assertEqual((on_tarn.word, on_tarn.cover), ("with an adapter, none on the shelf", "full cover"))
        self.assertNotIn("Of these", found.gaps)
        Lens.objects.filter(mount="Larkmoor").update(image_circle_mm=20)
        cut = upgrade(kit, Body.objects.get(name="Larkmoor Fell"), shelf_of(self.owner), CONVENTIONS)
        self.assertIn("Of these 3 cover only a part of its sensor.", cut.gaps)
        small = upgrade(
            kit,
            next(b for b in shelf_of(self.owner).bodies if b.name == "Pipwren Tern"),
            shelf_of(self.owner),
            CONVENTIONS,
        )
        self.assertEqual({row.becomes for row in small.rows}, {"drops out"})
        for query in ("", f"?kit={kit.pk}&body={body.pk}", "?kit=x&body=9999"):
            self.assertEqual(self.client.get("/fit/upgrade/" + query).status_code, 200)

    def test_matrix_and_upgrade_as_csv(self):
        for _ in range(2):
            Body.objects.create(owner=self.owner, name="=cmd()", width_mm=20, height_mm=15)
        raise_version(self.owner)
        matrix = self.client.get("/fit/matrix/?as=csv").getvalue().decode()
        self.assertEqual(matrix.splitlines()[0].count(",'=cmd()"), 2)
        self.assertIn("Tarn Ridgeway", matrix.splitlines()[0])
        self.assertEqual(len(matrix.splitlines()) - 1, Lens.objects.filter(fixed_to=None).count())
        kit, body = Kit.objects.get(name="Two systems"), self.body("Larkmoor Fell")
        self.assertIn("53.7", self.client.get(f"/fit/upgrade/?kit={kit.pk}&body={body.pk}&as=csv").getvalue().decode())

    def test_empty_shelf(self):
        for model in (Kit, Lens, Body):
            model.objects.all().delete()
        User.objects.filter(pk=self.owner.pk).update(shelf_version=2_000_000)
        for address in ("/match/", "/fit/", "/fit/matrix/", "/fit/upgrade/"):
            self.assertEqual(self.client.get(address).status_code, 200)
