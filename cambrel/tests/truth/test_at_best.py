"""The settings that a picture asks for, held against what they are for: nothing here calls the rules that chose
them.
"""

import json
from collections import Counter
from dataclasses import replace
from functools import lru_cache
from math import hypot, inf, isfinite, log2
from pathlib import Path
from random import Random
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison.best_settings import asked
from cambrel.comparison.engine import compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.rig import BY_HAND
from cambrel.optics.formats import FORMATS
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench, spread
from cambrel.tests.truth.demands import contrast
from cambrel.tests.truth.demands import demands as demands_of
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.judged import STOPS, WEIGHT, over
from cambrel.tests.truth.said import BENCHES, KEPT, UGLY, parts_of, parts_of_check
from cambrel.verdicts.ranking import found, verdicts

CLOSE = 1e-7
KNOWN = json.loads((Path(__file__).parent / "sentences.json").read_text())


@lru_cache(maxsize=KEPT)
def best_bench(seed):
    """A random bench at its best, worked out once for all tests; None where none can be."""
    brief, rigs, hold, conventions, reference = a_bench(seed)
    random = Random(50_000 + seed)
    d = brief.distance_m
    front, behind = d * spread(random, 1e-3, 0.9), random.choice([inf, d * spread(random, 1e-3, 5)])
    brief = replace(
        brief,
        focus_distance_m=None,
        distance_from="lens",
        sharp_front_m=front if random.random() < 0.5 else None,
        sharp_behind_m=behind if random.random() < 0.5 else None,
        blur_share=spread(random, 1e-4, 0.05) if random.random() < 0.3 else None,
        width_shown_m=d * spread(random, 0.05, 2) if random.random() < 0.6 else None,
        framing_deg=random.uniform(3, 110) if random.random() < 0.1 else None,
    )
    if random.random() < 0.3:
        rigs = [replace(rig, by_hand="".join(key for key in BY_HAND if random.random() < 0.3)) for rig in rigs]
    rigs = [
        replace(
            rig,
            body=replace(rig.body, weight_g=spread(random, 300, 900)),
            lens=replace(rig.lens, weight_g=spread(random, 100, 900)),
            converter_weight_g=0.0,
        )
        for rig in rigs
    ]
    try:
        return compare(brief, rigs, replace(hold, is_best=True), conventions, reference)
    except DomainError:
        return None


def best_benches():
    for seed in range(min(max(BENCHES, 260), 1500)):
        compared = best_bench(seed)
        if compared is not None:
            yield seed, compared


class Sight(Eye):
    """A rig at its best: what is used of its frame is what all goes by."""

    def __init__(self, comparison, index):
        super().__init__(comparison, index)
        kept = float(comparison.asked.kept_side[index])
        self.kept = kept
        self.w, self.h, self.diagonal, self.long = (side * kept for side in (self.w, self.h, self.diagonal, self.long))
        self.area, self.crop = self.area * kept**2, self.crop / kept
        self.pixels *= kept**2
        if self.terms.criterion != "two_pixels":
            self.c *= kept
        if self.focusable:
            self._look()

    def widest(self, focal):
        """As wide as it is known to open, else as the fastest lenses that are made for such a sensor."""
        if self.lens.widest:
            return super().widest(focal)
        size = hypot(self.rig.sensor.width_mm, self.rig.sensor.height_mm)
        made = min(FORMATS.values(), key=lambda one: abs(hypot(one.width_mm, one.height_mm) / size - 1))
        return max(made.fastest_f_number * self.converter, 0.5)


@tag("long")
class AtBestTests(TestCase):
    def sights(self):
        for seed, compared in best_benches():
            for index in range(len(compared.rigs)):
                yield seed, compared, Sight(compared, index)

    def test_each_setting_serves_what_it_is_for(self):
        met = Counter()
        for seed, compared, eye in self.sights():
            if not eye.focusable:
                met["sees nothing"] += 1
                continue
            brief, rig, index = compared.brief, eye.rig, eye.index
            bound = {key: str(value[index]) for key, value in compared.asked.bindings.items()}
            with self.subTest(seed=seed, rig=index, bound=bound):
                self.frame(compared, eye, bound, met)
                at = 1000 * brief.distance_m
                near, far = at - 1000 * (brief.sharp_front_m or 0), at + 1000 * (brief.sharp_behind_m or 0)
                asks = (
                    (brief.sharp_front_m is not None or brief.sharp_behind_m is not None)
                    and near > 0
                    and eye.c == eye.c
                )
                spread_ = max(eye.disc(near), eye.disc(far)) / eye.c if asks else 0.0
                # the range is sharp wherever the lens closes far enough, and the focus is as near to the subject as
                # it may be
                if (
                    asks
                    and eye.n < min(eye.smallest, 256 * eye.converter) * (1 - CLOSE)
                    and "n" not in rig.by_hand
                    and bound["focus"] != "limit"
                ):
                    self.assertLessEqual(spread_, 1 + 1e-6)
                    met["sharp"] += 1
                # nearer than the focal length there is no image, wherever it is focused
                ends = bound["focus"] in ("far end", "near end") and at > eye.f
                if asks and ends and brief.blur_share is None:
                    self.assertAlmostEqual(spread_, 1, delta=1e-5)
                    self.assertTrue((eye.u > at) == (bound["focus"] == "far end"))
                    met[bound["focus"]] += 1
                self.light(compared, eye, bound, met)
                # it is stopped down only while that costs no ISO
                if bound["iso"] == "light" and not rig.by_hand and eye.iso > (eye.body.base_iso or 100) * (1 + 1e-6):
                    self.assertIn(bound["f_number"], ("wide open", "range", "smallest", "light"))
                    if bound["f_number"] == "wide open":
                        self.assertAlmostEqual(eye.n, eye.widest(eye.f), delta=1e-9 * eye.n)
                if bound["f_number"] == "easy" and not asks and eye.c == eye.c:
                    self.assertAlmostEqual(eye.airy / eye.c, 0.5, delta=1e-6)
                    met["easy"] += 1
                if bound["f_number"] == "background" and not asks and bound["focus"] == "subject":
                    self.assertAlmostEqual(eye.background / eye.diagonal / brief.blur_share, 1, delta=1e-6)
                    met["background"] += 1
        self.assertGreaterEqual(len(met), 14, met)

    def frame(self, compared, eye, bound, met):
        """The frame shows what is asked, but where the lens is too long for it, or is set by hand."""
        brief, met_of = compared.brief, bound["focal_length"]
        met[met_of] += 1
        low, high = eye.range
        self.assertTrue(low * (1 - CLOSE) <= eye.f <= high * (1 + CLOSE))
        if met_of == "short end":
            self.assertAlmostEqual(eye.f, low, delta=CLOSE * low)
            return
        asks = brief.sharp_front_m is not None or brief.sharp_behind_m is not None
        shows = brief.framing_deg is None and brief.width_shown_m is not None and met_of in ("framing", "crop")
        if shows and not asks and bound["focus"] == "subject":
            self.assertAlmostEqual(eye.wide / brief.width_shown_m, 1, delta=1e-6)
            met["framed"] += 1

    def light(self, compared, eye, bound, met):
        """As long as nothing that blurs is met, as little ISO as that leaves, and never darker than the light asks but
        where the body ends.
        """
        body, rig, base = eye.body, eye.rig, eye.body.base_iso or 100.0
        met[bound["shutter"]] += 1
        if not set("ti") & set(rig.by_hand):
            right = over(abs(eye.error), 1e-6)
            highest, fastest = body.ceiling_iso or inf, body.fastest_shutter_s or 0.0
            if right:
                self.assertTrue(eye.iso >= highest * (1 - CLOSE) or eye.t <= fastest * (1 + CLOSE), eye.error)
            self.assertTrue(base * (1 - CLOSE) <= eye.iso <= max(highest, base) * (1 + CLOSE))
            eye.brief = replace(eye.brief, support=eye.brief.support or "hand")
            held = min(eye.held_s(eye.steadied), 1.0) if eye.brief.support != "tripod" else inf
            if "f" not in rig.by_hand and eye.terms.hand != "typed" and bound["focal_length"] != "crop":
                self.assertLessEqual(eye.t, max(held, fastest) * (1 + 1e-6))
            asks = eye.brief.sharp_front_m is not None or eye.brief.sharp_behind_m is not None
            if eye.c == eye.c and eye.movement and not asks and bound["focus"] == "subject":
                self.assertLessEqual(min(eye.movement / eye.c, 2), 1 + 1e-6 if eye.t > fastest * (1 + CLOSE) else 3)
            self.assertLessEqual(
                eye.t, max(min(eye.brief.slowest_shutter_s or inf, eye.slowest_s), fastest) * (1 + CLOSE)
            )
            if (
                bound["iso"] == "light"
                and eye.iso < highest
                and bound["shutter"] in ("hands", "movement", "stars", "brief", "body")
            ):
                self.assertGreater(eye.iso, base * (1 - CLOSE))
            if bound["shutter"] == "base":
                self.assertAlmostEqual(eye.iso, base, delta=1e-6 * base)

    def test_what_is_missed_and_said(self):
        met = Counter()
        for seed, compared in best_benches():
            judged = fulfilment(compared)
            for index in range(len(compared.rigs)):
                eye, asked_ = Sight(compared, index), compared.asked
                with self.subTest(seed=seed, rig=index):
                    if not eye.focusable:
                        continue
                    demands = {key: str(value[index]) for key, value in asked_.statuses.items()}
                    missed = {key: float(value[index]) for key, value in asked_.shortfalls_stops.items()}
                    for key, value in missed.items():
                        if key in ("framing", "sharpness") or demands[key] == "unknown":
                            continue
                        level = (
                            "works"
                            if value <= STOPS
                            else "just falls short"
                            if value <= 1 or key in ("diffraction", "bright")
                            else "does not work"
                        )
                        if None not in (over(value, STOPS), over(value, 1)) and not (key == "range" and eye.c != eye.c):
                            self.assertEqual(
                                demands[key], level if not (key == "diffraction" and eye.c != eye.c) else "works", key
                            )
                    self.assertAlmostEqual(max(0.0, -eye.error), missed["dark"], delta=1e-6)
                    self.assertAlmostEqual(max(0.0, eye.error), missed["bright"], delta=1e-6)
                    left = contrast(eye)
                    if left is not None and over(left, 0.5) is not None and over(left, 0.3) is not None:
                        self.assertEqual(
                            demands["sharpness"],
                            "works" if left >= 0.5 else "just falls short" if left >= 0.3 else "does not work",
                        )
                        met["sharpness", demands["sharpness"]] += 1
                    worst = asked_.status[index]
                    order = ["does not work", "unknown", "just falls short", "works"]
                    self.assertEqual(worst, min(demands.values(), key=order.index))
                    if asked_.fails[index]:
                        self.assertEqual(demands[asked_.fails[index]], worst)
                    beside = [check.status for check in judged[index].checks if check.key in ("room", "range", "cover")]
                    self.assertEqual(judged[index].status, min([worst, *beside], key=order.index), "one set of demands")
                    for check in judged[index].checks:
                        if check.key not in ("framing", "width") and demands_of(eye).get(check.key):
                            self.assertEqual(check.status, demands_of(eye)[check.key], check.key)
                    for check in judged[index].checks:
                        for part in parts_of_check(check.text):
                            self.assertIn(part, KNOWN[f"check {check.key}"])
                        self.assertIsNone(UGLY.search(wording.sentence(check)), wording.sentence(check))
                        met[check.key, check.status] += 1
            keys = Counter(verdict.key for verdict in found(compared))
            met["at_its_best"] += keys["at_its_best"]
            self.assertEqual(keys["at_its_best"], sum(compared.settings.focusable.tolist()))
            for verdict in verdicts(compared):
                self.assertIsNone(UGLY.search(wording.sentence(verdict)), wording.sentence(verdict))
                self.assertNotIn("as set", verdict.text)
                if verdict.key in ("at_its_best", "both_at_best", "brightness"):
                    for part in parts_of(verdict.text):
                        self.assertIn(part, KNOWN[verdict.key])
        self.assertGreaterEqual(len(met), 16, met)

    def test_both_that_make_it_are_weighed_by_noise_and_by_grams(self):
        met = Counter()
        for seed, compared in best_benches():
            done = fulfilment(compared)
            said = {verdict.rigs: verdict for verdict in found(compared) if verdict.key == "both_at_best"}
            a = Sight(compared, compared.reference)
            for other in compared.others():
                b, pair = Sight(compared, other.index), (compared.reference, other.index)
                both = all(done[index].status == "works" for index in pair) and a.focusable and b.focusable
                with self.subTest(seed=seed, pair=pair):
                    self.assertEqual(pair in said, both)
                    if not both:
                        continue
                    verdict = said[pair]
                    stops = 2 * log2(b.snr() / a.snr())
                    if over(abs(stops), STOPS) is not None:
                        met["level" if abs(stops) <= STOPS else "cleaner"] += 1
                        self.assertEqual("equally clean" in verdict.text, abs(stops) <= STOPS)
                        if abs(stops) > STOPS:
                            self.assertEqual(verdict.figures["clean"].value, (b if stops > 0 else a).index)
                    grams = b.carried - a.carried
                    share = abs(grams) / max(a.carried, b.carried)
                    if over(share, WEIGHT) is not None:
                        self.assertEqual("lighter" in verdict.text, share > WEIGHT)
                        met["lighter"] += share > WEIGHT
        self.assertTrue(met["level"] and met["cleaner"] > 3 and met["lighter"] > 3, met)

    def test_one_rig_is_asked_as_it_is_among_others(self):
        for seed, compared in list(best_benches())[:150]:
            for index, rig in enumerate(compared.rigs):
                if rig.by_hand or rig.mode is not None or compared.brief.width_shown_m is None or rig.converter != 1:
                    continue
                one = asked(compared.brief, rig.body, rig.lens, compared.conventions)
                with self.subTest(seed=seed, rig=index):
                    for name in ("focal_length_mm", "focus_distance_m", "f_number", "shutter_s", "iso"):
                        got, wanted = getattr(one, name), float(getattr(compared.asked, name)[index])
                        self.assertTrue(
                            (got != got and wanted != wanted) or abs(got - wanted) <= 1e-12 * abs(wanted), name
                        )
                    self.assertTrue(isfinite(one.shortfalls_stops["framing"]))
