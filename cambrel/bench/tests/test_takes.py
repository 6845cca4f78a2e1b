"""What would it take? From a figure to a lever to a bench that has it."""

import csv
import io
import re
from dataclasses import replace
from html import unescape
from urllib.parse import parse_qs, urlsplit

from django.test import TestCase, tag

from cambrel.bench.sample_benches import opening_bench
from cambrel.comparison.engine import compare
from cambrel.comparison.levers import standpoint
from cambrel.comparison.moving_pictures import as_film
from cambrel.comparison.wishes import WISHES
from cambrel.links.benches import decode, encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.models import Lens


def of_bench(address):
    return decode(parse_qs(urlsplit(unescape(address)).query)["b"][0])


class TakeTests(TestCase):
    def take(self, **given):
        return self.client.get("/take/", given)

    @tag("long")
    def test_every_lever_that_is_tried_has_the_figure_on_the_bench(self):
        for key, wish in WISHES.items():
            if not wish.rests_on:
                continue
            page = self.take(of=key, rig=1)
            self.assertEqual(page.status_code, 200, key)
            self.assertTrue(page.context["shown"], key)
            wanted = page.context["now"]
            self.assertTrue(wanted)
            benches = [of_bench(lever.address) for lever in page.context["shown"]]
            figures = []
            for bench in benches:
                compared = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
                stands = standpoint(compared, 1)
                figures.append(wish.read(stands, compared.of(1)))
            self.assertAlmostEqual(min(figures) / max(figures), 1, places=8, msg=f"{key}: {figures}")
            start = opening_bench()
            before = compare(start.brief, start.rigs, start.hold, start.conventions, start.reference)
            now = wish.read(standpoint(before, 1), before.of(1))
            wanted = now * wish.first
            self.assertAlmostEqual(figures[0] / wanted, 1, places=8)
            for bench in benches:
                after = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
                self.assertEqual(after.of(0).settings, before.of(0).settings, "the other camera stands as it stood")
            self.assertEqual(self.client.get(page.context["shown"][0].address).status_code, 200)

    def test_what_is_wanted_is_typed_as_the_figure_is_shown(self):
        for key, text in (
            ("blur", "2%"),
            ("blur", "2"),
            ("depth", "20 cm"),
            ("depth", "1 ft"),
            ("light", "1.5"),
            ("size", "50"),
        ):
            page = self.take(of=key, rig=0, wanted=text)
            self.assertEqual(page.status_code, 200, text)
            self.assertContains(page, f'value="{text}"')
            self.assertTrue(page.context["shown"], text)
        for key, text in (
            ("blur", "much"),
            ("depth", "-1 m"),
            ("depth", "1e400"),
            ("light", "NaN"),
            ("light", "99999"),
            ("size", "0"),
        ):
            page = self.take(of=key, rig=0, wanted=text)
            self.assertEqual(page.status_code, 422, text)
            self.assertContains(page, "Type", status_code=422)
            self.assertContains(page, f'value="{text}"', status_code=422)

    def test_lenses_of_the_shelf_that_have_it_are_named_the_lightest_first(self):
        self.client.get("/")
        owner = User.objects.get(username=LOCAL_OWNER)
        start = opening_bench()
        slot = start.slots[0]
        mounted = replace(slot, rig=replace(slot.rig, body=replace(slot.rig.body, mount="Tarn")))
        bench = replace(start, slots=(mounted, *start.slots[1:]))
        for name, focal, number, grams, mount in (
            ("Heavy", 50, 1.2, 900, "Tarn"), ("Light", 50, 1.4, 300, "Tarn"), ("Slow", 50, 2.0, 100, "Tarn"),
            ("Other mount", 50, 1.2, 100, "Pipwren"), ("Too long", 85, 1.2, 100, "Tarn"),
            ("Zoom", (24, 70), 1.4, 500, "tarn"),
        ):  # fmt: skip
            low, high = focal if isinstance(focal, tuple) else (focal, focal)
            Lens.objects.create(
                owner=owner, name=name, mount=mount, focal_min_mm=low, focal_max_mm=high, weight_g=grams,
                widest=[[low, number]],
            )  # fmt: skip
        page = self.take(of="blur", rig=0, b=encode(bench))
        (opened,) = (lever for lever in page.context["shown"] if lever.does.startswith("Open to"))
        self.assertEqual([name for name, _ in opened.lenses], ["Light", "Zoom", "Heavy"])
        there = of_bench(opened.lenses[0][1])
        self.assertEqual((there.slots[0].lens_name, there.slots[0].rig.lens.widest), ("Light", ((50.0, 1.4),)))
        compared = compare(there.brief, there.rigs, there.hold, there.conventions, there.reference)
        start_figures = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
        ratio = compared.of(0).blur.background_share / start_figures.of(0).blur.background_share
        self.assertAlmostEqual(ratio, 2, places=8)

    @tag("long")
    def test_it_leaves_as_a_table_and_as_a_drawing(self):
        start = opening_bench()
        for key in ("blur", "light"):
            page, table = self.take(of=key, rig=1), self.client.get("/take.csv", {"of": key, "rig": 1})
            rows = list(csv.DictReader(io.StringIO(table.content.decode("utf-8-sig"))))
            self.assertEqual([row["What to do"] for row in rows], [
                lever.does.replace("\u00a0", " ") for lever in page.context["shown"]
            ])  # fmt: skip
            (opened,) = (row for row in rows if row["Lever"] == "F-number")
            there = of_bench(page.context["shown"][rows.index(opened)].address)
            self.assertEqual((float(opened["Value"]), opened["Unit"]), (there.slots[1].rig.f_number, "f-number"))
            self.assertIn(opened["Your gear has it"], ("yes", "no", ""))
            drawn = self.client.get("/take.svg", {"of": key, "rig": 1})
            self.assertEqual((drawn.status_code, drawn["Content-Type"]), (200, "image/svg+xml; charset=utf-8"))
            self.assertIn("How far each would have to go", drawn.content.decode())
            self.assertContains(page, unescape(page.context["table_address"]).replace("&", "&amp;"))
        film = encode(as_film(start))
        for there, has_shutter in ((encode(start), True), (film, False)):
            table = self.client.get("/take.csv", {"of": "light", "rig": 1, "b": there}).content.decode()
            self.assertEqual("Shutter time" in table, has_shutter)
        for address in ("/take.csv", "/take.svg"):
            refused = self.client.get(address, {"of": "depth", "rig": 0, "wanted": "-1 m"})
            self.assertContains(refused, "Type metres", status_code=422)
            self.assertEqual(self.client.get(address, {"of": "nothing"}).status_code, 404)

    def test_what_there_is_not_is_said(self):
        for given in ({"of": "nothing"}, {"of": "blur", "rig": 7}, {"of": "blur", "b": "nonsense"}, {}):
            self.assertEqual(self.take(**given).status_code, 404)
        plain = opening_bench()
        bare = replace(plain, brief=replace(plain.brief, background_m=None))
        page = self.take(of="blur", rig=0, b=encode(bare))
        self.assertContains(page, "unknown or without end")
        self.assertContains(self.take(of="stars", rig=0), "unknown or without end")

    def test_a_figure_and_a_demand_that_is_missed_lead_there(self):
        card = self.client.get("/why/", {"of": "total", "rig": 1, "card": 1})
        (take,) = re.findall(r'hx-get="(/take/[^"]+)"', card.content.decode())
        self.assertIn("Depth of field", self.client.get(unescape(take)).content.decode())
        self.assertNotContains(self.client.get("/why/", {"of": "crop", "rig": 1}), "/take/")
        start = opening_bench()
        wanting = replace(start, brief=replace(start.brief, blur_share=0.05))
        brief = self.client.get("/why/", {"of": "brief", "b": encode(wanting)})
        links = [unescape(link) for link in re.findall(r'href="(/take/[^"]+)"', brief.content.decode())]
        self.assertTrue(links)
        page = self.client.get(links[0])
        self.assertEqual(page.context["wanted"], "5", "what the picture itself wants")
