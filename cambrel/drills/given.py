"""What a question is asked about: two frames and the settings on them, drawn from somebody's gear or made up."""

from __future__ import annotations

from dataclasses import dataclass, replace

from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import Comparison, compare
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.optics.depth import circle_of_confusion_mm
from cambrel.optics.formats import FULL_FRAME, Sensor, crop_factor
from cambrel.optics.quantities import positive

BRIEF = Brief()


@dataclass(frozen=True)
class Given:
    """`one` is the frame that is asked from, `other` the frame that is asked about. A question uses what it needs of
    the rest.

    circle_mm: image circle of the lens; field_m: width that `one` shows at the subject; claim: what the sentence to be
        judged says of `other`
    against `one`: -1 less, 0 the same, 1 more
    """

    one: Sensor
    other: Sensor
    crop_by: str = "diagonal"
    criterion: str = "diagonal_1500"
    noise: str = "picture"
    focal_mm: float = 50.0
    f_number: float = 2.8
    shutter_s: float = 1 / 125
    iso: float = 400.0
    distance_m: float = 3.0
    second_focal_mm: float = 85.0
    second_f_number: float = 4.0
    second_shutter_s: float = 1 / 60
    second_iso: float = 800.0
    circle_mm: float = 28.0
    magnification: float = 0.5
    field_m: float = 2.0
    claim: int = 1

    def __post_init__(self) -> None:
        for name in (
            "focal_mm", "f_number", "shutter_s", "iso", "distance_m", "second_focal_mm", "second_f_number",
            "second_shutter_s", "second_iso",
            "circle_mm", "magnification", "field_m",
        ):  # fmt: skip
            positive(name, getattr(self, name))

    @property
    def crops(self) -> tuple[float, float]:
        """Crop factors of both frames by the measure in force."""
        return crop_factor(self.one, by=self.crop_by), crop_factor(self.other, by=self.crop_by)

    @property
    def k(self) -> float:
        """What a focal length or f-number is multiplied by on its way to the other frame, C1 / C2."""
        crop_one, crop_other = self.crops
        return crop_one / crop_other

    def circle_of_confusion_mm(self, sensor: Sensor) -> float:
        """What counts as sharp on a frame; NaN where that needs pixels that are not known."""
        circle = circle_of_confusion_mm(
            sensor,
            self.criterion,
            shown_long_side_mm=BRIEF.shown_long_side_mm,
            viewing_distance_mm=BRIEF.viewing_distance_mm,
            lines_per_mm=Conventions().lines_per_mm,
        )
        return float("nan") if circle is None else circle

    @property
    def full_frame_circle_mm(self) -> float:
        """The circle that a habit from full frame brings along."""
        pixels = self.other.pixels_wide
        return self.circle_of_confusion_mm(Sensor(FULL_FRAME.width_mm, FULL_FRAME.height_mm, pixels))

    @property
    def brief(self) -> Brief:
        return replace(BRIEF, distance_m=self.distance_m)

    @property
    def conventions(self) -> Conventions:
        return Conventions(crop_by=self.crop_by, criterion=self.criterion, noise=self.noise)

    @property
    def rigs(self) -> tuple[Rig, Rig]:
        """Either frame with the lens, at its settings."""
        return (
            Rig(Body(self.one), Lens(), self.focal_mm, self.f_number, self.shutter_s, self.iso),
            Rig(Body(self.other), Lens(), self.focal_mm, self.f_number, self.shutter_s, self.iso),
        )

    @property
    def second_rigs(self) -> tuple[Rig, Rig]:
        """The first frame with the lens, and once more with the second lens."""
        first = self.rigs[0]
        return first, replace(first, focal_length_mm=self.second_focal_mm)

    def compared(self, hold: Hold) -> Comparison:
        """Both frames under a hold."""
        return compare(self.brief, self.rigs, hold, self.conventions)
