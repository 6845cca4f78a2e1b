"""The figures of a comparison, by topic. Arrays with the rigs along the last axis; NaN means unknown, infinity is an answer."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf
from typing import Any

import numpy as np
from numpy.typing import NDArray

from cambrel.optics.rig import Rig

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Frames:
    """The frames in use, after output crop and orientation; the same along a walk."""

    width_mm: Array
    height_mm: Array
    diagonal_mm: Array
    area_mm2: Array
    crop: Array
    k: Array
    """Crop factor of the reference over that of the rig, C1 / C2, by the measure in force."""
    pixels: Array
    pitch_um: Array
    coc_mm: Array


@dataclass(frozen=True)
class View:
    """What is in the frame. Equivalents by the simple rule, as the field speaks of them; same_picture_* exactly, at this distance."""

    magnification: Array
    image_distance_mm: Array
    equivalent_focal_length_mm: Array
    """On the reference rig's format."""
    full_frame_focal_length_mm: Array
    same_picture_focal_length_mm: Array
    """On the reference rig's format, exactly."""
    simple_rule_error: Array
    angle_wide_deg: Array
    angle_high_deg: Array
    angle_diagonal_deg: Array
    field_wide_m: Array
    field_high_m: Array
    background_wide_m: Array
    background_high_m: Array
    fill: Array
    """Share of the frame's height that the subject fills."""
    background_scale: Array
    """Size of the background against the subject, as seen from the rig's place."""


@dataclass(frozen=True)
class Depth:
    """Depth of field from the lens, and hyperfocal distance."""

    near_m: Array
    far_m: Array
    total_m: Array
    front_m: Array
    behind_m: Array
    hyperfocal_m: Array


@dataclass(frozen=True)
class Blur:
    """Blur discs on the sensor, and as share of the frame's diagonal."""

    pupil_mm: Array
    equivalent_f_number: Array
    """On the reference rig's format: same pupil, by the simple rule."""
    same_picture_f_number: Array
    """On the reference rig's format with the focal length of the same picture: the same pupil exactly, close up too."""
    full_frame_f_number: Array
    background_mm: Array
    background_share: Array
    foreground_mm: Array
    foreground_share: Array
    infinity_mm: Array
    infinity_share: Array
    subject_mm: Array
    subject_share: Array
    movement_mm: Array
    movement_share: Array


@dataclass(frozen=True)
class Light:
    """Exposure, total light, photons and noise; stops against the reference unless they say otherwise."""

    effective_f_number: Array
    exposure_value: Array
    exposure_lux_s: Array
    exposure_stops: Array
    total_stops: Array
    brightness_stops: Array
    error_stops: Array
    """Brightness against the light on the scene."""
    photons_per_um2: Array
    photons_total: Array
    electrons_per_pixel: Array
    snr_pixel: Array
    snr_picture: Array
    looks_like_iso: Array
    """ISO at which the reference body, exposed as the light asks, would be as noisy over the whole picture; unknown (NaN) unless both
    rigs are exposed as the light asks, as otherwise an ISO says nothing of the noise."""
    ceiling_iso: Array
    """ISO at which this rig is as noisy as the reference at the photographer's own ceiling."""


@dataclass(frozen=True)
class Diffraction:
    """The Airy disc on the sensor, against the circle of confusion and against two pixels."""

    airy_um: Array
    airy_share: Array
    over_coc: Array
    over_two_pixels: Array
    limited_f_number: Array
    """Where the Airy disc reaches the circle of confusion."""
    pixel_limited_f_number: Array


@dataclass(frozen=True)
class Kit:
    """What is carried, and whether lens and body fit."""

    weight_g: Array
    price: Array
    image_circle_share: Array
    """Image circle, as large as it is at this focus, over the frame's diagonal; below 1 the corners are dark."""
    mount_fits: Array


@dataclass(frozen=True)
class RigFigures:
    """All figures of one rig, as plain numbers."""

    index: int
    rig: Rig
    carrier: Rig
    """The rig whose lens and converter this one carries: itself, but under the hold of one shared lens."""
    settings: Any
    frames: Any
    view: Any
    depth: Any
    blur: Any
    light: Any
    diffraction: Any
    kit: Any

    @property
    def focal_range_mm(self) -> tuple[float, float]:
        """From the shortest to the longest focal length of the lens carried, with its converter; anything for a lens of any length."""
        lens, converter = self.carrier.lens, self.carrier.converter
        if lens.focal_min_mm is None or lens.focal_max_mm is None:
            return 0.0, inf
        return lens.focal_min_mm * converter, lens.focal_max_mm * converter

    def widest_f_number(self, focal_length_mm: float) -> float:
        """F-number wide open at a focal length with the converter; 0.5, the limit in air, where the lens does not say."""
        lens, converter = self.carrier.lens, self.carrier.converter
        return float(lens.widest_f_number(focal_length_mm / converter)) * converter

    @property
    def smallest_f_number(self) -> float:
        """Largest f-number of the lens carried with its converter; infinite where it is not known."""
        return (self.carrier.lens.smallest_f_number or inf) * self.carrier.converter
