"""The depth panel: a ruler in the scene's depth, one row for each rig, and beside it the background's blur in its
frame.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, isfinite

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import Circle, Clip, Drawing, Label, Line, Path, Rect, Shape, place_label, rig_role
from cambrel.optics.quantities import is_unknown
from cambrel.wording import LETTERS, METRES, Units, distance, share, significant, span

ROW, TOP, AXIS = 40.0, 26.0, 26.0
LEFT = 26.0
WIDEST_CUT = 54.0
CUTS = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000)


@dataclass(frozen=True)
class Landmarks:
    """What stands in the scene, by name and distance from the subject [m], negative in front."""

    background: str = "background"
    foreground: str = "foreground"


def depth_drawing(
    comparison: Comparison,
    *,
    width: float = 660.0,
    logarithmic: bool = False,
    units: Units = METRES,
    landmarks: Landmarks | None = None,
) -> Drawing:
    """Each rig's near limit, focus and far limit; the subject and what is before and behind it; the hyperfocal
    distance.

    Parameters
        comparison: worked out
        width: [px]
        logarithmic: whether the axis is
        units: of the reader
        landmarks: of the scene
    Returns
        shapes, a title and a description
    """
    landmarks = landmarks or Landmarks()
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    side = min(150.0, width * 0.24)
    scale = _logarithmic(comparison, rigs, width - side) if logarithmic else _straight(comparison, rigs, width - side)
    height = TOP + ROW * len(rigs) + AXIS
    cut = _cut(rigs)
    shapes: list[Shape] = [*_axis(scale, height, units, logarithmic), *_head(width, side, cut)]
    if not logarithmic or _stand_together(rigs):
        shapes += _landmarks(comparison, rigs[comparison.reference], scale, logarithmic, height, landmarks)
    for row, rig in enumerate(rigs):
        y = TOP + ROW * row + ROW / 2
        shapes.append(Label(6, y + 5, LETTERS[rig.index], rig_role(rig.index, "letter"), size=15))
        shapes += _row(comparison, rig, scale, y, logarithmic, units)
        shapes += _blur(rig, Rect(width - side + 18, y - ROW / 2 + 4, WIDEST_CUT if side > 140 else 26.0, ROW - 8), cut)
    words = "; ".join(_says(rig, units) for rig in rigs)
    return Drawing(width, height, tuple(shapes), "Depth of field along the scene", words + ".")


def _stand_together(rigs: list[RigFigures]) -> bool:
    distances = [rig.settings.subject_distance_m for rig in rigs if rig.settings.focusable]
    return not distances or max(distances) <= min(distances) * 1.001


def _says(rig: RigFigures, units: Units) -> str:
    if not isfinite(rig.depth.near_m):
        return f"{LETTERS[rig.index]} has no known depth"
    limits = span(rig.depth.near_m, rig.depth.far_m, units)
    return (
        f"{LETTERS[rig.index]} is sharp over {limits} from the lens, background blur {share(rig.blur.background_share)}"
        " of the frame"
    )


def _straight(comparison: Comparison, rigs: list[RigFigures], end: float) -> PixelScale:
    """Metres from the subject: the depths that are finite, what stands in front and behind, and the cameras when that
    costs no detail.
    """
    brief = comparison.brief
    seen = [0.0]
    for rig in rigs:
        d = rig.settings.subject_distance_m
        seen += [value - d for value in (rig.depth.near_m, rig.depth.far_m) if isfinite(value) and value - d < 20 * d]
        seen.append(-d)
    if brief.background_m is not None and isfinite(brief.background_m):
        seen.append(brief.background_m)
    seen = [value for value in seen if isfinite(value)]
    low, high = min(seen), max(seen)
    high = high if high > 0.02 * -low else -low * 0.2
    return PixelScale(low, low + (high - low) * 1.06, LEFT + 12, end - 14)


def _logarithmic(comparison: Comparison, rigs: list[RigFigures], end: float) -> PixelScale:
    """Metres from each lens, to a little beyond the farthest finite thing; infinity is the right edge."""
    brief = comparison.brief
    seen: list[float] = []
    for rig in rigs:
        d = rig.settings.subject_distance_m
        seen += [d, rig.depth.near_m, rig.depth.far_m, rig.depth.hyperfocal_m]
        seen += [d + brief.background_m] if brief.background_m is not None else []
        seen += [d - brief.foreground_m] if brief.foreground_m is not None else []
    known = [value for value in seen if isfinite(value) and value > 0]
    low, high = (min(known), max(known)) if known else (1.0, 10.0)
    return PixelScale(low * 0.8, high * 1.6, LEFT + 12, end - 14, logarithmic=True)


def _axis(scale: PixelScale, height: float, units: Units, logarithmic: bool) -> list[Shape]:
    y = height - AXIS + 2
    shapes: list[Shape] = [Line(scale.start, y, scale.end, y, "axis")]
    taken: list[Rect] = []
    metres = units.metres
    in_units = PixelScale(scale.low / metres, scale.high / metres, scale.start, scale.end, scale.logarithmic)
    for tick in in_units.ticks(9):
        x = in_units(tick)
        shapes.append(Line(x, TOP, x, y + 4, "grid"))
        label = Label(x, y + 16, significant(tick), "tick", "middle", 11)
        if place_label([label], taken, Rect(scale.start - 14, 0, scale.end - scale.start - 34, height)):
            shapes.append(label)
            taken.append(label.box)
    end = f"{units.name}, ∞" if logarithmic else units.name
    shapes.append(Label(scale.end + 10, y + 16, end, "tick", "end", 11))
    return shapes


def _cut(rigs: list[RigFigures]) -> int:
    """The share of the frame, as 1 over a round number, in which the largest background disc is well seen."""
    largest = max((rig.blur.background_share for rig in rigs if isfinite(rig.blur.background_share)), default=0.0)
    return next((cut for cut in CUTS if largest * cut > 0.2), CUTS[-1]) if largest > 0 else 1


def _head(width: float, side: float, cut: int) -> list[Shape]:
    wide = side > 140
    title = "blur in the frame" if cut == 1 else f"blur, 1/{cut} of frame"
    return [
        Label(
            width - side + 18, 14, title if wide else title.removesuffix(" of frame"), "tick", size=11 if wide else 9.5
        )
    ]


def _landmarks(
    comparison: Comparison, first: RigFigures, scale: PixelScale, logarithmic: bool, height: float, names: Landmarks
) -> list[Shape]:
    """Lines across all rows: foreground, subject and background, each named at the top where there is room."""
    brief = comparison.brief
    origin = first.settings.subject_distance_m if logarithmic else 0.0
    marks = [(origin, "subject")]
    if brief.background_m is not None and isfinite(brief.background_m):
        marks.append((origin + brief.background_m, names.background))
    if brief.foreground_m is not None and (origin - brief.foreground_m > 0 or not logarithmic):
        marks.append((origin - brief.foreground_m, names.foreground))
    shapes: list[Shape] = []
    taken: list[Rect] = []
    window = Rect(0, 0, scale.end + 16, TOP)
    for value, name in marks:
        if not isfinite(value):
            continue
        x = scale(value)
        shapes.append(Line(x, TOP - 8, x, height - AXIS + 2, "landmark"))
        short = name if len(name) <= 24 else name[:23] + "…"
        label = place_label(
            [Label(x, 14, short, "label", anchor, 11) for anchor in ("middle", "start", "end")], taken, window
        )
        if label:
            shapes.append(label)
            taken.append(label.box)
    return shapes


def _row(
    comparison: Comparison, rig: RigFigures, scale: PixelScale, y: float, logarithmic: bool, units: Units
) -> list[Shape]:
    s, d = rig.settings, rig.depth
    if not s.focusable or not isfinite(d.near_m):
        reason = "cannot focus there" if not s.focusable else "depth not known"
        return [Label(scale.start + 6, y + 4, reason, "label", size=12)]
    origin = 0.0 if logarithmic else s.subject_distance_m
    near, far = scale(d.near_m - origin), scale(min(d.far_m, 1e300) - origin if d.far_m < inf else scale.high)
    role = rig_role(rig.index, "depth-bar")
    shapes: list[Shape] = [
        Rect(near, y - 9, max(far - near, 1.5), 18, role, f"sharp over {span(d.near_m, d.far_m, units)}")
    ]
    shapes.append(
        Path(((near, y - 9), (far, y - 9), (far, y + 9), (near, y + 9)), rig_role(rig.index, "rig-line"), closed=True)
    )
    if d.far_m == inf:
        shapes.append(Path(((far, y - 9), (far + 9, y), (far, y + 9)), rig_role(rig.index, "rig-line")))
    focus = scale(s.object_distance_m - origin) if isfinite(s.object_distance_m) else scale.end
    shapes.append(Line(focus, y - 13, focus, y + 13, rig_role(rig.index, "focus-mark")))
    beyond = d.hyperfocal_m - origin
    if scale.low <= beyond <= scale.high:
        x = scale(beyond)
        shapes.append(Path(((x - 4, y + 17), (x, y + 11), (x + 4, y + 17)), rig_role(rig.index, "mark"), closed=True))
    if not logarithmic:
        x = scale(-s.subject_distance_m)
        shapes.append(Path(((x - 5, y - 5), (x + 5, y), (x - 5, y + 5)), rig_role(rig.index, "mark"), closed=True))
    size = Label(0, 0, distance(d.total_m, units), "value", size=11)
    wide = size.box.width + 6
    if far + 12 + wide < scale.end and d.far_m < inf:
        shapes.append(Label(far + 8, y + 4, size.text, "value", size=11))
    elif near - wide > scale.start + 8:
        shapes.append(Label(near - 8, y + 4, size.text, "value", "end", 11))
    return shapes


def _blur(rig: RigFigures, room: Rect, cut: int) -> list[Shape]:
    """A cut-out of the rig's frame, as large as the room allows, with the disc that a point of the background becomes
    in it.
    """
    scale = min(room.width / rig.frames.width_mm, room.height / rig.frames.height_mm)
    wide, high = rig.frames.width_mm * scale, rig.frames.height_mm * scale
    y = room.y + room.height / 2
    window = Rect(room.x, y - high / 2, wide, high, rig_role(rig.index, "frame-fill"))
    disc = rig.blur.background_share
    shapes: list[Shape] = [window]
    if not is_unknown(disc):
        radius = disc * cut * (wide**2 + high**2) ** 0.5 / 2
        inside = Circle(room.x + wide / 2, y, max(radius, 0.4), rig_role(rig.index, "disc"))
        shapes.append(Clip(f"blur-{LETTERS[rig.index]}", window, (inside,)))
    left, right, top, bottom = room.x, room.x + wide, y - high / 2, y + high / 2
    shapes.append(
        Path(((left, top), (right, top), (right, bottom), (left, bottom)), rig_role(rig.index, "rig-line"), closed=True)
    )
    shapes.append(Label(room.x + room.width + 5, y + 4, share(disc), "value", size=12 if room.width > 40 else 10))
    return shapes
