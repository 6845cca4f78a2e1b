"""A flash as the light of a picture: what each rig makes of it. The shutter does not matter to it."""

from __future__ import annotations

from dataclasses import dataclass
from math import log2

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.optics.closeup import flash_stops
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_STOPS, Sentence


@dataclass(frozen=True)
class Flash:
    """Of one rig at the subject's distance: how much too bright the flash is at full power, the ISO at which it is
    right, and how much less of it the rig asks for than the reference does [stops]."""

    error_stops: float
    iso: float
    less_stops: float


def flash(comparison: Comparison, rig: RigFigures) -> Flash | None:
    """What a flash of the brief's guide number comes to; None without one, or for a rig that sees nothing.

    Parameters
        comparison: whose brief has a guide number
        rig: one of it
    Returns
        None without a flash, or for a rig that sees nothing
    References
        "Applied Photographic Optics", guide numbers
    """
    guide = comparison.brief.flash_guide_m
    if guide is None or not rig.settings.focusable:
        return None
    s = rig.settings
    # the guide number is distance times f-number at ISO 100
    error = 2 * log2(guide / s.subject_distance_m) - _asks(rig) - log2(100)
    less = _asks(comparison.first) - _asks(rig) if comparison.first.settings.focusable else float("nan")
    return Flash(error, s.iso / 2.0**error, less)


def _asks(rig: RigFigures) -> float:
    return float(flash_stops(rig.settings.f_number, rig.view.magnification, rig.settings.iso))


def says_flash(rig: RigFigures, found: Flash) -> Sentence:
    """Whether the flash is enough, and the ISO at which it is right at full power.

    Parameters
        rig: whose flash it is
        found: its figures
    Returns
        one sentence with its figures
    """
    figures = {
        "b": Figure(rig.index, "rig"),
        "n": Figure(rig.settings.f_number, "f"),
        "iso": Figure(rig.settings.iso, "iso"),
        "stops": Figure(abs(found.error_stops), "stops"),
    }
    if found.error_stops > LEVEL_STOPS:
        return Sentence(
            "The flash is enough for {b} at {n} and {iso}, with {stops} to spare. The shutter time makes "
            "no difference.",
            figures,
        )
    if found.error_stops >= -LEVEL_STOPS:
        return Sentence(
            "The flash is just enough for {b} at {n} and {iso}. The shutter time makes no difference.", figures
        )
    figures["needed"] = Figure(found.iso, "iso")
    text = (
        "The flash is {stops} short for {b} at {n} and {iso}. {needed} would be enough. The shutter "
        "time makes no difference."
    )
    ceiling = rig.rig.body.ceiling_iso
    if ceiling is not None and found.iso > ceiling:
        text = (
            "The flash is {stops} short for {b} at {n} and {iso}. It would take {needed}, more than the "
            "camera has. The shutter time makes no difference."
        )
    return Sentence(text, figures)
