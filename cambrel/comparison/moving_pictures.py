"""Moving pictures: the shutter that a frame rate and an angle fix, what is left over of the light or short of it, noise
at the size of delivery, leaning lines, flicker and panning.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import atan, degrees, log2, nan, sqrt

from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.brief import DELIVERIES, Brief
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.rig import BY_HAND, Rig
from cambrel.optics.light import iso_for_light
from cambrel.optics.quantities import DomainError, positive

FULL_CIRCLE_DEG = 360.0
USUAL_RATE, USUAL_ANGLE_DEG = 25.0, 180.0
CROSSING_S = 7.0
"""A rule of thumb for pans: what comes into the frame takes so long to cross it."""
SAFE = 0.01
"""A shutter time so near to a whole number of flashes of a lamp lets none be seen."""


def film_shutter_s(frame_rate: float, angle_deg: float) -> float:
    """How long each frame is exposed: the share of its time that a shutter of so many degrees is open.

    Parameters
        frame_rate: frames a second
        angle_deg: up to 360 [degrees]
    Returns
        [s]
    Raises
        DomainError for a rate that is not above 0, and an angle beyond the circle
    """
    angle = float(positive("shutter_angle_deg", angle_deg))
    if angle > FULL_CIRCLE_DEG:
        raise DomainError("shutter_angle_deg", "at most 360", angle_deg)
    return angle / (FULL_CIRCLE_DEG * float(positive("frame_rate", frame_rate)))


def with_time_fixed(rig: Rig, shutter_s: float) -> Rig:
    """A rig whose shutter time is given, also where the picture chooses the rest.

    Parameters
        rig: as it is set
        shutter_s: [s]
    Returns
        the same with that time
    """
    letters = "".join(key for key in BY_HAND if key in rig.by_hand or key == "t")
    return replace(rig, shutter_s=shutter_s, by_hand=letters)


def video_mode(rig: Rig, frame_rate: float) -> int | None:
    """The widest of a body's modes for video that does so many frames a second.

    Parameters
        rig: with its body
        frame_rate: frames a second
    Returns
        its number; None where none is known to
    """
    able = [
        (mode.sensor.width_mm, -number)
        for number, mode in enumerate(rig.body.modes)
        if mode.frame_rate is not None and mode.frame_rate >= frame_rate
    ]
    return -max(able)[1] if able else None


def as_film(bench: Bench, frame_rate: float = USUAL_RATE) -> Bench:
    """The same cameras on a film: each records in a mode for it, with the shutter that rate and angle fix.

    Parameters
        bench: of a still picture
        frame_rate: frames a second
    Returns
        a bench whose brief is a film
    """
    shape = DELIVERIES[bench.brief.delivery].shape
    brief = replace(bench.brief, frame_rate=frame_rate, shape=shape, slowest_shutter_s=None)
    slots = []
    for slot in bench.slots:
        mode = video_mode(slot.rig, frame_rate) if slot.rig.mode is None else slot.rig.mode
        slots.append(replace(slot, rig=replace(slot.rig, mode=mode)))
    return with_film_shutter(
        replace(bench, brief=brief, slots=tuple(slots), hold=replace(bench.hold, exposure="shutter"))
    )


def as_still(bench: Bench) -> Bench:
    """The same cameras on a still picture again: modes for video and fixed times are left.

    Parameters
        bench: of a film
    Returns
        a bench whose brief is a still picture
    """

    def freed(slot: Slot) -> Slot:
        rig = slot.rig
        recorded = rig.recorded
        mode = None if recorded is not None and recorded.frame_rate is not None else rig.mode
        return replace(slot, rig=replace(rig, mode=mode, by_hand=rig.by_hand.replace("t", "")))

    brief = replace(bench.brief, frame_rate=None, shape="native")
    return replace(bench, brief=brief, slots=tuple(map(freed, bench.slots)))


def with_film_shutter(bench: Bench, before: Bench | None = None) -> Bench:
    """A bench of a film with the one shutter time that its rate and angle fix; a time that was changed by hand changes
    the angle.

    Parameters
        bench: any
        before: as it was before a change
    Returns
        the same for a still picture
    """
    rate = bench.brief.frame_rate
    if rate is None:
        return bench
    brief = bench.brief
    if before is not None and (before.brief.frame_rate, before.brief.shutter_angle_deg) == (
        rate, brief.shutter_angle_deg
    ):  # fmt: skip
        for slot, was in zip(bench.slots, before.slots, strict=False):
            if slot.rig.shutter_s != was.rig.shutter_s and slot.rig.body == was.rig.body:
                angle = min(FULL_CIRCLE_DEG, FULL_CIRCLE_DEG * rate * slot.rig.shutter_s)
                brief = replace(brief, shutter_angle_deg=angle)
                break
    seconds = film_shutter_s(rate, brief.shutter_angle_deg)
    slots = tuple(replace(slot, rig=with_time_fixed(slot.rig, seconds)) for slot in bench.slots)
    return replace(bench, brief=brief, slots=slots)


@dataclass(frozen=True)
class FilmFigures:
    """One rig on a film. NaN for what is not known.

    mode_rate: how many frames a second its mode does at most
    needed_iso: at the f-number in force; filter_stops: of neutral filter at the lowest ISO, 0 where none is needed
    short_stops: what is missing at the highest ISO, 0 where nothing is
    snr: of mid-grey over the picture as it is delivered; pixels_share: pixels recorded over those delivered, each way
    lean_deg: of an upright line that moves as the subject does, while the sensor is read
    pan_deg_s: the fastest pan by the rule of seven seconds; pan_smear_share: how far each frame smears then, as a share
        of its width
    sharp_pan_deg_s: at which a frame smears by what counts as sharp
    """

    shutter_s: float
    mode_rate: float
    needed_iso: float
    filter_stops: float
    short_stops: float
    snr: float
    pixels_share: float
    lean_deg: float
    pan_deg_s: float
    pan_smear_share: float
    sharp_pan_deg_s: float


def film_of(comparison: Comparison, rig: RigFigures) -> FilmFigures | None:
    """What a film asks of one rig.

    Parameters
        comparison: of a brief that is a film
        rig: one of it
    Returns
        None for a still picture, and for a rig that sees nothing
    """
    brief, s = comparison.brief, rig.settings
    if brief.frame_rate is None or not s.focusable:
        return None
    body, mode = rig.rig.body, rig.rig.recorded
    seconds = film_shutter_s(brief.frame_rate, brief.shutter_angle_deg)
    needed = float(iso_for_light(rig.light.effective_f_number, seconds, brief.light_ev))
    delivery = DELIVERIES[brief.delivery]
    recorded = rig.frames.pixels
    crossing = rig.view.angle_wide_deg / CROSSING_S
    coc_deg = degrees(atan(rig.frames.coc_mm / rig.view.image_distance_mm))
    return FilmFigures(
        shutter_s=seconds,
        mode_rate=nan if mode is None or mode.frame_rate is None else mode.frame_rate,
        needed_iso=needed,
        filter_stops=nan if body.base_iso is None else max(0.0, log2(body.base_iso / needed)),
        short_stops=nan if body.ceiling_iso is None else max(0.0, log2(needed / body.ceiling_iso)),
        snr=rig.light.snr_picture * sqrt(comparison.conventions.output_pixels / delivery.pixels),
        pixels_share=sqrt(recorded / delivery.pixels),
        lean_deg=_lean_deg(brief, rig),
        pan_deg_s=crossing,
        pan_smear_share=seconds / CROSSING_S,
        sharp_pan_deg_s=coc_deg / seconds,
    )


def _lean_deg(brief: Brief, rig: RigFigures) -> float:
    """While the rows are read from the top to the bottom the subject goes on across."""
    mode = rig.rig.recorded
    if mode is None or mode.rolling_s is None:
        return nan
    return degrees(atan(brief.subject_speed_m_per_s * mode.rolling_s / rig.view.field_high_m))


def flashes(shutter_s: float, mains_hz: float) -> float:
    """How many flashes of a lamp on the mains fall into a frame: it flashes twice a period.

    Parameters
        shutter_s: [s]
        mains_hz: 50 or 60
    Returns
        a whole number where no frame is brighter than another
    """
    return float(positive("shutter_s", shutter_s)) * 2 * float(positive("mains_hz", mains_hz))


def is_steady(shutter_s: float, mains_hz: float) -> bool:
    """Whether lamps on the mains do not flicker.

    Parameters
        shutter_s: [s]
        mains_hz: 50 or 60
    Returns
        True for a whole number of flashes
    """
    count = flashes(shutter_s, mains_hz)
    return round(count) >= 1 and abs(count - round(count)) <= SAFE * count


def steady_angle_deg(frame_rate: float, angle_deg: float, mains_hz: float) -> float:
    """The angle nearest to one at which lamps on the mains do not flicker.

    Parameters
        frame_rate: frames a second
        angle_deg: that is wanted [degrees]
        mains_hz: 50 or 60
    Returns
        [degrees]; NaN where even a whole frame holds no flash
    """
    a_flash = FULL_CIRCLE_DEG * float(positive("frame_rate", frame_rate)) / (2 * float(positive("mains_hz", mains_hz)))
    most = int(FULL_CIRCLE_DEG / a_flash + 1e-9)
    if most < 1:
        return nan
    return a_flash * min(max(round(angle_deg / a_flash), 1), most)


def does_rate(mode_rate: float, frame_rate: float) -> bool:
    """Whether a mode does so many frames a second, as far as is known.

    Parameters
        mode_rate: at most; NaN where it is not known
        frame_rate: that is asked for
    Returns
        False where it does fewer, or is not known
    """
    return mode_rate >= frame_rate * (1 - 1e-9)
