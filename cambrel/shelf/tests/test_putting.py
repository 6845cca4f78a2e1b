"""Gear on its way to the bench and to Match: by a press in a list, by figures that are typed, by a format of one's
own.
"""

from random import randrange
from urllib.parse import parse_qs, urlsplit

from cambrel.bench.actions import State, perform
from cambrel.bench.look import Look
from cambrel.bench.reading import PARTS
from cambrel.bench.sample_benches import home_bench
from cambrel.owners.models import User
from cambrel.shelf.models import Body, Lens, OwnFormat
from cambrel.shelf.tests.test_shelf import ShelfTestCase
from cambrel.shelf.typed import typed_gear
from cambrel.shelf.views.gear_choice import carriers, put_record_address


def after(action, bench):
    return perform(action, State(bench, Look(PARTS))).bench


class PuttingTests(ShelfTestCase):
    def put(self, address, bench):
        (action,) = parse_qs(urlsplit(address).query)["action"]
        return after(action, bench)

    def test_a_lens_goes_on_a_body_of_its_own_mount_wherever_there_is_one(self):
        bench = home_bench()
        on_bench = {rig.body.mount for rig in bench.rigs}
        bodies = set(Body.objects.values_list("mount", flat=True))
        lenses = Lens.objects.filter(fixed_to=None).exclude(mount="")
        carrying = carriers(self.owner, lenses)
        self.assertTrue(
            set(lenses.values_list("mount", flat=True)) & bodies - on_bench, "one needs a body from the shelf"
        )
        for lens in lenses:
            with self.subTest(lens.name):
                after = self.put(put_record_address(lens, carrying.get(lens.pk)), bench)
                slot = after.slots[-1]
                self.assertEqual(slot.lens_name, lens.name)
                if lens.mount in bodies | on_bench:
                    self.assertEqual(slot.rig.body.mount, lens.mount)
                    self.assertTrue(slot.body_name)

    def test_the_body_that_the_lens_covers_is_taken_before_a_larger_one(self):
        Body.objects.create(owner=self.owner, name="Large", mount="Here", width_mm=36, height_mm=24)
        Body.objects.create(owner=self.owner, name="Small", mount="Here", width_mm=23.5, height_mm=15.6)
        Body.objects.create(owner=self.owner, name="Smaller", mount="Here", width_mm=17.3, height_mm=13)
        lens = Lens.objects.create(
            owner=self.owner, name="A", mount="Here", focal_min_mm=30, focal_max_mm=30, designed_for="aps-c"
        )
        self.assertEqual(carriers(self.owner, [lens])[lens.pk].name, "Small")
        lens.designed_for = ""
        self.assertEqual(carriers(self.owner, [lens])[lens.pk].name, "Large")
        lens.image_circle_mm = 5
        self.assertEqual(carriers(self.owner, [lens])[lens.pk].name, "Large")

    def test_a_fixed_lens_goes_with_its_camera(self):
        lens = Lens.objects.exclude(fixed_to=None).first()
        after = self.put(put_record_address(lens), home_bench())
        self.assertEqual(after.slots[-1].body_name, lens.fixed_to.name)

    def test_figures_are_typed_where_a_name_is_looked_for(self):
        for kind, text, name, f_number in (
            ("lens", "25/1.4", "25 mm f/1.4", 1.4), ("lens", "24-70 f/2.8-4", "24–70 mm f/2.8–4", 2.8),
            ("lens", "85mm", "85 mm lens", None),
            ("body", "aps-c", "APS-C", None), ("body", "24 x 16 mm", "24 × 16 mm sensor", None),
        ):  # fmt: skip
            with self.subTest(text):
                gear, at = typed_gear(kind, text, self.owner)
                self.assertEqual(((gear.lens_name or gear.body_name).replace("\u00a0", " "), at), (name, f_number))
        for kind, text in (("lens", "tarn"), ("lens", "24 mm equivalent"), ("body", "tarn"), ("body", "25/1.4")):
            self.assertEqual(typed_gear(kind, text, self.owner), (None, None), text)
        page = self.client.get("/shelf/pick/", {"kind": "lens", "q": "25/1.4", "rig": "1"})
        offer = page.context["offers"][0]
        bench = after(offer.action, home_bench())
        self.assertEqual((bench.slots[1].lens_name, bench.rigs[1].f_number), ("25 mm f/1.4", 1.4))

    def test_an_own_format_is_used_on_the_bench_and_in_match(self):
        self.client.post("/shelf/own-formats/new/", {"name": "Plate back", "width_mm": "60", "height_mm": "45"})
        own = OwnFormat.objects.get()
        page = self.client.get("/shelf/pick/", {"kind": "body", "q": "plate"})
        self.assertEqual([offer.name for offer in page.context["offers"]], ["Plate back"])
        after = self.put(put_record_address(own), home_bench())
        self.assertEqual((after.slots[-1].body_name, after.rigs[-1].body.sensor.width_mm), ("Plate back", 60))
        key = f"own-{own.pk}"
        # what is rolled back between tests leaves its numbers to the next one: here none has been looked at under
        # this one
        User.objects.filter(pk=own.owner_id).update(shelf_version=randrange(10**6, 10**9))
        there = self.client.get("/match/", {"format": "full-frame", "focal_length_mm": "50", "f_number": "2", "t": key})
        (answer,) = there.context["answers"]
        self.assertEqual((answer.target.name, answer.target.sensor.width_mm), ("Plate back", 60))
        here = self.client.get(
            "/match/", {"format": key, "focal_length_mm": "80", "f_number": "2.8", "t": "full-frame"}
        )
        self.assertEqual(here.context["question"].wanted.sensor.width_mm, 60)
        self.assertIn("60 × 45 mm", here.context["question"].says())
