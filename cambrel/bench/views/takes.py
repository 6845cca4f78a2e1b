"""What would it take? For a figure of one camera: every lever that gives it, each to be tried by one press."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from math import inf, isfinite, log2, nan

from django.contrib.auth.models import AnonymousUser
from django.http import Http404, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_safe

from cambrel import wording
from cambrel.bench.views.whys import asked_bench
from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison, compare
from cambrel.comparison.fit import same_mount
from cambrel.comparison.levers import AS_SET, Stance, standpoint
from cambrel.comparison.wishes import WISHES, LeverMoved, Taking, Wish, taking
from cambrel.conventions.preferred import preferred_by
from cambrel.drawings.takings import takings_drawing
from cambrel.exports.csv_tables import table_lines
from cambrel.exports.downloads import svg_file
from cambrel.inputs.fields import whole
from cambrel.links.addresses import bench_address
from cambrel.optics.quantities import DomainError, is_unknown
from cambrel.optics.workings import Figure
from cambrel.owners.models import User, gear_owner
from cambrel.owners.requests import Request
from cambrel.phrases.typed_figures import length, number
from cambrel.shelf.models import Lens
from cambrel.verdicts.takings import lines_of, stuck_says
from cambrel.wording import LETTERS, UNITS, Units

PERCENT, SAME = 100.0, 0.01
COLUMNS = {
    "lever": "Lever",
    "does": "What to do",
    "value": "Value",
    "unit": "Unit",
    "owned": "Your gear has it",
    "stops": "Brighter by stops",
}
UNIT_OF_KIND = {"f": "f-number", "m": "m", "mm": "mm", "s": "s"}
"""Of each kind of figure that a lever has, the unit of its value."""
MOST_LENSES, SLACK = 3, 1e-9


@dataclass(frozen=True)
class TypedWish:
    """How a wanted figure is typed.

    read: from the text to the unit of the figure, by what it is now; ValueError for what is none
    write: as it stands in the field; unit: behind the field; refusal: of what is no such figure
    """

    read: Callable[[str, float, Units], float]
    write: Callable[[float, float, Units], str]
    unit: str
    refusal: str


def _number(text: str, now: float, units: Units) -> float:
    return number(text, 1e-6, 1e9)


def _significant(wanted: float, now: float, units: Units) -> str:
    return wording.significant(wanted)


TYPED = {
    "share": TypedWish(
        lambda text, now, units: number(text.strip().removesuffix("%"), 1e-4, 1e5) / PERCENT,
        lambda wanted, now, units: wording.significant(wanted * PERCENT),
        "%",
        "That is not a share. Type percent, such as 5.",
    ),
    "m": TypedWish(
        lambda text, now, units: length(text, units.metres, 1e-6, 1e5),
        lambda wanted, now, units: f"{wording.distance_number(wanted, units)} {units.name}",
        "",
        "That is not a length. Type metres, such as 0.5, or feet, such as 2 ft.",
    ),
    "stops": TypedWish(
        lambda text, now, units: float(now * 2.0 ** number(text, -40.0, 1e9)),
        lambda wanted, now, units: wording.significant(log2(wanted / now)),
        "stops more",
        "That is not a number of stops. Type one, such as 1.5.",
    ),
    "number": TypedWish(_number, _significant, "", "That is not a number. Type one above 0, such as 3000."),
    "s": TypedWish(_number, _significant, "s", "That is not a time. Type seconds, such as 15."),
}
"""By how it is asked for."""


@dataclass(frozen=True)
class TakingShown:
    """A lever as it stands on the page: what is done, whether the gear has it and what it costs, and where
    it is tried."""

    does: str
    says: str
    address: str
    lenses: tuple[tuple[str, str], ...] = ()
    """Lenses of the reader's shelf that have it, each with where it is tried."""


def _slots(bench: Bench, comparison: Comparison) -> list[Slot]:
    """Every camera as it stands, by its own settings and distance."""
    return [replace(slot, rig=standpoint(comparison, index).rig) for index, slot in enumerate(bench.slots)]


def _tried(bench: Bench, slots: list[Slot], index: int, moved: LeverMoved) -> str:
    """The bench with one camera as a lever would have it, the others as they stand."""
    changed = list(slots)
    own, there = slots[index], moved.stands.rig
    names = {} if moved.is_owned is not False else {"lens_name": "any lens"}
    changed[index] = replace(own, rig=there, **names)
    brief = replace(bench.brief, background_m=moved.stands.brief.background_m)
    return bench_address(replace(bench, brief=brief, slots=tuple(changed), hold=AS_SET))


def _shelf_lenses(
    user: User | AnonymousUser, bench: Bench, slots: list[Slot], index: int, moved: LeverMoved
) -> tuple[tuple[str, str], ...]:
    """Lenses of the shelf with the body's mount that go where its own lens does not, the lightest first."""
    there, mount = moved.stands, slots[index].rig.body.mount
    if moved.is_owned is not False or not mount or not all(lever.is_of_lens for lever, _ in moved.values):
        return ()
    found = []
    for record in Lens.objects.for_owner(user).filter(fixed_to=None, rectilinear=True):
        lens = record.to_optics()
        if not same_mount(lens.mount, mount) or lens.is_ad_hoc:
            continue
        reaches = lens.focal_min_mm <= there.focal_mm * (1 + SLACK) and there.focal_mm <= lens.focal_max_mm * (
            1 + SLACK
        )
        if not reaches or float(lens.widest_f_number(there.focal_mm)) > there.f_number * (1 + SLACK):
            continue
        rig = replace(there.rig, lens=lens, converter=1.0, focal_length_mm=there.focal_mm, f_number=there.f_number)
        changed = [*slots[:index], replace(slots[index], rig=rig, lens_name=record.name), *slots[index + 1 :]]
        address = bench_address(replace(bench, slots=tuple(changed), hold=AS_SET))
        found.append((lens.weight_g or inf, record.name, address))
    return tuple((name, address) for _, name, address in sorted(found)[:MOST_LENSES])


@dataclass(frozen=True)
class TakeQuestion:
    """What is wanted of one camera of a bench.

    now: what it is; wanted: in the unit of the figure, None where what was typed is no such figure
    """

    bench: Bench
    comparison: Comparison
    stands: Stance
    wish: Wish
    index: int
    units: Units
    text: str
    now: float
    wanted: float | None

    @property
    def problem(self) -> str:
        """Why nothing can be worked out; "" where it can."""
        if not is_usable(self.now):
            return "It is unknown or without end as this camera stands, so nothing can be worked out from it."
        return TYPED[self.wish.asked].refusal if self.wanted is None else ""

    @cached_property
    def found(self) -> Taking | None:
        """What it would take; the shutter of a film is fixed."""
        if self.wanted is None or self.problem:
            return None
        found = taking(self.stands, self.wish, self.wanted)
        return found if self.bench.brief.frame_rate is None else found.without("shutter")


def is_usable(now: float) -> bool:
    """Whether anything can be worked out from what a figure is."""
    return not is_unknown(now) and isfinite(now) and now > 0


def _question(request: Request) -> TakeQuestion:
    """What an address asks."""
    bench, units = asked_bench(request), UNITS[preferred_by(request.user).units]
    wish = WISHES.get(request.GET.get("of", ""))
    index = whole(request.GET.get("rig", "0"))
    if wish is None or index is None or index >= len(bench.slots):
        raise Http404
    try:
        comparison = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
    except DomainError:
        raise Http404 from None
    stands, text = standpoint(comparison, index), request.GET.get("wanted", "")
    now = wish.read(stands, stands.figures) if comparison.of(index).settings.focusable else nan
    wanted = _wanted(wish, bench.brief, now, text, units) if is_usable(now) else None
    return TakeQuestion(bench, comparison, stands, wish, index, units, text, now, wanted)


def _wanted(wish: Wish, brief: Brief, now: float, text: str, units: Units) -> float | None:
    """What was typed, or what is wanted at first; None for what is no such figure."""
    try:
        wanted = TYPED[wish.asked].read(text, now, units) if text else _at_first(wish, brief, now)
    except (ValueError, OverflowError):
        return None
    return wanted if 0 < wanted < inf else None


@require_safe
def take(request: Request) -> HttpResponseBase:
    """What it would take, as a part of another page or as a page."""
    asked = _question(request)
    wish, units = asked.wish, asked.units
    context = {
        "wish": wish,
        "letter": LETTERS[asked.index],
        "rig": asked.index,
        "token": request.GET.get("b", ""),
        "address": reverse("bench:take"),
        "bench": bench_address(asked.bench),
        "unit": TYPED[wish.asked].unit,
        "now": _shown(wish, asked.now, units),
        "wanted": asked.text,
        "shown": [],
        "stuck": [],
        "problem": asked.problem,
        "drawing": None,
        "drawing_id": f"take-drawing-{wish.key}-{asked.index}",
        "table_address": "",
        "drawing_address": "",
    }
    if asked.found is not None and asked.wanted is not None:
        slots, user = _slots(asked.bench, asked.comparison), gear_owner(request.user)
        query = request.GET.copy()
        query.pop("card", None)
        context |= {
            "wanted": asked.text or TYPED[wish.asked].write(asked.wanted, asked.now, units),
            "shown": [
                TakingShown(
                    wording.sentence(line.does, units),
                    " ".join(wording.sentence(said, units) for said in (line.gear, *line.costs) if said is not None),
                    _tried(asked.bench, slots, asked.index, line.moved),
                    _shelf_lenses(user, asked.bench, slots, asked.index, line.moved),
                )
                for line in lines_of(asked.stands, asked.found)
            ],
            "stuck": [wording.sentence(stuck_says(asked.found, stuck), units) for stuck in asked.found.stuck],
            "drawing": takings_drawing(asked.stands, asked.found, units=units) if asked.found.alone else None,
            "table_address": f"{reverse('bench:take-table')}?{query.urlencode()}",
            "drawing_address": f"{reverse('bench:take-drawing')}?{query.urlencode()}",
        }
    name = "bench/_take.html" if request.GET.get("card") == "1" else "bench/take.html"
    return render(request, name, context, status=422 if context["problem"] and context["wanted"] else 200)


@require_safe
def take_table(request: Request) -> HttpResponseBase:
    """The same as a table: of each lever its exact value, whether the gear has it, and the stops that it costs."""
    asked = _question(request)
    if asked.found is None:
        return HttpResponse(asked.problem, status=422, content_type="text/plain; charset=utf-8")
    rows = [
        {
            "lever": [lever.label for lever, _ in line.moved.values],
            "does": wording.sentence(line.does, asked.units).replace("\u00a0", " "),
            "value": [repr(value) for _, value in line.moved.values],
            "unit": [UNIT_OF_KIND[lever.kind] for lever, _ in line.moved.values],
            "owned": line.moved.is_owned,
            "stops": line.moved.stops,
        }
        for line in lines_of(asked.stands, asked.found)
    ]
    response = HttpResponse("".join(table_lines(COLUMNS, rows)), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="cambrel-what-it-takes.csv"'
    return response


@require_safe
def take_drawing(request: Request) -> HttpResponseBase:
    """Its drawing as a file."""
    asked = _question(request)
    if asked.found is None:
        return HttpResponse(asked.problem, status=422, content_type="text/plain; charset=utf-8")
    return svg_file(takings_drawing(asked.stands, asked.found, units=asked.units), "what-it-takes")


def _shown(wish: Wish, value: float, units: Units) -> str:
    if is_unknown(value):
        return "unknown"
    return wording.figure(Figure(value, wish.kind), units)


def _at_first(wish: Wish, brief: Brief, now: float) -> float:
    """What is wanted where nobody typed it: what the picture says, where there is less of it now."""
    said = wish.of_brief(brief)
    return now * wish.first if said is None or said < now * (1 + SAME) else said
