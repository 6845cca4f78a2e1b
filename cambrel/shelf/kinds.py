"""The kinds of record on a shelf: their forms, the columns of their lists, and what they are filtered and sorted by."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import F, Q, QuerySet
from django.urls import reverse

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.ranges import equivalent_range
from cambrel.conventions.home import in_terms
from cambrel.optics.formats import FORMATS, Format, Sensor, crop_factor, largest_covered_format
from cambrel.owners.models import Owned, User
from cambrel.shelf import forms
from cambrel.shelf.models import (
    HELD,
    Adapter,
    Bag,
    Body,
    CloseUpAid,
    Converter,
    Kit,
    Lens,
    LetterCode,
    Mount,
    OwnFormat,
    Priced,
    Support,
)
from cambrel.shelf.table import MONEY, SYSTEM, TABLE, GearField

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


@dataclass(frozen=True)
class ShelfKind:
    key: str
    one: str
    model: type[Owned]
    form: type
    columns: tuple[Column, ...]
    searched: tuple[str, ...] = ("name",)
    narrowed: dict[str, str] | None = None
    """Fields that a list can be narrowed by, with their labels."""
    says: str = ""
    """What it is for, on an empty list."""
    section: str = ""
    """The key of its section in the document, where that is another."""

    @property
    def a_new(self) -> str:
        return wording.articled(f"a {self.one}")

    @property
    def goes_on_bench(self) -> bool:
        return self.model in (Body, Lens, OwnFormat)

    @property
    def section_key(self) -> str:
        return self.section or self.key

    @property
    def many(self) -> str:
        return str(self.model._meta.verbose_name_plural)

    def address(self) -> str:
        return reverse("shelf:list", args=[self.key])

    def records(self, owner: User) -> QuerySet[Any]:
        """The owner's records of this kind; a lens that is part of a camera belongs to the camera."""
        shown_records: QuerySet[Any] = self.model.objects.for_owner(owner)
        if self.model is Lens:
            shown_records = shown_records.filter(fixed_to=None)
        if self.model is Kit:
            shown_records = shown_records.prefetch_related(*HELD.values())
        return shown_records.prefetch_related("fixed_lenses") if self.model is Body else shown_records

    def found(self, owner: User, query: str, narrowed: Mapping[str, str], sort: str) -> QuerySet[Any]:
        """Records that hold every word of a search and stand in the narrowed fields, sorted; unknown values come
        last.
        """
        records = self.records(owner)
        for word in query.split():
            hit = Q()
            for field in self.searched:
                hit |= Q(**{f"{field}__icontains": word})
            records = records.filter(hit)
        for field, value in narrowed.items():
            records = records.filter(**{field: value})
        column = next((c for c in self.columns if c.sort and c.key == sort.removeprefix("-")), None)
        if column is None:
            return records
        by = F(column.sort)
        return records.order_by(by.desc(nulls_last=True) if sort.startswith("-") else by.asc(nulls_last=True), "pk")


def _of_field(field: GearField) -> Column:
    """The column of a field as the table of gear has it."""

    def text(record: Owned, conventions: Conventions) -> str:
        value = getattr(record, field.key)
        return UNKNOWN if value is None or (value == "" and field.sort is not SYSTEM.sort) else field.sort.shown(value)

    return Column(field.key, field.in_list, _money if field.sort is MONEY else text, field.key)


def _money(record: Priced, conventions: Conventions) -> str:
    return UNKNOWN if record.price is None else wording.money(record.price, record.currency)


def _sensor_size(body: Body, conventions: Conventions) -> str:
    size = f"{wording.significant(body.width_mm)} × {wording.significant(body.height_mm)}{wording.NBSP}mm"
    return size + (" (inferred)" if "width_mm" in body.inferred else "")


def _crop(record: Body | OwnFormat, conventions: Conventions) -> str:
    return wording.significant(crop_factor(record.sensor(), by=conventions.crop_by))


def _megapixels(body: Body, conventions: Conventions) -> str:
    return wording.megapixels(body.sensor().pixels)


def _iso_range(body: Body, conventions: Conventions) -> str:
    ends = [UNKNOWN if iso is None else wording.iso_text(iso) for iso in (body.base_iso, body.ceiling_iso)]
    return UNKNOWN if ends == [UNKNOWN] * 2 else f"{ends[0]}{wording.DASH}{ends[1]}"


def _fixed(body: Body) -> Lens | None:
    return next(iter(body.fixed_lenses.all()), None)


def _body_equivalents(body: Body, conventions: Conventions) -> str:
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


def _lens_equivalents(lens: Lens, conventions: Conventions) -> str:
    format_ = lens_format(lens)
    return UNKNOWN if format_ is None else equivalents(lens.to_optics(), format_, conventions)


def _focal(lens: Lens, conventions: Conventions) -> str:
    return wording.focal_range(lens.focal_min_mm, lens.focal_max_mm)


def _widest(lens: Lens, conventions: Conventions) -> str:
    if not lens.widest:
        return UNKNOWN
    return wording.f_number_range(lens.widest[0][1], lens.widest[-1][1])


def _circle(lens: Lens, conventions: Conventions) -> str:
    if lens.circle_mm is None:
        return UNKNOWN
    return wording.focal(lens.circle_mm) + (" (by format)" if lens.circle_is_assumed else "")


def _close(lens: Lens, conventions: Conventions) -> str:
    if lens.max_magnification is not None:
        return f"{lens.max_magnification:.2g} ×"
    return UNKNOWN if lens.close_focus_m is None else wording.distance(lens.close_focus_m)


def _magnified(lens: Lens, conventions: Conventions) -> str:
    """The largest magnification in the home format's terms, and what of it 100 g of the lens give."""
    format_ = lens_format(lens)
    if lens.max_magnification is None or format_ is None:
        return UNKNOWN
    home = FORMATS[conventions.home]
    there = float(lens.max_magnification) * crop_factor(format_, home, conventions.crop_by)
    if not lens.weight_g:
        return f"{there:.2g} ×"
    return f"{there:.2g} ×, {there / lens.weight_g * 100:.2g} × per 100{wording.NBSP}g"


def _members(kit: Kit, conventions: Conventions) -> str:
    held = [member for field in HELD.values() for member in getattr(kit, field).all()]
    return ", ".join(map(str, held)) or "empty"


def _stands_for(code: LetterCode, conventions: Conventions) -> str:
    return FORMATS[code.stands_for].name if code.stands_for in FORMATS else f"{code.mount} mount"


SEARCHED = ("name", "system", "mount", "note")


def listed(section: str, *columns: str | Column) -> tuple[Column, ...]:
    """The columns of a list: those of the table by their keys, and such as are worked out."""
    own = {gear_field.key: gear_field for gear_field in TABLE[section]}
    return tuple(_of_field(own[column]) if isinstance(column, str) else column for column in columns)


def narrowing(section: str) -> dict[str, str]:
    return {gear_field.key: gear_field.label for gear_field in TABLE[section] if gear_field.narrows}


KINDS = {
    kind.key: kind
    for kind in (
        ShelfKind(
            "bodies",
            "body",
            Body,
            forms.BodyForm,
            listed(
                "bodies",
                "name",
                "system",
                "mount",
                Column("sensor", "Sensor", _sensor_size, "width_mm"),
                Column("crop", "Crop", _crop),
                Column("pixels", "Pixels", _megapixels, "pixels_wide"),
                Column("iso", "ISO", _iso_range, "ceiling_iso"),
                Column("equivalent", "Its lens as {home}", _body_equivalents),
                "weight_g",
                "price",
            ),
            SEARCHED,
            narrowing("bodies"),
            "Cameras, phones among them. One with a fixed lens is one record.",
        ),
        ShelfKind(
            "lenses",
            "lens",
            Lens,
            forms.LensForm,
            listed(
                "lenses",
                "name",
                "mount",
                Column("focal", "Focal length", _focal, "focal_min_mm"),
                Column("widest", "Widest", _widest),
                Column("equivalent", "As {home}", _lens_equivalents),
                Column("close", "Closest", _close, "close_focus_m"),
                Column("magnified", "Closest as {home}", _magnified, "max_magnification"),
                Column("circle", "Image circle", _circle, "image_circle_mm"),
                "weight_g",
                "price",
            ),
            SEARCHED,
            narrowing("lenses"),
            "A lens is compared by its equivalents: its weight is never shown without them.",
        ),
        ShelfKind(
            "mounts",
            "mount",
            Mount,
            forms.MountForm,
            listed(
                "mounts",
                "name",
                "register_mm",
                Column("accepts", "Takes lenses of", lambda mount, _: ", ".join(mount.accepts) or "its own only"),
            ),
            ("name", "note"),
            None,
            "The register distance decides which lenses can be adapted to which bodies.",
        ),
        ShelfKind(
            "converters",
            "converter",
            Converter,
            forms.ConverterForm,
            listed("converters", "name", "mount", "factor", "weight_g", "price"),
            ("name", "mount", "note"),
            {"mount": "Mount"},
            "Teleconverters and reducers: they multiply focal length and f-number alike.",
        ),
        ShelfKind(
            "adapters",
            "adapter",
            Adapter,
            forms.AdapterForm,
            listed(
                "adapters",
                "name",
                "lens_mount",
                "mount",
                "kind",
                Column("loses", "What is lost", lambda adapter, _: adapter.loses or "not said"),
                "weight_g",
                "price",
            ),
            ("name", "mount", "lens_mount", "note"),
            narrowing("adapters"),
            "From one mount to another. What is lost is said here, not guessed.",
        ),
        ShelfKind(
            "supports",
            "support",
            Support,
            forms.SupportForm,
            listed("supports", "name", "kind", "payload_g", "weight_g", "price"),
            ("name", "note"),
            narrowing("supports"),
            "Tripods, monopods, gimbals and star trackers: they count in a kit where a picture needs them.",
        ),
        ShelfKind(
            "close-up-aids",
            "close-up aid",
            CloseUpAid,
            forms.CloseUpAidForm,
            listed("close_up_aids", "name", "kind", "mount", "length_mm", "dioptres", "weight_g", "price"),
            ("name", "mount", "note"),
            narrowing("close_up_aids"),
            "Tubes and close-up lenses: the Close-up panel names those that would give what a lens lacks.",
            section="close_up_aids",
        ),
        ShelfKind(
            "bags",
            "bag",
            Bag,
            forms.BagForm,
            listed("bags", "name", "inner_width_mm", "inner_height_mm", "inner_depth_mm", "weight_g", "price"),
            ("name", "note"),
            None,
            "What gear is carried in, by its inner sides: the page of a kit says whether it holds all.",
        ),
        ShelfKind(
            "kits",
            "kit",
            Kit,
            forms.KitForm,
            listed("kits", "name", Column("members", "In the bag", _members)),
            ("name", "note"),
            None,
            "Bodies, lenses, adapters and supports carried together, seen as one table of equivalents.",
        ),
        ShelfKind(
            "own-formats",
            "own format",
            OwnFormat,
            forms.OwnFormatForm,
            listed(
                "formats",
                "name",
                "designation",
                Column(
                    "size",
                    "Size",
                    lambda f, _: f"{f.width_mm:g} × {f.height_mm:g}{wording.NBSP}mm",
                    "width_mm",
                ),
                Column("crop", "Crop", _crop),
            ),
            ("name", "designation"),
            None,
            "Sensor sizes of your own. They join the others on the Formats page, on the Bench and in Match.",
            section="formats",
        ),
        ShelfKind(
            "codes",
            "letter code",
            LetterCode,
            forms.LetterCodeForm,
            listed("codes", "name", Column("stands_for", "Stands for", _stands_for)),
            ("name", "mount"),
            None,
            "What letters in the names of your lenses stand for: a sensor size or a mount. Names and adverts are read"
            " by them.",
        ),
    )
}
