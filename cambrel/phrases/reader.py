"""From mentions to sides: which figure belongs to which lens, which is an equivalent, and what is asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from itertools import pairwise

from cambrel.optics.formats import FORMATS
from cambrel.phrases import camera_figures, lens_figures, measures, words
from cambrel.phrases.focals import apertures, bare_numbers, focal_lengths
from cambrel.phrases.notes import Notes
from cambrel.phrases.records import GearWords, TextReading
from cambrel.phrases.scan import Mention, Reader, Scan
from cambrel.phrases.spelling import corrected
from cambrel.phrases.tokens import LONGEST, Token, plain, tokens_of

LENS = {"focal", "bare", "f_number"}
UNUSED = {
    "skip": "",
    "magnification": "a magnification",
    "density": "a neutral filter",
    "guide": "a guide number",
    "ev": "an exposure value",
    "paper": "a size that is no sensor's",
    "block": "dimensions of the whole",
    "price": "a price",
    "stops": "stops",
    "dots": "dots an inch",
    "angle": "an angle",
    "percent": "a share",
    "rate": "frames a second",
    "pixels_wide": "pixels along a side",
    "foreign": "no figure of a lens",
    "impossible": "an f-number that no lens has",
}
"""Quantities that are understood and say nothing of a lens or a camera by itself."""


READERS: tuple[Reader, ...] = (
    measures.block,
    measures.price,
    lens_figures.label35,
    lens_figures.f_number,
    measures.magnification,
    lens_figures.ratio,
    camera_figures.iso,
    measures.density,
    measures.guide_number,
    measures.exposure_value,
    measures.paper,
    measures.inch_sheet,
    measures.sheet_film,
    words.crop_word,
    words.code,
    words.format_name,
    camera_figures.type_word,
    camera_figures.feet,
    lens_figures.over,
    camera_figures.pixels_or_size,
    camera_figures.with_unit,
    measures.other_unit,
    words.concept,
    words.word,
    lens_figures.bare,
)
"""What is looked for at each place of a text; the first that finds something has it."""


def read(text: str, codes: Mapping[str, str] | None = None) -> TextReading:
    """Read a lens name, an advert or a question.

    Parameters
        text: as a photographer writes it
        codes: the owner's own letter codes, each to "format:slug" or "mount:name"
    Returns
        Reading; a text that is too long is refused and said so
    """
    if len(text) > LONGEST:
        return TextReading(refused=f"At most {LONGEST} characters are read.")
    return read_scan(text, scan_of(text, codes))


def scan_of(text: str, codes: Mapping[str, str] | None = None, *, spelling: bool = False) -> Scan:
    """A text in mentions, from left to right.

    Parameters
        text: as a photographer writes it, at most LONGEST characters
        codes: the owner's own letter codes, each to "format:slug" or "mount:name"
        spelling: whether misspelt words are read as those that they were written for
    Returns
        Scan
    """
    tokens = tokens_of(plain(text))
    if spelling:
        tokens = [
            replace(token, read_as=corrected(token.low, _neighbours(tokens, at)))
            if token.kind == "word" and token.text not in (codes or {})
            else token
            for at, token in enumerate(tokens)
        ]
    return Scan(tokens, codes or {}, READERS)


def _neighbours(tokens: list[Token], at: int) -> tuple[str, ...]:
    """The words right before and right behind one."""
    return tuple(tokens[place].low for place in (at - 1, at + 1) if 0 <= place < len(tokens))


def read_scan(text: str, scan: Scan) -> TextReading:
    """What a text in mentions says of one lens or two.

    Parameters
        text: as it was written
        scan: the same in mentions
    Returns
        TextReading
    """
    tokens = scan.tokens
    parts = _split(scan.mentions)
    notes = Notes(text, tokens)
    targets: list[Mention] = []
    sides = [_side(scan, part, notes, targets, two=len(parts) > 1) for part in parts]
    if len(sides) == 2:
        sides = _share_weights(parts, sides)
    sides = _shared_formats(parts, sides)
    for mention in scan.mentions:
        if mention.kind in UNUSED:
            notes.say(mention, mention.text or UNUSED[mention.kind])
        elif mention.kind == "unread":
            notes.leave(mention)
    target = targets[0].formats[0] if targets else None
    for mention in targets[:1]:
        notes.say(mention, f"asked for on {FORMATS[mention.formats[0]].name}")
        notes.choose(mention)
    return TextReading(tuple(sides), target, *notes.done())


MOST_SIDES = 3


def _split(mentions: list[Mention]) -> list[list[Mention]]:
    """One part, or two or three where lenses are set against each other."""
    strong = [place for place, m in enumerate(mentions) if m.kind == "split" and m.text == "strong"]
    if 1 < len(strong) < MOST_SIDES:
        ends = [-1, *strong, len(mentions)]
        parts = [mentions[first + 1 : last] for first, last in pairwise(ends)]
        if all(_is_lens(part, sure=True) for part in parts):
            return parts
    for strength in ("strong", "weak", "last"):
        for place, mention in enumerate(mentions):
            if mention.kind != "split" or mention.text != strength:
                continue
            parts = [mentions[:place], mentions[place + 1 :]]
            if all(_is_lens(part, sure=strength == "strong") for part in parts):
                return parts
            # "400 mm 45 MP ff vs 20 MP mft": one lens on two cameras
            if strength == "strong" and any(
                _is_lens(one, sure=True) and _is_camera(other) for one, other in (parts, parts[::-1])
            ):
                return parts
    return _alternating(mentions)


def _alternating(mentions: list[Mention]) -> list[list[Mention]]:
    """ "f/2.8 on APS-C, f/2.8 on full frame": lens, format, lens, format are two sides without a word between them."""
    told = [m for m in mentions if m.kind in LENS | {"format"}]
    turns = [
        m for place, m in enumerate(told) if not place or (m.kind == "format") != (told[place - 1].kind == "format")
    ]
    kinds = ["format" if m.kind == "format" else "lens" for m in turns]
    if kinds != ["lens", "format", "lens", "format"] or any(m.text == "target" for m in turns):
        return [mentions]
    place = mentions.index(turns[2])
    return [mentions[:place], mentions[place:]]


def _is_lens(part: list[Mention], *, sure: bool) -> bool:
    """Whether a part names a lens or a setting of its own; a weak sign parts only what has more than a focal length on
    either side.
    """
    kinds = [m.kind for m in part]
    if sure:
        return any(kind in LENS | {"iso"} for kind in kinds)
    lens = "focal" in kinds or "bare" in kinds
    return lens and (kinds.count("bare") > 1 or any(k in {"f_number", "format", "crop", "type", "size"} for k in kinds))


def _is_camera(part: list[Mention]) -> bool:
    """Whether a part names a camera by its format and its pixels."""
    return {"format", "megapixels"} <= {m.kind for m in part}


def _shared_formats(parts: list[list[Mention]], sides: list[GearWords]) -> list[GearWords]:
    """A format before the first lens or behind the last one, where no other is named, is said of all."""
    named = [
        index for index, part in enumerate(parts) if any(m.kind in {"format", "type", "size", "crop"} for m in part)
    ]
    if len(named) != 1 or len(parts) < 2:
        return sides
    index = named[0]
    kinds = [m.kind for m in parts[index] if m.kind in LENS | {"format", "type", "size", "crop"}]
    leads = index == 0 and kinds[0] not in LENS
    trails = index == len(parts) - 1 and kinds[-1] not in LENS
    if not (leads or trails):
        return sides
    words = ("format", "type_designation", "width_mm", "height_mm", "crop")
    shared = {name: getattr(sides[index], name) for name in words}
    return [side if place == index else replace(side, **shared) for place, side in enumerate(sides)]


def _side(scan: Scan, part: list[Mention], notes: Notes, targets: list[Mention], *, two: bool) -> GearWords:
    """The figures of one side."""
    given: dict[str, object] = {}
    _formats(scan, part, notes, targets, given, two=two)
    for kind, names in _SIMPLE.items():
        mentions = [m for m in part if m.kind == kind]
        for name, value in zip(names, mentions[0].values if mentions else (), strict=False):
            given[name] = value
        for index, mention in enumerate(mentions):
            if index == 0 or kind == "weight":
                notes.say(mention, _meaning(kind, mention.values))
            else:
                notes.leave(mention)
    types = [m for m in part if m.kind == "type"]
    for index, mention in enumerate(types):
        if index == 0:
            given["type_designation"] = mention.text
            notes.say(mention, f"sensor type {mention.text}")
        else:
            notes.leave(mention)
    focals, f_numbers = bare_numbers(part, notes)
    apertures(f_numbers, notes, given)
    side = GearWords(**given)  # type: ignore[arg-type]
    return focal_lengths(scan, part, focals, side, notes)


_SIMPLE: dict[str, tuple[str, ...]] = {
    "crop": ("crop",),
    "size": ("width_mm", "height_mm"),
    "diagonal": ("diagonal_mm",),
    "megapixels": ("megapixels",),
    "pitch": ("pixel_pitch_um",),
    "distance": ("distance_m",),
    "shutter": ("shutter_s",),
    "iso": ("iso",),
    "weight": ("weight_g",),
    "converter": ("converter",),
}


def _meaning(kind: str, values: tuple[float, ...]) -> str:
    first = f"{values[0]:.4g}" if values else ""
    return {
        "crop": f"crop factor {first}",
        "size": "sensor of " + " x ".join(f"{v:g}" for v in values) + " mm",
        "diagonal": f"diagonal {first} mm",
        "megapixels": f"{first} megapixels",
        "pitch": f"pixel pitch {first} µm",
        "distance": f"distance {first} m",
        "shutter": (
            f"shutter time {first} s" if values and values[0] >= 0.3 else f"shutter time 1/{1 / values[0]:.4g} s"
        ),
        "iso": f"ISO {values[0]:.7g}" if values else "",
        "weight": f"weight {values[0]:.6g} g" if values else "",
        "converter": f"converter {first} times",
    }[kind]


def _formats(
    scan: Scan, part: list[Mention], notes: Notes, targets: list[Mention], given: dict[str, object], *, two: bool
) -> None:
    """The side's own format, and the one that is asked for."""
    named = [m for m in part if m.kind == "format"]
    asked = any(m.kind == "question" for m in part)
    sized = any(m.kind in {"crop", "size", "type"} for m in part)
    own: list[Mention] = []
    for mention in named:
        before, after = scan.low(mention.first - 1), scan.low(mention.last)
        if before in {"a", "an", "the", "my"}:
            before = scan.low(mention.first - 2)
        is_target = (
            mention.text == "target"
            or _asked_by_look(part, mention, before, after)
            or before in {"in", "as", "to", "into", ">", "="}
        )
        is_target = is_target or (_asked_by_match(part, mention) and named.index(mention) < len(named) - 1)
        is_target = is_target or (after == "for" and _lens_after(part, mention))
        is_target = is_target or (
            before in {"on", "for"}
            and (bool(own) or sized or asked or (len(named) > 1 and _names_later(named, mention)))
        )
        if (
            before in {"on", "for"}
            and named.index(mention) < len(named) - 1
            and not own
            and not sized
            and mention.text != "target"
            and not _asked_by_look(part, mention, before, after)
            and not (after == "for" and _lens_after(part, mention))
        ):
            is_target = False  # "50 on full frame in micro four thirds": the first is where the lens is
        if is_target and not two and not targets:
            targets.append(mention)
        elif not own:
            own.append(mention)
        elif not two and not targets:
            targets.append(mention)
        else:
            notes.leave(mention)
    if own:
        given["format"] = own[0].formats[0]
        notes.say(own[0], f"format {FORMATS[own[0].formats[0]].name}")
        notes.choose(own[0])
        figure = scan.tokens[own[0].first : own[0].last]
        crops = [t.value for t in figure if t.kind == "number" and t.has_decimals and 1.3 <= t.value <= 2]
        if crops and own[0].formats[0].startswith("aps-c"):
            given["crop"] = crops[0]
    for mention in part:
        if mention.kind == "code":
            what, _, name = mention.text.partition(":")
            if what in {"format", "mount"} and name and what not in given:
                given[what] = name
                notes.say(mention, f"{what} {FORMATS[name].name if name in FORMATS else name}, by your own table")
            else:
                notes.leave(mention)


def _asked_by_match(part: list[Mention], mention: Mention) -> bool:
    """Whether a word such as "matches" stands behind a format: that is the one asked for."""
    return any(m.kind == "question" and m.first >= mention.last for m in part)


def _asked_by_look(part: list[Mention], mention: Mention, before: str, after: str) -> bool:
    """Whether a format is the one of which a lens is wanted: "which full frame lens is a 25 mm", "what on mft looks
    like 35".
    """
    if before in {"on", "in", "for"} and looks_like(part, mention):
        return True
    lenses = [m.first for m in part if m.kind in LENS | {"iso"}]
    is_alone = sum(m.kind == "format" for m in part) == 1
    if lenses and is_alone and before in {"with", "using"} and any(_likens(m) and m.last <= min(lenses) for m in part):
        return True  # "the same blur as 85 f/1.4 with mft"
    if not lenses or min(lenses) < mention.first:
        # the lens before it is on the format before it: "a 25 mm on mft, which full frame lens is it?"
        return before in WHICH and any(m.kind == "format" and m.first < mention.first for m in part)
    likened = any(_likens(m) and mention.last <= m.first < min(lenses) for m in part)
    if before in {"on", "in"} and after in WHICH and any(m.kind == "format" and m.first > mention.first for m in part):
        return True  # "on mft, what is 50 f/2 full frame?"
    return likened or (before in WHICH and any(m.kind == "format" and m.first > mention.first for m in part))


def looks_like(part: list[Mention], mention: Mention) -> bool:
    """Whether a format stands behind a look that is wanted on it: "which lens gives a 50 mm look on aps-c".

    Parameters
        part: what was read, in its order
        mention: of the format
    Returns
        True where a focal length and its look stand right before it, and who asks wants it
    """
    told = [m for m in part if m.last <= mention.first and m.kind not in {"filler", "prep"}]
    if len(told) < 3 or told[-1].kind != "concept" or told[-1].text not in {"look", "view", "field", "angle"}:
        return False
    return told[-2].kind in {"focal", "bare"} and any(_likens(m) for m in told[:-2])


def _likens(mention: Mention) -> bool:
    return mention.kind == "question" or (mention.kind == "concept" and mention.text in LIKENED)


LIKENED = {"look", "noise", "view", "depth", "blur"}
WHICH = {"which", "what", "whats", "welches", "welche", "quel", "quelle", "qué", "que", "quale"}


def _names_later(named: list[Mention], mention: Mention) -> bool:
    return named.index(mention) == len(named) - 1


def _lens_after(part: list[Mention], mention: Mention) -> bool:
    return any(m.kind in LENS | {"iso"} and m.first > mention.first for m in part)


def _share_weights(parts: list[list[Mention]], sides: list[GearWords]) -> list[GearWords]:
    """Two weights behind the second lens belong to the two in order."""
    weights = [[m.values[0] for m in part if m.kind == "weight"] for part in parts]
    if not weights[0] and len(weights[1]) == 2:
        return [replace(side, weight_g=weight) for side, weight in zip(sides, weights[1], strict=True)]
    return sides
