"""Shake, star trails, lens and pixels in the picture: as long and as soft as the optics say, with all of the light."""

from dataclasses import replace
from math import hypot, pi
from unittest import TestCase

import numpy as np

from cambrel.optics.scene import Camera
from cambrel.optics.sharpness import pixel_mtf
from cambrel.optics.stars import drift_at_mm, trail_mm
from cambrel.rendering.lamps import trails
from cambrel.rendering.render import render
from cambrel.rendering.softening import sampled, shake, soften
from cambrel.rendering.take import Take
from cambrel.rendering.tests.test_rendering import CAMERA, PaperShop, scene_of
from cambrel.scenes import Sky

AT_SKY = Camera(20, 2.0, float("inf"), 1000.0, 36, 24)


def extent(lit):
    """The longest way between two lit places."""
    y, x = np.nonzero(lit)
    return float(max(np.ptp(x * c + y * s) for c, s in TURNS))


TURNS = [(np.cos(angle), np.sin(angle)) for angle in np.linspace(0, pi, 90)]


def grating(cycles_per_px, phase=0.0):
    wave = 0.5 + 0.5 * np.sin(2 * pi * cycles_per_px * (np.arange(600) + 0.5) + phase)
    return np.repeat(np.repeat(wave[None, :, None], 40, axis=0), 3, axis=2).astype(np.float32)


def swing(picture):
    row = picture[20, 100:500, 0]
    return float(row.max() - row.min())


class ShakeTests(TestCase):
    def test_a_point_is_carried_as_far_as_is_said_and_keeps_its_light(self):
        for length in (3.0, 11.0, 40.0, 150.0):
            picture = np.zeros((400, 400, 3), np.float32)
            picture[200, 200] = 1
            made = shake(picture, length)
            self.assertAlmostEqual(float(made.sum()) / 3, 1, delta=0.02)
            found = extent(made[..., 0] > made.max() * 0.02)
            self.assertAlmostEqual(found, length, delta=2 + 0.06 * length)
        still = np.ones((20, 20, 3), np.float32)
        self.assertIs(shake(still, 0.2), still)

    def test_it_is_a_length_on_the_sensor_in_a_window_as_well(self):
        view = Take(scene_of(backdrop="#808080"), CAMERA, 630, 420, shake_mm=0.2)
        whole = np.zeros((420, 630, 3), np.float32)
        whole[210, 315] = 1
        half = replace(view, window=(0.25, 0.25, 0.5, 0.5))
        lengths = [extent(soften(whole, one)[..., 0] > 0.002) for one in (view, half)]
        self.assertAlmostEqual(lengths[0], 0.2 * view.px_per_mm, delta=2)
        self.assertAlmostEqual(lengths[1], 0.4 * view.px_per_mm, delta=2)


class LensAndPixelTests(TestCase):
    def test_half_of_the_contrast_is_left_where_the_lens_says(self):
        view = Take(scene_of(), CAMERA, 600, 400, lens_per_mm=2.0)
        at = 2.0 / view.px_per_mm
        self.assertAlmostEqual(swing(soften(grating(at), view)), 0.5, delta=0.02)
        self.assertGreater(swing(soften(grating(at / 2), view)), 0.8)

    def test_pixels_leave_the_mean_of_what_falls_on_them(self):
        for cycles in (0.02, 0.04):
            row = sampled(grating(cycles), 10.0)[20, :, 0]
            found = 4 * abs(np.mean(row[50:550] * np.exp(2j * pi * cycles * np.arange(500))))
            # pixels of ten, and straight lines between them, which a print lays there: three boxes in all
            self.assertAlmostEqual(found, float(pixel_mtf(cycles, 10_000)) ** 3, delta=0.03)
        self.assertAlmostEqual(float(sampled(grating(0.03), 10.0).mean()), float(grating(0.03).mean()), places=3)
        untouched = grating(0.2)
        self.assertIs(soften(untouched, Take(scene_of(), CAMERA, 600, 400, pitch_mm=0.004)), untouched)


class TrailTests(TestCase):
    def test_a_short_trail_is_the_drift_and_a_day_leads_back(self):
        for f, declination, x, y in ((20, 0, 5, 8), (35, 60, -12, 3), (14, -80, 17, -11), (50, 30, 0, 0)):
            xs, ys = trail_mm(f, declination, 10, np.array([x]), np.array([y]), 2)
            self.assertAlmostEqual(
                hypot(*(xs[1] - xs[0]), *(ys[1] - ys[0])) / drift_at_mm(f, declination, 10, x, y), 1, places=5
            )
            day = 2 * pi / (15.041 * pi / 180 / 3600)
            ends = trail_mm(f, declination, 2 * day, np.array([x]), np.array([y]), 3)
            for got, wanted in zip(ends, (x, y), strict=True):
                np.testing.assert_allclose(got[:, 0], wanted, atol=1e-6)
        xs, ys = trail_mm(20, 90, 3600, np.array([4.0]), np.array([3.0]), 9)
        np.testing.assert_allclose(np.hypot(xs, ys), 5, rtol=1e-12)

    def test_the_picture_draws_trails_as_long_as_the_shutter_gives_of_the_same_light(self):
        scene = replace(scene_of(), sky=Sky(((0.0, "#000000"), (90.0, "#000000")), 60, 30.0))
        still = Take(scene, AT_SKY, 600, 400, shutter_s=1.0, declination_deg=20.0)
        self.assertIsNone(trails(still, scene.sky), "a second leaves points")
        for seconds in (600.0, 1800.0):
            view = replace(still, shutter_s=seconds)
            laid = trails(view, scene.sky)
            x, y = trail_mm(20, 20.0, seconds, np.array([0.0]), np.array([0.0]), 30)
            wanted = hypot(float(x[-1, 0] - x[0, 0]), float(y[-1, 0] - y[0, 0])) * view.px_per_mm
            self.assertGreater(wanted, 10)
            self.assertEqual(laid.shape, (400, 600, 3))
            self.longest_piece_near(laid, wanted)
        pictures = [render(replace(still, shutter_s=seconds), PaperShop()) for seconds in (0.0, 600.0)]
        self.assertAlmostEqual(float(pictures[1].sum() / pictures[0].sum()), 1, delta=0.2)

    def longest_piece_near(self, laid, wanted):
        """Trails that lie whole in the picture's middle are as long as one there must be."""
        import cv2

        count, _, stats, _ = cv2.connectedComponentsWithStats(
            (laid[..., 1] > laid[..., 1].max() * 1e-3).astype(np.uint8), connectivity=8
        )
        whole = [hypot(w, h) for x, y, w, h, _ in stats[1:] if x > 150 and y > 100 and x + w < 450 and y + h < 300]
        self.assertTrue(count > 5 and whole)
        self.assertAlmostEqual(float(np.median(whole)), wanted, delta=3 + 0.1 * wanted)
