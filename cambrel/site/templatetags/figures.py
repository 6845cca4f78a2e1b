"""Template filters and tags for figures and drawings; the wording itself is in cambrel.wording."""

from collections.abc import Mapping, Sequence
from functools import cache
from typing import Any, TypeVar
from urllib.parse import parse_qs, urlencode, urlsplit

from django import forms, template
from django.urls import reverse
from django.utils.html import format_html
from django.utils.safestring import SafeString

from cambrel import wording
from cambrel.drawings import svg
from cambrel.drawings.shapes import Drawing
from cambrel.inputs.widgets import escaped
from cambrel.wording import Units, glossary
from cambrel.wording.sentences import Sentence

T = TypeVar("T")
register = template.Library()


@register.filter
def sentence(said: Sentence, units: Units) -> str:
    """A computed sentence with its figures."""
    return wording.sentence(said, units)


@register.simple_tag
def draw(drawing: Drawing, identity: str) -> str:
    """A drawing as SVG; its texts are escaped by the writer."""
    return SafeString(svg.write(drawing, identity))


@register.filter
def item(sequence: Sequence[T], index: int) -> T:
    """One item of a list by its number."""
    return sequence[index]


@register.filter
def key(mapping: Mapping[str, T], name: str) -> T:
    """An entry of a mapping by its key."""
    return mapping[name]


@register.filter
def counted(number: float) -> str:
    """A number of things, as it is read."""
    return f"{number:,}"


@register.filter
def field(form: forms.BaseForm, name: str) -> forms.BoundField:
    """A form's field by its name."""
    return form[name]


@register.filter
def error(messages: Mapping[str, str], name: str) -> str:
    """The message beside a field, if there is one."""
    return messages.get(name, "")


@register.filter
def explained(text: str, seen: set[str] | None = None) -> str:
    """A text whose words of the trade open their explanation."""
    parts = glossary.parts(str(text), seen)
    return SafeString(
        "".join(f"{_opening(slug)}{escaped(part)}</a>" if slug else escaped(part) for part, slug in parts)
    )


@register.filter
def explained_each(said: Any) -> list[Any]:
    """Texts behind their keys, with what comes after them; every word of the trade explained where it first stands."""
    seen: set[str] = set()
    return [(key, explained(text, seen), *rest) for key, text, *rest in said]


@register.filter
def why(bench: str, asked: str) -> str:
    """What opens why something is so, by the address of the bench that it stands on; nothing where there is none.

    asked: of which figure and rig, as it stands in an address: of=total&rig=1
    """
    token = parse_qs(urlsplit(bench).query).get("b", [""])[0]
    if not token:
        return ""
    return format_html(
        '<a class="term why" href="{}?{}&{}">why?</a>', reverse("bench:why"), urlencode({"b": token}), asked
    )


@cache
def _opening(slug: str) -> str:
    """The link that opens a word's explanation; a hundred of them stand on a bench."""
    return format_html(
        '<a class="term" href="{}#{}" data-says="{}">', reverse("words"), slug, reverse("word", args=[slug])
    )
