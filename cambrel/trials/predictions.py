"""What is predicted for the settings at which pictures were taken, and what marks, tape and eye leave open of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from math import hypot, inf, isfinite, log2

from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison, Rig, RigFigures, compare
from cambrel.comparison.tonal_range import range_of
from cambrel.optics.quantities import DomainError

MARKED_FOCAL = 0.02
MARKED_STOPS = 0.1
"""By how much f-number and ISO are off their marks; markings are rounded."""
SHUTTER_STOPS = 0.05
TAPE_SHARE, TAPE_M = 0.01, 0.02
"""Of a distance: that it is taken to the lens's pupil and not to the tripod, and that focus is put a little off."""
EYE = 0.2
"""By how much two who look take different discs for sharp."""
DEVELOPED_STOPS = 0.25
"""By how much developing a picture from its colour filters smooths noise; between two that were developed alike it
falls out.
"""
GENERATION_STOPS = 1 / 3
"""How far sensors of one size differ where nothing is said of them."""
HALF = 0.5


@dataclass(frozen=True)
class FigureScale:
    """How a figure is compared: by stops, or by its ratio.

    telling: the largest tolerance at which a trial still says something
    """

    kind: str
    telling: float
    is_stops: bool = False


SCALES: dict[str, FigureScale] = {
    "view": FigureScale("times", 0.1),
    "near": FigureScale("m", 0.4),
    "far": FigureScale("m", 0.4),
    "total": FigureScale("m", 0.4),
    "disc": FigureScale("share", 0.25),
    "snr": FigureScale("number", 1.0, is_stops=True),
    "brightness": FigureScale("stops", 0.5, is_stops=True),
    "pixels": FigureScale("count", 0.15),
    "range": FigureScale("stops", 1.5, is_stops=True),
}
"""The figures that are compared as numbers, with the kind as which each is shown."""
AGAINST_FIRST = {"view", "brightness"}
"""What only the reference's picture gives a meaning."""


@dataclass(frozen=True)
class As:
    """Settings as a picture was taken; None for what its file does not say."""

    focal_length_mm: float | None = None
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None


def as_taken(made: Comparison, taken: Mapping[int, As]) -> Comparison:
    """The comparison of a sheet at the settings at which pictures were taken, whole frames.

    Parameters
        made: at the settings of the sheet
        taken: settings of the pictures, by rig
    Returns
        the comparison at those, whole frames
    """
    rigs = list(made.rigs)
    for index, taken_as in taken.items():
        rig, times = rigs[index], made.of(index).rig.converter
        rigs[index] = replace(
            rig,
            focal_length_mm=(
                rig.focal_length_mm
                if taken_as.focal_length_mm is None
                else _inside(rig, taken_as.focal_length_mm / times)
            ),
            f_number=rig.f_number if taken_as.f_number is None else taken_as.f_number / times,
            shutter_s=rig.shutter_s if taken_as.shutter_s is None else taken_as.shutter_s,
            iso=rig.iso if taken_as.iso is None else taken_as.iso,
        )
    return compare(replace(made.brief, shape="native"), rigs, made.hold, made.conventions, made.reference)


def _inside(rig: Rig, focal_length_mm: float) -> float:
    """A focal length as far as the lens goes: files round it."""
    low, high = rig.lens.focal_min_mm or 0.0, rig.lens.focal_max_mm or inf
    return min(max(focal_length_mm, low), high)


Predict = Callable[[Comparison, RigFigures], float]


def _view(c: Comparison, rig: RigFigures) -> float:
    return hypot(rig.view.field_wide_m, rig.view.field_high_m) / hypot(
        c.first.view.field_wide_m, c.first.view.field_high_m
    )


def _range(c: Comparison, rig: RigFigures) -> float:
    held_range = range_of(c, rig, rig.settings.iso)
    return float("nan") if held_range is None else held_range.by[c.conventions.range]


PREDICT: dict[str, Predict] = {
    "view": _view,
    "near": lambda c, rig: rig.depth.near_m,
    "far": lambda c, rig: rig.depth.far_m,
    "total": lambda c, rig: rig.depth.total_m,
    "disc": lambda c, rig: rig.blur.background_share,
    "snr": lambda c, rig: rig.light.snr,
    "brightness": lambda c, rig: rig.light.brightness_stops,
    "pixels": lambda c, rig: rig.sharpness.pixels_on_subject,
    "range": _range,
}
"""What is predicted of each figure, in its unit."""


def tolerance(taken: Comparison, index: int, what: str, is_relative: bool) -> float:
    """What marks, tape and eye leave open of a prediction, in the terms of its scale: each by itself, together as the
    root of squares.

    Parameters
        taken: as the pictures were taken
        index: of the rig
        what: of SCALES
        is_relative: against the picture of the reference
    Returns
        0 or more
    References
        "Guide to the Expression of Uncertainty in Measurement"
    """
    moved = {index, taken.reference} if is_relative else {index}
    base = _predicted(taken, index, what, is_relative)
    parts = [
        off_by(what, _predicted(variation, index, what, is_relative), base)
        for rig in moved
        for variation in _variations(taken, rig, what)
    ]
    if what == "snr":
        parts += [GENERATION_STOPS] * len(moved) + ([] if is_relative else [DEVELOPED_STOPS])
    return hypot(*(part for part in parts if isfinite(part)))


def _predicted(c: Comparison, index: int, what: str, is_relative: bool) -> float:
    value = PREDICT[what](c, c.of(index))
    # view and brightness are told against the reference to begin with
    return value / PREDICT[what](c, c.first) if is_relative and what not in AGAINST_FIRST else value


def _variations(c: Comparison, index: int, what: str) -> list[Comparison]:
    """The comparison with one thing of one rig a little off, each by itself."""
    rig, brief = c.rigs[index], c.brief
    long = rig.lens.focal_max_mm is not None and rig.focal_length_mm * (1 + MARKED_FOCAL) > rig.lens.focal_max_mm
    focal = rig.focal_length_mm * (1 - MARKED_FOCAL if long else 1 + MARKED_FOCAL)
    is_fixed = long and rig.lens.focal_min_mm is not None and focal < rig.lens.focal_min_mm
    # a lens of one focal length is off its mark all the same
    lens = replace(rig.lens, focal_min_mm=focal, focal_max_mm=focal) if is_fixed else rig.lens
    eye = (1 + EYE) if what in ("near", "far", "total") else 1.0
    settings = c.of(index).settings
    n, t, iso = settings.f_number / c.of(index).rig.converter, settings.shutter_s, settings.iso
    offs = [
        replace(rig, lens=lens, focal_length_mm=focal),
        _stop_moved(rig, n, 2 ** (MARKED_STOPS / 2) * eye),
        replace(rig, shutter_s=_moved(t, 2**SHUTTER_STOPS, rig.slowest_shutter_s)),
        replace(rig, iso=_moved(iso, 2**MARKED_STOPS, rig.body.ceiling_iso)),
    ]
    made = [with_rig(c, index, off, brief) for off in offs]
    away = c.of(index).settings.subject_distance_m
    there = away * (1 + TAPE_SHARE) + TAPE_M
    if rig.distance_m is not None:
        made.append(with_rig(c, index, replace(rig, distance_m=there), brief))
    else:
        made.append(with_rig(c, index, rig, replace(brief, distance_m=there)))
    focus = brief.focus_distance_m
    if focus is not None and isfinite(focus):
        made.append(with_rig(c, index, rig, replace(brief, focus_distance_m=focus * (1 + TAPE_SHARE) + TAPE_M)))
    return made


def _stop_moved(rig: Rig, n: float, times: float) -> Rig:
    """A rig whose f-number is a little off its mark; a lens of one f-number is off it all the same."""
    smallest, widest = rig.lens.smallest_f_number, float(rig.lens.widest_f_number(rig.focal_length_mm))
    moved = _moved(n, times, smallest)
    if smallest is None or moved >= widest:
        return replace(rig, f_number=moved)
    points = tuple((focal, number * times) for focal, number in rig.lens.widest)
    return replace(rig, lens=replace(rig.lens, widest=points, smallest_f_number=smallest * times), f_number=n * times)


def _moved(value: float, times: float, high: float | None) -> float:
    """A setting a little higher, or lower where the gear goes no further."""
    return value / times if high is not None and value * times > high else value * times


def with_rig(c: Comparison, index: int, rig: Rig, brief: Brief) -> Comparison:
    """A comparison with another rig in the place of one.

    Parameters
        c: of which all else stays
        index: the place
        rig: that comes there
        brief: the picture, which may be another too
    Returns
        worked out
    """
    return compare(brief, [*c.rigs[:index], rig, *c.rigs[index + 1 :]], c.hold, c.conventions, c.reference)


def off_by(what: str, measured: float, predicted: float) -> float:
    """How far a figure is off, in the terms of its scale.

    Parameters
        what: of SCALES
        measured, predicted: in the unit of the figure
    Returns
        [stops], or the ratio less 1; NaN where there is nothing to set it against
    """
    scale = SCALES[what]
    if what == "snr":
        return 2 * log2(measured / predicted) if measured > 0 and predicted > 0 else float("nan")
    if scale.is_stops:
        return measured - predicted
    return measured / predicted - 1 if predicted > 0 and isfinite(predicted) else float("nan")


@dataclass(frozen=True)
class Expected:
    """What is predicted of a figure, and what is left open of it before anything is read."""

    what: str
    predicted: float
    tolerance: float
    is_relative: bool


def expected(taken: Comparison, index: int, what: str, *, against_first: bool = False) -> Expected:
    """What is predicted at the settings at which the pictures were taken.

    Parameters
        taken: `as_taken`
        index: of the rig
        what: of SCALES
        against_first: as a ratio to that of the reference; view and brightness are always told so
    Returns
        the figure and what it leaves open
    Raises
        DomainError where it is not known
    """
    if what not in SCALES:
        raise DomainError("what", f"one of {', '.join(SCALES)}", what)
    is_relative = what in AGAINST_FIRST or (against_first and index != taken.reference)
    predicted = _predicted(taken, index, what, is_relative)
    return Expected(what, predicted, tolerance(taken, index, what, is_relative), is_relative)
