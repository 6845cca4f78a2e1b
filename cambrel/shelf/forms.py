"""The forms of the shelf: figures are typed as cameras show them, read exactly, and checked by the core."""

import re

from django import forms

from cambrel import wording
from cambrel.fields import (
    DistanceField,
    FNumberField,
    FocalLengthField,
    GramField,
    IsoField,
    MillimetreField,
    NumberField,
    PriceField,
    QuantityField,
    ShutterField,
    parse_number,
)
from cambrel.optics.quantities import DomainError
from cambrel.shelf.models import Adapter, Body, Converter, CropMode, Kit, Lens, Mount, OwnFormat, format_choices

LABELS = {
    "name": ("Name", ""),
    "system": ("System", "such as Micro Four Thirds"),
    "mount": ("Mount", "empty where the lens is fixed"),
    "width_mm": ("Width", "mm"),
    "height_mm": ("Height", "mm"),
    "pixels_wide": ("Pixels across", ""),
    "pixels_high": ("Pixels down", ""),
    "base_iso": ("Base ISO", ""),
    "ceiling_iso": ("Highest ISO", ""),
    "fastest_shutter_s": ("Fastest shutter", "s"),
    "slowest_shutter_s": ("Slowest shutter", "s"),
    "stabilisation_stops": ("Stabilisation", "stops"),
    "offset_stops": ("Ahead of its generation", "stops of light; 0 is usual"),
    "weight_g": ("Weight", "g"),
    "price": ("Price", ""),
    "currency": ("Currency", "three letters"),
    "note": ("Note", ""),
    "focal_min_mm": ("Shortest focal length", "mm"),
    "focal_max_mm": ("Longest", "mm; empty for a prime"),
    "widest": ("Widest f-number", "f/2.8, f/3.5-5.6, or f/3.5 at 15; f/4.2 at 23"),
    "smallest_f_number": ("Smallest aperture", "f/22 and so on"),
    "max_magnification": ("Largest magnification", "times, 1 is life size"),
    "close_focus_m": ("Closest distance", "m from the sensor mark"),
    "image_circle_mm": ("Image circle", "mm across, if it is known"),
    "designed_for": ("Designed for", "gives the circle where it is not known"),
    "rectilinear": ("Projection", "a fisheye is kept out of equivalents"),
    "stabilised": ("Stabilised", ""),
    "length_mm": ("Length", "mm"),
    "diameter_mm": ("Diameter", "mm"),
    "register_mm": ("Register distance", "mm from flange to sensor"),
    "accepts": ("Takes as they are", "lenses of these mounts, separated by commas"),
    "factor": ("Factor", "1.4 lengthens, 0.71 shortens"),
    "lens_mount": ("Lens side", "mount"),
    "kind": ("Kind", ""),
    "loses": ("What is lost", "autofocus, for example; empty where nobody has said"),
    "designation": ("Designation", ""),
    "use": ("Used for", ""),
}
"""Label and hint (or unit) of every field, by name."""

NUMBER = r"\d+(?:[.,]\d+)?"
AT = re.compile(rf"f?/?\s*({NUMBER})\s*(?:at|@)\s*({NUMBER})\s*(?:mm)?", re.IGNORECASE)
ENDS = re.compile(rf"(?:f/|1:)?\s*({NUMBER})(?:\s*[-–]\s*({NUMBER}))?", re.IGNORECASE)


def widest_text(points):
    """F-numbers along the range as they are read: f/2.8, or f/3.5 at 15; f/5.6 at 45."""
    if not points:
        return ""
    if len({number for _, number in points}) == 1:
        return f"f/{points[0][1]:g}"
    return "; ".join(f"f/{number:g} at {focal:g}" for focal, number in points)


def read_widest(text, focal_min, focal_max):
    """Points (focal length, f-number) from a text, or ValueError."""
    found = AT.findall(text)
    if found and not AT.sub("", text).strip(" ;,"):
        return sorted([parse_number(focal), parse_number(number)] for number, focal in found)
    ends = ENDS.fullmatch(text.strip())
    if not ends:
        raise ValueError(text)
    first, last = parse_number(ends[1]), parse_number(ends[2] or ends[1])
    if focal_min == focal_max or focal_max is None:
        return [[focal_min, first]]
    return [[focal_min, first], [focal_max, last]]


class GearForm(forms.ModelForm):
    """A record of the owner's; exact values stay where their text is untouched."""

    required_css_class = ""
    groups = ()

    def __init__(self, *args, owner=None, **options):
        super().__init__(*args, **options)
        self.owner = owner
        for name, field in self.fields.items():
            field.label, field.help_text = LABELS.get(name, (field.label, field.help_text))
            field.widget.attrs["class"] = (
                "form-select form-select-sm" if isinstance(field, forms.ChoiceField) else "form-control form-control-sm"
            )
            if isinstance(field, QuantityField):
                field.base = getattr(self.instance, name, None)
        if "name" in self.fields:
            self.fields["name"].error_messages["required"] = "Give it a name."

    def clean_name(self):
        name = " ".join(self.cleaned_data["name"].split())
        if not name.isprintable():
            raise forms.ValidationError("A name has printable characters only.")
        return name

    def grouped(self):
        """The fields as they stand on the page: heading and bound fields."""
        groups = self.groups or (("", tuple(self.fields)),)
        return [(heading, [self[name] for name in names if name in self.fields]) for heading, names in groups]

    def _post_clean(self):
        super()._post_clean()
        if self.errors or not hasattr(self.instance, "to_optics"):
            return
        try:
            self.instance.to_optics()
        except DomainError as error:
            field = error.parameter if error.parameter in self.fields else None
            self.add_error(field, f"This must be {error.wanted}.")


def unknown(field, **options):
    return field(required=False, **options)


CARRIED = ("length_mm", "diameter_mm", "weight_g", "price", "currency")


class PricedForm(GearForm):
    weight_g = unknown(GramField)
    price = unknown(PriceField)

    def clean_currency(self):
        currency = self.cleaned_data["currency"].strip().upper()
        if currency and not (len(currency) == 3 and currency.isalpha()):
            raise forms.ValidationError("A currency is three letters, such as EUR.")
        return currency

    def clean(self):
        given = super().clean()
        if given.get("price") and not given.get("currency") and "currency" not in self.errors:
            self.add_error("currency", "Say in which currency; prices are never converted.")
        return given


class BodyForm(PricedForm):
    width_mm = MillimetreField(low=0.5, high=500)
    height_mm = MillimetreField(low=0.5, high=500)
    base_iso = unknown(IsoField)
    ceiling_iso = unknown(IsoField)
    fastest_shutter_s = unknown(ShutterField)
    slowest_shutter_s = unknown(ShutterField)
    stabilisation_stops = unknown(NumberField, low=0, high=20)
    offset_stops = NumberField(low=-10, high=10)
    groups = (
        ("What it is", ("name", "system", "mount", "note")),
        ("Sensor", ("width_mm", "height_mm", "pixels_wide", "pixels_high")),
        (
            "Light",
            (
                "base_iso",
                "ceiling_iso",
                "fastest_shutter_s",
                "slowest_shutter_s",
                "stabilisation_stops",
                "offset_stops",
            ),
        ),
        ("Carried and paid", CARRIED),
    )

    class Meta:
        model = Body
        fields = (
            "name", "system", "mount", "width_mm", "height_mm", "pixels_wide", "pixels_high", "base_iso", "ceiling_iso",
            "fastest_shutter_s", "slowest_shutter_s", "stabilisation_stops", "offset_stops", "weight_g", "price", "currency", "note",
        )  # fmt: skip
        widgets = {name: forms.TextInput(attrs={"inputmode": "numeric"}) for name in ("pixels_wide", "pixels_high")}

    def clean(self):
        given = super().clean()
        wide, high = given.get("pixels_wide"), given.get("pixels_high")
        for name, pixels in (("pixels_wide", wide), ("pixels_high", high)):
            if pixels is not None and not 16 <= pixels <= 200_000:
                self.add_error(name, "From 16 to 200,000 pixels make sense.")
        return given


class LensForm(PricedForm):
    focal_min_mm = FocalLengthField()
    focal_max_mm = unknown(FocalLengthField)
    widest = forms.CharField(required=False, max_length=200)
    smallest_f_number = unknown(FNumberField)
    max_magnification = unknown(NumberField, low=0.0001, high=20)
    close_focus_m = unknown(DistanceField)
    image_circle_mm = unknown(MillimetreField, low=1, high=1000)
    designed_for = forms.ChoiceField(choices=format_choices, required=False)
    rectilinear = forms.TypedChoiceField(
        choices=[("True", "rectilinear"), ("False", "fisheye")], coerce=lambda value: value == "True", initial="True"
    )
    stabilised = forms.NullBooleanField(
        required=False, widget=forms.Select(choices=[("unknown", "not said"), ("true", "yes"), ("false", "no")])
    )
    length_mm = unknown(MillimetreField)
    diameter_mm = unknown(MillimetreField)
    groups = (
        ("What it is", ("name", "system", "mount", "note")),
        ("Range", ("focal_min_mm", "focal_max_mm", "widest", "smallest_f_number", "rectilinear")),
        ("Close", ("close_focus_m", "max_magnification")),
        ("Circle", ("image_circle_mm", "designed_for", "stabilised")),
        ("Carried and paid", CARRIED),
    )

    class Meta:
        model = Lens
        fields = (
            "name", "system", "mount", "focal_min_mm", "focal_max_mm", "widest", "smallest_f_number", "max_magnification",
            "close_focus_m", "image_circle_mm", "designed_for", "rectilinear", "stabilised", "length_mm", "diameter_mm", "weight_g",
            "price", "currency", "note",
        )  # fmt: skip

    def __init__(self, *args, **options):
        super().__init__(*args, **options)
        self.fields["stabilised"].widget.attrs["class"] = "form-select form-select-sm"
        self.fields["focal_min_mm"].error_messages["required"] = "Give the focal length; for a zoom the shortest."
        if self.instance.pk:
            self.initial["widest"] = widest_text(self.instance.widest)

    def clean(self):
        given = super().clean()
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
            self.add_error("widest", f"“{text}” is not read: write f/2.8, f/3.5-5.6, or f/3.5 at 15; f/4.5 at 24.")
            return given
        if any(not 0.5 <= number <= 256 for _, number in points):
            self.add_error("widest", "F-numbers from f/0.5, the limit in air, to f/256 make sense.")
        elif any(not low <= focal <= high for focal, _ in points):
            self.add_error(
                "widest", f"The points must lie within the range, {wording.focal(low)} to {wording.focal(high)}."
            )
        elif given.get("smallest_f_number") and points and given["smallest_f_number"] < max(n for _, n in points):
            self.add_error("smallest_f_number", "The smallest aperture has at least the f-number of the widest.")
        given["widest"] = points
        return given


class FixedLensForm(LensForm):
    """The lens of a camera that cannot change it: the same record, so no name, mount or price of its own."""

    class Meta(LensForm.Meta):
        fields = (
            "focal_min_mm", "focal_max_mm", "widest", "smallest_f_number", "close_focus_m", "max_magnification", "stabilised",
        )  # fmt: skip

    weight_g = price = image_circle_mm = designed_for = rectilinear = length_mm = diameter_mm = None
    groups = (("", Meta.fields),)


class MountForm(GearForm):
    register_mm = unknown(MillimetreField, low=0, high=500)
    accepts = forms.CharField(required=False, max_length=400)

    class Meta:
        model = Mount
        fields = ("name", "register_mm", "accepts", "note")

    def __init__(self, *args, **options):
        super().__init__(*args, **options)
        self.initial["accepts"] = ", ".join(self.instance.accepts)

    def clean_accepts(self):
        return sorted({name.strip()[:40] for name in self.cleaned_data["accepts"].split(",") if name.strip()})

    def clean_name(self):
        name = super().clean_name()
        others = Mount.objects.for_owner(self.owner).filter(name=name).exclude(pk=self.instance.pk)
        if others.exists():
            raise forms.ValidationError("There is a mount of this name already.")
        return name


class ConverterForm(PricedForm):
    factor = NumberField(low=0.2, high=5)

    class Meta:
        model = Converter
        fields = ("name", "mount", "factor", "weight_g", "price", "currency", "note")


class AdapterForm(PricedForm):
    class Meta:
        model = Adapter
        fields = ("name", "lens_mount", "mount", "kind", "loses", "weight_g", "price", "currency", "note")


class KitForm(GearForm):
    class Meta:
        model = Kit
        fields = ("name", "note")


class OwnFormatForm(GearForm):
    width_mm = MillimetreField(low=0.5, high=500)
    height_mm = MillimetreField(low=0.5, high=500)

    class Meta:
        model = OwnFormat
        fields = ("name", "designation", "width_mm", "height_mm")


class CropModeForm(GearForm):
    width_mm = MillimetreField(low=0.5, high=500)
    height_mm = MillimetreField(low=0.5, high=500)

    class Meta:
        model = CropMode
        fields = ("name", "use", "width_mm", "height_mm", "pixels_wide", "pixels_high")
        widgets = {name: forms.TextInput(attrs={"inputmode": "numeric"}) for name in ("pixels_wide", "pixels_high")}
