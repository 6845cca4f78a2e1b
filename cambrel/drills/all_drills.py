"""The kinds of questions, in the order of learning. Each is one object, and nothing elsewhere depends on its key."""

from __future__ import annotations

from cambrel.drills.gathering_kinds import GATHERING
from cambrel.drills.kind import DrillKind
from cambrel.drills.seeing_kinds import SEEING
from cambrel.optics.quantities import Choices

KINDS: Choices[DrillKind] = Choices("kind", {kind.key: kind for kind in (*SEEING, *GATHERING)})
"""By key, in the order in which they are learnt."""
