"""Did it hold? What was read off a picture against what was predicted for the settings it was taken at."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from math import hypot, isfinite, log

from cambrel.comparison.engine import Comparison
from cambrel.comparison.starlight import longest_as_points_s
from cambrel.optics.quantities import Quantity, positive
from cambrel.trials.predictions import EYE, HALF, SCALES, Expected, FigureScale, off_by, with_rig

RUN, TELLING_RUN = 0.1, 0.25
"""By how much a lens's own faults, where nothing is known of them, change along a run of stops; and what is too open to
say something.
"""


class Outcome(StrEnum):
    HELD = "held"
    MISSED = "missed"
    OPEN = "open"
    BASE = "base"
    """Measured, for others to be set against."""


@dataclass(frozen=True)
class PictureReading:
    """What was read off a picture.

    within: what is open of it, in the terms of its scale (a share, or stops)
    bound: "most" or "least" where it is only known to be at most or at least that
    doubts: keys of what makes it doubtful, such as "reduced" for smoothed noise
    noted: what an eye read and somebody typed, where the value is worked out from it
    """

    value: float
    within: float = 0.0
    bound: str = ""
    doubts: tuple[str, ...] = ()
    noted: float | None = None


@dataclass(frozen=True)
class Proof:
    """A figure predicted and read.

    off: by how much it is off, as a ratio less 1 or in stops; tolerance: what marks, tape, eye and reading leave open
    """

    what: str
    predicted: float
    measured: float
    off: float
    tolerance: float
    outcome: Outcome
    bound: str = ""
    doubts: tuple[str, ...] = ()
    is_relative: bool = False
    noted: float | None = None

    @property
    def scale(self) -> FigureScale:
        return SCALES[self.what]


def prove(wanted: Expected, reading: PictureReading, first: PictureReading | None = None) -> Proof | None:
    """A reading against its prediction.

    Parameters
        reading: of the picture; first: the same read off the picture of the reference, where the two are set against
            each other
    Returns
        None where there is no prediction of it
    """
    value, within, doubts, bound = reading.value, reading.within, reading.doubts, reading.bound
    if first is not None:
        value, within = value / first.value, hypot(within, first.within)
        doubts = tuple(dict.fromkeys((*doubts, *first.doubts)))
        bound = bound or {"least": "most", "most": "least", "": ""}[first.bound]
    off = off_by(wanted.what, value, wanted.predicted)
    if not isfinite(off):
        return None
    allowed = hypot(wanted.tolerance, within)
    outcome = judged(off, allowed, SCALES[wanted.what].telling, bound)
    return Proof(
        wanted.what, wanted.predicted, value, off, allowed, outcome, bound, doubts, wanted.is_relative, reading.noted
    )


def judged(off: float, allowed: float, telling: float, bound: str = "") -> Outcome:
    """Whether a prediction held: off by no more than is allowed, and that little enough to say something.

    Parameters
        off: by how much the reading differs
        allowed: what marks, tape and eye leave open
        telling: the difference that would be worth knowing
        bound: where the reading is only a limit, of which side
    Returns
        held, not held, or too coarse to tell
    """
    if bound:
        return Outcome.MISSED if (off < -allowed if bound == "most" else off > allowed) else Outcome.OPEN
    if abs(off) > allowed:
        return Outcome.MISSED
    return Outcome.HELD if allowed <= telling else Outcome.OPEN


@dataclass(frozen=True)
class Softening:
    """How much softer a stop is than the sharpest wider one of its run, as shares of it: measured and predicted.

    off: by how much more of the sharpness is left than predicted, as a share; tolerance: what is allowed of that
    wider: the f-number of that stop; lens_known: whether it is known how finely the lens draws at both
    """

    wider: float
    measured: float
    predicted: float
    off: float
    tolerance: float
    outcome: Outcome
    lens_known: bool


def softening(
    taken: Comparison, index: int, readings: Mapping[float, PictureReading], f_number: float
) -> Softening | None:
    """A stop of a run against the sharpest wider one, pixel by pixel, from a tripod: pixels, diffraction, and the lens
    where it is known.

    Parameters
        taken: as the pictures were taken; index: of the rig
        readings: MTF50 in cycles per pixel, by f-number as marked on the lens
        f_number: of the picture
    Returns
        None where no wider stop was read, or nothing is predicted
    """
    here = readings.get(f_number)
    wider = {stop: reading for stop, reading in readings.items() if stop < f_number and not reading.bound}
    if here is None or here.bound or not wider:
        return None
    best = max(wider, key=lambda stop: wider[stop].value)
    still = replace(taken, brief=replace(taken.brief, support="tripod", subject_speed_m_per_s=0.0))

    def sharp(stop: float) -> float:
        rig = replace(still.rigs[index], f_number=stop, by_hand="")
        return with_rig(still, index, rig, still.brief).of(index).sharpness.mtf50_per_mm

    predicted = 1 - sharp(f_number) / sharp(best)
    if not isfinite(predicted):
        return None
    measured = 1 - here.value / wider[best].value
    allowed = hypot(here.within, wider[best].within, RUN)
    off = (1 - measured) / (1 - predicted) - 1
    lens = taken.of(index).carrier.lens
    lens_known = all(lens.mtf50_per_mm(stop) is not None for stop in (best, f_number))
    outcome = judged(off, allowed, TELLING_RUN)
    if outcome is Outcome.MISSED and not lens_known:
        # the faults of a lens hide what diffraction does, or outgrow it
        outcome = Outcome.OPEN
    return Softening(best, measured, predicted, off, allowed, outcome, lens_known)


def steady_held(sharp: int, frames: int) -> Outcome:
    """Whether "most of them sharp" held: more than half by more than one, fewer by more than one, or too near to tell.

    Parameters
        sharp: of the frames
        frames: that were taken
    Returns
        held, not held, or too near to tell
    """
    half = frames * HALF
    return Outcome.HELD if sharp > half + HALF else Outcome.MISSED if sharp < half - HALF else Outcome.OPEN


def points_held(taken: Comparison, index: int, are_points: bool) -> Outcome | None:
    """Whether stars are points, or drawn out, as the time says at which it was taken.

    Parameters
        taken: as the pictures were taken
        index: of the rig
        are_points: as the eye says
    Returns
        None where it is not known how long stars are points
    """
    declination = taken.brief.declination_deg
    if declination is None:
        return None
    rig = taken.of(index)
    longest = longest_as_points_s(taken, rig, declination)
    if not isfinite(longest):
        return None
    ratio = rig.settings.shutter_s / longest
    if abs(log(ratio)) < log(1 + EYE):
        return Outcome.OPEN if (ratio <= 1) != are_points else Outcome.HELD
    return Outcome.HELD if (ratio <= 1) == are_points else Outcome.MISSED


def per_mm(cycles_per_pixel: Quantity, pitch_um: Quantity) -> Quantity:
    """Cycles to a millimetre of the sensor from cycles to a pixel [1/mm].

    Parameters
        cycles_per_pixel: scalar or array
        pitch_um: of the pixels [µm]
    Returns
        [1/mm]
    """
    return cycles_per_pixel / (positive("pitch_um", pitch_um) / 1000)
