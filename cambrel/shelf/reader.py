"""The advertised-figures reader: from what an advert states to what the lens and the sensor are."""

import re

from django import forms
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from cambrel import wording
from cambrel.fields import FNumberField, FocalLengthField, NumberField
from cambrel.links import Gear, put_address
from cambrel.optics.advertised import Advert, read_advert
from cambrel.optics.comparison import Body as OpticsBody
from cambrel.optics.comparison import Lens as OpticsLens
from cambrel.optics.designations import type_size
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import preferences_of
from cambrel.owners.undo import recorded
from cambrel.shelf.editing import fixed_lens_name
from cambrel.shelf.models import Body, Lens

LONGEST = 300
N = r"(\d+(?:[.,]\d+)?)"
DASH = r"\s*[-–]\s*"
FOCAL = re.compile(
    rf"{N}(?:\s*mm)?(?:{DASH}{N})?\s*mm(?P<said>[\s(-]*(?:eq|equiv|equivalent|full.?frame|35\s?mm)\b)?", re.IGNORECASE
)
APERTURE = re.compile(rf"(?:\bf\s*/?\s*|\b1\s*:\s*){N}(?:{DASH}(?:f/?)?{N})?", re.IGNORECASE)
TYPE = re.compile(
    r"\b(1\s*/\s*\d(?:[.,]\d+)?|4\s*/\s*3|2\s*/\s*3|1)\s*(?:[-\s]?(?:inch|in\b|type)|[\"″])", re.IGNORECASE
)
PIXELS = re.compile(rf"{N}\s*(?:mp\b|mpx|megapixels?|mpix)", re.IGNORECASE)
NAMES = ("full frame", "full-frame", "aps-c", "micro four thirds", "four thirds", "medium format")
SLUGS = ("full-frame", "full-frame", "aps-c", "micro-four-thirds", "micro-four-thirds", "44x33")
SAMPLE = "24-70 mm equivalent f/1.8-2.8, 1-inch type, 20 megapixels"


LABELS = (
    ("focal_min_mm", "Focal length stated", "mm"),
    ("focal_max_mm", "to, for a zoom", "mm"),
    ("said", "Said to be", ""),
    ("true_focal_mm", "True one, if stated as well", "mm"),
    ("f_number", "F-number", ""),
    ("f_number_long", "at the long end", ""),
    ("f_number_is_equivalent", "The f-number is", ""),
    ("type", "Sensor type", "inch, such as 1/1.3"),
    ("format", "or format", ""),
    ("megapixels", "Megapixels", ""),
)
"""Field, label and unit, in the order of the page."""


def read_text(text):
    """The figures that stand in an advert's text, as the fields of the form."""
    rest = text[:LONGEST]
    found = {}
    if match := TYPE.search(rest):
        found["type"] = match[1].replace(" ", "")
        rest = rest.replace(match[0], " ", 1)
    if match := PIXELS.search(rest):
        found["megapixels"] = match[1]
        rest = rest.replace(match[0], " ", 1)
    if match := APERTURE.search(rest):
        found["f_number"], found["f_number_long"] = match[1], match[2] or ""
        before = rest[match.end() : match.end() + 14].lower()
        found["f_number_is_equivalent"] = "yes" if re.match(r"\s*\(?eq", before) else ""
        rest = rest.replace(match[0], " ", 1)
    focals = list(FOCAL.finditer(rest))
    if focals:
        stated = next((m for m in focals if m["said"]), focals[0])
        found["focal_min_mm"], found["focal_max_mm"] = stated[1], stated[2] or ""
        lowered = rest.lower()
        said_after = any(word in lowered for word in ("equiv", " eq", "full-frame equivalent"))
        said_true = "true focal" in lowered or "actual" in lowered
        found["said"] = "yes" if stated["said"] or said_after else "no" if said_true else ""
        other = next((m for m in focals if m is not stated), None)
        if other is not None and found["said"] == "yes":
            found["true_focal_mm"] = other[1]
    for name, slug in zip(NAMES, SLUGS, strict=True):
        if name in text.lower() and "type" not in found and not (slug == "full-frame" and "equiv" in text.lower()):
            found["format"] = slug
            break
    return {key: value.replace(",", ".") for key, value in found.items() if value}


class AdvertForm(forms.Form):
    """What an advert states, figure by figure; the names are the core's."""

    focal_min_mm = FocalLengthField(error_messages={"required": "An advert states a focal length at least."})
    focal_max_mm = FocalLengthField(required=False)
    said = forms.ChoiceField(choices=[("", "not said"), ("yes", "equivalent"), ("no", "true")], required=False)
    true_focal_mm = FocalLengthField(required=False)
    f_number = FNumberField(required=False)
    f_number_long = FNumberField(required=False)
    f_number_is_equivalent = forms.ChoiceField(
        choices=[("", "as on the lens"), ("yes", "said to be equivalent")], required=False
    )
    type = forms.CharField(required=False, max_length=20)
    format = forms.ChoiceField(
        choices=[("", "by its type"), *((f.slug, f"{f.name} ({f.designation})") for f in FORMATS.values())],
        required=False,
    )
    megapixels = NumberField(low=0.01, high=2000, required=False)

    def clean(self):
        given = super().clean()
        low, high = given.get("focal_min_mm"), given.get("focal_max_mm")
        if low and high and low > high:
            self.add_error("focal_max_mm", "The longest focal length is at least the shortest.")
        sensor, nominal = None, False
        if given.get("format"):
            f = FORMATS[given["format"]]
            sensor = Sensor(f.width_mm, f.height_mm)
        elif given.get("type"):
            try:
                size = type_size(given["type"])
                sensor, nominal = size.sensor, not size.is_listed
                if not 0.05 <= size.inches <= 3:
                    raise DomainError("designation", "a type", given["type"])
            except DomainError:
                self.add_error("type", "Write the type as 1/1.3 or 1.")
        given["sensor"], given["sensor_is_nominal"] = sensor, nominal
        if sensor is None and given.get("true_focal_mm") is None and "type" not in self.errors:
            self.add_error("type", "Give the type or the format, or the true focal length beside the equivalent one.")
        return given

    def read(self, by):
        """The reading, or None with a message beside the field."""
        given = self.cleaned_data
        try:
            advert = Advert(
                focal_min_mm=given["focal_min_mm"],
                focal_max_mm=given["focal_max_mm"],
                focal_is_equivalent={"yes": True, "no": False}.get(given["said"]),
                true_focal_mm=given["true_focal_mm"],
                f_number=given["f_number"],
                f_number_long=given["f_number_long"],
                f_number_is_equivalent=given["f_number_is_equivalent"] == "yes",
                sensor=given["sensor"],
                sensor_is_nominal=given["sensor_is_nominal"],
                megapixels=given["megapixels"],
            )
            return read_advert(advert, by=by)
        except DomainError as error:
            self.add_error(error.parameter if error.parameter in self.fields else None, f"This must be {error.wanted}.")
            return None


def _ends(value_of, reading, show):
    short, long = value_of(reading.short), value_of(reading.long)
    if short is None:
        return "unknown"
    return show(short) if not reading.is_zoom and short == long else f"{show(short)} to {show(long)}"


def figures_of(reading):
    """The figures of a reading, as name and text."""
    sensor, off = reading.sensor, reading.tolerance
    within = f", give or take {wording.share(off)}" if off else ""
    pixels = "unknown" if sensor.pixel_pitch_um is None else wording.micrometres(sensor.pixel_pitch_um)
    size = f"{wording.significant(sensor.width_mm)} × {wording.significant(sensor.height_mm)}{wording.NBSP}mm"
    return (
        ("Sensor", size + within),
        ("Crop factor", wording.significant(reading.crop)),
        ("True focal length", _ends(lambda end: end.focal_length_mm, reading, wording.focal) + within),
        ("F-number of the lens", _ends(lambda end: end.f_number, reading, wording.f_number)),
        ("Entrance pupil", _ends(lambda end: end.pupil_mm, reading, wording.focal) + within),
        ("As full frame", _ends(lambda end: end.full_frame_focal_length_mm, reading, wording.focal)),
        ("Equivalent f-number", _ends(lambda end: end.full_frame_f_number, reading, wording.f_number) + within),
        ("Pixel pitch", pixels),
    )


def _optics(reading):
    short, long = reading.short, reading.long
    points = ()
    if short.f_number is not None:
        points = tuple(dict.fromkeys([(short.focal_length_mm, short.f_number), (long.focal_length_mm, long.f_number)]))
    lens = OpticsLens(short.focal_length_mm, long.focal_length_mm, points, weight_g=0.0, price=None)
    return OpticsBody(reading.sensor), lens


def _read(query, by):
    """The form of a request and its reading: from the text where one was sent, else from the fields."""
    text = query.get("text", "")
    fields = {name: query[name] for name in AdvertForm.base_fields if name in query}
    if text and not any(fields.values()):
        fields = read_text(text)
    form = AdvertForm(fields)
    return form, form.read(by) if form.is_valid() else None


@require_safe
def reader(request):
    """Read an advert."""
    by = preferences_of(request.user).to_conventions().crop_by
    asked = any(request.GET.get(name) for name in ("text", *AdvertForm.base_fields))
    text = request.GET.get("text", "") if asked else SAMPLE
    form, reading = _read(request.GET if asked else {"text": SAMPLE}, by)
    for field in form.fields.values():
        field.widget.attrs["class"] = (
            "form-select form-select-sm" if isinstance(field, forms.ChoiceField) else "form-control form-control-sm"
        )
    context = {"labels": LABELS, "form": form, "text": text[:LONGEST], "reading": reading, "is_sample": not asked}
    if reading is not None:
        body, lens = _optics(reading)
        name = "As advertised"
        context["figures"] = figures_of(reading)
        context["said"] = [wording.sentence(said) for said in reading.sentences]
        context["assumed"] = [wording.sentence(said) for said in reading.assumptions]
        context["put"] = put_address(Gear(body, name, lens, f"{name}, {wording.significant(lens.focal_min_mm)} mm"))
    return render(request, "shelf/reader.html", context, status=200 if reading or form.is_valid() else 422)


@login_required
@require_POST
def keep(request):
    """Put what was read on the shelf: a camera with its lens as one record."""
    by = preferences_of(request.user).to_conventions().crop_by
    _, reading = _read(request.POST, by)
    name = " ".join(request.POST.get("name", "").split())[:60]
    if reading is None or not name or not name.isprintable():
        messages.error(request, "Give it a name." if reading else "These figures cannot be read any more.")
        return redirect("shelf:reader")
    body, lens = _optics(reading)
    sensor = body.sensor
    with recorded(request.user, f"Added “{name}”") as change:
        record = Body.objects.create(
            owner=request.user,
            name=name,
            width_mm=sensor.width_mm,
            height_mm=sensor.height_mm,
            pixels_wide=sensor.pixels_wide and round(sensor.pixels_wide),
            pixels_high=sensor.pixels_high and round(sensor.pixels_high),
            note="Read from an advert.",
            inferred=["width_mm", "height_mm", "pixels_wide", "pixels_high"] if reading.tolerance else [],
        )
        change.created(record)
        fixed = Lens.objects.create(
            owner=request.user,
            fixed_to=record,
            name=fixed_lens_name(record),
            focal_min_mm=lens.focal_min_mm,
            focal_max_mm=lens.focal_max_mm,
            widest=[list(point) for point in lens.widest],
            weight_g=0,
            inferred=["focal_min_mm", "focal_max_mm"] if reading.tolerance else [],
        )
        change.created(fixed)
    messages.success(request, f"“{name}” is on the shelf.")
    return redirect("shelf:edit", "bodies", record.pk)
