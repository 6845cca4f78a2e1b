"""Formats by themselves and against each other: size, crop factor, area, pixels, image circles."""

from __future__ import annotations

from itertools import pairwise
from math import log2

from django.urls import reverse

from cambrel import wording
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.ask.statement import ASKS_YES_OR_NO, Statement
from cambrel.optics.formats import CROP_MEASURES, FULL_FRAME, Sensor, TwoFrames, covers, crop_factor
from cambrel.optics.light import stops
from cambrel.optics.workings import Working, term, working
from cambrel.wording.sentences import LEVEL_STOPS

FORMATS_PAGE = "formats:page"
SEE = "See the formats side by side"


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _sides(sensor: Sensor) -> str:
    return f"{wording.significant(sensor.width_mm)} × {wording.significant(sensor.height_mm)} mm"


def _crop_working(sensor: Sensor, by: str) -> Working:
    line = CROP_MEASURES[by].working(TwoFrames(sensor, FULL_FRAME))
    assert line is not None
    return line


def _size(given: GivenLine) -> Reply:
    named, by = given.named, given.by
    sensor, crop = named.sensor, given.crop
    lighter = float(stops(sensor.area_mm2, FULL_FRAME.area_mm2))
    figures = [
        AnswerFigure("width", sensor.width_mm, "mm"),
        AnswerFigure("height", sensor.height_mm, "mm"),
        AnswerFigure("diagonal", sensor.diagonal_mm, "mm"),
        AnswerFigure("crop factor", crop, "number"),
        AnswerFigure("area", sensor.area_mm2, "number"),
    ]
    sides = _sides(sensor)
    measured = f"A frame of {sides} is" if sides in named.called else f"{_capital(named.called)} measures {sides},"
    says = (
        f"{measured} {wording.focal(sensor.diagonal_mm)} from corner to corner. Its crop factor is"
        f" {wording.significant(crop)}."
    )
    if abs(lighter) > LEVEL_STOPS:
        side = "less" if lighter < 0 else "more"
        says += (
            f" It gathers {wording.stops(abs(lighter))} {side} light than full frame at the same"
            " f-number and shutter time."
        )
        figures.append(AnswerFigure("area against full frame", sensor.area_mm2 / FULL_FRAME.area_mm2, "share"))
        figures.append(AnswerFigure("light against full frame", lighter, "signed"))
    return Reply(
        says, tuple(figures), (_crop_working(sensor, by),), tuple(given.assumed), ((SEE, reverse(FORMATS_PAGE)),)
    )


def _against(given: GivenLine) -> Reply:
    """Two formats or three: how many times as large, and how much more light."""
    by, named = given.by, given.sensors
    lines, figures, workings = [], [], []
    for one, other in pairwise(named):
        large, small = (one, other) if one.sensor.area_mm2 >= other.sensor.area_mm2 else (other, one)
        k = crop_factor(small.sensor, large.sensor, by)
        area = large.sensor.area_mm2 / small.sensor.area_mm2
        ahead = float(stops(large.sensor.area_mm2, small.sensor.area_mm2))
        pair = f"{large.called}, {small.called}"
        if abs(ahead) <= LEVEL_STOPS and abs(k - 1) < 0.01:
            lines.append(f"{_capital(large.called)} and {small.called} are the same size.")
        else:
            lines.append(
                f"{_capital(large.called)} gathers {wording.stops(ahead)} more light than {small.called} at the same"
                f" f-number and shutter time. Its area is {wording.times_in_figures(area)} as large, its"
                f" {by if by != 'area' else 'side'} {wording.times_in_figures(k)}."
            )
        figures += [
            AnswerFigure(f"stops: {pair}", ahead, "stops"),
            AnswerFigure(f"area: {pair}", area, "times"),
            AnswerFigure(f"crop factor: {pair}", k, "number"),
        ]
        workings.append(
            working(
                "S",
                "log₂(A₁ / A₂)",
                ahead,
                "stops",
                term("A₁", f"area of {large.called}, mm²", large.sensor.area_mm2),
                term("A₂", f"area of {small.called}, mm²", small.sensor.area_mm2),
            )
        )
    claimed = given.one("stops")
    says = " ".join(lines)
    if given.statement.scan.low(0) in ASKS_YES_OR_NO and len(named) == 2 and claimed is None:
        larger = named[0].sensor.area_mm2 > named[1].sensor.area_mm2
        says = f"{'Yes' if larger != given.statement.says('smaller', 'worse', 'darker') else 'No'}. {says}"
    if claimed is not None and len(named) == 2:
        is_so = abs(abs(log2(named[0].sensor.area_mm2 / named[1].sensor.area_mm2)) - claimed) <= LEVEL_STOPS
        says = f"{'Yes' if is_so else 'No'}. {says}"
    return Reply(says, tuple(figures), tuple(workings), tuple(given.assumed), ((SEE, reverse(FORMATS_PAGE)),))


def _pixel_size(given: GivenLine) -> Reply:
    named = given.named
    sensor = named.sensor
    pitch = sensor.pixel_pitch_um
    assert pitch is not None and sensor.pixels_wide is not None
    count = sensor.pixels_wide * sensor.pixels_wide / sensor.aspect_ratio / 1e6
    if given.one("pitch") is not None:
        says = f"Pixels of {wording.micrometres(pitch)} make {wording.significant(count)} megapixels on {named.called}."
    else:
        says = (
            f"Each pixel is {wording.micrometres(pitch)} wide: {wording.significant(count)} megapixels"
            f" on {named.called}."
        )
    line = working(
        "p",
        "1000 × w / n",
        pitch,
        "um",
        term("w", "width of the frame", sensor.width_mm, "mm"),
        term("n", "pixels across it", sensor.pixels_wide),
    )
    figures = (AnswerFigure("pixel pitch", pitch, "um"), AnswerFigure("megapixels", count, "number"))
    return Reply(says, figures, (line,), tuple(given.assumed))


def _circle(given: GivenLine) -> Reply:
    if len(given.sensors) < 2:
        needed = given.sensor.diagonal_mm
        says = f"At least {wording.focal(needed)}: from corner to corner of {given.named.called}."
        return Reply(says, (AnswerFigure("circle that it has to light", needed, "mm"),), (), tuple(given.assumed))
    made, used = given.sensors[:2]
    circle, needed = made.sensor.diagonal_mm, used.sensor.diagonal_mm
    sizes = (
        f"A lens made for {made.called} has to light {wording.focal(circle)}, and {used.called} has"
        f" {wording.focal(needed)} from corner to corner."
    )
    says = (
        f"Yes. {sizes}"
        if covers(circle, needed)
        else f"Not by its size alone. {sizes} Look up the image circle of the lens."
    )
    figures = (
        AnswerFigure("circle that it has to light", circle, "mm"),
        AnswerFigure("diagonal to be covered", needed, "mm"),
    )
    return Reply(says, figures, (), tuple(given.assumed), (("Try it on Fit", reverse("match:fit")),))


def _normal(given: GivenLine) -> Reply:
    diagonal = given.sensor.diagonal_mm
    says = f"About {wording.focal(diagonal)} on {given.named.called}: a normal lens is as long as the frame's diagonal."
    line = working(
        "f",
        "√(w² + h²)",
        diagonal,
        "mm",
        term("w", "width of the frame", given.sensor.width_mm, "mm"),
        term("h", "height of the frame", given.sensor.height_mm, "mm"),
    )
    return Reply(says, (AnswerFigure("focal length", diagonal, "mm"),), (line,), tuple(given.assumed))


def _is_of_a_frame(said: Statement) -> bool:
    """Whether it is the frame that is asked about, and neither what a lens sees on it nor what a crop leaves."""
    if said.all("megapixels") and "cropped" in said.terms:
        return False
    return "field" not in said.terms or (said.says("width", "wide") and not said.says("view", "fov", "see", "sees"))


KINDS = (
    Kind(
        "format",
        "A format by itself",
        ("sensor megapixels?", "crop"),
        _size,
        ("how big is a one-inch sensor", "crop factor of 1/2.3", "mft"),
        also=frozenset({"field", "size", "crop_factor", "area", "diagonal", "light", "format", "cropped"}),
        fits=_is_of_a_frame,
    ),
    Kind(
        "formats",
        "Formats against each other",
        ("sensor sensor stops?", "sensor sensor sensor"),
        _against,
        ("stops ff to mft", "area of full frame against aps-c"),
        also=frozenset(
            {"size", "crop_factor", "area", "diagonal", "light", "format", "stops", "differ", "noise", "look"}
        ),
    ),
    Kind(
        "pixel-size",
        "How large a pixel is",
        ("megapixels sensor?", "pitch sensor"),
        _pixel_size,
        ("pixel size of 24 mp aps-c",),
        frozenset({"pixel_size", "pixels"}),
        frozenset({"size", "format"}),
        fits=lambda said: "pixel_size" in said.terms or bool(said.all("pitch")),
    ),
    Kind(
        "covers",
        "Whether a lens made for one format covers another",
        ("sensor sensor?",),
        _circle,
        ("does an aps-c lens cover full frame",),
        frozenset({"covers"}),
        frozenset({"fit", "field", "size"}),
        weight=1,
    ),
    Kind(
        "normal",
        "The normal lens of a format",
        ("sensor",),
        _normal,
        ("normal lens for mft",),
        frozenset({"normal"}),
        frozenset({"focal", "format", "look"}),
        weight=1,
    ),
)
