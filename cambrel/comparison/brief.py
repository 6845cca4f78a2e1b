"""What the comparison is for and on what terms: the brief, what is held the same, and the conventions in force."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from cambrel.comparison.hold_answers import (
    APERTURE_HOLDS,
    EXPOSURE_HOLDS,
    LENS_HOLDS,
    PLACE_HOLDS,
    QUESTIONS,
    ApertureHold,
    ExposureHold,
    HoldAnswer,
    LensHold,
    PlaceHold,
)
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.diffraction import WAVELENGTH_NM
from cambrel.optics.formats import CROP_MEASURES, FORMATS
from cambrel.optics.good_enough import GOOD_ENOUGH_SCHOOLS
from cambrel.optics.light import DISTURBING_SNR, OUTPUT_PIXELS, SEEN_SNR
from cambrel.optics.noise_schools import NOISE_SCHOOLS, RANGE_SCHOOLS
from cambrel.optics.quantities import Choices, DomainError, finite, not_negative, positive, positive_or_inf, within
from cambrel.optics.schools import School
from cambrel.optics.sharpness import PRESS_LINES_PER_INCH
from cambrel.optics.stars import STAR_SCHOOLS
from cambrel.optics.steadiness import HAND_SCHOOLS


@dataclass(frozen=True)
class Shape:
    """An output shape: long side over short side, None for the sensor's own."""

    label: str
    aspect_ratio: float | None


SHAPES: Choices[Shape] = Choices(
    "shape",
    {
        "native": Shape("as sensor", None),
        "3:2": Shape("3:2", 3 / 2),
        "4:3": Shape("4:3", 4 / 3),
        "1:1": Shape("1:1", 1.0),
        "16:9": Shape("16:9", 16 / 9),
        "4:5": Shape("4:5", 5 / 4),
    },
)


@dataclass(frozen=True)
class LightLevel:
    """A light level in plain words, as EV at ISO 100. Values are those of exposure tables; the weather varies."""

    label: str
    ev: float


LIGHT_LEVELS: tuple[LightLevel, ...] = (
    LightLevel("Moonlight, full moon", -3.0),
    LightLevel("Yard at night, distant lamps", 0.0),
    LightLevel("Platform under lamps", 4.0),
    LightLevel("Dim shed, a few windows", 5.0),
    LightLevel("Footplate, open sides", 8.0),
    LightLevel("Dusk, sun just gone", 9.0),
    LightLevel("Deep shade", 11.0),
    LightLevel("Overcast", 12.0),
    LightLevel("Hazy sun", 14.0),
    LightLevel("Noon, clear sun", 15.0),
)


@dataclass(frozen=True)
class Option:
    """One answer to a question: its short label, and the words that say what it does or is."""

    label: str
    says: str


SUPPORTS: Choices[Option] = Choices(
    "support",
    {
        "hand": Option("in the hand", "the hand"),
        "monopod": Option("on a monopod", "the monopod"),
        "gimbal": Option("on a gimbal", "the gimbal"),
        "tripod": Option("on a tripod", "the tripod"),
    },
)


@dataclass(frozen=True)
class Delivery:
    """A size in which a film is delivered, and the shape that it has."""

    label: str
    wide_px: int
    high_px: int
    shape: str

    @property
    def pixels(self) -> int:
        return self.wide_px * self.high_px


DELIVERIES: Choices[Delivery] = Choices(
    "delivery",
    {
        "1080": Delivery("1080 lines", 1920, 1080, "16:9"),
        "4k": Delivery("4K", 3840, 2160, "16:9"),
        "feed": Delivery("a feed", 1080, 1350, "4:5"),
    },
)


@dataclass(frozen=True)
class Brief:
    """A picture to be made. Distances in metres from the lens unless `distance_from` says "sensor".

    focus_distance_m: None focuses on the subject; infinity is allowed
    background_m, foreground_m: how far behind and in front of the subject; None for nothing there
    sharp_front_m, sharp_behind_m: what must be sharp in front of and behind the subject; None where not asked
    width_shown_m: width at the subject that must be in the frame
    slowest_shutter_s: slowest acceptable shutter time; subject_speed_m_per_s: across the frame
    declination_deg: of the stars in the middle of the frame; None for a picture without stars
    scene_range_stops: from the darkest to the brightest that must hold detail; None where not asked
    support: what carries the camera, one of SUPPORTS; "" where nobody said, then no shake is counted
    nearest_m, farthest_m: between which the photographer can stand
    comfortable_m: how far the subject must be at least from the front of the lens
    blur_share: wanted blur of the background, as a share of the frame's diagonal
    framing_deg: the angle to be seen across, where a width at the subject says nothing
    flash_guide_m: guide number of a flash that is the light [m at ISO 100]; None for the light as it is
    frame_rate: of a film [1/s]; None for a still picture. shutter_angle_deg: how much of a frame's time it is exposed
    delivery: in what a film is delivered, one of DELIVERIES
    mains_hz: of lamps that light a film; None where none do
    """

    distance_m: float = 2.0
    subject_height_m: float = 1.75
    focus_distance_m: float | None = None
    distance_from: str = "lens"
    background_m: float | None = 5.0
    foreground_m: float | None = None
    light_ev: float = 8.0
    upright: bool = False
    shape: str = "native"
    shown_long_side_mm: float = 420.0
    viewing_distance_mm: float = 500.0
    sharp_front_m: float | None = None
    sharp_behind_m: float | None = None
    width_shown_m: float | None = None
    slowest_shutter_s: float | None = None
    subject_speed_m_per_s: float = 0.0
    declination_deg: float | None = None
    scene_range_stops: float | None = None
    support: str = ""
    nearest_m: float | None = None
    farthest_m: float | None = None
    comfortable_m: float | None = None
    flash_guide_m: float | None = None
    blur_share: float | None = None
    framing_deg: float | None = None
    frame_rate: float | None = None
    shutter_angle_deg: float = 180.0
    delivery: str = "4k"
    mains_hz: float | None = None

    def __post_init__(self) -> None:
        for name in ("distance_m", "subject_height_m", "shown_long_side_mm", "viewing_distance_mm"):
            positive(name, getattr(self, name))
        for name in (
            "width_shown_m",
            "slowest_shutter_s",
            "nearest_m",
            "farthest_m",
            "comfortable_m",
            "flash_guide_m",
            "blur_share",
            "frame_rate",
            "mains_hz",
        ):
            if getattr(self, name) is not None:
                positive(name, getattr(self, name))
        for name in ("focus_distance_m", "background_m"):
            if getattr(self, name) is not None:
                positive_or_inf(name, getattr(self, name))
        if self.sharp_behind_m is not None and not self.sharp_behind_m >= 0:
            raise DomainError("sharp_behind_m", "0 or more", self.sharp_behind_m)
        not_negative("subject_speed_m_per_s", self.subject_speed_m_per_s)
        finite("light_ev", self.light_ev)
        for name in ("foreground_m", "sharp_front_m"):
            value = getattr(self, name)
            if value is not None:
                not_negative(name, value)
        if self.declination_deg is not None:
            within("declination_deg", self.declination_deg, -90, 90)
        if self.framing_deg is not None:
            within("framing_deg", self.framing_deg, 0.01, 179)
        if self.scene_range_stops is not None:
            positive("scene_range_stops", self.scene_range_stops)
        within("shutter_angle_deg", self.shutter_angle_deg, 0.1, 360)
        SHAPES[self.shape]
        DELIVERIES[self.delivery]
        if self.support:
            SUPPORTS[self.support]
        if self.nearest_m is not None and self.farthest_m is not None and self.nearest_m > self.farthest_m:
            raise DomainError("farthest_m", f"at least nearest_m, {self.nearest_m:g} m", self.farthest_m)
        if self.distance_from not in ("lens", "sensor"):
            raise DomainError("distance_from", '"lens" or "sensor"', self.distance_from)

    @property
    def focus_offset_m(self) -> float:
        """How far behind the subject the focus lies; it moves with the subject when the photographer walks."""
        return 0.0 if self.focus_distance_m is None else self.focus_distance_m - self.distance_m


@dataclass(frozen=True)
class Hold:
    """What is kept the same between rigs; applied in this order, each from what the last could really reach.

    lens_of: index of the rig whose lens is the shared one under "same"; None for the reference's
    is_best: each rig takes the settings that the picture asks for, the reference too; the four answers wait
    """

    lens: str = "equivalent"
    place: str = "spot"
    aperture: str = "f_number"
    exposure: str = "shutter"
    lens_of: int | None = None
    is_best: bool = False

    def __post_init__(self) -> None:
        for question, answers in QUESTIONS.items():
            answers[getattr(self, question)]

    def answer(self, question: str) -> HoldAnswer:
        """The answer to one of the four questions."""
        return QUESTIONS[question][getattr(self, question)]

    @property
    def of_lens(self) -> LensHold:
        return LENS_HOLDS[self.lens]

    @property
    def of_place(self) -> PlaceHold:
        return PLACE_HOLDS[self.place]

    @property
    def of_aperture(self) -> ApertureHold:
        return APERTURE_HOLDS[self.aperture]

    @property
    def of_exposure(self) -> ExposureHold:
        return EXPOSURE_HOLDS[self.exposure]

    def donor(self, reference: int) -> int:
        """The rig whose lens is on every body where that is the same."""
        return reference if self.lens_of is None else self.lens_of

    def sentence(self) -> str:
        """The whole hold in words."""
        if self.is_best:
            return "Each at its best: the settings that the picture asks for."
        sentence = ", ".join(self.answer(question).says for question in QUESTIONS)
        return sentence[0].upper() + sentence[1:] + "."

    def in_brief(self) -> str:
        """What is kept the same, in short labels; empty where nothing is."""
        if self.is_best:
            return "each at its best"
        answers = (self.answer(question) for question in QUESTIONS)
        return ", ".join(answer.brief for answer in answers if not answer.is_own)


SCHOOLS: Mapping[str, Mapping[str, School[Any]]] = {
    "crop_by": CROP_MEASURES,
    "criterion": CIRCLE_OF_CONFUSION_SCHOOLS,
    "noise": NOISE_SCHOOLS,
    "good_enough": GOOD_ENOUGH_SCHOOLS,
    "hand": HAND_SCHOOLS,
    "star_rule": STAR_SCHOOLS,
    "range": RANGE_SCHOOLS,
}
"""The schools of every question on which practitioners differ, by the field of Conventions that holds the answer."""


@dataclass(frozen=True)
class Conventions:
    """The schools in force: the same for every rig of a comparison."""

    crop_by: str = "diagonal"
    criterion: str = "diagonal_1500"
    noise: str = "picture"
    lines_per_mm: float = 5.0
    wavelength_nm: float = WAVELENGTH_NM
    output_pixels: float = OUTPUT_PIXELS
    iso_ceiling: float = 3200.0
    good_enough: str = "eye"
    hand: str = "habit"
    shake_arc_s: float = 6000.0
    """How fast a hand turns the camera, where the hand is judged by that [arc seconds a second]."""
    star_rule: str = "exact"
    range: str = "engineer"
    press_lines_per_inch: float = PRESS_LINES_PER_INCH
    """Line widths to an inch of the print that a printing press can carry."""
    seen_snr: float = SEEN_SNR
    disturbing_snr: float = DISTURBING_SNR
    """Signal to noise of mid-grey below which noise is seen, and disturbs."""
    home: str = field(default="full-frame", compare=False)
    """The format in whose terms the reader thinks. Changes no figure but those in its terms, and is never told to
    others.
    """

    def answering(self, question: str, answer: str | float) -> Conventions:
        """The same with another answer to one question."""
        return replace(self, **{question: answer})  # type: ignore[arg-type]  # a question is the name of a field

    def __post_init__(self) -> None:
        if self.home not in FORMATS:
            raise DomainError("home", "one of " + ", ".join(FORMATS), self.home)
        for question, schools in SCHOOLS.items():
            schools[getattr(self, question)]
        for name in (
            "lines_per_mm", "wavelength_nm", "output_pixels", "iso_ceiling", "shake_arc_s", "press_lines_per_inch",
            "seen_snr", "disturbing_snr",
        ):  # fmt: skip
            positive(name, getattr(self, name))
