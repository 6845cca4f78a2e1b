"""What every form of the shelf has in common: labels, exact values where a text is untouched, and the core's own
judgement.
"""

from collections.abc import Collection, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import dataclass
from typing import Any

from django import forms
from django.core.validators import MaxLengthValidator
from django.forms import BoundField

from cambrel.bounds import names
from cambrel.inputs.fields import QuantityField, write_as
from cambrel.inputs.widgets import SMALL, SMALL_LIST
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import Owned, User
from cambrel.shelf.mounts import Spellings
from cambrel.shelf.saying import plainly
from cambrel.shelf.table import BY_KEY, GearField


def meta_of(model: type[Owned], fields: Sequence[GearField], left_open: Collection[str] = ()) -> type:
    """What Django makes of a table of fields for a form of its model; those of `left_open` follow from others and need
    not be typed.
    """
    kept = [field for field in fields if not field.asked_only]
    typed = {gear_field.key: gear_field.typed for gear_field in kept if gear_field.sort.typed}
    open_ = {
        key: lambda made=made, **options: _opened(made(**options)) for key, made in typed.items() if key in left_open
    }
    own = {"model": model, "fields": [field.key for field in kept], "field_classes": typed | open_}
    own["widgets"] = {field.key: field.sort.widget for field in kept if field.sort.widget}
    return type("Meta", (), own)


def _opened(field: forms.Field) -> forms.Field:
    field.required = False
    return field


KNOWN = {"mount": "mounts", "lens_mount": "mounts", "system": "systems"}
"""The fields for which what is known already is offered, by the lists of the page."""


EMPTY: tuple[Any, ...] = (None, "", [])


@dataclass(frozen=True)
class FoldedFields:
    """Fields of a form under one heading that is folded away, open where one has a message; how many are on record."""

    heading: str
    fields: list[BoundField]
    is_open: bool
    on_record: int


class GearForm(forms.ModelForm):  # type: ignore[type-arg]
    """A record of the owner's; exact values stay where their text is untouched."""

    use_required_attribute = False
    table: tuple[GearField, ...] = ()
    """The fields in the order of the page, by their headings."""
    needed: AbstractSet[str] | None = None
    """The keys of what has to be said, where these are others than those the table says."""

    def __init__(self, *args: Any, owner: User | None = None, **options: Any) -> None:
        super().__init__(*args, **options)
        self.owner: Any = owner
        self.worked_out: set[str] = set()  # fields that follow from others or from the name
        for gear_field in self.table:
            if gear_field.asked_only:
                self.fields[gear_field.key] = _opened(gear_field.typed())
        for name, field in self.fields.items():
            if name in BY_KEY:
                field.label, field.help_text = BY_KEY[name].label, BY_KEY[name].hint
            write_as(field, "fields/record.html")
            if name in KNOWN:
                field.widget.attrs |= {"list": KNOWN[name], "autocomplete": "off"}
            if "class" not in field.widget.attrs:
                field.widget.attrs["class"] = SMALL_LIST if isinstance(field, forms.ChoiceField) else SMALL
            if isinstance(field, QuantityField):
                field.base = getattr(self.instance, name, None)
            for validator in field.validators:
                if isinstance(validator, MaxLengthValidator):
                    validator.message = "At most %(limit_value)d characters fit here."
        needed = {one.key for one in self.table if one.stated} if self.needed is None else self.needed
        for name in needed & self.fields.keys():
            self.fields[name].is_needed = True  # type: ignore[attr-defined]
        if "name" in self.fields:
            self.fields["name"].error_messages["required"] = "Give it a name."

    def clean_name(self) -> str:
        try:
            return names.clean(self.cleaned_data["name"])
        except ValueError as error:
            raise forms.ValidationError(str(error)) from None

    def clean(self) -> dict[str, Any]:
        """A mount is spelt as it is known."""
        given = super().clean() or {}
        typed = [name for name in ("mount", "lens_mount") if given.get(name)]
        if typed and self.owner is not None:
            spellings = Spellings(self.owner)
            given.update({name: spellings.of(given[name]) for name in typed})
        return given

    def first(self) -> list[BoundField]:
        """The fields that the form begins with: what says what the thing is, and all of a kind that asks for little."""
        return [self[one.key] for one in self.table if one.key in self.fields and (one.first or not one.group)]

    def folded(self) -> list[FoldedFields]:
        """The others, by their headings."""
        groups: dict[str, list[BoundField]] = {}
        for gear_field in self.table:
            if gear_field.key in self.fields and gear_field.group and not gear_field.first:
                groups.setdefault(gear_field.group, []).append(self[gear_field.key])
        return [
            FoldedFields(
                heading,
                fields,
                is_open=any(field.errors for field in fields),
                on_record=sum(self._is_on_record(field.name) for field in fields),
            )
            for heading, fields in groups.items()
        ]

    def _is_on_record(self, name: str) -> bool:
        """Whether the record says something of its own there, other than what every new one says."""
        if BY_KEY[name].asked_only or self.instance.pk is None:
            return False
        value, usual = getattr(self.instance, name), self.instance._meta.get_field(name).get_default()
        return value not in EMPTY and value != usual

    def _post_clean(self) -> None:
        super()._post_clean()  # type: ignore[misc]
        if hasattr(self.instance, "inferred"):
            kept = set(self.instance.inferred) - set(self.changed_data)
            self.instance.inferred = sorted(kept | self.worked_out)
            measured = self.instance.measured
            self.instance.measured = [noted for noted in measured if noted.split()[0] not in self.changed_data]
        if self.errors or not hasattr(self.instance, "to_optics"):
            return
        try:
            self.instance.to_optics()
        except DomainError as error:
            field = error.parameter if error.parameter in self.fields else None
            self.add_error(field, f"This must be {plainly(error.wanted)}.")
