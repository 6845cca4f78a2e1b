"""A demand of a picture on a rig, and how far it is met by what is missed of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.shortfalls import NEAR_STOPS
from cambrel.comparison.status import Status
from cambrel.optics.quantities import is_unknown
from cambrel.wording.sentences import LEVEL_STOPS, Sentence

DOES, NEARLY, CANNOT, UNKNOWN = Status
TOLERANCE = 1e-9


@dataclass(frozen=True)
class Demand(Sentence):
    """One demand of the brief on one rig as it is set: by how much it is missed, in stops or as many times what is
    worth saying.

    text: what is missed; met: what is said where it is met, if anything; status: how far it is met, without a cure
    """

    key: str
    missed: float
    status: Status
    met: str = ""


Rule = Callable[[Comparison, RigFigures], Demand | None]


def by_stops(missed: float) -> Status:
    """How far a demand is met that is missed by so many stops; unknown where that is.

    Parameters
        missed: [stops]; 0 or less where it is met
    Returns
        unknown where `missed` is
    """
    if is_unknown(missed):
        return UNKNOWN
    return DOES if missed <= LEVEL_STOPS else NEARLY if missed <= NEAR_STOPS + TOLERANCE else CANNOT
