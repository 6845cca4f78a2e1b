"""Exposure: stops between settings, exposure values, the sunny rule, a flash."""

from __future__ import annotations

from math import sqrt

from cambrel import wording
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.comparison.brief import LIGHT_LEVELS
from cambrel.optics.light import effective_f_number_for_light, exposure_value, iso_for_light, shutter_for_light_s, stops
from cambrel.optics.workings import term, working
from cambrel.wording.sentences import LEVEL_STOPS, listed


def _of_light(ratio: float) -> str:
    """How much of another light one is: twice, half, 1/8 of it."""
    return f"1/{wording.significant(1 / ratio, 2)} of" if ratio < 0.45 else wording.times(ratio)


def _told(amount: float) -> str:
    return "The same" if abs(amount) < 0.005 else wording.stops(abs(amount))


def _claim(given: GivenLine, amount: float) -> str:
    """Yes or no, where so many stops are claimed."""
    claimed = given.one("stops")
    if claimed is None:
        return ""
    return "Yes. " if abs(abs(amount) - claimed) <= LEVEL_STOPS else "No. "


def _between_f(given: GivenLine) -> Reply:
    wide, narrow = given.all("f_number")
    amount = float(stops(narrow, wide)) * 2
    line = working(
        "S",
        "2 × log₂(N₂ / N₁)",
        amount,
        "stops",
        term("N₁", "first f-number", wide, "f"),
        term("N₂", "second f-number", narrow, "f"),
    )
    says = _claim(given, amount) + (
        f"{_told(amount)}: {wording.f_number(narrow)} lets through {_of_light(2.0**-amount)} the light of"
        f" {wording.f_number(wide)}."
        if abs(amount) >= 0.005
        else f"None: both are {wording.f_number(wide)}."
    )
    return Reply(
        says, (AnswerFigure("stops", abs(amount), "stops"), AnswerFigure("light", 2.0**-amount, "times")), (line,)
    )


def _between_times(given: GivenLine) -> Reply:
    one, other = given.all("shutter")
    amount = float(stops(other, one))
    line = working(
        "S", "log₂(t₂ / t₁)", amount, "stops", term("t₁", "first time", one, "s"), term("t₂", "second time", other, "s")
    )
    says = (
        f"{_told(amount)}: {wording.shutter(other)} lets in {_of_light(2.0**amount)} the light of"
        f" {wording.shutter(one)}."
    )
    return Reply(
        says, (AnswerFigure("stops", abs(amount), "stops"), AnswerFigure("light", 2.0**amount, "times")), (line,)
    )


def _between_isos(given: GivenLine) -> Reply:
    one, other = given.all("iso")
    amount = float(stops(other, one))
    line = working("S", "log₂(i₂ / i₁)", amount, "stops", term("i₁", "first ISO", one), term("i₂", "second ISO", other))
    needs = f"{wording.iso(other)} needs {_of_light(2.0**-amount)} the light of {wording.iso(one)}"
    return Reply(f"{_told(amount)}: {needs}.", (AnswerFigure("stops", abs(amount), "stops"),), (line,))


def _shifted(given: GivenLine) -> Reply:
    """A setting so many stops from another, both ways."""
    amount = given.sure("stops")
    figures: tuple[AnswerFigure, ...]
    if given.all("f_number"):
        n = given.sure("f_number")
        down, up = n * 2 ** (amount / 2), n / 2 ** (amount / 2)
        says = f"{wording.marked_f_number(down)} stopped down, {wording.marked_f_number(up)} opened up"
        figures = (AnswerFigure("stopped down", down, "f"), AnswerFigure("opened up", up, "f"))
        start = wording.f_number(n)
    elif given.all("shutter"):
        t = given.sure("shutter")
        slower, faster = t * 2**amount, t / 2**amount
        says = f"{wording.marked_shutter(slower)} for more light, {wording.marked_shutter(faster)} for less"
        figures = (AnswerFigure("slower", slower, "s"), AnswerFigure("faster", faster, "s"))
        start = wording.shutter(t)
    else:
        iso = given.sure("iso")
        higher, lower = iso * 2**amount, iso / 2**amount
        says = f"{wording.marked_iso(higher)} up, {wording.marked_iso(lower)} down"
        figures = (AnswerFigure("up", higher, "iso"), AnswerFigure("down", lower, "iso"))
        start = wording.iso(iso)
    return Reply(f"{says}: {wording.stops(amount)} from {start}.", figures)


def _light_level(ev: float) -> str:
    nearest = min(LIGHT_LEVELS, key=lambda level: abs(level.ev - ev))
    return f" That is about “{nearest.label}”." if abs(nearest.ev - ev) <= 1 else ""


def _ev(given: GivenLine) -> Reply:
    n, t, iso = given.sure("f_number"), given.sure("shutter"), given.one("iso") or 100.0
    ev = float(exposure_value(n, t, iso))
    says = (
        f"EV {wording.significant(ev)}: {wording.f_number(n)} at {wording.shutter(t)} and"
        f" {wording.iso(iso)}.{_light_level(ev)}"
    )
    line = working(
        "L",
        "log₂(N² / t) − log₂(i / 100)",
        ev,
        "number",
        term("N", "f-number", n, "f"),
        term("t", "shutter time", t, "s"),
        term("i", "ISO", iso),
    )
    return Reply(says, (AnswerFigure("exposure value at ISO 100", ev, "number"),), (line,), _iso_assumed(given))


def _iso_assumed(given: GivenLine) -> tuple[str, ...]:
    return () if given.one("iso") else ("ISO 100 is taken.",)


def _from_ev(given: GivenLine) -> Reply:
    """The setting that is still open, for a light."""
    ev, iso = given.sure("ev"), given.one("iso")
    n, t = given.one("f_number"), given.one("shutter")
    assumed: tuple[str, ...] = ()
    if n is not None and t is not None:
        wanted = float(iso_for_light(n, t, ev))
        says, figure = f"{wording.marked_iso(wanted)}", AnswerFigure("ISO", wanted, "iso")
    elif n is not None:
        assumed = _iso_assumed(given)
        wanted = float(shutter_for_light_s(n, iso or 100.0, ev))
        says, figure = wording.marked_shutter(wanted), AnswerFigure("shutter time", wanted, "s")
    else:
        assumed = _iso_assumed(given)
        wanted = float(effective_f_number_for_light(given.sure("shutter"), iso or 100.0, ev))
        says, figure = wording.marked_f_number(wanted), AnswerFigure("f-number", wanted, "f")
    kept = [
        *(wording.f_number(value) for value in given.all("f_number")),
        *(wording.shutter(value) for value in given.all("shutter")),
        *(wording.iso(value) for value in given.all("iso")),
    ]
    return Reply(
        f"{says}, with {listed(kept)} at EV {wording.significant(ev)}.{_light_level(ev)}", (figure,), (), assumed
    )


def _ev_alone(given: GivenLine) -> Reply:
    ev = given.sure("ev")
    f8 = float(shutter_for_light_s(8.0, given.one("iso") or 100.0, ev))
    iso = given.one("iso") or 100.0
    says = (
        f"At EV {wording.significant(ev)} a picture takes {wording.marked_shutter(f8)} at f/8 and"
        f" {wording.iso(iso)}.{_light_level(ev)}"
    )
    return Reply(says, (AnswerFigure("shutter time at f/8", f8, "s"),), (), _iso_assumed(given))


def _sunny(given: GivenLine) -> Reply:
    iso, n = given.one("iso") or 100.0, given.one("f_number") or 16.0
    t = (n / 16.0) ** 2 / iso
    says = (
        f"{wording.marked_shutter(t)} at {wording.f_number(n)} and {wording.iso(iso)}, by the rule for"
        " full sun: one over the ISO at f/16."
    )
    line = working("t", "(N / 16)² / i", t, "s", term("N", "f-number", n, "f"), term("i", "ISO", iso))
    return Reply(says, (AnswerFigure("shutter time", t, "s"),), (line,), _iso_assumed(given), caution="sun")


def _flash(given: GivenLine) -> Reply:
    guide, n, iso = given.sure("guide"), given.one("f_number"), given.one("iso") or 100.0
    reach = guide * sqrt(iso / 100.0)
    if n is not None:
        far = reach / n
        says = f"It lights {given.write(far, 'm')} away at {wording.f_number(n)} and {wording.iso(iso)}."
        line = working(
            "d",
            "G × √(i / 100) / N",
            far,
            "m",
            term("G", "guide number", guide, "m"),
            term("i", "ISO", iso),
            term("N", "f-number", n, "f"),
        )
        return Reply(says, (AnswerFigure("distance", far, "m"),), (line,), _iso_assumed(given))
    d = given.sure("distance")
    number = reach / d
    says = f"{wording.marked_f_number(number)} lights {given.write(d, 'm')} at {wording.iso(iso)}."
    line = working(
        "N",
        "G × √(i / 100) / d",
        number,
        "f",
        term("G", "guide number", guide, "m"),
        term("i", "ISO", iso),
        term("d", "distance", d, "m"),
    )
    return Reply(says, (AnswerFigure("f-number", number, "f"),), (line,), _iso_assumed(given))


BETWEEN = frozenset({"stops", "differ", "light", "aperture", "shutter", "iso", "ev", "look", "noise"})
KINDS = (
    Kind(
        "stops-f",
        "Stops between f-numbers",
        ("f_number f_number stops?",),
        _between_f,
        ("stops between f/2.8 and f/4",),
        also=BETWEEN,
        weight=2,
    ),
    Kind(
        "stops-time",
        "Stops between times",
        ("shutter shutter stops?",),
        _between_times,
        ("1/60 to 1/250",),
        also=BETWEEN,
        weight=2,
    ),
    Kind(
        "stops-iso",
        "Stops between ISOs",
        ("iso iso",),
        _between_isos,
        ("stops from iso 100 to iso 3200",),
        also=BETWEEN,
        weight=2,
    ),
    Kind(
        "ev",
        "Exposure value",
        ("f_number shutter iso?",),
        _ev,
        ("ev of f/8 1/125",),
        also=BETWEEN | {"sunny"},
        weight=1,
    ),
    Kind(
        "settings",
        "Settings for a light",
        ("ev f_number iso?", "ev shutter iso?", "ev f_number shutter"),
        _from_ev,
        ("shutter at ev 12 f/8",),
        also=BETWEEN,
        weight=2,
    ),
    Kind("light", "A light by its exposure value", ("ev iso?",), _ev_alone, ("ev 12",), also=BETWEEN | {"distance"}),
    Kind(
        "stops-from",
        "A setting so many stops away",
        ("f_number stops", "shutter stops", "iso stops"),
        _shifted,
        ("3 stops from f/2.8",),
        also=BETWEEN | {"diffraction", "distance"},
    ),
    Kind(
        "sunny",
        "The rule for full sun",
        ("iso? f_number?",),
        _sunny,
        ("sunny 16 at iso 400",),
        frozenset({"sunny"}),
        frozenset({"iso", "aperture", "shutter", "sun"}),
        weight=1,
    ),
    Kind(
        "flash",
        "How far a flash lights",
        ("guide f_number iso?", "guide distance iso?"),
        _flash,
        ("guide number 40 at f/8",),
        also=frozenset({"flash", "pixels", "fit", "distance", "aperture", "iso", "light"}),
    ),
)
