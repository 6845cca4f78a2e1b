"""The words of the trade, and the pages for an address that is not there and for a fault of ours."""

import sys

from django.conf import settings
from django.core.exceptions import RequestDataTooBig, TooManyFieldsSent, TooManyFilesSent
from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_safe
from django_guid import get_guid

from cambrel.ask.trade_examples import example_of
from cambrel.conventions.preferred import preferred_by
from cambrel.owners.requests import Request
from cambrel.shelf.systems import own_of
from cambrel.site.health import checked
from cambrel.wording.glossary import terms


@require_safe
def words(request: Request) -> HttpResponseBase:
    """The words of the trade, explained."""
    own, conventions = own_of(request.user), preferred_by(request.user).conventions
    explained = [(term, example_of(term.slug, own, conventions)) for term in terms().values()]
    return render(request, "site/words.html", {"words": explained})


@require_safe
def word(request: Request, slug: str) -> HttpResponseBase:
    """One word, to be read where it stands; without a script its place on the page of words."""
    if slug not in terms():
        raise Http404
    if not request.htmx:
        return redirect(f"{reverse('words')}#{slug}")
    example = example_of(slug, own_of(request.user), preferred_by(request.user).conventions)
    return render(request, "site/_word.html", {"term": terms()[slug], "example": example})


def not_found(request: Request, exception: Exception) -> HttpResponseBase:
    return render(request, "site/not_found.html", status=404)


WAITED_TOO_LONG = ("locked", "lock timeout", "deadlock")
"""How databases say that somebody else has been writing."""
SUSPECTED: dict[type[Exception], str] = {
    TooManyFilesSent: f"At most {settings.DATA_UPLOAD_MAX_NUMBER_FILES} files are read at a time. Send them in parts.",
    TooManyFieldsSent: "This form has more fields than any page here sends.",
    RequestDataTooBig: "This form is larger than any page here sends.",
}


def bad_request(request: Request, exception: Exception) -> HttpResponseBase:
    """A request that makes no sense, or asks for more than is given."""
    says = SUSPECTED.get(type(exception), "The address or the form is damaged. Go back and try once more.")
    return render(request, "site/refused.html", {"title": "This request cannot be read", "says": says}, status=400)


def forbidden(request: Request, exception: Exception | None = None) -> HttpResponseBase:
    """What this reader may not do."""
    context = {"title": "This is not yours to do", "says": "Sign in as the one whose it is, or go back."}
    return render(request, "site/refused.html", context, status=403)


def forged(request: Request, reason: str = "") -> HttpResponseBase:
    """A form without the mark of its page: left open too long, or cookies are off."""
    says = (
        "It was open for too long, or this browser keeps no cookies. Go back, load the page anew and send the form once"
        " more."
    )
    return render(
        request, "site/refused.html", {"title": "This form cannot be taken any more", "says": says}, status=403
    )


@require_safe
def health(request: Request) -> HttpResponseBase:
    """Whether the application answers, and all that it needs is there, for whoever watches over it."""
    wrong = [name for name, says in checked().items() if says]
    text = "ok" if not wrong else "not well: " + ", ".join(wrong)
    return HttpResponse(
        text, status=503 if wrong else 200, content_type="text/plain", headers={"Cache-Control": "no-store"}
    )


def broken(request: Request) -> HttpResponse:
    """A fault of ours, a database that is away, or one in which somebody else has been writing for longer than one
    waits.
    """
    fault = sys.exc_info()[1]
    if isinstance(fault, OperationalError | InterfaceError):
        if any(word in str(fault) for word in WAITED_TOO_LONG):
            return _busy(request)
        return _away()
    return render(request, "site/broken.html", {"number": get_guid()}, status=500)


def _away() -> HttpResponse:
    """A page that asks the database for nothing."""
    text = render_to_string("site/away.html", {"number": get_guid()})
    return HttpResponse(text, status=503, headers={"Retry-After": "10"})


def _busy(request: Request) -> HttpResponse:
    """What was asked for, to be asked again in a moment: by the page itself, or by a press."""
    given = request.POST if request.method == "POST" else request.GET
    context = {
        "method": "post" if request.method == "POST" else "get",
        "address": request.path if request.method == "GET" else request.get_full_path(),
        "sent": [(name, value) for name, values in given.lists() for value in values if name != "csrfmiddlewaretoken"],
        "has_files": bool(request.method == "POST" and request.FILES),
    }
    response = render(request, "site/busy.html", context, status=503)
    response["Retry-After"] = "3"
    return response
