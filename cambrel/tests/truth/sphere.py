"""The sky as a sphere that is turned and seen through a plane: no formula of the core is used."""

from math import cos, hypot, radians, sin

STEP_S = 0.02
TURN = radians(15.041 / 3600)


def moved(declination, x, y):
    """How far a star at a place of the frame, in focal lengths, moves in a second."""
    d, turned = radians(declination), TURN * STEP_S
    out, up, across = (cos(d), 0, sin(d)), (-sin(d), 0, cos(d)), (0, 1, 0)
    places = []
    for angle in (-turned / 2, turned / 2):
        star = [o + y * u + x * a for o, u, a in zip(out, up, across, strict=True)]
        star = (star[0] * cos(angle) - star[1] * sin(angle), star[0] * sin(angle) + star[1] * cos(angle), star[2])
        deep = sum(p * q for p, q in zip(star, out, strict=True))
        places.append([sum(p * q for p, q in zip(star, axis, strict=True)) / deep for axis in (across, up)])
    (x1, y1), (x2, y2) = places
    return hypot(x2 - x1, y2 - y1) / STEP_S


def worst(eye, declination, steps=6):
    """The fastest anywhere in the frame, looked for all over it."""
    grid = range(-steps, steps + 1)
    return max(
        moved(declination, i / steps * eye.w / 2 / eye.f, j / steps * eye.h / 2 / eye.f) for i in grid for j in grid
    )
