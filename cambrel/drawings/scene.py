"""What is laid over a rig's picture: a ring of the true disc, the other rigs' frames, and where sharpness begins and
ends on the ground.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import isfinite

from cambrel import wording
from cambrel.comparison.engine import RigFigures
from cambrel.drawings.shapes import Circle, Drawing, Label, Line, Rect, Shape, place_label, rig_role
from cambrel.optics.quantities import DomainError, is_unknown
from cambrel.optics.scene import Camera, frame_at, horizon_mm, place_mm
from cambrel.wording import LETTERS, METRES, Units

SMALLEST_RING, LARGEST_RING = 1.2, 0.45


@dataclass(frozen=True)
class Other:
    """Another rig whose frame is drawn on this picture."""

    index: int
    camera: Camera


def overlay(
    rig: RigFigures,
    camera: Camera,
    others: Sequence[Other],
    height: float,
    units: Units = METRES,
    *,
    with_marks: bool = True,
    background: str = "background",
) -> Drawing:
    """The overlay of one picture, so many pixels high.

    Parameters
        rig: whose picture it is
        camera: the same before the scene
        others: the rigs whose frames are shown
        height: of the picture
        with_marks: whether it is shown where sharpness begins and ends
        background: what the background is called
    Returns
        Drawing of the picture's size
    """
    k = height / camera.height_mm
    width = camera.width_mm * k
    window = Rect(0, 0, width, height)
    shapes: list[Shape] = []
    for other in others:
        shapes += _frame(other, camera, k, window)
    if with_marks:
        shapes += _marks(rig, camera, k, window, units)
    shapes += _ring(rig, k, window, background)
    share = wording.share(rig.blur.background_share)
    says = (
        f"Rings on the picture of {LETTERS[rig.index]}: a point in the background is {share} of the frame's diagonal."
    )
    return Drawing(width, height, tuple(shapes), f"Marks on the picture of {LETTERS[rig.index]}", says)


def _ring(rig: RigFigures, k: float, window: Rect, background: str) -> list[Shape]:
    """The disc of a point in the background, true to the picture, with its size in the frame."""
    mm = rig.blur.background_mm
    if not isfinite(mm):
        return []
    radius = mm * k / 2
    share = wording.share(rig.blur.background_share)
    for says in (f"blur disc of the {background}: {share} of the frame", f"blur disc {share}"):
        end = Label(window.width - 8, window.height - 8, says, "on-scene", "end", 11.5).box
        label = Label(end.x + end.width / 2, window.height - 8, says, "on-scene", "middle", 11.5)
        box = label.box
        if box.x > 8:  # in a narrow frame in few words
            break
    back = Rect(box.x - 4, box.y - 3, box.width + 8, box.height + 6, "plaque")
    if radius > LARGEST_RING * window.height:
        note = Label(window.width - 8, window.height - 26, "disc wider than shown", "on-scene", "end", 10.5)
        return [
            back,
            label,
            Rect(note.box.x - 4, note.box.y - 2, note.box.width + 8, note.box.height + 4, "plaque"),
            note,
        ]
    shown = max(radius, SMALLEST_RING / 2)
    y = box.y - 8 - shown
    x = window.width - 10 - shown
    return [Circle(x, y, shown + 1.2, "ring-halo"), Circle(x, y, shown, "ring"), back, label]


def _frame(other: Other, camera: Camera, k: float, window: Rect) -> list[Shape]:
    try:
        left, top, wide, high = frame_at(camera, other.camera, camera.subject_distance_m)
    except DomainError:
        return []
    x, y = window.width / 2 + left * k, window.height / 2 + top * k
    role = rig_role(other.index, f"other-frame other-{other.index}")
    shapes: list[Shape] = [
        Rect(x, y, wide * k, high * k, f"frame-halo other-frame other-{other.index}"),
        Rect(x, y, wide * k, high * k, role.replace("other-frame", "other-frame frame-line", 1)),
    ]
    letter = LETTERS[other.index]
    places = [
        (x + 6, y + 16),
        (x + wide * k - 16, y + 16),
        (x + 6, y + high * k - 6),
        (x - 14, y + 16),
        (x + 6, y - 5),
        (8, 18),
    ]
    offers = [Label(a, b, letter, f"letter {role}", size=14) for a, b in places]
    label = place_label(offers, [], window)
    return [*shapes, label] if label else shapes


def _marks(rig: RigFigures, camera: Camera, k: float, window: Rect, units: Units) -> list[Shape]:
    """Lines across the ground where sharpness begins, is best and ends."""
    shapes: list[Shape] = []
    taken: list[Rect] = []
    marks = (
        (float(rig.depth.near_m), "near", "depth-mark"),
        (camera.object_distance_m, "focus", "depth-mark focus"),
        (float(rig.depth.far_m), "far", "depth-mark"),
    )
    for away, word, role in marks:
        if is_unknown(away):
            continue
        row_mm = float(place_mm(camera, 0.0, 0.0, away)[1]) if isfinite(away) else horizon_mm(camera)
        y = window.height / 2 + row_mm * k
        if not 0 <= y <= window.height:
            # off the picture the distance is still told, at the edge where it lies
            y = 0.0 if y < 0 else window.height
        shapes.append(Line(0, y, window.width, y, f"{role} {rig_role(rig.index)}"))
        text = f"{word} {wording.distance(away, units)}"
        offers = [
            Label(x, y + dy, text, "on-scene depth-mark-label", size=11)
            for dy in (-5, 14, -20, 29)
            for x in (8.0, 110.0)
        ]
        label = place_label(offers, taken, window)
        if label:
            box = label.box
            shapes += [Rect(box.x - 3, box.y - 2, box.width + 6, box.height + 4, "plaque depth-mark-label"), label]
            taken.append(box)
    return shapes
