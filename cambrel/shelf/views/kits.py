"""A kit as a whole bag: every lens on every body, and the ranges as bars."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django import forms
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.db.models import Q, QuerySet
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST, require_safe

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.comparison.fit import SAME, TAKEN, mount_fit
from cambrel.comparison.ranges import EquivalentRange, equivalent_range, spans
from cambrel.conventions.home import home_name
from cambrel.conventions.preferred import preferred_by
from cambrel.drawings.bag import BarGroup, RangeBar, bag_drawing
from cambrel.drawings.gear_sizes import kit_sheet
from cambrel.drawings.shapes import Drawing
from cambrel.exports.downloads import svg_file
from cambrel.inputs.fields import SearchField, whole
from cambrel.owners.models import User
from cambrel.owners.requests import Request
from cambrel.owners.undo import last_change, recorded
from cambrel.shelf.columns import UNKNOWN, equivalents
from cambrel.shelf.grid import Grid, named
from cambrel.shelf.kinds import KINDS
from cambrel.shelf.kit_room import BagAsked, against, bag_asked, bag_sentence, pieces_of, room_of
from cambrel.shelf.models import HELD, MOST_IN_KIT, Adapter, Bag, Body, Kit, Lens, Mount, Support
from cambrel.shelf.sums import price_of, weight_of
from cambrel.shelf.views.lists import shelf_kinds
from cambrel.wording.sentences import Sentence


class PackForm(forms.Form):
    """What to pack is found by a part of its name; the offers below it change while one types."""

    messages_at = ""

    find = SearchField("Pack", "a part of its name", **{
        "hx-get": "", "hx-trigger": "input changed delay:200ms, search", "hx-select": "#pack-offered",
        "hx-target": "#pack-offered",
        "hx-swap": "outerHTML",
    })  # fmt: skip


COLUMNS = 6
MOST_OFFERED = 10
MOST_BARS = 80
MOST_BAGS = 60


@dataclass(frozen=True)
class FitCell:
    """A lens on a body. fits: whether the lens goes on as it is; None where a mount is unknown."""

    equivalent: str
    view: str
    fits: bool | None


def goes_on(
    lens: Lens, body: Body, mounts: Mapping[str, Mount], adapted: Collection[tuple[str, str]] = ()
) -> bool | None:
    """Whether a lens goes on a body: the same mount, one that the body's mount is recorded to accept, or one between
    which an adapter goes.

    adapted: the mounts of the adapters that there are, lens's and body's
    """
    if lens.fixed_to_id is not None:
        return bool(lens.fixed_to_id == body.pk)
    if body.pk is not None and any(True for _ in body.fixed_lenses.all()):
        return False
    if (lens.mount, body.mount) in adapted:
        return True
    there = mounts.get(body.mount)
    accepts = there is not None and lens.mount in there.accepts
    word = mount_fit(lens.mount, body.mount, accepts=accepts).word
    return None if not lens.mount or not body.mount else word in (SAME, TAKEN)


class PackedKit:
    """What is in a kit, lens by body, a page at a time, with the sums of all of it."""

    def __init__(self, kit: Kit, conventions: Conventions, request: Request) -> None:
        mounts = {mount.name: mount for mount in Mount.objects.for_owner(request.user)}
        bodies = kit.bodies.prefetch_related("fixed_lenses")
        adapters, supports = list(kit.adapters.all()), list(kit.supports.all())
        adapted = {(adapter.lens_mount, adapter.mount) for adapter in adapters}
        # what hangs on a string comes first, then what is part of a camera
        lenses = (
            Lens.objects.filter(Q(kits=kit) | Q(fixed_to__kits=kit))
            .distinct()
            .order_by("fixed_to_id", "system", "name", "pk")
        )
        self.grid = Grid(request, lenses, bodies, COLUMNS)
        self.bodies = list(self.grid.columns)
        self.rows: list[tuple[Lens, str, list[FitCell]]] = []
        groups: list[list[RangeBar]] = [[] for _ in self.bodies]
        for lens in self.grid.rows:
            cells, optics = [], lens.to_optics()
            for index, body in enumerate(self.bodies):
                fits = goes_on(lens, body, mounts, adapted)
                span = equivalent_range(optics, body.sensor(), by=conventions.crop_by)
                equivalent = equivalents(optics, body.sensor(), conventions)
                cells.append(FitCell(equivalent, _view(span), fits))
                low, high = span.equivalent_min_mm, span.equivalent_max_mm
                if fits is not False and low is not None and high is not None:
                    groups[index].append(RangeBar(lens.name, low, high, equivalent))
            weight = UNKNOWN if lens.weight_g is None else wording.mass(lens.weight_g)
            self.rows.append((lens, "in the camera" if lens.fixed_to_id else weight, cells))
        self.drawing = self._drawing(groups)
        self.beside = [
            (
                kind,
                HELD[type(record)],
                record,
                f"{record.get_kind_display()}{more}",
                UNKNOWN if record.weight_g is None else wording.mass(record.weight_g),
            )
            for kind, more, records in (("adapter", " adapter", adapters), ("support", "", supports))
            for record in records
        ]
        carried = [*kit.bodies.all(), *lenses, *adapters, *supports]
        self.weight, self.prices = weight_of(carried), price_of(carried)
        self.pieces = pieces_of(kit)
        self.blocks = [piece.block for piece in self.pieces]
        self.room = room_of(self.blocks)

    def sheet(self, bag: BagAsked) -> Drawing | None:
        """All pieces to one scale, with the bag that is asked about."""
        return kit_sheet(self.pieces, bag.sides_mm) if self.pieces else None

    def _drawing(self, groups: list[list[RangeBar]]) -> Drawing | None:
        made: list[BarGroup] = []
        bars = 0
        # what nothing covers can only be told where every lens of the bag is on the page
        is_whole = not (self.grid.rows.has_other_pages() or self.grid.query)
        for body, of_body in zip(self.bodies, groups, strict=True):
            bars += len(of_body)
            if made and bars > MOST_BARS:
                break
            ordered = tuple(sorted(of_body, key=lambda bar: (bar.low_mm, bar.high_mm)))
            stretches = tuple(spans([(bar.low_mm, bar.high_mm) for bar in ordered])) if is_whole else None
            made.append(BarGroup(body.name, ordered, stretches))
        return bag_drawing(made) if any(group.bars for group in made) else None


def _view(found: EquivalentRange) -> str:
    if found.view_wide_deg is None or found.view_long_deg is None:
        return UNKNOWN
    wide, narrow = wording.degrees(found.view_wide_deg), wording.degrees(found.view_long_deg)
    return wide if wide == narrow else f"{wide} to {narrow}"


@login_required
@require_safe
def kit(request: Request, pk: int) -> HttpResponseBase:
    """The whole-bag table of a kit."""
    record = get_object_or_404(Kit.objects.for_owner(request.user), pk=pk)
    conventions = preferred_by(request.user).conventions
    bag = PackedKit(record, conventions, request)
    asked = bag_asked(request.user, request.GET.get("bag", ""), request.GET.get("sides", ""))
    sheet = bag.sheet(asked)
    drawn = {"svg": bag.drawing, "sheet": sheet}.get(request.GET.get("as", ""))
    if drawn:
        return svg_file(drawn, "kit")
    others = Kit.objects.for_owner(request.user).exclude(pk=pk)
    other = others.filter(pk=whole(request.GET.get("against", ""), 0)).first()
    search = PackForm(request.GET)
    search.is_valid()
    find = search.cleaned_data["find"]
    context = {
        "kit": record,
        "kind": KINDS["kits"],
        "bag": bag,
        "conventions": conventions,
        "home": home_name(conventions),
        "kinds": shelf_kinds(request.user),
        "last_change": last_change(request.user),
        "search": search,
        "offered": _offered(request.user, record, find) if find or not record.held() else [],
        "most": MOST_IN_KIT,
        "sheet": sheet,
        "sheet_address": f"?{urlencode({'as': 'sheet', 'bag': request.GET.get('bag', ''), 'sides': asked.typed})}",
        "asked": asked,
        "fits": _said(bag_sentence(bag.blocks, asked)),
        "bags": [(str(one.pk), one.name) for one in Bag.objects.for_owner(request.user)[:MOST_BAGS]],
        "others": [(str(one.pk), one.name) for one in others[:MOST_BAGS]],
        "chosen_bag": request.GET.get("bag", ""),
        "other": other,
        "compared": _said(against(record, other)) if other else "",
    }
    return render(request, "shelf/kit.html", context)


def _said(sentence: Sentence | None) -> str:
    return "" if sentence is None else wording.sentence(sentence)


def _offered(owner: User, record: Kit, find: str) -> list[tuple[str, QuerySet[Any]]]:
    """What may be packed: of each kind the first that are not in the kit and have these words in their name; kind and
    records.
    """
    kinds = (
        ("body", Body.objects),
        ("lens", Lens.objects.filter(fixed_to=None)),
        ("adapter", Adapter.objects),
        ("support", Support.objects),
    )
    return [
        (kind, named(records.filter(owner=owner).exclude(kits=record), find)[:MOST_OFFERED]) for kind, records in kinds
    ]


class FullKitError(Exception):
    """A kit that holds as much as one can."""


@login_required
@require_POST
def pack(request: Request, pk: int) -> HttpResponseBase:
    """Put a body, a lens, an adapter or a support into a kit, or take it out."""
    record = get_object_or_404(Kit.objects.for_owner(request.user), pk=pk)
    model = {"body": Body, "adapter": Adapter, "support": Support}.get(request.POST.get("kind", ""), Lens)
    of = getattr(record, HELD[model])
    key = whole(request.POST.get("record", ""))
    if key is None:
        messages.error(request, "Choose what to put into the bag.")
        return redirect("shelf:kit", pk)
    member = get_object_or_404(model.objects.for_owner(request.user), pk=key)
    out = request.POST.get("out") == "1"
    said = f"Took “{member.name}” out of “{record.name}”" if out else f"Packed “{member.name}” into “{record.name}”"
    try:
        with recorded(request.user, said) as change:
            now = change.fresh(record)
            if not out and now.held() >= MOST_IN_KIT:
                raise FullKitError
            (of.remove if out else of.add)(member)
            change.save(now)
    except FullKitError:
        messages.error(request, f"A kit holds at most {MOST_IN_KIT} bodies, lenses, adapters and supports.")
    return redirect("shelf:kit", pk)
