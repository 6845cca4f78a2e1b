"""What is answered of two lenses, each sentence judged again: views by the measure in force, light by areas, close up
exactly.
"""

import os
import random
import re
from math import hypot, log2, sqrt
from unittest import TestCase

from django.test import tag

from cambrel.ask.asking import asked
from cambrel.ask.question_kind import Terms
from cambrel.comparison.brief import Conventions

QUESTIONS = max(150, int(os.environ.get("CAMBREL_TRUTH_BENCHES", 200)) // 2)
SIZES = {"ff": (36, 24), "mft": (17.3, 13), "aps-c": (23.5, 15.6), "44x33": (43.8, 32.9), "1 inch": (13.2, 8.8)}
NUMBERS = (1.2, 1.4, 1.8, 2, 2.8, 3.5, 4, 5.6, 8)
MEASURES = {
    "diagonal": hypot,
    "width": lambda w, h: w,
    "height": lambda w, h: h,
    "area": lambda w, h: sqrt(w * h),
}


class Lens:
    """A lens on a format, focused so near, or far away."""

    def __init__(self, focal, number, key, grams, by, metres):
        self.f, self.n, self.key, self.grams = focal, number, key, grams
        self.area = SIZES[key][0] * SIZES[key][1]
        self.long = MEASURES[by](*SIZES[key])
        self.full = MEASURES[by](36, 24)
        self.u = 1000 * metres if metres else None
        self.v = focal if self.u is None else 1 / (1 / focal - 1 / self.u)
        self.pupil, self.effective = focal / number, number * self.v / focal

    def on(self, long):
        """The focal length that sees the same on a frame of that length."""
        image = self.v / self.long * long
        return image if self.u is None else 1 / (1 / image + 1 / self.u)


def judged(case, text, found, a, b):
    views = b.on(b.full) / a.on(a.full)
    stops = log2(b.area / b.effective**2) - log2(a.area / a.effective**2)
    pupil = 2 * log2(b.pupil / a.pupil)
    edges = (max(views, 1 / views) - 1.01, abs(stops) - 1 / 6, abs(pupil) - 1 / 6)
    if min(map(abs, edges)) < 1e-6:
        return
    alike, level, deep = (edge < 0 for edge in edges)
    said = found.says
    same = alike and level and deep
    case.assertEqual("take the same picture" in said, same, text)
    case.assertEqual("frame alike" in said, alike and not same, text)
    case.assertEqual("A frames like" in said, not alike, text)
    case.assertEqual("both gather the same light" in said.lower(), level and not same, text)
    case.assertEqual("A gathers" in said, stops < -1 / 6, text)
    case.assertEqual("B gathers" in said, stops > 1 / 6, text)
    case.assertEqual(
        "has less depth of field" in said, alike and not deep, f"of depth only where both frame alike: {text}"
    )
    if alike and not deep:
        case.assertIn(f"{'B' if pupil > 0 else 'A'} has less depth", said, text)
    if not level:
        told = float(re.search(r"gathers (\d+(?:\.\d+)?)", said)[1])
        case.assertAlmostEqual(told, abs(stops), delta=0.06, msg=text)
        case.assertEqual("stop more" in said.replace("\u00a0", " "), told == 1, text)
    if not alike:
        shown = [float(one.replace(",", "")) for one in re.findall(r"like ([\d,]+(?:\.\d+)?)", said)]
        for one, exact in zip(shown, (a.on(a.full), b.on(b.full)), strict=True):
            case.assertAlmostEqual(one / exact, 1, delta=0.006, msg=text)
    case.assertEqual(" at " in said.split(". ")[0], a.u is not None, text)
    fair = " ".join(found.more)
    light, heavy = (a, b) if a.grams < b.grams else (b, a)
    compared = bool(a.grams and b.grams) and abs(a.grams / b.grams - 1) > 0.05
    case.assertEqual("compare fairly" in fair, compared and alike and deep, text)
    case.assertEqual("no fair match" in fair, compared and not (alike and deep), text)
    if "no fair match" in fair:
        case.assertIn("A weighs less" if light is a else "B weighs less", fair)
        focal, number = re.search(r"format is ([\d,]+(?:\.\d+)?)\u00a0mm f/(\d+(?:\.\d+)?)", fair).groups()
        there = light.on(heavy.long)
        case.assertAlmostEqual(float(focal.replace(",", "")) / there, 1, delta=0.006, msg=text)
        case.assertAlmostEqual(float(number) / (there / light.pupil), 1, delta=0.05, msg=text)
    for lens, side in zip((a, b), found.sides, strict=True):
        there = lens.on(lens.full)
        figures = [
            float(re.sub(r"[^\d.]", "", text)) for text in (side.on.view, side.on.depth_and_light, side.on.exposure)
        ]
        for shown, exact in zip(figures, (there, there / lens.pupil, lens.effective), strict=True):
            case.assertAlmostEqual(shown / exact, 1, delta=0.05, msg=text)


@tag("long")
class AskedTests(TestCase):
    def test_thousands(self):
        chance = random.Random(7)
        for _ in range(QUESTIONS):
            ka, kb = chance.choice(list(SIZES)), chance.choice(list(SIZES))
            by, metres = chance.choice(list(MEASURES)), chance.choice((None, None, 0.3, 1.0))
            fa, na = chance.choice((12, 25, 35, 50, 85, 135)), chance.choice(NUMBERS)
            near = Lens(fa, na, ka, 0, by, metres)
            there = near.on(MEASURES[by](*SIZES[kb]))
            close = chance.random()
            off = chance.choice((1, 1, 1.009, 0.991, 1.011, 0.989))
            fb = float(f"{there * off:.4g}") if close < 0.6 else chance.choice((20, 50, 90))
            step = 2 ** chance.choice((0, 0, 0.08, -0.08, 0.09, -0.09))
            nb = float(f"{there / near.pupil * step:.3g}") if close < 0.4 else chance.choice(NUMBERS)
            masses = (chance.randint(100, 1500), chance.randint(100, 1500)) if chance.random() < 0.5 else (0, 0)
            if not 0.8 <= nb <= 32 or (metres and max(fa, fb) > 800 * metres):
                continue
            a, b = Lens(fa, na, ka, masses[0], by, metres), Lens(fb, nb, kb, masses[1], by, metres)
            text = " vs ".join(
                f"{one.f:g} mm f/{one.n:g} {one.key}" + (f" {one.grams} g" if one.grams else "") for one in (a, b)
            )
            text += f" at {metres:g} m" if metres else ""
            found = asked(text, Terms(Conventions(crop_by=by))).answer
            self.assertEqual(len(found.sides), 2, text)
            judged(self, text, found, a, b)

    def test_what_people_take_for_close_up_equivalents(self):
        """Sixty millimetres at f/4 from 18 cm, and ninety at f/6: the same picture, which the crop factor alone does
        not see.
        """
        self.assertIn("take the same picture at 18", asked("60 f/4 mft vs 90 f/6 ff at 18cm", Terms()).answer.says)
