"""A card to carry for a kit: one page to print, and one file by itself that opens where there is no network."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import floor
from pathlib import Path

from django.utils.safestring import SafeString, mark_safe

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.comparison.rig import Rig
from cambrel.conventions.home import home_name
from cambrel.field.logbook import book_of
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import ISOS, SHUTTERS
from cambrel.owners.models import User
from cambrel.shelf.models import Body, Kit, Lens, Mount
from cambrel.shelf.views.gear_choice import body_of, registers_of
from cambrel.shelf.views.kits import goes_on
from cambrel.trials.card import LADDER, BodyCard, Card, FocalCard, card_of
from cambrel.trials.lens_use import used_stops, usual_focal

MOST_SECONDS = 9999
LOOK = Path(__file__).with_name("static") / "field" / "card.css"


@dataclass(frozen=True)
class LensSaid:
    """A lens on a body at one end, as it is read on the card."""

    at: str
    counts_as: str
    sharp_from: str
    held: str
    points: str


@dataclass(frozen=True)
class BodySaid:
    """A body with its lenses, as they are read on the card."""

    name: str
    clean: str
    limit: str
    ladder: list[tuple[str, str]]
    lenses: list[tuple[str, list[LensSaid]]]


def bodies_said(kit: Kit, owner: User, conventions: Conventions) -> list[BodySaid]:
    """What the card of a kit says, body by body."""
    mounts, registers = {mount.name: mount for mount in Mount.objects.for_owner(owner)}, registers_of(owner)
    bodies = list(kit.bodies.prefetch_related("fixed_lenses", "crop_modes"))
    adapted = {(adapter.lens_mount, adapter.mount) for adapter in kit.adapters.all()}
    lenses = [
        *kit.lenses.filter(fixed_to=None),
        *(fixed_lens for body in bodies for fixed_lens in body.fixed_lenses.all()),
    ]
    pairs = [
        (at, number, Rig(body_of(body, registers), lens.to_optics()))
        for at, body in enumerate(bodies)
        for number, lens in enumerate(lenses)
        if lens.rectilinear and goes_on(lens, body, mounts, adapted)
    ]
    book = book_of(owner)
    usual = {
        number: focal
        for number, lens in enumerate(lenses)
        if (focal := usual_focal(book.log, _at(book.lenses, lens.name))) is not None
    }
    used = {
        at: stops
        for at, body in enumerate(bodies)
        if (stops := used_stops(book.log, _at(book.bodies, body.name), LADDER)) is not None
    }
    card = card_of(pairs, conventions, usual, used)
    return [_body(back, card, bodies, lenses) for back in card.backs]


def _at(names: Sequence[str], name: str) -> int:
    return names.index(name) if name in names else -1


def _body(back: BodyCard, card: Card, bodies: list[Body], lenses: list[Lens]) -> BodySaid:
    lines: dict[int, list[LensSaid]] = {}
    for line in card.lines:
        if line.body == back.body:
            lines.setdefault(line.lens, []).append(_lens(line))
    clean = max(
        (stop for stop in ISOS if stop.typed <= back.clean_iso * 1.06), key=lambda stop: stop.typed, default=None
    )
    return BodySaid(
        bodies[back.body].name,
        f"ISO {clean.marked}" if clean else "none",
        wording.marked_f_number(back.limited_f_number) if not is_unknown(back.limited_f_number) else "unknown",
        [(wording.f_number(here), wording.f_number(there)) for here, there in back.ladder],
        [(lenses[number].name, said) for number, said in lines.items()],
    )


def _lens(line: FocalCard) -> LensSaid:
    known = not is_unknown(line.f_number)
    at = wording.focal(line.focal_length_mm) + (f" {wording.f_number(line.f_number)}" if known else "")
    counts = wording.focal(line.home_focal_length_mm) + (f" {wording.f_number(line.home_f_number)}" if known else "")
    sharp = ", ".join(
        f"{wording.f_number(n)}{wording.NBSP}{wording.distance(metres / 2, digits=2)}"
        for n, metres in line.hyperfocal_m
    )
    return LensSaid(
        at,
        counts,
        sharp or "unknown",
        _time(line.held_s),
        _time(line.points_s),
    )


def _time(seconds: float) -> str:
    """A time as it is set: the mark at or below it, whole seconds beyond the marks."""
    if is_unknown(seconds):
        return "unknown"
    if seconds >= SHUTTERS[-1].typed:
        return f"{floor(min(seconds, MOST_SECONDS))}{wording.NBSP}s"
    marked = max((stop for stop in SHUTTERS if stop.typed <= seconds), key=lambda stop: stop.typed, default=SHUTTERS[0])
    return wording.shutter(marked.typed)


def home(conventions: Conventions) -> str:
    """The format in whose terms it is read."""
    return str(home_name(conventions))


def look() -> SafeString:
    """The card's own style, for the file that stands by itself: the one page that carries any."""
    return mark_safe(f"<style>{LOOK.read_text()}</style>")
