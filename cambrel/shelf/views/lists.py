"""The shelf: lists that are searched, narrowed, sorted and acted upon, and the page of one record."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Any

from django import forms
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.paginator import Paginator
from django.db.models import QuerySet
from django.http import Http404, QueryDict
from django.http.response import HttpResponseBase
from django.middleware.csrf import get_token
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe
from django.views.decorators.vary import vary_on_headers

from cambrel.bounds.names import LONGEST_NAME
from cambrel.conventions.home import home_name
from cambrel.conventions.preferred import preferred_by
from cambrel.inputs.fields import ChoiceField, SearchField, whole
from cambrel.owners.models import User
from cambrel.owners.presses import pressed_once
from cambrel.owners.requests import Request
from cambrel.owners.samples import has_samples
from cambrel.owners.undo import ChangePlan, StaleError, carry_out, last_change, shelf_version
from cambrel.owners.views import came_from
from cambrel.shelf.bulk import add_to_kit, delete_all, duplicate_all, remove_samples
from cambrel.shelf.columns import Column
from cambrel.shelf.editing import Editing
from cambrel.shelf.kinds import KINDS, ShelfKind
from cambrel.shelf.models import MOST_IN_KIT, Body, ImportPreview, Kit, Lens
from cambrel.shelf.mounts import Spellings
from cambrel.shelf.previews import brought, sections_brought
from cambrel.shelf.summary import summary_of
from cambrel.shelf.views.gear_choice import carriers, put_record_address

PAGE = 50
PLAIN_SORT = "name"


class ListForm(forms.Form):
    """What is looked for in a list, and what it is narrowed to."""

    messages_at = ""

    q = SearchField("Find", "Find by name, system, mount or note")

    def __init__(self, sent: QueryDict, choices: Iterable[tuple[str, str, Iterable[str]]]) -> None:
        super().__init__(sent)
        for name, label, values in choices:
            self.fields[name] = ChoiceField(
                label=label, required=False, choices=[("", f"{label}: all"), *((value, value) for value in values)]
            )


@dataclass(frozen=True)
class RecordRow:
    """A record in a list: its cells, its own page, and where it is put on the bench."""

    pk: int
    name: str
    cells: list[str]
    address: str
    put: str


@dataclass
class Listing:
    """One page of a list as the templates show it. brought: an import whose records alone are shown."""

    kind: ShelfKind
    query: str
    sort: str
    narrowed: dict[str, str]
    brought: ImportPreview | None = None
    form: ListForm | None = None
    columns: list[tuple[Column, str, str]] = field(default_factory=list)
    rows: list[RecordRow] = field(default_factory=list)
    page: object = None

    @property
    def query_string(self) -> QueryDict:
        """What stands in the address of this list, without its page."""
        now = {"q": self.query, "sort": self.sort, **self.narrowed, "brought": self.brought and self.brought.pk}
        made = QueryDict(mutable=True)
        made.update({key: str(value) for key, value in now.items() if value})
        return made

    @property
    def is_narrowed(self) -> bool:
        return bool(self.query or self.narrowed or self.brought)

    @property
    def also_brought(self) -> list[tuple[ShelfKind, int]]:
        """The other kinds that the import brought records of: kind, how many, where they are."""
        if self.brought is None:
            return []
        kinds = {kind.section_key: kind for kind in KINDS.values() if kind is not self.kind}
        return [(kinds[key], count) for key, count in sections_brought(self.brought) if key in kinds]


class Counted(Paginator):  # type: ignore[type-arg]
    """Pages of a list whose length is known."""

    def __init__(self, found: QuerySet[Any], size: int, count: int) -> None:
        super().__init__(found, size)
        self.count = count


def _kind(key: str) -> ShelfKind:
    if key not in KINDS:
        raise Http404
    return KINDS[key]


def listing(kind: ShelfKind, request: Request) -> Listing:
    """The page of a list that a request asks for."""
    narrowed = {name: request.GET[name][:60] for name in kind.narrowed or {} if request.GET.get(name)}
    shown = Listing(kind, request.GET.get("q", "").strip()[:60], request.GET.get("sort", PLAIN_SORT)[:20], narrowed)
    known = summary_of(request.user)
    shown.form = ListForm(request.GET, known.choices[kind.key])
    shown.brought = _brought(request, request.GET)
    records = _found(kind, request.user, shown.query, narrowed, shown.sort, shown.brought)
    pages = Paginator(records, PAGE) if shown.is_narrowed else Counted(records, PAGE, known.counts[kind.key])
    shown.page = pages.get_page(request.GET.get("page"))
    conventions = preferred_by(request.user).conventions
    for column in kind.columns:
        turned = f"-{column.key}" if shown.sort == column.key else column.key
        direction = {column.key: "ascending", f"-{column.key}": "descending"}.get(shown.sort, "")
        named = replace(column, label=column.label.format(home=home_name(conventions)))
        shown.columns.append((named, turned if column.sort else "", direction))
    own_page, on_bench = (reverse(f"shelf:{name}", args=[kind.key, 0]) for name in ("record", "put"))
    for record in shown.page:
        name, *cells = [column.text(record, conventions) for column in kind.columns]
        put = on_bench.replace("/0/", f"/{record.pk}/") if kind.goes_on_bench else ""
        shown.rows.append(RecordRow(record.pk, name, cells, own_page.replace("/0/", f"/{record.pk}/"), put))
    return shown


def _brought(request: Request, given: QueryDict) -> ImportPreview | None:
    """The owner's import that a list is narrowed to, or None."""
    key = whole(given.get("brought", ""))
    if key is None:
        return None
    preview: ImportPreview | None = ImportPreview.objects.for_owner(request.user).filter(pk=key).first()
    return preview


def _found(
    kind: ShelfKind, owner: User, query: str, narrowed: dict[str, str], sort: str, from_import: ImportPreview | None
) -> QuerySet[Any]:
    records = kind.found(owner, query, narrowed, sort)
    return brought(from_import, kind.section_key, records) if from_import else records


def shelf_kinds(owner: User) -> list[tuple[ShelfKind, int]]:
    """All kinds with how many records each has, for the side of every page of the shelf."""
    counts = summary_of(owner).counts
    return [(kind, counts[key]) for key, kind in KINDS.items()]


@login_required
@require_safe
def record(request: Request, kind_key: str, pk: int) -> HttpResponseBase:
    """A record's own page: that of a kit shows what is in it."""
    return redirect("shelf:kit", pk) if _kind(kind_key).model is Kit else redirect("shelf:edit", kind_key, pk)


@login_required
@require_safe
def put(request: Request, kind_key: str, pk: int) -> HttpResponseBase:
    """Put a record on the bench that the address goes on with, as one more rig; a lens on a body of its mount."""
    record = get_object_or_404(_kind(kind_key).records(request.user), pk=pk)
    address = put_record_address(record, carriers(request.user, [record]).get(record.pk))
    if not address:
        raise Http404
    more = request.GET.urlencode()
    return redirect(f"{address}&{more}" if more else address)


@login_required
@require_safe
def shelf_home(request: Request) -> HttpResponseBase:
    return redirect("shelf:list", "bodies")


@login_required
@require_POST
@pressed_once
def remove_all_samples(request: Request) -> HttpResponseBase:
    """Throw away all that a demo loaded."""
    try:
        remove_samples(request.user)
    except StaleError:
        messages.error(request, "The shelf has changed at this very moment. Nothing was done. Press once more.")
    else:
        messages.success(request, "Removed the samples. It can be undone.")
    return redirect("shelf:list", "bodies")


@login_required
@require_safe
@vary_on_headers("HX-Request", "HX-History-Restore-Request", "Cookie")
def records(request: Request, kind_key: str) -> HttpResponseBase:
    """A list of one kind."""
    shown = listing(_kind(kind_key), request)
    context = {"listing": shown, "kits": Kit.objects.for_owner(request.user)}
    if request.htmx and not request.htmx.history_restore_request:
        return render(request, "shelf/_list.html", context | {"csrf": get_token(request)})
    context |= {"kinds": shelf_kinds(request.user), "last_change": last_change(request.user)}
    context["has_samples"] = has_samples(request.user)
    return render(request, "shelf/list.html", context)


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
@pressed_once
def edit(request: Request, kind_key: str, pk: int | None = None) -> HttpResponseBase:
    """The page of one record, new or kept."""
    kind = _kind(kind_key)
    begun = {"name": request.GET.get("name", "")[:LONGEST_NAME]}  # as another page has begun it
    record = (
        kind.model(owner=request.user, **begun) if pk is None else get_object_or_404(kind.records(request.user), pk=pk)
    )
    put = reverse("shelf:put", args=[kind.key, pk]) if pk and kind.goes_on_bench else ""
    editing = Editing(kind, record, request.user, request.POST if request.method == "POST" else None)
    status = 200
    if request.method == "POST":
        try:
            if editing.is_valid():
                saved = editing.save()
                messages.success(request, f"“{saved.name}” is on the shelf.")
                return redirect("shelf:kit", saved.pk) if kind.model is Kit else redirect("shelf:list", kind.key)
        except StaleError:
            record.refresh_from_db()
            editing = Editing(kind, record, request.user, request.POST)
            editing.is_valid()
        status = 409 if editing.is_stale else 422
    context = {
        "editing": editing,
        "kind": kind,
        "kinds": shelf_kinds(request.user),
        "put": put,
        "mounts": Spellings(request.user).names(),
        "systems": Body.objects.for_owner(request.user).order_by("system").values_list("system", flat=True).distinct(),
    }
    return render(request, "shelf/edit.html", context, status=status)


@login_required
@require_POST
def bulk(request: Request, kind_key: str) -> HttpResponseBase:
    """Delete, duplicate or pack the ticked records, or all that a list found."""
    kind, seen = _kind(kind_key), shelf_version(request.user)
    if request.POST.get("all") == "1":
        query = request.POST.get("q", "")
        narrowed = {name: request.POST[name] for name in kind.narrowed or {} if request.POST.get(name)}
        records = _found(kind, request.user, query, narrowed, "", _brought(request, request.POST))
    else:
        keys = {key for text in request.POST.getlist("pk")[:PAGE] if (key := whole(text)) is not None}
        records = kind.records(request.user).filter(pk__in=keys)
    chosen, plan = list(records), ChangePlan(request.user)
    action, into = request.POST.get("action", ""), whole(request.POST.get("kit", ""))
    if not chosen:
        messages.error(request, "Tick at least one record first.")
        return redirect(came_from(request))
    what = f"“{chosen[0].name}”" if len(chosen) == 1 else f"{len(chosen):,} {kind.many}"
    if action == "delete":
        delete_all(chosen, plan)
        said, more = f"Deleted {what}", " It can be undone."
    elif action == "duplicate":
        duplicate_all(chosen, plan)
        said, more = f"Duplicated {what}", ""
    elif into is not None and kind.model in (Body, Lens):
        kit = get_object_or_404(Kit.objects.for_owner(request.user), pk=into)
        if kit.held() + len(chosen) > MOST_IN_KIT:
            messages.error(request, f"A kit holds at most {MOST_IN_KIT} bodies and lenses.")
            return redirect(came_from(request))
        add_to_kit(kit, chosen, plan)
        said, more = f"Packed {what} into “{kit.name}”", ""
    else:
        messages.error(request, "This button is from an older page. Load the page again.")
        return redirect(came_from(request))
    try:
        carry_out(plan, said, seen)
    except StaleError:
        messages.error(request, "The shelf has changed at this very moment. Nothing was done. Press once more.")
    else:
        messages.success(request, f"{said}.{more}")
    return redirect(came_from(request))
