"""Words of the trade and what they mean, from one file: for their own page, and to explain a word where it stands. Pure."""

from __future__ import annotations

import json
import re
from dataclasses import dataclass
from functools import cache
from pathlib import Path

LONGEST = 5000
"""No sentence is longer; words are not looked for in what is."""


@dataclass(frozen=True)
class Term:
    """A word of the trade. also: other forms in which it stands on the screens."""

    slug: str
    term: str
    says: str
    also: tuple[str, ...] = ()

    @property
    def forms(self) -> tuple[str, ...]:
        return (self.term, *self.also)


@cache
def terms() -> dict[str, Term]:
    """All terms by slug, in alphabetical order."""
    rows = json.loads(Path(__file__).with_name("glossary.json").read_text())
    found = [Term(row["slug"], row["term"], row["says"], tuple(row["also"])) for row in rows]
    return {term.slug: term for term in sorted(found, key=lambda term: term.term.lower())}


@cache
def _forms() -> tuple[dict[str, str], re.Pattern[str]]:
    slugs = {form.lower(): term.slug for term in terms().values() for form in term.forms}
    longest_first = sorted(slugs, key=len, reverse=True)
    spaced = (re.escape(form).replace(r"\ ", "[ \u00a0]") for form in longest_first)
    return slugs, re.compile(rf"(?<![\w-])(?:{'|'.join(spaced)})(?![\w-])", re.IGNORECASE)


def parts(text: str, seen: set[str] | None = None) -> list[tuple[str, str]]:
    """A text cut into pieces, each with the slug of the term that it is, or an empty text.

    Parameters
        seen: terms that have been explained already; each is marked where it first stands, and added
    """
    seen = set() if seen is None else seen
    if len(text) > LONGEST:
        return [(text, "")]
    slugs, pattern = _forms()
    made, at = [], 0
    for found in pattern.finditer(text):
        slug = slugs[found[0].replace("\u00a0", " ").lower()]
        if slug in seen:
            continue
        seen.add(slug)
        if found.start() > at:
            made.append((text[at : found.start()], ""))
        made.append((found[0], slug))
        at = found.end()
    return [*made, (text[at:], "")] if at < len(text) else made
