"""Every request by the bounds of its door: refused by its size before it is read, and told to wait where it comes too
often.
"""

from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.contrib.auth.views import redirect_to_login
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.urls import Resolver404, resolve
from django_ratelimit.core import is_ratelimited

from cambrel.bounds.doors import DOORS, MB
from cambrel.bounds.names import is_storable
from cambrel.owners.requests import Request
from cambrel.site.clients import client_of

SLACK = 64 * 1024
"""For the parts of a form around its files."""
DRAIN_TIMES = 4
"""So many times the limit is read and thrown away, so that the browser gets the message and not a broken connection."""
CHUNK = 256 * 1024
BY_VIEW = {
    "pictures:picture": "drawing",
    "shelf:import": "gear",
    "shelf:document": "export",
    "shelf:table": "export",
    "choose:helping": "helping",
    "bench:photograph-heads": "heads",
    "field:heads": "heads",
    "field:any-heads": "heads",
    "field:bring": "decoding",
    "field:new-place": "scenes",
    "field:place-edit": "scenes",
    "field:places-in": "scenes",
    "field:places-out": "export",
    "field:table": "logbook",
    "field:log": "logbook",
    "field:simulate": "simulating",
    "leave": "leaving",
}
"""Through which door an address leads; all others are pages."""


def door_of(path: str) -> str:
    """The door of an address."""
    try:
        return BY_VIEW.get(resolve(path).view_name, "page")
    except Resolver404:
        return "page"


class Doors:
    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: Request) -> HttpResponseBase:
        key = door_of(request.path_info)
        return self._refused(request, key) or self.get_response(request)

    def process_view(self, request: Request, view: Any, arguments: Any, named: Any) -> HttpResponseBase | None:
        """Refuse what is no text before any of it reaches a database; by now a form has been read."""
        sent = (request.GET, request.POST) if request.method == "POST" else (request.GET,)
        texts = (text for values in sent for name, held in values.lists() for text in (name, *held))
        if all(map(is_storable, (request.path_info, *texts))):
            return None
        context = {
            "title": "This request cannot be read",
            "says": "It holds bytes that are not text. Go back and try once more.",
        }
        return render(request, "site/refused.html", context, status=400)

    def _refused(self, request: Request, key: str) -> HttpResponseBase | None:
        door = DOORS[key]
        length = request.META.get("CONTENT_LENGTH") or "0"
        length = (
            int(length)
            if length.isascii() and length.isdigit() and len(length) < 16
            else settings.MOST_UPLOAD_BYTES * DRAIN_TIMES
        )
        has_files = request.META.get("CONTENT_TYPE", "").startswith("multipart/")
        if has_files and length > SLACK and not request.user.is_authenticated:
            return redirect_to_login(request.path)
        most = door.most_bytes if has_files else settings.DATA_UPLOAD_MAX_MEMORY_SIZE
        if length > most + SLACK:
            if request.user.is_authenticated and length < DRAIN_TIMES * settings.MOST_UPLOAD_BYTES:
                while request.read(CHUNK):
                    pass
            context = {
                "status": 413,
                "title": "That is too large",
                "says": f"At most {most // MB} MB are read here at a time. Send it in parts.",
            }
            return render(request, "site/refused.html", context, status=413)
        if settings.HOSTED and door.per_minute and _is_too_often(request, key, door.per_minute):
            says = "Too many requests just now. Wait a minute and go on."
            if key == "drawing":
                return HttpResponse(says, status=429, content_type="text/plain", headers={"Retry-After": "10"})
            context = {"title": "Too many at once", "says": says}
            answer = render(request, "site/refused.html", context, status=429)
            answer["Retry-After"] = "30"
            return answer
        return None


def _is_too_often(request: Request, key: str, per_minute: int) -> bool:
    who = f"user {request.user.pk}" if request.user.is_authenticated else f"client {client_of(request)}"
    return bool(
        is_ratelimited(
            request, group=f"door {key}", key=lambda group, asked: who, rate=f"{per_minute}/m", increment=True
        )
    )
