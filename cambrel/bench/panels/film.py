"""The Film panel: what frame rate and shutter angle leave to each camera, and what it lacks."""

from __future__ import annotations

from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.panels.panel import Panel, PanelView, rig_table
from cambrel.comparison.brief import DELIVERIES, Brief
from cambrel.comparison.engine import RigFigures
from cambrel.comparison.moving_pictures import USUAL_ANGLE_DEG, USUAL_RATE, film_of, film_shutter_s
from cambrel.drawings.film import film_drawing
from cambrel.verdicts.film_says import film_says, says_flicker
from cambrel.wording import DASH, LETTERS


def build(seen: PanelView) -> dict[str, Any]:
    comparison, brief = seen.comparison, seen.comparison.brief
    if brief.frame_rate is None:
        usual = wording.shutter(film_shutter_s(USUAL_RATE, USUAL_ANGLE_DEG))
        return {"is_film": False, "usual": usual}
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    films = {rig.index: film_of(comparison, rig) for rig in rigs}
    known = [film for film in films.values() if film is not None]

    def cells(rig: RigFigures) -> tuple[str, ...]:
        film = films[rig.index]
        if film is None:
            return (DASH,) * 8
        return (
            rig.rig.recorded.label or "a mode" if rig.rig.recorded else "the whole sensor",
            wording.degrees(rig.view.angle_wide_deg),
            wording.shutter(film.shutter_s),
            wording.iso(film.needed_iso),
            _stops(film.filter_stops),
            _stops(film.short_stops),
            wording.significant(film.snr),
            _known(film.lean_deg, wording.degrees),
        )

    heads = (
        ("records", ""), ("angle across", "angle_wide"), ("shutter", "shutter"), ("ISO for the light", ""),
        ("neutral filter", ""), ("light short by", ""),
        (f"signal to noise, {DELIVERIES[brief.delivery].label}", "snr_picture"), ("vertical lines lean", ""),
    )  # fmt: skip
    flicker = says_flicker(brief, known[0]) if known else None
    return {
        "is_film": True,
        "drawing": film_drawing(comparison, films, width=seen.look.across),
        "flicker": "" if flicker is None else wording.sentence(flicker),
        "said": [
            (LETTERS[rig.index], " ".join(wording.sentence(said) for said in film_says(comparison, rig, film)))
            for rig in rigs
            if (film := films[rig.index]) is not None
        ],
        "table": rig_table("On a film", heads, comparison, cells),
    }


def _stops(value: float) -> str:
    return "not known" if not isfinite(value) else wording.stops(value) if value > 0 else "none"


def _known(value: float, write: Any) -> str:
    return str(write(value)) if isfinite(value) else "not known"


def asks(brief: Brief) -> bool:
    """Of a film."""
    return brief.frame_rate is not None


PANEL = Panel("film", "Film", "bench/panels/film.html", build, asks=asks)
