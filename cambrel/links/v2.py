"""Version 2 of links: what of the scene was moved or resized. Never changed; a change is a new version."""

from __future__ import annotations

from typing import Any

from cambrel.links import v1

TABLES: dict[str, v1.Table] = v1.TABLES | {
    "Bench": (*v1.TABLES["Bench"], ("changes", ())),
    "Change": (("layer", 0), ("behind_m", 0.0), ("x_m", 0.0), ("scale", 1.0)),
}


def upgraded(bench: dict[str, Any]) -> dict[str, Any]:
    """What a bench of version 1 is in this one: nothing of its scene was moved.

    Parameters
        bench: its values by their names, of version 1
    Returns
        of version 2
    """
    return bench | {"changes": ()}
