"""The cache of several servers, apart from that of one, which needs no Redis and starts sooner without."""

from __future__ import annotations

from django.core.cache.backends.redis import RedisCache
from redis.exceptions import RedisError

from cambrel.site.caches import Healing


class SharedCache(Healing, RedisCache):
    """A Redis that several servers share; while it is away pages go on without it."""

    faults = (RedisError, OSError)
