"""What of a picture the settings chosen for it still miss: how clean, how sharp, and which demand decides."""

from __future__ import annotations

from collections.abc import Mapping
from math import inf

import numpy as np
from numpy.typing import NDArray

from cambrel.comparison.bodies import Bodies
from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.figures import Frames
from cambrel.comparison.iso_ceiling import clean_iso
from cambrel.comparison.lenses import Lenses
from cambrel.comparison.schools import shown_by
from cambrel.comparison.status import Status
from cambrel.optics import sharpness
from cambrel.optics.good_enough import GOOD_ENOUGH_SCHOOLS
from cambrel.optics.noise_schools import collecting
from cambrel.optics.quantities import Array
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW

STOP_IN_VIEW = np.log(1.15)
NEAR_VIEW = 0.10
NEAR_STOPS = 1.0
HALF, NEAR_HALF = 0.5, 0.3
"""Contrast that is left of the finest lines asked for: enough, and nearly."""
NEAR_SIZE = 0.6
"""Of the size that is asked for: pixels for so much of it nearly suffice."""
STATUSES = np.array([Status.DOES, Status.NEARLY, Status.CANNOT, Status.UNKNOWN], dtype=object)
DOES, NEARLY, CANNOT, UNKNOWN = range(4)
FAILS = ("framing", "range", "background", "dark", "light", "focus", "time", "diffraction", "bright", "sharpness")
"""What may be missed, in the order in which it is named where two are as bad."""


def as_clean_iso(backs: Bodies, frames: Frames[Array], conventions: Conventions) -> Array:
    """The ISO at which each picture is as noisy as the photographer takes one to be clean.

    Parameters
        backs: of each rig its body
        frames: of each
        conventions: the noise that is taken to be clean
    Returns
        one for each rig
    """
    made = collecting(
        frames.pixels,
        backs.combined * frames.area_mm2,
        backs.quantum,
        backs.offset,
        backs.read_e,
        conventions.output_pixels,
    )
    return np.asarray(clean_iso(conventions, made))


def contrast(
    brief: Brief,
    conventions: Conventions,
    backs: Bodies,
    glass: Lenses,
    n: Array,
    effective: Array,
    frames: Frames[Array],
) -> Array:
    """Contrast that is left at the focus of the finest lines that count as good enough.

    Parameters
        brief, conventions: the picture and the schools
        backs, glass: of each rig its body and its lens
        n, effective: f-number as set, and close up
        frames: of each
    Returns
        from 0 to 1; 1 where only pixels decide and they suffice
    """
    long_side = np.maximum(frames.width_mm, frames.height_mm)
    enlarged = brief.shown_long_side_mm / long_side
    school = GOOD_ENOUGH_SCHOOLS[conventions.good_enough]
    pixels_along = np.where(np.isnan(frames.pitch_um), inf, 1000 * long_side / frames.pitch_um)
    shown = shown_by(brief, conventions, np.ones_like(long_side), long_side, pixels_along)
    if school.counts_pixels:
        largest, asked = np.asarray(school.value(shown)), brief.shown_long_side_mm
        return np.where(largest >= asked * (1 - 1e-9), 1.0, np.where(largest >= NEAR_SIZE * asked, NEAR_HALF, 0.0))
    v = school.wanted_per_mm(shown) * enlarged
    left = np.asarray(sharpness.diffraction_mtf(v, effective, conventions.wavelength_nm))
    pixel = backs.pixel_um
    left = left * np.where(np.isnan(pixel), 1.0, sharpness.pixel_mtf(v, np.where(np.isnan(pixel), 1.0, pixel)))
    alone = glass.alone_per_mm(n)
    left = left * np.where(np.isnan(alone), 1.0, sharpness.lens_mtf(v, np.where(np.isnan(alone), 1.0, alone)))
    # pixels hold no more than half a cycle each
    beyond = np.where(np.isnan(frames.pitch_um), False, v * frames.pitch_um / 1000 > 0.5)
    return np.where(beyond, np.minimum(left, HALF * 0.999), left)


def codes(
    short: dict[str, Array],
    wanted_f: Array,
    f: Array,
    left: Array,
    known: NDArray[np.bool_],
    seen: NDArray[np.bool_],
    asks_range: bool,
    image: Array,
    timed: NDArray[np.bool_],
) -> dict[str, Array]:
    """How far each demand is met; timed: whether all is known that the shutter depends on.

    Parameters
        short: by the names of FAILS, by how much each is missed [stops]
        wanted_f, f: focal lengths wanted and reached [mm]
        left: contrast of the finest lines that count
        known: whether depth is
        seen: whether there is an image
        asks_range: whether more than the subject must be sharp
        image: what the lens covers of the frame, unknown where it does not say
        timed: whether all is known that the shutter depends on
    Returns
        by the names of FAILS, places in STATUSES
    """
    codes = {}
    for key, value in short.items():
        codes[key] = np.where(value <= LEVEL_STOPS, DOES, np.where(value <= NEAR_STOPS, NEARLY, CANNOT))
    with np.errstate(invalid="ignore"):
        too_long = f / wanted_f - 1
    codes["framing"] = np.where(too_long <= LEVEL_VIEW, DOES, np.where(too_long <= NEAR_VIEW, NEARLY, CANNOT))
    codes["framing"] = np.where(np.isnan(image), UNKNOWN, codes["framing"])
    for key in ("diffraction", "bright"):
        codes[key] = np.minimum(codes[key], NEARLY)
    codes["sharpness"] = np.where(left >= HALF, DOES, np.where(left >= NEAR_HALF, NEARLY, CANNOT))
    if asks_range:
        codes["range"] = np.where(known, codes["range"], UNKNOWN)
    codes["diffraction"] = np.where(known, codes["diffraction"], DOES)
    codes["focus"] = np.where(known | (short["focus"] == 0), codes["focus"], UNKNOWN)
    codes["focus"] = np.where(seen, codes["focus"], CANNOT)
    # what is too slow for what is known is so whatever else is
    codes["time"] = np.where(timed | (codes["time"] == CANNOT), codes["time"], UNKNOWN)
    return codes


def worst(codes: dict[str, Array], short: dict[str, Array]) -> tuple[NDArray[np.object_], NDArray[np.object_]]:
    """The worst status and, of what has it, the largest shortfall.

    Parameters
        codes: by the names of FAILS, places in STATUSES
        short: by the same names [stops]
    Returns
        of each rig its status, and the name of what decides it, empty where nothing does
    """
    # what cannot be outweighs what is not known, as a kit is not taken for one that might
    rank = np.array([0, 1, 3, 2])
    table = np.stack([rank[codes[key].astype(int)] for key in FAILS])
    worst = table.max(axis=0)
    size = np.stack([short[key] for key in FAILS])
    decides = np.where(table == worst, size, -1.0).argmax(axis=0)
    fails = np.where(worst == 0, "", np.array(FAILS, dtype=object)[decides])
    return STATUSES[np.array([0, 1, 3, 2])[worst]], fails


WORTH_HAVING = 2.0
"""More room than this many stops decides nothing."""


def margin(missed: Mapping[str, Array], short: Mapping[str, Array]) -> Array:
    """The least room of all demands: of what the settings were chosen by, how far the lens still goes (room); else what
    is left to the limit.

    Parameters
        missed, short: by the names of FAILS [stops]
    Returns
        [stops], in whole sixths, at most what is worth having; below 0 where one is missed
    """
    rooms = [-missed[key] for key in ("background", "light", "focus", "diffraction", "sharpness", "room")]
    rooms += [np.where(short[key] > 0, -short[key], inf) for key in ("framing", "range", "time", "dark", "bright")]
    least = np.minimum.reduce([np.where(np.isnan(room), inf, room) for room in rooms])
    return np.asarray(np.floor(np.minimum(least, WORTH_HAVING) * 6 + 1e-9) / 6)
