"""One page of the bench: what a reading says, computed and made ready for the templates."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from django.urls import reverse

from cambrel import wording
from cambrel.bench.faces import Faces, RigPicture, faces_of
from cambrel.bench.look import Look
from cambrel.bench.panels import PANELS, panel_of
from cambrel.bench.panels.panel import Panel, PanelView
from cambrel.bench.present import Plate, plates
from cambrel.bench.reading import BenchReading
from cambrel.bench.sentence import HoldWords, folded, hold_words, light_words
from cambrel.comparison.bench import Bench
from cambrel.comparison.engine import Comparison
from cambrel.comparison.fulfilment import fulfilment
from cambrel.conventions.questions import OF_FIGURES, in_force
from cambrel.links.benches import encode
from cambrel.optics.quantities import DomainError
from cambrel.shelf.own_things import OwnThings
from cambrel.verdicts import Verdict, verdicts
from cambrel.verdicts.among_all import FEWEST, among_all, of_pair
from cambrel.verdicts.another_camera import on_others
from cambrel.wording import LETTERS


@dataclass
class Page:
    """The variables of the bench's templates."""

    bench: Bench
    look: Look
    token: str
    address: str
    shown: Panel
    panels: tuple[Panel, ...]
    plates: list[Plate] = field(default_factory=list)
    verdicts: list[tuple[str, str, int | None]] = field(default_factory=list)
    """Of each sentence its key, its text, and the rig that it is about."""
    hold_words: HoldWords | None = None
    folded: tuple[str, ...] = ()
    """Both sentences in a line each."""
    faces: Faces = field(default_factory=Faces)
    subject: str = "subject"
    light_words: str = ""
    panel: Mapping[str, Any] = field(default_factory=dict)
    status: str = ""

    @property
    def cameras(self) -> list[tuple[Plate, RigPicture | None]]:
        """Every camera with its picture, where it makes one."""
        return [(plate, self.faces.pictures.get(plate.index)) for plate in self.plates]

    @property
    def drawing_address(self) -> str:
        """Where the panel's drawing is kept as a file."""
        return f"{reverse('bench:drawing')}?{self.address.partition('?')[2]}"

    @property
    def opened(self) -> int:
        """The camera whose controls are open."""
        return self.look.opened if 0 <= self.look.opened < len(self.bench.slots) else self.bench.reference

    @property
    def pairing(self) -> list[tuple[int, str, bool]]:
        """The letters that may be set against each other: where there are more than two."""
        if len(self.bench.slots) < FEWEST:
            return []
        return [(index, LETTERS[index], index in self.look["pair"]) for index in range(len(self.bench.slots))]

    @property
    def pair(self) -> str:
        """The cameras that are set against each other, as the form sends them."""
        return self.look.shown("pair", self.bench)

    @property
    def background(self) -> str:
        return self.bench.background_name or "background"

    @property
    def foreground(self) -> str:
        return self.bench.foreground_name or "foreground"


def build(reading: BenchReading) -> Page:
    """Everything that is shown of a bench."""
    bench, look, comparison = reading.bench, reading.look, reading.work_out()
    shown = panel_of(look.panel, bench.brief, look.remembered)
    token = encode(bench)
    page = Page(bench, look, token, look.address(bench, token), shown, tuple(PANELS.values()))
    briefed = fulfilment(comparison) if comparison else []
    page.plates = plates(bench, comparison, briefed, reading.void, look.units)
    page.light_words = light_words(bench.brief.light_ev)
    page.hold_words = hold_words(bench.hold, _schools(bench, look))
    page.folded = folded(bench, look.units)
    page.subject = reading.place.subject
    if comparison is None:
        page.status = "Correct the marked field to see the figures."
        return page
    # the first question of who brings a photograph
    first = on_others(comparison) if look["photo"] else []
    all_said = (*first, *_said(comparison, look, reading.void))
    said = [verdict for verdict in all_said if not set(verdict.rigs) & set(reading.void)]
    page.verdicts = [
        (
            verdict.key,
            wording.sentence(verdict, look.units) + _counted_on(verdict, bench, reading.own),
            verdict.rigs[-1] if verdict.rigs else None,
        )
        for verdict in said
    ]
    page.faces = faces_of(bench, comparison, look, reading.place)
    page.panel = shown.build(PanelView(bench, comparison, look, reading.own, reading.place))
    page.status = page.verdicts[0][1] if page.verdicts else "They are the same in every respect."
    return page


def _counted_on(verdict: Verdict, bench: Bench, own: OwnThings) -> str:
    """Whether the adapter that a sentence counts on is on the reader's shelf."""
    if verdict.key != "mount" or own.reader is None:
        return ""
    rig = bench.slots[verdict.rigs[-1]].rig
    name = own.adapter(rig.lens.mount, rig.body.mount)
    return f" {name}, on your shelf, is one." if name else " Your shelf has none."


def _said(comparison: Comparison, look: Look, void: list[int]) -> list[Verdict]:
    """What is said: of two that were set against each other, of three and more in rankings, else of each."""
    if len(comparison.rigs) - len(void) < FEWEST:
        return verdicts(comparison)
    if len(look["pair"]) == 2:
        try:
            return of_pair(comparison, *look["pair"])
        except DomainError:
            return among_all(comparison, void)
    return among_all(comparison, void)


def _schools(bench: Bench, look: Look) -> str:
    asked, own = bench.conventions, look.preferred.conventions
    apart = any(
        getattr(asked, question.key) != getattr(own, question.key)
        for question in OF_FIGURES
        if not question.is_personal
    )
    return in_force(asked) + (" (from the link, not your own choice)" if apart else "")
