"""Cut-outs of a scene as pixels: each vector drawing is rastered once at high resolution, kept on disk, and held at several sizes in memory."""

from __future__ import annotations

import hashlib
import os
import re
import threading
from collections import OrderedDict
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path

import cv2
import numpy as np
import resvg_py
from numpy.typing import NDArray
from PIL import Image

from cambrel.rendering.colour import BYTE_TO_LINEAR
from cambrel.scenes import art_path

LONG_SIDE_PX = 2048
FULL = 65535
MOST_BYTES = 320 * 1024 * 1024
SMALLEST_PX = 24
_VIEW_BOX = re.compile(r'viewBox="([-\d.]+) ([-\d.]+) ([-\d.]+) ([-\d.]+)"')


@dataclass(frozen=True)
class Sheet:
    """A cut-out in premultiplied linear light at several sizes, each half of the one before; 65535 is white.

    left_cm, top_cm: of the drawing, its origin on the ground at the layer's middle; px_per_cm: of the largest size
    """

    left_cm: float
    top_cm: float
    width_cm: float
    height_cm: float
    px_per_cm: float
    levels: tuple[NDArray[np.uint16], ...]

    @property
    def nbytes(self) -> int:
        return sum(level.nbytes for level in self.levels)

    def level_for(self, px_per_cm: float) -> int:
        """The smallest size that still has the resolution wanted."""
        level = 0
        while level + 1 < len(self.levels) and self.px_per_cm / 2 ** (level + 1) >= px_per_cm:
            level += 1
        return level


class Shop:
    """Sheets by scene and drawing, within a bound of memory; rasters are kept in a folder between runs."""

    def __init__(
        self, folder: Path | None = None, most_bytes: int = MOST_BYTES, long_side_px: int = LONG_SIDE_PX
    ) -> None:
        self.folder = folder
        self.most_bytes = most_bytes
        self.long_side_px = long_side_px
        self._kept: OrderedDict[tuple[str, str], Sheet] = OrderedDict()
        self._lock = threading.Lock()

    def sheet(self, slug: str, art: str) -> Sheet:
        key = (slug, art)
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        made = self._load(art_path(slug, art))
        with self._lock:
            self._kept[key] = made
            while len(self._kept) > 1 and sum(sheet.nbytes for sheet in self._kept.values()) > self.most_bytes:
                self._kept.popitem(last=False)
        return made

    def is_ready(self, slug: str, arts: list[str]) -> bool:
        """Whether a scene's drawings have been rastered already, in memory or on disk."""
        return all((slug, art) in self._kept or self._file(art_path(slug, art)).exists() for art in arts)

    def _file(self, path: Path) -> Path:
        digest = hashlib.sha256(path.read_bytes() + str(self.long_side_px).encode()).hexdigest()[:20]
        return (self.folder or Path("/nonexistent")) / f"{path.parent.name}-{path.stem}-{digest}.png"

    def _load(self, path: Path) -> Sheet:
        text = path.read_text()
        found = _VIEW_BOX.search(text)
        if found is None:
            raise ValueError(f"{path.name} has no viewBox")
        left, top, width, height = map(float, found.groups())
        kept = self._file(path)
        if self.folder is not None and kept.exists():
            data = kept.read_bytes()
        else:
            zoom = self.long_side_px / max(width, height)
            data = resvg_py.svg_to_bytes(svg_string=text, width=round(width * zoom), skip_system_fonts=True)
            if self.folder is not None:
                self.folder.mkdir(parents=True, exist_ok=True)
                part = kept.with_suffix(f".{os.getpid()}.{threading.get_ident()}.part")
                part.write_bytes(data)
                part.replace(kept)
        image = np.asarray(Image.open(BytesIO(data)).convert("RGBA"))
        alpha = image[..., 3:].astype(np.float32) / 255
        linear = np.empty(image.shape, np.uint16)
        linear[..., :3] = BYTE_TO_LINEAR[image[..., :3]] * alpha * FULL + 0.5
        linear[..., 3] = image[..., 3] * np.uint16(257)
        # an empty edge, so that nothing is smeared past the drawing where a size is halved
        bordered = cv2.copyMakeBorder(linear, 2, 2, 2, 2, cv2.BORDER_CONSTANT, value=(0, 0, 0, 0))
        px_per_cm = (bordered.shape[1] - 4) / width
        levels = [np.asarray(bordered, np.uint16)]
        while min(levels[-1].shape[:2]) > SMALLEST_PX:
            high, wide = levels[-1].shape[:2]
            levels.append(
                np.asarray(
                    cv2.resize(levels[-1], ((wide + 1) // 2, (high + 1) // 2), interpolation=cv2.INTER_AREA), np.uint16
                )
            )
        return Sheet(left - 2 / px_per_cm, top - 2 / px_per_cm, width, height, px_per_cm, tuple(levels))
