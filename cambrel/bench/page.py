"""One page of the bench: what a reading says, computed and made ready for the templates."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from cambrel import wording
from cambrel.bench.panels import panel
from cambrel.bench.present import HoldWords, Plate, hold_words, light_words, plates
from cambrel.bench.reading import PANELS, Look, Reading
from cambrel.links import Bench, encode
from cambrel.optics.brief import NOISE_SCHOOLS
from cambrel.optics.comparison import Comparison, compare
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.formats import CROP_MEASURES
from cambrel.optics.fulfilment import fulfilment
from cambrel.optics.quantities import DomainError
from cambrel.optics.verdicts import verdicts

SHOWN_AT_FIRST = 6


@dataclass
class Page:
    """The variables of the bench's templates."""

    bench: Bench
    look: Look
    token: str
    address: str
    plates: list[Plate] = field(default_factory=list)
    verdicts: list[tuple[str, str]] = field(default_factory=list)
    more_verdicts: list[tuple[str, str]] = field(default_factory=list)
    hold_words: HoldWords | None = None
    light_words: str = ""
    panel: dict[str, Any] = field(default_factory=dict)
    status: str = ""

    @property
    def drawing_address(self) -> str:
        """Where the panel's drawing is kept as a file."""
        return "/drawing.svg?" + self.address.partition("?")[2]

    @property
    def panels(self):
        return PANELS.items()

    @property
    def compact(self) -> bool:
        """From four rigs on plates show figures only."""
        return len(self.bench.slots) > 3


def compared(reading: Reading) -> Comparison | None:
    """The comparison of a reading, without the rigs that cannot be used; None (and a message) where the core refuses."""
    if reading.broken:
        return None
    bench = reading.bench
    try:
        comparison = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
    except DomainError as error:
        reading.refuse(error)
        return None
    return comparison.without(reading.void) if reading.void else comparison


def build(bench: Bench, look: Look, comparison: Comparison | None, void: list[int]) -> Page:
    """Everything that is shown of a bench."""
    page = Page(bench, look, encode(bench), look.address(bench))
    briefed = fulfilment(comparison) if comparison else []
    page.plates = plates(bench, comparison, briefed, void, look.units)
    page.light_words = light_words(bench.brief.light_ev)
    if comparison is None:
        page.status = "The figures cannot be worked out until the marked field is corrected."
        return page
    said = [verdict for verdict in verdicts(comparison) if not set(verdict.rigs) & set(void)]
    texts = [(verdict.key, wording.sentence(verdict, look.units)) for verdict in said]
    page.verdicts, page.more_verdicts = texts[:SHOWN_AT_FIRST], texts[SHOWN_AT_FIRST:]
    page.hold_words = hold_words(comparison, _schools(bench, look))
    page.panel = panel(bench, comparison, look)
    page.status = texts[0][1] if texts else "They are level in every respect."
    return page


def _schools(bench: Bench, look: Look) -> str:
    c, own = bench.conventions, look.preferred.conventions
    from_link = any(
        getattr(c, name) != getattr(own, name) for name in ("crop_by", "criterion", "noise", "lines_per_mm")
    )
    crop, circle = CROP_MEASURES[c.crop_by].label, CIRCLE_OF_CONFUSION_SCHOOLS[c.criterion].label
    whose = " (from the link, not as you prefer)" if from_link else ""
    return f"crop by {crop}; sharp by {circle}; noise by {NOISE_SCHOOLS[c.noise].label}{whose}"
