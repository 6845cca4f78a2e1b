"""What Field takes in fields: the part of a picture that is measured, and what an eye says of a shot."""

from __future__ import annotations

from math import sqrt
from typing import Any

from django import forms

from cambrel.fields import AnswerField, DistanceField, MillimetreField, NumberField, write_as
from cambrel.optics.fieldwork import Shot
from cambrel.optics.proving import Reading
from cambrel.photographs.decoding import MOST_PIXELS
from cambrel.widgets import Text
from cambrel.wording import METRES, Units

MARKS_M = 0.05
RANGE_WITHIN_STOPS = 0.5
POINTS, DRAWN = "points", "drawn"


class BoxForm(forms.Form):
    """A part of a picture in its own pixels, from its upper left corner."""

    use_required_attribute = False

    left = forms.IntegerField(label="From the left", min_value=0, max_value=MOST_PIXELS, widget=Text)
    top = forms.IntegerField(label="from the top", min_value=0, max_value=MOST_PIXELS, widget=Text)
    wide = forms.IntegerField(label="wide", min_value=4, max_value=MOST_PIXELS, widget=Text)
    high = forms.IntegerField(label="high", min_value=4, max_value=MOST_PIXELS, widget=Text)

    def __init__(self, sent: Any, box: tuple[int, int, int, int]) -> None:
        super().__init__(sent, initial=dict(zip(("left", "top", "wide", "high"), box, strict=True)), auto_id="box-%s")
        for field in self.fields.values():
            write_as(field, "fields/record.html")

    def box(self) -> tuple[int, int, int, int]:
        d = self.cleaned_data
        return d["left"], d["top"], d["wide"], d["high"]


def _marks(units: Units) -> dict[str, forms.Field]:
    near = DistanceField(label="First sharp mark", required=False)
    far = DistanceField(label="last sharp mark", required=False)
    step = DistanceField(label="marks every", required=False)
    for field in (near, far, step):
        field.units = units
    step.initial = "5 cm" if units == METRES else "2 in"
    return {"near": near, "far": far, "step": step}


def _seen_marks(d: dict[str, Any]) -> dict[str, Reading]:
    # the last sharp mark and the first soft one are a step apart, and the limit lies between
    half = (d.get("step") or MARKS_M) / 2
    found = {}
    if d.get("near"):
        near = d["near"] - half if d["near"] > 2 * half else d["near"]
        found["near"] = Reading(near, half / near)
    if d.get("far"):
        found["far"] = Reading(d["far"] + half, half / d["far"])
    return found


SEEN: dict[str, Any] = {
    "depth": (_marks, _seen_marks),
    "close": (
        lambda units: {"ruler": MillimetreField(label="Millimetres of the ruler that are sharp", low=0.1, high=5000.0)},
        lambda d: {"total": Reading(d["ruler"] / sqrt(2) / 1000, 1 / d["ruler"])},
    ),
    "stars": (
        lambda units: {"seen": AnswerField(label="The stars are", choices=[(POINTS, "points"), (DRAWN, "drawn out")])},
        lambda d: {"points": Reading(1.0 if d["seen"] == POINTS else 0.0)},
    ),
    "steadiness": (
        lambda units: {"sharp": NumberField(label="How many of the ten are sharp", low=0, high=10)},
        lambda d: {"steady": Reading(float(round(d["sharp"])))},
    ),
    "range": (
        lambda units: {
            "stops": NumberField(label="Stops from the brightest to the darkest told from noise", low=0.5, high=40)
        },
        lambda d: {"range": Reading(d["stops"], RANGE_WITHIN_STOPS)},
    ),
}
"""What an eye says, by trial: the fields that ask for it, and the readings that it comes to."""


class SeenForm(forms.Form):
    """What an eye says of a shot."""

    use_required_attribute = False

    def __init__(self, sent: Any, shot: Shot, units: Units) -> None:
        super().__init__(sent, prefix=shot.key, auto_id="seen-%s")
        self.shot = shot
        made, _ = SEEN[shot.trial]
        self.fields.update(made(units))
        for field in self.fields.values():
            write_as(field, "fields/record.html")

    def readings(self) -> dict[str, Reading]:
        found: dict[str, Reading] = SEEN[self.shot.trial][1](self.cleaned_data)
        return found
