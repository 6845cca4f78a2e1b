"""Equivalents in the terms in which the reader thinks, with full frame beside them where that is another."""

from __future__ import annotations

from collections.abc import Callable

from cambrel.comparison.brief import Conventions
from cambrel.optics.formats import FORMATS, crop_factor
from cambrel.wording import in_words

COMMON = "full-frame"
"""What advertisements and most readers speak in."""


def home_name(conventions: Conventions) -> str:
    """The reader's own format, as it stands in a sentence."""
    return in_words(FORMATS[conventions.home].name)


def home_crop(conventions: Conventions) -> float:
    """Its crop factor, by which what is said of full frame is divided."""
    return 1.0 if conventions.home == COMMON else float(crop_factor(FORMATS[conventions.home], by=conventions.crop_by))


def in_terms(conventions: Conventions, write: Callable[[float], str]) -> str:
    """An equivalent in the reader's terms; `write` writes it where all of full frame's figures are divided by a crop
    factor.
    """
    common = write(1.0)
    return common if conventions.home == COMMON else f"{write(home_crop(conventions))} (full frame {common})"
