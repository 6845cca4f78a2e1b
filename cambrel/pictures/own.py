"""Pictures of an owner's own, as files beside the database: bounded, told apart by what they hold, and never shown to anybody else.

`.npy` are working copies, decoded, for a day; `.webp` are those that are kept, re-encoded, without whatever else their file said; `.jpg` and
`.png` are those of own scenes, re-encoded too.
"""

from __future__ import annotations

import hashlib
import os
import re
import time
from collections.abc import Collection, Iterator
from contextlib import contextmanager
from io import BytesIO
from pathlib import Path
from secrets import token_hex
from tempfile import NamedTemporaryFile
from typing import Any

import cv2
import numpy as np
from django.conf import settings
from PIL import Image

from cambrel.photographs.light import Codes

WORKING, KEPT, BACKGROUND, SUBJECT = ".npy", ".webp", ".jpg", ".png"
STAYING = (KEPT, BACKGROUND, SUBJECT)
WORKING_FOR_S = 24 * 3600.0
FORGOTTEN_AFTER_S = 100 * 24 * 3600.0
"""A kept picture that no record speaks of any more; longer than a change can be undone."""
MOST_WORKING_BYTES = 3 * 1024**3
MOST_KEPT_BYTES = 200 * 1024**2
KEPT_SIDE_PX = 2000
LOOK_SIDES_PX = (240, 1200)
PRIVATE = "private, max-age=3600"
_TOKEN = re.compile(r"[0-9a-f]{32}")


class FullError(Exception):
    """More than an owner may keep; the message is for the reader."""


def folder(owner: Any) -> Path:
    made = Path(settings.VAR) / "own" / str(owner.pk)
    made.mkdir(parents=True, exist_ok=True, mode=0o700)
    return made


def is_token(text: str) -> bool:
    return bool(_TOKEN.fullmatch(text))


def new_token() -> str:
    return token_hex(16)


def path_of(owner: Any, token: str, ending: str) -> Path:
    """Where a picture is, whether it is there or not."""
    if not is_token(token):
        raise ValueError("no token of a picture")
    return folder(owner) / (token + ending)


def working(owner: Any, token: str) -> Codes | None:
    """The pixels of a working copy, mapped from its file; None where it has been swept."""
    path = path_of(owner, token, WORKING)
    return np.load(path, mmap_mode="r") if path.exists() else None


def is_working(owner: Any, token: str) -> bool:
    """Whether a working copy is still held."""
    return path_of(owner, token, WORKING).exists()


def kept_bytes(owner: Any) -> int:
    return sum(one.stat().st_size for ending in STAYING for one in folder(owner).glob(f"*{ending}"))


def sweep(owner: Any) -> None:
    """Remove working copies that are old, and the oldest where they are too many."""
    now, found = time.time(), sorted(folder(owner).glob(f"*{WORKING}"), key=lambda one: one.stat().st_mtime)
    total = sum(one.stat().st_size for one in found)
    for one in found:
        size = one.stat().st_size
        if now - one.stat().st_mtime > WORKING_FOR_S or total > MOST_WORKING_BYTES:
            one.unlink(missing_ok=True)
            total -= size


def forget(owner: Any, spoken_of: Collection[str]) -> None:
    """Remove kept pictures that no record has spoken of for longer than a change can be undone; those that are spoken of are marked as of now."""
    now = time.time()
    for one in (one for ending in STAYING for one in folder(owner).glob(f"*{ending}")):
        if one.stem in spoken_of:
            os.utime(one)
        elif now - one.stat().st_mtime > FORGOTTEN_AFTER_S:
            for drawing in folder(owner).glob(f"{one.stem}-*.svg"):
                drawing.unlink(missing_ok=True)
            one.unlink(missing_ok=True)


KINDS: dict[str, tuple[str, dict[str, int]]] = {
    KEPT: ("WEBP", {"quality": 90, "method": 3}), BACKGROUND: ("JPEG", {"quality": 90}), SUBJECT: ("PNG", {"compress_level": 6}),
}  # fmt: skip


@contextmanager
def on_disk(file: Any) -> Iterator[Path]:
    """A file that was sent, on the disk while it is decoded."""
    with NamedTemporaryFile() as copy:
        for chunk in file.chunks():
            copy.write(chunk)
        copy.flush()
        yield Path(copy.name)


def encoded(pixels: Codes, side_px: int, ending: str = KEPT) -> bytes:
    """A picture as a file of a kind, neither side longer than so much; transparency is kept where the kind can."""
    times = side_px / max(pixels.shape[:2])
    if times < 1:
        size = (max(1, round(pixels.shape[1] * times)), max(1, round(pixels.shape[0] * times)))
        pixels = np.asarray(cv2.resize(np.asarray(pixels), size, interpolation=cv2.INTER_AREA), np.uint8)
    out = BytesIO()
    kind, options = KINDS[ending]
    Image.fromarray(np.ascontiguousarray(pixels)).save(out, kind, **options)
    return out.getvalue()


def keep(owner: Any, content: bytes, ending: str = KEPT) -> str:
    """Keep an encoded picture; its token is that of what it holds.

    Raises
        FullError
    """
    token = hashlib.sha256(str(owner.pk).encode() + content).hexdigest()[:32]
    path = path_of(owner, token, ending)
    if not path.exists():
        if kept_bytes(owner) + len(content) > MOST_KEPT_BYTES:
            raise FullError(
                f"That would make more than {MOST_KEPT_BYTES // 2**20} MB of kept pictures. Let go of some first."
            )
        path.write_bytes(content)
    return token


def kept(owner: Any, token: str, ending: str = KEPT) -> bytes | None:
    """The file of a kept picture."""
    path = path_of(owner, token, ending)
    return path.read_bytes() if path.exists() else None
