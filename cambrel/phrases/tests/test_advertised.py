"""Adverts, type designations and bags."""

from dataclasses import replace
from math import hypot
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cambrel.comparison.ranges import equivalent_range, spans
from cambrel.comparison.rig import Lens
from cambrel.optics.designations import nominal_diagonal_mm, type_size
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.quantities import DomainError
from cambrel.phrases.advertised import Advert, read_advert
from cambrel.phrases.stated import StatedSensor, sensor_stated
from cambrel.wording import sentence


class TypeTests(TestCase):
    def test_designations(self):
        for text, width, listed, why in (
            ("1", 13.2, True, "nowhere near 25.4 mm"),
            ("1-inch type", 13.2, True, "words around the number"),
            ("1/1.3 type", 9.6, True, "a large phone sensor"),
            ("1/2,3", 6.17, True, "decimal comma"),
            ("4/3", 17.3, True, "listed with its own shape"),
            ("1/1.56", 0.8 * 16 / 1.56, False, "by the rule of thumb, 4:3"),
            ("1/4", 0.8 * 18 / 4, False, "18 mm to the inch below half an inch"),
        ):
            with self.subTest(text, why=why):
                found = type_size(text)
                self.assertAlmostEqual(found.sensor.width_mm, width)
                self.assertIs(found.is_listed, listed)
        for wrong in ("full", "", "1/0"):
            with self.subTest(wrong), self.assertRaises(DomainError):
                type_size(wrong)

    def test_the_rule_of_thumb_is_near_every_listed_type(self):
        for format_ in FORMATS.values():
            if format_.designation.endswith(" type"):
                size = type_size(format_.designation)
                with self.subTest(format_.slug):
                    self.assertEqual(size.sensor, Sensor(format_.width_mm, format_.height_mm))
                    self.assertLess(abs(nominal_diagonal_mm(size.inches) / format_.diagonal_mm - 1), 0.05)


class AdvertTests(TestCase):
    PHONE = StatedSensor(type_designation="1/1.3")

    def test_the_usual_advert_converts_one_of_two(self):
        found = read_advert(
            Advert(24, focal_is_equivalent=True, f_number=1.8, sensor=replace(self.PHONE, megapixels=50))
        )
        crop = hypot(36, 24) / hypot(9.6, 7.2)
        self.assertAlmostEqual(found.short.focal_length_mm, 24 / crop, places=12)
        self.assertAlmostEqual(found.short.full_frame_f_number, 1.8 * crop, places=12)
        self.assertAlmostEqual(found.short.pupil_mm, 24 / crop / 1.8, places=12)
        self.assertAlmostEqual(found.sensor.pixels, 50e6, places=3)
        self.assertIn("had not", found.sentences[0].text)

    def test_a_sensor_from_two_focal_lengths(self):
        found = read_advert(Advert(26, true_focal_mm=6.5, f_number=1.6))
        self.assertAlmostEqual(found.sensor.diagonal_mm, FULL_FRAME.diagonal_mm / 4, places=12)
        self.assertAlmostEqual(found.short.full_frame_f_number, 6.4, places=12)
        self.assertTrue(found.assumptions and found.tolerance)

    def test_what_is_not_said_is_read_by_the_size_of_the_sensor_and_told(self):
        for sensor, focal, converted in (
            (self.PHONE, 24, True),
            (self.PHONE, 6.9, False),
            (StatedSensor(named=FORMATS["aps-c"]), 23, False),
        ):
            found = read_advert(Advert(focal, f_number=2, sensor=sensor))
            with self.subTest(focal=focal):
                self.assertIs(found.focal_was_converted, converted)
                self.assertTrue(any("does not say" in said.text for said in found.assumptions))

    @given(
        st.floats(1, 400),
        st.floats(1, 3),
        st.floats(0.7, 22),
        st.sampled_from(sorted(FORMATS)),
        st.booleans(),
        st.booleans(),
    )
    def test_every_reading_keeps_the_pupil_and_the_view(self, focal, stretch, f, slug, converted, f_converted):
        sensor = FORMATS[slug]
        advert = Advert(focal, focal * stretch, converted, None, f, None, f_converted, StatedSensor(named=sensor))
        try:
            found = read_advert(advert)
        except DomainError as error:
            self.assertEqual(error.parameter, "f_number")
            return
        for end in (found.short, found.long):
            self.assertAlmostEqual(end.full_frame_focal_length_mm / end.full_frame_f_number / end.pupil_mm, 1, places=9)
            self.assertAlmostEqual(
                end.full_frame_focal_length_mm / end.focal_length_mm / crop_factor(sensor), 1, places=9
            )
        stated = found.short.full_frame_f_number if f_converted else found.short.f_number
        self.assertAlmostEqual(stated / f, 1, places=9)

    def test_refusals(self):
        for advert, name in (
            (lambda: read_advert(Advert(24, f_number=2)), "sensor"),
            (lambda: Advert(float("nan")), "focal_min_mm"),
            (lambda: Advert(24, f_number=0), "f_number"),
            (lambda: Advert(70, 24), "focal_max_mm"),
            (lambda: read_advert(Advert(24, None, True, None, 1.8, None, True, self.PHONE)), "f_number"),
        ):
            with self.subTest(name), self.assertRaises(DomainError) as caught:
                advert()
            self.assertEqual(caught.exception.parameter, name)


class StatedSensorTests(TestCase):
    """A size from what is said, and what contradicts it, each by its name."""

    def test_a_size_from_each_kind_of_statement(self):
        for stated, diagonal, tolerance in (
            (StatedSensor(width_mm=9.8, height_mm=7.3), hypot(9.8, 7.3), 0),
            (StatedSensor(width_mm=7.3, height_mm=9.8), hypot(9.8, 7.3), 0),
            (StatedSensor(type_designation="1/1.3"), 12.0, 0.02),
            (StatedSensor(type_designation="1/1.56"), 16 / 1.56, 0.05),
            (StatedSensor(crop=2.0), FULL_FRAME.diagonal_mm / 2, 0.02),
            (StatedSensor(diagonal_mm=12.0), 12.0, 0.02),
            (StatedSensor(megapixels=50, pixel_pitch_um=1.22), 1.22e-3 * (50e6 * 25 / 12) ** 0.5, 0.03),
        ):
            with self.subTest(stated):
                found = sensor_stated(stated)
                self.assertAlmostEqual(found.sensor.diagonal_mm, diagonal, places=9)
                self.assertAlmostEqual(found.tolerance, tolerance)
                self.assertEqual(bool(found.assumptions), tolerance > 0)
                self.assertEqual(found.contradictions, ())
        self.assertIsNone(sensor_stated(StatedSensor(megapixels=50)))
        self.assertAlmostEqual(
            sensor_stated(StatedSensor(megapixels=50, pixel_pitch_um=1.22)).sensor.pixel_pitch_um, 1.22, places=9
        )

    def test_contradictions_are_named_and_agreement_is_not(self):
        for stated, words in (
            (StatedSensor(width_mm=12, height_mm=9, type_designation="1/1.3"), "the diagonal seems"),
            (StatedSensor(width_mm=12, height_mm=9, type_designation="1/1.3"), "given as a side"),
            (StatedSensor(width_mm=6.2, height_mm=4.6, type_designation="1/1.3"), "sensors of type"),
            (StatedSensor(width_mm=36, height_mm=10), "wider than any"),
            (StatedSensor(width_mm=23.5, height_mm=15.6, crop=2.0), "crop factor stated"),
            (StatedSensor(named=FORMATS["aps-c"], crop=2.0), "crop factor stated"),
            (StatedSensor(width_mm=23.5, height_mm=15.6, named=FORMATS["full-frame"]), "not the size of that format"),
            (StatedSensor(type_designation="1/1.3", megapixels=50, pixel_pitch_um=2.44), "do not agree"),
            (StatedSensor(width_mm=9.6, height_mm=7.2, diagonal_mm=9.6), "diagonal stated"),
        ):
            with self.subTest(stated, words=words):
                self.assertTrue(
                    any(words in contradiction.text for contradiction in sensor_stated(stated).contradictions)
                )
        for stated in (
            StatedSensor(width_mm=9.8, height_mm=7.3, type_designation="1/1.3"),
            StatedSensor(width_mm=23.5, height_mm=15.6, crop=1.5, named=FORMATS["aps-c"], megapixels=26),
            StatedSensor(type_designation="1/1.3", megapixels=50, pixel_pitch_um=1.18, diagonal_mm=12),
        ):
            self.assertEqual(sensor_stated(stated).contradictions, ())

    def test_one_focal_length_has_one_widest_aperture(self):
        found = read_advert(Advert(26, None, True, None, 2.4, 1.5, sensor=StatedSensor(type_designation="1/2.55")))
        self.assertEqual((found.short.f_number, found.long.f_number), (1.5, 1.5))
        self.assertTrue(any("Two f-numbers" in assumption.text for assumption in found.assumptions))


class BagTests(TestCase):
    def test_reach_of_a_zoom_a_fisheye_and_an_unknown_aperture(self):
        sensor = FORMATS["micro-four-thirds"]
        crop = crop_factor(sensor)
        found = equivalent_range(Lens(12, 40, ((12, 2.8), (40, 4))), sensor)
        for value, wanted in (
            (found.equivalent_min_mm, 12 * crop),
            (found.equivalent_max_mm, 40 * crop),
            (found.f_number_short, 2.8 * crop),
            (found.f_number_long, 4 * crop),
        ):
            self.assertAlmostEqual(value, wanted, places=12)
        self.assertIsNone(equivalent_range(Lens(8, 8, rectilinear=False), sensor).equivalent_min_mm)
        self.assertIsNone(equivalent_range(Lens(50, 50), sensor).f_number_short)

    def test_gaps_and_overlaps(self):
        found = spans([(24, 70), (70, 200), (50, 50), (28, 35), (300, 300)])
        told = [(span.low_mm, span.high_mm, span.lenses) for span in found]
        self.assertEqual(
            told,
            [(24, 28, (0,)), (28, 35, (0, 3)), (35, 70, (0,)), (70, 200, (1,)), (200, 300, ())],
        )
        self.assertEqual(spans([]), [])
        with self.assertRaises(DomainError):
            spans([(70, 24)])


class SidesTests(TestCase):
    """A stated size that is near a named format and not it is questioned."""

    def said(self, wide, high, named=None, kind=None):
        stated = StatedSensor(width_mm=wide, height_mm=high, named=named and FORMATS[named], type_designation=kind)
        return [sentence(one).replace("\u00a0", " ") for one in sensor_stated(stated).contradictions]

    def test_a_side_that_is_off_by_more_than_makers_differ_is_questioned(self):
        asked = "18 mm by 13.5 mm? Sensors of that kind are 17.3 mm by 13 mm. The stated size is taken."
        self.assertEqual(self.said(18, 13.5, "micro-four-thirds"), [asked])
        self.assertEqual(self.said(18, 13.5, kind="4/3"), [asked])
        for wide, high, named in (
            (17.3, 13, "micro-four-thirds"),
            (17.4, 13.0, "micro-four-thirds"),
            (23.6, 15.7, "aps-c"),
            (22.3, 14.9, "aps-c"),
            (24, 16, "aps-c"),
            (35.6, 23.8, "full-frame"),
            (43.8, 32.9, "44x33"),
            (13.2, 8.8, "one-inch"),
        ):
            self.assertEqual(self.said(wide, high, named), [], (wide, high))
        for off, questioned in ((1.029, False), (1.031, True)):
            self.assertEqual(bool(self.said(17.3 * off, 13, "micro-four-thirds")), questioned)
        self.assertEqual(self.said(6.4, 4.8, kind="1/2.3"), [], "small types are named loosely")
