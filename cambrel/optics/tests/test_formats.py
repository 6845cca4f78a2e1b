from itertools import permutations
from math import hypot, sqrt
from unittest import TestCase

from cambrel.comparison.tests.given import Close
from cambrel.optics.formats import (
    CROP_MEASURES,
    FORMATS,
    FULL_FRAME,
    Sensor,
    crop_factor,
    frames_within,
    nearest_format,
)
from cambrel.optics.quantities import DomainError


class FormatTests(Close, TestCase):
    def test_the_table_spans_phone_to_sheet_film_and_says_where_from(self):
        self.assertGreaterEqual(len(FORMATS), 16)
        self.assertTrue({"digital", "film", "cinema"} <= {f.medium for f in FORMATS.values()})
        self.assertTrue(all(f.source and f.designation and f.slug == slug for slug, f in FORMATS.items()))
        self.assertEqual(len({(f.width_mm, f.height_mm) for f in FORMATS.values()}), len(FORMATS))

    def test_what_may_be_expected_of_makers(self):
        """From tables of lenses as they are made; another is looked up before it is written here."""
        fastest = {
            "type-1-1.3": 1.5,
            "one-inch": 1.2,
            "micro-four-thirds": 0.8,
            "aps-c": 0.95,
            "full-frame": 0.95,
            "44x33": 1.4,
        }
        self.assertEqual({slug: FORMATS[slug].fastest_f_number for slug in fastest}, fastest)

    def test_a_one_inch_type_sensor_is_nowhere_near_an_inch(self):
        self.assertEqual(FORMATS["one-inch"].width_mm, 13.2)
        self.close(FORMATS["one-inch"].diagonal_mm / 25.4, hypot(13.2, 8.8) / 25.4)

    def test_crop_factors_by_the_four_measures(self):
        four_thirds = FORMATS["micro-four-thirds"]
        expected = {
            "diagonal": hypot(36, 24) / hypot(17.3, 13),
            "width": 36 / 17.3,
            "height": 24 / 13,
            "area": sqrt(36 * 24 / (17.3 * 13)),
        }
        for by, value in expected.items():
            with self.subTest(by=by):
                self.close(crop_factor(four_thirds, by=by), value)
        self.assertAlmostEqual(expected["width"] / expected["height"], 1.127, places=3)  # 13 percent between them

    def test_crop_factors_chain(self):
        for by in CROP_MEASURES:
            for one, two, three in list(permutations(list(FORMATS.values())[::5], 3)):
                chained = crop_factor(two, one, by) * crop_factor(three, two, by)
                self.close(crop_factor(three, one, by), chained)

    def test_a_measure_that_is_not_known_is_refused_with_the_keys(self):
        with self.assertRaisesRegex(DomainError, "diagonal, width, height, area"):
            crop_factor(FULL_FRAME, by="circumference")


class SensorTests(Close, TestCase):
    def test_cropping_keeps_the_pitch_and_one_side(self):
        sensor = Sensor(17.3, 13.0, 5184, 3888)
        for aspect, size in (
            (3 / 2, (17.3, 17.3 / 1.5)),
            (1.0, (13.0, 13.0)),
            (16 / 9, (17.3, 17.3 * 9 / 16)),
            (5 / 4, (16.25, 13.0)),
        ):
            with self.subTest(aspect=aspect):
                cut = sensor.cropped(aspect)
                self.close(cut.width_mm, size[0])
                self.close(cut.height_mm, size[1])
                self.close(cut.pixel_pitch_um, sensor.pixel_pitch_um)
                self.close(cut.pixels / sensor.pixels, cut.area_mm2 / sensor.area_mm2)
        self.assertEqual(sensor.cropped(None), sensor)

    def test_a_sensor_on_its_side_crops_on_its_side(self):
        upright = Sensor(24, 36).cropped(5 / 4)
        self.close(upright.height_mm / upright.width_mm, 1.25)
        self.assertEqual(Sensor(36, 24, 6000, 4000).turned(), Sensor(24, 36, 4000, 6000))

    def test_unknown_pixels_stay_unknown(self):
        self.assertIsNone(Sensor(36, 24).pixel_pitch_um)
        self.assertIsNone(Sensor(36, 24).cropped(1.0).pixels)
        self.close(Sensor(36, 24, 6000).pixels, 24e6)

    def test_impossible_sensors_are_refused(self):
        for bad in ((0, 24), (36, -1), (float("nan"), 24), (36, 24, 0)):
            with self.subTest(bad=bad), self.assertRaises(DomainError):
                Sensor(*bad)
        with self.assertRaises(DomainError):
            Sensor(36, 24).cropped(0.5)

    def test_nearest_format(self):
        self.assertEqual(nearest_format(Sensor(23.6, 15.7)).slug, "aps-c")

    def test_frames_that_lie_whole_on_another(self):
        """Against laying them down one by one, both ways round."""
        for inner, outer in permutations(FORMATS.values(), 2):
            best = 0
            for wide, high in ((inner.width_mm, inner.height_mm), (inner.height_mm, inner.width_mm)):
                across, down, x, y = 0, 0, wide, high
                while x <= outer.width_mm * (1 + 1e-9):
                    across, x = across + 1, x + wide
                while y <= outer.height_mm * (1 + 1e-9):
                    down, y = down + 1, y + high
                best = max(best, across * down)
            across, down = frames_within(inner, outer)
            self.assertEqual(across * down, best, (inner.slug, outer.slug))
        self.assertEqual(frames_within(Sensor(18, 24), FULL_FRAME), (2, 1))
        self.assertEqual(frames_within(FORMATS["half-frame"], FULL_FRAME), (2, 1))
        self.assertEqual(frames_within(FULL_FRAME, FORMATS["aps-c"]), (0, 0))
