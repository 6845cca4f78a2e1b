"""A list of plain values as one parameter of an address: JSON, deflated, base64url."""

from __future__ import annotations

import base64
import json
import zlib
from typing import Any

from cambrel.bounds.documents import whole_texts

LONGEST_TOKEN = 3500
MOST_BYTES = 12_000


class LinkError(ValueError):
    """A link that cannot be read; the message says why, for the reader of the page."""


def encode_list(values: list[Any]) -> str:
    """A list of plain values as a parameter of its own.

    Parameters
        values: plain ones
    Returns
        base64url
    """
    return deflated([1, *values])


def decode_list(token: str) -> list[Any]:
    """The values that a parameter stands for.

    Parameters
        token: as it came
    Returns
        plain values, none of them checked
    Raises
        LinkError for a parameter that is damaged or too long
    """
    content = inflated(token)
    if not (isinstance(content, list) and content and content[0] == 1 and type(content[0]) is int):
        raise LinkError("This link was written by a newer version, or not by Cambrel.")
    return content[1:]


def deflated(content: list[Any]) -> str:
    """A list of plain values as the text of a parameter: JSON, deflated, base64url.

    Parameters
        content: plain values
    Returns
        base64url without padding
    """
    text = json.dumps(content, separators=(",", ":"), ensure_ascii=False)
    return base64.urlsafe_b64encode(zlib.compress(text.encode(), 9)).decode().rstrip("=")


def inflated(token: str, longest: int = LONGEST_TOKEN, most_bytes: int = MOST_BYTES) -> Any:
    """The content of a parameter, with its size capped before and after inflating.

    Parameters
        token: as it came
        longest: that is read [characters]
        most_bytes: that it may come to
    Returns
        plain values, none of them checked
    Raises
        LinkError for a parameter that is damaged, too long or too much
    """
    if len(token) > longest:
        raise LinkError(f"This link is too long: {len(token)} characters, at most {longest} are read.")
    try:
        packed = base64.b64decode(token + "=" * (-len(token) % 4), altchars=b"-_", validate=True)
        inflater = zlib.decompressobj()
        data = inflater.decompress(packed, most_bytes)
        if inflater.unconsumed_tail or not inflater.eof:
            raise LinkError("This link is cut short, or holds more than a bench.")
        content = whole_texts(json.loads(data.decode(), parse_constant=_refuse))
    except (ValueError, zlib.error, RecursionError) as error:
        if isinstance(error, LinkError):
            raise
        raise LinkError("This link is damaged: it may have been cut or changed on the way.") from error
    return content


def _refuse(constant: str) -> None:
    raise LinkError(f"This link is damaged: it holds {constant}, which is not a number.")
