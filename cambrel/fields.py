"""Typed figures: a field shows a value as a camera does and reads it back, and keeps the exact value where the text is untouched."""

import re
from math import inf, isinf

from django import forms

from cambrel import wording
from cambrel.wording import METRES

NUMBER = re.compile(r"[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d{1,3})?", re.IGNORECASE)
LONGEST = 40
INFINITE_WORDS = {"∞", "inf", "infinity", "infinite"}


def parse_number(text: str) -> float:
    """A number with a decimal point or comma, or ValueError."""
    text = text.strip().replace("\u2212", "-").replace(wording.NBSP, "")
    if not NUMBER.fullmatch(text):
        raise ValueError(text)
    return float(text.replace(",", "."))


class QuantityField(forms.Field):
    """A figure typed as text, within the range that makes sense; nothing outside it reaches the core."""

    low, high = 1e-9, 1e12
    prefix_words: tuple[str, ...] = ()
    unit_words: tuple[str, ...] = ()
    name = "number"
    default_error_messages = {"required": "Give a number."}

    def __init__(self, *, low=None, high=None, may_be_infinite=False, **options):
        super().__init__(**options)
        self.low = self.low if low is None else low
        self.high = self.high if high is None else high
        self.may_be_infinite = may_be_infinite
        self.base = None
        self.units = METRES

    def show(self, value) -> str:
        """The text for a value; empty for one that is not given."""
        return "" if value is None else self.text(value)

    def prepare_value(self, value):
        return self.show(value) if isinstance(value, int | float) else value

    def text(self, value: float) -> str:
        return wording.significant(value, 4)

    def number(self, text: str) -> float:
        return parse_number(text)

    def to_python(self, value):
        typed = str(value or "").strip()
        if len(typed) > LONGEST:
            raise forms.ValidationError(f"At most {LONGEST} characters are read.")
        if typed == self.show(self.base):
            return self.base
        if typed == "":
            return None
        words = typed.lower()
        if words in INFINITE_WORDS:
            if self.may_be_infinite:
                return inf
            raise forms.ValidationError(f"Infinity is no {self.name} here; give a number.")
        for word in self.prefix_words:
            words = words.removeprefix(word).strip()
        for word in self.unit_words:
            words = words.removesuffix(word).strip()
        try:
            number = self.number(words)
        except (ValueError, ZeroDivisionError, OverflowError):
            raise forms.ValidationError(f"“{typed}” is not a {self.name}.") from None
        if not self.low <= number <= self.high or isinf(number):
            low, high = self.text(self.low), self.text(self.high)
            raise forms.ValidationError(f"“{typed}” is outside what makes sense: from {low} to {high}.")
        return number


class FocalLengthField(QuantityField):
    low, high, name = 0.5, 10_000, "focal length"
    unit_words = ("mm",)

    def text(self, value):
        return wording.significant(value, 3)


class FNumberField(QuantityField):
    low, high, name = 0.5, 256, "f-number"
    prefix_words = ("f/", "f", "1:")

    def text(self, value):
        return wording.f_number_text(value)


class ShutterField(QuantityField):
    low, high, name = 1e-6, 36_000, "shutter time"
    unit_words = ("sec", "s")

    def text(self, value):
        return wording.shutter_text(value)

    def number(self, text):
        over, slash, under = text.partition("/")
        return parse_number(over) / parse_number(under) if slash else parse_number(text)


class IsoField(QuantityField):
    low, high, name = 1, 10_000_000, "ISO"
    prefix_words = ("iso",)

    def text(self, value):
        return wording.iso_text(value)


class DistanceField(QuantityField):
    """A distance typed in the units in force, kept in metres."""

    low, high, name = 0.001, 1_000_000, "distance"
    unit_words = ("metres", "feet", "ft", "m", "'")

    def text(self, value):
        return wording.distance_number(value, self.units)

    def number(self, text):
        return parse_number(text) * self.units.metres


class NumberField(QuantityField):
    pass


class MillimetreField(QuantityField):
    low, high, name = 0.01, 10_000, "length in mm"
    unit_words = ("mm",)


class GramField(QuantityField):
    low, high, name = 0, 1_000_000, "weight in grams"
    unit_words = ("grams", "g")


class PriceField(QuantityField):
    low, high, name = 0, 100_000_000, "price"

    def text(self, value):
        return wording.significant(value, 9)


class EvField(QuantityField):
    low, high, name = -12, 24, "light value"
    prefix_words = ("ev",)

    def text(self, value):
        return wording.significant(value, 3)
