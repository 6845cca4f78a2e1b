"""What a logbook says, counted again picture by picture in plain Python; in both directions and at its thresholds."""

import random
from collections import Counter
from math import isfinite, log2, nan
from unittest import TestCase

import numpy as np
from django.test import tag

from cambrel import wording
from cambrel.optics.stops import F_NUMBERS, ISOS
from cambrel.tests.truth.said import BENCHES, UGLY
from cambrel.trials.habits import (
    FOCALS,
    LEAST,
    Log,
    counts,
    made_smaller,
    narrowest,
    said,
)
from cambrel.trials.lens_use import (
    Made,
    asked_of,
    first_missed,
    light_ev,
    losses,
    nearest_brief,
    used_stops,
    usual_focal,
)

SEEDS = max(120, BENCHES // 4)
LENSES = ("Tarn 24-70 mm f/2.8", "Tarn 70-300 mm f/4.5-5.6", "Tarn 50 mm f/1.8")


def a_log(seed):
    """A made-up logbook: pictures as tuples, and the arrays of them."""
    dice = random.Random(seed)
    rows, few = [], dice.random() < 0.25
    is_one_focal = dice.random() < 0.1
    tele, crops, dark = dice.choice([0.01, 0.045, 0.06, 0.4]), dice.random(), dice.choice([0.0, 0.1, 0.9])
    for _ in range(dice.choice([0, 20, 29, 30, 31]) if few else dice.randrange(60, 500)):
        lens = dice.choices((-1, 0, 1, 2), (0.05, 0.7, tele, 0.25))[0]
        low, high = ((24, 70), (24, 70), (70, 300), (50, 50))[lens + 1]
        focal = (
            35.0 if is_one_focal and dice.random() < 0.95 else dice.choice([low, high, high, dice.uniform(low, high)])
        )
        missing = dice.random() < 0.1
        is_dark = 65 < focal < 95 and dice.random() < dark
        seen = focal * dice.choice([1.0, 1.0 if is_one_focal else 1.5])
        rows.append((
            nan if missing else seen, focal, nan if dice.random() < 0.05 else dice.choice([1.8, 2.8, 3.5, 4.0, 8.0]),
            dice.choice([1 / 500, 1 / 60, nan]), 12800.0 if is_dark else dice.choice([100.0, 400.0, nan]), 3200.0,
            dice.choice([0.4, 0.6, 1.0]) if crops < 0.5 and focal > 250 else 1.0, dice.choice([-1, 0, 1]), lens,
            dice.choice([0, 2025]),
        ))  # fmt: skip
    columns = list(zip(*rows, strict=True)) or [()] * 10
    return rows, Log(
        *(np.array(column, float) for column in columns[:7]), *(np.array(one, np.int64) for one in columns[7:])
    )


@tag("long")
class HabitsTests(TestCase):
    def test_every_sentence_is_what_the_pictures_say(self):
        met = Counter()
        for seed in range(SEEDS):
            rows, log = a_log(seed)
            found = said(log, LENSES)
            if len(rows) < LEAST:
                self.assertEqual(found, [], "nothing from fewer than thirty")
                continue
            by_text = Counter()
            for one in found:
                text = wording.sentence(one)
                self.assertIsNone(UGLY.search(text), text)
                figures = {key: value.value for key, value in one.figures.items()}
                self.assertGreaterEqual(figures["n"], LEAST)
                kind = next(
                    key
                    for key in ("lie between", "taken at", "wider than", "past the ISO", "was at", "cropped", "took")
                    if key in one.text
                )
                with self.subTest(seed=seed, text=text):
                    getattr(self, "_" + kind.replace(" ", "_").lower())(rows, figures, one.text)
                by_text[kind] += 1
                met[kind] += 1
            with self.subTest(seed=seed):
                self._none_is_missing(rows, by_text)
        for kind in ("lie between", "taken at", "wider than", "past the ISO", "was at", "cropped", "took"):
            self.assertGreater(met[kind], 3, met)

    def _lie_between(self, rows, figures, text):
        known = [row[0] for row in rows if isfinite(row[0])]
        inside = [one for one in known if figures["low"] <= one <= figures["high"]]
        self.assertEqual(figures["n"], len(known))
        self.assertAlmostEqual(figures["share"], len(inside) / len(known))
        self.assertGreaterEqual(figures["share"], 0.8)
        # no narrower stretch, by the ratio of its ends, holds as much
        ordered = sorted(known)
        need = -(-8 * len(known) // 10)
        best = min(ordered[k + need - 1] / ordered[k] for k in range(len(known) - need + 1))
        self.assertAlmostEqual(figures["high"] / figures["low"], best)

    def _taken_at(self, rows, figures, text):
        known = [row[0] for row in rows if isfinite(row[0])]
        self.assertEqual(figures["n"], len(known))
        self.assertAlmostEqual(figures["share"], sum(1 <= one / figures["low"] <= 1.03 for one in known) / len(known))
        self.assertGreaterEqual(figures["share"], 0.8)

    def _took(self, rows, figures, text):
        used = [row[8] for row in rows if row[8] >= 0]
        count = used.count(LENSES.index(figures["lens"]))
        self.assertEqual(figures["n"], len(used))
        self.assertAlmostEqual(figures["share"], count / len(used))
        self.assertTrue(0 < count < 0.05 * len(used))

    def _wider_than(self, rows, figures, text):
        known = [row[2] for row in rows if isfinite(row[2])]
        self.assertEqual((figures["f"], figures["n"]), (4.0, len(known)))
        self.assertAlmostEqual(figures["share"], sum(one < 3.9 for one in known) / len(known))

    def _past_the_iso(self, rows, figures, text):
        known = [row for row in rows if isfinite(row[4])]
        past = [row for row in known if row[4] > row[5]]
        self.assertEqual(figures["n"], len(known))
        self.assertAlmostEqual(figures["share"], len(past) / len(known))
        focal = sorted(row[0] for row in past if isfinite(row[0]))
        if "nearly all" in text:
            inside = sum(figures["low"] <= one <= figures["high"] for one in focal)
            self.assertGreaterEqual(len(focal), LEAST)
            self.assertGreaterEqual(inside / len(focal), 0.8)
            self.assertLess(log2(figures["high"] / figures["low"]), 1)
        elif len(focal) >= LEAST:
            need = -(-8 * len(focal) // 10)
            self.assertGreaterEqual(min(log2(focal[k + need - 1] / focal[k]) for k in range(len(focal) - need + 1)), 1)

    def _was_at(self, rows, figures, text):
        focal = [row[1] for row in rows if row[8] == LENSES.index(figures["lens"])]
        end = max(focal) if "longest" in text else min(focal)
        self.assertEqual((figures["end"], figures["n"]), (end, len(focal)))
        near = sum(1 / 1.03 <= one / end <= 1.03 for one in focal)
        self.assertAlmostEqual(figures["share"], near / len(focal))
        self.assertGreaterEqual(2 * near, len(focal))

    def _cropped(self, rows, figures, text):
        mine = [row for row in rows if row[8] == LENSES.index(figures["lens"])]
        end = max(row[1] for row in mine)
        kept = [row[6] for row in mine if row[1] >= end / 1.03]
        self.assertEqual((figures["end"], figures["n"]), (end, len(kept)))
        self.assertGreaterEqual(2 * sum(one <= figures["kept"] + 1e-9 for one in kept), len(kept))
        self.assertLessEqual(figures["kept"], 0.75)

    def _none_is_missing(self, rows, by_text):
        """What would be worth saying is said."""
        used = [row[8] for row in rows if row[8] >= 0]
        rare = sum(0 < used.count(k) < 0.05 * len(used) for k in range(3)) if len(used) >= LEAST else 0
        self.assertEqual(by_text["took"], rare)
        self.assertEqual(by_text["wider than"], sum(isfinite(row[2]) for row in rows) >= LEAST)
        cropped = 0
        for lens in range(3):
            mine = [row for row in rows if row[8] == lens]
            end = max((row[1] for row in mine), default=0)
            kept = sorted(row[6] for row in mine if row[1] >= end / 1.03)
            middle = (kept[(len(kept) - 1) // 2] + kept[len(kept) // 2]) / 2 if kept else 1
            cropped += len(kept) >= LEAST and middle <= 0.75
        self.assertEqual(by_text["cropped"], cropped)

    def test_counts_are_by_the_nearest_mark_in_stops(self):
        marks = [f_number.typed for f_number in F_NUMBERS]
        values = np.array([0.5, 2.8, 2.85, 3.3, 3.34, 64.0, 100.0, nan])
        found = counts(values, marks)
        self.assertEqual(found.sum(), 7)
        for value in values[:-1]:
            best = min(range(len(marks)), key=lambda k: abs(log2(marks[k] / value)))
            self.assertGreater(found[best], 0)
        self.assertEqual(counts(np.array([]), [iso.typed for iso in ISOS]).sum(), 0)
        self.assertEqual(narrowest(np.array([1.0, 10.0, 11.0, 12.0, 100.0]), 0.6), (10.0, 12.0))

    def test_pictures_of_one_length_that_the_camera_does_not_record_were_made_smaller(self):
        body = np.array([0] * 12 + [1] * 6 + [-1] * 6)
        long_px = np.array([2048.0] * 5 + [1600.0] * 4 + [6000.0, 5990.0, nan] + [3000.0] * 6 + [2048.0] * 6)
        found = made_smaller(body, long_px, [[6000.0], [6048.0, 3000.0]])
        self.assertEqual(found.tolist(), [True] * 5 + [False] * 19)

    def test_what_a_lens_would_have_made_is_told_picture_by_picture(self):
        for seed in range(0, SEEDS, 6):
            rows, log = a_log(seed)
            asked = asked_of(log)
            made = Made(1.5, 16, 55, ((16, 2.8), (55, 4.0)))
            found = asked.share(made.takes(asked.equivalent_mm, asked.f_number))
            known = [row for row in rows if isfinite(row[0]) and isfinite(row[2])]
            self.assertEqual(asked.total, len(known))
            if not known:
                continue

            def reach(row, give):
                own = row[0] / 1.5
                inside = 16 / give <= own <= 55 * give
                return inside and 2.8 + (own - 16) / 39 * 1.2 <= row[2] * give

            sure, may_be = (sum(reach(row, give) for row in known) / len(known) for give in (0.97, 1.09))
            self.assertTrue(sure - 1e-9 <= found <= may_be + 1e-9, (sure, found, may_be))

    def test_each_picture_counts_for_the_brief_that_it_is_most_like(self):
        for seed in range(0, SEEDS, 6):
            rows, log = a_log(seed)
            views, lights = [24.0, 50.0, 300.0, nan], [5.0, 12.0, 9.0, 9.0]
            found = nearest_brief(log, views, lights)
            wanted = [0, 0, 0, 0]
            for row, ev in zip(rows, light_ev(log), strict=True):
                if not (isfinite(row[0]) and isfinite(ev)):
                    continue
                self.assertAlmostEqual(ev, log2(row[2] ** 2 / row[3]) - log2(row[4] / 100))
                apart = [
                    ((log2(row[0] / view)) ** 2 + ((ev - light) / 3) ** 2) ** 0.5
                    for view, light in zip(views[:3], lights[:3], strict=True)
                ]
                if min(apart) <= 2:
                    wanted[apart.index(min(apart))] += 1
            self.assertEqual(found.tolist(), wanted)

    def test_a_card_goes_by_what_is_used_in_enough_pictures(self):
        for seed in range(0, SEEDS, 6):
            rows, log = a_log(seed)
            for lens in (-1, 0, 1):
                focal = [row[1] for row in rows if row[8] == lens and lens >= 0]
                found = usual_focal(log, lens)
                if len(focal) < LEAST:
                    self.assertIsNone(found)
                else:
                    near = Counter(min(FOCALS, key=lambda mark: abs(log2(mark / one))) for one in focal)
                    self.assertEqual(near[found], max(near.values()))
            stops = [row[2] for row in rows if row[7] == 0 and isfinite(row[2])]
            found = used_stops(log, 0, (2.0, 2.8, 4.0, 8.0))
            if len(stops) < LEAST:
                self.assertIsNone(found)
            else:
                near = Counter(min((2.0, 2.8, 4.0, 8.0), key=lambda mark: abs(log2(mark / stop))) for stop in stops)
                self.assertEqual(found, {mark for mark, count in near.items() if count > 0.02 * len(stops)})

    def test_what_is_lost_without_a_lens_is_what_no_other_takes(self):
        met = Counter()
        for seed in range(0, SEEDS, 4):
            dice = random.Random(seed)
            _, log = a_log(seed)
            asked = asked_of(log)
            lenses = []
            for number in range(dice.choice([1, 2, 3, 4])):
                low = dice.uniform(14, 100)
                lens = Made(
                    dice.choice([1.0, 1.5]), low, low * dice.choice([1.0, 2.5]), ((low, dice.choice([1.8, 4.0])),)
                )
                lenses.append((f"lens {number}", lens.takes(asked.equivalent_mm, asked.f_number)))
            found = losses(asked, lenses)
            self.assertEqual([loss.lens for loss in found], [name for name, _ in lenses])
            for index, loss in enumerate(found):
                with self.subTest(seed=seed, lens=index):
                    lost = []
                    for cell in range(len(asked.times)):
                        by = [number for number, (_, takes) in enumerate(lenses) if takes[cell]]
                        if by == [index]:
                            lost += [asked.equivalent_mm[cell]] * round(asked.times[cell])
                    share = len(lost) / asked.total if asked.total else 0.0
                    self.assertAlmostEqual(loss.share, share, delta=1e-12)
                    text = wording.sentence(loss.says())
                    self.assertIsNone(UGLY.search(text), text)
                    self.assertEqual("another lens would" in text, not lost, text)
                    if lost:
                        inside = sum(loss.low_mm <= view <= loss.high_mm for view in lost)
                        self.assertGreaterEqual(inside, 0.8 * len(lost) - 1e-9)
                        self.assertEqual("between" in text, loss.high_mm >= 1.03 * loss.low_mm, text)
                    met["between" if "between" in text else "at" if lost else "none"] += 1
        self.assertTrue(all(met[kind] > 3 for kind in ("between", "at", "none")), met)

    def test_the_picture_missed_first_asks_the_most_beyond_the_lenses(self):
        met = Counter()
        for seed in range(0, SEEDS, 4):
            dice = random.Random(seed)
            rows, log = a_log(seed)
            lenses = []
            for _ in range(dice.choice([0, 1, 2, 3])):
                low = dice.choice([14.0, 24.0, 70.0])
                high = low * dice.choice([1.0, 3.0, 25.0])
                widest = dice.choice([(), ((low, 1.4), (high, 1.4)), ((low, 2.8), (high, 5.6))])
                lenses.append(Made(dice.choice([1.0, 1.5]), low, high, widest if high > low else widest[:1]))
            found = first_missed(log, lenses)

            def lacking(row, lens):
                """Stops of view and of opening that one lens lacks for one picture."""
                own, (first, last) = row[0] / lens.crop, (lens.widest[0], lens.widest[-1])
                beyond = max(own / lens.focal_max_mm, lens.focal_min_mm / own)
                share = min(max((own - first[0]) / (last[0] - first[0]), 0), 1) if last[0] > first[0] else 0
                opens = first[1] + share * (last[1] - first[1])
                short = opens / row[2]
                return (2 * log2(beyond) if beyond > 1.03 else 0), (2 * log2(short) if short > 1.03 else 0), opens, lens

            known = [row for row in rows if isfinite(row[0]) and isfinite(row[2])]
            usable = [lens for lens in lenses if lens.widest]
            nearest = [
                min((lacking(row, lens) for lens in usable), key=lambda at: at[0] + at[1]) for row in known if usable
            ]
            most = max((view + opening for view, opening, *_ in nearest), default=0)
            with self.subTest(seed=seed):
                self.assertEqual(found is None, most == 0)
                if found is None:
                    met["none"] += 1
                    continue
                pairs = zip(known, nearest, strict=True)
                same = [
                    (row, at) for row, at in pairs if abs(at[0] + at[1] - most) < 1e-9
                    and (row[0], row[2], row[9]) == (found.equivalent_mm, found.f_number, found.year)
                ]  # fmt: skip
                self.assertTrue(same, "it is one that asks the most")
                row, (view, opening, opens, lens) = same[0]
                text = wording.sentence(found.says())
                self.assertIsNone(UGLY.search(text), text)
                self.assertEqual((" at " in text.partition(":")[2], "opens to" in text), (view > 0, opening > 0), text)
                self.assertEqual(f"taken in {row[9]}" in text, row[9] > 0, text)
                if view > 0:
                    end = lens.focal_max_mm if row[0] / lens.crop > lens.focal_max_mm else lens.focal_min_mm
                    self.assertAlmostEqual(found.end_mm, end * lens.crop)
                    self.assertEqual("ends at" in text, row[0] / lens.crop > lens.focal_max_mm, text)
                    self.assertEqual("begins at" in text, row[0] / lens.crop < lens.focal_min_mm, text)
                if opening > 0:
                    self.assertAlmostEqual(found.opens, opens)
                met[view > 0, opening > 0] += 1
        self.assertTrue(all(met[kind] > 2 for kind in ("none", (True, True), (True, False), (False, True))), met)
