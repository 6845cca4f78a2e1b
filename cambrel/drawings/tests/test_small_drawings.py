"""What is drawn small and often: a tolerance with what was measured, and what a focal length sees."""

from itertools import pairwise
from unittest import TestCase

from cambrel.drawings.counts import LABEL_PX, NARROW_PX, bars
from cambrel.drawings.focal_strip import focal_strip
from cambrel.drawings.shapes import CHARACTER_WIDTH, Circle, Clip, Path, Rect
from cambrel.drawings.tolerances import MOST, WIDTH, tolerance_mark


class ToleranceTests(TestCase):
    def test_what_was_measured_lies_in_the_band_where_it_was_allowed(self):
        for off in (-MOST, -1.01, -0.99, 0.0, 0.5, 0.99, 1.01, MOST):
            with self.subTest(off=off):
                drawing = tolerance_mark(off, "tolerance-held", "as said")
                (band,) = [shape for shape in drawing.shapes if isinstance(shape, Rect)]
                (dot,) = [shape for shape in drawing.shapes if isinstance(shape, Circle)]
                self.assertEqual(band.x < dot.x < band.x + band.width, abs(off) < 1)
                self.assertAlmostEqual(dot.x - WIDTH / 2, off * band.width / 2)
                self.assertTrue(dot.radius <= dot.x <= WIDTH - dot.radius, "on the sheet")
                self.assertEqual((dot.role, drawing.description), ("tolerance-held", "as said"))

    def test_what_is_farther_off_is_an_arrow_that_leaves_to_its_side(self):
        for off in (-40.0, MOST + 0.01):
            drawing = tolerance_mark(off, "tolerance-missed", "")
            self.assertFalse([shape for shape in drawing.shapes if isinstance(shape, Circle)])
            (arrow,) = [shape for shape in drawing.shapes if isinstance(shape, Path)]
            tip = arrow.points[1][0]
            self.assertEqual((tip > WIDTH / 2, tip > arrow.points[0][0]), (off > 0, off > 0))
            self.assertTrue(0 <= tip <= WIDTH)


class FocalStripTests(TestCase):
    def test_a_person_is_as_much_larger_as_the_lens_is_longer(self):
        strip = focal_strip([24.0, 48.0, 96.0, 300.0])
        people = [shape for shape in strip.shapes if isinstance(shape, Clip)]
        heads = [next(part for part in person.shapes if isinstance(part, Circle)) for person in people]
        for head, focal in zip(heads, (24.0, 48.0, 96.0, 300.0), strict=True):
            self.assertAlmostEqual(head.radius / heads[0].radius, focal / 24)
        high = people[0].window.height
        # 1.75 m at 6 m through 24 mm on a frame 24 mm high
        self.assertAlmostEqual(7 * 2 * heads[0].radius / high, 1.75 / 6)
        self.assertTrue(all(head.y - head.radius > 0 for head in heads), "the face is in the frame")
        self.assertIn("from 24 to 300 mm", strip.description)


class BarLabelTests(TestCase):
    def test_on_a_phone_those_labels_stay_that_then_have_room(self):
        labels = [f"1/{number}" for number in (8000, 4000, 2000, 1000, 500, 250, 125, 60, 30, 15, 8, 4)]
        drawn = bars([5] * len(labels), labels)
        for size, shown in (
            (LABEL_PX, [bar for bar in drawn.bars if bar.shows_label]),
            (NARROW_PX, [bar for bar in drawn.bars if bar.shows_label and not bar.is_wide_only]),
        ):
            self.assertGreater(len(shown), 4)
            halves = [len(bar.label) * size * CHARACTER_WIDTH / 2 for bar in shown]
            ends = [(bar.label_x - half, bar.label_x + half) for bar, half in zip(shown, halves, strict=True)]
            self.assertTrue(ends[0][0] >= -1e-9 and ends[-1][1] <= drawn.width + 1e-9)
            for (_, end), (start, _) in pairwise(ends):
                self.assertLess(end, start)
