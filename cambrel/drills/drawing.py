"""What a question is drawn from: two cameras of a pool, a lens, and settings on which the mistakes of its kind can be
told apart.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import permutations
from random import Random

from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import Lens
from cambrel.comparison.rig import LARGEST_F_NUMBER
from cambrel.drills.all_drills import KINDS
from cambrel.drills.given import Given
from cambrel.drills.kind import Needs
from cambrel.drills.posing import Posed
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.formats import FORMATS, Sensor, crop_factor
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, Stop, between

APART, TOO_FAR = 1.15, 5.0
"""Two frames are asked about whose diagonals differ by at least and at most so much."""
F_NUMBERS_MADE, MOST_STOPS = (0.6, 91.0), 5.0
"""Answers that nobody would believe are not offered."""
TRIES = 200
FOCALS = (14, 18, 21, 24, 28, 35, 50, 85, 105, 135, 200, 300, 400)
"""In full-frame terms."""
USUAL_PIXELS = {
    "full-frame": 6100, "44x33": 8700, "aps-c": 6300, "aps-c-small": 6800, "micro-four-thirds": 5300, "one-inch": 5400,
    "type-1-1.3": 8000,
}  # fmt: skip
"""Across, of whatever camera of a format."""
FIXED = ("one-inch", "type-1-1.3")
"""On cameras of these there goes no other lens."""
DISTANCES = (1.5, 2.0, 2.5, 3.0, 4.0, 5.0)
FIELDS = (0.6, 0.9, 1.2, 1.8, 2.4, 3.6)
NEAREST_IN_FOCALS = 80.0
"""Nearer than that the simple rules are off, which is a question of its own."""
MULTIPLES, SHORTEST_MM = (0.5, 1.5, 2.0, 3.0), 4.0
SECOND_APART, SECOND_TOO_FAR = 1.3, 4.0
"""Two focal lengths of one question, one over the other."""
MAGNIFICATIONS = (0.25, 0.5, 0.75, 1.0)


@dataclass(frozen=True)
class DrillCamera:
    """mount: empty where no other lens goes on; takes: the mounts whose lenses go on it as they are or by a plain
    adapter; lenses: fixed to it.
    """

    name: str
    sensor: Sensor
    mount: str = ""
    takes: frozenset[str] = frozenset()
    lenses: tuple[tuple[str, Lens], ...] = ()


@dataclass(frozen=True)
class GearPool:
    """Cameras, and lenses by their mounts."""

    cameras: tuple[DrillCamera, ...]
    lenses: dict[str, list[tuple[str, Lens]]]
    own: tuple[DrillCamera, ...] = ()
    """The reader’s own two systems, which the sums in the head are for."""

    def lenses_of(self, camera: DrillCamera) -> Sequence[tuple[str, Lens]]:
        """Names and lenses that a camera has; empty where nothing is recorded of them."""
        return camera.lenses or (self.lenses.get(camera.mount, []) if camera.mount else [])

    @cached_property
    def pairs(self) -> tuple[tuple[DrillCamera, DrillCamera], ...]:
        """Each two cameras whose frames differ by enough to be asked about."""
        return tuple((one, other) for one in self.cameras for other in self.cameras if are_apart(one, other))


@dataclass(frozen=True)
class Case:
    """What a question is about, with the names of what it was drawn from."""

    given: Given
    one: str
    other: str
    lens: str = ""


ANY_MOUNT = "any"


def _usual(slug: str, mount: str) -> DrillCamera:
    """A camera of a format, of whatever make."""
    format_ = FORMATS[slug]
    sensor = Sensor(format_.width_mm, format_.height_mm, USUAL_PIXELS[slug])
    return DrillCamera(format_.name, sensor, mount, frozenset({mount} - {""}))


FULL_FRAME_CAMERA = replace(_usual("full-frame", ""), name="full frame")
USUAL_POOL = GearPool(tuple(_usual(slug, "" if slug in FIXED else ANY_MOUNT) for slug in USUAL_PIXELS), {})


def in_print(conventions: Conventions) -> Conventions:
    """The schools of a reader for what is judged in the print: single pixels would answer by another rule.

    Parameters
        conventions: the reader's
    Returns
        with the circle of the print where single pixels decide
    """
    is_of_frame = CIRCLE_OF_CONFUSION_SCHOOLS[conventions.criterion].is_of_frame
    return conventions if is_of_frame else replace(conventions, criterion=Conventions().criterion)


def are_apart(one: DrillCamera, other: DrillCamera) -> bool:
    """Whether two frames differ by enough to be asked about, and not by too much.

    Parameters
        one, other: cameras of the pool
    Returns
        by their crop factors
    """
    ratio = one.sensor.diagonal_mm / other.sensor.diagonal_mm
    return APART <= max(ratio, 1 / ratio) <= TOO_FAR


def _is_likely(unit: str, given: Given, posed: Posed) -> bool:
    low, high = F_NUMBERS_MADE
    if not low <= given.f_number * given.k <= high:
        return False  # no aperture would give the other frame the same depth
    answers = [posed.right, *(slip.value for slip in posed.offered)]
    if unit == "f":
        return all(low <= answer <= high for answer in answers)
    return unit not in ("stops", "signed") or abs(posed.right) <= MOST_STOPS


def drawn(
    kind: str,
    random: Random,
    pool: GearPool,
    conventions: Conventions,
    *,
    to_judge: bool = False,
    is_seen: bool = False,
) -> Case:
    """Something to ask about, on which the mistakes of this kind can be told apart.

    Parameters
        kind: a key of KINDS
        random: that draws it
        pool: cameras and lenses to draw from
        conventions: the reader's
        to_judge: a sentence is judged, so that nothing may be nearly the same
        is_seen: two pictures are told apart, so that everybody has to see it
    Returns
        the case
    """
    needs = KINDS[kind].needs
    pairs = _pairs(needs, pool, is_seen)
    for _ in range(TRIES if pairs else 0):
        case = _drawn(needs, random, random.choice(pairs), pool, conventions)
        if case is None:
            continue
        posed = KINDS[kind].pose(case.given)
        is_clear = not to_judge or KINDS[kind].is_clear(case.given)
        if posed.is_sound and _is_likely(KINDS[kind].unit, case.given, posed) and is_clear:
            return case
    raise LookupError(kind)


def _pairs(needs: Needs, pool: GearPool, is_seen: bool) -> list[tuple[DrillCamera, DrillCamera]]:
    """The cameras that may be asked about, with the one that is asked from first."""
    is_own = bool(needs.own and pool.own and are_apart(*pool.own))
    if needs.against_full_frame:
        among = pool.own if is_own else pool.cameras
        smaller = [camera for camera in among if camera.sensor.diagonal_mm < FULL_FRAME_CAMERA.sensor.diagonal_mm]
        return [(FULL_FRAME_CAMERA, camera) for camera in smaller if are_apart(FULL_FRAME_CAMERA, camera)]
    pairs = list(permutations(pool.own, 2) if is_own else pool.pairs)
    if needs.one_lens:
        pairs = [(one, other) for one, other in pairs if one.mount and one.mount in other.takes]
    if needs.changed or is_seen:
        pairs = [(one, other) for one, other in pairs if one.mount and other.mount]
    if needs.from_smaller:
        pairs = [(one, other) for one, other in pairs if one.sensor.diagonal_mm < other.sensor.diagonal_mm]
    return pairs


def _drawn(
    needs: Needs, random: Random, pair: tuple[DrillCamera, DrillCamera], pool: GearPool, conventions: Conventions
) -> Case | None:
    """Two cameras with settings that their lenses have; None where no lens has any that are asked about."""
    one, other = pair
    carrier = other if needs.of_other else one
    crop = crop_factor(carrier.sensor, by=conventions.crop_by)
    mounted = _mounted(needs, random, pool.lenses_of(carrier), crop, bool(carrier.mount))
    if mounted is None:
        return None
    name, lens, focal, second = mounted
    low, high = float(lens.widest_f_number(focal)) if lens.widest else 1.4, 16 / max(1.0, crop**0.5)
    high = min(max(high, 2 * low), lens.smallest_f_number or LARGEST_F_NUMBER)
    circle = lens.image_circle_mm if needs.from_smaller else None
    given = Given(
        one.sensor,
        other.sensor,
        conventions.crop_by,
        in_print(conventions).criterion,
        conventions.noise,
        focal_mm=focal,
        f_number=_mark(random, F_NUMBERS, max(low, 1.2), high),
        shutter_s=_mark(random, SHUTTERS, 1 / 1000, 1 / 15),
        iso=_mark(random, ISOS, 100, 6400),
        distance_m=random.choice(DISTANCES),
        second_focal_mm=second,
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


def _mounted(
    needs: Needs, random: Random, lenses: Sequence[tuple[str, Lens]], crop: float, takes_others: bool
) -> tuple[str, Lens, float, float] | None:
    """A lens by its name, a focal length that it has, and another one: of the same zoom or, without a name, of two
    lenses.
    """
    low, high = (end / crop for end in needs.full_frame)
    settable = {number: _focals(lens, low, high, crop) for number, (_, lens) in enumerate(lenses)}
    usable = [number for number, focals in settable.items() if focals]
    if not usable:
        if lenses and not takes_others:
            return None
        focal = random.choice(_usual_focals(low, high, crop))
        return "", Lens(), focal, _multiple(random, focal)
    picked = random.choice(usable)
    name, lens = lenses[picked]
    focal = random.choice(settable[picked])
    if not needs.two_lenses:
        return name, lens, focal, _multiple(random, focal)
    seconds = [
        (number, other)
        for number, focals in settable.items()
        for other in focals
        if SECOND_APART <= max(other / focal, focal / other) <= SECOND_TOO_FAR
    ]
    if not seconds:
        return None
    number, second = random.choice(seconds)
    return name if number == picked else "", lens if number == picked else Lens(), focal, second


def _focals(lens: Lens, low: float, high: float, crop: float) -> list[float]:
    """The focal lengths of a lens that may be asked about, as one would set it."""
    shortest, longest = lens.focal_min_mm, lens.focal_max_mm
    if shortest is None or longest is None:
        return _usual_focals(low, high, crop)
    inside = [focal for focal in _usual_focals(low, high, crop) if shortest <= focal <= longest]
    return inside or [end for end in sorted({shortest, longest}) if low <= end <= high]


def _usual_focals(low: float, high: float, crop: float) -> list[float]:
    return [float(f"{f / crop:.2g}") for f in FOCALS if low <= f / crop * (1 + 1e-9) and f / crop <= high * (1 + 1e-9)]


def _multiple(random: Random, focal_mm: float) -> float:
    """Another focal length, of whatever lens."""
    return float(f"{focal_mm * random.choice([f for f in MULTIPLES if f * focal_mm >= SHORTEST_MM]):.2g}")


def _mark(random: Random, series: Sequence[Stop], low: float, high: float) -> float:
    """A setting as it is marked; the lower end where none is between."""
    marks = between(tuple(series), low, high)
    return float(random.choice(marks).typed) if marks else low


def seen(kind: str, case: Case) -> Case:
    """The case with settings at which two pictures of it differ for everybody to see, of whatever lens has them.

    Parameters
        kind: a key of KINDS
        case: of that kind
    Returns
        with other settings
    """
    return replace(case, lens="", given=KINDS[kind].seen_with(case.given, case.given.crops[0]))
