"""From a question as it was read to its answer: what each lens is elsewhere, how two compare, what was assumed. Pure but for words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import isfinite

from cambrel import wording
from cambrel.conventions.home import home_crop, home_name
from cambrel.links import Gear
from cambrel.optics.brief import Conventions
from cambrel.optics.comparison import Body, Lens
from cambrel.optics.depth import circle_of_confusion_mm, depth_of_field
from cambrel.optics.equivalence import (
    equivalent_f_number,
    equivalent_focal_length_mm,
    equivalent_iso,
    same_picture_f_number,
    same_picture_focal_length_mm,
)
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.quantities import DomainError
from cambrel.optics.rig import aperture_stops
from cambrel.optics.sentences import LEVEL_STOPS, LEVEL_VIEW, LEVEL_WEIGHT
from cambrel.optics.stated import StatedSensor, sensor_stated
from cambrel.phrases import Reading, Side

ELSEWHERE = ("full-frame", "aps-c", "micro-four-thirds", "one-inch", "type-1-1.3", "44x33")
"""The formats of the short row, in their order."""
NO_SIZE = (
    "That is what it frames like on full frame. How large the sensor is was not said, and without it neither its depth of field nor its light "
    "can be told: add the format or the type, such as 1/1.3."
)
SHOWN = 420.0, 500.0
"""Long side of the print and the distance that it is looked at from [mm], where depth goes by the print."""


@dataclass(frozen=True)
class Equivalent:
    """A lens as another format has it: what frames alike, what has its depth and light, what exposes alike, and which ISO is as noisy."""

    slug: str
    name: str
    view: str = ""
    depth_and_light: str = ""
    exposure: str = ""
    iso: str = ""


@dataclass(frozen=True)
class Answered:
    """One lens, or what was said of one: its name, its sensor, what it is on the format that was asked about, and on others."""

    name: str
    sensor: Sensor
    low_mm: float | None
    high_mm: float | None
    short: float | None
    long: float | None
    iso: float | None
    distance_m: float | None
    shutter_s: float | None
    weight_g: float | None
    on: Equivalent
    others: tuple[Equivalent, ...]
    says: str
    depth: str = ""
    assumed: tuple[str, ...] = ()
    gear: Gear | None = None


@dataclass(frozen=True)
class Answer:
    """What a question comes to: each side, one sentence over both, and how the words were taken."""

    sides: tuple[Answered, ...] = ()
    says: str = ""
    fair: str = ""
    problem: str = ""


def answer(reading: Reading, conventions: Conventions, taken: Mapping[str, str] | None = None) -> Answer:
    """The answer to a question that was read.

    Parameters
        taken: by the word that may mean several formats, the one that the reader chose
    """
    if reading.refused:
        return Answer(problem=reading.refused)
    sides = [side for side in reading.sides if _says_something(side)]
    if not sides:
        return Answer()
    chosen = _shared([_chosen(side, reading, taken or {}) for side in sides])
    target = (taken or {}).get("target") or reading.target or conventions.home
    if any(side.equivalent and not _has_size(side) for side in chosen):
        return Answer(says=NO_SIZE)
    try:
        made = tuple(_answered(side, target, conventions) for side in chosen)
    except DomainError as error:
        return Answer(problem=f"That cannot be: {error}.")
    says = _against(*made, conventions) if len(made) == 2 else made[0].says
    return Answer(made, says, _fair(*made) if len(made) == 2 else "")


def _says_something(side: Side) -> bool:
    return any(value is not None for value in (side.focal_min_mm, side.f_number, side.iso))


def _shared(sides: list[Side]) -> list[Side]:
    """What is said once of two lenses, such as where they are focused, is said of both."""
    for name in ("distance_m", "shutter_s", "iso"):
        said = [getattr(side, name) for side in sides if getattr(side, name) is not None]
        if len(said) == 1:
            sides = [replace(side, **{name: said[0]}) for side in sides]
    return sides


def _has_size(side: Side) -> bool:
    said = (side.format, side.type_designation, side.crop, side.width_mm, side.diagonal_mm, side.true_focal_mm)
    return any(value is not None for value in said)


def _chosen(side: Side, reading: Reading, taken: Mapping[str, str]) -> Side:
    """A side with the format that the reader chose for a word of several meanings."""
    for choice in reading.choices:
        wanted = taken.get(choice.text)
        if wanted in choice.formats and side.format == choice.taken:
            return replace(side, format=wanted)
    return side


def sensor_of(side: Side, by: str) -> tuple[Sensor, str, list[str]]:
    """The sensor that a side speaks of, what it is called, and what had to be assumed of it."""
    named = FORMATS.get(side.format or "")
    stated = StatedSensor(
        width_mm=side.width_mm,
        height_mm=side.height_mm,
        diagonal_mm=side.diagonal_mm,
        named=named and Sensor(named.width_mm, named.height_mm),
        type_designation=side.type_designation,
        crop=None if named else side.crop,
        megapixels=side.megapixels,
        pixel_pitch_um=side.pixel_pitch_um,
    )
    found = sensor_stated(stated, by)
    if found is None:
        return (
            Sensor(FULL_FRAME.width_mm, FULL_FRAME.height_mm),
            "full frame",
            ["No format was said: taken as full frame."],
        )
    said = [wording.sentence(one) for one in (*found.assumptions, *found.contradictions)]
    if named:
        return found.sensor, _called(side.format or ""), said
    size = f"{wording.significant(found.sensor.width_mm)} × {wording.significant(found.sensor.height_mm)} mm"
    return found.sensor, f"a {size} sensor", said


def _answered(side: Side, target: str, conventions: Conventions) -> Answered:
    by = conventions.crop_by
    sensor, where, assumed = sensor_of(side, by)
    crop = crop_factor(sensor, by=by)
    low, high = side.focal_min_mm, side.focal_max_mm
    if side.equivalent and low is not None and high is not None:
        ratio = high / low
        low = side.true_focal_mm or low / crop
        high = low * ratio
        assumed.append(f"The focal length is an equivalent: the lens itself has {wording.focal_range(low, high)}.")
    short, long = side.f_number, side.f_number_long or side.f_number
    if side.f_number_equivalent and short is not None and long is not None:
        short, long = short / crop, long / crop
        assumed.append(f"The f-number is an equivalent: on the lens stands {wording.f_number_range(short, long)}.")
    if side.converter:
        factor = side.converter
        low, high = (None if end is None else end * factor for end in (low, high))
        short, long = (None if end is None else end * factor for end in (short, long))
        assumed.append(f"With the converter, {wording.significant(factor)} ×, counted in.")
    focal = "" if low is None or high is None else wording.focal_range(low, high)
    number = "" if short is None or long is None else wording.f_number_range(short, long)
    iso = "" if side.iso is None else wording.iso(side.iso)
    lens = " ".join(filter(None, (focal, number, iso)))
    made = Answered(
        f"{lens} on {where}", sensor, low, high, short, long, side.iso, side.distance_m, side.shutter_s, side.weight_g,
        _elsewhere(target, low, high, short, long, side.iso, crop, by), (), "", "", tuple(assumed),
        _gear(low, high, short, long, sensor, where, lens, side),
    )  # fmt: skip
    row = tuple(
        _elsewhere(slug, low, high, short, long, side.iso, crop, by)
        for slug in ELSEWHERE
        if slug != target and not _alike(FORMATS[slug], sensor)
    )
    made = replace(made, others=row)
    return replace(made, says=_says(made, target, by), depth=_depth(made, conventions))


def _alike(one: Sensor, other: Sensor) -> bool:
    return abs(one.diagonal_mm / other.diagonal_mm - 1) < LEVEL_VIEW


def _elsewhere(
    slug: str,
    low: float | None,
    high: float | None,
    short: float | None,
    long: float | None,
    iso: float | None,
    crop: float,
    by: str,
) -> Equivalent:
    there = crop_factor(FORMATS[slug], by=by)
    view = depth = exposure = noise = ""
    if low is not None and high is not None:
        ends = (float(equivalent_focal_length_mm(end, crop, there)) for end in (low, high))
        view = wording.focal_range(*ends)
    if short is not None and long is not None:
        depth = wording.f_number_range(*(float(equivalent_f_number(end, crop, there)) for end in (short, long)))
        exposure = wording.f_number_range(short, long)
    if iso is not None:
        noise = wording.iso(float(equivalent_iso(iso, crop, there)))
    return Equivalent(slug, FORMATS[slug].name, view, depth, exposure, noise)


def _says(made: Answered, target: str, by: str) -> str:
    """The answer in one sentence."""
    on = made.on
    if _alike(FORMATS[target], made.sensor):
        row = [f"on {_called(one.slug)} {_pair(one)}" for one in made.others[:2] if _pair(one)]
        return f"{made.name}: the same picture takes {' and '.join(row)}." if row else ""
    where = f" on {_called(target)}"
    parts = []
    if on.view:
        parts.append(f"frames like {on.view}{where}")
        where = " there"
    if on.depth_and_light:
        parts.append(f"has the depth of field and light of {on.depth_and_light}{where}")
        parts.append(f"exposes like {on.exposure}")
        where = " there"
    if on.iso:
        parts.append(f"is as noisy as {on.iso}{where}")
    listed = parts[0] if len(parts) == 1 else f"{', '.join(parts[:-1])} and {parts[-1]}"
    return f"{made.name} {listed}.{_close(made, target, by)}"


def _pair(one: Equivalent) -> str:
    return " ".join(filter(None, (one.view, one.depth_and_light, one.iso)))


def _called(slug: str) -> str:
    """A format as it stands in a sentence."""
    return wording.in_words(FORMATS[slug].name)


def _close(made: Answered, target: str, by: str) -> str:
    """Close up the crop factor alone is off: then the exact pair for the same picture from the same spot."""
    f, n, u = made.low_mm, made.short, made.distance_m
    if f is None or u is None or made.low_mm != made.high_mm or not 1000 * u > f:
        return ""
    k = crop_factor(made.sensor, by=by) / crop_factor(FORMATS[target], by=by)
    exact = float(same_picture_focal_length_mm(f, u, k))
    if not isfinite(exact) or abs(exact / (f * k) - 1) < LEVEL_VIEW:
        return ""
    number = "" if n is None else f" {wording.f_number(float(same_picture_f_number(n, f, exact)))}"
    return f" At {wording.distance(u)} it is {wording.focal(exact)}{number} exactly."


def _depth(made: Answered, conventions: Conventions) -> str:
    """What is sharp at the distance that was said."""
    f, n, u = made.low_mm, made.short, made.distance_m
    if f is None or n is None or u is None or made.low_mm != made.high_mm or not 1000 * u > f:
        return ""
    long_side, away = SHOWN
    circle = circle_of_confusion_mm(
        made.sensor, conventions.criterion, shown_long_side_mm=long_side, viewing_distance_mm=away,
        lines_per_mm=conventions.lines_per_mm,
    )  # fmt: skip
    if circle is None:
        return ""
    sharp = depth_of_field(f, n, u, circle)
    return f"Focused at {wording.distance(u)}, sharp from {wording.span(float(sharp.near_m), float(sharp.far_m))}."


def _pupil_stops(a: Answered, b: Answered) -> float | None:
    """By how many stops b gathers more light in the whole picture than a, each wide open as said; None where it is not known."""
    if a.short is None or b.short is None:
        return None
    return aperture_stops(a.short * crop_factor(a.sensor), b.short * crop_factor(b.sensor))


def _views(one: Answered, conventions: Conventions | None = None) -> tuple[float, float] | None:
    """Shortest and longest focal length of the same view, in the reader's terms or on full frame."""
    if one.low_mm is None or one.high_mm is None:
        return None
    crop = crop_factor(one.sensor) / (home_crop(conventions) if conventions else 1.0)
    return one.low_mm * crop, one.high_mm * crop


def _against(a: Answered, b: Answered, conventions: Conventions) -> str:
    """Two lenses in one sentence: their views, and then depth and light."""
    said, alike = [], False
    views, home = (_views(a, conventions), _views(b, conventions)), home_name(conventions)
    if views[0] and views[1]:
        ratio = views[1][0] / views[0][0]
        reach = views[1][1] / views[0][1]
        alike = abs(ratio - 1) <= LEVEL_VIEW and abs(reach - 1) <= LEVEL_VIEW
        if alike:
            said.append(f"A and B frame alike, as {wording.focal_range(*views[0])} on {home}")
        else:
            ends = (wording.focal_range(*view) for view in views if view)
            said.append(f"A frames like {next(ends)} on {home}, B like {next(ends)}")
    stops = _pupil_stops(a, b)
    if stops is not None:
        # of depth there is only something to say where both frame alike
        if abs(stops) <= LEVEL_STOPS:
            said.append(f"both have the same {'depth of field and ' if alike else ''}light in the whole picture")
        else:
            more, less = ("B", "A") if stops > 0 else ("A", "B")
            depth = f", with less depth of field than {less}" if alike else f" than {less}"
            said.append(f"{more} gathers {wording.stops(abs(stops))} more light in the whole picture{depth}")
    return "; ".join(said) + "." if said else ""


def _fair(a: Answered, b: Answered) -> str:
    """Whether two weights may be compared at all: only lenses that make the same picture are opponents."""
    if a.weight_g is None or b.weight_g is None or min(a.weight_g, b.weight_g) <= 0:
        return ""
    if abs(a.weight_g / b.weight_g - 1) <= LEVEL_WEIGHT:
        return ""
    light, heavy, letter = (a, b, "A") if a.weight_g < b.weight_g else (b, a, "B")
    stops, mine, others = _pupil_stops(light, heavy), _views(light), _views(heavy)
    if stops is None or mine is None or others is None or light.short is None or light.long is None:
        return ""
    alike = all(abs(one / other - 1) <= LEVEL_VIEW for one, other in zip(mine, others, strict=True))
    if alike and abs(stops) <= LEVEL_STOPS:
        return f"The weights compare fairly: {wording.mass(light.weight_g or 0)} against {wording.mass(heavy.weight_g or 0)}."
    crop = crop_factor(light.sensor) / crop_factor(heavy.sensor)
    focal = wording.focal_range(*(view / crop_factor(heavy.sensor) for view in mine))
    there = f"{focal} {wording.f_number_range(light.short * crop, light.long * crop)}"
    return f"The weights are no fair match: the opponent of {letter}, which weighs less, would be {there} on the other's format."


def _gear(
    low: float | None,
    high: float | None,
    short: float | None,
    long: float | None,
    sensor: Sensor,
    where: str,
    lens: str,
    side: Side,
) -> Gear | None:
    """The lens on its body by value, for the bench and for Match; None where no focal length is said."""
    if low is None or high is None:
        return None
    points = () if short is None or long is None else ((low, short), (high, long)) if high > low else ((low, short),)
    made = Lens(focal_min_mm=low, focal_max_mm=high, widest=points, weight_g=side.weight_g)
    name = (where[:1].upper() + where[1:]).removeprefix("A ")
    return Gear(Body(sensor), name[:60], made, lens.replace(wording.NBSP, " ")[:60])
