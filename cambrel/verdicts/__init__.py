"""Verdicts: plain sentences with numbers that say what differs, what cannot be done and why."""

from cambrel.verdicts import asked, depths, fitting, gear_limits, lights, pictures, schools, sharp, softness, special
from cambrel.verdicts.ranking import asked_topics, verdicts
from cambrel.verdicts.registry import PAIR_RULES, RESTS_ON, RIG_RULES, SAYS, Topic, Verdict

__all__ = [
    "PAIR_RULES",
    "RESTS_ON",
    "RIG_RULES",
    "SAYS",
    "Topic",
    "Verdict",
    "asked",
    "asked_topics",
    "depths",
    "fitting",
    "gear_limits",
    "lights",
    "pictures",
    "schools",
    "sharp",
    "softness",
    "special",
    "verdicts",
]
