"""Every kind of question over random cases: the right answer by another route, wrong ones that can be told from it, mistakes that give them."""

import re
from collections import Counter
from functools import cache
from math import atan, cos, hypot, inf, log, log2, pi, sin, sqrt, tan
from random import Random
from unittest import TestCase

from scipy.optimize import brentq
from scipy.special import jn_zeros

from cambrel.learn.asking import EYE, Put, put, truths, wrong_words
from cambrel.learn.gear import Camera, Pool, drawn
from cambrel.learn.kinds import WORDS
from cambrel.optics.brief import Conventions
from cambrel.optics.drills import KINDS
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.rig import Lens
from cambrel.tests.truth.eye import PHOTONS, length
from cambrel.tests.truth.test_truth import BENCHES, UGLY

CASES = 500
_LENS_AND_VIEW = ("with the same lens on both", "with the lens for the same view on each")
_NUMBER_AND_DEPTH = ("at the same f-number", "at the f-number for the same depth of field")
TERMS = {
    **dict.fromkeys(("view", "depth", "hyperfocal", "stars"), _LENS_AND_VIEW),
    **dict.fromkeys(("diffraction", "total_light"), _NUMBER_AND_DEPTH),
    "same_lens": ("with the same lens from the same spot", "with the same lens, walking until the subject is as large"),
    "walk": ("walking until the subject is as large", "staying at the same spot"),
    "reach": ("with the same lens from the same spot", "with the lens for the same view on each"),
    "circle": ("on A", "on B"),
    "closeup": ("at the same magnification on the sensor", "with as much of the subject in the frame"),
    "advert": ("for the exposure", "for the light in the whole picture"),
    "ladder": ("for the exposure", "for depth of field and light"),
}
"""What JUDGED below judges, the first and the second."""
JUDGED_CASES = max(60, BENCHES // 6)
PIXELS = (4032, 5184, 6000, 8192, 9504)
SCHOOLS = (
    ("diagonal", "diagonal_1500"),
    ("width", "diagonal_1730"),
    ("height", "print"),
    ("area", "traditional"),
    ("diagonal", "two_pixels"),
)
BEHIND_MM = 5000.0


def pool():
    """Cameras of every format but film, with lenses of several mounts."""
    cameras = tuple(
        Camera(one.name, Sensor(one.width_mm, one.height_mm, PIXELS[i % 5]), ("", "East", "West")[i % 3])
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
    return Pool(cameras, lenses)


@cache
def cases(kind, count=CASES, **asked):
    shelf = pool()
    return [
        drawn(kind, Random(seed), shelf, Conventions(crop_by=by, criterion=sharp), **asked).given
        for seed in range(count)
        for by, sharp in [SCHOOLS[seed % len(SCHOOLS)]]
    ]


class Seen:
    """What was given, measured anew."""

    def __init__(self, g):
        self.g = g
        self.sides = [length(s.width_mm, s.height_mm, g.crop_by) for s in (g.one, g.other)]
        self.k = self.sides[1] / self.sides[0]
        self.crop = length(36, 24, g.crop_by) / self.sides[1]
        self.areas = [s.width_mm * s.height_mm for s in (g.one, g.other)]
        self.pitches = [s.width_mm / s.pixels_wide for s in (g.one, g.other)]
        self.u = 1000 * g.distance_m

    def c(self, sensor):
        diagonal = hypot(sensor.width_mm, sensor.height_mm)
        return {
            "diagonal_1500": diagonal / 1500,
            "diagonal_1730": diagonal / 1730,
            "traditional": 0.03 * diagonal / hypot(36, 24),
            "print": 500 / 250 / (5 * 420 / max(sensor.width_mm, sensor.height_mm)),
            "two_pixels": 2 * sensor.width_mm / sensor.pixels_wide,
        }[self.g.criterion]

    def depth(self, f, n, u, sensor):
        """Depth of field from the cones of light: where the disc is as large as what counts as sharp."""
        v, c = 1 / (1 / f - 1 / u), self.c(sensor)
        opening = f / n
        near_v, far_v = v * opening / (opening - c), v * opening / (opening + c)
        near, far = 1 / (1 / f - 1 / near_v), inf if far_v <= f else 1 / (1 / f - 1 / far_v)
        return far - near

    def same_view(self, f):
        """The focal length on the other frame that sees the same from here."""
        v = self.k / (1 / f - 1 / self.u)
        return 1 / (1 / self.u + 1 / v)


def view(s):
    return s.sides[1] / 2 / tan(atan(s.sides[0] / 2 / s.g.focal_mm))


def walked(s):
    m = 1 / (1 / s.g.focal_mm - 1 / s.u) / s.u
    f = s.g.second_focal_mm
    return brentq(lambda u: 1 / (1 / f - 1 / u) / u - m, f * (1 + 1e-12), 1e9, xtol=1e-12, rtol=1e-14) / 1000


def kept(s):
    frame = s.g.other
    lean = atan(frame.height_mm / frame.width_mm)
    wide, high = s.g.circle_mm * cos(lean), s.g.circle_mm * sin(lean)
    return wide * high / s.pitches[1] ** 2 / 1e6


def hyperfocal(s, f=None, n=None, c=None):
    """Where the disc of infinity is as large as what counts as sharp."""
    f, n, c = f or s.g.focal_mm, n or s.g.f_number, c or s.c(s.g.other)
    return brentq(
        lambda log_u: log(f / n * (1 / (1 / f - 1 / (f + 10**log_u)) - f) / f / c), -9, 12, xtol=1e-13, rtol=1e-15
    ), f


def focus_for_all(s, **other):
    found, f = hyperfocal(s, **other)
    return (f + 10**found) / 1000


def limited(s, sensor):
    return s.c(sensor) / (2 * jn_zeros(1, 1)[0] / pi * 550e-6)


def exposed(s):
    g = s.g
    gathered = [
        t * iso / n / n
        for t, iso, n in ((g.shutter_s, g.iso, g.f_number), (g.second_shutter_s, g.second_iso, g.second_f_number))
    ]
    return log2(gathered[1]) - log2(gathered[0])


RIGHT = {
    "view": view,
    "depth": lambda s: view(s) / (s.g.focal_mm / s.g.f_number),
    "same_lens": lambda s: s.g.other.width_mm * (s.g.field_m / s.g.one.width_mm),
    "walk": walked,
    "reach": lambda s: (1 / s.pitches[1]) / (1 / s.pitches[0]),
    "circle": kept,
    "hyperfocal": focus_for_all,
    "diffraction": lambda s: limited(s, s.g.other),
    "exposure": exposed,
    "total_light": lambda s: log2(s.areas[1]) - log2(s.areas[0]),
    "noise": lambda s: 1 / (1 / s.g.iso * s.areas[0] / s.areas[1]),
    "closeup": lambda s: -2 * log2(s.g.focal_mm / (s.g.focal_mm + s.g.magnification * s.g.focal_mm)),
    "stars": lambda s: 500 / (length(36, 24, s.g.crop_by) * s.g.focal_mm / s.sides[1]),
    "advert": lambda s: s.crop * s.g.focal_mm / (s.g.focal_mm / s.g.f_number),
    "ladder": lambda s: view(s) / (s.g.focal_mm / s.g.f_number),
}
TURNED = {"view", "depth", "same_lens", "walk", "reach"}
SLIPS = {
    "view": {
        "inverted": lambda s: s.g.focal_mm / s.k,
        "unchanged": lambda s: s.g.focal_mm,
        "squared": lambda s: s.g.focal_mm * s.k * s.k,
    },
    "depth": {
        "inverted": lambda s: s.g.f_number / s.k,
        "unchanged": lambda s: s.g.f_number,
        "squared": lambda s: s.g.f_number * s.k * s.k,
    },
    "same_lens": {
        "inverted": lambda s: s.g.field_m * s.g.one.width_mm / s.g.other.width_mm,
        "unchanged": lambda s: s.g.field_m,
        "squared": lambda s: s.g.field_m * (s.g.other.width_mm / s.g.one.width_mm) ** 2,
    },
    "walk": {
        "inverted": lambda s: s.g.distance_m / (s.g.second_focal_mm / s.g.focal_mm),
        "unchanged": lambda s: s.g.distance_m,
        "squared": lambda s: s.g.distance_m * s.g.second_focal_mm**2 / s.g.focal_mm**2,
    },
    "reach": {
        "inverted": lambda s: s.pitches[1] / s.pitches[0],
        "crop": lambda s: s.sides[0] / s.sides[1],
        "squared": lambda s: (s.pitches[0] / s.pitches[1]) ** 2,
    },
    "circle": {
        "linear": lambda s: (
            s.areas[1] / s.pitches[1] ** 2 / 1e6 * s.g.circle_mm / hypot(s.g.other.width_mm, s.g.other.height_mm)
        ),
        "unchanged": lambda s: s.areas[1] / s.pitches[1] ** 2 / 1e6,
        "by_width": lambda s: s.areas[1] / s.pitches[1] ** 2 / 1e6 * min(1, s.g.circle_mm / s.g.other.width_mm) ** 2,
    },
    "hyperfocal": {
        "full_frame_circle": lambda s: focus_for_all(s, c=s.c(Sensor(36, 24, s.g.other.pixels_wide))),
        "equivalent_focal": lambda s: focus_for_all(s, f=s.g.focal_mm * s.crop),
        "half": lambda s: focus_for_all(s) / 2,
        "f_number_converted": lambda s: focus_for_all(s, n=s.g.f_number * s.crop),
    },
    "diffraction": {
        "unchanged": lambda s: limited(s, s.g.one),
        "inverted": lambda s: limited(s, s.g.one) / (limited(s, s.g.other) / limited(s, s.g.one)),
        "squared": lambda s: limited(s, s.g.one) * (limited(s, s.g.other) / limited(s, s.g.one)) ** 2,
    },
    "exposure": {
        # the f-number of B put in terms of A, or the factor on B's time, or one stop where there are two
        "crop_on_f_number": lambda s: exposed(s) - 2 * log2(s.g.second_f_number / s.k / s.g.second_f_number),
        "crop_on_shutter": lambda s: exposed(s) + log2(s.g.second_shutter_s * s.k / s.g.second_shutter_s),
        "inverted": lambda s: -exposed(s),
        "linear": lambda s: (
            log2(s.g.second_shutter_s * s.g.second_iso / s.g.second_f_number)
            - log2(s.g.shutter_s * s.g.iso / s.g.f_number)
        ),
    },
    "total_light": {
        "linear": lambda s: log2(sqrt(s.areas[1] / s.areas[0])),
        "unchanged": lambda s: 0.0,
        "inverted": lambda s: log2(s.areas[0] / s.areas[1]),
        "ratio": lambda s: max(s.areas) / min(s.areas) * (1 if s.areas[1] > s.areas[0] else -1),
    },
    "noise": {
        "unchanged": lambda s: s.g.iso,
        "linear": lambda s: s.g.iso * sqrt(s.areas[1]) / sqrt(s.areas[0]),
        "inverted": lambda s: s.g.iso * s.areas[0] / s.areas[1],
    },
    "closeup": {
        "unchanged": lambda s: 0.0,
        "linear": lambda s: log2(1 + s.g.magnification),
        "equivalent_magnification": lambda s: 2 * log2(1 + s.g.magnification * s.crop),
    },
    "stars": {
        "unchanged": lambda s: 500 / s.g.focal_mm,
        "squared": lambda s: 500 / s.g.focal_mm / s.crop / s.crop,
        "inverted": lambda s: 500 / s.g.focal_mm * s.crop,
    },
    "advert": {
        "unchanged": lambda s: s.g.f_number,
        "inverted": lambda s: s.g.f_number / s.crop,
        "squared": lambda s: s.g.f_number * s.crop**2,
    },
    "ladder": {
        "inverted": lambda s: s.g.f_number / s.k,
        "half": lambda s: s.g.f_number * 2 ** (log2(s.k) / 2),
        "unchanged": lambda s: s.g.f_number,
    },
}


def more(ratio, level):
    return 0 if abs(log(ratio)) <= log(1 + level) else 1 if ratio > 1 else -1


def in_stops(ratio):
    return 0 if abs(log2(ratio)) <= 1 / 6 else 1 if ratio > 1 else -1


def background(s):
    """The background against the subject, from here and from where the subject is as large in the other frame under the same lens."""
    high = s.g.other.height_mm / s.g.one.height_mm
    v = 1 / (1 / s.g.focal_mm - 1 / s.u)
    there = brentq(
        lambda u: 1 / (1 / s.g.focal_mm - 1 / u) / u - v / s.u * high, s.g.focal_mm * 1.0000001, 1e9, rtol=1e-14
    )
    return (there / (there + BEHIND_MM)) / (s.u / (s.u + BEHIND_MM))


def snr(s, sensor, pixel):
    """Signal to noise at the settings given in the usual light: of a pixel, or of the picture shown at eight megapixels."""
    pitch = 1000 * sensor.width_mm / sensor.pixels_wide
    f = s.g.focal_mm if sensor is s.g.one else s.same_view(s.g.focal_mm)
    effective = s.g.f_number / (1 - f / s.u)
    signal = 0.1 * 2**8 * s.g.shutter_s / effective**2 * PHOTONS * 0.5 * pitch**2
    found = signal / sqrt(signal + 3**2)
    pixels = sensor.pixels_wide**2 * sensor.height_mm / sensor.width_mm
    return found if pixel else found * sqrt(pixels / 8e6)


def totals(s, one, other):
    return more(other / one, 0.05)


JUDGED = {
    "view": lambda s: (more(s.k, 0.01), 0),
    "depth": lambda s: (
        totals(s, s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.one), s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.other)),
        totals(s, s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.one), s.depth(s.same_view(s.g.focal_mm), s.g.f_number, s.u, s.g.other)),
    ),
    "same_lens": lambda s: (0, more(background(s), 0.01)),
    "walk": lambda s: (
        totals(s, s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.one), s.depth(s.g.second_focal_mm, s.g.f_number, 1000 * walked(s), s.g.one)),
        totals(s, s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.one), s.depth(s.g.second_focal_mm, s.g.f_number, s.u, s.g.one)),
    ),
    "reach": lambda s: (more(s.pitches[0] / s.pitches[1], 0.03), more(s.pitches[0] / s.pitches[1] * s.k, 0.03)),
    "circle": lambda s: tuple(more(s.g.circle_mm / hypot(f.width_mm, f.height_mm), 0.01) for f in (s.g.one, s.g.other)),
    "hyperfocal": lambda s: (
        more(focus_for_all(s) / focus_for_all(s, c=s.c(s.g.one)), 0.05),
        more(focus_for_all(s, f=s.same_view(s.g.focal_mm)) / focus_for_all(s, c=s.c(s.g.one)), 0.05),
    ),
    "diffraction": lambda s: (in_stops((s.c(s.g.one) / s.c(s.g.other)) ** 2), in_stops((s.c(s.g.one) / s.c(s.g.other) * s.k) ** 2)),
    "exposure": lambda s: (0, in_stops(1 / s.k**2)),
    "total_light": lambda s: (in_stops(s.areas[1] / s.areas[0]), in_stops(s.areas[1] / s.areas[0] / s.k**2)),
    "noise": lambda s: tuple(in_stops((snr(s, s.g.other, pixel) / snr(s, s.g.one, pixel)) ** 2) for pixel in (False, True)),
    "closeup": lambda s: (0, in_stops(((1 + s.g.magnification * s.k) / (1 + s.g.magnification)) ** 2)),
    "stars": lambda s: (in_stops(s.k), 0),
    "advert": lambda s: (0, in_stops(1 / s.crop**2)),
    "ladder": lambda s: (0, in_stops(s.k**2)),
}  # fmt: skip
BY_DEPTH = {"diffraction", "exposure", "total_light"}
"""Judged at the f-number for the same depth, which is that of the same pupil where what counts as sharp goes by the measure of the crop."""


def told_apart(kind, one, other):
    """How far two answers are apart, in multiples of what is taken as right: a third of a stop, or 5 %."""
    if kind in ("exposure", "total_light", "closeup"):
        return abs(one - other) * 3
    if not (one > 0 and other > 0):
        return inf
    within = {
        "depth": 2 ** (1 / 6),
        "diffraction": 2 ** (1 / 6),
        "ladder": 2 ** (1 / 6),
        "advert": 2 ** (1 / 6),
        "noise": 2 ** (1 / 3),
        "stars": 2 ** (1 / 3),
    }
    return abs(log(one / other)) / log(within.get(kind, 1.05))


class DrillTests(TestCase):
    def test_the_right_answer_is_right_and_each_mistake_gives_its_own(self):
        for key, kind in KINDS.items():
            met = Counter()
            for given in cases(key):
                seen, posed = Seen(given), kind.pose(given)
                with self.subTest(kind=key, given=given):
                    right = RIGHT[key](seen)
                    self.assertLess(abs(posed.right - right), 1e-9 * max(1, abs(right)))
                    values = [posed.right, *(slip.value for slip in posed.slips)]
                    self.assertGreaterEqual(len(values), 3)
                    for at, value in enumerate(values):
                        self.assertTrue(all(told_apart(key, value, other) > 1 for other in values[at + 1 :]), values)
                    for slip in posed.slips:
                        expected = SLIPS[key][slip.key](seen)
                        self.assertLess(abs(slip.value - expected), 1e-9 * max(1, abs(expected)))
                        self.assertFalse(kind.is_right(given, slip.value))
                        self.assertEqual(kind.slip_of(given, slip.value), slip.key)
                        met[slip.key] += 1
                    self.assertTrue(kind.is_right(given, posed.right))
                    self.assertEqual(kind.slip_of(given, posed.right), "")
            self.assertEqual(set(met), set(SLIPS[key]), "a mistake that never can be told from the right answer")

    def test_an_advert_is_of_a_small_sensor_and_a_circle_of_a_lens_for_the_smaller_frame(self):
        for given in cases("advert"):
            self.assertEqual((given.one.width_mm, given.one.height_mm), (36, 24))
            self.assertLess(given.other.diagonal_mm, given.one.diagonal_mm)
        for given in cases("circle"):
            self.assertLess(given.one.diagonal_mm, given.other.diagonal_mm)
        self.assertEqual({key: WORDS[key].terms for key in TERMS}, TERMS)

    def test_an_answer_is_right_within_a_third_of_a_stop_or_five_percent(self):
        for key, kind in KINDS.items():
            for given in cases(key)[:40]:
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
            for seed in range(25):
                for level in ("estimate", "number", "judge"):
                    made = put("0" * 12, seed, key, level, shelf, Conventions())
                    said = [made.text, made.claim, *made.choices(), *truths(made)]
                    said += [
                        wrong_words(made, slip) for slip in (*WORDS[key].slips, "other_terms", "one_for_both", "half")
                    ]
                    for text in said:
                        with self.subTest(kind=key, level=level, text=text):
                            self.assertTrue(text)
                            self.assertIsNone(UGLY.search(text) or re.search(r"[{}]|nan|–", text), text)
                    self.assertEqual(len(set(made.choices())), len(made.choices()), "answers that read alike")
            self.assertEqual(set(WORDS[key].slips), set(SLIPS[key]))

    def test_what_is_said_of_the_terms_is_what_is_judged(self):
        """The sentence that is told afterwards is the one of three that holds."""
        shelf = pool()
        for key, kind in KINDS.items():
            for seed in range(15):
                made: Put = put("1" * 12, seed, key, "judge", shelf, Conventions())
                given = made.case.given
                for text, terms, relation in zip(truths(made), WORDS[key].terms, JUDGED[key](Seen(given)), strict=True):
                    with self.subTest(kind=key, seed=seed):
                        self.assertEqual(
                            text,
                            f"{terms[0].upper()}{terms[1:]}: {made.words.asked_of(made.words.claims[relation + 1], given)}",
                        )
                right = [answer for answer in range(4) if made.judged(answer)[0]]
                self.assertEqual(
                    right, [[(True, True), (True, False), (False, True), (False, False)].index(kind.holds(given))]
                )

    def test_two_pictures_to_tell_apart_differ_for_everybody_to_see(self):
        from cambrel.learn.cases import bench_of
        from cambrel.optics.comparison import compare

        shelf, met = pool(), Counter()
        for key in ("depth", "walk"):
            for seed in range(80):
                made = put("2" * 12, seed, key, "estimate", shelf, Conventions())
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
