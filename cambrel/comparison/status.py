"""How far a picture is made."""

from __future__ import annotations

from enum import StrEnum


class Status(StrEnum):
    """How far a rig does what is asked."""

    DOES = "works"
    NEARLY = "just falls short"
    CANNOT = "does not work"
    UNKNOWN = "unknown"

    @property
    def key(self) -> str:
        """What a style depends on, whatever it reads."""
        return self.name.lower()
