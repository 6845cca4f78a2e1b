"""How figures are shown: as cameras and photographers write them, at most three significant digits, a no-break space
before the unit.

Pure; used by drawings, sentences and template filters alike. Unknown is a dash, infinity is ∞.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from math import floor, inf, isinf, log10

from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, nearest
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import Sentence

NBSP = "\u00a0"
DASH = "–"
MINUS = "\u2212"
INFINITE = "∞"
LETTERS = "ABCDEF"
METRES_PER_FOOT = 0.3048


@dataclass(frozen=True)
class Units:
    """Units of length in the scene; the camera's millimetres stay millimetres."""

    key: str
    metres: float
    name: str
    small_name: str
    small_per: float
    tiny_name: str
    tiny_per: float
    big_name: str
    big_per: float


METRES = Units("m", 1.0, "m", "cm", 100.0, "mm", 1000.0, "km", 1000.0)
FEET = Units("ft", METRES_PER_FOOT, "ft", "in", 12.0, "in", 12.0, "mi", 5280.0)
UNITS = {"m": METRES, "ft": FEET}


def in_words(format_name: str) -> str:
    """A format's name within a sentence: full frame, Micro Four Thirds, APS-C.

    Parameters
        format_name: as it is listed
    Returns
        without a capital where it is no proper name
    """
    first = format_name.split()[0]
    is_name = first.isupper() or ("-" in first and first[:2].isupper()) or first in ("Micro", "Super")
    return format_name if is_name or not first[0].isalpha() else format_name[0].lower() + format_name[1:]


def significant(value: float, digits: int = 3) -> str:
    """A number with so many significant digits and no exponent, at most; trailing zeros after the point are kept off.

    Parameters
        value: any finite number
        digits: that are kept at most
    Returns
        digits with a point, no exponent
    """
    if is_unknown(value):
        return DASH
    if isinf(value):
        return INFINITE if value > 0 else MINUS + INFINITE
    if value == 0:
        return "0"
    decimals = max(0, digits - 1 - floor(log10(abs(value)) + 1e-12))
    text = f"{abs(value):.{decimals}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    if decimals == 0:
        text = f"{round(abs(value), digits - 1 - floor(log10(abs(value)) + 1e-12)):.0f}"
    return (MINUS if value < 0 else "") + text


def _with_unit(number: str, unit: str) -> str:
    return DASH if number == DASH else f"{number}{NBSP}{unit}"


def distance(metres: float, units: Units = METRES, digits: int = 3) -> str:
    """A distance in the scene: 2.05 m, 15.2 cm, 4.3 mm, 6.73 ft; infinity as ∞.

    Parameters
        metres: [m]; infinity is allowed
        units: of the reader
        digits: that are kept at most
    Returns
        with its unit
    """
    if isinf(metres):
        return INFINITE
    value = metres / units.metres
    if value != 0 and abs(value) < 0.00995:
        return _with_unit(significant(value * units.tiny_per, digits), units.tiny_name)
    if value != 0 and abs(value) < 0.995:
        return _with_unit(significant(value * units.small_per, digits), units.small_name)
    if abs(value) >= 10 * units.big_per:
        return _with_unit(significant(value / units.big_per, digits), units.big_name)
    return _with_unit(significant(value, digits), units.name)


def distance_number(metres: float, units: Units = METRES) -> str:
    """A distance as it stands in a field, without its unit; up to four significant digits.

    Parameters
        metres: [m]; infinity is allowed
        units: of the reader
    Returns
        without a unit; up to four significant digits
    """
    return significant(metres / units.metres, 4)


def span(near_m: float, far_m: float, units: Units = METRES) -> str:
    """From near to far, with as many decimals as tell them apart: 1.95–2.06 m.

    Parameters
        near_m, far_m: [m]; the far one may be infinite
        units: of the reader
    Returns
        both with one unit behind them
    """
    if is_unknown(near_m):
        return DASH
    near, far = near_m / units.metres, far_m / units.metres
    if isinf(far):
        return f"{significant(near)}{NBSP}{units.name}{DASH}{INFINITE}"
    depth = max(far - near, 1e-9)
    decimals = min(4, max(0, 1 - floor(log10(depth)), 2 - floor(log10(near))))
    decimals = decimals if far - near < 10 and near < 100 else max(0, 1 - floor(log10(depth)))
    return f"{near:.{decimals}f}{DASH}{far:.{decimals}f}{NBSP}{units.name}"


def focal(millimetres: float) -> str:
    """A focal length as lenses are marked: 50 mm, 4.38 mm.

    Parameters
        millimetres: [mm]
    Returns
        with its unit
    """
    return _with_unit(significant(millimetres), "mm")


def f_number(number: float) -> str:
    """As lenses and cameras write it: f/0.95, f/1.85, f/2.8, f/11. A figure that has two decimals by itself keeps them.

    Parameters
        number: the f-number
    Returns
        with f/ before it
    """
    if is_unknown(number) or isinf(number):
        return DASH
    digits = 2 if number < 0.995 or (number < 9.95 and round(number, 2) == number) else 1 if number < 9.95 else 0
    text = f"{number:.{digits}f}"
    return "f/" + (text.rstrip("0").rstrip(".") if "." in text else text)


def focal_range(low: float, high: float) -> str:
    """From short to long: 24–70 mm, or 50 mm where both are the same.

    Parameters
        low, high: [mm]
    Returns
        with one unit behind both
    """
    return focal(low) if significant(low) == significant(high) else f"{significant(low)}{DASH}{focal(high)}"


def f_number_range(short: float, long: float) -> str:
    """At the short and the long end: f/3.5–5.6, or f/2.8 where both are the same.

    Parameters
        short, long: f-numbers at either end
    Returns
        with one f/ before both
    """
    one, other = f_number(short), f_number_text(long)
    return one if one == f"f/{other}" or one == DASH else f"{one}{DASH}{other}"


def megapixels(pixels: float | None) -> str:
    """24.2 MP, or unknown.

    Parameters
        pixels: how many; None where it is not known
    Returns
        with its unit
    """
    return "unknown" if pixels is None else _with_unit(significant(pixels / 1e6), "MP")


def f_number_text(number: float) -> str:
    """An f-number as it stands in a field.

    Parameters
        number: the f-number
    Returns
        the number alone
    """
    return f_number(number).removeprefix("f/")


def shutter(seconds: float) -> str:
    """As cameras write it: 1/250, 0.5 s, 2 s.

    Parameters
        seconds: [s]
    Returns
        a fraction of a second, or seconds with their unit
    """
    text = shutter_text(seconds)
    return text if "/" in text or text == DASH else _with_unit(text, "s")


def shutter_text(seconds: float) -> str:
    """A shutter time as it stands in a field.

    Parameters
        seconds: [s]
    Returns
        as it would be typed
    """
    if is_unknown(seconds):
        return DASH
    if seconds < 0.29:
        return f"1/{significant(1 / seconds)}"
    return significant(seconds, 2)


def iso(value: float) -> str:
    """An ISO as cameras write it: ISO 400.

    Parameters
        value: the ISO
    Returns
        with ISO before it
    """
    return f"ISO{NBSP}{iso_text(value)}"


def iso_text(value: float) -> str:
    """An ISO as it stands in a field: up to four digits are shown whole where a camera would.

    Parameters
        value: the ISO
    Returns
        the number alone
    """
    return significant(value, 4 if value >= 10000 else 3)


def settings(focal_length_mm: float, f_number_set: float, shutter_s: float, iso_set: float) -> str:
    """What a camera is set to, in one line: 25 mm f/4 1/125 ISO 400.

    Parameters
        focal_length_mm: [mm]
        f_number_set: as set
        shutter_s: [s]
        iso_set: as set
    Returns
        the four of them with a space between
    """
    return f"{focal(focal_length_mm)} {f_number(f_number_set)} {shutter(shutter_s)} {iso(iso_set)}"


def marked_f_number(number: float) -> str:
    """The nearest aperture that lenses are set to.

    Parameters
        number: exact
    Returns
        with f/ before it
    """
    return f_number(nearest(number, F_NUMBERS).typed)


def marked_shutter(seconds: float) -> str:
    """The nearest time that shutters are set to; longer than they go it is counted.

    Parameters
        seconds: exact [s]
    Returns
        as cameras write it
    """
    return shutter(nearest(seconds, SHUTTERS).typed if seconds < SHUTTERS[-1].exact * 1.2 else seconds)


def marked_iso(value: float) -> str:
    """The nearest ISO that cameras are set to.

    Parameters
        value: exact
    Returns
        with ISO before it
    """
    return iso(nearest(value, ISOS).typed)


def stops(amount: float) -> str:
    """An amount of stops, without its sign.

    Parameters
        amount: [stops], of either sign
    Returns
        with its unit, one or many
    """
    if is_unknown(amount):
        return DASH
    number = _stops_number(amount)
    return _with_unit(number, "stop" if number == "1" else "stops")


def _stops_number(amount: float) -> str:
    number = f"{abs(amount):.1f}" if abs(amount) < 99.95 else f"{abs(amount):.0f}"
    return number.removesuffix(".0")


def n_stop(amount: float) -> str:
    """An amount of stops before a noun: a 3-stop filter, a 1.3-stop filter.

    Parameters
        amount: [stops], of either sign
    Returns
        with -stop behind it
    """
    return DASH if is_unknown(amount) else f"{_stops_number(amount)}-stop"


def signed_stops(amount: float) -> str:
    """Stops with their sign; a difference that rounds to nothing is level.

    Parameters
        amount: [stops]
    Returns
        with its sign and unit
    """
    if is_unknown(amount):
        return DASH
    if isinf(amount):
        return significant(amount)
    if abs(amount) < 0.05:
        return "level"
    sign = "+" if amount > 0 else MINUS
    return sign + stops(amount)


def times(ratio: float) -> str:
    """A ratio: 2.0 times, 0.50 times; one near to 1 with the digits that tell it from 1: 1.02 times.

    Parameters
        ratio: above 0
    Returns
        with "times" behind it
    """
    if is_unknown(ratio) or isinf(ratio):
        return significant(ratio)
    digits = 1 if ratio >= 1.15 else 2
    number = f"{ratio:.{digits}f}" if 0.1 <= ratio < 9.95 else significant(ratio, 2)
    return _with_unit(number, "times")


def share(ratio: float) -> str:
    """A ratio in percent: 3.1%, 0.76%.

    Parameters
        ratio: 1 for all of it
    Returns
        with its sign
    """
    if is_unknown(ratio) or isinf(ratio):
        return significant(ratio)
    if 0 < abs(ratio) < 1e-4:
        return "0%" if abs(ratio) < 1e-8 else ("" if ratio > 0 else MINUS) + "<0.01%"
    return significant(100 * ratio, 2 if ratio < 1 else 3) + "%"


_COUNTS = ("", "", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")


def area_words(area_ratio: float, whole: str = "full frame") -> str:
    """How often an area fits on a whole, in words: about seven of these fit on full frame.

    Parameters
        area_ratio: the whole's area over this one's
        whole: its name
    Returns
        a clause
    """
    if abs(area_ratio - 1) < 0.02:
        return f"as large as {whole}"
    if area_ratio < 1:
        return f"{times(1 / area_ratio)} the area of {whole}"
    count = round(area_ratio)
    if count < 2:
        return f"{share(1 / area_ratio)} of the area of {whole}"
    number = _COUNTS[count] if count < len(_COUNTS) else significant(area_ratio, 2)
    return f"about {number} of these fit on {whole}"


def degrees(angle: float) -> str:
    """An angle: 46.8°.

    Parameters
        angle: [degrees]
    Returns
        with its sign
    """
    return DASH if is_unknown(angle) else significant(angle) + "°"


def micrometres(value: float) -> str:
    """A small length on the sensor: 5.9 µm.

    Parameters
        value: [µm]
    Returns
        with its unit
    """
    return _with_unit(significant(value), "µm")


def mass(grams: float) -> str:
    """685 g, 1.42 kg.

    Parameters
        grams: [g]
    Returns
        with its unit
    """
    return _with_unit(significant(grams), "g") if not grams >= 1000 else _with_unit(significant(grams / 1000), "kg")


def duration(seconds: float) -> str:
    """A time that may be long: as a shutter time up to two minutes, then in minutes, from two hours on in hours.

    Parameters
        seconds: [s]
    Returns
        with its unit
    """
    if seconds < 120:
        return shutter(seconds) if seconds < 1 else _with_unit(significant(seconds), "s")
    return (
        _with_unit(significant(seconds / 60), "min") if seconds < 7200 else _with_unit(significant(seconds / 3600), "h")
    )


def megabytes(value: float) -> str:
    """The size of files: megabytes, from a thousand on gigabytes.

    Parameters
        value: [MB]
    Returns
        with its unit
    """
    return _with_unit(significant(value), "MB") if value < 1000 else _with_unit(significant(value / 1000), "GB")


def money(amount: float, currency: str) -> str:
    """A price with its currency behind it.

    Parameters
        amount: in that currency
        currency: three letters, or empty where nobody said
    Returns
        whole units
    """
    return DASH if is_unknown(amount) else f"{amount:,.0f}{NBSP}{currency}".strip()


def big(count: float) -> str:
    """A large count in words of three digits: 24.2 million, 1.3 thousand.

    Parameters
        count: 0 or more
    Returns
        a number and its thousand, million or billion
    """
    if is_unknown(count):
        return DASH
    for size, name in ((1e12, "trillion"), (1e9, "billion"), (1e6, "million"), (1e4, "thousand")):
        if count >= size:
            return _with_unit(significant(count / (size if size > 1e4 else 1e3)), name)
    return significant(count)


def letter(index: float) -> str:
    """The letter of a rig: A for the first.

    Parameters
        index: from 0
    Returns
        a capital
    """
    return LETTERS[int(index)]


_BY_KIND: dict[str, Callable[[float], str]] = {
    "mm": focal,
    "um": micrometres,
    "f": f_number,
    "stops": stops,
    "n-stop": n_stop,
    "signed": signed_stops,
    "times": times,
    "share": share,
    "iso": iso,
    "s": shutter,
    "f-mark": marked_f_number,
    "s-mark": marked_shutter,
    "iso-mark": marked_iso,
    "time": duration,
    "MB": megabytes,
    "deg": degrees,
    "g": mass,
    "number": significant,
    "count": big,
    "whole": "{:,.0f}".format,
    "rig": letter,
}


def figure(value: Figure, units: Units = METRES) -> str:
    """A figure as its kind is shown.

    Parameters
        value: a figure with its kind
        units: of the reader
    Returns
        with its unit
    """
    if isinstance(value.value, str):
        return value.value
    return distance(value.value, units) if value.kind == "m" else _BY_KIND[value.kind](value.value)


_ARTICLE = re.compile(r"\ba (?=(?:8\d*|11|18|11\d{3}|18\d{3})(?!\d)|f/|f-|ISO\b)")


def articled(text: str) -> str:
    """A text with "an" before what is spoken with a vowel: an 8.8 mm, an 18 mm, an f/2.8, an ISO.

    Parameters
        text: that begins with a noun, a number or a sign
    Returns
        with "a" or "an" before it
    """
    return _ARTICLE.sub("an ", text)


def sentence(said: Sentence, units: Units = METRES) -> str:
    """A computed sentence with its figures in place.

    Parameters
        said: its text with names in braces, and the figures by those names
        units: of the reader
    Returns
        as it is read
    """
    return articled(said.text.format_map({name: figure(value, units) for name, value in said.figures.items()}))


def exact(value: float) -> str:
    """A value in full, for copying: the shortest text that reads back as the same number.

    Parameters
        value: any number
    Returns
        all digits, or the sign of infinity, or "unknown"
    """
    if is_unknown(value):
        return "unknown"
    return INFINITE if value == inf else repr(float(value))
