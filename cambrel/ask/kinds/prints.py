"""Pixels: how large they print, how many stand on a subject, what a crop leaves, how large the moon is."""

from __future__ import annotations

from math import radians, sqrt, tan

from cambrel import wording
from cambrel.ask.answer_benches import on_bench, slot_of
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.ask.sensors import Named
from cambrel.comparison.brief import Brief
from cambrel.optics.formats import FULL_FRAME
from cambrel.optics.geometry import image_distance_mm
from cambrel.optics.reach import megapixels_left, pixels_on_subject
from cambrel.optics.workings import term, working

DOTS_PER_INCH = 300.0
MM_PER_INCH = 25.4
MOON_DEG = 0.518
"""Its mean diameter seen from here; it varies by a ninth over its orbit."""


def _pixels(given: GivenLine) -> tuple[float, float]:
    """Pixels along both sides: as typed, else by the shape of the format, 3:2 where none is named."""
    values = given.quantities["megapixels"][0].values
    if len(values) == 3:
        return max(values[1:]), min(values[1:])
    aspect = given.sensors[0].sensor.aspect_ratio if given.sensors else 1.5
    if not given.sensors:
        given.assume("A frame of 3:2 is taken.")
    wide = sqrt(values[0] * 1e6 * aspect)
    return wide, wide / aspect


def _dots(given: GivenLine) -> float:
    dots = given.one("dots")
    if dots is None:
        given.assume("300 pixels to the inch are taken, for a print held in the hand.")
        return DOTS_PER_INCH
    return dots


def _sheet(wide_mm: float, high_mm: float) -> str:
    return f"{wording.significant(wide_mm / 10)} × {wording.significant(high_mm / 10)}{wording.NBSP}cm"


def _in_inches(wide_mm: float, high_mm: float) -> str:
    return (
        f"{wording.significant(wide_mm / MM_PER_INCH)} × {wording.significant(high_mm / MM_PER_INCH)}{wording.NBSP}in"
    )


def _print(given: GivenLine) -> Reply:
    wide, high = _pixels(given)
    dots = _dots(given)
    sides = wide / dots * MM_PER_INCH, high / dots * MM_PER_INCH
    says = f"{_sheet(*sides)} ({_in_inches(*sides)}) at {wording.significant(dots)} pixels to the inch."
    line = working(
        "W", "25.4 × n / q", sides[0], "mm", term("n", "pixels along it", wide), term("q", "pixels to the inch", dots)
    )
    figures = (AnswerFigure("long side", sides[0], "mm"), AnswerFigure("short side", sides[1], "mm"))
    return Reply(says, figures, (line,), tuple(given.assumed))


def _paper_mm(given: GivenLine) -> tuple[float, float]:
    values = given.quantities["paper"][0].values
    return max(values), min(values)


def _for_paper(given: GivenLine) -> Reply:
    wide, high = _paper_mm(given)
    dots = _dots(given)
    across, down = wide / MM_PER_INCH * dots, high / MM_PER_INCH * dots
    millions = across * down / 1e6
    says = (
        f"{wording.significant(millions)} megapixels, {across:,.0f} × {down:,.0f}, for"
        f" {_sheet(wide, high)} at {wording.significant(dots)} pixels to the inch."
    )
    line = working(
        "P",
        "w × h × q² / 25.4² / 1000000",
        millions,
        "number",
        term("w", "long side", wide, "mm"),
        term("h", "short side", high, "mm"),
        term("q", "pixels to the inch", dots),
    )
    figures = (
        AnswerFigure("megapixels", millions, "number"),
        AnswerFigure("pixels along the long side", across, "whole"),
    )
    return Reply(says, figures, (line,), tuple(given.assumed))


def _dots_of_print(given: GivenLine) -> Reply:
    wide, high = _paper_mm(given)
    across, down = _pixels(given)
    pixels, side, name = min(
        (across, wide, "long side"), (down, high, "short side"), key=lambda along: along[0] / along[1]
    )
    dots = pixels / side * MM_PER_INCH
    enough = (
        "enough for a print held in the hand"
        if dots >= DOTS_PER_INCH - 0.5
        else "softer than 300 when held in the hand, and fine from farther away"
    )
    says = f"{wording.significant(dots)} pixels to the inch on {_sheet(wide, high)}: {enough}."
    figures = (AnswerFigure("pixels to the inch", dots, "number"),)
    line = working(
        "q",
        "25.4 × n / w",
        dots,
        "number",
        term("n", "pixels along it", pixels),
        term("w", name, side, "mm"),
    )
    return Reply(says, figures, (line,), tuple(given.assumed))


def _pixels_on(given: GivenLine) -> Reply:
    f, d, size = given.range_mm[0], given.sure("distance"), given.size_m
    pitch = given.sensor.pixel_pitch_um
    assert pitch is not None
    v = float(image_distance_mm(f, d))
    count = float(pixels_on_subject(size, v, d, pitch))
    says = (
        f"About {wording.significant(count)} pixels along {given.write(size, 'm')} at"
        f" {given.write(d, 'm')}, with {wording.focal(f)} {given.where}."
    )
    line = working(
        "n",
        "1000000 × s × v / (1000 × d × p)",
        count,
        "number",
        term("s", "size of the thing", size, "m"),
        term("v", "image distance", v, "mm"),
        term("d", "distance", d, "m"),
        term("p", "pixel pitch", pitch, "um"),
    )
    seen = on_bench(
        given,
        slot_of(given.named, f, given.one("f_number")),
        panel="frames",
        brief=Brief(distance_m=d, subject_height_m=size),
    )
    return Reply(
        says,
        (AnswerFigure("pixels on the subject", count, "number"), AnswerFigure("pixel pitch", pitch, "um")),
        (line,),
        tuple(given.assumed),
        (seen,),
    )


def _in_frame(given: GivenLine) -> Reply:
    f, d, size = given.range_mm[0], given.sure("distance"), given.size_m
    v = float(image_distance_mm(f, d))
    on_sensor = size * v / d
    share = on_sensor / given.sensor.height_mm
    says = (
        f"{wording.share(share)} of the height of the frame: {given.write(size, 'm')} at {given.write(d, 'm')} with"
        f" {wording.focal(f)} {given.where}, {wording.focal(on_sensor)} on the sensor."
    )
    line = working(
        "s₂",
        "s × v / d",
        on_sensor,
        "mm",
        term("s", "size of the thing", size, "m"),
        term("v", "image distance", v, "mm"),
        term("d", "distance", d, "m"),
    )
    figures = (
        AnswerFigure("of the frame’s height", share, "share"),
        AnswerFigure("of the frame’s width", on_sensor / given.sensor.width_mm, "share"),
        AnswerFigure("on the sensor", on_sensor, "mm"),
    )
    brief = Brief(distance_m=d, subject_height_m=size)
    seen = on_bench(given, slot_of(given.named, f, given.one("f_number")), panel="frames", brief=brief)
    return Reply(says, figures, (line,), tuple(given.assumed), (seen,))


def _left_by_format(given: GivenLine) -> Reply:
    both = given.sensors[:2]
    if len(both) < 2:
        both = [Named(FULL_FRAME, "full frame", slug=FULL_FRAME.slug), *both]
        given.assume("The whole is taken to be full frame.")
    whole, used = (named.sensor for named in both)
    millions = given.sure("megapixels")
    if used.area_mm2 > whole.area_mm2:
        whole, used = used, whole
    names = sorted(both, key=lambda named: -named.sensor.area_mm2)
    left = float(megapixels_left(millions, whole.width_mm, whole.height_mm, used.width_mm, used.height_mm))
    says = (
        f"{wording.significant(left)} of its {wording.significant(millions)} megapixels are left of"
        f" {names[0].called} cropped to {names[1].called}."
    )
    line = working(
        "P",
        "M × w₂ × h₂ / (w₁ × h₁)",
        left,
        "number",
        term("M", "megapixels", millions),
        term("w₁", "width of the whole", whole.width_mm, "mm"),
        term("h₁", "height of the whole", whole.height_mm, "mm"),
        term("w₂", "width of the crop", min(used.width_mm, whole.width_mm), "mm"),
        term("h₂", "height of the crop", min(used.height_mm, whole.height_mm), "mm"),
    )
    return Reply(says, (AnswerFigure("megapixels left", left, "number"),), (line,), tuple(given.assumed))


def _left_by_factor(given: GivenLine) -> Reply:
    millions = given.sure("megapixels")
    percent = given.one("percent")
    factor = given.one("crop") or given.one("converter") or 1.0
    kept = 1 / factor if percent is None else percent / 100
    if not 0 < kept <= 1:
        return Reply("That crops nothing. Type a factor above 1, such as 1.5x, or a share of each side, such as 50 %.")
    left = millions * kept**2
    sides = (
        f"cropped by {wording.significant(factor)}"
        if percent is None
        else f"with {wording.significant(percent)} % of each side kept"
    )
    says = f"{wording.significant(left)} of {wording.significant(millions)} megapixels are left, {sides}."
    line = working(
        "P",
        "M × k²",
        left,
        "number",
        term("M", "megapixels", millions),
        term("k", "share of each side that is kept", kept),
    )
    return Reply(says, (AnswerFigure("megapixels left", left, "number"),), (line,), tuple(given.assumed))


def _moon(given: GivenLine) -> Reply:
    f = given.range_mm[1]
    size = 2 * f * tan(radians(MOON_DEG) / 2)
    share = size / given.sensor.height_mm
    name = "sun" if "sun" in given.statement.terms else "moon"
    says = (
        f"The {name} is {wording.focal(size)} across on the sensor with {wording.focal(f)}:"
        f" {wording.share(share)} of the height of the"
        f" frame {given.where}."
    )
    figures = [AnswerFigure("on the sensor", size, "mm"), AnswerFigure("of the frame’s height", share, "share")]
    pitch = given.sensor.pixel_pitch_um
    if pitch is not None:
        figures.append(AnswerFigure("pixels across", 1000 * size / pitch, "number"))
        says += f" That is {wording.significant(1000 * size / pitch)} pixels."
    line = working(
        "s",
        "2 × f × t",
        size,
        "mm",
        term("f", "focal length", f, "mm"),
        term("t", "tangent of half its angle", tan(radians(MOON_DEG) / 2)),
    )
    return Reply(
        says,
        tuple(figures),
        (line,),
        tuple(given.assumed),
        (on_bench(given, slot_of(given.named, f), panel="frames"),),
        caution="sun" if name == "sun" else "night",
    )


ON_PAPER = frozenset({"print", "pixels", "size", "format", "distance", "look"})
KINDS = (
    Kind(
        "print",
        "How large it prints",
        ("megapixels sensor? dots?",),
        _print,
        ("how big can i print 24 mp", "24 mp at 300 dpi"),
        also=ON_PAPER,
        weight=1,
        fits=lambda said: "print" in said.terms or bool(said.all("dots")),
    ),
    Kind(
        "paper",
        "Megapixels for a print",
        ("paper dots?",),
        _for_paper,
        ("megapixels for a 60 x 40 cm print",),
        also=ON_PAPER,
        weight=1,
    ),
    Kind(
        "print-dots",
        "How finely it prints",
        ("paper megapixels sensor?",),
        _dots_of_print,
        ("24 mp printed at A2",),
        also=ON_PAPER,
        weight=1,
    ),
    Kind(
        "pixels-on",
        "Pixels on a subject",
        ("focal size distance megapixels sensor? f_number?",),
        _pixels_on,
        ("pixels on a 30 cm bird at 20 m with 400 mm 20 mp mft",),
        also=frozenset({"pixels", "thing", "across", "size", "distance", "fit", "light"}),
        weight=2,
        usual={"megapixels": "24 mp"},
        fits=lambda said: "pixels" in said.terms or bool(said.all("megapixels")),
    ),
    Kind(
        "in-frame",
        "How large a thing is in the frame",
        ("focal size distance sensor? f_number?",),
        _in_frame,
        ("how large is a 30 cm bird at 20 m with 400 mm on mft",),
        also=frozenset({"thing", "size", "distance", "fit", "field", "view", "light", "magnified", "look"}),
        weight=1,
    ),
    Kind(
        "crop-to",
        "What a crop to a format leaves",
        ("megapixels sensor sensor?",),
        _left_by_format,
        ("45 mp ff cropped to aps-c",),
        frozenset({"cropped", "pixels"}),
        frozenset({"size", "format", "crop_factor", "look"}),
        weight=2,
        fits=lambda said: bool(said.sensors),
    ),
    Kind(
        "crop-by",
        "What a crop leaves",
        ("megapixels crop sensor?", "megapixels percent sensor?", "megapixels converter sensor?"),
        _left_by_factor,
        ("24 mp crop 1.5x",),
        also=frozenset({"cropped", "pixels", "size", "crop_factor", "format"}),
        weight=1,
    ),
    Kind(
        "moon",
        "How large the moon is",
        ("focal sensor? megapixels? f_number?",),
        _moon,
        ("how big is the moon at 400 mm mft",),
        frozenset({"moon", "sun"}),
        frozenset({"size", "fit", "field", "distance", "focal", "pixels", "look"}),
        weight=1,
    ),
)
