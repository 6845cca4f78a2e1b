"""How far a picture is made."""

from __future__ import annotations

from enum import StrEnum


class Status(StrEnum):
    """How far a rig does what is asked."""

    DOES = "does it"
    NEARLY = "nearly"
    CANNOT = "cannot"
    UNKNOWN = "unknown"
