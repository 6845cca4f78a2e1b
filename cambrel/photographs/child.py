"""The process that decodes one picture: its limits first, then the file. Run as a module by `decoding.decode`."""

from __future__ import annotations

import resource
import sys
from typing import Any

import numpy as np

from cambrel.photographs.decoding import MOST_MEMORY, MOST_PIXELS, MOST_SECONDS, ROWS, STANDARD

KINDS = ("JPEG", "PNG", "TIFF", "WEBP", "HEIF", "AVIF")
REFUSED = 3


def _quality(tables: object) -> str:
    """The quality that a JPEG's tables stand for."""
    table = tables.get(0) if isinstance(tables, dict) else None
    if not table:
        return "-"
    scale = 100 * sum(table) / sum(STANDARD)
    return f"{100 - scale / 2 if scale <= 100 else 5000 / scale:.0f}"


def main(file: str, into: str, with_alpha: str, most_side_px: str) -> int:
    from PIL import Image, UnidentifiedImageError

    try:
        import pillow_heif

        pillow_heif.register_heif_opener(thumbnails=False)
    except ImportError:  # a system without it reads all else
        pass
    Image.MAX_IMAGE_PIXELS = None
    most, mode = int(most_side_px), "RGBA" if with_alpha == "1" else "RGB"
    try:
        with Image.open(file, formats=[kind for kind in KINDS if kind in _known(Image)]) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                print(f"It has more than {MOST_PIXELS // 10**6} megapixels, so it is not decoded.")
                return REFUSED
            quality = _quality(getattr(picture, "quantization", None))
            turn = picture.getexif().get(0x0112, 1)
            if most:
                picture.draft("RGB", (most, most))
                picture.thumbnail((most, most))
            if picture.mode.startswith("I;16"):
                made = Image.fromarray((np.asarray(picture) >> 8).astype(np.uint8))
            else:
                picture.load()
                made = picture
            _write(made, into, mode, turn if isinstance(turn, int) else 1)
    except UnidentifiedImageError:
        print("It is no picture that is decoded here: send JPEG, PNG, TIFF, WebP or HEIC.")
        return REFUSED
    except MemoryError:
        print("It takes more memory to decode than it is given.")
        return REFUSED
    except Exception:
        # whatever a damaged file makes the libraries raise
        print("It is cut or damaged and cannot be decoded.")
        return REFUSED
    print(f"ok {quality}")
    return 0


def _known(library: Any) -> set[str]:
    library.init()
    return set(library.OPEN)


FLIPS = {2: (1, -1), 3: (-1, -1), 4: (-1, 1), 5: (1, 1), 6: (1, -1), 7: (-1, -1), 8: (-1, 1)}
"""By EXIF orientation, which sides of the picture as it is looked at run backwards; from 5 on rows and columns change places too."""


def _write(picture: Any, into: str, mode: str, turn: int) -> None:
    """Rows of the picture as it is stored into an array of it as it is looked at, by way of a view that is turned back."""
    wide, high = picture.size
    is_across = turn in FLIPS and turn >= 5
    out = np.lib.format.open_memmap(
        into, "w+", np.uint8, (wide, high, len(mode)) if is_across else (high, wide, len(mode))
    )
    down, right = FLIPS.get(turn, (1, 1))
    view = out[::down, ::right]
    if is_across:
        view = view.swapaxes(0, 1)
    for top in range(0, high, ROWS):
        strip = picture.crop((0, top, wide, min(high, top + ROWS))).convert(mode)
        view[top : top + strip.height] = np.asarray(strip)
    out.flush()


if __name__ == "__main__":
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (MOST_SECONDS, MOST_SECONDS))
    sys.exit(main(*sys.argv[1:5]))
