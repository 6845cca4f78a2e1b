"""Points of light: discs that dim as they grow, laid in depth order, and shaded by what stands before them."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor

import numpy as np
from numpy.typing import NDArray

from cambrel.optics.colour import Pixels, hex_to_linear
from cambrel.optics.scene import disc_mm, horizon_mm, place_mm, scale_mm_per_m, signed_disc_mm, streak_mm
from cambrel.optics.stars import trail_mm, worst_drift_mm
from cambrel.rendering.discs import blurred, largest_disc
from cambrel.rendering.take import Take
from cambrel.scenes import Lamp, Sky

LEAK_FROM = 2.0
"""From a disc of so many times the lamp's own size on, each of its pixels is one point of the pupil."""
STAR_PX = 1.15
MOST_ON_STREAK = 64
MOST_ON_TRAIL = 1200
VEIL_FROM = 0.5
"""From a disc of so much of the picture's shorter side on, stars are one veil."""
SHORTEST_TRAIL_PX = 0.8
"""A shorter trail is a point."""


@dataclass(frozen=True)
class LampSpot:
    """A lamp in the picture: its place, its own size and its disc's [px], and its light."""

    x_px: float
    y_px: float
    size_px: float
    disc_px: float
    light: Pixels
    away_m: float
    signed_px: float

    @property
    def is_open(self) -> bool:
        """Whether it is drawn last, through what stands before it."""
        return self.disc_px >= LEAK_FROM * self.size_px and self.disc_px > 1.5

    @property
    def radius_px(self) -> float:
        return max(self.disc_px, self.size_px) / 2


def spots(view: Take, lamps: tuple[Lamp, ...]) -> list[LampSpot]:
    """The lamps before the camera, far to near."""
    lamp_spots = []
    k = view.px_per_mm
    x0, y0 = view.origin_px
    for lamp in lamps:
        away = view.camera.subject_distance_m + lamp.behind_m
        if away <= 0.02:
            continue
        x, y = place_mm(view.camera, lamp.x_m, lamp.height_m, away)
        size = lamp.size_m * float(scale_mm_per_m(view.camera, away)) * k
        disc = 0.0 if view.is_sharp else float(disc_mm(view.camera, away)) * k
        signed = float(signed_disc_mm(view.camera, away)) * k
        # a lamp smaller than a pixel keeps its light and is drawn a pixel wide
        light = hex_to_linear(lamp.colour) * np.float32(lamp.radiance * min(1.0, size / 0.8) ** 2)
        wide = max(size, 0.8)
        streak = 0.0
        if lamp.moves and view.speed_m_per_s and view.shutter_s:
            streak = float(streak_mm(view.camera, view.speed_m_per_s, view.shutter_s, away)) * k
        # a streak is the same light spread over many places
        count = min(MOST_ON_STREAK, max(1, round(2 * streak / max(disc, wide))))
        for step in range(count):
            along = ((step + 0.5) / count - 0.5) * streak
            lamp_spots.append(
                LampSpot(
                    x0 + float(x) * k + along, y0 + float(y) * k, wide, disc, light / np.float32(count), away, signed
                )
            )
    return sorted(lamp_spots, key=lambda spot: -spot.away_m)


def _sky_places(view: Take, sky: Sky) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    """Stars at infinity, the same for every camera, by their directions: where each falls from the middle of the frame
    [mm, down], and its light.
    """
    rng = np.random.default_rng(11)
    azimuth = np.radians(rng.uniform(-75, 75, sky.stars))
    elevation = np.radians(rng.uniform(0.5, 75, sky.stars) ** 1.0)
    light = sky.star_radiance * rng.pareto(1.6, sky.stars).clip(0.02, 6)
    tint = rng.uniform(0, 1, sky.stars)
    v = view.camera.image_distance_mm
    aim = float(scale_mm_per_m(view.camera, view.camera.subject_distance_m)) * (
        view.camera.aim_x_m - view.camera.camera_x_m
    )
    x = v * np.tan(azimuth) - aim
    y = horizon_mm(view.camera) - v * np.tan(elevation) / np.cos(azimuth)
    colour = np.stack((0.75 + 0.25 * tint, np.full_like(tint, 0.85), 1.0 - 0.25 * tint), axis=1)
    return x, y, colour * np.minimum(light, 12.0)[:, None]


def stars(view: Take, sky: Sky) -> list[LampSpot]:
    """The stars as points."""
    x_mm, y_mm, light = _sky_places(view, sky)
    k = view.px_per_mm
    x0, y0 = view.origin_px
    x, y = x0 + x_mm * k, y0 + y_mm * k
    disc = 0.0 if view.is_sharp else float(disc_mm(view.camera, np.inf)) * k
    signed = float(signed_disc_mm(view.camera, np.inf)) * k
    reach = disc + 4
    seen = (x > -reach) & (x < view.width_px + reach) & (y > -reach) & (y < view.height_px + reach)
    return [
        LampSpot(float(x[i]), float(y[i]), STAR_PX, disc, light[i].astype(np.float32), np.inf, signed)
        for i in np.flatnonzero(seen)
    ]


def trails(view: Take, sky: Sky) -> Pixels | None:
    """The stars as the trails that the shutter gives, to be added to the sky; None where they stay points.

    Each is its own light spread along its way, so that a longer one is fainter in every place. Directions go by the
    frame's middle, as in the figures.
    """
    if view.is_sharp or view.declination_deg is None or not view.shutter_s:
        return None
    c, k = view.camera, view.px_per_mm
    v = c.image_distance_mm
    longest = float(worst_drift_mm(v, view.declination_deg, view.shutter_s, c.width_mm, c.height_mm)) * k
    if longest < SHORTEST_TRAIL_PX:
        return None
    x_mm, y_mm, light = _sky_places(view, sky)
    x0, y0 = view.origin_px
    margin = longest + STAR_PX
    near = (np.abs(x0 + x_mm * k - view.width_px / 2) < view.width_px / 2 + margin) & (
        np.abs(y0 + y_mm * k - view.height_px / 2) < view.height_px / 2 + margin
    )
    steps = int(min(MOST_ON_TRAIL, max(4, ceil(longest / 0.7))))
    x, y = trail_mm(v, view.declination_deg, view.shutter_s, x_mm[near], -y_mm[near], steps)
    each = light[near] * (np.pi * STAR_PX**2 / 4 / steps)
    sky_light = _laid(x0 + np.asarray(x) * k, y0 - np.asarray(y) * k, each, view.width_px, view.height_px)
    return _softened(sky_light, view)


def _softened(sky_light: Pixels, view: Take) -> Pixels:
    """Starlight as the lens blurs it."""
    disc = max(STAR_PX, float(disc_mm(view.camera, np.inf)) * view.px_per_mm)
    return blurred(sky_light, min(disc, largest_disc(view.width_px, view.height_px)))


def veil(view: Take, sky: Sky) -> Pixels | None:
    """The stars as one veil, to be added to the sky, where their discs are so wide that none is seen by itself; None
    where they are not.
    """
    disc = 0.0 if view.is_sharp else float(disc_mm(view.camera, np.inf)) * view.px_per_mm
    if disc <= VEIL_FROM * min(view.width_px, view.height_px):
        return None
    x_mm, y_mm, light = _sky_places(view, sky)
    x0, y0 = view.origin_px
    each = light * (np.pi * STAR_PX**2 / 4)
    x, y = x0 + x_mm * view.px_per_mm, y0 + y_mm * view.px_per_mm
    return _softened(_laid(x[None, :], y[None, :], each, view.width_px, view.height_px), view)


def _laid(
    x: NDArray[np.float64], y: NDArray[np.float64], light: NDArray[np.float64], width: int, height: int
) -> Pixels:
    """Points of light on a picture, each shared between the four pixels around it.

    Parameters
        x, y: shape (steps, stars) [px]; unknown ones are left out
        light: shape (stars, 3)
    """
    left, top = np.floor(x - 0.5), np.floor(y - 0.5)
    over, down = x - 0.5 - left, y - 0.5 - top
    laid = np.zeros((height * width, 3))
    for dx, dy, weight in (
        (0, 0, (1 - over) * (1 - down)),
        (1, 0, over * (1 - down)),
        (0, 1, (1 - over) * down),
        (1, 1, over * down),
    ):
        column, row = left + dx, top + dy
        inside = (column >= 0) & (column < width) & (row >= 0) & (row < height)
        at = (row[inside] * width + column[inside]).astype(np.int64)
        whose = np.broadcast_to(np.arange(x.shape[1]), x.shape)[inside]
        for channel in range(3):
            laid[:, channel] += np.bincount(at, weight[inside] * light[whose, channel], height * width)
    return laid.reshape(height, width, 3).astype(np.float32)


def disc_of(spot: LampSpot, width: int, height: int) -> tuple[slice, slice, Pixels] | None:
    """The cover of a spot on the picture: half level at its radius, a ramp as wide as the smaller of lamp and disc; sum
    = its own area.
    """
    radius, ramp = spot.radius_px, max(1.0, min(spot.disc_px, spot.size_px))
    reach = radius + ramp / 2 + 1
    x_from, x_to = max(0, floor(spot.x_px - reach)), min(width, ceil(spot.x_px + reach))
    y_from, y_to = max(0, floor(spot.y_px - reach)), min(height, ceil(spot.y_px + reach))
    if x_from >= x_to or y_from >= y_to:
        return None
    x = np.arange(x_from, x_to) + 0.5 - spot.x_px
    y = np.arange(y_from, y_to) + 0.5 - spot.y_px
    away = np.hypot(x[None, :], y[:, None])
    cover = np.clip((radius - away) / ramp + 0.5, 0, 1)
    # the sum of the whole profile, also where a part of it lies outside: pi (r^2 + ramp^2 / 12)
    whole = np.pi * (radius**2 + ramp**2 / 12) if radius >= ramp / 2 else max(float(cover.sum()), 1e-6)
    area = np.pi * spot.size_px**2 / 4
    made: Pixels = (cover * (area / whole)).astype(np.float32)
    return slice(y_from, y_to), slice(x_from, x_to), made


def places(rows: slice, columns: slice) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """The middles of the pixels of a part of the picture."""
    y, x = np.mgrid[rows, columns]
    return x + 0.5, y + 0.5
