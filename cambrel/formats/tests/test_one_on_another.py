"""Two formats against each other on the Formats page, the strip of film, and small answers of Bench and Shelf."""

import re
from dataclasses import replace
from itertools import product
from math import log2

from django.test import TestCase

from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import with_brief
from cambrel.drawings.formats import film_strip
from cambrel.formats.named import offered
from cambrel.formats.views import one_on_another
from cambrel.links.benches import encode
from cambrel.optics.formats import FORMATS
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Adapter, Lens


class OneOnAnotherTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)

    def test_the_ratio_and_the_count_of_any_two(self):
        frames = {frame.key: frame for group in offered(self.owner).values() for frame in group}
        for one, other in product(list(FORMATS)[::2], list(FORMATS)[1::2]):
            area, fits = (said.replace("\u00a0", " ") for said in one_on_another(frames[one], frames[other]).says)
            areas = sorted((FORMATS[one].area_mm2, FORMATS[other].area_mm2))
            ratio = areas[1] / areas[0]
            times, stops = re.search(r"has ([\d.,]+) times the area of .*: ([\d.]+) stop", area).groups()
            self.assertAlmostEqual(float(times.replace(",", "")) / ratio, 1, delta=0.006)
            self.assertAlmostEqual(float(stops), log2(ratio), delta=0.06)
            larger = FORMATS[one if FORMATS[one].area_mm2 > FORMATS[other].area_mm2 else other].name
            self.assertTrue(area.startswith(f"{larger} has"))
            self.assertRegex(fits, r"^(Not one|One|\d+) .*(frame lies|frames lie) whole on ")
        same = one_on_another(frames["aps-c"], frames["aps-c"]).says
        self.assertEqual(same, ("APS-C and APS-C have the same area.", "One APS-C frame lies whole on APS-C."))

    def test_the_page_answers_for_those_that_are_chosen_and_takes_no_nonsense(self):
        page = self.client.get("/formats/", {"inner": "half-frame", "outer": "full-frame"})
        self.assertContains(page, "2 Half frame film frames lie whole on Full frame, 2 across and 1 down.")
        self.assertContains(page, "Why a 35 mm strip gives 36 × 24 or 24 × 18")
        for odd in ("nothing", "", "<b>"):
            page = self.client.get("/formats/", {"inner": odd})
            self.assertContains(page, "Micro Four Thirds frames lie whole on Full frame")

    def test_the_frames_of_the_strip_are_true_and_lie_between_the_holes(self):
        drawing = film_strip()
        roles = {}
        for shape in drawing.shapes:
            roles.setdefault(shape.role, []).append(shape)
        scale = roles["strip-film"][0].height / 35
        sizes = {(round(s.width / scale, 6), round(s.height / scale, 6)) for s in roles["strip-picture"]}
        self.assertEqual(sizes, {(36.0, 24.0), (18.0, 24.0)})
        for frame, hole in product(roles["strip-picture"], roles["strip-hole"]):
            apart = hole.y + hole.height <= frame.y or hole.y >= frame.y + frame.height
            self.assertTrue(apart)

    def test_the_new_formats_stand_in_the_table(self):
        for slug in ("type-1-2", "35mm-8-perf", "65mm-15-perf", "sheet-5x7", "sheet-8x10"):
            self.assertContains(self.client.get("/formats/", {"f": slug, "none": "1"}), FORMATS[slug].name)

    def test_an_adapter_that_a_sentence_counts_on_is_looked_for_on_the_shelf(self):
        bench = home_bench()
        rig = bench.slots[1].rig
        foreign = replace(rig.lens, mount="Holmgate")
        slots = (bench.slots[0], replace(bench.slots[1], rig=replace(rig, lens=foreign)))
        token = encode(replace(bench, slots=slots))
        said = " ".join(text for _, text, _ in self.client.get("/", {"b": token}).context["page"].verdicts)
        self.assertIn("These figures hold if there is an adapter. Your shelf has none.", said)
        Adapter.objects.create(owner=self.owner, name="Ring of Wren", lens_mount="Holmgate", mount="Pipwren")
        said = " ".join(text for _, text, _ in self.client.get("/", {"b": token}).context["page"].verdicts)
        self.assertIn("Ring of Wren, on your shelf, is one.", said)

    def test_lists_say_the_equivalent_magnification_and_what_a_hundred_grams_give(self):
        lens = Lens.objects.get(owner=self.owner, name="Pipwren 60 mm f/2.8 Macro")
        there = lens.max_magnification * 43.2666 / 21.6400
        page = self.client.get("/shelf/lenses/", {"q": lens.name}).content.decode().replace("\u00a0", " ")
        self.assertIn(f"{there:.2g} ×, {there / lens.weight_g * 100:.2g} ×", page)

    def test_a_meter_is_read_over_a_sky_and_nowhere_else(self):
        for slug, has in (("viaduct", True), ("footplate-portrait", False)):
            page = self.client.get("/", {"b": encode(with_brief(home_bench(), slug)), "panel": "light"})
            self.assertEqual("averaging meter" in page.content.decode(), has, slug)

    def test_a_gimbal_carries_the_camera(self):
        page = self.client.get("/", {"b": encode(home_bench()), "panel": "steadiness", "action": "carried:gimbal"})
        self.assertContains(self.client.get(page["Location"]), "on a gimbal")
