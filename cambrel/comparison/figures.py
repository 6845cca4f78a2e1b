"""The figures of a comparison, by topic. Arrays with the rigs along the last axis; NaN means unknown, infinity is an
answer.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import inf
from typing import Generic, TypeVar

import numpy as np

from cambrel.comparison.brief import Brief
from cambrel.comparison.rig import Rig
from cambrel.optics.quantities import Array, Flags

F = TypeVar("F", bool, Flags)
N = TypeVar("N", float, Array)
"""One number, of one rig, or an array of them with the rigs along its last axis."""


def each_of(values: Sequence[float | None], unknown: float) -> Array:
    """Figures of every rig as an array, with what stands for an unknown one.

    Parameters
        values: one for each rig, None where it is not known
        unknown: what stands for those
    Returns
        an array with the rigs along its axis
    """
    return np.array([unknown if value is None else value for value in values], dtype=float)


@dataclass(frozen=True)
class Settings(Generic[N, F]):
    """What every rig is set to: a number each, or arrays with the rigs along the last axis.

    wanted_*: what the hold asked for, equal to the setting where it was reached
    widest_f_number: NaN where the lens does not say; it can then be set to anything
    depth_overshoot: far must be infinite, so that more depth in front came with it than was asked for
    """

    focal_length_mm: N
    wanted_focal_length_mm: N
    subject_distance_m: N
    wanted_distance_m: N
    object_distance_m: N
    wanted_object_distance_m: N
    f_number: N
    wanted_f_number: N
    widest_f_number: N
    shutter_s: N
    wanted_shutter_s: N
    iso: N
    wanted_iso: N
    focusable: F
    depth_overshoot: F
    depth_known: F


@dataclass(frozen=True)
class Frames(Generic[N]):
    """The frames in use, after output crop and orientation; the same along a walk."""

    width_mm: N
    height_mm: N
    diagonal_mm: N
    area_mm2: N
    crop: N
    home_crop: N
    """Crop factor of the reader's own format, the same for all."""
    k: N
    """Crop factor of the reference over that of the rig, C1 / C2, by the measure in force."""
    pixels: N
    pitch_um: N
    coc_mm: N


@dataclass(frozen=True)
class View(Generic[N]):
    """What is in the frame. Equivalents by the simple rule, as the field speaks of them; same_picture_* exactly, at
    this distance.
    """

    magnification: N
    image_distance_mm: N
    equivalent_focal_length_mm: N
    """On the reference rig's format."""
    full_frame_focal_length_mm: N
    home_focal_length_mm: N
    """On the format in whose terms the reader thinks."""
    same_picture_focal_length_mm: N
    """On the reference rig's format, exactly."""
    simple_rule_error: N
    angle_wide_deg: N
    angle_high_deg: N
    angle_diagonal_deg: N
    field_wide_m: N
    field_high_m: N
    background_wide_m: N
    background_high_m: N
    fill: N
    """Share of the frame's height that the subject fills."""
    background_scale: N
    """Size of the background against the subject, as seen from the rig's place."""


@dataclass(frozen=True)
class Depth(Generic[N]):
    """Depth of field from the lens, and hyperfocal distance."""

    near_m: N
    far_m: N
    total_m: N
    front_m: N
    behind_m: N
    hyperfocal_m: N


@dataclass(frozen=True)
class Blur(Generic[N]):
    """Blur discs on the sensor, and as share of the frame's diagonal."""

    pupil_mm: N
    equivalent_f_number: N
    """On the reference rig's format: same pupil, by the simple rule."""
    same_picture_f_number: N
    """On the reference rig's format with the focal length of the same picture: the same pupil exactly, close up too."""
    full_frame_f_number: N
    home_f_number: N
    background_mm: N
    background_share: N
    background_dissolves_mm: N
    """Detail of the background smaller than this is lost, measured there."""
    foreground_dissolves_mm: N
    foreground_mm: N
    foreground_share: N
    infinity_mm: N
    infinity_share: N
    subject_mm: N
    subject_share: N
    movement_mm: N
    movement_share: N


@dataclass(frozen=True)
class Light(Generic[N]):
    """Exposure, total light, photons and noise; stops against the reference unless they say otherwise."""

    effective_f_number: N
    exposure_value: N
    exposure_lux_s: N
    exposure_stops: N
    total_stops: N
    brightness_stops: N
    error_stops: N
    """Brightness against the light on the scene."""
    photons_per_um2: N
    photons_total: N
    electrons_per_pixel: N
    snr_pixel: N
    snr_picture: N
    snr: N
    """That of the school in force; unknown (NaN) where it depends on pixels that are not known."""
    looks_like_iso: N
    """ISO at which the reference body, exposed as the light asks, would be as noisy by the school in force; unknown
    (NaN) unless both rigs are exposed as the light asks, as otherwise an ISO says nothing of the noise."""
    ceiling_iso: N
    """ISO at which this rig is as noisy, by the school in force, as the photographer takes a picture to be clean."""


@dataclass(frozen=True)
class Diffraction(Generic[N]):
    """The Airy disc on the sensor, against the circle of confusion and against two pixels."""

    airy_um: N
    airy_share: N
    over_coc: N
    over_two_pixels: N
    limited_f_number: N
    """Where the Airy disc reaches the circle of confusion."""
    pixel_limited_f_number: N


@dataclass(frozen=True)
class Sharpness(Generic[N]):
    """The blur budget at the subject, its parts on the sensor, and what it comes to. The lens's own faults are in it
    where they are known.

    *_mm: a part's own length, one line width at half contrast if it were alone; 0 where it softens nothing. They do not
        add up.
    *_price: how many times finer the picture would be without the part; shake, movement and drift are one part, as like
        streaks hide each other
    """

    pixels_mm: N
    diffraction_mm: N
    defocus_mm: N
    lens_mm: N
    shake_mm: N
    movement_mm: N
    drift_mm: N
    pixels_price: N
    diffraction_price: N
    defocus_price: N
    lens_price: N
    motion_price: N
    mtf50_per_mm: N
    resolved_per_mm: N
    """Of that what the pixels can hold: at most half a cycle in each."""
    lines_per_height: N
    cycles_per_pixel: N
    finest_detail_mm: N
    """On the subject, the width of one line."""
    print_per_mm: N
    """Cycles per mm on the picture as it is shown."""
    largest_print_mm: N
    """Long side of the largest picture that is good enough by the school in force."""
    pixels_on_subject: N
    arc_seconds_per_pixel: N


def stands_elsewhere(brief: Brief, s: Settings[float, bool]) -> bool:
    """Whether a rig stands where it does because the photographer can go no nearer or farther.

    Parameters
        brief: where it was to stand
        s: where it stands
    Returns
        False where it stands where it was to
    """
    ends = (brief.nearest_m, brief.farthest_m)
    return s.subject_distance_m != s.wanted_distance_m and s.subject_distance_m in ends


@dataclass(frozen=True)
class Outfit(Generic[N]):
    """What is carried, and whether lens and body fit."""

    weight_g: N
    price: N
    volume_l: N
    long_mm: N
    """From the back of the body to the front of the lens, a zoom at its shortest."""
    image_circle_share: N
    """Image circle, as large as it is at this focus, over the frame's diagonal; below 1 the corners are dark."""
    mount_fits: N


@dataclass(frozen=True)
class RigFigures:
    """All figures of one rig, as plain numbers."""

    index: int
    rig: Rig
    carrier: Rig
    """The rig whose lens and converter this one carries: itself, but under the hold of one shared lens."""
    settings: Settings[float, bool]
    frames: Frames[float]
    view: View[float]
    depth: Depth[float]
    blur: Blur[float]
    light: Light[float]
    diffraction: Diffraction[float]
    sharpness: Sharpness[float]
    outfit: Outfit[float]

    @property
    def as_set(self) -> Rig:
        """The rig with the lens that it carries, at the settings that it came to."""
        s, carrier = self.settings, self.carrier
        return replace(
            self.rig,
            lens=carrier.lens,
            converter=carrier.converter,
            converter_weight_g=carrier.converter_weight_g,
            focal_length_mm=s.focal_length_mm / carrier.converter,
            f_number=s.f_number / carrier.converter,
            shutter_s=s.shutter_s,
            iso=s.iso,
        )

    @property
    def focal_range_mm(self) -> tuple[float, float]:
        """From the shortest to the longest focal length of the lens carried, with its converter; anything for a lens of
        any length.
        """
        lens, converter = self.carrier.lens, self.carrier.converter
        if lens.focal_min_mm is None or lens.focal_max_mm is None:
            return 0.0, inf
        return lens.focal_min_mm * converter, lens.focal_max_mm * converter

    @property
    def field(self) -> float:
        """What is seen at the subject along the measure of the crop in force, in frames of full frame's [m]: two of one
        field see alike.
        """
        return self.settings.subject_distance_m / self.view.image_distance_mm / self.frames.crop

    def widest_f_number(self, focal_length_mm: float) -> float:
        """F-number wide open at a focal length with the converter; 0.5, the limit in air, where the lens does not
        say.
        """
        lens, converter = self.carrier.lens, self.carrier.converter
        return float(lens.widest_f_number(focal_length_mm / converter)) * converter

    @property
    def smallest_f_number(self) -> float:
        """Largest f-number of the lens carried with its converter; infinite where it is not known."""
        return (self.carrier.lens.smallest_f_number or inf) * self.carrier.converter
