"""Steadiness: the slowest shutter that a hand holds, by school. Seconds, stops, arc seconds.

Source: the rule of one over the equivalent focal length, and its careful half; a typed shake is plain geometry. Close up a hand's
side-to-side movement dominates, so that all of these are guides only there.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from cambrel.optics.quantities import Quantity, not_negative, positive, refuse_unless

RADIANS_PER_ARC_SECOND = float(np.pi / 180 / 3600)
MONOPOD_STOPS = 2.0
"""What a monopod is taken to give."""


def handheld_seconds(focal_length_mm: Any, crop: Any, stabilisation_stops: Any = 0.0, factor: Any = 1.0) -> Quantity:
    """The slowest shutter by the rule of the equivalent focal length, 2^S / (factor C f).

    Parameters
        focal_length_mm: [mm], scalar or array
        crop: crop factor of the format
        stabilisation_stops: S, that a stabiliser or a monopod gives [stops]
        factor: 1 by habit, 2 for the careful or for what is looked at closely
    Returns
        [s]
    """
    equivalent = positive("factor", factor) * positive("crop", crop) * positive("focal_length_mm", focal_length_mm)
    steadied: Quantity = 2.0 ** np.asarray(not_negative("stabilisation_stops", stabilisation_stops)) / equivalent
    return float(steadied) if np.ndim(steadied) == 0 else steadied


def shake_mm(image_distance_mm: Any, arc_seconds_per_s: Any, seconds: Any, stabilisation_stops: Any = 0.0) -> Quantity:
    """How far a hand's shake carries a point on the sensor, v tan(rate x t) / 2^S.

    Parameters
        image_distance_mm: v [mm], scalar or array
        arc_seconds_per_s: rate of the hand
        seconds: of the shutter [s]
        stabilisation_stops: that a stabiliser gives
    Returns
        [mm]
    Raises
        DomainError where the hand would have turned by a right angle
    """
    turned = not_negative("arc_seconds_per_s", arc_seconds_per_s) * not_negative("seconds", seconds)
    angle = np.asarray(turned * RADIANS_PER_ARC_SECOND)
    refuse_unless(angle < np.pi / 2, "seconds", "too short for a hand to turn by a right angle", seconds)
    steadied = 2.0 ** np.asarray(not_negative("stabilisation_stops", stabilisation_stops))
    moved: Quantity = positive("image_distance_mm", image_distance_mm) * np.tan(angle) / steadied
    return moved


def seconds_for_shake(
    image_distance_mm: Any, arc_seconds_per_s: Any, length_mm: Any, stabilisation_stops: Any = 0.0
) -> Quantity:
    """How long until such a shake has carried a point so far; the inverse of shake_mm.

    Parameters
        image_distance_mm: [mm], scalar or array
        arc_seconds_per_s: rate of the hand, above 0
        length_mm: on the sensor [mm]
        stabilisation_stops: that a stabiliser gives
    Returns
        [s]
    """
    steadied = 2.0 ** np.asarray(not_negative("stabilisation_stops", stabilisation_stops))
    length = positive("length_mm", length_mm) * steadied / positive("image_distance_mm", image_distance_mm)
    seconds: Quantity = np.arctan(length) / (positive("arc_seconds_per_s", arc_seconds_per_s) * RADIANS_PER_ARC_SECOND)
    return seconds
