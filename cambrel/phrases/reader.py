"""From mentions to sides: which figure belongs to which lens, which is an equivalent, and what is asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from cambrel.optics.formats import FORMATS
from cambrel.phrases import camera_figures, lens_figures, words
from cambrel.phrases.focals import apertures, bare_numbers, focal_lengths
from cambrel.phrases.notes import Notes
from cambrel.phrases.records import GearWords, TextReading
from cambrel.phrases.scan import Mention, Reader, Scan
from cambrel.phrases.tokens import LONGEST, plain, tokens_of

LENS = {"focal", "bare", "f_number"}


READERS: tuple[Reader, ...] = (
    lens_figures.label35,
    lens_figures.f_number,
    lens_figures.ratio,
    camera_figures.iso,
    words.crop_word,
    words.code,
    words.format_name,
    camera_figures.type_word,
    camera_figures.feet,
    lens_figures.over,
    camera_figures.pixels_or_size,
    camera_figures.with_unit,
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
    clean = plain(text)
    tokens = tokens_of(clean)
    scan = Scan(tokens, codes or {}, READERS)
    parts = _split(scan.mentions)
    notes = Notes(text, tokens)
    targets: list[Mention] = []
    sides = [_side(scan, part, notes, targets, two=len(parts) > 1) for part in parts]
    if len(sides) == 2:
        sides = _share_weights(parts, sides)
    for mention in scan.mentions:
        if mention.kind in {"skip"}:
            notes.say(mention, mention.text)
        elif mention.kind == "unread":
            notes.leave(mention)
    target = targets[0].formats[0] if targets else None
    for mention in targets[:1]:
        notes.say(mention, f"asked for on {FORMATS[mention.formats[0]].name}")
        notes.choose(mention)
    return TextReading(tuple(sides), target, *notes.done())


def _split(mentions: list[Mention]) -> list[list[Mention]]:
    """One part, or two where two lenses are set against each other."""
    for strength in ("strong", "weak", "last"):
        for place, mention in enumerate(mentions):
            if mention.kind != "split" or mention.text != strength:
                continue
            parts = [mentions[:place], mentions[place + 1 :]]
            if all(_is_lens(part, sure=strength == "strong") for part in parts):
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
        is_target = mention.text == "target" or before in {"in", "as", "to", "into", ">", "="}
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
