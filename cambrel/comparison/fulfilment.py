"""Whether each rig can take the picture of the brief: it works, just falls short, or does not work, with the figure
that fails and the settings that would cure it.

It just falls short where it misses by no more than a stop, or where settings of this gear would cure it and make
nothing else worse. The rest does not work.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import inf

from cambrel.comparison.cures import cures_of
from cambrel.comparison.demand import CANNOT, DOES, NEARLY, UNKNOWN, Demand
from cambrel.comparison.demands import demands_on, needed_for_depth
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.status import Status
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import Sentence

ORDER = (CANNOT, UNKNOWN, NEARLY, DOES)


@dataclass(frozen=True)
class Check(Sentence):
    """One demand of the brief on one rig, with what would cure it."""

    key: str
    status: Status


@dataclass(frozen=True)
class Fulfilment:
    """All demands of the brief on one rig; the failing ones first. The status is the worst of them."""

    index: int
    checks: tuple[Check, ...]

    @property
    def status(self) -> Status:
        return self.checks[0].status if self.checks else DOES


def fulfilment(comparison: Comparison) -> list[Fulfilment]:
    """Hold every rig against the brief.

    Parameters
        comparison: without a walk
    Returns
        one Fulfilment per rig, in order
    """
    return comparison.once("fulfilment", lambda: _fulfilled(comparison))


def _fulfilled(comparison: Comparison) -> list[Fulfilment]:
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    demands = {rig.index: demands_on(comparison, rig) for rig in rigs if rig.settings.focusable}
    cures = cures_of(comparison, demands)
    rows = []
    for rig in rigs:
        if rig.index not in demands:
            rows.append(Fulfilment(rig.index, (Check("cannot focus there", {}, "focus", CANNOT),)))
            continue
        pairs = [(demand, cures.get((rig.index, demand.key))) for demand in demands[rig.index]]
        checks = [(check, demand) for demand, cure in pairs if (check := _check(comparison, rig, demand, cure))]
        checks.sort(
            key=lambda pair: (ORDER.index(pair[0].status), -pair[1].missed if not is_unknown(pair[1].missed) else 0.0)
        )
        rows.append(Fulfilment(rig.index, tuple(check for check, _ in checks)))
    return rows


def _check(comparison: Comparison, rig: RigFigures, demand: Demand, cure: Sentence | None) -> Check | None:
    """A demand with what would cure it; None for one that is met and needs no word."""
    if demand.status is DOES:
        return _placed(demand.met, demand.figures, demand.key, DOES) if demand.met else None
    text, figures, status = demand.text, dict(demand.figures), demand.status
    if cure is not None:
        # what the rule itself advises gives way to settings that are there
        text, figures = text.partition(";")[0] + cure.text, figures | dict(cure.figures)
        status = NEARLY if status is CANNOT else status
    elif demand.key == "sharp" and status is not UNKNOWN and demand.missed < inf:
        more, said = needed_for_depth(comparison, rig)
        text, figures = text + more, figures | said
    return _placed(text, figures, demand.key, status)


def _placed(text: str, figures: Mapping[str, Figure], key: str, status: Status) -> Check:
    """A check with the figures that stand in its text."""
    return Check(
        text, {name: figure for name, figure in dict(figures).items() if "{" + name + "}" in text}, key, status
    )
