"""How figures are shown: as cameras and photographers write them, at most three significant digits, a no-break space
before the unit.

Pure; used by drawings, sentences and template filters alike. Unknown is a dash, infinity is ∞.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from math import inf

from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.wording.amounts import (
    area_words as area_words,
)
from cambrel.wording.amounts import (
    big as big,
)
from cambrel.wording.amounts import (
    degrees as degrees,
)
from cambrel.wording.amounts import (
    duration as duration,
)
from cambrel.wording.amounts import (
    litres as litres,
)
from cambrel.wording.amounts import (
    mass as mass,
)
from cambrel.wording.amounts import (
    megabytes as megabytes,
)
from cambrel.wording.amounts import (
    megapixels as megapixels,
)
from cambrel.wording.amounts import (
    micrometres as micrometres,
)
from cambrel.wording.amounts import (
    money as money,
)
from cambrel.wording.amounts import (
    n_stop as n_stop,
)
from cambrel.wording.amounts import (
    share as share,
)
from cambrel.wording.amounts import (
    signed_stops as signed_stops,
)
from cambrel.wording.amounts import (
    stops as stops,
)
from cambrel.wording.amounts import (
    times as times,
)
from cambrel.wording.amounts import (
    times_in_figures as times_in_figures,
)
from cambrel.wording.lengths import (
    DASH as DASH,
)
from cambrel.wording.lengths import (
    FEET as FEET,
)
from cambrel.wording.lengths import (
    INFINITE as INFINITE,
)
from cambrel.wording.lengths import (
    METRES as METRES,
)
from cambrel.wording.lengths import (
    METRES_PER_FOOT as METRES_PER_FOOT,
)
from cambrel.wording.lengths import (
    MINUS as MINUS,
)
from cambrel.wording.lengths import (
    NBSP as NBSP,
)
from cambrel.wording.lengths import (
    UNITS as UNITS,
)
from cambrel.wording.lengths import (
    Units as Units,
)
from cambrel.wording.lengths import (
    distance as distance,
)
from cambrel.wording.lengths import (
    distance_number as distance_number,
)
from cambrel.wording.lengths import (
    significant as significant,
)
from cambrel.wording.lengths import (
    span as span,
)
from cambrel.wording.sentences import Sentence
from cambrel.wording.settings_marked import (
    f_number as f_number,
)
from cambrel.wording.settings_marked import (
    f_number_range as f_number_range,
)
from cambrel.wording.settings_marked import (
    f_number_text as f_number_text,
)
from cambrel.wording.settings_marked import (
    focal as focal,
)
from cambrel.wording.settings_marked import (
    focal_range as focal_range,
)
from cambrel.wording.settings_marked import (
    iso as iso,
)
from cambrel.wording.settings_marked import (
    iso_text as iso_text,
)
from cambrel.wording.settings_marked import (
    marked_f_number as marked_f_number,
)
from cambrel.wording.settings_marked import (
    marked_iso as marked_iso,
)
from cambrel.wording.settings_marked import (
    marked_shutter as marked_shutter,
)
from cambrel.wording.settings_marked import (
    settings as settings,
)
from cambrel.wording.settings_marked import (
    shutter as shutter,
)
from cambrel.wording.settings_marked import (
    shutter_text as shutter_text,
)

LETTERS = "ABCDEF"


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
    "l": litres,
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
