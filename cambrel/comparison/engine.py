"""The comparison: every figure of every rig under one brief, one hold and one set of conventions. All rigs, and all
stops of a walk, at once.

Figures are arrays with the rigs along the last axis (one more axis in front along an aperture walk). NaN means unknown;
infinity is a legitimate answer. `Comparison.of(i)` gives one rig's figures as plain numbers.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, fields, replace
from functools import cached_property
from typing import TYPE_CHECKING, TypeVar, cast

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison import at_best, blur_budget, figure_groups, holds
from cambrel.comparison.best_settings import Asked
from cambrel.comparison.blur_budget import SharpSpot
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.figure_groups import frame_of
from cambrel.comparison.figures import (
    Blur,
    Depth,
    Diffraction,
    Frames,
    Light,
    Outfit,
    RigFigures,
    Settings,
    Sharpness,
    View,
)
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.optics import stars
from cambrel.optics.quantities import Array, DomainError, Flags, Words, is_unknown

__all__ = ["Body", "Brief", "Comparison", "Conventions", "Hold", "Lens", "Rig", "RigFigures", "compare", "frame_of"]

if TYPE_CHECKING:
    from _typeshed import DataclassInstance

R = TypeVar("R")
Set = Settings[Array, Flags]


_INDEPENDENT = {
    "weight_g",
    "price",
    "volume_l",
    "long_mm",
    "image_circle_share",
    "mount_fits",
    "wanted_distance_m",
    "wanted_focal_length_mm",
    "wanted_object_distance_m",
}
_DEPENDENT = ("view", "depth", "blur", "light", "diffraction")


@dataclass(frozen=True)
class Comparison:
    """Rigs compared under one brief, one hold and one set of conventions."""

    brief: Brief
    rigs: tuple[Rig, ...]
    hold: Hold
    conventions: Conventions
    reference: int
    settings: Set
    frames: Frames[Array]
    view: View[Array]
    depth: Depth[Array]
    blur: Blur[Array]
    light: Light[Array]
    diffraction: Diffraction[Array]
    outfit: Outfit[Array]
    asked: Asked[Array, Words] | None = None
    """What bound the settings, where each rig is at its best."""
    worked_out: dict[str, object] = field(default_factory=dict, init=False, compare=False, repr=False)
    """What others have worked out of it, by their names for it."""

    def of(self, index: int) -> RigFigures:
        """One rig's figures (of a comparison without a walk)."""
        return self._each[index]

    @cached_property
    def _each(self) -> list[RigFigures]:
        groups = ("settings", "frames", "view", "depth", "blur", "light", "diffraction", "sharpness", "outfit")
        records = [getattr(self, group) for group in groups]
        rows = [_rows(type(record), record, len(self.rigs)) for record in records]
        return [
            RigFigures(index, rig, self.carrier(index), *(row[index] for row in rows))
            for index, rig in enumerate(self.rigs)
        ]

    @cached_property
    def sharpness(self) -> Sharpness[Array]:
        """The blur budget of every rig at its subject; found when it is asked for, as a walk has no use for it."""
        still = np.zeros_like(self.settings.shutter_s)
        streaks = {"shake": self.shake_mm, "movement": self.blur.movement_mm, "drift": still}
        return self._budget(SharpSpot(self.settings.subject_distance_m, self.blur.subject_mm, streaks))

    def sharpness_at(self, away_m: float) -> Sharpness[Array]:
        """The same at another distance from the lens [m]: what stands there is still, and at infinity it may be stars,
        which drift.
        """
        s, still = self.settings, np.zeros_like(self.settings.shutter_s)
        disc, drift = figure_groups.disc_at(s, np.full_like(still, away_m)), still
        if away_m == np.inf and self.brief.declination_deg is not None:
            focal, seconds = np.where(s.focusable, s.focal_length_mm, 1.0), np.where(s.focusable, s.shutter_s, 0.0)
            drift = np.asarray(stars.drift_mm(focal, self.brief.declination_deg, seconds))
        return self._budget(
            SharpSpot(still + away_m, disc, {"shake": self.shake_mm, "movement": still, "drift": drift})
        )

    @cached_property
    def shake_mm(self) -> Array:
        """How far the hand's shake carries a point on each sensor while the shutter is open; none where nobody said
        what carries it.
        """
        return self._shake(self.brief)

    @property
    def as_carried_mm(self) -> Array:
        """The same, in the hand where nobody said."""
        return self._shake(replace(self.brief, support=self.brief.support or "hand"))

    def _shake(self, brief: Brief) -> Array:
        stops = [rig.body.steadied_stops(self.carrier(index).lens) or 0.0 for index, rig in enumerate(self.rigs)]
        return blur_budget.shake_mm(
            brief, self.conventions, self.settings, self.frames, self.view, np.array(stops, dtype=float)
        )

    def judged_at(self, away_m: float) -> list[RigFigures]:
        """The figures of all rigs, their sharpness at another distance."""
        rows: list[Sharpness[float]] = _rows(Sharpness, self.sharpness_at(away_m), len(self.rigs))
        return [replace(rig, sharpness=row) for rig, row in zip(self._each, rows, strict=True)]

    @cached_property
    def corner(self) -> Sharpness[Array]:
        """The budget at the subject's distance in the corner of each frame; unknown where the lens is not known
        there.
        """
        still = np.zeros_like(self.settings.shutter_s)
        streaks = {"shake": self.shake_mm, "movement": still, "drift": still}
        lens = self._lens_per_mm(in_corner=True)
        disc = np.where(np.isnan(lens), np.nan, self.blur.subject_mm)
        return self._budget(SharpSpot(self.settings.subject_distance_m, disc, streaks), lens)

    def _budget(self, spot: SharpSpot, lens_per_mm: Array | None = None) -> Sharpness[Array]:
        lens = self._lens_per_mm() if lens_per_mm is None else lens_per_mm
        pixel_um = np.array([np.nan if rig.pixel_um is None else rig.pixel_um for rig in self.rigs], dtype=float)
        return blur_budget.sharpness(
            self.brief, self.conventions, self.settings, self.frames, self.view, spot, lens, pixel_um
        )

    def _lens_per_mm(self, *, in_corner: bool = False) -> Array:
        """What each lens resolves alone at its f-number, in the middle or in the corner; a converter spreads it as it
        spreads the picture.
        """
        resolved = []
        for index, number in enumerate(self.settings.f_number.tolist()):
            carrier = self.carrier(index)
            height = float(self.frames.diagonal_mm[index]) / 2 / carrier.converter if in_corner else 0.0
            known = carrier.lens.mtf50_at_per_mm(number / carrier.converter, height) if not is_unknown(number) else None
            resolved.append(np.nan if known is None else known / carrier.converter)
        return np.array(resolved)

    def once(self, key: str, work: Callable[[], R]) -> R:
        """What is worked out of this comparison by others, the first time it is asked for."""
        if key not in self.worked_out:
            self.worked_out[key] = work()
        return cast(R, self.worked_out[key])

    def carrier(self, index: int) -> Rig:
        """The rig whose lens a rig carries: itself, or the one whose lens is shared."""
        if not self.hold.of_lens.is_shared:
            return self.rigs[index]
        return self.rigs[self.hold.donor(self.reference)]

    def without(self, indices: Sequence[int]) -> Comparison:
        """The same comparison with some rigs' figures unknown: for rigs whose settings cannot be used."""
        kept = np.ones(len(self.rigs), dtype=bool)
        kept[list(indices)] = False
        groups = {name: _masked(getattr(self, name), kept) for name in _DEPENDENT}
        focusable = self.settings.focusable & kept
        return replace(self, **groups, settings=replace(_masked(self.settings, kept), focusable=focusable))

    @property
    def first(self) -> RigFigures:
        """The reference rig's figures."""
        return self.of(self.reference)

    def others(self) -> list[RigFigures]:
        """The figures of all rigs but the reference."""
        return [self.of(i) for i in range(len(self.rigs)) if i != self.reference]


def _rows(of_one: Callable[..., R], record: DataclassInstance, count: int) -> list[R]:
    columns = [getattr(record, field.name).tolist() for field in fields(record)]
    return [of_one(*(column[index] for column in columns)) for index in range(count)]


def compare(
    brief: Brief,
    rigs: Sequence[Rig],
    hold: Hold | None = None,
    conventions: Conventions | None = None,
    reference: int = 0,
    *,
    walked_f_numbers: Sequence[float] | None = None,
) -> Comparison:
    """Compute every figure of every rig.

    Parameters
        brief: the picture to be made
        rigs: one or more
        hold: what is kept the same; by default equivalent lenses, same spot, same f-number, same shutter
        conventions: the schools in force
        reference: index of the rig the others are compared with
        walked_f_numbers: an aperture walk: the reference takes each in turn and figures gain an axis in front
    Returns
        Comparison
    Raises
        DomainError where the reference rig has no image of the subject, or an index is out of range
    """
    hold, conventions = hold or Hold(), conventions or Conventions()
    if hold.is_best:
        return _at_best(brief, rigs, conventions, reference, walked_f_numbers)
    if not 0 <= reference < len(rigs):
        raise DomainError("reference", f"the index of one of {len(rigs)} cameras", reference)
    if hold.lens_of is not None and not 0 <= hold.lens_of < len(rigs):
        raise DomainError("lens_of", f"the index of one of {len(rigs)} cameras", hold.lens_of)
    frames = figure_groups.frames(brief, rigs, conventions, reference)
    standings = holds.stand(brief, rigs, hold, frames.crop.tolist(), reference)
    walked = None if walked_f_numbers is None else np.asarray(walked_f_numbers, dtype=float)
    settings = holds.settle(rigs, hold, standings, frames.coc_mm, reference, walked)
    return _figured(brief, rigs, hold, conventions, reference, settings, frames, standings)


def _at_best(
    brief: Brief, rigs: Sequence[Rig], conventions: Conventions, reference: int, walked: Sequence[float] | None
) -> Comparison:
    """Each rig with the settings that the picture asks for; along an aperture walk the reference leaves them and the
    others stay.
    """
    if not 0 <= reference < len(rigs):
        raise DomainError("reference", f"the index of one of {len(rigs)} cameras", reference)
    settings, frames, standings, asked_of_all = at_best.settled(brief, rigs, conventions, reference)
    made = _figured(brief, rigs, at_best.AS_SET, conventions, reference, settings, frames, standings)
    if walked is None:
        return replace(made, asked=asked_of_all)
    s = made.settings
    stand = [
        (
            replace(rig, focal_length_mm=f / rig.converter, f_number=n / rig.converter, shutter_s=t, iso=iso)
            if not is_unknown(f)
            else rig
        )
        for rig, f, n, t, iso in zip(
            rigs, s.focal_length_mm.tolist(), s.f_number.tolist(), s.shutter_s.tolist(), s.iso.tolist(), strict=True
        )
    ]
    return compare(
        brief, stand, replace(at_best.AS_SET, is_best=False), conventions, reference, walked_f_numbers=walked
    )


def _figured(
    brief: Brief,
    rigs: Sequence[Rig],
    hold: Hold,
    conventions: Conventions,
    reference: int,
    settings: Set,
    frames: Frames[Array],
    standings: Sequence[holds.Standing],
) -> Comparison:
    """All figures of rigs that are settled."""
    view = figure_groups.view(brief, settings, frames, reference)
    figures = (
        view,
        figure_groups.depth(settings, frames),
        figure_groups.blur(brief, settings, frames, view),
        figure_groups.light(brief, rigs, conventions, settings, frames, view, reference),
        figure_groups.diffraction(conventions, settings, frames, view),
        figure_groups.outfit(rigs, standings, frames, settings, view),
    )
    if not settings.focusable.all():
        figures = tuple(_masked(figure, settings.focusable) for figure in figures)  # type: ignore[assignment]
        settings = _masked(settings, settings.focusable)
    return Comparison(brief, tuple(rigs), hold, conventions, reference, settings, frames, *figures)


def _masked(record: R, focusable: NDArray[np.bool_]) -> R:
    """Unknown figures for rigs that have no image at this distance; what does not depend on it stays."""
    changes = {}
    for figure in fields(record):  # type: ignore[arg-type]
        value = getattr(record, figure.name)
        if value.dtype.kind == "f" and figure.name not in _INDEPENDENT:
            changes[figure.name] = np.where(focusable, value, np.nan)
    return replace(record, **changes)  # type: ignore[type-var]
