"""What people argue about: on every frame and f-number that can be chosen each side is right under its own terms, and
its numbers are true.
"""

from math import isclose, log2
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import Body, compare
from cambrel.drills.drawing import in_print
from cambrel.learn.argued import Chosen, word
from cambrel.learn.disputes import DISPUTES
from cambrel.learn.views.arguing import F_NUMBERS, PIXELS_ACROSS, SMALLER
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.tests.truth.eye import Eye
from cambrel.tests.truth.said import UGLY
from cambrel.tests.truth.test_drills import SCHOOLS


def choices():
    full = Body(Sensor(36, 24, PIXELS_ACROSS))
    for at, slug in enumerate(SMALLER):
        small = FORMATS[slug]
        for also, number in enumerate(F_NUMBERS):
            by, sharp = SCHOOLS[(at + also) % len(SCHOOLS)]
            terms = in_print(Conventions(crop_by=by, criterion=sharp))
            yield Chosen(
                full,
                "Full frame",
                Body(Sensor(small.width_mm, small.height_mm, PIXELS_ACROSS)),
                small.name,
                float(number),
                terms,
            )


def looked_at(key, side, chosen):
    """The sentence of a side, and both rigs seen anew."""
    one = DISPUTES[key].sides[side]
    bench = one.bench(chosen)
    compared = compare(bench.brief, bench.rigs, bench.hold, bench.conventions)
    return one.says(compared, chosen), compared, Eye(compared, 0), Eye(compared, 1)


@tag("long")
class DisputeTests(TestCase):
    def each(self, key):
        for chosen in choices():
            sides = [looked_at(key, side, chosen) for side in range(len(DISPUTES[key].sides))]
            for said, *_ in sides:
                self.assertIsNone(UGLY.search(said), said)
            yield chosen, *sides

    def test_the_sensor_changes_depth_of_field_only_through_the_print(self):
        for _, (sensor, _, a, b), (less, _, la, lb), *mores in self.each("sensor-and-depth"):
            self.assertTrue(sensor.endswith(": the same."), sensor)
            self.assertTrue(isclose(a.disc(7000), b.disc(7000), rel_tol=1e-9))
            self.assertIn(wording.focal(a.disc(7000)), sensor)
            self.assertIn(wording.span(a.near, a.far), sensor)
            self.assertIn("less depth", less)
            self.assertLess(lb.total / la.total, 1 / 1.05)
            self.assertIn(f"{wording.distance(lb.total)} against {wording.distance(la.total)}", less)
            for more, _, ma, mb in mores:
                self.assertIn("more depth", more)
                self.assertGreater(mb.total / ma.total, 1.05)
                self.assertIn(f"{wording.distance(mb.total)} against {wording.distance(ma.total)}", more)

    def test_the_distance_compresses_and_not_the_lens(self):
        for _, (looms, _, a, b), (stays, _, na, nb) in self.each("compression"):
            scale = (1 + 5000 / a.d) / (1 + 5000 / b.d)
            self.assertGreater(scale, 1.3)
            self.assertIn(f"{wording.times(scale)} as large against the subject", looms)
            self.assertEqual(na.d, nb.d)
            self.assertIn("the same size against the subject", stays)
            self.assertIn(f"{wording.times(nb.wide / na.wide)} as much across", stays)

    def test_low_light_is_won_at_one_f_number_and_not_at_one_depth(self):
        for _, (yes, _, a, b), (no, _, na, nb) in self.each("low-light"):
            self.assertLess(b.snr(), a.snr())
            self.assertIn("noisier than", yes)
            apart = log2(nb.exposure * nb.area / (na.exposure * na.area))
            self.assertEqual("as much light as" in no, abs(apart) <= 1 / 6, no)
            self.assertLess(abs(apart), 0.6, "but for the shapes of the frames and the measure of the crop")
            self.assertIn(wording.stops(log2(na.area / nb.area)) + " less", no)

    def test_what_a_lens_for_later_gives_now(self):
        for _, (later, _, a, b), (now, _, na, nb) in self.each("for-later"):
            self.assertIn(f"the view of {wording.focal(b.f * a.long / b.long)} on A", later)
            self.assertIn(wording.share(nb.area / na.area), now)
            self.assertIn(wording.stops(log2(na.exposure * na.area / (nb.exposure * nb.area))), now)

    def test_an_f_number_is_an_f_number_for_the_exposure(self):
        for chosen, (yes, _, a, b), (no, _, na, nb) in self.each("f-number"):
            bright = (b.t * b.iso / b.effective**2) / (a.t * a.iso / a.effective**2)
            self.assertLess(abs(bright - 1), 0.12)
            self.assertIn("as bright as", yes)
            there = chosen.f_number * na.long / nb.long
            self.assertIn(f"{wording.f_number(chosen.f_number)} on B is {wording.f_number(there)} on A", no)
            self.assertIn("less light", no)
            blur = nb.disc(7000) / nb.diagonal / (na.disc(7000) / na.diagonal)
            self.assertIn(wording.times(blur), no)

    def test_reach_goes_by_pixels(self):
        for _, (larger, _, a, b), (pixels, *_) in self.each("reach"):
            self.assertIn("larger", larger)
            self.assertIn(wording.times(a.h / b.h), larger)
            ratio = a.pitch / b.pitch
            self.assertIn("more pixels", pixels)
            self.assertTrue({wording.times(ratio * (1 + e)) in pixels for e in (-1e-9, 1e-9)} & {True}, pixels)
            left = a.pixels / 1e6 * (b.w / a.w) * (b.h / a.h) if b.w <= a.w and b.h <= a.h else None
            self.assertIn(f"keeps {wording.significant(left)} of its", pixels)
        few = Body(Sensor(17.3, 13, 17.3 / 36 * PIXELS_ACROSS))
        for across, expected in (
            (few.sensor.pixels_wide, "as many"),
            (few.sensor.pixels_wide * 1.04, "more"),
            (few.sensor.pixels_wide * 0.96, "fewer"),
        ):
            chosen = Chosen(Body(Sensor(36, 24, PIXELS_ACROSS)), "F", Body(Sensor(17.3, 13, across)), "M")
            self.assertIn(f"B puts {expected} pixels", looked_at("reach", 1, chosen)[0])

    def test_stepping_back_leaves_depth_and_softens_the_background(self):
        for _, (depth, _, a, b), (blur, _, ba, bb) in self.each("stepping-back"):
            self.assertLess(abs(b.total / a.total - 1), 0.05)
            self.assertIn("as much depth of field", depth)
            self.assertIn(f"from {wording.distance(b.d / 1000)} with", depth)
            ratio = bb.disc(bb.d + 5000) / ba.disc(ba.d + 5000)
            self.assertGreater(ratio, 1.06)
            self.assertIn(f"are larger with the longer lens, {wording.times(ratio)}", blur)

    def test_big_pixels_are_cleaner_one_by_one_and_level_together(self):
        for _, (pixel, compared, *_), (picture, *_) in self.each("big-pixels"):
            self.assertIn("B is cleaner than A", pixel)
            self.assertIn("as clean as", picture)
            self.assertLess(abs(compared.of(1).light.error_stops), 1 / 3, "the light asks for about that ISO")

    def test_the_crop_factor_is_exact_far_away_only(self):
        for _, (far, _, a, b), (near, _, na, nb) in self.each("exact"):
            for said, one, other in ((far, a, b), (near, na, nb)):
                simple = one.f * other.long / one.long
                off = abs(other.f / simple - 1)
                ties = {wording.focal(simple * (1 + e)) for e in (-1e-9, 1e-9)}
                self.assertTrue(any(tie in said for tie in ties), said)
                self.assertIn(wording.focal(other.f), said)
                self.assertEqual(said.endswith("the same."), off <= 0.01, said)
            self.assertTrue(far.endswith("the same."))
            self.assertIn("off by", near)

    def test_a_small_sensor_enlarges_its_better_middle_more(self):
        for _, (corner, _, a, b), (middle, _, ma, mb), (native, _, na, nb) in self.each("sweet-spot"):
            self.assertEqual(na.diagonal, nb.diagonal)
            self.assertGreater(nb.lines, na.lines)
            self.assertEqual("sharper than" in native, nb.lines / na.lines > 1.18, native)
            for said, one, other in ((corner, a.corner_lines, b.corner_lines), (middle, ma.lines, mb.lines)):
                ratio = other / one
                expected = (
                    "as sharp as" if 1 / 1.18 <= ratio <= 1.18 else "sharper than" if ratio > 1 else "less sharp than"
                )
                self.assertIn(expected, said)
                self.assertIn(wording.significant(other), said)
            self.assertIn("less sharp than", middle)

    def test_the_words_turn_at_the_smallest_difference_worth_saying(self):
        for ratio, expected in (
            (1.0, "as much"),
            (1.049, "as much"),
            (1.051, "more"),
            (1 / 1.049, "as much"),
            (1 / 1.051, "less"),
        ):
            self.assertEqual(word(ratio, 0.05), expected)
