"""The process that decodes one picture: its limits first, then the file, strip by strip. Run as a module by
`decoding.decode`.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from cambrel.bounds.doors import DOORS
from cambrel.bounds.memory import bound_memory
from cambrel.photographs.heads import read_head
from cambrel.photographs.tags import FileParts, TagError

PLAIN = ("JPEG", "PNG", "TIFF", "WebP")
KINDS = ("JPEG", "PNG", "TIFF", "HEIF")
REFUSED = 3
ROWS = 128
MOST_HELD_PIXELS = 50_000_000
"""Of a file that is not kept in strips, so that all of it is held at once: progressive or interlaced, and"""
HELD = {"WebP": 25_000_000, **dict.fromkeys(("HEIC", "HEIF"), MOST_HELD_PIXELS)}
"""these kinds."""
STANDARD = (
    16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22, 29, 51,
    87, 80, 62,
    18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92, 49, 64, 78, 87, 103, 121, 120, 101, 72, 92, 95,
    98, 112, 100, 103, 99,
)  # fmt: skip
"""The luminance table of ISO/IEC 10918-1, annex K, at quality 50."""


class RefusedError(Exception):
    """A file that is not decoded; the message is for the reader."""


def _quality(tables: object) -> str:
    """The quality that a JPEG's tables stand for."""
    table = tables.get(0) if isinstance(tables, dict) else None
    if not table:
        return "-"
    scale = 100 * sum(table) / sum(STANDARD)
    return f"{100 - scale / 2 if scale <= 100 else 5000 / scale:.0f}"


def main(file: str, into: str, with_alpha: str, most_side_px: str) -> int:
    # these plugins alone: to look through all of them takes longer than to decode
    from PIL import Image, JpegImagePlugin, PngImagePlugin, TiffImagePlugin, UnidentifiedImageError  # noqa: F401

    Image.MAX_IMAGE_PIXELS = None
    try:
        kind, turn, quality = *_before_opening(file), "-"
        if kind not in PLAIN:
            _register_heif()
        if kind != "WebP":  # its library decodes as it opens
            with Image.open(file, formats=[kind for kind in KINDS if kind in Image.OPEN]) as picture:
                kind = str(picture.format)
                is_whole = bool(picture.info.get("progressive") or picture.info.get("interlace"))
                _check_size(picture.width * picture.height, MOST_HELD_PIXELS if is_whole else HELD.get(kind))
                quality = _quality(getattr(picture, "quantization", None))
        if kind == "HEIF":
            turn = 1  # its library has turned it
        decoded = _of_heif if kind == "HEIF" else _streamed
        wide, high, strips = decoded(file, int(most_side_px), 4 if with_alpha == "1" else 3)
        _write(strips, wide, high, into, 4 if with_alpha == "1" else 3, turn)
    except RefusedError as error:
        print(error)
        return REFUSED
    except UnidentifiedImageError:
        print("This is not a picture that can be read here. Send JPEG, PNG, TIFF, WebP or HEIC.")
        return REFUSED
    except MemoryError:
        print("It takes more memory to decode than it is given.")
        return REFUSED
    except Exception:
        # whatever a damaged file makes the libraries raise
        print("It is cut short or damaged. Send the original file.")
        return REFUSED
    print(f"ok {quality}")
    return 0


def _register_heif() -> None:
    try:
        import pillow_heif

        pillow_heif.register_heif_opener(thumbnails=False)
    except ImportError:  # a system without it reads all else
        pass


def _before_opening(file: str) -> tuple[str, int]:
    """The kind and the orientation that a file's head says, after its size has been looked at."""
    content = Path(file).read_bytes()
    try:
        head = read_head(FileParts(len(content), [(0, content)]))
    except TagError:
        return "", 1
    _check_size((head.wide_px or 0) * (head.high_px or 0), HELD.get(head.kind))
    turn = head.tags.get("orientation", 1)
    return head.kind, turn if isinstance(turn, int) else 1


def _check_size(pixels: int, most_held: int | None) -> None:
    most = DOORS["decoding"].most_pixels
    if pixels > most:
        raise RefusedError(f"It has more than {most // 10**6} megapixels, so it is not decoded.")
    if most_held and pixels > most_held:
        raise RefusedError(
            f"Pictures of this build are decoded up to {most_held // 10**6} megapixels: save it as a JPEG that is not"
            " progressive."
        )


Strips = Iterator[Any]


def _streamed(file: str, most_side_px: int, channels: int) -> tuple[int, int, Strips]:
    """Width, height, and the bytes of strips of rows as they are stored."""
    import pyvips

    pyvips.cache_set_max(0)
    image = pyvips.Image.new_from_file(file, access="sequential", fail_on="truncated")
    if most_side_px and max(image.width, image.height) > most_side_px:
        image = pyvips.Image.thumbnail(
            file, most_side_px, height=most_side_px, size="down", no_rotate=True, fail_on="truncated"
        )
    if image.interpretation not in ("srgb", "rgb16", "b-w", "grey16"):
        image = image.colourspace("srgb")
    if image.format == "ushort":
        image = (image >> 8).cast("uchar")
    elif image.format != "uchar":
        image = image.cast("uchar")
    if image.bands < 3:
        grey = image.extract_band(0)
        image = grey.bandjoin([grey, grey, *([image.extract_band(1)] if image.bands == 2 else [])])
    if channels == 4 and image.bands == 3:
        image = image.bandjoin(255)
    image = image.extract_band(0, n=channels)

    def strips() -> Strips:
        region = pyvips.Region.new(image)
        for top in range(0, image.height, ROWS):
            yield region.fetch(0, top, image.width, min(ROWS, image.height - top))

    return image.width, image.height, strips()


def _of_heif(file: str, most_side_px: int, channels: int) -> tuple[int, int, Strips]:
    """The same of a file that is held whole."""
    import numpy as np
    import pillow_heif
    from PIL import Image

    with Path(file).open("rb") as content:
        held = pillow_heif.open_heif(content, convert_hdr_to_8bit=True, bgr_mode=False)
    pixels = np.asarray(held[0])
    if most_side_px and max(pixels.shape[:2]) > most_side_px:
        picture = Image.fromarray(np.ascontiguousarray(pixels))
        picture.thumbnail((most_side_px, most_side_px))
        pixels = np.asarray(picture)

    def strips() -> Strips:
        for top in range(0, pixels.shape[0], ROWS):
            part = Image.fromarray(np.ascontiguousarray(pixels[top : top + ROWS]))
            yield part.convert("RGBA" if channels == 4 else "RGB").tobytes()

    return pixels.shape[1], pixels.shape[0], strips()


HEAD_BYTES = 128
"""Of a file of an array, before its bytes (NumPy's NPY format, version 1.0)."""
FLIPS = {2: (1, -1), 3: (-1, -1), 4: (-1, 1), 5: (1, 1), 6: (1, -1), 7: (-1, -1), 8: (-1, 1)}
"""By EXIF orientation, which sides of the picture as it is looked at run backwards; from 5 on rows and columns change
places too.
"""


def _write(strips: Strips, wide: int, high: int, into: str, channels: int, turn: int) -> None:
    """The picture as it is looked at, as a file of an array."""
    if turn in FLIPS:
        _write_turned(strips, wide, high, into, channels, turn)
        return
    # numpy, which takes longer to begin than most pictures to decode, is not needed for rows in their order
    head = f"{{'descr': '|u1', 'fortran_order': False, 'shape': ({high}, {wide}, {channels}), }}"
    head = head.ljust(HEAD_BYTES - 11) + "\n"
    with Path(into).open("wb") as out:
        out.write(b"\x93NUMPY\x01\x00" + len(head).to_bytes(2, "little") + head.encode())
        out.writelines(strips)


def _write_turned(strips: Strips, wide: int, high: int, into: str, channels: int, turn: int) -> None:
    """Rows of the picture as it is stored into an array of it as it is looked at, by way of a view that is turned
    back.
    """
    import numpy as np

    is_across = turn >= 5
    shape = (wide, high, channels) if is_across else (high, wide, channels)
    np.lib.format.open_memmap(into, "w+", np.uint8, shape).flush()
    down, right = FLIPS[turn]
    top = 0
    for strip in strips:
        rows = np.frombuffer(strip, np.uint8).reshape(-1, wide, channels)
        # opened for each strip, so that what is written does not stay in memory
        view = np.load(into, mmap_mode="r+")[::down, ::right]
        if is_across:
            view = view.swapaxes(0, 1)
        view[top : top + rows.shape[0]] = rows
        top += rows.shape[0]
        del view


if __name__ == "__main__":
    import resource

    bound_memory(DOORS["decoding"].memory)
    most_seconds = int(DOORS["decoding"].seconds)
    resource.setrlimit(resource.RLIMIT_CPU, (most_seconds, most_seconds))
    sys.exit(main(*sys.argv[1:5]))
