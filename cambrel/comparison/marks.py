"""The settings that a rig's gear offers nearest to those in force: what is advised exists on a camera."""

from __future__ import annotations

from dataclasses import dataclass

from cambrel.comparison.figures import RigFigures
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, nearest_within


@dataclass(frozen=True)
class Marks:
    """f_number: on the lens itself, without its converter"""

    f_number: float
    shutter_s: float
    iso: float


def marks_of(rig: RigFigures) -> Marks:
    """The marks nearest to the settings of a rig that sees its subject; a time beyond the marks is counted, so that it
    stays.

    Parameters
        rig: that sees its subject
    Returns
        marks in thirds; a time beyond the marks as it is, since it is counted
    """
    s, lens, times, body = rig.settings, rig.carrier.lens, rig.carrier.converter, rig.rig.body
    widest = s.widest_f_number / times if not is_unknown(s.widest_f_number) else None
    counted = s.shutter_s > SHUTTERS[-1].exact * 2 ** (1 / 6)
    return Marks(
        nearest_within(s.f_number / times, F_NUMBERS, widest, lens.smallest_f_number).typed,
        (
            s.shutter_s
            if counted
            else nearest_within(s.shutter_s, SHUTTERS, body.fastest_shutter_s, rig.rig.slowest_shutter_s).typed
        ),
        nearest_within(s.iso, ISOS, body.base_iso, body.ceiling_iso).typed,
    )


def settings_of(rig: RigFigures, *, marked: bool) -> tuple[float, float, float, float]:
    """What a rig is set to, as computed or at the nearest marks that its gear offers.

    Returns
        focal length and f-number as the rig sees them, converter included [mm, none], shutter time [s] and ISO
    """
    s = rig.settings
    if not marked:
        return s.focal_length_mm, s.f_number, s.shutter_s, s.iso
    marks = marks_of(rig)
    return s.focal_length_mm, marks.f_number * rig.carrier.converter, marks.shutter_s, marks.iso
