"""Version 5 of links: when noise is seen, and what a printing press can carry. Never changed; a change is a new
version.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from cambrel.links import v1, v4

ADDED: dict[str, v1.Table] = {
    "Conventions": (("press_lines_per_inch", 200.0), ("seen_snr", 40.0), ("disturbing_snr", 10.0)),
}
TABLES: dict[str, v1.Table] = v4.TABLES | {name: (*v4.TABLES[name], *added) for name, added in ADDED.items()}
PRESS_THEN = 150.0
"""What a press was taken to carry before it could be said."""


def upgraded(bench: dict[str, Any]) -> dict[str, Any]:
    """What a bench of version 4 is in this one: noise is seen as usual, and a press that was meant is the one of then.

    Parameters
        bench: its values by their names, of version 4
    Returns
        of version 5
    """
    terms = replace(bench["conventions"], **dict(ADDED["Conventions"]))
    if terms.good_enough == "printer":
        terms = replace(terms, press_lines_per_inch=PRESS_THEN)
    return bench | {"conventions": terms}
