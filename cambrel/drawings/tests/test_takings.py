"""What it would take, drawn: every mark where its lever stands, on a scale even in stops, no label on another."""

from math import log
from unittest import TestCase

from cambrel.comparison.engine import Brief, Hold, compare
from cambrel.comparison.levers import standpoint
from cambrel.comparison.tests.given import prime, rig
from cambrel.comparison.wishes import WISHES, taking
from cambrel.drawings.shapes import Line, Rect
from cambrel.drawings.takings import ROW, takings_drawing
from cambrel.drawings.tests.tidy import Tidy

START, END = 12.0, 338.0


class TakingsDrawingTests(Tidy, TestCase):
    def test_levers_stand_where_they_are_and_where_they_would_go(self):
        brief = Brief(distance_m=2.0, background_m=5.0, declination_deg=10.0)
        gear = rig("aps-c", 35, 2.8, lens=prime(35, 2.0), body_options={"fastest_shutter_s": 1 / 4000})
        stands = standpoint(compare(brief, [gear], Hold("own")), 0)
        beyond = 0
        for wish, ways in zip(WISHES.values(), ((0.98, 3.0), (0.5,), (1.3,), (3.0,), (0.98,), (1.3,)), strict=True):
            now = wish.read(stands, stands.figures)
            for times in ways:
                answer = taking(stands, wish, now * times)
                drawing = takings_drawing(stands, answer)
                self.assertEqual((drawing.width, drawing.height), (350, max(len(answer.alone) * ROW, 40)))
                self.assert_labels_apart(drawing)
                said = drawing.description.split("; ")
                for number, moved in enumerate(answer.ordered):
                    with self.subTest(wish=wish.key, times=times, lever=moved.values[0][0].key):
                        (lever, value), *_ = moved.values
                        own = [shape for shape in drawing.shapes if self.row_of(shape) == number]
                        upright = [shape for shape in own if isinstance(shape, Line) and shape.x1 == shape.x2]
                        (here,) = [shape.x1 for shape in upright if shape.role == "present"]
                        (there,) = [shape.x1 for shape in upright if shape.role == "measure"]
                        start = lever.value(stands)
                        # the same way in pixels as in stops; its ends lie a tenth beyond what is marked
                        self.assertEqual((there > here, there < here), (value > start, value < start))
                        per_px = log(value / start) / (there - here)
                        owned = lever.owned(lever.moved(stands, value))
                        bars = [shape for shape in own if isinstance(shape, Rect)]
                        self.assertEqual(len(bars), int(owned is not None))
                        self.assertEqual("which the gear has" in said[number], moved.is_owned is True)
                        self.assertEqual("beyond the gear" in said[number], moved.is_owned is False)
                        for bar in bars:
                            inside = bar.x - 1e-6 <= there <= bar.x + bar.width + 1e-6
                            self.assertEqual(inside, moved.is_owned)
                            beyond += not inside
                            if bar.x > START + 1e-6:
                                self.assertAlmostEqual(log(owned[0] / start) / per_px, bar.x - here, 6)
                            if bar.x + bar.width < END - 1e-6:
                                self.assertAlmostEqual(log(owned[1] / start) / per_px, bar.x + bar.width - here, 6)
        self.assertGreater(beyond, 1)

    @staticmethod
    def row_of(shape):
        return int((shape.y1 if isinstance(shape, Line) else getattr(shape, "y", -1)) // ROW)

    def test_where_none_gives_it_alone_it_says_so(self):
        stands = standpoint(compare(Brief(background_m=0.001), [rig()], Hold("own")), 0)
        answer = taking(stands, WISHES["stars"], 5.0)
        self.assertEqual(answer.alone, ())
        self.assertIn("No lever", takings_drawing(stands, answer).description)
