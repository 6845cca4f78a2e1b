"""What a photographer must have, whatever the pictures say: it takes rigs and kits out, and what that costs is said."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from django import forms
from django.http import QueryDict

from cambrel import wording
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.inputs.fields import ChoiceField, GramField, PriceField, TickField, WordField, offer, write_as
from cambrel.optics.quantities import is_unknown


@dataclass(frozen=True)
class Trait:
    """Something that gear has or has not: its label, and whether a body and a lens have it; what is not known is not
    had.
    """

    label: str
    of_body: Callable[[Body], bool]
    of_lens: Callable[[Lens], bool]


TRAITS = {
    "autofocus": Trait("autofocus", lambda body: True, lambda lens: bool(lens.autofocus)),
    "locked": Trait(
        "a zoom that can be locked", lambda body: True, lambda lens: not lens.is_zoom or bool(lens.zoom_lock)
    ),
    "sealed": Trait(
        "sealed against weather", lambda body: bool(body.weather_sealed), lambda lens: bool(lens.weather_sealed)
    ),
}  # fmt: skip
"""What may be asked of every camera with its lens, by the end of its field."""


@dataclass(frozen=True)
class Musts:
    """What every rig and every kit has to have; nothing where nobody asked. carries_g: what the photographer's tracker
    may carry.
    """

    mount: str = ""
    is_stabilised: bool = False
    most_g: float | None = None
    most_price: float | None = None
    currency: str = ""
    carries_g: float | None = None
    traits: frozenset[str] = frozenset()
    handling: str = ""

    def __bool__(self) -> bool:
        return self != Musts()

    def rig(self, rig: Rig) -> bool:
        """Whether a camera with a lens has what it must; what is not known is not had."""
        if self.mount and rig.body.mount != self.mount:
            return False
        if self.is_stabilised and not rig.body.steadied_stops(rig.lens):
            return False
        if not all(TRAITS[key].of_body(rig.body) and TRAITS[key].of_lens(rig.lens) for key in self.traits):
            return False
        if not self.handled(rig.body.handling, rig.lens.handling):
            return False
        weights = (rig.body.weight_g, rig.lens.weight_g)
        return self.carries_g is None or (None not in weights and sum(filter(None, weights)) <= self.carries_g)

    def handled(self, *notes: str) -> bool:
        """Whether every word that is asked for stands in what is noted of body or lens."""
        noted = " ".join(notes).lower()
        return all(word in noted for word in self.handling.lower().split())

    def kit(self, grams: float, price: float, currency: str) -> str:
        """Why a kit is out; empty where it is not."""
        if self.most_g is not None and not grams <= self.most_g:
            return (
                f"weighs more than {wording.mass(self.most_g)}"
                if not is_unknown(grams)
                else "what it weighs is not known"
            )
        if self.most_price is not None and not (currency == self.currency and price <= self.most_price):
            if is_unknown(price) or currency != self.currency:
                return f"what it costs in {self.currency or 'one currency'} is not known"
            return f"costs more than {wording.money(self.most_price, currency)}"
        return ""


class MustsForm(forms.Form):
    """The fields of the musts; what is not sent is not asked."""

    use_required_attribute = False

    must_mount = ChoiceField(label="of the mount", required=False)
    must_stabilised = TickField("stabilised")
    must_autofocus = TickField(TRAITS["autofocus"].label)
    must_locked = TickField(TRAITS["locked"].label)
    must_sealed = TickField(TRAITS["sealed"].label)
    must_handling = WordField(label="handling says", required=False, max_length=60)
    must_track = ChoiceField(label="on the tracker", required=False)
    must_weigh = GramField(label="weighs at most", help_text="g", limits="weight_g", required=False)
    must_cost = PriceField(label="costs at most", limits="price", required=False)
    must_currency = ChoiceField(label="in", required=False)

    def __init__(
        self, sent: QueryDict, mounts: list[str], currencies: list[str], trackers: dict[str, tuple[str, float]]
    ) -> None:
        super().__init__(sent, auto_id="%s")
        self.trackers = trackers
        offer(self, "must_mount", [("", "any"), *((mount, mount) for mount in mounts)])
        offer(self, "must_currency", [(currency, currency) for currency in currencies] or [("", "–")])
        offer(self, "must_track", [("", "any"), *((key, f"fits on {name}") for key, (name, _) in trackers.items())])
        for item in self.fields.values():
            write_as(item, "fields/record.html")

    def musts(self) -> Musts:
        """What was asked soundly."""
        self.is_valid()
        sound = self.cleaned_data
        tracker = self.trackers.get(sound.get("must_track") or "")
        most = sound.get("must_cost")
        return Musts(
            sound.get("must_mount") or "",
            bool(sound.get("must_stabilised")),
            sound.get("must_weigh"),
            most,
            (sound.get("must_currency") or "") if most is not None else "",
            tracker[1] if tracker else None,
            frozenset(key for key in TRAITS if sound.get(f"must_{key}")),
            " ".join((sound.get("must_handling") or "").split()),
        )
