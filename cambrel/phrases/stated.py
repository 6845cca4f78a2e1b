"""A sensor from what is stated of it: a size, a format, a type, pixels, a crop factor; and where the statements
contradict one another.

Lengths in mm, pitch in um. What had to be assumed is said with how far it could be off. Source: the manufacturers' rule
of thumb for types.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt

from cambrel.optics.designations import NOMINAL_TOLERANCE, type_size
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.quantities import positive
from cambrel.optics.workings import Figure
from cambrel.phrases.records import GearWords
from cambrel.wording.sentences import Sentence

LISTED_TOLERANCE = 0.02
PITCH_TOLERANCE = 0.03
ALIKE = 0.06
"""Two statements of one length within this of each other do not contradict."""
SIDE_ALIKE = 0.03
"""A side of a named format is no farther off in what is made."""
TYPE_ALIKE = 0.12
SMALL_DIAGONAL_MM = 14.0
"""Up to this diagonal a sensor is taken to be 4:3 where no shape is stated, beyond it 3:2."""
WIDEST_SHAPE = 2.4


@dataclass(frozen=True)
class StatedSensor:
    """What is said of a sensor; None where nothing is. named: a format of the table by its size."""

    width_mm: float | None = None
    height_mm: float | None = None
    diagonal_mm: float | None = None
    named: Sensor | None = None
    type_designation: str | None = None
    crop: float | None = None
    megapixels: float | None = None
    pixel_pitch_um: float | None = None

    def __post_init__(self) -> None:
        for name in ("width_mm", "height_mm", "diagonal_mm", "crop", "megapixels", "pixel_pitch_um"):
            if getattr(self, name) is not None:
                positive(name, getattr(self, name))


def stated_of(words: GearWords) -> StatedSensor:
    """What a text says of a sensor.

    Parameters
        words: of gear, as they were read
    Returns
        the same, with its format by size
    """
    named = FORMATS.get(words.format or "")
    return StatedSensor(
        width_mm=words.width_mm,
        height_mm=words.height_mm,
        diagonal_mm=words.diagonal_mm,
        named=named and Sensor(named.width_mm, named.height_mm),
        type_designation=words.type_designation,
        crop=words.crop,
        megapixels=words.megapixels,
        pixel_pitch_um=words.pixel_pitch_um,
    )


@dataclass(frozen=True)
class SensorReading:
    """The sensor that the statements come to. tolerance: how far a length of it could be off, as a ratio; 0 for a
    stated size.
    """

    sensor: Sensor
    tolerance: float
    assumptions: tuple[Sentence, ...] = ()
    contradictions: tuple[Sentence, ...] = ()


def _of_diagonal(diagonal_mm: float) -> Sensor:
    across, down = (4, 3) if diagonal_mm <= SMALL_DIAGONAL_MM else (3, 2)
    scale = diagonal_mm / hypot(across, down)
    return Sensor(across * scale, down * scale)


def sensor_stated(stated: StatedSensor, by: str = "diagonal") -> SensorReading | None:
    """The sensor by the surest of the statements, its pixels where known, what was assumed, and what contradicts it.

    Parameters
        stated: as said
        by: measure of the crop factor, a key of CROP_MEASURES
    Returns
        SensorReading, or None where nothing gives a size
    Raises
        DomainError for a type that cannot be read
    """
    surest = _surest(stated, by)
    if surest is None:
        return None
    sensor, tolerance, assumed = surest
    contradictions = tuple(_contradictions(stated, sensor, by))
    if stated.megapixels is not None:
        wide = sqrt(stated.megapixels * 1e6 * sensor.aspect_ratio)
        sensor = Sensor(sensor.width_mm, sensor.height_mm, wide, wide / sensor.aspect_ratio)
    elif stated.pixel_pitch_um is not None:
        pitch_mm = stated.pixel_pitch_um / 1000
        sensor = Sensor(sensor.width_mm, sensor.height_mm, sensor.width_mm / pitch_mm, sensor.height_mm / pitch_mm)
    return SensorReading(sensor, tolerance, tuple(assumed), contradictions)


def _surest(stated: StatedSensor, by: str) -> tuple[Sensor, float, list[Sentence]] | None:
    if stated.width_mm is not None and stated.height_mm is not None:
        wide, high = max(stated.width_mm, stated.height_mm), min(stated.width_mm, stated.height_mm)
        return Sensor(wide, high), 0.0, []
    if stated.named is not None:
        return Sensor(stated.named.width_mm, stated.named.height_mm), 0.0, []
    if stated.type_designation is not None:
        size = type_size(stated.type_designation)
        if size.is_listed:
            text = "The size of the sensor is the usual one of its type. Makers differ by about {off}."
            return size.sensor, LISTED_TOLERANCE, [Sentence(text, {"off": Figure(LISTED_TOLERANCE, "share")})]
        text = (
            "The type gives no millimetres, so a diagonal of {diagonal} is assumed. Sensors of one type "
            "differ by about {off}."
        )
        figures = {"diagonal": Figure(size.sensor.diagonal_mm, "mm"), "off": Figure(NOMINAL_TOLERANCE, "share")}
        return size.sensor, NOMINAL_TOLERANCE, [Sentence(text, figures)]
    if stated.diagonal_mm is not None:
        return _of_diagonal(stated.diagonal_mm), LISTED_TOLERANCE, [_shape_assumed(stated.diagonal_mm)]
    if stated.megapixels is not None and stated.pixel_pitch_um is not None:
        area = stated.megapixels * 1e6 * (stated.pixel_pitch_um / 1000) ** 2
        # of a 4:3 frame the diagonal is the area's square root times 25/12 under the root
        diagonal = sqrt(area * 25 / 12)
        sensor = _of_diagonal(diagonal)
        scale = sqrt(area / sensor.area_mm2)
        text = (
            "The size follows from {pixels} pixels of {pitch}. A shape of {shape} is assumed, so each "
            "side could be off by about {off}."
        )
        figures = {
            "pixels": Figure(stated.megapixels * 1e6, "count"),
            "pitch": Figure(stated.pixel_pitch_um, "um"),
            "shape": Figure(_shape(sensor), "word"),
            "off": Figure(PITCH_TOLERANCE, "share"),
        }
        return Sensor(sensor.width_mm * scale, sensor.height_mm * scale), PITCH_TOLERANCE, [Sentence(text, figures)]
    if stated.crop is not None:
        diagonal = FULL_FRAME.diagonal_mm / stated.crop
        sensor = _of_diagonal(diagonal)
        scale = crop_factor(sensor, by=by) / stated.crop
        return Sensor(sensor.width_mm * scale, sensor.height_mm * scale), LISTED_TOLERANCE, [_shape_assumed(diagonal)]
    return None


def _shape(sensor: Sensor) -> str:
    return "4:3" if abs(sensor.aspect_ratio - 4 / 3) < 0.01 else "3:2"


def _shape_assumed(diagonal_mm: float) -> Sentence:
    text = "No shape is stated: {shape} is assumed for a diagonal of {diagonal}."
    return Sentence(
        text, {"shape": Figure(_shape(_of_diagonal(diagonal_mm)), "word"), "diagonal": Figure(diagonal_mm, "mm")}
    )


def _contradictions(stated: StatedSensor, sensor: Sensor, by: str) -> list[Sentence]:
    """Statements that do not agree with the sensor that was taken; the common slip, a diagonal given as a side, by its
    name.
    """
    said: list[Sentence] = []
    diagonal = Figure(sensor.diagonal_mm, "mm")
    size = {"wide": Figure(sensor.width_mm, "mm"), "high": Figure(sensor.height_mm, "mm"), "diagonal": diagonal}
    is_sized = stated.width_mm is not None and stated.height_mm is not None
    if is_sized and sensor.aspect_ratio > WIDEST_SHAPE:
        said.append(Sentence("A sensor of {wide} by {high} is wider than any that is made: a side may be wrong.", size))
    if stated.type_designation is not None and (is_sized or stated.named is not None):
        said += _type_against(stated, sensor, size)
    if stated.named is not None and is_sized and abs(stated.named.diagonal_mm / sensor.diagonal_mm - 1) > ALIKE:
        figures = size | {"usual": Figure(stated.named.diagonal_mm, "mm")}
        said.append(
            Sentence(
                "{wide} by {high} is not the size of that format, whose diagonal is {usual}. The size is taken.",
                figures,
            )
        )
    elif is_sized and (usual := _usual_size(stated, sensor)) is not None:
        figures = size | {"usual_wide": Figure(usual.width_mm, "mm"), "usual_high": Figure(usual.height_mm, "mm")}
        text = "{wide} by {high}? Sensors of that kind are {usual_wide} by {usual_high}. The stated size is taken."
        said.append(Sentence(text, figures))
    crop = crop_factor(sensor, by=by)
    if stated.crop is not None and abs(crop / stated.crop - 1) > ALIKE:
        text = (
            "The crop factor stated, {stated}, does not agree with the sensor, which has {crop}. The sensor is taken."
        )
        said.append(Sentence(text, {"stated": Figure(stated.crop, "number"), "crop": Figure(crop, "number")}))
    if stated.megapixels is not None and stated.pixel_pitch_um is not None:
        pitch = 1000 * sqrt(sensor.area_mm2 / (stated.megapixels * 1e6))
        if abs(pitch / stated.pixel_pitch_um - 1) > ALIKE:
            text = (
                "Pixels of {stated} do not agree with the size and the pixel count, which give {pitch}: several may be"
                " read as one."
            )
            said.append(Sentence(text, {"stated": Figure(stated.pixel_pitch_um, "um"), "pitch": Figure(pitch, "um")}))
    if stated.diagonal_mm is not None and abs(stated.diagonal_mm / sensor.diagonal_mm - 1) > ALIKE:
        text = "The diagonal stated, {stated}, does not agree with the sensor's, {diagonal}."
        said.append(Sentence(text, {"stated": Figure(stated.diagonal_mm, "mm"), "diagonal": diagonal}))
    return said


def _usual_size(stated: StatedSensor, sensor: Sensor) -> Sensor | None:
    """The size that a named format or a listed type really has, where the stated one is near it and not it."""
    named = stated.named
    if named is None and stated.type_designation is not None:
        size = type_size(stated.type_designation)
        # small types are named loosely: of those only the diagonal is held against the size
        named = size.sensor if size.is_listed and size.inches >= 1 else None
    if named is None:
        return None

    def off(one: Sensor) -> float:
        return max(abs(sensor.width_mm / one.width_mm - 1), abs(sensor.height_mm / one.height_mm - 1))

    # two cuts of one kind, as of APS-C, are called by one name: the nearer one counts
    near = min((format_ for format_ in FORMATS.values() if format_.medium == "digital"), key=off)
    kind = near if abs(near.diagonal_mm / named.diagonal_mm - 1) <= ALIKE else named
    return kind if off(kind) > SIDE_ALIKE else None


def _type_against(stated: StatedSensor, sensor: Sensor, size: dict[str, Figure]) -> list[Sentence]:
    assert stated.type_designation is not None
    usual = type_size(stated.type_designation).sensor.diagonal_mm
    if abs(sensor.diagonal_mm / usual - 1) <= TYPE_ALIKE:
        return []
    figures = size | {"usual": Figure(usual, "mm"), "type": Figure(stated.type_designation, "word")}
    if abs(sensor.width_mm / usual - 1) <= ALIKE:
        text = (
            "{wide} is about the diagonal of a sensor of type {type}, not its width: the diagonal seems to have been"
            " given as a side. Taken as stated the diagonal would be {diagonal}."
        )
        return [Sentence(text, figures)]
    text = (
        "{wide} by {high} has a diagonal of {diagonal}, but sensors of type {type} have about "
        "{usual}. The size is taken."
    )
    return [Sentence(text, figures)]
