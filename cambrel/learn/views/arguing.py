"""The pages of what people argue about, with pictures of both sides on the reader's own cameras."""

from __future__ import annotations

from dataclasses import dataclass, replace

from django import forms
from django.http import Http404, QueryDict
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.views.decorators.http import require_safe

from cambrel.comparison.engine import Body, Comparison, RigFigures, compare
from cambrel.conventions.preferred import preferred_by
from cambrel.drawings.pair import PlacedPicture, pair
from cambrel.drawings.shapes import Drawing
from cambrel.drills.drawing import in_print
from cambrel.inputs.fields import ChoiceField
from cambrel.learn.argued import Chosen
from cambrel.learn.disputes import DISPUTES, OUTSIDE, DisputeSide
from cambrel.links.addresses import bench_address
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor
from cambrel.owners.requests import Request
from cambrel.pictures.shots import HEIGHTS, rig_shot
from cambrel.pictures.views import address
from cambrel.shelf.systems import own_of
from cambrel.wording import LETTERS

F_NUMBERS = ("1.4", "2", "2.8", "4", "5.6")
USUAL_F_NUMBER = "2.8"
PICTURE_PX = HEIGHTS[5]
PIXELS_ACROSS = 6000
"""Of either frame, so that only their sizes differ."""
SMALLER = tuple(
    slug
    for slug, frame in FORMATS.items()
    if frame.medium == "digital" and frame.diagonal_mm * 1.15 < FULL_FRAME.diagonal_mm
)


class ChosenForm(forms.Form):
    """On which frame it is argued, and at which f-number."""

    use_required_attribute = False

    def __init__(self, sent: QueryDict, own: str) -> None:
        super().__init__({"small": sent.get("small", ""), "n": sent.get("n") or USUAL_F_NUMBER})
        smaller = [("", own), *((slug, f"full frame and {FORMATS[slug].name}") for slug in SMALLER)]
        self.fields["small"] = ChoiceField(label="Cameras", choices=smaller, required=False)
        self.fields["n"] = ChoiceField(label="f/", choices=[(n, n) for n in F_NUMBERS], required=False)


@dataclass(frozen=True)
class SideShown:
    """A side as it is shown: its words, what it comes to, its two pictures as one drawing, and where it stands on the
    bench.
    """

    key: str
    claim: str
    terms: str
    says: str
    drawing: Drawing
    bench: str


def _chosen(request: Request, form: ChosenForm) -> Chosen:
    said = form.cleaned_data if form.is_valid() else {}
    conventions = in_print(preferred_by(request.user).conventions)
    number = float(said.get("n") or USUAL_F_NUMBER)
    if slug := said.get("small"):
        small = FORMATS[slug]
        frames = (
            Sensor(FULL_FRAME.width_mm, FULL_FRAME.height_mm, PIXELS_ACROSS),
            Sensor(small.width_mm, small.height_mm, PIXELS_ACROSS),
        )
        return Chosen(Body(frames[0]), "Full frame", Body(frames[1]), small.name, number, conventions)
    own = own_of(request.user)
    return Chosen(own.large.body, own.large.name, own.small.body, own.small.name, number, conventions)


def _pictures(side: DisputeSide, compared: Comparison, chosen: Chosen) -> Drawing:
    """Both pictures: to the scale of the sensors, or both to one height as they are printed."""
    bench, pictures = side.bench(chosen), []
    highest = max(compared.of(index).frames.height_mm for index in (0, 1))
    for index in (0, 1):
        rig = compared.of(index)
        shot = rig_shot(bench, compared, rig, grain=side.grain)
        if side.at_100_percent:
            shot = replace(shot, window=_at_100_percent(rig))
        wide = round(PICTURE_PX * shot.aspect_ratio())
        share = rig.frames.height_mm / highest if side.one_scale else 1.0
        name = f"{LETTERS[index]} {bench.slots[index].body_name}"
        pictures.append(PlacedPicture(address(shot.token(), PICTURE_PX), wide * share, PICTURE_PX * share, name))
    return pair(pictures, side.claim)


def _at_100_percent(rig: RigFigures) -> tuple[float, float, float, float]:
    """The part of a frame whose pixels are those of the picture drawn, about the subject."""
    down = (rig.frames.pixels * rig.frames.height_mm / rig.frames.width_mm) ** 0.5
    high = PICTURE_PX / down
    return (0.5 - high / 2, 0.3, high, high)


def _shown(number: int, side: DisputeSide, chosen: Chosen) -> SideShown:
    bench = side.bench(chosen)
    compared = compare(bench.brief, bench.rigs, bench.hold, bench.conventions)
    return SideShown(
        f"pictures-{number}",
        side.claim,
        side.terms,
        side.says(compared, chosen),
        _pictures(side, compared, chosen),
        bench_address(bench, panel=side.panel),
    )


@require_safe
def dispute(request: Request, key: str) -> HttpResponseBase:
    """Both sides of one question, each on its own terms."""
    if key not in DISPUTES:
        raise Http404
    dispute = DISPUTES[key]
    own = own_of(request.user)
    form = ChosenForm(request.GET, f"{own.large.name} and {own.small.name}")
    chosen = _chosen(request, form)
    context = {
        "dispute": dispute,
        "form": form,
        "sides": [_shown(number, side, chosen) for number, side in enumerate(dispute.sides, 1)],
        "outside": OUTSIDE,
        "others": [other for other in DISPUTES.values() if other is not dispute],
    }
    return render(request, "learn/dispute.html", context)
