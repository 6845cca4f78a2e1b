"""Moving pictures by arithmetic of their own: the shutter, the light left over or short, noise as delivered, leaning
lines, flicker and pans, and every sentence in both directions and at its threshold.
"""

import random
import re
from collections import Counter
from dataclasses import replace
from itertools import product
from math import atan, degrees, isnan, log2, nan, sqrt
from unittest import TestCase

from cambrel.ask.asking import asked
from cambrel.ask.question_kind import Terms
from cambrel.bench.sample_benches import home_bench
from cambrel.comparison.brief import DELIVERIES
from cambrel.comparison.engine import compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.moving_pictures import (
    as_film,
    film_of,
    is_steady,
    with_film_shutter,
)
from cambrel.comparison.rig import Mode
from cambrel.optics.formats import Sensor
from cambrel.tests.truth.benches import BODIES
from cambrel.tests.truth.eye import Eye
from cambrel.verdicts.film_says import film_says, says_flicker, says_lean, says_light, says_mode, says_pan
from cambrel.wording import sentence


def plain(said):
    return "" if said is None else sentence(said).replace("\u00a0", " ")


def a_film(seed):
    """Two cameras of the demo shelf with modes for video before a random film."""
    chance = random.Random(seed)
    bench = replace(home_bench(), slots=home_bench().slots[:2])
    slots = []
    for slot in bench.slots:
        body = chance.choice(BODIES)
        wide = body.sensor.width_mm * chance.choice([1, 1, 0.7])
        pixels = chance.choice([None, 1920, 3840, 7680])
        rate, read = chance.choice([None, 24.0, 30.0, 60.0]), chance.choice([None, 0.005, 0.02])
        mode = Mode(Sensor(wide, wide * 9 / 16, pixels, pixels and pixels * 9 // 16), "a mode", rate, 1, read)
        rig = replace(slot.rig, body=replace(body, modes=(mode,)), mode=chance.choice([0, 0, None]))
        slots.append(replace(slot, rig=rig))
    bench = replace(bench, slots=tuple(slots))
    film = as_film(bench, chance.choice([23.976, 25.0, 50.0, 120.0]))
    brief = replace(
        film.brief, light_ev=chance.uniform(-6, 18), shutter_angle_deg=chance.choice([45.0, 90.0, 172.8, 180.0, 360.0]),
        mains_hz=chance.choice([None, 50.0, 60.0]), delivery=chance.choice(list(DELIVERIES)),
        subject_speed_m_per_s=chance.choice([0.0, 0.5, 8.0]),
    )  # fmt: skip
    return with_film_shutter(replace(film, brief=brief))


class FilmTests(TestCase):
    def test_every_figure_and_every_sentence(self):
        met = set()
        for seed in range(500):
            bench = a_film(seed)
            brief = bench.brief
            compared = compare(brief, bench.rigs, bench.hold, bench.conventions)
            for index in range(2):
                rig, eye = compared.of(index), Eye(compared, index)
                film = film_of(compared, rig)
                if film is None:
                    self.assertFalse(eye.focusable)
                    continue
                seconds = brief.shutter_angle_deg / 360 / brief.frame_rate
                self.assertAlmostEqual(film.shutter_s, seconds, 12)
                self.assertAlmostEqual(rig.rig.shutter_s, seconds, 12)
                iso = 100 * eye.effective**2 / seconds / 2**brief.light_ev
                self.assertAlmostEqual(film.needed_iso / iso, 1, 9)
                body, mode = rig.rig.body, rig.rig.recorded
                over = nan if body.base_iso is None else max(0, log2(body.base_iso / iso))
                short = nan if body.ceiling_iso is None else max(0, log2(iso / body.ceiling_iso))
                for shown, expected in ((film.filter_stops, over), (film.short_stops, short)):
                    self.assertTrue((isnan(shown) and isnan(expected)) or abs(shown - expected) < 1e-9)
                size = DELIVERIES[brief.delivery]
                pixels = size.wide_px * size.high_px
                snr = eye.snr_picture(eye.exposure) * sqrt(bench.conventions.output_pixels / pixels)
                self.assertAlmostEqual(film.snr / snr, 1, 9)
                lean = nan
                if mode is not None and mode.rolling_s is not None:
                    lean = degrees(atan(brief.subject_speed_m_per_s * mode.rolling_s / eye.high))
                self.assertTrue((isnan(film.lean_deg) and isnan(lean)) or abs(film.lean_deg - lean) < 1e-9)
                across = 2 * degrees(atan(eye.w / 2 / eye.v))
                self.assertAlmostEqual(film.pan_deg_s, across / 7, 9)
                met |= self._judge(brief, rig, film, seed)
        self.assertGreaterEqual(len(met), 12, met)

    def _judge(self, brief, rig, film, seed):
        light, mode, lean, pan = (
            plain(says_light(rig, film)), plain(says_mode(brief, rig, film)), plain(says_lean(brief, film)),
            plain(says_pan(film)),
        )  # fmt: skip
        sixth = 1 / 6
        unknown = isnan(film.filter_stops) or isnan(film.short_stops)
        states = {
            "neutral filter": film.filter_stops > sixth,
            "beyond its highest ISO": film.short_stops > sixth and not film.filter_stops > sixth,
        }
        for words, holds in states.items():
            self.assertEqual(words in light, holds, (seed, light))
        self.assertEqual("is not known" in light, unknown and not any(states.values()), (seed, light))
        self.assertEqual("which it has" in light, not unknown and not any(states.values()), (seed, light))
        recorded = rig.rig.recorded
        rate = None if recorded is None else recorded.frame_rate
        if recorded is None:
            self.assertIn("Choose a mode for video" if rig.rig.body.modes else "names no mode", mode)
        elif rate is None:
            self.assertIn("is not known", mode)
        elif rate < brief.frame_rate:
            self.assertIn(f"ends at {rate:g} frames a second", mode)
        else:
            self.assertEqual("is stretched" in mode, film.pixels_share < 0.97, (seed, mode))
            self.assertEqual("pixels enough" in mode, film.pixels_share >= 0.97, (seed, mode))
        self.assertEqual(bool(lean), brief.subject_speed_m_per_s > 0)
        if lean:
            self.assertEqual("not known" in lean, isnan(film.lean_deg))
            self.assertEqual("stay vertical" in lean, film.lean_deg < 1)
            self.assertEqual("lean by" in lean, film.lean_deg >= 1)
        self.assertEqual("For sharp frames" in pan, film.sharp_pan_deg_s < film.pan_deg_s)
        flicker = plain(says_flicker(brief, film))
        self.assertEqual(bool(flicker), brief.mains_hz is not None)
        if flicker:
            count = film.shutter_s * 2 * brief.mains_hz
            steady = round(count) >= 1 and abs(count - round(count)) <= 0.01 * count
            self.assertEqual("do not flicker" in flicker, steady, (seed, flicker))
            taken = re.search(r"Take ([\d.]+)°", flicker)
            if taken:
                self.assertTrue(is_steady(float(taken[1]) / 360 / brief.frame_rate, brief.mains_hz), flicker)
            self.assertEqual("at any angle" in flicker, not steady and 2 * brief.mains_hz < brief.frame_rate)
        return {re.sub(r"[\d./°%]+", "", text)[-24:] for text in (light, mode, lean, flicker)}

    def test_frames_a_second_are_a_demand(self):
        met = Counter()
        for seed in range(160):
            chance = random.Random(seed)
            rates = [chance.choice([None, 24.0, 30.0, 50.0, 60.0]) for _ in range(chance.choice([0, 1, 2, 3]))]
            recorded = chance.choice([None, *range(len(rates))])
            wanted = chance.choice([25.0, 30.0, 50.0])
            bench = replace(home_bench(), slots=home_bench().slots[:1])
            rig = bench.slots[0].rig
            modes = tuple(Mode(rig.body.sensor, f"Mode {n}", rate) for n, rate in enumerate(rates))
            rig = replace(rig, body=replace(rig.body, modes=modes), mode=recorded)
            film = as_film(replace(bench, slots=(replace(bench.slots[0], rig=rig),)), wanted)
            film = replace(film, slots=(replace(film.slots[0], rig=replace(film.slots[0].rig, mode=recorded)),))
            compared = compare(film.brief, film.rigs, film.hold, film.conventions)
            own = None if recorded is None else rates[recorded]
            able = [n for n, rate in enumerate(rates) if rate is not None and rate >= wanted]
            stated = [rate for rate in rates if rate is not None]
            said = next((check for check in fulfilment(compared)[0].checks if check.key == "rate"), None)
            with self.subTest(seed=seed, rates=rates, recorded=recorded, wanted=wanted):
                if own is not None and own >= wanted:
                    self.assertIsNone(said)
                    met["does"] += 1
                    continue
                text = plain(said)
                if able:
                    expected = "just falls short"
                    self.assertTrue(any(f"Mode {n} would be enough" in text for n in able), text)
                elif own is None and (recorded is not None or not stated):
                    expected = "unknown"
                    self.assertEqual(text, f"whether it does {wanted:g} frames a second is not known")
                else:
                    expected = "does not work"
                    most = own if own is not None else max(stated)
                    self.assertIn(f"{most:g} frames a second, not {wanted:g}", text)
                self.assertEqual(("the whole sensor" in text), bool(able) and recorded is None, text)
                self.assertEqual(said.status, expected)
                met[expected, recorded is None] += 1
        self.assertTrue(len(met) == 7 and min(met.values()) > 3, met)

    def test_what_moves_within_a_frame_is_not_to_be_frozen(self):
        start = replace(home_bench(), slots=home_bench().slots[:2])
        moving = replace(start, brief=replace(start.brief, subject_speed_m_per_s=20.0, support="hand", light_ev=4.0))
        slots = [replace(slot, rig=replace(slot.rig, shutter_s=4.0, focal_length_mm=50.0)) for slot in moving.slots]
        still = replace(moving, slots=tuple(slots))
        for bench, is_film in ((still, False), (as_film(still), True)):
            for best in (False, True):
                hold = replace(bench.hold, is_best=best)
                compared = compare(bench.brief, bench.rigs, hold, bench.conventions)
                keys = {check.key for one in fulfilment(compared) for check in one.checks}
                if not best:
                    self.assertEqual({"motion", "hands"} & keys, set() if is_film else {"motion", "hands"})
                else:
                    bound = {str(binding) for binding in compared.asked.bindings["shutter"]}
                    self.assertEqual(bool({"movement", "hands"} & bound), not is_film, bound)
                    late = set(map(str, compared.asked.statuses["time"])) - {"works"}
                    self.assertTrue(not is_film or not late, late)

    def test_no_cure_turns_the_fixed_shutter(self):
        seen = 0
        for seed in range(60):
            bench = a_film(seed)
            compared = compare(bench.brief, bench.rigs, bench.hold, bench.conventions)
            for check in (check for one in fulfilment(compared) for check in one.checks):
                self.assertNotIn("t_then", check.figures, check)
                seen += "would be enough" in check.text
        self.assertGreater(seen, 10)

    def test_at_its_best_a_film_keeps_its_shutter(self):
        film = as_film(replace(home_bench(), slots=home_bench().slots[:2]))
        best = compare(film.brief, film.rigs, replace(film.hold, is_best=True), film.conventions)
        self.assertEqual({round(best.of(index).settings.shutter_s, 9) for index in range(2)}, {0.02})
        self.assertTrue(film_says(best, best.of(0), film_of(best, best.of(0))))

    def test_what_is_asked_of_a_film_says_what_is_over_and_what_is_short(self):
        met = set()
        for rate, angle, n, ev in product((24, 25, 50), (90, 180), (2.8, 8), (2, 9, 15)):
            needed = 100 * n**2 * 360 * rate / angle / 2**ev
            for shift in (-3, -0.17, -0.16, 0, 0.16, 0.17, 3):
                iso = round(needed * 2**shift)
                over = log2(iso / needed) if iso else nan
                if not 1000 <= iso <= 100_000 or abs(over - shift) > 0.003:
                    continue
                says = asked(f"{angle} degrees at {rate} fps f/{n:g} ev {ev} iso {iso}", Terms()).answer.says
                self.assertEqual("too bright: put a" in says, shift > 1 / 6, says)
                self.assertEqual("too dark" in says, shift < -1 / 6, says)
                self.assertEqual("is right" in says, abs(shift) < 1 / 6, says)
                if abs(shift) == 3:
                    self.assertIn("3\u00a0stops too", says)
                met.add(shift)
        self.assertEqual(len(met), 7)
        for rate, under in ((24, 48), (24, 24), (24, 23), (50, 51), (50, 50), (50, 49)):
            says = asked(f"angle of 1/{under} at {rate} fps", Terms()).answer.says
            self.assertEqual("Too long" in says, under < rate, says)
        for angle in (360, 361):
            says = asked(f"{angle} degrees at 25 fps", Terms()).answer.says
            self.assertEqual("at most 360°" in says, angle > 360, says)
