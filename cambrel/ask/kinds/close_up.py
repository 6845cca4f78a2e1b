"""Close up: what is left of the light, what a magnification is on another format, and how near it is."""

from __future__ import annotations

from cambrel import wording
from cambrel.ask.answer_benches import on_bench, slot_of
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.ask.statement import TypedQuantity
from cambrel.comparison.brief import Brief
from cambrel.optics.closeup import extension_tube_mm, tube_light_stops
from cambrel.optics.formats import FULL_FRAME, crop_factor
from cambrel.optics.geometry import (
    field_size_m,
    focus_distance_from_object_distance_m,
    magnification,
    object_distance_for_magnification_m,
)
from cambrel.optics.light import effective_f_number, stops
from cambrel.optics.workings import term, working


def _scale(value: float) -> str:
    """A magnification as it is written: 1:2, 2:1."""
    return f"1:{wording.significant(1 / value)}" if value < 1 else f"{wording.significant(value)}:1"


def _lost(amount: float) -> str:
    """How much light is lost, in words."""
    said = wording.stops(amount)
    return f"{said} of light {'is' if said.startswith('1' + wording.NBSP) else 'are'} lost"


def _effective(given: GivenLine) -> Reply:
    m = given.one("magnification")
    if m is None:
        m = float(magnification(given.range_mm[0], given.sure("distance")))
    lost = float(stops((1 + m) ** 2, 1.0))
    figures = [AnswerFigure("light lost", lost, "stops"), AnswerFigure("magnification", m, "number")]
    n = given.one("f_number")
    if n is None:
        says = f"{_lost(lost)} at {_scale(m)}."
        line = working("S", "2 × log₂(1 + m)", lost, "stops", term("m", "magnification", m))
    else:
        effective = float(effective_f_number(n, m))
        says = f"{wording.f_number(n)} at {_scale(m)} exposes like {wording.f_number(effective)}: {_lost(lost)}."
        figures.insert(0, AnswerFigure("effective f-number", effective, "f"))
        line = working("E", "N × (1 + m)", effective, "f", term("N", "f-number", n, "f"), term("m", "magnification", m))
    return Reply(says, tuple(figures), (line,), tuple(given.assumed))


def _macro(given: GivenLine) -> Reply:
    m, sensor = given.sure("magnification"), given.sensor
    there, called = (
        (given.sensors[1].sensor, given.sensors[1].called) if len(given.sensors) > 1 else (FULL_FRAME, "full frame")
    )
    crop = crop_factor(sensor, there, given.by)
    width, full = sensor.width_mm / m, m * crop
    says = f"{_scale(m)} {given.where} shows {wording.significant(width)}{wording.NBSP}mm across the frame."
    if abs(crop - 1) > 0.01:
        says += f" That is the picture of {_scale(full)} on {called}."
    figures = [
        AnswerFigure(f"{'full-frame magnification' if there is FULL_FRAME else 'magnification there'}", full, "number"),
        AnswerFigure("width shown", width, "mm"),
    ]
    line = working(
        "M", "m × C", full, "number", term("m", "magnification", m), term("C", "crop factor between the two", crop)
    )
    opens: tuple[tuple[str, str], ...] = ()
    if given.all("focal"):
        f = given.range_mm[0]
        u = float(object_distance_for_magnification_m(f, m))
        mark = float(focus_distance_from_object_distance_m(u, f))
        says += (
            f" {wording.focal(f)} is then {given.write(u, 'm')} from the subject,"
            f" {given.write(mark, 'm')} from the sensor."
        )
        figures += [AnswerFigure("distance from the lens", u, "m"), AnswerFigure("distance from the sensor", mark, "m")]
        opens = (
            on_bench(given, slot_of(given.named, f, given.one("f_number")), panel="closeup", brief=Brief(distance_m=u)),
        )
    return Reply(
        says,
        tuple(figures),
        (line,),
        (*given.assumed, "A thin lens is taken. Many macro lenses shorten close up, and come nearer.")
        if opens
        else tuple(given.assumed),
        opens,
    )


def _magnification(given: GivenLine) -> Reply:
    f, u = given.range_mm[0], given.sure("distance")
    m = float(magnification(f, u))
    width = float(field_size_m(given.sensor.width_mm, f, u))
    says = (
        f"{_scale(m)}: {wording.focal(f)} focused at {given.write(u, 'm')} shows {given.write(width, 'm')}"
        " across the frame"
        f" {given.where}."
    )
    if abs(given.crop - 1) > 0.01:
        says += f" On full frame that is the picture of {_scale(m * given.crop)}."
    line = working(
        "m",
        "f / (1000 × u − f)",
        m,
        "number",
        term("f", "focal length", f, "mm"),
        term("u", "distance from the lens", u, "m"),
    )
    figures = (
        AnswerFigure("magnification", m, "number"),
        AnswerFigure("full-frame magnification", m * given.crop, "number"),
        AnswerFigure("width shown", width, "m"),
    )
    return Reply(
        says, figures, (line,), tuple(given.assumed), (on_bench(given, slot_of(given.named, f), panel="closeup"),)
    )


def _tube(given: GivenLine) -> Reply:
    """A tube behind a lens set to infinity: how long it has to be, or how large that makes things."""
    focals = [quantity.value for quantity in _lens_first(given)]
    f, m = focals[0], given.one("magnification")
    if m is None:
        m = focals[1] / f
        says = f"{_scale(m)}: {wording.focal(focals[1])} of tube behind {wording.focal(f)}"
        figure = AnswerFigure("magnification", m, "number")
        terms = (term("t", "length of the tube", focals[1], "mm"), term("f", "focal length", f, "mm"))
        line = working("m", "t / f", m, "number", *terms)
    else:
        length = float(extension_tube_mm(f, 0.0, m))
        says = f"{wording.focal(length)} of tube makes {_scale(m)} behind {wording.focal(f)}"
        figure = AnswerFigure("length of the tube", length, "mm")
        terms = (term("m", "magnification", m), term("f", "focal length", f, "mm"))
        line = working("t", "m × f", length, "mm", *terms)
    lost = float(tube_light_stops(0.0, m))
    u = float(object_distance_for_magnification_m(f, m))
    says = (
        f"{says}. {_lost(lost)[:1].upper()}{_lost(lost)[1:]}, and the subject is {given.write(u, 'm')} from the lens."
    )
    figures = (figure, AnswerFigure("light lost", lost, "stops"), AnswerFigure("distance from the lens", u, "m"))
    return Reply(says, figures, (line,), ("The lens is set to infinity. Its own close focus adds to the tube.",))


def _lens_first(given: GivenLine) -> list[TypedQuantity]:
    """The focal length of the lens, and then the length of the tube: that stands nearest to its word, first before it,
    or behind "tube of".
    """
    scan = given.statement.scan
    words = [mention for mention in given.statement.concepts if mention.text == "tube"]

    def away(quantity: TypedQuantity) -> tuple[int, bool]:
        said, gaps = quantity.mention, []
        for word in words:
            is_before = said.first < word.first
            gap = word.first - said.last if is_before else said.first - word.last - (scan.low(word.last) == "of")
            gaps.append((gap, not is_before))
        return min(gaps)

    return sorted(given.quantities["focal"], key=away, reverse=True)


KINDS = (
    Kind(
        "effective",
        "Light lost close up",
        (
            "magnification f_number? sensor?",
            "focal distance f_number? sensor?",
            "focal magnification f_number? sensor?",
        ),
        _effective,
        ("effective aperture of f/2.8 at 1:1", "light lost at 1:2"),
        frozenset({"effective"}),
        frozenset({"macro", "magnified", "aperture", "light", "distance", "stops", "look"}),
        weight=2,
        fits=lambda said: bool(said.all("magnification")) or bool(said.all("distance") or said.all("length")),
    ),
    Kind(
        "tube",
        "Extension tubes",
        ("focal magnification sensor?", "focal focal sensor?"),
        _tube,
        ("extension tube for 1:2 with 50 mm", "magnification of a 25 mm tube on 50 mm"),
        frozenset({"tube"}),
        frozenset({"macro", "magnified", "size", "effective", "light", "look", "shutter"}),
        weight=3,
    ),
    Kind(
        "macro",
        "A magnification on another format",
        ("magnification sensor? sensor? focal? f_number?",),
        _macro,
        ("60 mm macro 1:1 mft",),
        also=frozenset({"macro", "magnified", "look", "distance", "view", "size", "fit", "focal", "field"}),
    ),
    Kind(
        "magnification",
        "Magnification at a distance",
        ("focal distance sensor? f_number?",),
        _magnification,
        ("magnification of 100 mm at 0.5 m",),
        frozenset({"macro", "magnified"}),
        frozenset({"distance", "focal", "view", "field", "size"}),
        weight=1,
    ),
)
