"""What lenses and cameras are set to and marked with."""

from __future__ import annotations

from math import isinf

from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, nearest
from cambrel.wording.lengths import DASH, NBSP, significant, with_unit


def focal(millimetres: float) -> str:
    """A focal length as lenses are marked: 50 mm, 4.38 mm.

    Parameters
        millimetres: [mm]
    Returns
        with its unit
    """
    return with_unit(significant(millimetres), "mm")


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
    return text if "/" in text or text == DASH else with_unit(text, "s")


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
