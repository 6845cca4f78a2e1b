"""The sums in the head: factor and stops are those nearest to the truth that are simple, and what they are off by is
said as it is.
"""

import re
from math import log2
from unittest import TestCase

from django.test import tag

from cambrel.drills.ladder import FACTORS, SIMPLE, f_number_rungs, iso_rungs, ladder
from cambrel.learn.views.mental import FULL_STOPS, ISO_MARKS, factor_words, honest, stops_words
from cambrel.optics.formats import FORMATS
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.said import UGLY

RATIOS = sorted(
    {
        a.diagonal_mm / b.diagonal_mm
        for a in FORMATS.values()
        for b in FORMATS.values()
        if 1 <= a.diagonal_mm / b.diagonal_mm <= 10
    }
)
SPOKEN = {
    "one": 1, "one point one": 1.1, "one and a quarter": 1.25, "one and a third": 4 / 3, "one and a half": 1.5,
    "one point six": 1.6,
    "one point eight": 1.8, "two": 2, "two point two": 2.2, "two and a half": 2.5, "two point seven": 2.7, "three": 3,
    "three and a half": 3.5,
    "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "ten": 10,
}  # fmt: skip


@tag("long")
class LadderTests(TestCase):
    def test_what_photographers_carry_in_the_head_comes_out(self):
        for k, factor, stops in (
            (2.0, "two", "two stops"),
            (1.5, "one and a half", "one stop and a third"),
            (1.53, "one and a half", "one stop and a third"),
            (1.61, "one point six", "one stop and a third"),
            (43.267 / 21.64, "two", "two stops"),
            (2.73, "two point seven", "three stops"),
            (1.0, "one", "no stop"),
            (1.12, "one point one", "a third of a stop"),
            (1.27, "one and a quarter", "two thirds of a stop"),
            (4.0, "four", "four stops"),
        ):
            found = ladder(k)
            self.assertEqual((factor_words(found), stops_words(found)), (factor, stops), k)
        with self.assertRaises(DomainError):
            ladder(0.99)

    def test_stops_are_the_nearest_third_and_no_factor_is_both_simpler_and_nearer(self):
        for k in RATIOS:
            found = ladder(k)
            with self.subTest(k=k):
                self.assertLessEqual(abs(found.stops_error), 1 / 6 + 1e-9)
                self.assertEqual(SPOKEN[factor_words(found)], found.factor)
                off = abs(found.factor / k - 1)
                nearest = min(abs(factor / k - 1) for factor in FACTORS)
                self.assertTrue(
                    off <= SIMPLE or abs(log2(found.factor / k)) <= min(abs(log2(f / k)) for f in FACTORS) + 1e-12,
                    (off, nearest),
                )

    def test_the_note_says_what_it_is_off_by(self):
        for k in RATIOS:
            found, said = ladder(k), honest(ladder(k))
            with self.subTest(k=k, said=said):
                self.assertIsNone(UGLY.search(said))
                view = SPOKEN[factor_words(found)] / k - 1
                self.assertEqual("focal lengths come out right" in said, abs(view) <= 0.01)
                if abs(view) > 0.01:
                    share = re.search(r"out ([\d.]+)% too (long|short)", said)
                    self.assertLess(abs(float(share[1]) / 100 - abs(view)), 0.0051 if abs(view) > 0.0995 else 0.00051)
                    self.assertEqual(share[2], "long" if view > 0 else "short")
                stops = found.thirds / 3 - 2 * log2(k)
                self.assertEqual("f-numbers come out right" in said, abs(stops) < 0.05)
                if abs(stops) >= 0.05:
                    told = re.search(r"out ([\d.]+)\u00a0stops? too (large|small)", said)
                    self.assertLess(abs(float(told[1]) - abs(stops)), 0.051)
                    self.assertEqual(told[2], "large" if stops > 0 else "small")

    def test_every_rung_does_the_same_within_what_is_said(self):
        for k in RATIOS:
            found = ladder(k)
            for rungs, power in ((f_number_rungs(found, FULL_STOPS), 1), (iso_rungs(found, ISO_MARKS), 2)):
                for here, there in rungs:
                    off = log2(there.exact / here.exact) * 2 / power - 2 * log2(k)
                    self.assertAlmostEqual(off, found.stops_error, 9)
