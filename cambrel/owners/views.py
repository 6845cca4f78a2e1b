"""Undo, for every kind of record."""

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404
from django.http.response import HttpResponseBase
from django.shortcuts import redirect
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from cambrel.owners.models import ChangeSet
from cambrel.owners.requests import Request
from cambrel.owners.undo import UndoError, undo


@login_required
@require_POST
def undo_change(request: Request, pk: int) -> HttpResponseBase:
    """Undo one of the owner's change sets and return to where the press was."""
    change_set = ChangeSet.objects.for_owner(request.user).filter(pk=pk).first()
    if change_set is None:
        raise Http404
    try:
        undo(change_set)
        messages.success(request, f"Undone: {change_set.label}.")
    except UndoError as error:
        messages.error(request, str(error))
    return redirect(came_from(request))


def came_from(request: Request) -> str:
    """The page of this site from which a form was sent."""
    back = request.POST.get("next", "")
    return back if url_has_allowed_host_and_scheme(back, None) and back.startswith("/") else "/"
