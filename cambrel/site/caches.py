"""Caches that heal: what is damaged, or was written by another version, counts as not there, and a cache that is away
never breaks a page.
"""

from __future__ import annotations

import logging
import pickle
import shutil
import sqlite3
from collections.abc import Callable
from typing import Any

from diskcache import DjangoCache

LOG = logging.getLogger("cambrel.caches")
UNREADABLE = (
    pickle.UnpicklingError,
    AttributeError,
    ImportError,
    EOFError,
    IndexError,
    ValueError,
    TypeError,
    KeyError,
)


class Healing:
    """Before a cache: each call is answered as if nothing had been there where it fails."""

    faults: tuple[type[Exception], ...] = ()

    def heal(self, error: Exception) -> None:
        """Do about a fault what can be done."""

    def _tried(self, otherwise: Any, call: Callable[..., Any], *arguments: object, **named: object) -> Any:
        try:
            return call(*arguments, **named)
        except self.faults as error:
            LOG.warning("cache: %s", error)
            self.heal(error)
            return otherwise

    def get(self, key: Any, default: Any = None, *arguments: object, **named: object) -> Any:
        above: Any = super()
        try:
            return self._tried(default, above.get, key, default, *arguments, **named)
        except UNREADABLE as error:
            LOG.warning("cache, unreadable: %s", error)
            self._tried(False, above.delete, key, **named)
            return default

    def set(self, *arguments: Any, **named: object) -> Any:
        above: Any = super()
        return self._tried(False, above.set, *arguments, **named)

    def add(self, *arguments: object, **named: object) -> Any:
        above: Any = super()
        return self._tried(True, above.add, *arguments, **named)

    def incr(self, *arguments: object, **named: object) -> Any:
        above: Any = super()
        return self._tried(1, above.incr, *arguments, **named)

    def delete(self, *arguments: object, **named: object) -> Any:
        above: Any = super()
        return self._tried(False, above.delete, *arguments, **named)


class FileCache(Healing, DjangoCache):  # type: ignore[misc]
    """Files of this machine that all its processes share."""

    faults = (sqlite3.Error, OSError)

    def __init__(self, directory: str, params: dict[str, object]) -> None:
        self._where, self._params = directory, params
        try:
            super().__init__(directory, dict(params))
        except sqlite3.DatabaseError:
            self._begin_anew()

    def heal(self, error: Exception) -> None:
        """Begin anew where the files are no cache any more; a full disk, or one that is locked for a moment, is left as
        it is.
        """
        is_passing = isinstance(error, sqlite3.OperationalError) and "no such table" not in str(error)
        if isinstance(error, sqlite3.DatabaseError) and not is_passing:
            self._begin_anew()

    def _begin_anew(self) -> None:
        shutil.rmtree(self._where, ignore_errors=True)
        super().__init__(self._where, dict(self._params))
