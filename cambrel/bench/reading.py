"""From the query string to a bench: the link parameter is the base, readable fields change it. Nothing is replaced by a
default.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from django.contrib.auth.models import AnonymousUser

from cambrel.bench.forms import BriefForm, ConventionsForm, HoldForm, RecordForm, RigForm
from cambrel.bench.look import WIDTHS, Look
from cambrel.bench.panels import PANELS, parts
from cambrel.bench.sample_benches import opening_bench
from cambrel.comparison.bench import MOST_RIGS, Bench
from cambrel.comparison.engine import Comparison, compare
from cambrel.comparison.moving_pictures import with_film_shutter
from cambrel.conventions.preferred import Preferred
from cambrel.inputs.fields import whole
from cambrel.links.benches import decode
from cambrel.links.codec import LinkError
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import User
from cambrel.pictures.own_scenes import ReaderScenes
from cambrel.scenes import Find, Scene, shipped
from cambrel.shelf.own_things import OwnThings
from cambrel.wording import METRES, UNITS

PARTS = parts()
WHOLE: dict[str, type[RecordForm]] = {"brief": BriefForm, "hold": HoldForm, "conventions": ConventionsForm}
"""The records of a bench that all its rigs share, by the prefix of their fields."""


@dataclass(frozen=True)
class Forms:
    """The controls of a bench."""

    brief: BriefForm
    hold: HoldForm
    conventions: RecordForm
    rigs: tuple[RigForm, ...]


@dataclass
class BenchReading:
    """What a request says: the bench when all is sound, else the last sound one, with a message by the name of each
    field that is not.
    """

    base: Bench
    look: Look
    bench: Bench
    sent: Mapping[str, str] = field(default_factory=dict)
    messages: dict[str, str] = field(default_factory=dict)
    void: list[int] = field(default_factory=list)
    """Rigs whose settings cannot be used."""
    broken: bool = False
    """Whether the brief, the hold, the conventions or the reference cannot be used, so that nothing can be compared."""
    comparison: Comparison | None = None
    """Once it is worked out: without the rigs that cannot be used; None where nothing can be compared."""
    find: Find = shipped
    """Finds scenes, as whoever reads has them."""
    own: OwnThings = field(default_factory=OwnThings)
    """What of the reader's shelf may serve."""

    @classmethod
    def of(cls, bench: Bench, look: Look, comparison: Comparison | None, own: OwnThings, find: Find) -> BenchReading:
        """A bench that a press has led to, with its comparison where that is known."""
        return cls(bench, look, bench, comparison=comparison, own=own, find=find)

    @property
    def place(self) -> Scene:
        """The scene of the bench."""
        return self.find(self.bench.scene)

    @property
    def sound(self) -> bool:
        return not self.messages

    def work_out(self) -> Comparison | None:
        """Compare, if that is not done yet; where the core refuses, its message is put beside the field it speaks
        of.
        """
        if self.comparison is not None or self.broken:
            return self.comparison
        b = self.bench
        try:
            made = compare(b.brief, b.rigs, b.hold, b.conventions, b.reference)
        except DomainError as error:
            self.refuse(error)
            return None
        self.comparison = made.without(self.void) if self.void else made
        return self.comparison

    def refuse(self, error: DomainError) -> None:
        """A refusal by the core, put beside the field it speaks of."""
        known = error.parameter in BriefForm.base_fields
        self.messages[f"brief-{error.parameter}" if known else "bench"] = f"This must be {error.wanted}."
        self.broken = True

    @cached_property
    def forms(self) -> Forms:
        """The controls: of a sound bench as it is, else as they were sent, with their messages."""
        sent, of = (None, self.bench) if self.sound else (self.sent, self.base)
        units = self.look.units
        whole: dict[str, Any] = {name: form(sent, getattr(of, name), name, units) for name, form in WHOLE.items()}
        rigs = tuple(RigForm(sent, rig, f"rigs-{index}", units) for index, rig in enumerate(of.rigs))
        for form in () if self.sound else (*whole.values(), *rigs):
            for name in form.fields:
                said = self.messages.get(form.add_prefix(name))
                if said and name not in form.errors:
                    form.add_error(name, said)
        return Forms(**whole, rigs=rigs)


def read(
    query: Mapping[str, str],
    width: str = "",
    preferred: Preferred | None = None,
    remembered: str = "",
    reader: User | AnonymousUser | None = None,
) -> BenchReading:
    """Read a request.

    Raises
        LinkError where the link parameter cannot be read, or more rigs are given than a bench holds
    """
    preferred = preferred or Preferred()
    base = decode(query["b"]) if query.get("b") else replace(opening_bench(), conventions=preferred.conventions)
    base = replace(base, conventions=replace(base.conventions, home=preferred.home))  # never the sender's
    _count_rigs(query)
    look = replace(_look(query, base, width, preferred), remembered=remembered)
    reading = BenchReading(base, look, base, query, own=OwnThings(reader), find=ReaderScenes(reader))
    changed: dict[str, Any] = {}
    for name, form in WHOLE.items():
        values = _changes(reading, form, getattr(base, name), name)
        if values is None:
            reading.broken = True
        elif values:
            changed[name] = values
    slots = list(base.slots)
    for index, rig in enumerate(base.rigs):
        values = _changes(reading, RigForm, rig, f"rigs-{index}")
        if values is None:
            reading.void.append(index)
            reading.broken = reading.broken or index == base.reference
        elif values:
            slots[index] = replace(slots[index], rig=replace(rig, **values))
    if changed.get("hold", {}).get("lens", "same") != "same":
        changed["hold"]["lens_of"] = None
    if changed.get("hold"):
        changed["hold"]["is_best"] = False  # who answers one of the four questions wants it held
    if not reading.broken:
        try:
            records = {name: replace(getattr(base, name), **values) for name, values in changed.items()}
            reading.bench = with_film_shutter(replace(base, slots=tuple(slots), **records), base)
        except DomainError as error:
            reading.refuse(error)
    return reading


def _changes(reading: BenchReading, form_of: type[RecordForm], record: Any, prefix: str) -> dict[str, Any] | None:
    """What the fields change of a record; None, and their messages, where they cannot be used."""
    if form_of.is_untouched(reading.sent, record, prefix, reading.look.units):
        return {}
    form = form_of(reading.sent, record, prefix, reading.look.units)
    if form.is_valid():
        return form.values()
    reading.messages |= form.messages()
    return None


def _count_rigs(query: Mapping[str, str]) -> None:
    """Refuse more rigs than a bench holds before any is read."""
    numbers = {key.split("-")[1] for key in query if key.startswith("rigs-") and key.count("-") >= 2}
    if len(numbers) > MOST_RIGS:
        raise LinkError(f"A bench holds at most {MOST_RIGS} cameras. This address names {len(numbers)}.")


def _look(query: Mapping[str, str], base: Bench, width: str, preferred: Preferred) -> Look:
    panel = query.get("panel", "")
    read = {key: part.read(query[key], base) for key, part in PARTS.items() if key in query}
    unread = {
        key: (query[key], said) for key, part in PARTS.items() if key in query and (said := part.problem(query[key]))
    }
    return Look(
        parts=PARTS,
        unread=unread,
        panel=panel if panel in PANELS else "",
        chosen={key: value for key, value in read.items() if value != PARTS[key].usual},
        units=UNITS.get(query.get("units", "m" if query.get("b") else preferred.units), METRES),
        unfolded=query.get("unfolded") == "1",
        opened=whole(query.get("open", ""), -1),
        width=width if width in WIDTHS else "wide",
        preferred=preferred,
    )
