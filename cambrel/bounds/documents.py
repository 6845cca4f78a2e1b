"""JSON read within bounds: its values are counted before any is made, its depth and its numbers are bounded, its texts
can be written anywhere.
"""

from __future__ import annotations

import json
import re
from typing import Any

from cambrel.bounds.doors import DOORS

LONGEST_WHOLE = 18
"""A whole number of more digits is read as one that is about as large."""
LINES_A_ROW = 4
"""A row of a table may have cells of several lines, and empty lines about it."""
NO_TEXT = "\uffff"
"""What stands for half of a pair: a character that is refused wherever texts are shown."""
_ESCAPED_HALF = re.compile(rb"\\u[dD][89abAB]")
_HALF = re.compile("[\ud800-\udfff]")


class DocumentError(ValueError):
    """What is no JSON, or more of it than is read; the message is for the reader."""


def table_problem(data: bytes, door: str) -> str:
    """Why a table is more than is read, by its line breaks and the signs between its cells alone.

    Parameters
        data: of a text table, as it came
        door: by which it comes in, which says how many rows and cells are read
    Returns
        a sentence for the reader; empty where the table is read
    """
    limits = DOORS[door]
    if data.count(b"\n") > LINES_A_ROW * limits.most_rows:
        return (
            f"It has more than {LINES_A_ROW * limits.most_rows:,} lines. At most {limits.most_rows:,} "
            f"records are read at a time."
        )
    if max(data.count(sign) for sign in (b",", b";", b"\t")) > limits.most_values:
        return f"It has more than {limits.most_values:,} cells, more than is read at a time."
    return ""


def read_json(data: bytes, door: str) -> Any:
    """The content of a JSON text.

    Parameters
        data: UTF-8, with or without a byte order mark
        door: by which it comes in
    Returns
        plain values; NaN and the infinities as words, and numbers beyond all size as infinite, which no schema takes
        for figures
    Raises
        DocumentError
    """
    most = DOORS[door].most_values
    if data.count(b",") + data.count(b"[") + data.count(b"{") > most:
        raise DocumentError(f"It holds more than {most:,} values, more than is read at a time.")
    try:
        content = json.loads(data.decode("utf-8-sig"), parse_constant=str, parse_int=_whole)
    except RecursionError:
        raise DocumentError("It is nested too deeply.") from None
    except json.JSONDecodeError as error:
        raise DocumentError(f"This is not JSON: {error.msg} in line {error.lineno}.") from None
    except UnicodeDecodeError as error:
        raise DocumentError(f"It is not in UTF-8 (byte {error.start}).") from None
    return whole_texts(content) if _ESCAPED_HALF.search(data) else content


def _whole(digits: str) -> int | float:
    return int(digits) if len(digits) <= LONGEST_WHOLE else float(digits)


def whole_texts(value: object) -> Any:
    """A value of plain values, no text of which has half of a pair in it, such as no database takes.

    Parameters
        value: texts, numbers, lists and mappings of them
    Returns
        the same with a mark in the place of every half
    """
    if isinstance(value, str):
        return _HALF.sub(NO_TEXT, value)
    if isinstance(value, list):
        return [whole_texts(part) for part in value]
    if isinstance(value, dict):
        return {whole_texts(name): whole_texts(part) for name, part in value.items()}
    return value
