"""The pictures of scenes as files: drawn once, kept in a bounded cache, served for good as their address holds all they
depend on.
"""

from __future__ import annotations

import hashlib
import socket
from collections.abc import Callable
from functools import cache
from io import BytesIO
from pathlib import Path

from django.conf import settings
from django.contrib.auth.models import AnonymousUser
from django.core.cache import caches
from django.http import Http404, HttpResponse, HttpResponseNotModified
from django.http.response import HttpResponseBase
from django.urls import Resolver404, resolve, reverse
from django.views.decorators.http import require_safe
from PIL import Image, ImageDraw

from cambrel.bounds.lanes import BusyError, GoneError, OverrunError
from cambrel.exports.typeface import length, set_line
from cambrel.links.codec import LinkError
from cambrel.owners.models import User
from cambrel.owners.requests import Request
from cambrel.pictures.models import OWN
from cambrel.pictures.own_scenes import ReaderScenes, record_of, version_of
from cambrel.pictures.shots import HEIGHTS, shot_of, slug_of
from cambrel.rendering.cutouts import Shop
from cambrel.rendering.pool import RenderPool
from cambrel.scenes import Find, shipped

KEPT_S = 30 * 24 * 3600
SUM_BYTES = 8
"""Of a picture's check sum, before it: one that was cut or changed on the disk is drawn again."""
KINDS = {"webp": "image/webp", "png": "image/png"}
LONGEST_CAPTION = 200
CAPTION_PX = 18
FOR_GOOD = "public, max-age=31536000, immutable"
PRIVATE = "private, no-cache"


@cache
def _route(kind: str) -> tuple[str, str]:
    """What stands before and after the token in the address of a picture without a height; found once, as a bench has a
    hundred of them.
    """
    before, _, after = reverse("pictures:picture", args=["token", 0, kind]).partition("token")
    return before, after


def address(token: str, height: int, kind: str = "webp") -> str:
    """Where a picture is had."""
    before, after = _route(kind)
    return f"{before}{token}{after.replace('/0.', f'/{height}.')}"


def pattern(token: str) -> str:
    """Where a picture is had in any height: "{height}" stands in its place, for scripts."""
    return address(token, 0).replace("/0.", "/{height}.")


@cache
def shop() -> Shop:
    """The cut-outs of this process, for what a press meets."""
    return Shop(_art())


@cache
def pool() -> RenderPool:
    """Those who draw."""
    return RenderPool(_art(), settings.RENDERERS)


def _art() -> Path:
    return Path(settings.VAR) / "art"


def _kept(key: str) -> bytes | None:
    """A finished picture, whole as it was kept; None where there is none."""
    held = caches["pictures"].get(key)
    if not isinstance(held, bytes) or hashlib.sha256(held[SUM_BYTES:]).digest()[:SUM_BYTES] != held[:SUM_BYTES]:
        return None
    return held[SUM_BYTES:]


def _keep(key: str, made: bytes) -> None:
    caches["pictures"].set(key, hashlib.sha256(made).digest()[:SUM_BYTES] + made, KEPT_S)


def drawn(
    token: str,
    height: int,
    kind: str,
    caption: str = "",
    is_gone: Callable[[], bool] = lambda: False,
    version: str = "",
    find: Find = shipped,
) -> bytes:
    """The file of a picture, from the folder or drawn now.

    Raises
        LinkError for what is no picture; BusyError, GoneError or OverrunError where it is not drawn
    """
    key = hashlib.sha256(f"4 {token} {height} {kind} {caption} {version}".encode()).hexdigest()
    made = _kept(key)
    if made is None:
        view = shot_of(token, find).view(height)
        with pool().turn(is_gone):
            made = _kept(key)  # somebody may have asked for the same
            if made is None:
                made = pool().draw(view, kind)
                if caption:
                    made = _captioned(Image.open(BytesIO(made)), caption)
                _keep(key, made)
    return made


def _captioned(picture: Image.Image, caption: str) -> bytes:
    """The picture with a line of text below it, as PNG."""
    lines, line = [], ""
    for word in caption.split():
        wider = f"{line} {word}".strip()
        if length(wider, CAPTION_PX) > picture.width - 24 and line:
            lines.append(line)
            line = word
        else:
            line = wider
    lines.append(line)
    sheet = Image.new("RGB", (picture.width, picture.height + 16 + 24 * len(lines)), "#f7f7f7")
    sheet.paste(picture, (0, 0))
    for index, text in enumerate(lines):
        set_line(ImageDraw.Draw(sheet), (12, picture.height + 8 + 24 * index), text, CAPTION_PX, "#161616")
    out = BytesIO()
    sheet.save(out, "PNG")
    return out.getvalue()


@require_safe
def picture(request: Request, token: str, height: int, kind: str) -> HttpResponseBase:
    """One picture of a scene."""
    caption = " ".join(request.GET.get("caption", "").split())[:LONGEST_CAPTION]
    if height not in HEIGHTS or kind not in KINDS or (caption and kind != "png"):
        raise Http404
    try:
        slug = slug_of(token)
    except LinkError as error:
        return HttpResponse(str(error), status=400, content_type="text/plain; charset=utf-8")
    record = record_of(request.user, slug)
    if record is None and slug.startswith(OWN):
        raise Http404
    version = "" if record is None else version_of(record)
    tag = '"' + hashlib.sha256(f"{token} {height} {kind} {caption} {version}".encode()).hexdigest()[:24] + '"'
    if request.headers.get("If-None-Match") == tag:
        response: HttpResponse = HttpResponseNotModified()
    else:
        try:
            made = drawn(token, height, kind, caption, _is_gone(request), version, ReaderScenes(request.user))
            response = HttpResponse(made, content_type=KINDS[kind])
        except LinkError as error:
            return HttpResponse(str(error), status=400, content_type="text/plain; charset=utf-8")
        except (BusyError, GoneError):
            return HttpResponse(
                "Busy. Try again in a moment.", status=503, content_type="text/plain", headers={"Retry-After": "1"}
            )
        except OverrunError:
            says = "This picture takes more time or memory to draw than it is given."
            return HttpResponse(says, status=400, content_type="text/plain")
    # a public one is for good, as its address holds all of it; an own one is asked for again, and its owner checked
    response["Cache-Control"], response["ETag"] = (FOR_GOOD if record is None else PRIVATE), tag
    if kind == "png":
        response["Content-Disposition"] = 'attachment; filename="cambrel-scene.png"'
    return response


def _is_gone(request: Request) -> Callable[[], bool]:
    """Whether a browser has closed its connection; a proxy closes its own then. Not known of servers that do not hand
    the connection on.
    """
    connection = request.environ.get("gunicorn.socket")

    def closed() -> bool:
        if connection is None:
            return False
        try:
            return bool(connection.recv(1, socket.MSG_PEEK | socket.MSG_DONTWAIT) == b"")
        except BlockingIOError:
            return False
        except OSError:
            return True

    return closed


def pictures_for(reader: User | AnonymousUser | None) -> Callable[[str], bytes | None]:
    """What finds the pictures at this module's addresses, as somebody has them, to be put inside a drawing."""

    def picture_behind(address: str) -> bytes | None:
        try:
            arguments = resolve(address).kwargs
            record = record_of(reader, slug_of(arguments["token"]))
            version = "" if record is None else version_of(record)
            return drawn(arguments["token"], arguments["height"], "webp", version=version, find=ReaderScenes(reader))
        except (Resolver404, KeyError, LinkError):
            return None

    return picture_behind
