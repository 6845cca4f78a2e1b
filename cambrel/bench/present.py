"""From a comparison to what the templates write out: plates, their settings and figures, flags and marks. All
arithmetic is done by now.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import inf, isfinite

from cambrel import wording
from cambrel.bench.bindings import chosen_because
from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.fulfilment import Fulfilment
from cambrel.comparison.marks import Marks, marks_of
from cambrel.comparison.metering import metered
from cambrel.comparison.rig import BY_HAND, Rig, aperture_stops
from cambrel.comparison.status import Status
from cambrel.inputs.widgets import Slide
from cambrel.optics.formats import FORMATS, covers
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, Stop, between, nearest_within
from cambrel.wording import DASH, LETTERS, Units
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW


@dataclass(frozen=True)
class Quantity:
    """A figure on a plate: its label, how it reads, and its exact value for copying."""

    label: str
    short: str
    text: str
    exact: str = ""
    note: str = ""
    of: str = ""
    """What of `optics.lines` it is."""


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


@dataclass(frozen=True)
class Plate:
    """One rig on the bench."""

    index: int
    letter: str
    is_reference: bool
    body_name: str
    lens_name: str
    lens_note: str
    mount: str
    settings: tuple[PlateSetting, ...]
    figures: tuple[Quantity, ...]
    status: str
    status_key: str
    status_text: str
    checks: tuple[str, ...]
    flags: tuple[tuple[str, str], ...]
    """Each with the figure that it is about."""
    rest: str = ""
    meter: str = ""
    void: bool = False
    has_modes: bool = False
    summary: str = ""
    follows: str = ""
    """Said once a rig: whom it follows, or that it is what the others are compared with."""
    says: str = ""
    other_mount: str = ""
    """That the lens does not go on the body, where it does not."""


HEADLINES = ("home_focal", "total", "background_share", "total_stops")
"""The headline figures, by their keys in `optics.lines`."""


def labels(bench: Bench, home: str) -> tuple[tuple[str, str], ...]:
    """The four headline figures of a rig, each with a short form for narrow columns."""
    return (
        (f"as {wording.in_words(FORMATS[home].name)}", "equivalent"),
        ("depth of field", "depth"),
        (f"{bench.background_name or 'background'} blur", "blur"),
        ("light, whole picture", "light"),
    )


def plates(
    bench: Bench, comparison: Comparison | None, briefed: list[Fulfilment], void: list[int], units: Units
) -> list[Plate]:
    """A plate for every rig; dashes for those whose settings cannot be used, and for all where nothing can be
    compared.
    """
    made = []
    for index in range(len(bench.slots)):
        if comparison is None or index in void:
            made.append(_void_plate(bench, index))
        else:
            made.append(_plate(bench, comparison, briefed[index], comparison.of(index), units))
    return made


def _stops_slide(
    series: tuple[Stop, ...], low: float | None, high: float | None, usual: tuple[float, float]
) -> Slide | None:
    """A slider over the camera stops that the gear offers; none where there is but one."""
    marks = between(series, usual[0] if low is None else low, usual[1] if high is None else high)
    return Slide("stops", len(marks) - 1, " ".join(stop.marked for stop in marks)) if len(marks) > 1 else None


def _slides(rig: Rig) -> dict[str, Slide | None]:
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


def _void_plate(bench: Bench, index: int) -> Plate:
    slot = bench.slots[index]
    named = zip(labels(bench, bench.conventions.home), HEADLINES, strict=True)
    figures = tuple(Quantity(long, short, DASH, of=of) for (long, short), of in named)
    slides = _slides(slot.rig)
    settings = tuple(
        PlateSetting(key, label, question, "", DASH, "", slide=slides[key])
        for key, label, question in (
            ("focal_length_mm", "Focal length", "lens"),
            ("distance_m", "Distance", "place"),
            ("f_number", "Aperture", "aperture"),
            ("shutter_s", "Shutter", "exposure"),
            ("iso", "ISO", "exposure"),
        )
        if key != "distance_m" or index != bench.reference
    )
    return Plate(
        index, LETTERS[index], index == bench.reference, slot.body_called, slot.lens_name, "", slot.rig.body.mount,
        settings, figures,
        DASH, "unknown", "no figures", (), (), void=True, has_modes=bool(slot.rig.body.modes),
    )  # fmt: skip


def _plate(bench: Bench, comparison: Comparison, briefed: Fulfilment, rig: RigFigures, units: Units) -> Plate:
    slot = bench.slots[rig.index]
    settings = _settings(bench, comparison, rig, units)
    worst = briefed.checks[0] if briefed.checks else None
    figures = _figures(bench, comparison, rig, units)
    shown = ("focal_length_mm", "f_number", "shutter_s", "iso")
    summary = " · ".join(setting.text for setting in settings if setting.key in shown)
    return Plate(
        index=rig.index,
        letter=LETTERS[rig.index],
        is_reference=rig.index == comparison.reference,
        body_name=slot.body_called or "body",
        lens_name=slot.lens_name or "any lens",
        lens_note=_lens_note(bench, rig.index),
        other_mount=_other_mount(slot, rig),
        mount=slot.rig.body.mount,
        settings=settings,
        figures=figures,
        status=briefed.status,
        status_key=briefed.status.key,
        status_text=wording.sentence(worst, units) if worst and worst.status != Status.DOES else "",
        checks=tuple(f"{check.status}: {wording.sentence(check, units)}" for check in briefed.checks),
        flags=tuple(_flags(comparison, rig, units)),
        rest=_rest(comparison, rig),
        meter=_meter(comparison, rig),
        summary=summary,
        follows=_follows(comparison, rig, settings),
        has_modes=bool(slot.rig.body.modes),
        says=f"{LETTERS[rig.index]}: " + ", ".join(f"{figure.label} {figure.text}" for figure in figures),
    )


def _follows(comparison: Comparison, rig: RigFigures, settings: tuple[PlateSetting, ...]) -> str:
    if comparison.asked is not None:
        first = "reference, " if rig.index == comparison.reference else ""
        return first + ("at its best" if not rig.rig.by_hand else "partly by hand")
    if rig.index == comparison.reference:
        return "reference"
    first = f"follows {LETTERS[comparison.reference]}"
    return first if any(setting.follows == first for setting in settings) else "set by hand"


def _lens_note(bench: Bench, index: int) -> str:
    """Under "same lens" the rig's own lens waits; at its best each has its own."""
    if not bench.hold.of_lens.is_shared or bench.hold.is_best:
        return ""
    donor = bench.hold.donor(bench.reference)
    return "" if donor == index else f"waits: {LETTERS[donor]}'s lens is on"


def _exact(value: float, unit: str = "") -> str:
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


def _settings(bench: Bench, comparison: Comparison, rig: RigFigures, units: Units) -> tuple[PlateSetting, ...]:
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
            _exact(s.focal_length_mm, "mm"), "", _focal_limit(rig),
        ),
        PlateSetting(
            "f_number", "Aperture", "aperture", follows("aperture", "f_number"), wording.f_number(s.f_number),
            "f/" + wording.exact(s.f_number), _nearest(s.f_number, F_NUMBERS, "f/", 1, widest, smallest), _f_limit(rig),
        ),
        PlateSetting(
            "shutter_s", "Shutter", "exposure", follows("exposure", "shutter"), wording.shutter(s.shutter_s),
            _exact(s.shutter_s, "s"),
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
        exact = _exact(s.subject_distance_m, "m")
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
    slides = _slides(rig.rig)
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


def _figures(bench: Bench, comparison: Comparison, rig: RigFigures, units: Units) -> tuple[Quantity, ...]:
    v, d, b, light = rig.view, rig.depth, rig.blur, rig.light
    first = LETTERS[comparison.reference]
    is_first = rig.index == comparison.reference

    def pair(focal: float, number: float) -> tuple[str, str]:
        if not isfinite(focal):
            return DASH, ""
        return (
            f"{wording.focal(focal)} {wording.f_number(number)}",
            f"{wording.exact(focal)} mm f/{wording.exact(number)}",
        )

    home = pair(v.home_focal_length_mm, b.home_f_number)
    full = pair(v.full_frame_focal_length_mm, b.full_frame_f_number)
    exposed = f"exposes like {wording.f_number(light.effective_f_number)}" if isfinite(light.effective_f_number) else ""
    beside = exposed if comparison.conventions.home == "full-frame" else f"full frame {full[0]}"
    looks = (
        "" if is_first or not isfinite(light.looks_like_iso) else f"as {wording.iso(light.looks_like_iso)} on {first}"
    )
    values = (
        (*home, beside),
        (
            wording.distance(d.total_m, units),
            f"{_exact(d.near_m)} to {_exact(d.far_m, 'm')}",
            wording.span(d.near_m, d.far_m, units),
        ),
        (wording.share(b.background_share), _exact(b.background_share), _dissolves(b.background_dissolves_mm, units)),
        (
            "reference" if is_first else wording.signed_stops(light.total_stops),
            _exact(light.total_stops, "stops"),
            looks,
        ),
    )
    named = zip(labels(bench, comparison.conventions.home), values, HEADLINES, strict=True)
    return tuple(Quantity(*label, *value, of=of) for label, value, of in named)


def _dissolves(size_mm: float, units: Units) -> str:
    """The size on the background below which detail is lost in the blur."""
    return f"under {wording.distance(size_mm / 1000, units, 2)} lost" if isfinite(size_mm) and size_mm > 0 else ""


def _end_of_range(rig: RigFigures) -> str:
    """Which focal length it is that a lens stops at."""
    if rig.focal_range_mm[0] == rig.focal_range_mm[1]:
        return "only focal length"
    return "longest" if rig.settings.focal_length_mm < rig.settings.wanted_focal_length_mm else "shortest"


def _flags(comparison: Comparison, rig: RigFigures, units: Units) -> list[tuple[str, str]]:
    s = rig.settings
    if not s.focusable:
        return [("cannot focus there", "focus")]
    flags: list[tuple[str, str]] = []
    if abs(s.wanted_focal_length_mm / s.focal_length_mm - 1) > LEVEL_VIEW:
        flags.append((f"{wording.focal(s.focal_length_mm)} is its {_end_of_range(rig)}", "focal"))
    if s.wanted_f_number == inf or abs(aperture_stops(s.f_number, s.wanted_f_number)) > LEVEL_STOPS:
        end = "widest" if s.f_number > s.wanted_f_number else "smallest"
        flags.append((f"{wording.f_number(s.f_number)} is its {end}", "f_number"))
    if s.object_distance_m > s.wanted_object_distance_m * (1 + LEVEL_VIEW):
        flags.append((f"focuses from {wording.distance(s.object_distance_m, units)}", "focus"))
    if rig.index == comparison.reference and abs(rig.light.error_stops) > LEVEL_STOPS:
        word = "bright" if rig.light.error_stops > 0 else "dark"
        flags.append((f"{wording.stops(rig.light.error_stops)} too {word} for this light", "error"))
    if abs(rig.light.brightness_stops) > LEVEL_STOPS:
        flags.append((f"{wording.signed_stops(rig.light.brightness_stops)} brightness", "brightness"))
    if not is_unknown(rig.outfit.image_circle_share) and not covers(rig.outfit.image_circle_share, 1.0):
        flags.append(("dark corners", "circle"))
    if rig.outfit.mount_fits == 0:
        flags.append(("other mount", "mount"))
    if rig.diffraction.over_coc > 1:
        flags.append(("diffraction", "airy_coc"))
    return flags


def _other_mount(slot: Slot, rig: RigFigures) -> str:
    if rig.outfit.mount_fits != 0:
        return ""
    body, lens = slot.rig.body.mount, slot.rig.lens.mount
    return (
        f"{slot.lens_name or 'The lens'} has the {lens} mount, and {slot.body_called or 'the body'} "
        f"takes {body}. Its own lenses come first."
    )


def _rest(comparison: Comparison, rig: RigFigures) -> str:
    """The label of the press that lets the other variable take what is left, or takes that back."""
    s, hold = rig.settings, comparison.hold.of_exposure
    if not hold.follows or not s.focusable:
        return ""
    other = hold.other
    if rig.rig.take_rest:
        return f"give the rest back from the {other}"
    held = s.iso != s.wanted_iso if hold.follows == "iso" else s.shutter_s != s.wanted_shutter_s
    left_over = held and rig.index != comparison.reference and abs(rig.light.brightness_stops) > LEVEL_STOPS
    left_over = left_over and abs(comparison.first.light.error_stops) <= LEVEL_STOPS
    return f"let the {other} take {wording.stops(rig.light.brightness_stops)}" if left_over else ""


def _meter(comparison: Comparison, rig: RigFigures) -> str:
    """The label of the press that sets the reference for the light; empty where it is set for it, or its body has
    nothing nearer.
    """
    if rig.index != comparison.reference or not abs(rig.light.error_stops) > LEVEL_STOPS:
        return ""
    to = metered(comparison)
    parts = [wording.iso(to.iso)] if to.iso != rig.rig.iso else []
    parts += [wording.shutter(to.shutter_s)] if to.shutter_s != rig.rig.shutter_s else []
    return f"meter: {', '.join(parts)}" if parts else ""
