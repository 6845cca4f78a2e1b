"""What the bench writes hundreds of: each a tag over a dataclass, as an include for each would take longer than the
page.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

from django import template
from django.forms import BoundField
from django.template import Context
from django.urls import reverse
from django.utils.html import conditional_escape
from django.utils.safestring import SafeString

from cambrel.bench.panels.numbers import NumberCell
from cambrel.bench.plate_settings import PlateSetting
from cambrel.bench.present import Plate, Quantity
from cambrel.inputs.widgets import Slide, element, escaped

register = template.Library()


@cache
def _why_address() -> str:
    return reverse("bench:why")


def opening(asked: str, of: str, rig: int | None, within: str, pair: str = "") -> SafeString:
    """What opens, in place, why something is so. asked: whether `of` is a figure ("of") or a sentence ("verdict");
    `within` is safe already; pair: the two cameras that are set against each other.
    """
    at = f"{_why_address()}?{asked}={of}" if rig is None else f"{_why_address()}?{asked}={of}&rig={rig}"
    at += f"&pair={pair}" if len(pair) == 2 else ""
    return element("a", {"class": "term why", "href": at}, within)


def _hidden(text: str) -> str:
    return f'<span class="visually-hidden">{escaped(text)}</span>'


@register.simple_tag
def why_of(of: str, rig: int | None, text: str, hidden: str = "why?") -> SafeString:
    """A figure, a flag or a word that opens why it is so."""
    return opening("of", of, rig, f"{escaped(text)}{_hidden(f', {hidden}')}")


@register.simple_tag
def why_said(key: str, rig: int | None, pair: str = "") -> SafeString:
    """What opens why a sentence is so."""
    return opening("verdict", key, rig, "why?", pair)


@register.simple_tag
def figure_of(quantity: Quantity, rig: int, label: str) -> SafeString:
    """A headline figure of a rig: its label, long and short, and the figure, which opens why it is so."""
    note = f"<small>{escaped(quantity.note)}</small>" if quantity.note else ""
    term = element(
        "dt",
        {"title": quantity.label},
        f'<span class="long">{conditional_escape(label)}</span><span class="short"'
        f' aria-hidden="true">{escaped(quantity.short)}</span>',
    )
    return element(
        "div", {}, term + element("dd", {"title": quantity.exact}, why_of(quantity.of, rig, quantity.text) + note)
    )


@register.simple_tag
def cells(shown: Sequence[NumberCell]) -> SafeString:
    """Figures in a row of a table, each with all of its digits behind it."""
    return SafeString(
        "".join(
            f'<td title="{escaped(figure.exact)}"{WINNER if figure.is_first else ""}>{escaped(figure.text)}</td>'
            for figure in shown
        )
    )


WINNER = ' class="winner"'


@register.simple_tag
def slider(slide: Slide | None, field: BoundField, label: str, letter: str) -> str:
    """The slider of a rig's setting, where it has one."""
    return slide.beside(field, f"{label} of {letter}") if slide else ""


@register.simple_tag
def now(setting: PlateSetting, plate: Plate, oob: bool) -> SafeString:
    """What a setting of a rig is now, when it follows or could not be reached."""
    label, letter = setting.label, plate.letter
    parts = ['<span class="waiting" hidden></span>'] if setting.waits else []
    if setting.follows:
        whole = setting.follows.startswith("follows")
        said = "change" if whole else escaped(setting.follows)
        hidden = f": {label} of {letter} {setting.follows}" if whole else f": {label} of {letter}, change that"
        mark = {
            "type": "button",
            "class": "follow-mark",
            "data-rig": plate.index,
            "data-question": setting.question,
            "data-field": f"id_rigs-{plate.index}-{setting.key}",
            "aria-haspopup": "true",
            "title": setting.follows,
        }
        parts += [
            element("span", {"class": "follows", "title": setting.exact}, escaped(setting.text)),
            " ",
            element("button", mark, said + _hidden(hidden)),
        ]
    if setting.choose:
        press = {"type": "submit", "class": "quiet", "name": "action", "value": setting.choose}
        parts += [" ", element("button", press, "let the picture choose" + _hidden(f" {label} of {letter}"))]
    if setting.limit:
        parts += [" ", element("span", {"class": "limit"}, escaped(setting.limit))]
    if setting.nearest:
        parts += [" ", element("span", {"class": "nearest"}, escaped(setting.nearest))]
    place = {"class": "now", "id": f"now-{plate.index}-{setting.key}", "hx-swap-oob": "morph" if oob else None}
    return element("output", place, "".join(parts))


@register.simple_tag(takes_context=True)
def panel_number(context: Context, key: str, label: str, unit: str = "") -> SafeString:
    """A small field of a panel, with what is wrong with it beside it."""
    look = context["page"].look
    message = look.message(key)
    typed = {
        "type": "text",
        "id": key,
        "name": key,
        "class": "form-control form-control-sm short-field" + (" is-invalid" if message else ""),
        "inputmode": "decimal",
        "value": look.shown(key),
        "aria-invalid": "true" if message else None,
        "aria-describedby": f"{key}-problem" if message else None,
    }
    said = element("span", {"class": "field-error", "id": f"{key}-problem"}, escaped(message)) if message else ""
    named = element("label", {"for": key}, escaped(label))
    return element("span", {"class": "panel-number"}, f"{named} {element('input', typed)} {escaped(unit)} {said}")
