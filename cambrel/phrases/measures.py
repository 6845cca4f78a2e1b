"""Quantities that no lens has: stops, dots an inch, angles, shares, exposure values, filters, magnifications, sheets of
paper; and numbers whose unit belongs to something else. Each is read so that it is never taken for a focal length.
"""

from __future__ import annotations

from cambrel.phrases.lexicon import MAGNIFIED, SPELLED
from cambrel.phrases.scan import Mention, Scan
from cambrel.phrases.units import (
    CURRENCIES,
    DEGREES,
    DOTS,
    FOREIGN,
    INCHES,
    MM,
    PERCENT,
    PIXEL_COUNT,
    RATES,
    SECONDS,
    STOPS,
)

SMALLEST_KELVIN = 1000.0
VIDEO = {2.0, 4.0, 5.0, 6.0, 8.0, 12.0}
"""Thousands of pixels across that a film is named after: 4K."""
LARGEST_DENSITY = 6.0
DARKEST_STOPS = 16
"""No filter takes so many stops: a number from here on is its factor."""
PAPER_MM = {0: (841, 1189), 1: (594, 841), 2: (420, 594), 3: (297, 420), 4: (210, 297), 5: (148, 210), 6: (105, 148)}
"""ISO 216, series A."""
PAPER_UNITS_MM = {"cm": 10.0, "m": 1000.0, "mm": 1.0, '"': 25.4, **dict.fromkeys(INCHES, 25.4)}
BLOCK_SIDES = 3
INCH_SHEETS = {(4, 6), (5, 7), (8, 10), (8, 12), (10, 12), (11, 14), (12, 18), (16, 20), (20, 24), (12, 16), (16, 24)}
"""Sizes of paper that are named in inches without saying so."""


def paper(scan: Scan, at: int) -> Mention | None:
    """A4, 60 x 40 cm, 8x10 in: a sheet that a picture is printed on.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        its sides [mm]; None where it is something else
    """
    if scan.low(at) == "a" and scan.is_number(at + 1) and scan.glued(at + 1) and scan.value(at + 1) in PAPER_MM:
        short, long = PAPER_MM[int(scan.value(at + 1))]
        return Mention("paper", at, at + 2, (float(long), float(short)))
    if not scan.is_number(at):
        return None
    sign = at + 2 if scan.low(at + 1) in PAPER_UNITS_MM else at + 1
    if scan.low(sign) not in {"x", "by", "*"} or not scan.is_number(sign + 1):
        return None
    if scan.tokens[sign].spaced != scan.tokens[sign + 1].spaced:
        return None  # "2x 1 inch" is a factor and a sensor
    unit = scan.low(sign + 2)
    sides = scan.value(at), scan.value(sign + 1)
    if unit in PAPER_UNITS_MM and unit not in MM and not (unit == "in" and scan.format_at(sign + 3)[1]):
        if scan.format_at(at)[0] > sign + 1:
            return None  # 4 x 5 in is a format
        factor, end = PAPER_UNITS_MM[unit], sign + 3
    elif unit in MM and max(sides) > 300:
        factor, end = 1.0, sign + 3
    else:
        return None
    return Mention("paper", at, end, (sides[0] * factor, sides[1] * factor))


SHEETS_MM = {
    (6, 8): (76.0, 56.0), (6, 9): (84.0, 56.0), (6, 12): (118.0, 56.0), (6, 17): (168.0, 56.0),
    (5, 7): (177.8, 127.0), (8, 10): (254.0, 203.2), (11, 14): (355.6, 279.4),
}  # fmt: skip
"""Films and sheets by name that the table of formats does not have: roll film at its usual gate, sheets as cut."""


def _is_a_by_b(scan: Scan, at: int) -> bool:
    return scan.is_number(at) and scan.low(at + 1) in {"x", "by"} and scan.is_number(at + 2)


def sheet_film(scan: Scan, at: int) -> Mention | None:
    """6x9, 8x10: roll film and sheet film by name.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        its sides [mm]; None where it is something else
    """
    if not _is_a_by_b(scan, at):
        return None
    sides = tuple(sorted((scan.value(at), scan.value(at + 2))))
    if sides not in SHEETS_MM or scan.low(at + 3) in {*MM, "cm", "m"}:
        return None
    size = SHEETS_MM[(int(sides[0]), int(sides[1]))]
    name = f"{sides[0]:g} × {sides[1]:g}"
    note = (
        f"{name} is taken as a sheet in inches."
        if max(size) > 170
        else f"{name} is taken as roll film of {size[0]:g} × {size[1]:g} mm."
    )
    end = scan.past(at + 3, *INCHES, '"')
    return Mention("size", at, scan.past(end, "sheet", "film"), size, text=note)


def inch_sheet(scan: Scan, at: int) -> Mention | None:
    """8x10, 11x14, 16x20 where no unit is said: names of papers in inches.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        its sides [mm]; None where it is something else
    """
    if not _is_a_by_b(scan, at):
        return None
    sides = sorted((scan.value(at), scan.value(at + 2)))
    if tuple(sides) not in INCH_SHEETS or scan.low(at + 3) in MM:
        return None
    if not any(
        scan.low(place) in {"print", "prints", "printed", "printing", "paper", "dpi", "ppi"}
        for place in _around(scan, at)
    ):
        return None
    return Mention("paper", at, at + 3, (sides[1] * 25.4, sides[0] * 25.4))


def _around(scan: Scan, at: int, reach: int = 12) -> range:
    return range(max(0, at - reach), min(len(scan.tokens), at + reach))


def magnification(scan: Scan, at: int) -> Mention | None:
    """1:1, 1:2, 2:1, 0.5x magnification: how large the picture on the sensor is.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        as a ratio; None where it is something else
    """
    if not scan.is_number(at):
        return None
    if scan.low(at + 1) == ":" and scan.is_number(at + 2):
        over, under = scan.tokens[at].text, scan.tokens[at + 2].text
        is_reduced = over == "1" and under in {"1", "2", "3", "4", "5", "10"} and scan.low(at + 3) != "/"
        is_enlarged = under == "1" and over.isdigit() and 1 < int(over) <= 20
        if is_reduced or is_enlarged:
            return Mention("magnification", at, at + 3, (scan.value(at) / scan.value(at + 2),), "a magnification")
    place = at + 2 if scan.low(at + 1) == "x" else 0
    if place and scan.low(scan.past(place, "-", "life")) in MAGNIFIED and 0 < scan.value(at) <= 20:
        return Mention("magnification", at, place, (scan.value(at),), "a magnification")
    return None


def density(scan: Scan, at: int) -> Mention | None:
    """ND64, ND 1.8: a neutral filter by its factor or its density.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        how many times it takes the light; None where it is something else
    """
    if scan.low(at) != "nd":
        return None
    place = scan.past(at + 1, "-", "filter")
    if not scan.is_number(place):
        return None
    is_stops = scan.low(place + 1) in STOPS and not (place == at + 1 and scan.glued(place))
    if is_stops and scan.value(place) < DARKEST_STOPS and not _is_density(scan.value(place)):
        return None  # "nd 10 stops"
    value, by_density = scan.tokens[place].whole, scan.tokens[place].has_decimals
    if by_density and 0 < scan.value(place) <= LARGEST_DENSITY:
        return Mention("density", at, place + 1, (10 ** scan.value(place),))
    return Mention("density", at, place + 1, (value,)) if not by_density and 2 <= value <= 1e6 else None


def _is_density(value: float) -> bool:
    """Whether a figure is one of those that filters are named after by their density, of a stop each: 0.3, 0.6."""
    return not value.is_integer() and abs(value / 0.3 - round(value / 0.3)) < 1e-6


def exposure_value(scan: Scan, at: int) -> Mention | None:
    """EV 12, EV-3, 12 EV.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        [EV]; None where it is something else
    """
    if scan.low(at) == "ev" and scan.is_number(at + 1) and scan.glued(at + 1) and scan.value(at + 1) == 100:
        return Mention("concept", at, at + 2, text="ev")  # EV at ISO 100
    is_spelled = scan.low(at) in {"light", "exposure"} and scan.low(at + 1) == "value"
    if scan.low(at) in {"ev", "lv"} or is_spelled:
        at_number = at + 2 if is_spelled else at + 1
        place = scan.past(at_number, "=", ":", "of")
        is_below = scan.low(place) == "-" and scan.is_number(place + 1)
        place += is_below
        if scan.is_number(place) and scan.value(place) <= 30 and scan.low(place + 1) not in MM:
            return Mention("ev", at, place + 1, (-scan.value(place) if is_below else scan.value(place),))
    if scan.is_number(at) and scan.low(at + 1) in {"ev", "lv"} and not scan.is_number(at + 2) and scan.value(at) <= 30:
        is_below = at > 0 and scan.low(at - 1) == "-" and not scan.is_number(at - 2)
        return Mention("ev", at, at + 2, (-scan.value(at) if is_below else scan.value(at),))
    return None


def guide_number(scan: Scan, at: int) -> Mention | None:
    """guide number 40, GN 36: of a flash, in metres at ISO 100.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        [m]; None where it is something else
    """
    named = scan.low(at) == "gn" or (scan.low(at) in {"guide", "leitzahl"})
    if not named:
        return None
    place = scan.past(scan.past(at + 1, "number"), "of", ":", "=")
    if not scan.is_number(place) or not 1 <= scan.value(place) <= 200:
        return None
    end = place + 1
    return Mention("guide", at, end + 1 if scan.low(end) == "m" else end, (scan.value(place),))


def block(scan: Scan, at: int) -> Mention | None:
    """134 x 98 x 70 mm, 30 cm x 20 cm x 15 cm: a body, a lens or a bag by its three sides; millimetres where no unit
    stands behind.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        its sides [mm]; None where it is something else
    """
    values, units, place = list[float](), list[float](), at
    while scan.is_number(place) and len(values) < BLOCK_SIDES:
        values.append(scan.value(place))
        place += 1
        if (unit := PAPER_UNITS_MM.get(scan.low(place))) is not None:
            units.append(unit)
            place += 1
        if len(values) < BLOCK_SIDES:
            if scan.low(place) not in {"x", "by", "*"}:
                return None
            place += 1
    if len(values) < BLOCK_SIDES:
        return None
    in_mm = units[-1] if units else 1.0
    return Mention("block", at, place, tuple(value * in_mm for value in values))


def price(scan: Scan, at: int) -> Mention | None:
    """€ 900, 900 EUR: what something costs.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        the amount; None where it is something else
    """
    if scan.low(at) in CURRENCIES and scan.tokens[at].kind == "sign" and scan.is_number(at + 1):
        return Mention("price", at, at + 2, (scan.tokens[at + 1].whole,))
    if scan.is_number(at) and scan.low(at + 1) in CURRENCIES:
        return Mention("price", at, at + 2, (scan.tokens[at].whole,))
    return None


def other_unit(scan: Scan, at: int) -> Mention | None:
    """A number with a unit that no focal length has: 5 stops, 300 dpi, 84 degrees, 50 %, 5500 K.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there, "foreign" for a unit that no figure of ours has; None where it is something else
    """
    spelled = SPELLED.get(scan.low(at))
    if spelled is not None and scan.low(scan.past(at + 1, "-")) in STOPS:
        return Mention("stops", at, scan.past(at + 1, "-") + 1, (spelled,))
    if not scan.is_number(at):
        return None
    place = scan.past(at + 1, "-")
    unit, value = scan.low(place), scan.value(at)
    if unit == "°" and scan.low(place + 1) in {"c", "f"}:
        return Mention("foreign", at, place + 2, (value,), text=FOREIGN[f"°{scan.low(place + 1)}"])
    for kind, units in _BY_UNIT.items():
        if unit in units:
            return Mention(kind, at, place + 1, (value,))
    if (
        unit in {"frame", "frames", "bilder", "images"}
        and scan.low(place + 1) in {"per", "a", "pro", "par", "/"}
        and (scan.low(place + 2) in SECONDS)
    ):
        return Mention("rate", at, place + 3, (value,))
    if unit == "per" and scan.low(place + 1) == "cent":
        return Mention("percent", at, place + 2, (value,))
    if unit == "k" and scan.glued(place) and value in VIDEO:
        return Mention("skip", at, place + 1, text="a format of film")
    if unit == "km" and scan.low(place + 1) == "/" and scan.low(place + 2) == "h":
        return Mention("foreign", at, place + 3, (value,), text="a speed")
    if unit in FOREIGN and not (unit in {"k", "v"} and not scan.glued(place) and value < SMALLEST_KELVIN):
        return Mention("foreign", at, place + 1, (value,), text=FOREIGN[unit])
    return None


_BY_UNIT = {
    "stops": STOPS,
    "dots": DOTS,
    "angle": DEGREES,
    "percent": PERCENT,
    "rate": RATES,
    "pixels_wide": PIXEL_COUNT,
}
