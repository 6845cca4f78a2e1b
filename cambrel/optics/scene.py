"""Where the things of a scene fall on a sensor, and how soft. Millimetres on the sensor from the frame's centre, x to
the right and y down.

The camera stands level and is aimed by rise and fall, so that verticals stay vertical: a point of aim at the subject's
    distance falls on
the centre of the frame. Built from `optics.geometry` and `optics.blur`; there is no second set of formulas here.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cambrel.optics.blur import blur_disc_mm, movement_mm
from cambrel.optics.diffraction import WAVELENGTH_NM, airy_disc_um
from cambrel.optics.geometry import image_distance_mm, magnification
from cambrel.optics.quantities import Quantity, finite, positive, positive_or_inf, refuse_unless


@dataclass(frozen=True)
class Camera:
    """A rig as it stands before a scene.

    object_distance_m: plane of focus from the lens; subject_distance_m: where the aim lies
    width_mm, height_mm: the frame in use
    camera_x_m, camera_height_m, aim_x_m, aim_height_m: where the lens is and what is at the frame's centre, across and
        above the ground
    """

    focal_length_mm: float
    f_number: float
    object_distance_m: float
    subject_distance_m: float
    width_mm: float
    height_mm: float
    camera_x_m: float = 0.0
    camera_height_m: float = 1.5
    aim_x_m: float = 0.0
    aim_height_m: float = 1.5

    def __post_init__(self) -> None:
        for name in ("focal_length_mm", "f_number", "subject_distance_m", "width_mm", "height_mm"):
            positive(name, getattr(self, name))
        positive_or_inf("object_distance_m", self.object_distance_m)
        for name in ("camera_x_m", "camera_height_m", "aim_x_m", "aim_height_m"):
            finite(name, getattr(self, name))
        image_distance_mm(self.focal_length_mm, self.object_distance_m)

    @property
    def image_distance_mm(self) -> float:
        """Lens to sensor at the set focus [mm]."""
        return float(image_distance_mm(self.focal_length_mm, self.object_distance_m))


def scale_mm_per_m(camera: Camera, distance_m: Quantity) -> Quantity:
    """Millimetres on the sensor to a metre at a distance, v / d.

    Parameters
        camera: as it stands
        distance_m: from the lens [m], scalar or array; infinity gives 0
    Returns
        [mm / m]
    """
    return camera.image_distance_mm / positive_or_inf("distance_m", distance_m)


def place_mm(camera: Camera, x_m: Quantity, height_m: Quantity, distance_m: Quantity) -> tuple[Quantity, Quantity]:
    """Where a point of the scene falls on the sensor, from the frame's centre.

    Parameters
        x_m, height_m: across and above the ground [m]
        distance_m: from the lens along the axis [m]
    Returns
        x to the right and y down [mm]
    """
    at, aim = scale_mm_per_m(camera, distance_m), scale_mm_per_m(camera, camera.subject_distance_m)
    x = (x_m - camera.camera_x_m) * at - (camera.aim_x_m - camera.camera_x_m) * aim
    y = (height_m - camera.camera_height_m) * at - (camera.aim_height_m - camera.camera_height_m) * aim
    return x, -y


def horizon_mm(camera: Camera) -> float:
    """Height of the horizon on the sensor from the frame's centre, down [mm].

    Parameters
        camera: where it stands and is aimed
    Returns
        [mm]; above 0 where the horizon lies below the centre
    """
    aim = float(scale_mm_per_m(camera, camera.subject_distance_m))
    return (camera.aim_height_m - camera.camera_height_m) * aim


def ground_distance_m(camera: Camera, y_mm: Quantity, ground_height_m: float = 0.0) -> Quantity:
    """Distance at which a level surface falls on a row of the sensor, the inverse of `place_mm`.

    Parameters
        y_mm: row from the frame's centre, down [mm], scalar or array
        ground_height_m: of the surface [m]
    Returns
        [m]; infinite on the horizon and beyond it
    """
    below = np.asarray(y_mm, dtype=float) - horizon_mm(camera)
    drop = camera.camera_height_m - ground_height_m
    with np.errstate(divide="ignore", invalid="ignore"):
        away = camera.image_distance_mm * drop / below
    return np.where(below * drop > 0, away, np.inf)


def disc_mm(camera: Camera, distance_m: Quantity) -> Quantity:
    """Diameter on the sensor of the blur disc of a point; `optics.blur.blur_disc_mm` at the camera's settings.

    Parameters
        camera: its lens, f-number and focus
        distance_m: of the point from the lens [m]; infinity is allowed
    Returns
        [mm]; 0 in the plane of focus
    """
    return blur_disc_mm(camera.focal_length_mm, camera.f_number, camera.object_distance_m, distance_m)


def signed_disc_mm(camera: Camera, distance_m: Quantity) -> Quantity:
    """The blur disc with its side: above 0 behind the plane of focus, below 0 in front of it.

    Parameters
        camera: its lens, f-number and focus
        distance_m: of the point from the lens [m]; infinity is allowed
    Returns
        [mm]
    """
    disc = disc_mm(camera, distance_m)
    return np.where(np.asarray(distance_m, dtype=float) >= camera.object_distance_m, disc, -np.asarray(disc))


def airy_mm(camera: Camera, wavelength_nm: float = WAVELENGTH_NM) -> float:
    """Diameter of the Airy disc at the set focus.

    Parameters
        camera: its lens, f-number and focus
        wavelength_nm: of the light [nm]
    Returns
        [mm]
    """
    m = float(magnification(camera.focal_length_mm, camera.object_distance_m))
    return float(airy_disc_um(camera.f_number, m, wavelength_nm)) / 1000


def streak_mm(camera: Camera, speed_m_per_s: float, shutter_s: float, distance_m: Quantity) -> Quantity:
    """Length on the sensor of the streak of something that crosses the frame while the shutter is open.

    Parameters
        camera: its lens and focus
        speed_m_per_s: across the line of sight [m/s]
        shutter_s: [s]
        distance_m: of what moves from the lens [m], scalar or array
    Returns
        [mm]
    """
    return movement_mm(speed_m_per_s, shutter_s, camera.image_distance_mm, distance_m)


def frame_at(camera: Camera, other: Camera, distance_m: float) -> tuple[float, float, float, float]:
    """Another camera's frame drawn on this one's picture, at a distance from this one: what it takes in there.

    Both stand on one line of sight; each distance is counted from its own lens, so that the subject is the common
    point.

    Parameters
        camera: whose picture it is drawn on
        other: whose frame is drawn
        distance_m: from this camera [m]
    Returns
        left, top, width and height on this camera's sensor [mm]
    Raises
        DomainError for a plane behind the other camera
    """
    away = distance_m + other.subject_distance_m - camera.subject_distance_m
    refuse_unless(away > 0, "distance_m", "in front of both cameras", distance_m)
    there = other.image_distance_mm / away
    # the other frame's corners as points of the scene, then on this sensor
    left = other.camera_x_m + (-other.width_mm / 2 + (other.aim_x_m - other.camera_x_m) * _aim(other)) / there
    top = (
        other.camera_height_m
        + (other.height_mm / 2 + (other.aim_height_m - other.camera_height_m) * _aim(other)) / there
    )
    x, y = place_mm(camera, left, top, distance_m)
    ratio = float(scale_mm_per_m(camera, distance_m)) / there
    return float(x), float(y), other.width_mm * ratio, other.height_mm * ratio


def _aim(camera: Camera) -> float:
    return float(scale_mm_per_m(camera, camera.subject_distance_m))
