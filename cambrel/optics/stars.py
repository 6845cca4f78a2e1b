"""Stars: how long before they trail. Millimetres on the sensor, degrees on the sky, seconds.

Sources: "Spherical Astronomy" for declination and the turning of the sky; the rules of thumb by their names; the drift
    anywhere in a frame is
that of a gnomonic projection, which a rectilinear lens is.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cambrel.optics.quantities import Choices, Quantity, finite, is_unknown, not_negative, positive, within
from cambrel.optics.schools import School, by_key, plain
from cambrel.optics.workings import Working, term, working

SIDEREAL_ARC_SECONDS = 15.041
"""By which the sky turns in a second of time."""
SIDEREAL_RADIANS = float(np.deg2rad(SIDEREAL_ARC_SECONDS / 3600))


def rule_seconds(focal_length_mm: Quantity, crop: Quantity, constant: Quantity = 500.0) -> Quantity:
    """The habit of dividing a number by the equivalent focal length: 500, 400 or 300 by school.

    Parameters
        focal_length_mm: [mm], scalar or array
        crop: crop factor of the format
        constant: of the school
    Returns
        [s]
    """
    return positive("constant", constant) / (positive("crop", crop) * positive("focal_length_mm", focal_length_mm))


def aperture_pixel_rule_seconds(f_number: Quantity, focal_length_mm: Quantity, pixel_pitch_um: Quantity) -> Quantity:
    """The rule by aperture and pixel, (35 N + 30 p) / f.

    Parameters
        f_number: as marked, scalar or array
        focal_length_mm: [mm]
        pixel_pitch_um: [um]
    Returns
        [s]
    """
    spread = 35 * positive("f_number", f_number) + 30 * positive("pixel_pitch_um", pixel_pitch_um)
    return spread / positive("focal_length_mm", focal_length_mm)


def drift_mm(focal_length_mm: Quantity, declination_deg: Quantity, seconds: Quantity) -> Quantity:
    """How far a star moves on the sensor in the middle of the frame, f x 15.041"/s x cos(declination) x t.

    Parameters
        focal_length_mm: [mm], scalar or array
        declination_deg: from -90 to 90 [degrees]
        seconds: [s]
    Returns
        [mm]
    """
    turned = SIDEREAL_RADIANS * np.cos(np.deg2rad(_declination(declination_deg)))
    return positive("focal_length_mm", focal_length_mm) * turned * not_negative("seconds", seconds)


def drift_vector_mm(
    focal_length_mm: Quantity, declination_deg: Quantity, seconds: Quantity, x_mm: Quantity, y_mm: Quantity
) -> tuple[Quantity, Quantity]:
    """How far a star moves anywhere in the frame, across and towards the pole.

    Parameters
        focal_length_mm: [mm], scalar or array
        declination_deg: of the middle of the frame [degrees]
        seconds: [s], short against a day
        x_mm, y_mm: from the middle of the frame, the pole upwards [mm]
    Returns
        [mm] along x and along y
    """
    f, declination = positive("focal_length_mm", focal_length_mm), np.deg2rad(_declination(declination_deg))
    x, y = finite("x_mm", x_mm) / f, finite("y_mm", y_mm) / f
    sine, cosine = np.sin(declination), np.cos(declination)
    turned = f * SIDEREAL_RADIANS * not_negative("seconds", seconds)
    return turned * (cosine - y * sine + x**2 * cosine), turned * (x * sine + x * y * cosine)


def drift_at_mm(
    focal_length_mm: Quantity, declination_deg: Quantity, seconds: Quantity, x_mm: Quantity, y_mm: Quantity
) -> Quantity:
    """The length of that drift.

    Parameters
        as for drift_vector_mm
    Returns
        [mm]
    """
    moved: Quantity = np.hypot(*drift_vector_mm(focal_length_mm, declination_deg, seconds, x_mm, y_mm))
    return moved


def trail_mm(
    focal_length_mm: float, declination_deg: float, seconds: float, x_mm: Quantity, y_mm: Quantity, steps: int
) -> tuple[Quantity, Quantity]:
    """The whole trails of stars, each turned about the pole by as much as the sky turns; the middle of the time is
    where it stands.

    Parameters
        focal_length_mm, declination_deg: as for drift_vector_mm
        seconds: [s], of any length
        x_mm, y_mm: of the stars, from the middle of the frame, the pole upwards, arrays of one shape [mm]
        steps: how many points of each trail, in equal times
    Returns
        x and y [mm], with the steps along a first axis; unknown where a star has gone behind the camera
    """
    f, declination = float(positive("focal_length_mm", focal_length_mm)), np.deg2rad(_declination(declination_deg))
    x, y = (np.asarray(finite(name, value), dtype=float) for name, value in (("x_mm", x_mm), ("y_mm", y_mm)))
    pole = np.array([0.0, np.cos(declination), np.sin(declination)])
    star = np.stack(np.broadcast_arrays(x, y, np.full_like(x, f)))
    turns = SIDEREAL_RADIANS * float(not_negative("seconds", seconds)) * (np.arange(steps) / max(1, steps - 1) - 0.5)
    turns = turns.reshape(-1, *([1] * x.ndim))
    along = np.tensordot(pole, star, axes=1)
    # about the axis: the part along it stays, the rest turns
    across = np.stack(
        (
            pole[1] * star[2] - pole[2] * star[1],
            pole[2] * star[0] - pole[0] * star[2],
            pole[0] * star[1] - pole[1] * star[0],
        )
    )
    cosine, sine = np.cos(turns), np.sin(turns)
    turned = [star[i] * cosine + across[i] * sine + pole[i] * along * (1 - cosine) for i in range(3)]
    ahead = np.where(turned[2] > 0, turned[2], np.nan)
    return f * turned[0] / ahead, f * turned[1] / ahead


def worst_drift_mm(
    focal_length_mm: Quantity, declination_deg: Quantity, seconds: Quantity, width_mm: Quantity, height_mm: Quantity
) -> Quantity:
    """The longest trail anywhere in a frame that stands upright to the pole.

    The square of the drift is convex in y and in x^2, so that it is longest at a corner or in the middle of an upper or
    lower side.

    Parameters
        focal_length_mm, declination_deg, seconds: as for drift_at_mm
        width_mm, height_mm: of the frame [mm]
    Returns
        [mm]
    """
    x, y = positive("width_mm", width_mm) / 2, positive("height_mm", height_mm) / 2
    worst = drift_at_mm(focal_length_mm, declination_deg, seconds, x, y)
    for x_mm, y_mm in ((x, -y), (0 * x, y), (0 * x, -y)):
        worst = np.maximum(worst, drift_at_mm(focal_length_mm, declination_deg, seconds, x_mm, y_mm))
    return worst


def seconds_for_drift(focal_length_mm: Quantity, declination_deg: Quantity, length_mm: Quantity) -> Quantity:
    """How long until a star in the middle of the frame has moved so far; without end at the pole.

    Parameters
        focal_length_mm: [mm], scalar or array
        declination_deg: [degrees]
        length_mm: on the sensor [mm]
    Returns
        [s]
    """
    a_second = drift_mm(focal_length_mm, declination_deg, 1.0)
    length = positive("length_mm", length_mm)
    # a degree's cosine of 90 is not quite 0
    still = np.abs(np.asarray(declination_deg)) == 90
    with np.errstate(divide="ignore"):
        seconds: Quantity = np.where(still, np.inf, length / np.asarray(a_second))
    return float(seconds) if np.ndim(seconds) == 0 else seconds


def corner_stretch(focal_length_mm: Quantity, off_axis_mm: Quantity) -> tuple[Quantity, Quantity]:
    """How much a rectilinear lens stretches a small shape away from the axis: of shapes, not of trails.

    Parameters
        focal_length_mm: [mm], scalar or array
        off_axis_mm: from the middle of the frame [mm]
    Returns
        away from the middle 1 + (r/f)^2, and around it sqrt(1 + (r/f)^2)
    """
    ratio = 1 + (not_negative("off_axis_mm", off_axis_mm) / positive("focal_length_mm", focal_length_mm)) ** 2
    around: Quantity = np.sqrt(ratio)
    return ratio, around


def declination_deg(latitude_deg: Quantity, altitude_deg: Quantity, azimuth_deg: Quantity) -> Quantity:
    """Where on the sky a camera looks, asin(sin lat sin alt + cos lat cos alt cos az).

    Parameters
        latitude_deg: of the place, north above 0 [degrees], scalar or array
        altitude_deg: above the horizon [degrees]
        azimuth_deg: from north through east [degrees]
    Returns
        [degrees]
    """
    latitude = np.deg2rad(within("latitude_deg", latitude_deg, -90, 90))
    altitude = np.deg2rad(within("altitude_deg", altitude_deg, -90, 90))
    azimuth = np.deg2rad(finite("azimuth_deg", azimuth_deg))
    sine = np.sin(latitude) * np.sin(altitude) + np.cos(latitude) * np.cos(altitude) * np.cos(azimuth)
    angle_deg: Quantity = np.rad2deg(np.arcsin(np.clip(sine, -1, 1)))
    return angle_deg


def _declination(value: Quantity) -> Quantity:
    return within("declination_deg", value, -90, 90)


@dataclass(frozen=True)
class UnderStars:
    """A camera that stands still under the stars: what their seconds may depend on.

    Scalars or arrays, NaN where something is not known.
    """

    focal_length_mm: Quantity
    f_number: Quantity
    crop: Quantity
    pixel_pitch_um: Quantity
    width_mm: Quantity
    height_mm: Quantity
    coc_mm: Quantity
    declination_deg: Quantity = 0.0


@dataclass(frozen=True)
class StarSchool(School[UnderStars]):
    """How long stars stay points. value: the longest shutter [s]

    mark: what it is marked by where there is little room; explains: what it takes into account, and what not
    asks: the conventions that it depends on itself
    """

    mark: str = ""
    explains: str = ""
    asks: tuple[str, ...] = ()


def _star_rule(constant: float, reason: str) -> StarSchool:
    def value(given: UnderStars) -> Quantity:
        return rule_seconds(given.focal_length_mm, given.crop, constant)

    def written(given: UnderStars) -> Working:
        focal = term("f", "focal length", given.focal_length_mm, "mm")
        return working(
            "t", f"{constant:g} / (C × f)", float(value(given)), "s", term("C", "crop factor", given.crop), focal
        )

    return StarSchool(
        f"rule_{constant:g}", f"the {constant:g} rule", reason, value, written, mark=f"{constant:g}",
        explains="A rule of thumb: the longer the lens in full-frame terms, the sooner stars trail."
        " It knows neither the pixels nor where you look.",
        asks=("crop_by",),
    )  # fmt: skip


def _drift_seconds(given: UnderStars) -> Quantity:
    seconds: Quantity = given.coc_mm / worst_drift_mm(
        given.focal_length_mm, given.declination_deg, 1.0, given.width_mm, given.height_mm
    )
    return seconds


def _drift_working(given: UnderStars) -> Working | None:
    if is_unknown(given.coc_mm):
        return None
    a_second = worst_drift_mm(given.focal_length_mm, given.declination_deg, 1.0, given.width_mm, given.height_mm)
    return working(
        "t", "c / s", float(_drift_seconds(given)), "s",
        term("c", "largest blur that counts as sharp", given.coc_mm, "mm"),
        term("s", "drift in a second at the worst edge of the frame, mm", float(a_second)),
    )  # fmt: skip


def _by_pixel_seconds(given: UnderStars) -> Quantity:
    is_known = ~np.isnan(given.pixel_pitch_um)
    pitch = np.where(is_known, given.pixel_pitch_um, 1.0)
    return plain(np.where(is_known, aperture_pixel_rule_seconds(given.f_number, given.focal_length_mm, pitch), np.nan))


def _by_pixel_working(given: UnderStars) -> Working | None:
    if is_unknown(given.pixel_pitch_um):
        return None
    return working(
        "t", "(35 × N + 30 × p) / f", float(_by_pixel_seconds(given)), "s", term("N", "f-number", given.f_number, "f"),
        term("p", "pixel pitch", given.pixel_pitch_um, "um"), term("f", "focal length", given.focal_length_mm, "mm"),
    )  # fmt: skip


STAR_SCHOOLS: Choices[StarSchool] = by_key(
    "star_rule",
    StarSchool(
        "exact",
        "by their drift",
        "By the drift of the stars where you look, to the worst edge of the frame, and what counts as sharp.",
        _drift_seconds,
        _drift_working,
        explains="Wide lenses stretch the sky towards the edge of the frame, where trails are longest.",
        asks=("criterion",),
    ),
    _star_rule(500, "500 over the equivalent focal length: long trusted, made for grainy film and small prints."),
    _star_rule(400, "400 over the equivalent focal length, between the two."),
    _star_rule(300, "300 over the equivalent focal length, for many fine pixels."),
    StarSchool(
        "aperture_pixel",
        "by aperture and pixel",
        "35 times the f-number and 30 times the pixel pitch, over the focal length.",
        _by_pixel_seconds,
        _by_pixel_working,
        mark="N+p",
        explains="A rule that lets a star trail by about what aperture and pixels blur it anyway.",
    ),
)
