"""Steadiness: the slowest shutter that a hand holds, by school. Seconds, stops, arc seconds.

Source: the rule of one over the equivalent focal length, and its careful half; a typed shake is plain geometry. Close
    up a hand's
side-to-side movement dominates, so that all of these are guides only there.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from cambrel.optics.quantities import Choices, Quantity, is_unknown, not_negative, positive, refuse_unless
from cambrel.optics.schools import School, by_key, plain
from cambrel.optics.workings import Working, term, working

RADIANS_PER_ARC_SECOND = float(np.pi / 180 / 3600)
SUPPORT_STOPS = {"monopod": 2.0, "gimbal": 3.0}
"""What a monopod and a gimbal are taken to give; a tripod is steady, and a hand gives nothing."""


def handheld_seconds(
    focal_length_mm: Quantity, crop: Quantity, stabilisation_stops: Quantity = 0.0, factor: Quantity = 1.0
) -> Quantity:
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


def shake_mm(
    image_distance_mm: Quantity, arc_seconds_per_s: Quantity, seconds: Quantity, stabilisation_stops: Quantity = 0.0
) -> Quantity:
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
    image_distance_mm: Quantity, arc_seconds_per_s: Quantity, length_mm: Quantity, stabilisation_stops: Quantity = 0.0
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


@dataclass(frozen=True)
class Held:
    """A camera in a hand: what its slowest shutter may depend on. Scalars or arrays.

    stabilisation_stops: what steadies it, in all; coc_mm: what still counts as sharp, NaN where that is not known
    arc_seconds_per_s: how fast the reader's own hand turns
    """

    focal_length_mm: Quantity
    crop: Quantity
    stabilisation_stops: Quantity
    image_distance_mm: Quantity
    coc_mm: Quantity
    arc_seconds_per_s: Quantity


@dataclass(frozen=True)
class HandSchool(School[Held]):
    """How long a hand is steady. value: the slowest shutter [s]

    streak_mm: how far the hand carries a point on the sensor in so many seconds [mm]; nothing where that cannot be said
    """

    streak_mm: Callable[[Held, Quantity], Quantity] = lambda given, seconds: 0.0 * seconds


def _rule(key: str, label: str, reason: str, factor: float) -> HandSchool:
    """A rule of the focal length; the longest shutter that it allows moves a point by what still counts as sharp."""

    def value(given: Held) -> Quantity:
        return handheld_seconds(given.focal_length_mm, given.crop, given.stabilisation_stops, factor)

    def streak_mm(given: Held, seconds: Quantity) -> Quantity:
        moved: Quantity = np.where(np.isnan(given.coc_mm), 0.0, given.coc_mm) * seconds / value(given)
        return moved

    def written(given: Held) -> Working:
        return working(
            "t", "2^B / (F × C × f)", float(value(given)), "s",
            term("B", "stops that it is steadied by", given.stabilisation_stops),
            term("F", "how careful the school is", factor), term("C", "crop factor", given.crop),
            term("f", "focal length", given.focal_length_mm, "mm"),
        )  # fmt: skip

    return HandSchool(key, label, reason, value, written, streak_mm=streak_mm)


def _typed_seconds(given: Held) -> Quantity:
    is_known = ~np.isnan(given.coc_mm)
    circle = np.where(is_known, given.coc_mm, 1.0)
    held = seconds_for_shake(given.image_distance_mm, given.arc_seconds_per_s, circle, given.stabilisation_stops)
    return plain(np.where(is_known, held, np.nan))


def _typed_streak_mm(given: Held, seconds: Quantity) -> Quantity:
    # a hand that had turned to the side by then has no picture at all
    longest = 0.99 * np.pi / 2 / (given.arc_seconds_per_s * RADIANS_PER_ARC_SECOND)
    return shake_mm(
        given.image_distance_mm, given.arc_seconds_per_s, np.minimum(seconds, longest), given.stabilisation_stops
    )


def _typed_working(given: Held) -> Working | None:
    seconds = float(_typed_seconds(given))
    if is_unknown(seconds):
        return None
    return working(
        "t", "atan(c × 2^B / v) × 206264.80625 / r", seconds, "s",
        term("c", "largest blur that counts as sharp", given.coc_mm, "mm"),
        term("B", "stops that it is steadied by", given.stabilisation_stops),
        term("v", "image distance", given.image_distance_mm, "mm"),
        term("r", "turn of your hand in a second, arc seconds", given.arc_seconds_per_s),
    )  # fmt: skip


HAND_SCHOOLS: Choices[HandSchool] = by_key(
    "hand",
    _rule(
        "habit",
        "one over the focal length",
        "One over the equivalent focal length in seconds: the habit, for pictures looked at whole.",
        1.0,
    ),
    _rule("careful", "half of that", "Half of that: for what is looked at closely, or hands that are not young.", 2.0),
    HandSchool(
        "typed",
        "as fast as your hand turns",
        "By how fast your own hand turns the camera, in arc seconds a second.",
        _typed_seconds,
        _typed_working,
        is_tried=False,
        streak_mm=_typed_streak_mm,
    ),
)
