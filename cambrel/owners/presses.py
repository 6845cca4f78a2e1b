"""A button that is pressed twice in a row does its work once: the second press is answered as the first was."""

from __future__ import annotations

import hashlib
import time
from collections.abc import Callable
from functools import wraps

from django.core.cache import cache
from django.http.response import HttpResponseBase
from django.shortcuts import redirect

from cambrel.bounds.lanes import BusyError
from cambrel.owners.requests import Request

TOGETHER_S = 5
"""Two equal forms within so much time are one press, and"""
UNDER_WAY_S, PATIENCE_S = 60, 10
"""as long as the first is being answered; so long the second waits for that."""
LOOK_EVERY_S = 0.05
UNDER_WAY = ""


def pressed_once(view: Callable[..., HttpResponseBase]) -> Callable[..., HttpResponseBase]:
    """A view whose form is taken once, however often it is sent within a few seconds."""

    @wraps(view)
    def once(request: Request, *arguments: object, **named: object) -> HttpResponseBase:
        # the mark of a page is another each time it is loaded, so that equal forms of two pages are two
        if request.method != "POST" or not request.user.is_authenticated or "csrfmiddlewaretoken" not in request.POST:
            return view(request, *arguments, **named)
        key = _key(request)
        if not cache.add(key, UNDER_WAY, UNDER_WAY_S):
            until = time.monotonic() + PATIENCE_S
            while (went_to := cache.get(key)) == UNDER_WAY:
                if time.monotonic() > until:
                    raise BusyError("the same form was sent before and is not answered yet")
                time.sleep(LOOK_EVERY_S)
            if went_to:
                return redirect(went_to)
        try:
            answer = view(request, *arguments, **named)
        except BaseException:
            cache.delete(key)
            raise
        if answer.status_code == 302:
            cache.set(key, answer["Location"], TOGETHER_S)
        else:
            cache.delete(key)
        return answer

    return once


def _key(request: Request) -> str:
    sent = [(name, value) for name, values in sorted(request.POST.lists()) for value in values]
    files = [(name, upload.name, upload.size) for name, ones in sorted(request.FILES.lists()) for upload in ones]
    held = (request.user.pk, request.user.date_joined.timestamp(), request.path, sent, files)
    return f"press:{hashlib.sha256(repr(held).encode()).hexdigest()}"
