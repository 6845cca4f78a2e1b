"""The blur budget of every rig of a comparison: what softens its picture at the subject, what limits it, and how large
it may be shown.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import inf

import numpy as np

from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.figures import Frames, Settings, Sharpness, View
from cambrel.comparison.schools import held_by, shown_by
from cambrel.optics import reach
from cambrel.optics import sharpness as formulas
from cambrel.optics.good_enough import GOOD_ENOUGH_SCHOOLS
from cambrel.optics.quantities import Array, Flags
from cambrel.optics.steadiness import HAND_SCHOOLS

STREAKS = ("shake", "movement", "drift")
"""What moves while the shutter is open; together they are one part of what limits."""
PARTS = ("pixels", "diffraction", "defocus", "lens", "motion")
"""What softens, in the order in which it is shown."""
WITHIN_ALIKE = 0.05
"""Two prices so near to each other are named together."""


@dataclass(frozen=True)
class SharpSpot:
    """Where sharpness is judged: how far from the lens [m], and the disc and the streaks there on the sensor [mm], by
    the names of STREAKS.
    """

    away_m: Array
    disc_mm: Array
    streaks_mm: Mapping[str, Array]


def shake_mm(
    brief: Brief,
    conventions: Conventions,
    s: Settings[Array, Flags],
    frames: Frames[Array],
    view: View[Array],
    stops: Array,
) -> Array:
    """How far the hand's shake carries a point on the sensor; none on a tripod, or where nobody said what carries the
    camera. By a rule of the focal length the longest shutter that it allows moves a point by what still counts as
    sharp.

    Parameters
        brief: what carries the camera
        conventions: the school of the hand
        s, frames, view: the figures of each rig
        stops: of stabilisation of each
    Returns
        [mm], one for each rig
    """
    if brief.support in ("", "tripod"):
        return np.zeros_like(s.shutter_s)
    seen = s.focusable
    seconds, focal = np.where(seen, s.shutter_s, 0.0), np.where(seen, s.focal_length_mm, 1.0)
    held = held_by(brief, conventions, frames, focal, np.where(seen, view.image_distance_mm, 1.0), stops)
    return np.asarray(HAND_SCHOOLS[conventions.hand].streak_mm(held, seconds))


def _together(
    lengths: Mapping[str, Array], streaks: Sequence[Array], counted: Flags, is_lens_known: Flags, seen: Flags
) -> tuple[Array, dict[str, Array]]:
    """What all parts leave together [cycles/mm], and by how much more it would be without each: 1 for a part that
    softens nothing, unknown for one that is not known.
    """
    # one row for all together, and one without each of those that soften anything at all
    present = [name for name in PARTS if lengths[name].any()]

    def rows(length: Array, part: str) -> Array:
        table = np.stack([length] * (1 + len(present)))
        if part in present:
            table[1 + present.index(part)] = 0.0
        return table

    with np.errstate(divide="ignore"):
        lens = 1 / rows(lengths["lens"], "lens")
    per_mm = formulas.half_contrast_per_mm(
        rows(lengths["diffraction"], "diffraction"),
        rows(lengths["pixels"], "pixels"),
        lens,
        rows(lengths["defocus"], "defocus"),
        [rows(streak, "motion") for streak in streaks if streak.any()],
    )
    v = per_mm[0]
    prices = {
        name: np.where(seen, per_mm[1 + present.index(name)] / v if name in present else 1.0, np.nan) for name in PARTS
    }
    prices["pixels"] = np.where(counted, prices["pixels"], np.nan)
    prices["lens"] = np.where(is_lens_known, prices["lens"], np.nan)
    return v, prices


def sharpness(
    brief: Brief,
    conventions: Conventions,
    s: Settings[Array, Flags],
    frames: Frames[Array],
    view: View[Array],
    spot: SharpSpot,
    lens_per_mm: Array,
    pixel_um: Array,
) -> Sharpness[Array]:
    """The budget at a distance; unknown for a rig that has no image of it.

    Parameters
        brief, conventions: the picture and the schools
        s, frames, view: the figures of each rig
        spot: where it is judged
        lens_per_mm: what each lens alone resolves at its f-number [cycles/mm]; unknown (NaN) is taken as perfect
        pixel_um: the physical size of the pixels [µm], which may be sampled finer than that
    Returns
        what is resolved and what each part costs, with the rigs along the axis
    """
    seen = s.focusable & ~np.isnan(spot.disc_mm)
    pitch = frames.pitch_um / 1000
    counted = ~np.isnan(pitch)

    def of(values: Array | float, otherwise: float) -> Array:
        return np.where(seen, values, otherwise)

    effective = of(s.f_number * (1 + view.magnification), 1.0)
    streaks = [of(spot.streaks_mm[name], 0.0) for name in STREAKS]
    lengths = {
        "pixels": np.where(counted, pixel_um / 1000, 0.0),
        "diffraction": conventions.wavelength_nm * 1e-6 * effective,
        "defocus": of(spot.disc_mm, 0.0),
        "lens": np.where(np.isnan(lens_per_mm), 0.0, 1 / lens_per_mm),
        "motion": np.maximum.reduce(streaks),
    }
    v, prices = _together(lengths, streaks, counted, ~np.isnan(lens_per_mm), seen)
    # without pixels known there is nothing to hold it back
    most = np.where(counted, 1 / (2 * np.where(counted, pitch, 1.0)), inf)
    resolved = of(np.minimum(v, most), np.nan)
    long_side = np.maximum(frames.width_mm, frames.height_mm)
    shown = brief.shown_long_side_mm / long_side
    known = np.where(seen, resolved, 1.0)
    near = seen & np.isfinite(spot.away_m)
    detail = formulas.finest_detail_mm(known, np.where(near, spot.away_m, 1.0), of(view.image_distance_mm, 1.0))
    safe_pitch = np.where(counted, frames.pitch_um, 1.0)
    focal, at = of(s.focal_length_mm, 1.0), of(s.subject_distance_m, 1.0)
    # of a subject that is taller than the frame what the frame shows
    shown_m = np.minimum(brief.subject_height_m, of(view.field_high_m, 1.0))
    pixels = reach.pixels_on_subject(shown_m, of(view.image_distance_mm, 1.0), at, safe_pitch)
    own = {
        "diffraction_mm": lengths["diffraction"] / (2 * formulas.S_HALF),
        "defocus_mm": lengths["defocus"] / (2 * formulas.DISC_HALF),
    } | {f"{name}_mm": streak / (2 * formulas.SINC_HALF) for name, streak in zip(STREAKS, streaks, strict=True)}
    return Sharpness(
        **{name: of(value, np.nan) for name, value in own.items()},
        lens_mm=of(1 / (2 * lens_per_mm), np.nan),
        pixels_mm=np.where(counted & seen, lengths["pixels"] / (2 * formulas.SINC_HALF), np.nan),
        **{f"{name}_price": prices[name] for name in PARTS},
        mtf50_per_mm=of(v, np.nan),
        resolved_per_mm=resolved,
        lines_per_height=2 * resolved * frames.height_mm,
        cycles_per_pixel=np.where(counted, resolved * safe_pitch / 1000, np.nan),
        finest_detail_mm=np.where(near, detail, np.nan),
        print_per_mm=resolved / shown,
        largest_print_mm=of(
            _largest(brief, conventions, known, long_side, np.where(counted, 1000 * long_side / safe_pitch, np.nan)),
            np.nan,
        ),
        pixels_on_subject=np.where(counted & seen, pixels, np.nan),
        arc_seconds_per_pixel=np.where(counted & seen, reach.arc_seconds_per_pixel(focal, safe_pitch), np.nan),
    )


def _largest(brief: Brief, conventions: Conventions, v: Array, long_side: Array, pixels: Array) -> Array:
    """The long side of the largest picture that is good enough by the school in force [mm]."""
    shown = shown_by(brief, conventions, v, long_side, pixels)
    return np.asarray(GOOD_ENOUGH_SCHOOLS[conventions.good_enough].value(shown))


def limiting(figures: Sharpness[float]) -> tuple[str, ...]:
    """What limits a rig now: the part whose removal would bring most, two of them where they are nearly the same.

    Parameters
        figures: the budget of one rig
    Returns
        names of PARTS; empty where nothing softens
    """
    prices = {name: getattr(figures, f"{name}_price") for name in PARTS}
    ranked = sorted((name for name in PARTS if prices[name] > 1), key=lambda name: -prices[name])
    if not ranked:
        return ()
    best = prices[ranked[0]]
    alike = [name for name in ranked[:2] if best == prices[name] or best / prices[name] <= 1 + WITHIN_ALIKE]
    return tuple(alike)


def largest_streak(figures: Sharpness[float]) -> str:
    """Which of what moves softens most.

    Parameters
        figures: the budget of one rig
    Returns
        one of STREAKS
    """
    return max(STREAKS, key=lambda name: float(getattr(figures, f"{name}_mm")))


def is_limited_by_pixels(figures: Sharpness[float]) -> bool:
    """Whether the pixels cannot hold what reaches them.

    Parameters
        figures: the budget of one rig
    Returns
        False where the pixels are not known
    """
    return figures.resolved_per_mm < figures.mtf50_per_mm
