"""The columns of a shelf's lists: what stands in each of a record, by the conventions in force."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.ranges import equivalent_range
from cambrel.conventions.home import in_terms
from cambrel.optics.formats import FORMATS, Format, Sensor, crop_factor, largest_covered_format
from cambrel.owners.models import Owned
from cambrel.shelf.gear_records import Priced
from cambrel.shelf.models import (
    HELD,
    Body,
    Kit,
    Lens,
    LetterCode,
    OwnFormat,
)
from cambrel.shelf.sorts import MONEY
from cambrel.shelf.table import SYSTEM, TABLE, GearField

UNKNOWN = "unknown"


@dataclass(frozen=True)
class Column:
    """A column of a list. text: from a record and the conventions in force; sort: the field it is sorted by, if it can
    be.
    """

    key: str
    label: str
    text: Callable[..., str]
    sort: str = ""


def _of_field(field: GearField) -> Column:
    """The column of a field as the table of gear has it."""

    def text(record: Owned, conventions: Conventions) -> str:
        value = getattr(record, field.key)
        return UNKNOWN if value is None or (value == "" and field.sort is not SYSTEM.sort) else field.sort.shown(value)

    return Column(field.key, field.in_list, _money if field.sort is MONEY else text, field.key)


def _money(record: Priced, conventions: Conventions) -> str:
    return UNKNOWN if record.price is None else wording.money(record.price, record.currency)


def sensor_size(body: Body, conventions: Conventions) -> str:
    size = f"{wording.significant(body.width_mm)} × {wording.significant(body.height_mm)}{wording.NBSP}mm"
    return size + (" (inferred)" if "width_mm" in body.inferred else "")


def crop(record: Body | OwnFormat, conventions: Conventions) -> str:
    return wording.significant(crop_factor(record.sensor(), by=conventions.crop_by))


def megapixels(body: Body, conventions: Conventions) -> str:
    return wording.megapixels(body.sensor().pixels)


def iso_range(body: Body, conventions: Conventions) -> str:
    ends = [UNKNOWN if iso is None else wording.iso_text(iso) for iso in (body.base_iso, body.ceiling_iso)]
    return UNKNOWN if ends == [UNKNOWN] * 2 else f"{ends[0]}{wording.DASH}{ends[1]}"


def _fixed(body: Body) -> Lens | None:
    return next(iter(body.fixed_lenses.all()), None)


def body_equivalents(body: Body, conventions: Conventions) -> str:
    fixed = _fixed(body)
    return "" if fixed is None else equivalents(fixed.to_optics(), body.sensor(), conventions)


def equivalents(lens: OpticsLens, sensor: Sensor, conventions: Conventions) -> str:
    """A lens on a sensor in the reader's terms: 24–80 mm f/5.6."""
    if not lens.rectilinear:
        return "fisheye: no equivalent"
    equivalent = equivalent_range(lens, sensor, by=conventions.crop_by)
    if equivalent.equivalent_min_mm is None or equivalent.equivalent_max_mm is None:
        return UNKNOWN
    low, high, ends = (
        equivalent.equivalent_min_mm,
        equivalent.equivalent_max_mm,
        (equivalent.f_number_short, equivalent.f_number_long),
    )

    def write(crop: float) -> str:
        focal = wording.focal_range(low / crop, high / crop)
        if ends[0] is None or ends[1] is None:
            return f"{focal}, f-number unknown"
        return f"{focal} {wording.f_number_range(ends[0] / crop, ends[1] / crop)}"

    return in_terms(conventions, write)


def lens_format(lens: Lens) -> Format | None:
    """The format by which a lens is judged on its own: the one it is designed for, else the largest that its circle
    covers.
    """
    if lens.designed_for in FORMATS:
        return FORMATS[lens.designed_for]
    return None if lens.image_circle_mm is None else largest_covered_format(lens.image_circle_mm)


def lens_equivalents(lens: Lens, conventions: Conventions) -> str:
    format_ = lens_format(lens)
    return UNKNOWN if format_ is None else equivalents(lens.to_optics(), format_, conventions)


def focal(lens: Lens, conventions: Conventions) -> str:
    return wording.focal_range(lens.focal_min_mm, lens.focal_max_mm)


def widest(lens: Lens, conventions: Conventions) -> str:
    if not lens.widest:
        return UNKNOWN
    return wording.f_number_range(lens.widest[0][1], lens.widest[-1][1])


def circle(lens: Lens, conventions: Conventions) -> str:
    if lens.circle_mm is None:
        return UNKNOWN
    return wording.focal(lens.circle_mm) + (" (by format)" if lens.circle_is_assumed else "")


def close(lens: Lens, conventions: Conventions) -> str:
    if lens.max_magnification is not None:
        return f"{lens.max_magnification:.2g} ×"
    return UNKNOWN if lens.close_focus_m is None else wording.distance(lens.close_focus_m)


def magnified(lens: Lens, conventions: Conventions) -> str:
    """The largest magnification in the home format's terms, and what of it 100 g of the lens give."""
    format_ = lens_format(lens)
    if lens.max_magnification is None or format_ is None:
        return UNKNOWN
    home = FORMATS[conventions.home]
    there = float(lens.max_magnification) * crop_factor(format_, home, conventions.crop_by)
    if not lens.weight_g:
        return f"{there:.2g} ×"
    return f"{there:.2g} ×, {there / lens.weight_g * 100:.2g} ×"


def members(kit: Kit, conventions: Conventions) -> str:
    held = [member for field in HELD.values() for member in getattr(kit, field).all()]
    return ", ".join(map(str, held)) or "empty"


def stands_for(code: LetterCode, conventions: Conventions) -> str:
    return FORMATS[code.stands_for].name if code.stands_for in FORMATS else f"{code.mount} mount"


def listed(section: str, *columns: str | Column) -> tuple[Column, ...]:
    """The columns of a list: those of the table by their keys, and such as are worked out."""
    own = {gear_field.key: gear_field for gear_field in TABLE[section]}
    return tuple(_of_field(own[column]) if isinstance(column, str) else column for column in columns)
