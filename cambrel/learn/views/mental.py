"""The sums to carry in the head for one's own two systems, as a page and as a strip to print."""

from __future__ import annotations

from math import log2

from django import forms
from django.http import QueryDict
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.views.decorators.http import require_safe

from cambrel import wording
from cambrel.conventions.preferred import preferred_by
from cambrel.drills.ladder import Ladder, f_number_rungs, iso_rungs, ladder
from cambrel.inputs.fields import ChoiceField
from cambrel.optics.formats import CROP_MEASURES, FORMATS, Sensor, crop_factor
from cambrel.owners.requests import Request
from cambrel.shelf.systems import own_of
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW

FULL_STOPS = ("1.4", "2", "2.8", "4", "5.6", "8", "11")
ISO_MARKS = ("200", "400", "800", "1600", "3200", "6400")
USUAL_ANGLES = (24, 35, 50, 85, 135, 200)
"""Focal lengths on the larger frame, in full-frame terms."""
THIRDS = ("", "a third", "two thirds")
NUMBERS = ("", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
FACTORS = {
    1.1: "one point one", 1.25: "one and a quarter", 4 / 3: "one and a third", 1.5: "one and a half",
    1.6: "one point six",
    1.8: "one point eight", 2.2: "two point two", 2.5: "two and a half", 2.7: "two point seven",
    3.5: "three and a half",
}  # fmt: skip
FELT = 0.05
"""An error of so many stops is worth a number."""


class PairForm(forms.Form):
    """Between which two formats."""

    use_required_attribute = False

    def __init__(self, sent: QueryDict) -> None:
        super().__init__(sent)
        formats = [("", "my own two systems"), *((slug, frame.name) for slug, frame in FORMATS.items())]
        self.fields["small"] = ChoiceField(label="Between", choices=formats, required=False)
        self.fields["large"] = ChoiceField(label="and", choices=formats, required=False)


def factor_words(found: Ladder) -> str:
    """What focal lengths are multiplied by, as it is said."""
    return FACTORS.get(found.factor) or NUMBERS[round(found.factor)]


def stops_words(found: Ladder) -> str:
    """By how much f-numbers are moved, as it is said: two stops, one stop and a third, a third of a stop."""
    whole, rest = divmod(found.thirds, 3)
    if not whole:
        return f"{THIRDS[rest]} of a stop" if rest else "no stop"
    stops = f"{NUMBERS[whole]} {'stop' if whole == 1 else 'stops'}"
    return f"{stops} and {THIRDS[rest]}" if rest else stops


def honest(found: Ladder) -> str:
    """What the sum in the head is off by, in one sentence."""
    view, stops = found.view_error, found.stops_error
    focal = (
        "focal lengths come out right"
        if abs(view) <= LEVEL_VIEW
        else f"focal lengths come out {wording.share(abs(view))} too {'long' if view > 0 else 'short'}"
    )
    number = (
        "f-numbers come out right"
        if abs(stops) < FELT
        else f"f-numbers come out {wording.stops(stops)} too {'large' if stops > 0 else 'small'}"
    )
    return f"Against the exact factor of {wording.significant(found.k, 4)}, {focal} and {number}."


def _pair(request: Request, form: PairForm) -> tuple[tuple[str, Sensor], tuple[str, Sensor]]:
    """The smaller frame and the larger one, each with its name."""
    said = form.cleaned_data if form.is_valid() else {}
    own = own_of(request.user)
    pairs = []
    for key, camera in (("small", own.small), ("large", own.large)):
        slug = said.get(key)
        pairs.append((FORMATS[slug].name, FORMATS[slug]) if slug else (camera.name, camera.body.sensor))
    by = preferred_by(request.user).conventions.crop_by
    pairs.sort(key=lambda pair: -crop_factor(pair[1], by=by))
    return pairs[0], pairs[1]


@require_safe
def mental(request: Request) -> HttpResponseBase:
    """The ladder between two formats: said, laid out, and what it is off by."""
    form = PairForm(request.GET)
    (small, frame), (large, other) = _pair(request, form)
    by = preferred_by(request.user).conventions.crop_by
    conversion = ladder(max(1.0, crop_factor(frame, by=by) / crop_factor(other, by=by)))
    crop = crop_factor(other, by=by)
    focals = [
        (wording.significant(f / crop / conversion.factor, 2), wording.significant(f / crop, 2)) for f in USUAL_ANGLES
    ]
    context = {
        "form": form,
        "small": small,
        "large": large,
        "is_level": abs(log2(conversion.k)) * 2 <= LEVEL_STOPS,
        "factor": factor_words(conversion),
        "stops": stops_words(conversion),
        "honest": honest(conversion),
        "by": CROP_MEASURES[by].label,
        "strips": [
            ("Focal length, mm", focals),
            (
                "F-number for the same depth and light",
                [(a.marked, b.marked) for a, b in f_number_rungs(conversion, FULL_STOPS)],
            ),
            ("ISO for the same noise", [(a.marked, b.marked) for a, b in iso_rungs(conversion, ISO_MARKS)]),
        ],
        "own": not (request.GET.get("small") or request.GET.get("large")),
    }
    return render(request, "learn/mental.html", context)
