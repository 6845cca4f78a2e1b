"""Sharp pixels of the things of a scene: cut-outs, level surfaces and the sky, in premultiplied linear light."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from cambrel.optics.colour import Pixels, hex_to_linear
from cambrel.optics.scene import ground_distance_m, horizon_mm, place_mm, scale_mm_per_m
from cambrel.rendering.cutouts import FULL, CutoutSizes
from cambrel.rendering.take import Take
from cambrel.scenes import Ground, Layer, Sky

LINE_SHARE = 0.09
"""How wide the lines of a surface are, in shares of their step."""


MOST_CANVAS_PX = 6_000_000


@dataclass(frozen=True)
class Canvas:
    """A canvas at a reduced size with a margin around the picture: so many pixels of the picture to one of its own."""

    width: int
    height: int
    margin: int
    reduced: int

    @classmethod
    def around(cls, view: Take, margin_px: int, reduced: int) -> Canvas:
        margin = -(-margin_px // reduced) + 1
        return cls(
            -(-view.width_px // reduced) + 2 * margin, -(-view.height_px // reduced) + 2 * margin, margin, reduced
        )

    @classmethod
    def bounded(cls, view: Take, margin_px: int, reduced: int) -> Canvas:
        """The same, reduced further where it would be larger than any that is painted."""
        made = cls.around(view, margin_px, reduced)
        while made.width * made.height > MOST_CANVAS_PX:
            made = cls.around(view, margin_px, 2 * made.reduced)
        return made

    def at(self, x_px: float, y_px: float) -> tuple[float, float]:
        """A place of the picture on the canvas, counted between pixel edges."""
        return x_px / self.reduced + self.margin, y_px / self.reduced + self.margin

    def rows_px(self) -> NDArray[np.float64]:
        """The middle of each of its rows as a row of the picture."""
        return np.asarray((np.arange(self.height) + 0.5 - self.margin) * self.reduced, np.float64)

    def cut(self, pixels: Pixels, view: Take) -> Pixels:
        """The picture out of the canvas, at full size."""
        if self.reduced == 1:
            m = self.margin
            return pixels[m : m + view.height_px, m : m + view.width_px]
        # the centres of the picture's pixels on the canvas
        scale = 1 / self.reduced
        offset = self.margin + 0.5 * scale - 0.5
        matrix = np.array([[scale, 0, offset], [0, scale, offset]])
        flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
        size = (view.width_px, view.height_px)
        return np.asarray(
            cv2.warpAffine(pixels, matrix, size, flags=flags, borderMode=cv2.BORDER_REPLICATE), np.float32
        )


def layer_place(view: Take, layer: Layer, away_m: float) -> tuple[float, float, float]:
    """Where a layer's origin falls in the picture [px], and how many pixels a metre of it takes."""
    x_mm, y_mm = place_mm(view.camera, layer.x_m, layer.base_m, away_m)
    x0, y0 = view.origin_px
    k = view.px_per_mm
    return x0 + float(x_mm) * k, y0 + float(y_mm) * k, float(scale_mm_per_m(view.camera, away_m)) * k


def wanted_px_per_cm(view: Take, layer: Layer, away_m: float, reduced: float = 1) -> float:
    """The resolution in which a layer's drawing is called for."""
    return layer_place(view, layer, away_m)[2] * layer.scale / 100 / reduced


def _affine(
    view: Take, canvas: Canvas, sheet: CutoutSizes, layer: Layer, away_m: float
) -> tuple[NDArray[np.float64], int]:
    """From pixels of the canvas to those of a sheet's best size."""
    x_px, y_px, _ = layer_place(view, layer, away_m)
    px_per_cm = wanted_px_per_cm(view, layer, away_m, canvas.reduced)
    level = sheet.level_for(px_per_cm)
    per_px = sheet.px_per_cm / 2**level / px_per_cm
    x, y = canvas.at(x_px, y_px)
    left, top = sheet.left_cm * px_per_cm + x, sheet.top_cm * px_per_cm + y
    # pixel centres: (i + 1/2 - left) per_px - 1/2
    matrix = np.array([[per_px, 0, (0.5 - left) * per_px - 0.5], [0, per_px, (0.5 - top) * per_px - 0.5]])
    return matrix, level


def paint_layer(view: Take, canvas: Canvas, sheet: CutoutSizes, layer: Layer, away_m: float) -> Pixels | None:
    """A cut-out on the canvas, or None where nothing of it falls there."""
    matrix, level = _affine(view, canvas, sheet, layer, away_m)
    source = sheet.levels[level]
    high, wide = source.shape[:2]
    right = matrix[0, 0] * canvas.width + matrix[0, 2]
    bottom = matrix[1, 1] * canvas.height + matrix[1, 2]
    if right < 0 or bottom < 0 or matrix[0, 2] > wide or matrix[1, 2] > high:
        return None
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    warped = cv2.warpAffine(source, matrix, (canvas.width, canvas.height), flags=flags, borderValue=(0, 0, 0, 0))
    made: Pixels = warped.astype(np.float32)
    made *= np.float32(1 / FULL)
    return made


def alpha_at(
    view: Take, sheet: CutoutSizes, layer: Layer, away_m: float, x_px: NDArray[np.float64], y_px: NDArray[np.float64]
) -> Pixels:
    """The sharp cover of a cut-out at places of the picture."""
    matrix, level = _affine(view, Canvas(1, 1, 0, 1), sheet, layer, away_m)
    # places count between pixel edges, centres lie half a pixel in
    u = (matrix[0, 0] * (x_px - 0.5) + matrix[0, 2]).astype(np.float32)
    v = (matrix[1, 1] * (y_px - 0.5) + matrix[1, 2]).astype(np.float32)
    # only what is looked at is taken out of the sheet, with the pixels that are blended into it
    high, wide = sheet.levels[level].shape[:2]
    left, right = max(0, int(np.floor(u.min())) - 1), min(wide, int(np.ceil(u.max())) + 2)
    top, bottom = max(0, int(np.floor(v.min())) - 1), min(high, int(np.ceil(v.max())) + 2)
    if left >= right or top >= bottom:
        return np.zeros(u.shape, np.float32)
    cover = np.ascontiguousarray(sheet.levels[level][top:bottom, left:right, 3])
    warped = cv2.remap(
        cover, u - np.float32(left), v - np.float32(top), cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT
    )
    return warped.astype(np.float32) * np.float32(1 / FULL)


def paint_sky(view: Take, canvas: Canvas, sky: Sky) -> Pixels:
    """The sky by its colours at heights above the horizon, in degrees."""
    rows_mm = (canvas.rows_px() - view.origin_px[1]) / view.px_per_mm
    up = horizon_mm(view.camera) - rows_mm
    elevation = np.degrees(np.arctan2(up, view.camera.image_distance_mm))
    at = [stop[0] for stop in sky.stops]
    colours = np.array([hex_to_linear(stop[1]) for stop in sky.stops], np.float64)
    out: Pixels = np.ones((canvas.height, canvas.width, 4), np.float32)
    for channel in range(3):
        out[..., channel] = np.interp(elevation, at, colours[:, channel])[:, None]
    return out


@lru_cache(maxsize=1)
def _mottle() -> Pixels:
    """A tile of soft noise about 0, the same in every picture."""
    rng = np.random.default_rng(7)
    tile = np.zeros((256, 256), np.float32)
    for size in (8, 16, 32, 64, 128):
        coarse = rng.normal(0, 1, (size, size)).astype(np.float32)
        tile += cv2.resize(np.tile(coarse, (2, 2)), (512, 512), interpolation=cv2.INTER_CUBIC)[128:384, 128:384] / 3
    return tile


@dataclass(frozen=True)
class Rows:
    """The rows of a canvas that show a level surface: from first to last, how far away each is and how much of it shows
    it.
    """

    first: int
    last: int
    away_m: NDArray[np.float64]
    deep_m: NDArray[np.float64]
    shown: NDArray[np.float64]


def ground_rows(view: Take, canvas: Canvas, ground: Ground) -> Rows | None:
    """Where a level surface falls on a canvas; None where no row shows it."""
    camera, k = view.camera, view.px_per_mm / canvas.reduced
    _, y0 = canvas.at(*view.origin_px)
    edges = np.asarray(
        ground_distance_m(
            camera, np.asarray((np.arange(canvas.height + 1) - y0) / k, dtype=np.float64), ground.height_m
        )
    )
    above, below = np.maximum(edges[:-1], edges[1:]), np.minimum(edges[:-1], edges[1:])
    near, far = ground.from_m + camera.subject_distance_m, ground.to_m + camera.subject_distance_m
    deep = np.minimum(above, 1e9) - np.minimum(below, 1e9)
    overlap = np.minimum(above, far) - np.maximum(below, max(near, 0.0))
    shown = np.where(deep > 0, np.clip(overlap, 0, None) / np.maximum(deep, 1e-12), 0)
    rows = np.flatnonzero(shown > 0)
    if not len(rows):
        return None
    part = slice(rows[0], rows[-1] + 1)
    away = np.clip(
        ground_distance_m(
            camera, np.asarray((np.arange(canvas.height)[part] + 0.5 - y0) / k, dtype=np.float64), ground.height_m
        ),
        near,
        far,
    )
    return Rows(int(rows[0]), int(rows[-1]) + 1, away, deep[part], np.minimum(shown[part], 1))


def paint_ground(view: Take, canvas: Canvas, ground: Ground, rows: Rows) -> tuple[Pixels, slice] | None:
    """A level surface in true perspective on the rows that show it, and the columns that it takes; None where it takes
    none.
    """
    camera, k = view.camera, view.px_per_mm / canvas.reduced
    x0, _ = canvas.at(*view.origin_px)
    d = np.maximum(rows.away_m, 1e-3)[:, None]
    aim = float(scale_mm_per_m(camera, camera.subject_distance_m)) * (camera.aim_x_m - camera.camera_x_m)
    foot_x = d / (camera.image_distance_mm * k)
    ends = [((side - camera.camera_x_m) / foot_x - aim * k + x0) for side in (ground.left_m, ground.right_m)]
    from_, to = max(0, int(ends[0].min()) - 1), min(canvas.width, int(ends[1].max()) + 2)
    if from_ >= to:
        return None
    x = camera.camera_x_m + ((np.arange(from_, to) + 0.5 - x0)[None, :] + aim * k) * foot_x
    behind = d - camera.subject_distance_m
    foot_z = np.minimum(rows.deep_m, 1e6)[:, None]
    lines = _lines(behind, ground.step_m, foot_z)
    if ground.cross_step_m:
        lines = np.maximum(lines, _lines(x, ground.cross_step_m, foot_x))
    base, dark = hex_to_linear(ground.colour), hex_to_linear(ground.line)
    rough = (1 + ground.rough * _rough(x, behind, foot_x, foot_z)).clip(0)
    cover = np.clip((x - ground.left_m) / foot_x + 0.5, 0, 1) * np.clip((ground.right_m - x) / foot_x + 0.5, 0, 1)
    cover *= rows.shown[:, None]
    out: Pixels = np.empty((*x.shape, 4), np.float32)
    lit = cover * rough
    for channel in range(3):
        out[..., channel] = (base[channel] + (dark[channel] - base[channel]) * lines) * lit
    out[..., 3] = cover
    return out, slice(from_, to)


def _lines(at: NDArray[np.float64], step: float, foot: NDArray[np.float64]) -> NDArray[np.float64]:
    """The share of a footprint that lines at every step cover; their mean where the footprint is wider than a step."""
    width = LINE_SHARE * step
    off = np.abs((at / step + 0.5) % 1 - 0.5) * step
    sharp = np.clip((width / 2 - off) / np.maximum(foot, 1e-9) + 0.5, 0, 1) * np.minimum(
        1, width / np.maximum(foot, 1e-9) + 0.0
    )
    sharp = np.where(foot < width, np.clip((width / 2 - off) / np.maximum(foot, 1e-9) + 0.5, 0, 1), sharp)
    far = np.clip(foot / step - 0.5, 0, 1)
    mixed: NDArray[np.float64] = sharp * (1 - far) + LINE_SHARE * far
    return mixed


def _rough(
    x: NDArray[np.float64], z: NDArray[np.float64], foot_x: NDArray[np.float64], foot_z: NDArray[np.float64]
) -> Pixels:
    """Soft noise on the surface, fading out where its grain is finer than the footprint."""
    tile = _mottle()
    shade = np.zeros(np.broadcast_shapes(x.shape, z.shape), np.float32)
    for per_m in (90.0, 9.0):
        u = np.broadcast_to((x * per_m) % 256, shade.shape).astype(np.float32)
        v = np.broadcast_to((z * per_m) % 256, shade.shape).astype(np.float32)
        fade = np.clip(1.5 - np.maximum(foot_x, foot_z * 0.3) * per_m / 3, 0, 1)
        shade += cv2.remap(tile, u, v, cv2.INTER_LINEAR, borderMode=cv2.BORDER_WRAP) * fade.astype(np.float32)
    return shade
