from math import atan, degrees, inf, radians, tan
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mpmath import findroot, mp, mpf

from cambrel.comparison.tests.given import Close, far_enough, focal_lengths
from cambrel.optics import geometry as g
from cambrel.optics.quantities import DomainError


def traced_image_distance_mm(f, u_mm):
    """Where two rays from a point on the axis-parallel line meet: one through the centre, one bent through the
    focus.
    """
    with mp.workdps(40):
        f, u, h = mpf(f), mpf(u_mm), mpf(1)
        # the ray parallel to the axis leaves the lens at height h and falls by h every f; the central ray falls by h
        # every u
        return findroot(lambda v: (h - h * v / f) + h * v / u, f * u / (u - f) * mpf("1.001"))


class LensEquationTests(Close, TestCase):
    @given(focal_lengths, far_enough)
    def test_image_distance_and_magnification_agree_with_traced_rays(self, f, times):
        u = f * times / 1000
        v = traced_image_distance_mm(f, u * 1000)
        self.close(g.image_distance_mm(f, u), v)
        self.close(g.magnification(f, u), v / (mpf(u) * 1000))
        self.close(g.focal_length_for_image_distance_mm(float(v), u), f)

    def test_at_infinity_the_image_lies_at_the_focal_length(self):
        self.assertEqual((g.image_distance_mm(50, inf), g.magnification(50, inf)), (50, 0))

    def test_no_image_inside_the_focal_length(self):
        for function in (g.magnification, g.image_distance_mm, g.focus_distance_from_object_distance_m):
            arguments = (50, 0.05) if function is not g.focus_distance_from_object_distance_m else (0.05, 50)
            with (
                self.subTest(function=function.__name__),
                self.assertRaisesRegex(DomainError, "beyond the focal length"),
            ):
                function(*arguments)

    @given(focal_lengths, st.floats(0.001, 5))
    def test_distance_for_magnification_is_the_inverse(self, f, m):
        self.close(g.magnification(f, g.object_distance_for_magnification_m(f, m)), m)


class FieldTests(Close, TestCase):
    def test_textbook_angles(self):
        cases = (
            (36, 50, 39.597752709049864),
            (43.266615305567875, 50, 46.793003343965569),
            (36, 24, 73.73979529168804),
        )
        for side, f, angle in cases:
            with self.subTest(side=side, f=f):
                self.close(g.angle_of_view_deg(side, f), angle)

    @given(st.floats(3, 120), focal_lengths, far_enough)
    def test_field_is_what_the_angle_spans(self, side, f, times):
        u = f * times / 1000
        half = radians(g.angle_of_view_deg(side, f, u)) / 2
        self.close(g.field_size_m(side, f, u), 2 * u * tan(half))
        self.close(g.field_size_m(side, f, u, 3 * u), 6 * u * tan(half))
        self.close(g.focal_length_for_angle_mm(degrees(2 * half), side, u), f)

    def test_the_view_narrows_close_up(self):
        v = 1 / (1 / 100 - 1 / 200)
        self.close(g.angle_of_view_deg(36, 100, 0.2), degrees(2 * atan(18 / v)))

    def test_fill(self):
        self.close(g.fill(1.75, 24, 51.28205128205128, 2.0), 1.75 * 51.28205128205128 / (2 * 24))

    def test_impossible_angles_are_refused(self):
        for angle in (0, 180, -5):
            with self.subTest(angle=angle), self.assertRaises(DomainError):
                g.focal_length_for_angle_mm(angle, 36)


class SensorMarkTests(Close, TestCase):
    @given(focal_lengths, st.floats(2.001, 500))
    def test_round_trip_through_the_sensor_mark(self, f, times):
        u = f * times / 1000
        s = g.focus_distance_from_object_distance_m(u, f)
        back = g.object_distance_from_focus_distance_m(s, f)
        # near four focal lengths the two solutions meet and the square root loses half the digits
        tolerance = 1e-9 if times > 2.05 else 1e-6
        self.assertLess(abs(back / u - 1), tolerance)

    def test_below_four_focal_lengths_there_is_no_solution(self):
        with self.assertRaisesRegex(DomainError, "four focal lengths"):
            g.object_distance_from_focus_distance_m(0.19, 60)

    def test_arrays_and_scalars_agree(self):
        f, u = np.array([24.0, 50.0, 100.0]), np.array([[0.5], [3.0], [inf]])
        table = g.image_distance_mm(f, u)
        self.assertEqual(table.shape, (3, 3))
        for (row, column), value in np.ndenumerate(table):
            self.close(value, g.image_distance_mm(f[column], u[row, 0]))


class WalkingTests(Close, TestCase):
    @given(focal_lengths, st.floats(0.2, 200), st.floats(-4, 15))
    def test_the_solved_distance_gives_the_scale(self, f, scale, offset_share):
        plain = f / 1000 + f / scale
        offset = offset_share * plain * 0.2
        d = g.walking_distance_m(f, scale, offset)
        self.close(g.image_distance_mm(f, d + offset) / d, scale)

    def test_focus_on_the_subject_and_at_infinity(self):
        self.close(g.walking_distance_m(50, 25.64102564102564), 2.0, "a 50 mm lens at 2 m")
        self.close(g.walking_distance_m(50, 25.0, inf), 2.0)
