"""What a question is about: the field's terms, in the words in which they are asked, in English, German, French,
Spanish and Italian. A term that no kind of question knows what to do with keeps it from being answered as another.
"""

from __future__ import annotations

import tomllib
from pathlib import Path

from cambrel.phrases.tokens import tokens_of

PLAIN = "plain"
"""Said around a question, and changing nothing in it: the gear as such, the occasion, who asks."""

_CONCEPTS: dict[str, list[str]] = tomllib.loads(Path(__file__).with_name("concepts.toml").read_text())


def _table() -> dict[str, list[tuple[tuple[str, ...], str]]]:
    """By their first word, the terms that begin with it, the longest first."""
    by_first: dict[str, list[tuple[tuple[str, ...], str]]] = {}
    for key, phrases in _CONCEPTS.items():
        for phrase in phrases:
            words = tuple(token.low for token in tokens_of(phrase) if token.kind != "sign")
            if words:
                by_first.setdefault(words[0], []).append((words, key))
    for terms in by_first.values():
        terms.sort(key=lambda term: -len(term[0]))
    return by_first


CONCEPTS = _table()
"""Of a term that stands twice the first is taken."""
CONCEPT_KEYS = frozenset(_CONCEPTS)
CONCEPT_WORDS = frozenset(word for terms in CONCEPTS.values() for words, _ in terms for word in words)
