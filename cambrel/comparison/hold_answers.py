"""What may be kept the same: every answer to the four questions of a hold as one object, with its words and with what
it does.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from cambrel.optics.depth import (
    depth_of_field,
    f_number_for_endless_depth,
    f_number_for_same_limits,
    f_number_for_total_depth,
)
from cambrel.optics.quantities import Array, Choices, Flags

SAME = 1e-12
"""Two distances so near to each other (relative) are one."""


@dataclass(frozen=True)
class HoldAnswer:
    """An answer to one question of a hold.

    label: in a list; says: what it does, as it reads in the whole hold; sentence: as it reads in the sentence whose
        word it is
    brief: as it is named among others
    is_own: whether nothing follows, and each rig keeps what it is set to
    """

    key: str
    label: str
    says: str
    sentence: str
    brief: str
    is_own: bool = False


@dataclass(frozen=True)
class LensHold(HoldAnswer):
    """is_shared: one lens is on every body; keeps_view: each takes the focal length for the same picture"""

    is_shared: bool = False
    keeps_view: bool = False


@dataclass(frozen=True)
class PlaceHold(HoldAnswer):
    """walks: until the subject fills the same part of the frame"""

    walks: bool = False


@dataclass(frozen=True)
class ApertureGiven:
    """What f-numbers may follow: that of the reference, what each is set to and opens to, with its converter, and where
    each is focused.

    first: of the reference, the stops of a walk along a first axis; coc_mm: what counts as sharp, a stand-in where that
        is not known
    is_known: where it is; reference: its index
    """

    first: Array
    as_set: Array
    wide: Array
    focal_length_mm: Array
    object_distance_m: Array
    coc_mm: Array
    is_known: Flags
    reference: int


def _no_overshoot(opened: ApertureGiven) -> Flags:
    return np.zeros(np.broadcast_shapes(opened.first.shape, opened.focal_length_mm.shape), dtype=bool)


@dataclass(frozen=True)
class ApertureHold(HoldAnswer):
    """f_numbers: that each should take, and whether more depth comes with it than was asked for

    opens_reference: whether the reference opens too; keeps_depth, keeps_f_number: what is the same on all
    """

    f_numbers: Callable[[ApertureGiven], tuple[Array, Flags]] = lambda opened: (
        opened.as_set + 0 * opened.first,
        _no_overshoot(opened),
    )
    opens_reference: bool = False
    keeps_depth: bool = False
    keeps_f_number: bool = False


@dataclass(frozen=True)
class ExposureHold(HoldAnswer):
    """follows: what follows so that the brightness stays, "iso" or "shutter_s"; empty for neither. other: its name, as
    it is said
    """

    follows: str = ""
    other: str = ""


LENS_HOLDS: Choices[LensHold] = Choices(
    "lens",
    {
        answer.key: answer
        for answer in (
            LensHold(
                "same",
                "same lens",
                "the reference's lens is on every body",
                "the same lens",
                "same lens",
                is_shared=True,
            ),
            LensHold(
                "equivalent",
                "equivalent",
                "each takes the focal length for the same picture",
                "equivalent lenses",
                "equivalent lenses",
                keeps_view=True,
            ),
            LensHold("own", "own", "each keeps its own focal length", "each its own lens", "own lens", is_own=True),
        )
    },
)
PLACE_HOLDS: Choices[PlaceHold] = Choices(
    "place",
    {
        answer.key: answer
        for answer in (
            PlaceHold("spot", "same spot", "from the same spot", "from the same spot", "same spot"),
            PlaceHold(
                "walk",
                "walk",
                "walking until the subject fills the same part of the frame",
                "walking to the same framing",
                "same framing",
                walks=True,
            ),
            PlaceHold(
                "own",
                "own",
                "each from its own distance",
                "each from its own distance",
                "own distance",
                is_own=True,
            ),
        )
    },
)


def _for_same_depth(opened: ApertureGiven) -> tuple[Array, Flags]:
    """F-numbers for the reference's depth of field: both limits at the same distance, the total (or an infinite far)
    when walking.
    """
    first, f, u, coc, r = (
        opened.first,
        opened.focal_length_mm,
        opened.object_distance_m,
        opened.coc_mm,
        opened.reference,
    )
    with np.errstate(invalid="ignore"):
        together = (u == u[r]) | (np.abs(u - u[r]) <= SAME * u[r])
    limits = f_number_for_same_limits(first, f[r], u[r], coc[r], f, np.where(together, u, u[r]), coc)
    if together.all():
        return np.where(opened.is_known, limits, opened.as_set), _no_overshoot(opened)
    target = depth_of_field(f[r], first, u[r], coc[r])
    away = np.where(np.isinf(u) | (1000 * u <= f), f / 250, u)
    by_total = f_number_for_total_depth(f, away, coc, target.total_m)
    by_front = f_number_for_endless_depth(f, away, coc, u[r] - target.near_m)
    endless = np.isinf(target.total_m)
    overshoot = ~together & endless & (by_front <= by_total * (1 + SAME))
    wanted = np.where(together, limits, np.where(endless, by_front, by_total))
    return np.where(opened.is_known, wanted, opened.as_set), np.asarray(overshoot) & opened.is_known


APERTURE_HOLDS: Choices[ApertureHold] = Choices(
    "aperture",
    {
        answer.key: answer
        for answer in (
            ApertureHold(
                "f_number",
                "same f-number",
                "at the same f-number as marked",
                "at the same f-number",
                "same f-number",
                f_numbers=lambda opened: (opened.first + 0 * opened.focal_length_mm, _no_overshoot(opened)),
                keeps_f_number=True,
            ),
            ApertureHold(
                "depth",
                "same depth",
                "at the f-number for the same depth of field",
                "at the same depth of field",
                "same depth",
                f_numbers=_for_same_depth,
                keeps_depth=True,
            ),
            ApertureHold(
                "wide_open",
                "wide open",
                "each wide open",
                "wide open",
                "each wide open",
                f_numbers=lambda opened: (opened.wide + 0 * opened.first, _no_overshoot(opened)),
                opens_reference=True,
            ),
            ApertureHold("own", "as set", "each at the f-number set", "at the f-numbers set", "as set", is_own=True),
        )
    },
)
EXPOSURE_HOLDS: Choices[ExposureHold] = Choices(
    "exposure",
    {
        answer.key: answer
        for answer in (
            ExposureHold(
                "shutter",
                "same shutter",
                "at the same shutter time, and the ISO follows",
                "with the same shutter, ISO follows",
                "same shutter",
                follows="iso",
                other="shutter",
            ),
            ExposureHold(
                "iso",
                "same ISO",
                "at the same ISO, and the shutter follows",
                "with the same ISO, shutter follows",
                "same ISO",
                follows="shutter_s",
                other="ISO",
            ),
            ExposureHold(
                "own", "as set", "with shutter and ISO as set", "with shutter and ISO as set", "as set", is_own=True
            ),
        )
    },
)
QUESTIONS: dict[str, Mapping[str, HoldAnswer]] = {
    "lens": LENS_HOLDS,
    "place": PLACE_HOLDS,
    "aperture": APERTURE_HOLDS,
    "exposure": EXPOSURE_HOLDS,
}
"""The four questions of a hold, in the order in which they apply."""
