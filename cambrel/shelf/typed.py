"""Gear by figures that are typed where a name is looked for, by the reader of photographic wording."""

from cambrel import wording
from cambrel.comparison.bench import Gear
from cambrel.comparison.engine import Body, Lens
from cambrel.optics.formats import FORMATS
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import User
from cambrel.phrases.reader import read
from cambrel.phrases.records import GearWords
from cambrel.phrases.stated import sensor_stated, stated_of
from cambrel.shelf.codes import codes_of


def typed_gear(kind: str, text: str, owner: User) -> tuple[Gear | None, float | None]:
    """The body or lens that a text states by its figures, and the f-number that it is to be set to; (None, None) where
    it states none.
    """
    side = read(text, codes_of(owner)).sides[0]
    try:
        return (_lens(side), side.f_number) if kind == "lens" else (_body(side), None)
    except DomainError:
        return None, None


def _lens(side: GearWords) -> Gear | None:
    if side.focal_min_mm is None or side.equivalent:
        return None
    low, high = side.focal_min_mm, side.focal_max_mm or side.focal_min_mm
    numbers = [n for n in (side.f_number, side.f_number_long or side.f_number) if n is not None]
    widest = tuple(zip((low, high), numbers, strict=False)) if low < high else tuple((low, n) for n in numbers[:1])
    name = wording.focal_range(low, high) + (f" {wording.f_number_range(*numbers)}" if numbers else " lens")
    return Gear(
        lens=Lens(focal_min_mm=low, focal_max_mm=high, widest=widest), lens_name=name.replace(wording.NBSP, " ")
    )


def _body(side: GearWords) -> Gear | None:
    named = FORMATS.get(side.format or "")
    sensor = sensor_stated(stated_of(side))
    if sensor is None:
        return None
    size = f"{wording.significant(sensor.sensor.width_mm)} × {wording.significant(sensor.sensor.height_mm)} mm"
    return Gear(Body(sensor.sensor), named.name if named else f"{size} sensor")
