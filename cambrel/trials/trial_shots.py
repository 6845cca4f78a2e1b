"""A shot to take, and a comparison at the settings that its cameras offer.

A shot is planned at the settings that a camera offers, and its prediction is worked out anew at those. Source: the
comparison's own figures.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from cambrel.comparison.at_best import AS_SET
from cambrel.comparison.bodies import USUAL_BASE_ISO
from cambrel.comparison.engine import Comparison, compare
from cambrel.comparison.marks import marks_of
from cambrel.comparison.rig import Body
from cambrel.optics.stops import ISOS, SHUTTERS, nearest, nearest_within
from cambrel.wording.sentences import Sentence

AS_TAKEN = replace(AS_SET, is_best=False, place="own")
"""Each rig as it is set, where it stands."""


@dataclass(frozen=True)
class TrialShot:
    """One shot to take. rig: its index; place_m, focus_m: from the lens; times: how many of the same.

    focal_length_mm, f_number: as the camera shows them, behind a converter those of both together
    cost_stops: by how much it is brighter than what was computed, as settings come in steps
    predicted: what it should show; key: told apart by, as long as the sheet is the same
    """

    key: str
    trial: str
    rig: int
    focal_length_mm: float
    f_number: float
    shutter_s: float
    iso: float
    place_m: float
    focus_m: float
    cost_stops: float
    predicted: Sentence
    times: int = 1


def lowest_iso(body: Body, iso: float) -> float:
    """The lowest ISO that a shot is planned at: the base on record, else the usual one, or lower where it is set so.

    Parameters
        body: the camera
        iso: as it was computed
    Returns
        an ISO
    """
    return body.base_iso or min(USUAL_BASE_ISO, nearest(iso, ISOS).typed)


def rounded(comparison: Comparison) -> Comparison:
    """The same at the settings that the cameras offer, each rig by itself; what one step loses of the light the ISO
    takes up where it can, and of a rig at its best, below its base ISO, the time.

    Parameters
        comparison: at exact settings
    Returns
        at marks
    """
    rigs = []
    for index in range(len(comparison.rigs)):
        rig, s = comparison.of(index).rig, comparison.of(index).settings
        if not s.focusable:
            rigs.append(rig)
            continue
        carrier, marks, body = comparison.of(index).carrier, marks_of(comparison.of(index)), rig.body
        lens, times, n = carrier.lens, carrier.converter, marks.f_number
        t = min(marks.shutter_s, SHUTTERS[-1].typed)
        base = lowest_iso(body, s.iso)
        light = s.iso * (n * times / s.f_number) ** 2 * s.shutter_s
        iso = nearest_within(light / t, ISOS, base, body.ceiling_iso).typed
        if comparison.hold.is_best and light / t < iso == base:
            # below its base there is no ISO: a shorter time takes up the rest
            t = nearest_within(light / iso, SHUTTERS, body.fastest_shutter_s, t).typed
        rigs.append(
            replace(
                rig, lens=lens, converter=times, focal_length_mm=s.focal_length_mm / times, f_number=n, shutter_s=t,
                iso=iso,
                distance_m=s.subject_distance_m, by_hand="fnti" if comparison.hold.is_best else "",
            )
        )  # fmt: skip
    first = comparison.first.settings
    focus = None if comparison.brief.focus_distance_m is None else first.wanted_object_distance_m
    brief = replace(comparison.brief, distance_from="lens", distance_m=first.subject_distance_m, focus_distance_m=focus)
    if comparison.hold.is_best:
        rigs = [replace(rig, distance_m=None) for rig in rigs]
        return compare(brief, rigs, replace(AS_SET, is_best=True), comparison.conventions, comparison.reference)
    return compare(brief, rigs, AS_TAKEN, comparison.conventions, comparison.reference)
