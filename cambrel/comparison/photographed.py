"""A photograph as a bench: the camera that took it, set as it was, in the light that its exposure tells."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from cambrel.comparison.bench import MOST_RIGS, Bench, Slot
from cambrel.comparison.brief import SHAPES, Hold
from cambrel.comparison.rig import Rig
from cambrel.optics.formats import FORMATS, Format, crop_factor
from cambrel.optics.geometry import magnification
from cambrel.optics.light import effective_f_number, exposure_value
from cambrel.optics.quantities import DomainError, positive
from cambrel.photographs.taken import Taken

SAME_PICTURE = Hold(lens="equivalent", place="spot", aperture="depth", exposure="shutter")
"""What another camera keeps of a photograph: view, place, depth of field and shutter time."""
FAR_OFF = 0.05
"""No format is guessed whose crop factor is farther from the one that a file tells."""
ROUNDED_MM = 0.5
"""An equivalent focal length is written in whole millimetres."""
SAME_SHAPE = 0.01


def format_of_equivalent(
    focal_length_mm: float, focal_35_mm: float, aspect_ratio: float | None = None
) -> Format | None:
    """The format of a digital camera whose file says a focal length and the one with the same view on full frame.

    Parameters
        focal_length_mm: [mm]
        focal_35_mm: the equivalent, in whole [mm], by the diagonal
        aspect_ratio: of the picture, long over short side; None where it is not known
    Returns
        the one whose crop factor is nearest, of those as near the one of the picture's shape; None where none is near
    Raises
        DomainError for what is not above 0
    Assumptions
        nothing was cut off after the lens
    """
    told = positive("focal_35_mm", focal_35_mm) / positive("focal_length_mm", focal_length_mm)
    rounding = ROUNDED_MM / focal_35_mm

    def off(format_: Format) -> tuple[float, float, float]:
        exact = abs(float(crop_factor(format_) / told) - 1)
        shape = 0.0 if aspect_ratio is None else abs(format_.aspect_ratio / aspect_ratio - 1)
        return (max(0.0, exact - rounding), shape, exact)

    best = min((format_ for format_ in FORMATS.values() if format_.medium == "digital"), key=off)
    return best if off(best)[0] <= FAR_OFF else None


def shape_of(taken: Taken, rig: Rig) -> str:
    """The output shape of a photograph that was cut otherwise than its sensor; "native" where it is the sensor's, or
    none that is offered.

    Parameters
        taken: with the pixels of the picture
        rig: of the camera that took it
    Returns
        one of SHAPES
    """
    if not taken.wide_px or not taken.high_px:
        return "native"
    ratio = max(taken.wide_px, taken.high_px) / min(taken.wide_px, taken.high_px)
    if abs(ratio / rig.sensor.aspect_ratio - 1) <= 2 * SAME_SHAPE:
        return "native"
    near = [
        key for key, shape in SHAPES.items() if shape.aspect_ratio and abs(ratio / shape.aspect_ratio - 1) <= SAME_SHAPE
    ]
    return near[0] if near else "native"


@dataclass(frozen=True)
class Photograph:
    """A photograph of which all is known that a bench needs.

    slot: the camera that took it, set as it was; distance_m: of the subject, from the lens
    is_flashed: whether a flash lit it, so that the exposure says nothing of the light
    """

    slot: Slot
    distance_m: float
    name: str = ""
    upright: bool = False
    shape: str = "native"
    is_flashed: bool = False

    def __post_init__(self) -> None:
        positive("distance_m", self.distance_m)
        if not 1000 * self.distance_m > self.slot.rig.focal_length_mm:
            raise DomainError("distance_m", "farther than the focal length", self.distance_m)

    @property
    def light_ev(self) -> float:
        """The light for which it is exposed right [EV at ISO 100], the lens's extension close up counted."""
        rig = self.slot.rig
        effective = effective_f_number(rig.f_number, magnification(rig.focal_length_mm, self.distance_m))
        return float(exposure_value(effective, rig.shutter_s, rig.iso))


def bench_of(photograph: Photograph, standing: Bench, others: Sequence[Slot]) -> Bench:
    """The bench that is a photograph: its camera is the reference, and every other one takes the same picture.

    Parameters
        photograph: with all that was asked
        standing: the bench that it was dropped on, whose schools hold, and the rest of whose picture
        others: the cameras that take it too
    Returns
        with as many of them as a bench holds
    """
    brief = replace(
        standing.brief,
        distance_m=photograph.distance_m,
        distance_from="lens",
        focus_distance_m=None,
        light_ev=standing.brief.light_ev if photograph.is_flashed else photograph.light_ev,
        upright=photograph.upright,
        shape=photograph.shape,
        # what another picture asked for, this one does not
        sharp_front_m=None, sharp_behind_m=None, width_shown_m=None, slowest_shutter_s=None, declination_deg=None,
        scene_range_stops=None, nearest_m=None, farthest_m=None, comfortable_m=None, flash_guide_m=None,
        blur_share=None, framing_deg=None, subject_speed_m_per_s=0.0,
    )  # fmt: skip
    return replace(
        standing,
        brief=brief,
        brief_name=photograph.name,
        slots=(photograph.slot, *others)[:MOST_RIGS],
        hold=SAME_PICTURE,
        reference=0,
        title="",
    )
