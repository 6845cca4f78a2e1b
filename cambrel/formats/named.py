"""Frames with names: the formats of the trade, and what the rooms above have to add, such as an owner's own ones and
bodies.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.contrib.auth.models import AnonymousUser

from cambrel.optics.formats import FORMATS, Sensor
from cambrel.owners.models import User


@dataclass(frozen=True)
class NamedFrame:
    """A frame with its names, by the key that stands in an address."""

    key: str
    name: str
    designation: str
    sensor: Sensor


@dataclass(frozen=True)
class FrameSource:
    """Frames from elsewhere: under which heading they stand (empty: with the formats of the trade), and which they are
    for a user.
    """

    heading: str
    of: Callable[[Any], list[NamedFrame]]


SOURCES: list[FrameSource] = []
OF_THE_TRADE = [NamedFrame(f.slug, f.name, f.designation, Sensor(f.width_mm, f.height_mm)) for f in FORMATS.values()]


def offered(user: User | AnonymousUser) -> dict[str, list[NamedFrame]]:
    """All frames that a user may choose from, under their headings."""
    groups = {"": list(OF_THE_TRADE)}
    for source in SOURCES:
        groups.setdefault(source.heading, []).extend(source.of(user))
    return {heading: frames for heading, frames in groups.items() if frames}
