"""What is answered of two lenses that were asked about, each sentence judged again by diagonals alone: in both directions and at its threshold."""

import os
import random
import re
from math import hypot, log2
from unittest import TestCase

from cambrel.ask.answering import answer
from cambrel.optics.brief import Conventions
from cambrel.phrases import read

QUESTIONS = max(200, int(os.environ.get("CAMBREL_TRUTH_BENCHES", 400)) // 2)
SIZES = {"ff": (36, 24), "mft": (17.3, 13), "aps-c": (23.5, 15.6), "44x33": (43.8, 32.9), "1 inch": (13.2, 8.8)}
NUMBERS = (1.2, 1.4, 1.8, 2, 2.8, 3.5, 4, 5.6, 8)


def crop(key):
    return hypot(36, 24) / hypot(*SIZES[key])


def asked(a, b):
    text = " vs ".join(f"{f:g} mm f/{n:g} {key}" + (f" {mass} g" if mass else "") for f, n, key, mass in (a, b))
    return text, answer(read(text), Conventions())


def judged(case, text, found, a, b):
    (fa, na, ka, ma), (fb, nb, kb, mb) = a, b
    views = fb * crop(kb) / (fa * crop(ka))
    stops = 2 * log2(na * crop(ka) / (nb * crop(kb)))
    alike = abs(views - 1) <= 0.01
    if min(abs(abs(views - 1) - 0.01), abs(abs(stops) - 1 / 6)) < 1e-6:
        return
    said = found.says
    case.assertEqual("frame alike" in said, alike, text)
    case.assertEqual("A frames like" in said, not alike, text)
    level = abs(stops) <= 1 / 6
    case.assertEqual("both have the same" in said, level, text)
    case.assertEqual("A gathers" in said, stops < -1 / 6, text)
    case.assertEqual("B gathers" in said, stops > 1 / 6, text)
    case.assertEqual("depth of field" in said, alike, f"of depth only where both frame alike: {text}")
    if not level:
        told = float(re.search(r"gathers ([\d.]+)", said)[1])
        case.assertAlmostEqual(told, abs(stops), delta=0.06, msg=text)
        case.assertEqual("stop more" in said.replace("\u00a0", " "), told == 1, text)
    if not alike:
        shown = [float(one.replace(",", "")) for one in re.findall(r"like ([\d.,]+)", said)]
        for one, exact in zip(shown, (fa * crop(ka), fb * crop(kb)), strict=True):
            case.assertAlmostEqual(one / exact, 1, delta=0.006, msg=text)
    compared = bool(ma and mb) and abs(ma / mb - 1) > 0.05
    case.assertEqual("compare fairly" in found.fair, compared and alike and level, text)
    case.assertEqual("no fair match" in found.fair, compared and not (alike and level), text)
    if "no fair match" in found.fair:
        (fl, nl, kl, _), (_, _, kh, _) = (a, b) if ma < mb else (b, a)
        case.assertIn("opponent of A" if ma < mb else "opponent of B", found.fair)
        k = crop(kl) / crop(kh)
        focal, number = re.search(r"would be ([\d.,]+)\u00a0mm f/([\d.]+)", found.fair).groups()
        case.assertAlmostEqual(float(focal.replace(",", "")) / (fl * k), 1, delta=0.006, msg=text)
        case.assertAlmostEqual(float(number) / (nl * k), 1, delta=0.05, msg=text)


class AskedTests(TestCase):
    def test_thousands(self):
        chance = random.Random(7)
        for _ in range(QUESTIONS):
            ka, kb = chance.choice(list(SIZES)), chance.choice(list(SIZES))
            fa, na = chance.choice((12, 25, 35, 50, 85, 135)), chance.choice(NUMBERS)
            k = crop(ka) / crop(kb)
            close = chance.random()
            fb = (
                float(f"{fa * k * chance.choice((1, 1, 1.009, 0.991, 1.011, 0.989)):.4g}")
                if close < 0.6
                else chance.choice((20, 50, 90))
            )
            nb = (
                float(f"{na * k * 2 ** chance.choice((0, 0, 0.08, -0.08, 0.09, -0.09)):.3g}")
                if close < 0.4
                else chance.choice(NUMBERS)
            )
            masses = (chance.randint(100, 1500), chance.randint(100, 1500)) if chance.random() < 0.5 else (0, 0)
            if not 0.8 <= nb <= 32:
                continue
            a, b = (fa, na, ka, masses[0]), (fb, nb, kb, masses[1])
            text, found = asked(a, b)
            self.assertEqual(len(found.sides), 2, text)
            judged(self, text, found, a, b)
