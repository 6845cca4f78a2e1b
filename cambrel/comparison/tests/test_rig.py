from unittest import TestCase

from cambrel.comparison.engine import Body, Brief, Conventions, Hold, Lens, Rig, compare
from cambrel.comparison.rig import Mode
from cambrel.comparison.tonal_range import range_of
from cambrel.optics.formats import Sensor
from cambrel.optics.quantities import DomainError

SENSOR = Sensor(36, 24, 6000, 4000)
SHIFTED, VIDEO = Mode(Sensor(36, 24, 12000, 8000), "shifted", frames=8), Mode(Sensor(32, 18, 3840, 2160), "4K", 60.0)
BODY = Body(SENSOR, 100, 51200, 1 / 8000, 30, modes=(SHIFTED, VIDEO))


class LensTests(TestCase):
    def test_away_from_the_middle_between_what_is_known_and_never_beyond(self):
        away = ((10.0, 2.8, 50.0), (10.0, 5.6, 60.0), (20.0, 2.8, 40.0))
        lens = Lens(50, 50, mtf50=((2.8, 60.0), (5.6, 80.0)), mtf50_away=away, fall_off=((10.0, 0.5), (20.0, 2.0)))
        for height, n, wanted in ((0, 2.8, 60), (5, 2.8, 55), (10, 4, 55), (15, 2.8, 45), (20, 2.8, 40)):
            n = 2.8 * 2**0.5 if n == 4 else n
            self.assertAlmostEqual(lens.mtf50_at_per_mm(n, height), wanted, places=9)
        for height, n in ((20.1, 2.8), (15, 5.6), (5, 8), (5, 2.7)):
            self.assertIsNone(lens.mtf50_at_per_mm(n, height), (height, n))
        self.assertEqual([lens.fall_off_stops(at) for at in (0, 5, 15, 21)], [0.0, 0.25, 1.25, None])
        for wrong in (
            {"mtf50_away": ((20, 2.8, 40), (10, 2.8, 50))},
            {"fall_off": ((10, -1),)},
            {"fall_off": ((10, 1), (10, 2))},
        ):
            with self.assertRaises(DomainError):
                Lens(50, 50, **wrong)


class BodyTests(TestCase):
    def test_two_stabilisers_are_the_larger_unless_the_record_says_how_they_add(self):
        for body, lens, both, wanted in (
            (5, 4, None, 5),
            (None, 4, None, 4),
            (5, 4, 7, 7),
            (5, 0, 7, 5),
            (5, None, 7, 5),
            (None, None, 7, None),
        ):
            made = Body(SENSOR, stabilisation_stops=body, stabilisation_with_lens_stops=both)
            self.assertEqual(made.steadied_stops(Lens(stabilisation_stops=lens)), wanted, (body, lens, both))

    def test_a_mode_is_a_part_of_the_body_with_its_own_frame_shutter_and_pixels(self):
        whole, video = Rig(BODY), Rig(BODY, mode=1)
        self.assertEqual((whole.sensor, video.sensor), (SENSOR, VIDEO.sensor))
        self.assertEqual((whole.slowest_shutter_s, video.slowest_shutter_s), (30, 1 / 24))
        with self.assertRaises(DomainError):
            Rig(BODY, mode=2)
        compared = compare(Brief(), [whole, video], Hold(lens="own", exposure="own", aperture="own"))
        self.assertAlmostEqual(compared.of(1).frames.diagonal_mm, VIDEO.sensor.diagonal_mm)
        slow = compare(Brief(), [whole, Rig(BODY, mode=1, shutter_s=1.0)], Hold(exposure="own"))
        self.assertEqual(slow.of(1).settings.shutter_s, 1 / 24)

    def test_frames_made_one_add_their_light_and_their_reading_and_keep_the_size_of_the_pixel(self):
        compared = compare(Brief(), [Rig(BODY, f_number=1.4), Rig(BODY, mode=0, f_number=1.4)], Hold(exposure="own"))
        one, many = compared.of(0), compared.of(1)
        self.assertAlmostEqual(many.light.total_stops - one.light.total_stops, 3)
        self.assertAlmostEqual(many.light.exposure_stops, one.light.exposure_stops)
        # each of four pixels in one place is read by two of the eight frames: as much light in each as twice a
        # quarter gives
        self.assertAlmostEqual(many.light.electrons_per_pixel, 2 * one.light.electrons_per_pixel)
        self.assertAlmostEqual(many.rig.reads, 2)
        self.assertEqual(many.sharpness.pixels_mm, one.sharpness.pixels_mm)
        self.assertGreater(many.sharpness.resolved_per_mm, one.sharpness.resolved_per_mm)
        self.assertLessEqual(one.sharpness.resolved_per_mm, 1 / (2 * 0.006) + 1e-9)


class RangeTests(TestCase):
    def test_what_the_maker_states_overrides_the_model_and_falls_a_stop_a_stop(self):
        stated = Body(SENSOR, 100, 51200, range_stops=13.0, range_iso=200)
        compared = compare(Brief(), [Rig(stated), Rig(BODY)], Hold(), Conventions())
        for iso, wanted in ((100, 13), (200, 13), (400, 12), (3200, 9)):
            found = range_of(compared, compared.of(0), iso)
            self.assertAlmostEqual(found.by["engineer"], wanted)
            self.assertTrue(found.is_stated)
        # what the maker states is a floor of noise, so that the school of the picture follows from it
        a, b = (range_of(compared, compared.of(0), iso).by["picture"] for iso in (400, 800))
        self.assertTrue(0.9 < a - b < 1.05 and a < 12)
        model = range_of(compared, compared.of(1), 100)
        as_model = Body(SENSOR, 100, 51200, range_stops=model.by["engineer"], range_iso=100)
        again = compare(Brief(), [Rig(as_model)], Hold(), Conventions())
        self.assertAlmostEqual(range_of(again, again.of(0), 100).by["picture"], model.by["picture"], places=9)
        self.assertFalse(model.is_stated)
