"""What Field takes in fields: the part of a picture that is measured, and what an eye says of a shot."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from math import sqrt
from typing import Any

from django import forms

from cambrel.bounds.doors import DOORS
from cambrel.inputs.fields import AnswerField, DistanceField, MillimetreField, NameField, NumberField, write_as
from cambrel.inputs.widgets import Text
from cambrel.trials.outcomes import Reading
from cambrel.trials.plans import Shot
from cambrel.wording import METRES, Units

MARKS_M = 0.05
RANGE_WITHIN_STOPS = 0.5
POINTS, DRAWN = "points", "drawn"


class BoxForm(forms.Form):
    """A part of a picture in its own pixels, from its upper left corner."""

    use_required_attribute = False

    left = forms.IntegerField(label="From the left", min_value=0, max_value=DOORS["decoding"].most_pixels, widget=Text)
    top = forms.IntegerField(label="from the top", min_value=0, max_value=DOORS["decoding"].most_pixels, widget=Text)
    wide = forms.IntegerField(label="wide", min_value=4, max_value=DOORS["decoding"].most_pixels, widget=Text)
    high = forms.IntegerField(label="high", min_value=4, max_value=DOORS["decoding"].most_pixels, widget=Text)

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
        found["near"] = Reading(near, half / near, noted=d["near"])
    if d.get("far"):
        found["far"] = Reading(d["far"] + half, half / d["far"], noted=d["far"])
    return found


def _noted_marks(held: Mapping[str, Reading]) -> dict[str, Any]:
    near, far = held.get("near"), held.get("far")
    half = near.within * near.value if near else far.within * (far.noted or far.value) if far else MARKS_M / 2
    marks = {key: one.noted or one.value for key, one in held.items() if key in ("near", "far")}
    return marks | ({"step": 2 * half} if marks else {})


@dataclass(frozen=True)
class Eye:
    """What an eye says of a trial: the fields that ask for it, the readings that it comes to, and what was typed for those that are held."""

    fields: Callable[[Units], dict[str, forms.Field]]
    readings: Callable[[dict[str, Any]], dict[str, Reading]]
    typed: Callable[[Mapping[str, Reading]], dict[str, Any]]


SEEN: dict[str, Eye] = {
    "depth": Eye(_marks, _seen_marks, _noted_marks),
    "close": Eye(
        lambda units: {"ruler": MillimetreField(label="Millimetres of the ruler that are sharp", low=0.1, high=5000.0)},
        lambda d: {"total": Reading(d["ruler"] / sqrt(2) / 1000, 1 / d["ruler"])},
        lambda held: {"ruler": held["total"].value * sqrt(2) * 1000},
    ),
    "stars": Eye(
        lambda units: {"seen": AnswerField(label="The stars are", choices=[(POINTS, "points"), (DRAWN, "drawn out")])},
        lambda d: {"points": Reading(1.0 if d["seen"] == POINTS else 0.0)},
        lambda held: {"seen": POINTS if held["points"].value else DRAWN},
    ),
    "steadiness": Eye(
        lambda units: {"sharp": NumberField(label="How many of the ten are sharp", low=0, high=10)},
        lambda d: {"steady": Reading(float(round(d["sharp"])))},
        lambda held: {"sharp": held["steady"].value},
    ),
    "range": Eye(
        lambda units: {
            "stops": NumberField(label="Stops from the brightest to the darkest told from noise", low=0.5, high=40)
        },
        lambda d: {"range": Reading(d["stops"], RANGE_WITHIN_STOPS)},
        lambda held: {"stops": held["range"].value},
    ),
}
"""By trial."""


class SeenForm(forms.Form):
    """What an eye says of a shot."""

    use_required_attribute = False

    def __init__(self, sent: Any, shot: Shot, units: Units, held: Mapping[str, Reading] | None = None) -> None:
        eye = SEEN[shot.trial]
        super().__init__(sent, prefix=shot.key, auto_id="seen-%s", initial=eye.typed(held) if held else {})
        self.shot = shot
        self.fields.update(eye.fields(units))
        for field in self.fields.values():
            write_as(field, "fields/record.html")

    def readings(self) -> dict[str, Reading]:
        return SEEN[self.shot.trial].readings(self.cleaned_data)


class FileOf(forms.FileInput):
    """A file to choose."""

    def __init__(self) -> None:
        super().__init__({"class": "form-control form-control-sm"})


class PlaceForm(forms.Form):
    """An own scene: its pictures, and what is how far away and how high."""

    use_required_attribute = False

    name = NameField()
    background = forms.FileField(
        label="Picture of the place", required=False, widget=FileOf(), error_messages={"invalid": "Choose a file."}
    )
    subject = forms.FileField(
        label="Cut-out of the subject", help_text="PNG or WebP with transparency; else the usual figure", required=False, widget=FileOf()
    )  # fmt: skip
    distance_m = DistanceField(
        label="Subject from the camera", low=0.05, high=10_000.0, error_messages={"required": "Give a distance."}
    )
    subject_height_m = DistanceField(
        label="Height of the subject", low=0.005, high=1000.0, error_messages={"required": "Give a height."}
    )
    background_m = DistanceField(
        label="Place behind the subject", low=0.01, high=10_000.0, error_messages={"required": "Give a distance."}
    )
    background_height_m = DistanceField(
        label="Height of what its picture shows there", help_text="empty: from its own focal length, taken from where the camera stands",
        low=0.01, high=10_000.0, required=False,
    )  # fmt: skip
    background_foot_m = DistanceField(label="Its lower edge above the ground", low=-1000.0, high=1000.0, required=False)
    camera_height_m = DistanceField(
        label="Height of the camera", low=0.01, high=1000.0, error_messages={"required": "Give a height."}
    )

    def __init__(self, sent: Any, files: Any, units: Units, record: Any, *, is_new: bool) -> None:
        figures = [name for name in self.base_fields if name.endswith("_m")]
        super().__init__(
            sent, files, initial={name: getattr(record, name) for name in ("name", *figures)}, auto_id="place-%s"
        )
        self.fields["background"].required = is_new
        self.fields["background"].error_messages["required"] = "Choose a picture of the place."
        for name, field in self.fields.items():
            write_as(field, "fields/record.html")
            if name in figures:
                field.units = units  # type: ignore[attr-defined]
