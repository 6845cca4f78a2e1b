from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cambrel.drawings.shapes import Circle, Path, Rect, overlap
from cambrel.drawings.tradeoff import Candidate, tradeoff_drawing

figures = st.floats(0.5, 5000)
candidate = st.builds(
    Candidate, st.text("abcdef ", min_size=1, max_size=40), figures, st.floats(0.5, 90), st.booleans()
)
many = st.lists(
    st.builds(Candidate, st.text("abcdef ", min_size=1, max_size=40), figures, st.floats(0.5, 90), st.booleans()),
    min_size=1,
    max_size=60,
)


class TradeoffTests(TestCase):
    def test_left_and_down_is_lighter_and_faster(self):
        light = Candidate("light", 100, 2.0, True)
        heavy = Candidate("heavy", 900, 8.0, False)
        drawing = tradeoff_drawing((light, heavy), "weight, g")
        a, b = (shape for shape in drawing.shapes if isinstance(shape, Circle))
        self.assertLess(a.x, b.x)
        self.assertGreater(a.y, b.y)
        self.assertEqual([t.text for t in drawing.texts() if t.role == "value"], ["light"])
        self.assertIn("than: light 100, f/2", drawing.description)

    @given(many)
    def test_nothing_leaves_the_drawing_and_no_two_names_overlap(self, candidates):
        drawing = tradeoff_drawing(candidates, "price, EUR")
        for shape in drawing.shapes:
            if isinstance(shape, Circle | Path):
                points = shape.points if isinstance(shape, Path) else ((shape.x, shape.y),)
                for x, y in points:
                    self.assertTrue(-5 <= x <= drawing.width + 5 and -5 <= y <= drawing.height + 5)
        names = [text.box for text in drawing.texts() if text.role == "value"]
        inside = Rect(0, 0, drawing.width, drawing.height)
        for index, box in enumerate(names):
            self.assertTrue(overlap(box, inside))
            self.assertFalse(any(overlap(box, other) for other in names[index + 1 :]))
