"""Sheets of shots as a section of the exported document."""

from cambrel.field.models import Sheet
from cambrel.field.trials import TRIALS
from cambrel.links import decode
from cambrel.owners.sections import Row, register, saved_section

MOST_TAKEN = 500


def register_sheets() -> None:
    says = "Shots that would prove a comparison: bench is its link parameter, taken says when each shot was."
    when = {"type": "string", "maxLength": 40}
    texts: dict[str, Row] = {
        "trials": {"type": "array", "items": {"enum": list(TRIALS)}, "maxItems": len(TRIALS)},
        "taken": {"type": "object", "additionalProperties": when, "maxProperties": MOST_TAKEN},
    }
    register(saved_section("sheets", "Field sheets", Sheet, "bench", says, decode, texts=texts))
