"""The Stars panel: how long stars stay points by every school and by exact drift, what is gathered of them, and a
target in each frame.
"""

from __future__ import annotations

from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.look import Look, number, one_of
from cambrel.bench.panels.panel import Panel, PanelView, rig_table
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.starlight import (
    MOON_ARC_MIN,
    declination_of,
    says_stars,
    says_tracker,
    starlight,
    target_mm,
    tracked,
)
from cambrel.drawings.stars import stars_drawing
from cambrel.optics.stars import STAR_SCHOOLS, declination_deg
from cambrel.wording import DASH, LETTERS
from cambrel.wording.cautions import CAUTIONS

LOOKING = {
    "typed": ("at the declination typed", None),
    "n": ("north, 30° up", (30.0, 0.0)),
    "e": ("east, 30° up", (30.0, 90.0)),
    "s": ("south, 30° up", (30.0, 180.0)),
    "w": ("west, 30° up", (30.0, 270.0)),
    "up": ("overhead", (90.0, 0.0)),
}
"""Where the camera looks: in words, and as altitude and azimuth."""


def declination(comparison: Comparison, look: Look) -> float:
    _, there = LOOKING[look["looking"]]
    return declination_of(comparison) if there is None else float(declination_deg(look["latitude"], *there))


def build(seen: PanelView) -> dict[str, Any]:
    bench, comparison, look = seen.bench, seen.comparison, seen.look
    at = declination(comparison, look)
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    skies = {rig.index: starlight(comparison, rig, at) for rig in rigs}

    rules = {key: school for key, school in STAR_SCHOOLS.items() if school.mark}
    target = (f"{wording.significant(look['target'])} arc minutes in the short side", "target")
    rest = (
        ("exact, in the middle", "star_middle"), ("exact, worst edge", "exact"), ("longest trail now", "trail"),
        ("light of the stars", "points"), ("light of the sky", "sky"), target,
    )  # fmt: skip
    heads: tuple[tuple[str, str], ...] = (
        *((school.label.removeprefix("the "), key) for key, school in rules.items()),
        *rest,
    )

    def cells(rig: RigFigures) -> tuple[str, ...]:
        sky = skies[rig.index]
        if sky is None:
            return (DASH,) * len(heads)
        first = rig.index == comparison.reference
        share = target_mm(rig, look["target"]) / min(rig.frames.width_mm, rig.frames.height_mm)
        return (
            *(wording.shutter(sky.by_school_s[key]) for key in rules),
            wording.shutter(sky.middle_s) if isfinite(sky.middle_s) else "no end",
            wording.shutter(sky.worst_s),
            wording.micrometres(1000 * sky.trail_mm),
            "reference" if first else wording.signed_stops(sky.points_stops),
            "reference" if first else wording.signed_stops(sky.sky_stops),
            wording.share(share),
        )

    return {
        "drawing": stars_drawing(comparison, skies, look["target"], width=look.across),
        "looking": [(key, label) for key, (label, _) in LOOKING.items()],
        "declination": wording.degrees(at),
        "cautions": [CAUTIONS[key].short for key in ("night", "sun")],
        "sentences": [
            (LETTERS[rig.index], wording.sentence(says_stars(rig, sky), look.units))
            for rig in rigs
            if (sky := skies[rig.index]) is not None
        ],
        "table": rig_table("Stars as points, and what is gathered of them", heads, comparison, cells),
        "trackers": [
            (
                tracker.name,
                look.choosing(carries=tracker.payload_g / 1000, drifts=tracker.error_arc_s_per_min).address(bench),
            )
            for tracker in seen.own.trackers
        ],
        "tracked": [
            (LETTERS[rig.index], wording.sentence(says_tracker(rig, long), look.units))
            for rig in rigs
            if (long := tracked(comparison, rig, at, 1000 * look["carries"], look["drifts"], 60 * look["total"]))
            is not None
        ],
    }


def asks(brief: Brief) -> bool:
    """Of a picture with stars in it."""
    return brief.declination_deg is not None


PANEL = Panel(
    "stars", "Stars", "bench/panels/stars.html", build,
    (one_of("looking", *LOOKING), number("latitude", 52.0, -90.0, 90.0), number("target", MOON_ARC_MIN, 0.1, 3000.0),
     number("carries", 3.0, 0.1, 100.0), number("drifts", 12.0, 0.01, 10000.0),
     number("total", 30.0, 0.1, 3000.0)), asks,
)  # fmt: skip
