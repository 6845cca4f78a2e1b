"""The Size panel: the cameras to one scale, from the side and from the front, with the entrance pupil true inside."""

from __future__ import annotations

from math import isfinite, nan
from typing import Any

from cambrel import wording
from cambrel.bench.panels.panel import Panel, PanelView, rig_table
from cambrel.comparison.engine import RigFigures
from cambrel.comparison.outer_sizes import body_block, lens_block
from cambrel.drawings.gear_sizes import CameraShape, cameras_drawing
from cambrel.wording import DASH, LETTERS
from cambrel.wording.sentences import listed


def _shape(rig: RigFigures) -> CameraShape:
    lens = rig.carrier.lens
    pupil = rig.blur.pupil_mm if rig.settings.focusable else rig.settings.focal_length_mm / rig.settings.f_number
    longest = nan if lens.longest_mm is None else lens.longest_mm
    return CameraShape(rig.index, body_block(rig.rig.body), lens_block(lens), longest, pupil)


def build(seen: PanelView) -> dict[str, Any]:
    comparison, look = seen.comparison, seen.look
    shapes = [_shape(comparison.of(index)) for index in range(len(comparison.rigs))]

    def cells(rig: RigFigures) -> tuple[str, ...]:
        shape = shapes[rig.index]
        across, high, deep = shape.body.sides_mm
        return (
            f"{wording.significant(across)} × {wording.significant(high)} × {wording.focal(deep)}"
            if shape.body.is_known
            else "not known",
            "in the body" if shape.lens is None else _of_lens(shape),
            _known(rig.outfit.long_mm, wording.focal),
            _known(rig.outfit.volume_l, wording.litres),
            _known(rig.outfit.weight_g, wording.mass),
            _known(shape.pupil_mm, wording.focal),
        )

    heads = (
        ("width, height, depth", ""),
        ("lens, length and diameter", ""),
        ("back to front", "long"),
        ("volume", "volume"),
        ("weight", "weight"),
        ("entrance pupil", "pupil"),
    )
    return {
        "drawing": cameras_drawing(shapes, look.across),
        "unknown": listed([LETTERS[shape.index] for shape in shapes if not shape.is_known] or [DASH]),
        "any_unknown": not all(shape.is_known for shape in shapes),
        "table": rig_table("How large they are", heads, comparison, cells),
    }


def _known(value: float, write: Any) -> str:
    return str(write(value)) if isfinite(value) else DASH


def _of_lens(shape: CameraShape) -> str:
    if shape.lens is None or not shape.lens.is_known:
        return "not known"
    long, across = shape.lens_mm
    grown = f", zoomed {wording.focal(shape.longest_mm)}" if isfinite(shape.longest_mm) else ""
    return f"{wording.significant(long)} × {wording.focal(across)}{grown}"


PANEL = Panel("size", "Size", "bench/panels/size.html", build)
