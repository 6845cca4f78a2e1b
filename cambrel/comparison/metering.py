"""Setting the reference for the light of the picture."""

from __future__ import annotations

from dataclasses import replace
from math import inf, log2

from cambrel.comparison.engine import Comparison
from cambrel.comparison.rig import Rig
from cambrel.optics.stops import ISOS, SHUTTERS, nearest_within
from cambrel.wording.sentences import LEVEL_STOPS


def metered(comparison: Comparison) -> Rig:
    """The reference rig, set so that mid-grey comes out right: by the variable that the hold lets follow, the other one
    taking the rest.

    Parameters
        comparison: as it stands
    Returns
        the rig with another ISO, another shutter time or both, as far as its body has them; at the nearest camera
        settings where these
        are right to within what is worth saying
    """
    figures = comparison.first
    rig, body = figures.rig, figures.rig.body
    low_iso, high_iso = body.base_iso or 0.0, body.ceiling_iso or inf
    low_t, high_t = body.fastest_shutter_s or 0.0, rig.slowest_shutter_s or inf
    iso, shutter = min(max(rig.iso, low_iso), high_iso), min(max(rig.shutter_s, low_t), high_t)
    # the brightness of the reference is that of its as-set values, also where it is opened wide
    wanted = iso * shutter / 2**figures.light.error_stops
    if comparison.hold.of_exposure.follows == "shutter_s":
        shutter = min(max(wanted / iso, low_t), high_t)
        iso = min(max(wanted / shutter, low_iso), high_iso)
    else:
        iso = min(max(wanted / shutter, low_iso), high_iso)
        shutter = min(max(wanted / iso, low_t), high_t)
    marked_iso = iso if iso == rig.iso else nearest_within(iso, ISOS, body.base_iso, body.ceiling_iso).typed
    marked_t = shutter
    if shutter != rig.shutter_s:
        marked_t = nearest_within(shutter, SHUTTERS, body.fastest_shutter_s, rig.slowest_shutter_s).typed
    if abs(log2(marked_iso * marked_t / wanted)) <= LEVEL_STOPS:
        iso, shutter = marked_iso, marked_t
    return replace(rig, iso=iso, shutter_s=shutter)
