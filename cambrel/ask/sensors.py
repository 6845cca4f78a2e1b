"""The sensor that words name: its size, what it is called in a sentence, and what had to be assumed of it. Pure."""

from __future__ import annotations

from dataclasses import dataclass, replace

from cambrel import wording
from cambrel.ask.statement import NamedSensor
from cambrel.comparison.brief import Brief, Conventions
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.phrases.records import GearWords
from cambrel.phrases.stated import ALIKE, sensor_stated, stated_of

LARGEST_SENSOR_MM = 60.0
"""What is wider is film."""
FULL_FRAME_ASSUMED = "No format named, so full frame is assumed."


@dataclass(frozen=True)
class Named:
    """A sensor with what it is called, and what had to be assumed. slug: of the table of formats, "" for none of it"""

    sensor: Sensor
    called: str
    assumed: tuple[str, ...] = ()
    slug: str = ""


def judged_by(conventions: Conventions) -> dict[str, float]:
    """What a circle of confusion may depend on besides the sensor: the print that a picture is shown as where nothing
    is said of one, and the eye.
    """
    usual = Brief()
    return {
        "shown_long_side_mm": usual.shown_long_side_mm,
        "viewing_distance_mm": usual.viewing_distance_mm,
        "lines_per_mm": conventions.lines_per_mm,
    }


def in_a_sentence(slug: str) -> str:
    """A format of the table as it stands in a sentence."""
    return wording.in_words(FORMATS[slug].name)


def sensor_of(side: GearWords, by: str) -> Named:
    """The sensor that a side speaks of. A crop factor that is typed is used as typed."""
    named = FORMATS.get(side.format or "")
    stated = stated_of(side)
    if named or side.type_designation:
        stated = replace(stated, crop=None)
    found = sensor_stated(stated, by)
    if found is None:
        full = FULL_FRAME
        sized = sensor_stated(replace(stated, named=Sensor(full.width_mm, full.height_mm)), by)
        assert sized is not None
        return Named(sized.sensor, "full frame", (FULL_FRAME_ASSUMED,), full.slug)
    said = tuple(wording.sentence(line) for line in (*found.assumptions, *found.contradictions))
    if (named or side.type_designation) and side.crop is not None and side.width_mm is None:
        return _as_typed(found.sensor, side, by, said)
    if side.crop is not None and named is None and side.width_mm is None and side.type_designation is None:
        return Named(found.sensor, f"a sensor of crop factor {wording.significant(side.crop)}", said)
    if side.width_mm is None and named:
        return Named(found.sensor, in_a_sentence(named.slug), said, named.slug)
    if side.type_designation and side.width_mm is None:
        slug = next(
            (
                f.slug
                for f in FORMATS.values()
                if f.width_mm == found.sensor.width_mm and f.designation.endswith("type")
            ),
            "",
        )
        return Named(found.sensor, _typed(side.type_designation), said, slug)
    size = f"{wording.significant(found.sensor.width_mm)} × {wording.significant(found.sensor.height_mm)} mm"
    return Named(found.sensor, f"a {size} {'frame' if found.sensor.width_mm > LARGEST_SENSOR_MM else 'sensor'}", said)


def _typed(designation: str) -> str:
    return "a one-inch sensor" if designation == "1" else f"a {designation} type sensor"


def _as_typed(sensor: Sensor, side: GearWords, by: str, said: tuple[str, ...]) -> Named:
    """A format with the crop factor that was typed beside it: its shape, at that size."""
    assert side.crop is not None
    own = crop_factor(sensor, by=by)
    k = own / side.crop
    scaled = replace(sensor, width_mm=sensor.width_mm * k, height_mm=sensor.height_mm * k)
    typed = wording.significant(side.crop)
    called = in_a_sentence(side.format).partition(",")[0] if side.format else _typed(side.type_designation or "")
    lines = said
    if abs(k - 1) > ALIKE:
        lines = (
            *said,
            f"The crop factor of {called} is {wording.significant(own)}. The {typed} that you typed is used.",
        )
    return Named(scaled, f"{called} with a crop factor of {typed}", lines)


def named_sensor(
    named: NamedSensor | None,
    by: str,
    megapixels: float | None = None,
    pitch_um: float | None = None,
    crop: float | None = None,
) -> Named:
    """The sensor that a question names, with the pixels that it speaks of.

    Parameters
        named: as the question names it; None for no name
        by: measure of the crop factor
        megapixels, pitch_um: of the sensor, where they are said
        crop: a crop factor alone
    """
    words = named.words if named else GearWords(crop=crop)
    sensor = sensor_of(replace(words, megapixels=megapixels, pixel_pitch_um=pitch_um), by)
    return replace(sensor, assumed=(*sensor.assumed, *named.notes)) if named else sensor
