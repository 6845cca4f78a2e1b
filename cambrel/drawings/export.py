"""A drawing that stands alone: the looks of its roles as attributes, in the light palette, with its typeface and its
pictures inside.
"""

from __future__ import annotations

import base64
import html
import re
from collections.abc import Callable, Mapping

from cambrel.drawings import palette
from cambrel.drawings.shapes import Drawing
from cambrel.drawings.style_sheets import rules_of
from cambrel.drawings.svg import number, write

FONTS = "'Sofia Sans Semi Condensed', 'Liberation Sans Narrow', 'Arial Narrow', sans-serif"
VARIABLES = {
    "--ink": palette.INK_LIGHT,
    "--quiet": palette.QUIET_LIGHT,
    "--paper": palette.PAPER_LIGHT,
    "--rule": palette.RULE_LIGHT,
    "--raised": palette.RAISED_LIGHT,
    "--accent": palette.ACCENT_LIGHT,
    "--warn": palette.WARN_LIGHT,
    "--fill": palette.FILL_LIGHT,
    "--lit": palette.LIT_LIGHT,
    "--unlit": palette.UNLIT_LIGHT,
}
_CLASS = re.compile(r' class="([^"]*)"')
_TAG = re.compile(r"<[^>]*>")
_HREF = re.compile(r' href="([^"#]*)"')

Looks = Mapping[frozenset[str], Mapping[str, str]]


def looks(css: str) -> Looks:
    """The rules of the drawings' style sheet: properties by the set of classes that a shape must have.

    Parameters
        css: its rules, `.drawing .role { property: value; }`
    Returns
        by the classes that a shape must have
    """
    rules: dict[frozenset[str], dict[str, str]] = {}
    for selectors, properties in rules_of(css):
        for selector in selectors.split(","):
            first, *classes = selector.strip().replace(".", " .").split()
            if first == ".drawing" and classes:
                rules.setdefault(frozenset(name.removeprefix(".") for name in classes), {}).update(properties)
    return rules


def standalone(
    drawing: Drawing,
    rules: Looks,
    picture: Callable[[str], bytes | None] = lambda href: None,
    fonts: Callable[[str], str] = lambda text: "",
) -> str:
    """The drawing as a file of its own.

    Parameters
        drawing: what is written
        rules: from `looks`
        picture: the WebP behind an address on the drawing, or None where there is none
        fonts: the style rules with the typeface that a text needs
    Returns
        SVG with attributes for looks, no classes and nothing loaded from elsewhere
    """
    inside = write(drawing, "drawing")
    inside = _CLASS.sub(lambda match: _attributes(match[1], rules), inside)

    def embedded(match: re.Match[str]) -> str:
        data = picture(match[1].replace("&amp;", "&"))
        return "" if data is None else f' href="data:image/webp;base64,{base64.b64encode(data).decode()}"'

    inside = _HREF.sub(embedded, inside)
    style = f"<style>{fonts(html.unescape(_TAG.sub('', inside)))}</style>"
    wide, high = number(drawing.width), number(drawing.height)
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide}" height="{high}" font-family="{FONTS}"'
        f' fill="{palette.INK_LIGHT}"'
    )
    paper = f'<rect width="{wide}" height="{high}" fill="{palette.PAPER_LIGHT}"/>'
    return re.sub(r"^<svg([^>]*)>", lambda match: f"{head}{match[1]}>{style}{paper}", inside)


def _attributes(classes: str, rules: Looks) -> str:
    """The looks of a shape with these classes, as attributes."""
    has = frozenset(classes.split())
    merged: dict[str, str] = {}
    for wanted, properties in rules.items():
        if wanted <= has:
            merged.update(properties)
    if merged.get("display") == "none":
        return ' display="none"'
    variables = VARIABLES | _rig(has)
    written = ""
    for name, value in merged.items():
        resolved = re.sub(r"var\((--[\w-]+)\)", lambda match: variables.get(match[1], "none"), value)
        if name != "font-family" and resolved:
            written += f' {name}="{resolved}"'
    return written


def _rig(classes: frozenset[str]) -> dict[str, str]:
    letter = next((name[4:] for name in classes if re.fullmatch(r"rig-[a-f]", name)), None)
    if letter is None:
        return {}
    index = "abcdef".index(letter)
    return {"--rig": palette.RIG_LIGHT[index], "--dash": palette.DASHES[index] or "none"}
