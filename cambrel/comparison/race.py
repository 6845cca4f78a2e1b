"""Depth of field against cleanliness: what a rig may have of the one for the other as its lens opens, from its widest
to its smallest stop.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import inf, isfinite

import numpy as np

from cambrel.comparison.bodies import bodies_of, opens_to
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import compare
from cambrel.comparison.framing_steps import cropped
from cambrel.comparison.lenses import lenses_of
from cambrel.comparison.rig import LARGEST_F_NUMBER, Rig
from cambrel.comparison.shortfalls import as_clean_iso
from cambrel.comparison.status import Status
from cambrel.optics import depth, light
from cambrel.optics.quantities import Array, DomainError
from cambrel.optics.stops import F_NUMBERS, between

SMALLEST_SHOWN = 22.0
"""Where a lens is shown to end whose smallest stop is not known."""


@dataclass(frozen=True)
class Curve:
    """Of one rig, stop by stop from wide open: depth of field [m], and how much cleaner than asked the picture then is
    [stops].
    """

    f_numbers: Array
    depth_m: Array
    clean_stops: Array


def race(brief: Brief, rig: Rig, conventions: Conventions) -> Curve | None:
    """The curve of a rig for a picture, focused as at its best, each stop with the slowest time that nothing blurs.

    Parameters
        brief: the picture
        rig: one
        conventions: the schools in force
    Returns
        None for one that does not frame it, or whose depth or noise is not known
    """
    try:
        best = compare(brief, [rig], Hold(is_best=True), conventions)
    except DomainError:
        return None
    asked, s = best.asked, best.first.settings
    if (
        asked is None
        or not s.focusable
        or asked.statuses["framing"][0] == Status.CANNOT
        or not isfinite(best.first.frames.coc_mm)
    ):
        return None
    backs, glass = bodies_of(brief, [rig], conventions), lenses_of([rig.lens], [rig.converter])
    widest = float(opens_to(backs, glass, np.array([s.focal_length_mm]))[0])
    smallest = max(min(rig.lens.smallest_f_number or SMALLEST_SHOWN, LARGEST_F_NUMBER) * rig.converter, widest)
    n = np.array(
        [
            widest,
            *(stop.exact for stop in between(F_NUMBERS, widest, smallest) if widest < stop.exact < smallest),
            smallest,
        ]
    )
    frames, m, body = best.first.frames, best.first.view.magnification, rig.body
    limits = depth.depth_of_field(s.focal_length_mm, n, s.object_distance_m, frames.coc_mm)
    effective = n * (1 + m)
    base = body.base_iso or 100.0
    at_base = 100 / 2.0**brief.light_ev * effective**2 / base
    seconds = np.maximum(np.minimum(float(asked.slowest_s[0]), at_base), body.fastest_shutter_s or 0.0)
    # past its fastest time a body stays at base ISO, behind a neutral density filter
    iso = np.maximum(base * at_base / seconds, base)
    # as many stops below the ISO that is as noisy as one may be
    clean = float(as_clean_iso(backs, cropped(backs.frames, asked.kept_side, conventions), conventions)[0])
    return Curve(n, np.asarray(limits.total_m), np.asarray(light.stops(clean, iso))) if isfinite(clean) else None


def endless(curve: Curve, most_m: float) -> Curve:
    """The same with depth that has no end drawn at one.

    Parameters
        curve: of a rig
        most_m: where depth without end is drawn [m]
    Returns
        the curve, all of its depths finite
    """
    return replace(curve, depth_m=np.where(curve.depth_m == inf, most_m, curve.depth_m))
