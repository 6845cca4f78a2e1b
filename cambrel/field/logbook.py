"""The logbook: pictures of one's own by their settings only. Read from tables, kept as one change, and held as arrays
for what they say.
"""

from __future__ import annotations

import csv
import io
import re
import threading
import time
from collections import OrderedDict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import isfinite
from typing import Any

import numpy as np
from django.db.models import Count, Max, Sum
from numpy.typing import NDArray

from cambrel.bounds.documents import DocumentError, read_json, table_problem
from cambrel.bounds.doors import DOORS
from cambrel.comparison.brief import Conventions
from cambrel.comparison.iso_ceiling import clean_iso
from cambrel.conventions.preferred import preferred_by
from cambrel.field.models import Logged
from cambrel.optics.formats import FULL_FRAME
from cambrel.optics.light import QUANTUM_EFFICIENCY, READ_NOISE_E
from cambrel.optics.noise_schools import Collecting, collecting
from cambrel.optics.quantities import Array, Ints
from cambrel.owners.latest import Latest
from cambrel.owners.models import User
from cambrel.owners.sections import Row
from cambrel.owners.undo import ChangePlan
from cambrel.photographs.heads import Head
from cambrel.photographs.taken import LIMITS, Taken, taken
from cambrel.shelf.models import Body
from cambrel.trials.habits import Log, made_smaller

MOST_LOGGED = 100_000
MOST_LINES, MOST_TABLE_BYTES = DOORS["logbook"].most_rows, DOORS["logbook"].most_bytes
FIGURES = ("focal_length_mm", "focal_35_mm", "f_number", "shutter_s", "iso")
PIXELS = ("wide_px", "high_px")
FIELDS = ("taken_at", "body", "lens", *FIGURES, *PIXELS)
HEADINGS = {
    "taken_at": ("datetimeoriginal", "takenat", "taken", "date", "datetaken", "datetime", "time", "createdate"),
    "model": ("model", "body", "camera", "cameramodel", "cameramodelname"),
    "lens": ("lensmodel", "lens", "lensname"),
    "focal_mm": ("focallength", "focallengthmm", "focal"),
    "focal_35_mm": ("focallengthin35mmfilm", "focallengthin35mmformat", "focal35mm", "equivalentfocallength",
        "equivalent", "35mmfocallength"),
    "f_number": ("fnumber", "aperture", "f", "fstop"),
    "exposure_s": ("exposuretime", "shutter", "shutterspeed", "shuttertime", "shutters", "exposure"),
    "iso": ("iso", "isospeedratings", "photographicsensitivity", "isospeed"),
    "exif_wide": ("imagewidth", "exifimagewidth", "pixelxdimension", "wide", "widepx", "width"),
    "exif_high": ("imageheight", "exifimageheight", "pixelydimension", "high", "highpx", "height"),
}  # fmt: skip
"""What the columns of a table are called, letters and figures only, after the names of the standard and as people write
them.
"""
_TAG_OF = {heading: tag for tag, headings in HEADINGS.items() for heading in headings}


class TableError(ValueError):
    """A table that is not read; the message is for the reader."""


def log_row(head_read: Taken) -> Row:
    """A picture as it stands in the logbook."""
    row: Row = {key: getattr(head_read, key) for key in ("body", "lens", *FIGURES, *PIXELS)}
    return row | {"taken_at": head_read.at.strftime("%Y-%m-%d %H:%M:%S") if head_read.at else ""}


def says_something(row: dict[str, object]) -> bool:
    """Whether a picture has any setting to be counted by."""
    return any(row.get(key) for key in FIGURES)


def read_table(content: bytes, now: datetime) -> tuple[list[dict[str, object]], list[str]]:
    """The pictures of a CSV or JSON table of settings, and the lines that are not read, with why.

    Raises
        TableError
    """
    if len(content) > MOST_TABLE_BYTES:
        raise TableError("A table may have 20 MB at most. Bring it in in parts.")
    is_table = content.lstrip(b"\xef\xbb\xbf \t\r\n")[:1] not in (b"[", b"{")
    if is_table and (problem := table_problem(content, "logbook")):
        raise TableError(problem)
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise TableError("This table is not written in UTF-8.") from None
    rows, problems, until = [], [], time.monotonic() + DOORS["logbook"].seconds
    for line, cells in _lines(text):
        if time.monotonic() > until:
            raise TableError("Reading this takes too long. Bring it in in parts.")
        picture = taken(Head("table", cells), now)
        row = log_row(picture)
        if not says_something(row):
            problems.append(f"line {line}: no setting that could be read")
            continue
        problems += [f"line {line}: {note}" for note in picture.notes]
        rows.append(row)
    return rows, problems


def _lines(text: str) -> Iterator[tuple[int, dict[str, object]]]:
    """The lines of a table as tags."""
    start = text.lstrip()[:1]
    if start in ("[", "{"):
        try:
            content = read_json(text.encode(), "logbook")
        except DocumentError as error:
            raise TableError(str(error)) from None
        if isinstance(content, dict):
            content = next((value for value in content.values() if isinstance(value, list)), None)
        if not isinstance(content, list):
            raise TableError("This JSON holds no list of pictures.")
        _counted(len(content))
        for line, head in enumerate(content, start=1):
            yield line, _tags(head.items()) if isinstance(head, dict) else {}
        return
    sample = text[:4000].splitlines()[0] if text.strip() else ""
    delimiter = max(",;\t", key=sample.count)
    try:
        _counted(sum(any(row) for row in csv.reader(io.StringIO(text), delimiter=delimiter)) - 1)
        reader = csv.reader(io.StringIO(text), delimiter=delimiter)
        headings = next(reader, [])
        if not any(_plain(heading) in _TAG_OF for heading in headings):
            raise TableError(
                "The first line names no columns that are known here, such as date, camera, lens, focal length,"
                " f-number, ISO."
            )
        for line, cells in enumerate(reader, start=2):
            if any(cell.strip() for cell in cells):
                yield line, _tags(zip(headings, cells, strict=False))
    except csv.Error:
        raise TableError("This is not a table that can be read. Save it as CSV or JSON.") from None


def _counted(lines: int) -> None:
    """Refuse a table that is too long before any of it is read."""
    if lines > MOST_LINES:
        raise TableError(f"A table may have {MOST_LINES:,} lines at most. Bring it in in parts.")


def _plain(heading: object) -> str:
    return re.sub(r"\((mm|s)\)$|[^a-z0-9]", "", str(heading).lower())


def _tags(cells: Iterable[tuple[str, object]]) -> Row:
    values: Row = {}
    for heading, value in cells:
        tag = _TAG_OF.get(_plain(heading))
        if tag and tag not in values and isinstance(value, str | int | float) and not isinstance(value, bool):
            values[tag] = value.strip() if isinstance(value, str) else value
    return values


def sound(row: object) -> Row | None:
    """A row as it may be kept; None for one that is none."""
    if not isinstance(row, dict):
        return None
    tags: Row = {}
    for key in ("taken_at", "body", "lens"):
        value = row.get(key) or ""
        if not isinstance(value, str) or not value.isprintable():
            return None
        tags[key] = value.strip()[: 19 if key == "taken_at" else 60]
    if tags["taken_at"] and not re.fullmatch(r"\d{4}-\d\d-\d\d \d\d:\d\d:\d\d", tags["taken_at"]):
        return None
    for key in (*FIGURES, *PIXELS):
        value = row.get(key)
        low, high = LIMITS.get(key, (1, 10**6))
        if value is not None and (
            isinstance(value, bool) or not isinstance(value, int | float) or not low <= value <= high
        ):
            return None
        tags[key] = value if value is None else int(value) if key in PIXELS else float(value)
    return tags if says_something(tags) else None


def identity(row: Row) -> tuple[object, ...]:
    """What makes two pictures the same one."""
    return tuple(row.get(key) for key in FIELDS)


def present(owner: User) -> set[tuple[object, ...]]:
    """The pictures that are in the logbook already."""
    return set(Logged.objects.for_owner(owner).values_list(*FIELDS))


def plan_of(owner: User, rows: list[dict[str, object]]) -> tuple[ChangePlan, int]:
    """The change that keeps those of some pictures that are not in the logbook yet, and how many those are.

    Raises
        TableError for more than a logbook holds
    """
    there = present(owner)
    new = [row for key, row in {identity(row): row for row in rows}.items() if key not in there]
    if len(there) + len(new) > MOST_LOGGED:
        raise TableError(
            f"A logbook holds {MOST_LOGGED:,} pictures, and that would be {len(there) + len(new):,}. Nothing was kept."
        )
    plan = ChangePlan(owner)
    if new:
        plan.add(Logged, [Logged(owner=owner, **row) for row in new])
    return plan, len(new)


@dataclass(frozen=True)
class Book:
    """A logbook as arrays, with the names that its numbers stand for."""

    log: Log
    bodies: tuple[str, ...]
    lenses: tuple[str, ...]


@dataclass(frozen=True)
class Columns:
    """The logbook as it is stored: names by number, years, and the figures."""

    bodies: tuple[str, ...]
    lenses: tuple[str, ...]
    body_at: NDArray[np.int64]
    lens_at: NDArray[np.int64]
    years: NDArray[np.int64]
    figures: list[Array]


_STORED: OrderedDict[int, tuple[Any, Columns]] = OrderedDict()
_MOST_STORED = 16
_LOCK = threading.Lock()


def _columns(owner: User) -> Columns:
    """The stored columns. A picture in the logbook is never changed, so how many there are and their keys say whether
    it is the same.
    """
    mine = Logged.objects.for_owner(owner).order_by()
    sign = tuple(mine.aggregate(Count("pk"), Sum("pk"), Max("pk")).values())
    with _LOCK:
        stored = _STORED.get(owner.pk)
        if stored and stored[0] == sign:
            _STORED.move_to_end(owner.pk)
            return stored[1]
    at, body, lens, *figures = list(zip(*mine.values_list(*FIELDS), strict=True)) or [()] * len(FIELDS)
    body_at, bodies = _numbered(body)
    lens_at, lenses = _numbered(lens)
    years = np.array([int(moment[:4]) if moment else 0 for moment in at], dtype=np.int64)
    made = Columns(bodies, lenses, body_at, lens_at, years, [np.array(values, dtype=float) for values in figures])
    with _LOCK:
        _STORED[owner.pk] = sign, made
        while len(_STORED) > _MOST_STORED:
            _STORED.popitem(last=False)
    return made


def _build(owner: User) -> Book:
    """All of an owner's pictures; cameras are known by name on the shelf."""
    held = _columns(owner)
    bodies, lenses, body_at, lens_at = held.bodies, held.lenses, held.body_at, held.lens_at
    focal_mm, equivalent, stops, seconds, isos, across, down = held.figures
    crops, pixels, ceilings, long_sides = _cameras(owner, bodies, preferred_by(owner).conventions)
    crop = np.append(crops, np.nan)[body_at]
    # a file that does not say its equivalent goes by the camera on the shelf; one that is on no shelf by what its
    # other pictures say
    told = equivalent / focal_mm
    for index in range(len(bodies)):
        mine = body_at == index
        if np.isnan(crops[index]) and np.isfinite(told[mine]).any():
            crop[mine] = float(np.nanmedian(told[mine]))
    equivalent = np.where(np.isfinite(equivalent), equivalent, focal_mm * crop)
    ceiling = np.append(ceilings, np.nan)[body_at]
    usual = clean_iso(preferred_by(owner).conventions, _collected(crop[np.isnan(ceiling) & np.isfinite(crop)]))
    ceiling[np.isnan(ceiling) & np.isfinite(crop)] = usual
    whole = np.append(pixels, np.nan)[body_at]
    kept = np.sqrt(across * down / whole)
    kept[made_smaller(body_at, np.fmax(across, down), long_sides)] = np.nan
    log = Log(equivalent, focal_mm, stops, seconds, isos, ceiling, np.minimum(kept, 1.0), body_at, lens_at, held.years)
    return Book(log, bodies, lenses)


def _collected(crop: Array) -> Collecting:
    """What a usual camera of a crop factor collects with; its pixels are not known."""
    unknown = np.full(np.shape(crop), np.nan)
    return collecting(unknown, FULL_FRAME.area_mm2 / crop**2, QUANTUM_EFFICIENCY, 0.0, READ_NOISE_E, 8e6)


def _numbered(names: Sequence[str]) -> tuple[Ints, tuple[str, ...]]:
    known = {name: index for index, name in enumerate(sorted({name for name in names if name}))}
    return np.array([known.get(name, -1) for name in names], dtype=np.int64), tuple(known)


def _cameras(owner: User, names: tuple[str, ...], conventions: Conventions) -> tuple[Any, Any, Any, list[list[float]]]:
    """Crop factor, pixels and clean ISO of cameras by name, NaN for what the shelf does not have; and the long sides
    that each records.
    """
    shelf = {body.name.lower(): body for body in Body.objects.for_owner(owner).prefetch_related("crop_modes")}
    long_sides: list[list[float]] = [[] for _ in names]
    numbers = np.full((3, len(names)), np.nan)
    for index, name in enumerate(names):
        record = shelf.get(name.lower())
        if record is None:
            continue
        body = record.to_optics()
        numbers[0, index] = FULL_FRAME.diagonal_mm / body.sensor.diagonal_mm
        numbers[1, index] = body.sensor.pixels if isfinite(body.sensor.pixels or float("nan")) else np.nan
        made = collecting(
            np.array(numbers[1, index]), body.sensor.area_mm2, body.quantum_efficiency, body.offset_stops,
            body.read_noise_e, conventions.output_pixels
        )  # fmt: skip
        numbers[2, index] = float(clean_iso(conventions, made))
        recorded = (record, *record.crop_modes.all())
        long_sides[index] = [
            float(max(body.pixels_wide, body.pixels_high or 0)) for body in recorded if body.pixels_wide
        ]
    return numbers[0], numbers[1], numbers[2], long_sides


_BOOKS: Latest[Book] = Latest("logbook", _build, lambda book: len(book.log))


def book_of(owner: User) -> Book:
    """An owner's logbook as it is now."""
    return _BOOKS.of(owner)


def frame_of(width_m: float, distance_m: float, *, upright: bool) -> float:
    """The focal length on full frame that takes in a width at a distance [mm], far enough away."""
    side = FULL_FRAME.height_mm if upright else FULL_FRAME.width_mm
    return side * distance_m / width_m
