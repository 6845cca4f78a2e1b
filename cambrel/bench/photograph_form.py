"""What a photograph is asked for where its file does not say it, as a form."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import fields
from datetime import datetime
from math import isfinite
from typing import Any

from django import forms

from cambrel.inputs.fields import (
    ChoiceField,
    DistanceField,
    FNumberField,
    FocalLengthField,
    IsoField,
    ShutterField,
    offer,
    write_as,
)
from cambrel.photographs.taken import LIMITS, Taken
from cambrel.wording import Units

FIGURES = ("focal_length_mm", "f_number", "shutter_s", "iso", "distance_m")
"""Of what a bench needs of a picture, the figures."""
NAMED = {
    "camera": "the camera",
    "focal_length_mm": "the focal length",
    "f_number": "the f-number",
    "shutter_s": "the shutter time",
    "iso": "the ISO",
    "distance_m": "how far away the subject was",
}
"""What is asked, as it is said."""
LONGEST = 60
TOLD = tuple(field.name for field in fields(Taken) if field.name not in ("notes", "is_resized"))


def told_in(query: Mapping[str, str]) -> Taken:
    """What a file said, as an address carries it; what makes no sense there is left out."""

    def number(name: str) -> float | None:
        try:
            value = float(query.get(name, ""))
        except ValueError:
            return None
        low, high = LIMITS.get(name, (1.0, 1e6))
        return value if isfinite(value) and low <= value <= high else None

    def pixels(name: str) -> int | None:
        value = number(name)
        return None if value is None else int(value)

    try:
        at = datetime.fromisoformat(query.get("at", ""))
    except ValueError:
        at = None
    return Taken(
        body=" ".join(query.get("body", "").split())[:LONGEST],
        lens=" ".join(query.get("lens", "").split())[:LONGEST],
        at=at,
        wide_px=pixels("wide_px"),
        high_px=pixels("high_px"),
        is_flashed={"1": True, "0": False}.get(query.get("is_flashed", "")),
        focal_length_mm=number("focal_length_mm"),
        focal_35_mm=number("focal_35_mm"),
        f_number=number("f_number"),
        shutter_s=number("shutter_s"),
        iso=number("iso"),
        distance_m=number("distance_m"),
    )


def written(taken: Taken) -> dict[str, str]:
    """The same as an address carries it."""
    values = {name: getattr(taken, name) for name in TOLD}
    values |= {"at": taken.at.isoformat(timespec="seconds") if taken.at else None}
    values |= {"is_flashed": None if taken.is_flashed is None else int(taken.is_flashed)}
    return {name: str(value) for name, value in values.items() if value not in (None, "")}


class PhotographForm(forms.Form):
    """The camera and the settings of a picture, and how far away its subject was."""

    use_required_attribute = False

    camera = ChoiceField(label="Camera", error_messages={"required": "Choose a camera, or its format."})
    focal_length_mm = FocalLengthField(
        label="Focal length in mm", help_text="its own, not the equivalent",
        error_messages={"required": "Give the focal length."}
    )  # fmt: skip
    f_number = FNumberField(label="f-number", error_messages={"required": "Give the f-number."})
    shutter_s = ShutterField(label="Shutter time", error_messages={"required": "Give the shutter time, such as 1/125."})
    iso = IsoField(label="ISO", error_messages={"required": "Give the ISO."})
    distance_m = DistanceField(
        label="Subject from the camera", error_messages={"required": "Give a distance, such as 2 m. A guess is enough."}
    )

    def __init__(
        self,
        sent: Mapping[str, object] | None,
        known: Mapping[str, object],
        cameras: list[tuple[str, object]],
        units: Units,
    ) -> None:
        super().__init__(sent, initial=dict(known), auto_id="photograph-%s")
        offer(self, "camera", cameras)
        for field in self.fields.values():
            write_as(field, "fields/record.html")
        distance: Any = self.fields["distance_m"]
        distance.units = units

    def clean(self) -> dict[str, Any]:
        d: dict[str, Any] = super().clean() or {}
        focal, distance = d.get("focal_length_mm"), d.get("distance_m")
        if focal and distance and not 1000 * distance > focal:
            self.add_error("distance_m", "Nothing is sharp nearer than the focal length. Type a larger distance.")
        return d
