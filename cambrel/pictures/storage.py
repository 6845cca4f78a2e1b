"""Files on a disk that are either whole or not there: written beside, flushed, and put into their place."""

from __future__ import annotations

import os
from pathlib import Path
from secrets import token_hex
from typing import Any, BinaryIO

from django.core.files.storage import FileSystemStorage
from django.utils.deconstruct import deconstructible

PART = ".part"


@deconstructible
class WholeFiles(FileSystemStorage):
    """A name is written over by what is written to it later; nobody else on the machine can read any."""

    def get_available_name(self, name: str, max_length: int | None = None) -> str:
        return name

    def _save(self, name: str, content: Any) -> str:
        place = Path(self.path(name))
        place.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        with whole(place) as file:
            for chunk in content.chunks():
                file.write(chunk)
        return name


class whole:  # noqa: N801 - read as a word of the language
    """A file that stands in its place once it is whole, and not at all where writing it fails."""

    def __init__(self, place: Path) -> None:
        self.place, self.part = place, place.with_name(f".{place.name}.{token_hex(4)}{PART}")

    def __enter__(self) -> BinaryIO:
        self.file = os.fdopen(os.open(self.part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb")
        return self.file

    def __exit__(self, kind: Any, error: Any, trace: Any) -> None:
        try:
            if kind is None:
                self.file.flush()
                os.fsync(self.file.fileno())
            self.file.close()
            if kind is None:
                self.part.replace(self.place)
                folder = os.open(self.place.parent, os.O_RDONLY)
                os.fsync(folder)
                os.close(folder)
        finally:
            self.part.unlink(missing_ok=True)
