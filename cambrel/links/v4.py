"""Version 4 of links: modes of a body, what carries it, lenses away from the middle. Never changed; a change is a new
version.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from cambrel.links import v1, v3

ADDED: dict[str, v1.Table] = {
    "Brief": (
        ("support", ""),
        ("nearest_m", None),
        ("farthest_m", None),
        ("comfortable_m", None),
        ("flash_guide_m", None),
        ("blur_share", None),
        ("framing_deg", None),
    ),
    "Hold": (("is_best", False),),
    "Conventions": (("hand", "habit"), ("shake_arc_s", 6000.0), ("star_rule", "exact"), ("range", "engineer")),
}
OF_GEAR: dict[str, v1.Table] = {
    "Body": (
        ("register_mm", None),
        ("stabilisation_with_lens_stops", None),
        ("raw_megabytes", None),
        ("range_stops", None),
        ("range_iso", None),
        ("modes", ()),
    ),
    "Lens": (
        ("mtf50_away", ()),
        ("fall_off", ()),
        ("stabilisation_stops", None),
        ("length_mm", None),
        ("diameter_mm", None),
        ("focuses_inside", False),
    ),
    "Rig": (("converter_weight_g", 0.0), ("mode", None), ("by_hand", "")),
}
TABLES: dict[str, v1.Table] = v3.TABLES | {
    name: (*v3.TABLES[name], *added) for name, added in (ADDED | OF_GEAR).items()
}
TABLES["Mode"] = (("sensor", v1.Of("Sensor")), ("label", ""), ("frame_rate", None), ("frames", 1))


def upgraded(bench: dict[str, Any]) -> dict[str, Any]:
    """What a bench of version 3 is in this one: all of this as nobody had asked.

    Parameters
        bench: its values by their names, of version 3
    Returns
        of version 4
    """
    return bench | {name.lower(): replace(bench[name.lower()], **dict(added)) for name, added in ADDED.items()}
