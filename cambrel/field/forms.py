"""What Field takes in fields: the part of a picture that is measured, and what an eye says of a shot."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, cast

from django import forms

from cambrel.bounds.doors import DOORS
from cambrel.inputs.fields import AnswerField, DistanceField, MillimetreField, NameField, NumberField, write_as
from cambrel.inputs.widgets import TypedInput
from cambrel.trials.outcomes import PictureReading
from cambrel.trials.trial import Eye, EyeAnswers, Typed
from cambrel.trials.trial_shots import TrialShot
from cambrel.wording import METRES, Units


class BoxForm(forms.Form):
    """A part of a picture in its own pixels, from its upper left corner."""

    use_required_attribute = False

    left = forms.IntegerField(
        label="From the left", min_value=0, max_value=DOORS["decoding"].most_pixels, widget=TypedInput
    )
    top = forms.IntegerField(
        label="from the top", min_value=0, max_value=DOORS["decoding"].most_pixels, widget=TypedInput
    )
    wide = forms.IntegerField(label="wide", min_value=4, max_value=DOORS["decoding"].most_pixels, widget=TypedInput)
    high = forms.IntegerField(label="high", min_value=4, max_value=DOORS["decoding"].most_pixels, widget=TypedInput)

    def __init__(self, sent: Mapping[str, object] | None, box: tuple[int, int, int, int]) -> None:
        super().__init__(sent, initial=dict(zip(("left", "top", "wide", "high"), box, strict=True)), auto_id="box-%s")
        for field in self.fields.values():
            write_as(field, "fields/record.html")

    def box(self) -> tuple[int, int, int, int]:
        d = self.cleaned_data
        return d["left"], d["top"], d["wide"], d["high"]


def _field(asked: Typed, units: Units) -> forms.Field:
    """The field for what an eye is asked for."""
    options: dict[str, Any] = {"label": asked.label, "required": asked.is_required}
    made: forms.Field
    if asked.kind == "distance":
        made = DistanceField(**options)
        made.units = units
    elif asked.choices:
        made = AnswerField(choices=list(asked.choices), **options)
    else:
        made = EYE_FIELDS[asked.kind](low=asked.low, high=asked.high, **options)
    metric, imperial = asked.usual
    made.initial = metric if units == METRES else imperial
    return made


EYE_FIELDS: dict[str, Callable[..., forms.Field]] = {"millimetres": MillimetreField, "number": NumberField}


class SeenForm(forms.Form):
    """What an eye says of a shot."""

    use_required_attribute = False

    def __init__(
        self,
        sent: Mapping[str, object] | None,
        shot: TrialShot,
        eye: Eye,
        units: Units,
        held: Mapping[str, PictureReading] | None = None,
    ) -> None:
        self.eye = eye
        super().__init__(sent, prefix=shot.key, auto_id="seen-%s", initial=dict(eye.typed(held)) if held else {})
        self.shot = shot
        self.fields.update({name: _field(asked, units) for name, asked in eye.asks.items()})
        for field in self.fields.values():
            write_as(field, "fields/record.html")

    def readings(self) -> dict[str, PictureReading]:
        return self.eye.readings(cast(EyeAnswers, self.cleaned_data))


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
        label="Cut-out of the subject", help_text="PNG or WebP with transparency. Empty: the usual figure",
        required=False, widget=FileOf()
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
        label="Height of what its picture shows there",
        help_text="empty: from its own focal length, taken from where the camera stands",
        low=0.01, high=10_000.0, required=False,
    )  # fmt: skip
    background_foot_m = DistanceField(label="Its lower edge above the ground", low=-1000.0, high=1000.0, required=False)
    camera_height_m = DistanceField(
        label="Height of the camera", low=0.01, high=1000.0, error_messages={"required": "Give a height."}
    )

    def __init__(
        self, sent: Mapping[str, object] | None, files: Any, units: Units, record: Any, *, is_new: bool
    ) -> None:
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
