"""What is said close up, worked out again: what frames a width, what would give it, how many frames a range takes."""

from collections import Counter
from dataclasses import replace
from math import inf, isfinite, log2
from random import Random
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison import framing
from cambrel.comparison.engine import compare
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench, spread
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.judged import over
from cambrel.tests.truth.said import BENCHES, UGLY


def close_up_benches():
    """The random benches, half of them much nearer, with a width and a range that are asked for."""
    for seed in range(BENCHES):
        brief, rigs, hold, conventions, reference = a_bench(seed)
        random = Random(seed)
        if seed % 2:
            d = rigs[reference].focal_length_mm * spread(random, 3, 30) / 1000
            brief = replace(brief, distance_m=d, focus_distance_m=None, background_m=None, foreground_m=None,
                            sharp_front_m=d * spread(random, 1e-3, 0.1), sharp_behind_m=d * spread(random, 1e-3, 0.3),
                            width_shown_m=spread(random, 0.01, 0.3))  # fmt: skip
        try:
            yield seed, compare(brief, rigs, hold, conventions, reference)
        except DomainError:
            continue


def largest(eye):
    """Magnification at the closest focus, with the converter; endless for a lens of any length, None where it is not
    known.
    """
    closest = eye.lens.closest_m(eye.f / eye.converter)
    if closest is None:
        return inf if eye.lens.focal_min_mm is None else None
    bare = eye.f / eye.converter
    return bare / (1000 * closest - bare) * eye.converter


def sharp_from(eye, n, near_mm):
    """Where to focus so that the near limit lies here, by halving; None where nothing finite does."""
    hyper = eye.f**2 / (n * eye.c) + eye.f
    if near_mm >= hyper - eye.f:
        return None

    def limit(u):
        return u * (hyper - eye.f) / (hyper + u - 2 * eye.f)

    low, high = near_mm, near_mm * 1e9
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (low, middle) if limit(middle) > near_mm else (middle, high)
    return low


def frames(eye, n, near_mm, far_mm):
    at, count = near_mm, 0
    hyper = eye.f**2 / (n * eye.c) + eye.f
    while count < 200:
        count += 1
        u = sharp_from(eye, n, at)
        if u is None or u >= hyper:
            return count
        at = u * (hyper - eye.f) / (hyper - u)
        if at >= far_mm * (1 - 1e-9):
            return count
    return None


@tag("long")
class CloseworkTests(TestCase):
    def test_what_on_the_shelf_gives_a_framing(self):
        met = Counter()
        for seed, compared in close_up_benches():
            random = Random(seed)
            aids = [
                framing.Aid(f"tube {i}", random.choice(["Tarn", "Pipwren", ""]), spread(random, 2, 80), None)
                for i in range(3)
            ]
            aids += [framing.Aid(f"glass {i}", "", None, spread(random, 0.5, 20)) for i in range(2)]
            for eye in (Eye(compared, index) for index in range(len(compared.rigs))):
                rig = compared.of(eye.index)
                framed, most = framing.framing(compared, rig), largest(eye) if eye.focusable else None
                if framed is None or most is None or not framed.wanted > framed.largest:
                    continue
                with self.subTest(seed=seed, rig=eye.index):
                    wanted, reached = eye.w / (1000 * compared.brief.width_shown_m), {}
                    for aid in aids:
                        if aid.length_mm and aid.mount and aid.mount == eye.lens.mount:
                            # a tube moves the lens away from the sensor
                            reached[aid.called] = (eye.f * (1 + most) + aid.length_mm) / eye.f - 1
                        elif aid.dioptres:
                            # the powers of two thin lenses add; the image distance stays
                            both = 1 / (1 / eye.f + aid.dioptres / 1000)
                            reached[aid.called] = eye.f * (1 + most) / both - 1
                    enough = {name: m for name, m in reached.items() if m >= wanted}
                    if any(abs(m / wanted - 1) < 1e-6 for m in reached.values()):
                        continue
                    found = framing.aid_for(rig, framed, aids)
                    text = wording.sentence(framing.says_aid(found, len(aids)))
                    self.assertIsNone(UGLY.search(text), text)
                    met[bool(enough)] += 1
                    self.assertEqual(found is not None, bool(enough))
                    if found:
                        best = min(enough, key=lambda name: enough[name])
                        self.assertEqual(found[0].called, best)
                        self.assertAlmostEqual(found[1] / enough[best], 1, places=7)
                        self.assertIn(best, text)
        self.assertTrue(met[True] and met[False], met)

    def test_what_frames_a_width_and_what_would(self):
        met = Counter()
        for seed, compared in close_up_benches():
            for eye in (Eye(compared, index) for index in range(len(compared.rigs))):
                rig = compared.of(eye.index)
                found = framing.framing(compared, rig)
                with self.subTest(seed=seed, rig=eye.index):
                    self.assertEqual(found is not None, eye.focusable and compared.brief.width_shown_m is not None)
                    if found is None:
                        continue
                    wanted, most = eye.w / (1000 * compared.brief.width_shown_m), largest(eye)
                    if most is not None and isfinite(most) and over(wanted, most) is None:
                        continue
                    said = framing.says_framing(rig, found)
                    text = wording.sentence(said)
                    self.assertIsNone(UGLY.search(text), text)
                    self.assertAlmostEqual(said.figures["m"].value / wanted, 1, places=9)
                    if most is None:
                        met["unknown"] += 1
                        self.assertIn("is not on record", text)
                    elif wanted <= most:
                        met["reached"] += 1
                        # so far away the frame is as wide as that
                        u = 1000 * said.figures["u"].value
                        self.assertAlmostEqual(
                            eye.w * (u - eye.f) / eye.f / (1000 * compared.brief.width_shown_m), 1, places=8
                        )
                    else:
                        met["lacks", bool(eye.lens.mount)] += 1
                        self.assertEqual("tube" in text, bool(eye.lens.mount))
                        factor = wanted / most
                        if over(factor, 1.01) is not None is not over(factor, 2):
                            makes = bool(eye.lens.mount) and eye.converter == 1 and 1.01 < factor <= 2
                            self.assertEqual("converter" in text, makes)
                            met["converter"] += makes
                        costs = over(2 * log2((1 + wanted) / (1 + most)), 0.1)
                        if costs is not None:
                            self.assertEqual("of light" in text, costs and bool(eye.lens.mount))
                        self.assertAlmostEqual(found.tube_mm / (eye.f * (wanted - most)), 1, places=8)
                        self.assertAlmostEqual(found.tube_stops, 2 * log2((1 + wanted) / (1 + most)), places=8)
                        v = eye.f * (1 + most) / 1000
                        u = 1 / (1000 / eye.f + found.dioptres - 1 / v)
                        self.assertAlmostEqual(v / u / wanted, 1, places=7)
        self.assertGreaterEqual(len(met), 4, met)

    def test_how_many_frames_a_range_takes(self):
        met = Counter()
        for seed, compared in close_up_benches():
            for eye in (Eye(compared, index) for index in range(len(compared.rigs))):
                rig = compared.of(eye.index)
                now = framing.stack(compared, rig, rig.settings.f_number)
                if now is None or not now.frames < 100:
                    continue
                front, behind = compared.brief.sharp_front_m or 0, compared.brief.sharp_behind_m or 0
                near, far = eye.d - 1000 * front, eye.d + 1000 * behind
                with self.subTest(seed=seed, rig=eye.index):
                    useful = framing.stack(compared, rig, framing.smallest_useful_f_number(rig))
                    said = framing.says_stack(rig, now, useful)
                    text = wording.sentence(said)
                    self.assertIsNone(UGLY.search(text), text)
                    most = largest(eye)
                    first = sharp_from(eye, eye.n, near)
                    near_enough = most is None or first is None or eye.f / (first - eye.f) <= most * (1 + 1e-9)
                    self.assertEqual("cannot focus close enough" in text, not near_enough)
                    count = frames(eye, eye.n, near, far)
                    self.assertEqual(now.frames, count)
                    if near_enough:
                        met["no stack" in text, "enough at" in text, "smallest aperture" in text] += 1
                        self.assertEqual("needs no stack" in text, count == 1)
                    if near_enough and "limit" in said.figures:
                        limit = min(eye.n * eye.c / eye.airy, eye.smallest)
                        self.assertAlmostEqual(said.figures["limit"].value / limit, 1, places=8)
                        self.assertEqual(said.figures["fewer"].value, frames(eye, limit, near, far))
        self.assertGreaterEqual(len(met), 3, met)
