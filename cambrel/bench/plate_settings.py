"""The settings on a plate: what each is, whether it follows, and the nearest that a camera offers."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import inf, isfinite

from cambrel import wording
from cambrel.bench.bindings import chosen_because
from cambrel.comparison.bench import Bench
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.marks import Marks, marks_of
from cambrel.comparison.rig import BY_HAND, Rig, aperture_stops
from cambrel.inputs.widgets import Slide
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, Stop, between, nearest_within
from cambrel.wording import LETTERS, Units


@dataclass(frozen=True)
class PlateSetting:
    """A setting of a rig: what it is now, whether it follows, the nearest camera setting, and what it could not
    reach.
    """

    key: str
    label: str
    question: str
    follows: str
    text: str
    exact: str
    nearest: str = ""
    limit: str = ""
    slide: Slide | None = None
    choose: str = ""
    """The press that lets the picture choose it again, where it was set by hand."""
    waits: bool = False
    """Not shown under the hold in force, but there, so that a change of the hold need not replace the controls."""


def _stops_slide(
    series: tuple[Stop, ...], low: float | None, high: float | None, usual: tuple[float, float]
) -> Slide | None:
    """A slider over the camera stops that the gear offers; none where there is but one."""
    marks = between(series, usual[0] if low is None else low, usual[1] if high is None else high)
    return Slide("stops", len(marks) - 1, " ".join(stop.marked for stop in marks)) if len(marks) > 1 else None


def slides_of(rig: Rig) -> dict[str, Slide | None]:
    """The sliders of a rig's own settings, over what its own gear can do."""
    lens, body = rig.lens, rig.body
    low, high = lens.focal_min_mm or rig.focal_length_mm / 4, lens.focal_max_mm or rig.focal_length_mm * 4
    widest = min((number for _, number in lens.widest), default=None)
    return {
        "focal_length_mm": Slide("ratio", 400, low=repr(low), high=repr(high)) if high > low else None,
        "distance_m": Slide("ratio", 1000, low="0.1", high="1000"),
        "f_number": _stops_slide(F_NUMBERS, widest, lens.smallest_f_number, (0.95, 32)),
        "shutter_s": _stops_slide(SHUTTERS, body.fastest_shutter_s, body.slowest_shutter_s, (1 / 8000, 30)),
        "iso": _stops_slide(ISOS, body.base_iso, body.ceiling_iso, (50, 102400)),
    }


def exact_text(value: float, unit: str = "") -> str:
    return f"{wording.exact(value)} {unit}".strip()


def _nearest(
    value: float, series: tuple[Stop, ...], prefix: str, halves: int, low: float | None, high: float | None
) -> str:
    """The nearest setting that this gear offers and what it costs; nothing where the value is that setting."""
    if not isfinite(value) or value <= 0:
        return ""
    stop = nearest_within(value, series, low, high)
    if abs(stop.typed / value - 1) < SETTING:
        return ""
    marked = stop.marked if "/" in stop.marked or prefix else wording.shutter(stop.typed)
    cost = abs(aperture_stops(value, stop.exact)) / halves
    return f"set {prefix}{marked}" + (f", {cost:.1f} stop off" if cost >= 0.05 else "")


SETTING = 1e-9
"""A value within this (relative) of a setting is that setting."""


def settings_of(bench: Bench, comparison: Comparison, rig: RigFigures, units: Units) -> tuple[PlateSetting, ...]:
    s, hold = rig.settings, comparison.hold
    first = LETTERS[comparison.reference]
    is_first = rig.index == comparison.reference
    opened = hold.of_aperture.opens_reference

    def follows(question: str, key: str = "") -> str:
        if comparison.asked is not None:
            return chosen_because(comparison, rig, key)
        if question == "aperture" and opened:
            return "wide open"
        if question == "exposure" and opened and is_first and hold.of_exposure.follows:
            return "keeps its brightness"
        return "" if is_first or hold.answer(question).is_own else f"follows {first}"

    body = rig.rig.body
    widest = float(s.widest_f_number) if isfinite(s.widest_f_number) else None
    smallest = rig.smallest_f_number if isfinite(rig.smallest_f_number) else None
    marks = [
        PlateSetting(
            "focal_length_mm", "Focal length", "lens", follows("lens", "focal_length"),
            wording.focal(s.focal_length_mm),
            exact_text(s.focal_length_mm, "mm"), "", _focal_limit(rig),
        ),
        PlateSetting(
            "f_number", "Aperture", "aperture", follows("aperture", "f_number"), wording.f_number(s.f_number),
            "f/" + wording.exact(s.f_number), _nearest(s.f_number, F_NUMBERS, "f/", 1, widest, smallest), _f_limit(rig),
        ),
        PlateSetting(
            "shutter_s", "Shutter", "exposure", follows("exposure", "shutter"), wording.shutter(s.shutter_s),
            exact_text(s.shutter_s, "s"),
            _nearest(s.shutter_s, SHUTTERS, "", 2, body.fastest_shutter_s, body.slowest_shutter_s),
            f"ends at {wording.shutter(s.shutter_s)}" if _held(rig, s.shutter_s, s.wanted_shutter_s) else "",
        ),
        PlateSetting(
            "iso", "ISO", "exposure", follows("exposure", "iso"), wording.iso(s.iso),
            "ISO " + wording.exact(s.iso), _nearest(s.iso, ISOS, "ISO ", 2, body.base_iso, body.ceiling_iso),
            f"ends at {wording.iso(s.iso)}" if _held(rig, s.iso, s.wanted_iso) else "",
        ),
    ]  # fmt: skip
    if comparison.asked is not None:
        marks = [_at_best(rig, mark) for mark in marks]
    elif not is_first:
        text = wording.distance(s.subject_distance_m, units)
        exact = exact_text(s.subject_distance_m, "m")
        marks.insert(
            1,
            PlateSetting(
                "distance_m",
                "Distance",
                "place",
                follows("place"),
                text,
                exact,
                waits=not hold.of_place.is_own and not hold.of_place.walks,
            ),
        )
    slides = slides_of(rig.rig)
    return tuple(replace(setting, slide=slides[setting.key]) for setting in marks)


def _at_best(rig: RigFigures, setting: PlateSetting) -> PlateSetting:
    """A setting that the picture chooses: it offers to be set by hand, and one that is offers to be chosen again."""
    letter = next(key for key, name in BY_HAND.items() if name == setting.key)
    if rig.settings.focusable and setting.key in MARKED:
        # what is advised exists on a camera; the exact value stands behind it
        setting = replace(setting, text=MARKED[setting.key](marks_of(rig), rig.carrier.converter))
    if letter in rig.rig.by_hand:
        return replace(setting, follows="", choose=f"choose:{rig.index}:{letter}")
    return replace(setting, question=f"best:{rig.index}:{letter}", limit="")


MARKED: dict[str, Callable[[Marks, float], str]] = {
    "f_number": lambda marks, converter: wording.f_number(marks.f_number * converter),
    "shutter_s": lambda marks, converter: wording.shutter(marks.shutter_s),
    "iso": lambda marks, converter: wording.iso(marks.iso),
}


def _held(rig: RigFigures, reached: float, wanted: float) -> bool:
    """Whether the body could not go where the hold wanted it, and the rest was not given to the other variable."""
    return rig.settings.focusable and reached != wanted and not rig.rig.take_rest


def _focal_limit(rig: RigFigures) -> str:
    s = rig.settings
    if not s.focusable or not abs(s.wanted_focal_length_mm / s.focal_length_mm - 1) > 1e-9:
        return ""
    return f"needs {wording.focal(s.wanted_focal_length_mm)}"


def _f_limit(rig: RigFigures) -> str:
    s = rig.settings
    if not s.focusable or s.wanted_f_number == inf:
        return "no aperture does" if s.focusable else ""
    short = aperture_stops(s.f_number, s.wanted_f_number)
    if abs(short) < 1e-9:
        return ""
    return f"needs {wording.f_number(s.wanted_f_number)}, {wording.stops(short)} off"
