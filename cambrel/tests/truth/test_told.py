"""Sentences beside the verdicts, each judged by a predicate of its own: what dissolves, and whether somebody can tell
two pictures apart.
"""

import random
import re
from dataclasses import replace
from itertools import product
from unittest import TestCase

from django.test import tag

from cambrel.bench.faces import dissolving_sentence
from cambrel.bench.telling import noise_seen, told
from cambrel.comparison.engine import Body, Brief, Conventions, Hold, Lens, Rig, compare
from cambrel.optics.formats import Sensor
from cambrel.scenes import scenes
from cambrel.tests.truth.eye import Eye
from cambrel.wording import FEET, METRES

UNIT_M = {"mm": 0.001, "cm": 0.01, "m": 1.0, "km": 1000.0, "in": 0.0254, "ft": 0.3048}


def judged(text, size_m, details):
    """Whether a sentence says of its things what the size of the blur on them does."""
    lost = {name for name, size in details if size < size_m}
    kept = {name for name, size in details} - lost
    if size_m <= 0:
        return "no detail is lost" in text
    parts = re.search(r"under ([\d.,]+)\u00a0(\w+) is lost(?:: (.*))?\.$", text)
    if not parts or abs(float(parts[1].replace(",", "")) * UNIT_M[parts[2]] / size_m - 1) > 0.06:
        return False
    said = parts[3] or ""
    says_lost = {name for name in lost | kept if re.search(rf"an? {name} is gone", said)}
    says_kept = {name for name in lost | kept if re.search(rf"an? {name} is still there", said)}
    if not says_lost <= lost or not says_kept <= kept:
        return False
    # of what is lost the largest is named, of what stays the smallest; "even" where there is nothing on the other
    # side
    largest = max(lost, key=dict(details).get, default=None)
    smallest = min(kept, key=dict(details).get, default=None)
    whole = (not lost or largest in says_lost or (not kept)) and (not kept or smallest in says_kept or (not lost))
    return whole and ("even" in said) == (bool(lost) != bool(kept))


@tag("long")
class DissolvingTests(TestCase):
    def test_every_layer_of_every_scene_from_nothing_to_all(self):
        chance = random.Random(1)
        layers = [layer for scene in scenes().values() for layer in scene.layers if layer.details]
        self.assertGreater(len(layers), 15)
        for layer in layers:
            self.assertEqual(list(layer.details), sorted(layer.details, key=lambda detail: detail[1]), layer.name)
            sizes = [
                0.0,
                *(size for _, size in layer.details),
                *(size * f for _, size in layer.details for f in (0.99999, 1.00001)),
            ]
            sizes += [10 ** chance.uniform(-4, 2.5) for _ in range(50)]
            for size, units in product(sizes, (METRES, FEET)):
                text = dissolving_sentence(f"the {layer.name}", size, layer.details, units)
                self.assertTrue(judged(text, size, layer.details), f"{size} {text}")

    def test_a_wrong_sentence_is_found(self):
        details = (("brick", 0.2), ("door", 2.0))
        right = dissolving_sentence("the wall", 1.0, details, METRES)
        self.assertTrue(judged(right, 1.0, details))
        for wrong in (
            right.replace("brick is gone", "door is gone"),
            right.replace("1\u00a0m", "2\u00a0m"),
            right.replace("door is still there", "brick is still there"),
        ):
            self.assertFalse(judged(wrong, 1.0, details), wrong)


@tag("long")
class ToldTests(TestCase):
    def test_hits_against_chance_counted_out(self):
        for rounds in (1, 5, 10):
            runs = [sum(run) for run in product((0, 1), repeat=rounds)]
            for hits in range(rounds + 1):
                text = told(hits, rounds)
                share = sum(run >= hits for run in runs) / len(runs)
                said = float(re.search(r"in ([\d.]+)%", text)[1])
                self.assertAlmostEqual(said / 100, share, delta=0.03 * share + 1e-4, msg=text)
                self.assertEqual("you can tell" in text, share <= 0.05, text)
                self.assertEqual("no difference that you can rely on" in text, share > 0.05, text)


@tag("long")
class NoiseSeenTests(TestCase):
    """Rounds on two pictures say something of noise where nothing else differs in them: how clean the noisier was, from
    above or from below.
    """

    def test_only_where_noise_is_all_that_differs(self):
        base = Rig(Body(Sensor(36, 24, 6000)), Lens(), 50, 2.8, 1 / 125, 1600)
        cases = (
            ({"body": Body(Sensor(36, 24, 6000), offset_stops=-2.0)}, True),
            ({"body": Body(Sensor(36, 24, 6000), offset_stops=-0.1)}, False),  # as clean
            ({"shutter_s": 1 / 1000}, True),
            ({"f_number": 4.0}, False),  # deeper, and softer behind
            ({"focal_length_mm": 60}, False),
            ({"distance_m": 3.0}, False),
        )
        for change, speaks in cases:
            rigs = [base, replace(base, **change)]
            compared = compare(Brief(), rigs, Hold("own", "own", "own", "own"))
            a, b = compared.of(0), compared.of(1)
            eyes = [Eye(compared, index) for index in (0, 1)]
            for hits in range(11):
                found = noise_seen(hits, 10, *((a, b) if hits % 2 else (b, a)))
                with self.subTest(change=change, hits=hits):
                    self.assertEqual(found is not None, speaks)
                    if found is None:
                        continue
                    snr = min(eye.snr() for eye in eyes)
                    # nine of ten or more come up by guessing in about one run of a hundred, eight in five
                    sees = hits >= 9
                    self.assertEqual("You see it" in found.says, sees)
                    self.assertEqual("do not see it" in found.says, not sees)
                    self.assertTrue(snr <= found.below < snr + 1 if sees else snr - 1 < found.below <= snr)
                    self.assertAlmostEqual(float(re.search(r"noise of ([\d.]+)\.", found.says)[1]) / snr, 1, delta=0.01)

    def test_by_the_pixel_without_pixels_nothing_is_said(self):
        base = Rig(Body(Sensor(36, 24)), Lens(), 50, 2.8, 1 / 125, 1600)
        compared = compare(
            Brief(),
            [base, replace(base, shutter_s=1 / 1000)],
            Hold("own", "own", "own", "own"),
            Conventions(noise="pixel"),
        )
        self.assertIsNone(noise_seen(10, 10, compared.of(0), compared.of(1)))
