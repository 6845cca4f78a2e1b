"""Numbers and lengths in the scene, in metres or in feet."""

from __future__ import annotations

from dataclasses import dataclass
from math import floor, isinf, log10

from cambrel.optics.quantities import is_unknown

NBSP = "\u00a0"
DASH = "–"
MINUS = "\u2212"
INFINITE = "∞"
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


def with_unit(number: str, unit: str) -> str:
    """A number with its unit, which stay on one line.

    Parameters
        number: as it is written
        unit: of it
    Returns
        with a no-break space between
    """
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
        return with_unit(significant(value * units.tiny_per, digits), units.tiny_name)
    if value != 0 and abs(value) < 0.995:
        return with_unit(significant(value * units.small_per, digits), units.small_name)
    if abs(value) >= 10 * units.big_per:
        return with_unit(significant(value / units.big_per, digits), units.big_name)
    return with_unit(significant(value, digits), units.name)


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
