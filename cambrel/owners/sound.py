"""Columns of plain values of which only what is sound is read: a record that was damaged shows without it, and breaks
nothing.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any

from django.db import models
from django.utils import timezone
from django.utils.dateparse import parse_datetime

MEASURED = re.compile(r"\w+ \d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])")


FIRST, LAST = datetime(1990, 1, 1, tzinfo=UTC), datetime(2200, 1, 1, tzinfo=UTC)


class SoundField(models.JSONField):
    """JSON that is read through `sound`; kept in the database as any other JSON."""

    def __init__(self, *arguments: Any, sound: Callable[[Any], Any] = lambda value: value, **named: Any) -> None:
        super().__init__(*arguments, **named)
        self.sound = sound

    def deconstruct(self) -> Any:
        name, _, arguments, named = super().deconstruct()
        return name, "django.db.models.JSONField", arguments, named

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        return self.sound(super().from_db_value(value, expression, connection))


def texts(value: object) -> list[str]:
    """The texts of a list."""
    return [item for item in value if isinstance(item, str)] if isinstance(value, list) else []


def measured(value: object) -> list[str]:
    """What was measured: a field's name and the day."""
    return [text for text in texts(value) if MEASURED.fullmatch(text)]


def mapping(value: object) -> dict[str, Any]:
    """What is held by name."""
    return value if isinstance(value, dict) else {}


def points(length: int, lowest: float = 0.0) -> Callable[[Any], list[Any]]:
    """Points of so many figures each, the last above so much, the others at least 0."""

    def sound(value: object) -> list[Any]:
        return [item for item in value if _is_point(item)] if isinstance(value, list) else []

    def _is_point(point: Any) -> bool:
        if not isinstance(point, list) or len(point) != length:
            return False
        figures = [
            part for part in point if isinstance(part, int | float) and not isinstance(part, bool) and 0 <= part < 1e9
        ]
        return len(figures) == length and figures[-1] >= lowest and (lowest == 0.0 or figures[0] > 0)

    return sound


def moment(text: object) -> datetime | None:
    """A moment with its zone from a text, of years in which there are cameras like these; None for anything else."""
    try:
        when = parse_datetime(text[:40]) if isinstance(text, str) else None
        return when if when is not None and timezone.is_aware(when) and FIRST < when < LAST else None
    except (ValueError, OverflowError):
        return None
