"""Pictures of an owner's own, as files of the storage: bounded, told apart by what they hold, and never shown to
anybody else.

`.npy` are working copies, decoded, for a day; `.webp` are those that are kept, re-encoded, without whatever else their
file said; `.jpg` and `.png` are those of own scenes, re-encoded too. Each has a row: a file is written first, noted on
this machine until its row is committed, and swept at the next start where it never was.
"""

from __future__ import annotations

import hashlib
import os
import re
import shutil
import time
from collections.abc import Callable, Collection, Iterable, Iterator
from contextlib import contextmanager, suppress
from datetime import timedelta
from io import BytesIO
from pathlib import Path
from secrets import token_hex
from tempfile import NamedTemporaryFile

import cv2
import numpy as np
from django.conf import settings
from django.core.files.base import ContentFile, File
from django.core.files.storage import Storage, storages
from django.db.models import Sum
from django.utils import timezone
from PIL import Image

from cambrel.owners.models import OwnedQuerySet, User
from cambrel.owners.undo import alone
from cambrel.owners.writing import in_chunks
from cambrel.photographs.light import Codes
from cambrel.pictures.models import OwnFile
from cambrel.pictures.storage import whole

WORKING, KEPT, BACKGROUND, SUBJECT = ".npy", ".webp", ".jpg", ".png"
STAYING = (KEPT, BACKGROUND, SUBJECT)
WORKING_FOR = timedelta(days=1)
STRAY_AFTER = timedelta(days=1)
"""After so long a file without a row is nobody's; before, it may be on its way in."""
SCRATCH_FOR_S = 7 * 24 * 3600.0
MOST_WORKING_BYTES = 3 * 1024**3
MOST_KEPT_BYTES = 200 * 1024**2
MOST_LEFT_BYTES = 200 * 1024**2
"""Of pictures that were let go of, and can be had back as long as that can be undone; the oldest go first."""
KEPT_SIDE_PX = 2000
LOOK_SIDES_PX = (240, 1200)
PRIVATE = "private, max-age=3600"
_TOKEN = re.compile(r"[0-9a-f]{32}")


class FullError(Exception):
    """More than an owner may keep; the message is for the reader."""


def store() -> Storage:
    """Where files of owners' own are: a folder, or whatever the settings have in its place."""
    return storages["own"]


def scratch(*parts: str) -> Path:
    """A folder of this machine for what is made of own files, which can be made again."""
    made = Path(settings.VAR) / "scratch"
    for part in ("", *parts):
        made = made / part
        made.mkdir(parents=True, exist_ok=True, mode=0o700)
    return made


def is_token(text: str) -> bool:
    return bool(_TOKEN.fullmatch(text))


def new_token() -> str:
    return token_hex(16)


def _name(owner_pk: int, token: str, ending: str) -> str:
    if not is_token(token):
        raise ValueError("no token of a picture")
    return f"{owner_pk}/{token}{ending}"


def _row(owner: User, token: str, ending: str) -> OwnFile | None:
    own_file: OwnFile | None = OwnFile.objects.for_owner(owner).filter(token=token, ending=ending).first()
    return own_file


def local(owner: User, token: str, ending: str) -> Path | None:
    """A file of the storage as one of this machine's; None where it is not there, or is not what its row says."""
    row = _row(owner, token, ending) if is_token(token) else None
    if row is None:
        return None
    name = _name(owner.pk, token, ending)
    try:
        place = Path(store().path(name))
    except NotImplementedError:  # it is far away
        place = scratch("own", str(owner.pk)) / f"{token}{ending}"
        if not place.exists() or place.stat().st_size != row.size:
            with suppress(FileNotFoundError), store().open(name) as far, whole(place) as near:
                shutil.copyfileobj(far, near)
    return place if place.exists() and place.stat().st_size == row.size else None


def working(owner: User, token: str) -> Codes | None:
    """The pixels of a working copy, mapped from its file; None where it has been swept."""
    place = local(owner, token, WORKING)
    if place is None:
        return None
    try:
        pixels: Codes = np.load(place, mmap_mode="r")
    except (ValueError, OSError, EOFError):
        return None
    return pixels


def is_working(owner: User, token: str) -> bool:
    """Whether a working copy is still held."""
    return is_token(token) and _row(owner, token, WORKING) is not None


def kept(owner: User, token: str, ending: str = KEPT) -> bytes | None:
    """The file of a kept picture; None where it is not there or is damaged."""
    place = local(owner, token, ending)
    if place is None:
        return None
    content = place.read_bytes()
    if _token_of(owner, content) == token:
        return content
    if place.is_relative_to(scratch("own")):  # it is fetched once more the next time
        place.unlink(missing_ok=True)
    return None


def _token_of(owner: User, content: bytes) -> str:
    return hashlib.sha256(str(owner.pk).encode() + content).hexdigest()[:32]


def _bytes(files: OwnedQuerySet) -> int:
    return int(files.aggregate(sum=Sum("size"))["sum"] or 0)


def _staying(owner: User) -> OwnedQuerySet:
    files: OwnedQuerySet = OwnFile.objects.for_owner(owner).filter(ending__in=STAYING)
    return files


def kept_bytes(owner: User, spoken_of: Collection[str]) -> int:
    """How much an owner keeps of pictures that records speak of."""
    return sum(_bytes(_staying(owner).filter(token__in=part)) for part in in_chunks(spoken_of))


class Bringing:
    """Files that are being brought in: written now, and theirs once `record` was called within a transaction that ended
    well; else they go again.
    """

    def __init__(self, owner: User) -> None:
        self.owner = owner
        self.new: list[tuple[str, str, int, Path]] = []
        self.again: list[tuple[str, str]] = []

    def keep(self, content: bytes, ending: str = KEPT) -> str:
        """An encoded picture; its token is that of what it holds. One that is there already is looked at before it
        counts.
        """
        token = _token_of(self.owner, content)
        if kept(self.owner, token, ending) is None:
            self._put(token, ending, len(content), ContentFile(content))
        else:
            self.again.append((token, ending))
        return token

    def work(self, file: Path) -> str:
        """A decoded picture as a working copy."""
        token = new_token()
        with file.open("rb") as content:
            self._put(token, WORKING, file.stat().st_size, File(content))
        return token

    def _put(self, token: str, ending: str, size: int, content: File[bytes]) -> None:
        name = _name(self.owner.pk, token, ending)
        note = _noted(name)
        self.new.append((token, ending, size, note))
        store().save(name, content)

    def record(self, spoken_of: Collection[str] = ()) -> None:
        """Write the rows; call it within the transaction in which a record begins to speak of the files.

        Parameters
            spoken_of: the owner's pictures that records speak of, those that are brought in besides
        Raises
            FullError
        """
        for token, ending, size, _ in self.new:
            OwnFile.objects.update_or_create(owner=self.owner, token=token, ending=ending, defaults={"size": size})
        if any(_row(self.owner, token, ending) is None for token, ending in self.again):
            raise FullError("It was tidied away at this very moment. Send it once more.")
        brought = [*((token, ending) for token, ending, _, _ in self.new), *self.again]
        tokens = {token for token, ending in brought if ending in STAYING}
        if tokens and kept_bytes(self.owner, {*spoken_of, *tokens}) > MOST_KEPT_BYTES:
            raise FullError(
                f"That would be more than {MOST_KEPT_BYTES // 2**20} MB of kept pictures. Let go of some first."
            )
        most = settings.MOST_OWN_BYTES
        if most is not None and self.new and _bytes(OwnFile.objects.all()) > most:
            raise FullError("There is no room for more pictures on this service just now.")

    def end(self) -> None:
        """Of what was written let go what got no row."""
        for token, ending, _, note in self.new:
            _drop(self.owner.pk, token, ending)
            note.unlink(missing_ok=True)


@contextmanager
def bringing(owner: User) -> Iterator[Bringing]:
    """Bring in files; around the transaction that records them."""
    made = Bringing(owner)
    try:
        yield made
    finally:
        made.end()


def _drop(owner_pk: int, token: str, ending: str) -> None:
    """Remove a file that has no row, with what was made of it; one that has stays."""
    if OwnFile.objects.filter(owner=owner_pk, token=token, ending=ending).exists():
        return
    store().delete(_name(owner_pk, token, ending))
    for made in scratch("own", str(owner_pk)).glob(f"{token}*"):
        made.unlink(missing_ok=True)


def _remove(owner: User, choose: Callable[[], list[OwnFile]]) -> None:
    """Remove files that are chosen while nobody changes what their owner keeps: the rows first, so that none speaks of
    a file that is gone.
    """
    if not choose():
        return
    with alone(owner):
        gone = choose()
        notes = [_noted(_name(owner.pk, own_file.token, own_file.ending)) for own_file in gone]
        for part in in_chunks(picture.pk for picture in gone):
            OwnFile.objects.filter(pk__in=part).delete()
    for picture, note in zip(gone, notes, strict=True):
        _drop(owner.pk, picture.token, picture.ending)
        note.unlink(missing_ok=True)


def sweep(owner: User) -> None:
    """Remove working copies that are old, and the oldest where they are too many."""

    def old() -> list[OwnFile]:
        files = OwnFile.objects.for_owner(owner).filter(ending=WORKING).order_by("made_at")
        return _until_few(files, MOST_WORKING_BYTES, lambda own_file: timezone.now() - own_file.made_at > WORKING_FOR)

    _remove(owner, old)


def forget(owner: User, tokens: Callable[[], tuple[Collection[str], Collection[str]]]) -> None:
    """Remove what no record speaks of any more, nor a change that can be undone; of the latter the oldest where they
    are too many.

    Parameters
        tokens: gives those that records speak of, and those that they would speak of again
    """

    def left() -> list[OwnFile]:
        spoken_of, undoable = tokens()
        files = OwnFile.objects.for_owner(owner).order_by("made_at")
        not_spoken_of = [file for file in files if file.token not in spoken_of]
        return _until_few(not_spoken_of, MOST_LEFT_BYTES, lambda own_file: own_file.token not in undoable)

    _remove(owner, left)


def _until_few(files: Iterable[OwnFile], most: int, is_gone: Callable[[OwnFile], bool]) -> list[OwnFile]:
    """Of files, the oldest first, those that go by a rule or because there are too many."""
    files, gone = list(files), []
    total = sum(file.size for file in files)
    for own_file in files:
        if is_gone(own_file) or total > most:
            gone.append(own_file)
            total -= own_file.size
    return gone


def leave(owner_pk: int) -> None:
    """Remove all files of an owner who has left."""
    OwnFile.objects.filter(owner=owner_pk).delete()
    _clear(str(owner_pk))


def _clear(folder: str) -> None:
    """Remove a folder of the storage with all in it, and what was made of it."""
    with suppress(FileNotFoundError):
        for name in store().listdir(folder)[1]:
            store().delete(f"{folder}/{name}")
    with suppress(NotImplementedError, OSError):
        shutil.rmtree(store().path(folder), ignore_errors=True)
    shutil.rmtree(scratch("own") / folder, ignore_errors=True)


# --- what a killed process leaves
# ---------------------------------------------------------------------------------------


def _noted(name: str) -> Path:
    """A note on this machine that a file is being written."""
    note = scratch("writing") / f"{os.getpid()}-{token_hex(4)}"
    note.write_text(name)
    return note


def _is_alive(pid: str) -> bool:
    return pid.isdigit() and Path(f"/proc/{pid}").exists() and int(pid) != os.getpid()


def settle() -> None:
    """Remove what killed processes of this machine have left: files without a row, uploads, and folders of owners who
    are gone.
    """
    for note in scratch("writing").iterdir():
        if not _is_alive(note.name.partition("-")[0]):
            with suppress(ValueError, OSError):
                owner, _, file = note.read_text().partition("/")
                token, ending = Path(file).stem, Path(file).suffix
                if is_token(token) and owner.isdigit():
                    _drop(int(owner), token, ending)
                    with suppress(NotImplementedError, OSError):
                        for part in Path(store().path(owner)).glob(f".{file}.*"):
                            part.unlink(missing_ok=True)
            note.unlink(missing_ok=True)
    for folder in uploads().parent.iterdir():
        if not _is_alive(folder.name) and folder != uploads():
            shutil.rmtree(folder, ignore_errors=True)
    # where finished pictures were kept before they had a cache
    shutil.rmtree(Path(settings.VAR) / "pictures", ignore_errors=True)
    with suppress(FileNotFoundError):
        numbers = [name for name in store().listdir("")[0] if name.isdigit()]
        for some in in_chunks(numbers):
            there = set(User.objects.filter(pk__in=some).values_list("pk", flat=True))
            for number in some:
                if int(number) not in there:
                    _clear(number)


def reconcile() -> None:
    """Make files and rows agree, as they may not after a restore: rows without a file go, and files without a row that
    are older than a day.
    """
    for row in OwnFile.objects.iterator():
        if not store().exists(_name(row.owner_id, row.token, row.ending)):
            row.delete()
    with suppress(FileNotFoundError):
        for folder in (folder for folder in store().listdir("")[0] if folder.isdigit()):
            rows = {f"{own_file.token}{own_file.ending}" for own_file in OwnFile.objects.filter(owner=int(folder))}
            for name in set(store().listdir(folder)[1]) - rows:
                with suppress(FileNotFoundError):
                    if timezone.now() - store().get_modified_time(f"{folder}/{name}") > STRAY_AFTER:
                        store().delete(f"{folder}/{name}")


def sweep_scratch() -> None:
    """Remove what was made of own files and has not been made anew for a while."""
    for made in scratch("own").glob("*/*"):
        with suppress(FileNotFoundError):
            if time.time() - made.stat().st_mtime > SCRATCH_FOR_S:
                made.unlink()


def uploads() -> Path:
    """Where what is sent lies while it is read: a folder of this process alone."""
    return scratch("uploads", str(os.getpid()))


# --- pictures as files
# ----------------------------------------------------------------------------------------------------

KINDS: dict[str, tuple[str, dict[str, int]]] = {
    KEPT: ("WEBP", {"quality": 90, "method": 3}), BACKGROUND: ("JPEG", {"quality": 90}),
    SUBJECT: ("PNG", {"compress_level": 6}),
}  # fmt: skip


@contextmanager
def on_disk(file: File[bytes]) -> Iterator[Path]:
    """A file that was sent, on the disk while it is decoded."""
    with NamedTemporaryFile(dir=uploads()) as copy:
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
