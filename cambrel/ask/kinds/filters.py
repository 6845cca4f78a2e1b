"""What stands before a lens or behind it, and what it takes of the light: neutral filters, a polariser, a converter."""

from __future__ import annotations

from math import log2, prod

from cambrel import wording
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.optics.light import stops
from cambrel.optics.workings import term, working

POLARISER_STOPS = 1.5
"""About what a polariser takes, turned as it may be."""


def _filter(given: GivenLine) -> Reply:
    factor = prod(given.all("density")) if given.all("density") else 2.0 ** given.sure("stops")
    amount = log2(factor)
    t = given.one("shutter")
    says = f"{wording.stops(amount)}, a factor of {wording.significant(factor)}."
    figures = [AnswerFigure("stops", amount, "stops"), AnswerFigure("factor", factor, "number")]
    line = working("S", "log₂(F)", amount, "stops", term("F", "factor of the filter", factor))
    if t is not None:
        longer = t * factor
        says = (
            f"{wording.duration(longer) if longer > 30 else wording.marked_shutter(longer)}:"
            f" {wording.shutter(t)} made {wording.stops(amount)} longer."
        )
        figures.append(AnswerFigure("shutter time", longer, "s"))
        line = working(
            "T",
            "t × F",
            longer,
            "s",
            term("t", "time without the filter", t, "s"),
            term("F", "factor of the filter", factor),
        )
    elif given.one("density") is None:
        says = f"ND{wording.significant(factor)} takes {wording.stops(amount)}."
    return Reply(says, tuple(figures), (line,))


def _filter_for(given: GivenLine) -> Reply:
    """The filter that makes one time of another."""
    short, long = sorted(given.all("shutter"))
    amount = float(stops(long, short))
    says = (
        f"A {wording.n_stop(amount)} filter, ND{wording.significant(2.0**amount)}, makes {wording.shutter(long)} of"
        f" {wording.shutter(short)}."
    )
    line = working(
        "S",
        "log₂(t₂ / t₁)",
        amount,
        "stops",
        term("t₁", "time without", short, "s"),
        term("t₂", "time with", long, "s"),
    )
    figures = (AnswerFigure("stops", amount, "stops"), AnswerFigure("factor", 2.0**amount, "number"))
    return Reply(wording.articled(says), figures, (line,))


def _converter(given: GivenLine) -> Reply:
    """What a converter or a reducer costs or gains."""
    factor, n = given.sure("converter"), given.one("f_number")
    amount = 2 * log2(factor)
    does = "costs" if amount > 0 else "gains"
    says = (
        f"It {does} {wording.stops(abs(amount))}: light is spread over {wording.significant(factor**2)} times the area."
    )
    figures = [AnswerFigure("stops", abs(amount), "stops")]
    if n is not None:
        says = f"{wording.f_number(n)} becomes {wording.f_number(n * factor)}. {says}"
        figures.append(AnswerFigure("f-number with it", n * factor, "f"))
    line = working("S", "2 × log₂(k)", amount, "signed", term("k", "factor of the converter", factor))
    return Reply(says, tuple(figures), (line,))


def _polariser(given: GivenLine) -> Reply:
    says = f"About {wording.stops(POLARISER_STOPS)}, from one to two as it is made and turned."
    t = given.one("shutter")
    figures = [AnswerFigure("stops", POLARISER_STOPS, "stops")]
    if t is not None:
        longer = t * 2**POLARISER_STOPS
        says = f"{wording.marked_shutter(longer)}. {says}"
        figures.append(AnswerFigure("shutter time", longer, "s"))
    return Reply(says, tuple(figures))


KINDS = (
    Kind(
        "filter",
        "Neutral filters",
        ("density density? shutter?", "stops shutter?"),
        _filter,
        ("nd64", "10 stop filter 1/60"),
        also=frozenset({"filter", "stops", "shutter", "light", "effective"}),
        fits=lambda said: bool(said.all("density")) or "filter" in said.terms,
        weight=1,
    ),
    Kind(
        "filter-for",
        "The filter for a time",
        ("shutter shutter",),
        _filter_for,
        ("which nd filter makes 30 s of 1/60",),
        frozenset({"filter"}),
        frozenset({"stops", "shutter", "look", "light"}),
        weight=3,
    ),
    Kind(
        "converter",
        "What a converter costs",
        ("converter f_number?",),
        _converter,
        ("how many stops does a 1.4x teleconverter cost",),
        also=frozenset({"converter", "reducer", "effective", "light", "stops", "differ", "aperture"}),
        fits=lambda said: bool({"effective", "light", "stops"} & said.terms),
        weight=2,
    ),
    Kind(
        "polariser",
        "A polariser",
        ("shutter?",),
        _polariser,
        ("how many stops does a polariser take",),
        frozenset({"polariser"}),
        frozenset({"filter", "stops", "light", "shutter", "effective"}),
        weight=1,
    ),
)
