"""What is saved from the bench: whole comparisons, and pictures to be made. Kept by name, listed, renamed, duplicated,
deleted; every change
can be undone."""

from dataclasses import replace
from math import isfinite
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST, require_safe

from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.bounds import names
from cambrel.briefs.models import SavedBrief
from cambrel.comparison.bench import Bench
from cambrel.comparison.engine import compare
from cambrel.inputs.fields import NameForm
from cambrel.links.addresses import bench_address
from cambrel.links.benches import decode, encode_brief
from cambrel.links.codec import LinkError
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import Saved
from cambrel.owners.presses import pressed_once
from cambrel.owners.requests import Request
from cambrel.owners.undo import StaleError, last_change, recorded
from cambrel.wording import LETTERS

MODELS = {"comparisons": SavedComparison, "pictures": SavedBrief}


def _name(request: Request, otherwise: str) -> tuple[str, str]:
    """The name given, cleaned; what cannot be a name is refused by what is returned with it."""
    form = NameForm(request.POST)
    return (form.cleaned_data["name"], "") if form.is_valid() else (otherwise, str(form.errors["name"][0]))


DAMAGED = "damaged: it cannot be opened any more"


@login_required
@require_safe
def saved_list(request: Request) -> HttpResponseBase:
    """All that the owner has saved: comparisons with what is on each bench, pictures with what is in them."""
    comparisons, pictures = [], []
    for record in SavedComparison.objects.for_owner(request.user):
        try:
            bench = record.bench()
        except LinkError:
            comparisons.append({"record": record, "form": _named(record), "says": DAMAGED})
            continue
        rigs = [(LETTERS[i], slot.body_name, slot.lens_name) for i, slot in enumerate(bench.slots)]
        about = {
            "record": record,
            "form": _named(record),
            "rigs": rigs,
            "says": bench.brief_name,
            "address": bench_address(bench),
        }
        comparisons.append(about)
    for record in SavedBrief.objects.for_owner(request.user):
        try:
            bench = home_bench().with_task(record.task())
        except LinkError:
            pictures.append({"record": record, "form": _named(record), "says": DAMAGED})
            continue
        says = f"{bench.background_name} behind" if bench.background_name else ""
        pictures.append({"record": record, "form": _named(record), "says": says, "address": bench_address(bench)})
    context = {
        "lists": [("comparisons", "Comparisons", comparisons), ("pictures", "Pictures to make", pictures)],
        "last_change": last_change(request.user),
    }
    return render(request, "bench/saved.html", context)


def _named(record: Saved) -> NameForm:
    return NameForm(called=record.name, auto_id=f"name-{type(record).__name__.lower()}-{record.pk}-%s")


@login_required
@require_POST
@pressed_once
def save(request: Request, what: str) -> HttpResponseBase:
    """Keep a bench, or the picture that it is about, under a name."""
    model = _model(what)
    name, problem = _name(request, "")
    try:
        bench = decode(request.POST.get("b", ""))
    except LinkError as error:
        problem = problem or str(error)
    if problem:
        messages.error(request, problem)
        return redirect("bench:saved")
    token, framed = request.POST["b"], {}
    if model is SavedBrief:
        bench = bench.with_task(replace(bench.task, name=name))
        token = encode_brief(bench.task)
        framed["framed_m"] = _framed_m(bench)
    with recorded(request.user, f"Saved “{name}”") as change:
        change.created(model.objects.create(owner=request.user, name=name, token=token, **framed))
    messages.success(request, f"Saved “{name}”.")
    return redirect(bench_address(bench) if request.POST.get("stay") else "bench:saved")


def _framed_m(bench: Bench) -> float | None:
    """How wide the reference sees the picture at the subject, where it sees it."""
    try:
        first = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference).first
    except DomainError:
        return None
    wide = float(first.view.field_wide_m)
    return wide if isfinite(wide) else None


def _model(what: str) -> Any:
    if what not in MODELS:
        raise Http404
    return MODELS[what]


def _own(request: Request, what: str, pk: int) -> Any:
    return get_object_or_404(_model(what).objects.for_owner(request.user), pk=pk)


@login_required
@require_POST
def rename(request: Request, what: str, pk: int) -> HttpResponseBase:
    record = _own(request, what, pk)
    name, problem = _name(request, record.name)
    if problem:
        messages.error(request, problem)
    elif name != record.name:
        try:
            with recorded(request.user, f"Renamed “{record.name}” to “{name}”") as change:
                now = change.fresh(record)
                if request.POST.get("version") != str(now.version):
                    raise StaleError
                now.called(name)
                change.save(now)
        except StaleError:
            told = f"It has been renamed to “{now.name}” meanwhile. To call it “{name}”, rename it once more."
            messages.error(request, told)
    return redirect("bench:saved")


def _beside(record: Saved) -> dict[str, Any]:
    """What a record keeps beside its name and its value."""
    return {"framed_m": record.framed_m} if isinstance(record, SavedBrief) else {}


@login_required
@require_POST
def duplicate(request: Request, what: str, pk: int) -> HttpResponseBase:
    record = _own(request, what, pk)
    copy = type(record)(owner=request.user, token=record.token, **_beside(record))
    copy.called(names.shortened(record.name, names.LONGEST_NAME - 7) + " (copy)")
    with recorded(request.user, f"Duplicated “{record.name}”") as change:
        copy.save()
        change.created(copy)
    return redirect("bench:saved")


@login_required
@require_POST
def delete(request: Request, what: str, pk: int) -> HttpResponseBase:
    record = _own(request, what, pk)
    with recorded(request.user, f"Deleted “{record.name}”") as change:
        change.remove(record)
    return redirect("bench:saved")
