"""Matching and fitting: against the same-picture rule of the core, against numeric integration, and one lens against
many.
"""

from math import inf, pi
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from cambrel.comparison.fit import cover, covered_area_mm2, largest_crop, mount_fit
from cambrel.comparison.match import CANNOT, EXACT, NEAR, UNKNOWN, WantedLens, efficient, lens_table, match, needed
from cambrel.comparison.rig import Lens
from cambrel.optics.formats import FORMATS, Sensor, crop_factor
from cambrel.optics.quantities import DomainError

FF, MFT = FORMATS["full-frame"], FORMATS["micro-four-thirds"]
K = crop_factor(MFT)


def a_lens(focal, stretch, number, slower, known, smallest):
    """A prime or a zoom of three points, or one whose f-numbers are unknown."""
    long, middle = focal * stretch, focal * (1 + (stretch - 1) / 2)
    points = ((focal, number), (middle, number * (1 + slower / 2)), (long, number * (1 + slower)))
    return Lens(focal, long, (points if stretch > 1.01 else points[:1]) if known else (), smallest)


lenses = st.builds(
    a_lens,
    st.floats(4, 600),
    st.floats(1, 6),
    st.floats(0.95, 8),
    st.floats(0, 1),
    st.booleans(),
    st.sampled_from([None, 22.0]),
)


class NeededTests(TestCase):
    def test_a_prime_both_ways(self):
        there = needed(WantedLens(FF, 50, 50, 1.8, 1.8, 400), MFT)
        self.assertAlmostEqual(there.focal_min_mm, 50 / K, places=12)
        self.assertAlmostEqual(there.f_number_short, 1.8 / K, places=12)
        self.assertAlmostEqual(there.iso, 400 / K**2, places=9)
        back = needed(
            WantedLens(
                MFT, there.focal_min_mm, there.focal_min_mm, there.f_number_short, there.f_number_short, there.iso
            ),
            FF,
        )
        for found, wanted in ((back.focal_min_mm, 50), (back.f_number_short, 1.8), (back.iso, 400)):
            self.assertAlmostEqual(found, wanted, places=9)

    def test_close_up_the_exact_rule_is_used_and_the_pupil_kept(self):
        near = needed(WantedLens(FF, 100, 100, 4, 4, 100, 0.4), MFT)
        v1 = 1 / (1 / 100 - 1 / 400)
        self.assertAlmostEqual(near.focal_min_mm, 1 / (1 / 400 + K / v1), places=9)
        self.assertAlmostEqual(near.focal_min_mm / near.f_number_short, 25, places=9)

    def test_what_is_to_be_expected(self):
        self.assertTrue(needed(WantedLens(FF, 50, 50, 1.8, 1.8), MFT).is_to_be_expected)
        self.assertFalse(needed(WantedLens(FF, 50, 50, 0.95, 0.95), MFT).can_exist)
        self.assertFalse(needed(WantedLens(FF, 50, 50, 1.2, 1.2), FORMATS["type-1-1.3"]).is_to_be_expected)

    def test_refusals(self):
        for wrong in ((0, 50, 2, 2), (70, 24, 2, 2), (24, 70, 0, 2), (24, 70, float("nan"), 2)):
            with self.assertRaises(DomainError):
                WantedLens(FF, *wrong)
        with self.assertRaises(DomainError):
            lens_table([Lens()])


class MatchTests(TestCase):
    def statuses(self, wanted, sensor, *given):
        return list(match(wanted, sensor, lens_table(given)).status)

    def test_exact_near_impossible_and_unknown_are_told_apart(self):
        wanted = WantedLens(FF, 50, 50, 2.8, 2.8)
        given = [
            Lens(25, 25, ((25, 1.4),)), Lens(12, 40, ((12, 1.4), (40, 1.4))), Lens(24, 24, ((24, 1.8),)),
            Lens(25, 25, ((25, 2.8),)),
            Lens(17, 17, ((17, 1.2),)), Lens(25, 25), Lens(25, 25, ((25, 1.4),), rectilinear=False),
            Lens(25, 25, ((25, 0.95),), 1.2),
        ]  # fmt: skip
        self.assertEqual(
            self.statuses(wanted, MFT, *given), [EXACT, EXACT, NEAR, CANNOT, CANNOT, UNKNOWN, CANNOT, NEAR]
        )
        found = match(wanted, MFT, lens_table(given))
        self.assertAlmostEqual(found.stops_short[3], 2 * np.log2(2.8 / (2.8 / K) * (50 / K) / 25), places=2)
        self.assertLess(found.stops_short[7], 0)
        self.assertAlmostEqual(found.view_off[4], 17 / (50 / K) - 1, places=12)
        self.assertEqual(list(found.order(np.ones(len(found.status), dtype=bool))[:2]), [1, 0])

    def test_zoom_against_zoom(self):
        wanted = WantedLens(FF, 24, 70, 2.8, 2.8)
        whole, part, slow = (
            Lens(12, 40, ((12, 1.4), (40, 1.4))),
            Lens(12, 25, ((12, 1.4), (25, 1.4))),
            Lens(12, 40, ((12, 2.8), (40, 4.0))),
        )
        found = match(wanted, MFT, lens_table([whole, part, slow]))
        self.assertEqual(list(found.status), [EXACT, NEAR, CANNOT])
        self.assertAlmostEqual(found.covered[1], np.log(25 / (24 / K)) / np.log(70 / 24), places=9)
        self.assertAlmostEqual(
            found.stops_short[2],
            2 * np.log2(np.exp(np.interp(np.log(70 / K), np.log([12, 40]), np.log([2.8, 4.0]))) * K / 2.8),
            places=9,
        )

    @given(
        st.lists(lenses, min_size=1, max_size=6), st.floats(8, 400), st.floats(1, 22), st.sampled_from(sorted(FORMATS))
    )
    def test_many_lenses_run_as_one(self, given, focal, number, slug):
        wanted, sensor = WantedLens(FF, focal, focal, number, number), FORMATS[slug]
        together = match(wanted, sensor, lens_table(given))
        for index, lens in enumerate(given):
            alone = match(wanted, sensor, lens_table([lens]))
            for name in ("focal_mm", "f_number", "view_off", "stops_short", "covered", "status"):
                a, b = getattr(together, name)[index], getattr(alone, name)[0]
                self.assertTrue(a == b or (a != a and b != b) or abs(a - b) < 1e-12, name)
            if lens.widest:
                wide = float(lens.widest_f_number(float(together.focal_mm[index])))
                self.assertAlmostEqual(
                    float(lens_table([lens]).widest(together.focal_mm[index : index + 1])[0]) / wide, 1, places=9
                )

    def test_efficient_ones(self):
        cost, worth = np.array([100, 200, 150, 300, np.nan, 100]), np.array([4.0, 2.0, 4.0, 2.0, 1.0, 5.0])
        self.assertEqual(list(np.flatnonzero(efficient(cost, worth))), [0, 1])
        # of two that cost the same the better one, in either order; of two alike one
        for worths, best in (([2.0, 1.0], [1]), ([1.0, 2.0], [0]), ([1.0, 1.0], [0])):
            self.assertEqual(list(np.flatnonzero(efficient(np.array([5.0, 5.0]), np.array(worths)))), best)


class FitTests(TestCase):
    @given(st.floats(4, 60), st.floats(4, 60), st.floats(2, 60))
    def test_the_covered_area_agrees_with_integration(self, width, height, radius):
        x = (np.arange(20_000) + 0.5) / 20_000 * width / 2
        y = np.minimum(np.sqrt(np.maximum(radius**2 - x**2, 0)), height / 2)
        self.assertAlmostEqual(covered_area_mm2(width, height, radius) / (4 * y.mean() * width / 2), 1, places=4)

    def test_words(self):
        for circle, word, why in (
            (43.6, "covers", "the diagonal is 43.3"),
            (43.2, "covers", "rounded"),
            (40, "corners", ""),
            (36, "corners", "just"),
            (28.4, "corners", "a crop inside it is a picture of good size"),
            (23.9, "around", "the whole circle lies on the sensor"),
            (24.1, "corners", "it just passes the long sides"),
        ):
            with self.subTest(circle=circle, why=why):
                self.assertEqual(cover(FF, circle).word, word)
        self.assertEqual(cover(FF, 43.6).share, 1)
        self.assertAlmostEqual(cover(FF, 28.4).corner_gap_mm, FF.diagonal_mm / 2 - 14.2)
        self.assertAlmostEqual(cover(MFT, 43.6).circle_used, MFT.area_mm2 / (pi * 21.8**2))

    def test_the_largest_crop_touches_the_circle(self):
        whole = Sensor(36, 24, 6000, 4000)
        for aspect in (None, 1.0, 4 / 3, 16 / 9):
            crop = largest_crop(whole, 28.4, aspect)
            self.assertAlmostEqual(crop.diagonal_mm, 28.4, places=9)
            self.assertAlmostEqual(crop.pixel_pitch_um, 6.0, places=9)
        self.assertEqual(largest_crop(whole, 50).pixels, 24e6)

    def test_mounts(self):
        for case, word in (
            ({"lens_mount": "A", "body_mount": "A"}, "same"),
            ({"lens_mount": "A", "body_mount": "B", "accepts": True}, "taken"),
            ({"lens_mount": "A", "body_mount": "B", "adapter": "plain"}, "adaptable"),
            ({"lens_mount": "A", "body_mount": "B", "adapter": "optics"}, "with optics"),
            ({"lens_mount": "A", "body_mount": "B", "lens_register_mm": 45.2, "body_register_mm": 19.0}, "adaptable"),
            ({"lens_mount": "A", "body_mount": "B", "lens_register_mm": 19.0, "body_register_mm": 19.3}, "with optics"),
            ({"lens_mount": "A", "body_mount": "B", "lens_register_mm": 17.0, "body_register_mm": 45.0}, "not"),
            ({"lens_mount": "A", "body_mount": "B", "lens_register_mm": 17.0}, "unknown"),
            ({"lens_mount": "", "body_mount": "B"}, "unknown"),
        ):
            with self.subTest(case):
                self.assertEqual(mount_fit(**case).word, word)
        self.assertAlmostEqual(mount_fit("A", "B", lens_register_mm=45.2, body_register_mm=19.0).room_mm, 26.2)

    def test_refusals(self):
        for wrong in (0, -3, float("nan"), inf):
            with self.assertRaises(DomainError):
                cover(FF, wrong)
