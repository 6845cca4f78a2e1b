"""The scene's projection agrees with the geometry and the blur of the core, and undoes itself."""

from dataclasses import replace
from math import inf, tan
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from cambrel.comparison.engine import Brief, Hold, compare
from cambrel.comparison.tests.given import prime, rig
from cambrel.optics.blur import blur_disc_mm
from cambrel.optics.geometry import angle_of_view_deg
from cambrel.optics.quantities import DomainError
from cambrel.optics.scene import (
    Camera,
    airy_mm,
    disc_mm,
    frame_at,
    ground_distance_m,
    horizon_mm,
    place_mm,
    scale_mm_per_m,
    signed_disc_mm,
    streak_mm,
)

CAMERA = Camera(50, 2.8, 2.0, 2.0, 36, 24, -0.1, 1.5, 0.12, 1.42)
cameras = st.builds(
    Camera,
    focal_length_mm=st.floats(4, 400), f_number=st.floats(1, 32), object_distance_m=st.floats(0.9, 1e4) | st.just(inf),
    subject_distance_m=st.floats(0.9, 1e4), width_mm=st.floats(4, 60), height_mm=st.floats(3, 45),
    camera_x_m=st.floats(-3, 3),
    camera_height_m=st.floats(0.3, 30), aim_x_m=st.floats(-3, 3), aim_height_m=st.floats(0, 30),
)  # fmt: skip


class SceneTests(TestCase):
    @given(cameras, st.floats(0.5, 1e4))
    def test_scale_disc_and_aim_agree_with_the_core(self, camera, away):
        wide_m = camera.width_mm / float(scale_mm_per_m(camera, away))
        angle = angle_of_view_deg(camera.width_mm, camera.focal_length_mm, camera.object_distance_m)
        self.assertAlmostEqual(wide_m / (2 * away * tan(np.radians(angle) / 2)), 1, places=9)
        disc = blur_disc_mm(camera.focal_length_mm, camera.f_number, camera.object_distance_m, away)
        self.assertEqual(float(disc_mm(camera, away)), float(disc))
        self.assertEqual(abs(float(signed_disc_mm(camera, away))), float(disc))
        x, y = place_mm(camera, camera.aim_x_m, camera.aim_height_m, camera.subject_distance_m)
        self.assertAlmostEqual(float(x), 0, places=9)
        self.assertAlmostEqual(float(y), 0, places=9)

    @given(cameras, st.floats(0.5, 1e3), st.floats(-2, 0.2))
    def test_the_ground_undoes_its_projection(self, camera, away, height):
        _, y = place_mm(camera, 0.0, height, away)
        self.assertAlmostEqual(float(ground_distance_m(camera, y, height)) / away, 1, places=7)
        above = horizon_mm(camera) - 1.0
        self.assertEqual(float(ground_distance_m(camera, above, height)), inf)

    @given(cameras, st.floats(0.5, 50))
    def test_a_frame_drawn_on_its_own_picture_is_the_whole_of_it(self, camera, away):
        left, top, wide, high = frame_at(camera, camera, away)
        for found, wanted in (
            (left, -camera.width_mm / 2),
            (top, -camera.height_mm / 2),
            (wide, camera.width_mm),
            (high, camera.height_mm),
        ):
            self.assertAlmostEqual(found / wanted, 1, places=6)

    def test_another_frame_at_the_subject_is_the_ratio_of_the_fields(self):
        other = replace(CAMERA, focal_length_mm=100)
        left, top, wide, _ = frame_at(CAMERA, other, 2.0)
        ratio = CAMERA.image_distance_mm / other.image_distance_mm
        self.assertAlmostEqual(wide, 36 * ratio, places=9)
        self.assertAlmostEqual(left, -18 * ratio, places=9)
        self.assertAlmostEqual(top, -12 * ratio, places=9)
        with self.assertRaises(DomainError):
            frame_at(CAMERA, replace(other, subject_distance_m=0.5), 1.0)

    def test_it_is_the_comparison_s_figures(self):
        compared = compare(
            Brief(foreground_m=0.8, subject_speed_m_per_s=2.0),
            [rig("full-frame", 50, 2.8, lens=prime(50, 1.8))],
            Hold("own"),
        )
        one = compared.of(0)
        camera = Camera(50, 2.8, one.settings.object_distance_m, one.settings.subject_distance_m, 36, 24)
        self.assertAlmostEqual(float(disc_mm(camera, 7.0)) / one.blur.background_mm, 1, places=12)
        self.assertAlmostEqual(float(disc_mm(camera, 1.2)) / one.blur.foreground_mm, 1, places=12)
        self.assertAlmostEqual(36 / float(scale_mm_per_m(camera, 2.0)) / one.view.field_wide_m, 1, places=12)
        self.assertAlmostEqual(airy_mm(camera) * 1000 / one.diffraction.airy_um, 1, places=12)
        self.assertAlmostEqual(
            float(streak_mm(camera, 2.0, one.settings.shutter_s, 2.0)) / one.blur.movement_mm, 1, places=12
        )

    def test_nonsense_is_refused(self):
        for name, value in (
            ("f_number", 0),
            ("focal_length_mm", float("nan")),
            ("object_distance_m", 0.04),
            ("camera_x_m", inf),
            ("width_mm", -1),
        ):
            with self.subTest(name), self.assertRaises(DomainError):
                replace(CAMERA, **{name: value})
