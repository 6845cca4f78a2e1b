"""What an action was refused for, said on a page of its own where no form of its page says it."""

from typing import Any

from django.http.response import HttpResponseBase
from django.shortcuts import render

from cambrel.owners.keeping import QuotaError
from cambrel.owners.requests import Request
from cambrel.rendering.pool import BusyError


class Refusals:
    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: Request) -> Any:
        return self.get_response(request)

    def process_exception(self, request: Request, exception: Any) -> HttpResponseBase | None:
        if isinstance(exception, QuotaError):
            context = {"title": "The shelf is full", "says": str(exception)}
            return render(request, "site/refused.html", context, status=409)
        if isinstance(exception, BusyError):
            context = {
                "title": "Busy drawing",
                "says": "Many pictures are being drawn just now; try again in a moment.",
            }
            return render(request, "site/refused.html", context, status=503)
        return None
