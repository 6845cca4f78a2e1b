"""The typeface that ships with Cambrel, for pictures and for drawings that leave it: set by Pillow, or laid inside an
SVG.
"""

from __future__ import annotations

import base64
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from itertools import groupby
from pathlib import Path

from django.contrib.staticfiles import finders
from PIL import ImageDraw, ImageFont

from cambrel.drawings.style_sheets import rules_of

STYLES = "vendor/sofia-sans-semi-condensed/font.css"
UNKNOWN = "?"  # for what no subset has, such as emoji


@dataclass(frozen=True)
class Face:
    """One subset of the typeface: its file and the characters it has, as (first, last)."""

    path: Path
    ranges: tuple[tuple[int, int], ...]
    characters: str

    def has(self, character: str) -> bool:
        return any(first <= ord(character) <= last for first, last in self.ranges)

    def embedded(self) -> str:
        """The face as a rule of a style sheet, with the file inside."""
        data = base64.b64encode(self.path.read_bytes()).decode()
        return (
            "@font-face{font-family:'Sofia Sans Semi Condensed';font-weight:100 900;"
            f"src:url(data:font/woff2;base64,{data}) format('woff2');unicode-range:{self.characters}}}"
        )


@cache
def faces() -> tuple[Face, ...]:
    """The subsets, the commonest first."""
    styles = Path(str(finders.find(STYLES)))
    glyphs = []
    for selector, declared in rules_of(styles.read_text()):
        if selector != "@font-face":
            continue
        spans = [span.strip().upper() for span in declared["unicode-range"].split(",")]
        ends = [span.removeprefix("U+").split("-") for span in spans]
        file = declared["src"].partition('url("')[2].partition('"')[0]
        ranges = tuple((int(end[0], 16), int(end[-1], 16)) for end in ends)
        glyphs.append(Face(styles.parent / file, ranges, ",".join(spans)))
    return tuple(glyphs)


def embedded(text: str) -> str:
    """The style rules that a drawing with this text needs to stand alone."""
    return "".join(face.embedded() for face in faces() if any(map(face.has, set(text))))


@cache
def _font(path: Path, size: int) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(path, size)


def _runs(text: str, size: int) -> Iterator[tuple[str, ImageFont.FreeTypeFont]]:
    """The text cut where another subset is needed; what none has is marked, joiners and other signs without a shape are
    left out.
    """
    drawn = [c for c in unicodedata.normalize("NFC", text) if unicodedata.category(c) not in ("Cf", "Cc", "Mn")]
    drawn = [c if any(face.has(c) for face in faces()) else UNKNOWN for c in drawn]
    for face, run in groupby(drawn, lambda c: next(face for face in faces() if face.has(c))):
        yield "".join(run), _font(face.path, size)


def length(text: str, size: int) -> float:
    """How long a line of text is [px]."""
    return sum(font.getlength(run) for run, font in _runs(text, size))


def set_line(draw: ImageDraw.ImageDraw, place: tuple[float, float], text: str, size: int, fill: str) -> None:
    """Draw a line of text, its baseline at the same height in every subset."""
    x, y = place
    for run, font in _runs(text, size):
        draw.text((x, y + size), run, fill=fill, font=font, anchor="ls")
        x += font.getlength(run)
