"""The cells of tables as people write them: a number with or without its unit, a range, a price, a yes. ValueError for
what cannot be read.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from math import sqrt

from cambrel.optics.designations import type_size
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.owners.sections import Row
from cambrel.phrases.reader import read
from cambrel.phrases.stated import StatedSensor, sensor_stated
from cambrel.phrases.typed_figures import iso, length, mass_g, money, number, whole_number
from cambrel.phrases.units import LENGTHS_M, MASSES_G
from cambrel.shelf.naming import points_of

UNITS: dict[str, Mapping[str, float]] = {"mm": LENGTHS_M, "m": LENGTHS_M, "g": MASSES_G}
"""The units in which a column may be, by the one that is kept."""
LIKELY = {"mm": (0.5, 10_000.0), "m": (0.001, 100.0)}
"""Between which lengths of lenses and cameras lie, and what they focus on at the nearest."""
YES = {"yes", "y", "true", "1", "x", "✓", "✔", "on", "ja", "oui"}
NO = {"no", "n", "false", "0", "-", "–", "none", "off", "nein", "non"}
EMPTY = {"", "-", "–", "—", "?", "n/a", "na", "unknown", "tbd"}

_RANGE = re.compile(r"(.+?)\s*(?:-|–|—|to|\.\.\.?|…)\s*(.+)", re.IGNORECASE)
_PIXELS = re.compile(r"([\d.,]+)\s*[x×*]\s*([\d.,]+)(?:\s*(?:px|pixels?))?", re.IGNORECASE)


def quantity(text: str, kept: str, unit: str) -> float:
    """A number with its unit, or in the unit of the heading."""
    usual = UNITS[kept].get(unit)
    if kept == "g":
        return mass_g(text.lower(), usual)
    return length(text.lower(), usual, *LIKELY[kept], kept=LENGTHS_M[kept])


def focal(text: str, unit: str) -> dict[str, object]:
    """50, 50 mm, 24-70."""
    ends = _RANGE.fullmatch(text.strip())
    texts = [ends[1], ends[2]] if ends else [text]
    last_unit = re.search(r"([^\W\d_]+|['\"]+)$", texts[-1].strip().lower())
    shared = last_unit[1] if last_unit else unit
    low, high = quantity(texts[0], "mm", shared), quantity(texts[-1], "mm", shared)
    return {"focal_min_mm": low, "focal_max_mm": high}


def widest(text: str, low: float | None, high: float | None) -> dict[str, object]:
    """f/2.8, 2.8, 1:2.8, F3.5-5.6, by the one reader."""
    if low is None:
        raise ValueError(text)
    high = low if high is None else high
    text = text.strip().removeprefix("1:")
    words = text if re.search(r"[a-zƒ/]", text, re.IGNORECASE) else f"f/{text}"
    side = read(f"{low:g}-{high:g} mm {words}" if high > low else f"{low:g} mm {words}").sides[0]
    if side.f_number is None or (side.focal_min_mm, side.focal_max_mm) != (low, high):
        raise ValueError(text)
    return {"widest": points_of(low, high, side.f_number, side.f_number_long)}


def magnification(text: str) -> float:
    """0.25, 0.25x, 1:4."""
    text = text.strip().lower().rstrip("x×").strip()
    over, colon, under = text.partition(":")
    if not colon:
        return number(text, 1e-4, 20.0)
    if number(under, 0.05, 1e4) == 0:
        raise ValueError(text)
    return number(over, 0.05, 1e4) / number(under, 0.05, 1e4)


def price(text: str, unit: str) -> dict[str, object]:
    """480, 480 EUR, € 1,299.00; with the currency that stands beside it or in the heading."""
    amount, currency = money(text, unit)
    return {"price": amount} | ({"currency": currency} if currency else {})


def yes_or_no(text: str) -> bool:
    word = text.strip().lower()
    if word not in YES | NO:
        raise ValueError(text)
    return word in YES


def projection(text: str) -> bool:
    word = text.strip().lower()
    if word not in {"rectilinear", "fisheye"}:
        raise ValueError(text)
    return word == "rectilinear"


def iso_range(text: str) -> dict[str, object]:
    ends = _RANGE.fullmatch(text.strip())
    if not ends:
        raise ValueError(text)
    return {"base_iso": iso(ends[1]), "ceiling_iso": iso(ends[2])}


def percent(text: str) -> float:
    return number(re.sub(r"\s*(?:%|percent|per cent)$", "", text.strip().lower()), -100.0, 100.0)


def stops(text: str) -> float:
    return number(re.sub(r"\s*(?:stops?|ev)$", "", text.strip().lower()), -40.0, 40.0)


def named_format(text: str, formats: Mapping[str, tuple[float, float]]) -> str | tuple[float, float]:
    """A format by its name: one of the owner's as width and height, else a slug."""
    own: tuple[float, float] | None = formats.get(text.strip().lower())
    if own:
        return own
    side = read(text).sides[0]
    if side.format is None:
        raise ValueError(text)
    return side.format


def sensor(said: Row, formats: Mapping[str, tuple[float, float]]) -> dict[str, object]:
    """Width, height and pixels of a body from what its row says: a size, a format by name or type, a crop factor; with
    what was inferred.
    """
    stated: Row = {}
    if "format" in said:
        own = formats.get(said["format"].strip().lower())
        side = read(said["format"]).sides[0]
        if own:
            stated |= {"width_mm": own[0], "height_mm": own[1]}
        elif side.width_mm and side.height_mm:
            stated |= {"width_mm": side.width_mm, "height_mm": side.height_mm}
        elif side.format:
            stated["named"] = Sensor(FORMATS[side.format].width_mm, FORMATS[side.format].height_mm)
        elif designation := side.type_designation or _type(said["format"]):
            stated["type_designation"] = designation
        else:
            raise ValueError(said["format"])
    if "crop" in said:
        stated["crop"] = number(said["crop"].strip().lower().rstrip("x×"), 0.1, 100.0)
    for name in ("width_mm", "height_mm"):
        if name in said:
            stated[name] = said[name]
    pixels: dict[str, object] = {}
    if "megapixels" in said:
        pair = _PIXELS.fullmatch(said["megapixels"].strip())
        if pair:
            wide, high = whole_number(pair[1]), whole_number(pair[2])
            pixels = {"pixels_wide": round(max(wide, high)), "pixels_high": round(min(wide, high))}
        else:
            said_mp = re.sub(r"\s*(?:mp|mpix|mpx|megapixels?)$", "", said["megapixels"].strip().lower())
            stated["megapixels"] = number(said_mp, 0.01, 2000.0)
    try:
        stated_sensor = sensor_stated(StatedSensor(**stated))
    except DomainError as error:
        raise ValueError(str(error)) from None
    if stated_sensor is None:
        return pixels
    size = {"width_mm": stated_sensor.sensor.width_mm, "height_mm": stated_sensor.sensor.height_mm}
    if stated_sensor.sensor.pixels_wide and not pixels:
        aspect = stated_sensor.sensor.aspect_ratio
        wide = sqrt(stated["megapixels"] * 1e6 * aspect)
        pixels = {"pixels_wide": round(wide), "pixels_high": round(wide / aspect)}
    inferred = [] if {"width_mm", "height_mm"} <= set(stated) else ["width_mm", "height_mm"]
    if "megapixels" in stated:
        inferred += ["pixels_wide", "pixels_high"]
    return size | pixels | ({"inferred": inferred} if inferred else {})


def size(text: str) -> dict[str, object]:
    """23.5 x 15.6, with or without mm."""
    pair = _PIXELS.fullmatch(re.sub(r"\s*mm\b", "", text.strip().lower()))
    if not pair:
        raise ValueError(text)
    wide, high = (number(side, 0.5, 500.0) for side in (pair[1], pair[2]))
    return {"width_mm": max(wide, high), "height_mm": min(wide, high)}


def _type(text: str) -> str | None:
    try:
        return text.strip() if 0.05 <= type_size(text.strip().rstrip('"″”')).inches <= 3 else None
    except DomainError:
        return None
