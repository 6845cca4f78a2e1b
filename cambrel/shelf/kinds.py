"""The kinds of record on a shelf: their forms, the columns of their lists, and what they are filtered and sorted by."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import F, Q, QuerySet
from django.urls import reverse

from cambrel import wording
from cambrel.owners.models import Owned, User
from cambrel.shelf import columns, forms
from cambrel.shelf.columns import Column, listed
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
    Support,
)
from cambrel.shelf.table import TABLE


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


SEARCHED = ("name", "system", "mount", "note")


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
                Column("sensor", "Sensor", columns.sensor_size, "width_mm"),
                Column("crop", "Crop", columns.crop),
                Column("pixels", "Pixels", columns.megapixels, "pixels_wide"),
                Column("iso", "ISO", columns.iso_range, "ceiling_iso"),
                Column("equivalent", "Its lens as {home}", columns.body_equivalents),
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
                Column("focal", "Focal length", columns.focal, "focal_min_mm"),
                Column("widest", "Widest", columns.widest),
                Column("equivalent", "As {home}", columns.lens_equivalents),
                Column("close", "Closest", columns.close, "close_focus_m"),
                Column("magnified", "Closest as {home}, per 100 g", columns.magnified, "max_magnification"),
                "weight_g",
                "price",
                Column("circle", "Image circle", columns.circle, "image_circle_mm"),
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
            listed("kits", "name", Column("members", "In the bag", columns.members)),
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
                Column("crop", "Crop", columns.crop),
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
            listed("codes", "name", Column("stands_for", "Stands for", columns.stands_for)),
            ("name", "mount"),
            None,
            "What letters in the names of your lenses stand for: a sensor size or a mount. Names and adverts are read"
            " by them.",
        ),
    )
}
