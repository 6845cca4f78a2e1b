"""Readings of an averaging meter against the integral itself."""

import random
from math import atan, degrees, nan
from unittest import TestCase

from scipy.integrate import quad

from cambrel.optics.averaging_meter import averaged_light
from cambrel.optics.quantities import DomainError

SKY = ((0.0, 0.8), (10.0, 0.5), (60.0, 0.2))


def between(up):
    """Light of the sky at an elevation, from a line drawn through the points by hand."""
    if up <= 10:
        return 0.8 - 0.03 * up
    return max(0.2, 0.5 - 0.006 * (up - 10))


class AveragingMeterTests(TestCase):
    def test_the_mean_is_the_integral(self):
        chance = random.Random(2)
        for _ in range(60):
            high, v, horizon = chance.uniform(4, 60), chance.uniform(6, 300), chance.uniform(-30, 30)

            def light(y, v=v, horizon=horizon):
                return between(degrees(atan((horizon - y) / v))) if y < horizon else 0.18

            middle = min(max(horizon, -high / 2), high / 2)
            parts = [quad(light, low, end, limit=200)[0] for low, end in ((-high / 2, middle), (middle, high / 2))]
            self.assertAlmostEqual(averaged_light(high, v, horizon, SKY), sum(parts) / high, 3)

    def test_no_sky_in_the_frame_is_mid_grey_and_nonsense_is_refused(self):
        self.assertAlmostEqual(averaged_light(24, 50, -13, SKY), 0.18, 12)
        for wrong in ((0, 50, 0, SKY), (24, -1, 0, SKY), (24, 50, nan, SKY), (24, 50, 0, ())):
            with self.assertRaises(DomainError):
                averaged_light(*wrong)
