"""The settings that a picture asks for of a body and a lens, each with what bound it, and what of the picture they then
miss.

Focus first, then the focal length for the framing, then the slowest time that nothing blurs, the f-number between what
must be sharp and
what must be soft, and last the ISO that is left. One broadcast over rigs. Lengths in mm inside, metres and stops
outside. Source: the
rules a careful photographer follows, one after the other; each is a formula of geometry, depth, blur, stars, steadiness
and light.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import inf
from typing import Generic, TypeVar, overload

import numpy as np

from cambrel.comparison import framing_steps, shortfalls, steps
from cambrel.comparison.bodies import Bodies, bodies_of
from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.figures import each_of
from cambrel.comparison.lenses import Lenses, lenses_of
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.optics.quantities import Array, Words

V = TypeVar("V", float, Array)
W = TypeVar("W", str, Words)

ROUNDING = 1e-9
"""Of stops: what is missed by no more is met."""


@dataclass(frozen=True)
class Asked(Generic[V, W]):
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
    bindings: Mapping[str, W]
    shortfalls_stops: Mapping[str, V]
    status: W
    fails: W
    kept_side: V
    wanted_focal_length_mm: V
    needed_iso: V
    statuses: Mapping[str, W]
    """Of each demand, by the names of FAILS."""
    slowest_s: V
    """The time beyond which something blurs or moves, or the body ends."""
    margin_stops: V
    """Of the demand that is met with the least room, below 0 where one is missed; no more than is worth having, in
    whole sixths.
    """


@dataclass(frozen=True)
class ByHand:
    """Settings that are not to be chosen; None for those that are. One of each rig."""

    focal_length_mm: float | None = None
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None


@overload
def asked(
    brief: Brief,
    body: Body,
    lens: Lens,
    conventions: Conventions,
    *,
    converters: Sequence[float] | None = ...,
    width_m: float | None = ...,
    by_hand: Sequence[ByHand] | None = ...,
    rigs: Sequence[Rig] | None = ...,
) -> Asked[float, str]: ...


@overload
def asked(
    brief: Brief,
    body: Sequence[Body],
    lens: Lens | Sequence[Lens],
    conventions: Conventions,
    *,
    converters: Sequence[float] | None = ...,
    width_m: float | None = ...,
    by_hand: Sequence[ByHand] | None = ...,
    rigs: Sequence[Rig] | None = ...,
) -> Asked[Array, Words]: ...


@overload
def asked(
    brief: Brief,
    body: Body,
    lens: Sequence[Lens],
    conventions: Conventions,
    *,
    converters: Sequence[float] | None = ...,
    width_m: float | None = ...,
    by_hand: Sequence[ByHand] | None = ...,
    rigs: Sequence[Rig] | None = ...,
) -> Asked[Array, Words]: ...


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
) -> Asked[float, str] | Asked[Array, Words]:
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
    made = rigs or [Rig(body, glass) for body, glass in zip(bodies, lenses, strict=True)]
    asked_of_all = asked_of(
        brief, bodies_of(brief, made, conventions), lenses_of(lenses, converters), conventions,
        width_m=width_m, by_hand=by_hand,
    )  # fmt: skip
    if isinstance(body, Body) and isinstance(lens, Lens):
        return one_of(asked_of_all, 0)
    return asked_of_all


def one_of(found: Asked[Array, Words], index: int) -> Asked[float, str]:
    """What one rig is to do, as plain numbers.

    Parameters
        found: the same of several
        index: the place of the one
    Returns
        the same figures as plain numbers and words
    """

    def number(values: Array) -> float:
        return float(values[index])

    def word(values: Words) -> str:
        word: str = values[index]
        return word

    return Asked(
        focal_length_mm=number(found.focal_length_mm),
        focus_distance_m=number(found.focus_distance_m),
        f_number=number(found.f_number),
        shutter_s=number(found.shutter_s),
        iso=number(found.iso),
        bindings={key: word(values) for key, values in found.bindings.items()},
        shortfalls_stops={key: number(values) for key, values in found.shortfalls_stops.items()},
        status=word(found.status),
        fails=word(found.fails),
        kept_side=number(found.kept_side),
        wanted_focal_length_mm=number(found.wanted_focal_length_mm),
        needed_iso=number(found.needed_iso),
        statuses={key: word(values) for key, values in found.statuses.items()},
        slowest_s=number(found.slowest_s),
        margin_stops=number(found.margin_stops),
    )


def asked_of(
    brief: Brief,
    backs: Bodies,
    glass: Lenses,
    conventions: Conventions,
    *,
    width_m: float | None = None,
    by_hand: Sequence[ByHand] | None = None,
) -> Asked[Array, Words]:
    """The same for bodies and lenses as arrays, one of each a rig.

    Parameters
        brief: its distances from the lens
        backs, glass: of each rig its body and its lens, in one order
        conventions: the schools in force
        width_m: to be framed at the subject where the brief says none [m]
        by_hand: what is set already, one for each rig
    Returns
        every figure with the rigs along its axis
    """
    hands = by_hand or [ByHand()] * len(glass)

    def by_hand_each(name: str) -> Array:
        return each_of([getattr(hand, name) for hand in hands], np.nan)

    scene = framing_steps.BriefScene.of(brief)
    framed = framing_steps.framed(
        scene, backs, glass, conventions, width_m, by_hand_each("focal_length_mm") * glass.factor
    )
    limits = steps.limits(scene, conventions, backs, glass, framed)
    opened = steps.opened(
        scene,
        conventions,
        backs,
        glass,
        framed,
        limits,
        by_hand_each("f_number") * glass.factor,
        by_hand_each("shutter_s"),
    )
    focused = steps.refocused(scene, framed, opened)
    exposed = steps.exposed(
        scene, backs, focused, opened.f_number, limits, by_hand_each("shutter_s"), by_hand_each("iso")
    )
    missed = steps.missed(scene, conventions, backs, framed, opened, focused, exposed, limits)
    contrast = shortfalls.contrast(brief, conventions, backs, glass, opened.f_number, exposed.effective, framed.frames)
    missed["sharpness"] = np.log2(shortfalls.HALF / np.maximum(contrast, 1e-9))
    short = {key: np.where(np.isnan(value) | (value < ROUNDING), 0.0, value) for key, value in missed.items()}
    codes = shortfalls.codes(
        short, framed.wanted_mm, framed.focal_mm, contrast, framed.circle_is_known, framed.seen, scene.asks_range,
        framed.image_mm, limits.are_known,
    )  # fmt: skip
    codes["light"] = np.where(np.isnan(missed["light"]), shortfalls.UNKNOWN, codes["light"])
    status, fails = shortfalls.worst(codes, short)
    room = {"room": -2 * np.log2(opened.smallest / np.maximum(focused.range_f_number, 1e-9))}

    def where_seen(values: Array, otherwise: float = np.nan) -> Array:
        return np.where(framed.seen, values, otherwise)

    return Asked(
        focal_length_mm=where_seen(framed.focal_mm),
        focus_distance_m=where_seen(focused.focus_mm / 1000),
        f_number=where_seen(opened.f_number),
        shutter_s=where_seen(exposed.shutter_s),
        iso=where_seen(exposed.iso),
        bindings={
            "focal_length": framed.bound,
            "focus": focused.bound,
            "f_number": opened.bound,
            "shutter": exposed.shutter_bound,
            "iso": exposed.iso_bound,
        },
        shortfalls_stops=short,
        status=status,
        fails=fails,
        kept_side=framed.kept,
        wanted_focal_length_mm=framed.wanted_mm,
        needed_iso=exposed.needed_iso,
        statuses={key: shortfalls.STATUSES[code.astype(int)] for key, code in codes.items()},
        slowest_s=limits.slowest_s,
        margin_stops=where_seen(shortfalls.margin(missed | room, short), -inf),
    )
