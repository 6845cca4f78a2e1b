"""The forms of the shelf: figures are typed as cameras show them, read exactly, and checked by the core."""

from dataclasses import replace
from math import inf, isfinite
from typing import Any

from django import forms

from cambrel import wording
from cambrel.bounds import names
from cambrel.bounds.limits import is_outside
from cambrel.inputs.fields import offer
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.optics.sharpness import lens_own_mtf50_per_mm
from cambrel.phrases.stated import ALIKE, StatedSensor, sensor_stated
from cambrel.shelf.codes import codes_of
from cambrel.shelf.models import (
    Adapter,
    Bag,
    Body,
    CloseUpAid,
    Converter,
    CropMode,
    Kit,
    Lens,
    LetterCode,
    Mount,
    OwnFormat,
    Support,
)
from cambrel.shelf.mounts import Spellings
from cambrel.shelf.naming import figures_of_name
from cambrel.shelf.record_form import GearForm, meta_of
from cambrel.shelf.resolution import POINTS
from cambrel.shelf.sorts import format_choices
from cambrel.shelf.table import (
    ADAPTERS,
    BAGS,
    BODIES,
    BY_KEY,
    CLOSE_UP_AIDS,
    CODES,
    CONVERTERS,
    CROP_MODES,
    FORMATS_OF_OWN,
    KITS,
    LENSES,
    MOUNTS,
    SUPPORTS,
    GearField,
)
from cambrel.shelf.widest import read_widest, widest_text


class PricedForm(GearForm):
    def clean_currency(self) -> str:
        currency: str = self.cleaned_data["currency"].strip().upper()
        if currency and not (len(currency) == 3 and currency.isalpha()):
            raise forms.ValidationError("A currency is three letters, such as EUR.")
        return currency

    def clean(self) -> dict[str, Any]:
        given = super().clean() or {}
        self._currency(given)
        if given.get("price") and not given.get("currency") and "currency" not in self.errors:
            self.add_error("currency", "Type the currency too, such as EUR. Prices are never converted.")
        return given

    def _currency(self, given: dict[str, Any]) -> None:
        """The currency that was typed beside the price."""
        beside = self.fields["price"].currency if "price" in self.fields else ""  # type: ignore[attr-defined]
        if not beside or "currency" in self.errors:
            return
        if given.get("currency") not in ("", None, beside):
            self.add_error("currency", f"The price is typed in {beside}. Keep one of the two.")
        given["currency"] = beside


class BodyForm(PricedForm):
    table: tuple[GearField, ...] = BODIES
    needed = frozenset(("name", "format"))
    Meta = meta_of(Body, table, {"width_mm", "height_mm"})

    def __init__(self, *args: object, **options: Any) -> None:
        super().__init__(*args, **options)
        own = OwnFormat.objects.for_owner(self.owner) if self.owner else ()
        self.own_formats = {f"own-{own_format.pk}": own_format for own_format in own}
        offer(self, "format", [*format_choices(), *((key, frame.name) for key, frame in self.own_formats.items())])

    def clean(self) -> dict[str, Any]:
        given = super().clean() or {}
        self._size(given)
        wide, high = given.get("pixels_wide"), given.get("pixels_high")
        if (
            given.get("megapixels")
            and wide is None
            and high is None
            and given.get("width_mm")
            and given.get("height_mm")
        ):
            stated = StatedSensor(given["width_mm"], given["height_mm"], megapixels=given["megapixels"])
            read: Any = sensor_stated(stated)
            sensor = read.sensor
            wide, high = given["pixels_wide"], given["pixels_high"] = (
                round(sensor.pixels_wide),
                round(sensor.pixels_high),
            )
            self.worked_out |= {"pixels_wide", "pixels_high"}
        for name, pixels in (("pixels_wide", wide), ("pixels_high", high)):
            if pixels is not None and not 16 <= pixels <= 200_000:
                self.add_error(name, "Type from 16 to 200,000 pixels.")
        return given

    def _size(self, given: Any) -> None:
        """Width and height: as typed, else the format's."""
        named = self.own_formats.get(given.get("format")) or FORMATS.get(given.get("format"))
        sides = [given.get("width_mm"), given.get("height_mm")]
        if named is not None and (None in sides or not {"width_mm", "height_mm"} & set(self.changed_data)):
            given["width_mm"], given["height_mm"] = named.width_mm, named.height_mm
            self.worked_out |= {"width_mm", "height_mm"}
        elif named is not None:
            if abs(Sensor(*sides).diagonal_mm / Sensor(named.width_mm, named.height_mm).diagonal_mm - 1) > ALIKE:
                self.add_error("format", "This format has another size than the one beside it. Keep one of the two.")
        elif sides == [None, None] and not {"width_mm", "height_mm"} & set(self.errors):
            self.add_error("width_mm", "Choose the format, or give width and height.")
        else:
            for name in ("width_mm", "height_mm"):
                if given.get(name) is None and name not in self.errors:
                    self.add_error(name, "Give both sides of the sensor.")


LIMITED_AS = {
    "mtf50": ("f_number", "mtf50"), "mtf50_away": ("image_circle_mm", "f_number", "mtf50"),
    "fall_off": ("image_circle_mm", "stabilisation_stops"),
}  # fmt: skip
"""By which limits the numbers of a point are judged."""


class LensForm(PricedForm):
    table: tuple[GearField, ...] = LENSES
    Meta = meta_of(Lens, table, {"focal_min_mm", "focal_max_mm"})

    def __init__(self, *args: object, **options: Any) -> None:
        super().__init__(*args, **options)
        self.initial["widest"] = widest_text(self.instance.widest)
        for name, how in POINTS.items():
            self.initial[name] = how.write(getattr(self.instance, name))

    def _points(self, name: str) -> list[list[float]]:
        """Points typed as a text; exactly as they were where the text is."""
        how = POINTS[name]
        text = self.cleaned_data[name] or ""
        if text == self.initial[name]:
            kept: list[list[float]] = getattr(self.instance, name)
            return kept
        try:
            points = how.read(text)
        except ValueError:
            raise forms.ValidationError(f"“{text}” cannot be read. Type it as {how.example}.") from None
        for point in points:
            if any(is_outside(limit, value) for limit, value in zip(LIMITED_AS[name], point, strict=True)):
                raise forms.ValidationError("A figure in this is out of range.")
        return points

    def clean_mtf50(self) -> list[list[float]]:
        return self._points("mtf50")

    def clean_mtf50_away(self) -> list[list[float]]:
        return self._points("mtf50_away")

    def clean_fall_off(self) -> list[list[float]]:
        return self._points("fall_off")

    def _of_the_lens_alone(self, given: dict[str, Any]) -> None:
        """What was measured from pictures holds their pixels and diffraction; the lens's own part is what is kept."""
        pitch = given.get("mtf50_pitch_um")
        if pitch is None or {"mtf50", "mtf50_away"} & set(self.errors):
            return
        for name in ("mtf50", "mtf50_away"):
            alone = []
            for *places, number, measured in given[name]:
                try:
                    own = float(lens_own_mtf50_per_mm(measured, number, pitch))
                except DomainError:
                    own = inf
                if not isfinite(own):
                    said = (
                        f"Pixels and diffraction allow no more than {measured:g} at f/{number:g}, so the lens was not "
                        f"the limit there."
                    )
                    self.add_error(name, said)
                    return
                alone.append([*places, number, own])
            given[name] = alone

    def clean(self) -> dict[str, Any]:
        given = super().clean() or {}
        self._by_name(given)
        self._of_the_lens_alone(given)
        short, long = given.get("length_mm"), given.get("longest_mm")
        if short and long and long < short:
            self.add_error("longest_mm", "At its longest it is at least as long as at its shortest.")
        low = given.get("focal_min_mm")
        if low is not None and given.get("focal_max_mm") is None and "focal_max_mm" not in self.errors:
            given["focal_max_mm"] = low
        high, text = given.get("focal_max_mm"), given.get("widest", "")
        if low and high and low > high:
            self.add_error("focal_max_mm", "The longest focal length is at least the shortest.")
            return given
        if low is None or high is None or "widest" in self.errors:
            return given
        try:
            points = self.instance.widest if text == widest_text(self.instance.widest) and self.instance.pk else None
            if points is None or (points and not low <= points[0][0] <= points[-1][0] <= high):
                points = read_widest(text, low, high) if text.strip() else []
        except ValueError:
            self.add_error("widest", f"“{text}” cannot be read. Type f/2.8, f/3.5-5.6, or f/3.5 at 15; f/4.5 at 24.")
            return given
        if any(not 0.5 <= number <= 256 for _, number in points):
            self.add_error("widest", "Type an f-number from f/0.5, the limit in air, to f/256.")
        elif any(not low <= focal <= high for focal, _ in points):
            self.add_error(
                "widest", f"The points must lie within the range, {wording.focal(low)} to {wording.focal(high)}."
            )
        elif given.get("smallest_f_number") and points and given["smallest_f_number"] < max(n for _, n in points):
            self.add_error("smallest_f_number", "The smallest aperture has at least the f-number of the widest.")
        given["widest"] = points
        return given

    def _by_name(self, given: dict[str, Any]) -> None:
        """Focal lengths, and the f-numbers that go with them, from the name where no field says them."""
        if given.get("focal_min_mm") is not None or "focal_min_mm" in self.errors:
            return
        said = figures_of_name(given.get("name") or "", codes_of(self.owner))
        if not said:
            self.add_error("focal_min_mm", "Give the focal length, for a zoom the shortest. Or a name that says it.")
            return
        given["focal_min_mm"], given["focal_max_mm"] = said["focal_min_mm"], said["focal_max_mm"]
        self.worked_out |= {"focal_min_mm", "focal_max_mm"}
        for name in ("designed_for", "mount"):
            if said.get(name) and name in given and not given[name]:
                given[name] = said[name]
                self.worked_out.add(name)
        if said.get("widest") and not given.get("widest"):
            given["widest"] = widest_text(said["widest"])
            self.worked_out.add("widest")


FIXED = (
    "focal_min_mm",
    "focal_max_mm",
    "widest",
    "smallest_f_number",
    "close_focus_m",
    "max_magnification",
    "stabilised",
)


class FixedLensForm(LensForm):
    """The lens of a camera that cannot change it: the same record, so no name, mount or price of its own."""

    table: tuple[GearField, ...] = tuple(replace(BY_KEY[key], group="") for key in FIXED)
    Meta = meta_of(Lens, table, {"focal_min_mm", "focal_max_mm"})


class MountForm(GearForm):
    table: tuple[GearField, ...] = MOUNTS
    Meta = meta_of(Mount, table)

    def __init__(self, *args: object, **options: Any) -> None:
        super().__init__(*args, **options)
        self.initial["accepts"] = ", ".join(self.instance.accepts)

    def clean_accepts(self) -> list[str]:
        messages = set()
        for text in filter(str.strip, self.cleaned_data["accepts"].split(",")):
            try:
                messages.add(names.clean(text, 40))
            except ValueError as error:
                raise forms.ValidationError(f"“{text.strip()[:20]}…”: {error}") from None
        spellings = Spellings(self.owner)
        return sorted({spellings.of(name) for name in messages})

    def clean_name(self) -> str:
        name = super().clean_name()
        others = Mount.objects.for_owner(self.owner).filter(name__iexact=name).exclude(pk=self.instance.pk)
        if others.exists():
            raise forms.ValidationError("A mount of this name is there already. Choose another name.")
        return name


class ConverterForm(PricedForm):
    table: tuple[GearField, ...] = CONVERTERS
    Meta = meta_of(Converter, table)


class AdapterForm(PricedForm):
    table: tuple[GearField, ...] = ADAPTERS
    Meta = meta_of(Adapter, table)


class SupportForm(PricedForm):
    table: tuple[GearField, ...] = SUPPORTS
    Meta = meta_of(Support, table)


class CloseUpAidForm(PricedForm):
    table: tuple[GearField, ...] = CLOSE_UP_AIDS
    Meta = meta_of(CloseUpAid, table)

    def clean(self) -> dict[str, Any]:
        given = super().clean() or {}
        needs = "length_mm" if given.get("kind") == CloseUpAid.TUBE else "dioptres"
        if given.get(needs) is None and needs not in self.errors:
            self.add_error(needs, "Say how long the tube is." if needs == "length_mm" else "Say how strong it is.")
        return given


class BagForm(PricedForm):
    table: tuple[GearField, ...] = BAGS
    Meta = meta_of(Bag, table)


class KitForm(GearForm):
    table: tuple[GearField, ...] = KITS
    Meta = meta_of(Kit, table)


class OwnFormatForm(GearForm):
    table: tuple[GearField, ...] = FORMATS_OF_OWN
    Meta = meta_of(OwnFormat, table)


class CropModeForm(GearForm):
    table: tuple[GearField, ...] = CROP_MODES
    needed = frozenset()  # a row that is left empty is none
    Meta = meta_of(CropMode, table)


class LetterCodeForm(GearForm):
    table: tuple[GearField, ...] = CODES
    Meta = meta_of(LetterCode, table)

    def clean_name(self) -> str:
        name = super().clean_name()
        if not (name.isalpha() and len(name) <= 8):
            raise forms.ValidationError("A code is one to eight letters, as they stand in the name of a lens.")
        return name

    def clean(self) -> dict[str, Any]:
        given = super().clean() or {}
        if bool(given.get("stands_for")) == bool(given.get("mount")):
            self.add_error("stands_for", "Say what the letters stand for: a format or a mount, one of the two.")
        return given
