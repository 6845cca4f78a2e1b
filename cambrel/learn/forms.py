"""An answer that is typed: a number in the unit of its question, written as cameras and photographers write it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django import forms

from cambrel import wording
from cambrel.inputs.fields import DistanceField, FNumberField, FocalLengthField, IsoField, NumberField, QuantityField
from cambrel.phrases import typed_figures
from cambrel.wording import METRES, Units

FIELD_SIZE = 12


class StopsField(QuantityField):
    """Stops with their sign, in decimals or in thirds: 1.3, -2/3, 1 1/3."""

    low, high, name = -40.0, 40.0, "number of stops"
    unit_words = ("stops", "stop")

    def text(self, value: float, units: Units = METRES) -> str:
        return wording.significant(value, 3)

    def number(self, text: str) -> float:
        sign = -1 if text.startswith(("-", wording.MINUS)) else 1
        parts = text.lstrip("+-" + wording.MINUS).split()
        whole = sum(_part(part) for part in parts[:2])
        if not 1 <= len(parts) <= 2:
            raise ValueError(text)
        return sign * whole


def _part(text: str) -> float:
    over, slash, under = text.partition("/")
    upper, lower = (typed_figures.number(part, -40.0, 40.0) for part in (over, under if slash else "1"))
    return upper / lower


class SecondsField(QuantityField):
    low, high, name = 0.001, 1e6, "number of seconds"
    unit_words = ("seconds", "sec", "s")


class TimesField(NumberField):
    unit_words = ("times", "×", "x")


class MegapixelField(NumberField):
    unit_words = ("megapixels", "mp")


FIELDS: dict[str, type[QuantityField]] = {
    "mm": FocalLengthField,
    "f": FNumberField,
    "m": DistanceField,
    "times": TimesField,
    "number": MegapixelField,
    "signed": StopsField,
    "stops": StopsField,
    "iso": IsoField,
    "s": SecondsField,
}
"""By the kind of figure that is answered."""


class AnswerForm(forms.Form):
    use_required_attribute = False

    def __init__(self, unit: str, units: Units, lead: str = "", sent: Mapping[str, Any] | None = None) -> None:
        super().__init__(sent)
        field = FIELDS[unit](label=f"Your answer, {lead}" if lead else "Your answer")
        field.units = units
        field.widget.attrs.update(autofocus=True, inputmode="text", size=FIELD_SIZE)
        self.fields["said"] = field
