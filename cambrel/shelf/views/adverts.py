"""The advertised-figures reader: from what an advert states to what the lens and the sensor are."""

from collections.abc import Callable, Mapping
from typing import Any
from urllib.parse import urlencode

from django import forms
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from cambrel import wording
from cambrel.bounds import names
from cambrel.comparison.bench import Gear
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import Body as OpticsBody
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.conventions.home import COMMON, home_crop, home_name
from cambrel.conventions.preferred import preferred_by
from cambrel.inputs.fields import (
    ChoiceField,
    FNumberField,
    FocalLengthField,
    MillimetreField,
    NameForm,
    NumberField,
    WordField,
    write_as,
)
from cambrel.links.addresses import alone_address, put_address
from cambrel.optics.designations import type_size
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import gear_owner
from cambrel.owners.presses import pressed_once
from cambrel.owners.requests import Request
from cambrel.owners.undo import recorded
from cambrel.phrases.advertised import Advert, AdvertReading, Ends, read_advert
from cambrel.phrases.reader import read
from cambrel.phrases.records import GearWords, TextReading
from cambrel.phrases.stated import StatedSensor
from cambrel.phrases.tokens import LONGEST
from cambrel.shelf.codes import codes_of
from cambrel.shelf.editing import fixed_lens_name
from cambrel.shelf.models import Body, Lens

SAMPLE = "24-70 mm equivalent f/1.8-2.8, 1-inch type, 20 megapixels"


def fields_of(side: GearWords) -> dict[str, str]:
    """What was read of an advert's text, as the fields of the form."""
    fields = {
        "focal_min_mm": side.focal_min_mm,
        "focal_max_mm": side.focal_max_mm if side.focal_max_mm != side.focal_min_mm else None,
        "true_focal_mm": side.true_focal_mm,
        "f_number": side.f_number,
        "f_number_long": side.f_number_long,
        "megapixels": side.megapixels,
        "pixel_pitch_um": side.pixel_pitch_um,
        "width_mm": side.width_mm,
        "height_mm": side.height_mm,
        "crop": side.crop,
    }
    texts = {name: f"{value:.10g}" for name, value in fields.items() if value is not None}
    texts["said"] = {True: "yes", False: "no", None: ""}[side.equivalent]
    texts["f_number_is_equivalent"] = "yes" if side.f_number_equivalent else ""
    texts["type"], texts["format"] = side.type_designation or "", side.format or ""
    return {name: text for name, text in texts.items() if text}


class AdvertForm(forms.Form):
    """What an advert states, figure by figure; the names are the core's."""

    use_required_attribute = False

    focal_min_mm = FocalLengthField(
        label="Focal length stated",
        help_text="mm",
        error_messages={"required": "An advert states a focal length at least."},
    )
    focal_max_mm = FocalLengthField(label="to, for a zoom", help_text="mm", required=False)
    said = ChoiceField(
        label="Said to be", choices=[("", "not said"), ("yes", "equivalent"), ("no", "true")], required=False
    )
    true_focal_mm = FocalLengthField(label="True one, if stated as well", help_text="mm", required=False)
    f_number = FNumberField(label="F-number", required=False)
    f_number_long = FNumberField(label="at the long end", required=False)
    f_number_is_equivalent = ChoiceField(
        label="The f-number is", choices=[("", "as on the lens"), ("yes", "said to be equivalent")], required=False
    )
    type = WordField(label="Sensor type", help_text="inch, such as 1/1.3", required=False, max_length=20)
    format = ChoiceField(
        label="or format",
        choices=[("", "by its type"), *((f.slug, f"{f.name} ({f.designation})") for f in FORMATS.values())],
        required=False,
    )
    width_mm = MillimetreField(label="or width", help_text="mm", low=0.5, high=300, required=False)
    height_mm = MillimetreField(label="and height", help_text="mm", low=0.5, high=300, required=False)
    crop = NumberField(label="or crop factor", low=0.2, high=20, required=False)
    megapixels = NumberField(label="Megapixels", low=0.01, high=2000, required=False)
    pixel_pitch_um = NumberField(label="Pixel pitch", help_text="µm", low=0.2, high=50, required=False)

    def clean(self) -> dict[str, Any]:
        given = super().clean() or {}
        low, high = given.get("focal_min_mm"), given.get("focal_max_mm")
        if low and high and low > high:
            self.add_error("focal_max_mm", "The longest focal length is at least the shortest.")
        wide, high = given.get("width_mm"), given.get("height_mm")
        for name, one, other in (("height_mm", wide, high), ("width_mm", high, wide)):
            if one is not None and other is None and name not in self.errors:
                self.add_error(name, "Give both sides of the sensor.")
        if given.get("type"):
            try:
                if not 0.05 <= type_size(given["type"]).inches <= 3:
                    raise DomainError("designation", "a type", given["type"])
            except DomainError:
                self.add_error("type", "Write the type as 1/1.3 or 1.")
        sized = given.get("format") or given.get("type") or wide or given.get("crop")
        sized = sized or (given.get("megapixels") and given.get("pixel_pitch_um"))
        if not sized and given.get("true_focal_mm") is None and not self.errors:
            self.add_error(
                "type", "Give the type, the format or the size, or the true focal length beside the equivalent one."
            )
        return given

    def stated_sensor(self) -> StatedSensor:
        """What is said of the sensor."""
        given = self.cleaned_data
        named = FORMATS.get(given["format"])
        return StatedSensor(
            width_mm=given["width_mm"],
            height_mm=given["height_mm"],
            named=named and Sensor(named.width_mm, named.height_mm),
            type_designation=given["type"] or None,
            crop=given["crop"],
            megapixels=given["megapixels"],
            pixel_pitch_um=given["pixel_pitch_um"],
        )

    def read(self, by: str) -> AdvertReading | None:
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
                sensor=self.stated_sensor(),
            )
            return read_advert(advert, by=by)
        except DomainError as error:
            self.add_error(error.parameter if error.parameter in self.fields else None, f"This must be {error.wanted}.")
            return None


def _ends(value_of: Callable[[Ends], float | None], reading: AdvertReading, show: Callable[[float], str]) -> str:
    short, long = value_of(reading.short), value_of(reading.long)
    if short is None or long is None:
        return "unknown"
    return show(short) if not reading.is_zoom and short == long else f"{show(short)} to {show(long)}"


def figures_of(reading: AdvertReading, conventions: Conventions) -> tuple[tuple[str, str], ...]:
    """The figures of a reading, as name and text."""
    sensor, off = reading.sensor, reading.tolerance
    pixels = "unknown" if sensor.pixel_pitch_um is None else wording.micrometres(sensor.pixel_pitch_um)

    def within(text: str) -> str:
        """A figure with how far it could be off; what is not known is not off by anything."""
        return f"{text}, give or take {wording.share(off)}" if off and text != "unknown" else text

    size = f"{wording.significant(sensor.width_mm)} × {wording.significant(sensor.height_mm)}{wording.NBSP}mm"
    return (
        ("Sensor", within(size)),
        ("Crop factor", wording.significant(reading.crop)),
        ("True focal length", within(_ends(lambda end: end.focal_length_mm, reading, wording.focal))),
        ("F-number of the lens", _ends(lambda end: end.f_number, reading, wording.f_number)),
        ("Entrance pupil", within(_ends(lambda end: end.pupil_mm, reading, wording.focal))),
        *_at_home(reading, conventions),
        ("As full frame", _ends(lambda end: end.full_frame_focal_length_mm, reading, wording.focal)),
        ("Equivalent f-number", within(_ends(lambda end: end.full_frame_f_number, reading, wording.f_number))),
        ("Pixel pitch", pixels),
    )


def _at_home(reading: AdvertReading, conventions: Conventions) -> tuple[tuple[str, str], ...]:
    """The same in the reader's terms, where those are not full frame's."""
    if conventions.home == COMMON:
        return ()
    crop = home_crop(conventions)
    focal = _ends(lambda end: end.full_frame_focal_length_mm / crop, reading, wording.focal)
    number = _ends(lambda end: end.full_frame_f_number and end.full_frame_f_number / crop, reading, wording.f_number)
    return ((f"As {home_name(conventions)}", f"{focal}, {number}"),)


def _optics(reading: AdvertReading) -> tuple[OpticsBody, OpticsLens]:
    short, long = reading.short, reading.long
    points: tuple[tuple[float, float], ...] = ()
    if short.f_number is not None and long.f_number is not None:
        points = tuple({short.focal_length_mm: short.f_number, long.focal_length_mm: long.f_number}.items())
    lens = OpticsLens(short.focal_length_mm, long.focal_length_mm, points, weight_g=0.0, price=None)
    return OpticsBody(reading.sensor), lens


def _read(
    query: Mapping[str, str], by: str, codes: Mapping[str, str]
) -> tuple[AdvertForm, AdvertReading | None, TextReading | None]:
    """The form of a request, its reading, and what was understood of the text where one was sent."""
    text = query.get("text", "")
    fields = {name: query[name] for name in AdvertForm.base_fields if name in query}
    understood = None
    if text and not any(fields.values()):
        understood = read(text, codes)
        fields = fields_of(understood.sides[0])
    form = AdvertForm(fields)
    return form, form.read(by) if form.is_valid() else None, understood


def _turned(form: AdvertForm, reading: AdvertReading) -> tuple[str, str] | None:
    """The other way to read a focal length of which nothing is said: what the press is called, and its address."""
    given = form.cleaned_data
    if given["said"] or given["true_focal_mm"] is not None:
        return None
    fields = {name: value for name, value in form.data.items() if value and name in form.fields}
    label, said = ("the lens’s own focal length", "no") if reading.focal_was_converted else ("an equivalent", "yes")
    return f"Read it as {label}", f"{reverse('shelf:reader')}?{urlencode(fields | {'said': said})}"


@require_safe
def reader(request: Request) -> HttpResponseBase:
    """Read an advert."""
    conventions = preferred_by(request.user).conventions
    by = conventions.crop_by
    asked = any(request.GET.get(name) for name in ("text", *AdvertForm.base_fields))
    text = request.GET.get("text", "") if asked else SAMPLE
    codes = codes_of(gear_owner(request.user))
    form, reading, understood = _read(request.GET if asked else {"text": SAMPLE}, by, codes)
    for field in form.fields.values():
        write_as(field, "fields/record.html")
    naming = NameForm(placeholder="Name on the shelf", auto_id="keep-%s")
    context = {"naming": naming, "form": form, "text": text[:LONGEST], "longest": LONGEST, "reading": reading,
        "is_sample": not asked, "understood": understood}  # fmt: skip
    if reading is not None:
        body, lens = _optics(reading)
        shortest_mm = reading.short.focal_length_mm
        name = "As advertised"
        context["figures"] = figures_of(reading, conventions)
        context["said"] = [wording.sentence(said) for said in reading.sentences]
        context["assumed"] = [wording.sentence(said) for said in reading.assumptions]
        context["turned"] = _turned(form, reading)
        context["contradicted"] = [wording.sentence(said) for said in reading.contradictions]
        short = lens.widest[0][1] if lens.widest else 4.0
        context["bench"] = alone_address(Gear(body, name, lens, name), shortest_mm, short, conventions=conventions)
        context["put"] = put_address(Gear(body, name, lens, f"{name}, {wording.significant(shortest_mm)} mm"))
    return render(request, "shelf/reader.html", context, status=200 if reading or form.is_valid() else 422)


@login_required
@require_POST
@pressed_once
def keep(request: Request) -> HttpResponseBase:
    """Put what was read on the shelf: a camera with its lens as one record."""
    by = preferred_by(request.user).conventions.crop_by
    _, reading, _ = _read(request.POST, by, {})
    try:
        if reading is None:
            raise ValueError("These figures cannot be read any more.")
        name = names.clean(request.POST.get("name", ""))
    except ValueError as error:
        messages.error(request, str(error))
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
            focal_min_mm=reading.short.focal_length_mm,
            focal_max_mm=reading.long.focal_length_mm,
            widest=[list(point) for point in lens.widest],
            weight_g=0,
            inferred=["focal_min_mm", "focal_max_mm"] if reading.tolerance else [],
        )
        change.created(fixed)
    messages.success(request, f"“{name}” is on the shelf.")
    return redirect("shelf:edit", "bodies", record.pk)
