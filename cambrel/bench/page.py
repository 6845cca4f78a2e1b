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
from cambrel.comparison.fulfilment import fulfilment
from cambrel.conventions.questions import OF_FIGURES, in_force
from cambrel.links.benches import encode
from cambrel.verdicts import verdicts
from cambrel.verdicts.another_camera import on_others


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
    said = [verdict for verdict in (*first, *verdicts(comparison)) if not set(verdict.rigs) & set(reading.void)]
    page.verdicts = [
        (verdict.key, wording.sentence(verdict, look.units), verdict.rigs[-1] if verdict.rigs else None)
        for verdict in said
    ]
    page.faces = faces_of(bench, comparison, look, reading.place)
    page.panel = shown.build(PanelView(bench, comparison, look, reading.own, reading.place))
    page.status = page.verdicts[0][1] if page.verdicts else "They are the same in every respect."
    return page


def _schools(bench: Bench, look: Look) -> str:
    asked, own = bench.conventions, look.preferred.conventions
    apart = any(
        getattr(asked, question.key) != getattr(own, question.key)
        for question in OF_FIGURES
        if not question.is_personal
    )
    return in_force(asked) + (" (from the link, not your own choice)" if apart else "")
