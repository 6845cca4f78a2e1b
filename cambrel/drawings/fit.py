"""An image circle over a sensor in true proportion: what is covered, the dark corners, and the crops that lie
inside.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from cambrel import wording
from cambrel.comparison.fit import COVERS, Cover
from cambrel.drawings.shapes import Circle, Drawing, Label, Rect, Shape, place_label
from cambrel.optics.formats import Sensor

MARGIN = 26.0
SIZE = 13.0
"""Of letters, large enough to be read on a telephone."""


@dataclass(frozen=True)
class SensorPart:
    """A named part of the sensor: a crop mode, or the largest crop inside the circle."""

    name: str
    sensor: Sensor
    is_largest: bool = False


def fit_drawing(
    sensor: Sensor,
    image_circle_mm: float,
    covered: Cover,
    parts: Sequence[SensorPart],
    width: float = 420.0,
    height: float = 310.0,
) -> Drawing:
    """The circle over the sensor, with its parts.

    Parameters
        sensor, image_circle_mm: in true proportion
        covered: as `optics.fit.cover` says
        parts: drawn inside, dashed
    Returns
        Drawing; labels that find no room are left to the table beside it
    """
    across = max(sensor.width_mm, image_circle_mm)
    down = max(sensor.height_mm, image_circle_mm)
    k = min((width - 2 * MARGIN) / across, (height - 2 * MARGIN) / down)
    x, y = width / 2, height / 2
    window = Rect(0, 0, width, height)
    frame = _frame(sensor, x, y, k, "fit-sensor")
    shapes: list[Shape] = [frame, Circle(x, y, image_circle_mm * k / 2, "fit-circle")]
    if covered.word != COVERS:
        shapes.insert(1, _frame(sensor, x, y, k, "fit-dark"))
        shapes[2] = Circle(x, y, image_circle_mm * k / 2, "fit-circle fit-light")
        shapes.append(_frame(sensor, x, y, k, "fit-edge"))
    taken: list[Rect] = []
    for part in sorted(parts, key=lambda part: -part.sensor.area_mm2):
        box = _frame(part.sensor, x, y, k, "fit-largest" if part.is_largest else "fit-part")
        shapes.append(box)
        offers = [
            Label(box.x + 6, box.y + dy, part.name, "label", size=SIZE) for dy in (16, box.height - 7, box.height / 2)
        ]
        label = place_label(offers, taken, window)
        if label:
            shapes += _on_paper(label)
            taken.append(label.box)
    radius = image_circle_mm * k / 2
    for text, places in (
        (f"circle {wording.focal(image_circle_mm)}", ((x, y - radius - 6), (x, y + radius + 15), (x, 14))),
        (
            f"{wording.significant(sensor.width_mm)} × {wording.focal(sensor.height_mm)}",
            ((x, frame.y + frame.height + 15), (x, frame.y + frame.height - 8), (x, height - 6)),
        ),
    ):
        label = place_label([Label(a, b, text, "tick", "middle", SIZE) for a, b in places], taken, window)
        if label:
            shapes += _on_paper(label)
            taken.append(label.box)
    size = f"{wording.significant(sensor.width_mm)} by {wording.focal(sensor.height_mm)}"
    share = wording.share(covered.share)
    says = f"An image circle of {wording.focal(image_circle_mm)} over a sensor of {size}: {share} of it is covered."
    return Drawing(width, height, tuple(shapes), "Image circle over the sensor", says)


def _on_paper(label: Label) -> tuple[Shape, Shape]:
    """A label over whatever is drawn, so that it can be read there."""
    box = label.box
    return Rect(box.x - 2, box.y, box.width + 4, box.height, "plaque"), label


def _frame(sensor: Sensor, x: float, y: float, k: float, role: str) -> Rect:
    wide, high = sensor.width_mm * k, sensor.height_mm * k
    return Rect(x - wide / 2, y - high / 2, wide, high, role)
