"""From a line that was typed to what is shown: an answer, what it may have meant, or why there is none. Pure."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from cambrel.ask.kinds import KINDS
from cambrel.ask.question_kind import KindReading, Reply, Terms, may_be_focal
from cambrel.ask.statement import Statement, statement_of
from cambrel.ask.trade_examples import words_in
from cambrel.comparison.rig import SMALLEST_POSSIBLE_F_NUMBER
from cambrel.optics.quantities import DomainError
from cambrel.phrases.lens_figures import SLOWEST
from cambrel.phrases.scan import Mention
from cambrel.phrases.tokens import LONGEST
from cambrel.wording.glossary import TradeWord

MOST_OFFERS = 2
MOST_LEFT = 3
"""A question with more parts that are not understood is not guessed at."""
TOO_LONG = f"At most {LONGEST} characters are read."


@dataclass(frozen=True)
class Reading:
    """What a line comes to.

    candidate, answer: where it was understood whole
    offers: lines that it may have meant, each of which is answered
    problem: why there is no answer, where that can be said
    """

    text: str
    statement: Statement | None = None
    candidate: KindReading | None = None
    answer: Reply | None = None
    offers: tuple[str, ...] = ()
    problem: str = ""
    words: tuple[TradeWord, ...] = ()
    """Of the trade, where it asks for their meaning and holds no number."""

    @property
    def unread(self) -> tuple[str, ...]:
        """What was not understood, as it was typed."""
        if self.statement is None or self.answer is not None:
            return ()
        known = " ".join(form.lower() for word in self.words for form in word.forms).split()
        pieces = (self.statement.piece(mention) for mention in self.statement.unread)
        return tuple(piece for piece in pieces if piece.lower() not in known)


def asked(text: str, terms: Terms, codes: Mapping[str, str] | None = None) -> Reading:
    """What a line that was typed comes to.

    Parameters
        text: as a photographer types it
        terms: the conventions and units of the reader
        codes: the owner's own letter codes
    Returns
        Reading, with an answer only where every number and every word of it was understood
    """
    if len(text) > LONGEST:
        return Reading(text[:LONGEST], problem=TOO_LONG)
    statement = statement_of(text, codes)
    if problem := _refusal(statement):
        rest = statement.without(statement.foreign)
        return Reading(text, statement, offers=_whole_lines([rest], terms, codes), problem=problem)
    candidates = _candidates(statement, terms)
    best = next((candidate for candidate in candidates if candidate.is_whole), None)
    if best is None and (prices := [quantity.mention for quantity in statement.all("price")]):
        offers = _whole_lines([statement.without([_with_its_word(statement, price) for price in prices])], terms, codes)
        return Reading(text, statement, offers=offers, problem=_priced(statement, prices[0]))
    if best is None:
        has_numbers = bool(statement.quantities or statement.bares)
        words = () if has_numbers else tuple(words_in(text))
        return Reading(text, statement, offers=_offers(statement, candidates, terms, codes), words=words)
    nothing = next(
        (quantity for quantity in best.given.taken if quantity.role != "ev" and min(quantity.values) <= 0), None
    )
    if nothing is not None:
        return Reading(
            text, statement, best, problem=f"“{statement.piece(nothing.mention)}” cannot be: it must be above 0."
        )
    try:
        return Reading(text, statement, best, best.answered())
    except DomainError as error:
        return Reading(text, statement, best, problem=_plainly(error))
    except OverflowError:
        return Reading(text, statement, best, problem="Those figures are too large for any camera. Type smaller ones.")


def _candidates(statement: Statement, terms: Terms) -> list[KindReading]:
    """The question as every kind reads it, the fullest first."""
    read = [candidate for kind in KINDS if (candidate := kind.reads(statement, terms)) is not None]
    return sorted(read, key=lambda candidate: (len(candidate.missing) + len(candidate.unexplained), -candidate.score))


def _refusal(statement: Statement) -> str:
    """Why a question has no answer: a unit that no figure of ours has, or a lens that cannot be."""
    for mention in statement.scan.mentions:
        if mention.kind == "impossible":
            return _impossible(mention.values[0])
    if not statement.foreign:
        return ""
    mention = statement.foreign[0]
    return (
        f"“{statement.piece(mention)}” is {mention.text}. Cambrel answers nothing in that unit. Leave it"
        " out, or say what you want to know."
    )


def _priced(statement: Statement, price: Mention) -> str:
    return (
        f"“{statement.piece(price)}” is a price. Prices are answered for renting, and for selling and buying. Leave it"
        " out, or name two prices for one of these."
    )


def _with_its_word(statement: Statement, price: Mention) -> Mention:
    """A price with the word that leads to it."""
    leads = statement.scan.low(price.first - 1) in {"for", "at", "costs"}
    return replace(price, first=price.first - leads)


def _impossible(f_number: float) -> str:
    if f_number >= SMALLEST_POSSIBLE_F_NUMBER:
        return f"No lens closes to f/{f_number:g}. F-numbers up to f/{SLOWEST:g} are read."
    return (
        f"No lens can be f/{f_number:g}. In air f/{SMALLEST_POSSIBLE_F_NUMBER:g} is the limit, and lenses"
        " that are made end"
        " near f/0.95."
    )


_FIELDS = {
    "object_distance_m": "So near, that lens has no picture: the subject must be farther away than the focal length",
    "u": "So near, that lens has no picture: the subject must be farther away than the focal length",
}


def _plainly(error: DomainError) -> str:
    """Why the core refused a figure, in words."""
    said = _FIELDS.get(error.parameter)
    return (
        f"{said}."
        if said
        else f"That cannot be: {error.parameter.rsplit('_', 1)[0].replace('_', ' ')} must be {error.wanted}."
    )


# ---- what it may have meant -----------------------------------------------------------------------------------------
def _offers(
    statement: Statement, candidates: list[KindReading], terms: Terms, codes: Mapping[str, str] | None
) -> tuple[str, ...]:
    whole = [*_with_units(statement), *_completed(statement, [read for read in candidates if not _drops_a_term(read)])]
    others = _completed(statement, [read for read in candidates if _drops_a_term(read)])
    return _whole_lines(whole, terms, codes) or _whole_lines(others, terms, codes)


def _completed(statement: Statement, candidates: list[KindReading]) -> list[str]:
    """The line without what some readings have no use for, and with what they need."""
    lines = []
    for candidate in candidates:
        added = [candidate.kind.usual.get(role, "") for role in candidate.missing]
        if len(candidate.unexplained) <= MOST_LEFT and len(added) <= 1 and all(added):
            lines.append(" ".join(filter(None, (statement.without(list(candidate.unexplained)), *added))))
    return lines


def _drops_a_term(candidate: KindReading) -> bool:
    """Whether a reading leaves a term of the field aside, and so answers something else than was asked."""
    return any(mention.kind == "concept" for mention in candidate.unexplained)


def _with_units(statement: Statement) -> Iterator[str]:
    """The line with its numbers as what they may be, where nothing said so, without the words that are not known."""
    places = [
        at for mention in statement.bares for at in range(mention.first, mention.last) if statement.scan.is_number(at)
    ]
    if not 1 <= len(places) <= 2:
        return
    values = [statement.scan.value(at) for at in places]
    if len(values) == 2 and all(value >= LOWEST_ISO for value in values):
        yield _rewritten(statement, places, "ISO {}")
    if all(may_be_focal(value, value) for value in values[:1]):
        yield _rewritten(statement, places, "{} mm")
    if all(0.7 <= value <= 32 for value in values):
        yield _rewritten(statement, places, "f/{}")


LOWEST_ISO = 50


def _rewritten(statement: Statement, places: list[int], written: str) -> str:
    """The line with some of its numbers written out, and without its unknown words."""
    unknown = {at for mention in statement.unread for at in range(mention.first, mention.last)}
    pieces, end = [], 0
    for at, token in enumerate(statement.scan.tokens):
        between = statement.text[end : token.start]
        if at in unknown:
            pieces.append(" ")
        else:
            pieces += [between, written.format(token.text) if at in places else token.text]
        end = token.end
    return " ".join("".join(pieces).split())


def _whole_lines(lines: list[str], terms: Terms, codes: Mapping[str, str] | None) -> tuple[str, ...]:
    """Those of some lines that are understood whole, each once."""
    whole: list[str] = []
    for line in dict.fromkeys(line for line in lines if re.search(r"\w", line)):
        statement = statement_of(line, codes)
        if not _refusal(statement) and any(candidate.is_whole for candidate in _candidates(statement, terms)):
            whole.append(line)
        if len(whole) == MOST_OFFERS:
            break
    return tuple(whole)
