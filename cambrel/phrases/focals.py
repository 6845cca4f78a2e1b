"""Which focal length of several is the stated one, whether it is an equivalent, and which bare number is an
f-number.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import hypot

from cambrel.optics.designations import type_size
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.quantities import DomainError
from cambrel.phrases.lens_figures import F_MARKS
from cambrel.phrases.notes import Notes
from cambrel.phrases.records import GearWords
from cambrel.phrases.scan import Mention, Scan

CONNECTORS = {
    "to",
    "of",
    "focal",
    "length",
    "lengths",
    "range",
    "is",
    ":",
    "=",
    "(",
    ")",
    "lens",
    ",",
    "a",
    "an",
    "about",
    "~",
    "-",
    ".",
}
LABEL_TOLERANCE = 0.15
SHORTEST_EQUIVALENT_MM = 8.0
"""No camera with a small sensor sees as wide as a shorter lens on full frame."""


def bare_numbers(part: list[Mention], notes: Notes) -> tuple[list[Mention], list[Mention]]:
    """Focal lengths and f-numbers, with the numbers without a unit among them.

    Parameters
        part: what was read of one lens
        notes: for the reader, added to
    Returns
        focal lengths, and f-numbers
    """
    focals = [m for m in part if m.kind == "focal"]
    apertures = [m for m in part if m.kind == "f_number"]
    bares = [m for m in part if m.kind == "bare"]
    loose: list[Mention] = []
    for index, mention in enumerate(bares):
        low, high = mention.values
        nxt = bares[index + 1] if index + 1 < len(bares) else None
        f_first = (
            nxt is not None and not apertures and high <= 2.8 and _is_aperture(mention) and nxt.values[0] > 3 * high
        )
        if not focals and low >= 2 and not f_first and not (apertures and _too_small(mention)):
            focals.append(mention)
        elif not apertures and _is_aperture(mention) and (focals or f_first):
            values = mention.values if low != high else mention.values[:1]
            apertures.append(replace(mention, kind="f_number", values=values))
        else:
            loose.append(mention)
    for mention in loose:
        notes.leave(mention)
    return sorted(focals, key=lambda m: m.first), sorted(apertures, key=lambda m: m.first)


def _is_aperture(mention: Mention) -> bool:
    low, high = mention.values
    return 0.5 <= low <= high <= 45 and (low in F_MARKS or not low.is_integer() or low != high or low <= 9)


def _too_small(mention: Mention) -> bool:
    return mention.values[0] < 2


def apertures(found: list[Mention], notes: Notes, given: dict[str, object]) -> None:
    """The f-numbers of a lens: wide open, and as it is set.

    Parameters
        found: f-numbers in their order
        notes: for the reader, added to
        given: what is known of the lens, added to
    """
    for index, mention in enumerate(found):
        if index:
            notes.leave(mention)
            continue
        given["f_number"] = mention.values[0]
        text = f"f/{mention.values[0]:g}"
        if len(mention.values) > 1 and mention.values[1] != mention.values[0]:
            given["f_number_long"] = mention.values[1]
            text += f" to f/{mention.values[1]:g}"
        notes.say(mention, text)


def focal_lengths(scan: Scan, part: list[Mention], focals: list[Mention], side: GearWords, notes: Notes) -> GearWords:
    """Which focal length is the stated one, whether it is an equivalent, and the true one beside it.

    Parameters
        scan: the text in tokens
        part: what was read of one lens
        focals: its focal lengths in their order
        side: what is known of its gear
        notes: for the reader, added to
    Returns
        the gear with its focal length
    """
    said = _Said(list(focals))
    _in_35_mm(scan, part, side, said, notes)
    for marker in [m for m in part if m.kind == "equivalent"]:
        _equivalent(scan, part, marker, said, notes)
    for marker in [m for m in part if m.kind == "true"]:
        right, left = _next_to(scan, part, said.focals, marker)
        chosen = left if left is not None and right is None else right or left
        if chosen is not None:
            said.true.add(id(chosen))
            notes.say(marker, "said to be the true focal length")
    eqs = [m for m in said.focals if id(m) in said.converted]
    trues = [m for m in said.focals if id(m) in said.true and id(m) not in said.converted]
    rest = [m for m in said.focals if m not in eqs and m not in trues]
    stated = (eqs or trues or rest)[:1]
    if not stated:
        return replace(side, f_number_equivalent=said.aperture_too)
    other = (trues or rest)[:1] if eqs else []
    for mention in said.focals:
        if mention in stated:
            low, high = mention.values
            span = f"{low:g} mm" if low == high else f"{low:g} to {high:g} mm"
            notes.say(mention, f"focal length {span}" + (", an equivalent" if eqs else ""))
        elif mention in other:
            notes.say(mention, f"true focal length {mention.values[0]:g} mm")
        else:
            notes.leave(mention)
    return replace(
        side,
        focal_min_mm=stated[0].values[0],
        focal_max_mm=stated[0].values[1],
        equivalent=True if eqs else False if trues else None,
        true_focal_mm=other[0].values[0] if other else None,
        f_number_equivalent=said.aperture_too,
    )


@dataclass
class _Said:
    """The focal lengths of a lens, and of which it is said that they are converted, or true; whether the f-number is
    said to be converted too.
    """

    focals: list[Mention]
    converted: set[int] = field(default_factory=set)
    true: set[int] = field(default_factory=set)
    aperture_too: bool | None = None


def _in_35_mm(scan: Scan, part: list[Mention], side: GearWords, said: _Said, notes: Notes) -> None:
    """What is said to be in 35 mm terms; where nothing is, the 35 mm are a focal length themselves."""
    for label in [m for m in part if m.kind == "label35"]:
        right, left = _next_to(scan, part, said.focals, label)
        if right is not None:
            said.converted.add(id(right))
        elif left is not None and not _is_value(left, side):
            said.converted.add(id(left))
        else:
            value = replace(label, kind="focal", values=(35.0, 35.0))
            said.focals.append(value)
            said.converted.add(id(value))
            if left is not None:
                said.true.add(id(left))
            continue
        notes.say(label, "the focal length is said to be in 35 mm terms")


def _equivalent(scan: Scan, part: list[Mention], marker: Mention, said: _Said, notes: Notes) -> None:
    """What a word like “equivalent” is said of: a focal length, the f-number, or what is asked for."""
    right, left = _next_to(scan, part, said.focals, marker)
    if _asks(scan, part, marker, right, left):
        notes.say(marker, "what is asked for")
        return
    is_connected = scan.low(marker.last) in {"to", "of", ":", "=", "focal"}
    chosen = right if right is not None and (is_connected or left is None) else left
    chosen = chosen or right or (said.focals[0] if len(said.focals) == 1 else None)
    if chosen is None:
        if any(m.kind == "f_number" for m in part):
            notes.say(marker, "what is asked for")
        else:
            notes.leave(marker)
        return
    is_short = chosen.values[0] < SHORTEST_EQUIVALENT_MM and any(m.kind in {"type", "size"} for m in part)
    if is_short and any(scan.low(at) == "of" for at in range(marker.last, chosen.first)):
        notes.say(marker, "what is asked for")  # nothing is as wide: it is the lens's own
        return
    after_aperture = any(m.kind == "f_number" and m.last == marker.first for m in part)
    before_aperture = any(m.kind == "f_number" and m.first == marker.last for m in part)
    if id(chosen) in said.converted and after_aperture and not before_aperture:
        said.aperture_too = True
        notes.say(marker, "the f-number is said to be an equivalent")
        return
    said.converted.add(id(chosen))
    notes.say(marker, "the focal length is said to be an equivalent")


def _asks(scan: Scan, part: list[Mention], marker: Mention, right: Mention | None, left: Mention | None) -> bool:
    """Whether the word asks for an equivalent and states none: before a lens on its format, or behind that format, away
    from the focal length, or at the end of "mft 25 mm f/1.4 equivalent".
    """
    formats = [m for m in part if m.kind in {"format", "crop"}]
    if scan.low(marker.last) == "of":
        return any(m.first > marker.last for m in formats)
    since = left.last if left else 0
    ends = part[-1] is marker and any(m.kind == "f_number" and since <= m.first for m in part)
    if left and ends and any(m.kind in {"format", "type"} and m.last == left.first for m in part):
        return True
    return right is None and any(since <= m.first and m.last <= marker.first for m in formats)


def _next_to(
    scan: Scan, part: list[Mention], focals: list[Mention], marker: Mention
) -> tuple[Mention | None, Mention | None]:
    """The focal lengths right after and right before a word, with nothing but connecting words between."""
    right = next((m for m in focals if m.first >= marker.last and _only_connectors(scan, marker.last, m.first)), None)
    left = None
    for mention in reversed(focals):
        if mention.last <= marker.first and _only_between(scan, part, mention.last, marker.first):
            left = mention
            break
    return right, left


def _only_connectors(scan: Scan, first: int, last: int) -> bool:
    return last - first <= 8 and all(scan.low(at) in CONNECTORS for at in range(first, last))


def _only_between(scan: Scan, part: list[Mention], first: int, last: int) -> bool:
    """Whether between two places stand only connecting words, formats and f-numbers."""
    inside = {
        at for m in part if m.kind in {"format", "f_number", "filler", "concept"} for at in range(m.first, m.last)
    }
    return last - first <= 14 and all(scan.low(at) in CONNECTORS or at in inside for at in range(first, last))


def _is_value(left: Mention, side: GearWords) -> bool:
    """Whether "35 mm equivalent" behind a focal length is the figure 35: where that agrees with the sensor that is
    stated.
    """
    crop = side.crop or _stated_crop(side)
    return crop is not None and abs(35.0 / left.values[0] / crop - 1) <= LABEL_TOLERANCE


def _stated_crop(side: GearWords) -> float | None:
    try:
        if side.width_mm and side.height_mm:
            return crop_factor(Sensor(side.width_mm, side.height_mm))
        if side.format:
            return crop_factor(FORMATS[side.format])
        if side.type_designation:
            return crop_factor(type_size(side.type_designation).sensor)
        if side.diagonal_mm:
            return hypot(FULL_FRAME.width_mm, FULL_FRAME.height_mm) / side.diagonal_mm
    except (DomainError, ZeroDivisionError):
        return None
    return None
