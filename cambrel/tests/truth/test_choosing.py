"""What is said of kits, counted again: no rig of a kit is better than the one shown, shares and leads add up, and
better means better.
"""

import re
from collections import Counter
from dataclasses import replace
from itertools import pairwise
from math import inf, log2, nan
from random import Random
from types import SimpleNamespace
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison.best_settings import asked
from cambrel.comparison.brief import Hold
from cambrel.comparison.engine import compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.race import race
from cambrel.comparison.status import Status
from cambrel.decisions.changes import TellingChanges, changes
from cambrel.decisions.kits import ORDER, SCORE, PictureShare, choose, grams, is_as_good, lead, limits, share_made
from cambrel.decisions.offers import KitRigs
from cambrel.decisions.sureness import changed, sure_of
from cambrel.decisions.trades import KitSums, says_better, says_first, says_trade
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench, a_rig, spread
from cambrel.tests.truth.said import BENCHES, UGLY
from cambrel.tests.truth.test_at_best import Sight

ROUNDS = max(8, BENCHES // 30)


def rounds(count=ROUNDS):
    """Random pictures, and kits of random rigs."""
    for seed in range(count):
        random = Random(90_000 + seed)
        pictures = []
        for number in range(5):
            brief, *_ = a_bench(1000 * seed + number)
            brief = replace(
                brief, distance_from="lens", focus_distance_m=None,
                width_shown_m=brief.distance_m * spread(random, 0.1, 1.5),
                scene_range_stops=None, comfortable_m=None,
            )  # fmt: skip
            pictures.append(PictureShare(brief, random.choice([0.0, 1.0, 2.0, 5.0])))
        kits = []
        for _ in range(3):
            rigs = [a_rig(random) for _ in range(random.choice([0, 1, 4, 6]))]
            kits.append(
                [
                    replace(
                        rig, body=replace(rig.body, weight_g=spread(random, 200, 900)),
                        lens=replace(rig.lens, weight_g=spread(random, 100, 900)),
                        distance_m=None, converter_weight_g=random.choice([0.0, 0.0, None]),
                    )
                    for rig in rigs
                ]
            )  # fmt: skip
        _, _, _, conventions, _ = a_bench(seed)
        yield seed, random, pictures, kits, conventions


def scored(pictures, conventions, kits, cells):
    """Each kit's score for each picture, rig by rig, and no better than what else was demanded allows."""
    rows = []
    for picture, row in zip(pictures, cells, strict=True):
        rows.append([])
        for kit, cell in zip(kits, row, strict=True):
            if not kit or cell is None:
                rows[-1].append(0.0)
                continue
            found = asked(
                picture.brief,
                [rig.body for rig in kit],
                [rig.lens for rig in kit],
                conventions,
                converters=[rig.converter for rig in kit],
            )
            places = [ORDER.index(status) for status in found.status]
            beside = [
                ORDER.index(check.status) for check in cell.judged.checks if check.key in ("room", "range", "cover")
            ]
            rows[-1].append(SCORE[ORDER[max([min(places), *beside])]])
    return rows


@tag("long")
class ChoosingTests(TestCase):
    def test_the_best_rig_of_a_kit_is_never_beaten_by_another(self):
        met = Counter()
        for seed, _, pictures, kits, conventions in rounds():
            cells = choose(pictures, kits, conventions)
            for picture, row in zip(pictures, cells, strict=True):
                for kit, cell in zip(kits, row, strict=True):
                    with self.subTest(seed=seed):
                        if not kit:
                            self.assertIsNone(cell)
                            continue
                        keys = []
                        for rig in kit:
                            one = asked(
                                picture.brief,
                                rig.body,
                                rig.lens,
                                conventions,
                                converters=[rig.converter],
                            )
                            keys.append((ORDER.index(one.status), -one.margin_stops, grams(rig)))
                            # the room that is left is never more than two stops, in sixths, and none where something
                            # is missed
                            self.assertLessEqual(one.margin_stops, 2)
                            if one.margin_stops > -inf:
                                self.assertAlmostEqual(one.margin_stops * 6, round(one.margin_stops * 6), places=6)
                            if one.status == "does not work":
                                self.assertLess(one.margin_stops, 0)
                        best = min(range(len(kit)), key=lambda index: (keys[index], index))
                        if cell is None:
                            continue
                        self.assertEqual(cell.rig, best)
                        met[cell.status] += 1
                        alone = compare(picture.brief, [kit[best]], Hold(is_best=True), conventions)
                        self.assertEqual(cell.judged.status, fulfilment(alone)[0].status)
                        got = cell.figures.settings.iso
                        single = asked(
                            picture.brief, kit[best].body, kit[best].lens, conventions, converters=[kit[best].converter]
                        )  # fmt: skip
                        self.assertEqual(got == got, single.iso == single.iso)
                        if got == got:
                            self.assertAlmostEqual(got / single.iso, 1, places=9)
        self.assertGreaterEqual(len(met), 3, met)

    def test_shares_leads_limits_and_what_is_said_of_two_kits(self):
        met = Counter()
        for seed, random, pictures, kits, conventions in rounds(2 * ROUNDS):
            cells = choose(pictures, kits, conventions)
            columns = [[row[index] for row in cells] for index in range(len(kits))]
            total = sum(picture.share for picture in pictures)
            names = [f"picture {number}" for number in range(len(pictures))]
            spoken = [
                KitSums(
                    f"kit {number}",
                    column,
                    random.choice([nan, *[spread(random, 500, 3000)] * 6]),
                    random.choice([nan, *[spread(random, 500, 3000)] * 6]),
                    random.choice(["EUR", "EUR", "EUR", "EUR", "GBP"]),
                )
                for number, column in enumerate(columns)
            ]
            for (one, a), (other, b) in pairwise(zip(spoken, columns, strict=True)):
                with self.subTest(seed=seed, kits=(one.name, other.name)):
                    status = [[cell.status if cell else None for cell in column] for column in (a, b)]
                    makes = [
                        {name for name, had in zip(names, had_by, strict=True) if had == "works"} for had_by in status
                    ]
                    if total:
                        share = (
                            sum(p.share for p, had in zip(pictures, status[0], strict=True) if had == "works") / total
                        )
                        self.assertAlmostEqual(share_made(pictures, a), share)
                        score = [
                            sum(p.share * (SCORE[had] if had else 0) for p, had in zip(pictures, by, strict=True))
                            for by in status
                        ]
                        self.assertAlmostEqual(lead(pictures, a, b), (score[0] - score[1]) / total)
                    rank = {None: 4, "does not work": 3, "unknown": 2, "just falls short": 1, "works": 0}
                    better = all(rank[x] <= rank[y] for x, y in zip(*status, strict=True))
                    self.assertEqual(is_as_good(a, b), better)
                    said = says_better(one, other)
                    cheap = (
                        one.grams < 0.95 * other.grams
                        and one.price < 0.95 * other.price
                        and one.currency == other.currency
                    )
                    self.assertEqual(said is not None, better and cheap)
                    met["better"] += said is not None
                    text = wording.sentence(says_trade(one, other, pictures, names))
                    self.assertIsNone(UGLY.search(text), text)
                    ahead = 0 if not total or lead(pictures, a, b) >= 0 else 1
                    more, less = makes[ahead] - makes[1 - ahead], makes[1 - ahead] - makes[ahead]
                    way = "same" if not more | less else "both" if more and less else "one"
                    met[way] += 1
                    self.assertEqual("can take the same pictures" in text, way == "same")
                    for name in names:
                        self.assertEqual(name in text, name in more | less)
                    light = min((one, other), key=lambda kit: kit.grams)
                    apart = abs(one.grams - other.grams) > 0.05 * max(one.grams, other.grams)
                    self.assertEqual(bool(re.search(rf"{light.name} is [\d.,]+\sk?g lighter", text)), apart)
                    self.assertEqual("lighter" in text, apart)
                    cheap, dear = sorted((one, other), key=lambda kit: kit.price)
                    costs_less = one.currency == other.currency and cheap.price < 0.95 * dear.price
                    said = f"{cheap.name} is {dear.price - cheap.price:,.0f} {cheap.currency} cheaper"
                    self.assertEqual(said in text, costs_less)
                    self.assertEqual("cheaper" in text, costs_less)
                    met["cheaper" if costs_less else "level"] += 1
                self._first(spoken, columns, pictures, total, met)
                failing = Counter()
                for picture, cell in zip(pictures, a, strict=True):
                    if cell and cell.status != "works" and picture.share:
                        failing[cell.judged.checks[0].key] += picture.share
                found = limits(pictures, a)
                self.assertEqual(bool(found), bool(failing))
                if failing:
                    self.assertEqual(failing[found], max(failing.values()))
        self.assertTrue(met["better"] and met["same"] and met["both"] + met["one"], met)

    def _first(self, spoken, columns, pictures, total, met):
        """Which kit is said to make most, and which lighter one is even with it."""

        def share(column, score):
            return sum(p.share * score(cell.status) for p, cell in zip(pictures, column, strict=True) if cell) / (
                total or 1
            )

        made = [share(column, lambda status: status == "works") for column in columns]
        counted = [share(column, lambda status: SCORE[status]) for column in columns]
        text = wording.sentence(says_first(spoken, pictures))
        self.assertIsNone(UGLY.search(text), text)
        first = next(index for index, kit in enumerate(spoken) if text.startswith(f"Take {kit.name}: "))
        alone = sum(abs(one - max(made)) < 1e-9 for one in made) == 1
        all_made = max(made) > 1 - 1e-9
        self.assertEqual("more than the others" in text, alone)
        self.assertEqual("no other more" in text, not alone and not all_made)
        self.assertEqual("not the only one" in text, not alone and all_made)
        self.assertEqual("all of the pictures" in text, all_made)
        self.assertAlmostEqual(made[first], max(made))
        for index, kit in enumerate(spoken):
            if abs(made[index] - made[first]) < 1e-9 and kit.grams == kit.grams:
                self.assertLessEqual(spoken[first].grams, kit.grams)
        lighter = {
            kit.name
            for index, kit in enumerate(spoken)
            if abs(counted[index] - counted[first]) <= 0.05 and kit.grams < 0.95 * spoken[first].grams
        }
        self.assertEqual("is even with it" in text, bool(lighter))
        if lighter:
            named = text.partition(". ")[2].partition(" is even")[0]
            self.assertEqual(
                named, min(lighter, key=lambda name: next(kit.grams for kit in spoken if kit.name == name))
            )
        met["level with the first" if lighter else "first alone"] += 1
        self.assertEqual("Next is" in text, alone and not (lighter and spoken[first].grams == spoken[first].grams))
        if "Next is" in text:
            following = next(index for index, kit in enumerate(spoken) if f"Next is {kit.name} with" in text)
            self.assertNotEqual(following, first)
            self.assertAlmostEqual(made[following], max(share for index, share in enumerate(made) if index != first))
            saves = spoken[following].grams < 0.95 * spoken[first].grams
            self.assertEqual(text.endswith("lighter."), saves, text)
            met["next saves weight" if saves else "next does not"] += 1

    def test_what_is_called_firm_does_not_flip_and_what_is_open_does(self):
        met = Counter()
        for seed, random, pictures, kits, conventions in rounds(ROUNDS // 2):
            cells = choose(pictures, kits, conventions)
            level = random.choice([(), (), (0,), (1, 3)])
            found = sure_of(pictures, kits, cells, conventions, level)
            if not sum(picture.share for picture in pictures):
                continue

            def word(rows, shares, i, j, level=level):
                apart = (share * (row[i] - row[j]) for share, row in zip(shares, rows, strict=True))
                d = sum(0 if index in level else one for index, one in enumerate(apart)) / sum(shares)
                return 0 if abs(d) <= 0.05 else 1 if d > 0 else -1

            shares = [picture.share for picture in pictures]
            now = scored(pictures, conventions, kits, cells)
            trials = [(scored(other, terms, kits, cells), shares) for _, other, terms in changed(pictures, conventions)]
            for index in range(len(pictures)):
                for times in (2, 0.5):
                    trials.append(
                        (now, [share * (times if place == index else 1) for place, share in enumerate(shares)])
                    )
            for (i, j), said in found.items():
                with self.subTest(seed=seed, kits=(i, j)):
                    ahead = word(now, shares, i, j)
                    words = {word(rows, weights, i, j) for rows, weights in trials if sum(weights)}
                    self.assertEqual(said.ahead, ahead)
                    flips = -ahead in words if ahead else {1, -1} <= words
                    wanted = "open" if flips else "firm" if words <= {ahead} else "holds"
                    self.assertEqual(said.sure, wanted)
                    self.assertEqual(bool(said.reversed_by), bool(ahead and -ahead in words))
                    met[wanted] += 1
        self.assertGreaterEqual(len(met), 2, met)

    def test_each_point_of_a_race_is_what_the_rig_does_at_that_stop(self):
        met = Counter()
        for seed, _, pictures, kits, conventions in rounds():
            for picture in pictures[:2]:
                for rig in kits[1][:2]:
                    curve = race(picture.brief, rig, conventions)
                    if curve is None:
                        met["none"] += 1
                        continue
                    self.assertFalse(
                        conventions.noise == "pixel" and not rig.sensor.pixels_wide, "nobody knows its noise"
                    )
                    best = compare(picture.brief, [rig], Hold(is_best=True), conventions)
                    isos = {}
                    for at in (0, len(curve.f_numbers) // 2, len(curve.f_numbers) - 1):
                        n = float(curve.f_numbers[at])
                        held = replace(rig, f_number=n / rig.converter, by_hand="n")
                        eye = Sight(compare(picture.brief, [held], Hold(is_best=True), conventions), 0)
                        # a race keeps the focus of the best stop
                        if abs(eye.u / 1000 / best.first.settings.object_distance_m - 1) < 1e-9:
                            isos[at] = 100 * eye.effective**2 / eye.t / 2.0**picture.brief.light_ev
                            total = eye.far - eye.near
                            with self.subTest(seed=seed, n=n):
                                self.assertTrue(total == curve.depth_m[at] or abs(total / curve.depth_m[at] - 1) < 1e-6)
                            met["depth"] += 1
                            met["cropped"] += eye.kept < 1
                    for first, at in pairwise(isos):
                        # as many stops as its ISO is higher, each as slow as it may be
                        lost = log2(
                            max(isos[at], rig.body.base_iso or 100) / max(isos[first], rig.body.base_iso or 100)
                        )
                        self.assertAlmostEqual(
                            float(curve.clean_stops[first] - curve.clean_stops[at]), lost, delta=0.02
                        )
                        met["noisier"] += lost > 0.1
                    self.assertTrue((curve.f_numbers[1:] >= curve.f_numbers[:-1]).all())
                    self.assertTrue(
                        (curve.depth_m[1:] >= curve.depth_m[:-1] * (1 - 1e-12)).all(), "closing a lens deepens"
                    )
                    self.assertTrue((curve.clean_stops[1:] <= curve.clean_stops[:-1] + 1e-9).all(), "and never cleans")
                    met["curve"] += 1
        self.assertTrue(
            met["curve"] > 10 and met["depth"] > 10 and met["none"] and met["noisier"] > 3 and met["cropped"], met
        )

    def test_each_thing_is_changed_alone_and_as_it_is_said(self):
        _, _, pictures, _, conventions = next(rounds(1))
        before = pictures[0].brief
        seen = {}
        for said, other, terms in changed(pictures, conventions):
            after = other[0].brief
            apart = {name for name, value in vars(after).items() if value != getattr(before, name)}
            apart |= {name for name, value in vars(terms).items() if value != getattr(conventions, name)}
            self.assertEqual(len(apart), 1, said)
            seen[said] = (after, terms)
        self.assertEqual(seen["with the light a stop brighter"][0].light_ev, before.light_ev + 1)
        self.assertEqual(seen["with the light a stop darker"][0].light_ev, before.light_ev - 1)
        self.assertAlmostEqual(seen["shown a size larger"][0].shown_long_side_mm / before.shown_long_side_mm, 2**0.5)
        self.assertAlmostEqual(
            seen["with your ceiling of ISO a stop lower"][1].iso_ceiling, conventions.iso_ceiling / 2
        )

    def test_a_lighter_kit_is_level_with_the_first_up_to_five_in_a_hundred(self):
        brief, *_ = a_bench(3)
        does, cannot = SimpleNamespace(status=Status.DOES), SimpleNamespace(status=Status.CANNOT)
        for share, level in ((4.9, True), (5.1, False)):
            pictures = [PictureShare(brief, 100 - share), PictureShare(brief, share)]
            kits = [KitSums("heavy", [does, does], 2000.0, 1.0, ""), KitSums("light", [does, cannot], 1000.0, 1.0, "")]
            text = wording.sentence(says_first(kits, pictures))
            self.assertEqual("light is even with it" in text, level, text)
            # what weighs almost as much is not called lighter
            kits[1] = replace(kits[1], grams=1990.0)
            self.assertNotIn("even with it", wording.sentence(says_first(kits, pictures)))

    def test_nothing_is_nothing(self):
        brief, *_ = a_bench(3)
        _, _, _, conventions, _ = a_bench(3)
        self.assertEqual(choose([PictureShare(brief, 1.0)], [[], []], conventions), [[None, None]])
        self.assertEqual(share_made([PictureShare(brief, 0.0)], [None]), 0.0)
        self.assertEqual(changes([PictureShare(brief, 0.0)], KitRigs([]), None, None, conventions), TellingChanges())
        self.assertIsInstance(DomainError("a", "b", 1), ValueError)
