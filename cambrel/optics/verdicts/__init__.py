"""Verdicts: plain sentences with numbers that say what differs, what cannot be done and why."""

from cambrel.optics.verdicts import depths, fitting, lights, limits, pictures, schools
from cambrel.optics.verdicts.registry import PAIR_RULES, RIG_RULES, Verdict, verdicts

__all__ = [
    "PAIR_RULES",
    "RIG_RULES",
    "Verdict",
    "depths",
    "fitting",
    "lights",
    "limits",
    "pictures",
    "schools",
    "verdicts",
]
