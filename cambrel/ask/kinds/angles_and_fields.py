"""What a lens sees: its angle, its field, and from where a thing of a size fits."""

from __future__ import annotations

from math import inf

from cambrel import wording
from cambrel.ask.answer_benches import on_bench, slot_of
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.comparison.brief import Brief
from cambrel.optics.geometry import (
    angle_of_view_deg,
    field_size_m,
    focal_length_for_angle_mm,
    focal_length_for_image_distance_mm,
    image_distance_mm,
    object_distance_for_magnification_m,
)
from cambrel.optics.workings import Working, term, working

STANDING = frozenset(
    {
        "person",
        "man",
        "woman",
        "player",
        "dancer",
        "full length",
        "full body",
        "head to toe",
        "tower",
        "tree",
        "church",
        "door",
        "statue",
        "face",
        "head",
        "headshot",
        "head shot",
        "head and shoulders",
        "bust",
        "half body",
        "half length",
    }
)
"""What is higher than wide: it has to fit the height of the frame."""


def _angle_working(side: str, length_mm: float, v_mm: float, angle: float) -> Working:
    return working(
        "α",
        "2 × atan(d / (2 × v)) × 57.29577951",
        angle,
        "deg",
        term("d", f"{side} of the frame", length_mm, "mm"),
        term("v", "image distance, the focal length far away", v_mm, "mm"),
    )


def _sides_of(given: GivenLine) -> tuple[tuple[str, float], ...]:
    """The lengths of the frame, the one that is asked for first."""
    sensor, said = given.sensor, given.statement
    first = (
        "width"
        if "across" in said.terms or said.says("wide", "width")
        else "height"
        if "upright" in said.terms
        else "diagonal"
    )
    sides = (("diagonal", sensor.diagonal_mm), ("width", sensor.width_mm), ("height", sensor.height_mm))
    return tuple(sorted(sides, key=lambda side: side[0] != first))


def _angle(given: GivenLine) -> Reply:
    low, high = given.range_mm
    u = given.one("distance") or inf
    lens = wording.focal_range(low, high)
    figures, texts, workings = [], [], []
    for focal in dict.fromkeys((low, high)):
        for side, length in _sides_of(given):
            angle = float(angle_of_view_deg(length, focal, u))
            label = side if low == high else f"{side} at {wording.focal(focal)}"
            figures.append(AnswerFigure(f"angle, {label}", angle, "deg"))
            workings.append(_angle_working(side, length, float(image_distance_mm(focal, u)), angle))
    for index, (side, _) in enumerate(_sides_of(given)):
        values = [figure.value for figure in figures[index::3]]
        texts.append(" to ".join(wording.degrees(value) for value in dict.fromkeys(values)) + f" across the {side}")
    says = f"{lens} {given.where} sees {texts[0]}, {texts[1]} and {texts[2]}."
    if u != inf:
        says += f" That is focused at {given.write(u, 'm')}."
    return Reply(
        says,
        tuple(figures),
        tuple(workings[:3]),
        tuple(given.assumed),
        (on_bench(given, slot_of(given.named, low, longest_mm=high), panel="frames"),),
    )


def _focal_for_angle(given: GivenLine) -> Reply:
    angle = given.sure("angle")
    sides = _sides_of(given)
    focals = {side: float(focal_length_for_angle_mm(angle, length)) for side, length in sides}
    first = sides[0][0]
    rest = " and ".join(f"{wording.focal(focals[side])} across the {side}" for side, _ in sides if side != first)
    says = (
        f"{wording.focal(focals[first])} {given.where} sees {wording.degrees(angle)} across the {first}."
        f" It would be {rest}."
    )
    length = dict(sides)[first]
    line = working(
        "f",
        "d / (2 × t)",
        focals[first],
        "mm",
        term("d", f"{first} of the frame", length, "mm"),
        term("t", "tangent of half the angle", length / 2 / focals[first]),
    )
    figures = tuple(AnswerFigure(f"focal length, {side}", focals[side], "mm") for side, _ in sides)
    return Reply(
        says,
        figures,
        (line,),
        tuple(given.assumed),
        (on_bench(given, slot_of(given.named, focals[first]), panel="frames"),),
    )


def _field(given: GivenLine) -> Reply:
    low, high = given.range_mm
    d = given.sure("distance")
    ends = list(dict.fromkeys((low, high)))
    figures = []
    for focal in ends:
        for side, length in (("width", given.sensor.width_mm), ("height", given.sensor.height_mm)):
            at = side if low == high else f"{side} at {wording.focal(focal)}"
            figures.append(AnswerFigure(f"field, {at}", float(field_size_m(length, focal, d)), "m"))
    texts = [
        f"{given.write(figures[2 * index].value, 'm')} wide and {given.write(figures[2 * index + 1].value, 'm')} high"
        + ("" if len(ends) == 1 else f" at {wording.focal(focal)}")
        for index, focal in enumerate(ends)
    ]
    says = f"{wording.focal_range(low, high)} {given.where} sees {', '.join(texts)} at {given.write(d, 'm')}."
    line = working(
        "W",
        "w × d / v",
        figures[0].value,
        "m",
        term("w", "width of the frame", given.sensor.width_mm, "mm"),
        term("d", "distance", d, "m"),
        term("v", "image distance", float(image_distance_mm(low, d)), "mm"),
    )
    return Reply(
        says,
        tuple(figures),
        (line,),
        tuple(given.assumed),
        (on_bench(given, slot_of(given.named, low, longest_mm=high), panel="frames"),),
    )


def _is_standing(given: GivenLine) -> bool:
    return any(thing in STANDING for thing in given.statement.things) or given.statement.says("tall", "high", "height")


def _fit_sides(given: GivenLine) -> tuple[tuple[str, float], tuple[str, float]]:
    """The side of the frame that the thing has to fit, and the other."""
    width, height = ("width", given.sensor.width_mm), ("height", given.sensor.height_mm)
    return (height, width) if _is_standing(given) else (width, height)


def _distance_to_fit(given: GivenLine) -> Reply:
    focal, size = given.range_mm[0], given.size_m
    (side, length), (other, other_length) = _fit_sides(given)
    away, turned = (
        float(object_distance_for_magnification_m(focal, mm / (1000 * size))) for mm in (length, other_length)
    )
    says = (
        f"{given.write(away, 'm')} away. From there {given.write(size, 'm')} just fills the {side} of the frame with"
        f" {wording.focal(focal)} {given.where}. To fill its {other} stand {given.write(turned, 'm')} away."
    )
    line = working(
        "u",
        "f × (1 + 1000 × s / d) / 1000",
        away,
        "m",
        term("f", "focal length", focal, "mm"),
        term("s", "size of the thing", size, "m"),
        term("d", f"{side} of the frame", length, "mm"),
    )
    figures = (
        AnswerFigure(f"distance, along the {side}", away, "m"),
        AnswerFigure(f"distance, along the {other}", turned, "m"),
    )
    seen = on_bench(
        given,
        slot_of(given.named, focal, given.one("f_number")),
        panel="frames",
        brief=Brief(distance_m=away, subject_height_m=size),
    )
    return Reply(says, figures, (line,), tuple(given.assumed), (seen,))


def _focal_to_fit(given: GivenLine) -> Reply:
    size, d = given.size_m, given.sure("distance")
    (side, length), (other, other_length) = _fit_sides(given)
    focal, turned = (float(focal_length_for_image_distance_mm(mm * d / size, d)) for mm in (length, other_length))
    says = (
        f"{wording.focal(focal)} {given.where}: {given.write(size, 'm')} then just fills the {side} of the frame from"
        f" {given.write(d, 'm')}. To fill its {other} takes {wording.focal(turned)}."
    )
    line = working(
        "f",
        "1 / (1 / (1000 × d) + s / (w × d))",
        focal,
        "mm",
        term("d", "distance", d, "m"),
        term("s", "size of the thing", size, "m"),
        term("w", f"{side} of the frame", length, "mm"),
    )
    figures = (
        AnswerFigure(f"focal length, along the {side}", focal, "mm"),
        AnswerFigure(f"focal length, along the {other}", turned, "mm"),
    )
    return Reply(
        says, figures, (line,), tuple(given.assumed), (on_bench(given, slot_of(given.named, focal), panel="frames"),)
    )


SEEING = frozenset(
    {"diagonal", "phone", "angle", "across", "upright", "diagonally", "field", "view", "focal", "distance", "look"}
)
FITTING = frozenset(
    {
        "phone",
        "macro",
        "magnified",
        "thing",
        "fit",
        "field",
        "distance",
        "size",
        "focal",
        "upright",
        "across",
        "diagonally",
        "background",
        "view",
        "covers",
        "look",
    }
)
KINDS = (
    Kind(
        "angle",
        "Angle of view",
        ("focal sensor? distance? f_number?",),
        _angle,
        ("angle of view of 35 mm on aps-c", "fov 24 mm ff"),
        frozenset({"angle", "field", "across"}),
        SEEING,
        weight=1,
        fits=lambda said: not said.wants_a_look,
    ),
    Kind(
        "focal-for-angle",
        "Focal length for an angle",
        ("angle sensor?",),
        _focal_for_angle,
        ("which focal length sees 84 degrees on mft",),
        also=SEEING | {"field"},
        weight=1,
    ),
    Kind(
        "field",
        "How much is seen at a distance",
        ("focal distance sensor? f_number?",),
        _field,
        ("how wide does 24 mm ff see at 5 m",),
        frozenset({"field", "angle", "across"}),
        SEEING | {"fit", "size"},
        usual={"distance": "at 5 m"},
        weight=2,
    ),
    Kind(
        "distance-to-fit",
        "From where a thing fits",
        ("focal size sensor? f_number?",),
        _distance_to_fit,
        ("3 m engine with 50 on aps-c", "how far to fit a person with 85 mm ff"),
        also=FITTING,
        weight=1,
        fits=lambda said: bool({"thing", "fit", "size", "field"} & said.terms) or bool(said.all("size")),
    ),
    Kind(
        "focal-to-fit",
        "Which lens a thing fits",
        ("size distance sensor? f_number?",),
        _focal_to_fit,
        ("which lens for a 3 m engine at 10 m on mft",),
        also=FITTING,
        weight=1,
        fits=lambda said: bool({"thing", "fit", "focal", "field"} & said.terms) or bool(said.all("size")),
    ),
)
