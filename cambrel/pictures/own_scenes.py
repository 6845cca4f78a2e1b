"""Scenes of the reader's own, found by their slug: whoever else asks gets none, so that a link never shows another's
place.
"""

from __future__ import annotations

import base64
from dataclasses import dataclass
from functools import lru_cache
from io import BytesIO
from pathlib import Path

import numpy as np
from django.contrib.auth.models import AnonymousUser
from PIL import Image

from cambrel.owners.models import User
from cambrel.pictures import own
from cambrel.pictures.models import OWN, OwnScene
from cambrel.pictures.storage import whole
from cambrel.scenes import USUAL, Layer, Scene, art_path, scenes, shipped

AIM = 0.78
"""At what part of the subject's height the camera aims."""
EDGE_SHARE = 0.04


def record_of(reader: User | AnonymousUser | None, slug: str) -> OwnScene | None:
    """A reader's own scene of a slug."""
    if reader is None or not slug.startswith(OWN):
        return None
    own_scene: OwnScene | None = OwnScene.objects.for_owner(reader).filter(key=slug.removeprefix(OWN)).first()
    return own_scene


@dataclass(frozen=True)
class ReaderScenes:
    """The scenes as somebody has them: those that ship with the application, and their own."""

    reader: User | AnonymousUser | None

    def __call__(self, slug: str) -> Scene:
        """A scene by its slug; one that is not known, is another's, or has lost its picture, is the footplate."""
        record = None if slug in scenes() else record_of(self.reader, slug)
        return (None if record is None else scene_of(record)) or shipped(slug)


def scene_of(record: OwnScene) -> Scene | None:
    """A scene as it is drawn."""
    place = _drawing(record, record.background, own.BACKGROUND, record.background_height_m)
    if place is None:
        return None
    figure = _drawing(record, record.subject, own.SUBJECT, record.subject_height_m) if record.subject else None
    usual = next(layer for layer in scenes()[USUAL].layers if layer.anchor == "subject")
    if figure is not None:
        art, height = str(figure), record.subject_height_m
    else:
        art, height = str(art_path(USUAL, usual.art)), scenes()[USUAL].subject_height_m
    layers = (
        Layer("place", str(place), record.background_m, 0.0, record.background_foot_m, "background"),
        Layer("subject" if record.subject else usual.name, art, 0.0, anchor="subject"),
    )
    return Scene(
        record.slug,
        record.name,
        record.camera_height_m,
        0.0,
        0.0,
        AIM * height,
        _edge_colour(record.owner, record.background),
        height,
        (),
        layers,
    )


def version_of(record: OwnScene) -> str:
    """What a drawn picture of it depends on besides its address."""
    return f"{record.pk} {record.version} {record.background} {record.subject}"


def _drawing(record: OwnScene, token: str, ending: str, height_m: float) -> Path | None:
    """A picture as a drawing in centimetres, its origin at the middle of its foot: written once for each height. None
    where it is not there.
    """
    if own.local(record.owner, token, ending) is None:
        return None
    path = own.scratch("own", str(record.owner.pk)) / f"{token}-{height_m:.6g}.svg"
    if not path.exists():
        content = own.kept(record.owner, token, ending)
        if content is None:
            return None
        with Image.open(BytesIO(content)) as image:
            wide, high = image.size
            kind = "png" if image.format == "PNG" else "jpeg"
        tall = 100 * height_m
        across = tall * wide / high
        data = base64.b64encode(content).decode()
        where = f'x="{-across / 2:.6g}" y="{-tall:.6g}" width="{across:.6g}" height="{tall:.6g}"'
        with whole(path) as file:
            file.write(
                f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{-across / 2:.6g} {-tall:.6g} {across:.6g}'
                f' {tall:.6g}"><image {where} preserveAspectRatio="none"'
                f' href="data:image/{kind};base64,{data}"/></svg>'.encode()
            )
    return path.resolve()


@lru_cache(maxsize=64)
def _edge_colour(owner: User, token: str) -> str:
    """The mean colour of a picture's upper and side edges: what is beyond it."""
    with Image.open(BytesIO(own.kept(owner, token, own.BACKGROUND) or b"")) as image:
        image.draft("RGB", (200, 200))
        pixels = np.asarray(image.convert("RGB").resize((60, 60)))
    wide = max(1, round(60 * EDGE_SHARE))
    edge = np.concatenate(
        [pixels[:wide].reshape(-1, 3), pixels[:, :wide].reshape(-1, 3), pixels[:, -wide:].reshape(-1, 3)]
    )
    return "#" + "".join(f"{round(value):02x}" for value in edge.mean(axis=0))
