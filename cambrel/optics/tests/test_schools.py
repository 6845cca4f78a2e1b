"""Every school: what it writes out is what it says, for one case and for many at once."""

import re
from math import atan, isnan, log2, sqrt
from random import Random
from unittest import TestCase

import numpy as np

from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS, Viewed
from cambrel.optics.formats import CROP_MEASURES, Sensor, TwoFrames
from cambrel.optics.good_enough import GOOD_ENOUGH_SCHOOLS, Resolved
from cambrel.optics.noise_schools import NOISE_SCHOOLS, RANGE_SCHOOLS, Collecting, FullPixel, Noisy
from cambrel.optics.stars import STAR_SCHOOLS, UnderStars
from cambrel.optics.steadiness import HAND_SCHOOLS, Held

SYMBOL = re.compile(r"[A-Za-zλπΦ]+[₀-₉ₑₕ]*")
SIGNS = {"×": "*", "−": "-", "²": "**2", "^": "**", "√": "sqrt", "log₂": "log2"}
TIMES = {"um": 1000.0}
"""What a value is multiplied by to stand in the unit of its working."""


def drawn(random):
    """A case for every question, with what is given there, without what is never an array."""
    focal, wide, high = random.uniform(5, 400), random.uniform(5, 60), random.uniform(4, 50)
    diagonal, pitch = (wide**2 + high**2) ** 0.5, random.uniform(0.8, 9)
    circle, crop = diagonal / random.uniform(1000, 2000), 43.27 / diagonal
    made = Collecting(random.uniform(1e6, 1e8), 4.0, 0.5, 0.0, random.uniform(0, 6))
    return {
        "criterion": (CIRCLE_OF_CONFUSION_SCHOOLS, Viewed(max(wide, high), diagonal, pitch, 43.27, 500.0, 420.0, 5.0)),
        "noise": (NOISE_SCHOOLS, Noisy(random.uniform(2, 1e5), made, 8e6)),
        "range": (RANGE_SCHOOLS, FullPixel(random.uniform(1e3, 1e5), random.uniform(0.5, 8), random.uniform(0.5, 4))),
        "good_enough": (GOOD_ENOUGH_SCHOOLS,
            Resolved(random.uniform(5, 200), max(wide, high), 1000 * wide / pitch, random.uniform(200, 2000))),
        "hand": (HAND_SCHOOLS,
            Held(focal, crop, random.uniform(0, 7), focal * random.uniform(1, 2), circle, random.uniform(500, 20000))),
        "stars": (STAR_SCHOOLS,
            UnderStars(focal, random.uniform(1, 16), crop, pitch, wide, high, circle, random.uniform(-80, 80))),
    }  # fmt: skip


def worked_out(line):
    """What a written formula comes to with the exact values of its terms."""
    values = {term.symbol: repr(float(term.value.value)) for term in line.terms}
    text = SYMBOL.sub(lambda found: values.get(found[0], found[0]), line.formula)
    for sign, meant in SIGNS.items():
        text = text.replace(sign, meant)
    return eval(text, {"__builtins__": {}, "sqrt": sqrt, "log2": log2, "atan": atan})


class SchoolTests(TestCase):
    def test_what_is_written_out_is_the_value(self):
        random = Random(26)
        for _ in range(40):
            for question, (schools, given) in drawn(random).items():
                for key, school in schools.items():
                    with self.subTest(question=question, school=key):
                        line, value = school.working(given), float(school.value(given))
                        shown = value * TIMES.get(line.result.kind, 1.0) if question == "criterion" else value
                        self.assertAlmostEqual(float(line.result.value) / shown, 1, places=12)
                        self.assertAlmostEqual(worked_out(line) / shown, 1, places=7)

    def test_many_at_once_are_each_by_itself(self):
        random = Random(27)
        cases = [drawn(random) for _ in range(7)]
        for question, (schools, first) in cases[0].items():
            each = [case[question][1] for case in cases]
            names = [name for name in type(first).__dataclass_fields__ if name not in ("made", "output_pixels")]
            if question == "noise":
                made = Collecting(
                    np.array([one.made.pixels for one in each]),
                    4.0,
                    0.5,
                    0.0,
                    np.array([one.made.read_noise_e for one in each]),
                )
                together = Noisy(np.array([one.signal_e for one in each]), made, first.output_pixels)
            else:
                together = type(first)(*(np.array([getattr(one, name) for one in each]) for name in names))
            for key, school in schools.items():
                with self.subTest(question=question, school=key):
                    np.testing.assert_allclose(
                        school.value(together), [float(school.value(one)) for one in each], rtol=1e-13
                    )

    def test_what_cannot_be_said_is_unknown_and_is_not_written_out(self):
        nan = float("nan")
        viewed = Viewed(36.0, 43.27, nan)
        self.assertTrue(isnan(CIRCLE_OF_CONFUSION_SCHOOLS["two_pixels"].value(viewed)))
        self.assertIsNone(CIRCLE_OF_CONFUSION_SCHOOLS["two_pixels"].working(viewed))
        held = Held(50.0, 1.0, 0.0, 51.0, nan, 6000.0)
        self.assertTrue(isnan(HAND_SCHOOLS["typed"].value(held)))
        self.assertEqual(float(HAND_SCHOOLS["habit"].value(held)), 1 / 50)
        self.assertEqual(float(HAND_SCHOOLS["habit"].streak_mm(held, 1.0)), 0)
        sky = UnderStars(24.0, 2.8, 1.0, nan, 36.0, 24.0, nan)
        self.assertTrue(isnan(STAR_SCHOOLS["exact"].value(sky)) and isnan(STAR_SCHOOLS["aperture_pixel"].value(sky)))
        self.assertAlmostEqual(float(STAR_SCHOOLS["rule_500"].value(sky)), 500 / 24)

    def test_a_hand_moves_a_point_by_what_counts_as_sharp_in_its_longest_time(self):
        random = Random(28)
        for _ in range(20):
            _, held = drawn(random)["hand"]
            for school in HAND_SCHOOLS.values():
                seconds = school.value(held)
                self.assertAlmostEqual(float(school.streak_mm(held, seconds)) / held.coc_mm, 1, places=9)

    def test_measures_of_the_crop(self):
        one, other = Sensor(20.0, 15.0), Sensor(36.0, 24.0)
        for key, wanted in (
            ("diagonal", 43.266615 / 25),
            ("width", 1.8),
            ("height", 1.6),
            ("area", (864 / 300) ** 0.5),
        ):
            self.assertAlmostEqual(float(CROP_MEASURES[key].value(TwoFrames(one, other))), wanted, places=6)
            line = CROP_MEASURES[key].working(TwoFrames(one, other))
            self.assertAlmostEqual(worked_out(line), wanted, places=6)

    def test_how_fine_a_picture_must_be(self):
        given = Resolved(40.0, 36.0, 6000.0, 500.0, 5.0, 200.0)
        for key, wanted in (("strict_eye", 2.5), ("eye", 1.25), ("printer", 200 / 25.4 / 2)):
            self.assertAlmostEqual(float(GOOD_ENOUGH_SCHOOLS[key].wanted_per_mm(given)), wanted)
