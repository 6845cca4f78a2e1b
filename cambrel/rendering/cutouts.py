"""Cut-outs of a scene as pixels: each vector drawing is rastered once, and kept in several sizes."""

from __future__ import annotations

import hashlib
import re
import shutil
import time
from collections.abc import Callable, Iterable
from contextlib import suppress
from dataclasses import dataclass
from functools import lru_cache
from io import BytesIO
from math import inf
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import resvg_py
from numpy.typing import NDArray
from PIL import Image

from cambrel.optics.colour import BYTE_TO_LINEAR
from cambrel.scenes import art_path, scenes

LONG_SIDE_PX = 2048
ROUGH_PARTS = (4, 2)
"""While a drawing is not baked, these parts of its size are made for pictures that need no more, in a tenth of the
time.
"""
MOST_ROUGH = 16
MOST_OWN = 4
FULL = 65535
SMALLEST_PX = 24
EDGE_PX = 2
PATIENCE_S = 30.0
"""So long one waits for another process that bakes the same drawing; after that it must have ended half-way."""
LOOK_EVERY_S = 0.02
_VIEW_BOX = re.compile(r'viewBox="([-\d.]+) ([-\d.]+) ([-\d.]+) ([-\d.]+)"')

Levels = tuple[NDArray[np.uint16], ...]


@dataclass(frozen=True)
class CutoutSizes:
    """A cut-out in premultiplied linear light at several sizes, each half of the one before; 65535 is white.

    left_cm, top_cm: of the drawing, its origin on the ground at the layer's middle; px_per_cm: of the largest size
    """

    left_cm: float
    top_cm: float
    width_cm: float
    height_cm: float
    px_per_cm: float
    levels: Levels

    def level_for(self, px_per_cm: float) -> int:
        """The smallest size that still has the resolution wanted."""
        level = 0
        while level + 1 < len(self.levels) and self.px_per_cm / 2 ** (level + 1) >= px_per_cm:
            level += 1
        return level


class Shop:
    """Sheets by scene and drawing. Where there is a folder they are baked into it once, a file for each size, and
    mapped into memory, so that every process shares them and the system holds in memory what is looked at; until then a
    small picture is drawn from small ones."""

    def __init__(self, folder: Path | None = None, long_side_px: int = LONG_SIDE_PX) -> None:
        self.folder = folder
        self.long_side_px = long_side_px
        self._kept: dict[tuple[str, str], CutoutSizes] = {}
        self._rough: dict[tuple[str, str], CutoutSizes] = {}
        self._own: dict[tuple[str, str], CutoutSizes] = {}

    def sheet(self, slug: str, art: str, px_per_cm: float = inf) -> CutoutSizes:
        """A drawing in the resolution wanted at least, or in its largest; made now where it was not before."""
        if Path(art).is_absolute():
            return self._of_somebody(Path(art), px_per_cm)
        key = (slug, art)
        if key not in self._kept:
            path = art_path(slug, art)
            side_px = self._rough_side_px(path, px_per_cm)
            if side_px:
                if key not in self._rough or self._rough[key].px_per_cm < px_per_cm:
                    if len(self._rough) >= MOST_ROUGH:
                        self._rough.pop(next(iter(self._rough)))
                    self._rough[key] = _sheet(path, _raster(path, side_px))
                return self._rough[key]
            self._rough.pop(key, None)
            self._kept[key] = self._made(path)
        return self._kept[key]

    def _of_somebody(self, path: Path, px_per_cm: float) -> CutoutSizes:
        """A drawing that is somebody's own: held for a while in this process, and written nowhere."""
        needed = px_per_cm * max(view_box(path)[2:])
        side_px = next(
            (self.long_side_px // part for part in ROUGH_PARTS if self.long_side_px // part >= needed),
            self.long_side_px,
        )
        key = (str(path), str(side_px))
        if key not in self._own:
            while len(self._own) >= MOST_OWN:
                self._own.pop(next(iter(self._own)))
            self._own[key] = _sheet(path, _raster(path, side_px))
        return self._own[key]

    def _rough_side_px(self, path: Path, px_per_cm: float) -> int:
        """The long side of a small drawing that will do while none is baked; 0 where none will."""
        if self.folder is None or self._home(path).exists():
            return 0
        needed = px_per_cm * max(view_box(path)[2:])
        return next((self.long_side_px // part for part in ROUGH_PARTS if self.long_side_px // part >= needed), 0)

    def is_ready(self, slug: str, arts: Iterable[str]) -> bool:
        """Whether a scene's drawings have been baked."""
        shipped = [art for art in arts if not Path(art).is_absolute()]
        return all((slug, art) in self._kept or self._home(art_path(slug, art)).exists() for art in shipped)

    def sweep(self) -> None:
        """Remove from the folder what is there of drawings that are others by now."""
        if self.folder is None or not self.folder.exists():
            return
        paths = [art_path(slug, layer.art) for slug, scene in scenes().items() for layer in scene.layers]
        wanted = {self._home(path).name for path in paths}
        for there in self.folder.iterdir():
            if there.is_dir() and there.name.removeprefix(".") not in wanted:
                shutil.rmtree(there, ignore_errors=True)
            elif there.is_file():
                there.unlink(missing_ok=True)

    def _home(self, path: Path) -> Path:
        name = f"{path.parent.name}-{path.stem}-{_digest(path, self.long_side_px)}"
        return (self.folder or Path("/nonexistent")) / name

    def _made(self, path: Path) -> CutoutSizes:
        def make() -> Levels:
            return _raster(path, self.long_side_px)

        return _sheet(path, make() if self.folder is None else baked(self._home(path), make))


@lru_cache(maxsize=256)
def _digest(path: Path, side_px: int) -> str:
    return hashlib.sha256(path.read_bytes() + str(side_px).encode()).hexdigest()[:20]


def _raster(path: Path, side_px: int) -> Levels:
    return rastered(path.read_text(), *view_box(path)[2:], side_px)


def _sheet(path: Path, levels: Levels) -> CutoutSizes:
    left, top, width, height = view_box(path)
    px_per_cm = (levels[0].shape[1] - 2 * EDGE_PX) / width
    return CutoutSizes(left - EDGE_PX / px_per_cm, top - EDGE_PX / px_per_cm, width, height, px_per_cm, levels)


@lru_cache(maxsize=256)
def view_box(path: Path) -> tuple[float, float, float, float]:
    """Left, top, width and height of a drawing [cm]."""
    box = _VIEW_BOX.search(path.read_text())
    if box is None:
        raise ValueError(f"{path.name} has no viewBox")
    left, top, width, height = map(float, box.groups())
    return left, top, width, height


def rastered(svg: str, width: float, height: float, side_px: int) -> Levels:
    """A drawing in premultiplied linear light, with an empty edge, so that nothing is smeared past it where a size is
    halved.
    """
    zoom = side_px / max(width, height)
    data = resvg_py.svg_to_bytes(svg_string=svg, width=round(width * zoom), skip_system_fonts=True)
    image = np.asarray(Image.open(BytesIO(data)).convert("RGBA"))
    alpha = image[..., 3:].astype(np.float32) / 255
    linear = np.empty(image.shape, np.uint16)
    linear[..., :3] = BYTE_TO_LINEAR[image[..., :3]] * alpha * FULL + 0.5
    linear[..., 3] = image[..., 3] * np.uint16(257)
    edge = EDGE_PX
    whole = cv2.copyMakeBorder(linear, edge, edge, edge, edge, cv2.BORDER_CONSTANT, value=(0, 0, 0, 0))
    levels = [np.asarray(whole, np.uint16)]
    while min(levels[-1].shape[:2]) > SMALLEST_PX:
        high, wide = levels[-1].shape[:2]
        half = cv2.resize(levels[-1], ((wide + 1) // 2, (high + 1) // 2), interpolation=cv2.INTER_AREA)
        levels.append(np.asarray(half, np.uint16))
    return tuple(levels)


def baked(home: Path, make: Callable[[], Levels]) -> Levels:
    """The sizes that are kept in a folder, mapped, largest first; made where they are not there. Of several processes
    one makes them.
    """
    part = home.with_name("." + home.name)
    while True:
        if home.exists():
            if levels := _sound(home):
                return levels
            shutil.rmtree(home, ignore_errors=True)
        try:
            part.mkdir(parents=True)
        except FileExistsError:
            with suppress(FileNotFoundError):
                if time.time() - part.stat().st_mtime > PATIENCE_S:
                    shutil.rmtree(part, ignore_errors=True)
            time.sleep(LOOK_EVERY_S)
            continue
        try:
            if home.exists():  # whoever held the part before has just put it there
                shutil.rmtree(part)
                continue
            for number, level in enumerate(make()):
                np.save(part / f"{number:02}.npy", level)
            part.rename(home)
        except BaseException:
            shutil.rmtree(part, ignore_errors=True)
            raise


def _sound(home: Path) -> Levels:
    """The sizes in a folder; none where one is missing or cut."""
    try:
        levels = tuple(map(_mapped, sorted(home.glob("*.npy"))))
    except (ValueError, OSError, EOFError):
        return ()
    return levels if levels and min(levels[-1].shape[:2]) <= SMALLEST_PX else ()


def _mapped(file: Path) -> NDArray[Any]:
    """An array as it lies on the disk. Its head is read by Python's own parser, which now and then trips where several
    threads parse at once.
    """
    for _ in range(2):
        with suppress(SystemError):
            return _load(file)
    return _load(file)


def _load(file: Path) -> NDArray[Any]:
    made: NDArray[Any] = np.load(file, mmap_mode="r").view(np.ndarray)
    return made
