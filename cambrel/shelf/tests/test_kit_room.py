"""The room that a kit takes: its sum, its longest piece, bags of the shelf and typed ones, another kit beside it."""

import re
from math import pi

from django.test import TestCase

from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.forms import LensForm
from cambrel.shelf.kit_room import NO_BAG
from cambrel.shelf.models import Bag, Body, Kit, Lens


class KitRoomTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)
        cls.kit = Kit.objects.get(owner=cls.owner, name="Lineside bag")

    def page(self, **query):
        return self.client.get(f"/shelf/kits/{self.kit.pk}/", query)

    def test_its_volume_and_its_longest_piece_stand_beside_weight_and_price(self):
        volume = 0.0
        for body in self.kit.bodies.all():
            volume += body.outer_width_mm * body.outer_height_mm * body.outer_depth_mm / 1e6
        for lens in self.kit.lenses.all():
            volume += pi / 4 * lens.diameter_mm**2 * lens.length_mm / 1e6
        page = self.page()
        self.assertAlmostEqual(page.context["bag"].room.volume_l, volume, 9)
        self.assertContains(page, "Tarn 70-300 mm f/4.5-5.6, 148\u00a0mm")
        self.kit.lenses.add(Lens.objects.get(owner=self.owner, name="Pipwren old 50 mm"))
        self.assertContains(self.page(), "without 1 of unknown size")

    def test_a_bag_of_the_shelf_or_a_typed_one_is_answered(self):
        for bag, says in (
            ("Lineside rucksack", "Yes: "),
            ("Platform pouch", "No: each piece goes in, but together they fill "),
        ):
            page = self.page(bag=Bag.objects.get(owner=self.owner, name=bag).pk)
            self.assertContains(page, f"{bag}? {says}")
        self.assertContains(self.page(sides="26 cm x 18 cm x 13 cm"), "This bag? Yes: ")
        self.assertContains(self.page(sides="160 by 120 by 100"), "This bag? No: ")
        for wrong in ("big", "1 x 2", "0 x 10 x 10", "1 x 1e400 x 1", "-5 x 5 x 5", "x", "9" * 300):
            page = self.page(sides=wrong)
            self.assertContains(page, NO_BAG)
            self.assertIn(wrong[:60], page.content.decode())

    def test_another_kit_beside_it_and_the_sheet_as_a_file(self):
        other = Kit.objects.get(owner=self.owner, name="Day off bag")
        page = self.page(against=other.pk)
        self.assertRegex(page.content.decode(), r"This kit is \d+%\S* heavier and \d+%\S* larger than Day off bag\.")
        Body.objects.filter(kits=other).update(outer_depth_mm=None)
        self.assertRegex(self.page(against=other.pk).content.decode(), r"This kit is \d+% heavier than Day off bag\.")
        sheet = self.page(**{"as": "sheet", "sides": "260x180x130"})
        self.assertIn("image/svg+xml", sheet["Content-Type"])
        self.assertIn("All pieces of the kit to one scale", sheet.content.decode())
        stranger = Kit.objects.create(owner=User.objects.create_user("x"), name="Other")
        self.assertEqual(self.client.get(f"/shelf/kits/{stranger.pk}/").status_code, 404)
        self.assertNotIn("than Other", self.page(against=stranger.pk).content.decode())

    def test_a_lens_is_no_shorter_zoomed_out(self):
        lens = Lens.objects.get(owner=self.owner, name="Tarn 24-70 mm f/2.8")
        typed = {"name": lens.name, "focal_min_mm": "24", "focal_max_mm": "70", "rectilinear": "True"}
        form = LensForm(typed | {"length_mm": "126", "longest_mm": "120"}, instance=lens, owner=self.owner)
        self.assertIn("At its longest it is at least as long as at its shortest.", str(form.errors))

    def test_match_and_the_bench_draw_them(self):
        match = self.client.get("/match/").content.decode()
        self.assertGreater(len(re.findall(r'class="drawing"[^>]*aria-labelledby="size-\d+', match)), 3)
        bench = self.client.get("/", {"panel": "size"}).content.decode()
        self.assertIn("The cameras to one scale", bench)
        self.assertIn("133 × 97 × 68\u00a0mm", bench)
