"""What is to be known: the cautions of the work in one place."""

from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.views.decorators.http import require_safe

from cambrel.owners.requests import Request
from cambrel.wording.cautions import CAUTIONS


@require_safe
def care(request: Request) -> HttpResponseBase:
    """The cautions of the work, and where they apply."""
    return render(request, "learn/care.html", {"cautions": CAUTIONS.values()})
