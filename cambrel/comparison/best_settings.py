"""The settings that a picture asks for of a body and a lens, each with what bound it, and what of the picture they then miss.

Focus first, then the focal length for the framing, then the slowest time that nothing blurs, the f-number between what must be sharp and
what must be soft, and last the ISO that is left. One broadcast over rigs. Lengths in mm inside, metres and stops outside. Source: the
rules a careful photographer goes by, one after the other; each is a formula of geometry, depth, blur, stars, steadiness and light.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import inf
from typing import Any, Generic, TypeVar

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison import shortfalls
from cambrel.comparison.blur_budget import HAND_FACTORS
from cambrel.comparison.bodies import Backs, backs_of, opens_to
from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.figures import Array, Frames, each_of
from cambrel.comparison.lenses import Glass, glass_of
from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER, Body, Lens, Rig
from cambrel.optics import blur, geometry, stars, steadiness
from cambrel.optics.diffraction import diffraction_limited_f_number
from cambrel.wording.sentences import LEVEL_VIEW

V = TypeVar("V", float, Array)
LONGEST_HELD_S = 1.0
"""No hand holds longer, whatever the stabiliser."""


@dataclass(frozen=True)
class Asked(Generic[V]):
    """What a picture asks of a rig.

    bindings: what bound each setting, by its name: focal_length, focus, f_number, shutter, iso
    shortfalls_stops: by the names of FAILS, by how much each is missed; 0 where it is not
    status, fails: how far the picture is made, and what decides that ("" where nothing does)
    kept_side: share of each side of the frame that is used; less than all where the lens ends before the framing
    wanted_focal_length_mm: for the framing, whatever the lens has; needed_iso: for the light, whatever the body has
    """

    focal_length_mm: V
    focus_distance_m: V
    f_number: V
    shutter_s: V
    iso: V
    bindings: Mapping[str, Any]
    shortfalls_stops: Mapping[str, V]
    status: Any
    fails: Any
    kept_side: V
    wanted_focal_length_mm: V
    needed_iso: V
    statuses: Mapping[str, Any]
    """Of each demand, by the names of FAILS."""
    slowest_s: V
    """The time beyond which something blurs or moves, or the body ends."""
    margin_stops: V
    """Of the demand that is met with the least room, below 0 where one is missed; no more than is worth having, in whole sixths."""


@dataclass(frozen=True)
class ByHand:
    """Settings that are not to be chosen; None for those that are. One of each rig."""

    focal_length_mm: float | None = None
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None


def asked(
    brief: Brief,
    body: Body | Sequence[Body],
    lens: Lens | Sequence[Lens],
    conventions: Conventions,
    *,
    converters: Sequence[float] | None = None,
    width_m: float | None = None,
    by_hand: Sequence[ByHand] | None = None,
    rigs: Sequence[Rig] | None = None,
) -> Asked[Any]:
    """The settings a picture asks for.

    Parameters
        brief: its distances from the lens
        body, lens: one of each, or as many of one as of the other
        conventions: the schools in force
        converters: between them, 1 for none
        width_m: to be framed at the subject where the brief says none, as a reference sees it
        by_hand: what is set already
        rigs: in place of body and lens, for what a mode of a body records
    Returns
        Asked, of plain numbers for one body and one lens, else of arrays
    """
    bodies = [body] if isinstance(body, Body) else list(body)
    lenses = [lens] if isinstance(lens, Lens) else list(lens)
    count = max(len(bodies), len(lenses))
    bodies = bodies * count if len(bodies) == 1 else bodies
    lenses = lenses * count if len(lenses) == 1 else lenses
    made = rigs or [Rig(one, glass) for one, glass in zip(bodies, lenses, strict=True)]
    found = asked_of(
        brief, backs_of(brief, made, conventions), glass_of(lenses, converters), conventions,
        width_m=width_m, by_hand=by_hand,
    )  # fmt: skip
    if isinstance(body, Body) and isinstance(lens, Lens):
        return one_of(found, 0)
    return found


def one_of(found: Asked[Array], index: int) -> Asked[float]:
    """What is asked of one rig, as plain numbers."""

    def first(value: Any) -> Any:
        one = value[index]
        return float(one) if isinstance(one, np.floating) else one

    return Asked(
        focal_length_mm=first(found.focal_length_mm),
        focus_distance_m=first(found.focus_distance_m),
        f_number=first(found.f_number),
        shutter_s=first(found.shutter_s),
        iso=first(found.iso),
        bindings={key: str(first(value)) for key, value in found.bindings.items()},
        shortfalls_stops={key: first(value) for key, value in found.shortfalls_stops.items()},
        status=first(found.status),
        fails=str(first(found.fails)),
        kept_side=first(found.kept_side),
        wanted_focal_length_mm=first(found.wanted_focal_length_mm),
        needed_iso=first(found.needed_iso),
        statuses={key: first(value) for key, value in found.statuses.items()},
        slowest_s=first(found.slowest_s),
        margin_stops=first(found.margin_stops),
    )


def asked_of(
    brief: Brief,
    backs: Backs,
    glass: Glass,
    conventions: Conventions,
    *,
    width_m: float | None = None,
    by_hand: Sequence[ByHand] | None = None,
) -> Asked[Array]:
    """The same for bodies and lenses as arrays, one of each a rig."""
    hands, frames, factors = by_hand or [ByHand()] * len(glass), backs.frames, glass.factor
    d = 1000 * brief.distance_m
    asks_range = brief.sharp_front_m is not None or brief.sharp_behind_m is not None
    a, b = d - 1000 * (brief.sharp_front_m or 0.0), d + 1000 * (brief.sharp_behind_m or 0.0)
    # 1. focus: between the limits in dioptres, so that both ends are as soft
    middle = d if not asks_range or a <= 0 else 2 * a if b == inf else 2 * a * b / (a + b)
    wanted_focus = middle if brief.focus_distance_m is None else 1000 * brief.focus_distance_m
    # 2. focal length for the framing at that focus; how near the lens goes depends on it, so it is settled in a few steps
    low, high = glass.low_mm, glass.high_mm
    set_f = each_of([one.focal_length_mm for one in hands], np.nan) * factors
    u = np.full(len(glass), float(wanted_focus))
    for _ in range(6):
        image = _image_mm(brief, frames, width_m)
        with np.errstate(invalid="ignore"):
            wanted_f = np.where(np.isinf(u), image, image / (1 + image / u))
        wanted_f = np.where(np.isnan(set_f), wanted_f, set_f)
        f = np.clip(wanted_f, low, high)
        limit = glass.closest_mm(f)
        u = np.maximum(wanted_focus, limit)
    # what no thin lens of this length focuses on has no figures
    seen = (u > f * (1 + 1e-9)) & (d > 0) & ~np.isnan(f)
    u, f = np.where(seen, u, 4.0 * np.where(np.isnan(f), 1.0, f)), np.where(np.isnan(f), 1.0, f)
    v = np.asarray(geometry.image_distance_mm(f, u / 1000))
    with np.errstate(invalid="ignore"):
        kept = np.where(np.isnan(set_f) & (wanted_f > f * (1 + 1e-12)), np.minimum(1.0, v / image), 1.0)
    kept = np.where(np.isnan(kept), 1.0, kept)
    frames = cropped(frames, kept, conventions)
    c = frames.coc_mm
    known = ~np.isnan(c)
    safe_c = np.where(known, c, frames.diagonal_mm / 1500)
    # 3. the slowest time that nothing blurs
    limits = _slowest(brief, conventions, backs.steadied(glass), backs.slowest, f, v, frames, safe_c, d)
    t_max = np.minimum.reduce(list(limits.values()))
    # 4. the f-number
    m = v / f - 1
    set_n = each_of([one.f_number for one in hands], np.nan) * factors
    wide = opens_to(backs, glass, f)
    small = np.maximum(glass.smallest, wide)
    ends = (a, b) if asks_range and a > 0 else None
    there = d + 1000 * brief.background_m if brief.blur_share is not None and brief.background_m is not None else None
    wanted_disc = (brief.blur_share or 0.0) * frames.diagonal_mm
    n_range, n_blur = _n_range(ends, f, u, safe_c), _n_blur(there, f, u, wanted_disc)
    n_diff = np.asarray(diffraction_limited_f_number(1000 * safe_c, m, conventions.wavelength_nm))
    base = backs.base
    per = 100 / 2.0**brief.light_ev
    set_t = each_of([one.shutter_s for one in hands], np.nan)
    at_most = np.where(np.isnan(set_t), t_max, set_t)
    n_free = np.sqrt(base * at_most / per) / (1 + m)
    lo = np.minimum(np.maximum(wide, n_range), small)
    easy = np.maximum(lo, n_diff / 2)
    hi = np.maximum(lo, np.minimum(np.minimum(small, n_blur), easy))
    n = np.where(
        np.isnan(set_n),
        np.clip(n_free, lo, hi),
        np.clip(set_n, np.where(glass.opens, wide, SMALLEST_POSSIBLE_F_NUMBER), small),
    )
    n_bound = _why_n(n, set_n, n_free, lo, hi, wide, n_range, small, n_blur)
    # 5. back towards the subject as far as that f-number lets it
    focus_bound = np.full(len(glass), "subject", dtype=object)
    if brief.focus_distance_m is not None:
        focus_bound[:] = "hand"
    elif asks_range and a > 0:
        u, focus_bound = _refocused(brief, u, d, a, b, n, safe_c, f, frames)
    at_limit = limit > u * (1 - 1e-12)
    u = np.maximum(u, np.where(seen, limit, 0.0))
    focus_bound = np.where(at_limit & seen, "limit", focus_bound)
    v = np.asarray(geometry.image_distance_mm(f, u / 1000))
    m = v / f - 1
    # what range and blur ask for at the focus that was found
    n_range, n_blur = _n_range(ends, f, u, safe_c), _n_blur(there, f, u, wanted_disc)
    # 6. and 7. time and ISO
    fastest, slowest = backs.fastest, backs.slowest
    effective = n * (1 + m)
    at_base = per * effective**2 / base
    t = np.where(np.isnan(set_t), np.maximum(np.minimum(t_max, at_base), fastest), np.clip(set_t, fastest, slowest))
    highest = backs.highest
    set_iso = each_of([one.iso for one in hands], np.nan)
    needed = np.maximum(base, per * effective**2 / t)
    iso = np.where(np.isnan(set_iso), np.minimum(needed, highest), np.clip(set_iso, base, highest))
    names = np.array(list(limits), dtype=object)
    binding = names[np.argmin(np.stack(list(limits.values())), axis=0)]
    t_bound = np.where(t_max <= at_base, binding, np.where(fastest >= at_base, "fastest", "base"))
    t_bound = np.where(np.isnan(set_t), t_bound, "hand set")
    iso_bound = np.where(np.isnan(set_iso), np.where(needed <= base * (1 + 1e-12), "base", "light"), "hand set")
    f_bound = np.where(wanted_f < f * (1 - 1e-12), "short end", np.where(kept < 1 - LEVEL_VIEW, "crop", "framing"))
    f_bound = np.where(np.isnan(set_f), f_bound, "hand set")
    # what is missed
    disc = np.asarray(blur.blur_disc_mm(f, n, u / 1000, d / 1000))
    timed, known_max = _known_limits(limits, brief, conventions, frames)
    with np.errstate(divide="ignore", invalid="ignore"):
        missed = {
            "framing": np.where(wanted_f < f, np.log(f / wanted_f) / shortfalls.STOP_IN_VIEW, 0.0),
            "range": np.where(n_range > 0, 2 * np.log2(n_range / n), -inf)
            if a > 0 or not asks_range
            else np.full_like(f, inf),
            "background": 2 * np.log2(n / n_blur),
            "light": np.log2(needed / shortfalls.as_clean_iso(backs, frames, conventions)),
            "focus": 2 * np.log2(disc / safe_c),
            "time": np.log2(t / known_max),
            "diffraction": 2 * np.log2(n / n_diff),
            "bright": np.log2(iso * t / (per * effective**2)),
            "dark": np.log2(per * effective**2 / (iso * t)),
        }
    contrast = shortfalls.contrast(brief, conventions, backs, glass, n, effective, frames)
    missed["sharpness"] = np.log2(shortfalls.HALF / np.maximum(contrast, 1e-9))
    short = {key: np.where(np.isnan(value) | (value < 0), 0.0, value) for key, value in missed.items()}
    codes = shortfalls.codes(short, wanted_f, f, contrast, known, seen, asks_range, image, timed)
    codes["light"] = np.where(np.isnan(missed["light"]), shortfalls.UNKNOWN, codes["light"])
    status, fails = shortfalls.worst(codes, short)
    return Asked(
        np.where(seen, f, np.nan), np.where(seen, u / 1000, np.nan), np.where(seen, n, np.nan), np.where(seen, t, np.nan),
        np.where(seen, iso, np.nan),
        {"focal_length": f_bound, "focus": focus_bound, "f_number": n_bound, "shutter": t_bound, "iso": iso_bound},
        short, status, fails, kept, wanted_f, needed, {key: shortfalls.STATUSES[code.astype(int)] for key, code in codes.items()},
        t_max,
        np.where(seen, shortfalls.margin(missed | {"room": -2 * np.log2(small / np.maximum(n_range, 1e-9))}, short), -inf),
    )  # fmt: skip


def _n_range(ends: tuple[float, float] | None, f: Array, u: Array, c: Array) -> Array:
    """The smallest f-number at which both ends [mm] of what must be sharp are; 0 where nothing is asked."""
    if ends is None:
        return np.zeros_like(f)
    a, b = ends
    with np.errstate(invalid="ignore"):
        held = np.maximum(u / a - 1, 1 - u / b) * f * f / (c * np.where(u > f, u - f, 1.0))
    # focused at infinity only what is near matters
    return np.where(np.isinf(u), f * f / (c * a), held)


def _n_blur(there: float | None, f: Array, u: Array, disc: Array) -> Array:
    """The largest f-number at which the background, so far away [mm], is in discs of a size [mm]; without end where nothing is asked."""
    if there is None:
        return np.full_like(f, inf)
    return np.maximum(f * np.abs(1 / u - 1 / there) / (1 / f - 1 / u) / disc, 1e-9)


def _image_mm(brief: Brief, frames: Frames[Array], width_m: float | None) -> Array:
    """The image distance that frames what is asked for; unknown where nothing is."""
    if brief.framing_deg is not None:
        return np.asarray(frames.width_mm / (2 * np.tan(np.deg2rad(brief.framing_deg) / 2)))
    width = brief.width_shown_m if brief.width_shown_m is not None else width_m
    if width is None:
        return np.full_like(frames.width_mm, np.nan)
    return np.asarray(frames.width_mm * brief.distance_m / width)


def cropped(frames: Frames[Array], kept: Array, conventions: Conventions) -> Frames[Array]:
    """Frames of which only a share of each side is used: all that goes by the frame goes by what is left of it."""
    coc = frames.coc_mm if conventions.criterion == "two_pixels" else frames.coc_mm * kept
    return Frames(
        width_mm=frames.width_mm * kept,
        height_mm=frames.height_mm * kept,
        diagonal_mm=frames.diagonal_mm * kept,
        area_mm2=frames.area_mm2 * kept**2,
        crop=frames.crop / kept,
        home_crop=frames.home_crop,
        k=frames.k * kept,
        pixels=frames.pixels * kept**2,
        pitch_um=frames.pitch_um,
        coc_mm=coc,
    )


def _known_limits(
    limits: dict[str, Array], brief: Brief, conventions: Conventions, frames: Frames[Array]
) -> tuple[NDArray[np.bool_], Array]:
    """Whether movement and stars can be judged, and the least of the limits that are known: some go by what counts as sharp, or by pixels."""
    no_circle, no_pitch = np.isnan(frames.coc_mm), np.isnan(frames.pitch_um)
    nowhere = np.zeros_like(no_circle)
    of_stars = {"exact": no_circle, "aperture_pixel": no_pitch}.get(conventions.star_rule, nowhere)
    unknown = {
        "hands": no_circle if conventions.hand == "typed" and (brief.support or "hand") != "tripod" else nowhere,
        "movement": no_circle if brief.subject_speed_m_per_s > 0 else nowhere,
        "stars": nowhere if brief.declination_deg is None else of_stars,
    }
    known = [np.where(unknown.get(key, nowhere), inf, limit) for key, limit in limits.items()]
    timed = ~(unknown["movement"] | unknown["stars"])
    return np.asarray(timed), np.asarray(np.minimum.reduce(known))


def _slowest(
    brief: Brief,
    conventions: Conventions,
    steadied: Array,
    slowest: Array,
    f: Array,
    v: Array,
    frames: Frames[Array],
    c: Array,
    d: float,
) -> dict[str, Array]:
    """Each limit of the shutter [s]; without end where it does not bind."""
    endless = np.full_like(f, inf)
    limits = dict.fromkeys(("hands", "movement", "stars", "brief", "body"), endless)
    support = brief.support or "hand"
    if support != "tripod":
        given = steadied + (steadiness.MONOPOD_STOPS if support == "monopod" else 0.0)
        if conventions.hand == "typed":
            held = steadiness.seconds_for_shake(v, conventions.shake_arc_s, c, given)
        else:
            held = steadiness.handheld_seconds(f, frames.crop, given, HAND_FACTORS[conventions.hand])
        limits["hands"] = np.minimum(held, LONGEST_HELD_S)
    if brief.subject_speed_m_per_s > 0:
        limits["movement"] = c / (1000 * brief.subject_speed_m_per_s * v / d)
    if brief.declination_deg is not None:
        limits["stars"] = _as_points_s(brief.declination_deg, conventions, f, frames, c)
    if brief.slowest_shutter_s is not None:
        limits["brief"] = np.full_like(f, brief.slowest_shutter_s)
    limits["body"] = slowest
    return limits


def _as_points_s(declination: float, conventions: Conventions, f: Array, frames: Frames[Array], c: Array) -> Array:
    """How long stars stay points by the school in force; by aperture and pixel it is taken at f/2.8, as the f-number follows from the time."""
    school = conventions.star_rule
    if school == "aperture_pixel":
        pitch = np.where(np.isnan(frames.pitch_um), inf, frames.pitch_um)
        return np.asarray((35 * 2.8 + 30 * pitch) / f)
    if school != "exact":
        return np.asarray(stars.rule_seconds(f, frames.crop, float(school.removeprefix("rule_"))))
    a_second = stars.worst_drift_mm(f, declination, 1.0, frames.width_mm, frames.height_mm)
    return np.asarray(c / a_second)


def _why_n(
    n: Array, set_n: Array, free: Array, lo: Array, hi: Array, wide: Array, n_range: Array, small: Array, n_blur: Array
) -> NDArray[Any]:
    """What bound the f-number."""
    at_low = np.where(lo >= small * (1 - 1e-12), "smallest", np.where(n_range > wide, "range", "wide open"))
    at_high = np.where(
        hi >= small * (1 - 1e-12), "smallest", np.where(n_blur <= hi * (1 + 1e-12), "background", "easy")
    )
    bound = np.where((free <= lo) | (hi <= lo), at_low, np.where(free >= hi, at_high, "light"))
    return np.where(np.isnan(set_n), bound, "hand set").astype(object)


def _refocused(
    brief: Brief, u: Array, d: float, a: float, b: float, n: Array, c: Array, f: Array, frames: Frames[Array]
) -> tuple[Array, NDArray[Any]]:
    """The focus as near to the subject as both limits stay sharp, and the background stays as soft as is asked."""
    s = n * c / (f * f)
    nearest = (1 + f * s) / s if b == inf else b * (1 + f * s) / (1 + b * s)
    with np.errstate(divide="ignore", invalid="ignore"):
        farthest = np.where(a * s >= 1, inf, a * (1 - f * s) / (1 - a * s))
        if brief.blur_share is not None and brief.background_m is not None:
            blurred, there = brief.blur_share * frames.diagonal_mm, d + 1000 * brief.background_m
            behind = 0.0 if there == inf else f / (n * there)
            farthest = np.minimum(farthest, (f / n + blurred) / (blurred / f + behind))
    can = nearest <= farthest * (1 + 1e-12)
    moved = np.where(can, np.clip(d, np.minimum(nearest, farthest), farthest), u)
    why = np.where(~can, "between", np.where(moved > d, "far end", np.where(moved < d, "near end", "subject")))
    return moved, why.astype(object)
