"""Every sentence on a random bench is judged again: said when it is true, not said when it is not, its figures right,
none against another.

Some benches run with the other tests; `make truth` runs some thousands (CAMBREL_TRUTH_BENCHES).
"""

import json
from collections import Counter
from itertools import combinations
from math import inf, isfinite, log2
from pathlib import Path
from string import Formatter
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison.blur_budget import PARTS
from cambrel.comparison.engine import compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.reference import make_reference
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.alone import alone
from cambrel.tests.truth.demands import CANNOT, DOES, NEARLY, UNKNOWN, demands
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.judged import STOPS, Judged, over
from cambrel.tests.truth.judges import pair
from cambrel.tests.truth.said import BENCHES, UGLY, bench, benches, found, parts_of, parts_of_check
from cambrel.tests.truth.settling import unsettled
from cambrel.verdicts.ranking import ranked
from cambrel.verdicts.registry import PAIR_RULES, RIG_RULES, WHOLE_RULES
from cambrel.verdicts.sharp import NAMES, what_limits

CLOSE = 1e-6
AGAINST = (
    ("equivalent", "same_picture"), ("equivalent", "gap"), ("equivalent", "no_such_lens"),
    ("equivalent", "cannot_exist"),
    ("equivalent", "view"), ("same_picture", "view"), ("shape", "view"), ("equivalent", "diffraction_trap"),
    ("gap", "no_such_lens"), ("gap", "cannot_exist"), ("no_such_lens", "cannot_exist"),
    ("walk_same_spot", "perspective"),
    ("equivalent", "perspective"), ("same_picture", "perspective"), ("equal_diffraction", "diffraction_trap"),
)  # fmt: skip
"""Two sentences about one rig that cannot both be true."""


ASKED = (
    "{a} can take this picture as set. {b} cannot", "{a} can take this picture as set. {b} just falls short",
    "{a} just falls short of this picture as set. {b} does not come near",
)  # fmt: skip


@tag("long")
class TruthTests(TestCase):
    longMessage = True

    def test_every_sentence(self):
        spoken, silent, looked_at = Counter(), Counter(), 0
        for seed, compared in benches():
            looked_at += 1
            with self.subTest(seed=seed):
                self._judge(compared, spoken, silent)
        self.assertGreater(looked_at, BENCHES * 0.6)
        keys = {"equivalent", "same_picture", "view", "depth", "background_blur", "total_light", "brightness", "gap",
            "focal_limit",
                "f_number_limit", "no_focus", "diffraction", "reference_exposure", "image_circle", "weight",
                "asked"}  # fmt: skip
        self.assertEqual({key for key in keys if not spoken[key]}, set(), "never met")
        self.assertEqual({key for key in keys - {"total_light"} if not silent[key]}, set(), "always met")

    def test_every_sentence_is_worded_as_it_was_read_through(self):
        """A sentence that is changed, or turned round, is read again before it is put into the list."""
        known = json.loads((Path(__file__).parent / "sentences.json").read_text())
        checks = {text for key, texts in known.items() if key.startswith("check ") for text in texts}
        met = set()
        for seed, compared in benches():
            with self.subTest(seed=seed):
                for verdict in found(compared):
                    met.add(verdict.key)
                    if verdict.key == "asked":
                        lead, _, rest = verdict.text.partition(": ")
                        self.assertIn(lead, ASKED)
                        for part in parts_of_check(rest.removesuffix(".")):
                            self.assertIn(part, checks)
                    else:
                        for part in parts_of(verdict.text):
                            self.assertIn(part, known[verdict.key])
                for one in fulfilment(compared):
                    for check in one.checks:
                        for part in parts_of_check(check.text):
                            self.assertIn(part, known["check cure" if part.startswith("; ") else f"check {check.key}"])
        if BENCHES >= 3000:
            of_the_best = {"at_its_best", "both_at_best"}
            self.assertEqual(
                {key for key in known if not key.startswith("check ")} - met - of_the_best, set(), "never said"
            )

    def test_what_limits_each_rig(self):
        """Named is what takes most, by how much, of parts that are taken away one by one."""
        met = Counter()
        for seed, compared in benches():
            for eye in (Eye(compared, index) for index in range(len(compared.rigs))):
                if not eye.focusable or not isfinite(compared.of(eye.index).sharpness.lines_per_height):
                    continue
                with self.subTest(seed=seed, rig=eye.index):
                    said = what_limits(compared.of(eye.index))
                    text = wording.sentence(said)
                    self.assertIsNone(UGLY.search(text), text)
                    whole, known = eye.half_contrast(), eye.pitch == eye.pitch
                    self.assertAlmostEqual(said.figures["lines"].value / eye.lines, 1, places=7)
                    self.assertEqual("its pixels are not on record" in text, not known)
                    lens = eye.lens_alone == eye.lens_alone
                    self.assertEqual(
                        "its lens is not on record" in text or "its lens and its pixels are" in text, not lens
                    )
                    self.assertEqual("at best" in text and "Of what is known" in text, not (known and lens))
                    if known and over(whole, 1 / (2 * eye.pitch)) is not None:
                        self.assertEqual("all that its pixels can hold" in text, whole > 1 / (2 * eye.pitch))
                    prices = {part: eye.half_contrast(part) / whole for part in PARTS}
                    ranked = sorted(prices, key=lambda part: -prices[part])
                    parts = NAMES | {"motion": NAMES["shake" if eye.shake > eye.movement else "movement"]}
                    named = [part for part in PARTS if parts[part] in said.figures["parts"].value]
                    second = prices[ranked[0]] / prices[ranked[1]]
                    if over(second, 1.05) is None and isfinite(prices[ranked[0]]):
                        continue
                    alike = second <= 1.05 and prices[ranked[1]] > 1 + 1e-9
                    self.assertEqual(set(named), set(ranked[:2] if alike else ranked[:1]))
                    met[tuple(sorted(named))] += 1
                    if isfinite(prices[ranked[0]]):
                        self.assertAlmostEqual(said.figures["times"].value / prices[ranked[0]], 1, places=7)
                    else:
                        self.assertIn("only diffraction softens it", text)
        self.assertGreaterEqual(len(met), 5, met)

    def test_every_setting(self):
        for seed, compared in benches():
            with self.subTest(seed=seed, hold=compared.hold):
                self.assertEqual(unsettled(compared, [Eye(compared, index) for index in range(len(compared.rigs))]), [])

    def _judge(self, compared, spoken, silent):
        eyes = [Eye(compared, index) for index in range(len(compared.rigs))]
        first = eyes[compared.reference]
        expected = {}
        for b in eyes:
            for key, judged in alone(b, first).items():
                expected[key, (b.index,)] = judged
            if b is not first and b.focusable:
                flags = {"depth_overshoot": b.settings.depth_overshoot}
                for key, judged in pair(first, b, flags).items():
                    expected[key, (first.index, b.index)] = judged
        said = {(v.key, v.rigs): v for v in found(compared)}
        self.assertEqual(len(said), len(found(compared)), "one rule says one thing of one pair")
        for (key, rigs), judged in expected.items():
            (spoken if (key, rigs) in said else silent)[key] += 1
            if judged.should is None:
                continue
            known = all(isfinite(v) for v in judged.figures.values() if isinstance(v, float | int))
            if judged.should and known:
                self.assertIn((key, rigs), said, "should be said")
            if not judged.should:
                self.assertNotIn((key, rigs), said, "should not be said")
        front = compared.brief.foreground_m
        past = tuple(e.index for e in eyes if front is not None and e.focusable and e.d <= 1000 * front)
        if past:
            expected["behind_camera", past] = Judged(True, {"front": front})
            self.assertIn(("behind_camera", past), said)
        heights = {e.index: e.brief.subject_height_m / e.high for e in eyes if e.focusable}
        if all(over(times, 1.01) is not None for times in heights.values()):
            cut = tuple(index for index, times in heights.items() if times > 1.01)
            if cut:
                parts = {f"part_{index}": 1 / heights[index] for index in cut}
                expected["taller_than_frame", cut] = Judged(True, parts | {"height": compared.brief.subject_height_m})
                self.assertIn(("taller_than_frame", cut), said)
            else:
                self.assertNotIn("taller_than_frame", {key for key, _ in said})
        for (key, rigs), verdict in said.items():
            if key == "asked":
                spoken[key] += 1
                continue
            self.assertIn((key, rigs), expected, f"{key} has no judge")
            self._figures(key, verdict, expected[key, rigs])
        silent["asked"] += not any(key == "asked" for key, _ in said)
        self._page(compared, eyes)

    def _figures(self, key, verdict, judged):
        if judged.should is None:
            return
        places = {name for _, name, _, _ in Formatter().parse(verdict.text) if name}
        self.assertEqual(places, set(verdict.figures), key)
        for name, value in judged.figures.items():
            if name in verdict.figures and isfinite(value):
                told = verdict.figures[name].value
                self.assertLessEqual(
                    abs(told - value), CLOSE * max(abs(value), 1e-9), f"{key}.{name}: {told} is {value}"
                )
        for name, word in judged.words.items():
            if isinstance(word, list):  # all of these are in the word
                self.assertTrue(all(part in verdict.figures[name].value for part in word), f"{key}.{name}")
            elif name in verdict.figures:
                self.assertEqual(verdict.figures[name].value, word, f"{key}.{name}")
        text = verdict.text + " ".join(str(f.value) for f in verdict.figures.values() if isinstance(f.value, str))
        for part in judged.has:
            self.assertIn(part, text, key)
        for part in judged.lacks:
            self.assertNotIn(part, text, key)

    def _page(self, compared, eyes):
        """What stands together on one page: no ugly text, no two sentences against each other, the statuses, the
        order.
        """
        ordered = ranked(found(compared), compared)
        texts = [wording.sentence(v) for v in ordered]
        self.assertEqual(len(texts), len(set(texts)), "one sentence is said twice")
        for verdict, text in zip(ordered, texts, strict=True):
            self.assertIsNone(UGLY.search(text), text)
            if " against " in verdict.text and "times" not in verdict.figures and verdict.key != "total_light":
                shown = [wording.figure(f) for f in verdict.figures.values() if f.kind == "f"]
                self.assertTrue(len(shown) < 2 or len(set(shown)) > 1, text)
        about = {}
        for verdict in ordered:
            about.setdefault(verdict.rigs[-1], set()).add(verdict.key)
        for keys in about.values():
            for one, other in AGAINST:
                self.assertFalse({one, other} <= keys, f"{one} against {other}")
            if "no_focus" in keys:
                self.assertLessEqual(keys, {"no_focus", "mount", "fisheye"}, "a rig without figures has none")
        whole = {(v.key, v.rigs) for v in found(compared)}
        gone = whole - {(v.key, v.rigs) for v in ranked(found(compared), compared)}
        for key, rigs in gone:
            self.assertTrue(any(key in v.subsumes and v.rigs[-1] == rigs[-1] for v in ordered), f"{key} was lost")
        part = {(key, v.rigs[-1]) for v in found(compared) for key in v.subsumes}
        self.assertEqual(
            [v.key for v in ordered if (v.key, v.rigs[-1]) in part], [], "a part of another sentence is said again"
        )
        sizes = {}
        for verdict in ordered:
            before = sizes.get(verdict.key, inf)
            self.assertLessEqual(
                verdict.size, before, f"{verdict.key}: of two rigs the one that differs more comes first"
            )
            sizes[verdict.key] = verdict.size
        if ordered and ordered[0].size < 1 and ordered[0].key != "equivalent":
            self.assertTrue(all(v.size < 1 for v in ordered if v.topic.name not in ("GEAR", "TERMS")), "level leads")
        self._statuses(compared, eyes, ordered)

    def _statuses(self, compared, eyes, ordered):
        told = fulfilment(compared)
        order = [CANNOT, UNKNOWN, NEARLY, DOES]
        for one, eye in zip(told, eyes, strict=True):
            if not eye.focusable:
                self.assertEqual((one.status, one.checks[0].text), (CANNOT, "cannot focus there"))
                continue
            expected = demands(eye)
            statuses = {check.key: check.status for check in one.checks}
            cured = {check.key for check in one.checks if "_then}" in check.text or "focus at infinity" in check.text}
            self.assertLessEqual(
                {key for key, status in statuses.items() if status != DOES}, set(expected), "nothing asks for that"
            )
            for key, status in expected.items():
                if status is None:
                    continue
                told_as = statuses.get(key, DOES)
                if key == "width" and status == CANNOT and told_as == NEARLY:
                    continue  # another focal length would do: judged with the cures
                self.assertEqual(
                    told_as,
                    NEARLY if key in cured and status == CANNOT else status,
                    f"{key} of rig {eye.index}: {one.checks}",
                )
            worst = min((order.index(status) for status in statuses.values()), default=3)
            self.assertEqual(one.status, order[worst], "the worst demand gives the status")
            for check in one.checks:
                self._check(check, eye)
        asked = next((v for v in ordered if v.key == "asked"), None)
        seeing = [one for one, eye in zip(told, eyes, strict=True) if eye.focusable and one.status != UNKNOWN]
        self.assertEqual(
            asked is not None, len({one.status for one in seeing}) > 1, "who makes it is said where it differs"
        )
        if asked:
            best, worst = (order.index(told[index].status) for index in asked.rigs)
            self.assertEqual(best, max(order.index(one.status) for one in seeing))
            self.assertEqual(worst, min(order.index(one.status) for one in seeing))
            self.assertIs(asked, next(v for v in ordered if v.topic.name not in ("IMPOSSIBLE", "FOCUS")))

    def _check(self, check, eye):
        """What would widen the frame is a focal length that this lens has; a mark is not the one that is set."""
        text = wording.sentence(check)
        self.assertIsNone(UGLY.search(text), text)
        f = {name: figure.value for name, figure in check.figures.items()}
        if "{f} would be" in check.text:
            self.assertGreaterEqual(f["f"], eye.range[0] * (1 - 1e-6))
            self.assertLess(f["f"], eye.f)
        if "{n} would be enough, but" in check.text or "it would take {n}" in check.text:
            self.assertGreater(f["n"], eye.n)
            self.assertEqual("it would take" in check.text, f["n"] > eye.smallest * (1 + 1e-9))
        if "but diffraction" in check.text:
            self.assertGreater(2 * log2(f["n"] * eye.airy / eye.n / eye.c), STOPS * (1 - 1e-9))
        if check.key == "focus" and check.status == DOES:
            self.assertLess(eye.disc(eye.d), eye.c * 1.06)

    def test_every_rule_is_judged(self):
        """A rule that is entered without a predicate here would go unjudged."""
        keys = set()
        for seed in range(max(BENCHES, 80)):
            if (compared := bench(seed)) is not None:
                keys |= {v.key for v in found(compared)}
        rules = len(PAIR_RULES) + len(RIG_RULES) + len(WHOLE_RULES)
        self.assertGreaterEqual(len(keys), rules - 2, sorted(keys))

    def test_swapping_the_rigs_turns_the_words(self):
        turned = {
            "more": "less",
            "less": "more",
            "wider": "tighter",
            "tighter": "wider",
            "brighter": "darker",
            "darker": "brighter",
        }
        met = Counter()
        for _, compared in benches():
            if compared.hold.lens_of is not None or (compared.hold.lens, compared.hold.place) != ("own", "spot"):
                continue
            if (compared.hold.aperture, compared.hold.exposure) != (
                "own",
                "own",
            ) or compared.brief.distance_from != "lens":
                continue
            for a, b in combinations(range(len(compared.rigs)), 2):
                try:
                    there, back = (
                        compare(compared.brief, compared.rigs, compared.hold, compared.conventions, one)
                        for one in (a, b)
                    )
                except DomainError:
                    continue
                told = {v.key: v for v in found(there) if v.rigs == (a, b)}
                again = {v.key: v for v in found(back) if v.rigs == (b, a)}
                for key in ("view", "depth", "background_blur", "total_light", "brightness"):
                    if key in told and key in again:
                        for name in ("word", "direction"):
                            if name in told[key].figures:
                                met[key] += 1
                                self.assertEqual(turned[told[key].figures[name].value], again[key].figures[name].value)
                        if "times" in told[key].figures:
                            product = told[key].figures["times"].value * again[key].figures["times"].value
                            self.assertAlmostEqual(product, 1, places=9)
        if BENCHES >= 400:
            self.assertGreaterEqual(len(met), 2)

    def test_what_the_picture_asks_for_comes_first_and_the_larger_before_the_smaller(self):
        """In the order of the tiers; within one, at each turn, by size."""
        for seed, compared in benches():
            asked = set()
            brief = compared.brief
            if brief.sharp_front_m is not None or brief.sharp_behind_m is not None:
                asked.add("DEPTH")
            if brief.width_shown_m is not None:
                asked |= {"VIEW", "COVER"}
            if brief.slowest_shutter_s is not None or brief.subject_speed_m_per_s > 0:
                asked |= {"LIGHT", "BRIGHTNESS"}
            differences = [
                v
                for v in ranked(found(compared), compared)
                if v.topic.name not in ("IMPOSSIBLE", "FOCUS", "ASKED", "EQUIVALENT", "GEAR", "TERMS")
            ]
            tiers = [2 if v.size < 1 else 0 if v.topic.name in asked else 1 for v in differences]
            with self.subTest(seed=seed):
                self.assertEqual(tiers, sorted(tiers))
                turns = Counter()
                ranks = []
                for tier, verdict in zip(tiers, differences, strict=True):
                    ranks.append((tier, turns[verdict.key], -verdict.size))
                    turns[verdict.key] += 1
                self.assertEqual(ranks, sorted(ranks))

    def test_another_point_of_view_changes_nothing(self):
        """Making a rig the reference leaves every rig as it is, and back again, to 1e-9; where something was clamped
        the hold starts anew.
        """
        met = Counter()
        for seed, compared in benches():
            for index in range(len(compared.rigs)):
                figures = compared.of(index)
                if index == compared.reference or not figures.settings.focusable or _clamped(compared):
                    continue
                with self.subTest(seed=seed, index=index, hold=compared.hold):
                    brief, rigs, hold = make_reference(compared, index)
                    there = compare(brief, rigs, hold, compared.conventions, index)
                    self._same(compared, there)
                    brief, rigs, hold = make_reference(there, compared.reference)
                    self._same(compared, compare(brief, rigs, hold, compared.conventions, compared.reference))
                    met[compared.hold.lens, compared.hold.place] += 1
        if BENCHES >= 400:
            self.assertEqual(len(met), 9, met)

    def _same(self, one, other):
        for index in range(len(one.rigs)):
            a, b = one.of(index).settings, other.of(index).settings
            self.assertEqual(a.focusable, b.focusable)
            for name in ("focal_length_mm", "subject_distance_m", "object_distance_m", "f_number", "shutter_s", "iso"):
                x, y = getattr(a, name), getattr(b, name)
                self.assertTrue(
                    x == y or x != x or abs(x - y) <= 1e-9 * abs(x), f"{name} of rig {index}: {x} became {y}"
                )


def _clamped(compared):
    """Whether any rig could not go where the hold wanted it, or the hold is one that a change of view starts anew."""
    for index in range(len(compared.rigs)):
        s = compared.of(index).settings
        if not s.focusable:
            continue
        pairs = (
            (s.focal_length_mm, s.wanted_focal_length_mm),
            (s.subject_distance_m, s.wanted_distance_m),
            (s.object_distance_m, s.wanted_object_distance_m),
            (s.f_number, s.wanted_f_number),
            (s.shutter_s, s.wanted_shutter_s),
            (s.iso, s.wanted_iso),
        )
        if any(reached != wanted for reached, wanted in pairs) or s.depth_overshoot or compared.rigs[index].take_rest:
            return True
    return False
