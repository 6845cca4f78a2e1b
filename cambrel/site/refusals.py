"""What an action was refused for, said on a page of its own where no form of its page says it."""

import errno
from collections.abc import Callable
from typing import Any

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.shortcuts import render

from cambrel.bounds.lanes import BusyError, GoneError, OverrunError
from cambrel.links.codec import LinkError
from cambrel.owners.keeping import QuotaError
from cambrel.owners.models import UnstorableError
from cambrel.owners.requests import Request

NO_ROOM = {errno.ENOSPC, errno.EROFS, errno.EDQUOT, errno.EACCES}


class Refusals:
    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: Request) -> HttpResponseBase:
        return self.get_response(request)

    def process_exception(self, request: Request, exception: Any) -> HttpResponseBase | None:
        if isinstance(exception, QuotaError):
            context = {"title": "The shelf is full", "says": str(exception)}
            return render(request, "site/refused.html", context, status=409)
        if isinstance(exception, BusyError | GoneError):
            says = f"Others wait for the same just now: {exception}. Try again in a moment."
            answer = render(request, "site/refused.html", {"title": "Busy", "says": says}, status=503)
            answer["Retry-After"] = "5"
            return answer
        if isinstance(exception, OverrunError):
            says = f"It took too long, so it was given up: {exception}. Ask for less at a time."
            return render(request, "site/refused.html", {"title": "Given up", "says": says}, status=503)
        if isinstance(exception, UnstorableError):
            context = {"title": "This cannot be kept", "says": str(exception)}
            return render(request, "site/refused.html", context, status=400)
        if isinstance(exception, LinkError):
            context = {
                "title": "This is damaged",
                "says": f"{exception} It can still be thrown away where it is listed.",
            }
            return render(request, "site/refused.html", context, status=409)
        if isinstance(exception, OSError) and exception.errno in NO_ROOM:
            says = "The disk of this service is full, or may not be written to. Nothing was changed. Try again later."
            return render(request, "site/refused.html", {"title": "No room just now", "says": says}, status=507)
        return None
