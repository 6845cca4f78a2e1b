"""A panel as one object, and what several of them are made of."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from cambrel.bench.look import Look, Part
from cambrel.comparison.bench import Bench
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.wording import LETTERS


@dataclass(frozen=True)
class Panel:
    """One way to look into a comparison.

    `build` makes the variables of the template; `look` names what may be chosen in it; `asks` says of which pictures it is what matters most,
    so that it is offered first there.
    """

    key: str
    label: str
    template: str
    build: Callable[[Bench, Comparison, Look], Mapping[str, Any]]
    look: tuple[Part, ...] = ()
    asks: Callable[[Brief], bool] = lambda brief: False


@dataclass(frozen=True)
class TableRow:
    """A rig's row in the table beside a drawing."""

    index: int
    letter: str
    cells: tuple[str, ...]


@dataclass(frozen=True)
class PanelTable:
    caption: str
    heads: tuple[tuple[str, str], ...]
    """What stands above each column, and which figure of `optics.lines` that is, if one is known."""
    rows: tuple[TableRow, ...]


OF_HEADS = {
    "near": "near", "far": "far", "depth": "total", "depth of field": "total", "hyperfocal": "hyperfocal", "blur at infinity": "infinity_share",
    "at the subject": "field_wide", "at the background": "back_wide", "angle of view": "angle_wide", "exposure": "exposure",
    "light per area": "exposure_stops", "light, whole picture": "total_stops", "photons in all": "photons_total",
    "signal to noise per pixel": "snr_pixel", "signal to noise, picture": "snr_picture", "times life size": "magnification",
    "exposes like": "effective", "before diffraction shows": "limited", "weight": "weight", "line widths per picture height": "lines",
    "finest detail on the subject": "detail", "pixels along the subject": "on_subject", "a pixel sees": "arc", "field": "field_wide",
    "from the lens": "focus", "from the sensor mark": "sensor_mark", "cycles per pixel": "cycles_pixel", "line widths in the corner": "corner",
    "above the horizon, held level": "horizon", "movement": "movement", "ISO then": "iso_then", "longest trail now": "trail",
    "light of the stars": "points", "light of the sky": "sky", "clean over the whole picture": "range_picture",
    "to one pixel’s noise": "range_pixel", "clean at base ISO": "base_range", "to one pixel’s noise at base ISO": "base_range",
    "frames to bracket": "bracket", "width of a face at the edge": "stretch", "light lost there, wide open": "fall_off",
    "before the lens": "before_lens", "frames in a stack": "stack", "stabilisation": "stabilisation", "asked for": "asked_for",
    "500 rule": "rule_500", "400 rule": "rule_400", "300 rule": "rule_300", "by aperture and pixel": "aperture_pixel",
    "exact, in the middle": "star_middle", "exact, worst edge": "exact", "support": "steady", "stars": "star_limit", "slowest usable": "slowest",
    "as on full frame": "equal_size",
}  # fmt: skip
"""By what stands above a column, the figure of `optics.lines` that it holds."""


def rig_table(
    caption: str,
    heads: tuple[str | tuple[str, str], ...],
    comparison: Comparison,
    cells: Callable[[RigFigures], tuple[str, ...]],
) -> PanelTable:
    rows = (TableRow(i, LETTERS[i], cells(comparison.of(i))) for i in range(len(comparison.rigs)))
    named = (head if isinstance(head, tuple) else (head, OF_HEADS.get(head, "")) for head in heads)
    return PanelTable(caption, tuple(named), tuple(rows))


def letters(bench: Bench) -> list[tuple[int, str]]:
    return [(index, LETTERS[index]) for index in range(len(bench.slots))]
