"""Editing one record: its form and, for a body, its crop modes and the lens that is fixed to it, saved as one
change.
"""

from datetime import date
from typing import Any

from django import forms
from django.http import QueryDict

from cambrel.owners.models import Owned, User
from cambrel.owners.undo import Recorder, StaleError, recorded
from cambrel.shelf.forms import CropModeForm, FixedLensForm
from cambrel.shelf.kinds import ShelfKind
from cambrel.shelf.models import Body, CropMode, Lens
from cambrel.shelf.saying import worked_out

CropModes = forms.inlineformset_factory(Body, CropMode, form=CropModeForm, extra=2, max_num=12, validate_max=True)


class Editing:
    """What is on the page of one record. `fixed` and `crop_modes` are None but for a body."""

    def __init__(self, kind: ShelfKind, record: Any, owner: User, data: QueryDict | None = None) -> None:
        self.kind, self.record, self.owner = kind, record, owner
        self.is_new = record.pk is None
        self.stamp = "" if self.is_new else stamp_of(record)
        self.is_stale = data is not None and not self.is_new and data.get("version") != self.stamp
        self.form = kind.form(data, instance=record, owner=owner)
        self.fixed = self.crop_modes = None
        self.has_fixed = False
        if kind.model is Body:
            lens = None if self.is_new else record.fixed_lenses.first()
            self.has_fixed = lens is not None if data is None else data.get("has_fixed") == "1"
            sent = data if self.has_fixed else None
            self.fixed = FixedLensForm(sent, instance=lens or Lens(owner=owner), owner=owner, prefix="fixed")
            self.crop_modes = CropModes(data, instance=record, prefix="modes", form_kwargs={"owner": owner})

    def is_valid(self) -> bool:
        parts = [self.form]
        if self.fixed is not None:
            parts += [self.crop_modes] + ([self.fixed] if self.has_fixed else [])
        sound = [part.is_valid() for part in parts]  # every part, so that each shows its messages
        return all(sound) and not self.is_stale

    @property
    def worked_out(self) -> str:
        """The fields that were worked out, in words."""
        return worked_out({"inferred": getattr(self.record, "inferred", [])})

    @property
    def measured(self) -> list[tuple[str, date]]:
        """What was read off one's own pictures: the label of the field, and the day."""
        read_off = dict(pair.split() for pair in getattr(self.record, "measured", []))
        labels = {key: str(field.label) for key, field in self.form.fields.items()}
        return [(labels[key], date.fromisoformat(day)) for key, day in read_off.items() if key in labels]

    @property
    def apart(self) -> list[tuple[str, str, str]]:
        """Where what was typed differs from what is on the shelf now: label, there, here."""
        parts = [("", self.form)] + ([("lens: ", self.fixed)] if self.has_fixed else [])
        lines = []
        for lead, form in parts:
            for name in form.changed_data:
                field = form.fields[name]
                there = _shown(field, form.get_initial_for_field(field, name))
                here = _shown(field, form[name].value())
                if there != here:
                    lines.append((lead + str(field.label or name), there, here))
        return lines

    def save(self) -> Any:
        """Save all of it in one change that can be undone."""
        name = self.form.cleaned_data["name"]
        with recorded(self.owner, f"{'Added' if self.is_new else 'Changed'} “{name}”") as change:
            if not self.is_new:
                if stamp_of(self.kind.model.objects.get(pk=self.record.pk)) != self.stamp:
                    raise StaleError
                if self.kind.model is Body:
                    change.touch(*self.record.crop_modes.all(), *self.record.fixed_lenses.all())
                change.touch(self.record)
            record = self.form.save(commit=False)
            record.owner = self.owner
            record.save()
            self.form.save_m2m()
            if self.is_new:
                change.created(record)
            if self.kind.model is Body:
                self._save_parts(record, change)
        return record

    def _save_parts(self, body: Body, change: Recorder) -> None:
        assert self.crop_modes is not None
        for mode in self.crop_modes.save(commit=False):
            mode.owner, mode.body = self.owner, body
            mode.save()
            change.created(mode)
        for mode in self.crop_modes.deleted_objects:
            mode.delete()
        if self.has_fixed:
            lens = self.fixed.save(commit=False)  # type: ignore[union-attr]
            lens.owner, lens.fixed_to, lens.name, lens.mount = self.owner, body, fixed_lens_name(body), ""
            lens.system, lens.weight_g, lens.price, lens.currency = body.system, 0, body.price and 0, body.currency
            lens.save()
            change.created(lens)
        else:
            body.fixed_lenses.all().delete()


def stamp_of(record: Owned) -> str:
    """The version of a record with its parts, as a form carries it."""
    parts = [record]
    if isinstance(record, Body):
        parts += [*record.crop_modes.order_by("pk"), *record.fixed_lenses.order_by("pk")]
    return " ".join(f"{part.pk}.{part.version}" for part in parts)


def _shown(field: forms.Field, value: object) -> str:
    """A value as its field shows it."""
    choices = dict(getattr(field, "choices", ()) or getattr(field.widget, "choices", ()))
    text = field.prepare_value(value)
    return str(choices.get(str(text), "" if text is None else text)) or "unknown"


def fixed_lens_name(body: Body) -> str:
    return f"{body.name[:55]} lens"
