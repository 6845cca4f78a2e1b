"""Readings of an averaging meter against the integral itself, and what a change costs, each sentence by a predicate of
its own.
"""

import random
import re
from itertools import product
from math import ceil, hypot, log2, nan
from unittest import TestCase

from cambrel.decisions.costs import Worth, change_costs
from cambrel.optics.averaging_meter import averaged_light
from cambrel.verdicts.meter_reading import WAYS, meter_shifts, says_meter
from cambrel.wording import money, sentence

SKY = ((0.0, 0.8), (10.0, 0.5), (60.0, 0.2))


def plain(text):
    return text.replace("\u00a0", " ")


class MeterTests(TestCase):
    def test_the_taller_frame_sees_more_sky_and_the_sentence_says_by_how_much(self):
        met = set()
        for v, horizon in product((20, 50, 200), (-25, -5, 0, 5, 12)):
            shifts = meter_shifts(43.27, v, horizon, SKY)
            heights = [(w.long if w.is_upright else w.short) / hypot(w.long, w.short) * 43.27 for w in WAYS]
            for shift, high in zip(shifts, heights, strict=True):
                expected = log2(averaged_light(high, v, horizon, SKY) / averaged_light(heights[0], v, horizon, SKY))
                self.assertAlmostEqual(shift, expected, 9)
            said = plain(sentence(says_meter(shifts)))
            for way, shift in zip(WAYS[1:], shifts[1:], strict=True):
                found = re.search(rf"{way.label} ([\d.]+) stops? (more|less)", said)
                self.assertEqual(bool(found), abs(shift) > 1 / 6, said)
                if found:
                    self.assertEqual(found[2], "more" if shift > 0 else "less")
                    self.assertAlmostEqual(float(found[1]), abs(shift), delta=0.06)
                met.add(bool(found))
            self.assertEqual("the same in 3:2 and 4:3" in said, all(abs(shift) <= 1 / 6 for shift in shifts))
        self.assertEqual(met, {True, False})


class CostTests(TestCase):
    def test_what_a_change_costs_is_said_as_far_as_it_is_known(self):
        chance, met = random.Random(4), set()
        for _ in range(3000):

            def some(low, high):
                return nan if chance.random() < 0.3 else float(chance.randint(low, high))

            currencies = [chance.choice(["EUR", "EUR", "EUR", "GBP"]) for _ in range(2)]
            comes = Worth("New", currencies[0], some(100, 3000), some(80, 2000), some(50, 1500), some(0, 80))
            goes = Worth("Old", currencies[1], some(100, 3000), some(80, 2000), some(50, 1500), some(0, 80))
            comes, goes = (None if chance.random() < 0.2 else one for one in (comes, goes))
            said = [plain(sentence(one)) for one in change_costs(comes, goes)]
            text = " ".join(said)
            sold = goes is not None and goes.resale == goes.resale
            if comes is None:
                self.assertEqual(
                    said, [f"Selling Old brings {plain(money(goes.resale, goes.currency))}."] if sold else []
                )
                continue
            nets = sold and goes.currency == comes.currency
            self.assertEqual("After selling Old for" in text, nets and comes.new == comes.new)
            for price, lead in ((comes.new, "it "), (comes.used, "after selling Old, ")):
                if nets and price == price:
                    left = price - goes.resale
                    amount = plain(money(abs(left), comes.currency))
                    self.assertIn(f"{lead}leaves {amount} over" if left < 0 else f"{lead}costs {amount}", text)
                    met.add(left < 0)
            self.assertEqual("Used it costs" in text, comes.used == comes.used)
            self.assertEqual("Renting it is" in text, comes.rent_a_day > 0)
            days = re.search(r"from (\d[\d,]*) days on", text)
            self.assertEqual(bool(days), comes.rent_a_day > 0 and comes.new > 0)
            if days:
                enough = int(days[1].replace(",", ""))
                self.assertGreaterEqual(enough * comes.rent_a_day, comes.new)
                self.assertLess((enough - 1) * comes.rent_a_day, comes.new)
                self.assertEqual(enough, ceil(comes.new / comes.rent_a_day))
        self.assertEqual(met, {True, False})
