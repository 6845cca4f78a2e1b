"""What a request to Match asks: the picture, the targets and the filters, each with its message where it cannot be."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import inf

from django import forms

from cambrel import wording
from cambrel.fields import ChoiceField, DistanceField, FNumberField, FocalLengthField, GramField, IsoField, PriceField
from cambrel.links import Gear, LinkError, decode_gear
from cambrel.optics.comparison import Body as OpticsBody
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, largest_covered_format, nearest_format
from cambrel.optics.match import Wanted
from cambrel.optics.quantities import DomainError

MOST_TARGETS = 6
SAME_FORMAT = 0.03
"""Sensors within this of a named format's diagonal go by its name."""
LABELS = {
    "focal_length_mm": ("Focal length", "mm"),
    "f_number": ("F-number", ""),
    "iso": ("ISO", ""),
    "distance_m": ("Focused at", "m; far if empty"),
    "max_weight_g": ("at most", "g"),
    "max_price": ("at most", "in the currency of each price"),
}
USUAL_TARGETS = ("full-frame", "aps-c", "micro-four-thirds")


class AskForm(forms.Form):
    """The fields of Match; names are the core's where it has them."""

    g = forms.CharField(required=False, max_length=3500, widget=forms.HiddenInput)
    format = ChoiceField(required=False)
    focal_length_mm = FocalLengthField()
    f_number = FNumberField()
    iso = IsoField(required=False)
    distance_m = DistanceField(required=False, may_be_infinite=True)
    whole = forms.BooleanField(required=False)
    mount = forms.CharField(required=False, max_length=40)
    adapters = forms.BooleanField(required=False)
    stabilised = forms.BooleanField(required=False)
    max_weight_g = GramField(required=False)
    max_price = PriceField(required=False)
    cost = ChoiceField(choices=[("weight", "weight"), ("price", "price")], required=False)

    SMALL = "form-control form-control-sm"

    def __init__(self, data, own_formats):
        super().__init__(data)
        own = [(key, name) for key, (name, _) in own_formats.items()]
        self.fields["format"].choices = [*((f.slug, f"{f.name} ({f.designation})") for f in FORMATS.values()), *own]
        for name, item in self.fields.items():
            item.label, item.help_text = LABELS.get(name, ("", ""))
            if isinstance(item, forms.ChoiceField):
                item.widget.attrs["class"] = "form-select form-select-sm"
            elif not isinstance(item, forms.BooleanField):
                item.widget.attrs["class"] = self.SMALL
            item.widget.attrs["id"] = f"id_{name}"


@dataclass
class Question:
    """A request read: the form, the gear by value, what is wanted, and the targets' keys."""

    form: AskForm
    gear: Gear
    wanted: Wanted | None
    targets: list[str] = field(default_factory=list)
    problem: str = ""

    @property
    def name(self) -> str:
        """The picture's lens and body, as far as they have names."""
        return ", ".join(name for name in (self.gear.lens_name, self.gear.body_name) if name) or "the picture"

    @property
    def sensor(self) -> Sensor:
        return self.gear.body.sensor

    def says(self) -> str:
        """The picture in figures."""
        w = self.wanted
        focal = wording.focal_range(w.focal_min_mm, w.focal_max_mm)
        number = wording.f_number_range(w.f_number_short, w.f_number_long)
        away = "" if w.object_distance_m == inf else f" at {wording.distance(w.object_distance_m)}"
        format_ = nearest_format(w.sensor)
        is_named = abs(format_.diagonal_mm / w.sensor.diagonal_mm - 1) < SAME_FORMAT
        on = format_.name if is_named else f"{w.sensor.width_mm:g} × {w.sensor.height_mm:g} mm"
        return f"{focal} {number} on {on}{away}"


def ask(query, own_formats: dict[str, tuple[str, Sensor]]) -> Question:
    """Read a request; what is wrong has its message by its field, and then nothing is wanted. own_formats: name and size by key."""
    data = query.dict()
    gear, problem = Gear(), ""
    try:
        gear = decode_gear(data["g"]) if data.get("g") else Gear()
    except LinkError as error:
        problem = str(error)
    lens = gear.lens
    if lens is not None and lens.focal_min_mm is not None:
        data.setdefault("focal_length_mm", f"{lens.focal_min_mm:g}")
        if lens.widest:
            data.setdefault("f_number", f"{float(lens.widest_f_number(lens.focal_min_mm)):g}")
        if "whole" not in data and lens.is_zoom and "focal_length_mm" not in query:
            data["whole"] = "1"
    if not any(data.get(name) for name in ("g", "focal_length_mm")) and "f_number" not in data:
        data |= {"format": "full-frame", "focal_length_mm": "50", "f_number": "1.8"}
    form = AskForm(data, own_formats)
    form.is_valid()
    given = form.cleaned_data
    if gear.body is None:
        name, sensor = _format_of(given.get("format") or "", lens, own_formats)
        gear = Gear(OpticsBody(sensor), gear.body_name or (name if lens is None else ""), gear.lens, gear.lens_name)
    named = [key for key in query.getlist("t") if key in FORMATS or key in own_formats or key.startswith("body-")]
    targets = list(dict.fromkeys(named))[:MOST_TARGETS]
    here = nearest_format(gear.body.sensor).slug
    question = Question(form, gear, None, targets or [key for key in USUAL_TARGETS if key != here], problem)
    if not form.errors and not problem:
        try:
            question.wanted = _wanted(gear, given)
        except DomainError as error:
            name = {"object_distance_m": "distance_m"}.get(error.parameter, error.parameter)
            form.add_error(name if name in form.fields else None, f"This must be {error.wanted}.")
    return question


def _format_of(key: str, lens, own_formats) -> tuple[str, Sensor]:
    """The format that is asked about: the one that was chosen, else the largest that the lens covers, else full frame."""
    if key in own_formats:
        return own_formats[key]
    covered = largest_covered_format(lens.image_circle_mm) if lens and lens.image_circle_mm else None
    f = FORMATS.get(key) or covered or FULL_FRAME
    return f.name, Sensor(f.width_mm, f.height_mm)


def _wanted(gear: Gear, given) -> Wanted:
    distance = inf if given["distance_m"] is None else given["distance_m"]
    lens, iso = gear.lens, given["iso"] or 100.0
    if given["whole"] and lens is not None and lens.is_zoom and not lens.is_ad_hoc:
        low, high = lens.focal_min_mm, lens.focal_max_mm
        wide = [float(lens.widest_f_number(f)) for f in (low, high)] if lens.widest else [given["f_number"]] * 2
        return Wanted(gear.body.sensor, low, high, *wide, iso, distance)
    f, n = given["focal_length_mm"], given["f_number"]
    return Wanted(gear.body.sensor, f, f, n, n, iso, distance)
