"""How much memory a process may take: apart from the queues, since a process that decodes one picture needs no more."""

from __future__ import annotations

import resource
from contextlib import suppress


def bound_memory(most: int) -> None:
    """Let this process take so much memory of its own and no more; files that are mapped and shared do not count.

    Parameters
        most: [bytes]
    """
    if most:
        with suppress(ValueError, OSError):
            resource.setrlimit(resource.RLIMIT_DATA, (most, most))
