"""Which kit makes the pictures one makes: briefs by kits, each cell computed and pictured."""

from __future__ import annotations

import json
from collections.abc import Iterator
from itertools import chain
from typing import Any

from django.http import JsonResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.template.loader import render_to_string
from django.views.decorators.http import require_safe

from cambrel.choose.asking import asked_of
from cambrel.choose.document import as_file
from cambrel.choose.helping import helped
from cambrel.choose.showing import page
from cambrel.links.tokens import LinkError
from cambrel.owners.models import gear_owner
from cambrel.owners.requests import Request


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


@require_safe
def helping(request: Request) -> HttpResponseBase:
    """What would help most, as a line for each step and at the end the part of the page; whoever leaves stops it."""
    try:
        asked = asked_of(request.GET, request.user)
    except LinkError as error:
        return JsonResponse({"says": str(error)}, status=400)

    steps = helped(asked.decision, gear_owner(request.user), asked.musts)
    begun = next(steps)  # whoever would have to wait too long is told so before anything is sent

    def lines() -> Iterator[str]:
        for done, found in chain([begun], steps):
            told: dict[str, Any] = {"done": round(done, 3)}
            if found is not None:
                told["html"] = render_to_string("choose/_help.html", {"looked": found})
            yield json.dumps(told) + "\n"

    # as it is: packing it would hold the steps back
    return StreamingHttpResponse(lines(), content_type="application/x-ndjson", headers={"Content-Encoding": "identity"})
