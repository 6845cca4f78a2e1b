"""What a lever gives is what was wanted, by formulas of its own; and where it is said that one never does, no place on
it would.
"""

import os
import random
from dataclasses import replace
from math import exp, hypot, inf, isfinite, log, log2
from unittest import TestCase

from django.test import tag

from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.engine import Body, Lens, Rig, compare
from cambrel.comparison.levers import AS_SET, LEVERS, standpoint
from cambrel.comparison.wishes import WISHES, LeverMoved, LeverStuck, solved, taking
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.verdicts.takings import lines_of, stuck_says

CASES = int(os.environ.get("CAMBREL_TRUTH_BENCHES", 30)) * 2 // 3
OWN = ("blur", "depth", "size", "light")
"""Figures that have a formula of their own below."""


class Picture:
    """A thin lens before a subject: what of it is wanted, straight from the rays."""

    def __init__(self, stands):
        rig, brief = stands.rig, stands.brief
        self.w, self.h = rig.body.sensor.width_mm, rig.body.sensor.height_mm
        times = rig.converter
        self.f, self.n, self.t = rig.focal_length_mm * times, rig.f_number * times, rig.shutter_s
        self.u, self.s = 1000 * rig.distance_m, 1000 * (brief.background_m or 0)
        self.tall, self.circle = 1000 * brief.subject_height_m, hypot(self.w, self.h) / 1500

    @property
    def v(self):
        return self.f * self.u / (self.u - self.f)

    def blur(self):
        return self.f / self.n * self.v * self.s / (self.u * (self.u + self.s)) / hypot(self.w, self.h)

    def depth(self):
        # where the cone through the pupil is as wide as the circle, on either side of the sensor
        pupil = self.f / self.n
        near = 1 / (1 / self.f - (1 - self.circle / pupil) / self.v)
        behind = 1 / self.f - (1 + self.circle / pupil) / self.v
        ends = sorted((near, 1 / behind)) if behind else (near, inf)
        return inf if ends[0] < 0 else (ends[1] - ends[0]) / 1000

    def size(self):
        return self.tall * self.v / self.u / self.h

    def light(self):
        return self.t / (self.n * self.v / self.f) ** 2 * self.w * self.h


def chosen(chance):
    made = FORMATS[chance.choice(list(FORMATS))]
    focal = exp(chance.uniform(log(4), log(600)))
    lens = chance.choice(
        (Lens(), Lens(focal, focal, ((focal, chance.choice((1.4, 2.8, 4.0))),), smallest_f_number=22.0))
    )
    widest = lens.widest[0][1] if lens.widest else 1.0
    rig = Rig(
        Body(Sensor(made.width_mm, made.height_mm, 6000)),
        lens,
        focal,
        widest * exp(chance.uniform(0, 2)),
        shutter_s=exp(chance.uniform(log(1 / 4000), 0)),
        converter=chance.choice((1.0, 1.0, 1.4)),
    )
    distance = focal / 1000 * rig.converter * exp(chance.uniform(0.5, 7))
    brief = Brief(
        distance_m=distance,
        subject_height_m=distance * chance.uniform(0.01, 0.8),
        background_m=exp(chance.uniform(-2, 4)),
    )
    return standpoint(compare(brief, [rig], AS_SET, Conventions()), 0)


@tag("long")
class LeverTests(TestCase):
    def test_a_lever_that_is_applied_gives_what_was_wanted_or_truly_cannot(self):
        chance = random.Random(30)
        moved = stuck = 0
        for _ in range(CASES):
            stands = chosen(chance)
            wish = WISHES[chance.choice(OWN)]
            now = getattr(Picture(stands), wish.key)()
            if not isfinite(now):
                continue
            wanted = now * exp(chance.uniform(-2, 2))
            for key in wish.levers:
                found = solved(stands, wish, LEVERS[key], self.in_its_unit(stands, wish, now, wanted))
                with self.subTest(wish=wish.key, lever=key, stands=stands, wanted=wanted):
                    if isinstance(found, LeverMoved):
                        moved += 1
                        got = getattr(Picture(found.stands), wish.key)()
                        self.assertAlmostEqual(got / wanted, 1, delta=1e-9)
                        shown = wish.read(found.stands, found.stands.figures)
                        wanted_here = self.in_its_unit(stands, wish, now, wanted)
                        self.assertAlmostEqual(shown / wanted_here, 1, delta=1e-9, msg="on the bench it comes to that")
                    elif isinstance(found, LeverStuck):
                        stuck += 1
                        self.never(stands, wish, LEVERS[key], wanted)
        self.assertGreater(moved, CASES)
        self.assertGreater(stuck, 0)

    def in_its_unit(self, stands, wish, now, wanted):
        """What is wanted, in the unit of the comparison: of light it counts photons."""
        return wish.read(stands, stands.figures) * wanted / now

    def never(self, stands, wish, lever, wanted):
        """At many places on the lever, by formulas of its own: always on one side of what is wanted."""
        low, high = lever.span(stands.freed)
        sides = set()
        for step in range(301):
            value = low * (high / low) ** (step / 300)
            try:
                there = Picture(lever.moved(stands.freed, value))
            except DomainError:
                continue
            if there.u > there.f * 1.0000001:
                sides.add(getattr(there, wish.key)() > wanted)
        self.assertLessEqual(len(sides), 1)

    def test_what_it_is_now_is_what_the_bench_shows(self):
        for wish in WISHES.values():
            if not wish.rests_on:
                continue
            stands = chosen(random.Random(3))
            now = wish.read(stands, stands.figures)
            for found in taking(stands, wish, now).alone:
                for lever, value in found.values:
                    self.assertAlmostEqual(value / lever.value(stands), 1, delta=1e-6, msg=f"{wish.key} {lever.key}")


class SaidTests(TestCase):
    def said(self, key, wanted, **rig):
        full = FORMATS["full-frame"]
        own = Rig(
            Body(Sensor(full.width_mm, full.height_mm, 6000)),
            Lens(85, 85, ((85, 1.8),), smallest_f_number=16.0, close_focus_m=0.8),
            85,
            **rig,
        )
        stands = standpoint(compare(Brief(distance_m=3, background_m=4), [own], AS_SET, Conventions()), 0)
        wish = WISHES[key]
        now = wish.read(stands, stands.figures)
        found = taking(stands, wish, now * wanted)
        return (
            stands,
            found,
            {line.moved.values[0][0].key: line for line in lines_of(stands, found) if len(line.moved.values) == 1},
        )

    def test_whether_the_gear_has_it_at_its_end(self):
        for wanted, has in ((2.8 / 1.8 * 0.999, True), (2.8 / 1.8 * 1.001, False)):
            _, _, lines = self.said("blur", wanted, f_number=2.8)
            gear = lines["f_number"].gear
            self.assertEqual(gear.text.startswith("Your gear has it"), has)
        _, _, lines = self.said("blur", 2, f_number=2.8)
        self.assertAlmostEqual(lines["f_number"].gear.figures["end"].value, 1.8)

    def test_what_it_costs_in_light_and_in_the_frame(self):
        _, _, lines = self.said("blur", 1.5, f_number=2.8)
        (brighter,) = lines["f_number"].costs
        self.assertIn("brighter", brighter.text)
        self.assertAlmostEqual(brighter.figures["stops"].value, 2 * log2(1.5), places=9)
        fills = lines["distance"].costs[-1]
        self.assertIn("fills", fills.text)
        self.assertGreater(fills.figures["after"].value, fills.figures["before"].value)
        self.assertFalse(lines["background"].costs if "background" in lines else ())
        _, _, stopped = self.said("depth", 1.5, f_number=2.8)
        self.assertIn("darker", stopped["f_number"].costs[0].text)
        _, _, level = self.said("blur", 1.03, f_number=2.8)
        self.assertFalse([cost for cost in level["f_number"].costs if "stops" in cost.figures], "too little to be said")

    def test_open_and_stop_down_nearer_and_farther(self):
        _, _, more = self.said("blur", 1.2, f_number=2.8)
        _, _, less = self.said("blur", 0.8, f_number=2.8)
        self.assertTrue(more["f_number"].does.text.startswith("Open"))
        self.assertTrue(less["f_number"].does.text.startswith("Stop down"))
        self.assertIn("nearer", more["distance"].does.text)
        self.assertIn("farther away", less["distance"].does.text)

    def test_two_levers_where_the_gear_has_none_alone(self):
        _, found, _ = self.said("blur", 30, f_number=2.8)
        self.assertFalse(any(moved.is_owned for moved in found.alone))
        self.assertTrue(found.pairs)
        for moved in found.pairs:
            got = Picture(moved.stands).blur()
            self.assertAlmostEqual(got / found.wanted, 1, delta=1e-9)
            self.assertAlmostEqual(
                {lever.key: value for lever, value in moved.values}.get("f_number", 1.8), 1.8, places=9
            )
        for stuck in found.stuck:
            self.assertIn("nearest", stuck_says(found, stuck).figures)

    def test_what_cannot_be_is_refused(self):
        stands, *_ = self.said("blur", 2, f_number=2.8)
        for wanted in (0, -1, inf, float("nan")):
            with self.assertRaises(DomainError):
                taking(stands, WISHES["blur"], wanted)
        no_stars = replace(stands, brief=replace(stands.brief, declination_deg=None))
        self.assertFalse(taking(no_stars, WISHES["stars"], 10).alone)
