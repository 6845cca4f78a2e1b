"""A picture of one's own, put beside the samples from the page of Choose."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from django import forms

from cambrel.briefs.models import SavedBrief
from cambrel.choose.deciding import MOST_SAVED
from cambrel.comparison.bench import Task
from cambrel.comparison.brief import LIGHT_LEVELS, Brief
from cambrel.inputs.fields import ChoiceField, DistanceField, NameField, NumberField, write_as
from cambrel.links.benches import encode_brief
from cambrel.owners.models import User

USUAL = Brief()
USUAL_WIDTH_M = 2.0


class OwnPictureForm(forms.Form):
    """What says of a picture which kit can take it. More is asked of it on the Bench."""

    use_required_attribute = False

    name = NameField()
    distance_m = DistanceField(label="How far away", initial=USUAL.distance_m)
    width_shown_m = DistanceField(label="How wide it shows", limits="width_shown_m", initial=USUAL_WIDTH_M)
    background_m = DistanceField(
        label="Background behind it", limits="background_m", initial=USUAL.background_m, may_be_infinite=True
    )
    light_ev = ChoiceField(label="Light", choices=[(f"{level.ev:g}", level.label) for level in LIGHT_LEVELS])
    subject_speed_m_per_s = NumberField(label="Moves across at", limits="subject_speed_m_per_s", initial=0.0)
    shown_long_side_mm = NumberField(
        label="Shown", limits="shown_long_side_mm", initial=USUAL.shown_long_side_mm, help_text="mm, its long side"
    )

    def __init__(self, sent: Mapping[str, Any] | None = None) -> None:
        super().__init__(sent, auto_id="picture-%s", initial={"light_ev": f"{USUAL.light_ev:g}"})
        self.fields["name"].label = "What it is"
        self.fields["subject_speed_m_per_s"].help_text = "m/s"
        self.fields["distance_m"].help_text = self.fields["width_shown_m"].help_text = "m"
        self.fields["background_m"].help_text = "m, or infinity"
        for name, item in self.fields.items():
            item.is_needed = name == "name"  # type: ignore[attr-defined]
            write_as(item, "fields/record.html")

    def brief(self) -> Brief:
        """The picture; of what was left empty as usual."""
        said = {name: value for name, value in self.cleaned_data.items() if name != "name" and value is not None}
        return replace(USUAL, **(said | {"light_ev": float(said["light_ev"])}))

    def saved(self, owner: User) -> SavedBrief:
        """Its record, not kept yet."""
        name = self.cleaned_data["name"]
        return SavedBrief(owner=owner, name=name, token=encode_brief(Task(self.brief(), name)))


def is_full(owner: User) -> bool:
    """Whether Choose shows no more pictures of this owner."""
    return bool(SavedBrief.objects.for_owner(owner).count() >= MOST_SAVED)
