"""An answer as a document for scripts and other sites: the reading, the sentence, figures with units, working, link.

Its schema is docs/ask.schema.json, kept by a test. What has no end is null, with how it is shown beside it.
"""

from __future__ import annotations

from math import isfinite
from typing import Any

from cambrel.ask.asking import Reading
from cambrel.ask.question_kind import AnswerFigure
from cambrel.optics.workings import Working
from cambrel.wording import METRES, NBSP, Units
from cambrel.wording.written import written

VERSION = 1
UNITS = {
    "m": "m",
    "mm": "mm",
    "um": "µm",
    "f": "f-number",
    "stops": "stops",
    "signed": "stops",
    "n-stop": "stops",
    "s": "s",
    "time": "s",
    "deg": "degrees",
    "share": "ratio",
    "times": "ratio",
    "iso": "ISO",
    "number": "",
    "count": "",
    "whole": "",
    "g": "g",
    "l": "l",
}
"""The unit in which the value of each kind of figure stands."""


def plain(text: str) -> str:
    return text.replace(NBSP, " ")


def figure(said: AnswerFigure, units: Units = METRES) -> dict[str, Any]:
    """A figure with its value in the unit of its kind, and as it is shown; null for what has no end or is not known."""
    return {
        "name": said.name,
        "value": said.value if isfinite(said.value) else None,
        "unit": UNITS[said.kind],
        "shown": plain(said.shown(units)),
    }


def line(worked: Working, units: Units) -> dict[str, Any]:
    said = written(worked, units)
    return {
        "formula": plain(said.formula),
        "numbers": plain(said.numbers),
        "terms": [{"symbol": symbol, "name": name, "shown": plain(shown)} for symbol, name, shown in said.terms],
    }


def document(reading: Reading, units: Units, link: str) -> dict[str, Any]:
    """A question with its answer, or with what it may have meant.

    Parameters
        reading: of the line
        units: in which lengths are shown; values are always metres and millimetres
        link: the address of the page that answers it
    Returns
        what is written as JSON
    """
    statement, answer, candidate = reading.statement, reading.answer, reading.candidate
    taken = candidate.given.taken if candidate and answer else statement.quantities if statement else []
    understood = [
        {"text": statement.piece(quantity.mention), "role": quantity.role, "values": list(quantity.values)}
        for quantity in taken
        if statement is not None
    ]
    sensors = (
        []
        if statement is None
        else [statement.text[slice(*statement.place(named.first, named.last))] for named in statement.sensors]
    )
    explained = " ".join(word.says for word in reading.words) or None
    return {
        "version": VERSION,
        "question": reading.text,
        "reading": {
            "kind": candidate.kind.key if candidate and answer else None,
            "title": candidate.kind.title if candidate and answer else None,
            "understood": understood,
            "formats": sensors,
            "spelt": [{"text": typed, "read_as": meant} for typed, meant in (statement.respelt if statement else [])],
            "not_understood": list(reading.unread),
        },
        "answer": plain(" ".join((answer.says, *answer.more))) if answer else explained,
        "figures": [figure(said, units) for said in answer.figures] if answer else [],
        "working": [line(worked, units) for worked in answer.working] if answer else [],
        "assumed": [plain(said) for said in answer.assumed] if answer else [],
        "problem": reading.problem or None,
        "did_you_mean": list(reading.offers),
        "link": link,
    }
