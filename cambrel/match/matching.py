"""The answers of Match: for each target the exact settings, and the lenses that come nearest, with why they are near or
not.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from math import isnan

import numpy as np
from numpy.typing import NDArray

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.comparison.match import CANNOT, EXACT, NEAR, UNKNOWN, Matches, Needed, efficient, match, setting_cost_stops
from cambrel.drawings.shapes import Drawing
from cambrel.drawings.tradeoff import Candidate, tradeoff_drawing
from cambrel.match.lens_shelf import LensShelf
from cambrel.match.match_query import SAME_FORMAT, MatchQuery
from cambrel.match.rows import WORDS, LensRow, RowSource, Target, drawn_to_one_scale, row_of, source_of, view_words
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, covers, crop_factor
from cambrel.optics.quantities import Flags
from cambrel.optics.stops import F_NUMBERS, ISOS, nearest, nearest_within
from cambrel.shelf.models import Body
from cambrel.wording.sentences import LEVEL_STOPS

PAGE = 20
MOST_POINTS = 300


@dataclass
class TargetAnswer:
    """What makes the picture on one target."""

    target: Target
    needed: Needed
    says: str
    settings: tuple[tuple[str, str], ...]
    expected: str
    counts: dict[str, int] = field(default_factory=dict)
    rows: list[LensRow] = field(default_factory=list)
    pages: int = 1
    page: int = 1
    left_out: str = ""
    fair: str = ""
    drawing: Drawing | None = None
    address: str = ""
    """Where it is looked at in full."""


def targets_of(question: MatchQuery, shelf: LensShelf) -> list[Target]:
    """The targets asked for that there are."""
    bodies = {f"body-{body.pk}": body for body in shelf.bodies}
    rows = []
    for key in question.targets:
        if key in FORMATS:
            f = FORMATS[key]
            rows.append(Target(key, f.name, Sensor(f.width_mm, f.height_mm)))
        elif key in shelf.own_formats:
            rows.append(Target(key, *shelf.own_formats[key]))
        elif key in bodies:
            rows.append(Target(key, bodies[key].name, bodies[key].sensor(), bodies[key]))
    return rows


def bodies_of(shelf: LensShelf, target: Target) -> list[Body]:
    """The bodies of the shelf with a sensor of the target's format."""
    diagonal = target.sensor.diagonal_mm
    bodies = zip(shelf.bodies, shelf.diagonals_mm, strict=True)
    return [body for body, its in bodies if abs(its / diagonal - 1) < SAME_FORMAT]


def allowed(question: MatchQuery, shelf: LensShelf, target: Target) -> tuple[NDArray[np.bool_], str]:
    """Which lenses may be asked for a target: they go on, they cover, and they pass the filters; and in words how many
    do not cover.
    """
    given = question.form.cleaned_data
    if target.body is not None:
        goes_on = shelf.fits(target.body, bool(given.get("adapters")))
    else:
        bodies = bodies_of(shelf, target)
        goes_on = np.zeros(len(shelf.rows), dtype=bool)
        for body in bodies:
            goes_on |= shelf.fits(body, bool(given.get("adapters")))
        if not bodies:
            goes_on = shelf.fixed_to == 0
    uncovered = ~np.isnan(shelf.circle_mm) & ~np.asarray(covers(shelf.circle_mm, target.sensor.diagonal_mm))
    small = uncovered & (shelf.fixed_to == 0)
    kept = goes_on & ~small
    fish = goes_on & ~shelf.table.rectilinear
    kept &= shelf.table.rectilinear
    if given.get("mount"):
        kept &= shelf.with_mount(given["mount"])
    if given.get("stabilised"):
        kept &= shelf.stabilised == 1
    with np.errstate(invalid="ignore"):
        if given.get("max_weight_g") is not None:
            kept &= shelf.weight_g <= given["max_weight_g"]
        if given.get("max_price") is not None:
            kept &= shelf.price <= given["max_price"]
    said = []
    mountless = ~goes_on & ~uncovered & (shelf.fixed_to == 0) & shelf.table.rectilinear
    if mountless.any() and not given.get("mount"):
        where = f"on {target.name}" if target.body is not None else f"any {target.name} body of the shelf"
        said.append(f"{int(mountless.sum()):,} that do not fit {where}")
    if (goes_on & small).any():
        said.append(f"{int((goes_on & small).sum()):,} whose image circle does not cover")
    if fish.any():
        said.append(f"{int(fish.sum()):,} fisheye, which bends straight lines")
    return kept, "; ".join(said)


def answer(
    question: MatchQuery, shelf: LensShelf, target: Target, judged: Conventions, page: int = 1, whole: bool = True
) -> TargetAnswer:
    """The answer for one target; `whole` with its rows and its drawing."""
    found, kept, left_out = _found(question, shelf, target, judged)
    need = found.needed
    made = TargetAnswer(
        target, need, _says(question, need), _settings(need, *_isos(shelf, target)), _expected(need), left_out=left_out
    )
    statuses = found.status[kept]
    made.counts = {WORDS[key]: int((statuses == key).sum()) for key in (EXACT, NEAR, CANNOT, UNKNOWN)}
    if not whole:
        return made
    order = found.order(kept).tolist()
    made.pages = max(1, -(-len(order) // PAGE))
    made.page = min(max(page, 1), made.pages)
    source = source_of(question, shelf)
    for index in order[(made.page - 1) * PAGE : made.page * PAGE]:
        made.rows.append(row_of(question, shelf, target, found, index, source, judged))
    made.rows = drawn_to_one_scale(made.rows)
    made.fair = _fair(question, shelf, found, order, source)
    made.drawing = _drawing(question, shelf, target, found, kept, judged)
    return made


def every_row(question: MatchQuery, shelf: LensShelf, target: Target, judged: Conventions) -> Iterator[LensRow]:
    """All rows of the answer for one target, the best first."""
    found, kept, _ = _found(question, shelf, target, judged)
    source = source_of(question, shelf)
    for index in found.order(kept).tolist():
        yield row_of(question, shelf, target, found, index, source, judged)


def _found(
    question: MatchQuery, shelf: LensShelf, target: Target, judged: Conventions
) -> tuple[Matches, NDArray[np.bool_], str]:
    """What is found of the shelf, which of it is asked for, and what was left out."""
    wanted = question.picture
    kept, left_out = allowed(question, shelf, target)
    matches = match(wanted, target.sensor, shelf.table, judged.crop_by)
    if wanted.is_range:
        none = kept & (matches.covered <= 0)
        kept &= ~none
        left_out = "; ".join(
            filter(None, (left_out, f"{int(none.sum()):,} that reach nothing of the range" if none.any() else ""))
        )
    return matches, kept, left_out


def _says(question: MatchQuery, need: Needed) -> str:
    w = question.picture
    if w.is_range:
        ends = wording.focal_range(need.focal_min_mm, need.focal_max_mm)
        return f"{ends} {wording.f_number_range(need.f_number_short, need.f_number_long)}"
    return f"{wording.focal(need.focal_min_mm)} {wording.f_number(need.f_number_short)}"


def _isos(shelf: LensShelf, target: Target) -> tuple[float | None, float | None]:
    """Lowest and highest ISO of the body, or of all bodies of the format; None where nothing is known of it."""
    bodies = [target.body] if target.body is not None else bodies_of(shelf, target)
    lows = [body.base_iso for body in bodies if body.base_iso is not None]
    highs = [body.ceiling_iso for body in bodies if body.ceiling_iso is not None]
    return min(lows, default=None), max(highs, default=None)


def _settings(need: Needed, base: float | None, highest: float | None) -> tuple[tuple[str, str], ...]:
    """The exact settings, and the nearest that a camera offers with what the rounding costs."""
    exact = need.f_number_short
    number = "f/" + wording.significant(exact)
    rows = [("exactly", f"{wording.focal(need.focal_min_mm)} {number} {wording.iso(need.iso)}")]
    if 0.45 <= exact <= 70:
        stop, iso = nearest(exact, F_NUMBERS), nearest_within(need.iso, ISOS, base, highest)
        cost, iso_cost = setting_cost_stops(exact, stop.exact), float(np.log2(iso.exact / need.iso))
        text = (
            f"f/{stop.marked} ({_off(cost, 'narrower', 'wider')}), ISO {iso.marked}"
            f" ({_off(iso_cost, 'higher', 'lower')})"
        )
        rows.append(("as a camera sets it", text))
        if abs(iso_cost) > LEVEL_STOPS:
            end, cure = (
                ("base", "a shorter shutter time or an ND filter")
                if iso_cost > 0
                else ("highest", "a longer shutter time")
            )
            rows.append(
                (
                    f"beyond the {end} ISO",
                    f"{wording.stops(iso_cost)} too {'bright' if iso_cost > 0 else 'dark'}: {cure}",
                )
            )
    rows.append(("exposes like", f"f/{wording.significant(need.effective_f_number)} on any format"))
    return tuple(rows)


def _off(stops: float, more: str, less: str) -> str:
    return "same" if abs(stops) < 0.05 else f"{wording.stops(stops)} {more if stops > 0 else less}"


def _expected(need: Needed) -> str:
    """Whether such a lens is to be expected, where it is not."""
    if not need.can_exist:
        return (
            f"No lens in air is faster than f/0.5, so "
            f"f/{min(need.f_number_short, need.f_number_long):.2g} cannot exist."
        )
    parts = []
    if need.angle_deg > need.widest_made_deg:
        parts.append(
            f"it would have to see {wording.degrees(need.angle_deg)}, and the widest straight lenses see "
            f"about {need.widest_made_deg:.0f}°"
        )
    if need.f_number_short < need.fastest_made:
        parts.append(
            f"{wording.f_number(need.f_number_short)} is faster than the fastest made for such a sensor, about"
            f" f/{need.fastest_made:g}"
        )
    return f"Do not expect such a lens: {' and '.join(parts)}." if parts else ""


def _fair(question: MatchQuery, shelf: LensShelf, found: Matches, order: list[int], source: RowSource) -> str:
    """Weights compared fairly: the lightest that goes on, what it lacks, and which lens would be the true opponent."""
    if not order or isnan(source.weight_g) or not source.weight_g:
        return ""
    weights = shelf.weight_g[order]
    if np.isnan(weights).all():
        return ""
    lightest = order[int(np.nanargmin(weights))]
    equal = next((i for i in order if found.status[i] == EXACT), None)
    name, mass = shelf.rows[lightest]["name"], wording.mass(float(shelf.weight_g[lightest]))
    own = wording.mass(source.weight_g)
    if lightest == equal or found.status[lightest] == EXACT:
        return f"The lightest, {name} at {mass} against {own}, is its true equal."
    short = float(found.stops_short[lightest])
    less = float(found.light_short[lightest])
    lacks = [] if isnan(short) or short <= LEVEL_STOPS else [f"{wording.stops(short)} short of its blur"]
    lacks += [] if isnan(less) or less <= LEVEL_STOPS else [f"{wording.stops(less)} less light"]
    view = view_words(question, found, lightest)
    lacks += (
        []
        if view in ("same", "the whole range")
        else [f"its view is {view}" if "range" not in view else f"it reaches {view}"]
    )
    lacks += (
        [f"it focuses from {wording.distance(float(found.closest_m[lightest]))}"] if found.too_near[lightest] else []
    )
    said = (
        f"The lightest, {name} at {mass} against {own}, is not an equal: "
        f"{', '.join(lacks) or 'its f-number is unknown'}. "
    )
    if equal is None:
        return said + "The shelf has no true equal to weigh against."
    weight = float(shelf.weight_g[equal])
    there = "of unknown weight" if isnan(weight) else f"at {wording.mass(weight)}"
    return said + f"The fair opponent is {shelf.rows[equal]['name']} {there}."


def _drawing(
    question: MatchQuery, shelf: LensShelf, target: Target, found: Matches, kept: Flags, judged: Conventions
) -> Drawing | None:
    """Weight or price against the equivalent f-number, for lenses of nearly the view; None where there are no such."""
    by_price = question.form.cleaned_data.get("cost") == "price"
    cost, label = (shelf.price, "price") if by_price else (shelf.weight_g, "weight, g")
    view = (np.abs(found.view_off) <= 0.15) if not question.picture.is_range else found.covered >= 0.5
    shown = kept & view
    if by_price:
        currencies = shelf.currency[shown & ~np.isnan(cost)]
        if len(currencies):
            names, counts = np.unique(currencies, return_counts=True)
            currency = str(names[counts.argmax()])
            shown &= shelf.currency == currency
            label = f"price, {currency}"
    equivalent = found.widest * crop_factor(target.sensor, FULL_FRAME, judged.crop_by)
    shown &= ~np.isnan(cost) & ~np.isnan(equivalent) & (cost > 0)
    chosen = np.flatnonzero(shown)
    best = efficient(cost[chosen], equivalent[chosen])
    drawn = np.argsort(~best, kind="stable")[:MOST_POINTS]
    drawn = drawn[np.argsort(cost[chosen[drawn]], kind="stable")]
    at, are_best = chosen[drawn], best[drawn].tolist()
    found_of = zip(at.tolist(), cost[at].tolist(), equivalent[at].tolist(), are_best, strict=True)
    candidates = [Candidate(shelf.rows[i]["name"], paid, number, is_best) for i, paid, number, is_best in found_of]
    return tradeoff_drawing(candidates, label) if candidates else None
