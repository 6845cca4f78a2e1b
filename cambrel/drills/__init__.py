"""Drills: questions made from the core, each with the answers that the typical mistakes give. No gear, no words."""

from cambrel.drills.carrying import KINDS as IN_THE_HEAD
from cambrel.drills.gathering import KINDS as OF_LIGHT
from cambrel.drills.given import Given
from cambrel.drills.posing import Kind, Posed, Slip
from cambrel.drills.seeing import KINDS as OF_VIEW
from cambrel.optics.quantities import Choices

KINDS: Choices[Kind] = Choices("kind", {kind.key: kind for kind in (*OF_VIEW, *OF_LIGHT, *IN_THE_HEAD)})
"""By key, in the order in which they are learnt."""

__all__ = ["KINDS", "Given", "Kind", "Posed", "Slip"]
