"""How a form's fields are written: one bound field and a handful of widgets for the whole house, from which labels,
hints, messages and what assistive technology is told all follow. The widgets write themselves, as a bench has a hundred
of them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django import forms
from django.forms.renderers import TemplatesSetting
from django.utils.html import escape
from django.utils.safestring import SafeString

SMALL, SMALL_LIST = "form-control form-control-sm", "form-select form-select-sm"
Choices = Iterable[tuple[object, object]]


@lru_cache(maxsize=4096)
def escaped(text: str) -> str:
    """A value as it stands within quotes; a page says the same few hundred again and again."""
    return str(escape(text))


def element(name: str, attributes: dict[str, Any], within: str | None = None) -> SafeString:
    """An element in HTML; a yes among the attributes stands alone, a no or what is not given is left out. `within` is
    safe already.
    """
    # a list, which is joined quicker than it is handed over one by one
    written = "".join(
        [
            f" {key}" if value is True else f' {key}="{escaped(str(value))}"'
            for key, value in attributes.items()
            if value is not None and value is not False
        ]
    )
    return SafeString(f"<{name}{written}>" if within is None else f"<{name}{written}>{within}</{name}>")


@dataclass(frozen=True)
class Slide:
    """The slider beside a typed figure: over camera stops by their markings, or over a range by ratio."""

    kind: str
    steps: int
    stops: str = ""
    low: str = ""
    high: str = ""

    @property
    def marks(self) -> dict[str, str]:
        """What a script needs to know of the scale."""
        return {"data-stops": self.stops} if self.stops else {"data-low": self.low, "data-high": self.high}

    def beside(self, field: forms.BoundField, label: str) -> str:
        """The slider of a field, in HTML."""
        attributes = {
            "type": "range",
            "class": "form-range",
            "min": 0,
            "max": self.steps,
            "step": 1,
            "data-slider": self.kind,
        }
        return element(
            "input", {**attributes, "aria-label": f"{label}, slider", "data-for": field.id_for_label, **self.marks}
        )


class HouseField(forms.BoundField):
    """A field as it stands on a page."""

    @property
    def message_id(self) -> str:
        """Where its message stands: beside it, or where its form says that all of them do; nowhere in a form that takes
        anything.
        """
        return str(getattr(self.form, "messages_at", f"err-{self.html_name}"))

    @property
    def aria_describedby(self) -> str | None:
        """Always the place of its message, which may come later; before it its hint."""
        hint = f"{self.auto_id}_helptext" if self.help_text and self.auto_id else ""
        return f"{hint} {self.message_id}".strip() or None

    @property
    def message_place(self) -> str:
        """The place of its message, where it stands beside it."""
        return "" if hasattr(self.form, "messages_at") else self.message

    @property
    def message(self) -> str:
        """The place of the message beside a field, with the message where there is one."""
        said = self.errors[0] if self.errors else ""
        return element("p", {"class": "field-error", "id": self.message_id}, escape(said))

    @property
    def unit(self) -> str:
        return getattr(self.field, "unit", "")

    @property
    def word(self) -> str:
        """The field as a word of a sentence: its figure is dragged where it has a scale."""
        slide = getattr(self.field, "slide", None)
        scale = {"data-kind": slide.kind, "data-max": slide.steps, **slide.marks} if slide else {}
        label = element("label", {"class": "visually-hidden", "for": self.id_for_label}, escape(self.label))
        unit = element("span", {"class": "unit"}, escape(self.unit)) if self.unit else ""
        return element("span", {"class": "word", **scale}, f"{label}{self}{unit}{self.message}")

    @property
    def slider(self) -> str:
        slide = getattr(self.field, "slide", None)
        return slide.beside(self, self.label) if slide else ""


class Renderer(TemplatesSetting):
    """The house's own way with forms."""

    field_template_name = "fields/field.html"
    bound_field_class = HouseField


class TypedInput(forms.TextInput):
    """A typed figure or word."""

    def __init__(self, attrs: dict[str, Any] | None = None) -> None:
        super().__init__({"class": SMALL, **(attrs or {})})

    def render(
        self, name: str, value: object, attrs: dict[str, Any] | None = None, renderer: object = None
    ) -> SafeString:
        shown = {"type": self.input_type, "name": name, "value": "" if value is None else value}
        return element("input", {**shown, **self.attrs, **(attrs or {})})


class Search(TypedInput):
    """What is looked for."""

    input_type = "search"

    def __init__(self, placeholder: str, **attrs: str | int) -> None:
        super().__init__({"placeholder": placeholder, "autocomplete": "off", **attrs})


class List(forms.Select):
    """A choice from a list that opens."""

    def __init__(self, attrs: dict[str, Any] | None = None, choices: Choices = ()) -> None:
        super().__init__({"class": SMALL_LIST, **(attrs or {})}, choices)

    def render(
        self, name: str, value: object, attrs: dict[str, Any] | None = None, renderer: object = None
    ) -> SafeString:
        chosen = "" if value is None else str(value)
        options = "".join(_option(key, label, chosen) for key, label in self.choices)
        return element("select", {"name": name, **self.attrs, **(attrs or {})}, options)


def _option(key: object, label: object, chosen: str) -> str:
    if isinstance(label, list | tuple):
        return element("optgroup", {"label": key}, "".join(_option(inner, says, chosen) for inner, says in label))
    return element("option", {"value": key, "selected": str(key) == chosen}, escape(label))


class Answers(forms.RadioSelect):
    """A question with all its answers in sight."""

    def render(
        self, name: str, value: object, attrs: dict[str, Any] | None = None, renderer: object = None
    ) -> SafeString:
        answers = (
            element("input", {"type": "radio", "name": name, "value": key, "checked": str(key) == str(value)})
            + element("span", {}, escape(label))
            for key, label in self.choices
        )
        return SafeString("".join(element("label", {}, answer) for answer in answers))


class OneOf(forms.RadioSelect):
    """One of a few, below each other."""

    def render(
        self, name: str, value: object, attrs: dict[str, Any] | None = None, renderer: object = None
    ) -> SafeString:
        boxes = (
            element("input", {"type": "radio", "name": name, "value": key, "checked": str(key) == str(value)})
            + f" {escape(label)}"
            for key, label in self.choices
        )
        return SafeString("".join(element("label", {"class": "check"}, box) for box in boxes))


class Explained(Answers):
    """A question whose answers each have a reason: `notes` by the keys of the choices."""

    def __init__(self, notes: dict[str, str], choices: Choices = ()) -> None:
        super().__init__(choices=choices)
        self.notes = notes

    def render(
        self, name: str, value: object, attrs: dict[str, Any] | None = None, renderer: object = None
    ) -> SafeString:
        answers = (
            element("input", {"type": "radio", "name": name, "value": key, "checked": str(key) == str(value)})
            + element("span", {}, escape(label))
            + element("span", {"class": "note"}, escape(self.notes[key]))
            for key, label in self.choices
        )
        return SafeString("".join(element("label", {}, answer) for answer in answers))


class Ticks(forms.CheckboxSelectMultiple):
    """Any of several; those of a group stand under its heading."""

    def render(
        self, name: str, value: object, attrs: dict[str, Any] | None = None, renderer: object = None
    ) -> SafeString:
        chosen = {str(key) for key in value} if isinstance(value, Iterable) else set()
        made: list[str] = []
        for key, label in self.choices:
            if isinstance(label, list | tuple):
                made.append(element("p", {"class": "more-head"}, escape(key)))
                made += [_ticked(name, choice, says, chosen) for choice, says in label]
            else:
                made.append(_ticked(name, key, label, chosen))
        return SafeString("".join(made))


def _ticked(name: str, key: object, label: object, chosen: set[str]) -> str:
    box = element("input", {"type": "checkbox", "name": name, "value": key, "checked": str(key) in chosen})
    return element("label", {"class": "check"}, f"{box} {escape(label)}")


class Tick(forms.CheckboxInput):
    """A yes or a no."""

    def render(
        self, name: str, value: object, attrs: dict[str, Any] | None = None, renderer: object = None
    ) -> SafeString:
        ticked = {"type": "checkbox", "name": name, "checked": bool(self.check_test(value))}
        return element("input", {**ticked, **self.attrs, **(attrs or {})})
