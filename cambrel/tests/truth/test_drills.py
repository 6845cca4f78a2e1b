"""Every kind of question over random cases: the right answer by another route, wrong ones that can be told from it,
mistakes that give them.
"""

import re
from collections import Counter
from functools import cache
from random import Random
from unittest import TestCase

from django.test import tag
from scipy.optimize import brentq

from cambrel.comparison.brief import Conventions
from cambrel.comparison.rig import Lens
from cambrel.drills.all_drills import KINDS
from cambrel.drills.drawing import DrillCamera, GearPool, drawn
from cambrel.learn.put_questions import EYE, Put, put, truths, wrong_words
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.tests.truth.answers import BY_DEPTH, INVERTED, INVERTED_WHEN, JUDGED, RIGHT, SLIPS, TERMS, Seen, told_apart
from cambrel.tests.truth.said import BENCHES, UGLY

CASES = 500 if BENCHES >= 1000 else 24
MISJUDGED = ("other_terms", "one_for_both", "one_of_two")
AT_A_GLANCE = dict.fromkeys(("view", "same_lens", "walk", "reach", "circle", "hyperfocal"), 4)
"""How many tolerances two answers to pick from are apart; two where it is no such."""
JUDGED_CASES = max(12, BENCHES // 6 * 3 // 5)
PIXELS = (4032, 5184, 6000, 8192, 9504)
SCHOOLS = (
    ("diagonal", "diagonal_1500"),
    ("width", "diagonal_1730"),
    ("height", "print"),
    ("area", "traditional"),
    ("diagonal", "two_pixels"),
)


TAKES = {"East": frozenset({"East", "West"}), "West": frozenset({"West"})}


OF_OTHER = ("hyperfocal", "closeup", "stars", "advert")


def can_be(lens, focal, number=None):
    """Whether a lens can be set to a focal length, and to an f-number there as it is marked."""
    widest = lens.widest_f_number(focal)
    wide, narrow = 0.97 * widest, max(lens.smallest_f_number or 256, widest)
    return lens.focal_min_mm <= focal <= lens.focal_max_mm and (number is None or wide <= number <= narrow)


def pool():
    """Cameras of every format but film, with lenses of several mounts."""
    own = ("24 f/1.8", Lens(8, 8, ((8, 1.8),), 1.8))
    mounts = {0: ("", frozenset(), (own,)), 1: ("East", TAKES["East"]), 2: ("West", TAKES["West"])}
    cameras = tuple(
        DrillCamera(one.name, Sensor(one.width_mm, one.height_mm, PIXELS[i % 5]), *mounts[i % 3])
        for i, one in enumerate(FORMATS.values())
        if one.medium == "digital"
    )
    lenses = {
        "East": [
            ("12-40 f/2.8", Lens(12, 40, ((12, 2.8), (40, 2.8)))),
            ("25 f/1.4", Lens(25, 25, ((25, 1.4),), image_circle_mm=23.0)),
        ],
        "West": [("70-300", Lens(70, 300, ((70, 4), (300, 6.3)))), ("8 f/2", Lens(8, 8, ((8, 2.0),)))],
    }
    return GearPool(cameras, lenses)


@cache
def drawn_cases(kind, count=CASES, **asked):
    shelf = pool()
    return [
        drawn(
            kind,
            Random(seed),
            shelf,
            Conventions(crop_by=by, criterion=sharp, noise=("picture", "pixel")[seed % 2]),
            **asked,
        )
        for seed in range(count)
        for by, sharp in [SCHOOLS[seed % len(SCHOOLS)]]
    ]


def cases(kind, count=CASES, **asked):
    return [case.given for case in drawn_cases(kind, count, **asked)]


@tag("long")
class DrillTests(TestCase):
    def test_nobody_is_asked_about_what_the_gear_has_not(self):
        """A focal length of the lens that is named, an f-number that it can be set to, a lens on both only where it
        goes on both.
        """
        shelf = pool()
        cameras = {camera.name: camera for camera in shelf.cameras}
        lenses = {name: lens for made in shelf.lenses.values() for name, lens in made}
        for key in KINDS:
            for case in drawn_cases(key):
                given, carrier = case.given, case.other if key in OF_OTHER else case.one
                camera = cameras.get(carrier)
                has = [lens for _, lens in camera.lenses or shelf.lenses.get(camera.mount, [])] if camera else []
                with self.subTest(kind=key, case=case):
                    if case.lens or (has and not camera.mount):
                        among = [lenses[case.lens]] if case.lens in lenses else has
                        self.assertTrue(any(can_be(lens, given.focal_mm, given.f_number) for lens in among))
                    if key == "walk" and has:
                        self.assertTrue(any(can_be(lens, given.second_focal_mm) for lens in has))
                        if case.lens:
                            self.assertTrue(can_be(lenses[case.lens], given.second_focal_mm))
                    if key in ("same_lens", "reach", "circle"):
                        self.assertIn(cameras[case.one].mount, TAKES[cameras[case.other].mount])
                    if key == "closeup":
                        self.assertTrue(camera.mount)

    def test_the_right_answer_is_right_and_each_mistake_gives_its_own(self):
        for key, kind in KINDS.items():
            met = Counter()
            for number, given in enumerate(cases(key)):
                seen, posed = Seen(given), kind.pose(given)
                with self.subTest(kind=key, given=given):
                    right = RIGHT[key](seen)
                    self.assertLess(abs(posed.right - right), 1e-9 * max(1, abs(right)))
                    values = [posed.right, *(slip.value for slip in posed.slips)]
                    self.assertGreaterEqual(len(values), 3)
                    for at, value in enumerate(values):
                        self.assertTrue(all(told_apart(key, value, other) > 1 for other in values[at + 1 :]), values)
                    offered = [right, *(slip.value for slip in posed.offered)]
                    self.assertTrue(3 <= len(offered) <= 4 and set(offered[1:]) <= set(values))
                    for at, value in enumerate(offered):
                        self.assertTrue(
                            all(told_apart(key, value, other) > AT_A_GLANCE.get(key, 2) for other in offered[at + 1 :])
                        )
                    for slip in posed.slips:
                        expected = SLIPS[key][slip.key](seen)
                        self.assertLess(abs(slip.value - expected), 1e-9 * max(1, abs(expected)))
                        met[slip.key] += 1
                    if number % 5 == 0:  # each of these poses the question again
                        for slip in posed.slips:
                            self.assertFalse(kind.is_right(given, slip.value))
                            self.assertEqual(kind.slip_of(given, slip.value), slip.key)
                        self.assertTrue(kind.is_right(given, posed.right))
                        self.assertEqual(kind.slip_of(given, posed.right), "")
            self.assertEqual(set(met), set(SLIPS[key]), "a mistake that never can be told from the right answer")

    def test_what_is_told_of_a_turned_answer_is_so(self):
        """That the smaller frame takes the shorter lens, opens wider, shows less, shows diffraction sooner and gathers
        less; finer pixels reach.
        """
        for key, rises in INVERTED.items():
            for given in cases(key):
                right = KINDS[key].pose(given).right
                with self.subTest(kind=key, given=given):
                    self.assertEqual(right > rises(given), INVERTED_WHEN[key](given))

    def test_an_advert_is_of_a_small_sensor_and_a_circle_of_a_lens_for_the_smaller_frame(self):
        for given in cases("advert"):
            self.assertEqual((given.one.width_mm, given.one.height_mm), (36, 24))
            self.assertLess(given.other.diagonal_mm, given.one.diagonal_mm)
        for given in cases("circle"):
            self.assertLess(given.one.diagonal_mm, given.other.diagonal_mm)
        self.assertEqual({key: KINDS[key].words.terms for key in TERMS}, TERMS)

    def test_an_answer_is_right_within_a_third_of_a_stop_or_five_percent(self):
        for key, kind in KINDS.items():
            for given in cases(key)[:16]:
                right = kind.pose(given).right
                for share, expected in ((0.99, True), (1.01, False), (-0.99, True), (-1.01, False)):
                    if key in ("exposure", "total_light", "closeup"):
                        said = right + share / 3
                    else:
                        lo, hi = 1e-9, 1e9
                        within = brentq(lambda x, r=right: told_apart(key, r * x, r) - 1, 1.0001, 3)  # noqa: B023
                        said = min(max(right * within**share, lo), hi)
                    with self.subTest(kind=key, share=share):
                        self.assertEqual(kind.is_right(given, said), expected)

    def test_a_sentence_holds_under_the_terms_that_are_said(self):
        for key, kind in KINDS.items():
            met = Counter()
            for given in cases(key, JUDGED_CASES, to_judge=True):
                if key in BY_DEPTH and given.criterion in ("two_pixels", "print"):
                    continue
                seen = Seen(given)
                with self.subTest(kind=key, given=given):
                    expected = tuple(word == given.claim for word in JUDGED[key](seen))
                    self.assertEqual(kind.holds(given), expected)
                    met[expected] += 1
            self.assertGreaterEqual(len(met), 2, met)

    def test_every_question_and_every_answer_is_said_in_words(self):
        shelf = pool()
        for key in KINDS:
            for seed in range(6):
                for level in ("estimate", "number", "judge"):
                    made = put("0" * 12, seed, key, level, shelf, Conventions(), seed)
                    said = [made.text, made.claim, *made.choices(), *truths(made)]
                    told = [
                        wrong_words(made, slip) for slip in (MISJUDGED if level == "judge" else KINDS[key].words.slips)
                    ]
                    if level != "judge":
                        self.assertEqual(
                            told,
                            [made.words.asked_of(text, made.case.given) for text in KINDS[key].words.slips.values()],
                        )
                    said += told
                    for text in said:
                        with self.subTest(kind=key, level=level, text=text):
                            self.assertTrue(text)
                            self.assertIsNone(UGLY.search(text) or re.search(r"[{}]|nan|–", text), text)
                    self.assertEqual(len(set(made.choices())), len(made.choices()), "answers that read alike")
            self.assertEqual(set(KINDS[key].words.slips), set(SLIPS[key]))
            self.assertFalse(set(KINDS[key].words.slips) & set(MISJUDGED), "one name for two mistakes")

    def test_what_is_said_of_the_terms_is_what_is_judged(self):
        """The sentence that is told afterwards is the one of three that holds."""
        shelf = pool()
        for key, kind in KINDS.items():
            for seed in range(4):
                made: Put = put("1" * 12, seed, key, "judge", shelf, Conventions(), seed)
                given = made.case.given
                for text, terms, relation in zip(
                    truths(made), KINDS[key].words.terms, JUDGED[key](Seen(given)), strict=True
                ):
                    with self.subTest(kind=key, seed=seed):
                        self.assertEqual(
                            text,
                            f"{terms[0].upper()}{terms[1:]}:"
                            f" {made.words.asked_of(made.words.claims[relation + 1], given)}",
                        )
                right = [answer for answer in range(4) if made.judged(answer)[0]]
                self.assertEqual(
                    right, [[(True, True), (True, False), (False, True), (False, False)].index(kind.holds(given))]
                )

    def test_two_pictures_to_tell_apart_differ_for_everybody_to_see(self):
        from cambrel.comparison.engine import compare
        from cambrel.learn.cases import bench_of

        shelf, met = pool(), Counter()
        for key in ("depth", "walk"):
            for seed in range(40):
                made = put(f"{seed:012x}", seed, key, "estimate", shelf, Conventions())
                if made.level != EYE:
                    continue
                met[key, made.shown_first] += 1
                bench = bench_of(made)
                a, b = (compare(bench.brief, bench.rigs, bench.hold).of(i) for i in (0, 1))
                with self.subTest(kind=key, seed=seed):
                    if key == "depth":
                        larger, smaller = sorted((a, b), key=lambda rig: -rig.frames.area_mm2)
                        self.assertGreater(larger.blur.background_share / smaller.blur.background_share, 1.1)
                    else:
                        self.assertGreater(b.view.background_scale / a.view.background_scale, 1.3)
                    self.assertEqual(made.judged(made.shown_first), (True, ""))
                    self.assertEqual(made.judged(1 - made.shown_first), (False, EYE))
        self.assertEqual(len(met), 4)
