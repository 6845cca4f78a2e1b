"""A scene as one rig records it: layers painted sharp, blurred by their discs, and laid over each other from far to
near.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from io import BytesIO

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from cambrel.optics.colour import Pixels, hex_to_linear, shoulder, to_bytes
from cambrel.optics.scene import airy_mm, disc_mm, signed_disc_mm, streak_mm
from cambrel.rendering.cutouts import Shop
from cambrel.rendering.discs import LEAST, blur, blurred, largest_disc, margin, reduction, smear
from cambrel.rendering.lamps import LampSpot, disc_of, places, spots, stars, trails, veil
from cambrel.rendering.paint import (
    Canvas,
    alpha_at,
    ground_rows,
    paint_ground,
    paint_layer,
    paint_sky,
    wanted_px_per_cm,
)
from cambrel.rendering.softening import soften
from cambrel.rendering.take import Take
from cambrel.scenes import Ground, Layer

NEAREST_M = 0.02
SAME_DISC = 0.07
LEVELS = 7
AIRY_WEIGHT = 0.42
"""An Airy disc blurs like an even disc of this part of its diameter (equal half width)."""
MID_GREY = 0.18


@dataclass(frozen=True)
class Cutout:
    """A layer at its distance, with its blur disc and its streak in pixels of the picture."""

    layer: Layer
    away_m: float
    disc_px: float
    streak_px: float


def disc_px(view: Take, away_m: float) -> float:
    """The blur of a point on the picture, the Airy disc included [px]; none at all in a picture that is drawn sharp."""
    if view.is_sharp:
        return 0.0
    k = view.px_per_mm
    disc = float(disc_mm(view.camera, away_m)) * k
    airy = AIRY_WEIGHT * airy_mm(view.camera) * k
    both = float(np.hypot(disc, airy)) if airy >= LEAST else disc
    return min(both, largest_disc(view.width_px, view.height_px))


def cutouts(view: Take) -> list[Cutout]:
    """The layers before the camera, far to near."""
    placed = []
    for layer in view.scene.layers:
        away = view.camera.subject_distance_m + layer.behind_m
        if away < NEAREST_M:
            continue
        streak = 0.0
        if layer.moves and view.speed_m_per_s and view.shutter_s:
            streak = float(streak_mm(view.camera, view.speed_m_per_s, view.shutter_s, away)) * view.px_per_mm
        placed.append(Cutout(layer, away, disc_px(view, away), min(streak, 2.0 * view.width_px)))
    return placed


def render(view: Take, shop: Shop) -> Pixels:
    """The picture in linear light, before tone and grain.

    Parameters
        view: what is drawn
        shop: where the cut-outs come from
    Returns
        height x width x 3, float32, white is 1 and lamps are brighter
    """
    picture = np.empty((view.height_px, view.width_px, 3), np.float32)
    picture[:] = hex_to_linear(view.scene.backdrop)
    layers = cutouts(view)
    lamps = spots(view, view.scene.lamps)
    if view.scene.sky is not None:
        canvas = Canvas.around(view, 1, 1)
        picture[:] = canvas.cut(paint_sky(view, canvas, view.scene.sky), view)[..., :3]
        drawn = trails(view, view.scene.sky)
        if drawn is None:
            drawn = veil(view, view.scene.sky)
        if drawn is None:
            lamps = stars(view, view.scene.sky) + lamps
        else:
            picture += drawn
    for step in _in_depth(view, layers, lamps):
        if isinstance(step, LampSpot):
            _add(picture, step, None)
        elif isinstance(step, Ground):
            _lay_ground(picture, view, step)
        else:
            _lay(picture, view, shop, step)
    for spot in lamps:
        if spot.is_open:
            _add(picture, spot, lambda x, y, spot=spot: _seen(view, shop, layers, spot, x, y))
    return picture if view.is_sharp else soften(picture, view)


def _in_depth(
    view: Take, layers: Sequence[Cutout], lamps: Sequence[LampSpot]
) -> Iterator[LampSpot | Ground | list[Cutout]]:
    """All things from far to near; neighbouring cut-outs of nearly one disc are one step."""
    distance = view.camera.subject_distance_m
    things: list[tuple[float, int, LampSpot | Ground | Cutout]] = [(layer.away_m, 1, layer) for layer in layers]
    things += [(distance + ground.to_m - 1e-9, 0, ground) for ground in view.scene.surfaces]
    things += [(spot.away_m, 2, spot) for spot in lamps if not spot.is_open]
    group: list[Cutout] = []
    for _, _, thing in sorted(things, key=lambda entry: (-entry[0], entry[1])):
        if isinstance(thing, Cutout) and group and _alike(group[0], thing):
            group.append(thing)
            continue
        if group:
            yield group
            group = []
        if isinstance(thing, Cutout):
            group = [thing]
        else:
            yield thing
    if group:
        yield group


def _alike(one: Cutout, other: Cutout) -> bool:
    apart = abs(one.disc_px - other.disc_px)
    return apart < max(0.5, SAME_DISC * one.disc_px) and one.streak_px == other.streak_px == 0


def _over(below: Pixels, above: Pixels) -> None:
    """Lay premultiplied pixels over a picture, in place."""
    below *= 1 - above[..., 3:]
    below += above[..., :3]


def _lay(picture: Pixels, view: Take, shop: Shop, group: list[Cutout]) -> None:
    disc = max(cutout.disc_px for cutout in group)
    streak = group[0].streak_px
    canvas = Canvas.bounded(view, margin(disc) + margin(streak), reduction(disc))
    reduced = canvas.reduced
    sharp: Pixels | None = None
    for cutout in group:
        wanted = wanted_px_per_cm(view, cutout.layer, cutout.away_m, reduced)
        sheet = shop.sheet(view.scene.slug, cutout.layer.art, wanted)
        painted = paint_layer(view, canvas, sheet, cutout.layer, cutout.away_m)
        if painted is None:
            continue
        if sharp is None:
            sharp = painted
        else:
            sharp *= 1 - painted[..., 3:]
            sharp += painted
    if sharp is None:
        return
    soft = blur(smear(sharp, streak / reduced), disc / reduced)
    _over(picture, canvas.cut(soft, view))


def _lay_ground(picture: Pixels, view: Take, ground: Ground) -> None:
    """A level surface: its disc changes with the row, so a few fixed discs are blended by row."""
    discs = _discs_seen(view, ground)
    if not len(discs):
        return
    low, high = float(discs.min()), float(discs.max())
    canvas = Canvas.bounded(view, margin(high), reduction(low))
    rows = ground_rows(view, canvas, ground)
    painted = None if rows is None else paint_ground(view, canvas, ground, rows)
    if rows is None or painted is None:
        return
    sharp, columns = painted
    reach = canvas.margin
    top, left = min(reach, rows.first), min(reach, columns.start)
    bottom, right = min(reach, canvas.height - rows.last), min(reach, canvas.width - columns.stop)
    # an empty edge where the surface ends inside the canvas
    sharp = np.asarray(
        cv2.copyMakeBorder(sharp, top, bottom, left, right, cv2.BORDER_CONSTANT, value=(0, 0, 0, 0)), np.float32
    )
    if high >= LEAST:
        of_row = np.pad(_discs_of(view, rows.away_m).clip(low, high), (top, bottom), mode="edge")
        sharp = _blur_by_row(sharp, of_row / canvas.reduced)
    whole = np.zeros((canvas.height, canvas.width, 4), np.float32)
    whole[rows.first - top : rows.last + bottom, columns.start - left : columns.stop + right] = sharp
    _over(picture, canvas.cut(whole, view))


def _discs_seen(view: Take, ground: Ground) -> NDArray[np.float64]:
    """The discs of the rows of a surface that are seen: those in the picture, and those beside it whose disc reaches
    into it.
    """
    ends = np.array([ground.from_m, ground.to_m]) + view.camera.subject_distance_m
    around = Canvas.around(view, margin(float(_discs_of(view, ends).max())), 1)
    rows = ground_rows(view, around, ground)
    if rows is None:
        return np.zeros(0)
    discs = _discs_of(view, rows.away_m)
    at = np.arange(rows.first, rows.last) - around.margin
    beside = np.maximum(-at, at - view.height_px + 1)
    return discs[beside <= discs / 2 + 2]


def _blur_by_row(sharp: Pixels, discs: NDArray[np.float64]) -> Pixels:
    """Each row blurred by its own disc, blended from a few fixed ones."""
    low, high = float(discs.min()), float(discs.max())
    count = LEVELS if high > low * 1.05 + 0.5 else 1
    levels = np.linspace(np.sqrt(low), np.sqrt(high), count) ** 2
    at = np.interp(discs, levels, np.arange(count)) if count > 1 else np.zeros(len(discs))
    soft = np.zeros_like(sharp)
    for index, level in enumerate(levels):
        weight = np.clip(1 - np.abs(at - index), 0, 1).astype(np.float32)
        used = np.flatnonzero(weight > 0)
        if not len(used):
            continue
        reach = margin(level)
        first, last = max(0, used[0] - reach), min(len(weight), used[-1] + 1 + reach)
        softened = blurred(np.ascontiguousarray(sharp[first:last]), float(level))
        mine = slice(used[0], used[-1] + 1)
        soft[mine] += softened[used[0] - first : used[-1] + 1 - first] * weight[mine, None, None]
    return soft


def _discs_of(view: Take, away_m: NDArray[np.float64]) -> NDArray[np.float64]:
    """The discs of many distances [px]."""
    if view.is_sharp:
        return np.zeros(away_m.shape)
    k = view.px_per_mm
    seen = np.maximum(away_m, NEAREST_M)
    discs: NDArray[np.float64] = np.asarray(disc_mm(view.camera, seen), float) * k
    return np.minimum(discs, largest_disc(view.width_px, view.height_px))


def _add(picture: Pixels, spot: LampSpot, seen: object) -> None:
    spot_disc = disc_of(spot, picture.shape[1], picture.shape[0])
    if spot_disc is None:
        return
    rows, columns, cover = spot_disc
    if callable(seen):
        cover = cover * seen(*places(rows, columns))
    picture[rows, columns] += cover[..., None] * spot.light


def _seen(
    view: Take, shop: Shop, layers: Sequence[Cutout], spot: LampSpot, x: NDArray[np.float64], y: NDArray[np.float64]
) -> Pixels:
    """What part of a lamp's light comes past the nearer layers, for each pixel of its disc: each is one point of the
    pupil.
    """
    open_: Pixels = np.ones(x.shape, np.float32)
    for layer in layers:
        if layer.away_m >= spot.away_m or spot.signed_px == 0:
            continue
        # a ray through a point q of the pupil meets the picture at c + s q; on the layer it meets what falls at P -
        # s_layer q
        signed = float(signed_disc_mm(view.camera, layer.away_m)) * view.px_per_mm
        ratio = signed / spot.signed_px
        sheet = shop.sheet(view.scene.slug, layer.layer.art, wanted_px_per_cm(view, layer.layer, layer.away_m))
        at_x, at_y = x - ratio * (x - spot.x_px), y - ratio * (y - spot.y_px)
        open_ *= 1 - alpha_at(view, sheet, layer.layer, layer.away_m, at_x, at_y)
    return open_


def finish(picture: Pixels, view: Take) -> NDArray[np.uint8]:
    """Gain, grain, tone, dither: the bytes of the picture."""
    light = picture * np.float32(2.0**view.gain_stops) if view.gain_stops else picture
    if view.snr > 0:
        # photon noise grows with the root of the light; at mid grey it is 1 / SNR of it
        spread = np.sqrt(np.maximum(light, 0) * np.float32(MID_GREY)) / np.float32(view.snr)
        light = light + spread * np.random.default_rng(5).standard_normal(light.shape, np.float32)
    return to_bytes(shoulder(np.maximum(light, 0)), _dither(*light.shape[:2]))


@lru_cache(maxsize=16)
def _dither(height: int, width: int) -> Pixels:
    made: Pixels = np.random.default_rng(3).random((height, width), np.float32) - np.float32(0.5)
    return made


def encode(pixels: NDArray[np.uint8], kind: str = "webp") -> bytes:
    """The picture as a file: WebP for looking, PNG for keeping."""
    options: dict[str, int] = {"quality": 88, "method": 2} if kind == "webp" else {"compress_level": 6}
    out = BytesIO()
    Image.fromarray(pixels).save(out, kind.upper(), **options)
    return out.getvalue()
