"""Levers: what can be changed of a picture by one rig, all else kept: where each stands, how it is moved, and what the
gear has of it. Thin lens, exact.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import Comparison, RigFigures, compare
from cambrel.comparison.rig import LARGEST_F_NUMBER, SMALLEST_POSSIBLE_F_NUMBER, Rig
from cambrel.optics.geometry import focal_length_for_image_distance_mm, object_distance_for_magnification_m
from cambrel.optics.quantities import Choices

AS_SET = Hold("own", "own", "own", "own")
SAME = 1e-12
FARTHEST_M = 1e4
LONGEST_MM, SHORTEST_MM = 5000.0, 0.5
LONGEST_S, SHORTEST_S = 3600.0, 1e-6
LARGEST_SCALE = 20.0
"""So many times larger or smaller a frame is looked at, at most."""


@dataclass(frozen=True)
class Stance:
    """A picture by one rig as it stands, which a lever changes: nothing of it follows another rig."""

    brief: Brief
    rig: Rig
    conventions: Conventions

    @cached_property
    def comparison(self) -> Comparison:
        return compare(replace(self.brief, distance_m=self.distance_m), [self.rig], AS_SET, self.conventions)

    @cached_property
    def figures(self) -> RigFigures:
        return self.comparison.of(0)

    @property
    def focal_mm(self) -> float:
        """With its converter."""
        return self.rig.focal_length_mm * self.rig.converter

    @property
    def f_number(self) -> float:
        return self.rig.f_number * self.rig.converter

    @property
    def distance_m(self) -> float:
        assert self.rig.distance_m is not None
        return self.rig.distance_m

    @cached_property
    def freed(self) -> Stance:
        """The same with a lens and a body that can be set to anything, and draw as they do."""
        lens = replace(
            self.rig.lens,
            focal_min_mm=None,
            focal_max_mm=None,
            widest=(),
            smallest_f_number=None,
            max_magnification=None,
            close_focus_m=None,
        )
        body = replace(self.rig.body, fastest_shutter_s=None, slowest_shutter_s=None)
        return replace(self, rig=replace(self.rig, lens=lens, body=body))


def standpoint(comparison: Comparison, index: int) -> Stance:
    """How one rig of a comparison stands: its own settings and distance, with the lens that it carries.

    Parameters
        comparison: worked out
        index: of the rig
    Returns
        Stance, of which `figures` are those of the comparison
    """
    figures, brief = comparison.of(index), comparison.brief
    s = figures.settings
    focus = None if brief.focus_distance_m is None else s.object_distance_m
    return Stance(
        replace(brief, distance_m=s.subject_distance_m, focus_distance_m=focus, distance_from="lens"),
        replace(figures.as_set, distance_m=s.subject_distance_m),
        comparison.conventions,
    )


@dataclass(frozen=True)
class Lever:
    """Something that can be changed while the rest is kept.

    value: where it stands; moved: a standpoint with it elsewhere; span: what is looked through
    owned: the least and the most that the gear has of it, None where it is no matter of gear
    kind: how a value of it is shown; keeps_lens: whether the lens that is there can still do it, where it is no matter
    of the gear
    """

    key: str
    label: str
    kind: str
    value: Callable[[Stance], float]
    moved: Callable[[Stance, float], Stance]
    span: Callable[[Stance], tuple[float, float]]
    owned: Callable[[Stance], tuple[float, float] | None] = lambda stands: None
    keeps_lens: bool = True
    is_of_lens: bool = False
    """Whether another lens could do it."""
    replaces: str = ""
    """What of the gear it exchanges: two that exchange the same are no pair."""


def _at_distance(stands: Stance, distance_m: float) -> Stance:
    return replace(stands, rig=replace(stands.rig, distance_m=distance_m))


def _with_focal(stands: Stance, focal_mm: float) -> Stance:
    return replace(stands, rig=replace(stands.rig, focal_length_mm=focal_mm / stands.rig.converter))


def _stepped_back(stands: Stance, focal_mm: float) -> Stance:
    """Another lens from where the subject is as large as it was."""
    m = stands.figures.view.magnification
    return _with_focal(_at_distance(stands, float(object_distance_for_magnification_m(focal_mm, m))), focal_mm)


def _scaled(stands: Stance, scale: float, *, view: bool) -> Stance:
    """A frame so many times as large; where the view is kept, with the lens that sees the same there."""
    body = stands.rig.body
    sensor = replace(body.sensor, width_mm=body.sensor.width_mm * scale, height_mm=body.sensor.height_mm * scale)
    rig = replace(stands.rig, body=replace(body, sensor=sensor, modes=()), mode=None)
    if view:
        figures = stands.figures
        image = figures.view.image_distance_mm * scale
        focal = float(focal_length_for_image_distance_mm(image, figures.settings.object_distance_m))
        rig = replace(rig, focal_length_mm=focal / rig.converter)
    return replace(stands, rig=rig)


def _frames(stands: Stance) -> tuple[float, float]:
    diagonal = stands.rig.body.sensor.diagonal_mm
    return diagonal / LARGEST_SCALE, diagonal * LARGEST_SCALE


def _distances(stands: Stance) -> tuple[float, float] | None:
    closest = stands.rig.lens.closest_m(stands.rig.focal_length_mm)
    return None if closest is None else (closest, FARTHEST_M)


def _apertures(stands: Stance) -> tuple[float, float] | None:
    lens = stands.rig.lens
    if lens.is_ad_hoc and not lens.widest:
        return None
    widest, times = float(lens.widest_f_number(stands.rig.focal_length_mm)), stands.rig.converter
    return widest * times, (lens.smallest_f_number or LARGEST_F_NUMBER / times) * times


def _focals(stands: Stance) -> tuple[float, float] | None:
    lens, times = stands.rig.lens, stands.rig.converter
    if lens.focal_min_mm is None or lens.focal_max_mm is None:
        return None
    return lens.focal_min_mm * times, lens.focal_max_mm * times


def _times(stands: Stance) -> tuple[float, float] | None:
    body = stands.rig.body
    known = body.fastest_shutter_s is not None or body.slowest_shutter_s is not None
    return (body.fastest_shutter_s or SHORTEST_S, body.slowest_shutter_s or LONGEST_S) if known else None


LEVERS: Choices[Lever] = Choices(
    "lever",
    {
        lever.key: lever
        for lever in (
            Lever(
                "f_number",
                "F-number",
                "f",
                lambda stands: stands.f_number,
                lambda stands, value: replace(stands, rig=replace(stands.rig, f_number=value / stands.rig.converter)),
                lambda stands: (SMALLEST_POSSIBLE_F_NUMBER * stands.rig.converter, LARGEST_F_NUMBER),
                _apertures,
                is_of_lens=True,
            ),
            Lever(
                "background",
                "Background farther behind",
                "m",
                lambda stands: stands.brief.background_m or 0.0,
                lambda stands, value: replace(stands, brief=replace(stands.brief, background_m=value)),
                lambda stands: (1e-3, FARTHEST_M),
            ),
            Lever(
                "distance",
                "Distance",
                "m",
                lambda stands: stands.distance_m,
                _at_distance,
                lambda stands: (1.0000001 * stands.focal_mm / 1000, FARTHEST_M),
                _distances,
            ),
            Lever(
                "step_back",
                "Another lens, subject as large",
                "mm",
                lambda stands: stands.focal_mm,
                _stepped_back,
                lambda stands: (SHORTEST_MM, LONGEST_MM),
                _focals,
                is_of_lens=True,
                replaces="lens",
            ),
            Lever(
                "focal",
                "Focal length, from here",
                "mm",
                lambda stands: stands.focal_mm,
                _with_focal,
                lambda stands: (SHORTEST_MM, min(LONGEST_MM, 999.9999 * stands.figures.settings.object_distance_m)),
                _focals,
                is_of_lens=True,
                replaces="lens",
            ),
            Lever(
                "shutter",
                "Shutter time",
                "s",
                lambda stands: stands.rig.shutter_s,
                lambda stands, value: replace(stands, rig=replace(stands.rig, shutter_s=value)),
                lambda stands: (SHORTEST_S, LONGEST_S),
                _times,
            ),
            Lever(
                "format",
                "Another format, same view and f-number",
                "mm",
                lambda stands: stands.rig.body.sensor.diagonal_mm,
                lambda stands, value: _scaled(stands, value / stands.rig.body.sensor.diagonal_mm, view=True),
                _frames,
                keeps_lens=False,
                replaces="frame",
            ),
            Lever(
                "frame",
                "A smaller frame or a crop, same lens",
                "mm",
                lambda stands: stands.rig.body.sensor.diagonal_mm,
                lambda stands, value: _scaled(stands, value / stands.rig.body.sensor.diagonal_mm, view=False),
                _frames,
                replaces="frame",
            ),
        )
    },
)
