"""Kept decisions as a section of the exported document."""

from cambrel.choose.models import DAY, LONGEST_REASONS, KeptDecision
from cambrel.links.choices import LONGEST_KEPT, decode_choice
from cambrel.owners.sections import Row, register, saved_section


def register_decisions() -> None:
    says = "A decision: the question, its kits and pictures by value, what was taken, why and when."
    texts: dict[str, Row] = {
        "took": {"type": "string", "maxLength": 60},
        "reasons": {"type": "string", "maxLength": LONGEST_REASONS},
        "decided_on": {"type": "string", "pattern": DAY},
    }
    register(
        saved_section(
            "decisions",
            "Decisions",
            KeptDecision,
            "choice",
            says,
            lambda token: decode_choice(token, LONGEST_KEPT),
            longest=LONGEST_KEPT,
            texts=texts,
        )
    )
