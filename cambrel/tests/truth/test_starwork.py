"""What is said of stars, from a sphere that is turned and seen through a plane: no formula of the core is used."""

from collections import Counter
from dataclasses import replace
from math import inf, pi
from random import Random
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison.engine import compare
from cambrel.comparison.starlight import says_stars, starlight
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.said import BENCHES, UGLY
from cambrel.tests.truth.sphere import moved, worst

NEAR = 1e-3
"""Within so much of a threshold a small step does not decide."""


def beyond(value, limit):
    limit *= 1.01
    return None if abs(value / limit - 1) < NEAR else value > limit


@tag("long")
class StarworkTests(TestCase):
    def test_how_long_stars_stay_points(self):
        met = Counter()
        for seed in range(min(BENCHES, 1500)):
            brief, rigs, hold, conventions, reference = a_bench(seed)
            random = Random(seed)
            declination = random.choice([-90.0, 90.0, 0.0, random.uniform(-89, 89)])
            rigs = [replace(rig, shutter_s=random.choice([0.5, 2, 8, 30, 120])) for rig in rigs]
            try:
                compared = compare(brief, rigs, hold, conventions, reference)
            except DomainError:
                continue
            for eye in (Eye(compared, index) for index in range(len(compared.rigs))):
                found = starlight(compared, compared.of(eye.index), declination)
                with self.subTest(seed=seed, rig=eye.index):
                    self.assertEqual(found is not None, eye.focusable and eye.c == eye.c)
                    if found is None:
                        continue
                    said = says_stars(compared.of(eye.index), found)
                    text = wording.sentence(said)
                    self.assertIsNone(UGLY.search(text), text)
                    at_pole = abs(declination) == 90
                    middle = inf if at_pole else eye.c / (eye.f * moved(declination, 0, 0))
                    ends = eye.c / (eye.f * worst(eye, declination))
                    self.assertEqual("the pole" in text, at_pole)
                    if not at_pole:
                        self.assertAlmostEqual(said.figures["middle"].value / middle, 1, places=5)
                    self.assertAlmostEqual(said.figures["worst"].value / ends, 1, places=5)
                    trails, in_middle = beyond(eye.t, ends), not at_pole and beyond(eye.t, middle)
                    if None in (trails, in_middle):
                        continue
                    way = "trails" if in_middle else "edge" if trails else "points"
                    met[way] += 1
                    self.assertEqual("points all over the frame" in text, way == "points")
                    self.assertEqual("points in the middle, and at the edge" in text, way == "edge")
                    self.assertEqual("they trail, up to" in text, way == "trails")
                    if way != "points":
                        self.assertAlmostEqual(said.figures["times"].value * ends / eye.t, 1, places=5)
        self.assertEqual(set(met), {"points", "edge", "trails"}, met)

    def test_what_is_gathered_of_stars_and_sky(self):
        for seed in range(0, BENCHES, 3):
            brief, rigs, hold, conventions, reference = a_bench(seed)
            try:
                compared = compare(brief, rigs, hold, conventions, reference)
            except DomainError:
                continue
            eyes = [Eye(compared, index) for index in range(len(rigs))]
            first = eyes[reference]
            for eye in eyes:
                found = starlight(compared, compared.of(eye.index), 35.0)
                if found is None or first.c != first.c:
                    continue
                with self.subTest(seed=seed, rig=eye.index):

                    def points(e):
                        return pi * e.pupil**2 * min(e.t, e.c / (e.f * moved(35.0, 0, 0)))

                    ratio = 2.0**found.points_stops / (points(eye) / points(first))
                    self.assertAlmostEqual(ratio, 1, places=5)
                    sky = (eye.t / eye.n**2) / (first.t / first.n**2)
                    self.assertAlmostEqual(2.0**found.sky_stops / sky, 1, places=9)
