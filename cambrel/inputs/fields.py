"""Typed figures: a field shows a value as a camera does and reads it back, and keeps the exact value where the text is
untouched.
"""

import re
from collections.abc import Iterable, Mapping
from math import inf, isinf
from typing import Any, overload

from django import forms

from cambrel import wording
from cambrel.bounds import names
from cambrel.bounds.limits import LIMITS
from cambrel.inputs.widgets import Answers, List, Search, Slide, Tick, Ticks, TypedInput
from cambrel.phrases import typed_figures
from cambrel.phrases.units import LENGTHS_M
from cambrel.wording import METRES, Units

MM = LENGTHS_M["mm"]
LONGEST_SEARCH = 60
INFINITE_WORDS = {"∞", "inf", "infinity", "infinite"}


@overload
def whole(text: str) -> int | None: ...
@overload
def whole(text: str, otherwise: int) -> int: ...
def whole(text: str, otherwise: int | None = None) -> int | None:
    """A whole number from 0 on as it stands in an address or a form: a key, a page, an index; `otherwise` for anything
    else.
    """
    return int(text) if text.isascii() and text.isdigit() and len(text) < 19 else otherwise


NONE_OFFERED: dict[str, Any] = {"invalid_choice": "Choose one of the answers offered."}


class ChoiceField(forms.ChoiceField):
    widget: Any = List
    default_error_messages = NONE_OFFERED


class TypedChoiceField(forms.TypedChoiceField):
    widget: Any = List
    default_error_messages = NONE_OFFERED


class YesNoField(TypedChoiceField):
    """One of two, kept as whether it is the second."""

    def __init__(self, *, no: str, yes: str, **options: Any) -> None:
        super().__init__(choices=[("0", no), ("1", yes)], coerce=lambda value: value == "1", **options)

    def prepare_value(self, value: object) -> object:
        return str(int(value)) if isinstance(value, bool) else value


class AnswerField(ChoiceField):
    """A question with all its answers in sight."""

    widget: Any = Answers

    def __init__(self, **options: Any) -> None:
        super().__init__(**options)
        write_as(self, "fields/answers.html")


def offer(form: forms.BaseForm, name: str, choices: Iterable[tuple[object, object]]) -> None:
    """Give a form's field what may be chosen in it."""
    field = form.fields[name]
    assert isinstance(field, forms.ChoiceField)
    field.choices = list(choices)


def write_as(field: Any, template: str) -> None:
    """Have a field written by a template of its own, where it has none yet."""
    field.template_name = field.template_name or template


class TickField(forms.BooleanField):
    """A yes or a no, its words behind it."""

    widget = Tick

    def __init__(self, label: str, **options: Any) -> None:
        super().__init__(label=label, required=False, **options)
        write_as(self, "fields/tick.html")


class TicksField(forms.MultipleChoiceField):
    """Any of several."""

    widget = Ticks
    default_error_messages = NONE_OFFERED

    def __init__(self, **options: Any) -> None:
        super().__init__(**options)
        write_as(self, "fields/ticks.html")


class SearchField(forms.CharField):
    """Words that are looked for; more than so many are not read."""

    def __init__(self, label: str, placeholder: str, **attrs: str | int) -> None:
        super().__init__(label=label, required=False, widget=Search(placeholder, maxlength=LONGEST_SEARCH, **attrs))

    def to_python(self, value: object) -> str:
        return " ".join(str(value or "").split())[:LONGEST_SEARCH]


class NameField(forms.CharField):
    """What something is kept under."""

    def __init__(self) -> None:
        super().__init__(label="Name", widget=TypedInput({"maxlength": names.LONGEST_NAME}))

    def clean(self, value: Any) -> Any:
        try:
            return names.clean(value or "")
        except ValueError as error:
            raise forms.ValidationError(str(error)) from None


class NameForm(forms.Form):
    """The name under which something is kept; why it cannot be is said on the page that comes next."""

    messages_at = ""

    name = NameField()

    def __init__(
        self, sent: Mapping[str, Any] | None = None, *, called: str = "", placeholder: str = "", **options: Any
    ) -> None:
        super().__init__(sent, initial={"name": called}, **options)
        if placeholder:
            self.fields["name"].widget.attrs["placeholder"] = placeholder


class WordField(forms.CharField):
    """A name or a word."""

    widget = TypedInput


class QuantityField(forms.Field):
    """A figure typed as text, within the range that makes sense; nothing outside it reaches the core."""

    widget = TypedInput
    low, high = 1e-9, 1e12
    prefix_words: tuple[str, ...] = ()
    unit_words: tuple[str, ...] = ()
    name = "number"
    hint = ""
    default_error_messages = {"required": "Give a number."}

    def __init__(
        self,
        *,
        low: float | None = None,
        high: float | None = None,
        limits: str = "",
        may_be_infinite: bool = False,
        unit: str = "",
        slide: Slide | None = None,
        **options: Any,
    ) -> None:
        super().__init__(**options)
        self.unit, self.slide = unit, slide
        if limits:
            low, high = LIMITS[limits]
        self.low = self.low if low is None else low
        self.high = self.high if high is None else high
        self.may_be_infinite = may_be_infinite
        self.base: float | None = None
        self.units = METRES

    def show(self, value: float | None, units: Units | None = None) -> str:
        """The text for a value; empty for one that is not given."""
        return "" if value is None else self.text(value, units or self.units)

    def prepare_value(self, value: object) -> object:
        return self.show(value) if isinstance(value, int | float) else "" if value is None else value

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.significant(value, 4)

    def number(self, text: str) -> float:
        return typed_figures.number(text, self.low, self.high)

    def to_python(self, value: Any) -> Any:
        typed = str(value or "").strip()
        if len(typed) > typed_figures.LONGEST:
            raise forms.ValidationError(f"At most {typed_figures.LONGEST} characters are read.")
        if typed == self.show(self.base):
            return self.base
        if typed == "":
            return None
        words = typed.lower()
        if words in INFINITE_WORDS:
            if self.may_be_infinite:
                return inf
            raise forms.ValidationError(f"Infinity is not a {self.name} here. Type a number.")
        for word in self.prefix_words:
            words = words.removeprefix(word).strip()
        for word in self.unit_words:
            words = words.removesuffix(word).strip()
        try:
            number = self.number(words)
        except typed_figures.DoubtfulError as doubt:
            raise forms.ValidationError(str(doubt)) from None
        except (ValueError, ZeroDivisionError, OverflowError):
            raise forms.ValidationError(wording.articled(f"“{typed}” is not a {self.name}.") + self.hint) from None
        if not self.low <= number <= self.high or isinf(number):
            low, high = self.show(self.low), self.show(self.high)
            raise forms.ValidationError(f"“{typed}” is out of range. Type a figure from {low} to {high}.")
        return number


class FocalLengthField(QuantityField):
    (low, high), name = LIMITS["focal_length_mm"], "focal length"

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.significant(value, 3)

    def number(self, text: str) -> float:
        return typed_figures.length(text, MM, self.low, self.high, kept=MM)


class FNumberField(QuantityField):
    (low, high), name = LIMITS["f_number"], "f-number"

    def number(self, text: str) -> float:
        return typed_figures.f_number(text)

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.f_number_text(value)


ANGLE = re.compile(
    r"(\d+(?:[.,]\d+)?)\s*(?:°|deg(?:ree)?s?)(?:\s*(?:at|@)\s*(\d+(?:[.,]\d+)?)\s*(?:/\s*s?|fps?)?)?", re.IGNORECASE
)


class ShutterField(QuantityField):
    """A shutter time in seconds or as an angle, which is a share of the time that a frame lasts: 180° at 25."""

    (low, high), name = LIMITS["shutter_s"], "shutter time"
    frame_rate: float | None = None
    """Of the frames that an angle goes by where none is said with it."""

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.shutter_text(value)

    def number(self, text: str) -> float:
        angle = ANGLE.fullmatch(text.strip())
        if angle:
            rate = typed_figures.decimal(angle[2]) if angle[2] else self.frame_rate
            if rate is None:
                raise forms.ValidationError("An angle needs a frame rate. Type it as 180° at 25.")
            open_deg = typed_figures.decimal(angle[1])
            if open_deg > 360:
                raise forms.ValidationError("A shutter is open for at most 360° of a frame.")
            return open_deg / 360 / rate
        return typed_figures.seconds(text)


class ShareField(QuantityField):
    """A share, typed and shown in percent."""

    (low, high), name = (1e-9, 1.0), "share in percent"
    unit_words = ("%", "percent")

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.significant(100 * value, 4)

    def number(self, text: str) -> float:
        return typed_figures.number(text, 100 * self.low, 100 * self.high) / 100


class IsoField(QuantityField):
    (low, high), name = LIMITS["iso"], "ISO"

    def number(self, text: str) -> float:
        return typed_figures.iso(text)

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.iso_text(value)


class DistanceField(QuantityField):
    """A distance typed in any unit of length, a bare number in the units in force; kept in metres."""

    (low, high), name = LIMITS["distance_m"], "distance"
    hint = " Type metres, such as 2.5, or feet, such as 8 ft."

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.distance_number(value, units)

    def number(self, text: str) -> float:
        return typed_figures.length(text, self.units.metres, self.low, self.high)


class NumberField(QuantityField):
    pass


class MillimetreField(QuantityField):
    (low, high), name = LIMITS["length_mm"], "length in mm"

    def number(self, text: str) -> float:
        return typed_figures.length(text, MM, self.low, self.high, kept=MM)


class GramField(QuantityField):
    """A weight, a bare number in grams."""

    (low, high), name = LIMITS["weight_g"], "weight"
    hint = " Write it as 400 g, 0.4 kg or 14 oz."

    def number(self, text: str) -> float:
        return typed_figures.mass_g(text)


class WholeField(QuantityField):
    """A whole number, however its thousands are parted."""

    name = "whole number"

    def text(self, value: float, units: Units = METRES) -> str:
        return f"{value:g}" if abs(value) < 1e6 else str(round(value))

    def number(self, text: str) -> float:
        value = typed_figures.whole_number(text)
        if value != int(value):
            raise ValueError(text)
        return int(value)


class PriceField(QuantityField):
    """A price; a currency that is typed beside it is `currency` then."""

    (low, high), name = LIMITS["price"], "price"
    hint = " Write it as 450 or 450 EUR."
    currency = ""

    def number(self, text: str) -> float:
        amount, self.currency = typed_figures.money(text)
        return amount

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.significant(value, 9)


class EvField(QuantityField):
    (low, high), name = LIMITS["light_ev"], "light value"
    prefix_words = ("ev",)

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.significant(value, 3)
