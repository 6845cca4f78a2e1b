"""Advertised figures: what a stated focal length, f-number and sensor type really are. Lengths in mm.

Adverts convert the focal length to full frame and leave the f-number as it is. Both readings of a figure are worked
out, with what had to be assumed. Everything follows from C = f_equivalent / f. Source: "Applied Photographic Optics";
the same entrance pupil on both formats.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER
from cambrel.optics.designations import NOMINAL_TOLERANCE
from cambrel.optics.equivalence import equivalent_f_number, equivalent_focal_length_mm
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.quantities import DomainError, positive
from cambrel.optics.workings import Figure
from cambrel.phrases.stated import LISTED_TOLERANCE, SensorReading, StatedSensor, sensor_stated
from cambrel.wording.sentences import Sentence

PLAINLY_SMALL_CROP = 2.5
"""From this crop factor on a stated focal length of ten and more is taken for an equivalent where nothing is said."""
SHORTEST_LIKELY_EQUIVALENT_MM = 10.0
ONE_INCH_DIAGONAL_MM = FORMATS["one-inch"].diagonal_mm
SHORTEST_EQUIVALENT_ON_SMALL_MM = 13.0
"""Behind a sensor below one inch lenses are shorter: what is longer there had been converted."""


def is_likely_equivalent(focal_mm: float, sensor: Sensor) -> bool:
    """Whether a focal length without a word about it is an equivalent: on a sensor below one inch, from 13 mm on.

    Parameters
        focal_mm: the shortest, as stated [mm]
        sensor: that it is stated of
    Returns
        True where a true focal length of that size would be unlikely
    """
    return sensor.diagonal_mm < 0.99 * ONE_INCH_DIAGONAL_MM and focal_mm >= SHORTEST_EQUIVALENT_ON_SMALL_MM


@dataclass(frozen=True)
class Advert:
    """What an advert states. None where it says nothing.

    focal_min_mm, focal_max_mm: as stated; `focal_is_equivalent` says whether they were converted (None: not said)
    true_focal_mm: the true (shortest) focal length, where that is stated as well
    f_number, f_number_long: at the short and the long end; `f_number_is_equivalent` is True only where the advert says
        so
    sensor: what is said of the sensor
    """

    focal_min_mm: float
    focal_max_mm: float | None = None
    focal_is_equivalent: bool | None = None
    true_focal_mm: float | None = None
    f_number: float | None = None
    f_number_long: float | None = None
    f_number_is_equivalent: bool = False
    sensor: StatedSensor = field(default_factory=StatedSensor)

    def __post_init__(self) -> None:
        for name in ("focal_min_mm", "focal_max_mm", "true_focal_mm", "f_number", "f_number_long"):
            if getattr(self, name) is not None:
                positive(name, getattr(self, name))
        if self.focal_max_mm is not None and self.focal_max_mm < self.focal_min_mm:
            raise DomainError("focal_max_mm", f"at least focal_min_mm {self.focal_min_mm:g}", self.focal_max_mm)


@dataclass(frozen=True)
class Ends:
    """One end of the range: true, and as full frame."""

    focal_length_mm: float
    full_frame_focal_length_mm: float
    f_number: float | None
    full_frame_f_number: float | None
    pupil_mm: float | None


@dataclass(frozen=True)
class AdvertReading:
    """What an advert's figures really are.

    tolerance: how far focal length, pupil and equivalent f-number could be off, as a ratio
    """

    sensor: Sensor
    crop: float
    short: Ends
    long: Ends
    focal_was_converted: bool
    f_number_was_converted: bool
    tolerance: float
    sentences: tuple[Sentence, ...]
    assumptions: tuple[Sentence, ...]
    contradictions: tuple[Sentence, ...] = ()

    @property
    def is_zoom(self) -> bool:
        return self.short.focal_length_mm != self.long.focal_length_mm


def read_advert(advert: Advert, by: str = "diagonal") -> AdvertReading:
    """Work out what an advert's figures really are.

    Parameters
        advert: as stated
        by: measure of the crop factor, a key of CROP_MEASURES
    Returns
        AdvertReading
    Raises
        DomainError where neither a sensor nor both focal lengths are given, or a figure cannot be
    """
    advertised_sensor = sensor_stated(advert.sensor, by) or _from_focal_lengths(advert)
    sensor, tolerance = advertised_sensor.sensor, advertised_sensor.tolerance
    assumed, contradictions = list(advertised_sensor.assumptions), list(advertised_sensor.contradictions)
    crop = crop_factor(sensor, by=by)
    converted = _was_converted(advert, sensor, crop, assumed)
    if advert.true_focal_mm is not None and advert.focal_is_equivalent is not False:
        stated_crop = advert.focal_min_mm / advert.true_focal_mm
        if abs(stated_crop / crop - 1) > LISTED_TOLERANCE + tolerance:
            contradictions.append(
                Sentence(
                    "The two focal lengths give a crop factor of {stated}, the sensor {by_sensor}: one of them is"
                    " rounded, or a part of the sensor is used.",
                    {"stated": Figure(stated_crop, "number"), "by_sensor": Figure(crop, "number")},
                )
            )
    short = _end(advert, advert.focal_min_mm, advert.f_number, crop, converted, advert.true_focal_mm)
    stretch = (advert.focal_max_mm or advert.focal_min_mm) / advert.focal_min_mm
    long_number = advert.f_number if advert.f_number_long is None else advert.f_number_long
    if stretch == 1 and advert.f_number is not None and advert.f_number_long not in (None, advert.f_number):
        # one focal length with two f-numbers: an aperture that switches, or a slip; open it is the wider
        text = "Two f-numbers at one focal length: {wide} is taken as wide open."
        wide = min(advert.f_number, advert.f_number_long or advert.f_number)
        assumed.append(Sentence(text, {"wide": Figure(wide, "f")}))
        long_number = wide
        short = _end(advert, advert.focal_min_mm, wide, crop, converted, advert.true_focal_mm)
    true_long = None if advert.true_focal_mm is None else advert.true_focal_mm * stretch
    long = _end(advert, advert.focal_max_mm or advert.focal_min_mm, long_number, crop, converted, true_long)
    if short.f_number is not None and short.f_number < SMALLEST_POSSIBLE_F_NUMBER:
        raise DomainError(
            "f_number", "at least 0.5 when converted back, because no lens in air is faster", advert.f_number
        )
    said = _sentences(advert, short, converted)
    return AdvertReading(
        sensor,
        crop,
        short,
        long,
        converted,
        advert.f_number_is_equivalent,
        tolerance,
        tuple(said),
        tuple(assumed),
        tuple(contradictions),
    )


def _from_focal_lengths(advert: Advert) -> SensorReading:
    """A sensor from an equivalent and a true focal length, where nothing is said of it."""
    if advert.true_focal_mm is None:
        raise DomainError("sensor", "given, or the true focal length beside the equivalent one", None)
    diagonal = FULL_FRAME.diagonal_mm * advert.true_focal_mm / advert.focal_min_mm
    text = (
        "No sensor size is stated: its diagonal of {diagonal} follows from the two focal lengths, and a 4:3 shape is"
        " assumed."
    )
    assumed = Sentence(text, {"diagonal": Figure(diagonal, "mm")})
    return SensorReading(Sensor(0.8 * diagonal, 0.6 * diagonal), NOMINAL_TOLERANCE, (assumed,))


def _was_converted(advert: Advert, sensor: Sensor, crop: float, assumed: list[Sentence]) -> bool:
    if advert.focal_is_equivalent is not None:
        return advert.focal_is_equivalent
    if advert.true_focal_mm is not None:
        return True
    is_compact = sensor.diagonal_mm >= 0.99 * ONE_INCH_DIAGONAL_MM and crop >= PLAINLY_SMALL_CROP
    converted = is_likely_equivalent(advert.focal_min_mm, sensor) or (
        is_compact and advert.focal_min_mm >= SHORTEST_LIKELY_EQUIVALENT_MM
    )
    other = advert.focal_min_mm * crop if converted else advert.focal_min_mm / crop
    text = (
        "The advert does not say that {stated} is an equivalent, but on so small a sensor it is read "
        "as one. As a true focal length it would act like {other} on full frame."
        if converted
        else (
            "The advert does not say that {stated} is an equivalent, so it is read as the true focal "
            "length. Were it an equivalent, the true one would be {other}."
        )
    )
    assumed.append(Sentence(text, {"stated": Figure(advert.focal_min_mm, "mm"), "other": Figure(other, "mm")}))
    return converted


def _end(
    advert: Advert, stated_mm: float, stated_f: float | None, crop: float, converted: bool, true_mm: float | None
) -> Ends:
    focal = true_mm if true_mm is not None else stated_mm / crop if converted else stated_mm
    full_frame = stated_mm if converted else float(equivalent_focal_length_mm(focal, crop))
    if stated_f is None:
        return Ends(focal, full_frame, None, None, None)
    number = stated_f / crop if advert.f_number_is_equivalent else stated_f
    return Ends(focal, full_frame, number, float(equivalent_f_number(number, full_frame / focal)), focal / number)


def _sentences(advert: Advert, short: Ends, converted: bool) -> list[Sentence]:
    focal = {"stated": Figure(advert.focal_min_mm, "mm"), "true": Figure(short.focal_length_mm, "mm")}
    ff = {"ff": Figure(short.full_frame_focal_length_mm, "mm")}
    if short.f_number is None or short.full_frame_f_number is None or advert.f_number is None:
        text = (
            "{stated} had been converted to full frame. The lens is a {true}."
            if converted
            else "{stated} is the true focal length. It gives the view of {ff} on full frame."
        )
        return [Sentence(text, focal | ff), Sentence("No f-number is stated, so depth and light are unknown.", {})]
    numbers = {
        "f": Figure(advert.f_number, "f"),
        "f_true": Figure(short.f_number, "f"),
        "f_ff": Figure(short.full_frame_f_number, "f"),
    }
    key = (converted, advert.f_number_is_equivalent)
    text = {
        (
            True,
            False,
        ): (
            "{stated} had been converted to full frame, {f} had not. With both converted it is the "
            "picture of a {ff} {f_ff} lens."
        ),
        (True, True): "Both had been converted to full frame: {stated} {f}. The lens itself is a {true} {f_true}.",
        (
            False,
            False,
        ): (
            "Neither had been converted: the lens is a {true} {f_true}, and gives the picture of {ff} {f_ff} on full"
            " frame."
        ),
        (
            False,
            True,
        ): (
            "{f} had been converted to full frame, {stated} had not. With both converted it is the "
            "picture of a {ff} {f_ff} lens."
        ),
    }[key]
    exposure = (
        "For exposure it is {f_true} on any format. For depth of field and light in the whole "
        "picture it is {f_ff} on full frame."
    )
    return [Sentence(text, focal | ff | numbers), Sentence(exposure, numbers)]
