"""The sorts of value that gear has: how each is typed in a form, read from a cell, bounded in the document, shown."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django import forms

from cambrel import wording
from cambrel.inputs.fields import (
    ChoiceField,
    DistanceField,
    FNumberField,
    FocalLengthField,
    GramField,
    IsoField,
    MillimetreField,
    NumberField,
    PriceField,
    ShutterField,
    TypedChoiceField,
    WholeField,
)
from cambrel.inputs.widgets import List, TypedInput
from cambrel.optics.formats import FORMATS
from cambrel.phrases import typed_figures
from cambrel.shelf import cells
from cambrel.shelf.resolution import POINTS
from cambrel.shelf.resolution import PointsText as PointsText
from cambrel.shelf.widest import widest_text

ABOVE_ZERO = {"exclusiveMinimum": 0, "maximum": 1e9}
NOT_NEGATIVE = {"minimum": 0, "maximum": 1e9}


def format_choices() -> list[Any]:
    return [("", "not said"), *((f.slug, f"{f.name} ({f.designation})") for f in FORMATS.values())]


def _format_name(slug: str) -> str:
    return FORMATS[slug].name if slug in FORMATS else slug


@dataclass(frozen=True)
class Sort:
    """A sort of value: how it is typed in a form, read from a cell (with the unit of its heading), bounded in the
    document, and shown.

    typed: None where the form takes what the database's column gives
    """

    shown: Callable[[Any], str]
    schema: dict[str, object]
    cell: Callable[[str, str], Any] = lambda text, unit: text.strip()
    typed: Callable[..., forms.Field] | None = None
    widget: forms.Widget | None = None


def _measure(made: Any, **own: object) -> Any:
    return lambda key, **options: made(limits=key, **own, **options)


def _figure(read: Callable[[str], Any]) -> Callable[[str, str], Any]:
    return lambda text, unit: read(text)


def _in(kept: str) -> Callable[[str, str], float]:
    return lambda text, unit: cells.quantity(text, kept, unit)


def _number(
    shown: Any, made: Any, cell: Callable[[str, str], Any] = lambda text, unit: text.strip(), **bounds: object
) -> Sort:
    return Sort(shown, {"type": "number", **(bounds or ABOVE_ZERO)}, cell, _measure(made))


def words(longest: int, **more: object) -> Sort:
    return Sort(str, {"type": "string", "maxLength": longest, **more}, widget=TypedInput())


NAME = words(60, minLength=1, pattern="\\S")
MILLIMETRES = _number(wording.focal, MillimetreField, _in("mm"))
FOCAL = _number(wording.focal, FocalLengthField, _in("mm"), exclusiveMinimum=0, maximum=10000)
SIDE = _number(wording.focal, MillimetreField, _in("mm"), exclusiveMinimum=0, maximum=10000)
METRES = _number(wording.distance, DistanceField, _in("m"))
GRAMS = _number(wording.mass, GramField, _in("g"), **NOT_NEGATIVE)
ISO = _number(wording.iso_text, IsoField, _figure(typed_figures.iso))
SHUTTER = _number(wording.shutter, ShutterField, _figure(typed_figures.seconds))
F_NUMBER = _number(wording.f_number, FNumberField, _figure(typed_figures.f_number), minimum=0.5, maximum=256)
STOPS = _number(lambda value: wording.significant(value, 6), NumberField, _figure(cells.stops), minimum=0, maximum=20)
RANGE_STOPS = _number(
    lambda value: wording.significant(value, 6), NumberField, _figure(cells.stops), minimum=0.5, maximum=40
)
MEGABYTES = _number(wording.significant, NumberField, _figure(typed_figures.whole_number))
PERCENT = _number(
    lambda value: f"{wording.significant(value)} %", NumberField, _figure(cells.percent), minimum=-100, maximum=100
)
RATE = _number(lambda value: f"{wording.significant(value, 4)} / s", NumberField)
DIOPTRES = _number(wording.significant, NumberField)
DRIFT = _number(wording.significant, NumberField)
TIMES = _number(lambda value: f"{value:.2g} ×", NumberField, _figure(cells.magnification))
FACTOR = _number(lambda value: f"{wording.significant(value)} ×", NumberField, minimum=0.2, maximum=5)
MONEY = Sort(
    lambda value: wording.significant(value, 6),
    {"type": "number", **NOT_NEGATIVE},
    cells.price,
    lambda key, **options: PriceField(**options),
)
AMOUNT = _number(
    lambda value: wording.significant(value, 6), NumberField, _figure(typed_figures.whole_number), **NOT_NEGATIVE
)
COUNT = Sort(
    lambda value: f"{value:,}",
    {"type": "integer", "minimum": 1, "maximum": 64},
    _figure(lambda text: int(typed_figures.whole_number(text))),
    widget=TypedInput({"inputmode": "numeric"}),
)
PIXELS = Sort(
    lambda value: f"{value:,}",
    {"type": "integer", "minimum": 1, "maximum": 200000},
    _figure(lambda text: int(typed_figures.whole_number(text))),
    # the column gives its own bounds along, which are those of its integers
    lambda key, min_value=None, max_value=None, **options: WholeField(low=1, high=200_000, **options),
)
MEGAPIXELS = Sort(str, {}, typed=lambda key, **options: NumberField(low=0.01, high=2000, **options))
PITCH = Sort(str, {}, typed=lambda key, **options: NumberField(low=0.1, high=100, **options))
FORMAT = Sort(
    _format_name,
    {"type": "string", "maxLength": 20},
    typed=lambda key, **options: ChoiceField(choices=format_choices, **_labelled(options)),
)
PROJECTION = Sort(
    lambda value: "rectilinear" if value else "fisheye",
    {"type": "boolean"},
    _figure(cells.projection),
    lambda key, **options: TypedChoiceField(
        choices=[("True", "rectilinear"), ("False", "fisheye")],
        coerce=lambda value: value == "True",
        **{**_labelled(options), "initial": "True"},
    ),
)
YES_OR_NO = Sort(
    lambda value: "yes" if value else "no",
    {"type": "boolean"},
    _figure(cells.yes_or_no),
    lambda key, **options: forms.NullBooleanField(
        widget=List(choices=[("unknown", "not said"), ("true", "yes"), ("false", "no")]), **_labelled(options)
    ),
)
POINT = [
    {"type": "number", "exclusiveMinimum": 0, "maximum": 10000},
    {"type": "number", "minimum": 0.5, "maximum": 256},
]
WIDEST = Sort(
    widest_text,
    {
        "type": "array",
        "maxItems": 40,
        "items": {"type": "array", "minItems": 2, "maxItems": 2, "prefixItems": POINT},
    },
    typed=lambda key, **options: forms.CharField(max_length=200, widget=TypedInput(), **_labelled(options)),
)


def _points(how: PointsText, *numbers: dict[str, object]) -> Sort:
    """A list of points, typed as one text."""
    point = {"type": "array", "minItems": len(numbers), "maxItems": len(numbers), "prefixItems": list(numbers)}
    return Sort(
        how.write,
        {"type": "array", "maxItems": 40, "items": point},
        lambda text, unit: how.read(text),
        typed=lambda key, **options: forms.CharField(max_length=200, widget=TypedInput(), **_labelled(options)),
    )


PER_MM = {"type": "number", "exclusiveMinimum": 0, "maximum": 10000}
HEIGHT_MM = {"type": "number", "exclusiveMinimum": 0, "maximum": 1000}
RESOLUTION = _points(POINTS["mtf50"], POINT[1], PER_MM)
RESOLUTION_AWAY = _points(POINTS["mtf50_away"], HEIGHT_MM, POINT[1], PER_MM)
FALL_OFF = _points(POINTS["fall_off"], HEIGHT_MM, {"type": "number", "minimum": 0, "maximum": 20})
NAMES = Sort(
    ", ".join,
    {"type": "array", "items": {"type": "string", "maxLength": 40}, "maxItems": 200},
    typed=lambda key, **options: forms.CharField(max_length=400, widget=TypedInput(), **_labelled(options)),
)


def one_of(**answers: str) -> Sort:
    return Sort(lambda value: answers.get(value, value), {"enum": list(answers)}, widget=List())


def _labelled(options: dict[str, object]) -> dict[str, Any]:
    """Of what a column of the database asks of its field, that which any field takes."""
    return {key: options[key] for key in ("required", "label", "help_text") if key in options}
