"""Words of a photographer: formats and crop factors by name, what is an equivalent, what is set against what, what is
asked for.
"""

from __future__ import annotations

from cambrel.phrases.camera_figures import metres
from cambrel.phrases.concepts import CONCEPTS
from cambrel.phrases.lens_figures import lens_follows
from cambrel.phrases.lexicon import (
    COMPARED,
    CONVERTERS,
    EQUIVALENT,
    METRES,
    QUESTIONS,
    SPELLED,
    SPLITS,
    TARGETS,
    TRUE,
    ZOOMS,
)
from cambrel.phrases.scan import Mention, Scan
from cambrel.phrases.units import INCHES, MASSES_G, MM

USUAL_CONVERTERS = {1.4, 1.7}
"""Factors of converters that no format has as its crop factor."""


def crop_word(scan: Scan, at: int) -> Mention | None:
    """crop factor of 1.5, crop: 1.6; 1.5x crop, a 1.6x body.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    if scan.low(at) in {"crop", "cropped"}:
        place = at + 1
        while place < at + 5 and scan.low(place) in {
            "factor",
            "ratio",
            "mode",
            "of",
            ":",
            "=",
            "is",
            "(",
            "~",
            "by",
            "-",
        }:
            place += 1
        if (
            scan.is_number(place)
            and 0.2 <= scan.value(place) <= 12
            and scan.range_end(place) == 0
            and scan.low(place + 1) not in {"/", ":"}
        ):
            end = scan.past(place + 1, "x")
            if scan.low(end) not in MM and not (
                scan.low(place + 1) == "x" and scan.is_number(place + 2) and scan.glued(place + 2)
            ):
                return Mention("crop", at, end, (scan.value(place),))
    place = at + 2 if scan.low(at + 1) == "x" else at + 1
    if scan.is_number(at) and scan.low(at + 1) == "x" and scan.is_number(at + 2) and scan.tokens[at + 2].spaced:
        is_named = at > 0 and scan.low(at - 1) in CONVERTERS
        if is_named or scan.value(at) in USUAL_CONVERTERS or 0.4 <= scan.value(at) < 1:
            return Mention("converter", at, at + 2, (scan.value(at),))
    behind = scan.past(scan.past(place + 1, "factor"), "of", ":", "=")
    is_factor = scan.is_number(at) and 0.2 <= scan.value(at) <= 12 and scan.low(at - 1) != "/"
    if is_factor and scan.low(place) == "crop" and not scan.is_number(behind):
        end = scan.past(scan.past(place + 1, "factor"), "sensor", "body", "camera")
        return Mention("crop", at, end, (scan.value(at),))
    if scan.is_number(at) and scan.low(at + 1) == "x" and not scan.is_number(at + 2) and 0.2 <= scan.value(at) <= 12:
        place = scan.past(at + 2, "-", "(")
        word = scan.low(place)
        if word in CONVERTERS or scan.low(place + 1) in CONVERTERS:
            return Mention("converter", at, place + (1 if word in CONVERTERS else 2), (scan.value(at),))
        if (at and scan.low(at - 1) in {"+", "with"}) or scan.value(at) < 1 or scan.value(at) in USUAL_CONVERTERS:
            return Mention("converter", at, at + 2, (scan.value(at),))
        if word in ZOOMS:
            return Mention("skip", at, place + 1, text="a zoom ratio")
        if scan.format_at(at)[1]:
            return None
        if word in {"crop", "body", "camera", "sensor", "cropped"}:
            end = place + 1
            while scan.low(end) in {"factor", "sensor", "body", "camera", "ratio"}:
                end += 1
            return Mention("crop", at, end, (scan.value(at),))
        if 1.2 <= scan.value(at) <= 8 and scan.tokens[at].has_decimals:
            return Mention("crop", at, at + 2, (scan.value(at),))
        return Mention("skip", at, at + 2, text="a zoom ratio")
    return None


def code(scan: Scan, at: int) -> Mention | None:
    """A letter code of the owner's own table: of a sensor size or of a mount.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    token = scan.tokens[at]
    if token.kind == "word" and token.text in scan.codes:
        return Mention("code", at, at + 1, text=scan.codes[token.text])
    return None


def format_name(scan: Scan, at: int) -> Mention | None:
    """The name of a format, in any of its spellings.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    end, formats = scan.format_at(at)
    if not formats or (scan.is_number(end - 1) and scan.low(end) in MASSES_G):  # "645 g" is a weight
        return None
    if end == at + 1 and scan.low(at) == "crop" and _speaks_of_a_crop(scan, at):
        return None
    place = scan.past(end, "-", "(")
    before = scan.low(at - 1) if scan.low(at - 1) not in {"a", "an", "the", "my"} else scan.low(at - 2)
    if scan.low(place) in EQUIVALENT and scan.low(place + 1) == "focal":
        return Mention("format", at, end, formats=formats)  # the word belongs to what follows
    is_apart = scan.low(place + 1) in {"on", "in", "for"}
    further = place + 2 if is_apart else place + 1
    if (
        scan.low(place) in EQUIVALENT
        and (is_apart or formats[0] != "full-frame")
        and scan.format_at(further)[1]
        and scan.low(further) != "crop"
    ):
        # "iso 800 mft equivalent ff": the equivalent is wanted on the other one
        return Mention("format", at, place + 1, formats=formats)
    if scan.low(place) in EQUIVALENT and _leads_to_another(scan, at, place + 1):
        return Mention("format", at, place + 1, formats=formats, text="target")
    if before in EQUIVALENT and _leads_to_another(scan, at - 1, end):
        return Mention("format", at, end, formats=formats, text="target")
    if before == "on" and scan.low(place) in EQUIVALENT:
        # "what is a 35 on APS-C equivalent to?" asks, and states no equivalent
        return Mention("format", at, place + 1, formats=formats)
    if (
        scan.low(place) in EQUIVALENT
        or scan.low(place) == "terms"
        or (scan.low(place) in {"focal"} and scan.low(place + 1) in EQUIVALENT)
    ):
        place += 1 if scan.low(place) != "focal" else 2
        if scan.low(place) in {"of", "for", "to"} and lens_follows(scan, place + 1):
            return Mention("format", at, place + 1, formats=formats, text="target")
        if before in {"in", "into"} or scan.low(place - 1) == "terms" or formats[0] != "full-frame":
            return Mention("format", at, place, formats=formats, text="target")
        return Mention("equivalent", at, scan.past(place, "."), formats=formats)
    return Mention("format", at, end, formats=formats)


NUMBERED = {"iso", "isos", "asa", "ev", "lv"}
"""Words whose figure stands behind them."""


def concept(scan: Scan, at: int) -> Mention | None:
    """A term of the field, in the words in which it is asked for: the longest that begins here.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there, its key as the text; None where it is something else
    """
    for words, key in CONCEPTS.get(scan.low(at), ()):
        if len(words) == 1 and words[0] in QUESTIONS:
            break
        place = at
        for said in words:
            while place > at and scan.low(place) in {"-", "'", "."}:
                place += 1
            if scan.low(place) != said:
                break
            place += 1
        else:
            if words[-1] in NUMBERED and scan.is_number(place):
                continue  # "at high iso 1600" is a setting
            return Mention("concept", at, place, text=key)
    return None


def _leads_to_another(scan: Scan, at: int, end: int) -> bool:
    """Whether a line begins with the equivalent on one format, and a lens on another follows right behind a place."""
    is_first = at < FIRST_WORDS and all(m.kind in {"filler", "concept"} for m in scan.mentions if m.last <= at)
    others = range(end, min(end + REACH, len(scan.tokens)))
    return is_first and lens_follows(scan, end) and any(scan.format_at(place)[1] for place in others)


FIRST_WORDS, REACH = 6, 16


def _speaks_of_a_crop(scan: Scan, at: int) -> bool:
    """Whether "crop" at a place is what is done to a frame, or its factor, and no name of a format."""
    if scan.low(at + 1) in {"of", "to", "mode", "by", "factor", "down"} or scan.is_number(at + 1):
        return True
    named = next((m.kind for m in reversed(scan.mentions) if m.kind not in {"filler", "concept"}), "")
    return named in {"type", "format", "size", "crop", "megapixels"} or scan.format_at(at + 1)[1] != ()


def word(scan: Scan, at: int) -> Mention | None:
    """A word that says something by itself: equivalent, phone, zoom, against.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    token = scan.tokens[at]
    low = token.low
    if low in SPELLED and scan.low(at + 1) in METRES:
        return metres(scan, at, at + 2, SPELLED[low] * METRES[scan.low(at + 1)])
    if low == "one" and scan.low(inch := scan.past(at + 1, "-")) in INCHES:
        return Mention("type", at, scan.past(inch + 1, "-", "type", "sensor"), text="1")
    if low in SPELLED and scan.low(at + 1) in MM:
        return Mention("focal", at, at + 2, (SPELLED[low], SPELLED[low]))
    if low in EQUIVALENT and scan.low(at + 1) == "to" and not any(scan.is_number(at + ahead) for ahead in (2, 3, 4)):
        return Mention("filler", at, at + 2)
    if low in EQUIVALENT and scan.format_at(at + 1)[1] and _leads_to_another(scan, at, scan.format_at(at + 1)[0]):
        return Mention("filler", at, at + 1)  # "équivalent plein format 25 mm f/1,4 mft"
    if low in EQUIVALENT:
        return Mention("equivalent", at, scan.past(at + 1, "."))
    if low in TRUE:
        return Mention("true", at, at + 1)
    if low in SPLITS or (low == "vs" and scan.low(at + 1) == "."):
        return Mention("split", at, scan.past(at + 1, "."), text="strong")
    if low in COMPARED:
        end = scan.past(at + 1, "to", "with")
        return Mention("split", at, end, text="weak")
    if low in {"/", "|", ";", "="} and (
        low != "/" or (token.spaced and at + 1 < len(scan.tokens) and scan.tokens[at + 1].spaced)
    ):
        return Mention("split", at, at + 1, text="weak")
    if low == "and":
        return Mention("split", at, at + 1, text="last")
    if low in TARGETS | {"on", ">", "="}:
        return Mention("prep", at, at + 1, text=low)
    if low in QUESTIONS:
        return Mention("question", at, at + 1)
    return None
