"""The shutter of a film: the time that rate and angle fix, the filter that it takes in the light, and the angle of a
time.
"""

from __future__ import annotations

from math import log2

from cambrel import wording
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.comparison.moving_pictures import FULL_CIRCLE_DEG, USUAL_ANGLE_DEG, film_shutter_s
from cambrel.optics.light import iso_for_light
from cambrel.optics.workings import term, working
from cambrel.wording.sentences import LEVEL_STOPS


def _frames(rate: float) -> str:
    return f"{wording.significant(rate, 5)} frames a second"


def _shutter(given: GivenLine) -> Reply:
    rate, angle = given.sure("rate"), given.one("angle")
    degrees = USUAL_ANGLE_DEG if angle is None else angle
    if degrees > FULL_CIRCLE_DEG:
        return Reply("A shutter angle is at most 360°: the frame is then exposed for all of its time.")
    seconds = film_shutter_s(rate, degrees)
    assumed = () if angle is not None else ("A shutter angle of 180° is taken, which is usual.",)
    line = working(
        "t", "A / (360 × R)", seconds, "s", term("A", "shutter angle", degrees, "deg"),
        term("R", "frames a second", rate),
    )  # fmt: skip
    says, figures = f"{wording.shutter(seconds)} for {wording.degrees(degrees)} at {_frames(rate)}.", [
        AnswerFigure("shutter time", seconds, "s")
    ]  # fmt: skip
    n, ev = given.one("f_number"), given.one("ev")
    if n is not None and ev is not None:
        needed = float(iso_for_light(n, seconds, ev))
        says += _says_light(given, n, needed)
        figures.append(AnswerFigure("ISO that the light asks for", needed, "iso"))
    return Reply(says, tuple(figures), (line,), assumed)


def _says_light(given: GivenLine, n: float, needed: float) -> str:
    """What the light asks for, and where an ISO is said what is over or short at it."""
    iso = given.one("iso")
    if iso is None:
        return f" At {wording.f_number(n)} the light asks for {wording.iso(needed)}."
    over = log2(iso / needed)
    lead = f" At {wording.f_number(n)} and {wording.iso(iso)}"
    if over > LEVEL_STOPS:
        filter_ = wording.articled(f"a {wording.n_stop(over)} neutral filter")
        return lead + f" it is {wording.stops(over)} too bright: put {filter_} on."
    if over < -LEVEL_STOPS:
        return lead + f" it is {wording.stops(-over)} too dark."
    return lead + " the exposure is right."


def _angle(given: GivenLine) -> Reply:
    rate, seconds = given.sure("rate"), given.sure("shutter")
    degrees = FULL_CIRCLE_DEG * rate * seconds
    line = working(
        "A", "360 × R × t", degrees, "deg", term("R", "frames a second", rate), term("t", "shutter time", seconds, "s")
    )  # fmt: skip
    if degrees > FULL_CIRCLE_DEG * (1 + 1e-9):
        longest = film_shutter_s(rate, FULL_CIRCLE_DEG)
        return Reply(
            f"Too long: {_frames(rate)} leave each frame {wording.shutter(longest)} at most.",
            (AnswerFigure("longest", longest, "s"),),
        )
    says = f"{wording.degrees(degrees)}: {wording.shutter(seconds)} at {_frames(rate)}."
    return Reply(says, (AnswerFigure("shutter angle", degrees, "deg"),), (line,))


WORDS = frozenset({"shutter", "light", "filter", "ev", "iso", "aperture", "stops", "angle", "look", "film"})
KINDS = (
    Kind(
        "film-shutter",
        "The shutter of a film",
        ("rate angle?", "rate angle? f_number ev iso?"),
        _shutter,
        ("shutter at 25 fps", "180 degrees at 24 fps f/4 EV 15 iso 100"),
        also=WORDS,
        weight=2,
    ),
    Kind(
        "film-angle",
        "The shutter angle of a time",
        ("rate shutter",),
        _angle,
        ("shutter angle of 1/50 at 25 fps",),
        also=WORDS,
        weight=2,
    ),
)
