"""What a question of the drills comes to, by another route than the core's: the right answer, that of each mistake, and
what is judged.
"""

from math import atan, cos, hypot, inf, log, log2, pi, sin, sqrt, tan

from scipy.optimize import brentq
from scipy.special import jn_zeros

from cambrel.optics.formats import Sensor
from cambrel.tests.truth.eye import PHOTONS, length

BEHIND_MM = 5000.0
_LENS_AND_VIEW = ("with the same focal length on both", "with the lens for the same view on each")
_NUMBER_AND_DEPTH = ("at the same f-number", "at the f-number for the same depth of field")
TERMS = {
    **dict.fromkeys(("view", "depth", "hyperfocal", "stars"), _LENS_AND_VIEW),
    **dict.fromkeys(("diffraction", "total_light"), _NUMBER_AND_DEPTH),
    "same_lens": ("with the same lens from the same spot", "with the same lens, walking until the subject is as large"),
    "walk": ("walking until the subject is as large", "staying at the same spot"),
    "reach": ("with the same lens from the same spot", "with the lens for the same view on each"),
    "circle": ("on A", "on B"),
    "closeup": ("at the same magnification on the sensor", "with as much of the subject in the frame"),
    "advert": ("for the exposure", "for the light in the whole picture"),
    "ladder": ("for the exposure", "for depth of field and light"),
}
"""What JUDGED below judges, the first and the second."""


class Seen:
    """What was given, measured anew."""

    def __init__(self, g):
        self.g = g
        self.sides = [length(s.width_mm, s.height_mm, g.crop_by) for s in (g.one, g.other)]
        self.k = self.sides[1] / self.sides[0]
        self.crop = length(36, 24, g.crop_by) / self.sides[1]
        self.areas = [s.width_mm * s.height_mm for s in (g.one, g.other)]
        self.pitches = [s.width_mm / s.pixels_wide for s in (g.one, g.other)]
        self.u = 1000 * g.distance_m
        # what shares its light: the whole frame, or one pixel
        self.gathers = [pitch**2 for pitch in self.pitches] if g.noise == "pixel" else self.areas

    def c(self, sensor):
        diagonal = hypot(sensor.width_mm, sensor.height_mm)
        return {
            "diagonal_1500": diagonal / 1500,
            "diagonal_1730": diagonal / 1730,
            "traditional": 0.03 * diagonal / hypot(36, 24),
            "print": 500 / 250 / (5 * 420 / max(sensor.width_mm, sensor.height_mm)),
            "two_pixels": 2 * sensor.width_mm / sensor.pixels_wide,
        }[self.g.criterion]

    def depth(self, f, n, u, sensor):
        """Depth of field from the cones of light: where the disc is as large as what counts as sharp."""
        v, c = 1 / (1 / f - 1 / u), self.c(sensor)
        opening = f / n
        near_v, far_v = v * opening / (opening - c), v * opening / (opening + c)
        near, far = 1 / (1 / f - 1 / near_v), inf if far_v <= f else 1 / (1 / f - 1 / far_v)
        return far - near

    def same_view(self, f):
        """The focal length on the other frame that sees the same from here."""
        v = self.k / (1 / f - 1 / self.u)
        return 1 / (1 / self.u + 1 / v)


def view(s):
    return s.sides[1] / 2 / tan(atan(s.sides[0] / 2 / s.g.focal_mm))


def walked(s):
    m = 1 / (1 / s.g.focal_mm - 1 / s.u) / s.u
    f = s.g.second_focal_mm
    return brentq(lambda u: 1 / (1 / f - 1 / u) / u - m, f * (1 + 1e-12), 1e9, xtol=1e-12, rtol=1e-14) / 1000


def kept(s):
    frame = s.g.other
    lean = atan(frame.height_mm / frame.width_mm)
    wide, high = s.g.circle_mm * cos(lean), s.g.circle_mm * sin(lean)
    return wide * high / s.pitches[1] ** 2 / 1e6


def hyperfocal(s, f=None, n=None, c=None):
    """Where the disc of infinity is as large as what counts as sharp."""
    f, n, c = f or s.g.focal_mm, n or s.g.f_number, c or s.c(s.g.other)
    return (
        brentq(
            lambda log_u: log(f / n * (1 / (1 / f - 1 / (f + 10**log_u)) - f) / f / c), -9, 12, xtol=1e-13, rtol=1e-15
        ),
        f,
    )


def focus_for_all(s, **other):
    found, f = hyperfocal(s, **other)
    return (f + 10**found) / 1000


def limited(s, sensor):
    return s.c(sensor) / (2 * jn_zeros(1, 1)[0] / pi * 550e-6)


def exposed(s):
    g = s.g
    gathered = [
        t * iso / n / n
        for t, iso, n in ((g.shutter_s, g.iso, g.f_number), (g.second_shutter_s, g.second_iso, g.second_f_number))
    ]
    return log2(gathered[1]) - log2(gathered[0])


RIGHT = {
    "view": view,
    "depth": lambda s: view(s) / (s.g.focal_mm / s.g.f_number),
    "same_lens": lambda s: s.g.other.width_mm * (s.g.field_m / s.g.one.width_mm),
    "walk": walked,
    "reach": lambda s: (1 / s.pitches[1]) / (1 / s.pitches[0]),
    "circle": kept,
    "hyperfocal": focus_for_all,
    "diffraction": lambda s: limited(s, s.g.other),
    "exposure": exposed,
    "total_light": lambda s: log2(s.areas[1]) - log2(s.areas[0]),
    "noise": lambda s: 1 / (1 / s.g.iso * s.gathers[0] / s.gathers[1]),
    "closeup": lambda s: -2 * log2(s.g.focal_mm / (s.g.focal_mm + s.g.magnification * s.g.focal_mm)),
    "stars": lambda s: 500 / (length(36, 24, s.g.crop_by) * s.g.focal_mm / s.sides[1]),
    "advert": lambda s: s.crop * s.g.focal_mm / (s.g.focal_mm / s.g.f_number),
    "ladder": lambda s: view(s) / (s.g.focal_mm / s.g.f_number),
}
SLIPS = {
    "view": {
        "inverted": lambda s: s.g.focal_mm / s.k,
        "unchanged": lambda s: s.g.focal_mm,
        "squared": lambda s: s.g.focal_mm * s.k * s.k,
    },
    "depth": {
        "inverted": lambda s: s.g.f_number / s.k,
        "unchanged": lambda s: s.g.f_number,
        "squared": lambda s: s.g.f_number * s.k * s.k,
    },
    "same_lens": {
        "inverted": lambda s: s.g.field_m * s.g.one.width_mm / s.g.other.width_mm,
        "unchanged": lambda s: s.g.field_m,
        "squared": lambda s: s.g.field_m * (s.g.other.width_mm / s.g.one.width_mm) ** 2,
    },
    "walk": {
        "inverted": lambda s: s.g.distance_m / (s.g.second_focal_mm / s.g.focal_mm),
        "unchanged": lambda s: s.g.distance_m,
        "squared": lambda s: s.g.distance_m * s.g.second_focal_mm**2 / s.g.focal_mm**2,
    },
    "reach": {
        "inverted": lambda s: s.pitches[1] / s.pitches[0],
        "crop": lambda s: s.sides[0] / s.sides[1],
        "squared": lambda s: (s.pitches[0] / s.pitches[1]) ** 2,
    },
    "circle": {
        "linear": lambda s: (
            s.areas[1] / s.pitches[1] ** 2 / 1e6 * s.g.circle_mm / hypot(s.g.other.width_mm, s.g.other.height_mm)
        ),
        "unchanged": lambda s: s.areas[1] / s.pitches[1] ** 2 / 1e6,
        "by_width": lambda s: s.areas[1] / s.pitches[1] ** 2 / 1e6 * min(1, s.g.circle_mm / s.g.other.width_mm) ** 2,
    },
    "hyperfocal": {
        "full_frame_circle": lambda s: focus_for_all(s, c=s.c(Sensor(36, 24, s.g.other.pixels_wide))),
        "equivalent_focal": lambda s: focus_for_all(s, f=s.g.focal_mm * s.crop),
        "half": lambda s: focus_for_all(s) / 2,
        "f_number_converted": lambda s: focus_for_all(s, n=s.g.f_number * s.crop),
    },
    "diffraction": {
        "unchanged": lambda s: limited(s, s.g.one),
        "inverted": lambda s: limited(s, s.g.one) / (limited(s, s.g.other) / limited(s, s.g.one)),
        "squared": lambda s: limited(s, s.g.one) * (limited(s, s.g.other) / limited(s, s.g.one)) ** 2,
    },
    "exposure": {
        # the f-number of B put in terms of A, or the factor on B's time, or one stop where there are two
        "crop_on_f_number": lambda s: exposed(s) - 2 * log2(s.g.second_f_number / s.k / s.g.second_f_number),
        "crop_on_shutter": lambda s: exposed(s) + log2(s.g.second_shutter_s * s.k / s.g.second_shutter_s),
        "inverted": lambda s: -exposed(s),
        "linear": lambda s: (
            log2(s.g.second_shutter_s * s.g.second_iso / s.g.second_f_number)
            - log2(s.g.shutter_s * s.g.iso / s.g.f_number)
        ),
    },
    "total_light": {
        "linear": lambda s: log2(sqrt(s.areas[1] / s.areas[0])),
        "unchanged": lambda s: 0.0,
        "inverted": lambda s: log2(s.areas[0] / s.areas[1]),
        "ratio": lambda s: max(s.areas) / min(s.areas) * (1 if s.areas[1] > s.areas[0] else -1),
    },
    "noise": {
        "unchanged": lambda s: s.g.iso,
        "linear": lambda s: s.g.iso * sqrt(s.gathers[1]) / sqrt(s.gathers[0]),
        "inverted": lambda s: s.g.iso * s.gathers[0] / s.gathers[1],
        "other_school": lambda s: (
            s.g.iso * (s.areas[1] / s.areas[0] if s.g.noise == "pixel" else (s.pitches[1] / s.pitches[0]) ** 2)
        ),
    },
    "closeup": {
        "unchanged": lambda s: 0.0,
        "linear": lambda s: log2(1 + s.g.magnification),
        "equivalent_magnification": lambda s: 2 * log2(1 + s.g.magnification * s.crop),
    },
    "stars": {
        "unchanged": lambda s: 500 / s.g.focal_mm,
        "squared": lambda s: 500 / s.g.focal_mm / s.crop / s.crop,
        "inverted": lambda s: 500 / s.g.focal_mm * s.crop,
    },
    "advert": {
        "unchanged": lambda s: s.g.f_number,
        "inverted": lambda s: s.g.f_number / s.crop,
        "squared": lambda s: s.g.f_number * s.crop**2,
    },
    "ladder": {
        "inverted": lambda s: s.g.f_number / s.k,
        "half": lambda s: s.g.f_number * 2 ** (log2(s.k) / 2),
        "unchanged": lambda s: s.g.f_number,
    },
}


def more(ratio, level):
    return 0 if abs(log(ratio)) <= log(1 + level) else 1 if ratio > 1 else -1


def in_stops(ratio):
    return 0 if abs(log2(ratio)) <= 1 / 6 else 1 if ratio > 1 else -1


def background(s):
    """The background against the subject, from here and from where the subject is as large in the other frame under the
    same lens.
    """
    high = s.g.other.height_mm / s.g.one.height_mm
    v = 1 / (1 / s.g.focal_mm - 1 / s.u)
    there = brentq(
        lambda u: 1 / (1 / s.g.focal_mm - 1 / u) / u - v / s.u * high, s.g.focal_mm * 1.0000001, 1e9, rtol=1e-14
    )
    return (there / (there + BEHIND_MM)) / (s.u / (s.u + BEHIND_MM))


def snr(s, sensor, pixel):
    """Signal to noise at the settings given in the usual light: of a pixel, or of the picture shown at eight
    megapixels.
    """
    pitch = 1000 * sensor.width_mm / sensor.pixels_wide
    f = s.g.focal_mm if sensor is s.g.one else s.same_view(s.g.focal_mm)
    effective = s.g.f_number / (1 - f / s.u)
    signal = 0.1 * 2**8 * s.g.shutter_s / effective**2 * PHOTONS * 0.5 * pitch**2
    found = signal / sqrt(signal + 2**2)
    pixels = sensor.pixels_wide**2 * sensor.height_mm / sensor.width_mm
    return found if pixel else found * sqrt(pixels / 8e6)


def totals(s, one, other):
    return more(other / one, 0.05)


JUDGED = {
    "view": lambda s: (more(s.k, 0.01), 0),
    "depth": lambda s: (
        totals(s, s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.one),
            s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.other)),
        totals(s, s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.one),
            s.depth(s.same_view(s.g.focal_mm), s.g.f_number, s.u, s.g.other)),
    ),
    "same_lens": lambda s: (0, more(background(s), 0.01)),
    "walk": lambda s: (
        totals(s, s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.one),
            s.depth(s.g.second_focal_mm, s.g.f_number, 1000 * walked(s), s.g.one)),
        totals(s, s.depth(s.g.focal_mm, s.g.f_number, s.u, s.g.one),
            s.depth(s.g.second_focal_mm, s.g.f_number, s.u, s.g.one)),
    ),
    "reach": lambda s: (more(s.pitches[0] / s.pitches[1], 0.03), more(s.pitches[0] / s.pitches[1] * s.k, 0.03)),
    "circle": lambda s: tuple(more(s.g.circle_mm / hypot(f.width_mm, f.height_mm), 0.01) for f in (s.g.one, s.g.other)),
    "hyperfocal": lambda s: (
        more(focus_for_all(s) / focus_for_all(s, c=s.c(s.g.one)), 0.05),
        more(focus_for_all(s, f=s.same_view(s.g.focal_mm)) / focus_for_all(s, c=s.c(s.g.one)), 0.05),
    ),
    "diffraction": lambda s: (in_stops((s.c(s.g.one) / s.c(s.g.other)) ** 2),
        in_stops((s.c(s.g.one) / s.c(s.g.other) * s.k) ** 2)),
    "exposure": lambda s: (0, in_stops(1 / s.k**2)),
    "total_light": lambda s: (in_stops(s.areas[1] / s.areas[0]), in_stops(s.areas[1] / s.areas[0] / s.k**2)),
    "noise": lambda s: tuple(in_stops((snr(s, s.g.other, pixel) / snr(s, s.g.one, pixel)) ** 2) for pixel in (False,
        True)),
    "closeup": lambda s: (0, in_stops(((1 + s.g.magnification * s.k) / (1 + s.g.magnification)) ** 2)),
    "stars": lambda s: (in_stops(s.k), 0),
    "advert": lambda s: (0, in_stops(1 / s.crop**2)),
    "ladder": lambda s: (0, in_stops(s.k**2)),
}  # fmt: skip
BY_DEPTH = {"diffraction", "exposure", "total_light"}
"""Judged at the f-number for the same depth, which is that of the same pupil where what counts as sharp goes by the
measure of the crop.
"""


def told_apart(kind, one, other):
    """How far two answers are apart, in multiples of what is taken as right: a third of a stop, or 5 %."""
    if kind in ("exposure", "total_light", "closeup"):
        return abs(one - other) * 3
    if not (one > 0 and other > 0):
        return inf
    within = {
        "depth": 2 ** (1 / 6),
        "diffraction": 2 ** (1 / 6),
        "ladder": 2 ** (1 / 6),
        "advert": 2 ** (1 / 6),
        "noise": 2 ** (1 / 3),
        "stars": 2 ** (1 / 3),
    }
    return abs(log(one / other)) / log(within.get(kind, 1.05))


def _larger(given):
    return given.other.diagonal_mm > given.one.diagonal_mm


INVERTED = {
    "view": lambda g: g.focal_mm,
    "depth": lambda g: g.f_number,
    "ladder": lambda g: g.f_number,
    "advert": lambda g: g.f_number,
    "same_lens": lambda g: g.field_m,
    "walk": lambda g: g.distance_m,
    "reach": lambda g: 1.0,
    "diffraction": lambda g: Seen(g).c(g.one) / (2 * jn_zeros(1, 1)[0] / pi * 550e-6),
    "total_light": lambda g: 0.0,
    "noise": lambda g: g.iso,
}
"""What a right answer is above just when what is told of a turned one says so."""
INVERTED_WHEN = dict.fromkeys(INVERTED, _larger) | {
    "advert": lambda g: True,
    "walk": lambda g: g.second_focal_mm > g.focal_mm,
    "reach": lambda g: g.other.width_mm / g.other.pixels_wide < g.one.width_mm / g.one.pixels_wide,
    "noise": lambda g: Seen(g).gathers[1] > Seen(g).gathers[0],
}
