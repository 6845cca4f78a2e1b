import csv
import io
import re
from dataclasses import replace
from unittest.mock import patch
from urllib.parse import parse_qs, urlencode, urlsplit
from xml.etree import ElementTree

import segno
from django.test import TestCase
from django.urls import reverse

from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import with_brief
from cambrel.comparison.brief import Hold
from cambrel.links.benches import decode, encode
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Body, Lens

HTMX = {"HTTP_HX_REQUEST": "true"}


class BenchPageTests(TestCase):
    def get(self, htmx=False, **query):
        return self.client.get("/", query, **(HTMX if htmx else {}))

    def bench_of(self, response):
        address = response.headers.get("HX-Push-Url") or response.headers["HX-Replace-Url"]
        return decode(parse_qs(urlsplit(address).query)["b"][0])

    def test_a_link_is_a_code_too(self):
        page = self.client.get("/code.png", {"b": encode(home_bench())})
        self.assertEqual((page.status_code, page["Content-Type"], page.content[:4]), (200, "image/png", b"\x89PNG"))
        self.assertEqual(self.client.get("/code.png", {"b": "nonsense"}).status_code, 400)
        with patch("cambrel.bench.views.bench.segno.make", side_effect=segno.DataOverflowError):
            page = self.client.get("/code.png", {"b": encode(home_bench())})
            self.assertContains(page, "This link is too long for a code. Copy it as text.", status_code=400)

    def test_a_visitor_sees_the_answer_at_once(self):
        page = self.get()
        self.assertContains(page, "Footplate portrait")
        self.assertContains(page, "50.6\u00a0mm f/5.6")
        self.assertContains(page, "the driver at")
        self.assertEqual(
            {plate.status for plate in page.context["page"].plates}, {"works"}, "a newcomer meets nothing red"
        )
        self.assertFalse(any(plate.flags for plate in page.context["page"].plates))
        self.assertContains(page, 'id="drawing-title"')

    def test_a_picture_that_can_hurt_says_what_to_mind_where_it_is_seen(self):
        for slug, words in (
            ("night-mail", "Alone at night"),
            ("viaduct", "Keep the sun out"),
            ("dusk-pass", "where the railway allows you"),
        ):
            page = self.client.get("/", {"b": encode(with_brief(home_bench(), slug))}).content.decode()
            self.assertIn(words, page[page.index("picture-sentence") : page.index("more-of-it")], slug)
        self.assertNotIn('class="caution"', self.get().content.decode())

    def test_a_refresh_swaps_outputs_and_no_controls(self):
        page = self.get(htmx=True, b=encode(home_bench()), **{"rigs-0-f_number": "4"})
        self.assertEqual(page.status_code, 200)
        self.assertContains(page, 'id="figures-2"')
        self.assertNotContains(page, 'name="rigs-0-f_number"')
        self.assertEqual(self.bench_of(page).rigs[0].f_number, 4)
        self.assertTrue({"HX-Request", "HX-History-Restore-Request"} <= set(page["Vary"].replace(" ", "").split(",")))

    def test_a_refresh_sends_what_the_page_does_not_have(self):
        before = self.get(htmx=True, panel="depth")
        b = parse_qs(urlsplit(before.headers["HX-Replace-Url"]).query)["b"][0]
        has = {"Bench-Parts": before.headers["Bench-Parts"]}
        same = self.client.get("/", {"b": b, "panel": "depth"}, headers=has, **HTMX)
        self.assertContains(same, 'id="token"')
        self.assertNotContains(same, 'id="plate-0"')
        self.assertNotContains(same, 'id="panel"')
        other = self.client.get("/", {"b": b, "panel": "light"}, headers=has, **HTMX)
        self.assertContains(other, 'id="panel"')
        self.assertNotContains(other, 'id="plate-0"')
        changed = self.client.get(
            "/", {"b": b, "panel": "depth", "rigs-1-iso": "800", "hold-exposure": "own"}, headers=has, **HTMX
        )
        self.assertContains(changed, 'id="plate-1"')
        self.assertEqual(self.get(htmx=True, panel="depth").content, before.content, "without sums all is sent")
        broken = self.client.get("/", {"b": b}, headers={"Bench-Parts": "x,=,plate-0=zz\u00e9"}, **HTMX)
        self.assertContains(broken, 'id="plate-0"')

    def test_a_release_pushes_and_a_drag_replaces(self):
        self.assertIn("HX-Replace-Url", self.get(htmx=True).headers)
        self.assertIn("HX-Push-Url", self.get(htmx=True, commit="1").headers)

    def test_history_gets_the_full_page(self):
        page = self.client.get("/", **HTMX, HTTP_HX_HISTORY_RESTORE_REQUEST="true")
        self.assertContains(page, "<!DOCTYPE html>")

    def test_the_address_is_canonical_and_restores_exactly(self):
        page = self.get(htmx=True, commit="1", panel="depth", **{"hold-place": "walk", "rigs-1-iso": "1600"})
        again = self.client.get(page.headers["HX-Push-Url"])
        self.assertContains(again, f'value="{encode(self.bench_of(page))}"')
        self.assertContains(again, "Depth of field along the scene")

    def test_every_panel_in_both_units_and_widths(self):
        for panel in ("frames", "depth", "light", "walk", "numbers"):
            for units in ("m", "ft"):
                for narrow in ("", "middle", "narrow"):
                    with self.subTest(panel=panel, units=units, narrow=narrow):
                        self.client.cookies["width"] = narrow
                        page = self.get(panel=panel, units=units, scale="log")
                        self.assertEqual(page.status_code, 200)
                        # as a word: the random token of a form may spell it
                        self.assertNotRegex(page.content.decode(), r"\bnan\b")

    def test_presses_draw_the_bench_anew(self):
        page = self.get(htmx=True, action="add")
        self.assertEqual((page["HX-Retarget"], len(self.bench_of(page).slots)), ("#bench", 3))
        self.assertContains(page, 'id="plate-2"')
        feet = self.get(htmx=True, action="units:ft")
        self.assertContains(feet, "6.562")
        ordered = self.get(htmx=True, action="sort:-area", panel="numbers")
        self.assertContains(ordered, "descending")
        own = self.get(htmx=True, action="own_body:1", **{"own-format": "44x33"})
        self.assertAlmostEqual(self.bench_of(own).rigs[1].body.sensor.width_mm, 43.8)
        # a size that is typed counts, whatever format the list still shows
        typed = {"own-format": "full-frame", "own-width_mm": "22.2", "own-height_mm": "14.8"}
        sensor = self.bench_of(self.get(htmx=True, action="own_body:1", **typed)).rigs[1].body.sensor
        self.assertEqual((sensor.width_mm, sensor.height_mm), (22.2, 14.8))
        half = self.get(htmx=True, action="own_body:1", **{"own-format": "full-frame", "own-width_mm": "22.2"})
        self.assertContains(half, "Give the sensor&#x27;s size", status_code=422)

    def test_the_bench_starts_with_gear_of_the_demo_shelf(self):
        load_demo(User.objects.get_or_create(username=LOCAL_OWNER)[0])
        bare = {"mtf50_away": (), "fall_off": (), "length_mm": None, "diameter_mm": None, "image_circle_mm": None}
        for slot in home_bench().slots:
            body = Body.objects.get(name=slot.body_name)
            wanted = replace(body.to_optics(), modes=slot.rig.body.modes, register_mm=slot.rig.body.register_mm)
            self.assertEqual(slot.rig.body, wanted)
            named = slot.lens_name.split(",")[0].replace("main lens", "phone lens")
            lens = replace(Lens.objects.get(name__startswith=named).to_optics(), **bare, focuses_inside=False)
            self.assertEqual(replace(slot.rig.lens, **bare), lens)

    def test_bad_input_is_never_a_fault_and_loses_nothing(self):
        cases = {
            "rigs-0-f_number": ("", "text", "-4", "0", "f/0", "1e400", "NaN"),
            "brief-distance_m": ("", "near", "-2", "0", "1e400"),
            "rigs-1-shutter_s": ("1/0", "quick"),
            "hold-lens": ("longest",),
            "conventions-criterion": ("",),
            "b": ("tampered!!", encode(home_bench())[:-6]),
        }
        for name, values in cases.items():
            for value in values:
                with self.subTest(name=name, value=value):
                    refresh = self.get(htmx=True, **{name: value})
                    self.assertEqual(refresh.status_code, 422)
                    self.assertContains(refresh, f'id="err-{"bench" if name == "b" else name}"', status_code=422)
                    self.assertNotIn("HX-Replace-Url", refresh.headers, "the address is unchanged")
                    full = self.get(**{name: value})
                    self.assertIn(full.status_code, (400, 422))
        for action in ("explode", "remove:9", "own_body:0", "own_lens:77", "gear:0:zzz"):
            with self.subTest(action=action):
                self.assertContains(self.get(htmx=True, action=action), 'id="err-bench"', status_code=422)
        hundred = self.client.get("/?" + "&".join(f"rigs-{i}-iso=100" for i in range(100)))
        self.assertContains(hundred, "at most 6 cameras", status_code=400)

    def test_a_full_load_of_a_bad_value_shows_it_and_computes_the_others(self):
        page = self.get(b=encode(home_bench()), **{"rigs-1-f_number": "zero"})
        self.assertContains(page, 'value="zero"', status_code=422)
        self.assertContains(page, "“zero” is not an f-number.", status_code=422)
        plates = re.findall(r'id="figures-(\d)">(.*?)</section>', page.content.decode(), re.DOTALL)
        dashes = {index: figures.count(">–<") for index, figures in plates}
        self.assertEqual((dashes["0"], dashes["1"], dashes["2"]), (0, 5, 0))

    def test_numbers_go_out_as_csv_at_full_precision(self):
        page = self.client.get(reverse("bench:numbers"), {"b": encode(home_bench())})
        rows = {row[1]: row for row in csv.reader(io.StringIO(page.content.decode()))}
        self.assertEqual(float(rows["focal length"][4]), 25.324198951869615)
        self.assertEqual(rows["figure"][3], "A Tarn Ridgeway, Tarn 50 mm f/1.8")
        self.assertEqual(self.client.get(reverse("bench:numbers"), {"b": "?"}).status_code, 400)
        self.assertEqual(self.client.get(reverse("bench:numbers"), {"rigs-0-iso": "x"}).status_code, 422)

    def test_formulas_do_not_leave_in_csv(self):
        bench = home_bench()
        evil = replace(bench, slots=(replace(bench.slots[0], body_name="=1+1"), *bench.slots[1:]))
        head = self.client.get(reverse("bench:numbers"), {"b": encode(evil)}).content.decode().splitlines()[0]
        self.assertIn("A =1+1", head)

    def test_every_answer_carries_the_strict_policy(self):
        policy = self.get().headers["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertIn("script-src 'self'", policy)
        self.assertNotIn("unsafe", policy)

    def test_rounds_say_of_noise_where_nothing_else_tells_the_pictures_apart(self):
        bench = home_bench()
        slots = [replace(bench.slots[0], rig=replace(bench.slots[0].rig, shutter_s=t)) for t in (1 / 60, 1 / 2000)]
        b = encode(replace(bench, slots=tuple(slots), hold=Hold("own", "spot", "own", "own"), reference=0))
        asked = {"b": b, "hits": "10", "of": "10", "first": "0", "second": "1"}
        answer = self.client.get("/tell/", asked | {"grain": "1"})
        self.assertIn("You see it at a signal to noise of", answer.content.decode())
        self.assertGreater(float(answer["Noise-Seen-Below"]), 1)
        # without noise on the pictures, of one camera or of one that is not there, nothing is said of it
        for change in ({}, {"grain": "1", "second": "7"}, {"grain": "1", "first": "x"}, {"grain": "1", "b": "no"}):
            with self.subTest(change=change):
                answer = self.client.get("/tell/", asked | change)
                self.assertNotIn("Noise-Seen-Below", answer.headers)
                self.assertIn("you can tell", answer.content.decode())

    def test_pages_that_are_not_there(self):
        self.assertContains(self.client.get("/nowhere/"), "nothing at this address", status_code=404)


class SavedTests(TestCase):
    def setUp(self):
        self.client.get("/")
        self.owner = User.objects.get(username="local")
        self.token = encode(home_bench())

    def post(self, view, pk=None, /, **data):
        return self.client.post(reverse(f"bench:{view}", args=["comparisons", *([pk] if pk else [])]), data)

    def saved(self):
        return list(SavedComparison.objects.for_owner(self.owner).order_by("pk"))

    def undo(self):
        return self.client.post(
            reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/saved/"}, follow=True
        )

    def test_saved_listed_renamed_duplicated_deleted_and_undone(self):
        self.post("save", name=" Portrait  test ", b=self.token)
        (record,) = self.saved()
        self.assertEqual((record.name, record.bench()), ("Portrait test", home_bench()))
        self.assertContains(self.client.get(reverse("bench:saved")), "Portrait test")
        self.post("rename", record.pk, name="Footplate", version=record.version)
        self.post("duplicate", record.pk)
        self.assertEqual([r.name for r in self.saved()], ["Footplate", "Footplate (copy)"])
        self.post("delete", record.pk)
        self.assertEqual(len(self.saved()), 1)
        for expected in (["Footplate", "Footplate (copy)"],):
            self.undo()
            self.assertEqual(sorted(r.name for r in self.saved()), expected)

    def test_a_copy_of_the_longest_name_has_a_name_that_can_be_kept(self):
        self.post("save", name="x" * 60, b=self.token)
        self.post("duplicate", self.saved()[0].pk)
        self.assertEqual([len(record.name) for record in self.saved()], [60, 60])
        self.assertTrue(self.saved()[1].name.endswith("… (copy)"))
        self.saved()[1].full_clean()

    def test_what_cannot_be_saved_is_said(self):
        for data in ({"name": "", "b": self.token}, {"name": "x" * 61, "b": self.token}, {"name": "ok", "b": "broken"}):
            with self.subTest(data=data):
                self.post("save", **data)
                self.assertEqual(self.saved(), [])

    def test_undo_is_refused_once_the_record_has_changed(self):
        self.post("save", name="One", b=self.token)
        self.post("rename", self.saved()[0].pk, name="Two", version=0)
        renamed = ChangeSet.objects.first()
        page = self.post("rename", self.saved()[0].pk, name="Four", version=0)
        self.assertEqual(self.saved()[0].name, "Two", "whoever has not seen that it is Two now is told so")
        self.assertContains(self.client.get(reverse("bench:saved")), "renamed to “Two” meanwhile. To call it “Four”")
        self.post("rename", self.saved()[0].pk, name="Three", version=self.saved()[0].version)
        page = self.client.post(reverse("owners:undo", args=[renamed.pk]), {"next": "/saved/"}, follow=True)
        self.assertContains(page, "has been changed since")
        self.assertEqual(self.saved()[0].name, "Three")
        self.undo()
        page = self.client.post(
            reverse("owners:undo", args=[ChangeSet.objects.exclude(undone_at=None).first().pk]), follow=True
        )
        self.assertContains(page, "has been undone already.")

    def test_nobody_touches_what_is_anothers(self):
        other = User.objects.create(username="other")
        theirs = SavedComparison.objects.create(owner=other, name="Theirs", token=self.token)
        change = ChangeSet.objects.create(owner=other, label="x", changes=[])
        for name in ("rename", "duplicate", "delete"):
            self.assertEqual(self.post(name, theirs.pk, name="Mine").status_code, 404)
        self.assertEqual(self.client.post(reverse("owners:undo", args=[change.pk])).status_code, 404)
        theirs.refresh_from_db()
        self.assertEqual(theirs.name, "Theirs")
        self.assertNotContains(self.client.get(reverse("bench:saved")), "Theirs")

    def test_a_hosted_visitor_uses_the_bench_but_cannot_save(self):
        with self.settings(HOSTED=True):
            self.client.logout()
            self.assertNotContains(self.client.get("/"), 'id="save-dialog"')
            self.assertIn("/sign-in/", self.post("save", name="x", b=self.token)["Location"])
            self.assertContains(self.client.get(reverse("sign-in")), "Password")


class PickerTests(TestCase):
    def setUp(self):
        self.client.get("/")
        load_demo(User.objects.get(username="local"))

    def pick(self, **query):
        return self.client.get(reverse("shelf:pick"), query)

    def test_the_demo_shelf_is_as_designed_and_loaded_once(self):
        owner = User.objects.get(username="local")
        self.assertFalse(load_demo(owner))
        for system, bodies, lenses in (
            ("Full frame", 3, 8),
            ("APS-C", 3, 8),
            ("Micro Four Thirds", 3, 8),
            ("Medium format", 3, 8),
        ):
            self.assertGreaterEqual(Body.objects.filter(system=system).count(), bodies)
            self.assertGreaterEqual(Lens.objects.filter(system=system).count(), lenses)
        self.assertEqual(Body.objects.filter(system="Phone").count(), 3)
        self.assertTrue(Lens.objects.filter(rectilinear=False).exists())
        for record in (*Body.objects.all(), *Lens.objects.all()):
            record.to_optics()
        macro = next(lens for lens in Lens.objects.all() if lens.to_optics().shortens_close_up)
        self.assertIsNotNone(macro.to_optics().closest_m(macro.focal_max_mm))

    def test_search_finds_by_every_word(self):
        page = self.pick(kind="lens", q="macro tarn", rig="1")
        self.assertContains(page, "Tarn 100 mm f/2.8 Macro")
        self.assertNotContains(page, "Larkmoor")
        self.assertContains(page, 'data-action="gear:1:')
        self.assertContains(self.pick(kind="body", q="zzz"), "Nothing on your shelf matches")

    def test_lenses_of_the_bodys_mount_come_first(self):
        content = self.pick(kind="lens", mount="Pipwren").content.decode()
        self.assertLess(content.index("Pipwren 9 mm"), content.index("Larkmoor 12 mm"))

    def test_a_camera_with_a_fixed_lens_brings_it_along(self):
        page = self.pick(kind="body", q="Pocket").content.decode()
        token = re.search(r"gear:0:([\w-]+)", page).group(1)
        answer = self.client.get("/?" + urlencode({"b": encode(home_bench()), "action": f"gear:2:{token}"}), **HTMX)
        bench = decode(parse_qs(urlsplit(answer["HX-Push-Url"]).query)["b"][0])
        self.assertEqual((bench.slots[2].body_name, bench.rigs[2].lens.focal_max_mm), ("Bothy Pocket", 25.7))

    def test_gear_of_another_owner_is_not_offered(self):
        other = User.objects.create(username="other")
        Body.objects.create(owner=other, name="Secret", width_mm=36, height_mm=24)
        self.assertNotContains(self.pick(kind="body", q="Secret"), "data-action")


class DrawingFileTests(TestCase):
    def test_a_drawing_stands_alone_with_its_looks_and_its_pictures(self):
        for address in (
            "/drawing.svg?panel=frames", "/drawing.svg?panel=depth&scale=log", "/drawing.svg?panel=light",
            "/drawing.svg?panel=walk",
            "/formats/?as=svg&shape=1:1",
        ):  # fmt: skip
            with self.subTest(address):
                page = self.client.get(address)
                self.assertEqual((page.status_code, page["Content-Type"]), (200, "image/svg+xml; charset=utf-8"))
                text = page.content.decode()
                ElementTree.fromstring(text)
                for part in ("class=", "var(", "style=", "http://", "https://"):
                    self.assertNotIn(part, text.replace("http://www.w3.org/2000/svg", ""))
                self.assertIn("font-family", text)
                self.assertEqual("data:image/webp;base64," in text, "frames" in address)
        self.assertIn("#7d2206", self.client.get("/drawing.svg?panel=depth").content.decode())
        self.assertEqual(self.client.get("/drawing.svg?panel=numbers").status_code, 404)
        self.assertEqual(self.client.get("/drawing.svg?b=broken").status_code, 400)
        self.assertEqual(self.client.get("/drawing.svg?rigs-0-f_number=0").status_code, 422)
