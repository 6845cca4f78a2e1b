"""What a picture demands of time: a shutter fast enough for what is asked, for hands, for movement and for stars; and
of a film the frames a second that are asked for.
"""

from __future__ import annotations

from math import inf, log2, nan

from cambrel.comparison.brief import SUPPORTS
from cambrel.comparison.demand import CANNOT, DOES, NEARLY, UNKNOWN, Demand, Rule, by_stops
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.moving_pictures import does_rate, video_mode
from cambrel.comparison.schools import support_of
from cambrel.comparison.slowest_shutter import held_s
from cambrel.comparison.starlight import longest_as_points_s
from cambrel.comparison.steps import LONGEST_HELD_S
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure


def _slow(rig: RigFigures, allowed_s: float, key: str, text: str) -> Demand:
    """A time that must not be passed."""
    figures = {"got": Figure(rig.settings.shutter_s, "s"), "asked": Figure(allowed_s, "s")}
    missed = log2(rig.settings.shutter_s / allowed_s)
    return Demand(text, figures, key, missed, by_stops(missed), "fast enough at {got}")


def _hands(comparison: Comparison, rig: RigFigures) -> Demand | None:
    """How long what carries the camera holds it: a hand, where nobody said. A film is exposed as its angle says."""
    held = held_s(comparison, rig)
    if not held < inf or comparison.brief.frame_rate is not None:
        return None
    carries = SUPPORTS[support_of(comparison.brief)].says
    demand = _slow(
        rig, min(held, LONGEST_HELD_S), "hands", f"{{got}} is too slow for {carries}, {{asked}} is the limit"
    )
    return demand if demand.status is not DOES else None


def _shutter(comparison: Comparison, rig: RigFigures) -> Demand | None:
    slowest = comparison.brief.slowest_shutter_s
    return None if slowest is None else _slow(rig, slowest, "shutter", "{got} is slower than {asked}")


def _motion(comparison: Comparison, rig: RigFigures) -> Demand | None:
    """Whether what moves is frozen; on a film it need not be."""
    moved, circle = rig.blur.movement_mm, rig.frames.coc_mm
    if not moved > 0 or comparison.brief.frame_rate is not None:
        return None
    if is_unknown(circle):
        return Demand("movement cannot be judged", {}, "motion", nan, UNKNOWN)
    # the shutter time in which the image moves by one circle of confusion
    return _slow(rig, rig.settings.shutter_s * circle / moved, "motion", "the movement shows at {got}, not at {asked}")


def _stars(comparison: Comparison, rig: RigFigures) -> Demand | None:
    declination = comparison.brief.declination_deg
    if declination is None:
        return None
    longest = longest_as_points_s(comparison, rig, declination)
    if is_unknown(longest):
        return Demand("star trails cannot be judged", {}, "stars", nan, UNKNOWN)
    return _slow(rig, longest, "stars", "stars trail at {got}, not at {asked}")


def _rate(comparison: Comparison, rig: RigFigures) -> Demand | None:
    """Whether what records does the frames a second of a film; where another mode of the body does, that is named."""
    wanted = comparison.brief.frame_rate
    if wanted is None:
        return None
    body, recorded = rig.rig.body, rig.rig.recorded
    figures = {"rate": Figure(wanted, "number")}
    got = None if recorded is None else recorded.frame_rate
    if got is not None and does_rate(got, wanted):
        return Demand("", {}, "rate", 0.0, DOES)
    if got is not None:
        text, figures["got"] = "records {got} frames a second, not {rate}", Figure(got, "number")
    else:
        text = "the whole sensor records no film" if recorded is None else "its mode may not do {rate} frames a second"
    other = video_mode(rig.rig, wanted)
    if other is not None:
        figures["mode"] = Figure(body.modes[other].label or "another mode", "word")
        return Demand(text + "; {mode} would be enough", figures, "rate", inf, NEARLY)
    rates = [mode.frame_rate for mode in body.modes if mode.frame_rate is not None]
    if got is None and (recorded is not None or not rates):
        return Demand("whether it does {rate} frames a second is not known", figures, "rate", nan, UNKNOWN)
    if got is None:
        text, figures["got"] = "its modes end at {got} frames a second, not {rate}", Figure(max(rates), "number")
    return Demand(text, figures, "rate", inf, CANNOT)


TIME_RULES: tuple[Rule, ...] = (_shutter, _motion, _stars, _hands, _rate)
