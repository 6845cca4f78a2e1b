"""The Formats page: sensor sizes for what they are, drawn to scale, in a table, and at true size on this screen."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import log2
from typing import Any
from urllib.parse import urlencode

from django import forms
from django.http import QueryDict
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_safe
from django.views.decorators.vary import vary_on_headers

from cambrel import wording
from cambrel.comparison.bench import Gear
from cambrel.comparison.brief import SHAPES, Conventions
from cambrel.comparison.engine import Body
from cambrel.conventions.preferred import preferred_by
from cambrel.drawings.formats import Sized, film_strip, overlaid, side_by_side, tiled
from cambrel.drawings.shapes import Drawing
from cambrel.exports.downloads import svg_file
from cambrel.formats.named import NamedFrame, offered
from cambrel.inputs.fields import ChoiceField, NumberField, TicksField, offer, whole, write_as
from cambrel.inputs.widgets import OneOf
from cambrel.links.addresses import alone_address
from cambrel.optics.designations import MM_PER_INCH, nominal_diagonal_mm, type_size
from cambrel.optics.formats import CROP_MEASURES, FULL_FRAME, Sensor, crop_factor, frames_within
from cambrel.owners.requests import Request

INNER, OUTER = "micro-four-thirds", "full-frame"
"""Which two are set against each other at first."""
AT_FIRST = ("type-1-1.3", "one-inch", "micro-four-thirds", "aps-c", "full-frame", "44x33")


class FormatsForm(forms.Form):
    """Which formats are looked at, and how."""

    use_required_attribute = False

    how = ChoiceField(
        label="Looked at",
        choices=[("overlaid", "Over each other"), ("side", "Side by side")],
        required=False,
        widget=OneOf,
    )
    shape = ChoiceField(label="Shape", choices=[(key, shape.label) for key, shape in SHAPES.items()], required=False)
    upright = ChoiceField(label="Camera", choices=[("", "landscape"), ("1", "portrait")], required=False)
    megapixels = NumberField(label="All at, megapixels", low=0.01, high=2000, required=False)
    by = ChoiceField(
        label="Crop factor by", choices=[(key, measure.label) for key, measure in CROP_MEASURES.items()], required=False
    )
    inner = ChoiceField(label="How many of", required=False)
    outer = ChoiceField(label="fit", required=False)
    f = TicksField(required=False)

    def __init__(self, sent: QueryDict, frames: Mapping[str, Sequence[NamedFrame]], by: str) -> None:
        keys = {frame.key for group in frames.values() for frame in group}
        shown = [key for key in sent.getlist("f") if key in keys]
        sent = sent.copy()
        sent.setlist("f", shown if "f" in sent or "none" in sent else list(AT_FIRST))
        for name, usual, known in (
            ("how", "overlaid", {"overlaid", "side"}), ("by", by, set(CROP_MEASURES)), ("inner", INNER, keys),
            ("outer", OUTER, keys),
        ):  # fmt: skip
            if sent.get(name) not in known:
                sent[name] = usual
        super().__init__(sent)
        labelled = {
            heading: [
                (
                    named_frame.key,
                    f"{named_frame.name} ({named_frame.designation})" if named_frame.designation else named_frame.name,
                )
                for named_frame in group
            ]
            for heading, group in frames.items()
        }
        every = [*labelled.pop("", []), *labelled.items()]
        for name in ("f", "inner", "outer"):
            offer(self, name, every)
        for name in ("shape", "upright", "megapixels", "by", "inner", "outer"):
            write_as(self.fields[name], "fields/record.html")


@dataclass(frozen=True)
class FormatRow:
    """A format in the table, as it reads; `values` are what the columns are sorted by."""

    named: NamedFrame
    cells: tuple[str, ...]
    values: tuple[float | str, ...]
    type_says: str
    bench: str
    """The format by itself, for the working of its figures."""


COLUMNS = (
    "Format",
    "Type",
    "Width",
    "Height",
    "Diagonal",
    "Area",
    "Shape",
    "Crop",
    "How many",
    "Pitch",
    "Kept",
    "Megapixels kept",
)


def kept_part(sensor: Sensor, shape: str | None, upright: str | None) -> Sensor:
    """The part that an output shape keeps, with the camera lying or upright."""
    aspect = SHAPES[shape or "native"].aspect_ratio
    return (sensor.turned() if upright else sensor).cropped(aspect)


def _row(named: NamedFrame, given: dict[str, Any], by: str) -> FormatRow:
    sensor = _with_pixels(named.sensor, given.get("megapixels"))
    kept = kept_part(sensor, given.get("shape"), given.get("upright"))
    crop = crop_factor(sensor, by=by)
    ratio = FULL_FRAME.area_mm2 / sensor.area_mm2
    share = kept.area_mm2 / sensor.area_mm2
    mm = wording.focal
    pitch, pixels = sensor.pixel_pitch_um, kept.pixels
    cells = (
        named.name,
        named.designation,
        mm(sensor.width_mm),
        mm(sensor.height_mm),
        mm(sensor.diagonal_mm),
        f"{wording.significant(sensor.area_mm2)}{wording.NBSP}mm²",
        f"{sensor.aspect_ratio:.2f}",
        wording.significant(crop),
        wording.area_words(ratio),
        "unknown" if pitch is None else wording.micrometres(pitch),
        wording.share(share),
        "unknown" if pixels is None else f"{wording.significant(pixels / 1e6)}{wording.NBSP}MP",
    )
    values = (
        named.name, named.designation, sensor.width_mm, sensor.height_mm, sensor.diagonal_mm, sensor.area_mm2,
        sensor.aspect_ratio, crop,
        1 / ratio, pitch or 0.0, share, pixels or 0.0,
    )  # fmt: skip
    others = tuple(wording.significant(crop_factor(sensor, by=measure)) for measure in CROP_MEASURES if measure != by)
    return FormatRow(named, cells + others, values, type_sentence(named), _bench(named.name, sensor, by))


def _bench(name: str, sensor: Sensor, by: str) -> str:
    """The format by itself on a bench, for the working of its figures."""
    return alone_address(
        Gear(Body(Sensor(sensor.width_mm, sensor.height_mm)), name),
        sensor.diagonal_mm,
        conventions=Conventions(crop_by=by),
    )


def _with_pixels(sensor: Sensor, megapixels: float | None) -> Sensor:
    if megapixels is None:
        return sensor
    wide = (megapixels * 1e6 * sensor.aspect_ratio) ** 0.5
    return Sensor(sensor.width_mm, sensor.height_mm, wide, wide / sensor.aspect_ratio)


def type_sentence(named: NamedFrame) -> str:
    """What a type designation says and what it does not; empty for a format without one."""
    if not named.designation.endswith("type"):
        return ""
    size = type_size(named.designation)
    return (
        f"{named.designation.removesuffix(' type')} inch is {wording.focal(size.tube_mm)}, but "
        f"nothing in the camera measures that. It was the outer diameter of a video tube, and the "
        f"picture used about two thirds of it. By rule of thumb the diagonal is "
        f"{wording.focal(nominal_diagonal_mm(size.inches))}. This one is "
        f"{wording.focal(named.sensor.diagonal_mm)}, and {wording.focal(named.sensor.width_mm)} wide, "
        f"{wording.share(named.sensor.width_mm / (size.inches * MM_PER_INCH))} of what the name says."
    )


@dataclass(frozen=True)
class OneOnAnother:
    """Two formats against each other: what is said of them, and the drawing."""

    says: tuple[str, ...]
    drawing: Drawing


def one_on_another(inner: NamedFrame, outer: NamedFrame) -> OneOnAnother:
    """The ratio of their areas, and how many of the first lie whole on the second."""
    ratio = outer.sensor.area_mm2 / inner.sensor.area_mm2
    across, down = frames_within(inner.sensor, outer.sensor)
    count = across * down
    larger, smaller = (outer, inner) if ratio >= 1 else (inner, outer)
    times = max(ratio, 1 / ratio)
    if times - 1 <= 1e-9:
        area = f"{larger.name} and {smaller.name} have the same area."
    else:
        area = (
            f"{larger.name} has {wording.significant(times)} times the area of {smaller.name}: "
            f"{wording.stops(log2(times))} more light at the same exposure."
        )
    if not count:
        fits = f"Not one {inner.name} frame lies whole on {outer.name}."
    elif count == 1:
        fits = f"One {inner.name} frame lies whole on {outer.name}."
    else:
        fits = f"{count} {inner.name} frames lie whole on {outer.name}, {across} across and {down} down."
    part, whole = (Sized(named.name, named.sensor, named.sensor) for named in (inner, outer))
    drawn = tiled(part, whole, across, down)
    return OneOnAnother((area, fits), drawn)


NARROW_PX, NARROW_HIGH_PX = 350.0, 180.0
"""The drawing on a phone."""


@require_safe
@vary_on_headers("HX-Request", "HX-History-Restore-Request", "Cookie")
def formats(request: Request) -> HttpResponseBase:
    """All formats, or any of them, to scale."""
    frames = offered(request.user)
    form = FormatsForm(request.GET, frames, preferred_by(request.user).conventions.crop_by)
    sound = form.is_valid()
    given = form.cleaned_data
    by = given.get("by") or "diagonal"
    known = {named_frame.key: named_frame for group in frames.values() for named_frame in group}
    shown = [known[key] for key in dict.fromkeys(given.get("f", ()))]
    rows = _sorted([_row(named, given, by) for named in shown], request.GET.get("sort", "2"))
    sized = []
    for named in shown:
        frame = named.sensor.turned() if given.get("upright") else named.sensor
        sized.append(Sized(named.name, frame, kept_part(named.sensor, given.get("shape"), given.get("upright"))))
    draw = side_by_side if given.get("how") == "side" else overlaid
    drawing = draw(sized) if sized else None
    if request.GET.get("as") == "svg" and drawing:
        return svg_file(drawing, "formats")
    others = [measure.label for key, measure in CROP_MEASURES.items() if key != by]
    context = {
        "form": form,
        "rows": rows,
        "columns": _columns(request, others),
        "drawing": drawing,
        "narrow_drawing": draw(sized, NARROW_PX, NARROW_HIGH_PX) if sized else None,
        "drawing_address": _with(request, "as", "svg"),
        "largest": max(sized, key=lambda f: f.frame.width_mm, default=None),
        "life": [(f.name, f.frame.width_mm, f.frame.height_mm) for f in sorted(sized, key=lambda f: -f.frame.area_mm2)],
        "measure": CROP_MEASURES[by],
        "pair": one_on_another(known[given.get("inner") or INNER], known[given.get("outer") or OUTER]),
        "strip": film_strip(),
    }
    partial = request.htmx and not request.htmx.history_restore_request
    template = "formats/_answers.html" if partial else "formats/page.html"
    return render(request, template, context, status=200 if sound else 422)


def _with(request: Request, name: str, value: str) -> str:
    """The page's address with one more parameter."""
    now = request.GET.copy()
    now[name] = value
    return f"{reverse('formats:page')}?{now.urlencode()}"


def _columns(request: Request, others: Sequence[str]) -> list[tuple[str, str, str]]:
    """Headings with the address that sorts by each; the other crop measures are not sorted by."""
    now = request.GET.copy()
    sort = now.get("sort", "2")
    made = []
    for index, label in enumerate(COLUMNS):
        key = str(index)
        now["sort"] = f"-{key}" if sort == key else key
        direction = {key: "ascending", f"-{key}": "descending"}.get(sort, "")
        made.append((label, "?" + urlencode(list(now.lists()), doseq=True), direction))
    return made + [(f"Crop by {label}", "", "") for label in others]


def _sorted(rows: list[FormatRow], sort: str) -> list[FormatRow]:
    key = sort.removeprefix("-")
    index = min(whole(key, 2), len(COLUMNS) - 1)
    return sorted(rows, key=lambda row: row.values[index], reverse=sort.startswith("-"))
