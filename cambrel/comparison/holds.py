"""Applying a hold: the settings that each rig really takes, in the order lens, place, aperture, exposure. Millimetres,
metres, seconds.

What a rig cannot reach is clamped to what it can do; the value wanted is kept beside the one reached. Lens and place
are solved rig by rig; aperture and exposure as arrays of shape (rigs,) or, along an aperture walk, (stops, rigs).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from cambrel.comparison.brief import Brief, Hold
from cambrel.comparison.figures import Settings
from cambrel.comparison.hold_answers import SAME, ApertureGiven
from cambrel.comparison.rig import LARGEST_F_NUMBER, Lens, Rig
from cambrel.optics.geometry import (
    focal_length_for_image_distance_mm,
    image_distance_mm,
    object_distance_from_focus_distance_m,
    walking_distance_m,
)
from cambrel.optics.quantities import Array, DomainError, Flags


@dataclass(frozen=True)
class Standing:
    """Lens and place of one rig: what was wanted and what was reached.

    close_limit_m is None where unknown. A rig that is not focusable has no image at this distance and no figures.
    """

    lens: Lens
    converter: float
    focal_length_mm: float
    wanted_focal_length_mm: float
    subject_distance_m: float
    wanted_distance_m: float
    object_distance_m: float
    wanted_object_distance_m: float
    close_limit_m: float | None
    focusable: bool = True
    converter_weight_g: float | None = 0.0


def differs(reached: Array, wanted: Array) -> Flags:
    """Where a value wanted was not reached.

    Parameters
        reached, wanted: in one unit
    Returns
        True where they differ by more than rounding
    """
    with np.errstate(invalid="ignore"):
        flags: Flags = np.asarray(np.abs(reached - wanted) > SAME * np.abs(reached))
    return flags


def converted_close_limit_m(lens: Lens, focal_length_mm: float, converter: float) -> float | None:
    """Closest object distance with a converter, which multiplies the largest magnification: u + (t - 1) f of the lens
    alone.

    Parameters
        lens: without the converter
        focal_length_mm: with it [mm]
        converter: its factor, 1 for none
    Returns
        from the lens [m]; None where the lens does not say
    """
    own = focal_length_mm / converter
    closest = lens.closest_m(own)
    return None if closest is None else closest + (focal_length_mm - own) / 1000


def stand(brief: Brief, rigs: Sequence[Rig], hold: Hold, crop: Sequence[float], reference: int) -> list[Standing]:
    """Solve lens and place for every rig.

    Parameters
        brief, rigs, hold: the comparison
        crop: crop factor of each rig's frame by the measure in force
        reference: index of the reference rig
    Returns
        one Standing per rig
    Raises
        DomainError where the reference itself has no image of the subject
    """
    donor = rigs[hold.donor(reference)]
    first = _reference_standing(brief, rigs[reference], donor if hold.of_lens.is_shared else rigs[reference])
    offset = first.wanted_object_distance_m - first.subject_distance_m
    first_image = float(image_distance_mm(first.focal_length_mm, first.object_distance_m))
    standings = []
    room: tuple[float | None, float | None]
    for index, rig in enumerate(rigs):
        if index == reference:
            standings.append(first)
            continue
        k = crop[reference] / crop[index]
        carrier = donor if hold.of_lens.is_shared else rig
        stands_alone = hold.of_place.is_own and rig.distance_m is not None

        def distance_with(f: float, rig: Rig = rig, stands_alone: bool = stands_alone) -> float | None:
            """Where the rig is at a focal length: at its own distance, else where the reference stands."""
            if stands_alone and rig.distance_m is not None:
                return _from_lens(rig.distance_m, f, brief.distance_from)
            return first.subject_distance_m

        if hold.of_lens.is_shared:
            wanted = first.focal_length_mm
        elif hold.of_lens.keeps_view:
            rough = rig.distance_m if stands_alone and rig.distance_m is not None else first.subject_distance_m
            wanted = _focal_length_for_view_mm(carrier, k * first_image, rough, distance_with, offset)
        else:
            wanted = rig.focal_length_mm * rig.converter
        f = _within_range(carrier, wanted)
        distance, room = distance_with(f), (None, None)
        if hold.of_place.walks and not (hold.of_lens.keeps_view and f == wanted):
            # the subject fills the same part of the frame: v / d scales with the frame
            distance = walking_distance_m(f, k * first_image / first.subject_distance_m, offset)
            room = (brief.nearest_m, brief.farthest_m)
        standings.append(_placed(carrier, f, wanted, distance, offset, walks=hold.of_place.walks, room=room))
    return standings


MOST_STEPS = 500


def _focal_length_for_view_mm(
    carrier: Rig, image_mm: float, rough_m: float, distance_with: Callable[[float], float | None], offset_m: float
) -> float:
    """Focal length whose image distance is the wanted one at the focus that the rig really takes: the same angle of
    view.

    At one shared focus this is the same picture exactly, f = 1 / (1/u + 1/v). Where the focus depends on the focal
    length (a close limit, a distance from the sensor mark) it is the fixed point of that rule, which contracts by m /
    (1 + m) a step. rough_m: about where it stands.
    """

    def settled(f: float, *, limited: bool) -> float:
        for _ in range(MOST_STEPS):
            distance = distance_with(f)
            if distance is None:
                return f
            focus = distance + offset_m
            if limited:
                focus = max(focus, _limit_m(carrier, f))
            if not focus > 0:
                return image_mm
            focal_mm = float(focal_length_for_image_distance_mm(image_mm, focus))
            if abs(focal_mm - f) <= 1e-15 * f:
                return focal_mm
            f = focal_mm
        return f

    # without the limit first: where the lens focuses there, that is the answer
    f = settled(float(focal_length_for_image_distance_mm(image_mm, rough_m)), limited=False)
    distance = distance_with(f)
    if distance is None or distance + offset_m >= _limit_m(carrier, f):
        return f
    return settled(f, limited=True)


def _limit_m(carrier: Rig, focal_length_mm: float) -> float:
    return converted_close_limit_m(carrier.lens, focal_length_mm, carrier.converter) or 0.0


def _reference_standing(brief: Brief, rig: Rig, carrier: Rig) -> Standing:
    wanted = rig.focal_length_mm * carrier.converter
    f = _within_range(carrier, wanted)
    subject = _from_lens(brief.distance_m, f, brief.distance_from, "distance_m")
    focus = brief.focus_distance_m
    focused = subject if focus is None else _from_lens(focus, f, brief.distance_from, "focus_distance_m")
    assert subject is not None and focused is not None
    standing = _placed(carrier, f, wanted, subject, focused - subject, walks=False)
    if not standing.focusable:
        name, value = ("distance_m", brief.distance_m) if focus is None else ("focus_distance_m", focus)
        raise DomainError(name, f"beyond the reference's focal length of {f:g} mm", value)
    return standing


def _within_range(carrier: Rig, focal_length_mm: float) -> float:
    """Focal length clamped to the range of the lens with its converter."""
    if carrier.lens.focal_min_mm is None or carrier.lens.focal_max_mm is None:
        return focal_length_mm
    low, high = carrier.lens.focal_min_mm * carrier.converter, carrier.lens.focal_max_mm * carrier.converter
    # a solved value within rounding of the end of the range is the end
    if abs(focal_length_mm - low) <= SAME * low:
        return low
    if abs(focal_length_mm - high) <= SAME * high:
        return high
    return min(max(focal_length_mm, low), high)


def _from_lens(
    distance_m: float, focal_length_mm: float, measured_from: str, parameter: str | None = None
) -> float | None:
    """A distance as typed, from the lens; from the sensor mark there may be no solution: an error for the reference,
    else None.
    """
    if measured_from == "lens":
        return distance_m
    try:
        return float(object_distance_from_focus_distance_m(distance_m, focal_length_mm))
    except DomainError as error:
        if parameter is None:
            return None
        raise DomainError(
            parameter,
            f"at least four focal lengths ({4 * focal_length_mm:g} mm) from the sensor mark, because a "
            f"thin lens of {focal_length_mm:g} mm focuses no closer. For a real close-up lens measure "
            f"from the lens instead",
            distance_m,
        ) from error


def _placed(
    carrier: Rig,
    f: float,
    wanted_f: float,
    distance: float | None,
    offset: float,
    *,
    walks: bool,
    room: tuple[float | None, float | None] = (None, None),
) -> Standing:
    """Focus at the subject or as near as the lens goes: at a fixed spot the rig stays, when walking it stops there.

    What would be focused on behind the camera cannot be focused on. room: between which the photographer can stand;
    walking stops there.
    """
    limit = converted_close_limit_m(carrier.lens, f, carrier.converter)
    nowhere = float("nan")
    if distance is None:
        return Standing(
            carrier.lens, carrier.converter, f, wanted_f, nowhere, nowhere, nowhere, nowhere, limit, False,
            carrier.converter_weight_g,
        )  # fmt: skip
    wanted_focus = distance + offset
    nearest, farthest = room
    stood = max(distance, nearest or 0.0) if farthest is None else min(max(distance, nearest or 0.0), farthest)
    focus = reached = stood + offset
    if limit is not None and 0 < focus < limit:
        reached = limit
        if walks:
            stood = limit - offset
    focusable = reached * 1000 > f
    return Standing(
        carrier.lens, carrier.converter, f, wanted_f, stood, distance, reached, wanted_focus, limit, focusable,
        carrier.converter_weight_g,
    )  # fmt: skip


def settle(
    rigs: Sequence[Rig],
    hold: Hold,
    standings: Sequence[Standing],
    coc_mm: Array,
    reference: int,
    walked: Array | None = None,
) -> Settings[Array, Flags]:
    """Solve aperture and exposure for every rig, given lens and place.

    Parameters
        rigs, hold, standings: the comparison so far
        coc_mm: circle of confusion of each rig, NaN where unknown
        reference: index of the reference rig
        walked: f-numbers of an aperture walk, which the reference takes one after the other; the shape becomes (stops,
            rigs)
    Returns
        Settings
    """

    def each(name: str) -> Array:
        return np.array([getattr(standing, name) for standing in standings], dtype=float)

    focusable = np.array([standing.focusable for standing in standings])
    f = each("focal_length_mm")
    # rigs without an image take part with a stand-in distance; their figures are masked at the end
    u = np.where(focusable, each("object_distance_m"), f / 250)
    d = np.where(focusable, each("subject_distance_m"), f / 250)
    widest = np.array([float(s.lens.widest_f_number(s.focal_length_mm / s.converter)) * s.converter for s in standings])
    open_known = np.array([bool(s.lens.widest) for s in standings])
    smallest = np.array([(s.lens.smallest_f_number or LARGEST_F_NUMBER) * s.converter for s in standings])
    smallest = np.maximum(smallest, widest)
    as_set = np.array([rig.f_number * s.converter for rig, s in zip(rigs, standings, strict=True)])

    # a lens whose widest f-number nobody gave is open as it is set
    wide = np.where(open_known, widest, np.maximum(as_set, widest))
    opened = hold.of_aperture.opens_reference and walked is None
    own = slice(reference, reference + 1)
    first_set = as_set[own] if walked is None else walked.reshape(-1, 1)
    first_limited = np.clip(first_set, widest[own], smallest[own])
    first = wide[own] if opened else first_limited
    known = ~np.isnan(coc_mm) & ~np.isnan(coc_mm[reference])
    circle = np.where(known, coc_mm, 1.0)
    wanted, overshoot = hold.of_aperture.f_numbers(ApertureGiven(first, as_set, wide, f, u, circle, known, reference))
    wanted = np.array(wanted)
    wanted[..., own] = first if opened else first_set
    n = np.clip(wanted, widest, smallest)
    n = np.where(differs(n, wanted), n, wanted)

    m = np.where(np.isinf(u), 0.0, f / (1000 * u - f))
    effective = n * (1 + m)
    as_was = first_limited * (1 + m[reference])  # the brightness to match is the reference's as it was set
    t, wanted_t, iso, wanted_iso = _exposed(rigs, hold, effective, as_was, reference, opened=opened)
    shape = n.shape
    return Settings(
        focal_length_mm=np.broadcast_to(f, shape),
        wanted_focal_length_mm=np.broadcast_to(each("wanted_focal_length_mm"), shape),
        subject_distance_m=np.broadcast_to(d, shape),
        wanted_distance_m=np.broadcast_to(each("wanted_distance_m"), shape),
        object_distance_m=np.broadcast_to(u, shape),
        wanted_object_distance_m=np.broadcast_to(each("wanted_object_distance_m"), shape),
        f_number=n,
        wanted_f_number=wanted,
        widest_f_number=np.broadcast_to(np.where(open_known, widest, np.nan), shape),
        shutter_s=t,
        wanted_shutter_s=wanted_t,
        iso=iso,
        wanted_iso=wanted_iso,
        focusable=np.broadcast_to(focusable, shape),
        depth_overshoot=overshoot,
        depth_known=np.broadcast_to(known, shape),
    )


def _exposed(
    rigs: Sequence[Rig], hold: Hold, effective: Array, as_was: Array, reference: int, *, opened: bool
) -> tuple[Array, Array, Array, Array]:
    """Shutter and ISO, reached and wanted, that keep the reference's brightness as it was set."""

    def each(name: str, unknown: float) -> Array:
        return np.array([unknown if (value := getattr(rig.body, name)) is None else value for rig in rigs], dtype=float)

    slowest = np.array([rig.slowest_shutter_s or np.inf for rig in rigs])
    fastest = each("fastest_shutter_s", 0.0)
    base, ceiling = each("base_iso", 0.0), each("ceiling_iso", np.inf)
    set_t, set_iso = np.array([rig.shutter_s for rig in rigs]), np.array([rig.iso for rig in rigs])
    spread = 0 * effective
    follows = np.ones(len(rigs), dtype=bool)
    if not opened:
        follows[reference] = False
    # light x ISO that makes the brightness, as t ISO / Ne^2
    first_t = np.clip(set_t[reference], fastest[reference], slowest[reference])
    first_iso = np.clip(set_iso[reference], base[reference], ceiling[reference])
    product = first_t * first_iso * (effective / as_was) ** 2
    rest = np.array([rig.take_rest for rig in rigs])
    if hold.of_exposure.follows == "iso":
        wanted_t = np.where(follows, first_t, set_t) + spread
        t = np.clip(wanted_t, fastest, slowest)
        wanted_iso = np.where(follows, product / t, set_iso)
        iso = np.clip(wanted_iso, base, ceiling)
        t = np.where(rest & differs(iso, wanted_iso), np.clip(product / iso, fastest, slowest), t)
    elif hold.of_exposure.follows == "shutter_s":
        wanted_iso = np.where(follows, first_iso, set_iso) + spread
        iso = np.clip(wanted_iso, base, ceiling)
        wanted_t = np.where(follows, product / iso, set_t)
        t = np.clip(wanted_t, fastest, slowest)
        iso = np.where(rest & differs(t, wanted_t), np.clip(product / t, base, ceiling), iso)
    else:
        wanted_t, wanted_iso = set_t + spread, set_iso + spread
        t, iso = np.clip(wanted_t, fastest, slowest), np.clip(wanted_iso, base, ceiling)
    return t, wanted_t, iso, wanted_iso
