"""Decisions that are kept, opened later and thrown away."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST, require_safe

from cambrel.choose.choose_query import asked_of
from cambrel.choose.document import as_file
from cambrel.choose.forms import KeepForm
from cambrel.choose.models import KeptDecision
from cambrel.choose.packing import GearShelf
from cambrel.choose.showing import page
from cambrel.choose.since import changed_since
from cambrel.conventions.preferred import preferred_by
from cambrel.links.choices import LONGEST_KEPT, decode_choice
from cambrel.links.codec import LinkError
from cambrel.owners.presses import pressed_once
from cambrel.owners.requests import Request
from cambrel.owners.undo import recorded


@login_required
@require_POST
@pressed_once
def keep(request: Request) -> HttpResponseBase:
    """Keep a decision with its kits and pictures as they are."""
    form = KeepForm(request.POST)
    token = request.POST.get("choice", "")
    try:
        decode_choice(token, LONGEST_KEPT)
    except LinkError as error:
        messages.error(request, str(error))
        return redirect("choose:choose")
    if not form.is_valid():
        return render(request, "choose/keep.html", {"keep_form": form, "token": token}, status=422)
    said = form.cleaned_data
    with recorded(request.user, f"Kept the decision “{said['name']}”") as change:
        kept = KeptDecision.objects.create(owner=request.user, token=token, **said)
        change.created(kept)
    messages.success(request, f"Kept “{kept.name}”.")
    return redirect("choose:kept", kept.pk)


@login_required
@require_safe
def kept(request: Request, pk: int) -> HttpResponseBase:
    """A decision with its kits as they were, and what has changed since."""
    record = get_object_or_404(KeptDecision.objects.for_owner(request.user), pk=pk)
    choice = record.choice()
    asked = asked_of(request.GET, request.user, choice)
    if (file := as_file(asked.decision, request.GET.get("as", ""))) is not None:
        return file
    since = changed_since(choice, GearShelf(request.user), preferred_by(request.user).conventions)
    return render(request, "choose/choose.html", page(asked, request) | {"kept": record, "since": since})


@login_required
@require_POST
def forget(request: Request, pk: int) -> HttpResponseBase:
    """Throw a decision away; it can be undone."""
    record = get_object_or_404(KeptDecision.objects.for_owner(request.user), pk=pk)
    with recorded(request.user, f"Threw away the decision “{record.name}”") as change:
        change.remove(record)
    return redirect("choose:choose")
