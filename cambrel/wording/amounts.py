"""How much of something: stops, ratios, angles, masses, times, sizes and counts."""

from __future__ import annotations

from math import isinf

from cambrel.optics.quantities import is_unknown
from cambrel.wording.lengths import DASH, MINUS, NBSP, significant, with_unit
from cambrel.wording.settings_marked import shutter

EXACTLY, ABOUT = 0.005, 0.04
"""So far from two or a half a ratio is still called that, and about that."""
_COUNTS = ("", "", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")


def megapixels(pixels: float | None) -> str:
    """24.2 MP, or unknown.

    Parameters
        pixels: how many; None where it is not known
    Returns
        with its unit
    """
    return "unknown" if pixels is None else with_unit(significant(pixels / 1e6), "MP")


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
    return with_unit(number, "stop" if number == "1" else "stops")


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
    """Stops with their sign; a difference that rounds to nothing is none.

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
        return "same"
    sign = "+" if amount > 0 else MINUS
    return sign + stops(amount)


def times(ratio: float) -> str:
    """A ratio as one says it: twice, about half, 3.1 times, 1.02 times.

    Parameters
        ratio: above 0
    Returns
        in words where it is about two or a half, else with "times" behind it
    """
    if is_unknown(ratio) or isinf(ratio):
        return significant(ratio)
    for word, value in (("twice", 2.0), ("half", 0.5)):
        if abs(ratio / value - 1) <= ABOUT:
            return word if abs(ratio / value - 1) <= EXACTLY else f"about{NBSP}{word}"
    return times_in_figures(ratio)


def times_in_figures(ratio: float) -> str:
    """A ratio as a working comes to it, never in words: 2.0 times; below 1.15 with two
    decimals: 0.51 times.

    Parameters
        ratio: above 0
    Returns
        with "times" behind it
    """
    if is_unknown(ratio) or isinf(ratio):
        return significant(ratio)
    digits = 1 if ratio >= 1.15 else 2
    number = f"{ratio:.{digits}f}" if 0.1 <= ratio < 9.95 else significant(ratio, 2)
    return with_unit(number, "times")


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
    return with_unit(significant(value), "µm")


def mass(grams: float) -> str:
    """685 g, 1.42 kg.

    Parameters
        grams: [g]
    Returns
        with its unit
    """
    return with_unit(significant(grams), "g") if not grams >= 1000 else with_unit(significant(grams / 1000), "kg")


def litres(volume: float) -> str:
    """2.4 l, 0.86 l.

    Parameters
        volume: [l]
    Returns
        with its unit
    """
    return with_unit(significant(volume), "l")


def duration(seconds: float) -> str:
    """A time that may be long: as a shutter time up to two minutes, then in minutes, from two hours on in hours.

    Parameters
        seconds: [s]
    Returns
        with its unit
    """
    if seconds < 120:
        return shutter(seconds) if seconds < 1 else with_unit(significant(seconds), "s")
    return (
        with_unit(significant(seconds / 60), "min") if seconds < 7200 else with_unit(significant(seconds / 3600), "h")
    )


def megabytes(value: float) -> str:
    """The size of files: megabytes, from a thousand on gigabytes.

    Parameters
        value: [MB]
    Returns
        with its unit
    """
    return with_unit(significant(value), "MB") if value < 1000 else with_unit(significant(value / 1000), "GB")


LARGE_PRICE = 100.0
"""From here on nobody counts cents."""


def money(amount: float, currency: str) -> str:
    """A price with its currency behind it.

    Parameters
        amount: in that currency
        currency: three letters, or empty where nobody said
    Returns
        whole units; of a small one that is not whole also the cents
    """
    if is_unknown(amount):
        return DASH
    has_cents = amount < LARGE_PRICE and round(amount, 2) % 1 > 0
    return f"{amount:,.{2 if has_cents else 0}f}{NBSP}{currency}".strip()


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
            return with_unit(significant(count / (size if size > 1e4 else 1e3)), name)
    return significant(count)
