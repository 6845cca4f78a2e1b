"""A picture of the scene by value: all that it depends on, bounded and quantised, as one parameter of its address."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import lru_cache
from math import inf, isfinite, sqrt
from typing import Any

from cambrel.bounds.limits import is_outside, outside
from cambrel.comparison.bench import Bench, LayerChange
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.links.codec import LinkError, decode_list, encode_list
from cambrel.optics.scene import Camera, place_mm
from cambrel.rendering.take import MOST_PIXELS, Take
from cambrel.scenes import Find, Scene, scenes, shipped

HEIGHTS = (60, 80, 105, 140, 210, 280, 420, 630, 840)
"""The heights in which a picture is drawn; a quick pass takes one of half the size."""
DIGITS = 7
WIDEST = 4.0
SCREEN_MM_PER_PX = 25.4 / 96
"""A pixel of the style sheets, by their definition; the loupe enlarges as the print does on a screen that keeps to it.
"""
LOUPE_PX = 200.0
FURTHEST_GAIN = 12.0
SOFTENED = {"shake_mm": (1e-6, 1000.0), "lens_per_mm": (0.05, 1e6), "pitch_mm": (1e-6, 100.0)}
"""What softens a picture, between which figures; 0 is none of it."""


@dataclass(frozen=True)
class Shot:
    """What a rig sees of a scene. `window` is the part of the frame that is drawn, in shares; `snr_frame` that of a
    pixel as large as the frame.
    """

    scene: str
    brief: Brief
    changes: tuple[LayerChange, ...]
    camera: Camera
    shutter_s: float = 0.0
    gain_stops: float = 0.0
    snr_frame: float = 0.0
    window: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)
    is_sharp: bool = False
    shake_mm: float = 0.0
    lens_per_mm: float = 0.0
    pitch_mm: float = 0.0
    place: Scene | None = field(default=None, compare=False, repr=False, kw_only=True)
    """The scene as whoever reads has it; the one that ships with the application unless it is given."""

    def token(self) -> str:
        """The shot as one parameter."""
        b, c = self.brief, self.camera
        numbers = (
            b.subject_height_m, b.background_m, b.foreground_m, b.subject_speed_m_per_s, c.focal_length_mm, c.f_number,
            c.object_distance_m,
            c.subject_distance_m, c.width_mm, c.height_mm, self.shutter_s, self.gain_stops, self.snr_frame,
            b.declination_deg, self.shake_mm, self.lens_per_mm, self.pitch_mm, *self.window,
        )  # fmt: skip
        changes = [[c.layer, _rounded(c.behind_m), _rounded(c.x_m), _rounded(c.scale)] for c in self.changes]
        return encode_list([self.scene, int(self.is_sharp), [_rounded(n) for n in numbers], changes])

    def aspect_ratio(self) -> float:
        return self.camera.width_mm * self.window[2] / (self.camera.height_mm * self.window[3])

    def view(self, height_px: int) -> Take:
        """The picture at one of the heights.

        Raises
            DomainError for what cannot be drawn
        """
        width, height = size_of(height_px, self.aspect_ratio())
        whole = width * height / (self.window[2] * self.window[3])
        return Take(
            scene=arranged(self.place or shipped(self.scene), self.brief, self.changes),
            camera=self.camera,
            width_px=width,
            height_px=height,
            window=self.window,
            speed_m_per_s=self.brief.subject_speed_m_per_s,
            shutter_s=self.shutter_s,
            gain_stops=max(-FURTHEST_GAIN, min(self.gain_stops, FURTHEST_GAIN)),
            snr=self.snr_frame / sqrt(whole),
            is_sharp=self.is_sharp,
            declination_deg=self.brief.declination_deg,
            shake_mm=self.shake_mm,
            lens_per_mm=self.lens_per_mm,
            pitch_mm=self.pitch_mm,
        )


def size_of(height_px: int, aspect: float) -> tuple[int, int]:
    """Width and height of a picture: of that height, lower where it is very wide, and never of more pixels than are
    drawn.
    """
    height = height_px * min(1.0, WIDEST / aspect)
    height *= min(1.0, sqrt(MOST_PIXELS * 0.99 / (height * height * aspect)))
    return max(8, round(height * aspect)), max(8, round(height))


def _rounded(number: float | None) -> float | str | None:
    if number is None:
        return None
    return float(f"{number:.{DIGITS}g}") if isfinite(number) else "i"


def shot_of(token: str, find: Find = shipped) -> Shot:
    """The shot that a parameter stands for.

    Parameters
        find: scenes, as whoever reads has them

    Raises
        LinkError for anything that is not a whole, sound shot
    """
    try:
        slug, is_sharp, numbers, changes = decode_list(token)
        values: list[Any] = [inf if n == "i" else None if n is None else float(n) for n in numbers]
        height, background, foreground, speed, f, n, u, s, wide, high, shutter, gain, snr, declination, *soft = values
        *softened, left, top, across, down = soft
        window = [left, top, across, down]
        brief = Brief(
            distance_m=s,
            subject_height_m=height,
            background_m=background,
            foreground_m=foreground,
            subject_speed_m_per_s=speed,
            declination_deg=declination,
        )
        place = find(slug)
        if place.slug != slug:
            raise LinkError("That scene is no longer here.")
        _check(brief, f, n, u, wide, high, shutter, gain, snr, window, softened)
        aimed = camera_in(place.arranged(brief), f, n, u, s, wide, high)
        made = Shot(
            slug,
            brief,
            tuple(LayerChange(int(c[0]), *map(float, c[1:])) for c in changes),
            aimed,
            shutter,
            gain,
            snr,
            tuple(window),
            bool(is_sharp),
            *softened,
            place=place,
        )
        made.view(HEIGHTS[0])
    except (TypeError, ValueError, ArithmeticError, IndexError) as error:
        raise LinkError("This picture's address is damaged.") from error
    return made


def _check(
    brief: Brief,
    f: float,
    n: float,
    u: float,
    wide: float,
    high: float,
    shutter: float,
    gain: float,
    snr: float,
    window: list[float],
    softened: list[float],
) -> None:
    """Refuse what no bench of ours would ask for."""
    left, top, across, down = window
    sound = 0 <= left < 1 and 0 <= top < 1 and 0.0005 <= across <= 1 and 0.0005 <= down <= 1
    sound = sound and not any(outside(brief)) and not is_outside("focus_distance_m", u)
    sound = sound and 0.01 <= f <= min(20_000, 999 * u) and 0.05 <= n <= 1000
    sound = sound and 0.01 < wide <= 1e6 and 0.01 < high <= 1e6 and 0.01 <= wide / high <= 100
    sound = sound and 0.005 <= wide / high * across / down <= 200
    sound = sound and len(softened) == len(SOFTENED)
    sound = sound and all(
        v == 0 or low <= v <= high for v, (low, high) in zip(softened, SOFTENED.values(), strict=True)
    )
    if not (sound and (shutter == 0 or not is_outside("shutter_s", shutter)) and abs(gain) <= 100 and 0 <= snr <= 1e12):
        raise LinkError("This picture's address is damaged.")


def arranged(place: Scene, brief: Brief, changes: tuple[LayerChange, ...]) -> Scene:
    """A scene as a brief and its owner have it; of those that ship it is worked out once."""
    return _shipped(place.slug, brief, changes) if place.slug in scenes() else place.arranged(brief, changes)


@lru_cache(maxsize=64)
def _shipped(slug: str, brief: Brief, changes: tuple[LayerChange, ...]) -> Scene:
    return shipped(slug).arranged(brief, changes)


def slug_of(token: str) -> str:
    """The scene that a parameter names, whether it is there or not.

    Raises
        LinkError
    """
    slug = (decode_list(token) or [""])[0]
    if not isinstance(slug, str):
        raise LinkError("This picture's address is damaged.")
    return slug


def camera_in(scene: Scene, f: float, n: float, u: float, s: float, wide: float, high: float) -> Camera:
    """A camera that stands and aims as the scene has it."""
    return Camera(f, n, u, s, wide, high, scene.camera_x_m, scene.camera_height_m, scene.aim_x_m, scene.aim_height_m)


def camera_of(bench: Bench, comparison: Comparison, rig: RigFigures, place: Scene) -> Camera:
    """A rig of a comparison as it stands before the bench's scene."""
    s = rig.settings
    return camera_in(
        arranged(place, comparison.brief, bench.changes),
        float(s.focal_length_mm), float(s.f_number), float(s.object_distance_m), float(s.subject_distance_m),
        float(rig.frames.width_mm), float(rig.frames.height_mm),
    )  # fmt: skip


def rig_shot(
    bench: Bench,
    comparison: Comparison,
    rig: RigFigures,
    *,
    place: Scene | None = None,
    as_set: bool = False,
    grain: bool = False,
    shaken: bool = False,
) -> Shot:
    """A rig's picture, with its own brightness or at the matched one, with or without the grain of its light and the
    shake of a hand.
    """
    place = place or shipped(bench.scene)
    snr = float(rig.light.snr_picture)
    gain = float(rig.light.error_stops) if as_set else 0.0
    return Shot(
        scene=place.slug,
        brief=comparison.brief,
        changes=bench.changes,
        camera=camera_of(bench, comparison, rig, place),
        shutter_s=float(rig.settings.shutter_s),
        gain_stops=gain if isfinite(gain) else 0.0,
        snr_frame=snr * sqrt(comparison.conventions.output_pixels) if grain and isfinite(snr) else 0.0,
        shake_mm=_softened("shake_mm", float(comparison.as_carried_mm[rig.index]) if shaken else 0.0),
        place=place,
    )


def _softened(name: str, value: float) -> float:
    """What softens a picture, within what is drawn of it."""
    low, high = SOFTENED[name]
    return 0.0 if not value > 0 else min(max(value, low), high)


def loupe_of(shot: Shot, brief: Brief, rig: RigFigures, x_m: float, height_m: float) -> Shot:
    """The part of a shot about a point at the subject's distance, enlarged as on the print in force, with all that
    softens it there.
    """
    c, lens, pitch = shot.camera, float(rig.sharpness.lens_mm), float(rig.frames.pitch_um)
    x, y = place_mm(c, x_m, height_m, c.subject_distance_m)
    long_mm = max(c.width_mm, c.height_mm)
    side_mm = min(LOUPE_PX * SCREEN_MM_PER_PX / brief.shown_long_side_mm * long_mm, c.height_mm, c.width_mm)
    wide, high = side_mm / c.width_mm, side_mm / c.height_mm
    left = min(max(0.5 + float(x) / c.width_mm - wide / 2, 0), 1 - wide)
    top = min(max(0.5 + float(y) / c.height_mm - high / 2, 0), 1 - high)
    return replace(
        shot,
        window=(left, top, wide, high),
        lens_per_mm=_softened("lens_per_mm", 1 / (2 * lens) if lens > 0 else 0.0),
        pitch_mm=_softened("pitch_mm", pitch / 1000 if isfinite(pitch) else 0.0),
    )


def backdrop(bench: Bench, brief: Brief, place: Scene, subject_m: float, wide_m: float, high_m: float) -> Shot:
    """The scene without blur from a standpoint, so much of it at the subject: the ground on which frames are drawn."""
    f = 1.0  # any focal length sees the same from one spot; a short one may stand close
    scene = arranged(place, brief, bench.changes)
    u = max(subject_m, 0.002)
    v = camera_in(scene, f, 1.0, u, u, 1.0, 1.0).image_distance_mm
    camera = camera_in(scene, f, 1.0, u, u, wide_m * v / u, high_m * v / u)
    return Shot(place.slug, brief, bench.changes, camera, is_sharp=True, place=place)
