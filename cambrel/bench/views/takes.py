"""What would it take? For a figure of one camera: every lever that gives it, each to be tried by one press."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import inf, isfinite, log2

from django.contrib.auth.models import AnonymousUser
from django.http import Http404
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
from cambrel.comparison.wishes import WISHES, LeverMoved, Wish, taking
from cambrel.conventions.preferred import preferred_by
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


@require_safe
def take(request: Request) -> HttpResponseBase:
    """What it would take, as a part of another page or as a page."""
    bench, units = asked_bench(request), UNITS[preferred_by(request.user).units]
    wish = WISHES.get(request.GET.get("of", ""))
    index = whole(request.GET.get("rig", "0"))
    if wish is None or index is None or index >= len(bench.slots):
        raise Http404
    try:
        comparison = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
    except DomainError:
        raise Http404 from None
    stands = standpoint(comparison, index)
    now = wish.read(stands, stands.figures) if comparison.of(index).settings.focusable else float("nan")
    context = {
        "wish": wish,
        "letter": LETTERS[index],
        "rig": index,
        "token": request.GET.get("b", ""),
        "address": reverse("bench:take"),
        "bench": bench_address(bench),
        "unit": TYPED[wish.asked].unit,
        "now": _shown(wish, now, units),
        "wanted": request.GET.get("wanted", ""),
        "shown": [],
        "stuck": [],
        "problem": "",
    }
    if is_unknown(now) or not isfinite(now) or now <= 0:
        context["problem"] = "It is unknown or without end as this camera stands, so nothing can be worked out from it."
    else:
        context |= _worked_out(
            bench, comparison, stands, wish, now, request.GET.get("wanted", ""), index, units, gear_owner(request.user)
        )
    name = "bench/_take.html" if request.GET.get("card") == "1" else "bench/take.html"
    return render(request, name, context, status=422 if context["problem"] and context["wanted"] else 200)


def _shown(wish: Wish, value: float, units: Units) -> str:
    if is_unknown(value):
        return "unknown"
    return wording.figure(Figure(value, wish.kind), units)


def _at_first(wish: Wish, brief: Brief, now: float) -> float:
    """What is wanted where nobody typed it: what the picture says, where there is less of it now."""
    said = wish.of_brief(brief)
    return now * wish.first if said is None or said < now * (1 + SAME) else said


def _worked_out(
    bench: Bench,
    comparison: Comparison,
    stands: Stance,
    wish: Wish,
    now: float,
    text: str,
    index: int,
    units: Units,
    user: User | AnonymousUser,
) -> dict[str, object]:
    """The levers for what was typed, or for what is wanted at first."""
    typed = TYPED[wish.asked]
    try:
        wanted = typed.read(text, now, units) if text else _at_first(wish, bench.brief, now)
        if not 0 < wanted < inf:
            raise ValueError(text)
    except (ValueError, OverflowError):
        return {"problem": typed.refusal}
    found = taking(stands, wish, wanted)
    slots = _slots(bench, comparison)
    shown = [
        TakingShown(
            wording.sentence(line.does, units),
            " ".join(wording.sentence(said, units) for said in (line.gear, *line.costs) if said is not None),
            _tried(bench, slots, index, line.moved),
            _shelf_lenses(user, bench, slots, index, line.moved),
        )
        for line in lines_of(stands, found)
        # the shutter of a film is fixed
        if bench.brief.frame_rate is None or not any(lever.key == "shutter" for lever, _ in line.moved.values)
    ]
    return {
        "wanted": text or typed.write(wanted, now, units),
        "shown": shown,
        "stuck": [wording.sentence(stuck_says(found, stuck), units) for stuck in found.stuck],
    }
