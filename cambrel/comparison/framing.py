"""Close-up figures of the rigs of a comparison: magnification, what a framing lacks, and the stack that a range asks
for.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, isfinite, nan

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.fit import same_mount
from cambrel.comparison.holds import converted_close_limit_m
from cambrel.comparison.rig import aperture_stops
from cambrel.optics import closeup
from cambrel.optics.closeup import close_up_lens_dioptres, extension_tube_mm, frames_to_cover, tube_light_stops
from cambrel.optics.geometry import magnification, object_distance_for_magnification_m
from cambrel.optics.quantities import DomainError
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_EFFECTIVE_STOPS, Sentence

LEAST_FACTOR, MOST_FACTOR = 1.01, 2.0
"""Converters multiply by no more than that."""
MOST_LISTED = 400
"""More frames than this are counted, not listed: nobody takes them."""


@dataclass(frozen=True)
class Framing:
    """How a rig frames a width: the magnification it takes, and either the distance it does so from or what it lacks.

    largest: magnification at the closest focus; unknown where that is
    """

    width_m: float
    wanted: float
    largest: float
    object_distance_m: float
    tube_mm: float
    tube_stops: float
    dioptres: float

    @property
    def is_reached(self) -> bool:
        return self.wanted <= self.largest * (1 + 1e-9)


@dataclass(frozen=True)
class Aid:
    """A tube, which goes between a lens of its mount and the body, or a close-up lens before it."""

    called: str
    mount: str
    length_mm: float | None
    dioptres: float | None


@dataclass(frozen=True)
class Stack:
    """Frames that cover a range: the f-number, how many, and where each is focused, from the lens [m]; none listed
    where they are too many.
    """

    f_number: float
    near_m: float
    far_m: float
    frames: float
    focused_m: tuple[float, ...]
    is_near_enough: bool = True
    """Whether the lens focuses as near as the first frame asks."""


def equivalent_magnification(rig: RigFigures) -> float:
    """Magnification as it would be on full frame for the same picture, m C.

    Parameters
        rig: worked out
    Returns
        a ratio; NaN for one that sees nothing
    """
    return rig.view.magnification * rig.frames.crop


def light_lost_stops(rig: RigFigures) -> float:
    """Stops that focusing close costs, 2 log2(1 + m).

    Parameters
        rig: worked out
    Returns
        [stops], 0 or more
    """
    return aperture_stops(rig.light.effective_f_number, rig.settings.f_number)


def smallest_useful_f_number(rig: RigFigures) -> float:
    """Beyond it diffraction passes what counts as sharp; at most what the lens can be set to.

    Parameters
        rig: worked out
    Returns
        the smaller of both
    """
    return min(rig.diffraction.limited_f_number, rig.smallest_f_number)


def working_distance_m(rig: RigFigures) -> float:
    """From the front of the lens to the subject, as far as a thin lens tells.

    Parameters
        rig: worked out
    Returns
        [m]; NaN where the lens or the mount is not known
    """
    lens, register, s = rig.carrier.lens, rig.rig.body.register_mm, rig.settings
    if (
        lens.length_mm is None
        or register is None
        or rig.carrier.converter != 1
        or not s.focusable
        or not isfinite(s.object_distance_m)
    ):
        return nan
    image = rig.view.image_distance_mm
    extended = lens.length_mm + (0.0 if lens.focuses_inside else image - s.focal_length_mm)
    # the subject is where the lens is focused, or by so much beside it
    beside = s.subject_distance_m - s.object_distance_m
    return float(closeup.working_distance_m(s.object_distance_m, image, register, extended)) + beside


def framing(comparison: Comparison, rig: RigFigures) -> Framing | None:
    """How a rig frames the width that the picture asks for, at its focal length; None where none is asked, or it sees
    nothing.

    Parameters
        comparison: whose brief asks for a width
        rig: one of it
    Returns
        None where no width is asked for, or the rig sees nothing
    """
    width = comparison.brief.width_shown_m
    if width is None or not rig.settings.focusable:
        return None
    f = rig.settings.focal_length_mm
    wanted = rig.frames.width_mm / (1000 * width)
    closest = _closest_m(rig)
    largest = inf if rig.carrier.lens.is_ad_hoc else nan
    if closest is not None:
        largest = float(magnification(f / rig.carrier.converter, closest)) * rig.carrier.converter
    lacks = wanted > largest
    return Framing(
        width,
        wanted,
        largest,
        float(object_distance_for_magnification_m(f, wanted)),
        float(extension_tube_mm(f, largest, wanted)) if lacks else nan,
        float(tube_light_stops(largest, wanted)) if lacks else nan,
        float(close_up_lens_dioptres(f, largest, wanted)) if lacks else nan,
    )


def _closest_m(rig: RigFigures) -> float | None:
    """How near the lens focuses, from the lens; a converter leaves that as it is."""
    return rig.carrier.lens.closest_m(rig.settings.focal_length_mm / rig.carrier.converter)


def stack(comparison: Comparison, rig: RigFigures, f_number: float) -> Stack | None:
    """The stack that the range asked for takes at an f-number; None where no range is asked or no depth is known.

    Parameters
        comparison: whose brief asks for a range
        rig: one of it
        f_number: as marked
    Returns
        None where no range is asked for or no depth is known
    """
    brief, d = comparison.brief, rig.settings.subject_distance_m
    asked = brief.sharp_front_m is not None or brief.sharp_behind_m is not None
    if not asked or not rig.settings.focusable or not isfinite(rig.depth.near_m) or not isfinite(f_number):
        return None
    near, far = d - (brief.sharp_front_m or 0.0), d + (brief.sharp_behind_m or 0.0)
    f = rig.settings.focal_length_mm
    if near * 1000 <= f * (1 + 1e-9):
        return None
    try:
        frames, focused = frames_to_cover(f, f_number, rig.frames.coc_mm, near, far)
    except DomainError:
        return Stack(f_number, near, far, inf, ())
    # as far as it is for the hold: a converter multiplies the largest magnification
    closest = converted_close_limit_m(rig.carrier.lens, f, rig.carrier.converter)
    near_enough = closest is None or focused[0] >= closest * (1 - 1e-9)
    return Stack(f_number, near, far, frames, focused if near_enough and frames <= MOST_LISTED else (), near_enough)


def says_framing(rig: RigFigures, found: Framing) -> Sentence:
    """Whether a rig frames the width, from where, and what would give it what it lacks.

    Parameters
        rig: whose framing it is
        found: its figures
    Returns
        one sentence with its figures
    """
    figures = {"b": Figure(rig.index, "rig"), "width": Figure(found.width_m, "m"), "m": Figure(found.wanted, "number")}
    if found.is_reached:
        figures["u"] = Figure(found.object_distance_m, "m")
        return Sentence("{b} frames {width} from {u} in front of its lens, {m} times life size on its sensor.", figures)
    if not isfinite(found.largest):
        text = (
            "{b} would need {m} times life size on its sensor to frame {width}. How close its lens "
            "focuses is not on record."
        )
        return Sentence(text, figures)
    figures |= {
        "largest": Figure(found.largest, "number"),
        "tube": Figure(found.tube_mm, "mm"),
        "stops": Figure(found.tube_stops, "stops"),
        "power": Figure(found.dioptres, "number"),
    }
    text = "{b} reaches {largest} times life size and would need {m} to frame {width}: "
    if rig.carrier.lens.mount:
        cost = ", for {stops} of light," if found.tube_stops > LEVEL_EFFECTIVE_STOPS else ""
        text += "a tube of {tube} would give it" + cost + " or a close-up lens of {power} dioptres"
        factor = found.wanted / found.largest
        if rig.carrier.converter == 1 and LEAST_FACTOR < factor <= MOST_FACTOR:
            figures["factor"] = Figure(factor, "number")
            text += ", or a converter that multiplies by {factor}"
        return Sentence(text + ".", figures)
    return Sentence(text + "a close-up lens of {power} dioptres would give it.", figures)


def says_working_distance(rig: RigFigures, working_m: float) -> Sentence:
    """How much room there is before the lens, and whether the camera stands in the light of the subject.

    Parameters
        rig: whose lens it is
        working_m: from the front of the lens [m]; unknown where it is not known
    Returns
        one sentence with its figures
    """
    figures = {"b": Figure(rig.index, "rig"), "room": Figure(working_m, "m")}
    if working_m <= 0:
        return Sentence("{b} would have its subject inside the lens, as far as a simple lens tells.", figures)
    text = "{b} leaves about {room} between its lens and the subject"
    wide = rig.carrier.lens.diameter_mm
    if wide is not None and working_m * 1000 < wide:
        figures["wide"] = Figure(wide, "mm")
        return Sentence(text + ". That is less than the lens is wide, {wide}, so the lens blocks the light.", figures)
    return Sentence(text + ".", figures)


def aid_for(rig: RigFigures, found: Framing, aids: Sequence[Aid]) -> tuple[Aid, float] | None:
    """Of what is at hand the one that gives a framing with the least more, and the magnification it then reaches.

    Parameters
        rig: that lacks magnification
        found: what it lacks
        aids: tubes, close-up lenses and converters
    Returns
        None where none does
    """
    f, mount = rig.settings.focal_length_mm, rig.carrier.lens.mount
    reached = []
    for aid in aids:
        if aid.length_mm is not None and mount and same_mount(aid.mount, mount):
            reached.append((found.largest + aid.length_mm / f, aid))
        elif aid.dioptres is not None:
            reached.append((found.largest + aid.dioptres * f / 1000 * (1 + found.largest), aid))
    enough = [aided for aided in reached if aided[0] >= found.wanted * (1 - 1e-9)]
    if not enough:
        return None
    magnification_then, aid = min(enough, key=lambda pair: pair[0])
    return aid, magnification_then


def says_aid(found: tuple[Aid, float] | None, count: int) -> Sentence:
    """Whether something on the shelf gives a framing.

    Parameters
        found: the aid and the magnification with it; None where none gives it
        count: how many aids were looked at
    Returns
        one sentence with its figures
    """
    if found is None:
        text = (
            "The tube or close-up lens on your shelf would not."
            if count == 1
            else "Not one of the {count} tubes and close-up lenses on your shelf would."
        )
        return Sentence(text, {"count": Figure(float(count), "number")})
    aid, reached = found
    text = "On your shelf {aid} would: it reaches {m} times life size."
    return Sentence(text, {"aid": Figure(aid.called, "word"), "m": Figure(reached, "number")})


def says_stack(rig: RigFigures, now: Stack, useful: Stack | None) -> Sentence:
    """How many frames the range takes as set, and at the smallest aperture worth using.

    Parameters
        rig: whose stack it is
        now: as the rig is set
        useful: at the smallest aperture worth using; None where that is the same
    Returns
        one sentence with its figures
    """
    figures = {"b": Figure(rig.index, "rig"), "n": Figure(now.f_number, "f"), "frames": Figure(now.frames, "number")}
    if not now.is_near_enough:
        return Sentence("{b} cannot focus close enough at {n} to get the whole range sharp.", figures)
    if now.frames == 1:
        return Sentence("{b} needs no stack: at {n} one frame gets the whole range sharp.", figures)
    if not isfinite(now.frames):
        return Sentence("{b} would need more frames at {n} than anyone takes.", figures)
    text = "{b} takes {frames} frames at {n} to get the whole range sharp"
    if useful is None or not useful.frames < now.frames:
        return Sentence(text + ".", figures)
    figures |= {"limit": Figure(useful.f_number, "f"), "fewer": Figure(useful.frames, "number")}
    if useful.frames == 1:
        return Sentence(text + ". One is enough at {limit}, before diffraction shows.", figures)
    return Sentence(text + ". It takes {fewer} at {limit}, the smallest aperture before diffraction shows.", figures)
