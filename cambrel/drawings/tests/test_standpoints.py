"""The plan of a sheet: true to one scale in both views, its names on the sheet and not on each other."""

from itertools import combinations
from math import inf
from unittest import TestCase

from cambrel.drawings.shapes import Circle, Path, Rect, overlap
from cambrel.drawings.standpoints import Staging, TripodPlace, standpoints_drawing


class StandpointTests(TestCase):
    def test_both_views_are_true_to_one_scale(self):
        places = [TripodPlace(0, 2.0, 1.4), TripodPlace(1, 3.0, 1.4), TripodPlace(2, 2.0, 2.8)]
        drawing = standpoints_drawing(places, Staging(1.75, 1.5, 0.8, 5.0, "handbrake", "shed wall"))
        subject = next(shape for shape in drawing.shapes if isinstance(shape, Circle))
        cones = [shape for shape in drawing.shapes if isinstance(shape, Path) and "rig-line" in shape.role]
        k = (subject.x - cones[0].points[1][0]) / 2.0
        self.assertAlmostEqual((subject.x - cones[1].points[1][0]) / k, 3.0)
        for cone, place in zip(cones, places, strict=True):
            self.assertAlmostEqual((cone.points[2][1] - cone.points[0][1]) / k, place.wide_m)
        post = next(shape for shape in drawing.shapes if isinstance(shape, Rect) and shape.role == "depth-bar")
        self.assertAlmostEqual(post.height / k, 1.75)
        tripod = next(shape for shape in drawing.shapes if isinstance(shape, Path) and shape.role == "measure")
        self.assertAlmostEqual((tripod.points[0][1] - tripod.points[1][1]) / k, 1.5)

    def test_names_stay_on_the_sheet_and_off_each_other(self):
        for width in (340.0, 660.0):
            for stagings in (
                ([TripodPlace(0, 2.0, 1.4), TripodPlace(1, 2.01, 1.4)], Staging(1.75, 1.5, 1.99, 0.05)),
                ([TripodPlace(0, 400.0, 40.0), TripodPlace(1, 380.0, 40.0)], Staging(4.0, 1.6, 20.0, inf)),
                ([TripodPlace(0, 0.4, 0.2)], Staging(0.06, 1.4, 0.006, 0.05, "a glass with a long name", "backhead")),
            ):
                drawing = standpoints_drawing(*stagings, width=width)
                boxes = [label.box for label in drawing.texts()]
                for box in boxes:
                    self.assertGreaterEqual(box.x, 0)
                    self.assertLessEqual(box.x + box.width, width)
                    self.assertLessEqual(box.y + box.height, drawing.height)
                for one, other in combinations(boxes, 2):
                    self.assertFalse(overlap(one, other), (one, other))
