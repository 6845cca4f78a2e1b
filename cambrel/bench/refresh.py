"""A refresh of the bench: its outputs in parts, of which those are sent that the reader's page does not have
already.
"""

from __future__ import annotations

from zlib import crc32

from django.http import HttpRequest, HttpResponse
from django.template.loader import render_to_string

from cambrel.bench.page import Page

HEADER = "Bench-Parts"
"""What of the outputs stands on a page, each part by its name and a sum over what it says; in the question and in the
answer.
"""


def parts_of(page: Page) -> dict[str, str]:
    """The outputs of a bench by name, each as it is put in the place of the element that it names."""

    def written(name: str, **variables: object) -> str:
        return render_to_string(f"bench/{name}.html", {"page": page, "oob": True, **variables})

    parts = {f"plate-{plate.index}": written("_plate", plate=plate, picture=picture) for plate, picture in page.cameras}
    # of the controls only those that are open; on opening others, these are asked for
    parts |= {
        f"now-{plate.index}": written("_nows", plate=plate) for plate in page.plates if plate.index == page.opened
    }
    parts |= {name: written(f"_{name}") for name in ("words", "folded", "below", "panel", "verdicts")}
    if page.look.unfolded:  # what is folded is asked for when it is opened
        parts["scene_words"] = written("_scene_words")
    return parts


def refreshed(page: Page, request: HttpRequest) -> HttpResponse:
    """The parts that have changed, and the sums of all."""
    has = dict(pair.split("=", 1) for pair in request.headers.get(HEADER, "").split(",") if "=" in pair)
    parts = parts_of(page)
    sums = {name: f"{crc32(text.encode()):x}" for name, text in parts.items()}
    changed = (text for name, text in parts.items() if has.get(name) != sums[name])
    token = render_to_string("bench/_token.html", {"page": page})
    response = HttpResponse("".join((token, *changed)))
    response[HEADER] = ",".join(f"{name}={total}" for name, total in sums.items())
    return response
