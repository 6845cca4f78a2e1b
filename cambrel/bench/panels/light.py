"""The Light panel: the light of each frame, and the noise that it leaves."""

from __future__ import annotations

from typing import Any

from cambrel import wording
from cambrel.bench.look import Look
from cambrel.bench.panels.panel import Panel, rig_table
from cambrel.drawings.light import light_drawing
from cambrel.links import Bench
from cambrel.optics.brief import Brief
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.wording import DASH, LETTERS

DIM_EV = 3.0
"""In light like this or less, noise is what tells cameras apart."""


def build(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    def cells(rig: RigFigures) -> tuple[str, ...]:
        light = rig.light
        first = rig.index == comparison.reference
        return (
            wording.significant(light.exposure_lux_s) + wording.NBSP + "lux s"
            if light.exposure_lux_s == light.exposure_lux_s
            else DASH,
            "reference" if first else wording.signed_stops(light.exposure_stops),
            "reference" if first else wording.signed_stops(light.total_stops),
            wording.DASH if light.photons_total != light.photons_total else wording.big(light.photons_total),
            wording.significant(light.snr_pixel),
            wording.significant(light.snr_picture),
            wording.iso(light.looks_like_iso) if light.looks_like_iso == light.looks_like_iso else DASH,
            wording.iso(light.ceiling_iso) if light.ceiling_iso == light.ceiling_iso else DASH,
        )

    ceiling = wording.iso_text(bench.conventions.iso_ceiling)
    heads = (
        "exposure", "light per area", "light, whole picture", "photons in all", "S/N per pixel", "signal to noise, picture",
        f"as noisy as {LETTERS[comparison.reference]} at", f"your ceiling of {ceiling}",
    )  # fmt: skip
    drawing = light_drawing(comparison, width=look.across, height=230)
    return {"drawing": drawing, "table": rig_table("Light and noise", heads, comparison, cells)}


def asks(brief: Brief) -> bool:
    """In dim light; of stars it is the shutter that tells first."""
    return brief.light_ev <= DIM_EV and brief.declination_deg is None


PANEL = Panel("light", "Light", "bench/panels/light.html", build, asks=asks)
