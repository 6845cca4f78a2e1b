"""What counts as sharp on a format, and what that makes of the depth of field of two formats."""

from __future__ import annotations

from math import log2

from cambrel import wording
from cambrel.ask.kinds.depth_and_blur import PIXELS_NEEDED
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.ask.sensors import judged_by
from cambrel.ask.statement import ASKS_YES_OR_NO
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS, viewed
from cambrel.optics.formats import FULL_FRAME, crop_factor
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import term, working
from cambrel.wording.sentences import LEVEL_DEPTH

LESS = ("less", "shallower", "shallow", "thinner", "smaller")


def _circle(given: GivenLine) -> Reply:
    """The blur that still counts as sharp, by the reader's school and by the others."""
    conventions = given.terms.conventions
    print_of = judged_by(conventions)
    on_frame = viewed(given.sensor, FULL_FRAME, **print_of)
    known = {key: float(school.value(on_frame)) for key, school in CIRCLE_OF_CONFUSION_SCHOOLS.items()}
    known = {key: value for key, value in known.items() if not is_unknown(value)}
    own = conventions.criterion
    if own not in known:
        return Reply(PIXELS_NEEDED)
    school = CIRCLE_OF_CONFUSION_SCHOOLS[own]
    others = [
        f"{wording.focal(value)} ({CIRCLE_OF_CONFUSION_SCHOOLS[key].judge})"
        for key, value in known.items()
        if key != own
    ]
    says = f"{wording.focal(known[own])} {given.where}, {school.judge}. Others say: {', '.join(others)}."
    long_side = given.write(print_of["shown_long_side_mm"] / 1000, "m")
    away = given.write(print_of["viewing_distance_mm"] / 1000, "m")
    assumed = [*given.assumed, f"For the print one of {long_side} looked at from {away} is taken."]
    line = school.working(on_frame)
    figures = tuple(AnswerFigure(CIRCLE_OF_CONFUSION_SCHOOLS[key].label, value, "mm") for key, value in known.items())
    return Reply(says, figures, (line,) if line else (), tuple(assumed))


def _depths(given: GivenLine) -> Reply:
    """Depth of field near by, 2 N c / m²: framed alike m goes with the frame, and with one lens from one place it
    stays.
    """
    one, other = given.sensors[:2]
    circles = given.circle_of(one.sensor), given.circle_of(other.sensor)
    if circles[0] is None or circles[1] is None:
        return Reply(PIXELS_NEEDED)
    crop = crop_factor(one.sensor, other.sensor, given.by)
    placed = circles[0] / circles[1]
    framed = placed * crop**2
    first, second = one.called[:1].upper() + one.called[1:], other.called
    is_level = abs(framed - 1) <= LEVEL_DEPTH
    if is_level:
        says = f"Framed alike and at the same f-number, {one.called} and {second} have about the same depth of field."
    else:
        stopped = "stopping down" if framed > 1 else "opening up"
        says = (
            f"Framed alike, near by, and at the same f-number {one.called} has {wording.times(framed)} the"
            f" depth of field of {second}: what {stopped} by {wording.stops(abs(2 * log2(framed)))} does there."
            f" With one lens from one place it has {wording.times(placed)} the depth."
        )
    if given.statement.scan.low(0) in ASKS_YES_OR_NO:
        is_so = not is_level and (framed < 1) == given.statement.says(*LESS)
        says = f"{'Yes' if is_so else 'No'}. {says}"
    line = working(
        "T₁ / T₂",
        "(c₁ / c₂) × C²",
        framed,
        "number",
        term("c₁", f"blur that counts as sharp on {one.called}", circles[0], "mm"),
        term("c₂", f"blur that counts as sharp on {second}", circles[1], "mm"),
        term("C", "crop factor between the two", crop),
    )
    figures = (
        AnswerFigure(f"framed alike: {first}, {second}", framed, "times"),
        AnswerFigure(f"one lens from one place: {first}, {second}", placed, "times"),
    )
    return Reply(says, figures, (line,), tuple(given.assumed))


KINDS = (
    Kind(
        "circle",
        "Circle of confusion",
        ("sensor? megapixels?",),
        _circle,
        ("circle of confusion mft",),
        frozenset({"confusion"}),
        frozenset({"size", "diagonal", "format", "depth"}),
        weight=1,
    ),
    Kind(
        "depth-formats",
        "Depth of field of two formats",
        ("sensor sensor",),
        _depths,
        ("depth of field mft against full frame",),
        frozenset({"depth"}),
        frozenset({"differ", "look", "light", "format", "view"}),
        weight=1,
    ),
)
