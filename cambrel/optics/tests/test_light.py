import itertools
from math import log2
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mpmath import besseljzero, pi

from cambrel.comparison.tests.given import Close
from cambrel.optics import light
from cambrel.optics.diffraction import AIRY_FACTOR, airy_disc_um, diffraction_limited_f_number
from cambrel.optics.noise_schools import (
    NOISE_SCHOOLS,
    Collecting,
    collecting,
    iso_as_noisy,
    iso_for_judged_snr,
    judged_snr,
)
from cambrel.optics.quantities import DomainError
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, between, nearest


class LightTests(Close, TestCase):
    def test_photons_follow_from_the_lumen(self):
        watts = 1 / 683  # of one lumen at 540 THz
        self.close(light.PHOTONS_PER_UM2_PER_LUX_S, watts / (6.62607015e-34 * 540e12) * 1e-12)
        self.assertAlmostEqual(light.PHOTONS_PER_UM2_PER_LUX_S, 4.1e3, delta=20)

    def test_sunny_sixteen(self):
        self.assertAlmostEqual(light.exposure_value(16, 1 / 125), 15, delta=0.05)
        self.close(light.exposure_value(8, 1 / 60, 400), log2(64 * 60 / 4))

    def test_right_exposure_gives_mid_grey_at_every_iso(self):
        for iso in (50, 100, 3200):
            t = 100 / iso * 8**2 / 2**12
            exposure = light.exposure_lux_s(8, t, 12)
            self.close(light.iso_for_light(8, t, 12), iso)
            self.close(exposure, 10 / iso)
            self.assertAlmostEqual(light.brightness_error_stops(exposure, iso), 0, places=12)
            self.close(light.iso_for_exposure(exposure), iso)

    def test_close_up_costs_two_stops_at_life_size(self):
        self.close(log2(light.exposure_lux_s(4, 1, 0) / light.exposure_lux_s(light.effective_f_number(4, 1), 1, 0)), 2)
        self.close(light.marked_f_number(light.effective_f_number(2.8, 0.7), 0.7), 2.8)

    def test_total_light_is_exposure_times_area(self):
        self.close(light.total_light_stops(0.1, 864, 0.1, 216), 2)
        self.close(light.total_light_stops(0.05, 864, 0.1, 216), 1)

    @given(st.floats(0.5, 1e5), st.floats(0, 30))
    def test_signal_and_noise_invert(self, signal, read):
        self.close(light.signal_for_snr(light.snr(signal, read), read), signal)

    def test_photon_noise_is_the_square_root(self):
        self.close(light.snr(10000, 0), 100)
        self.close(light.snr(100, 10), 100 / 200**0.5)

    @given(st.floats(1e-4, 1), st.floats(1e6, 1e8), st.floats(-1, 1))
    def test_looking_like_oneself_gives_the_exposure_back(self, exposure, pixels, offset):
        made = Collecting(pixels, 864e6 / pixels, 0.5, offset, 2.0)
        for school in NOISE_SCHOOLS:
            seen = judged_snr(exposure, made, school=school)
            self.close(iso_for_judged_snr(seen, made, school=school), 10 / exposure)

    def test_as_noisy_as_another(self):
        def frame(pixels, area, read=2.0):
            return collecting(pixels, area, 0.5, 0.0, read, 8e6)

        small, large = frame(20e6, 225.0, 0.0), frame(20e6, 900.0, 0.0)
        # of photons alone only the area counts
        self.close(iso_as_noisy(100.0, small, large, 8e6), 400.0)
        self.close(iso_as_noisy(400.0, large, small, 8e6), 100.0)
        self.close(iso_as_noisy(400.0, frame(80e6, 900.0, 0.0), small, 8e6), 100.0)
        # reading counts in the dark, more of it for more pixels, and not at all where they are not known
        read = iso_as_noisy(25600.0, frame(20e6, 900.0), large, 8e6)
        self.assertGreater(read, 25600 * 1.05)
        self.assertGreater(iso_as_noisy(25600.0, frame(80e6, 900.0), large, 8e6), read * 1.05)
        self.close(iso_as_noisy(25600.0, frame(float("nan"), 900.0), large, 8e6), 25600.0)
        self.close(iso_as_noisy(25600.0, large, frame(float("nan"), 900.0), 8e6), 25600.0)

    def test_pixel_by_pixel_the_larger_pixel_is_as_clean_at_the_higher_iso(self):
        large, small = (collecting(pixels, 900.0, 0.5, 0.0, 0.0, 8e6) for pixels in (10e6, 40e6))
        self.close(iso_as_noisy(400.0, small, large, 8e6, "pixel"), 1600.0)
        self.close(iso_as_noisy(400.0, small, large, 8e6, "picture"), 400.0)
        unknown = collecting(float("nan"), 900.0, 0.5, 0.0, 2.0, 8e6)
        self.assertTrue(np.isnan(iso_as_noisy(400.0, unknown, large, 8e6, "pixel")))
        self.assertTrue(np.isnan(iso_as_noisy(400.0, large, unknown, 8e6, "pixel")))

    def test_nonsense_is_refused(self):
        for call in (
            lambda: light.exposure_value(0, 1),
            lambda: light.exposure_lux_s(4, -1, 8),
            lambda: light.exposure_lux_s(4, 1, float("nan")),
            lambda: light.snr(0),
            lambda: light.electrons(1, 1, 0),
        ):
            with self.assertRaises(DomainError):
                call()


class DiffractionTests(Close, TestCase):
    def test_the_factor_is_the_first_zero_of_the_bessel_function(self):
        self.assertAlmostEqual(AIRY_FACTOR, float(2 * besseljzero(1, 1) / pi), delta=0.001)

    def test_disc_and_limit_are_inverse(self):
        self.close(airy_disc_um(8), 2.4393397825330090 * 0.55 * 8)
        self.close(airy_disc_um(8, 1, 450), 2.4393397825330090 * 0.45 * 16)
        self.close(airy_disc_um(diffraction_limited_f_number(12.3, 0.4, 600), 0.4, 600), 12.3)


class StopTests(Close, TestCase):
    def test_markings_stand_for_thirds_of_a_stop(self):
        for series, halves in ((F_NUMBERS, 2), (SHUTTERS, 1), (ISOS, 1)):
            for stop in series:
                with self.subTest(stop=stop.marked):
                    self.assertLess(
                        abs(halves * log2(stop.typed / stop.exact)), 0.15, "a marking is its exact value, rounded"
                    )
            steps = [halves * log2(b.exact / a.exact) for a, b in itertools.pairwise(series)]
            for step in steps:
                self.close(step, 1 / 3)

    def test_the_nearest_setting(self):
        cases = (
            (3.6, F_NUMBERS, "3.5"),
            (5.6, F_NUMBERS, "5.6"),
            (1.417, F_NUMBERS, "1.4"),
            (1 / 137, SHUTTERS, "1/125"),
            (390, ISOS, "400"),
        )
        for value, series, marked in cases:
            with self.subTest(value=value):
                self.assertEqual(nearest(value, series).marked, marked)
        with self.assertRaises(DomainError):
            nearest(0, ISOS)

    def test_settings_between(self):
        self.assertEqual([stop.marked for stop in between(F_NUMBERS, 1.8, 2.8)], ["1.8", "2", "2.2", "2.5", "2.8"])
