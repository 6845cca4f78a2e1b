"""Each rig at its best: the settings that the picture asks for, in the place of those that a hold would give."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from cambrel.comparison import best_settings, figure_groups, framing_steps, holds
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.figures import Frames, Settings
from cambrel.comparison.rig import BY_HAND, Rig
from cambrel.optics import geometry
from cambrel.optics.quantities import Array, Flags, Words

AS_SET = Hold("own", "spot", "own", "own", is_best=True)
"""What a comparison of rigs at their best is held by: nothing follows another rig."""

AskedAll = best_settings.Asked[Array, Words]


def settled(
    brief: Brief, rigs: Sequence[Rig], conventions: Conventions, reference: int
) -> tuple[Settings[Array, Flags], Frames[Array], list[holds.Standing], AskedAll]:
    """The settings of every rig as the picture asks, their frames as far as they are used, and what bound each. The
    framing is the picture's own, or else what the reference sees as it is set.

    Parameters
        brief: the picture
        rigs: as they are set
        conventions: the schools in force
        reference: the place of the rig that sets the framing where the picture does not
    Returns
        settings and frames with the rigs along the last axis, what stands of each setting, and what all were to do
    Raises
        DomainError where the reference as it is set sees nothing, and the picture asks for no framing
    """
    frames = figure_groups.frames(brief, rigs, conventions, reference)
    first = rigs[reference]
    there, width_m = _from_where(brief, first, float(frames.crop[reference]), float(frames.width_mm[reference]))
    d = there.distance_m
    asked = best_settings.asked(
        there,
        [rig.body for rig in rigs],
        [rig.lens for rig in rigs],
        conventions,
        converters=[rig.converter for rig in rigs],
        width_m=width_m,
        by_hand=[_by_hand(rig) for rig in rigs],
        rigs=rigs,
    )
    used = framing_steps.cropped(frames, asked.kept_side, conventions)
    used = replace(used, k=used.crop[reference] / used.crop)
    seen = ~np.isnan(asked.focal_length_mm)

    def known(values: Array, otherwise: Array | float) -> Array:
        return np.where(seen, values, otherwise)

    # rigs without an image take part with a stand-in distance; their figures are masked at the end
    f = known(asked.focal_length_mm, 50.0)
    u = known(asked.focus_distance_m, 0.2)
    where = np.where(seen, d, 0.2)
    n, t, iso = known(asked.f_number, 4.0), known(asked.shutter_s, 0.01), known(asked.iso, 100.0)
    widest = np.array(
        [
            float(r.lens.widest_f_number(x / r.converter)) * r.converter if r.lens.widest else np.nan
            for r, x in zip(rigs, f, strict=True)
        ]
    )
    settings = Settings(
        f, f, where, where, u, u, n, n, widest, t, t, iso, iso, seen, np.zeros_like(seen), ~np.isnan(frames.coc_mm)
    )
    nowhere = float("nan")
    standings = [
        holds.Standing(
            r.lens,
            r.converter,
            nowhere,
            nowhere,
            nowhere,
            nowhere,
            nowhere,
            nowhere,
            None,
            bool(ok),
            r.converter_weight_g,
        )
        for r, ok in zip(rigs, seen, strict=True)
    ]
    return settings, used, standings, asked


def _from_where(brief: Brief, first: Rig, crop: float, width_mm: float) -> tuple[Brief, float | None]:
    """The picture with its distances from the lens, as the reference stands, and how wide that sees the subject as it
    is set.
    """
    frames_itself = brief.width_shown_m is not None or brief.framing_deg is not None
    if frames_itself and brief.distance_from == "lens" and first.distance_m is None:
        return brief, None
    stands = holds.stand(brief, [first], replace(AS_SET, is_best=False), [crop], 0)[0]
    d = stands.subject_distance_m
    image = float(geometry.image_distance_mm(stands.focal_length_mm, stands.object_distance_m))
    focus = None if brief.focus_distance_m is None else stands.wanted_object_distance_m
    return replace(brief, distance_m=d, distance_from="lens", focus_distance_m=focus), width_mm * d / image


def _by_hand(rig: Rig) -> best_settings.ByHand:
    return best_settings.ByHand(**{name: getattr(rig, name) for key, name in BY_HAND.items() if key in rig.by_hand})
