"""What the logbook says, as it is read: distributions that can be pressed, sentences, what the shelf would have
covered, shares for Choose.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from math import nan, radians, tan
from typing import Any
from urllib.parse import urlencode

import numpy as np
from django.http import QueryDict
from django.urls import reverse

from cambrel import wording
from cambrel.briefs.models import SavedBrief
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.comparison.brief import Brief
from cambrel.drawings.counts import Bars, bars
from cambrel.drawings.focal_strip import focal_strip
from cambrel.drawings.shapes import Drawing
from cambrel.field.logbook import Book, frame_of
from cambrel.optics.formats import FULL_FRAME
from cambrel.optics.quantities import Flags
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, Stop
from cambrel.owners.models import User
from cambrel.shelf.models import Body, Kit, Lens, Mount
from cambrel.shelf.views.kits import goes_on
from cambrel.trials.habits import FOCALS, LEAST, Log, counts, nearest_mark, said
from cambrel.trials.lens_use import LensUse, Made, asked_of, first_missed, losses, nearest_brief
from cambrel.wording.sentences import Sentence

MOST_LENSES = 5000
MOST_BODIES = 40
MOST_KITS = 60
SHOWN, MOST_LOST = 8, 16
MOST_BRIEFS = 30


def _each(series: tuple[Stop, ...], low: float, high: float, step: int) -> tuple[Stop, ...]:
    """Every so many marks between two of them, counted from a whole stop."""
    start = next(k for k, stop in enumerate(series) if stop.typed >= low)
    return tuple(stop for stop in series[start::step] if stop.typed <= high)


@dataclass(frozen=True)
class Axis:
    """A scale by which pictures are counted: its name in the address, what it is called, the values, its marks and how
    they are read; shows_frames: whether what each mark sees is drawn over it
    """

    key: str
    label: str
    field: str
    marks: tuple[float, ...]
    labels: tuple[str, ...]
    shows_frames: bool = False


def _stops(key: str, label: str, field: str, series: tuple[Stop, ...], say: Callable[[Stop], str]) -> Axis:
    return Axis(key, label, field, tuple(stop.typed for stop in series), tuple(say(stop) for stop in series))


AXES = (
    Axis(
        "focal",
        "Focal length in full-frame terms",
        "equivalent_mm",
        FOCALS,
        tuple(f"{focal:g}" for focal in FOCALS),
        True,
    ),
    _stops("f", "f-number", "f_number", _each(F_NUMBERS, 1.0, 32.0, 1), lambda stop: stop.marked),
    _stops("iso", "ISO", "iso", _each(ISOS, 50.0, 204800.0, 1), lambda stop: stop.marked),
    _stops("shutter", "Shutter time", "shutter_s", _each(SHUTTERS, 1 / 8000, 30.0, 3), lambda stop: stop.marked),
)  # fmt: skip


@dataclass(frozen=True)
class Pressed:
    """A bar that can be pressed: its address, and what is said of it."""

    bar: Any
    says: str
    address: str
    is_on: bool


@dataclass(frozen=True)
class HabitChart:
    axis: Axis
    bars: Bars
    pressed: list[Pressed]
    unknown: int
    strip: Drawing | None = None
    """What each of its marks sees, over the bars."""


@dataclass(frozen=True)
class CountedName:
    """A camera, lens or year with how many pictures it made."""

    name: str
    count: int
    share: float
    width: float
    address: str
    is_on: bool

    @property
    def said(self) -> str:
        return wording.share(self.share)


@dataclass(frozen=True)
class Picked:
    """What was pressed: by axis the value of a mark, or a name."""

    marks: Mapping[str, int]
    names: Mapping[str, int]

    def of(self, log: Log, but: str = "") -> Flags:
        """The pictures that are left, whatever was pressed on one of the axes."""
        left = np.ones(len(log), bool)
        for axis in AXES:
            if axis.key in self.marks and axis.key != but:
                values = getattr(log, axis.field)
                left &= np.isfinite(values) & (nearest_mark(values, axis.marks) == self.marks[axis.key])
        for key, number in self.names.items():
            if key != but:
                left &= getattr(log, key) == number
        return left


def picked_of(sent: QueryDict, book: Book) -> Picked:
    """What an address asks to look at; what it names wrongly is not asked for."""
    marks = {}
    for axis in AXES:
        if (text := sent.get(axis.key, "")) in axis.labels:
            marks[axis.key] = axis.labels.index(text)
    names = {}
    for key, all_names in (("body", book.bodies), ("lens", book.lenses)):
        if sent.get(key) in all_names:
            names[key] = all_names.index(sent[key])
    year = sent.get("year", "")
    if year.isascii() and year.isdigit() and len(year) == 4:
        names["year"] = int(year)
    return Picked(marks, names)


def _address(book: Book, picked: Picked, **change: str) -> str:
    """The page with one more pressed, or one less."""
    asked = {axis.key: axis.labels[picked.marks[axis.key]] for axis in AXES if axis.key in picked.marks}
    asked |= {key: _name(book, key, number) for key, number in picked.names.items()} | change
    asked = {key: value for key, value in asked.items() if value}
    return reverse("field:habits") + (f"?{urlencode(asked)}" if asked else "")


def _name(book: Book, key: str, number: int) -> str:
    return {"body": book.bodies, "lens": book.lenses}[key][number] if key != "year" else str(number)


def charts(book: Book, picked: Picked) -> list[HabitChart]:
    """The distributions, each of what is left by what was pressed on the others."""
    found = []
    for axis in AXES:
        values = getattr(book.log, axis.field)[picked.of(book.log, axis.key)]
        count = counts(values, axis.marks).tolist()
        drawn = bars(count, axis.labels)
        total = sum(count)
        pressed = []
        for bar in drawn.bars:
            is_on = picked.marks.get(axis.key) == bar.index
            says = f"{axis.label} {bar.label}: {wording.share(count[bar.index] / total)}, {count[bar.index]:,} pictures"
            address = _address(book, picked, **{axis.key: "" if is_on else bar.label})
            pressed.append(Pressed(bar, says, address, is_on))
        seen = [axis.marks[bar.index] for bar in drawn.bars]
        strip = focal_strip(seen, width=drawn.width) if axis.shows_frames and seen else None
        found.append(HabitChart(axis, drawn, pressed, int(len(values) - total), strip))
    return found


def lists(book: Book, picked: Picked) -> list[tuple[str, list[CountedName]]]:
    """Cameras, lenses and years with how many each made."""
    bars = []
    for key, label in (("body", "Camera"), ("lens", "Lens"), ("year", "Year")):
        numbers = getattr(book.log, key)[picked.of(book.log, key)]
        numbers = numbers[numbers >= (1 if key == "year" else 0)]
        values, times = np.unique(numbers, return_counts=True)
        order = np.argsort(values if key == "year" else -times, kind="stable")
        rows = []
        for at in order[: SHOWN * 2]:
            name, is_on = _name(book, key, int(values[at])), picked.names.get(key) == int(values[at])
            address = _address(book, picked, **{key: "" if is_on else name})
            rows.append(
                CountedName(
                    name, int(times[at]), times[at] / times.sum(), 100 * times[at] / times.max(), address, is_on
                )
            )
        bars.append((label, rows))
    return bars


def sentences(log: Log, book: Book) -> list[Sentence]:
    return said(log, book.lenses)


@dataclass(frozen=True)
class Lost:
    """What would be lost without a lens: its share, and where that lies."""

    name: str
    share: float
    where: str

    @property
    def said(self) -> str:
        return wording.share(self.share) if self.share else "nothing"


@dataclass(frozen=True)
class Covering:
    """A lens or kit of the shelf, what part of the pictures it would have made, what a kit would lose without each of
    its lenses, and which picture it would have missed first.
    """

    name: str
    share: float
    lost: list[Lost] = field(default_factory=list)
    missed: str = ""

    @property
    def said(self) -> str:
        return wording.share(self.share)

    @property
    def width(self) -> float:
        return 100 * self.share


@dataclass(frozen=True)
class Covered:
    """What the shelf would have made: single lenses, kits, and what the whole shelf would lose without a lens."""

    single: list[Covering]
    kits: list[Covering]
    lost: list[Lost]
    more: int = 0
    """So many more lenses without which something would be lost."""


def _made(lens: Lens, body: Body) -> Made:
    return Made(
        FULL_FRAME.diagonal_mm / body.sensor().diagonal_mm, lens.focal_min_mm, lens.focal_max_mm,
        tuple((f, n) for f, n in sorted(lens.widest))
    )  # fmt: skip


def _lost(asked: LensUse, takes: list[tuple[str, Flags]]) -> list[Lost]:
    """What would be lost without each lens, the most first."""
    found = sorted(losses(asked, takes), key=lambda loss: -loss.share)
    return [Lost(loss.lens, loss.share, wording.sentence(loss.says())) for loss in found]


def covered(log: Log, owner: User) -> Covered:
    """The single lenses, each on the camera on which it serves best, and the kits that would have made most of some
    pictures as they were taken.
    """
    asked = asked_of(log)
    if asked.total < LEAST:
        return Covered([], [], [])
    mounts = {mount.name: mount for mount in Mount.objects.for_owner(owner)}
    bodies = list(Body.objects.for_owner(owner).prefetch_related("fixed_lenses")[:MOST_BODIES])
    by_mount = dict[tuple[str, int | None], list[Body]]()
    single, takes = list[Covering](), list[tuple[str, Flags]]()
    for lens in Lens.objects.for_owner(owner)[:MOST_LENSES]:
        kind = (lens.mount, lens.fixed_to_id)
        if kind not in by_mount:
            # one camera for each size of sensor that it goes on
            by_mount[kind] = list(
                {round(body.sensor().diagonal_mm, 1): body for body in bodies if goes_on(lens, body, mounts)}.values()
            )
        on_each = [_made(lens, body).takes(asked.equivalent_mm, asked.f_number) for body in by_mount[kind]]
        share = max((asked.share(on_one) for on_one in on_each), default=0.0)
        if share > 0:
            single.append(Covering(lens.name, share))
            takes.append((lens.name, np.logical_or.reduce(on_each)))
    kits, carried = [], dict[str, list[Made]]()
    for kit in Kit.objects.for_owner(owner).prefetch_related("bodies__fixed_lenses", "lenses", "adapters")[:MOST_KITS]:
        adapted = {(adapter.lens_mount, adapter.mount) for adapter in kit.adapters.all()}
        by_lens, made_by = dict[str, Flags](), carried.setdefault(kit.name, [])
        for body in kit.bodies.all():
            for lens in [*kit.lenses.all(), *body.fixed_lenses.all()]:
                if goes_on(lens, body, mounts, adapted):
                    made_by.append(_made(lens, body))
                    on_this = made_by[-1].takes(asked.equivalent_mm, asked.f_number)
                    by_lens[lens.name] = by_lens[lens.name] | on_this if lens.name in by_lens else on_this
        taken = np.logical_or.reduce([np.zeros(len(asked.times), bool), *by_lens.values()])
        kits.append(Covering(kit.name, asked.share(taken), _lost(asked, list(by_lens.items()))))

    def most(found: list[Covering]) -> list[Covering]:
        return sorted(found, key=lambda counted: -counted.share)[:SHOWN]

    missed = [loss for loss in _lost(asked, takes) if loss.share]
    shown = [replace(kit, missed=_missed_first(log, carried[kit.name])) for kit in most(kits)]
    return Covered(most(single), shown, missed[:MOST_LOST], len(missed[MOST_LOST:]))


def _missed_first(log: Log, lenses: list[Made]) -> str:
    first = first_missed(log, lenses)
    return "" if first is None else wording.sentence(first.says())


def shares_address(log: Log, owner: User) -> str:
    """Choose with every picture to be made as often as one's own pictures are like it, by view and light; "" where too
    few are like any.
    """
    keys, views, lights = [], [], []
    tasks = [(sample_brief.slug, sample_brief.task, sample_brief.framed_m) for sample_brief in sample_briefs().values()]
    own = [(saved_brief, saved_brief.sound_task()) for saved_brief in SavedBrief.objects.for_owner(owner)[:MOST_BRIEFS]]
    tasks += [(f"own-{saved.pk}", task, saved.framed_m) for saved, task in own if task is not None]
    for key, task, framed_m in tasks:
        keys.append(key)
        views.append(_view(task.brief, framed_m))
        lights.append(task.brief.light_ev)
    times = nearest_brief(log, views, lights)
    if times.sum() < LEAST:
        return ""
    share = np.round(100 * times / times.sum(), 1)
    return (
        reverse("choose:choose") + "?" + urlencode({key: f"{value:g}" for key, value in zip(keys, share, strict=True)})
    )


def _view(brief: Brief, framed_m: float | None) -> float:
    """The focal length on full frame that a picture asks for [mm]; NaN where it does not say how it is framed."""
    if brief.framing_deg is not None:
        side = FULL_FRAME.height_mm if brief.upright else FULL_FRAME.width_mm
        return float(side / (2 * tan(radians(brief.framing_deg) / 2)))
    width = brief.width_shown_m if brief.width_shown_m is not None else framed_m
    return nan if width is None else frame_of(width, brief.distance_m, upright=brief.upright)
