"""Many bodies as arrays: the frames that a picture uses of them, and what they do with light."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields
from math import inf

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison import figure_groups
from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.figures import Frames, each_of
from cambrel.comparison.lenses import Lenses
from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER, Rig
from cambrel.optics.formats import nearest_format
from cambrel.optics.quantities import Array

USUAL_BASE_ISO = 100.0
"""Of a body whose base ISO is not known."""


@dataclass(frozen=True)
class Bodies:
    """The figures of bodies, one an element. read_e: noise of reading all that one pixel of the picture is made of;
    frames: made one.
    """

    frames: Frames[Array]
    base: Array
    highest: Array
    fastest: Array
    slowest: Array
    quantum: Array
    offset: Array
    read_e: Array
    combined: Array
    pixel_um: Array
    stabilised: Array
    with_lens: Array
    fastest_made: Array
    """F-number of the fastest lenses that are made for such a sensor."""

    def take(self, at: NDArray[np.int64]) -> Bodies:
        """Some of them, or some more than once."""
        frames = Frames(*(getattr(self.frames, field.name)[at] for field in fields(self.frames)))
        return Bodies(frames, *(getattr(self, field.name)[at] for field in fields(self)[1:]))

    def steadied(self, glass: Lenses) -> Array:
        """What both stabilisers give: the larger, unless the body says how they add."""
        larger = np.fmax(self.stabilised, glass.stabilised)
        together = (glass.stabilised > 0) & ~np.isnan(self.with_lens)
        return np.nan_to_num(np.where(together, self.with_lens, larger))


def bodies_of(brief: Brief, rigs: Sequence[Rig], conventions: Conventions) -> Bodies:
    """Of each rig its body, with the part of its sensor that the picture uses.

    Parameters
        brief: the picture, whose shape crops the sensors
        rigs: in their order
        conventions: the schools in force
    Returns
        arrays with the rigs along the axis; NaN, or what limits nothing, for what a body does not say
    """

    def each(name: str, unknown: float) -> Array:
        return each_of([getattr(rig.body, name) for rig in rigs], unknown)

    return Bodies(
        figure_groups.frames(brief, rigs, conventions, 0),
        each("base_iso", USUAL_BASE_ISO),
        each("ceiling_iso", inf),
        each("fastest_shutter_s", 0.0),
        each_of([rig.slowest_shutter_s for rig in rigs], inf),
        each("quantum_efficiency", np.nan),
        each("offset_stops", 0.0),
        np.array([rig.body.read_noise_e * rig.reads**0.5 for rig in rigs]),
        np.array([float(rig.frames) for rig in rigs]),
        each_of([rig.pixel_um for rig in rigs], np.nan),
        each("stabilisation_stops", np.nan),
        each("stabilisation_with_lens_stops", np.nan),
        np.array([nearest_format(rig.sensor).fastest_f_number for rig in rigs], dtype=float),
    )


def opens_to(backs: Bodies, glass: Lenses, focal_length_mm: Array) -> Array:
    """F-numbers wide open, converters among them; those of the fastest lenses made for a sensor, where its lens does
    not say.

    Parameters
        backs, glass: of each rig its body and its lens
        focal_length_mm: [mm], with the converter
    Returns
        f-numbers wide open, one for each rig
    """
    made = np.maximum(backs.fastest_made * glass.factor, SMALLEST_POSSIBLE_F_NUMBER)
    return np.where(glass.opens, glass.widest(focal_length_mm), made)
