"""Figures of a camera and of a picture in words: sensor, pixels, ISO, time, distance, weight; and numbers by their
units.
"""

from __future__ import annotations

from cambrel.phrases.lens_figures import FASTEST, SLOWEST, aperture
from cambrel.phrases.lexicon import BEHIND_A_LENGTH, METRES, MICRONS, NEAREST, NOT_FOCAL, PIXELS, TYPE_WORDS
from cambrel.phrases.scan import Mention, Scan
from cambrel.phrases.units import INCHES, MASSES_G, MM, SECONDS


def iso(scan: Scan, at: int) -> Mention | None:
    """ISO 400, ISO400, 400 ISO.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    if scan.low(at) in {"iso", "asa"}:
        place = scan.past(at + 1, ":", "=", "-")
        if scan.is_number(place) and 1 <= scan.tokens[place].whole <= 1e7:
            low, second = scan.tokens[place].whole, scan.range_end(place)
            if second and low < scan.tokens[second].whole <= 1e7 and not scan.is_other(second):
                return Mention("iso", at, second + 1, (low, scan.tokens[second].whole))
            return Mention("iso", at, place + 1, (low,))
    if scan.low(at + 1) in {"iso", "asa"} and _is_iso(scan, at, beside=False) and not _is_iso(scan, at + 2):
        return Mention("iso", at, at + 2, (scan.tokens[at].whole,))
    return None


def _is_iso(scan: Scan, at: int, *, beside: bool = True) -> bool:
    """Whether the number at a place could be an ISO: whole, large enough, and with no unit or sign of its own."""
    if not scan.is_number(at) or scan.tokens[at].whole < 25 or not float(scan.tokens[at].whole).is_integer():
        return False
    if not beside:
        return True
    own = scan.has_unit(at, MASSES_G, METRES, MM, PIXELS) or scan.range_end(at)
    return not (own or scan.low(at + 1) in {"/", ":", "x", "'", '"'})


def type_word(scan: Scan, at: int) -> Mention | None:
    """type 1/2.3, and the tokens of a fraction or number with its inch sign behind it.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    if scan.low(at) in {"type", "typ"} and scan.is_number(at + 1):
        end = fraction_end(scan, at + 1)
        return Mention("type", at, past_inches(scan, end), text=designation(scan, at + 1, end))
    if not scan.is_number(at):
        return None
    end = fraction_end(scan, at)
    inches = past_inches(scan, end)
    is_fraction = end > at + 1
    size = scan.value(at) / (scan.value(end - 1) if is_fraction else 1.0) if scan.value(end - 1) else 0.0
    if inches > end and 0.1 <= size <= 1.8 and (is_fraction or scan.value(at) == 1 or scan.tokens[at].has_decimals):
        if not is_fraction and scan.low(inches - 1) == "sensor" and scan.low(end) in {"sensor"}:
            return None
        return Mention("type", at, inches, text=designation(scan, at, end))
    return None


def fraction_end(scan: Scan, at: int) -> int:
    """Behind a number, or behind a fraction of two.

    Parameters
        scan: the text in tokens
        at: of a number
    Returns
        the place behind it
    """
    if scan.low(at + 1) == "/" and scan.is_number(at + 2):
        close = not scan.tokens[at + 1].spaced and not scan.tokens[at + 2].spaced
        if close or (scan.tokens[at].text == "1" and past_inches(scan, at + 3) > at + 3):
            return at + 3
    return at + 1


def designation(scan: Scan, first: int, end: int) -> str:
    """The designation of a type, as written: 1/2.3.

    Parameters
        scan: the text in tokens
        first, end: of a fraction or a number
    Returns
        without spaces
    """
    return "/".join(f"{scan.value(place):g}" for place in range(first, end, 2))


def past_inches(scan: Scan, at: int) -> int:
    """Behind inch signs and type words, as many as stand here.

    Parameters
        scan: the text in tokens
        at: behind a fraction or a number
    Returns
        the place behind all of them
    """
    place = at
    if scan.low(place) == "-" and scan.low(place + 1) in TYPE_WORDS:
        place += 1
    if scan.low(place) == "'" and scan.low(place + 1) == "'":
        place += 2
    elif scan.low(place) == '"':
        place += 1
    elif scan.low(place) == "in" and not scan.glued(place):
        return at
    elif scan.low(place) in INCHES | {"type", "typ"}:
        place += 1
    elif scan.low(place) == "sensor" and scan.low(at - 2) == "/":
        return place + 1
    else:
        return at
    while scan.low(place) in {"-", "type", "typ", "sensor"} and place < at + 6:
        place += 1
    return place


def feet(scan: Scan, at: int) -> Mention | None:
    """8' 2", 8 ft 2 in, 8'.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        a distance [m]; None where it is something else
    """
    if not scan.is_number(at):
        return None
    if not (scan.low(at + 1) == "'" and scan.low(at + 2) != "'") and scan.low(at + 1) not in {"ft", "feet", "foot"}:
        return None
    feet, end = scan.value(at), at + 2
    if scan.is_number(end) and scan.low(end + 1) in {'"', *INCHES} and scan.value(end) < 12:
        return Mention("distance", at, end + 2, ((feet + scan.value(end) / 12) * 0.3048,))
    return Mention("distance", at, end, (feet * 0.3048,))


LONGEST_SHAPE = 4.0
"""No frame is so many times as wide as high."""
LARGEST_CROP = 8.0


def pixels_or_size(scan: Scan, at: int) -> Mention | None:
    """23.5 x 15.6 mm, 6000 x 4000.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        a sensor's sides [mm] or its pixels; None where it is something else
    """
    if not scan.is_number(at):
        return None
    place = at + 2 if scan.low(at + 1) in MM else at + 1
    if scan.low(place) not in {"x", "by", "*", "times"} or not scan.is_number(place + 1):
        return None
    if scan.tokens[place].spaced != scan.tokens[place + 1].spaced:
        return None  # "3x 24 mm" is a ratio and a focal length
    wide, high, end = scan.tokens[at].whole, scan.tokens[place + 1].whole, place + 2
    if scan.range_end(place + 1) and scan.low(scan.range_end(place + 1) + 1) in MM:
        return None
    if min(wide, high) >= 200 and scan.low(end) not in MM:
        return Mention("megapixels", at, scan.past(end, "px", "pixels"), (wide * high / 1e6, wide, high))
    wide, high = scan.value(at), scan.value(place + 1)
    if wide > LONGEST_SHAPE * high and high <= LARGEST_CROP and scan.low(end) not in {*MM, "x", "by"}:
        scan.mentions.append(Mention("focal", at, place, (wide, wide)))
        return Mention("crop", place, end, (high,))  # 50 x 1.5
    if scan.low(place) == "times":
        return None
    end = end + 1 if scan.low(end) in MM else end
    return Mention("size", at, end, (wide, high)) if min(wide, high) >= 0.5 and max(wide, high) <= 300 else None


def with_unit(scan: Scan, at: int) -> Mention | None:
    """A number or a range with its unit: 50 mm, 2.5 m, 24 MP, 400 g.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there, in our units; None where it is something else
    """
    if not scan.is_number(at):
        return None
    second = scan.range_end(at)
    place = scan.past((second or at) + 1, "-")
    unit = scan.low(place)
    low, high = scan.value(at), scan.value(second or at)
    if (
        unit in MM
        and not second
        and scan.low(place + 1) in {"-", "to"}
        and scan.is_number(place + 2)
        and scan.low(place + 3) in MM
    ):
        high, place = scan.value(place + 2), place + 3
    if unit in MM:
        return millimetres(scan, at, place + 1, low, high)
    if place > (second or at) + 1 or scan.format_at(place)[1]:
        return None
    if unit in PIXELS or (unit == "m" and scan.low(place + 1) in {"pixel", "pixels", "px"}):
        end = place + 1 if unit in PIXELS else place + 2
        return Mention("megapixels", at, end, (low,)) if 0.01 <= low <= 2000 else None
    if unit in MICRONS or (unit in {"µ", "u"} and scan.low(place + 1) == "m"):
        end = place + 1 if unit in MICRONS else place + 2
        return Mention("pitch", at, end, (low,)) if 0.2 <= low <= 30 else None
    if unit in METRES and not second:
        return metres(scan, at, place + 1, low * METRES[unit])
    if (unit in {"inch", "inches", '"', "zoll"} and not second) or (unit == "in" and _is_inch(scan, place)):
        return metres(scan, at, place + 1, low * 0.0254)
    if unit in MASSES_G and not second:
        return Mention("weight", at, place + 1, (scan.tokens[at].whole * MASSES_G[unit],))
    if unit in SECONDS and not second:
        seconds = low * SECONDS[unit]
        return Mention("shutter", at, place + 1, (seconds,)) if 0 < seconds <= 36000 else None
    return None


def _is_inch(scan: Scan, at: int) -> bool:
    """Whether "in" at a place is the unit: right behind its number, or with nothing behind it that one could be in."""
    if scan.glued(at) or at + 1 >= len(scan.tokens):
        return True
    return scan.tokens[at + 1].kind == "sign" or scan.low(at + 1) in BEHIND_A_LENGTH


def millimetres(scan: Scan, at: int, end: int, low: float, high: float) -> Mention | None:
    """A length in millimetres as what it can be: a focal length, a filter, a sensor's side.

    Parameters
        scan: the text in tokens
        at, end: of the number with its unit
        low, high: of the range, equal for one number [mm]
    Returns
        a mention of what it is; None beyond what lenses have
    """
    before = scan.low(at - 1) if scan.low(at - 1) not in {":", "=", "of", "is", "("} else scan.low(at - 2)
    focal_length = before == "length" and scan.before(at, {"focal"}, 4)
    after = scan.low(end)
    if before in {"diagonal", "diag"} or after in {"diagonal", "diag"}:
        return Mention("diagonal", at, scan.past(end, "diagonal", "diag"), (low,))
    asked = "how" in {scan.low(at - 2), scan.low(at - 3)}  # "how wide is 10 mm" asks of the view
    if (before in NOT_FOCAL and not focal_length and not asked) or after in {
        "filter",
        "thread",
        "diameter",
        "circle",
        "long",
        "tall",
    }:
        return Mention("skip", at, end, text="a length that is no focal length")
    if not (0.5 <= low <= high <= 10_000):
        return None
    if scan.low(end) == "/" and scan.glued(end):
        number = end + 1 if scan.low(end + 1) != "f" else end + 2
        if scan.is_number(number) and FASTEST <= scan.value(number) <= SLOWEST:
            scan.mentions.append(Mention("focal", at, end, (low, high)))
            return aperture(scan, at, number)
    return Mention("focal", at, end, (low, high))


def metres(scan: Scan, at: int, end: int, metres: float) -> Mention | None:
    """A length in metres as what it can be: how near a lens focuses, or a distance to the subject.

    Parameters
        scan: the text in tokens
        at, end: of the number with its unit
        metres: [m]
    Returns
        what is read there; None where it is something else
    """
    if scan.before(at, NEAREST, 4):
        return Mention("skip", at, end, text="the closest distance")
    return Mention("distance", at, end, (metres,)) if 0 < metres <= 1e6 else None
