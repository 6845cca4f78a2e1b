from math import inf
from unittest import TestCase

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st
from mpmath import findroot, mp, mpf

from cambrel.comparison.tests.given import ACCURACY, Close, f_numbers, far_enough, focal_lengths
from cambrel.optics.blur import blur_disc_mm, dissolving_mm, entrance_pupil_mm, movement_mm
from cambrel.optics.depth import (
    CIRCLE_OF_CONFUSION_SCHOOLS,
    circle_of_confusion_mm,
    depth_of_field,
    f_number_for_endless_depth,
    f_number_for_limits,
    f_number_for_same_limits,
    f_number_for_total_depth,
    hyperfocal_distance_m,
)
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor
from cambrel.optics.quantities import DomainError


def traced_disc_mm(f, n, u_m, x_m):
    """The cone from the pupil to the image of a point, cut by the sensor: similar triangles behind the lens, in 40
    digits.
    """
    with mp.workdps(40):
        f, u = mpf(f), mpf(u_m) * 1000
        v = 1 / (1 / f - (0 if u == mp.inf else 1 / u))
        x = mpf(x_m) * 1000
        image = f if x == mp.inf else 1 / (1 / f - 1 / x)
        return f / mpf(n) * abs(image - v) / abs(image)


class BlurTests(Close, TestCase):
    @given(focal_lengths, f_numbers, far_enough, st.floats(1.02, 9000))
    def test_disc_agrees_with_the_traced_cone(self, f, n, focus, point):
        assume(abs(focus / point - 1) > 1e-3)  # nearer than that the subtraction itself costs digits
        u, x = f * focus / 1000, f * point / 1000
        self.close(blur_disc_mm(f, n, u, x), traced_disc_mm(f, n, u, x))

    def test_infinity_on_either_side(self):
        self.close(blur_disc_mm(50, 2, 2.0, inf), 25 * 50 / 1950)
        self.close(blur_disc_mm(50, 2, inf, 2.0), 25 * 50 / 2000)
        self.assertEqual(blur_disc_mm(50, 2, inf, inf), 0)
        self.assertEqual(blur_disc_mm(50, 2, 3.0, 3.0), 0)

    @given(focal_lengths, f_numbers, far_enough, st.floats(1.02, 9000))
    def test_detail_dissolves_below_its_disc_carried_back_to_it(self, f, n, focus, point):
        assume(abs(focus / point - 1) > 1e-3)
        u, x = f * focus / 1000, f * point / 1000
        image_distance = 1 / (1 / f - 1 / (1000 * u))
        self.close(dissolving_mm(f, n, u, x), traced_disc_mm(f, n, u, x) * 1000 * x / image_distance)

    def test_what_dissolves_at_infinity(self):
        self.close(dissolving_mm(50, 2, inf, 3.0), 25)
        self.assertEqual(dissolving_mm(50, 2, 2.0, inf), inf)
        self.assertEqual((dissolving_mm(50, 2, inf, inf), dissolving_mm(50, 2, 3.0, 3.0)), (0, 0))
        self.close(dissolving_mm(50, 2, 2.0, np.array([1.0, 7.0]))[1], 25 * 5 / 2)

    def test_pupil_and_movement(self):
        self.close(entrance_pupil_mm(50, 2), 25)
        self.close(movement_mm(10, 1 / 500, 100, 20), 10 / 500 * 100 / 20)

    def test_nonsense_is_refused(self):
        for arguments in ((0, 2, 2, 5), (50, 0, 2, 5), (50, 2, 0.05, 5), (50, 2, 2, 0), (50, float("nan"), 2, 5)):
            with self.subTest(arguments=arguments), self.assertRaises(DomainError):
                blur_disc_mm(*arguments)


class DepthTests(Close, TestCase):
    @given(focal_lengths, f_numbers, far_enough, st.floats(0.002, 0.1))
    def test_limits_are_where_the_traced_disc_is_the_circle(self, f, n, times, c):
        u = f * times / 1000
        depth = depth_of_field(f, n, u, c)
        self.close(traced_disc_mm(f, n, u, depth.near_m), c)
        if depth.far_m < inf:
            assume(depth.far_m < 1e6 * u)
            self.assertLess(
                abs(float(traced_disc_mm(f, n, u, depth.far_m)) / c - 1),
                1e-6 if depth.far_m > 100 * u else ACCURACY * 100,
            )
            with mp.workdps(40):
                f_, u_ = mpf(f), mpf(u) * 1000
                x = (u_ - f_) * mpf(n) * mpf(c) / f_**2
                self.close(1 / depth.far_m, (1 - x) / (u_ / 1000), "far is tested on its reciprocal")
                self.close(depth.total_m, 2 * u_ / 1000 * x / (1 - x**2))
        else:
            self.assertLessEqual(traced_disc_mm(f, n, u, inf), mpf(c) * (1 + mpf(10) ** -11))

    def test_a_close_portrait_by_root_finding(self):
        near, far = (
            float(findroot(lambda x: traced_disc_mm(85, 1.8, 1.2, x) - mpf("0.029"), mpf(start)))
            for start in (1.19, 1.21)
        )
        depth = depth_of_field(85, 1.8, 1.2, 0.029)
        self.close(depth.near_m, near)
        self.close(depth.far_m, far)

    def test_far_is_infinite_from_exactly_the_hyperfocal_distance(self):
        for f, n, c in ((50, 8, 0.03), (6.9, 1.7, 0.008), (24, 11, 0.0288), (300, 5.6, 0.02)):
            with self.subTest(f=f):
                h = hyperfocal_distance_m(f, n, c)
                at = depth_of_field(f, n, h, c)
                self.assertEqual((at.far_m, at.total_m), (inf, inf))
                self.close(at.near_m, h / 2)
                self.assertLess(depth_of_field(f, n, h * 0.999, c).far_m, inf)
                self.assertEqual(depth_of_field(f, n, 1e9, c).far_m, inf)

    def test_focused_at_infinity_near_is_h_less_f(self):
        depth = depth_of_field(50, 8, inf, 0.03)
        self.close(depth.near_m, (hyperfocal_distance_m(50, 8, 0.03) - 0.05))
        self.assertEqual(depth.far_m, inf)

    def test_arrays_and_scalars_agree(self):
        f, n = np.array([6.9, 25.0, 50.0, 110.0]), np.array([[1.7], [8.0]])
        u = np.array([[0.5, 2.0, 40.0, inf]])
        table = depth_of_field(f, n, u, 0.02)
        for row in range(2):
            for column in range(4):
                one = depth_of_field(f[column], n[row, 0], u[0, column], 0.02)
                for name in ("near_m", "far_m", "total_m"):
                    self.close(getattr(table, name)[row, column], getattr(one, name))

    def test_closer_than_focal_length_names_the_row(self):
        with self.assertRaises(DomainError) as caught:
            depth_of_field(np.array([24.0, 50.0, 400.0]), 4, 0.3, 0.03)
        self.assertEqual(caught.exception.index, (2,))


class SolvedApertureTests(Close, TestCase):
    @given(focal_lengths, f_numbers, far_enough, st.floats(0.005, 0.05), st.floats(0.3, 3))
    def test_same_limits(self, f, n, times, c, scale):
        u = f * times / 1000
        assume(1000 * u > f * scale * 1.05)
        other = f_number_for_same_limits(n, f, u, c, f * scale, u, c * scale)
        one, two = depth_of_field(f, n, u, c), depth_of_field(f * scale, other, u, c * scale)
        self.close(two.near_m, one.near_m)
        if one.far_m < 1e5 * u:
            self.assertLess(abs(u / two.far_m - u / one.far_m), 1e-9)

    @given(focal_lengths, far_enough, st.floats(0.005, 0.05), st.floats(0.001, 50))
    def test_total_depth(self, f, times, c, share):
        u = f * times / 1000
        n = f_number_for_total_depth(f, u, c, share * u)
        self.assertLess(abs(depth_of_field(f, n, u, c).total_m / (share * u) - 1), 1e-9 * max(1, share) * 50)

    def test_endless_depth_reaches_infinity_and_the_front(self):
        for f, u, front in ((50, 5.0, 1.0), (50, 5.0, 3.5), (8, 0.9, 0.2)):
            with self.subTest(f=f, front=front):
                n = f_number_for_endless_depth(f, u, 0.02, front)
                depth = depth_of_field(f, n, u, 0.02)
                self.assertEqual(depth.far_m, inf)
                self.assertGreaterEqual(u - depth.near_m, front * (1 - 1e-12))
                self.assertLess(depth_of_field(f, n * 0.99, u, 0.02).far_m if front < u / 2 else 0, inf)
        self.assertEqual(f_number_for_endless_depth(50, 2.0, 0.02, 2.0), inf)
        self.assertEqual(f_number_for_total_depth(50, 2.0, 0.02, inf), 50**2 / (0.02 * 1950))

    def test_smallest_f_number_for_given_limits(self):
        n = f_number_for_limits(50, 5.0, 0.03, 4.0, 7.0)
        depth = depth_of_field(50, n, 5.0, 0.03)
        self.assertTrue(depth.near_m <= 4.0 * (1 + 1e-12) and depth.far_m >= 7.0 * (1 - 1e-12))
        self.assertTrue(abs(depth.near_m - 4) < 1e-9 or abs(depth.far_m - 7) < 1e-9)
        self.assertEqual(f_number_for_limits(50, 5.0, 0.03, 5.0, 5.0), 0)
        far = f_number_for_limits(50, inf, 0.03, 4.0, inf)
        self.assertAlmostEqual(depth_of_field(50, far, inf, 0.03).near_m, 4.0, places=12)
        both = f_number_for_limits(50, np.array([5.0, inf]), 0.03, 4.0, np.array([7.0, inf]))
        self.assertAlmostEqual(both[0], n, places=12)
        self.assertAlmostEqual(both[1], far, places=12)


class CircleTests(Close, TestCase):
    def test_the_five_schools(self):
        sensor = Sensor(17.3, 13.0, 5184)
        diagonal = (17.3**2 + 13**2) ** 0.5
        cases = (
            ("diagonal_1500", {}, diagonal / 1500),
            ("diagonal_1730", {}, diagonal / 1730),
            ("traditional", {}, 0.030 * diagonal / FULL_FRAME.diagonal_mm),
            ("print", {"viewing_distance_mm": 500, "shown_long_side_mm": 420}, 500 / 250 / (5 * 420 / 17.3)),
            ("two_pixels", {}, 2 * 17.3 / 5184),
        )
        self.assertEqual({case[0] for case in cases}, set(CIRCLE_OF_CONFUSION_SCHOOLS))
        for school, given_, expected in cases:
            with self.subTest(school=school):
                self.close(circle_of_confusion_mm(sensor, school, **given_), expected)

    def test_unknown_pixels_give_no_circle_and_missing_givens_an_error(self):
        self.assertIsNone(circle_of_confusion_mm(FORMATS["aps-c"], "two_pixels"))
        with self.assertRaisesRegex(DomainError, "viewing_distance_mm"):
            circle_of_confusion_mm(FORMATS["aps-c"], "print")
        with self.assertRaises(DomainError):
            circle_of_confusion_mm(FORMATS["aps-c"], "print", viewing_distance_mm=0, shown_long_side_mm=300)
