"""What is known over time: the line fades, is whole after a right answer and nothing after a wrong one; nothing is
drawn off the edge.
"""

from datetime import UTC, datetime, timedelta
from itertools import pairwise
from unittest import TestCase

from cambrel.drawings.recall import Skill, recall
from cambrel.drawings.shapes import Circle, Label, Path

NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)


class RecallTests(TestCase):
    def test_a_line_falls_and_rises_with_the_answers(self):
        answers = [(NOW - timedelta(days=days), ok) for days, ok in ((20, True), (10, False), (9, True))]
        skill = Skill(
            "Focal length",
            answers,
            [(at, chance) for (at, _), chance in zip(answers, (0.0, 0.6, 0.0), strict=True)],
            0.8,
        )
        drawn = recall([skill], NOW)
        (line,) = (shape for shape in drawn.shapes if isinstance(shape, Path))
        heights = [y for _, y in line.points]
        low, high = max(heights), min(heights)
        shares = [round((low - y) / (low - high), 6) for y in heights]
        self.assertEqual(shares, [0.0, 1.0, 0.6, 0.0, 0.0, 1.0, 0.8])
        self.assertEqual([x for x, _ in line.points], sorted(x for x, _ in line.points))
        roles = [shape.role for shape in drawn.shapes if isinstance(shape, Circle)]
        self.assertEqual(roles, ["recall-right", "recall-wrong", "recall-right"])
        self.assertIn("2 of 3 right, known now 80%", drawn.description)

    def test_nothing_lies_off_the_edge_however_long_or_short_the_time(self):
        for days in (0, 0.01, 3, 400):
            skill = Skill(
                "A name that is longer than there is room for in its column",
                [(NOW - timedelta(days=days), True)],
                [(NOW, 0.0)],
                1.0,
            )
            drawn = recall([skill] * 15, NOW)
            for shape in drawn.shapes:
                if isinstance(shape, Label):
                    box = shape.box
                    self.assertTrue(
                        box.x >= -0.01
                        and box.x + box.width <= drawn.width + 0.01
                        and box.y + box.height <= drawn.height,
                        (days, shape),
                    )
            dates = [shape.box for shape in drawn.shapes if isinstance(shape, Label) and shape.role == "tick"]
            for one, other in pairwise(dates):
                self.assertLessEqual(other.x + other.width, one.x, days)
