"""What a photograph's file tells: its format, its shape, its light."""

from math import hypot, inf
from unittest import TestCase

from cambrel.comparison.bench import Slot
from cambrel.comparison.photographed import Photograph, format_of_equivalent, shape_of
from cambrel.comparison.rig import Body, Rig
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.photographs.taken import Taken


class ToldFormatTests(TestCase):
    def test_every_digital_format_is_told_by_its_focal_length_and_its_rounded_equivalent(self):
        digital = [format_ for format_ in FORMATS.values() if format_.medium == "digital"]
        for format_ in digital:
            crop = hypot(36, 24) / hypot(format_.width_mm, format_.height_mm)
            for equivalent in (24, 28, 50, 85, 200):
                told = format_of_equivalent(equivalent / crop, equivalent, format_.width_mm / format_.height_mm)
                self.assertAlmostEqual(told.diagonal_mm / format_.diagonal_mm, 1, delta=0.011, msg=format_.slug)
        # the crop factor that makers write, 1.5, is a little less than the diagonal's
        self.assertEqual(format_of_equivalent(35, 52).slug, "aps-c")
        self.assertEqual(format_of_equivalent(25, 40).slug, "aps-c-small")
        self.assertEqual(format_of_equivalent(25, 50, 4 / 3).slug, "micro-four-thirds")

    def test_what_is_near_no_format_is_none_and_nonsense_is_refused(self):
        self.assertIsNone(format_of_equivalent(50, 44))
        self.assertIsNone(format_of_equivalent(2, 200))
        for focal, equivalent in ((0, 50), (50, 0), (float("nan"), 50), (50, inf)):
            with self.assertRaises(DomainError):
                format_of_equivalent(focal, equivalent)

    def test_a_cut_shape_is_told_by_the_pixels(self):
        rig = Rig(Body(Sensor(36, 24)))
        for sides, shape in (
            ((6000, 4000), "native"), ((4000, 6000), "native"), ((6000, 3375), "16:9"), ((4000, 4000), "1:1"),
            ((3375, 6000), "16:9"), ((5333, 4000), "4:3"), ((5000, 3600), "native"), ((None, None), "native"),
        ):  # fmt: skip
            self.assertEqual(shape_of(Taken(wide_px=sides[0], high_px=sides[1]), rig), shape, sides)

    def test_no_subject_is_nearer_than_the_focal_length(self):
        for distance in (0.05, 0.0, -1.0, float("nan")):
            with self.assertRaises(DomainError):
                Photograph(Slot(Rig(Body(FULL_FRAME))), distance)
