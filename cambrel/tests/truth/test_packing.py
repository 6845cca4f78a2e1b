"""What is said of bags and kits, each sentence by a predicate of its own, at its threshold and on both sides."""

import re
from itertools import product
from math import nan
from unittest import TestCase

from cambrel.comparison.outer_sizes import BagFit
from cambrel.verdicts.kit_sizes import against_says, bag_says
from cambrel.wording import sentence

RATIOS = (nan, 0.5, 0.94, 0.951, 1.0, 1.049, 1.06, 2.0)


class PackingTests(TestCase):
    def test_whether_it_goes_in_begins_with_yes_no_or_perhaps(self):
        for large, filled, unknown in product(((), ("A",), ("A", "B")), (0.2, 0.6, 0.601, 1.4), (0, 1, 3)):
            fits = False if large or filled > 0.6 else None if unknown else True
            said = sentence(bag_says(BagFit(fits, large, filled, unknown)))
            with self.subTest(said):
                self.assertEqual(said.split()[0], {True: "Yes:", False: "No:", None: "Perhaps:"}[fits])
                self.assertEqual("no way round" in said, bool(large))
                self.assertEqual("together they fill" in said, not large and (fits is not None))
                self.assertEqual("unknown size" in said, fits is None)
                if large:
                    self.assertIn({1: "A goes", 2: "A and B go"}[len(large)], said)
                elif filled == 0.601:
                    self.assertEqual("just over 60%" in said.replace("\u00a0", ""), not large)
                else:
                    self.assertIn(f"{100 * filled:.3g}%", said.replace("\u00a0", ""))
                if fits is None:
                    self.assertIn("one piece is" if unknown == 1 else "3 pieces are", said)

    def test_how_two_kits_compare(self):
        for weight, volume in product(RATIOS, RATIOS):
            found = against_says("Other", weight, volume)
            if weight != weight and volume != volume:
                self.assertIsNone(found)
                continue
            said = sentence(found).replace("\u00a0", "")
            with self.subTest(said):
                for ratio, less, more, alike in (
                    (weight, "lighter", "heavier", "as heavy"), (volume, "smaller", "larger", "as large"),
                ):  # fmt: skip
                    is_alike = abs(ratio - 1) <= 0.05
                    self.assertEqual(alike in said, is_alike)
                    for word, holds in ((less, ratio < 0.95), (more, ratio > 1.05)):
                        share = re.search(rf"([\d.]+)% {word}", said)
                        self.assertEqual(bool(share), holds)
                        if share:
                            self.assertAlmostEqual(float(share[1]), 100 * abs(ratio - 1), delta=0.6)
                self.assertEqual(said.count("Other"), 1)
                self.assertRegex(said, "^This kit is .* (as|than) Other( and .*)?\\.$")
