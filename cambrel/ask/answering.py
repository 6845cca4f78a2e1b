"""From a question as it was read to its answer: what each lens is elsewhere, how two compare, what was assumed. Pure
but for words.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import isfinite, log2

from cambrel import wording
from cambrel.ask.against import against, fair, several
from cambrel.ask.elsewhere import AdvertPart, Equivalent, alike, effective, is_near, same_pupil_f_number, same_view_mm
from cambrel.ask.sensors import in_a_sentence, judged_by, sensor_of
from cambrel.comparison.bench import Gear
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import Body, Lens
from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER
from cambrel.optics.depth import circle_of_confusion_mm, depth_of_field
from cambrel.optics.formats import FORMATS, Sensor, crop_factor
from cambrel.phrases.advertised import is_likely_equivalent
from cambrel.phrases.records import GearWords, TextReading
from cambrel.wording.sentences import LEVEL_VIEW

ELSEWHERE = ("full-frame", "aps-c", "micro-four-thirds", "one-inch", "type-1-1.3", "44x33")
"""The formats of the short row, in their order."""
ADD_THE_SIZE = "For its depth of field and light, add the sensor: a format, or a type such as 1/1.3."
NOISE_BY_THE_PIXEL = (
    "You judge noise by the pixel, and a format does not say how large its pixels are. Compare "
    "two cameras on the Bench."
)


@dataclass(frozen=True)
class LineAnswer:
    """What a question about lenses comes to: each side, one sentence over all, and whether weights may be compared.

    lacks_size: an equivalent of a sensor that is not said
    """

    sides: tuple[AdvertPart, ...] = ()
    says: str = ""
    fair: str = ""
    lacks_size: bool = False


def answer(reading: TextReading, conventions: Conventions) -> LineAnswer:
    """The answer to a question about one lens, or two or three against each other.

    Raises
        DomainError for figures that no lens has
    """
    sides = _shared([side for side in reading.sides if _says_something(side)])
    if not sides:
        return LineAnswer()
    target = reading.target or conventions.home
    if any(side.equivalent and not _has_size(side) for side in sides):
        return LineAnswer(lacks_size=True)
    made = tuple(_answered(side, target, conventions) for side in sides)
    if len(made) == 1:
        return LineAnswer(made, made[0].says)
    if len(made) == 2:
        return LineAnswer(made, against(*made, conventions), fair(*made, conventions))
    return LineAnswer(made, several(made, conventions))


def _says_something(side: GearWords) -> bool:
    return any(value is not None for value in (side.focal_min_mm, side.f_number, side.iso, side.megapixels))


def _shared(sides: list[GearWords]) -> list[GearWords]:
    """What is said once of two lenses, such as where they are focused, is said of both; a camera without a lens has
    that of the other.
    """
    for name in ("distance_m", "shutter_s", "iso"):
        said = [getattr(side, name) for side in sides if getattr(side, name) is not None]
        if len(said) == 1:
            sides = [replace(side, **{name: said[0]}) for side in sides]
    lens = next((side for side in sides if side.focal_min_mm is not None), None)
    if lens is not None:
        names = ("focal_min_mm", "focal_max_mm", "equivalent", "true_focal_mm", "f_number", "f_number_long")
        own = {name: getattr(lens, name) for name in names}
        bare = {name: own[name] for name in names[:4]}
        sides = [
            side if side.focal_min_mm is not None else replace(side, **(own if side.f_number is None else bare))
            for side in sides
        ]
    return sides


def _has_size(side: GearWords) -> bool:
    said = (side.format, side.type_designation, side.crop, side.width_mm, side.diagonal_mm, side.true_focal_mm)
    return any(value is not None for value in said)


def _answered(side: GearWords, target: str, conventions: Conventions) -> AdvertPart:
    by = conventions.crop_by
    named = sensor_of(side, by)
    sensor, where, assumed = named.sensor, named.called, list(named.assumed)
    crop = crop_factor(sensor, by=by)
    low, high = side.focal_min_mm, side.focal_max_mm
    is_equivalent = bool(side.equivalent)
    if side.equivalent is None and low is not None and is_likely_equivalent(low, sensor):
        is_equivalent = True
        assumed.append(f"On so small a sensor {wording.focal(low)} is read as an equivalent. Say “true” if it is not.")
    if is_equivalent and low is not None and high is not None:
        ratio = high / low
        low = side.true_focal_mm or low / crop
        high = low * ratio
        assumed.append(f"The focal length is an equivalent: the lens itself has {wording.focal_range(low, high)}.")
    short, long = side.f_number, side.f_number_long or side.f_number
    if side.f_number_equivalent and short is not None and long is not None:
        short, long = short / crop, long / crop
        assumed.append(f"The f-number is an equivalent: the lens is marked {wording.f_number_range(short, long)}.")
    if side.converter:
        factor = side.converter
        low, high = (None if end is None else end * factor for end in (low, high))
        short, long = (None if end is None else end * factor for end in (short, long))
        kind, moves = ("converter", "costs") if factor > 1 else ("reducer", "gains")
        moved = wording.stops(2 * abs(log2(factor)))
        assumed.append(f"With the {kind}, {wording.significant(factor)} ×, counted in: it {moves} {moved}.")
    focal = "" if low is None or high is None else wording.focal_range(low, high)
    number = "" if short is None or long is None else wording.f_number_range(short, long)
    iso = "" if side.iso is None else wording.iso(side.iso)
    lens = " ".join(filter(None, (focal, number, iso)))
    made = AdvertPart(
        f"{lens} on {where}", sensor, low, high, short, long, side.iso, side.distance_m, side.shutter_s, side.weight_g,
        Equivalent(target, FORMATS[target].name), (), "", "", tuple(assumed),
        _gear(low, high, short, long, sensor, where, lens, side),
    )  # fmt: skip
    row = tuple(
        _elsewhere(made, slug, conventions) for slug in ELSEWHERE if slug != target and not alike(FORMATS[slug], sensor)
    )
    made = replace(made, on=_elsewhere(made, target, conventions), others=row)
    return replace(made, says=_says(made, target, by), depth=_depth(made, conventions))


def _elsewhere(made: AdvertPart, slug: str, conventions: Conventions) -> Equivalent:
    """What a lens is on a format: by the crop factor at a distance, exactly where it is said how near it is focused."""
    by, there = conventions.crop_by, FORMATS[slug]
    views: tuple[float, ...] = ()
    numbers: tuple[float, ...] = ()
    exposure, iso = "", None
    if made.low_mm is not None and made.high_mm is not None:
        views = tuple(same_view_mm(end, made, there, by) for end in (made.low_mm, made.high_mm))
    if made.short is not None and made.long is not None:
        ends = ((made.short, made.low_mm), (made.long, made.high_mm))
        numbers = tuple(same_pupil_f_number(number, focal, made, there, by) for number, focal in ends)
        exposure = wording.f_number_range(*(effective(number, focal, made.distance_m) for number, focal in ends))
    if made.iso is not None and conventions.noise == "picture":
        # shown at one size noise goes by the light in the whole picture: by the area
        iso = made.iso * there.area_mm2 / made.sensor.area_mm2
    return Equivalent(
        slug,
        there.name,
        wording.focal_range(*views) if views else "",
        wording.f_number_range(*numbers) if numbers else "",
        exposure,
        "" if iso is None else wording.iso(iso),
        *_ends(views),
        *_ends(numbers),
        iso,
    )


def _ends(values: tuple[float, ...]) -> tuple[float | None, float | None]:
    """The value at the short end, and at the long end where that is another."""
    if not values:
        return None, None
    return values[0], values[1] if values[1] != values[0] else None


def _says(made: AdvertPart, target: str, by: str) -> str:
    """The answer in one sentence."""
    on = made.on
    if alike(FORMATS[target], made.sensor):
        row = [
            f"on {in_a_sentence(equivalent.slug)} {_pair(equivalent)}"
            for equivalent in made.others[:2]
            if _pair(equivalent)
        ]
        return f"{made.name}: the same picture takes {' and '.join(row)}." if row else ""
    where = f" on {in_a_sentence(target)}"
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
    if not parts:
        return NOISE_BY_THE_PIXEL
    listed = parts[0] if len(parts) == 1 else f"{', '.join(parts[:-1])} and {parts[-1]}"
    return f"{made.name} {listed}.{_close(made, target, by)}{_impossible(made, target, by)}"


def _pair(equivalent: Equivalent) -> str:
    return " ".join(filter(None, (equivalent.view, equivalent.depth_and_light, equivalent.iso)))


def _impossible(made: AdvertPart, target: str, by: str) -> str:
    """Where the same depth would need a lens that cannot be made."""
    if (
        made.short is None
        or same_pupil_f_number(made.short, made.low_mm, made, FORMATS[target], by) >= SMALLEST_POSSIBLE_F_NUMBER
    ):
        return ""
    return f" No lens can be that fast: f/{SMALLEST_POSSIBLE_F_NUMBER:g} is the limit in air."


def _close(made: AdvertPart, target: str, by: str) -> str:
    """Close up the crop factor alone is off: then what it would say, beside the exact figures of the answer."""
    f, u = made.low_mm, made.distance_m
    if f is None or u is None or made.low_mm != made.high_mm or not is_near(f, u):
        return ""
    simple = f * crop_factor(made.sensor, by=by) / crop_factor(FORMATS[target], by=by)
    exact = same_view_mm(f, made, FORMATS[target], by)
    if not isfinite(exact) or abs(simple / exact - 1) < LEVEL_VIEW:
        return ""
    return f" This is exact at {wording.distance(u)}. The crop factor alone would say {wording.focal(simple)}."


def _depth(made: AdvertPart, conventions: Conventions) -> str:
    """What is sharp at the distance that was said."""
    f, n, u = made.low_mm, made.short, made.distance_m
    if f is None or n is None or u is None or made.low_mm != made.high_mm or not 1000 * u > f:
        return ""
    circle = circle_of_confusion_mm(made.sensor, conventions.criterion, **judged_by(conventions))
    if circle is None:
        return ""
    sharp = depth_of_field(f, n, u, circle)
    return f"Focused at {wording.distance(u)}, sharp from {wording.span(float(sharp.near_m), float(sharp.far_m))}."


def _gear(
    low: float | None,
    high: float | None,
    short: float | None,
    long: float | None,
    sensor: Sensor,
    where: str,
    lens: str,
    side: GearWords,
) -> Gear | None:
    """The lens on its body by value, for the bench and for Match; None where no focal length is said."""
    if low is None or high is None:
        return None
    points = () if short is None or long is None else ((low, short), (high, long)) if high > low else ((low, short),)
    made = Lens(focal_min_mm=low, focal_max_mm=high, widest=points, weight_g=side.weight_g)
    name = (where[:1].upper() + where[1:]).removeprefix("A ")
    return Gear(Body(sensor), name[:60], made, lens.replace(wording.NBSP, " ")[:60])
