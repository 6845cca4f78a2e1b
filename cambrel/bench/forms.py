"""The forms of the bench. Field names are the core's parameter names; each form reads a record of the core, on the base
of another.
"""

from collections.abc import Mapping
from copy import copy
from typing import Any

from django import forms

from cambrel.bench.sample_benches import sensor_of
from cambrel.comparison.bench import Gear
from cambrel.comparison.brief import DELIVERIES, SHAPES, SUPPORTS, Option, Shape
from cambrel.comparison.engine import Body, Lens
from cambrel.comparison.hold_answers import APERTURE_HOLDS, EXPOSURE_HOLDS, LENS_HOLDS, PLACE_HOLDS, HoldAnswer
from cambrel.conventions.questions import OF_FIGURES
from cambrel.inputs.fields import (
    AnswerField,
    ChoiceField,
    DistanceField,
    EvField,
    FNumberField,
    FocalLengthField,
    IsoField,
    NumberField,
    QuantityField,
    ShareField,
    ShutterField,
    TypedChoiceField,
    YesNoField,
    offer,
)
from cambrel.inputs.widgets import Explained, Slide, TypedInput
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.stops import SHUTTERS, Stop
from cambrel.wording import Units


def stops_slide(series: tuple[Stop, ...]) -> Slide:
    return Slide("stops", len(series) - 1, " ".join(stop.marked for stop in series))


def choices(table: Mapping[str, Shape | Option | HoldAnswer]) -> list[tuple[str, str]]:
    return [(key, entry.label) for key, entry in table.items()]


SCENE = Slide("log", 1000, low="0.1", high="1000")
"""The slider of a distance in the scene."""


class Shared(dict[str, forms.Field]):
    """The fields of a record, of which a form takes a copy each: it sets their base and units, and shares how they are
    written.
    """

    def __deepcopy__(self, memo: object) -> dict[str, forms.Field]:
        return {name: copy(field) for name, field in self.items()}


class RecordForm(forms.Form):
    """Reads changes to a record: what is not sent, or sent as it was shown, keeps its exact value. Without anything
    sent it shows the record.
    """

    use_required_attribute = False

    def __init__(self, sent: Mapping[str, Any] | None, base: Any, prefix: str, units: Units) -> None:
        self.base = base
        super().__init__(data=None if sent is None else {}, prefix=prefix, initial=vars(base), label_suffix="")
        for field in self.fields.values():
            if isinstance(field, DistanceField):
                field.unit, field.units = units.name, units
        if sent is None:
            return
        data = {}
        for name, field in self.fields.items():
            if isinstance(field, QuantityField):
                field.base = getattr(base, name)
            key = self.add_prefix(name)
            data[key] = sent.get(key, field.prepare_value(getattr(base, name)))
        self.data = data

    @classmethod
    def is_untouched(cls, sent: Mapping[str, Any], base: Any, prefix: str, units: Units) -> bool:
        """Whether everything that is sent is as it was shown; found without making a form, as most of a bench is
        untouched by a change.
        """
        for name, field in cls.base_fields.items():
            text = sent.get(f"{prefix}-{name}")
            if text is not None:
                value = getattr(base, name)
                shown = field.show(value, units) if isinstance(field, QuantityField) else field.prepare_value(value)
                if text != shown:
                    return False
        return True

    def values(self) -> dict[str, Any]:
        return {name: self.cleaned_data[name] for name in self.fields}

    def messages(self) -> dict[str, str]:
        """First message by full field name."""
        return {
            self.add_prefix(name): str(messages[0]) for name, messages in self.errors.items() if name in self.fields
        }


EVENLY = Slide("even", 240, low="-6", high="18")
"""The scale of light levels, a tenth of a stop a step."""
SPEEDS = Slide("ratio", 1000, low="0.1", high="100")
SIZES = Slide("ratio", 1000, low="30", high="3000")
TIMES = stops_slide(SHUTTERS)


class BriefForm(RecordForm):
    distance_m = DistanceField(label="Distance", slide=SCENE)
    background_m = DistanceField(
        label="Behind it", slide=SCENE, limits="background_m", required=False, may_be_infinite=True
    )
    light_ev = EvField(
        label="Light", unit="EV", slide=EVENLY, widget=TypedInput({"aria-label": "Light as EV at ISO 100"})
    )
    shape = ChoiceField(label="Shape", choices=choices(SHAPES))
    upright = YesNoField(label="Camera", no="landscape", yes="portrait")
    subject_height_m = DistanceField(label="Subject’s height", slide=SCENE, limits="subject_height_m")
    foreground_m = DistanceField(label="In front of it", slide=SCENE, limits="foreground_m", required=False)
    focus_distance_m = DistanceField(label="Focus, if elsewhere", slide=SCENE, required=False, may_be_infinite=True)
    distance_from = ChoiceField(label="Measured from", choices=[("lens", "the lens"), ("sensor", "the sensor mark")])
    sharp_front_m = DistanceField(label="in front by", slide=SCENE, limits="sharp_front_m", required=False)
    sharp_behind_m = DistanceField(
        label="behind by", slide=SCENE, limits="sharp_behind_m", required=False, may_be_infinite=True
    )
    width_shown_m = DistanceField(label="width of at least", slide=SCENE, limits="width_shown_m", required=False)
    slowest_shutter_s = ShutterField(label="slowest shutter", slide=TIMES, unit="s", required=False)
    subject_speed_m_per_s = NumberField(label="speed across", slide=SPEEDS, unit="m/s", limits="subject_speed_m_per_s")
    shown_long_side_mm = NumberField(label="long side", slide=SIZES, unit="mm", limits="shown_long_side_mm")
    viewing_distance_mm = NumberField(label="looked at from", unit="mm", limits="viewing_distance_mm")

    declination_deg = NumberField(label="declination", unit="°", limits="declination_deg", required=False)
    scene_range_stops = NumberField(
        label="range of the scene", unit="stops", limits="scene_range_stops", required=False
    )

    support = ChoiceField(label="camera", choices=[("", "carried as it may be"), *choices(SUPPORTS)], required=False)
    nearest_m = DistanceField(label="not nearer", slide=SCENE, limits="nearest_m", required=False)
    farthest_m = DistanceField(label="not farther", slide=SCENE, limits="farthest_m", required=False)
    comfortable_m = DistanceField(label="before the lens", slide=SCENE, limits="comfortable_m", required=False)
    flash_guide_m = NumberField(label="flash, guide number", unit="m", limits="flash_guide_m", required=False)

    frame_rate = NumberField(label="frames a second", limits="frame_rate", required=False)
    shutter_angle_deg = NumberField(label="shutter angle", unit="°", limits="shutter_angle_deg")
    delivery = ChoiceField(label="delivered as", choices=[(key, size.label) for key, size in DELIVERIES.items()])
    mains_hz = NumberField(label="lamps on the mains", unit="Hz", limits="mains_hz", required=False)

    blur_share = ShareField(label="background blur", unit="% of the diagonal", limits="blur_share", required=False)
    framing_deg = NumberField(label="angle across", unit="°", limits="framing_deg", required=False)

    said = (
        ("subject_speed_m_per_s", "moving at", "across"),
        ("width_shown_m", "showing at least", "across it"),
        ("sharp_front_m", "sharp from", "in front"),
        ("sharp_behind_m", "to", "behind it"),
        ("slowest_shutter_s", "the shutter at most", ""),
        ("focus_distance_m", "focused at", ""),
        ("declination_deg", "stars at declination", ""),
        ("scene_range_stops", "holding a range of", ""),
        ("blur_share", "its background blurred by", ""),
        ("framing_deg", "seeing", "across"),
        ("support", "carried", ""),
        ("nearest_m", "standing no nearer than", ""),
        ("farthest_m", "and no farther than", ""),
        ("comfortable_m", "with at least", "before the lens"),
        ("flash_guide_m", "by a flash of guide number", ""),
    )
    """What stands in the sentence where the picture asks for it, with the words before and after it."""
    of_film = (
        ("frame_rate", "at", "frames a second"),
        ("shutter_angle_deg", "a shutter of", ""),
        ("delivery", "delivered as", ""),
        ("mains_hz", "lamps on", ""),
    )
    """The same of a film alone."""
    more = (
        ("", ("subject_height_m", "foreground_m", "focus_distance_m", "distance_from")),
        ("Must be sharp", ("sharp_front_m", "sharp_behind_m")),
        ("Must be shown", ("width_shown_m", "framing_deg")),
        ("Must be soft", ("blur_share",)),
        ("Camera", ("support", "nearest_m", "farthest_m", "comfortable_m")),
        ("Movement", ("slowest_shutter_s", "subject_speed_m_per_s")),
        ("Flash", ("flash_guide_m",)),
        ("Lamps of a film", ("mains_hz",)),
        ("Stars, and range", ("declination_deg", "scene_range_stops")),
        ("Shown", ("shown_long_side_mm", "viewing_distance_mm")),
    )
    """What stands folded below the rest, under its headings."""

    def folded(self) -> list[tuple[str, list[forms.BoundField]]]:
        asked = self._asked()
        groups = ((heading, [self[name] for name in names if name not in asked]) for heading, names in self.more)
        return [(heading, fields) for heading, fields in groups if fields]

    def in_sentence(self) -> list[tuple[str, forms.BoundField, str]]:
        asked = self._asked()
        film = self.of_film if self.base.frame_rate else ()
        said = [(before, self[name], after) for name, before, after in (*film, *self.said) if name in asked]
        alone = "sharp_behind_m" in asked and "sharp_front_m" not in asked
        return [("sharp to" if alone and before == "to" else before, field, after) for before, field, after in said]

    def _asked(self) -> set[str]:
        wanted = {name for name, _, _ in self.said if getattr(self.base, name)}
        if self.base.frame_rate:
            wanted |= {name for name, _, _ in self.of_film} - (set() if self.base.mains_hz else {"mains_hz"})
        return wanted | {"shown_long_side_mm"}


def _answers(label: str, table: Mapping[str, HoldAnswer]) -> AnswerField:
    """A question of the hold, each answer with what it does."""
    return AnswerField(
        label=label,
        choices=choices(table),
        widget=Explained({key: entry.says for key, entry in table.items()}),
    )


class HoldForm(RecordForm):
    lens = _answers("Lens", LENS_HOLDS)
    place = _answers("Place", PLACE_HOLDS)
    aperture = _answers("Aperture", APERTURE_HOLDS)
    exposure = _answers("Exposure", EXPOSURE_HOLDS)


ConventionsForm = type("ConventionsForm", (RecordForm,), {question.key: question.field() for question in OF_FIGURES})
"""The questions that figures depend on."""


USUAL_FRAME_RATE = 25.0
"""Frames a second of moving pictures, where the mode can do as many."""


class ModeField(TypedChoiceField):
    """One of the modes of a body by its number; none for the whole sensor."""

    def __init__(self, **options: Any) -> None:
        super().__init__(coerce=int, empty_value=None, **options)

    def prepare_value(self, value: object) -> object:
        return "" if value is None else str(value)


class RigForm(RecordForm):
    focal_length_mm = FocalLengthField(label="Focal length")
    f_number = FNumberField(label="Aperture")
    shutter_s = ShutterField(label="Shutter")
    iso = IsoField(label="ISO")
    distance_m = DistanceField(label="Distance", required=False)
    converter = NumberField(label="Converter", limits="converter")
    mode = ModeField(label="Records", choices=[], required=False)

    def __init__(self, sent: Mapping[str, Any] | None, base: Any, prefix: str, units: Units) -> None:
        super().__init__(sent, base, prefix, units)
        modes = [(str(index), mode.label or f"mode {index + 1}") for index, mode in enumerate(base.body.modes)]
        self.fields["mode"].widget = copy(
            self.fields["mode"].widget
        )  # shared by the forms, as all of it is but what is offered
        offer(self, "mode", [("", "the whole sensor"), *modes])
        shutter, recorded = self.fields["shutter_s"], base.recorded
        if isinstance(shutter, ShutterField) and recorded is not None and recorded.frame_rate is not None:
            shutter.frame_rate = min(recorded.frame_rate, USUAL_FRAME_RATE)

    def values(self) -> dict[str, Any]:
        """With another converter its weight is not known any more."""
        cleaned = super().values()
        if cleaned["converter"] != self.base.converter:
            cleaned["converter_weight_g"] = 0.0 if cleaned["converter"] == 1 else None
        return cleaned


class OwnBodyForm(forms.Form):
    """A body by its own figures: a named format, or a width and height."""

    called = "sensor"
    messages_at = "own-body-problem"
    use_required_attribute = False
    format = ChoiceField(
        label="Format",
        choices=[("", "own width and height"), *((f.slug, f"{f.name} ({f.designation})") for f in FORMATS.values())],
        initial="full-frame",
        required=False,
    )
    width_mm = NumberField(label="Width, mm", limits="width_mm", required=False)
    height_mm = NumberField(label="Height, mm", limits="height_mm", required=False)
    pixels_wide = NumberField(label="Pixels across", limits="pixels_wide", required=False)

    def clean(self) -> dict[str, Any]:
        given = super().clean() or {}
        if given.get("width_mm") is not None or given.get("height_mm") is not None:
            given["format"] = ""  # the size that is typed counts, whatever the list still shows
        if not given.get("format"):
            for name in ("width_mm", "height_mm"):
                if given.get(name) is None and name not in self.errors:
                    self.add_error(name, "Give the sensor's size, or choose a format.")
        return given

    def to_gear(self) -> Gear:
        given = self.cleaned_data
        slug, pixels = given["format"], given["pixels_wide"]
        if slug:
            return Gear(body=Body(sensor_of(slug, pixels)), body_name=FORMATS[slug].name)
        sensor = Sensor(given["width_mm"], given["height_mm"], pixels)
        return Gear(body=Body(sensor), body_name=f"{sensor.width_mm:g} × {sensor.height_mm:g} mm sensor")


class OwnLensForm(forms.Form):
    """A lens by its own figures; all may be left open, then it can be set to anything."""

    called = "lens"
    messages_at = "own-lens-problem"
    use_required_attribute = False
    focal_min_mm = FocalLengthField(label="Shortest, mm", required=False)
    focal_max_mm = FocalLengthField(label="Longest, mm", required=False)
    widest = FNumberField(label="Widest f/", required=False)
    smallest_f_number = FNumberField(label="Smallest f/", required=False)
    close_focus_m = DistanceField(label="Closest, m", required=False)

    def clean(self) -> dict[str, Any]:
        given = super().clean() or {}
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

    def to_gear(self) -> Gear:
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


_RECORD_FORMS: tuple[type[RecordForm], ...] = (BriefForm, HoldForm, ConventionsForm, RigForm)
for record_form in _RECORD_FORMS:
    record_form.base_fields = Shared(record_form.base_fields)

OWN_FORMS: dict[str, type[OwnBodyForm] | type[OwnLensForm]] = {"body": OwnBodyForm, "lens": OwnLensForm}
