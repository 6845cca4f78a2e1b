"""Modes, supports, close-up aids, and lenses that were measured away from the middle."""

from django.test import SimpleTestCase

from cambrel.bench.reading import read
from cambrel.links.benches import decode, encode
from cambrel.optics.sharpness import mtf50_per_mm
from cambrel.shelf.models import Body, CloseUpAid, Kit, Lens, Support
from cambrel.shelf.resolution import POINTS
from cambrel.shelf.tests.test_shelf import NEW_LENS, ShelfTestCase
from cambrel.shelf.views.gear_choice import gear_of


class PointsTests(SimpleTestCase):
    def test_points_are_written_as_they_are_read(self):
        for name, points in {
            "mtf50": [[2.8, 60.5], [5.6, 75.0]],
            "mtf50_away": [[10.0, 2.8, 50.0], [10.0, 5.6, 60.0], [21.5, 2.8, 40.25]],
            "fall_off": [[10.0, 0.5], [21.5, 1.5]],
        }.items():
            with self.subTest(name=name):
                self.assertEqual(POINTS[name].read(POINTS[name].write(points, repr)), points)
                self.assertTrue(POINTS[name].read(POINTS[name].example))
                for wrong in (
                    "soon",
                    "60",
                    "at 10 mm 50",
                    "1 at 0 mm",
                    "at 10 mm: 50 at f/2.8; at 10 mm: 40 at f/2.8",
                    "1 at 5 mm; 2 at 5 mm",
                ):
                    with self.assertRaises(ValueError, msg=wrong):
                        POINTS[name].read(wrong)


class RecordTests(ShelfTestCase):
    def test_what_was_measured_from_pictures_is_kept_as_the_lens_alone(self):
        seen = float(mtf50_per_mm(5.6, pixel_pitch_um=4.0, lens_mtf50_per_mm=70.0))
        sent = NEW_LENS | {
            "name": "Measured 40 mm",
            "mtf50": f"{seen:.9g} at f/5.6",
            "mtf50_pitch_um": "4",
            "fall_off": "1.5 at 20 mm",
        }
        self.client.post("/shelf/lenses/new/", sent)
        lens = Lens.objects.get(name="Measured 40 mm")
        self.assertAlmostEqual(lens.mtf50[0][1], 70, places=4)
        self.assertEqual(lens.fall_off, [[20.0, 1.5]])
        page = self.client.post("/shelf/lenses/new/", sent | {"name": "Better than glass", "mtf50": "170 at f/5.6"})
        self.assertContains(page, "the lens was not the limit there", status_code=422)
        page = self.client.post("/shelf/lenses/new/", sent | {"name": "Odd", "mtf50_away": "at 10 mm"})
        self.assertContains(page, "cannot be read. Type it as at 10 mm", status_code=422)
        self.assertFalse(Lens.objects.filter(name__in=("Better than glass", "Odd")).exists())

    def test_a_body_brings_its_modes_and_its_mount_to_the_bench(self):
        gear = gear_of(Body.objects.get(name="Pipwren Wader"))
        modes = {mode.label: mode for mode in gear.body.modes}
        self.assertEqual((modes["Eight shifted frames, tripod"].frames, modes["Digital 4K"].frame_rate), (8, 60))
        self.assertEqual((gear.body.register_mm, gear.body.range_stops), (19.3, 12.9))
        self.assertEqual(len(gear_of(Body.objects.get(name="Holmgate Longmeadow")).body.modes), 0)

    def test_a_mode_is_chosen_on_a_rig_and_travels_with_the_link(self):
        reading = read({"b": encode(decode(encode(read({}).bench))), "rigs-0-mode": "1", "rigs-0-shutter_s": "180°"})
        self.assertEqual(reading.messages, {"rigs-0-shutter_s": "An angle needs a frame rate. Type it as 180° at 25."})
        chosen = read({"b": encode(read({}).bench), "rigs-0-mode": "1"}).bench
        self.assertEqual(chosen.slots[0].body_called, "Tarn Ridgeway, 4K at 60 frames")
        self.assertEqual(decode(encode(chosen)).rigs[0].sensor.width_mm, 23.5)
        self.assertAlmostEqual(read({"b": encode(chosen), "rigs-0-shutter_s": "180°"}).bench.rigs[0].shutter_s, 1 / 50)
        self.assertIn("rigs-0-mode", read({"b": encode(chosen), "rigs-0-mode": "7"}).messages)
        self.assertIsNone(read({"b": encode(chosen), "rigs-0-mode": ""}).bench.rigs[0].mode)

    def test_supports_are_packed_weighed_and_taken_out(self):
        kit, support = Kit.objects.get(name="Two systems"), Support.objects.get(name="Turntable star tracker")
        before = self.client.get(f"/shelf/kits/{kit.pk}/").context["bag"].weight.text
        self.client.post(f"/shelf/kits/{kit.pk}/pack/", {"kind": "support", "record": support.pk})
        page = self.client.get(f"/shelf/kits/{kit.pk}/")
        self.assertContains(page, "star tracker, 1.1")
        self.assertNotEqual(page.context["bag"].weight.text, before)
        self.undo()
        self.assertNotIn(support, kit.supports.all())

    def test_a_close_up_aid_says_what_it_gives(self):
        page = self.client.post("/shelf/close-up-aids/new/", {"name": "Ring", "kind": "tube"})
        self.assertContains(page, "how long the tube is", status_code=422)
        page = self.client.post("/shelf/close-up-aids/new/", {"name": "Glass", "kind": "lens", "length_mm": "3"})
        self.assertContains(page, "how strong it is", status_code=422)
        self.client.post("/shelf/close-up-aids/new/", {"name": "Ring", "kind": "tube", "length_mm": "10"})
        self.assertEqual(CloseUpAid.objects.get(name="Ring").length_mm, 10)
