"""Why a figure is what it is: every formula that is shown is put through with the numbers that are shown, and gives the
figure.
"""

import re
from collections import Counter
from dataclasses import replace
from functools import cache
from math import atan, isfinite, log2, sqrt
from unittest import TestCase

from django.test import tag

from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import Body, Lens, Rig, compare
from cambrel.comparison.lines import LINES
from cambrel.optics.formats import Sensor
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench
from cambrel.tests.truth.said import BENCHES, UGLY
from cambrel.verdicts import RESTS_ON, verdicts
from cambrel.verdicts.explanations import LIMITS, SPECIAL, WHYS, value_of, worked
from cambrel.wording.written import SYMBOL, written

WITHOUT = {"width", "height", "f_number", "distance", "focus", "looks_like", "ceiling", "mtf50", "price"}
"""What is from a record, was set, or is found by search."""
SEARCHED = {
    "behind_camera", "cannot_exist", "combined_frames_move", "crop_of_the_lens", "gap", "half_soft", "least_iso",
    "lighter_close_up",
    "no_focus", "no_such_lens", "other_circle", "other_crop", "shape", "simple_rule",
}  # fmt: skip
"""Verdicts whose numbers are of no rig as it stands (what it would need, a crop, another school): they rest on the
figures they start from.
"""
SEEDS = max(24, BENCHES // 3)


FUNCTIONS = {"sqrt": sqrt, "log2": log2, "atan": atan, "min": min, "__builtins__": {}}


def in_python(text):
    """A formula as Python reads it."""
    signs = {"×": "*", "−": "-", "²": "**2", "^": "**", "√": "sqrt", "log₂": "log2", "\u00a0": ""}
    for sign, meant in signs.items():
        text = text.replace(sign, meant)
    return text


def as_shown(shown):
    """What the numbers come to as they are printed, and what is printed that they come to, without its unit."""
    left, _, right = shown.numbers.rpartition(" = ")
    if right == "same":
        return eval(in_python(left), dict(FUNCTIONS)), 0.0, right
    number = re.match(r"(−?)(?:f/|ISO\u00a0|\+|<)?([\d.]+)(?:/([\d.]+))?", right)
    printed = float(number[2]) / float(number[3] or 1) * (-1 if number[1] else 1)
    return eval(in_python(left), dict(FUNCTIONS)), printed, right


def put_through(line):
    """The formula as it is read, worked out with the values of its terms at full precision."""
    text = in_python(line.formula)
    values = {f"t{i}": float(one.value.value) for i, one in enumerate(line.terms)}
    symbols = {one.symbol: f"t{i}" for i, one in enumerate(line.terms)}
    text = SYMBOL.sub(lambda found: symbols.get(found[0], found[0]), text)
    return eval(text, dict(FUNCTIONS), values)


@cache
def benches():
    found = []
    for seed in range(SEEDS):
        brief, rigs, hold, conventions, reference = a_bench(seed)
        try:
            found.append(compare(brief, rigs, hold, conventions, reference))
        except DomainError:
            continue
    return found


def told_by(value, rigs, keys, comparison):
    """Whether a number is a figure of the rigs that a verdict rests on, a ratio of two of them, or what lies between
    them.
    """
    for key in keys:
        values = [float(value_of(key, comparison, rig).value) for rig in rigs]
        values += [float(value_of(key, comparison, comparison.first).value)]
        for one in values:
            for other in (1.0, *(v for v in values if v)):
                if any(
                    abs(found - value) <= 1e-9 * max(1e-9, abs(value))
                    for found in (one / other, one - other, other - one, other / one if one else 0, one)
                ):
                    return True
    return False


@tag("long")
class WhyTests(TestCase):
    def test_a_verdict_rests_on_figures_that_stand_in_it(self):
        numbers = {"m", "mm", "um", "f", "stops", "times", "share", "iso", "s", "deg", "g", "number", "n-stop"}
        met, told = Counter(), Counter()
        for comparison in benches():
            for verdict in verdicts(comparison):
                rigs = [comparison.of(index) for index in verdict.rigs]
                figures = [
                    abs(float(f.value))
                    for f in verdict.figures.values()
                    if f.kind in numbers and isfinite(float(f.value))
                ]
                if figures and RESTS_ON[verdict.key]:
                    met[verdict.key] += 1
                    told[verdict.key] += any(
                        told_by(value, rigs, RESTS_ON[verdict.key], comparison)
                        or told_by(-value, rigs, RESTS_ON[verdict.key], comparison)
                        for value in figures
                    )
        self.assertGreater(len(met), 25)
        untold = {key for key in met if told[key] < 0.8 * met[key]}
        self.assertEqual(untold - SEARCHED, set(), {key: (told[key], met[key]) for key in untold})

    def test_every_figure_has_a_why(self):
        self.assertEqual(set(WHYS), {*LINES, *SPECIAL})
        for key, why in WHYS.items():
            with self.subTest(key=key):
                self.assertTrue(why.says.endswith(".") and set(why.limits) <= set(LIMITS))

    def test_what_is_shown_gives_the_figure(self):
        met = Counter()
        for seed, comparison in enumerate(benches()):
            for index in range(len(comparison.rigs)):
                rig = comparison.of(index)
                for key in WHYS:
                    working = worked(key, comparison, rig)
                    if working is None:
                        continue
                    met[key] += 1
                    value = float(working.result.value)
                    with self.subTest(seed=seed, rig=index, key=key, formula=working.formula):
                        if key == "coc":
                            self.assertAlmostEqual(value / (1000 * rig.frames.coc_mm), 1, 12)
                        else:
                            self.assertEqual(value, value_of(key, comparison, rig).value)
                        # near the limits of depth digits are lost where two large numbers are taken from each other
                        lost = 1e-6 if key in ("far", "front", "behind", "total") else 1e-9
                        self.assertLess(abs(put_through(working) - value), lost * max(abs(value), 1e-6))
                        shown = written(working)
                        for text in (shown.formula, *(cell for row in shown.terms for cell in row)):
                            self.assertIsNone(UGLY.search(text), text)
                        self.assertIsNone(re.search(r"nan|\binf\b|[{}]", shown.numbers), shown.numbers)
                        self._adds_up(shown, value)
                        self.assertEqual(
                            {term.symbol for term in working.terms},
                            set(SYMBOL.findall(working.formula)) - {"log₂", "atan", "min"},
                        )
        self.assertEqual(set(met), set(WHYS) - WITHOUT, set(WHYS) - WITHOUT - set(met))

    def _adds_up(self, shown, value):
        """Whoever puts the printed numbers in gets what is printed, with its sign: to a few of the digits that are
        shown.
        """
        reached, printed, right = as_shown(shown)
        self.assertLess(abs(reached - value), 4e-3 * abs(value) + 1e-3, shown.numbers)
        if not re.match(r"[\d.]+\u00a0(?:in|ft)|level|<|0%", right):
            self.assertEqual(printed < 0, value < 0 and printed != 0, shown.numbers)

    def test_what_is_summed_is_what_is_carried(self):
        sensor = Sensor(36, 24, 6000)
        body, lens = (
            Body(sensor, weight_g=600, price=900, currency="EUR"),
            Lens(50, 50, weight_g=200, price=300, currency="EUR"),
        )
        for rig, weight, price in (
            (Rig(body, lens, 50, 4), 800, 1200),
            (Rig(body, lens, 50, 4, converter=2, converter_weight_g=100), 900, 1200),
            (Rig(body, replace(lens, currency="GBP", weight_g=None), 50, 4), None, None),
        ):
            comparison = compare(Brief(), (rig,), Hold(), Conventions())
            for key, expected in (("weight", weight), ("price", price)):
                line = worked(key, comparison, comparison.of(0))
                self.assertEqual(None if line is None else put_through(line), expected)

    def test_a_figure_without_end_or_not_known_has_no_working(self):
        for comparison in benches():
            for index in range(len(comparison.rigs)):
                rig = comparison.of(index)
                for key in WHYS:
                    if not rig.settings.focusable or not isfinite(value_of(key, comparison, rig).value):
                        self.assertIsNone(worked(key, comparison, rig))
