"""Another point of view: making a rig the reference without changing anything else."""

from __future__ import annotations

from dataclasses import replace

from cambrel.optics.brief import Brief, Hold
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.geometry import focus_distance_from_object_distance_m
from cambrel.optics.quantities import DomainError
from cambrel.optics.rig import Rig


def make_reference(comparison: Comparison, index: int) -> tuple[Brief, tuple[Rig, ...], Hold]:
    """The same picture from another rig's point of view: its computed values become its as-set values, and nothing else changes.

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
        raise DomainError("reference", "a rig that can focus there", index)
    hold, brief = comparison.hold, comparison.brief
    donor = comparison.reference if hold.lens_of is None else hold.lens_of
    if hold.lens == "same":
        hold = replace(hold, lens_of=donor)
    converter = comparison.rigs[donor if hold.lens == "same" else index].converter
    distance, focus = settings.subject_distance_m, None
    if brief.focus_distance_m is not None:
        focus = distance + _focus_offset_m(comparison)
    rigs = [_at_its_own_distance(rig, brief) for rig in comparison.rigs]
    if brief.distance_from == "sensor":
        f = settings.focal_length_mm
        if min(distance, distance if focus is None else focus) * 1000 <= 2 * f:
            # beyond life size two distances share one sensor mark: from here on they are measured from the lens
            brief = replace(brief, distance_from="lens")
            rigs = [_standing_where_it_is(rig, comparison.of(i)) for i, rig in enumerate(rigs)]
        else:
            distance = float(focus_distance_from_object_distance_m(distance, f))
            focus = None if focus is None else float(focus_distance_from_object_distance_m(focus, f))
    rigs[index] = replace(
        rigs[index],
        focal_length_mm=settings.focal_length_mm / converter,
        f_number=settings.f_number / converter,
        shutter_s=settings.shutter_s,
        iso=settings.iso,
        distance_m=distance,
    )
    return replace(brief, distance_m=distance, focus_distance_m=focus), tuple(rigs), hold


def _at_its_own_distance(rig: Rig, brief: Brief) -> Rig:
    """A rig without a distance of its own stood at the brief's, which is about to change."""
    return replace(rig, distance_m=brief.distance_m) if rig.distance_m is None else rig


def _standing_where_it_is(rig: Rig, figures: RigFigures) -> Rig:
    return replace(rig, distance_m=figures.settings.subject_distance_m) if figures.settings.focusable else rig


def _focus_offset_m(comparison: Comparison) -> float:
    first = comparison.first.settings
    return float(first.wanted_object_distance_m - first.subject_distance_m)
