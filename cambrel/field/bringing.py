"""A picture that is brought to a sheet: its settings, and its pixels as a working copy."""

from __future__ import annotations

import tempfile
from pathlib import Path

from django.core.files import File
from django.utils import timezone

from cambrel.field import backs
from cambrel.owners.sections import Row
from cambrel.photographs.decoding import MOST_BYTES, DecodeError, decode
from cambrel.photographs.sent import read_whole
from cambrel.pictures import own


def settings_in(file: File[bytes]) -> Row:
    """What the head of a file says, as a sheet keeps it.

    Raises
        ValueError with the reason, for a file without a head that can be read
    """
    content = file.read(MOST_BYTES)
    file.seek(0)
    picture, problem = read_whole(content, timezone.localtime().replace(tzinfo=None))
    if picture is None:
        raise ValueError(problem[:1].upper() + problem[1:] + ".")
    return backs.row_of(picture)


def working_copy(pictures: own.Bringing, file: File[bytes]) -> tuple[str, float | None]:
    """The file's pixels as a working copy: its token, and the quality of a JPEG.

    Raises
        DecodeError
    """
    if (file.size or 0) > MOST_BYTES:
        raise DecodeError(f"It is larger than {MOST_BYTES // 2**20} MB, so its pixels are not read.")
    own.sweep(pictures.owner)
    with own.on_disk(file) as path, tempfile.TemporaryDirectory(dir=own.uploads()) as folder:
        made = decode(path, Path(folder) / "pixels.npy")
        return pictures.work(made.path), made.quality
