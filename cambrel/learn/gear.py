"""What questions are asked about: cameras and lenses of the reader's own shelf, or of the demo world; the usual formats where there are none."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from random import Random
from typing import Any

from cambrel.optics.brief import Conventions
from cambrel.optics.comparison import Lens
from cambrel.optics.drills import KINDS, Given, Posed
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, between
from cambrel.owners.models import gear_owner
from cambrel.shelf import models
from cambrel.shelf.systems import own_of

MOST = 200
APART, TOO_FAR = 1.15, 5.0
"""Two frames are asked about whose diagonals differ by at least and at most so much."""
F_NUMBERS_MADE, MOST_STOPS = (0.6, 91.0), 5.0
"""Answers that nobody would believe are not offered."""
TRIES = 200
AT_100_PERCENT = "two_pixels"
FOCALS = (14, 18, 21, 24, 28, 35, 50, 85, 105, 135, 200, 300, 400)
"""In full-frame terms."""
USUAL = ("full-frame", "aps-c", "micro-four-thirds", "one-inch", "type-1-1.3")
PIXELS_ACROSS = 6000
DISTANCES = (1.5, 2.0, 2.5, 3.0, 4.0, 5.0)
FIELDS = (0.6, 0.9, 1.2, 1.8, 2.4, 3.6)
EYE_F_NUMBER = 2.0
NEAREST_IN_FOCALS = 80.0
"""Nearer than that the simple rules are off, which is a question of its own."""
MAGNIFICATIONS = (0.25, 0.5, 0.75, 1.0)


@dataclass(frozen=True)
class Camera:
    name: str
    sensor: Sensor
    mount: str = ""


@dataclass(frozen=True)
class Pool:
    """Cameras, and lenses by their mounts."""

    cameras: tuple[Camera, ...]
    lenses: dict[str, list[tuple[str, Lens]]]
    own: tuple[Camera, ...] = ()
    """The reader’s own two systems, which the sums in the head are for."""


@dataclass(frozen=True)
class Case:
    """What a question is about, with the names of what it was drawn from."""

    given: Given
    one: str
    other: str
    lens: str = ""


USUAL_POOL = Pool(
    tuple(
        Camera(FORMATS[slug].name, Sensor(FORMATS[slug].width_mm, FORMATS[slug].height_mm, PIXELS_ACROSS))
        for slug in USUAL
    ),
    {},
)


def pool_of(user: Any) -> Pool:
    """The gear of a reader's shelf; the usual formats where it holds less than two sizes of sensor."""
    owner = gear_owner(user)
    two = own_of(user)
    own = tuple(Camera(one.name, one.body.sensor, one.body.mount) for one in (two.large, two.small))
    bodies = models.Body.objects.for_owner(owner).order_by("pk")[:MOST]
    cameras = tuple(Camera(body.name, body.sensor(), body.mount) for body in bodies)
    if not any(_apart(one, other) for one in cameras for other in cameras):
        return replace(USUAL_POOL, own=own)
    lenses: dict[str, list[tuple[str, Lens]]] = {}
    for lens in models.Lens.objects.for_owner(owner).filter(rectilinear=True).exclude(mount="").order_by("pk")[:MOST]:
        lenses.setdefault(lens.mount, []).append((lens.name, lens.to_optics()))
    return Pool(cameras, lenses, own)


def in_print(conventions: Conventions) -> Conventions:
    """The schools of a reader for what is judged in the print: single pixels would answer by another rule."""
    at_100_percent = conventions.criterion == AT_100_PERCENT
    return replace(conventions, criterion=Conventions().criterion) if at_100_percent else conventions


def _apart(one: Camera, other: Camera) -> bool:
    ratio = one.sensor.diagonal_mm / other.sensor.diagonal_mm
    return APART <= max(ratio, 1 / ratio) <= TOO_FAR


def _is_likely(unit: str, given: Given, posed: Posed) -> bool:
    low, high = F_NUMBERS_MADE
    if not low <= given.f_number * given.k <= high:
        return False  # no aperture would give the other frame the same depth
    answers = [posed.right, *(slip.value for slip in posed.slips)]
    if unit == "f":
        return all(low <= answer <= high for answer in answers)
    return unit not in ("stops", "signed") or abs(posed.right) <= MOST_STOPS


def drawn(kind: str, random: Random, pool: Pool, conventions: Conventions, *, to_judge: bool = False) -> Case:
    """Something to ask about, on which the mistakes of this kind can be told apart; to be judged, nothing that is nearly level."""
    for _ in range(TRIES):
        case = _drawn(kind, random, pool, conventions)
        posed = KINDS[kind].pose(case.given)
        is_clear = not to_judge or KINDS[kind].is_clear(case.given)
        if posed.is_sound and _is_likely(KINDS[kind].unit, case.given, posed) and is_clear:
            return case
    raise LookupError(kind)


def _drawn(kind: str, random: Random, pool: Pool, conventions: Conventions) -> Case:
    among = pool.own if kind == "ladder" and pool.own and _apart(*pool.own) else pool.cameras
    pairs = [(a, b) for a in among for b in among if _apart(a, b)]
    if kind == "advert":
        pairs = [
            (a, b)
            for a, b in pairs
            if FULL_FRAME.diagonal_mm >= APART * min(a.sensor.diagonal_mm, b.sensor.diagonal_mm)
        ]
    if not pairs:
        raise LookupError(kind)
    one, other = random.choice(pairs)
    if kind == "circle" and one.sensor.diagonal_mm > other.sensor.diagonal_mm:
        one, other = other, one
    if kind == "advert":
        other = min(one, other, key=lambda camera: camera.sensor.diagonal_mm)
        one = Camera("full frame", Sensor(FULL_FRAME.width_mm, FULL_FRAME.height_mm, PIXELS_ACROSS))
    carrier = other if kind in ("hyperfocal", "stars", "closeup", "advert") else one
    crop = crop_factor(carrier.sensor, by=conventions.crop_by)
    name, lens = random.choice(pool.lenses.get(carrier.mount) or [("", Lens())])
    wide = {"hyperfocal": (14, 35), "stars": (14, 35), "advert": (21, 35), "closeup": (50, 135)}.get(kind, (14, 400))
    focal = _focal(random, lens, crop, wide)
    low, high = float(lens.widest_f_number(focal)) if lens.widest else 1.4, 16 / max(1.0, crop**0.5)
    number = _mark(random, F_NUMBERS, max(low, 1.2), max(high, 2 * low))
    circle = lens.image_circle_mm if lens.image_circle_mm and kind == "circle" else None
    second = random.choice([f for f in (0.5, 1.5, 2.0, 3.0) if f * focal >= 4])
    given = Given(
        one.sensor,
        other.sensor,
        conventions.crop_by,
        in_print(conventions).criterion,
        conventions.noise,
        focal_mm=focal,
        f_number=number,
        shutter_s=_mark(random, SHUTTERS, 1 / 1000, 1 / 15),
        iso=_mark(random, ISOS, 100, 6400),
        distance_m=random.choice(DISTANCES),
        second_focal_mm=float(f"{second * focal:.2g}"),
        second_f_number=_mark(random, F_NUMBERS, 1.4, 11),
        second_shutter_s=_mark(random, SHUTTERS, 1 / 1000, 1 / 15),
        second_iso=_mark(random, ISOS, 100, 6400),
        circle_mm=circle or float(f"{one.sensor.diagonal_mm * random.uniform(1.02, 1.15):.3g}"),
        magnification=random.choice(MAGNIFICATIONS),
        field_m=random.choice(FIELDS),
        claim=random.choice((-1, 0, 1)),
    )
    given = replace(given, distance_m=max(given.distance_m, NEAREST_IN_FOCALS * given.focal_mm / 1000))
    return Case(given, one.name, other.name, name)


def _focal(random: Random, lens: Lens, crop: float, wide: tuple[int, int]) -> float:
    """A focal length of a lens as one would set it, or of one that is made up."""
    low, high = (lens.focal_min_mm, lens.focal_max_mm) if lens.focal_min_mm and lens.focal_max_mm else (0.0, 1e9)
    usual = [float(f"{f / crop:.2g}") for f in FOCALS if wide[0] <= f <= wide[1]]
    offered = [focal for focal in usual if low <= focal <= high]
    ends = [end for end in {low, high} if wide[0] / crop <= end <= wide[1] / crop]
    return float(random.choice(offered or sorted(ends) or usual))


def _mark(random: Random, series: Sequence[Any], low: float, high: float) -> float:
    """A setting as it is marked."""
    marks = between(tuple(series), low, high)
    return float(random.choice(marks).typed)


def seen(kind: str, case: Case) -> Case:
    """The case with settings at which two pictures of it differ for everybody to see."""
    crop, given = case.given.crops[0], case.given
    if kind == "walk":
        focal = float(f"{40 / crop:.2g}")
        return replace(
            case, given=replace(given, focal_mm=focal, second_focal_mm=3 * focal, f_number=4.0, distance_m=2.0)
        )
    focal = float(f"{70 / crop:.2g}")
    return replace(case, given=replace(given, focal_mm=focal, f_number=EYE_F_NUMBER, distance_m=2.0))
