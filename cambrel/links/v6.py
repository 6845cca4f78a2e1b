"""Version 6 of links: films, how large gear is, and how it is used. Never changed; a change is a new version."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from cambrel.links import v1, v5

ADDED: dict[str, v1.Table] = {
    "Brief": (("frame_rate", None), ("shutter_angle_deg", 180.0), ("delivery", "4k"), ("mains_hz", None)),
}
OF_MODES: v1.Table = (("rolling_s", None),)
OF_GEAR: dict[str, v1.Table] = {
    "Body": (
        ("outer_width_mm", None),
        ("outer_height_mm", None),
        ("outer_depth_mm", None),
        ("weather_sealed", None),
        ("handling", ""),
    ),
    "Lens": (
        ("longest_mm", None),
        ("autofocus", None),
        ("zoom_lock", None),
        ("weather_sealed", None),
        ("handling", ""),
    ),
}
TABLES: dict[str, v1.Table] = v5.TABLES | {
    name: (*v5.TABLES[name], *added) for name, added in (ADDED | OF_GEAR | {"Mode": OF_MODES}).items()
}


def upgraded(bench: dict[str, Any]) -> dict[str, Any]:
    """What a bench of version 5 is in this one: a still picture, and no size known.

    Parameters
        bench: its values by their names, of version 5
    Returns
        of version 6
    """
    return bench | {"brief": replace(bench["brief"], **dict(ADDED["Brief"]))}
