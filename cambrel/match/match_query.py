"""What a request to Match asks: the picture, the targets and the filters, each with its message where it cannot be."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from math import inf
from typing import Any

from django import forms
from django.http import QueryDict

from cambrel import wording
from cambrel.comparison import Lens
from cambrel.comparison.bench import Gear
from cambrel.comparison.brief import SHAPES
from cambrel.comparison.engine import Body as OpticsBody
from cambrel.comparison.match import WantedLens
from cambrel.inputs.fields import (
    ChoiceField,
    DistanceField,
    FNumberField,
    FocalLengthField,
    GramField,
    IsoField,
    PriceField,
    TickField,
    TicksField,
    offer,
    write_as,
)
from cambrel.links.benches import decode_gear
from cambrel.links.codec import LinkError
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, largest_covered_format, nearest_format
from cambrel.optics.quantities import DomainError

MOST_TARGETS = 6
SAME_FORMAT = 0.03
"""Sensors within this of a named format's diagonal go by its name."""
USUAL_TARGETS = ("full-frame", "aps-c", "micro-four-thirds")


@dataclass(frozen=True)
class ShelfTargets:
    """What a shelf has to ask about, beside the named formats: its own formats by key with name and size, bodies by
    key, mounts.
    """

    own_formats: Mapping[str, tuple[str, Sensor]] = field(default_factory=dict)
    bodies: Mapping[str, str] = field(default_factory=dict)
    mounts: tuple[str, ...] = ()

    @cached_property
    def systems(self) -> dict[str, str]:
        return {f.slug: f.name for f in FORMATS.values()} | {key: name for key, (name, _) in self.own_formats.items()}


class AskForm(forms.Form):
    """The fields of Match; names are the core's where it has them."""

    use_required_attribute = False
    messages_at = "answers-problem"

    g = forms.CharField(required=False, max_length=3500, widget=forms.HiddenInput)
    format = ChoiceField(label="On", required=False)
    focal_length_mm = FocalLengthField(label="Focal length", help_text="mm")
    f_number = FNumberField(label="F-number")
    iso = IsoField(label="ISO", required=False)
    distance_m = DistanceField(label="Focused at", help_text="m, empty if far", required=False, may_be_infinite=True)
    whole = TickField("its whole range")
    t = TicksField(required=False)
    mount = ChoiceField(label="of the mount", required=False)
    adapters = TickField("adapters allowed")
    stabilised = TickField("stabilised")
    max_weight_g = GramField(label="at most", help_text="g", required=False)
    max_price = PriceField(label="at most", help_text="in the currency of each price", required=False)
    cost = ChoiceField(label="Chart against", choices=[("weight", "weight"), ("price", "price")], required=False)

    def __init__(self, data: Mapping[str, Any], offered: ShelfTargets) -> None:
        super().__init__(data)
        own = [(key, name) for key, (name, _) in offered.own_formats.items()]
        offer(self, "format", [*((f.slug, f"{f.name} ({f.designation})") for f in FORMATS.values()), *own])
        bodies = [("A body of the shelf", list(offered.bodies.items()))] if offered.bodies else []
        offer(self, "t", [*offered.systems.items(), *bodies])
        offer(self, "mount", [("", "any that fits"), *((mount, mount) for mount in offered.mounts)])
        for item in self.fields.values():
            write_as(item, "fields/record.html")


class FitForm(forms.Form):
    """A lens on a body, and the shape of the crop that is looked for; anything else is the first there is."""

    messages_at = ""

    lens = ChoiceField(label="Lens")
    body = ChoiceField(label="on")
    shape = ChoiceField(label="largest crop of shape", choices=[(key, shape.label) for key, shape in SHAPES.items()])

    def __init__(self, sent: QueryDict, lenses: dict[str, str], bodies: dict[str, str]) -> None:
        super().__init__(_sound(sent, lens=lenses, body=bodies, shape=SHAPES))
        offer(self, "lens", lenses.items())
        offer(self, "body", bodies.items())


class UpgradeForm(forms.Form):
    """From a kit to a body."""

    messages_at = ""

    kit = ChoiceField(label="From")
    body = ChoiceField(label="to")

    def __init__(self, sent: QueryDict, kits: dict[str, str], bodies: dict[str, str]) -> None:
        super().__init__(_sound(sent, kit=kits, body=bodies))
        offer(self, "kit", kits.items())
        offer(self, "body", bodies.items())


def _sound(sent: QueryDict, **offered: Any) -> dict[Any, Any]:
    """What was sent, with the first of what is offered in the place of what is none of it."""
    return {name: sent[name] if sent.get(name) in keys else next(iter(keys), "") for name, keys in offered.items()}


@dataclass
class MatchQuery:
    """A request read: the form, the gear by value, what is wanted, and the targets' keys."""

    form: AskForm
    gear: Gear
    wanted: WantedLens | None
    targets: list[str] = field(default_factory=list)
    problem: str = ""

    @property
    def picture(self) -> WantedLens:
        """What is wanted, where the request is sound."""
        assert self.wanted is not None
        return self.wanted

    @property
    def body(self) -> OpticsBody:
        """What the picture is made with now; `ask` puts one there."""
        assert self.gear.body is not None
        return self.gear.body

    @property
    def name(self) -> str:
        """The picture's lens and body, as far as they have names."""
        return ", ".join(name for name in (self.gear.lens_name, self.gear.body_name) if name) or "the picture"

    @property
    def sensor(self) -> Sensor:
        return self.body.sensor

    def says(self) -> str:
        """The picture in figures."""
        w = self.picture
        focal = wording.focal_range(w.focal_min_mm, w.focal_max_mm)
        number = wording.f_number_range(w.f_number_short, w.f_number_long)
        away = "" if w.object_distance_m == inf else f" at {wording.distance(w.object_distance_m)}"
        format_ = nearest_format(w.sensor)
        is_named = abs(format_.diagonal_mm / w.sensor.diagonal_mm - 1) < SAME_FORMAT
        on = format_.name if is_named else f"{w.sensor.width_mm:g} × {w.sensor.height_mm:g} mm"
        return f"{focal} {number} on {on}{away}"


def ask(query: QueryDict, offered: ShelfTargets) -> MatchQuery:
    """Read a request; what is wrong has its message by its field, and then nothing is wanted."""
    data: dict[str, Any] = query.dict()
    gear, problem = Gear(), ""
    try:
        gear = decode_gear(data["g"]) if data.get("g") else Gear()
    except LinkError as error:
        problem = str(error)
    lens = gear.lens
    if lens is not None and lens.focal_min_mm is not None:
        data.setdefault("focal_length_mm", f"{lens.focal_min_mm:g}")
        if lens.widest:
            data.setdefault("f_number", f"{float(lens.widest_f_number(lens.focal_min_mm)):g}")
        if "whole" not in data and lens.is_zoom and "focal_length_mm" not in query:
            data["whole"] = "1"
    if not any(data.get(name) for name in ("g", "focal_length_mm")) and "f_number" not in data:
        data |= {"format": "full-frame", "focal_length_mm": "50", "f_number": "1.8"}
    named = [key for key in query.getlist("t") if key in offered.systems or key in offered.bodies]
    targets = list(dict.fromkeys(named))[:MOST_TARGETS]
    lens_format, sensor = _format_of(data.get("format", ""), lens, offered.own_formats)
    here = nearest_format(sensor if gear.body is None else gear.body.sensor).slug
    if gear.body is None and not data.get("format"):
        data["format"] = here  # what is answered stands in its field
    data["t"] = targets = targets or [key for key in USUAL_TARGETS if key != here]
    form = AskForm(data, offered)
    form.is_valid()
    given = form.cleaned_data
    if gear.body is None:
        name = lens_format if lens is None else ""
        gear = Gear(OpticsBody(sensor), gear.body_name or name, gear.lens, gear.lens_name)
    question = MatchQuery(form, gear, None, targets, problem)
    if not form.errors and not problem:
        try:
            question.wanted = _wanted(gear, given)
        except DomainError as error:
            name = {"object_distance_m": "distance_m"}.get(error.parameter, error.parameter)
            form.add_error(name if name in form.fields else None, f"This must be {error.wanted}.")
    return question


def _format_of(key: str, lens: Lens | None, own_formats: Mapping[str, tuple[str, Sensor]]) -> tuple[str, Sensor]:
    """The format that is asked about: the one that was chosen, else the largest that the lens covers, else full
    frame.
    """
    if key in own_formats:
        return own_formats[key]
    covered = largest_covered_format(lens.image_circle_mm) if lens and lens.image_circle_mm else None
    f = FORMATS.get(key) or covered or FULL_FRAME
    return f.name, Sensor(f.width_mm, f.height_mm)


def _wanted(gear: Gear, given: Mapping[str, Any]) -> WantedLens:
    distance = inf if given["distance_m"] is None else given["distance_m"]
    lens, iso = gear.lens, given["iso"] or 100.0
    assert gear.body is not None
    if given["whole"] and lens is not None and lens.is_zoom and not lens.is_ad_hoc:
        low, high = lens.focal_min_mm, lens.focal_max_mm
        assert low is not None and high is not None
        short, long = (float(lens.widest_f_number(f)) if lens.widest else given["f_number"] for f in (low, high))
        return WantedLens(gear.body.sensor, low, high, short, long, iso, distance)
    f, n = given["focal_length_mm"], given["f_number"]
    return WantedLens(gear.body.sensor, f, f, n, n, iso, distance)
