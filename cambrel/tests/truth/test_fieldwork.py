"""What a sheet of shots says, from the physics again: settings that the cameras offer, what their steps cost, and every
prediction.
"""

from collections import Counter
from dataclasses import replace
from functools import cache
from itertools import pairwise
from math import inf, isfinite, log2, sqrt
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison.brief import Hold
from cambrel.comparison.engine import compare
from cambrel.optics.quantities import DomainError
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS
from cambrel.tests.truth.benches import a_bench
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.said import BENCHES, UGLY
from cambrel.tests.truth.test_at_best import Sight
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.plans import changes_of_rig, shift_mm, shots_of, usual
from cambrel.trials.trial_shots import rounded

SEEDS = max(60, BENCHES // 5)


def on_a_camera(value, series, low, high):
    """Whether a camera offers a setting: a mark of its series, or an end of its own range."""
    ends = [end for end in (low, high) if end is not None]
    return any(abs(value / end - 1) < 1e-9 for end in ends) or any(
        abs(value / stop.typed - 1) < 1e-9 for stop in series
    )


@cache
def benches():
    """Comparisons with all the shots that would prove them, and as they are at the settings that cameras offer."""
    return list(_benches())


def _benches():
    for seed in range(SEEDS):
        brief, rigs, hold, conventions, reference = a_bench(seed)
        hold = Hold(is_best=True) if seed % 3 == 0 else hold
        try:
            compared = compare(brief, rigs, hold, conventions, reference)
            yield seed, compared, shots_of(compared, list(TRIALS)), rounded(compared)
        except DomainError:
            continue


@tag("long")
class FieldworkTests(TestCase):
    def test_every_shot_can_be_set_and_shows_what_is_predicted(self):
        met = Counter()
        for seed, compared, shots, made in benches():
            eyes = {}
            for shot in shots:
                with self.subTest(seed=seed, shot=shot.key):
                    index = shot.rig
                    if index not in eyes:
                        eyes[index] = (Sight if made.asked is not None else Eye)(made, index)
                    eye, rig = eyes[index], made.rigs[index]
                    lens, body = made.of(index).carrier.lens, rig.body
                    widest = eye.widest(eye.f) / eye.converter if lens.widest else None
                    self.assertTrue(
                        on_a_camera(shot.f_number / eye.converter, F_NUMBERS, widest, lens.smallest_f_number)
                    )
                    # stars are counted out beyond the marks, in whole seconds
                    counted = shot.trial == "stars" and shot.shutter_s >= 30 and shot.shutter_s == int(shot.shutter_s)
                    marked = on_a_camera(shot.shutter_s, SHUTTERS, body.fastest_shutter_s, rig.slowest_shutter_s)
                    self.assertTrue(counted or marked)
                    self.assertLessEqual(shot.shutter_s, (rig.slowest_shutter_s or inf) * (1 + 1e-9))
                    self.assertTrue(on_a_camera(shot.iso, ISOS, body.base_iso, body.ceiling_iso))
                    s = compared.of(index).settings
                    cost = log2((s.f_number / shot.f_number) ** 2 * shot.shutter_s / s.shutter_s * shot.iso / s.iso)
                    self.assertAlmostEqual(shot.cost_stops, cost)
                    # what the steps of the others lose the ISO takes up, unless it ends there
                    # a camera whose base is not on record is not asked for less than the usual one, unless it is set so
                    base = body.base_iso or min(100, s.iso / 2 ** (1 / 6))
                    self.assertGreaterEqual(shot.iso, base)
                    ends = [end for end in (base, body.ceiling_iso, ISOS[0].typed, ISOS[-1].typed) if end]
                    if not any(abs(shot.iso / end - 1) < 0.3 for end in ends):
                        self.assertLess(abs(cost), 1 / 3)
                    self.assertAlmostEqual(shot.place_m / s.subject_distance_m, 1)
                    if made.asked is None:
                        same = shot.focus_m == s.object_distance_m or abs(shot.focus_m / s.object_distance_m - 1) < 1e-6
                        self.assertTrue(same, "focused where it was computed")
                    text = wording.sentence(shot.predicted)
                    self.assertIsNone(UGLY.search(text), text)
                    getattr(self, f"_{shot.trial}")(
                        made, eye, shot, {key: one.value for key, one in shot.predicted.figures.items()}, text
                    )
                    met[shot.trial] += 1
        self.assertEqual(set(met), set(TRIALS), met)

    def close(self, one, other, places=6):
        self.assertAlmostEqual(one / other, 1, places=places)

    def _framing(self, made, eye, shot, figures, text):
        self.close(figures["wide"], eye.wide)
        if not eye.is_first:
            first = (Sight if made.asked is not None else Eye)(made, made.reference)
            ratio = eye.wide / first.wide
            if "ratio" in figures:
                self.close(figures["ratio"], ratio)
            if abs(abs(ratio - 1) - 0.01) > 1e-6:
                self.assertEqual("as wide as" in text, abs(ratio - 1) > 0.01)

    def _depth(self, made, eye, shot, figures, text):
        self.close(figures["near"], eye.near)
        self.assertEqual("horizon" in text, eye.far == float("inf"))
        # the marks outside really are soft, the limits are not
        self.assertGreater(eye.disc(1000 * figures["before"]), eye.c)
        if "far" in figures:
            self.close(figures["far"], eye.far)
            self.assertGreater(eye.disc(1000 * figures["behind"]), eye.c)

    def _close(self, made, eye, shot, figures, text):
        self.assertGreaterEqual(eye.m, 0.05 * (1 - 1e-9))
        self.close(figures["total"], eye.total)
        self.close(figures["ruler"], eye.total * sqrt(2))

    def _blur(self, made, eye, shot, figures, text):
        self.close(figures["share"], eye.background / eye.diagonal)

    def _noise(self, made, eye, shot, figures, text):
        self.close(figures["snr"], eye.snr())
        self.assertIn("pixel by pixel" if eye.terms.noise == "pixel" else "over the whole picture", text)
        if not eye.is_first:
            first = (Sight if made.asked is not None else Eye)(made, made.reference)
            stops = 2 * log2(eye.snr() / first.snr())
            if abs(abs(stops) - 1 / 6) > 1e-6:
                self.assertEqual("as clean" in text, abs(stops) <= 1 / 6)
                self.assertEqual("cleaner than" in text, stops > 1 / 6)
                self.assertEqual("noisier than" in text, stops < -1 / 6)

    def _diffraction(self, made, eye, shot, figures, text):
        n = shot.f_number
        over = eye.airy / eye.n * n / eye.c
        if abs(over - 1) > 0.02:
            self.assertEqual("not softened" not in text, over > 1)
        self.close(figures["limit"], eye.n * eye.c / eye.airy)

    def _reach(self, made, eye, shot, figures, text):
        self.close(figures["pixels"], min(eye.brief.subject_height_m, eye.high) * 1000 * eye.v / eye.d / eye.pitch, 5)

    def _stars(self, made, eye, shot, figures, text):
        longest = figures["t"]
        if "drawn out" in text:
            self.assertGreaterEqual(shot.shutter_s, 2 * longest * (1 - 1e-9))
            self.assertLess(shot.shutter_s, 2 * longest * 1.4 + 1)
        else:
            self.assertLessEqual(shot.shutter_s, max(longest, 1 / 32000))
        if eye.terms.star_rule.startswith("rule"):
            self.close(longest, eye.points_s(0))

    def _steadiness(self, made, eye, shot, figures, text):
        self.assertEqual(shot.times, 10)
        self.assertNotEqual(eye.brief.support, "tripod")
        if eye.terms.hand != "typed":
            self.close(figures["t"], eye.held_s(eye.steadied))

    def _range(self, made, eye, shot, figures, text):
        self.assertTrue(isfinite(figures["stops"]) and figures["stops"] > 0)

    def test_the_order_is_that_of_least_work(self):
        met = Counter()
        for seed, compared, shots, made in benches():
            with self.subTest(seed=seed):
                see = {
                    i
                    for i in range(len(made.rigs))
                    if made.of(i).settings.focusable and compared.of(i).settings.focusable
                }
                self.assertEqual({shot.rig for shot in shots if shot.trial == "framing"}, see, "no place is left out")
                places = [shot.place_m for shot in shots]
                self.assertTrue(all(b >= a * (1 - 2e-3) for a, b in pairwise(places)), "never back to a place")
                stands = len({(round(log2(shot.place_m) * 500), shot.rig) for shot in shots})
                self.assertLessEqual(changes_of_rig(shots), max(stands - 1, 0), "no camera comes twice to a place")
                self.assertEqual(len({shot.key for shot in shots}), len(shots))
                met["several places" if places and places[-1] > places[0] * 1.01 else "one place"] += 1
        self.assertEqual(len(met), 2, met)

    def test_two_tripods_side_by_side_shift_the_background_by_what_similar_triangles_say(self):
        for _, compared, _, _ in benches():
            first = compared.first
            if not first.settings.focusable or compared.brief.background_m is None:
                continue
            d, x = first.settings.subject_distance_m, first.settings.subject_distance_m + compared.brief.background_m
            # seen from 0.3 m to the side, subject and background lie at two angles
            apart = 0.3 / d - (0.3 / x if isfinite(x) else 0.0)
            self.close(shift_mm(compared, first), apart * first.view.image_distance_mm)

    def test_what_the_picture_is_about_is_tried_by_itself(self):
        for _, compared, _, _ in benches():
            keys, brief = usual(compared), compared.brief
            self.assertEqual("stars" in keys, brief.declination_deg is not None)
            self.assertEqual("blur" in keys, brief.background_m is not None)
            self.assertEqual("steadiness" in keys, brief.support == "hand")
            self.assertNotEqual("depth" in keys, "close" in keys)
        alone = replace(compared.brief, declination_deg=None)
        self.assertNotIn(
            "stars", usual(compare(alone, compared.rigs, compared.hold, compared.conventions, compared.reference))
        )
