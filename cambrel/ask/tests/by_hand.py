"""Arithmetic of its own for the table of questions: diagonals, rays and logarithms, none of it the house's."""

from math import atan, degrees, hypot, inf, log2, sqrt

SIZES = {
    "ff": (36, 24),
    "mft": (17.3, 13),
    "apsc": (23.5, 15.6),
    "apsc16": (22.3, 14.9),
    "one": (13.2, 8.8),
    "44": (43.8, 32.9),
    "1/1.3": (9.6, 7.2),
    "1/2.3": (6.17, 4.55),
    "1/1.7": (7.44, 5.58),
    "1/2.55": (5.64, 4.23),
    "66": (56, 56),
    "67": (69.5, 56),
    "4x5": (120, 95),
    "8x10": (254, 203.2),
    "69": (84, 56),
}


def diagonal(key):
    return hypot(*SIZES[key])


def crop(key):
    return diagonal("ff") / diagonal(key)


def area(key):
    return SIZES[key][0] * SIZES[key][1]


def lens(f, n, here, there="ff"):
    """What a lens is on another format."""
    k = crop(here) / crop(there)
    figures = {"focal length there": f * k} if f else {}
    return figures | ({"f-number of the same depth and light": n * k} if n else {})


def angles(f, key):
    wide, high = SIZES[key]
    sides = {"diagonal": diagonal(key), "width": wide, "height": high}
    return {f"angle, {side}": degrees(2 * atan(length / 2 / f)) for side, length in sides.items()}


def focal_for(angle_tan, length):
    return length / (2 * angle_tan)


def sharp(f, n, u_m, key):
    """Near and far where the cone through the pupil is as wide as the circle at the sensor."""
    c, u = diagonal(key) / 1500, 1000 * u_m
    v = f * u / (u - f)
    ends = [1 / (1 / f - (1 - sign * n * c / f) / v) for sign in (1, -1)]
    near = min(end for end in ends if end > 0)
    far = max(ends) if min(ends) > 0 else inf
    figures = {"near limit": near / 1000}
    return figures if far == inf else figures | {"far limit": far / 1000, "depth of field": (far - near) / 1000}


def hyperfocal(f, n, key):
    return {"hyperfocal distance": (f * f / (n * diagonal(key) / 1500) + f) / 1000}


def fits(f, size_m, mm):
    """From where a thing is as large as a side of the frame."""
    return f * (1 + 1000 * size_m / mm) / 1000


def lens_for(size_m, d_m, mm):
    v = mm * d_m / size_m
    return 1 / (1 / v + 1 / (1000 * d_m))


def field(f, d_m, mm):
    v = f * 1000 * d_m / (1000 * d_m - f)
    return mm * d_m / v


def blur(f, n, u_m, key, behind_m=inf):
    u = 1000 * u_m
    v = f * u / (u - f)
    disc = f / n * (v / u) * (1 if behind_m == inf else behind_m / (u_m + behind_m))
    return {"blur, of the diagonal": disc / diagonal(key)}


def airy(n):
    return 2 * 1.21967 * 0.55 * n


def pitch(megapixels, key):
    wide, high = SIZES[key]
    return 1000 * sqrt(wide * high / (megapixels * 1e6))


def stops(ratio):
    return abs(log2(ratio))
