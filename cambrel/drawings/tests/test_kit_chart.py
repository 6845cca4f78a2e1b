"""The chart of kits: each letter where its kit is, on the sheet, and on no other."""

from itertools import combinations
from math import hypot, nan
from unittest import TestCase

from cambrel.drawings.kit_chart import RADIUS, KitPoint, kit_chart


def charted(*points):
    kits = [KitPoint(index, f"kit {index}", share, cost) for index, (share, cost) in enumerate(points)]
    return kit_chart(kits, "weight", lambda grams: f"{grams:g} g")


class KitChartTests(TestCase):
    def test_up_is_more_and_right_is_heavier_in_proportion(self):
        chart = charted((1.0, 1000.0), (0.5, 2000.0), (0.0, 4000.0))
        by_letter = {mark.letter: mark for mark in chart.marks}
        a, b, c = (by_letter[letter] for letter in "ABC")
        self.assertAlmostEqual((c.x - b.x) / (b.x - a.x), 2.0)
        self.assertAlmostEqual(b.y, (a.y + c.y) / 2)
        self.assertLess(a.y, c.y)
        self.assertIn("kit 1: 50% of the pictures, 2000 g", b.says)

    def test_letters_stay_on_the_sheet_and_off_each_other(self):
        for points in (
            [(1.0, 4200.0), (0.9, 4300.0), (0.8, 3000.0)],
            [(0.9, 4000.0)] * 6,
            [*[(0.9, 1.0)] * 5, (0.9, 4000.0)],
        ):
            chart = charted(*points)
            for mark in chart.marks:
                self.assertGreaterEqual(mark.x, chart.left)
                self.assertLessEqual(mark.x, chart.right)
            for mark, other in combinations(chart.marks, 2):  # in the order of their weight
                self.assertGreaterEqual(hypot(mark.x - other.x, mark.y - other.y), 2 * RADIUS - 1e-9, points)
                if abs(mark.y - other.y) < 2 * RADIUS:
                    self.assertLess(mark.x, other.x, "the heavier is still right of the lighter")

    def test_letters_too_near_each_other_part_to_both_sides_no_farther_than_needed(self):
        alone = charted((0.5, 2000.0), (0.0, 4000.0)).marks[0]
        a, b, _ = charted((0.5, 2000.0), (0.5, 2000.0), (0.0, 4000.0)).marks
        self.assertAlmostEqual((a.x + b.x) / 2, alone.x)
        self.assertAlmostEqual(b.x - a.x, 2 * RADIUS)
        a, b, _ = charted((0.5, 2000.0), (0.6, 2000.0), (0.0, 4000.0)).marks
        self.assertAlmostEqual(hypot(b.x - a.x, b.y - a.y), 2 * RADIUS)

    def test_what_is_not_known_is_left_out_and_one_alone_is_no_chart(self):
        self.assertEqual([mark.letter for mark in charted((1, nan), (1, 2.0), (1, 9.0)).marks], ["B", "C"])
        self.assertIsNone(charted((1, nan), (1, 2.0)))
