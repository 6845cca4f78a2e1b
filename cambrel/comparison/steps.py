"""From a framed picture to settings, one step after the other, each over all rigs at once: limits of the shutter,
f-number, focus, exposure.

Lengths in mm, times in seconds. Steps come in the order in which each needs the ones before.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import inf

import numpy as np

from cambrel.comparison import shortfalls
from cambrel.comparison.bodies import Bodies, opens_to
from cambrel.comparison.brief import Conventions
from cambrel.comparison.figures import Frames
from cambrel.comparison.framing_steps import BriefScene, Framed
from cambrel.comparison.lenses import Lenses
from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER
from cambrel.comparison.schools import held_by, support_of, under_stars
from cambrel.optics import blur, geometry, light
from cambrel.optics.depth import f_number_for_limits
from cambrel.optics.diffraction import diffraction_limited_f_number
from cambrel.optics.quantities import Array, Flags, Words
from cambrel.optics.stars import STAR_SCHOOLS
from cambrel.optics.steadiness import HAND_SCHOOLS

LONGEST_HELD_S = 1.0
"""No hand holds longer, whatever the stabiliser."""
STARS_F_NUMBER = 2.8
"""The f-number at which stars are taken to be photographed, where their seconds depend on it and it on the seconds.
"""


@dataclass(frozen=True)
class Limits:
    """How long the shutter may be open, by what limits it [s]; infinite where that does not bind, or cannot be said.

    slowest_s: the least of all, with a stand-in for a circle that is not known; known_s: of those that are known
    are_known: whether movement and stars can be judged
    """

    by: dict[str, Array]
    known_s: Array
    are_known: Flags

    @property
    def slowest_s(self) -> Array:
        return np.asarray(np.minimum.reduce(list(self.by.values())))

    @property
    def bound(self) -> Words:
        """What limits most."""
        names: Words = np.array(list(self.by), dtype=object)
        most: Words = names[np.argmin(np.stack(list(self.by.values())), axis=0)]
        return most


def limits(scene: BriefScene, conventions: Conventions, backs: Bodies, glass: Lenses, at: Framed) -> Limits:
    """The slowest time that nothing blurs.

    Parameters
        scene: what moves, and how fast
        conventions: the schools of the hand and the stars
        backs, glass: of each rig its body and its lens
        at: its framing
    Returns
        times [s] with the rigs along the axis
    """
    steadied = backs.steadied(glass)
    judged = _limits_s(scene, conventions, backs, steadied, at, at.frames)
    assumed = _limits_s(scene, conventions, backs, steadied, at, replace(at.frames, coc_mm=at.circle_mm))

    def where_known(value: Array) -> Array:
        return np.where(np.isnan(value), inf, value)

    known = [where_known(value) for value in judged.values()]
    unknown = np.isnan(judged["movement"]) | np.isnan(judged["stars"])
    by = {key: where_known(value) for key, value in assumed.items()}
    return Limits(by, np.asarray(np.minimum.reduce(known)), np.asarray(~unknown))


def _limits_s(
    scene: BriefScene, conventions: Conventions, backs: Bodies, steadied: Array, at: Framed, frames: Frames[Array]
) -> dict[str, Array]:
    """Each limit; NaN where what it depends on is not known."""
    brief, f, v = scene.brief, at.focal_mm, at.behind_mm
    slowest = dict.fromkeys(("hands", "movement", "stars", "brief", "body"), np.full_like(f, inf))
    # a film is exposed as its angle says: what moves within a frame may be blurred
    if support_of(brief) != "tripod" and brief.frame_rate is None:
        held = held_by(brief, conventions, frames, f, v, steadied)
        slowest["hands"] = np.minimum(HAND_SCHOOLS[conventions.hand].value(held), LONGEST_HELD_S)
    if brief.subject_speed_m_per_s > 0 and brief.frame_rate is None:
        a_second = blur.movement_mm(brief.subject_speed_m_per_s, 1.0, v, brief.distance_m)
        slowest["movement"] = np.asarray(frames.coc_mm / a_second)
    if brief.declination_deg is not None:
        sky = under_stars(frames, f, np.full_like(f, STARS_F_NUMBER), brief.declination_deg)
        slowest["stars"] = np.asarray(STAR_SCHOOLS[conventions.star_rule].value(sky))
    if brief.slowest_shutter_s is not None:
        slowest["brief"] = np.full_like(f, brief.slowest_shutter_s)
    slowest["body"] = backs.slowest
    return slowest


@dataclass(frozen=True)
class Opened:
    """The f-number, what bound it, the smallest that the lens has, and where diffraction begins to show."""

    f_number: Array
    bound: Words
    smallest: Array
    diffraction_f_number: Array


def opened(
    scene: BriefScene,
    conventions: Conventions,
    backs: Bodies,
    glass: Lenses,
    at: Framed,
    shutter: Limits,
    set_n: Array,
    set_s: Array,
) -> Opened:
    """As far open as the light asks at the slowest time, between what must be sharp and what must be soft.

    Parameters
        scene: the picture's distances
        conventions: the schools in force
        backs, glass: of each rig its body and its lens
        at: its framing
        shutter: its slowest time
        set_n, set_s: f-numbers and times set by hand [s], NaN where they are to be chosen
    Returns
        arrays with the rigs along the axis
    """
    f, m = at.focal_mm, at.behind_mm / at.focal_mm - 1
    wide = opens_to(backs, glass, f)
    smallest = np.maximum(glass.smallest, wide)
    for_range, for_blur = _for_range(scene, at, at.focus_mm), _for_blur(scene, at, at.focus_mm)
    shows = np.asarray(diffraction_limited_f_number(1000 * at.circle_mm, m, conventions.wavelength_nm))
    at_most_s = np.where(np.isnan(set_s), shutter.slowest_s, set_s)
    free = np.asarray(light.effective_f_number_for_light(at_most_s, backs.base, scene.brief.light_ev)) / (1 + m)
    low = np.minimum(np.maximum(wide, for_range), smallest)
    easy = np.maximum(low, shows / 2)
    high = np.maximum(low, np.minimum(np.minimum(smallest, for_blur), easy))
    by_hand = ~np.isnan(set_n)
    fastest = np.where(glass.opens, wide, SMALLEST_POSSIBLE_F_NUMBER)
    n = np.where(by_hand, np.clip(set_n, fastest, smallest), np.clip(free, low, high))
    at_low = np.where(low >= smallest * (1 - 1e-12), "smallest", np.where(for_range > wide, "range", "wide open"))
    is_blur = for_blur <= high * (1 + 1e-12)
    at_high = np.where(high >= smallest * (1 - 1e-12), "smallest", np.where(is_blur, "background", "easy"))
    bound = np.where((free <= low) | (high <= low), at_low, np.where(free >= high, at_high, "light"))
    return Opened(n, np.where(by_hand, "hand set", bound).astype(object), smallest, shows)


def _for_range(scene: BriefScene, at: Framed, focus_mm: Array) -> Array:
    """The smallest f-number at which both ends of what must be sharp are; 0 where nothing is asked."""
    if not scene.has_range:
        return np.zeros_like(at.focal_mm)
    beyond = np.maximum(focus_mm, at.focal_mm * (1 + 1e-9))
    return np.asarray(
        f_number_for_limits(at.focal_mm, beyond / 1000, at.circle_mm, scene.near / 1000, scene.far / 1000)
    )


def _for_blur(scene: BriefScene, at: Framed, focus_mm: Array) -> Array:
    """The largest f-number at which the background is as soft as is asked; without end where nothing is."""
    if scene.soft is None:
        return np.full_like(at.focal_mm, inf)
    beyond, disc = (
        np.maximum(focus_mm, at.focal_mm * (1 + 1e-9)),
        (scene.brief.blur_share or 0.0) * at.frames.diagonal_mm,
    )
    return np.maximum(blur.f_number_for_blur(at.focal_mm, beyond / 1000, scene.soft / 1000, disc), 1e-9)


@dataclass(frozen=True)
class Focused:
    """The focus that is taken, and what bound it; what range and background ask for there."""

    focus_mm: Array
    magnification: Array
    bound: Words
    range_f_number: Array
    blur_f_number: Array


def refocused(scene: BriefScene, at: Framed, opening: Opened) -> Focused:
    """Back towards the subject as far as the f-number lets it, and no nearer than the lens goes.

    Parameters
        scene: the picture's distances
        at: the framing of each
        opening: its f-number
    Returns
        arrays with the rigs along the axis
    """
    u, bound = at.focus_mm, np.full(len(at.focal_mm), "subject", dtype=object)
    if scene.brief.focus_distance_m is not None:
        bound[:] = "hand"
    elif scene.has_range:
        u, bound = _towards_subject(scene, at, opening.f_number)
    at_limit = at.closest_mm > u * (1 - 1e-12)
    u = np.maximum(u, np.where(at.seen, at.closest_mm, 0.0))
    bound = np.where(at_limit & at.seen, "limit", bound)
    m = np.asarray(geometry.image_distance_mm(at.focal_mm, u / 1000)) / at.focal_mm - 1
    return Focused(u, m, bound, _for_range(scene, at, u), _for_blur(scene, at, u))


def _towards_subject(scene: BriefScene, at: Framed, n: Array) -> tuple[Array, Words]:
    """The focus as near to the subject as both limits stay sharp, and the background stays as soft as is asked."""
    f, d = at.focal_mm, scene.subject
    s = n * at.circle_mm / (f * f)
    nearest = (1 + f * s) / s if scene.far == inf else scene.far * (1 + f * s) / (1 + scene.far * s)
    with np.errstate(divide="ignore", invalid="ignore"):
        farthest = np.where(scene.near * s >= 1, inf, scene.near * (1 - f * s) / (1 - scene.near * s))
        if scene.soft is not None:
            blurred = (scene.brief.blur_share or 0.0) * at.frames.diagonal_mm
            behind = 0.0 if scene.soft == inf else f / (n * scene.soft)
            farthest = np.minimum(farthest, (f / n + blurred) / (blurred / f + behind))
    can = nearest <= farthest * (1 + 1e-12)
    moved = np.where(can, np.clip(d, np.minimum(nearest, farthest), farthest), at.focus_mm)
    why = np.where(~can, "between", np.where(moved > d, "far end", np.where(moved < d, "near end", "subject")))
    return moved, why.astype(object)


@dataclass(frozen=True)
class Exposed:
    """Time and ISO, what bound each, the ISO that the light needs, whatever the body has, and the effective
    f-number.
    """

    shutter_s: Array
    iso: Array
    needed_iso: Array
    effective: Array
    shutter_bound: Words
    iso_bound: Words


def exposed(
    scene: BriefScene, backs: Bodies, at: Focused, n: Array, shutter: Limits, set_s: Array, set_iso: Array
) -> Exposed:
    """As slow as nothing blurs and no slower than base ISO asks, then the ISO that is left.

    Parameters
        scene: its light
        backs: of each rig its body
        at: its focus
        n: f-number
        shutter: its slowest time
        set_s, set_iso: times [s] and ISOs set by hand, NaN where they are to be chosen
    Returns
        arrays with the rigs along the axis
    """
    effective, ev = np.asarray(light.effective_f_number(n, at.magnification)), scene.brief.light_ev
    at_base = np.asarray(light.shutter_for_light_s(effective, backs.base, ev))
    chosen = np.maximum(np.minimum(shutter.slowest_s, at_base), backs.fastest)
    t = np.where(np.isnan(set_s), chosen, np.clip(set_s, backs.fastest, backs.slowest))
    needed = np.maximum(backs.base, light.iso_for_light(effective, t, ev))
    chosen_iso = np.minimum(needed, backs.highest)
    iso = np.where(np.isnan(set_iso), chosen_iso, np.clip(set_iso, backs.base, backs.highest))
    t_bound = np.where(
        shutter.slowest_s <= at_base, shutter.bound, np.where(backs.fastest >= at_base, "fastest", "base")
    )
    iso_bound = np.where(needed <= backs.base * (1 + 1e-12), "base", "light")
    return Exposed(
        t,
        iso,
        needed,
        effective,
        np.where(np.isnan(set_s), t_bound, "hand set"),
        np.where(np.isnan(set_iso), iso_bound, "hand set"),
    )


def missed(
    scene: BriefScene,
    conventions: Conventions,
    backs: Bodies,
    at: Framed,
    opening: Opened,
    focus: Focused,
    exposure: Exposed,
    shutter: Limits,
) -> dict[str, Array]:
    """By how many stops each demand is missed, below 0 where there is room.

    Parameters
        scene, conventions: the picture and the schools
        backs: of each rig its body
        at, opening, focus, exposure, shutter: what the steps before have settled
    Returns
        by the names of FAILS [stops], below 0 where there is room
    """
    n, f, u = opening.f_number, at.focal_mm, focus.focus_mm
    disc = np.asarray(blur.blur_disc_mm(f, n, u / 1000, scene.subject / 1000))
    with np.errstate(divide="ignore", invalid="ignore"):
        sharp_range = np.where(focus.range_f_number > 0, 2 * np.log2(focus.range_f_number / n), -inf)
        error = np.log2(
            exposure.iso / light.iso_for_light(exposure.effective, exposure.shutter_s, scene.brief.light_ev)
        )
        return {
            "framing": np.where(at.wanted_mm < f, np.log(f / at.wanted_mm) / shortfalls.STOP_IN_VIEW, 0.0),
            "range": np.full_like(f, inf) if scene.asks_range and not scene.has_range else sharp_range,
            "background": 2 * np.log2(n / focus.blur_f_number),
            "light": np.log2(exposure.needed_iso / shortfalls.as_clean_iso(backs, at.frames, conventions)),
            "focus": 2 * np.log2(disc / at.circle_mm),
            "time": np.log2(exposure.shutter_s / shutter.known_s),
            "diffraction": 2 * np.log2(n / opening.diffraction_f_number),
            "bright": error,
            "dark": -error,
        }
