"""A figure that was measured, against what was predicted of it and what was allowed to either side."""

from __future__ import annotations

from cambrel.drawings.shapes import Circle, Drawing, Line, Path, Rect, Shape

WIDTH, HEIGHT = 104.0, 18.0
MOST = 2.5
"""So many times what was allowed lies within the drawing; what is farther off is shown as leaving it."""
EDGE = 6.0


def tolerance_mark(off: float, role: str, said: str) -> Drawing:
    """Predicted in the middle, allowed as a band about it, measured as a dot, or as an arrow where it leaves the
    drawing.

    Parameters
        off: by how much the reading differs, in what was allowed: 1 and -1 are the ends of the band
        role: how the dot looks
        said: the same in words
    Returns
        shapes, a title and a description
    """
    middle, across = WIDTH / 2, (WIDTH / 2 - EDGE) / MOST
    at = middle + max(-MOST, min(MOST, off)) * across
    shapes: list[Shape] = [
        Rect(middle - across, 3, 2 * across, HEIGHT - 6, "tolerance-allowed"),
        Line(EDGE, HEIGHT / 2, WIDTH - EDGE, HEIGHT / 2, "tolerance-scale"),
        Line(middle, 1, middle, HEIGHT - 1, "tolerance-predicted"),
    ]
    if abs(off) <= MOST:
        shapes.append(Circle(at, HEIGHT / 2, 4.0, role))
    else:
        back = at - 7 if off > 0 else at + 7
        shapes.append(Path(((back, HEIGHT / 2 - 5), (at, HEIGHT / 2), (back, HEIGHT / 2 + 5)), role, closed=True))
    return Drawing(WIDTH, HEIGHT, tuple(shapes), "Predicted, allowed and measured", said)
