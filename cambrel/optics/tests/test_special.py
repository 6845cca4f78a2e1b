"""Sharpness, reach, close-up, stars, steadiness and range, each against another way to the same figure."""

from itertools import product
from math import atan, cos, degrees, hypot, inf, isinf, log2, radians, sin, sqrt, tan
from random import Random
from unittest import TestCase

import mpmath as mp
import numpy as np

from cambrel.optics import closeup, light, reach, sharpness, stars, steadiness
from cambrel.optics.depth import depth_of_field
from cambrel.optics.quantities import DomainError

CLOSE = 1e-9


def contrast(v, n, m, wavelength, pitch, lens, disc, streaks):
    """The product of all parts, with another library's functions."""
    s = v * wavelength * mp.mpf("1e-6") * n * (1 + m)
    value = 2 / mp.pi * (mp.acos(s) - s * mp.sqrt(1 - s**2)) if s < 1 else mp.mpf(0)
    for length in ([] if pitch is None else [pitch / 1000]) + list(streaks):
        value *= abs(mp.sinc(mp.pi * v * length))
    if disc:
        value *= abs(2 * mp.besselj(1, mp.pi * disc * v) / (mp.pi * disc * v))
    return value if lens is None else value * mp.mpf(2) ** -((v / lens) ** 2)


class SharpnessTests(TestCase):
    def test_half_of_the_contrast_is_left_at_mtf50_and_more_below_it(self):
        random = Random(3)
        for _ in range(60):
            pitch, lens = random.choice([None, random.uniform(0.7, 9)]), random.choice([None, random.uniform(10, 200)])
            disc = random.choice([0, random.uniform(0.001, 0.2)])
            streaks = [random.uniform(0, 0.05) for _ in range(random.randrange(3))]
            given = (random.uniform(1, 32), random.choice([0, random.uniform(0, 2)]), 550.0, pitch, lens, disc, streaks)
            v = sharpness.mtf50_per_mm(*given)
            self.assertAlmostEqual(float(contrast(mp.mpf(v), *given)), 0.5, places=11)
            below = [float(contrast(mp.mpf(v * k / 20), *given)) for k in range(1, 20)]
            self.assertTrue(all(value > 0.5 for value in below), "the first such frequency")

    def test_it_is_found_whatever_part_outdoes_the_others(self):
        random = np.random.default_rng(3)
        parts = {
            "scale": (1e-6, 0.5), "pixel": (1e-4, 0.2), "lens": (3e-4, 2.0), "disc": (1e-7, 50.0),
            "streak": (1e-6, 10.0),
        }  # fmt: skip
        drawn = {
            name: np.where(random.random(6000) < 0.3, 0.0, np.exp(random.uniform(np.log(low), np.log(high), 6000)))
            for name, (low, high) in parts.items()
        }
        some = drawn["scale"] + drawn["pixel"] + drawn["lens"] + drawn["disc"] + drawn["streak"] > 0
        scale, pixel, lens, disc, streak = (values[some] for values in drawn.values())
        with np.errstate(divide="ignore"):
            lens = 1 / lens
        v = sharpness.half_contrast_per_mm(scale, pixel, lens, disc, [streak])
        left = np.abs(np.sinc(v * pixel) * np.sinc(v * streak)) * np.exp2(-((v / lens) ** 2))
        left *= sharpness.disc_mtf(v, disc) * np.where(
            scale > 0, sharpness.diffraction_mtf(v, np.where(scale > 0, scale, 1.0), 1e6), 1.0
        )
        np.testing.assert_allclose(left, 0.5, atol=1e-9)

    def test_arrays_follow_the_scalars(self):
        n, disc = np.array([[1.4, 8.0, 22.0]]), np.array([[0.0], [0.03]])
        table = sharpness.mtf50_per_mm(n, 0.1, 550, 4.0, 60.0, disc, (0.004,))
        for i, j in np.ndindex(2, 3):
            one = sharpness.mtf50_per_mm(float(n[0, j]), 0.1, 550, 4.0, 60.0, float(disc[i, 0]), (0.004,))
            self.assertAlmostEqual(table[i, j], one, places=9)

    def test_each_part_alone_is_as_long_as_the_textbooks_say(self):
        self.assertAlmostEqual(1 / (2 * sharpness.SINC_HALF), 0.829, places=3)
        self.assertAlmostEqual(1 / (2 * sharpness.DISC_HALF), 0.709, places=3)
        self.assertAlmostEqual(1 / (2 * sharpness.S_HALF), 1.238, places=3)
        # a disc, a streak and an Airy disc that are each as large as the circle of confusion
        self.assertAlmostEqual(sharpness.DISC_HALF, 0.705, places=3)
        self.assertAlmostEqual(sharpness.SINC_HALF, 0.603, places=3)
        self.assertAlmostEqual(sharpness.S_HALF * 2 * 1.2196698912665045, 0.985, places=3)

    def test_the_parts(self):
        for v in (0.0, 10.0, 47.0, 300.0):
            self.assertAlmostEqual(
                sharpness.diffraction_mtf(v, 8), float(contrast(mp.mpf(v), 8, 0, 550, None, None, 0, ())), places=12
            )
            self.assertAlmostEqual(sharpness.pixel_mtf(v, 4), abs(float(mp.sinc(mp.pi * v * 0.004))), places=12)
            self.assertAlmostEqual(sharpness.lens_mtf(v, 60), 2 ** -((v / 60) ** 2), places=12)
            z = mp.pi * v * 0.02
            self.assertAlmostEqual(
                sharpness.disc_mtf(v, 0.02), abs(float(2 * mp.besselj(1, z) / z)) if v else 1.0, places=12
            )
        self.assertEqual(sharpness.lens_mtf(30.0, None), 1.0)
        self.assertEqual(sharpness.disc_mtf(30.0, 0), 1.0)

    def test_a_lens_is_told_from_the_pixels_and_the_diffraction_it_was_measured_with(self):
        measured = sharpness.mtf50_per_mm(5.6, 0, 550, 4.0, 70.0)
        self.assertAlmostEqual(sharpness.lens_own_mtf50_per_mm(measured, 5.6, 4.0) / 70, 1, places=9)
        self.assertTrue(
            isinf(sharpness.lens_own_mtf50_per_mm(sharpness.mtf50_per_mm(5.6, 0, 550, 4.0) * 1.01, 5.6, 4.0))
        )

    def test_prints(self):
        # enlarged E times, v / E is R 250 / L at the limit
        long = sharpness.largest_print_by_eye_mm(40, 36, 500, 5)
        self.assertAlmostEqual(40 / (long / 36), 5 * 250 / 500, places=12)
        shop = sharpness.largest_print_by_printer_mm(40, 36, 150)
        self.assertAlmostEqual(2 * 40 / (shop / 36) * 25.4, 150, places=10)
        self.assertAlmostEqual(sharpness.finest_detail_mm(50, 2.0, 51.0), 1 / (2 * 50) * 2000 / 51, places=12)

    def test_nonsense_is_refused(self):
        for call in (
            lambda: sharpness.mtf50_per_mm(0), lambda: sharpness.mtf50_per_mm(8, -1),
            lambda: sharpness.mtf50_per_mm(8, disc_mm=-1),
            lambda: sharpness.mtf50_per_mm(8, pixel_pitch_um=0),
            lambda: sharpness.mtf50_per_mm(8, streaks_mm=(float("nan"),)),
            lambda: sharpness.diffraction_mtf(-1, 8), lambda: reach.crop_equivalent(50, 2, 1.1),
            lambda: reach.sampling_pitch_um(4, 0.5),
            lambda: closeup.frames_to_cover(50, 8, 0.03, 0.04, 1), lambda: closeup.frames_to_cover(50, 8, 0.03, 1, 0.5),
            lambda: closeup.frames_to_cover(50, 8, 0.03, 1, 2, 1), lambda: closeup.extension_tube_mm(50, 0.5, 0.2),
            lambda: stars.drift_mm(50, 91, 1), lambda: stars.declination_deg(0, 100, 0),
            lambda: steadiness.shake_mm(50, 3e5, 9),
            lambda: light.frames_to_bracket(10, 0, 2),
        ):  # fmt: skip
            self.assertRaises(DomainError, call)


class ReachTests(TestCase):
    def test_pixels_and_crops(self):
        m = 400 / (400e3 - 400)
        self.assertAlmostEqual(reach.pixels_on_subject(3.0, 400 * (1 + m), 400, 3.3), 3e6 * m / 3.3, places=8)
        self.assertAlmostEqual(reach.arc_seconds_per_pixel(400, 3.3), degrees(atan(0.0033 / 400)) * 3600, places=9)
        # a crop to the view of another lens on the same format keeps the square of the ratio
        self.assertAlmostEqual(reach.megapixels_left(61, 36, 24, 24, 16), 61 / 1.5**2, places=10)
        self.assertEqual(reach.megapixels_left(61, 36, 24, 54, 36), 61)
        # 4:3 within 3:2: both sides are cut, each by its own
        left = reach.megapixels_left(24, 36, 24, 17.3, 13)
        self.assertAlmostEqual(left, 24 * 17.3 / 36 * 13 / 24, places=10)
        focal, number, lost = reach.crop_equivalent(300, 4, 0.5)
        self.assertEqual((focal, number, lost), (600, 8, -2))
        self.assertAlmostEqual(reach.sampling_pitch_um(4, 4), 2)


class CloseupTests(TestCase):
    def test_a_stack_meets_from_frame_to_frame(self):
        for near, far, overlap in ((0.3, 0.4, 0), (0.3, 0.9, 0.2), (1.0, inf, 0), (5.0, inf, 0.3)):
            count, focused = closeup.frames_to_cover(100, 8, 0.03, near, far, overlap)
            self.assertEqual(count, len(focused))
            at = near
            for index, u in enumerate(focused):
                limits = depth_of_field(100, 8, u, 0.03)
                if isinf(u):
                    self.assertLessEqual(limits.near_m, at * (1 + 1e-9))
                else:
                    self.assertAlmostEqual(limits.near_m / at, 1, places=9)
                self.assertEqual(limits.far_m >= far * (1 - 1e-9), index == count - 1)
                at = limits.far_m - overlap * limits.total_m if not isinf(limits.far_m) else inf

    def test_one_frame_is_enough_where_one_is(self):
        limits = depth_of_field(50, 8, 2.0, 0.03)
        count, focused = closeup.frames_to_cover(50, 8, 0.03, limits.near_m, limits.far_m)
        self.assertEqual(count, 1)
        self.assertAlmostEqual(focused[0], 2.0, places=9)
        self.assertEqual(closeup.frames_to_cover(50, 8, 0.03, 60, inf), (1, (inf,)))

    def test_what_gives_a_magnification(self):
        # image distance grows by what the tube adds
        f, m0, m = 60.0, 0.25, 1.0
        self.assertAlmostEqual(closeup.extension_tube_mm(f, m0, m), f * (1 + m) - f * (1 + m0), places=10)
        self.assertAlmostEqual(closeup.tube_light_stops(m0, m), 2 * log2(2 / 1.25), places=12)
        # at its closest the lens stands f (1 + m0) from the sensor; with power P beside 1/f the picture is m large
        power = closeup.close_up_lens_dioptres(f, m0, m)
        v = f * (1 + m0) / 1000
        u = 1 / (1000 / f + power - 1 / v)
        self.assertAlmostEqual(v / u, m, places=10)
        self.assertAlmostEqual(closeup.working_distance_m(0.2, 120, 20, 90), 0.2 + 0.12 - 0.11, places=12)
        self.assertAlmostEqual(closeup.flash_stops(8, 1, 400) - closeup.flash_stops(8, 0, 100), 2 - 2, places=12)


class StarTests(TestCase):
    def test_rules(self):
        self.assertAlmostEqual(stars.rule_seconds(20, 1.5), 500 / 30)
        self.assertAlmostEqual(stars.aperture_pixel_rule_seconds(2.8, 24, 4.0), (35 * 2.8 + 120) / 24)

    def test_drift_is_that_of_a_turning_sphere_seen_through_a_plane(self):
        """A star is turned about the pole and projected again, for a tenth of a second."""
        random = Random(5)
        for _ in range(40):
            f, d = random.uniform(8, 200), radians(random.uniform(-80, 85))
            x, y = random.uniform(-18, 18) / f, random.uniform(-12, 12) / f
            turned = radians(15.041 / 3600) * 0.1
            # the axes of the camera: out along the middle, up towards the pole, and across
            out, up, across = (cos(d), 0, sin(d)), (-sin(d), 0, cos(d)), (0, 1, 0)
            star = [o + y * u + x * a for o, u, a in zip(out, up, across, strict=True)]
            moved = (
                star[0] * cos(turned) - star[1] * sin(turned), star[0] * sin(turned) + star[1] * cos(turned), star[2]
            )  # fmt: skip
            deep = sum(p * q for p, q in zip(moved, out, strict=True))
            there = [sum(p * q for p, q in zip(moved, axis, strict=True)) / deep for axis in (across, up)]
            drift = f * hypot(there[0] - x, there[1] - y)
            self.assertAlmostEqual(stars.drift_at_mm(f, degrees(d), 0.1, x * f, y * f) / drift, 1, places=4)

    def test_the_worst_of_a_frame(self):
        for declination, times in ((0, 2.87), (60, 2.14), (90, 1.55)):
            worst = stars.worst_drift_mm(14, declination, 1, 36, 24)
            self.assertAlmostEqual(worst / stars.drift_mm(14, 0, 1), times, delta=0.006)
            grid = [
                stars.drift_at_mm(14, declination, 1, x, y)
                for x, y in product(np.linspace(-18, 18, 41), np.linspace(-12, 12, 41))
            ]
            self.assertAlmostEqual(float(worst), max(map(float, grid)), places=12)

    def test_seconds_and_the_sky(self):
        self.assertAlmostEqual(stars.drift_mm(24, 40, stars.seconds_for_drift(24, 40, 0.01)), 0.01, places=12)
        self.assertEqual(stars.seconds_for_drift(24, 90, 0.01), inf)
        self.assertAlmostEqual(stars.declination_deg(52, 52, 0), 90, places=5)
        self.assertAlmostEqual(stars.declination_deg(52, 90, 123), 52, places=9)
        self.assertAlmostEqual(stars.declination_deg(52, 38, 180), 0, places=9)
        self.assertEqual(stars.corner_stretch(20, 20), (2, sqrt(2)))


class SteadinessTests(TestCase):
    def test_hands(self):
        self.assertAlmostEqual(steadiness.handheld_seconds(50, 2), 1 / 100)
        self.assertAlmostEqual(steadiness.handheld_seconds(50, 2, 3, 2), 8 / 200)
        length = steadiness.shake_mm(50, 200, 0.1, 2)
        self.assertAlmostEqual(length, 50 * tan(radians(200 * 0.1 / 3600)) / 4, places=14)
        self.assertAlmostEqual(steadiness.seconds_for_shake(50, 200, length, 2), 0.1, places=12)


class RangeTests(TestCase):
    def test_from_the_brightest_to_the_darkest(self):
        full = light.saturation_e(20.0, 100, 0.5, 0)
        grey = light.electrons(light.mid_grey_photons(0.1), 20.0, 0.5, 0)
        self.assertAlmostEqual(log2(full / grey), log2(7.8), places=12)
        floor = light.signal_for_snr(1, 3)
        self.assertAlmostEqual(floor / sqrt(floor + 9), 1, places=12)
        self.assertAlmostEqual(light.dynamic_range_stops(full, 3), log2(full / floor), places=12)
        # twenty over a picture of eight million pixels from a frame of thirty-two: ten in each
        self.assertAlmostEqual(
            light.dynamic_range_stops(full, 3, 20, 32e6, 8e6), log2(full / light.signal_for_snr(10, 3)), places=12
        )

    def test_brackets(self):
        for scene, own, spacing, frames in (
            (10, 12, 2, 1),
            (14, 12, 2, 2),
            (14.1, 12, 2, 3),
            (18, 12, 20, 2),
            (12, 12, 1, 1),
        ):
            self.assertEqual(light.frames_to_bracket(scene, own, spacing), frames)
            spaced = min(spacing, own)
            self.assertGreaterEqual(own + (frames - 1) * spaced, scene)
