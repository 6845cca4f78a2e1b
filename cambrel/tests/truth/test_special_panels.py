"""What the panels of special work say beside the verdicts: trackers, flashes, skies, room before the lens, ways to a
tighter view, shake.
"""

from collections import Counter
from dataclasses import replace
from math import atan, ceil, degrees, inf, log2, radians
from random import Random
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.bench.faces import shake_sentence
from cambrel.comparison.engine import compare
from cambrel.comparison.flash import flash, says_flash
from cambrel.comparison.framing import says_working_distance, working_distance_m
from cambrel.comparison.starlight import says_tracker, tracked
from cambrel.comparison.tighter_views import ways
from cambrel.comparison.tonal_range import says_sky
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench, spread
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.judged import STOPS, over
from cambrel.tests.truth.said import BENCHES, UGLY
from cambrel.tests.truth.special import special
from cambrel.tests.truth.sphere import moved, worst
from cambrel.tests.truth.test_shutter_and_range import eyes_of
from cambrel.verdicts.sharp import what_limits
from cambrel.verdicts.special import lighter_close_up

CARRIED = {"hand": "in the hand", "monopod": "on a monopod", "gimbal": "on a gimbal"}


@tag("long")
class SpecialPanelTests(TestCase):
    def worded(self, said):
        text = wording.sentence(said)
        self.assertIsNone(UGLY.search(text), text)
        return text

    def near(self, got, wanted, places=7):
        self.assertAlmostEqual(got / wanted, 1, places=places)

    def test_the_lighter_close_up_about_its_thresholds(self):
        met = Counter()
        for seed in range(max(BENCHES, 120)):
            brief, rigs, hold, conventions, reference = a_bench(seed)
            random = Random(seed)
            if len(rigs) < 2:
                continue
            heavy = spread(random, 300, 2000)
            rigs = [
                replace(
                    rig,
                    body=replace(rig.body, weight_g=weight),
                    lens=replace(rig.lens, weight_g=0.0),
                    converter_weight_g=0.0,
                )
                for rig, weight in zip(rigs[:2], (heavy, heavy * random.uniform(0.85, 1.18)), strict=True)
            ]
            brief = replace(brief, width_shown_m=spread(random, 0.05, 0.4))
            try:
                compared = compare(brief, rigs, hold, conventions, min(reference, 1))
                prints = [compared.of(index).sharpness.largest_print_mm for index in range(2)]
                long = random.choice([one for one in prints if 20 < one < 90_000] or [420.0]) * spread(
                    random, 0.8, 1.25
                )
                compared = compare(replace(brief, shown_long_side_mm=long), rigs, hold, conventions, min(reference, 1))
            except DomainError:
                continue
            eyes = [Eye(compared, index) for index in range(2)]
            if not all(eye.focusable for eye in eyes):
                continue
            a, b = eyes if eyes[0].is_first else eyes[::-1]
            with self.subTest(seed=seed):
                judged = special(a, b, None)["lighter_close_up"]
                said = list(lighter_close_up(compared, compared.first, compared.of(b.index)))
                if judged.should is not None:
                    self.assertEqual(bool(said), judged.should)
                    met[judged.should] += 1
        self.assertGreater(min(met[True], met[False]), 5, met)

    def test_what_a_tracker_brings(self):
        met = Counter()
        for seed, random, compared, eye in eyes_of(1200):
            declination, payload, error, total = (
                random.choice([0.0, 35.0, -70.0]), 10 ** random.uniform(2, 4), 10 ** random.uniform(-1, 3),
                10 ** random.uniform(0, 5),
            )  # fmt: skip
            found = tracked(compared, compared.of(eye.index), declination, payload, error, total)
            with self.subTest(seed=seed, rig=eye.index):
                points = eye.points_s(eye.f * worst(eye, declination)) if eye.focusable and eye.c == eye.c else inf * 0
                self.assertEqual(found is not None, points == points)
                if found is None:
                    continue
                # until the tracker is off by the angle under which the circle of confusion is seen
                follows = eye.c / eye.f / radians(error / 3600) * 60
                self.near(found.tracked_s, follows)
                self.near(found.still_s, points, 3)
                said = says_tracker(compared.of(eye.index), found)
                text = self.worded(said)
                frames = [max(1, ceil(total / each - 1e-9)) for each in (points, follows)]
                if abs(total / points % 1) > 1e-3:
                    self.assertEqual(said.figures["frames"].value, frames[0])
                    self.assertEqual("takes one frame" in text, frames[0] == 1)
                if abs(total / follows % 1) > 1e-6:
                    self.assertEqual("tracker it is one frame" in text, frames[1] == 1)
                    if eye.body.raw_megabytes:
                        self.near(said.figures["less"].value, frames[1] * eye.body.raw_megabytes)
                self.assertEqual("of raw files" in text, eye.body.raw_megabytes is not None)
                load = eye.carried / payload
                way = "unknown" if load != load else "over" if load > 1 else "half" if load > 0.5 else "light"
                met[way] += 1
                self.assertEqual("not known" in text, way == "unknown")
                if way != "unknown":
                    self.near(said.figures["load"].value, load)
                    self.assertEqual(("too heavy" in text, "Over half" in text), (way == "over", way == "half"))
        self.assertEqual(set(met), {"unknown", "over", "half", "light"}, met)

    def test_what_a_flash_comes_to(self):
        met = Counter()
        for seed, _, compared, eye in eyes_of(1200, least=400):
            found, guide = flash(compared, compared.of(eye.index)), compared.brief.flash_guide_m
            with self.subTest(seed=seed, rig=eye.index):
                self.assertEqual(found is not None, eye.focusable and guide is not None)
                if found is None:
                    continue
                # enough where guide number = distance x effective f-number at ISO 100
                over_by = 2 * log2(guide / (eye.d / 1000 * eye.effective)) + log2(eye.iso / 100)
                self.assertAlmostEqual(found.error_stops, over_by, places=7)
                said = says_flash(compared.of(eye.index), found)
                text = self.worded(said)
                if over(abs(over_by), STOPS) is None:
                    continue
                way = "just" if abs(over_by) <= STOPS else "hand" if over_by > 0 else "short"
                met[way] += 1
                self.assertEqual(
                    ("just enough" in text, "to spare" in text, "short" in text),
                    (way == "just", way == "hand", way == "short"),
                )
                if way == "short":
                    self.near(said.figures["needed"].value, eye.iso * 2**-over_by)
                    self.assertEqual(
                        "more than the camera has" in text, said.figures["needed"].value > (eye.body.ceiling_iso or inf)
                    )
                if not eye.is_first and (first := Eye(compared, compared.reference)).focusable:
                    less = 2 * log2(first.effective / eye.effective) - log2(first.iso / eye.iso)
                    self.assertAlmostEqual(found.less_stops, less, places=7)
        self.assertEqual(set(met), {"just", "hand", "short"}, met)

    def test_how_much_sky(self):
        met = Counter()
        for seed, _, compared, eye in eyes_of(1200):
            first = Eye(compared, compared.reference)
            if eye.is_first:
                continue
            said = says_sky(compared.first, compared.of(eye.index))
            with self.subTest(seed=seed, rig=eye.index):
                if not (eye.focusable and first.focusable):
                    self.assertIsNone(said)
                    continue
                here, there = (degrees(atan(one.h / 2 / one.v)) for one in (eye, first))
                differs = over(abs(here / there - 1), 0.1)
                met[differs] += 1
                if differs is None:
                    continue
                self.assertEqual(said is not None, differs)
                if said is not None:
                    self.worded(said)
                    self.near(said.figures["here"].value, here)
                    self.near(said.figures["there"].value, there)
                    self.assertEqual(said.figures["word"].value, "more" if here > there else "less")
        self.assertTrue(met[True] and met[False], met)

    def test_room_before_the_lens(self):
        met = Counter()
        closer = {"distance_m": lambda random: 10 ** random.uniform(-1.2, 1)}
        for seed, _, compared, eye in eyes_of(1500, least=200, **closer):
            got = working_distance_m(compared.of(eye.index)) if eye.focusable else inf * 0
            with self.subTest(seed=seed, rig=eye.index):
                room = eye.room if eye.focusable else inf * 0
                self.assertEqual(got == got, room == room)
                if room != room:
                    continue
                self.assertAlmostEqual(1000 * got, room, places=6)
                text = self.worded(says_working_distance(compared.of(eye.index), got))
                wide = eye.lens.diameter_mm
                way = "inside" if room <= 0 else "shaded" if wide is not None and room < wide else "free"
                met[way] += 1
                self.assertEqual(
                    ("inside the lens" in text, "blocks the light" in text), (way == "inside", way == "shaded")
                )
        self.assertEqual(set(met), {"inside", "shaded", "free"}, met)

    def test_ways_to_a_tighter_view(self):
        met = Counter()
        for seed, _, compared, eye in eyes_of(700):
            found = {way.key: way for way in ways(compared, compared.of(eye.index))}
            seeing = [other for other in (Eye(compared, i) for i in range(len(compared.rigs))) if other.focusable]
            goal = min(seeing, key=lambda other: other.d / other.v * other.long)
            with self.subTest(seed=seed, rig=eye.index):
                times = eye.d / eye.v * eye.long / (goal.d / goal.v * goal.long) if eye.focusable else 1
                if over(times, 1.01) is None:
                    continue
                self.assertEqual(bool(found), times > 1.01)
                if not found:
                    continue
                met["ways"] += 1
                detail = self.detail(eye)
                self.near(found["crop"].finest_detail_mm, detail)
                # of several with one diagonal any may be meant, whatever their shapes
                field = goal.d / goal.v * goal.long
                alike = [other for other in seeing if other.d / other.v * other.long <= field * (1 + 1e-9)]
                kept = [min(1, other.wide / eye.wide) * min(1, other.high / eye.high) for other in alike]
                self.near(found["crop"].takes ** 2, min(kept, key=lambda one: abs(found["crop"].takes ** 2 / one - 1)))
                if "converter" in found:
                    s = eye.settings
                    with_it = Eye(compared, eye.index)
                    # the picture is so much larger on the sensor, at the same focus
                    longer = 1 / (1 / eye.u + 1 / (times * eye.v)) / eye.f
                    with_it.converter *= longer
                    with_it.settings = replace(
                        s, focal_length_mm=s.focal_length_mm * longer, f_number=s.f_number * longer
                    )
                    if (
                        with_it.settings.object_distance_m * 1000 > with_it.settings.focal_length_mm
                        and not self.is_held(compared, eye, longer)
                    ):
                        with_it._look()
                        self.near(found["converter"].takes, longer)
                        self.near(with_it.d / with_it.v * with_it.long, goal.d / goal.v * goal.long)
                        self.near(found["converter"].finest_detail_mm, self.detail(with_it), 6)
                        lost = 2 * log2(with_it.effective / eye.effective)
                        self.assertAlmostEqual(found["converter"].light_stops, -lost, places=6)
                        met["converter"] += 1
                if "walk" in found:
                    # nearer by so much that the subject fills as much as it would
                    there, offset = 1000 * found["walk"].takes, eye.u - eye.d
                    focus = there + offset
                    image = eye.f if focus == inf else eye.f * focus / (focus - eye.f)
                    self.near(image / there, times * eye.v / eye.d, 6)
                    self.assertEqual(found["walk"].is_barred, there < 1000 * (compared.brief.nearest_m or 0))
                    met["walk"] += 1
        self.assertGreater(min(met["converter"], met["walk"]), 50, met)

    def is_held(self, compared, eye, times):
        """Whether a converter meets a limit of the lens, at which it would not focus, open or be set as before."""
        limit = eye.lens.closest_m(eye.f / eye.converter)
        least = None if limit is None else 1000 * limit + (times * eye.f - eye.f / eye.converter)
        return bool(least and least > eye.u * (1 - 1e-9)) or (
            eye.lens.focal_min_mm is not None
            and not (eye.lens.focal_min_mm <= eye.f / eye.converter * (1 + 1e-9) <= eye.lens.focal_max_mm * (1 + 2e-9))
        )

    @staticmethod
    def detail(eye):
        """Width on the subject of the finest line that is told from the next."""
        return eye.d / eye.v * eye.h / eye.lines

    def test_what_limits_elsewhere(self):
        met = Counter()
        for seed, random, compared, eye in eyes_of(500):
            away = random.choice([inf, 10 ** random.uniform(-1, 3)])
            judged = compared.judged_at(away)[eye.index]
            with self.subTest(seed=seed, rig=eye.index, away=away):
                if not eye.focusable:
                    continue
                s, disc = judged.sharpness, eye.disc(1000 * away)
                drift = 0.0
                if away == inf and compared.brief.declination_deg is not None:
                    drift = eye.f * moved(compared.brief.declination_deg, 0, 0) * eye.t
                self.assertAlmostEqual(s.drift_mm * 2 * 0.6033545644016142, drift, delta=1e-5 * drift + 1e-12)
                at = Eye(compared, eye.index)
                at.disc = lambda x, n=None, disc=disc: disc
                if drift < 1e-9:
                    v = at.half_contrast(moved=0.0)
                    self.near(s.mtf50_per_mm, v)
                text = self.worded(what_limits(judged, away))
                self.assertIn("at " + wording.distance(away), text)
                met["far" if away == inf else "near"] += 1
        self.assertEqual(set(met), {"far", "near"})

    def test_what_is_said_of_shake(self):
        met = Counter()
        for seed, _, compared, eye in eyes_of(600):
            with self.subTest(seed=seed, rig=eye.index):
                if not eye.focusable:
                    continue
                text = shake_sentence(compared, compared.of(eye.index), float(compared.as_carried_mm[eye.index]))
                support = eye.brief.support or "hand"
                met[support] += 1
                if support == "tripod":
                    self.assertEqual(text, "On a tripod nothing shakes.")
                    continue
                if eye.c != eye.c:
                    self.assertIn(text, ("Its shake is not known.", f"Shake {CARRIED[support]}."))
                    continue
                eye.brief = replace(eye.brief, support=support)
                self.assertIn(wording.times(eye.shake / eye.c), text)
        self.assertEqual(set(met), {"hand", "monopod", "gimbal", "tripod"})
