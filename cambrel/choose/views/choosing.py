"""Which kit makes the pictures one makes: briefs by kits, each cell computed and pictured."""

from __future__ import annotations

import json
from collections.abc import Generator, Iterator
from itertools import chain
from queue import Empty, SimpleQueue
from threading import Thread
from typing import Any
from uuid import uuid4

from django.conf import settings
from django.contrib.auth.models import AnonymousUser
from django.core.cache import cache
from django.http import JsonResponse, QueryDict, StreamingHttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.template.loader import render_to_string
from django.views.decorators.http import require_safe

from cambrel.bounds.lanes import GoneError
from cambrel.choose.choose_query import ChooseQuery, asked_of
from cambrel.choose.document import as_file
from cambrel.choose.helping import KEPT_S, LANE, Helped, helped
from cambrel.choose.showing import page
from cambrel.links.codec import LinkError
from cambrel.owners.models import User, gear_owner
from cambrel.owners.requests import Request

LOOK_EVERY_S = 0.2
LEFT = "left"
"""What stands in the place of how far a search is once nobody waits for it any more."""
Step = tuple[float, list[Helped] | None]


class Lines:
    """The steps of a search as lines; whoever leaves, however early, ends it and its turn."""

    def __init__(self, begun: Step, steps: Generator[Step, None, None]) -> None:
        self.steps, self.told = steps, chain([begun], steps)

    def __iter__(self) -> Iterator[str]:
        return self

    def __next__(self) -> str:
        done, changes = next(self.told)
        told: dict[str, Any] = {"done": round(done, 3)}
        if changes is not None:
            told["html"] = render_to_string("choose/_help.html", {"looked": changes})
        return json.dumps(told) + "\n"

    def close(self) -> None:
        self.steps.close()


@require_safe
def choose(request: Request) -> HttpResponseBase:
    """The table, for the kits and shares in the address."""
    try:
        asked = asked_of(request.GET, request.user)
    except LinkError as error:
        return render(request, "choose/refused.html", {"says": str(error)}, status=400)
    if (file := as_file(asked.decision, request.GET.get("as", ""))) is not None:
        return file
    context = page(asked, request)
    is_sound = not any(form.errors for form in (asked.shares, asked.musts_form, asked.try_form))
    return render(request, "choose/choose.html", context, status=200 if is_sound else 422)


def looked(user_pk: int | None, query: str, job: str) -> list[Helped]:
    """What would help, for an address, worked out in another process; how far it is stands in the cache."""
    user = AnonymousUser() if user_pk is None else User.objects.get(pk=user_pk)
    asked, known = asked_of(QueryDict(query), user), list[Helped]()
    for done, found in helped(asked.decision, gear_owner(user), asked.musts, is_alone=True):
        if cache.get(job) == LEFT:
            raise GoneError
        cache.set(job, done, KEPT_S)
        known = found or known
    return known


def watched(asked: ChooseQuery, request: Request) -> Generator[Step, None, None]:
    """The same as `helped`, from this side of it."""
    job, ended, who = f"helping:{uuid4().hex}", SimpleQueue[Any](), request.user.pk

    def run() -> None:
        try:
            ended.put(LANE.run(looked, who, request.GET.urlencode(), job))
        except Exception as error:
            ended.put(error)

    Thread(target=run, daemon=True).start()
    try:
        while True:
            try:
                ending = ended.get(timeout=LOOK_EVERY_S)
                break
            except Empty:
                yield cache.get(job, 0.0), None
    except GeneratorExit:
        cache.set(job, LEFT, KEPT_S)
        raise
    if isinstance(ending, Exception):
        raise ending
    yield 1.0, ending


@require_safe
def helping(request: Request) -> HttpResponseBase:
    """What would help most, as a line for each step and at the end the part of the page; whoever leaves stops it."""
    try:
        asked = asked_of(request.GET, request.user)
    except LinkError as error:
        return JsonResponse({"says": str(error)}, status=400)

    steps = (
        watched(asked, request) if settings.WORKERS else helped(asked.decision, gear_owner(request.user), asked.musts)
    )
    begun = next(steps)  # whoever would have to wait too long is told so before anything is sent

    # as it is: packing it would hold the steps back
    return StreamingHttpResponse(
        Lines(begun, steps), content_type="application/x-ndjson", headers={"Content-Encoding": "identity"}
    )
