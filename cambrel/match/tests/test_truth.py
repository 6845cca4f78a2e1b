"""Every row and sentence of Match on random questions, judged again in plain numbers written from the physics."""

import os
import re
from itertools import pairwise
from math import hypot, inf, isinf, log2, sqrt
from random import Random

from django.http import QueryDict
from django.test import tag

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.match.lens_shelf import shelf_of
from cambrel.match.match_query import ShelfTargets, ask
from cambrel.match.matching import PAGE, answer, targets_of
from cambrel.match.tests.test_match import MatchTestCase
from cambrel.optics.formats import FORMATS
from cambrel.shelf.models import Body, Lens

QUESTIONS = int(os.environ.get("CAMBREL_TRUTH_BENCHES", 200)) // 10
VIEW, STOPS = 0.01, 1 / 6
EDGE = 1e-6


def magnified(f, d_m):
    return 0.0 if isinf(d_m) else f / (1000 * d_m - f)


def widest(lens, at):
    points = lens.widest
    if not points:
        return None
    if at <= points[0][0]:
        return points[0][1]
    for (f1, n1), (f2, n2) in pairwise(points):
        if at <= f2:
            return n1 * (n2 / n1) ** (log2(at / f1) / log2(f2 / f1))
    return points[-1][1]


def closest(lens, f):
    """How near it focuses, from the lens: by its magnification, a zoom by its mark as well, without one by the mark
    [m].
    """
    by_scale = f * (1 + 1 / lens.max_magnification) / 1000 if lens.max_magnification else None
    s, by_mark = lens.close_focus_m, None
    if s and s >= 4 * f / 1000:
        by_mark = s / 2 + sqrt(s * s / 4 - s * f / 1000)
    if by_scale and (lens.focal_min_mm == lens.focal_max_mm or not by_mark):
        return by_scale
    return max(by_scale, by_mark) if by_scale else by_mark


def by_stops(amount, less, more=None):
    """The word for an amount of stops; None at the edge of being level."""
    if abs(abs(amount) - STOPS) < EDGE:
        return None
    if abs(amount) < STOPS:
        return "same"
    text = wording.stops(amount)
    return less.format(text) if amount > 0 else (more or less).format(text)


@tag("long")
class MatchTruthTests(MatchTestCase):
    def reads(self, text, *values):
        """The figures of a text are these, as far as they are shown."""
        told = [float(number) for number in re.findall(r"\d+(?:\.\d+)?", text)]
        self.assertEqual(len(told), len(values), text)
        for shown, value in zip(told, values, strict=True):
            self.assertLessEqual(
                abs(shown - value), max(0.051, 0.006 * value, 0.51 * (value >= 9.95)), f"{text}: {value}"
            )

    def test_every_row(self):
        shelf, seen = shelf_of(self.owner), 0
        for seed in range(QUESTIONS):
            random = Random(seed)
            slug = random.choice(sorted(FORMATS))
            there = random.choice([*sorted(FORMATS), *(f"body-{b.pk}" for b in Body.objects.all())])
            diagonal = FORMATS[slug].diagonal_mm
            focal = diagonal * random.choice([0.4, 0.6, 1, 1.4, 2, 4, 8])
            distance = random.choice([None, None, None, focal * random.choice([2.2, 4, 8, 12, 30, 100]) / 1000])
            given = {"format": slug, "t": there, "show": there, "focal_length_mm": repr(focal),
                     "f_number": str(random.choice([1.2, 1.8, 2.8, 4, 8, 16])),
                     "iso": random.choice(["100", "400", "6400"])}  # fmt: skip
            if distance:
                given["distance_m"] = repr(distance)
            if random.random() < 0.3:
                given["adapters"] = "on"
            query = QueryDict(mutable=True)
            query.update(given)
            question = ask(query, ShelfTargets())
            if question.wanted is None:
                continue
            for target in targets_of(question, shelf):
                with self.subTest(seed=seed, target=target.name):
                    seen += self._judge(question, target, shelf)
        self.assertGreater(seen, QUESTIONS)

    def _judge(self, question, target, shelf):
        w, sensor = question.wanted, target.sensor
        d = w.object_distance_m
        k = hypot(sensor.width_mm, sensor.height_mm) / hypot(w.sensor.width_mm, w.sensor.height_mm)
        v = w.focal_min_mm * (1 + magnified(w.focal_min_mm, d)) * k
        need_f = v if isinf(d) else 1 / (1 / (1000 * d) + 1 / v)
        need_n = need_f / (w.focal_min_mm / w.f_number_short)
        need_ne = need_n * (1 + magnified(need_f, d))
        made = answer(question, shelf, target, Conventions())
        self._settings(made, question, target, need_f, need_n, need_ne)
        total = 0
        for page in range(1, made.pages + 1):
            for row in answer(question, shelf, target, Conventions(), page).rows:
                total += 1
                self._row(row, Lens.objects.get(pk=row.pk), target, d, need_f, need_n, need_ne)
        self.assertLessEqual(total, made.pages * PAGE)
        self.assertEqual(total, sum(made.counts.values()))
        return total

    def _settings(self, made, question, target, need_f, need_n, need_ne):
        rows = dict(made.settings)
        self.assertEqual(rows["exposes like"], f"f/{wording.significant(need_ne)} on any format")
        w = question.wanted
        first = w.f_number_short * (1 + magnified(w.focal_min_mm, w.object_distance_m))
        iso = w.iso * (need_ne / first) ** 2
        exactly = f"{wording.focal(need_f)} f/{wording.significant(need_n)} {wording.iso(iso)}"
        self.assertEqual(rows["exactly"], exactly)
        self.assertNotRegex(" ".join(rows.values()), r"nan|inf|None|\de[+-]?\d")
        body = target.body
        if body is not None and body.base_iso and iso < body.base_iso * 0.8 and 0.45 <= need_n <= 70:
            self.assertIn("too bright", rows["beyond the base ISO"])
        fastest, widest_angle = made.needed.fastest_made, made.needed.widest_made_deg
        angle = made.needed.angle_deg
        for true, words in (
            (need_n < 0.5, "No lens in air is faster"),
            (need_n >= 0.5 and need_n < fastest, "faster than the fastest made"),
            (need_n >= 0.5 and angle > widest_angle, "would have to see"),
        ):
            if min(abs(need_n - 0.5), abs(need_n - fastest), abs(angle - widest_angle)) > EDGE:
                self.assertEqual(true, words in made.expected, made.expected)

    def _row(self, row, lens, target, d, need_f, need_n, need_ne):
        self.assertTrue(lens.rectilinear)
        at = min(max(need_f, lens.focal_min_mm), lens.focal_max_mm)
        off = at / need_f - 1
        if abs(abs(off) - VIEW) > EDGE:
            self.assertEqual(row.view.split()[-1], "same" if abs(off) < VIEW else "tighter" if off > 0 else "wider")
            self.reads(row.view, *([] if abs(off) < VIEW else [100 * abs(off)]))
        wide = widest(lens, at)
        if wide is None:
            self.assertEqual((row.word, row.depth, row.light), ("unknown", "f-number unknown", "f-number unknown"))
            return
        pupil = need_f / need_n
        n = min(max(at / pupil, wide), lens.smallest_f_number or inf, 256.0)
        self.assertTrue(wide * (1 - EDGE) <= n <= max(256.0, wide))
        self.reads(row.setting, at, n)
        crop = hypot(36, 24) / hypot(target.sensor.width_mm, target.sensor.height_mm)
        self.reads(row.equivalent, at * crop, n * crop)
        short = 2 * log2(pupil / (at / n))
        word = by_stops(short, "{} short", "does not close that far: {}")
        if word:
            self.assertEqual(row.depth, word)
        if isinf(d) or 1000 * d > at * 1.001:
            less = 2 * log2(n * (1 + magnified(at, d)) / need_ne)
            word = by_stops(less, "{} less", "{} more")
            if word:
                self.assertEqual(row.light, word)
        nearest = closest(lens, at)
        if nearest is not None and abs(nearest / d - 1) < EDGE:
            return
        if nearest is not None and nearest > d:
            self.assertTrue(row.word.startswith("focuses from "), f"{row.name} at {d} m: {row.word}")
            self.reads(row.word.replace("\u00a0cm", ""), *[100 * nearest if "cm" in row.word else nearest])
            return
        exact = abs(off) <= VIEW and abs(short) <= STOPS
        near = abs(log2(at / need_f)) <= log2(1.1) and abs(short) <= 1
        if (
            min(
                abs(abs(off) - VIEW),
                abs(abs(short) - STOPS),
                abs(abs(short) - 1),
                abs(abs(off) - 0.1),
                abs(off + 0.0909),
            )
            > 0.005
        ):
            self.assertEqual(row.word, "exact" if exact else "near" if near else "no match")

    def test_two_equal_lights(self):
        """Where the view differs a lens may be short of blur and level in light, or the other way: each is said
        apart.
        """
        query = QueryDict("format=full-frame&focal_length_mm=100&f_number=2.8&t=micro-four-thirds")
        question = ask(query, ShelfTargets())
        made = answer(question, shelf_of(self.owner), targets_of(question, shelf_of(self.owner))[0], Conventions())
        rows = {row.name: row for row in made.rows}
        self.assertEqual(
            (rows["Pipwren 25 mm f/1.4"].depth, rows["Pipwren 25 mm f/1.4"].light), ("2\u00a0stops short", "same")
        )
        larger = QueryDict("format=full-frame&focal_length_mm=50&f_number=2.8&t=micro-four-thirds")
        question = ask(larger, ShelfTargets())
        made = answer(question, shelf_of(self.owner), targets_of(question, shelf_of(self.owner))[0], Conventions())
        long = {row.name: row for row in made.rows}["Pipwren 42.5 mm f/1.2"]
        self.assertEqual(long.depth, "same")
        self.reads(long.setting, 42.5, 42.5 / (50 / 2.8))
        self.assertEqual(
            long.light, f"{wording.stops(2 * log2(42.5 / (50 / sqrt((36**2 + 24**2) / (17.3**2 + 13**2)))))} less"
        )

    def test_close_up_and_base_iso_and_what_is_left_out(self):
        query = QueryDict("format=micro-four-thirds&focal_length_mm=60&f_number=4&distance_m=0.18&t=full-frame")
        question = ask(query, ShelfTargets())
        made = answer(question, shelf_of(self.owner), targets_of(question, shelf_of(self.owner))[0], Conventions())
        self.assertEqual(dict(made.settings)["exposes like"], "f/12 on any format")
        tern = Body.objects.get(name="Pipwren Tern")
        query = QueryDict(f"format=full-frame&focal_length_mm=50&f_number=2.8&iso=100&t=body-{tern.pk}")
        question = ask(query, shelf_of(self.owner).offered)
        made = answer(question, shelf_of(self.owner), targets_of(question, shelf_of(self.owner))[0], Conventions())
        self.assertIn("ISO 200", dict(made.settings)["as a camera sets it"])
        self.assertIn("3\u00a0stops too bright", dict(made.settings)["beyond the base ISO"])
        self.assertIn("that do not fit on Pipwren Tern", made.left_out)
