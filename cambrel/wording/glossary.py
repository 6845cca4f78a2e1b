"""Words of the trade and what they mean, from one file: for their own page, and to explain a word where it stands.
Pure.
"""

from __future__ import annotations

import json
import re
from dataclasses import dataclass
from functools import cache
from pathlib import Path

LONGEST = 5000
"""No sentence is longer; words are not looked for in what is."""


@dataclass(frozen=True)
class TradeWord:
    """A word of the trade. also: other forms of it; disputed: what else people mean by it, or argue about."""

    slug: str
    term: str
    says: str
    also: tuple[str, ...] = ()
    disputed: str = ""

    @property
    def forms(self) -> tuple[str, ...]:
        return (self.term, *self.also)


@cache
def terms() -> dict[str, TradeWord]:
    """All terms, in alphabetical order.

    Returns
        by slug
    """
    rows = json.loads(Path(__file__).with_name("glossary.json").read_text())
    words = [
        TradeWord(row["slug"], row["term"], row["says"], tuple(row["also"]), row.get("disputed", "")) for row in rows
    ]
    return {term.slug: term for term in sorted(words, key=lambda term: term.term.lower())}


@cache
def _forms() -> tuple[dict[str, str], re.Pattern[str]]:
    slugs = {form.lower(): term.slug for term in terms().values() for form in term.forms}
    by_initial: dict[str, list[str]] = {}
    for form in sorted(slugs, key=len, reverse=True):
        by_initial.setdefault(form[0], []).append(re.escape(form[1:]))
    # by first letter and in lower case, which is four times as quick as one list of forms in either case
    branches = (f"{re.escape(initial)}(?:{'|'.join(rests)})" for initial, rests in by_initial.items())
    return slugs, re.compile(rf"(?<![\w-])(?:{'|'.join(branches)})(?![\w-])")


def parts(text: str, seen: set[str] | None = None) -> list[tuple[str, str]]:
    """A text cut into pieces, each with the slug of the term that it is.

    Parameters
        text: as it is read
        seen: terms that have been explained already; each is marked where it first stands, and added
    Returns
        pieces in their order, with an empty slug for what is no term
    """
    seen = set() if seen is None else seen
    if len(text) > LONGEST:
        return [(text, "")]
    slugs, pattern = _forms()
    made, at = [], 0
    plain = text.replace("\u00a0", " ").lower()
    if len(plain) != len(text):  # a letter whose small form is two
        return [(text, "")]
    for found in pattern.finditer(plain):
        slug = slugs[found[0]]
        if slug in seen:
            continue
        seen.add(slug)
        if found.start() > at:
            made.append((text[at : found.start()], ""))
        made.append((text[found.start() : found.end()], slug))
        at = found.end()
    return [*made, (text[at:], "")] if at < len(text) else made
