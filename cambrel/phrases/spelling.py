"""Misspelt words: one letter missing, too many, wrong or two changed over, in words of six letters and more."""

from __future__ import annotations

from functools import cache
from itertools import pairwise

from cambrel.phrases.concepts import CONCEPT_WORDS, CONCEPTS
from cambrel.phrases.lexicon import CONVERTERS, EQUIVALENT, FILLERS, FORMAT_NAMES
from cambrel.phrases.units import FOREIGN, LENGTHS_M, MASSES_G, SECONDS

SHORTEST = 6


@cache
def _known() -> frozenset[str]:
    """Every word that is read as it stands."""
    named = {word for name in FORMAT_NAMES for word in name}
    units = {*LENGTHS_M, *MASSES_G, *SECONDS, *FOREIGN}
    return frozenset({*CONCEPT_WORDS, *EQUIVALENT, *CONVERTERS, *FILLERS, *named, *units})


def _shortened(word: str) -> set[str]:
    """The word, and the word without each of its letters."""
    return {word, *(word[:at] + word[at + 1 :] for at in range(len(word)))}


@cache
def _by_shortened() -> dict[str, set[str]]:
    near: dict[str, set[str]] = {}
    for word in _known():
        if len(word) >= SHORTEST and word.isalpha():
            for short in _shortened(word):
                near.setdefault(short, set()).add(word)
    return near


def corrected(word: str, beside: tuple[str, ...] = ()) -> str:
    """The known word that one of six letters or more was written for.

    Parameters
        word: in lower case
        beside: the words before it and behind it, which decide between several
    Returns
        the one known word that differs by a letter or by two neighbours changed over; empty where the word is known
        itself, none is so near, or several are and no term of the field joins one of them to the words beside it
    """
    if len(word) < SHORTEST - 1 or word in _known():
        return ""
    near = set().union(*(_by_shortened().get(short, set()) for short in _shortened(word)))
    meant = {known for known in near if _is_a_letter_off(word, known)}
    if len(meant) > 1:
        meant = {
            known
            for known in meant
            if any(pair in _joined() for word in beside for pair in ((word, known), (known, word)))
        } or meant
    stems = {known.removesuffix("s") for known in meant}
    return min(meant, key=len) if len(stems) == 1 else ""


@cache
def _joined() -> frozenset[tuple[str, str]]:
    """Words that stand beside each other in a term of the field."""
    return frozenset(pair for terms in CONCEPTS.values() for words, _ in terms for pair in pairwise(words))


def _is_a_letter_off(word: str, known: str) -> bool:
    if abs(len(word) - len(known)) > 1:
        return False
    at = next((i for i, (a, b) in enumerate(zip(word, known, strict=False)) if a != b), min(len(word), len(known)))
    rest, meant = word[at:], known[at:]
    swapped = len(rest) > 1 and len(meant) > 1 and rest[:2] == meant[1::-1] and rest[2:] == meant[2:]
    return rest[1:] == meant[1:] or rest[1:] == meant or rest == meant[1:] or swapped
