"""The second template language: Jinja2 for the bench's own parts, of which a page has hundreds. It knows the same words as the first."""

from typing import Any

from django.template.loader import render_to_string
from django.urls import reverse
from jinja2 import Environment, StrictUndefined

from cambrel.site.templatetags import figures


def environment(**options: Any) -> Any:
    made = Environment(**{**options, "undefined": StrictUndefined, "trim_blocks": True, "lstrip_blocks": True})
    made.globals |= {
        "url": lambda name, *args: reverse(name, args=args),
        "draw": figures.draw,
        "slider": figures.slider,
        "keep_drawing": lambda address: render_to_string("site/_keep_drawing.html", {"address": address}),
    }
    made.filters |= {"explained": figures.explained, "explained_each": figures.explained_each}
    return made
