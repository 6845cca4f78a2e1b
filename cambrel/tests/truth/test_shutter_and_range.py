"""What is said of the slowest shutter and of the tonal range, judged from single photons and single streaks."""

from collections import Counter
from dataclasses import replace
from math import ceil, inf, isfinite
from random import Random
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison.engine import compare
from cambrel.comparison.slowest_shutter import says_steady, steady
from cambrel.comparison.tonal_range import lifted_snr, range_of, says_range
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench
from cambrel.tests.truth.demands import held_stops
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.judged import STOPS, over
from cambrel.tests.truth.said import BENCHES, UGLY
from cambrel.tests.truth.sphere import worst


def eyes_of(most, least=120, **changes):
    for seed in range(min(max(BENCHES, least), most)):
        brief, rigs, hold, conventions, reference = a_bench(seed)
        random = Random(seed)
        brief = replace(brief, **{name: change(random) for name, change in changes.items()})
        try:
            compared = compare(brief, rigs, hold, conventions, reference)
        except DomainError:
            continue
        for index in range(len(rigs)):
            yield seed, random, compared, Eye(compared, index)


@tag("long")
class ShutterTests(TestCase):
    def test_what_binds_the_shutter(self):
        met = Counter()
        stars = {"declination_deg": lambda random: random.choice([None, None, 0.0, 50.0])}
        for seed, _, compared, eye in eyes_of(1500, **stars):
            support, found = eye.brief.support or "hand", steady(compared, compared.of(eye.index))
            with self.subTest(seed=seed, rig=eye.index, support=support, school=eye.terms.hand):
                self.assertEqual(found is not None, eye.focusable)
                if found is None:
                    continue
                said = says_steady(compared.of(eye.index), found)
                text = wording.sentence(said)
                self.assertIsNone(UGLY.search(text), text)
                brief = eye.brief
                ends = {
                    f"the {support}": eye.held_s(eye.steadied),
                    # as long until the subject has moved by what still counts as a point
                    "subject movement": (
                        eye.c / (eye.movement / eye.t) if eye.movement and eye.c == eye.c else inf
                    ),
                    "the time that the picture allows": brief.slowest_shutter_s or inf,
                    "the body's slowest shutter": eye.slowest_s,
                    "the stars": inf if brief.declination_deg is None
                    else eye.points_s(eye.f * worst(eye, brief.declination_deg, 1)),
                }  # fmt: skip
                ends = {name: inf if end != end else end for name, end in ends.items()}
                slowest = min(ends.values())
                if slowest == inf:
                    met["nothing"] += 1
                    self.assertIn("Nothing here limits", text)
                    continue
                self.assertAlmostEqual(said.figures["slowest"].value / slowest, 1, places=5)
                if sorted(ends.values())[1] / slowest > 1.001:
                    binds = min(ends, key=lambda name: ends[name])
                    self.assertEqual(said.figures["binds"].value, binds)
                    met[binds] += 1
                iso = 10 / (0.1 * 2.0**brief.light_ev * slowest / eye.effective**2)
                self.assertAlmostEqual(said.figures["iso"].value / iso, 1, places=5)
                like = Eye(compared, compared.reference).iso_as_noisy_as(eye.snr(10 / found.iso))
                self.assertEqual(like != like, found.looks_like_iso != found.looks_like_iso)
                if like == like:
                    self.assertAlmostEqual(found.looks_like_iso / like, 1, places=6)
                highest, base = eye.body.ceiling_iso or inf, eye.body.base_iso or 0
                if None not in (over(iso / highest, 1), over(base / iso, 1)) and abs(iso / highest - 1) > 1e-4 < abs(
                    base / iso - 1
                ):
                    self.assertEqual("above its highest" in text, iso > highest)
                    self.assertEqual("below its base" in text, iso < base)
                if abs(eye.t / slowest - 1) > 1e-4:
                    self.assertEqual("is too slow" in text, eye.t > slowest)
                    self.assertEqual("fast enough" in text, eye.t < slowest)
        self.assertGreaterEqual(len(met), 7, met)

    def test_what_range_a_frame_holds(self):
        met = Counter()
        scene = {"scene_range_stops": lambda random: random.uniform(4, 20)}
        for seed, _, compared, eye in eyes_of(1500, **scene):
            if not eye.focusable:
                continue
            found = range_of(compared, compared.of(eye.index), eye.iso)
            with self.subTest(seed=seed, rig=eye.index):
                self.assertEqual(found is not None, eye.pitch == eye.pitch)
                if found is None:
                    continue
                held = {school: held_stops(eye, school) for school in ("picture", "engineer")}
                self.assertEqual(found.is_stated, eye.body.range_stops is not None and eye.shots == 1)
                for school, stops in held.items():
                    self.assertAlmostEqual(found.by[school], stops, places=7)
                # shadows are as noisy as a picture with so much less light
                shadow = eye.snr(eye.exposure / 2.0**3.5)
                self.assertAlmostEqual(lifted_snr(compared, compared.of(eye.index), 3.5) / shadow, 1, places=9)
                wanted, own = eye.brief.scene_range_stops, held[eye.terms.range]
                said = says_range(compared, compared.of(eye.index), wanted, found)
                text = wording.sentence(said)
                self.assertIsNone(UGLY.search(text), text)
                frames = inf if own < 1 else 1 if wanted - own <= STOPS else 1 + ceil((wanted - own) / min(2, own))
                way = "none" if own < 1 else "one" if frames == 1 else "many"
                met[way, eye.terms.range, eye.terms.noise] += 1
                self.assertEqual("holds less than a stop" in text, way == "none")
                self.assertEqual("holds all" in text, way == "one")
                self.assertEqual("Bracketing takes" in text, way == "many")
                pixel = "clean pixel by pixel" if eye.terms.noise == "pixel" else "clean over the whole picture"
                self.assertIn(pixel if eye.terms.range == "picture" else "above the noise of one pixel", text)
                if way == "many":
                    self.assertEqual(said.figures["frames"].value, frames)
                    self.assertAlmostEqual(said.figures["own"].value, own, places=7)
                self.assertTrue(isfinite(own))
        self.assertGreaterEqual(len(met), 9, met)
