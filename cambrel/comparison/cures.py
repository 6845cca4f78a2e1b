"""What would cure the demands that a rig misses as it is set: the settings that the picture asks for, at the marks that
its gear has.

A setting is advised only where, with all of them set so, the demand is met and no other is met less well than now.
Source: optics.asking, which
chooses the settings; they are judged again at the marks.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from math import inf, isfinite, log2

from cambrel.comparison import best_settings
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.demand import DOES, Demand
from cambrel.comparison.demands import demands_on
from cambrel.comparison.engine import Comparison, RigFigures, compare
from cambrel.comparison.rig import Rig
from cambrel.optics.quantities import DomainError, is_unknown
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, Stop, nearest_within
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, Sentence

CURABLE = frozenset(
    {"focus", "sharp", "background", "shutter", "motion", "stars", "hands", "bright", "dark", "light", "diffraction"}
)
"""Demands that f-number, time, ISO and focus decide."""
AT_BEST_OR_NEVER = frozenset({"light", "background"})
"""Demands that no settings meet where those that the picture asks for do not."""
FAILED_ANYWAY = frozenset({"range", "sharpness"})
"""Demands that settings do little for: where they fail now, failing them a little more stands in the way of nothing."""
AS_SET = Hold("own", "spot", "own", "own")
SAME = 1e-9
Demands = Mapping[int, Sequence[Demand]]


@dataclass(frozen=True)
class CureSetting:
    """A rig with other settings, and what it then is focused on; what is no more than a sixth of a stop off stays as it
    is set.
    """

    rig: Rig
    focus_m: float


def cures_of(comparison: Comparison, demands: Demands) -> dict[tuple[int, str], Sentence]:
    """By rig and demand, the settings that would cure it.

    Parameters
        comparison: worked out
        demands: of each rig, how far each is met
    Returns
        by the rig's place and the demand's key, a sentence; none for a picture that has chosen its settings already
    """
    if comparison.asked is not None:
        return {}
    cures: dict[tuple[int, str], Sentence] = {}
    places: dict[tuple[float, float | None], list[RigFigures]] = {}
    for index, asked in demands.items():
        if any(demand.status is not DOES and demand.key in CURABLE for demand in asked):
            places.setdefault(_place(comparison, comparison.of(index)), []).append(comparison.of(index))
    for (distance_m, focus_m), rigs in places.items():
        brief = replace(
            comparison.brief,
            distance_m=distance_m,
            focus_distance_m=focus_m,
            distance_from="lens",
            width_shown_m=None,
            framing_deg=None,
        )
        for patient in _patients(comparison, brief, rigs, demands):
            cures |= {(patient.rig.index, key): cure for key, cure in patient.cured.items()}
    return cures


def _with_time_of(now: Rig, settings: Iterator[CureSetting]) -> Iterator[CureSetting]:
    """Those settings that leave the shutter as it is."""
    return (setting for setting in settings if setting.rig.shutter_s == now.shutter_s)


def _place(comparison: Comparison, rig: RigFigures) -> tuple[float, float | None]:
    """Where a rig stands, and what it is focused on where the picture says so."""
    s = rig.settings
    return s.subject_distance_m, None if comparison.brief.focus_distance_m is None else s.object_distance_m


@dataclass
class _Patient:
    """A rig that misses something: what it misses now, what of that might be cured, the settings to be tried, each with
    what is said of it, and what is found.
    """

    rig: RigFigures
    now: Mapping[str, Demand]
    missed: list[str]
    settings: Mapping[CureSetting, Sentence]
    cured: dict[str, Sentence]

    def try_on(self, said: Sentence, then: Sequence[Demand]) -> None:
        """Take settings for what they cure, if they make nothing worse."""
        met = {demand.key: demand for demand in then}
        if not all(_is_no_worse(demand, self.now.get(demand.key)) for demand in then):
            return
        # what is no longer demanded, too bright where it now is a little dark, is met as well
        self.cured = {key: said for key in self.missed if key not in met or met[key].status is DOES} | self.cured

    @property
    def is_done(self) -> bool:
        return len(self.cured) == len(self.missed)


def _patients(comparison: Comparison, brief: Brief, rigs: Sequence[RigFigures], demands: Demands) -> list[_Patient]:
    """Rigs at one place with what was found for them."""
    carried = [replace(rig.as_set, distance_m=None) for rig in rigs]
    asked = best_settings.asked(
        brief,
        [rig.body for rig in carried],
        [rig.lens for rig in carried],
        comparison.conventions,
        converters=[rig.converter for rig in carried],
        by_hand=[best_settings.ByHand(focal_length_mm=rig.focal_length_mm) for rig in carried],
        rigs=carried,
    )
    patients = []
    for index, (rig, now) in enumerate(zip(rigs, carried, strict=True)):
        best = best_settings.one_of(asked, index)
        missed = [
            demand.key
            for demand in demands[rig.index]
            if demand.status is not DOES
            and demand.key in CURABLE
            and (demand.key not in AT_BEST_OR_NEVER or best.statuses[demand.key] == DOES)
        ]
        if missed and isfinite(best.f_number):
            settings = _settings(comparison.brief, rig, now, best)
            if brief.frame_rate is not None:  # the shutter of a film is fixed
                settings = _with_time_of(now, settings)
            others = {setting: said for setting in settings if (said := _says(rig, setting)) is not None}
            patients.append(_Patient(rig, {demand.key: demand for demand in demands[rig.index]}, missed, others, {}))
    _try_all(patients, brief, comparison.conventions)
    return patients


def _try_all(patients: Sequence[_Patient], brief: Brief, conventions: Conventions) -> None:
    """All settings at one focus are worked out at once; each rig tries its own in their order, until nothing is left
    to cure.
    """
    rigs_at: dict[float, list[Rig]] = {}
    for patient in patients:
        for setting in patient.settings:
            rigs_at.setdefault(setting.focus_m, []).append(setting.rig)
    compared_at: dict[float, Comparison] = {}
    for focus_m, rigs in rigs_at.items():
        with suppress(DomainError):
            compared_at[focus_m] = compare(replace(brief, focus_distance_m=focus_m), rigs, AS_SET, conventions)
    places = {focus_m: iter(range(len(rigs))) for focus_m, rigs in rigs_at.items()}
    for patient in patients:
        for setting, said in patient.settings.items():
            place, compared = next(places[setting.focus_m]), compared_at.get(setting.focus_m)
            if compared is not None and not patient.is_done and compared.settings.focusable[place]:
                patient.try_on(said, demands_on(compared, compared.of(place)))


def _is_no_worse(then: Demand, now: Demand | None) -> bool:
    """Whether a demand is met no less well than before, as far as is worth saying."""
    if then.status is DOES:
        return True
    if now is not None and then.key in FAILED_ANYWAY and then.status is now.status:
        return True
    before = -inf if now is None else now.missed
    return bool(then.missed <= before + SAME) or (is_unknown(then.missed) and is_unknown(before))


def _settings(brief: Brief, rig: RigFigures, now: Rig, asked: best_settings.Asked[float, str]) -> Iterator[CureSetting]:
    """Settings at the marks that the gear has, the fewest changes first: ISO, time or aperture alone, the slowest
    times, then all that
    the picture asks for: at the nearest marks, then at the next that stop down and shorten.
    """
    lens, body, times = now.lens, now.body, now.converter
    focus, wide = (
        rig.settings.object_distance_m,
        float(lens.widest_f_number(now.focal_length_mm)) if lens.widest else None,
    )
    spans = (body.fastest_shutter_s, now.slowest_shutter_s)
    ends = (wide, lens.smallest_f_number)

    def exposed(number: float, seconds: float, focus_m: float) -> CureSetting:
        """With the ISO that the light then asks for."""
        magnification = (
            0.0 if focus_m == inf else now.focal_length_mm * times / (1000 * focus_m - now.focal_length_mm * times)
        )
        iso = 100 / 2.0**brief.light_ev * (number * times * (1 + magnification)) ** 2 / seconds
        marked = nearest_within(iso, ISOS, body.base_iso, body.ceiling_iso).typed
        return CureSetting(replace(now, f_number=number, shutter_s=seconds, iso=_kept(marked, now.iso)), focus_m)

    off = rig.light.error_stops
    yield exposed(now.f_number, now.shutter_s, focus)
    by_time = nearest_within(now.shutter_s / 2**off, SHUTTERS, *spans).typed
    yield CureSetting(replace(now, shutter_s=_kept(by_time, now.shutter_s)), focus)
    by_number = nearest_within(now.f_number * 2 ** (off / 2), F_NUMBERS, *ends).typed
    yield CureSetting(replace(now, f_number=_kept(by_number, now.f_number, 2)), focus)
    # as slow as nothing blurs, and where that is too fast for the light, as slow as the picture itself lets it be
    for slowest in (asked.slowest_s, min(asked.slowest_s, now.shutter_s), brief.slowest_shutter_s or inf):
        if slowest < inf:
            yield exposed(now.f_number, _kept(_beyond(slowest, SHUTTERS, spans, up=False).typed, now.shutter_s), focus)
    wanted, place = asked.f_number / times, asked.focus_distance_m
    place = focus if focus < inf and abs(place / focus - 1) <= LEVEL_VIEW else place
    numbers = (nearest_within(wanted, F_NUMBERS, *ends), _beyond(wanted, F_NUMBERS, ends, up=True))
    seconds = (nearest_within(asked.shutter_s, SHUTTERS, *spans), _beyond(asked.shutter_s, SHUTTERS, spans, up=False))
    for number, second in zip(numbers, seconds, strict=True):
        yield exposed(_kept(number.typed, now.f_number, 2), _kept(second.typed, now.shutter_s), place)


def _kept(mark: float, now: float, stops_a_doubling: int = 1) -> float:
    """A mark, or what is set now where that is no more than is worth saying beside it."""
    return now if abs(log2(mark / now)) * stops_a_doubling <= LEVEL_STOPS else mark


def _beyond(value: float, series: tuple[Stop, ...], ends: tuple[float | None, float | None], *, up: bool) -> Stop:
    """The mark at or above a value, or at or below it, as far as the gear goes."""
    low, high = ends[0] or 0.0, ends[1] or inf
    inside = [
        stop for stop in series if low <= stop.typed <= high and (stop.typed >= value if up else stop.typed <= value)
    ]
    return (min if up else max)(inside, key=lambda stop: stop.typed, default=nearest_within(value, series, *ends))


def _says(rig: RigFigures, setting: CureSetting) -> Sentence | None:
    """What to set otherwise, in the words of a check; None where that is nothing."""
    now, then = replace(rig.as_set, distance_m=None), setting.rig
    parts: list[str] = []
    figures: dict[str, Figure] = {}
    if then.f_number != now.f_number:
        parts.append("{n_then}")
        figures["n_then"] = Figure(then.f_number, "f")
    if then.shutter_s != now.shutter_s:
        parts.append("{t_then}")
        figures["t_then"] = Figure(then.shutter_s, "s")
    if then.iso != now.iso:
        parts.append("{iso_then}")
        figures["iso_then"] = Figure(then.iso, "iso")
    if setting.focus_m != rig.settings.object_distance_m:
        parts.append("focus at {u_then}" if setting.focus_m < inf else "focus at infinity")
        figures |= {"u_then": Figure(setting.focus_m, "m")} if setting.focus_m < inf else {}
    if not parts:
        return None
    text = parts[0] if len(parts) == 1 else ", ".join(parts[:-1]) + " and " + parts[-1]
    return Sentence(f"; {text} would be enough", figures)
