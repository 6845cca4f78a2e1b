"""The forms of the bench. Field names are the core's parameter names; each form reads a record of the core, on the base of another."""

from django import forms

from cambrel.bench.samples import sensor_of
from cambrel.fields import (
    ChoiceField,
    DistanceField,
    EvField,
    FNumberField,
    FocalLengthField,
    IsoField,
    NumberField,
    QuantityField,
    ShutterField,
    TypedChoiceField,
)
from cambrel.links import Gear
from cambrel.optics.brief import (
    APERTURE_HOLDS,
    EXPOSURE_HOLDS,
    LENS_HOLDS,
    NOISE_SCHOOLS,
    PLACE_HOLDS,
    SHAPES,
)
from cambrel.optics.comparison import Body, Lens
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.formats import CROP_MEASURES, FORMATS, Sensor


def choices(table):
    return [(key, entry.label) for key, entry in table.items()]


class RecordForm(forms.Form):
    """Reads changes to a record: what is not sent, or sent as it was shown, keeps its exact value."""

    required_css_class = ""

    def __init__(self, sent, base, prefix, units):
        self.base = base
        super().__init__(data={}, prefix=prefix)
        data = {}
        for name, field in self.fields.items():
            value = getattr(base, name)
            if isinstance(field, QuantityField):
                field.base, field.units = value, units
                shown = field.show(value)
            else:
                shown = str(int(value)) if isinstance(value, bool) else value
            key = self.add_prefix(name)
            data[key] = sent.get(key, shown)
        self.data = data

    def values(self):
        return {name: self.cleaned_data[name] for name in self.fields}

    def messages(self):
        """First message by full field name."""
        return {self.add_prefix(name): messages[0] for name, messages in self.errors.items() if name in self.fields}


def yes_or_no(no, yes):
    return TypedChoiceField(choices=[("0", no), ("1", yes)], coerce=lambda value: value == "1")


class BriefForm(RecordForm):
    distance_m = DistanceField()
    subject_height_m = DistanceField(limits="subject_height_m")
    background_m = DistanceField(limits="background_m", required=False, may_be_infinite=True)
    foreground_m = DistanceField(limits="foreground_m", required=False)
    focus_distance_m = DistanceField(required=False, may_be_infinite=True)
    distance_from = ChoiceField(choices=[("lens", "the lens"), ("sensor", "the sensor mark")])
    light_ev = EvField()
    upright = yes_or_no("landscape", "portrait")
    shape = ChoiceField(choices=choices(SHAPES))
    shown_long_side_mm = NumberField(limits="shown_long_side_mm")
    viewing_distance_mm = NumberField(limits="viewing_distance_mm")
    sharp_front_m = DistanceField(limits="sharp_front_m", required=False)
    sharp_behind_m = DistanceField(limits="sharp_behind_m", required=False, may_be_infinite=True)
    width_shown_m = DistanceField(limits="width_shown_m", required=False)
    slowest_shutter_s = ShutterField(required=False)
    subject_speed_m_per_s = NumberField(limits="subject_speed_m_per_s")


class HoldForm(RecordForm):
    lens = ChoiceField(choices=choices(LENS_HOLDS))
    place = ChoiceField(choices=choices(PLACE_HOLDS))
    aperture = ChoiceField(choices=choices(APERTURE_HOLDS))
    exposure = ChoiceField(choices=choices(EXPOSURE_HOLDS))


class ConventionsForm(RecordForm):
    crop_by = ChoiceField(choices=choices(CROP_MEASURES))
    criterion = ChoiceField(choices=choices(CIRCLE_OF_CONFUSION_SCHOOLS))
    noise = ChoiceField(choices=choices(NOISE_SCHOOLS))
    lines_per_mm = NumberField(limits="lines_per_mm")
    iso_ceiling = IsoField()


class RigForm(RecordForm):
    focal_length_mm = FocalLengthField()
    f_number = FNumberField()
    shutter_s = ShutterField()
    iso = IsoField()
    distance_m = DistanceField(required=False)
    converter = NumberField(limits="converter")


class OwnBodyForm(forms.Form):
    """A body by its own figures: a named format, or a width and height."""

    format = ChoiceField(
        choices=[("", "own width and height"), *((f.slug, f"{f.name} ({f.designation})") for f in FORMATS.values())],
        required=False,
    )
    width_mm = NumberField(limits="width_mm", required=False)
    height_mm = NumberField(limits="height_mm", required=False)
    pixels_wide = NumberField(limits="pixels_wide", required=False)

    def clean(self):
        given = super().clean()
        if not given.get("format"):
            for name in ("width_mm", "height_mm"):
                if given.get(name) is None and name not in self.errors:
                    self.add_error(name, "Give the sensor's size, or choose a format.")
        return given

    def to_gear(self):
        given = self.cleaned_data
        slug, pixels = given["format"], given["pixels_wide"]
        if slug:
            return Gear(body=Body(sensor_of(slug, pixels)), body_name=FORMATS[slug].name)
        sensor = Sensor(given["width_mm"], given["height_mm"], pixels)
        return Gear(body=Body(sensor), body_name=f"{sensor.width_mm:g} × {sensor.height_mm:g} mm sensor")


class OwnLensForm(forms.Form):
    """A lens by its own figures; all may be left open, then it can be set to anything."""

    focal_min_mm = FocalLengthField(required=False)
    focal_max_mm = FocalLengthField(required=False)
    widest = FNumberField(required=False)
    smallest_f_number = FNumberField(required=False)
    close_focus_m = DistanceField(required=False)

    def clean(self):
        given = super().clean()
        low, high = given.get("focal_min_mm"), given.get("focal_max_mm")
        if low and not high:
            given["focal_max_mm"] = low
        if high and not low:
            given["focal_min_mm"] = high
        if low and high and low > high:
            self.add_error("focal_max_mm", "The longest focal length is at least the shortest.")
        widest, smallest = given.get("widest"), given.get("smallest_f_number")
        if widest and smallest and widest > smallest:
            self.add_error("smallest_f_number", "The smallest aperture has at least the f-number of the widest.")
        return given

    def to_gear(self):
        given = self.cleaned_data
        low, high, widest = given["focal_min_mm"], given["focal_max_mm"], given["widest"]
        name = "any lens" if low is None else f"{low:g} mm lens" if low == high else f"{low:g}-{high:g} mm lens"
        lens = Lens(
            focal_min_mm=low,
            focal_max_mm=high,
            widest=((low or 50.0, widest),) if widest else (),
            smallest_f_number=given["smallest_f_number"],
            close_focus_m=given["close_focus_m"],
        )
        return Gear(lens=lens, lens_name=name + (f" f/{widest:g}" if widest else ""))


OWN_FORMS = {"body": OwnBodyForm, "lens": OwnLensForm}
