"""Drawings are true to the figures, and no label overlaps another or leaves the sheet."""

import xml.etree.ElementTree as ET
from itertools import combinations, pairwise
from math import inf
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cambrel.comparison.engine import Brief, Hold, compare
from cambrel.comparison.tests.given import ALL_HOLDS, prime, rig
from cambrel.drawings.depth import Landmarks, depth_drawing
from cambrel.drawings.frames import frames_drawing, gained_and_lost, sensors_drawing, standpoints
from cambrel.drawings.light import light_drawing
from cambrel.drawings.scales import PixelScale, linear_ticks, log_ticks
from cambrel.drawings.shapes import (
    Circle,
    Drawing,
    Image,
    Label,
    Path,
    Rect,
    flattened,
    overlap,
    place_label,
    spread,
)
from cambrel.drawings.svg import write
from cambrel.drawings.walk import walk_drawing
from cambrel.optics.formats import FORMATS
from cambrel.scenes import scenes
from cambrel.wording import FEET

SIX = ("full-frame", "micro-four-thirds", "type-1-1.3", "aps-c", "44x33", "one-inch")


def there(distance, wide, high):
    return "/scene"


def bench(count=6, hold=None, brief=None, focal=20):
    rigs = [rig(slug, focal + 6 * i, 2.8, lens=prime(focal + 6 * i, 1.8)) for i, slug in enumerate(SIX[:count])]
    return compare(brief or Brief(foreground_m=0.8), rigs, hold or Hold("own"))


WIDTHS = (350.0, 780.0, 1216.0)
"""Those in which the bench asks for its drawings."""


def drawings_of(compared, width=WIDTHS[-1]):
    stops = [1.8, 2.8, 4.0, 5.6, 8.0, 11.0, 16.0, 22.0]
    walk = compare(compared.brief, compared.rigs, compared.hold, compared.conventions, 0, walked_f_numbers=stops)
    long = Landmarks("a background with a name that does not want to end", "foreground likewise with very many words")
    return [
        frames_drawing(compared, there, width=width),
        sensors_drawing(compared),
        depth_drawing(compared, width=width, landmarks=long),
        depth_drawing(compared, width=width, logarithmic=True, units=FEET),
        light_drawing(compared, width=width),
        walk_drawing(walk, stops, 2.8, width=width),
    ]


class AllDrawingsTests(TestCase):
    tags = frozenset({"long"})

    def assert_tidy(self, drawing: Drawing, because):
        sheet = Rect(0, 0, drawing.width, drawing.height)
        for text in drawing.texts():
            box = text.box
            self.assertTrue(
                box.x >= -1
                and box.y >= -1
                and box.x + box.width <= sheet.width + 1
                and box.y + box.height <= sheet.height + 1,
                f"{drawing.title}: “{text.text}” leaves the sheet ({because})",
            )
        for one, other in combinations(drawing.texts(), 2):
            self.assertFalse(
                overlap(one.box, other.box), f"{drawing.title}: “{one.text}” overlaps “{other.text}” ({because})"
            )
        for shape in flattened(drawing.shapes):
            points = shape.points if isinstance(shape, Path) else ()
            for x, y in points:
                self.assertTrue(
                    -1 <= x <= sheet.width + 1 and -1 <= y <= sheet.height + 1, f"{drawing.title}: {shape} ({because})"
                )

    def test_labels_never_overlap_nor_leave_the_sheet(self):
        for count in (1, 2, 3, 6):
            for hold in ALL_HOLDS[count::60]:  # others for each count
                for brief in (
                    Brief(foreground_m=0.8),
                    Brief(distance_m=400, background_m=1200, foreground_m=300),
                    Brief(background_m=inf),
                ):
                    for width in WIDTHS:
                        for drawing in drawings_of(bench(count, hold, brief), width):
                            self.assert_tidy(
                                drawing, f"{count} rigs, {hold.in_brief()}, {brief.distance_m} m, {width:g} wide"
                            )

    def test_every_drawing_says_in_words_what_it_shows(self):
        for drawing in drawings_of(bench()):
            with self.subTest(drawing=drawing.title):
                self.assertGreater(len(drawing.description), 40)
                for letter in "ABCDEF":
                    self.assertRegex(drawing.description, rf"\b{letter}\b")

    def test_written_out_it_is_whole_xml_without_inline_style(self):
        for drawing in drawings_of(bench()):
            markup = write(drawing, "x")
            root = ET.fromstring(markup)
            self.assertEqual(root.get("viewBox"), f"0 0 {drawing.width:g} {drawing.height:g}")
            self.assertNotIn("style=", markup)
        awkward = Drawing(10, 10, (Label(1, 2, '<b>&"'),), "a & b", "<c>")
        self.assertIn("&lt;b&gt;&amp;", write(awkward, "y"))

    def test_nothing_to_draw_is_said(self):
        blind = compare(Brief(distance_m=0.2), [rig(focal=50), rig(focal=400)], Hold("own")).without([0])
        for drawing in (frames_drawing(blind, there), light_drawing(blind)):
            self.assertIn("None of them can focus there", drawing.description)
        self.assertIn("cannot focus there", [text.text for text in depth_drawing(blind).texts()])


class FramesTests(TestCase):
    def frame(self, drawing, letter):
        return next(s for s in drawing.shapes if isinstance(s, Path) and s.role == f"frame-line rig-{letter}")

    def size(self, path):
        xs, ys = [x for x, _ in path.points], [y for _, y in path.points]
        return max(xs) - min(xs), max(ys) - min(ys)

    def test_frames_are_to_one_true_scale_in_shape_and_size(self):
        compared = bench(3)
        drawing = frames_drawing(compared, there)
        scales = []
        for index, letter in enumerate("abc"):
            wide, high = self.size(self.frame(drawing, letter))
            view = compared.of(index).view
            scales += [wide / view.field_wide_m, high / view.field_high_m]
        for scale in scales:
            self.assertAlmostEqual(scale, scales[0], places=6)

    def test_the_scene_behind_the_frames_is_asked_for_to_the_same_scale(self):
        compared, asked = bench(2), []
        drawing = frames_drawing(compared, lambda *given: asked.append(given) or "/there")
        (picture,) = [s for s in drawing.shapes if isinstance(s, Image)]
        wide, _ = self.size(self.frame(drawing, "a"))
        ((distance, across, down),) = asked
        self.assertEqual((distance, picture.href), (2.0, "/there"))
        self.assertAlmostEqual(picture.width / across, wide / compared.of(0).view.field_wide_m, places=6)
        self.assertAlmostEqual(picture.width / across, picture.height / down, places=9)

    def test_rigs_that_stand_apart_never_share_a_picture(self):
        compared = bench(3, Hold("own", "walk"))
        self.assertEqual(len(standpoints(compared)), 3)
        drawing = frames_drawing(compared, there)
        self.assertEqual(len([s for s in drawing.shapes if isinstance(s, Image)]), 3)
        self.assertEqual(len(standpoints(bench(3))), 1)

    def test_anchored_layers_follow_the_brief(self):
        arranged = scenes()["footplate"].arranged(Brief(background_m=9.0, subject_height_m=3.5))
        behind = {layer.name: layer.behind_m for layer in arranged.layers}
        self.assertEqual((behind["shed wall"], behind["boiler backhead"]), (9.0, 0.6))
        self.assertNotIn("handbrake", behind)
        self.assertEqual(next(layer.scale for layer in arranged.layers if layer.name == "driver"), 2.0)

    def test_what_is_gained_and_lost(self):
        compared = bench(2)
        a, b = compared.of(0), compared.of(1)
        self.assertAlmostEqual(gained_and_lost(a, b)[0], b.view.field_wide_m - a.view.field_wide_m)

    def test_sensors_are_drawn_to_one_scale(self):
        boxes = [s for s in sensors_drawing(bench()).shapes if isinstance(s, Rect)]
        by_role = {box.role: box for box in boxes}
        full, phone = by_role["sensor-fill rig-a"], by_role["sensor-fill rig-c"]
        self.assertAlmostEqual(full.width / phone.width, 36 / FORMATS["type-1-1.3"].width_mm)


class DepthTests(TestCase):
    def test_bars_reach_from_near_to_far_on_one_scale(self):
        compared = bench(3)
        bars = [s for s in depth_drawing(compared).shapes if isinstance(s, Rect) and s.role.startswith("depth-bar")]
        depths = [compared.of(i).depth for i in range(3)]
        for one, other in combinations(range(3), 2):
            if depths[one].far_m < 4 and depths[other].far_m < 4:
                self.assertAlmostEqual(
                    bars[one].width / bars[other].width, depths[one].total_m / depths[other].total_m, places=6
                )

    def test_discs_are_true_against_their_frames(self):
        compared = bench(6)
        drawing = depth_drawing(compared)
        discs = [s for s in flattened(drawing.shapes) if isinstance(s, Circle)]
        windows = [s for s in drawing.shapes if isinstance(s, Rect) and s.role.startswith("frame-fill")]
        ratios = []
        for index, (disc, window) in enumerate(zip(discs, windows, strict=True)):
            if disc.radius > 0.5:
                diagonal = (window.width**2 + window.height**2) ** 0.5
                ratios.append(2 * disc.radius / diagonal / compared.of(index).blur.background_share)
        self.assertGreater(len(ratios), 3)
        for ratio in ratios:
            self.assertAlmostEqual(ratio, ratios[0], places=6)


class LightTests(TestCase):
    def test_painted_area_is_the_light_in_all(self):
        compared = bench(4)
        blocks = [s for s in light_drawing(compared).shapes if isinstance(s, Rect)]
        for index, block in enumerate(blocks):
            painted = block.width * block.height / (blocks[0].width * blocks[0].height)
            self.assertAlmostEqual(painted, 2 ** compared.of(index).light.total_stops, places=6)


class ScaleTests(TestCase):
    @given(st.floats(0.01, 1e4), st.floats(1.5, 1e4), st.integers(3, 9))
    def test_ticks_are_round_and_in_range(self, low, times, most):
        for ticks in (linear_ticks(low, low * times, most), log_ticks(low, low * times, most)):
            self.assertLessEqual(len(ticks), most + 1)
            self.assertTrue(all(low * 0.999 <= tick <= low * times * 1.001 for tick in ticks))

    def test_scales_hold_values_at_their_ends(self):
        straight, log = PixelScale(0, 10, 100, 200), PixelScale(1, 100, 0, 100, logarithmic=True)
        self.assertEqual((straight(5), straight(50), straight(-1)), (150, 200, 100))
        self.assertEqual((log(10), log(1e9), log(0.1)), (50, 100, 0))

    def test_labels_are_placed_where_there_is_room(self):
        window = Rect(0, 0, 100, 20)
        first = place_label([Label(0, 15, "abc")], [], window)
        self.assertIsNone(place_label([Label(2, 15, "def")], [first.box], window))
        self.assertEqual(place_label([Label(2, 15, "def"), Label(60, 15, "def")], [first.box], window).x, 60)

    @given(st.lists(st.floats(0, 100), max_size=6))
    def test_spread_letters_keep_their_distance(self, wanted):
        placed = sorted(spread(wanted, 13, 0, 100))
        self.assertTrue(all(b - a >= 12.99 for a, b in pairwise(placed)))
