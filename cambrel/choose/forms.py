"""What Choose takes in fields: how often each picture is made, a change to try, and a decision to keep."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from django import forms

from cambrel.bounds.names import is_shown
from cambrel.choose.deciding import WantedPicture
from cambrel.choose.models import LONGEST_REASONS
from cambrel.choose.packing import GearShelf
from cambrel.decisions.choice import KitBag
from cambrel.inputs.fields import ChoiceField, NameField, NumberField, WordField, offer, write_as

USUAL_SHARE = 1.0


class SharesForm(forms.Form):
    """How often each picture is made, in any unit: only the ratios count. What is not sent is as often as any other."""

    use_required_attribute = False

    def __init__(self, sent: Mapping[str, Any], tasks: list[WantedPicture], usual: dict[str, float]) -> None:
        super().__init__(data=None, auto_id="share-%s")
        for task in tasks:
            field = NumberField(label=f"How often: {task.task.name}", low=0, high=1e6, required=False)
            field.initial = usual.get(task.key, USUAL_SHARE)
            self.fields[task.key] = field
        shown = {name: f"{field.initial:g}" for name, field in self.fields.items()}
        self.data = {name: sent.get(name, shown[name]) for name in self.fields}
        self.is_bound = True

    def shares(self) -> dict[str, float]:
        self.is_valid()
        return {
            name: float(self.cleaned_data.get(name) or 0.0) if name not in self.errors else field.initial
            for name, field in self.fields.items()
        }


class TryForm(forms.Form):
    """One change to one kit: what comes, found on the shelf or stated by its figures, and what it takes the place
    of.
    """

    use_required_attribute = False

    try_place = ChoiceField(label="In", required=False)
    try_with = WordField(label="pack", help_text="a name of the shelf, or 25 mm f/1.4", required=False, max_length=60)

    def __init__(self, sent: Mapping[str, Any] | None, bags: list[KitBag], shelf: GearShelf) -> None:
        super().__init__(sent, auto_id="%s")
        self.shelf = shelf
        offer(self, "try_place", [(bag.name, list(self._places(bag))) for bag in bags])
        for item in self.fields.values():
            write_as(item, "fields/record.html")

    @staticmethod
    def _places(bag: KitBag) -> Iterator[tuple[str, str]]:
        yield f"{bag.key}:", f"{bag.name}: one thing more"
        for piece in bag.pieces:
            if piece.kind in ("body", "lens"):
                yield f"{bag.key}:{piece.key}", f"{bag.name}: in place of {piece.name}"

    def token(self) -> str:
        """The change as it stands in an address; empty where none is asked for."""
        place, wanted = self.data.get("try_place", ""), " ".join(self.data.get("try_with", "").split())
        if not self.is_valid() or not place or (place.endswith(":") and not wanted):
            return ""
        comes = self.shelf.called(wanted) if wanted else ""
        if comes is None:
            self.add_error("try_with", f"Nothing on the shelf is called “{wanted}”, and it states no lens or sensor.")
            return ""
        # it stands among the kits from now on
        self.data = dict(self.data.items()) | {"try_with": ""}
        return f"{place}:{comes}"


class KeepForm(forms.Form):
    """The question, what was taken, and why."""

    use_required_attribute = False
    messages_at = ""

    name = NameField()
    took = WordField(label="Taken", required=False, max_length=60)
    reasons = forms.CharField(
        label="Why", required=False, max_length=LONGEST_REASONS, widget=forms.Textarea({"rows": 3})
    )

    def __init__(self, sent: Mapping[str, Any] | None = None) -> None:
        super().__init__(sent, auto_id="keep-%s")
        self.fields["name"].label = "Question"
        self.fields["took"].help_text = "a kit, a change, or staying"
        self.fields["reasons"].help_text = "handling, trust, weather: what no figure says"

    def clean_took(self) -> str:
        return self._shown("took")

    def clean_reasons(self) -> str:
        return self._shown("reasons")

    def _shown(self, name: str) -> str:
        text = str(self.cleaned_data[name])
        if not all(is_shown(line) for line in text.splitlines()):
            raise forms.ValidationError("It has characters that cannot be shown.")
        return text
