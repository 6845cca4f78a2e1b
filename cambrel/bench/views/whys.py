"""Why: what stands behind a figure, a flag or a sentence of a bench, with this case's numbers, what is kept the same,
and what others would say.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import isfinite
from typing import Any
from urllib.parse import urlencode

from django.http import Http404
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_safe

from cambrel import wording
from cambrel.bench.sample_benches import opening_bench
from cambrel.comparison.bench import Bench
from cambrel.comparison.engine import Comparison, RigFigures, compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.status import Status
from cambrel.comparison.wishes import WISH_OF_DEMAND, WISH_OF_FIGURE
from cambrel.conventions.preferred import preferred_by
from cambrel.conventions.questions import OF_FIGURES, question
from cambrel.inputs.fields import whole
from cambrel.links.addresses import bench_address
from cambrel.links.benches import decode
from cambrel.links.codec import LinkError
from cambrel.optics.quantities import DomainError, is_unknown
from cambrel.owners.requests import Request
from cambrel.verdicts import RESTS_ON, SAYS, Verdict, verdicts
from cambrel.verdicts.among_all import FEWEST, among_all, of_pair
from cambrel.verdicts.another_camera import on_others
from cambrel.verdicts.explanations import LIMITS, WHYS, label_of, value_of, worked
from cambrel.wording import LETTERS, UNITS, Units
from cambrel.wording.sentences import LEVEL_DEPTH, LEVEL_STOPS, LEVEL_VIEW
from cambrel.wording.written import written

LEVEL = (
    f"Smaller differences are called the same: {LEVEL_VIEW:.0%} of the view, {LEVEL_DEPTH:.0%} of "
    f"depth, 1/{1 / LEVEL_STOPS:.0f} stop of light or blur."
)
NO_LINE = {
    "brief": (
        "Can it take the picture?",
        "What the picture needs, one after the other. The worst failing comes first, with its cure.",
    ),
    "mount": (
        "Another mount",
        (
            "Lens and body have different mounts. Whether an adapter fits depends on how far each mount "
            "holds the lens from the sensor."
        ),
    ),
    "base_range": (
        "Tonal range at base ISO",
        "The same at the body's base ISO, where a pixel holds most.",
    ),
    "bracket": (
        "Frames to bracket",
        ("One frame, and more for the range that it cannot hold: 1 + (scene − range) / spacing, rounded up."),
    ),
    "lifted": (
        "Shadows lifted",
        ("Signal to noise of a tone that many stops below mid-grey. Each stop halves its electrons."),
    ),
    "noise_state": (
        "Is the noise seen?",
        (
            "By the signal to noise of mid-grey. You see noise below 40, which ISO 12232 calls "
            "excellent. It disturbs below 10, which it calls acceptable. Both can be set under "
            "Conventions."
        ),
    ),
    "megapixels_left": (
        "Megapixels left",
        "Cropped to the tightest view shown here: the pixels times what is kept of each side.",
    ),
    "stretch": (
        "A face at the edge",
        (
            "A straight lens stretches round things towards the edge: by 1 + (r / v)², with r from the "
            "middle and v the image distance."
        ),
    ),
    "fall_off": (
        "Light lost in the corner",
        "From the record of the lens, wide open, at the image height of this frame’s corner.",
    ),
    "before_lens": (
        "Room before the lens",
        (
            "From the front of the lens to the subject: the distance from the sensor mark, less the "
            "mount's register and the extended lens. A guide, because no real lens is a thin one."
        ),
    ),
    "stack": (
        "Frames in a stack",
        (
            "The near limit of each frame stands on the far limit of the one before, until the range is covered: one"
            " with its near limit at a is focused at u = a × (H − f) / (H − a), with H = f² / (N × c)."
        ),
    ),
    "target": (
        "A thing of that angle",
        "As large as 2 × f × tan(half its angle) on the sensor, against the short side of the frame.",
    ),
    "stabilisation": (
        "Stabilisation",
        "From the records of body and lens: the larger of the two, unless the record says how they add up.",
    ),
    "asked_for": ("Asked for", "The slowest shutter time that the picture allows."),
}
"""What is no figure of a rig as it stands: its title, and what is to be said of it."""
MOST_SCHOOLS, MOST_FIGURES = 8, 3
CONVENTIONS = {of_figure.key for of_figure in OF_FIGURES}


@dataclass(frozen=True)
class WhyRow:
    """A figure of one rig, and how it comes about there."""

    letter: str
    value: str
    numbers: str


@dataclass(frozen=True)
class WhyPart:
    """One figure: what it is, its formula with what the symbols are, and each rig's numbers."""

    title: str
    says: str
    formula: str
    symbols: tuple[tuple[str, str], ...]
    rows: tuple[WhyRow, ...]


@dataclass(frozen=True)
class SchoolInForce:
    """A convention that bears upon it: which is in force, and what each other would make of the figure."""

    asks: str
    in_force: str
    reason: str
    others: tuple[tuple[str, str], ...]


def said(key: str, comparison: Comparison, rig: RigFigures, units: Units) -> str:
    """A figure as it is shown."""
    figure = value_of(key, comparison, rig)
    if not isfinite(float(figure.value)):
        return "unknown" if is_unknown(float(figure.value)) else "without end"
    if key == "price":
        return wording.money(float(figure.value), rig.rig.body.currency)
    return wording.figure(figure, units)


def part_of(key: str, comparison: Comparison, rigs: Sequence[RigFigures], units: Units) -> WhyPart:
    """A figure of some rigs, explained."""
    rows, formulas = [], set[str]()
    symbols: dict[str, str] = {}
    for rig in rigs:
        line = worked(key, comparison, rig)
        shown = None if line is None else written(line)
        rows.append(WhyRow(LETTERS[rig.index], said(key, comparison, rig, units), shown.numbers if shown else ""))
        if shown:
            formulas.add(shown.formula)
            symbols |= {symbol: name for symbol, name, _ in shown.terms if symbol not in symbols}
    title = label_of(key)[:1].upper() + label_of(key)[1:]
    # where the rigs go by unlike formulas their numbers say how
    formula = formulas.pop() if len(formulas) == 1 else ""
    return WhyPart(title, WHYS[key].says, formula, tuple(symbols.items()), tuple(rows))


def schools_of(keys: Sequence[str], bench: Bench, rigs: Sequence[int], units: Units) -> list[SchoolInForce]:
    """The conventions that some figures go by, each with what it would be under the others: of the first figure that
    goes by it.
    """
    schools: dict[str, SchoolInForce] = {}
    for key in keys:
        for asked in WHYS[key].asks:
            if asked in schools:
                continue
            convention, now = question(asked), getattr(bench.conventions, asked)
            if convention.schools is None:
                schools[asked] = SchoolInForce(
                    convention.title, wording.significant(float(now), 4), convention.changes, ()
                )
                continue
            others = []
            for other, school in list(convention.schools.items())[:MOST_SCHOOLS]:
                if other == now:
                    continue
                answer: dict[str, Any] = {asked: other}
                under = replace(bench.conventions, **answer)
                comparison = compare(bench.brief, bench.rigs, bench.hold, under, bench.reference)
                values = [f"{LETTERS[i]} {said(key, comparison, comparison.of(i), units)}" for i in rigs]
                others.append((school.label, ", ".join(values)))
            schools[asked] = SchoolInForce(
                convention.title, convention.schools[now].label, convention.schools[now].reason, tuple(others)
            )
    return list(schools.values())


def _said(request: Request, comparison: Comparison) -> list[Verdict]:
    """All that the bench says of a comparison, in whichever way it is asked: of a photograph, of two that are set
    against each other, of all, of each.
    """
    pair = [index for index in map(whole, request.GET.get("pair", "")[:2]) if index is not None]
    if len(pair) == 2 and max(pair) < len(comparison.rigs):
        try:
            return of_pair(comparison, *pair)
        except DomainError:
            raise Http404 from None
    ranked = among_all(comparison) if len(comparison.rigs) >= FEWEST else []
    return [*on_others(comparison), *ranked, *verdicts(comparison)]


def _asked(request: Request, comparison: Comparison, units: Units) -> tuple[str, str, list[str], list[int]]:
    """What is to be explained: its title, what is said of it, the figures that it rests on, and of which rigs."""
    count = len(comparison.rigs)
    rig = whole(request.GET.get("rig", ""))
    rigs = [rig] if rig is not None and rig < count else list(range(count))
    if (verdict := request.GET.get("verdict", "")) in RESTS_ON:
        spoken = [
            verdict_said
            for verdict_said in _said(request, comparison)
            if verdict_said.key == verdict and (rig is None or rig in verdict_said.rigs[-1:])
        ]
        if not spoken:
            raise Http404
        about = sorted(set(spoken[0].rigs)) or list(range(count))
        return wording.sentence(spoken[0], units), SAYS.get(verdict, ""), list(RESTS_ON[verdict]), about
    if (asked := request.GET.get("convention", "")) in CONVENTIONS:
        convention = question(asked)
        return (
            convention.title,
            convention.changes,
            [key for key, why in WHYS.items() if asked in why.asks][:MOST_FIGURES],
            rigs,
        )
    of = request.GET.get("of", "")
    if of in NO_LINE:
        return *NO_LINE[of], [], rigs
    if of not in WHYS:
        raise Http404
    return "", "", [of], rigs


def asked_bench(request: Request) -> Bench:
    """The bench of a request, or the one that everybody begins with."""
    token = request.GET.get("b", "")
    try:
        return decode(token) if token else replace(opening_bench(), conventions=preferred_by(request.user).conventions)
    except LinkError:
        raise Http404 from None


@require_safe
def why(request: Request) -> HttpResponseBase:
    """What stands behind one thing that a bench says: in place, or as a page."""
    bench, units = asked_bench(request), UNITS[preferred_by(request.user).units]
    try:
        comparison = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
    except DomainError:
        raise Http404 from None
    title, says, keys, rigs = _asked(request, comparison, units)
    figures = [comparison.of(index) for index in rigs]
    context = {
        "title": title,
        "says": says,
        "checks": _checks(request, comparison, rigs, units) if request.GET.get("of") == "brief" else [],
        "parts": [part_of(key, comparison, figures, units) for key in keys],
        "hold": bench.hold.sentence(),
        "schools": schools_of(keys, bench, rigs, units),
        "limits": [LIMITS[key] for key in dict.fromkeys(limit for key in keys for limit in WHYS[key].limits)],
        "takes": [_take(request, WISH_OF_FIGURE[key], rigs[0]) for key in keys if key in WISH_OF_FIGURE],
        "level": LEVEL if "verdict" in request.GET else "",
        "bench": bench_address(bench),
    }
    card = request.GET.get("card") == "1"
    return render(request, "bench/_why.html" if card else "bench/why.html", context)


def _take(request: Request, wish: str, rig: int) -> str:
    """Where it is said what a figure would take."""
    given = {"b": request.GET["b"]} if "b" in request.GET else {}
    return f"{reverse('bench:take')}?{urlencode({**given, 'of': wish, 'rig': rig})}"


def _checks(
    request: Request, comparison: Comparison, rigs: Sequence[int], units: Units
) -> list[tuple[str, list[tuple[str, str]]]]:
    """All that a picture asks for, by rig: each with where it is said what it would take, if it is not met."""
    answers = fulfilment(comparison)
    said = []
    for index in rigs:
        checks = []
        for check in answers[index].checks:
            wish = "" if check.status is Status.DOES else WISH_OF_DEMAND.get(check.key, "")
            take = _take(request, wish, index) if wish else ""
            checks.append((f"{check.status}: {wording.sentence(check, units)}", take))
        said.append((LETTERS[index], checks))
    return said
