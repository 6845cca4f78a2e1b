"""Own scenes as a file: written with their pictures, and read within bounds, each picture decoded and encoded anew."""

from __future__ import annotations

import io
import json
import tempfile
import time
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from django.core.files import File
from django.core.files.base import ContentFile
from django.utils import timezone
from jsonschema import Draft202012Validator

from cambrel.bounds import names
from cambrel.bounds.documents import DocumentError, read_json
from cambrel.bounds.doors import DOORS, MB
from cambrel.bounds.names import shortened
from cambrel.owners.models import User
from cambrel.photographs.decoding import MOST_BYTES, DecodeError, decode
from cambrel.photographs.sent import read_whole
from cambrel.pictures import own
from cambrel.pictures.models import OwnScene, new_key

BACKGROUND_SIDE_PX, SUBJECT_SIDE_PX = 2000, 1400
FIGURES = (
    "distance_m",
    "subject_height_m",
    "background_m",
    "background_height_m",
    "background_foot_m",
    "camera_height_m",
)
MOST_PLACES = DOORS["scenes"].most_rows
SIGN = "scenes.json"
MOST_SIGN_BYTES, MOST_DIRECTORY_BYTES = MB, 128 * 1024
MOST_INFLATED = 4 * DOORS["scenes"].most_bytes
NUMBER = {"type": "number", "minimum": -1000, "maximum": 10_000}
CHECK = Draft202012Validator({
    "type": "object", "required": ["cambrel_scenes", "scenes"],
    "properties": {
        "cambrel_scenes": {"const": 1},
        "scenes": {"type": "array", "maxItems": MOST_PLACES, "items": {
            "type": "object", "additionalProperties": False, "required": ["key", "name", "background", *FIGURES],
            "properties": {
                "key": {"type": "string", "pattern": "^[0-9a-f]{12}$"},
                "name": {"type": "string", "minLength": 1, "maxLength": 60, "pattern": "\\S"},
                "background": {"type": "string", "maxLength": 80}, "subject": {"type": "string", "maxLength": 80},
                **dict.fromkeys(FIGURES, NUMBER),
            },
        }},
    },
})  # fmt: skip
LEAST = {"distance_m": 0.05, "subject_height_m": 0.005, "background_m": 0.01, "background_height_m": 0.01}
"""What a scene needs of its figures to be drawn."""
PARTS = (("background", own.BACKGROUND, BACKGROUND_SIDE_PX), ("subject", own.SUBJECT, SUBJECT_SIDE_PX))
DAMAGED = "This is not a file of scenes. Choose one that was exported here."


class PlacesError(ValueError):
    """A file of scenes that is not taken; the message is for the reader."""


@dataclass(frozen=True)
class Brought:
    """A picture as it is kept: its token, and the focal length on full frame that its file says."""

    token: str
    equivalent_mm: float | None
    is_upright: bool


def brought(pictures: own.Bringing, file: File[bytes], ending: str, side_px: int) -> Brought:
    """A picture decoded within bounds and kept as a file of our own.

    Raises
        DecodeError
    """
    with own.on_disk(file) as path, tempfile.TemporaryDirectory(dir=own.uploads()) as folder:
        picture, _ = read_whole(path.read_bytes(), timezone.localtime().replace(tzinfo=None))
        made = decode(path, Path(folder) / "pixels.npy", with_alpha=ending == own.SUBJECT, most_side_px=side_px)
        pixels = made.pixels()
        if ending == own.SUBJECT and pixels[..., 3].min() == 255:
            raise DecodeError("It has no transparency: cut the subject out first, as PNG or WebP.")
        token = pictures.keep(own.encoded(pixels, side_px, ending), ending)
        upright = pixels.shape[0] > pixels.shape[1]
    return Brought(token, picture.focal_35_mm if picture is not None else None, upright)


def written(owner: User, scenes: list[OwnScene]) -> bytes:
    """Scenes with their pictures; one whose picture is not there any more is left out."""
    out = io.BytesIO()
    rows = []
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
        for record in scenes:
            row = {"key": record.key, "name": record.name} | {key: getattr(record, key) for key in FIGURES}
            for part, ending, _ in PARTS:
                token = getattr(record, part)
                content = own.kept(owner, token, ending) if token else None
                if content is not None:
                    row[part] = f"pictures/{token}{ending}"
                    if row[part] not in archive.namelist():
                        archive.writestr(row[part], content)
            if "background" in row:
                rows.append(row)
        archive.writestr(SIGN, json.dumps({"cambrel_scenes": 1, "scenes": rows}, ensure_ascii=False, indent=1))
    return out.getvalue()


class _Packed:
    """A packed file whose parts are counted as they are unpacked, whatever it says of their sizes."""

    def __init__(self, content: bytes) -> None:
        at = content.rfind(b"PK\5\6")
        if at < 0 or int.from_bytes(content[at + 12 : at + 16], "little") > MOST_DIRECTORY_BYTES:
            raise PlacesError(DAMAGED if at < 0 else "This file holds more than is read at a time.")
        self.left = MOST_INFLATED
        try:
            self.archive = zipfile.ZipFile(io.BytesIO(content))
        except (zipfile.BadZipFile, ValueError, NotImplementedError, UnicodeDecodeError):
            raise PlacesError(DAMAGED) from None
        parts = self.archive.infolist()
        self.parts = {part.filename: part for part in parts}
        packed = {part.compress_type for part in parts} - {zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED}
        if len(self.parts) != len(parts) or packed or any(part.flag_bits & 1 for part in parts):
            raise PlacesError(DAMAGED)

    def read(self, name: str, most: int) -> bytes:
        if name not in self.parts:
            raise PlacesError(DAMAGED)
        most = min(most, self.left)
        try:
            with self.archive.open(self.parts[name]) as part:
                content = part.read(most + 1)
        except (zipfile.BadZipFile, zlib.error, ValueError, EOFError, NotImplementedError, OSError):
            raise PlacesError(DAMAGED) from None
        if len(content) > most:
            raise PlacesError("This file holds more than is read at a time.")
        self.left -= len(content)
        return content


def read(pictures: own.Bringing, content: bytes, until: float) -> Iterator[tuple[float, OwnScene]]:
    """The scenes of a file one after the other, not saved yet, each with what share is done.

    Parameters
        pictures: where their pictures are put; until: when it has to be done
    Raises
        PlacesError, DecodeError
    """
    packed = _Packed(content)
    try:
        told = read_json(packed.read(SIGN, MOST_SIGN_BYTES), "scenes")
    except DocumentError:
        raise PlacesError(DAMAGED) from None
    if not CHECK.is_valid(told):
        raise PlacesError("This is not a file of scenes of version 1. Choose one that was exported here.")
    rows = told["scenes"]
    for row in rows:
        if any(row[key] < least for key, least in LEAST.items()):
            raise PlacesError(f"“{shortened(row['name'])}” has a distance or a height that makes no sense.")
        try:
            row["name"] = names.clean(row["name"])
        except ValueError:
            raise PlacesError("A scene of this file has a name that cannot be shown.") from None
    there = set(OwnScene.objects.for_owner(pictures.owner).values_list("key", flat=True))
    tokens: dict[tuple[str, str], str] = {}
    for number, row in enumerate(rows, start=1):
        for part, ending, side in PARTS:
            if row.get(part) and (row[part], ending) not in tokens:
                if time.monotonic() > until:
                    raise PlacesError("Reading this takes too long. Bring it in in parts.")
                file = ContentFile(packed.read(row[part], MOST_BYTES))
                tokens[row[part], ending] = brought(pictures, file, ending, side).token
        # one that is there already is another from now on: none is put over another
        key = new_key() if row["key"] in there else row["key"]
        there.add(key)
        figures = {name: float(row[name]) for name in FIGURES}
        held = {part: tokens[row[part], ending] for part, ending, _ in PARTS if row.get(part)}
        yield number / len(rows), OwnScene(owner=pictures.owner, key=key, name=row["name"], **figures, **held)
