"""What the application needs, looked at: database, disk, cache, storage, static files and drawing. A problem is logged,
and said by its name only.
"""

from __future__ import annotations

import hashlib
import json
import logging
import shutil
import time
from collections.abc import Callable
from pathlib import Path
from secrets import token_hex

from django.conf import settings
from django.core.cache import caches
from django.core.files.base import ContentFile

from cambrel.bounds.lanes import BusyError
from cambrel.comparison.brief import Brief
from cambrel.optics.scene import Camera
from cambrel.owners.models import User
from cambrel.pictures import own
from cambrel.pictures.views import pool
from cambrel.rendering.take import Take
from cambrel.scenes import Scene

LOG = logging.getLogger("cambrel.health")
LEAST_FREE_BYTES = 200 * 1024 * 1024
LOOKED_AT_EVERY_S = 60.0
"""What is slow to look at is looked at once a minute; a database and a disk every time."""
_slow: tuple[float, dict[str, str]] = (-LOOKED_AT_EVERY_S, {})


def _database() -> str:
    User.objects.exists()
    return ""


def _disk() -> str:
    free = shutil.disk_usage(settings.VAR).free
    if free < LEAST_FREE_BYTES:
        return f"only {free // 2**20} MB are free"
    place = own.scratch() / f"health-{token_hex(4)}"
    place.write_text("ok")
    place.unlink()
    return ""


def _cache() -> str:
    for name in settings.CACHES:
        caches[name].set("health", "ok", 60)
        if caches[name].get("health") != "ok":
            return f"{name} does not hold what is put into it"
    return ""


def _storage() -> str:
    name = own.store().save(f"0/{'0' * 32}.png", ContentFile(b"ok"))
    own.store().delete(name)
    return ""


def _static() -> str:
    """Every static file is there, and is what its name says."""
    root = Path(settings.STATIC_ROOT)
    files: dict[str, str] = json.loads((root / "staticfiles.json").read_text())["paths"]
    for name in files.values():
        content = (root / name).read_bytes()
        if hashlib.md5(content, usedforsecurity=False).hexdigest()[:12] not in name:
            return f"{name} is another than it was"
    return ""


def _drawing() -> str:
    scene = Scene("health", "", 1.5, 0.0, 0.0, 1.0, "#808080", 1.7, (), ())
    view = Take(scene.arranged(Brief()), Camera(50, 2, 2, 2, 36, 24), 24, 16)
    try:
        with pool().turn():
            pool().draw(view, "webp")
    except BusyError:
        pass  # busy is well
    return ""


ALWAYS: dict[str, Callable[[], str]] = {"database": _database, "disk": _disk}
NOW_AND_THEN: dict[str, Callable[[], str]] = {
    "cache": _cache,
    "storage": _storage,
    "static": _static,
    "drawing": _drawing,
}


def _looked(checks: dict[str, Callable[[], str]]) -> dict[str, str]:
    problems = {}
    for name, check in checks.items():
        try:
            problems[name] = check()
        except Exception as error:
            problems[name] = repr(error)
        if problems[name]:
            LOG.error("%s: %s", name, problems[name])
    return problems


def checked() -> dict[str, str]:
    """What is wrong with each thing that is needed; an empty text where it is well."""
    global _slow
    if time.monotonic() - _slow[0] >= LOOKED_AT_EVERY_S:
        _slow = time.monotonic(), _looked(NOW_AND_THEN)
    return _looked(ALWAYS) | _slow[1]
