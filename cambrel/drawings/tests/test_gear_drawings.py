"""Formats, bags, circles and the marks over a scene: to scale, with no label over another or off the sheet."""

from itertools import combinations
from math import hypot
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cambrel.comparison.engine import Brief, Hold, compare
from cambrel.comparison.fit import cover, largest_crop
from cambrel.comparison.ranges import spans
from cambrel.comparison.tests.given import prime, rig
from cambrel.drawings.bag import BarGroup, RangeBar, bag_drawing
from cambrel.drawings.export import looks, standalone
from cambrel.drawings.fit import SensorPart, fit_drawing
from cambrel.drawings.formats import Sized, overlaid, side_by_side
from cambrel.drawings.scene import Other, overlay
from cambrel.drawings.shapes import Circle, Rect, overlap
from cambrel.optics.formats import FORMATS
from cambrel.optics.scene import Camera

slugs = st.lists(st.sampled_from(sorted(FORMATS)), min_size=1, max_size=8, unique=True)


def sized(slug, aspect=None):
    f = FORMATS[slug]
    return Sized(f.name, f, f.cropped(aspect))


class GearDrawingTests(TestCase):
    def assert_tidy(self, drawing):
        boxes = [text.box for text in drawing.texts()]
        for box in boxes:
            self.assertGreaterEqual(box.x, -1, drawing.title)
            self.assertLessEqual(box.x + box.width, drawing.width + 1, drawing.title)
            self.assertLessEqual(box.y + box.height, drawing.height + 1, drawing.title)
        for one, other in combinations(boxes, 2):
            self.assertFalse(overlap(one, other), (drawing.title, one, other))

    @given(slugs, st.sampled_from([None, 1.0, 16 / 9]))
    def test_formats_are_to_one_scale_in_both_ways(self, chosen, aspect):
        formats = [sized(slug, aspect) for slug in chosen]
        for drawing in (overlaid(formats), side_by_side(formats)):
            self.assert_tidy(drawing)
            frames = {s.tip: s for s in drawing.shapes if isinstance(s, Rect) and s.role == "format-frame"}
            scales = {round(frames[f.name].width / f.frame.width_mm, 6) for f in formats}
            scales |= {round(frames[f.name].height / f.frame.height_mm, 6) for f in formats}
            self.assertEqual(len(scales), 1)

    @given(st.lists(st.tuples(st.floats(8, 400), st.floats(1, 8)), min_size=1, max_size=9))
    def test_a_bag_s_bars_are_tidy_and_true(self, ranges):
        pairs = sorted((low, low * stretch) for low, stretch in ranges)
        bars = tuple(
            RangeBar(f"Lens {i} with a name that goes on", low, high, f"{low:.0f}–{high:.0f} mm f/5.6")
            for i, (low, high) in enumerate(pairs)
        )
        drawing = bag_drawing([BarGroup("Body", bars, tuple(spans(pairs)))])
        drawn = [s for s in drawing.shapes if isinstance(s, Rect) and s.role == "bag-bar"]
        self.assertEqual(len(drawn), len(bars))
        for bar in drawn:
            self.assertGreaterEqual(bar.x, 0)
            self.assertLessEqual(bar.x + bar.width, drawing.width)
        self.assertIn(f"Body: {len(bars)} lens", drawing.description)

    @given(st.sampled_from(sorted(FORMATS)), st.floats(0.3, 3))
    def test_a_circle_over_a_sensor_is_in_true_proportion(self, slug, times):
        sensor = FORMATS[slug]
        circle = sensor.diagonal_mm * times
        parts = [
            SensorPart("crop mode", sensor.cropped(16 / 9)),
            SensorPart("largest crop inside", largest_crop(sensor, circle), True),
        ]
        drawing = fit_drawing(sensor, circle, cover(sensor, circle), parts)
        self.assert_tidy(drawing)
        drawn = next(s for s in drawing.shapes if isinstance(s, Circle))
        frame = next(s for s in drawing.shapes if isinstance(s, Rect))
        self.assertAlmostEqual(
            2 * drawn.radius / circle, hypot(frame.width, frame.height) / sensor.diagonal_mm, places=6
        )

    def test_the_ring_over_a_picture_is_the_true_disc(self):
        for number, focus in ((1.4, 2.0), (1.4, 0.6), (16.0, 2.0)):
            compared = compare(
                Brief(focus_distance_m=focus),
                [rig("full-frame", 50, number, lens=prime(50, 1.4)), rig("aps-c", 35, 4, lens=prime(35, 1.4))],
                Hold("own", aperture="own"),
            )
            one = compared.of(0)
            cameras = [Camera(f, 4, 2.0, 2.0, w, h) for f, w, h in ((50, 36, 24), (35, 23.5, 15.6))]
            drawing = overlay(one, cameras[0], [Other(1, cameras[1])], 280)
            self.assertEqual((drawing.width, drawing.height), (420, 280))
            rings = [s for s in drawing.shapes if isinstance(s, Circle) and s.role == "ring"]
            disc = one.blur.background_mm * 280 / 24
            if disc < 0.9 * 280:
                self.assertAlmostEqual(2 * rings[0].radius, max(disc, 1.2), places=6)
            other = next(s for s in drawing.shapes if isinstance(s, Rect) and "frame-line" in s.role)
            self.assertAlmostEqual(
                other.width / 420, compared.of(1).view.field_wide_m / one.view.field_wide_m, delta=0.05
            )
            self.assertIn("background", drawing.description)

    def test_a_drawing_that_stands_alone(self):
        rules = looks(
            ".drawing .fit-sensor { fill: var(--raised); stroke: var(--ink); }\n.drawing .fit-circle { stroke:"
            " var(--none); }\n"
        )
        sensor = FORMATS["aps-c"]
        text = standalone(fit_drawing(sensor, 30, cover(sensor, 30), []), rules)
        self.assertIn('fill="#ffffff" stroke="#161616"', text)
        self.assertIn('stroke="none"', text)
        self.assertNotIn("class", text)
