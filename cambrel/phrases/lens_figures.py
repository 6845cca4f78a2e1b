"""Figures of a lens in words: focal lengths, f-numbers, and the two over each other."""

from __future__ import annotations

from cambrel.phrases.lexicon import EQUIVALENT, METRES, PIXELS
from cambrel.phrases.scan import Mention, Scan
from cambrel.phrases.units import MASSES_G, MM, SECONDS, STOPS

FASTEST, SLOWEST = 0.5, 128.0
F_MARKS = {1.0, 1.2, 1.4, 1.8, 2.0, 2.8, 4.0, 5.6, 8.0, 11.0, 16.0, 22.0, 32.0}
SHAPES = {("4", "3"), ("3", "2"), ("16", "9"), ("5", "4"), ("3", "4"), ("2", "3"), ("9", "16"), ("65", "24")}
ARTICLES = {"a", "an", "the", "my", "your"}


def label35(scan: Scan, at: int) -> Mention | None:
    """ "35 mm equivalent": the name of a format's terms, or the figure 35; which of them is decided later.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    if not (scan.is_number(at) and scan.value(at) == 35 and scan.range_end(at) == 0):
        return None
    place = scan.past(at + 1, "-")
    if scan.low(place) not in MM:
        return None
    place = scan.past(place + 1, "-")
    while scan.low(place) in {"film", "format", "camera", "slr", "full", "frame", "lens"}:
        place += 1
    place = scan.past(place, "-", "(")
    if scan.low(place) in EQUIVALENT or scan.low(place) == "terms":
        if scan.low(at - 1) in {"in", "into"}:
            return Mention("format", at, place + 1, formats=("full-frame",), text="target")
        if scan.low(place + 1) in {"of", "for"} and lens_follows(scan, place + 2):
            return Mention("format", at, place + 2, formats=("full-frame",), text="target")
        return Mention("label35", at, scan.past(place + 1, "."), (35.0,))
    return None


def f_number(scan: Scan, at: int) -> Mention | None:
    """f/2.8, F2.8, f:1.7, f = 4, f-number 2.8, f/3.5-5.6, with a focal length behind a further stroke.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    if scan.low(at) != "f":
        return None
    place = at + 1
    marked = False
    for _ in range(2):
        if scan.low(place) in {"/", ":", ".", "=", "_", "-"}:
            place, marked = place + 1, True
    while scan.low(place) in {"number", "stop", "no", "of", "is", ":", "="} and place < at + 6:
        place, marked = place + 1, True
    if not scan.is_number(place):
        return None
    n = scan.value(place)
    if scan.is_other(place) and scan.low(place + 1) not in {*STOPS, "ev", "lv"}:
        return None
    if scan.low(place + 1) in PIXELS:
        return None  # "diffraction f stop 61 mp" says a word, and then the pixels
    if scan.low(place + 1) in MM and marked:
        return Mention("focal", at, place + 2, (n, n)) if 0.5 <= n <= 10_000 else None
    if scan.low(place + 1) in MM:
        return None  # the letter is part of a name, and the figure a focal length
    if marked and scan.low(place + 1) not in MM and not FASTEST <= n <= SLOWEST:
        return Mention("impossible", at, place + 1, (n,))
    name_like = not marked and scan.tokens[at].text == "F" and scan.glued(place) and not scan.tokens[place].has_decimals
    if not FASTEST <= n <= SLOWEST or (name_like and n not in F_MARKS and n > 10):
        return None
    return aperture(scan, at, place)


def ratio(scan: Scan, at: int) -> Mention | None:
    """1:2.8 as lenses are engraved; 1:1 is a magnification, 4:3 a shape.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    if scan.is_number(at) and scan.low(at + 1) == ":" and (scan.tokens[at].text, scan.low(at + 2)) in SHAPES:
        return Mention("skip", at, at + 3, text="the shape of the frame")
    if not (scan.is_number(at) and scan.tokens[at].text == "1" and scan.low(at + 1) == ":" and scan.is_number(at + 2)):
        return None
    if scan.tokens[at + 2].text in {"1", "2", "3", "4", "5"} and scan.low(at + 3) != "/":
        return Mention("skip", at, at + 3, text="a magnification")
    return aperture(scan, at, at + 2) if FASTEST <= scan.value(at + 2) <= SLOWEST else None


def aperture(scan: Scan, at: int, place: int) -> Mention | None:
    """An f-number whose first figure stands at a place, to its end.

    Parameters
        scan: the text in tokens
        at: where it begins
        place: of its first figure
    Returns
        what is read there; None for digits that go on behind letters
    """
    values = [scan.value(place)]
    end = place + 1
    if scan.low(end) in {"-", "to", "~", "bis"}:
        second = end + 1
        if scan.low(second) == "f":
            second = scan.past(second + 1, "/", ":")
        if (
            scan.is_number(second)
            and not scan.is_other(second)
            and not (scan.tokens[second].text == "1" and scan.low(second + 1) == "/")
            and FASTEST <= scan.value(second) <= 64
            and (not scan.has_unit(second, MM, METRES, MASSES_G, PIXELS) or scan.low(second + 1) == "g")
        ):
            values.append(scan.value(second))
            end = second + 1
    is_word = end < len(scan.tokens) and scan.tokens[end].kind == "word"
    if is_word and scan.glued(end) and len(scan.low(end)) <= 3 and scan.low(end) not in MM:
        end += 1  # a maker's letters behind the figure
        if scan.is_number(end) and scan.glued(end):
            return None
    if scan.low(end) == "/" and scan.glued(end) and scan.is_number(end + 1) and scan.glued(end + 1):
        focal = focal_values(scan, end + 1)
        if focal:
            scan.mentions.append(Mention("focal", end + 1, focal[1], focal[0]))
            return Mention("f_number", at, focal[1], tuple(values))
    return Mention("f_number", at, end, tuple(values))


def focal_values(scan: Scan, at: int) -> tuple[tuple[float, ...], int] | None:
    """A focal length or a range from a number on; "mm" may stand behind.

    Parameters
        scan: the text in tokens
        at: of the number
    Returns
        one or two lengths [mm] and the place behind them; None where it is something else
    """
    low, end = scan.value(at), at + 1
    high = low
    if second := scan.range_end(at):
        high, end = scan.value(second), second + 1
    if scan.low(end) in MM:
        end += 1
    return ((low, high), end) if 1 <= low <= high <= 5000 else None


def over(scan: Scan, at: int) -> Mention | None:
    """25/1.4, 2,9/22, 3.5-5.6/18-55, 1/60: two figures over each other; which is which follows from their sizes.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    if not scan.is_number(at):
        return None
    second = scan.range_end(at)
    over = (second or at) + 1
    if not (scan.low(over) == "/" and scan.glued(over) and scan.is_number(over + 1) and scan.glued(over + 1)):
        return None
    low, high = scan.value(at), scan.value(second or at)
    last = scan.range_end(over + 1)
    if last and not scan.glued(last):
        last = 0
    under_low, under_high = scan.value(over + 1), scan.value(last or over + 1)
    end = (last or over + 1) + 1
    if low == 1 and not second and not last:
        return one_over(scan, at, under_low, end)
    if not second and (low, under_low) in {(2.0, 3.0), (4.0, 3.0)} and not scan.tokens[at].has_decimals:
        return Mention("type", at, end, text=f"{low:g}/{under_low:g}")
    end = end + 1 if scan.low(end) in MM else end
    if high < under_low and FASTEST <= low <= high <= 64:
        aperture, focal = (low, high), (under_low, under_high)
    elif under_high < low and FASTEST <= under_low <= under_high <= 64:
        focal, aperture = (low, high), (under_low, under_high)
    else:
        return None
    scan.mentions.append(Mention("focal", at, end, focal))
    return Mention("f_number", at, end, aperture if aperture[0] != aperture[1] else aperture[:1])


def one_over(scan: Scan, at: int, under: float, end: int) -> Mention | None:
    """1/1.3 is a sensor, 1/60 a shutter time.

    Parameters
        scan: the text in tokens
        at: of the 1
        under: what stands beneath it
        end: behind that
    Returns
        what is read there; None where it is something else
    """
    decimals = scan.tokens[at + 2].has_decimals
    if not under > 0:
        return None
    if scan.low(end) in SECONDS:
        return Mention("shutter", at, end + 1, (1 / under,))
    if (
        (scan.before(at, {"type", "typ"}, 1) and under <= 10)
        or (decimals and under < 6)
        or (under in {2, 3} and not scan.before(at, {"at", "shutter"}, 2))
    ):
        return Mention("type", at, end, text=f"1/{under:g}")
    return Mention("shutter", at, end, (1 / under,))


def lens_follows(scan: Scan, at: int) -> bool:
    """Whether a lens of its own format is named from here on: then the words before ask for another one.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        True for a number or an f-stop, an article before it or not
    """
    place = at
    while place < at + 3 and scan.low(place) in {"a", "an", "the", "my", "your"}:
        place += 1
    return scan.is_number(place) or scan.low(place) == "f"


def bare(scan: Scan, at: int) -> Mention | None:
    """A number without a unit, or a range of two: a focal length or an f-number, as what stands around it leaves open.

    Parameters
        scan: the text in tokens
        at: where to begin
    Returns
        what is read there; None where it is something else
    """
    if not scan.is_number(at):
        return None
    named = scan.glued(at) and scan.tokens[at - 1].kind == "word"
    second = scan.range_end(at)
    end = (second or at) + 1
    if scan.low(end) == "/" and scan.low(end + 1) == "f":
        return Mention("focal", at, end + 1, (scan.value(at), scan.value(second or at)))
    if named or (end < len(scan.tokens) and scan.tokens[end].kind == "word" and scan.glued(end)):
        return Mention("unread", at, end)
    return Mention("bare", at, end, (scan.value(at), scan.value(second or at)))
