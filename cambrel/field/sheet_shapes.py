"""What a sheet holds, as JSON schemas for what comes in, and as what is read where a record was damaged."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from jsonschema import Draft202012Validator

from cambrel.owners.sound import mapping, moment

FIGURES = ("focal_length_mm", "focal_35_mm", "f_number", "shutter_s", "iso")
NUMBER = {"type": ["number", "null"], "exclusiveMinimum": 0, "maximum": 1e9}
WHOLE = {"type": ["integer", "null"], "minimum": 1, "maximum": 10**6}
NAME = {"type": "string", "maxLength": 60}
DAMAGED = "its record is damaged"
BACK: dict[str, object] = {
    "type": "object",
    "additionalProperties": False,
    "properties": {
        **dict.fromkeys((*FIGURES, "quality", "distance_m"), NUMBER),
        **dict.fromkeys(("body", "lens", "shot"), NAME),
        "at": {
            "type": "string",
            "pattern": (
                r"^(|(19|20|21)\d\d-(0[1-9]|1[0-2])-([012]\d|3[01])T([01]\d|2[0-3]):[0-5]\d:[0-5]\d(\.\d{1,6})?)$"
            ),
        },
        "kept": {"type": "string", "pattern": "^(|[0-9a-f]{32})$"},
        "wide_px": WHOLE,
        "high_px": WHOLE,
        **{key: {"type": "boolean"} for key in ("is_resized", "is_flashed")},
        "notes": {"type": "array", "maxItems": 12, "items": {"type": "string", "maxLength": 160}},
    },
}
"""What is kept of a picture: its settings, and no position, serial number or person's name."""
READING: dict[str, object] = {
    "type": "object",
    "additionalProperties": False,
    "required": ["value"],
    "properties": {
        "value": {"type": "number", "minimum": -100, "maximum": 1e9},
        "within": {"type": "number", "minimum": 0, "maximum": 100},
        "bound": {"enum": ["", "most", "least"]},
        "noted": {"type": "number", "minimum": 0, "maximum": 1e9},
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
_BACK, _READING = Draft202012Validator(BACK), Draft202012Validator(READING)


def is_picture(row: Any) -> bool:
    """Whether a row says what is kept of a picture, and a time that there is."""
    return _BACK.is_valid(row) and (not row.get("at") or by_camera(row["at"]) is not None)


def by_camera(text: object) -> datetime | None:
    """A moment by a camera's clock; None for anything else."""
    try:
        return datetime.fromisoformat(text) if isinstance(text, str) and text else None
    except ValueError:
        return None


def taken(value: object) -> dict[str, str]:
    """When shots were taken, by their keys; an empty text where the time is none."""
    return {key: when if moment(when) is not None else "" for key, when in mapping(value).items()}


def back(value: object) -> dict[str, dict[str, object]]:
    """Pictures that came back, by their tokens; one that is damaged says so."""
    readings = {}
    for token, row in mapping(value).items():
        if is_picture(row):
            readings[token] = row
        else:
            shot = mapping(row).get("shot")
            readings[token] = {"notes": [DAMAGED], "shot": shot if isinstance(shot, str) else ""}
    return readings


def found(value: object) -> dict[str, dict[str, object]]:
    """What was read off pictures, by the keys of the shots and by what it is."""
    sound = {
        key: {what: row for what, row in mapping(readings).items() if _READING.is_valid(row)}
        for key, readings in mapping(value).items()
    }
    return {key: readings for key, readings in sound.items() if readings}
