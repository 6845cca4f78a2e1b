"""Sheets of shots as a section of the exported document."""

from cambrel.field.backs import BACK, MOST_BACK
from cambrel.field.models import Sheet
from cambrel.field.trials import TRIALS
from cambrel.links import decode
from cambrel.owners.sections import Row, register, saved_section

MOST_TAKEN = 500
READING: Row = {
    "type": "object",
    "additionalProperties": False,
    "required": ["value"],
    "properties": {
        "value": {"type": "number", "minimum": -100, "maximum": 1e9},
        "within": {"type": "number", "minimum": 0, "maximum": 100},
        "bound": {"enum": ["", "most", "least"]},
        "doubts": {"type": "array", "maxItems": 8, "items": {"type": "string", "maxLength": 20}},
        "box": {
            "type": "array",
            "minItems": 4,
            "maxItems": 4,
            "items": {"type": "integer", "minimum": 0, "maximum": 1000000},
        },
        "of": {"type": "string", "maxLength": 40},
    },
}
"""What was read off a picture: in its unit, how far it is open, and of which picture it is, where on it."""
FOUND: Row = {"type": "object", "additionalProperties": READING, "maxProperties": 12}


def register_sheets() -> None:
    says = "Shots that would prove a comparison: bench is its link parameter, taken says when each shot was."
    when = {"type": "string", "maxLength": 40}
    texts: dict[str, Row] = {
        "trials": {"type": "array", "items": {"enum": list(TRIALS)}, "maxItems": len(TRIALS)},
        "back": {
            "type": "object",
            "additionalProperties": BACK,
            "propertyNames": {"pattern": "^[0-9a-f]{32}$"},
            "maxProperties": MOST_BACK,
        },
        "found": {"type": "object", "additionalProperties": FOUND, "maxProperties": MOST_TAKEN},
        "taken": {"type": "object", "additionalProperties": when, "maxProperties": MOST_TAKEN},
    }
    register(saved_section("sheets", "Field sheets", Sheet, "bench", says, decode, texts=texts))
