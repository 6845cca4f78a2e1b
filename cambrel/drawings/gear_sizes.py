"""Gear drawn to one scale: cameras from the side and from the front on a common line of mounts, the pieces of a kit
laid out on a sheet, and a lens alone. The entrance pupil stands true inside each.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from cambrel import wording
from cambrel.comparison.outer_sizes import Block
from cambrel.drawings.shapes import Circle, Drawing, Label, Line, Rect, Shape, rig_role, shortened
from cambrel.optics.quantities import is_unknown

USUAL_BODY_MM, USUAL_LENS_MM = (130.0, 90.0, 65.0), (60.0, 65.0, 65.0)
"""What is outlined where a size is not known."""
LEFT, GAP, TOP, BETWEEN, BOTTOM = 30.0, 26.0, 24.0, 14.0, 30.0
LARGEST_SCALE, MOST_HIGH = 1.5, 520.0
BAR_MM = 100.0
SHEET_GAP, NAME_ROW, LEAST_NAMED = 16.0, 17.0, 54.0


@dataclass(frozen=True)
class CameraShape:
    """A camera as it is drawn: its letter by index, body and lens as blocks (None for one that is a part of the body),
    how long the lens grows, and the entrance pupil as it is set [mm].
    """

    index: int
    body: Block
    lens: Block | None
    longest_mm: float
    pupil_mm: float

    @property
    def is_known(self) -> bool:
        return self.body.is_known and (self.lens is None or self.lens.is_known)

    @property
    def body_mm(self) -> tuple[float, float, float]:
        """Width, height and depth, as drawn."""
        return self.body.sides_mm if self.body.is_known else USUAL_BODY_MM

    @property
    def lens_mm(self) -> tuple[float, float]:
        """Length and diameter, as drawn; no length for a lens that is a part of the body."""
        if self.lens is None:
            return 0.0, 0.0
        long, wide, _ = self.lens.sides_mm if self.lens.is_known else USUAL_LENS_MM
        return long, wide if self.lens.is_known else max(wide, 1.2 * self.pupil_mm)

    @property
    def reach_mm(self) -> float:
        """How far it reaches in front of the mount."""
        return self.lens_mm[0] if is_unknown(self.longest_mm) else max(self.longest_mm, self.lens_mm[0])

    @property
    def high_mm(self) -> float:
        return max(self.body_mm[1], self.lens_mm[1])


def cameras_drawing(cameras: Sequence[CameraShape], width: float = 980.0) -> Drawing:
    """A row for each camera: from the side, its mount on one line with all others, and from the front.

    Parameters
        cameras: at least one
        width: [px]
    Returns
        shapes, a title and a description
    """
    deep, reach = max(c.body_mm[2] for c in cameras), max(c.reach_mm for c in cameras)
    wide = max(c.body_mm[0] for c in cameras)
    down = sum(c.high_mm for c in cameras)
    room = width - LEFT - 2 * GAP
    scale = min(room / (deep + reach + wide), LARGEST_SCALE, MOST_HIGH / down)
    mount, front = LEFT + deep * scale, LEFT + (deep + reach + wide / 2) * scale + GAP
    shapes: list[Shape] = []
    y = TOP
    for camera in cameras:
        high = camera.high_mm * scale
        shapes += _from_the_side(camera, mount, y + high / 2, scale)
        shapes += _from_the_front(camera, front, y + high / 2, scale)
        shapes.append(
            Label(4, y + high / 2 + 5, wording.LETTERS[camera.index], rig_role(camera.index, "letter"), size=14)
        )
        pupil = f"pupil {wording.focal(camera.pupil_mm)}"
        beside = Label(front + camera.body_mm[0] * scale / 2 + 10, y + high / 2 + 4, pupil, "tick", size=11)
        shapes += [beside] if beside.box.x + beside.box.width <= width else []
        y += high + BETWEEN
    line = Line(mount, TOP - 4, mount, y - BETWEEN + 4, "present")
    shapes += [line, Label(mount, TOP - 10, "mount", "tick", "middle", 11), *_bar(LEFT, y + 8, scale)]
    said = "; ".join(_said(camera) for camera in cameras)
    return Drawing(width, y + BOTTOM, tuple(shapes), "The cameras to one scale", said + ".")


def _said(camera: CameraShape) -> str:
    letter = wording.LETTERS[camera.index]
    if not camera.is_known:
        return f"{letter}, whose size is not known, with an entrance pupil of {wording.focal(camera.pupil_mm)}"
    across, high, deep = camera.body_mm
    with_lens = "" if camera.lens is None else f", its lens {wording.focal(camera.lens_mm[0])} long"
    size = f"{wording.significant(across)} × {wording.significant(high)} × {wording.focal(deep)}"
    return f"{letter} {size}{with_lens}, with an entrance pupil of {wording.focal(camera.pupil_mm)}"


def _role(block: Block) -> str:
    return "gear-block" if block.is_known else "gear-unknown"


def _from_the_side(camera: CameraShape, mount: float, y: float, scale: float) -> list[Shape]:
    _, high, deep = (side * scale for side in camera.body_mm)
    long, across = (side * scale for side in camera.lens_mm)
    shapes: list[Shape] = [
        Rect(mount - deep, y - high / 2, deep, high, rig_role(camera.index, _role(camera.body)), "the body")
    ]
    if camera.lens is not None:
        shapes.append(Rect(mount, y - across / 2, long, across, rig_role(camera.index, _role(camera.lens)), "the lens"))
        if not is_unknown(camera.longest_mm) and camera.longest_mm * scale > long:
            grown = camera.longest_mm * scale - long
            inner = 0.86 * across
            shapes.append(Rect(mount + long, y - inner / 2, grown, inner, "gear-grown", "zoomed to its longest"))
    x = mount + (long / 2 if camera.lens is not None else -deep / 3)
    half = camera.pupil_mm * scale / 2
    shapes.append(Line(x, y - half, x, y + half, rig_role(camera.index, "focus-mark")))
    return shapes


def _from_the_front(camera: CameraShape, x: float, y: float, scale: float) -> list[Shape]:
    wide, high, _ = (side * scale for side in camera.body_mm)
    shapes: list[Shape] = [
        Rect(x - wide / 2, y - high / 2, wide, high, rig_role(camera.index, _role(camera.body)), "the body")
    ]
    if camera.lens is not None:
        radius = camera.lens_mm[1] * scale / 2
        shapes.append(Circle(x, y, radius, rig_role(camera.index, _role(camera.lens)), "the lens"))
    shapes.append(Circle(x, y, camera.pupil_mm * scale / 2, rig_role(camera.index, "disc"), "the entrance pupil"))
    return shapes


def _bar(x: float, y: float, scale: float) -> list[Shape]:
    """How long ten centimetres are."""
    end = x + BAR_MM * scale
    return [
        Line(x, y, end, y, "measure"), Line(x, y - 4, x, y + 4, "measure"), Line(end, y - 4, end, y + 4, "measure"),
        Label(end + 8, y + 4, "10 cm", "tick", size=11),
    ]  # fmt: skip


@dataclass(frozen=True)
class SheetPiece:
    """A piece of a kit on the sheet: its block and, of a lens, its largest entrance pupil [mm], NaN where it has none
    or that is not known.
    """

    block: Block
    pupil_mm: float

    @property
    def shown_mm(self) -> tuple[float, float]:
        """Across and down as it lies: a lens on its side, a camera from the front."""
        usual = USUAL_LENS_MM if self.block.is_round else USUAL_BODY_MM
        sides = self.block.sides_mm if self.block.is_known else usual
        return sides[0], sides[1]


def kit_sheet(
    pieces: Sequence[SheetPiece], bag_mm: tuple[float, float, float] | None = None, width: float = 980.0
) -> Drawing:
    """All pieces of a kit side by side to one scale, and beside them the bag from the front.

    Parameters
        pieces: at least one
        bag_mm: the inner width, height and depth of a bag, if one is asked about
        width: [px]
    Returns
        shapes, a title and a description
    """
    lying = sorted(pieces, key=lambda piece: -piece.shown_mm[1])
    scale = LARGEST_SCALE
    while True:
        places, bottom, bag_at = _laid_out(lying, bag_mm, scale, width)
        if (places is not None and bottom <= MOST_HIGH) or scale < 0.05:
            break
        scale *= 0.9
    shapes: list[Shape] = []
    for piece, (x, y) in zip(lying, places or [], strict=True):
        shapes += _piece(piece, x, y, scale)
    if bag_mm is not None and bag_at is not None:
        x, y = bag_at
        shapes += [
            Rect(x, y, bag_mm[0] * scale, bag_mm[1] * scale, "gear-bag"),
            Label(x, y + bag_mm[1] * scale + 13, shortened("the bag", bag_mm[0] * scale, 11.5), "tick", size=11.5),
        ]
    shapes += _bar(2, bottom + 10, scale)
    said = ", ".join(f"{piece.block.name} {_size(piece.block)}" for piece in lying)
    return Drawing(width, bottom + BOTTOM, tuple(shapes), "All pieces of the kit to one scale", said + ".")


def _size(block: Block) -> str:
    if not block.is_known:
        return "of unknown size"
    sides = block.sides_mm[:2] if block.is_round else block.sides_mm
    return " × ".join(wording.significant(side) for side in sides[:-1]) + f" × {wording.focal(sides[-1])}"


Place = tuple[float, float]


def _laid_out(
    lying: Sequence[SheetPiece], bag_mm: tuple[float, float, float] | None, scale: float, width: float
) -> tuple[list[Place] | None, float, Place | None]:
    """Where the upper left corner of each lies, row by row, how far down it goes, and where the bag lies; no places
    where one is wider than the sheet.
    """
    boxes = [(piece.shown_mm[0] * scale, piece.shown_mm[1] * scale) for piece in lying]
    if bag_mm is not None:
        boxes.append((bag_mm[0] * scale, bag_mm[1] * scale))
    places: list[Place] = []
    x, y, row = 2.0, 4.0, 0.0
    for wide, high in boxes:
        cell = max(wide, LEAST_NAMED)
        if cell > width - 4:
            return None, MOST_HIGH + 1, None
        if x + cell > width - 2:
            x, y, row = 2.0, y + row + NAME_ROW + 6, 0.0
        places.append((x, y))
        x, row = x + cell + SHEET_GAP, max(row, high)
    bottom = y + row + NAME_ROW
    return (places[:-1], bottom, places[-1]) if bag_mm is not None else (places, bottom, None)


def _piece(piece: SheetPiece, x: float, y: float, scale: float) -> list[Shape]:
    wide, high = (side * scale for side in piece.shown_mm)
    shapes: list[Shape] = [Rect(x, y, wide, high, _role(piece.block), piece.block.name)]
    if not is_unknown(piece.pupil_mm):
        half, middle = min(piece.pupil_mm * scale, high) / 2, y + high / 2
        shapes.append(Line(x + wide / 2, middle - half, x + wide / 2, middle + half, "gear-pupil"))
    name = shortened(piece.block.name, max(wide, LEAST_NAMED), 11.5)
    shapes.append(Label(x, y + high + 13, name, "tick", size=11.5))
    return shapes


SMALL_WIDE, SMALL_HIGH = 96.0, 40.0


def lens_drawing(lens: Block, pupil_mm: float, scale: float) -> Drawing:
    """A lens from the side, small, to the scale that it shares with others.

    Parameters
        lens: of known size
        pupil_mm: its entrance pupil, NaN where it is not known
        scale: [px/mm]
    Returns
        shapes, a title and a description
    """
    long, across = lens.sides_mm[0] * scale, lens.sides_mm[1] * scale
    y = SMALL_HIGH / 2
    shapes: list[Shape] = [Rect(1, y - across / 2, long, across, "gear-block")]
    if not is_unknown(pupil_mm):
        half = min(pupil_mm * scale, across) / 2
        shapes.append(Line(1 + long / 2, y - half, 1 + long / 2, y + half, "gear-pupil"))
    return Drawing(SMALL_WIDE, SMALL_HIGH, tuple(shapes), lens.name, f"{lens.name}, {_size(lens)}")


def small_scale(lenses: Sequence[Block]) -> float:
    """The scale at which the longest and the widest of some lenses still fit a small drawing.

    Parameters
        lenses: of known size
    Returns
        [px/mm]
    """
    longest = max((lens.sides_mm[0] for lens in lenses), default=SMALL_WIDE)
    widest = max((lens.sides_mm[1] for lens in lenses), default=SMALL_HIGH)
    return min((SMALL_WIDE - 2) / longest, (SMALL_HIGH - 2) / widest)
