"""Every kind of question, one module to a topic: a new kind is an entry of its module's KINDS, and is found here."""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from cambrel.ask.question_kind import Kind

KINDS: tuple[Kind, ...] = tuple(
    kind
    for module in sorted(iter_modules(__path__), key=lambda found: found.name)
    for kind in import_module(f"{__name__}.{module.name}").KINDS
)
