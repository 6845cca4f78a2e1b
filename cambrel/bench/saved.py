"""Saved comparisons: kept by name, listed, renamed, duplicated, deleted; every change can be undone."""

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from cambrel import names
from cambrel.bench.models import SavedComparison
from cambrel.links import LinkError, bench_address, decode
from cambrel.owners.undo import last_change, recorded
from cambrel.wording import LETTERS


def _name(request, otherwise):
    """The name given, cleaned; what cannot be a name is refused by what is returned with it."""
    try:
        return names.clean(request.POST.get("name", "")), ""
    except ValueError as error:
        return otherwise, str(error)


@login_required
@require_safe
def saved_list(request):
    """All saved comparisons of the owner, with what is on each bench."""
    rows = []
    for record in SavedComparison.objects.for_owner(request.user):
        bench = record.bench()
        rigs = [(LETTERS[i], i, slot.body_name, slot.lens_name) for i, slot in enumerate(bench.slots)]
        rows.append({"record": record, "rigs": rigs, "brief": bench.brief_name, "address": bench_address(bench)})
    return render(request, "bench/saved.html", {"rows": rows, "last_change": last_change(request.user)})


@login_required
@require_POST
def save(request):
    """Keep a bench under a name."""
    name, problem = _name(request, "")
    try:
        bench = decode(request.POST.get("b", ""))
    except LinkError as error:
        problem = problem or str(error)
    if problem:
        messages.error(request, problem)
        return redirect("bench:saved")
    with recorded(request.user, f"Saved “{name}”") as change:
        change.created(SavedComparison.objects.create(owner=request.user, name=name, token=request.POST["b"]))
    messages.success(request, f"Saved “{name}”.")
    return redirect(bench_address(bench) if request.POST.get("stay") else reverse("bench:saved"))


def _own(request, pk):
    return get_object_or_404(SavedComparison.objects.for_owner(request.user), pk=pk)


@login_required
@require_POST
def rename(request, pk):
    record = _own(request, pk)
    name, problem = _name(request, record.name)
    if problem:
        messages.error(request, problem)
    elif request.POST.get("version") != str(record.version):
        messages.error(
            request, f"It has been renamed to “{record.name}” meanwhile. To call it “{name}”, rename it once more."
        )
    elif name != record.name:
        with recorded(request.user, f"Renamed “{record.name}” to “{name}”") as change:
            change.touch(record)
            record.name = name
            record.save()
    return redirect("bench:saved")


@login_required
@require_POST
def duplicate(request, pk):
    record = _own(request, pk)
    name = names.shortened(record.name, names.LONGEST - 7) + " (copy)"
    with recorded(request.user, f"Duplicated “{record.name}”") as change:
        change.created(SavedComparison.objects.create(owner=request.user, name=name, token=record.token))
    return redirect("bench:saved")


@login_required
@require_POST
def delete(request, pk):
    record = _own(request, pk)
    with recorded(request.user, f"Deleted “{record.name}”") as change:
        change.touch(record)
        record.delete()
    return redirect("bench:saved")
