"""Names as people give them: any script and joined emoji, nothing that cannot be shown or that turns a line round.
Pure.
"""

from __future__ import annotations

import re
import unicodedata
from math import isfinite

from cambrel.optics.quantities import DomainError

LONGEST_NAME = 60
JOINERS = {"\u200c", "\u200d"}
"""Zero-width characters that scripts and emoji need."""
TAGS = range(0xE0020, 0xE0080)
"""They make the flags of regions."""
_REFUSED = {"Cc", "Cs", "Cn", "Co", "Zl", "Zp"}


def shown(character: str) -> bool:
    """Whether a character may stand in a text: no control, no lone half of a pair, no mark that turns the writing
    round.

    Parameters
        character: one
    Returns
        False for a control, a lone half of a pair, and a mark that turns the writing round
    """
    category = unicodedata.category(character)
    if category == "Cf":
        return character in JOINERS or ord(character) in TAGS or character == "\u00ad"
    return category not in _REFUSED


def is_shown(text: str) -> bool:
    """Whether a text has nothing in it that cannot be shown; line breaks count as such.

    Parameters
        text: of any length
    Returns
        False where there is one character that is not shown, or a line break
    """
    return text.isprintable() or all(map(shown, text))


_UNSTORABLE = re.compile("[\x00\ud800-\udfff]")


def is_storable(value: object) -> bool:
    """Whether plain values, however nested, can be kept in any database: no character that is none, no number that is
    none.

    Parameters
        value: plain values, however nested
    Returns
        False for a character that is none, or a number that is none
    """
    if isinstance(value, str):
        return _UNSTORABLE.search(value) is None
    if isinstance(value, float):
        return isfinite(value)
    if isinstance(value, dict):
        return all(is_storable(key) and is_storable(part) for key, part in value.items())
    if isinstance(value, list | tuple):
        return all(map(is_storable, value))
    return True


def clean(text: str, longest: int = LONGEST_NAME) -> str:
    """A name with its white space put in order.

    Parameters
        text: as it was typed
        longest: [characters]
    Returns
        on one line, without space at its ends
    Raises
        ValueError with the reason, for the reader
    """
    name = " ".join(text.split())
    if not name:
        raise ValueError("Give it a name.")
    if len(name) > longest:
        raise ValueError(f"A name has at most {longest} characters. This one has {len(name)}.")
    if not is_shown(name):
        raise ValueError("The name has characters that cannot be shown.")
    return name


def shortened(text: str, longest: int = LONGEST_NAME) -> str:
    """A text of at most so many characters; what was cut off is marked.

    Parameters
        text: of any length
        longest: [characters], the mark included
    Returns
        the text itself where it is short enough
    """
    return text if len(text) <= longest else text[: longest - 1].rstrip() + "…"


def check_name(name: object) -> None:
    """Raises DomainError for what cannot be shown as a name.

    Parameters
        name: whatever stands where a name is wanted
    Raises
        DomainError for what cannot be shown as a name
    """
    if not isinstance(name, str) or len(name) > LONGEST_NAME or not is_shown(name):
        raise DomainError("name", f"at most {LONGEST_NAME} printable characters", str(name)[: LONGEST_NAME + 1])
