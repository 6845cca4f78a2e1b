"""Three cameras and more: every ranking against figures of its own, the best by a rule written again, and at most a
dozen sentences.
"""

import re
from math import inf, isfinite, isnan, log2, nan
from unittest import TestCase

from django.test import tag

from cambrel.comparison.demand import DOES, NEARLY
from cambrel.comparison.engine import Body, Brief, Lens, Rig, compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.pairs import pair_alone
from cambrel.optics.formats import Sensor
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.judges import _room_mm3
from cambrel.tests.truth.said import BENCHES, UGLY, bench
from cambrel.verdicts.among_all import FEWEST, MOST_SAID, among_all, best_of_all, of_pair
from cambrel.wording import sentence


def depth(eye):
    return nan if isnan(eye.near) or isnan(eye.far) else eye.far - eye.near


def blur(eye):
    away = eye.brief.background_m
    return nan if away is None else eye.disc(eye.d + 1000 * away) / eye.diagonal


def room(eye):
    taken = _room_mm3(eye)
    return nan if taken is None else -taken / 1e6


READ = {
    "rank_view": (lambda eye: eye.d / eye.v * eye.long, lambda a, b: abs(b / a - 1) <= 0.01),
    "rank_depth": (depth, lambda a, b: a == b or (isfinite(a) and isfinite(b) and abs(b / a - 1) <= 0.05)),
    "rank_blur": (blur, lambda a, b: a == b or (a > 0 and abs(b / a - 1) <= 2 ** (1 / 12) - 1)),
    "rank_clean": (lambda eye: 2 * log2(eye.snr()) if eye.snr() > 0 else nan, lambda a, b: abs(a - b) <= 1 / 6),
    "rank_light": (lambda eye: log2(eye.shots * eye.exposure * eye.area), lambda a, b: abs(a - b) <= 1 / 6),
    "rank_weight": (lambda eye: -eye.carried, lambda a, b: abs(b / a - 1) <= 0.05),
    "rank_volume": (room, lambda a, b: abs(b / a - 1) <= 0.05),
}
"""Of each ranking what it goes by, the largest first, and when two count as the same."""


def many(count):
    for seed in range(count):
        compared = bench(seed)
        if compared is not None and len(compared.rigs) >= FEWEST:
            yield seed, compared


@tag("long")
class AmongAllTests(TestCase):
    def test_every_ranking_is_in_order_and_puts_together_what_is_the_same(self):
        met = set()
        for seed, compared in many(3 * BENCHES // 2):
            eyes = {index: Eye(compared, index) for index in range(len(compared.rigs))}
            seeing = [index for index, eye in eyes.items() if eye.focusable]
            for verdict in among_all(compared):
                if verdict.key not in READ:
                    continue
                read, level = READ[verdict.key]
                values = {index: read(eyes[index]) for index in seeing}
                body, _, missing = verdict.text.removesuffix(".").partition("; ")
                with self.subTest(seed=seed, said=verdict.text):
                    unknown = {index for index, value in values.items() if value != value}
                    self.assertEqual({int(n) for n in re.findall(r"rig_(\d)", missing)}, unknown)
                    self.assertEqual("unknown" in missing, bool(unknown))
                    ranked = body.partition(": ")[2]
                    known = [value for value in values.values() if value == value]
                    if not ranked:
                        top = max(known)
                        self.assertTrue(all(level(top, value) or self._near(level, top, value) for value in known))
                        met.add((verdict.key, "alike"))
                        continue
                    # what stands before a figure belongs to it
                    parts = ranked.split(", then ") if "behind" in ranked else re.split(r"(?<=\}), (?=\{rig)", ranked)
                    groups, waiting = [], []
                    for part in parts:
                        waiting += [int(n) for n in re.findall(r"rig_(\d)", part)]
                        if "behind" in ranked or "{value_" in part:
                            groups, waiting = [*groups, waiting], []
                    self.assertEqual(sorted(n for group in groups for n in group), sorted(set(values) - unknown))
                    heads = [max(values[n] for n in group) for group in groups]
                    for number, (head, group) in enumerate(zip(heads, groups, strict=True)):
                        for n in group:
                            self.assertTrue(level(head, values[n]) or self._near(level, head, values[n]))
                        if number:
                            before = heads[number - 1]
                            self.assertGreater(before, head)
                            self.assertTrue(not level(before, head) or self._near(level, before, head))
                        firsts = [
                            eyes[n] for n in group if abs(values[n] - head) <= 1e-9 * abs(head) or values[n] == head
                        ]
                        self._figure(verdict, number, head, heads[0], firsts)
                    met.add((verdict.key, "ranked"))
        self.assertGreaterEqual({key for key, how in met if how == "ranked"}, set(READ), met)
        self.assertIn(("rank_view", "alike"), met)

    def _near(self, level, a, b):
        """Whether two values lie at the threshold itself, where the last digits decide."""
        return a == b or level(a, b * (1 + 1e-9)) != level(a, b * (1 - 1e-9))

    def _figure(self, verdict, number, head, top, firsts):
        figure = verdict.figures.get(f"value_{number}")
        if figure is None:
            return self.assertEqual(number, 0)
        read = {
            "rank_view": lambda eye: eye.wide, "rank_depth": depth, "rank_blur": lambda eye: head,
            "rank_weight": lambda eye: -head, "rank_volume": lambda eye: -head,
        }.get(verdict.key, lambda eye: top - head)  # fmt: skip
        if figure.kind == "word":
            return self.assertEqual((figure.value, head), ("without end", inf))
        return self.assertTrue(any(abs(figure.value / read(eye) - 1) < 1e-6 for eye in firsts))

    def test_the_best_can_take_it_is_cleanest_or_else_lightest(self):
        met = set()
        for seed, compared in many(7 * BENCHES):
            every = range(len(compared.rigs))
            said = best_of_all(compared, every)
            done = {check.index: check.status for check in fulfilment(compared)}
            eyes = {index: Eye(compared, index) for index in every}
            text, best = said.text, said.figures["best"].value if "best" in said.figures else None
            able = [index for index in every if done[index] is DOES]
            with self.subTest(seed=seed, said=text):
                self.assertEqual(bool(able), not re.search("No camera|Whether", text))
                if not able:
                    near = {index for index, status in done.items() if status is NEARLY}
                    self.assertEqual("just falls short" in text, len(near) == 1)
                    self.assertEqual("just fall short" in text, len(near) > 1)
                    if len(near) > 1:
                        named = {figure.value for name, figure in said.figures.items() if name.startswith("rig_")}
                        self.assertEqual(named, near)
                    if best is not None:
                        self.assertIs(done[best], NEARLY)
                    met.add(text[:10])
                    continue
                if len(able) == 1:
                    self.assertEqual(best, able[0])
                    self.assertIn("it alone can take it", text)
                    met.add("alone")
                    continue
                if len(able) == len(done):
                    self.assertIn("All of them can take this picture", text)
                else:
                    named = {figure.value for name, figure in said.figures.items() if name.startswith("rig_")}
                    self.assertEqual(named, set(able))
                noise = {index: 2 * log2(eyes[index].snr()) if eyes[index].snr() > 0 else nan for index in able}
                known = not any(value != value for value in noise.values())
                ahead = sorted(noise.values())[-1] - sorted(noise.values())[-2] if known else 0
                if known and ahead > 1 / 6 + 1e-9:
                    self.assertIn("cleaner than", text)
                    self.assertEqual(noise[best], max(noise.values()))
                    self.assertAlmostEqual(said.figures["ahead"].value, ahead, 6)
                    met.add("cleaner")
                    continue
                self.assertNotIn("cleaner than", text)
                level = [index for index in able if not known or max(noise.values()) - noise[index] <= 1 / 6]
                mass = {index: eyes[index].carried for index in level}
                if not any(value != value for value in mass.values()) and "lighter than" in text:
                    self.assertEqual(mass[best], min(mass.values()))
                    self.assertAlmostEqual(said.figures["less"].value, sorted(mass.values())[1] - mass[best], 6)
                    self.assertGreater(sorted(mass.values())[1] / mass[best], 1.05)
                    self.assertEqual("none is cleaner" in text, known)
                    met.add("lighter")
                else:
                    self.assertIn("equally good", text)
                    by_mass = sorted(mass.values())
                    self.assertTrue(any(grams != grams for grams in by_mass) or by_mass[1] / by_mass[0] < 1.05 + 1e-9)
                    met.add("equally")
        self.assertGreaterEqual(met, {"alone", "cleaner", "No camera "}, met)

    def test_of_those_that_are_as_clean_the_lightest_serves_best_and_else_none(self):
        body = Body(Sensor(36, 24, 6000, 4000), 100, 51200, weight_g=600)

        def said(*grams):
            lenses = [Lens(50, 50, ((50, 1.8),), weight_g=one) for one in grams]
            rigs = [Rig(body, lens, 50, 4, 1 / 125, 400) for lens in lenses]
            light = float(compare(Brief(), rigs).of(0).light.exposure_value)
            best = best_of_all(compare(Brief(light_ev=light), rigs), range(len(rigs)))
            return sentence(best).replace("\u00a0", " ").removesuffix(" All of them can take this picture.")

        lightest = "B is best for this picture: none is cleaner, and it is 200 g lighter than C."
        self.assertEqual(said(500, 200, 400), lightest)
        self.assertEqual(said(200, 210, 220), "A, B and C are equally good for this picture.")
        self.assertEqual(said(500, None, 400), "A, B and C are equally good for this picture.")

    def test_a_dozen_sentences_at_most_each_sound_and_none_twice(self):
        for seed, compared in many(BENCHES):
            said = among_all(compared)
            self.assertLessEqual(len(said), MOST_SAID)
            self.assertEqual(said[0].key, "best_of_all")
            texts = [sentence(verdict) for verdict in said]
            self.assertEqual(len(set(texts)), len(texts), seed)
            for text in texts:
                self.assertIsNone(UGLY.search(text), text)

    def test_any_two_are_set_against_each_other_as_they_stand(self):
        seen = 0
        # the last two: three that each stand elsewhere, and focused by a distance from where each stands
        for seed, compared in [*many(BENCHES // 2), *((seed, bench(seed)) for seed in (106, 244))]:
            count = len(compared.rigs)
            one, other = seed % count, (seed + 1) % count
            try:
                pair = pair_alone(compared, one, other)
            except DomainError:
                continue
            self.assertIn(pair.reference, (one, other))
            for verdict in of_pair(compared, one, other):
                self.assertLessEqual(set(verdict.rigs), {one, other}, verdict.key)
            for index in (one, other):
                before, after = compared.of(index), pair.of(index)
                if not (before.settings.focusable and after.settings.focusable):
                    continue
                for name in ("focal_length_mm", "f_number", "shutter_s", "object_distance_m"):
                    was, now = getattr(before.settings, name), getattr(after.settings, name)
                    self.assertTrue(was == now or abs(now / was - 1) < 1e-6, (seed, index, name, was, now))
                seen += 1
        self.assertGreater(seen, BENCHES / 8)
