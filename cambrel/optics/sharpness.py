"""The blur budget: everything that softens a picture is a spread on the sensor with a modulation transfer function, and
parts multiply.

Frequencies are cycles (line pairs) per millimetre on the sensor, spreads are lengths there. The product of defocus and
diffraction is up to
18 % pessimistic where the disc is about as large as the Airy disc, so that differences within that are level.
Sources: "Introduction to Fourier Optics", transfer functions of a circular pupil, defocused by geometry; "Modulation
    Transfer Function in
Optical and Electro-Optical Systems" for pixels, streaks and the product.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from math import inf, log

import numpy as np
from scipy.special import j0, j1

from cambrel.optics.diffraction import WAVELENGTH_NM
from cambrel.optics.quantities import Array, Quantity, not_negative, positive

FIRST_ZERO_OF_J1 = 3.8317059702075125
MM_PER_INCH = 25.4
PRESS_LINES_PER_INCH = 200.0
"""What a printing press with a 200-line screen can carry: a line width to each line of it."""
LINES_PER_MM = 5.0
"""What a good eye tells apart at 250 mm, in line pairs."""
CLOSE_ENOUGH = 1e-8
"""Of the last step of Newton's way, after which what is left is about its square."""
MOST_STEPS = 80


def diffraction_mtf(
    frequency_per_mm: Quantity, f_number: Quantity, wavelength_nm: Quantity = WAVELENGTH_NM
) -> Quantity:
    """Contrast that a perfect lens leaves, 2/pi (acos s - s sqrt(1 - s^2)) with s = frequency lambda N; 0 from s = 1.

    Parameters
        frequency_per_mm: [cycles/mm], scalar or array
        f_number: the effective one, N (1 + m)
        wavelength_nm: [nm]
    Returns
        share of the contrast, 1 at frequency 0

    >>> round(diffraction_mtf(50, 8), 6)
    0.722164
    """
    v = not_negative("frequency_per_mm", frequency_per_mm)
    cutoff_mm = positive("wavelength_nm", wavelength_nm) * 1e-6 * positive("f_number", f_number)
    return _plain(_of_diffraction(np.asarray(v), np.asarray(cutoff_mm))[0])


def pixel_mtf(frequency_per_mm: Quantity, pixel_pitch_um: Quantity) -> Quantity:
    """Contrast that a full-width square pixel leaves, |sinc(v p)|, with no filter in front.

    Parameters
        frequency_per_mm: [cycles/mm]
        pixel_pitch_um: its physical size [um]
    Returns
        share of the contrast
    """
    return streak_mtf(frequency_per_mm, positive("pixel_pitch_um", pixel_pitch_um) / 1000)


def disc_mtf(frequency_per_mm: Quantity, diameter_mm: Quantity) -> Quantity:
    """Contrast that a blur disc leaves, |2 J1(pi D v) / (pi D v)|.

    Parameters
        frequency_per_mm: [cycles/mm]
        diameter_mm: of the disc on the sensor [mm]; 0 leaves all
    Returns
        share of the contrast
    """
    v = np.asarray(not_negative("frequency_per_mm", frequency_per_mm))
    return _plain(np.abs(_of_disc(v, np.asarray(not_negative("diameter_mm", diameter_mm)))[0]))


def streak_mtf(frequency_per_mm: Quantity, length_mm: Quantity) -> Quantity:
    """Contrast that a streak leaves along its direction, |sinc(v L)|: movement, shake, the drift of stars.

    Parameters
        frequency_per_mm: [cycles/mm]
        length_mm: of the streak on the sensor [mm]; 0 leaves all
    Returns
        share of the contrast
    """
    v = not_negative("frequency_per_mm", frequency_per_mm)
    return _plain(np.abs(np.sinc(v * np.asarray(not_negative("length_mm", length_mm)))))


def lens_mtf(frequency_per_mm: Quantity, mtf50_per_mm: Quantity) -> Quantity:
    """Contrast that a lens's own faults leave, exp(-ln 2 (v / v50)^2).

    Parameters
        frequency_per_mm: [cycles/mm]
        mtf50_per_mm: where half is left [cycles/mm]; None for a perfect lens
    Returns
        share of the contrast
    """
    v = not_negative("frequency_per_mm", frequency_per_mm)
    if mtf50_per_mm is None:
        return 1.0 + 0.0 * v
    return _plain(np.exp2(-np.asarray((v / positive("mtf50_per_mm", mtf50_per_mm)) ** 2)))


def mtf50_per_mm(
    f_number: Quantity,
    magnification: Quantity = 0.0,
    wavelength_nm: Quantity = WAVELENGTH_NM,
    pixel_pitch_um: Quantity | None = None,
    lens_mtf50_per_mm: Quantity | None = None,
    disc_mm: Quantity = 0.0,
    streaks_mm: Sequence[Quantity] = (),
) -> Quantity:
    """The first frequency at which half of the contrast is left by all parts together.

    Parameters
        f_number: as marked; its light bends as at N (1 + m)
        magnification: of the subject
        wavelength_nm: [nm]
        pixel_pitch_um: [um]; None for no pixels
        lens_mtf50_per_mm: of the lens's own faults [cycles/mm]; None for a perfect lens
        disc_mm: blur disc of defocus [mm]
        streaks_mm: lengths of streaks [mm], which multiply as if all ran one way
    Returns
        [cycles/mm] on the sensor

    >>> round(mtf50_per_mm(8), 3)
    91.812
    """
    n = positive("f_number", f_number) * (1 + np.asarray(not_negative("magnification", magnification)))
    return _plain(
        half_contrast_per_mm(
            np.asarray(positive("wavelength_nm", wavelength_nm) * 1e-6 * n),
            np.asarray(0.0 if pixel_pitch_um is None else positive("pixel_pitch_um", pixel_pitch_um) / 1000),
            np.asarray(inf if lens_mtf50_per_mm is None else positive("lens_mtf50_per_mm", lens_mtf50_per_mm)),
            np.asarray(not_negative("disc_mm", disc_mm)),
            [np.asarray(not_negative("streaks_mm", length)) for length in streaks_mm],
        )
    )


def half_contrast_per_mm(
    airy_scale_mm: Array, pixel_mm: Array, lens_per_mm: Array, disc_mm: Array, streaks_mm: Sequence[Array]
) -> Array:
    """The same of parts any of which may be away: lambda N of 0, a pixel, a disc or a streak of 0, a lens of infinite
    resolution.

    Returns
        [cycles/mm]; infinite where nothing softens, unknown where a part is
    """
    scale, disc, lens, *lengths = np.broadcast_arrays(
        airy_scale_mm, disc_mm, lens_per_mm, pixel_mm, *(streak for streak in streaks_mm if np.any(streak))
    )
    # pixels and streaks, which soften by one formula, along an axis in front
    straight = np.stack(lengths)
    with np.errstate(divide="ignore", invalid="ignore"):
        # each part alone; together, near enough to begin with, as if all were Gaussian
        start = 1 / np.sqrt(
            (scale / S_HALF) ** 2 + (disc / DISC_HALF) ** 2 + 1 / lens**2 + ((straight / SINC_HALF) ** 2).sum(axis=0)
        )
        ends = np.minimum(np.minimum(1 / scale, FIRST_ZERO_OF_J1 / np.pi / disc), (1 / straight).min(axis=0))
        is_open = np.isfinite(start)
        v, low, high = np.where(is_open, start, 1.0), np.zeros(start.shape), ends
        v = np.where(v < high, v, high / 2)
        for _ in range(MOST_STEPS):
            value, slope = _log_contrast(v, scale, disc, lens, straight)
            over = value + LN2
            low, high = np.where(over > 0, v, low), np.where(over > 0, high, v)
            following = v - over / slope
            is_inside = (following >= low) & (following <= high)
            if not is_inside.all():
                between = np.where(np.isfinite(high), (low + high) / 2, 2 * v)
                following = np.where(is_inside, following, between)
            moved = np.abs(following - v) > CLOSE_ENOUGH * v
            v = following
            if not (moved & is_open).any():
                break
    return np.where(is_open, v, start)


def _log_contrast(v: Array, scale: Array, disc: Array, lens: Array, straight: Array) -> tuple[Array, Array]:
    """Logarithm of the product of all parts at a frequency below the first zero of each, and its slope."""
    m, dm = _of_diffraction(v, scale)
    value, slope = np.log(m), dm / m
    if np.any(disc):
        d, dd = _of_disc(v, disc)
        value, slope = value + np.log(d), slope + dd / d
    value, slope = value - LN2 * (v / lens) ** 2, slope - 2 * LN2 * v / lens**2
    s, ds = _of_streak(v, straight)
    return value + np.log(s).sum(axis=0), slope + (ds / s).sum(axis=0)


def _of_diffraction(v: Array, scale: Array) -> tuple[Array, Array]:
    s = np.minimum(v * scale, 1.0)
    root = np.sqrt(1 - s * s)
    return 2 / np.pi * (np.arccos(s) - s * root), -4 / np.pi * root * scale


def _of_disc(v: Array, disc: Array) -> tuple[Array, Array]:
    z = np.pi * disc * v
    small = z < 1e-4
    safe = np.where(small, 1.0, z)
    first = j1(safe)
    value = np.where(small, 1 - z * z / 8, 2 * first / safe)
    # the slope of 2 J1(z)/z is -2 J2(z)/z, and J2 = 2 J1/z - J0
    slope = np.where(small, -z / 4, -2 * (2 * first / safe - j0(safe)) / safe)
    return value, slope * np.pi * disc


def _of_streak(v: Array, length: Array) -> tuple[Array, Array]:
    x = np.pi * length * v
    small = x < 1e-4
    safe = np.where(small, 1.0, x)
    sine = np.sin(safe)
    value = np.where(small, 1 - x * x / 6, sine / safe)
    slope = np.where(small, -x / 3, (np.cos(safe) - sine / safe) / safe)
    return value, slope * np.pi * length


def _plain(values: Quantity) -> Quantity:
    return float(values) if np.ndim(values) == 0 else values


def _half(contrast: Callable[[float], float], low: float, high: float) -> float:
    """Where a falling contrast is one half, by halving."""
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if contrast(middle) > 0.5 else (low, middle)
    return low


LN2 = log(2)
S_HALF = _half(lambda s: float(_of_diffraction(np.asarray(s), np.asarray(1.0))[0]), 0.0, 1.0)
"""v50 of diffraction alone, in units of 1 over lambda N."""
SINC_HALF = _half(lambda x: float(np.sinc(x)), 0.0, 1.0)
"""v50 of a pixel or a streak alone, in units of 1 over its length."""
DISC_HALF = _half(lambda x: float(_of_disc(np.asarray(x), np.asarray(1.0))[0]), 0.0, 1.2)
"""v50 of a disc alone, in units of 1 over its diameter."""


def lens_own_mtf50_per_mm(
    measured_per_mm: Quantity, f_number: Quantity, pixel_pitch_um: Quantity, wavelength_nm: Quantity = WAVELENGTH_NM
) -> Quantity:
    """The lens's own part of a figure measured from pictures, which holds pixels and diffraction as well: v sqrt(ln 2 /
    ln(2 D P)).

    Parameters
        measured_per_mm: MTF50 of the pictures [cycles/mm]
        f_number: the effective one they were taken at
        pixel_pitch_um: of the body they were taken with [um]
        wavelength_nm: [nm]
    Returns
        [cycles/mm]; infinite where pixels and diffraction alone explain the figure, so that the lens did not limit
    """
    v = positive("measured_per_mm", measured_per_mm)
    rest = diffraction_mtf(v, f_number, wavelength_nm) * pixel_mtf(v, pixel_pitch_um)
    room = np.maximum(2 * np.asarray(rest), 1.0)
    with np.errstate(divide="ignore"):
        return _plain(np.asarray(v) * np.sqrt(LN2 / np.log(room)))


def largest_print_by_eye_mm(
    mtf50_per_mm: Quantity, long_side_mm: Quantity, viewing_distance_mm: Quantity, lines_per_mm: Quantity = LINES_PER_MM
) -> Quantity:
    """Long side of the largest print whose finest detail an eye still finds sharp: v / E at least R 250 / L.

    Parameters
        mtf50_per_mm: of the picture [cycles/mm on the sensor]
        long_side_mm: of the frame [mm]
        viewing_distance_mm: L, from which it is looked at [mm]
        lines_per_mm: R, line pairs that the eye tells apart at 250 mm; the strict eye takes all, the eye as for depth
            half of them
    Returns
        [mm]
    """
    wanted_per_mm = positive("lines_per_mm", lines_per_mm) * 250 / positive("viewing_distance_mm", viewing_distance_mm)
    return positive("long_side_mm", long_side_mm) * positive("mtf50_per_mm", mtf50_per_mm) / wanted_per_mm


def largest_print_by_printer_mm(
    mtf50_per_mm: Quantity, long_side_mm: Quantity, line_widths_per_inch: Quantity = PRESS_LINES_PER_INCH
) -> Quantity:
    """Long side of the largest print for a printing press: so many line widths per inch at half contrast, from whatever
    distance.

    Parameters
        mtf50_per_mm: of the picture [cycles/mm on the sensor]
        long_side_mm: of the frame [mm]
        line_widths_per_inch: of the print; two line widths are a cycle
    Returns
        [mm]
    """
    wanted_per_mm = positive("line_widths_per_inch", line_widths_per_inch) / MM_PER_INCH / 2
    return positive("long_side_mm", long_side_mm) * positive("mtf50_per_mm", mtf50_per_mm) / wanted_per_mm


def finest_detail_mm(frequency_per_mm: Quantity, object_distance_m: Quantity, image_distance_mm: Quantity) -> Quantity:
    """The width on the subject of one line at a frequency on the sensor, u / (2 v x image distance).

    Parameters
        frequency_per_mm: [cycles/mm on the sensor]
        object_distance_m: of the subject from the lens [m]
        image_distance_mm: [mm]
    Returns
        [mm] per line width
    """
    distance_mm = 1000 * positive("object_distance_m", object_distance_m)
    image = positive("image_distance_mm", image_distance_mm)
    return distance_mm / (2 * positive("frequency_per_mm", frequency_per_mm) * image)
