"""Drawings as files to keep: SVG from the server, from which a browser makes a PNG."""

from collections.abc import Callable, Mapping
from functools import cache
from pathlib import Path

from django.contrib.staticfiles import finders
from django.http import HttpResponse
from django.http.response import HttpResponseBase

from cambrel.drawings.export import looks, standalone
from cambrel.drawings.shapes import Drawing
from cambrel.exports.typeface import embedded

RULES = "site/drawings.css"


@cache
def _rules() -> Mapping[frozenset[str], Mapping[str, str]]:
    return looks(Path(str(finders.find(RULES))).read_text())


def svg_file(
    drawing: Drawing, name: str, picture: Callable[[str], bytes | None] = lambda href: None
) -> HttpResponseBase:
    """A drawing as an SVG file of its own."""
    response = HttpResponse(
        standalone(drawing, _rules(), picture, embedded), content_type="image/svg+xml; charset=utf-8"
    )
    response["Content-Disposition"] = f'attachment; filename="cambrel-{name}.svg"'
    return response
