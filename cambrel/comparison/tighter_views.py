"""Ways for a rig to see as little as the tightest of a comparison: crop, converter, longer lens or walking, and what
each leaves.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import isfinite, log2

from cambrel.comparison.brief import Brief, Hold
from cambrel.comparison.engine import Comparison, Lens, Rig, RigFigures, compare
from cambrel.optics.geometry import focal_length_for_image_distance_mm, walking_distance_m
from cambrel.optics.quantities import DomainError
from cambrel.optics.reach import megapixels_left
from cambrel.wording.sentences import LEVEL_VIEW

AS_SET = Hold("own", "spot", "own", "own")


@dataclass(frozen=True)
class Way:
    """What one way takes, in its own unit, and the picture then.

    key: crop (share of each side kept), converter (its factor), lens (focal length [mm]) or walk (distance [m])
    light_stops: in the whole picture, against the picture as it is
    is_barred: whether the photographer cannot stand there
    """

    key: str
    takes: float
    finest_detail_mm: float
    megapixels: float
    light_stops: float
    is_barred: bool = False


def tightest(comparison: Comparison) -> RigFigures | None:
    """The rig that sees least of those that see anything.

    Parameters
        comparison: worked out
    Returns
        None where no rig sees anything
    """
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    return min((rig for rig in rigs if rig.settings.focusable), key=lambda rig: rig.field, default=None)


def ways(comparison: Comparison, rig: RigFigures) -> tuple[Way, ...]:
    """Every way for a rig to see as little as the tightest.

    Parameters
        comparison: worked out
        rig: one of it
    Returns
        in the order in which they are shown; none for the tightest itself, or one that sees nothing
    """
    goal = tightest(comparison)
    if goal is None or not rig.settings.focusable:
        return ()
    times = rig.field / goal.field
    if times <= 1 + LEVEL_VIEW:
        return ()
    brief, now = as_it_stands(comparison, rig)
    d, offset = brief.distance_m, brief.focus_offset_m
    there = walking_distance_m(rig.settings.focal_length_mm, times * rig.view.image_distance_mm / d, offset)
    nearer = replace(
        brief, distance_m=there, focus_distance_m=None if brief.focus_distance_m is None else there + offset
    )
    # as far as it is focused the field depends on the image distance
    focal = float(
        focal_length_for_image_distance_mm(times * rig.view.image_distance_mm, rig.settings.object_distance_m)
    )
    longer = focal / rig.settings.focal_length_mm
    lens = Rig(
        now.body,
        Lens(),
        focal,
        rig.settings.f_number,
        now.shutter_s,
        now.iso,
        mode=now.mode,
    )
    ways_there = [_cropped(rig, goal)]
    for key, takes, at, by in (
        ("converter", longer, brief, replace(now, converter=now.converter * longer)),
        ("lens", lens.focal_length_mm, brief, lens),
        ("walk", there, nearer, now),
    ):
        try:
            then = compare(at, [by], AS_SET, comparison.conventions).first
        except DomainError:
            continue
        light = then.light.total_stops + log2(then.light.photons_total / rig.light.photons_total)
        is_barred = key == "walk" and there < (brief.nearest_m or 0.0)
        ways_there.append(Way(key, takes, then.sharpness.finest_detail_mm, then.frames.pixels, light, is_barred))
    return tuple(ways_there)


def fields_of(rig: RigFigures) -> tuple[float, float]:
    """Both sides of what a rig shows at the subject [m].

    Parameters
        rig: worked out
    Returns
        width and height [m]
    """
    return rig.view.field_wide_m, rig.view.field_high_m


def _cropped(rig: RigFigures, goal: RigFigures) -> Way:
    kept = float(megapixels_left(1.0, *fields_of(rig), *fields_of(goal)))
    pixels = rig.frames.pixels * kept if isfinite(rig.frames.pixels) else float("nan")
    return Way("crop", kept**0.5, rig.sharpness.finest_detail_mm, pixels, log2(kept))


def as_it_stands(comparison: Comparison, rig: RigFigures) -> tuple[Brief, Rig]:
    """A rig with all that a hold has given it as its own settings, and the picture from where it stands.

    Parameters
        comparison: worked out under any hold
        rig: one of it
    Returns
        the picture from where it stands, and the rig with its settings
    """
    s, carrier = rig.settings, rig.carrier
    brief = replace(
        comparison.brief,
        distance_m=s.subject_distance_m,
        distance_from="lens",
        focus_distance_m=None if s.object_distance_m == s.subject_distance_m else s.object_distance_m,
    )
    now = Rig(
        rig.rig.body,
        carrier.lens,
        s.focal_length_mm / carrier.converter,
        s.f_number / carrier.converter,
        s.shutter_s,
        s.iso,
        converter=carrier.converter,
        converter_weight_g=carrier.converter_weight_g,
        mode=rig.rig.mode,
    )
    return brief, now
