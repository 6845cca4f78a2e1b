"""A picture of one's own is put beside the samples."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import QueryDict
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from cambrel.choose.choose_query import asked_of
from cambrel.choose.own_picture import OwnPictureForm, is_full
from cambrel.choose.showing import page
from cambrel.links.codec import LinkError
from cambrel.owners.presses import pressed_once
from cambrel.owners.requests import Request
from cambrel.owners.undo import recorded


@login_required
@require_POST
@pressed_once
def add(request: Request) -> HttpResponseBase:
    """Keep a picture and go back to the kits as they stood; with a mistake the page comes back with what was typed."""
    form, asked_before = OwnPictureForm(request.POST), QueryDict(request.POST.get("asked", ""))
    if form.is_valid() and is_full(request.user):
        form.add_error("name", "Choose shows no more pictures of your own. Delete one on Saved.")
    if not form.is_valid():
        try:
            asked = asked_of(asked_before, request.user)
        except LinkError as error:
            return render(request, "choose/refused.html", {"says": str(error)}, status=400)
        return render(request, "choose/choose.html", page(asked, request) | {"own_form": form}, status=422)
    record = form.saved(request.user)
    with recorded(request.user, f"Saved “{record.name}”") as change:
        record.save()
        change.created(record)
    messages.success(request, f"“{record.name}” stands among the pictures.")
    query = asked_before.urlencode()
    return redirect(reverse("choose:choose") + (f"?{query}" if query else ""))
