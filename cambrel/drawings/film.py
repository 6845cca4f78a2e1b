"""A film: two of its frames with the time that the shutter is open and the light of lamps on the mains; below, the ISO
that each camera needs beside those that it has, and how far vertical lines of the subject lean.
"""

from __future__ import annotations

from collections.abc import Mapping
from math import cos, pi, radians, sin

from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison
from cambrel.comparison.moving_pictures import FilmFigures, flashes
from cambrel.drawings.scales import PixelScale
from cambrel.drawings.shapes import (
    Drawing,
    Label,
    Line,
    Path,
    Rect,
    Shape,
    place_label,
    rig_role,
    without_figures,
)
from cambrel.wording import LETTERS, degrees, iso, iso_text, shutter, stops
from cambrel.wording.sentences import LEVEL_STOPS

LEFT, RIGHT = 40.0, 24.0
STRIP = 30.0
"""Height of the frames on the axis of time."""
ROW = 34.0
FRAME = 72.0
"""Height of a frame with a line that leans."""
POINTS_A_FLASH, MOST_FLASHES = 12, 60
USUAL_ISO = (100.0, 6400.0)
"""Between which the axis lies where no camera says what it has."""


def film_drawing(comparison: Comparison, films: Mapping[int, FilmFigures | None], *, width: float = 660.0) -> Drawing:
    """Time above, a row of ISO for each rig, and frames with leaning lines where they are known.

    Parameters
        comparison: worked out, of a brief that is a film
        films: figures of each rig by index, None where it sees nothing
        width: [px]
    Returns
        shapes, a title and a description
    """
    title = "The shutter of the film, and the ISO that it takes"
    known = {index: film for index, film in films.items() if film is not None}
    if not known:
        return without_figures(width, title)
    shapes, y = _strip(comparison.brief, next(iter(known.values())).shutter_s, width)
    rows, y = _iso_rows(comparison, films, y, width)
    leaning, y = _leaning(comparison, known, y, width)
    said = "; ".join(_says(comparison, index, film) for index, film in known.items())
    return Drawing(width, y, (*shapes, *rows, *leaning), title, said + ".")


def _strip(brief: Brief, open_s: float, width: float) -> tuple[list[Shape], float]:
    """Two frames on an axis of time."""
    assert brief.frame_rate is not None
    frame_s = 1 / brief.frame_rate
    along = PixelScale(0.0, 2 * frame_s, LEFT, width - RIGHT)
    text = f"two frames of {shutter(frame_s)}, open for {shutter(open_s)} of each"
    shapes: list[Shape] = [Label(4, 14, text, "label", size=11)]
    top, bottom = 22.0, 22.0 + STRIP
    for start in (0.0, frame_s):
        left, right = along(start), along(start + frame_s)
        shapes.append(Rect(left, top, along(start + open_s) - left, STRIP, "format-kept"))
        shapes.append(Path(((left, top), (right, top), (right, bottom), (left, bottom)), "axis", closed=True))
    if brief.mains_hz is None:
        return shapes, bottom + 12
    count = flashes(2 * frame_s, brief.mains_hz)
    if count <= MOST_FLASHES:
        steps = max(24, round(count * POINTS_A_FLASH))
        places = [2 * frame_s * step / steps for step in range(steps + 1)]
        lit = [bottom - STRIP * sin(2 * pi * brief.mains_hz * place) ** 2 for place in places]
        shapes.append(Path(tuple((along(place), y) for place, y in zip(places, lit, strict=True)), "measure"))
    shapes.append(Label(4, bottom + 15, f"curve: the light of lamps on {brief.mains_hz:g} Hz", "tick", size=11))
    return shapes, bottom + 27


def _iso_rows(
    comparison: Comparison, films: Mapping[int, FilmFigures | None], top: float, width: float
) -> tuple[list[Shape], float]:
    """A bar of what each camera has, a mark at what the light takes, and between them what is left over or short."""
    bodies = {index: comparison.of(index).rig.body for index in films}
    ends = [value for body in bodies.values() for value in (body.base_iso, body.ceiling_iso) if value is not None]
    ends += [film.needed_iso for film in films.values() if film is not None]
    along = PixelScale(
        min(*ends, USUAL_ISO[0]) / 1.4, max(*ends, USUAL_ISO[1]) * 1.4, LEFT, width - RIGHT, logarithmic=True
    )
    heading = "bar: the ISO it has · heavy mark: what the light takes"
    shapes: list[Shape] = [Label(4, top + 12, heading, "label", size=11)]
    top += 20
    bottom = top + len(films) * ROW
    for tick in along.ticks(8 if width > 480 else 5):
        shapes.append(Line(along(tick), top, along(tick), bottom, "grid"))
        shapes.append(Label(along(tick), bottom + 13, iso_text(tick), "tick", "middle", 11))
    for row, (index, film) in enumerate(films.items()):
        y = top + row * ROW
        shapes.append(Label(LEFT - 12, y + 14, LETTERS[index], rig_role(index, "letter"), "end", 14))
        if film is None:
            shapes.append(Label(LEFT, y + 14, "no figures", "tick", size=11))
            continue
        shapes += _iso_row(along, index, film, (bodies[index].base_iso, bodies[index].ceiling_iso), y, width)
    return shapes, bottom + 26


def _iso_row(
    along: PixelScale, index: int, film: FilmFigures, owned: tuple[float | None, float | None], y: float, width: float
) -> list[Shape]:
    base, ceiling = owned
    needed = along(film.needed_iso)
    left, right = along(along.low if base is None else base), along(along.high if ceiling is None else ceiling)
    shapes: list[Shape] = []
    if base is not None or ceiling is not None:
        shapes.append(Rect(left, y + 4, right - left, 11, rig_role(index, "depth-bar")))
    says = ""
    if film.filter_stops > LEVEL_STOPS:
        shapes.append(Line(needed, y + 9.5, left, y + 9.5, "limit"))
        says = f"{stops(film.filter_stops)} of filter"
    elif film.short_stops > LEVEL_STOPS:
        shapes.append(Line(right, y + 9.5, needed, y + 9.5, "limit"))
        says = f"{stops(film.short_stops)} short"
    elif base is None or ceiling is None:
        says = "what it has is not known" if base is None and ceiling is None else "where it ends is not known"
    shapes.append(Line(needed, y, needed, y + 19, rig_role(index, "focus-mark")))
    text = f"{iso(film.needed_iso)}, {says}" if says else iso(film.needed_iso)
    sides = [Label(needed, y + 30, text, "tick", anchor, 11) for anchor in ("middle", "start", "end")]
    if label := place_label(sides, [], Rect(0, y, width, ROW + 2)):
        shapes.append(label)
    return shapes


def _leaning(
    comparison: Comparison, films: Mapping[int, FilmFigures], top: float, width: float
) -> tuple[list[Shape], float]:
    """A frame of each rig with a vertical line of the moving subject, at the angle at which it is recorded."""
    leans = {index: film.lean_deg for index, film in films.items() if film.lean_deg > 0}
    if not leans:
        return [], top
    shapes: list[Shape] = [Label(4, top + 10, "how far a vertical line of the subject leans", "label", size=11)]
    x, y = LEFT, top + 20
    for index, lean in leans.items():
        frames = comparison.of(index).frames
        wide = FRAME * frames.width_mm / frames.height_mm
        if x + wide > width - 8 and x > LEFT:
            x, y = LEFT, y + FRAME + 26
        middle_x, middle_y = x + wide / 2, y + FRAME / 2
        tilt = radians(lean)
        half = min(FRAME / 2 / cos(tilt) if cos(tilt) > 0 else wide, wide / 2 / sin(tilt))
        across, up = half * sin(tilt), half * cos(tilt)
        shapes += [
            Rect(x, y, wide, FRAME, "frame-fill"),
            Line(middle_x, y, middle_x, y + FRAME, "landmark"),
            Line(middle_x - across, middle_y + up, middle_x + across, middle_y - up, rig_role(index, "focus-mark")),
            Label(x, y + FRAME + 14, LETTERS[index], rig_role(index, "letter"), size=13),
            Label(x + 14, y + FRAME + 14, degrees(lean), "tick", size=11),
        ]
        x += wide + 14
    return shapes, y + FRAME + 24


def _says(comparison: Comparison, index: int, film: FilmFigures) -> str:
    said = f"{LETTERS[index]} needs {iso(film.needed_iso)}"
    if film.filter_stops > LEVEL_STOPS:
        said += f", {stops(film.filter_stops)} below its base ISO"
    elif film.short_stops > LEVEL_STOPS:
        said += f", {stops(film.short_stops)} beyond its highest ISO"
    if film.lean_deg > 0:
        said += f", vertical lines lean by {degrees(film.lean_deg)}"
    return said
