"""What every drawing keeps: its labels on the sheet, and none on another."""

from itertools import combinations

from cambrel.drawings.shapes import overlap


class Tidy:
    """Mixed into test cases."""

    def assert_labels_apart(self, drawing):
        for label in drawing.texts():
            box = label.box
            self.assertTrue(box.x >= -1 and box.x + box.width <= drawing.width + 1, label)
            self.assertTrue(box.y >= -1 and box.y + box.height <= drawing.height + 1, label)
        for one, other in combinations(drawing.texts(), 2):
            self.assertFalse(overlap(one.box, other.box), (one, other))
