"""Another point of view: making a rig the reference without changing anything else."""

from __future__ import annotations

from dataclasses import replace
from math import isfinite

from cambrel.comparison.brief import Brief, Hold
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.rig import Rig
from cambrel.optics.geometry import focus_distance_from_object_distance_m
from cambrel.optics.quantities import DomainError


def make_reference(comparison: Comparison, index: int) -> tuple[Brief, tuple[Rig, ...], Hold]:
    """The same picture from another rig's point of view: its computed values become its as-set values, and nothing else
    changes.

    Parameters
        comparison: as it stands
        index: of the rig that becomes the reference
    Returns
        brief, rigs and hold to compare with `reference=index`
    Raises
        DomainError for a rig that has no image at its distance
    """
    figures = comparison.of(index)
    settings = figures.settings
    if not settings.focusable:
        raise DomainError("reference", "a camera that can focus there", index)
    hold, old = comparison.hold, comparison.reference
    donor = hold.donor(old)
    if hold.of_lens.is_shared:
        hold = replace(hold, lens_of=donor)
    converter = comparison.rigs[donor if hold.of_lens.is_shared else index].converter
    brief, rigs = _restated(comparison, index)
    was_known, is_known = (isfinite(figures.frames.coc_mm) for figures in (comparison.first, comparison.of(index)))
    if hold.of_aperture.keeps_depth and is_known and not was_known:
        hold = replace(hold, aperture="own")  # nothing followed the old reference's depth, so nothing does now
    elif hold.of_aperture.keeps_depth and not is_known:
        # nothing can follow a depth that is not known, so every f-number is written down as it stands
        for i, rig in enumerate(rigs):
            there = comparison.of(i).settings
            if there.focusable:
                rigs[i] = replace(rig, f_number=there.f_number / comparison.carrier(i).converter)
    rigs[index] = replace(
        rigs[index],
        focal_length_mm=settings.focal_length_mm / converter,
        f_number=settings.f_number / converter,
        shutter_s=settings.shutter_s,
        iso=settings.iso,
    )
    return brief, tuple(rigs), hold


def _restated(comparison: Comparison, index: int) -> tuple[Brief, list[Rig]]:
    """Brief and rigs with every distance that the new point of view needs written down: the picture's is now the new
    reference's.

    Beyond life size two distances share one sensor mark; where that touches any of them all are measured from the lens
    from here on.
    """
    brief, old = comparison.brief, comparison.reference
    subject = float(comparison.of(index).settings.subject_distance_m)
    focus = None if brief.focus_distance_m is None else subject + _focus_offset_m(comparison)
    own = [i for i, rig in enumerate(comparison.rigs) if i == old or comparison.hold.of_place.is_own]
    stated = [i for i in own if comparison.of(i).settings.focusable]
    from_mark = brief.distance_from == "sensor"
    if from_mark:
        nearest = [(subject, index), *((_standing_m(comparison.of(i)), i) for i in stated)]
        nearest += [] if focus is None else [(focus, index)]
        from_mark = all(d * 1000 > 2 * comparison.of(i).settings.focal_length_mm for d, i in nearest)
    changed = brief.distance_from == "sensor" and not from_mark

    def mark(distance_m: float, of: int) -> float:
        if not from_mark:
            return distance_m
        return float(focus_distance_from_object_distance_m(distance_m, comparison.of(of).settings.focal_length_mm))

    rigs = list(comparison.rigs)
    for i in stated:
        typed = brief.distance_m if i == old else rigs[i].distance_m
        if typed is None or changed:
            typed = mark(_standing_m(comparison.of(i)), i)
        rigs[i] = replace(rigs[i], distance_m=typed)
    for i in set(own) - set(stated):
        # what has no image where the old reference stands stays there; from the sensor mark as well it has none so near
        there = float(comparison.of(i).settings.wanted_distance_m)
        if rigs[i].distance_m is None and isfinite(there):
            rigs[i] = replace(rigs[i], distance_m=there)
    distance = mark(subject, index)
    rigs[index] = replace(rigs[index], distance_m=distance)
    measured = "sensor" if from_mark else "lens"
    focus = None if focus is None else mark(focus, index)
    return replace(brief, distance_m=distance, focus_distance_m=focus, distance_from=measured), rigs


def _standing_m(figures: RigFigures) -> float:
    return float(figures.settings.subject_distance_m)


def _focus_offset_m(comparison: Comparison) -> float:
    first = comparison.first.settings
    return float(first.wanted_object_distance_m - first.subject_distance_m)
