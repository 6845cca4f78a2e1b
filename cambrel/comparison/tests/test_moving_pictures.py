"""Moving pictures: the shutter that rate and angle fix, the angle at which lamps do not flicker, stills and films."""

from dataclasses import replace
from math import isnan, nan
from unittest import TestCase

from cambrel.bench.sample_benches import home_bench
from cambrel.comparison.moving_pictures import (
    as_film,
    as_still,
    film_shutter_s,
    steady_angle_deg,
    video_mode,
    with_film_shutter,
)
from cambrel.optics.quantities import DomainError


class MovingPicturesTests(TestCase):
    def test_rate_and_angle_fix_the_shutter(self):
        for rate, angle, seconds in ((25, 180, 1 / 50), (24, 180, 1 / 48), (50, 90, 1 / 200), (25, 360, 1 / 25)):
            self.assertAlmostEqual(film_shutter_s(rate, angle), seconds, 12)
        for wrong in ((0, 180), (25, 0), (25, 361), (nan, 180), (25, nan)):
            with self.assertRaises(DomainError):
                film_shutter_s(*wrong)

    def test_the_nearest_steady_angle(self):
        for rate, angle, mains in ((25, 180, 60), (24, 180, 50), (30, 180, 50), (50, 90, 60), (25, 20, 50)):
            found = steady_angle_deg(rate, angle, mains)
            tried = [n * 360 * rate / (2 * mains) for n in range(1, 100) if n * rate / (2 * mains) <= 1 + 1e-9]
            self.assertAlmostEqual(found, min(tried, key=lambda one: abs(one - angle)), 9)
        self.assertTrue(isnan(steady_angle_deg(240, 180, 50)))

    def test_a_film_and_a_still_picture_are_turned_into_each_other(self):
        still = home_bench()
        film = as_film(still)
        self.assertEqual({slot.rig.shutter_s for slot in film.slots}, {1 / 50})
        self.assertEqual(film.slots[0].rig.recorded.label, "4K at 60 frames")
        self.assertEqual((film.brief.shape, film.brief.frame_rate), ("16:9", 25))
        back = as_still(film)
        self.assertEqual((back.brief.frame_rate, back.slots[0].rig.mode, back.slots[0].rig.by_hand), (None, None, ""))
        self.assertIs(with_film_shutter(still), still)
        faster = replace(film.slots[0], rig=replace(film.slots[0].rig, shutter_s=1 / 100))
        typed = with_film_shutter(replace(film, slots=(faster, *film.slots[1:])), film)
        self.assertAlmostEqual(typed.brief.shutter_angle_deg, 90)
        self.assertEqual({round(1 / slot.rig.shutter_s) for slot in typed.slots}, {100})
        self.assertIsNone(video_mode(still.rigs[1], 25))
        self.assertIsNone(video_mode(still.rigs[0], 100))
