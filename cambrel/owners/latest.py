"""What is worked out from all that an owner keeps: done once, held in memory until a recorded change raises the shelf's
version.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, Generic, TypeVar

from django.conf import settings
from django.core.cache import cache

from cambrel.owners.models import User

V = TypeVar("V")
MOST_OWNERS = 16
SHARED_FROM, SHARED_S = 2000, 3600
MOST_ROWS = 60_000
"""Of all owners together that are held; the latest is held whatever its size."""


class Latest(Generic[V]):
    """Of each owner what `build` makes of the records, as they are now; `rows` says how much that is."""

    def __init__(self, name: str, build: Callable[[Any], V], rows: Callable[[V], int]) -> None:
        self._name, self._build, self._rows = name, build, rows
        self._kept: OrderedDict[int, tuple[int, V]] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, owner: User) -> V:
        version = User.objects.filter(pk=owner.pk).values_list("shelf_version", flat=True).first()
        key = owner.pk or 0
        with self._lock:
            latest = self._kept.get(key)
            if latest and latest[0] == version:
                self._kept.move_to_end(key)
                return latest[1]
        made = self._shared(owner, version)
        if version is not None:
            with self._lock:
                self._kept[key] = (version, made)
                while len(self._kept) > 1 and (len(self._kept) > MOST_OWNERS or self._held() > MOST_ROWS):
                    self._kept.popitem(last=False)
        return made

    def _shared(self, owner: User, version: object) -> V:
        """What another server has made of the same records, or what is made now, for the others too where it is
        much.
        """
        if version is None or not settings.CACHE_URL:
            return self._build(owner)
        key = f"latest:{self._name}:{owner.pk}:{owner.date_joined.timestamp()}:{version}"
        cached: V | None = cache.get(key)
        if cached is None:
            cached = self._build(owner)
            if self._rows(cached) >= SHARED_FROM:
                cache.set(key, cached, SHARED_S)
        return cached

    def _held(self) -> int:
        return sum(self._rows(kept) for _, kept in self._kept.values())
