"""From a comparison to what the templates write out: plates, their settings and figures, flags and marks. All
arithmetic is done by now.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, isfinite

from cambrel import wording
from cambrel.bench.plate_settings import PlateSetting, exact_text, settings_of, slides_of
from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.fulfilment import Fulfilment
from cambrel.comparison.metering import metered
from cambrel.comparison.rig import aperture_stops
from cambrel.comparison.status import Status
from cambrel.optics.formats import FORMATS, covers
from cambrel.optics.quantities import is_unknown
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


def _void_plate(bench: Bench, index: int) -> Plate:
    slot = bench.slots[index]
    named = zip(labels(bench, bench.conventions.home), HEADLINES, strict=True)
    figures = tuple(Quantity(long, short, DASH, of=of) for (long, short), of in named)
    slides = slides_of(slot.rig)
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
    settings = settings_of(bench, comparison, rig, units)
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
            f"{exact_text(d.near_m)} to {exact_text(d.far_m, 'm')}",
            wording.span(d.near_m, d.far_m, units),
        ),
        (
            wording.share(b.background_share),
            exact_text(b.background_share),
            _dissolves(b.background_dissolves_mm, units),
        ),
        (
            "reference" if is_first else wording.signed_stops(light.total_stops),
            exact_text(light.total_stops, "stops"),
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
