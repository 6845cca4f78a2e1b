"""The Formats page: sensor sizes for what they are, drawn to scale, in a table, and at true size on this screen."""

from dataclasses import dataclass
from urllib.parse import urlencode

from django import forms
from django.shortcuts import render
from django.views.decorators.http import require_safe
from django.views.decorators.vary import vary_on_headers

from cambrel import wording
from cambrel.downloads import svg_file
from cambrel.drawings.formats import Sized, overlaid, side_by_side
from cambrel.fields import ChoiceField, NumberField, whole
from cambrel.optics.brief import SHAPES
from cambrel.optics.designations import MM_PER_INCH, nominal_diagonal_mm, type_size
from cambrel.optics.formats import CROP_MEASURES, FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.owners.models import preferences_of
from cambrel.shelf.models import Body, OwnFormat

AT_FIRST = ("type-1-1.3", "one-inch", "micro-four-thirds", "aps-c", "full-frame", "44x33")
MOST_BODIES = 200


class FormatsForm(forms.Form):
    """How the formats are looked at; the subset is read apart."""

    how = ChoiceField(choices=[("overlaid", "Over each other"), ("side", "Side by side")], required=False)
    shape = ChoiceField(choices=[(key, shape.label) for key, shape in SHAPES.items()], required=False)
    upright = ChoiceField(choices=[("", "landscape"), ("1", "portrait")], required=False)
    megapixels = NumberField(low=0.01, high=2000, required=False)


@dataclass(frozen=True)
class Named:
    """A frame with its names, wherever it comes from: the table, the owner's formats, or a body."""

    key: str
    name: str
    designation: str
    sensor: Sensor


@dataclass(frozen=True)
class Row:
    """A format in the table, as it reads; `values` are what the columns are sorted by."""

    named: Named
    cells: tuple[str, ...]
    values: tuple[float | str, ...]
    type_says: str


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


def all_formats(user):
    """The named formats, the owner's own ones, and the owner's bodies, by key."""
    found = [Named(f.slug, f.name, f.designation, Sensor(f.width_mm, f.height_mm)) for f in FORMATS.values()]
    found += [
        Named(f"own-{f.pk}", f.name, f.designation or "own", f.sensor()) for f in OwnFormat.objects.for_owner(user)
    ]
    return {named.key: named for named in found}


def bodies_of(user):
    """The owner's bodies as formats, with their own pixels."""
    bodies = Body.objects.for_owner(user)[:MOST_BODIES]
    return {f"body-{b.pk}": Named(f"body-{b.pk}", b.name, b.system, b.sensor()) for b in bodies}


def kept_part(sensor, shape, upright):
    """The part that an output shape keeps, with the camera lying or upright."""
    aspect = SHAPES[shape or "native"].aspect_ratio
    return (sensor.turned() if upright else sensor).cropped(aspect)


def _row(named, given, by):
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
        named.name, named.designation, sensor.width_mm, sensor.height_mm, sensor.diagonal_mm, sensor.area_mm2, sensor.aspect_ratio, crop,
        1 / ratio, pitch or 0.0, share, pixels or 0.0,
    )  # fmt: skip
    others = tuple(wording.significant(crop_factor(sensor, by=measure)) for measure in CROP_MEASURES if measure != by)
    return Row(named, cells + others, values, type_sentence(named))


def _with_pixels(sensor, megapixels):
    if megapixels is None:
        return sensor
    wide = (megapixels * 1e6 * sensor.aspect_ratio) ** 0.5
    return Sensor(sensor.width_mm, sensor.height_mm, wide, wide / sensor.aspect_ratio)


def type_sentence(named):
    """What a type designation says and what it does not; empty for a format without one."""
    if not named.designation.endswith("type"):
        return ""
    size = type_size(named.designation)
    return (
        f"{named.designation.removesuffix(' type')} inch is {wording.focal(size.tube_mm)}, but nothing in the camera measures that: it was the "
        f"outer diameter of a video tube, of which the picture used about two thirds. By rule of thumb the diagonal is "
        f"{wording.focal(nominal_diagonal_mm(size.inches))}; this one is {wording.focal(named.sensor.diagonal_mm)}, and "
        f"{wording.focal(named.sensor.width_mm)} wide, {wording.share(named.sensor.width_mm / (size.inches * MM_PER_INCH))} of what the name says."
    )


@require_safe
@vary_on_headers("HX-Request", "HX-History-Restore-Request", "Cookie")
def formats(request):
    """All formats, or any of them, to scale."""
    known = all_formats(request.user)
    own_bodies = bodies_of(request.user)
    chosen = [key for key in request.GET.getlist("f") if key in known or key in own_bodies]
    asked = "f" in request.GET or "none" in request.GET
    chosen = chosen if asked else list(AT_FIRST)
    form = FormatsForm(request.GET)
    sound = form.is_valid()
    given = form.cleaned_data
    conventions = preferences_of(request.user).to_conventions()
    by = request.GET.get("by", "")
    by = by if by in CROP_MEASURES else conventions.crop_by
    shown = [(known | own_bodies)[key] for key in dict.fromkeys(chosen)]
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
        "known": known.values(),
        "own_bodies": own_bodies.values(),
        "chosen": chosen,
        "rows": rows,
        "columns": _columns(request, others),
        "drawing": drawing,
        "drawing_address": _with(request, "as", "svg"),
        "largest": max(sized, key=lambda f: f.frame.width_mm, default=None),
        "life": [(f.name, f.frame.width_mm, f.frame.height_mm) for f in sorted(sized, key=lambda f: -f.frame.area_mm2)],
        "measures": CROP_MEASURES.items(),
        "by": by,
        "measure": CROP_MEASURES[by],
        "problem": "" if sound else next(iter(form.errors.values()))[0],
    }
    partial = request.htmx and not request.htmx.history_restore_request
    template = "shelf/_formats.html" if partial else "shelf/formats.html"
    return render(request, template, context, status=200 if sound else 422)


def _with(request, name, value):
    """The page's address with one more parameter."""
    now = request.GET.copy()
    now[name] = value
    return "/formats/?" + now.urlencode()


def _columns(request, others):
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


def _sorted(rows, sort):
    key = sort.removeprefix("-")
    index = min(whole(key, 2), len(COLUMNS) - 1)
    return sorted(rows, key=lambda row: row.values[index], reverse=sort.startswith("-"))
