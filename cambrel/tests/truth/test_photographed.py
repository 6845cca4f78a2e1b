"""From a photograph: the format that its file tells, the light that its exposure tells, and what another camera would
set for it, each judged by arithmetic of its own.
"""

import random
from dataclasses import replace
from math import inf, isnan, log2
from unittest import TestCase

from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.engine import compare
from cambrel.comparison.photographed import SAME_PICTURE, Photograph, bench_of
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.optics.formats import FULL_FRAME
from cambrel.tests.truth.benches import BODIES, LENSES, spread
from cambrel.tests.truth.eye import Eye
from cambrel.verdicts.another_camera import on_other, on_others

COUNT = 300
SERIES = [100 * 2 ** (n / 3) for n in range(-9, 40)]


def taken_bench(seed):
    """A photograph by one camera of the demo shelf before a bench of others."""
    chance = random.Random(seed)
    rigs = []
    for _ in range(chance.choice([2, 3])):
        lens = chance.choice([lens for lens in LENSES if lens.rectilinear])
        focal = spread(chance, lens.focal_min_mm, lens.focal_max_mm * (1 + 1e-12))
        widest = float(lens.widest_f_number(focal))
        rigs.append(
            Rig(
                chance.choice(BODIES), chance.choice([lens, Lens()]), focal, widest * 2 ** chance.choice([0, 1, 2]),
                spread(chance, 1 / 4000, 1 / 2), chance.choice([100, 200, 400, 1600, 6400]),
            )
        )  # fmt: skip
    distance = max(spread(chance, 0.01, 200), 1.2 * rigs[0].focal_length_mm / 1000)
    standing = Bench(Brief(sharp_behind_m=2.0, slowest_shutter_s=0.01), tuple(Slot(rig) for rig in rigs))
    picture = Photograph(
        standing.slots[0], distance, "Photograph", chance.random() < 0.3, chance.choice(["native", "3:2"])
    )
    return bench_of(picture, standing, standing.slots[1:])


class PhotographTests(TestCase):
    def test_the_light_is_the_one_that_the_picture_is_exposed_for(self):
        as_taken = 0
        for seed in range(COUNT):
            bench = taken_bench(seed)
            rig, d = bench.rigs[0], 1000 * bench.brief.distance_m
            bellows = d / (d - rig.focal_length_mm)
            light = log2((rig.f_number * bellows) ** 2 / rig.shutter_s * 100 / rig.iso)
            self.assertAlmostEqual(bench.brief.light_ev, light, 9)
            first = compare(bench.brief, bench.rigs, bench.hold, bench.conventions).of(0)
            s = first.settings
            if s.focusable and (s.object_distance_m, s.f_number, s.shutter_s, s.iso) == (
                bench.brief.distance_m, rig.f_number, rig.shutter_s, rig.iso
            ):  # fmt: skip
                as_taken += 1
                self.assertAlmostEqual(first.light.error_stops, 0, 9)
        self.assertGreater(as_taken, COUNT / 4)

    def test_what_another_picture_asked_for_is_not_asked_of_it(self):
        bench = taken_bench(1)
        plain = replace(Brief(), distance_m=bench.brief.distance_m, light_ev=bench.brief.light_ev)
        self.assertEqual(replace(bench.brief, upright=False, shape="native"), plain)
        self.assertEqual((bench.hold, bench.reference, bench.brief_name), (SAME_PICTURE, 0, "Photograph"))

    def test_a_flash_leaves_the_light_as_it_stood(self):
        slot = Slot(Rig(Body(FULL_FRAME)))
        standing = Bench(Brief(light_ev=5.5), (slot,))
        for flashed, light in ((True, 5.5), (False, log2((4 * 2 / 1.95) ** 2 * 125 * 100 / 400))):
            bench = bench_of(Photograph(slot, 2.0, is_flashed=flashed), standing, ())
            self.assertAlmostEqual(bench.brief.light_ev, light, 9)

    def test_what_another_camera_would_set(self):
        seen = dict.fromkeys(("For the same", "{off}", "depth of field", "{stops}", "focused"), 0)
        for seed in range(COUNT):
            bench = taken_bench(seed)
            compared = compare(bench.brief, bench.rigs, bench.hold, Conventions())
            a = Eye(compared, 0)
            for index in range(1, len(bench.rigs)):
                said, b = on_other(compared, index), Eye(compared, index)
                if not b.focusable:
                    self.assertIn("cannot focus that close", said.text)
                    continue
                figures = {key: figure.value for key, figure in said.figures.items()}
                self.assertEqual((figures["focal"], figures["f"], figures["shutter"]), (b.f, b.n, b.t))
                self.assertLess(abs(log2(figures["iso"] / min(SERIES, key=lambda iso: abs(log2(iso / b.iso))))), 0.05)
                view = (b.d / b.v * b.long) / (a.d / a.v * a.long)
                self.judge(said, "{off}", abs(view - 1) - 0.01, ("wider" if view > 1 else "tighter",), seed)
                self.judge_depth(said, a, b, seed)
                brighter = log2(b.iso * b.t / b.effective**2) - log2(a.iso * a.t / a.effective**2)
                self.judge(said, "{stops}", abs(brighter) - 1 / 6, ("brighter" if brighter > 0 else "darker",), seed)
                self.judge(said, "{focus_b}", abs(b.u / a.u - 1) - 0.01, (), seed)
                parts = ("{off}", "{depth_b}", "{near_b}", "{stops}", "{focus_b}")
                self.assertEqual("For the same photograph" in said.text, not any(part in said.text for part in parts))
                for part in seen:
                    seen[part] += part in said.text
        self.assertTrue(all(count > 5 for count in seen.values()), seen)

    def judge(self, said, place, over, words, seed):
        """A part is there just where it is over its threshold, with the word for its side."""
        if abs(over) > 1e-9:
            self.assertEqual(place in said.text, over > 0, (seed, said))
        if place in said.text:
            self.assertTrue(all(word in said.text for word in words), (seed, said))

    def judge_depth(self, said, a, b, seed):
        (near_a, far_a), (near_b, far_b) = (a.near, a.far), (b.near, b.far)
        if any(isnan(limit) for limit in (near_a, far_a, near_b, far_b)):
            return self.assertNotIn("depth of field", said.text)
        if inf in (far_a, far_b):
            level = far_a == far_b and abs(near_b / near_a - 1) <= 0.05
            self.assertNotIn("{depth_b}", said.text)
        else:
            ratio = (far_b - near_b) / (far_a - near_a)
            if abs(abs(ratio - 1) - 0.05) < 1e-6:
                return None
            level = abs(ratio - 1) <= 0.05
            self.assertNotIn("{near_b}", said.text)
        return self.assertEqual("depth of field" in said.text, not level, (seed, said))

    def test_a_camera_that_cannot_focus_there_is_named(self):
        near, tele = Rig(Body(FULL_FRAME), focal_length_mm=50.0), Lens(200.0, 200.0, ((200.0, 2.8),))
        compared = compare(Brief(distance_m=0.15), [near, Rig(Body(FULL_FRAME), tele)], SAME_PICTURE, Conventions())
        self.assertEqual(on_other(compared, 1).text, "{b} cannot focus that close.")

    def test_nothing_is_said_where_something_else_is_held(self):
        bench = taken_bench(3)
        compared = compare(bench.brief, bench.rigs, bench.hold, Conventions())
        self.assertEqual(len(on_others(compared)), len(bench.rigs) - 1)
        other = compare(bench.brief, bench.rigs, replace(bench.hold, aperture="own"), Conventions())
        self.assertEqual(on_others(other), [])
