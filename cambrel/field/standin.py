"""A simulated camera: takes the shots of a sheet as an outside device would, with the small errors of practice and with
what the model lacks.

It shares no formula of what it is to prove: out of focus is the mean of many pinhole pictures over the pupil,
    diffraction is the Airy pattern
itself, noise is counted electrons. Some of its lenses and cameras are not what their marks say.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from io import BytesIO
from math import cos, hypot, inf, log2, pi, sin
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image
from PIL.TiffImagePlugin import IFDRational
from scipy.special import j1

from cambrel.field.planning import SheetPlan
from cambrel.optics.colour import to_bytes
from cambrel.optics.scene import Camera
from cambrel.pictures.shots import arranged, camera_in
from cambrel.pictures.views import shop
from cambrel.rendering.render import render
from cambrel.rendering.take import Take
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.trial_shots import TrialShot

WIDE_PX = 960
MOST_WIDE_PX = 6000
CHART_PX = 480
RINGS = 3
LAMP_POINTS = 3000
LAMP_PX = 1.2
GREY = 0.18
ELECTRONS_PER_UM2 = 20_800.0
"""Of a square micrometre in mid-grey at ISO 1: ten lux seconds on a usual sensor."""


@dataclass(frozen=True)
class Quirks:
    """What a camera and its lens are besides their marks."""

    breathes: float = 0.0
    """By how much its view is narrower than its focal length says, when focused close."""
    transmission_stops: float = 0.0
    smooths_px: float = 0.0
    """The spread of its noise reduction."""


QUIRKS = (Quirks(), Quirks(breathes=0.07, transmission_stops=1 / 3), Quirks(smooths_px=1.6))
"""By the rigs of a sheet in turn: one honest, one that breathes and passes less light than marked, one that smooths its
noise away.
"""


def forgotten(shots: list[TrialShot]) -> str:
    """The one shot of a sheet that is not taken, as it happens."""
    return shots[len(shots) // 2].key if len(shots) > 2 else ""


def moment(shots: list[TrialShot], index: int, now: datetime) -> datetime:
    """When the camera takes a shot by its clock: two minutes after the one before, the last one about now."""
    return now - timedelta(minutes=2 * (len(shots) - index))


def take_shot(plan: SheetPlan, key: str, now: datetime) -> tuple[bytes, str] | None:
    """The file that the camera makes of a shot.

    Parameters
        plan: the sheet; key: of one of its shots; now: by the camera's clock, after the last shot
    Returns
        the file and its ending; None for the shot that is forgotten
    """
    shots = plan.shots
    index = next(k for k, shot in enumerate(shots) if shot.key == key)
    if key == forgotten(shots):
        return None
    shot, random = shots[index], np.random.default_rng(index + 1)
    at = moment(shots, index, now)
    quirks = QUIRKS[shot.rig % len(QUIRKS)]
    body = plan.bench.rigs[shot.rig].sensor
    is_full_size = TRIALS[shot.trial].is_full_size
    light = _charted(plan, shot, quirks, random) if is_full_size else _seen(plan, shot, quirks, random)
    kind = "PNG" if is_full_size else "JPEG"
    out = BytesIO()
    options: dict[str, object] = {"compress_level": 1} if kind == "PNG" else {"quality": 94, "subsampling": 0}
    Image.fromarray(light).save(out, kind, exif=_exif(plan, shot, at, hypot(36, 24) / body.diagonal_mm), **options)
    return out.getvalue(), kind.lower()


def _exact(plan: SheetPlan, shot: TrialShot) -> float:
    """The f-number that stands behind a mark of the lens, whole sixths of a stop, with a converter behind it."""
    times = plan.made.rigs[shot.rig].converter
    return float(2 ** (round(6 * log2(shot.f_number / times)) / 6)) * times


def _exif(plan: SheetPlan, shot: TrialShot, at: datetime, crop: float) -> Image.Exif:
    slot = plan.bench.slots[shot.rig]
    made = Image.Exif()
    made[0x0110] = slot.body_called
    inside = made.get_ifd(0x8769)
    shutter = (
        IFDRational(1, round(1 / shot.shutter_s))
        if shot.shutter_s < 0.3
        else IFDRational(round(shot.shutter_s * 10), 10)
    )
    inside.update({
        0x829A: shutter, 0x829D: IFDRational(round(shot.f_number * 10), 10), 0x8827: round(shot.iso),
        0x9003: at.strftime("%Y:%m:%d %H:%M:%S"),
        0x920A: IFDRational(round(shot.focal_length_mm * 10), 10), 0xA405: round(shot.focal_length_mm * crop),
    })  # fmt: skip
    if slot.lens_name:
        inside[0xA434] = slot.lens_name
    return made


def _exposure(plan: SheetPlan, shot: TrialShot, quirks: Quirks) -> float:
    """The light on the sensor against what its ISO takes for mid-grey, in times."""
    asked = plan.comparison.brief.light_ev
    given = log2(_exact(plan, shot) ** 2 / shot.shutter_s) - log2(shot.iso / 100)
    return float(2 ** (asked - given - quirks.transmission_stops))


def _camera(plan: SheetPlan, shot: TrialShot, quirks: Quirks, random: np.random.Generator) -> tuple[Camera, Any]:
    """The camera as it really stands: moved a little, focused a little off, its lens as it really is."""
    made = plan.made
    scene = arranged(plan.find(plan.bench.scene), made.brief, plan.bench.changes)
    sensor = plan.bench.rigs[shot.rig].sensor
    wide, high = (sensor.height_mm, sensor.width_mm) if made.brief.upright else (sensor.width_mm, sensor.height_mm)
    place = shot.place_m * (1 + 0.002 * random.standard_normal()) + 0.005 * random.standard_normal()
    focus = (
        shot.focus_m
        if shot.focus_m == inf
        else max(shot.focus_m + place - shot.place_m, 0.01) * (1 + 0.004 * random.standard_normal())
    )
    focal = shot.focal_length_mm * (1 + (quirks.breathes if focus < 10 else 0.0))
    f_number = _exact(plan, shot)
    return camera_in(scene, focal, f_number, focus, max(place, 0.01), wide, high), scene


def _seen(plan: SheetPlan, shot: TrialShot, quirks: Quirks, random: np.random.Generator) -> NDArray[np.uint8]:
    """The scene as the camera sees it."""
    camera, scene = _camera(plan, shot, quirks, random)
    high = max(8, round(WIDE_PX * camera.height_mm / camera.width_mm))
    wide, high = (WIDE_PX, high) if high <= WIDE_PX else (round(WIDE_PX * camera.width_mm / camera.height_mm), WIDE_PX)
    view = Take(scene, camera, wide, high, is_sharp=True)
    total = np.zeros((high, wide, 3), np.float32)
    points = _pupil()
    radius = camera.focal_length_mm / camera.f_number / 2000
    for x, y in points:
        moved = replace(
            camera, camera_x_m=camera.camera_x_m + x * radius, camera_height_m=camera.camera_height_m + y * radius
        )
        # aimed so that the plane of focus, not the subject, stays where it is
        shift = 1 - (0 if camera.object_distance_m == inf else camera.subject_distance_m / camera.object_distance_m)
        moved = replace(
            moved, aim_x_m=camera.aim_x_m + x * radius * shift, aim_height_m=camera.aim_height_m + y * radius * shift
        )
        total += render(replace(view, camera=moved), shop())
    light = np.asarray(total / len(points), np.float32)
    background = plan.comparison.brief.background_m
    if TRIALS[shot.trial].before == "lamp" and background is not None:
        light = np.asarray(light / 40, np.float32)
        _add_lamp(light, camera, view, camera.subject_distance_m + background)
    per_pixel = _electrons(plan, shot, quirks) / (wide * high)
    spread = np.sqrt(np.maximum(light, 1e-5) * GREY / max(per_pixel, 1e-9)).astype(np.float32)
    noisy = light + spread * random.standard_normal(light.shape, np.float32)
    return to_bytes(np.clip(noisy, 0, 1).astype(np.float32))


def _pupil() -> list[tuple[float, float]]:
    """Points that fill a pupil evenly, in shares of its radius."""
    offsets = [(0.0, 0.0)]
    for ring in range(1, RINGS + 1):
        away = ring / (RINGS + 0.5)
        offsets += [(away * cos(2 * pi * k / (6 * ring)), away * sin(2 * pi * k / (6 * ring))) for k in range(6 * ring)]
    return offsets


def _add_lamp(light: NDArray[np.float32], camera: Camera, view: Take, away_m: float) -> None:
    """A point of light up on the left of the picture: one pinhole's point for each of thousands of places in the
    pupil.
    """
    random = np.random.default_rng(1)
    radius_mm = camera.focal_length_mm / camera.f_number / 2
    u, v = camera.object_distance_m, camera.image_distance_mm
    r, turn = np.sqrt(np.linspace(0, 1, LAMP_POINTS)), np.arange(LAMP_POINTS) * 2.399963
    # similar triangles from a point of the pupil by way of the plane of focus; in the picture it is turned round,
    # which a disc does not show
    slope = v / 1000 * (1 / away_m - (0 if u == inf else 1 / u))
    x = view.width_px * 0.3 + r * np.cos(turn) * radius_mm * slope * view.px_per_mm
    y = view.height_px * 0.3 + r * np.sin(turn) * radius_mm * slope * view.px_per_mm
    disc = np.zeros(light.shape[:2])
    for dx, dy in random.uniform(-0.5, 0.5, (12, 2)) * LAMP_PX:
        column, row = np.floor(x + dx).astype(int), np.floor(y + dy).astype(int)
        inside = (column >= 0) & (column < view.width_px) & (row >= 0) & (row < view.height_px)
        np.add.at(disc, (row[inside], column[inside]), 1.0)
    disc = np.asarray(cv2.GaussianBlur(disc, (0, 0), 0.6), float)
    plateau = np.median(disc[disc > disc.max() / 4])
    light += (0.45 * np.minimum(disc / plateau, 1.6))[..., None].astype(np.float32)


def _electrons(plan: SheetPlan, shot: TrialShot, quirks: Quirks) -> float:
    """Electrons of the whole frame in mid-grey."""
    sensor = plan.bench.rigs[shot.rig].sensor
    return sensor.area_mm2 * 1e6 * ELECTRONS_PER_UM2 / shot.iso * _exposure(plan, shot, quirks)


def _charted(plan: SheetPlan, shot: TrialShot, quirks: Quirks, random: np.random.Generator) -> NDArray[np.uint8]:
    """A card before the lens, at the pixels of the camera: grey for noise, with a slanted edge for sharpness. Around
    its middle it is left plain.
    """
    sensor = plan.bench.rigs[shot.rig].sensor
    wide = int(min(sensor.pixels_wide or MOST_WIDE_PX, MOST_WIDE_PX))
    high = int(wide * sensor.height_mm / sensor.width_mm + 0.5)
    side = min(CHART_PX, high)
    exposed = _exposure(plan, shot, quirks)
    is_even = TRIALS[shot.trial].before == "card"
    middle = np.full((side, side), 1.0) if is_even else _edge(side, sensor.width_mm / wide, _exact(plan, shot))
    per_pixel = _electrons(plan, shot, quirks) / (wide * high) / exposed
    counted = random.poisson(np.maximum(middle * exposed * per_pixel, 0)) / per_pixel * GREY
    # a card is grey: the chart's pixels are taken as they are, the even one's through their colour filters
    light = _developed(counted) if is_even else np.repeat(counted[..., None], 3, axis=-1)
    if quirks.smooths_px and is_even:
        light = np.asarray(cv2.GaussianBlur(light, (0, 0), quirks.smooths_px), float)
    grey = to_bytes(np.full((1, 1, 3), min(GREY * exposed, 1.0), np.float32))[0, 0]
    picture = np.empty((high, wide, 3), np.uint8)
    picture[:] = grey
    top, left = (high - side) // 2, (wide - side) // 2
    picture[top : top + side, left : left + side] = to_bytes(np.clip(light, 0, 1).astype(np.float32))
    return picture


def _developed(counted: NDArray[np.float64]) -> NDArray[np.float64]:
    """Three colours from pixels of which each saw one, by the mean of its neighbours of that colour."""
    rows, columns = np.mgrid[0 : counted.shape[0], 0 : counted.shape[1]] % 2
    masks = (rows == 0) & (columns == 0), rows != columns, (rows == 1) & (columns == 1)
    weights = np.array([[0.25, 0.5, 0.25], [0.5, 1.0, 0.5], [0.25, 0.5, 0.25]])
    seen = [
        (cv2.filter2D(counted * mask, -1, weights), cv2.filter2D(mask.astype(float), -1, weights)) for mask in masks
    ]
    return np.stack([light / share for light, share in seen], axis=-1)


def _edge(side: int, pitch_mm: float, f_number: float) -> NDArray[np.float64]:
    """A slanted edge at 5 degrees as pixels see it through the Airy pattern and a lens of its own faults."""
    over = 4
    y, x = np.mgrid[0 : side * over, 0 : side * over] / over
    fine = np.where((x - side / 2) * cos(0.0873) - (y - side / 2) * sin(0.0873) > 0, 1.6, 0.4)
    reach = min(int(6 * f_number * 0.00055 / pitch_mm) + 2, 24) * over
    at = (np.arange(-reach, reach + 1)) * pitch_mm / over
    r = np.maximum(np.hypot(at[:, None], at[None, :]), 1e-9)
    z = pi * r / (0.00055 * f_number)
    airy = (2 * j1(z) / z) ** 2
    soft = cv2.filter2D(fine, -1, airy / airy.sum(), borderType=cv2.BORDER_REPLICATE)
    soft = cv2.GaussianBlur(soft, (0, 0), over * 0.0035 / pitch_mm, borderType=cv2.BORDER_REPLICATE)
    return np.asarray(soft.reshape(side, over, side, over).mean(axis=(1, 3)))
