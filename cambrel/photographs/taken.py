"""How a picture was taken, as far as its file says so believably: what is absurd is left out, with a note."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import datetime, timedelta
from math import isfinite

from cambrel.photographs.heads import Head
from cambrel.photographs.tags import Tags

LONGEST_NAME = 60
LIMITS = {
    "focal_length_mm": (0.5, 3000.0), "focal_35_mm": (2.0, 10000.0), "f_number": (0.5, 128.0),
    "shutter_s": (1e-6, 86400.0),
    "iso": (1.0, 5e6), "distance_m": (0.01, 1e5),
}  # fmt: skip
"""Between which a figure is believed."""
SAYS = {
    "focal_length_mm": "focal length", "focal_35_mm": "equivalent focal length", "f_number": "f-number",
    "shutter_s": "shutter time",
    "iso": "ISO", "distance_m": "distance",
}  # fmt: skip
OVERFLOWED_ISO = 65535
ENDLESS_M = 4294967295.0
"""What stands for infinity where a distance is said."""
FIRST = datetime(1990, 1, 1)
SMALLER = 0.98
ZOOMED = 1.01


@dataclass(frozen=True)
class Taken:
    """How a picture was taken; None for what is not known.

    distance_m: at which it was focused; is_flashed: whether a flash fired
    at: by the camera's own clock; wide_px, high_px: as it is looked at; notes: what was left out and why, for the
        reader
    is_resized: it has other pixels than the camera says it recorded
    """

    body: str = ""
    lens: str = ""
    focal_length_mm: float | None = None
    focal_35_mm: float | None = None
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None
    at: datetime | None = None
    wide_px: int | None = None
    high_px: int | None = None
    is_resized: bool = False
    distance_m: float | None = None
    is_flashed: bool | None = None
    notes: tuple[str, ...] = ()


def taken(head: Head, now: datetime) -> Taken:
    """How a picture was taken.

    Parameters
        head: of its file
        now: by which a date in the future is told
    """
    tags, notes = head.tags, list[str]()
    figures = {
        "focal_length_mm": _first(tags, "focal_mm"),
        "focal_35_mm": _first(tags, "focal_35_mm"),
        "f_number": _f_number(tags),
        "shutter_s": _shutter(tags),
        "iso": _iso(tags),
        "distance_m": None if _number(tags.get("distance_m")) == ENDLESS_M else _first(tags, "distance_m"),
    }
    for key, value in figures.items():
        low, high = LIMITS[key]
        if value is not None and not low <= value <= high:
            figures[key] = None
            if value != 0:
                notes.append(f"its {SAYS[key]} makes no sense and was left out")
    at = _moment(tags.get("taken_at"))
    if at is not None and (at > now + timedelta(days=1) or at < FIRST):
        notes.append(f"its date, in {at.year}, makes no sense and was left out")
        at = None
    across, down = head.wide_px, head.high_px
    said_wide, said_high = (int(_number(tags.get(key)) or 0) for key in ("exif_wide", "exif_high"))
    is_resized = bool(across and down and said_wide and said_high) and (
        abs((across or 0) * (down or 0) / (said_wide * said_high) - 1) > 1 - SMALLER
    )
    if is_resized:
        notes.append(f"it is {across:,} × {down:,} pixels, and the camera recorded {said_wide:,} × {said_high:,}")
    if across is None or down is None:
        across, down = said_wide or None, said_high or None
    zoomed = _number(tags.get("digital_zoom"))
    if zoomed and zoomed > ZOOMED:
        notes.append(f"the camera cut it to {1 / zoomed:.0%} of the frame each way, its digital zoom")
    if _number(tags.get("orientation")) in (5, 6, 7, 8):
        across, down = down, across
    return Taken(
        body=_body(tags), lens=_name(tags.get("lens")), at=at, wide_px=across, high_px=down, is_resized=is_resized,
        notes=tuple(notes), is_flashed=_is_flashed(tags), **figures
    )  # fmt: skip


def _number(value: object) -> float | None:
    """A number, whatever way it is written; None for none at all."""
    if isinstance(value, tuple):
        if len(value) != 2 or value[1] == 0:
            return None
        value = value[0] / value[1]
    if isinstance(value, str) and (parts := re.fullmatch(r"\s*(\d{1,7})\s*/\s*(\d{1,7})\s*s?\s*", value)):
        return int(parts[1]) / int(parts[2]) if int(parts[2]) else None
    if isinstance(value, str):
        number = re.fullmatch(r"\s*(?:[fF]/?|ISO\s*)?(\d{1,7}(?:[.,]\d{1,6})?)\s*(?:mm|s)?\s*", value)
        value = float(number[1].replace(",", ".")) if number else None
    return float(value) if isinstance(value, int | float) and isfinite(value) else None


def _first(tags: Tags, *keys: str) -> float | None:
    """The first of some tags that says a number other than nought."""
    return next((value for key in keys if (value := _number(tags.get(key)))), None)


def _f_number(tags: Tags) -> float | None:
    if (value := _first(tags, "f_number")) is not None:
        return value
    apex = _number(tags.get("aperture_apex"))
    return None if apex is None or not 0 < apex < 16 else float(2 ** (apex / 2))


def _shutter(tags: Tags) -> float | None:
    if (value := _first(tags, "exposure_s")) is not None:
        return value
    apex = _number(tags.get("shutter_apex"))
    return None if apex is None or not -17 < apex < 20 else float(2**-apex)


def _iso(tags: Tags) -> float | None:
    value = _first(tags, "iso")
    if value is None or value == OVERFLOWED_ISO:
        return _first(tags, "iso_index", "iso_speed") or value
    return value


def _is_flashed(tags: Tags) -> bool | None:
    """Whether a flash fired: the lowest bit of what is said of it."""
    flash = _number(tags.get("flash"))
    return None if flash is None else bool(int(flash) & 1)


def _moment(value: object) -> datetime | None:
    gear = (
        re.match(r"(\d{4})[:-](\d\d)[:-](\d\d)[ T](\d\d):(\d\d)(?::(\d\d))?", value) if isinstance(value, str) else None
    )
    try:
        return datetime(*(int(part or 0) for part in gear.groups())) if gear else None  # type: ignore[arg-type]
    except ValueError:
        return None


def _name(value: object) -> str:
    """A name on one line, without what does not show."""
    text = "".join(letter if letter.isprintable() else " " for letter in value) if isinstance(value, str) else ""
    return " ".join(text.split())[:LONGEST_NAME].strip()


def _body(tags: Tags) -> str:
    """The camera by name, its maker's before it where the model does not begin so."""
    maker, model = _name(tags.get("maker")), _name(tags.get("model"))
    if not model or not maker or model.lower().startswith(maker.split()[0].lower()):
        return model
    return f"{maker} {model}"[:LONGEST_NAME]


def words_of(name: str) -> set[str]:
    """The words of a name, whatever their case and order.

    Parameters
        name: as a file or a record writes it
    Returns
        each once, in small letters
    """
    return {word for word in re.split(r"[\s\-,]+", name.lower()) if word}


def names_agree(one: str, other: str) -> bool:
    """Whether two names may be of the same thing: all words of one stand in the other.

    Parameters
        one, other: as a file and a record write them
    Returns
        False where either says nothing
    """
    words, others = words_of(one), words_of(other)
    return bool(words and others) and (words <= others or others <= words)
