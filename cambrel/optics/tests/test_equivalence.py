from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st

from cambrel.comparison.tests.given import Close, f_numbers, far_enough, focal_lengths, ratios
from cambrel.optics import equivalence as e
from cambrel.optics.blur import blur_disc_mm
from cambrel.optics.depth import depth_of_field
from cambrel.optics.diffraction import airy_disc_um
from cambrel.optics.geometry import angle_of_view_deg, image_distance_mm, magnification
from cambrel.optics.light import effective_f_number


class EquivalenceTests(Close, TestCase):
    def test_the_sentence_that_people_say(self):
        self.assertEqual(
            (e.equivalent_focal_length_mm(22, 2), e.equivalent_f_number(1.8, 2), e.equivalent_iso(100, 2)),
            (44, 3.6, 400),
        )
        self.assertEqual(e.equivalent_focal_length_mm(33, 1, 1.5), 22, "and the other way round")

    @given(focal_lengths, ratios, st.floats(4, 100))
    def test_at_infinity_the_angle_is_the_same(self, f, k, side):
        self.close(angle_of_view_deg(side * k, e.equivalent_focal_length_mm(f, k)), angle_of_view_deg(side, f))

    @given(focal_lengths, f_numbers, far_enough, ratios, st.floats(1.1, 40), st.floats(0.005, 0.05))
    def test_the_same_picture_is_exact_close_up(self, f, n, times, k, point, c):
        """View, blur, limits and diffraction against the frame all agree once v2 = k v1 and the pupil is the same."""
        u = f * times / 1000
        f2 = e.same_picture_focal_length_mm(f, u, k)
        n2 = e.same_picture_f_number(n, f, f2)
        assume(abs(point - 1) > 0.01)
        self.close(image_distance_mm(f2, u), k * image_distance_mm(f, u))
        self.close(blur_disc_mm(f2, n2, u, u * point), k * blur_disc_mm(f, n, u, u * point))
        m, m2 = magnification(f, u), magnification(f2, u)
        self.close(airy_disc_um(n2, m2), k * airy_disc_um(n, m))
        self.close(effective_f_number(n2, m2), k * effective_f_number(n, m), "the effective f-number scales by k")
        one, two = depth_of_field(f, n, u, c), depth_of_field(f2, n2, u, c * k)
        self.close(two.near_m, one.near_m)
        self.assertLess(abs(u / two.far_m - u / one.far_m), 1e-9)

    @given(focal_lengths, far_enough, ratios)
    def test_there_and_back(self, f, times, k):
        u = f * times / 1000
        self.close(e.same_picture_focal_length_mm(e.same_picture_focal_length_mm(f, u, k), u, 1 / k), f)

    def test_by_how_much_the_simple_rule_is_off(self):
        for u, expected in ((5.0, 0.005), (0.5, 0.05)):
            with self.subTest(u=u):
                error = e.simple_rule_error(25, u, 2)
                self.assertAlmostEqual(error, expected, delta=expected * 0.1)
                self.close(1 + error, (1000 * u - 25 + 2 * 25) / (1000 * u))
        self.assertEqual(e.simple_rule_error(25, float("inf"), 2), 0)

    def test_brightness_follows_the_effective_f_number(self):
        self.close(e.iso_for_same_brightness(400, 4, 8), 1600)
