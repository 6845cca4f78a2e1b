"""Why the picture chose a setting, in three words at most."""

from __future__ import annotations

from cambrel.comparison.engine import Comparison, RigFigures

REASONS = {
    "framing": "the framing", "short end": "its short end", "crop": "cropped to it",
    "range": "all sharp", "wide open": "wide open", "smallest": "its smallest", "background": "a soft background",
    "easy": "before diffraction",
    "light": "the light", "base": "base ISO",
    "movement": "the movement", "stars": "the stars", "brief": "as asked", "body": "its slowest",
    "fastest": "its fastest",
}  # fmt: skip
"""What bound a setting that the picture has chosen, in three words at most."""
HANDS = {"hand": "your hands", "monopod": "the monopod", "gimbal": "the gimbal"}


def chosen_because(comparison: Comparison, rig: RigFigures, key: str) -> str:
    """Why the picture chose a setting; empty for one that is set by hand."""
    assert comparison.asked is not None
    bound = str(comparison.asked.bindings[key][rig.index])
    if bound == "hands":
        return HANDS[comparison.brief.support or "hand"]
    return REASONS.get(bound, "")
