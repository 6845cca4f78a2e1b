"""Writing shapes out as SVG. Position and size are attributes and looks are classes, so that no inline style is
needed.
"""

from __future__ import annotations

from collections.abc import Iterable
from html import escape

from cambrel.drawings.shapes import Circle, Clip, Drawing, Image, Label, Line, Path, Rect, Shape


def number(value: float) -> str:
    """A coordinate to a hundredth of a pixel, as short as it goes.

    Parameters
        value: [px]
    Returns
        digits
    """
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def write(drawing: Drawing, identity: str) -> str:
    """The drawing as an SVG element with a title and a description for those who cannot see it.

    Parameters
        drawing: shapes, a title and a description
        identity: unique on the page
    Returns
        markup, all text escaped
    """
    size = f"{number(drawing.width)} {number(drawing.height)}"
    head = f'<svg viewBox="0 0 {size}" class="drawing" role="img" aria-labelledby="{identity}-title {identity}-says">'
    title = f'<title id="{identity}-title">{escape(drawing.title)}</title>'
    says = f'<desc id="{identity}-says">{escape(drawing.description)}</desc>'
    return f"{head}{title}{says}{_all(drawing.shapes)}</svg>"


def _all(shapes: Iterable[Shape]) -> str:
    return "".join(map(_write, shapes))


def _attributes(role: str) -> str:
    return f' class="{role}"' if role else ""


def _tipped(element: str, attributes: str, tip: str) -> str:
    if not tip:
        return f"<{element}{attributes}/>"
    return f"<{element}{attributes}><title>{escape(tip)}</title></{element}>"


def _write(shape: Shape) -> str:
    n = number
    match shape:
        case Rect(x, y, width, height, role, tip):
            where = f' x="{n(x)}" y="{n(y)}" width="{n(max(width, 0))}" height="{n(max(height, 0))}"'
            return _tipped("rect", where + _attributes(role), tip)
        case Line(x1, y1, x2, y2, role):
            return f'<path d="M{n(x1)} {n(y1)}L{n(x2)} {n(y2)}"{_attributes(role)}/>'
        case Path(points, role, closed):
            path = "L".join(["%.1f %.1f" % point for point in points])  # noqa: UP031, as quick again as any other way
            return f'<path d="M{path}{"Z" if closed else ""}"{_attributes(role)}/>'
        case Circle(x, y, radius, role, tip):
            return _tipped("circle", f' cx="{n(x)}" cy="{n(y)}" r="{n(radius)}"{_attributes(role)}', tip)
        case Label(x, y, text, role, anchor, size):
            where = "" if anchor == "start" else f' text-anchor="{anchor}"'
            return f'<text x="{n(x)}" y="{n(y)}" font-size="{n(size)}"{where}{_attributes(role)}>{escape(text)}</text>'
        case Image(x, y, width, height, href):
            where = f'x="{n(x)}" y="{n(y)}" width="{n(width)}" height="{n(height)}"'
            return f'<image {where} href="{escape(href)}" preserveAspectRatio="none"/>'
        case Clip(name, window, shapes):
            cut = f'<clipPath id="{name}">{_write(window)}</clipPath>'
            return f'{cut}<g clip-path="url(#{name})">{_all(shapes)}</g>'
