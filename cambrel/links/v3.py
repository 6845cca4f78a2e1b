"""Version 3 of links: special work, and how large a picture is good enough. Never changed; a change is a new
version.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from cambrel.links import v1, v2

ADDED: dict[str, v1.Table] = {
    "Brief": (("declination_deg", None), ("scene_range_stops", None)),
    "Conventions": (("good_enough", "eye"),),
}
OF_LENSES: v1.Table = (("mtf50", ()),)
TABLES: dict[str, v1.Table] = v2.TABLES | {name: (*v2.TABLES[name], *added) for name, added in ADDED.items()}
TABLES["Lens"] = (*v2.TABLES["Lens"], *OF_LENSES)


def upgraded(bench: dict[str, Any]) -> dict[str, Any]:
    """What a bench of version 2 is in this one: all of this as nobody had asked.

    Parameters
        bench: its values by their names, of version 2
    Returns
        of version 3
    """
    return bench | {name.lower(): replace(bench[name.lower()], **dict(added)) for name, added in ADDED.items()}
