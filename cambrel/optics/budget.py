"""The blur budget of every rig of a comparison: what softens its picture at the subject, what limits it, and how large it may be shown."""

from __future__ import annotations

from math import inf
from typing import Any

import numpy as np

from cambrel.optics import reach
from cambrel.optics import sharpness as formulas
from cambrel.optics.brief import Brief, Conventions
from cambrel.optics.figures import Array, Blur, Flags, Frames, Settings, Sharpness, View

PARTS = ("pixels", "diffraction", "defocus", "lens", "movement")
"""What softens, in the order in which it is shown."""
PIXELS_PER_INCH = 300.0
WITHIN_ALIKE = 0.05
"""Two prices so near to each other are named together."""


def sharpness(
    brief: Brief,
    conventions: Conventions,
    s: Settings[Array, Flags],
    frames: Frames[Array],
    view: View[Array],
    blur: Blur[Array],
    lens_per_mm: Array,
) -> Sharpness[Array]:
    """The budget at the subject; unknown for a rig that has no image of it.

    Parameters
        lens_per_mm: what each lens alone resolves at its f-number [cycles/mm]; unknown (NaN) is taken as perfect
    """
    seen = s.focusable & ~np.isnan(blur.subject_mm)
    pitch = frames.pitch_um / 1000
    counted = ~np.isnan(pitch)

    def of(values: Any, otherwise: float) -> Array:
        return np.where(seen, values, otherwise)

    effective = of(s.f_number * (1 + view.magnification), 1.0)
    lengths = {
        "pixels": np.where(counted, pitch, 0.0),
        "diffraction": conventions.wavelength_nm * 1e-6 * effective,
        "defocus": of(blur.subject_mm, 0.0),
        "lens": np.where(np.isnan(lens_per_mm), 0.0, 1 / lens_per_mm),
        "movement": of(blur.movement_mm, 0.0),
    }
    halves = dict(
        zip(PARTS, (formulas.SINC_HALF, formulas.S_HALF, formulas.DISC_HALF, 1.0, formulas.SINC_HALF), strict=True)
    )
    # all together, and without each of those that soften anything at all
    present = [name for name in PARTS if lengths[name].any()]
    table = {name: np.stack([length] * (1 + len(present))) for name, length in lengths.items()}
    for row, name in enumerate(present, 1):
        table[name][row] = 0.0
    with np.errstate(divide="ignore"):
        lens = 1 / table["lens"]
    found = formulas.half_contrast_per_mm(
        table["diffraction"], table["pixels"], lens, table["defocus"], [table["movement"]]
    )
    v = found[0]
    prices = {name: of(found[1 + present.index(name)] / v if name in present else 1.0, np.nan) for name in PARTS}
    prices["pixels"] = np.where(counted, prices["pixels"], np.nan)
    prices["lens"] = np.where(np.isnan(lens_per_mm), np.nan, prices["lens"])
    # without pixels known there is nothing to hold it back
    most = np.where(counted, 1 / (2 * np.where(counted, pitch, 1.0)), inf)
    resolved = of(np.minimum(v, most), np.nan)
    long_side = np.maximum(frames.width_mm, frames.height_mm)
    shown = brief.shown_long_side_mm / long_side
    known = np.where(seen, resolved, 1.0)
    detail = formulas.finest_detail_mm(known, of(s.subject_distance_m, 1.0), of(view.image_distance_mm, 1.0))
    safe_pitch = np.where(counted, frames.pitch_um, 1.0)
    focal, at = of(s.focal_length_mm, 1.0), of(s.object_distance_m, 1.0)
    pixels = reach.pixels_on_subject(brief.subject_height_m, focal, at, safe_pitch)
    return Sharpness(
        **{
            f"{name}_mm": of(lengths[name] / (2 * halves[name]), np.nan)
            for name in PARTS
            if name not in ("pixels", "lens")
        },
        lens_mm=of(1 / (2 * lens_per_mm), np.nan),
        pixels_mm=np.where(counted & seen, lengths["pixels"] / (2 * formulas.SINC_HALF), np.nan),
        **{f"{name}_price": prices[name] for name in PARTS},
        mtf50_per_mm=of(v, np.nan),
        resolved_per_mm=resolved,
        lines_per_height=2 * resolved * frames.height_mm,
        cycles_per_pixel=np.where(counted, resolved * safe_pitch / 1000, np.nan),
        finest_detail_mm=of(detail, np.nan),
        print_per_mm=resolved / shown,
        largest_print_mm=of(
            _largest(brief, conventions, known, long_side, np.where(counted, long_side / pitch, np.nan)), np.nan
        ),
        pixels_on_subject=np.where(counted & seen, pixels, np.nan),
        arc_seconds_per_pixel=np.where(counted & seen, reach.arc_seconds_per_pixel(focal, safe_pitch), np.nan),
    )


def _largest(brief: Brief, conventions: Conventions, v: Array, long_side: Array, pixels: Array) -> Array:
    """The long side of the largest picture that is good enough by the school in force [mm]."""
    school, eye = conventions.good_enough, conventions.lines_per_mm
    if school == "pixels":
        return pixels / PIXELS_PER_INCH * formulas.MM_PER_INCH
    if school == "printer":
        return np.asarray(formulas.largest_print_by_printer_mm(v, long_side))
    lines = eye if school == "strict_eye" else eye / 2
    return np.asarray(formulas.largest_print_by_eye_mm(v, long_side, brief.viewing_distance_mm, lines))


def limiting(figures: Sharpness[float]) -> tuple[str, ...]:
    """What limits a rig now: the part whose removal would bring most, two of them where they are nearly level; empty where nothing softens."""
    prices = {name: getattr(figures, f"{name}_price") for name in PARTS}
    ranked = sorted((name for name in PARTS if prices[name] > 1), key=lambda name: -prices[name])
    if not ranked:
        return ()
    best = prices[ranked[0]]
    alike = [name for name in ranked[:2] if best == prices[name] or best / prices[name] <= 1 + WITHIN_ALIKE]
    return tuple(alike)


def is_limited_by_pixels(figures: Sharpness[float]) -> bool:
    """Whether the pixels cannot hold what reaches them."""
    return figures.resolved_per_mm < figures.mtf50_per_mm
