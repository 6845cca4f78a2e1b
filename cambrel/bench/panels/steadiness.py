"""The Steadiness panel: the slowest usable shutter, by hand, stabiliser, movement, stars and what is asked, and the ISO
that it means.
"""

from __future__ import annotations

from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.panels.panel import Panel, PanelView, rig_table
from cambrel.comparison.brief import SUPPORTS, Brief
from cambrel.comparison.engine import RigFigures
from cambrel.comparison.schools import support_of
from cambrel.comparison.slowest_shutter import says_steady, steady
from cambrel.drawings.steadiness import steadiness_drawing
from cambrel.optics.steadiness import HAND_SCHOOLS
from cambrel.wording import DASH, LETTERS


def build(seen: PanelView) -> dict[str, Any]:
    comparison, look = seen.comparison, seen.look
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    steadied = {rig.index: steady(comparison, rig) for rig in rigs}

    def cells(rig: RigFigures) -> tuple[str, ...]:
        steadiness = steadied[rig.index]
        if steadiness is None:
            return (DASH,) * 8
        stops = rig.rig.body.steadied_stops(rig.carrier.lens)
        return (
            "not known" if stops is None else wording.stops(stops),
            *(_seconds(steadiness.limits_s[key]) for key in ("support", "movement", "stars", "brief")),
            _seconds(steadiness.slowest_s),
            wording.iso(steadiness.iso) if steadiness.iso else DASH,
            "reference"
            if rig.index == comparison.reference
            else wording.iso(steadiness.looks_like_iso)
            if steadiness.iso
            else DASH,
        )

    first = LETTERS[comparison.reference]
    heads = (
        ("stabilisation", "stabilisation"),
        ("support", "steady"),
        ("movement", "movement"),
        ("stars", "star_limit"),
        ("asked for", "asked_for"),
        ("slowest usable", "slowest"),
        ("ISO then", "iso_then"),
        (f"as noisy as {first} at", "looks_like"),
    )
    return {
        "drawing": steadiness_drawing(comparison, steadied, width=look.across),
        "supports": [(key, support.label) for key, support in SUPPORTS.items()],
        "support": support_of(comparison.brief),
        "school": HAND_SCHOOLS[comparison.conventions.hand],
        "sentences": [
            (LETTERS[rig.index], wording.sentence(says_steady(rig, steadiness)))
            for rig in rigs
            if (steadiness := steadied[rig.index]) is not None
        ],
        "table": rig_table("What limits the shutter", heads, comparison, cells),
    }


def _seconds(value: float) -> str:
    return wording.shutter(value) if isfinite(value) else "no limit"


def asks(brief: Brief) -> bool:
    """Of what moves."""
    return brief.subject_speed_m_per_s > 0


PANEL = Panel("steadiness", "Steadiness", "bench/panels/steadiness.html", build, asks=asks)
