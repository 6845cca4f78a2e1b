"""How long a hand is steady, and how long stars stay points, by every rule that photographers use."""

from __future__ import annotations

from cambrel import wording
from cambrel.ask.answer_benches import on_bench, slot_of
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.ask.statement import Statement
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stars import STAR_SCHOOLS, UnderStars
from cambrel.optics.steadiness import HAND_SCHOOLS, Held
from cambrel.wording.sentences import LEVEL_STOPS

NAN = float("nan")


def _hand(given: GivenLine) -> Reply:
    focal = given.range_mm[1]
    steadied, conventions = given.one("stops") or 0.0, given.terms.conventions
    circle = given.circle_mm
    held = Held(focal, given.crop, steadied, focal, NAN if circle is None else circle, conventions.shake_arc_s)
    school = HAND_SCHOOLS[conventions.hand]
    seconds = float(school.value(held))
    if is_unknown(seconds):
        return Reply("Your hand is judged at two pixels, so the pixel count is needed. Add it, such as 24 MP.")
    capped = min(seconds, 1.0) if steadied else seconds
    by = f" with {wording.stops(steadied)} of stabilisation" if steadied else ""
    says = f"About {wording.marked_shutter(capped)} for {wording.focal(focal)} {given.where}{by}, held in the hand."
    if capped < seconds:
        says += f" The rule says {wording.shutter(seconds)}. No hand is steady for much longer than a second."
    asked = given.one("shutter")
    if asked is not None:
        says = f"{'Yes' if asked <= seconds * 2**LEVEL_STOPS else 'No'}. {says}"
    figures = (AnswerFigure("slowest shutter", seconds, "s"),)
    line = school.working(held)
    assumed = (
        *given.assumed,
        f"By the rule that you follow: {school.label}." + ("" if steadied else " Stabilisation is not counted."),
    )
    slot = slot_of(given.named, focal, given.one("f_number"), stabilisation_stops=steadied or None)
    return Reply(says, figures, () if line is None else (line,), assumed, (on_bench(given, slot, panel="steadiness"),))


def _stars(given: GivenLine) -> Reply:
    focal, conventions = given.range_mm[0], given.terms.conventions
    sensor, circle = given.sensor, given.circle_mm
    pitch = NAN if sensor.pixel_pitch_um is None else sensor.pixel_pitch_um
    number = given.one("f_number")
    under = UnderStars(
        focal,
        NAN if number is None else number,
        given.crop,
        pitch,
        sensor.width_mm,
        sensor.height_mm,
        NAN if circle is None else circle,
        0.0,
    )
    typed = next((key for key in ("500", "400", "300") if given.statement.says(key)), "")
    first = f"rule_{typed}" if typed else "aperture_pixel" if given.statement.says("npf") else conventions.star_rule
    known = {}
    for key, school in STAR_SCHOOLS.items():
        if key == "aperture_pixel" and (number is None or sensor.pixel_pitch_um is None):
            continue
        seconds = float(school.value(under))
        if not is_unknown(seconds):
            known[key] = seconds
    first = first if first in known else next(iter(known))
    others = [f"{STAR_SCHOOLS[key].label} {wording.shutter(value)}" for key, value in known.items() if key != first]
    label = STAR_SCHOOLS[first].label
    says = (
        f"{wording.shutter(known[first])} for {wording.focal(focal)} {given.where},"
        f" {'' if label.startswith('by') else 'by '}{label}."
        f" Others say: {', '.join(others)}."
    )
    asked = given.one("shutter")
    if asked is not None:
        is_short = asked <= known[first] * 2**LEVEL_STOPS
        says = f"{wording.shutter(asked)} is {'short enough' if is_short else 'too long'}: {says}"
    assumed = [*given.assumed, "The sky near the celestial equator is taken, where stars move fastest."]
    if "aperture_pixel" not in known:
        assumed.append("The rule by aperture and pixel needs the f-number and the pixel count.")
    line = STAR_SCHOOLS[first].working(under)
    figures = tuple(AnswerFigure(STAR_SCHOOLS[key].label, value, "s") for key, value in known.items())
    slot = slot_of(given.named, focal, number)
    return Reply(
        says,
        figures,
        () if line is None else (line,),
        tuple(assumed),
        (on_bench(given, slot, panel="stars"),),
        caution="night",
    )


def _is_held(said: Statement) -> bool:
    """Whether it is about a hand: by its words, or by stops of a stabiliser beside a shutter."""
    steadied = bool(said.all("stops")) and (bool(said.all("shutter")) or "shutter" in said.terms)
    return "hand" in said.terms or {"steadied", "shutter"} <= said.terms or steadied


SPEED = frozenset({"shutter", "focal", "distance", "aperture", "look"})
KINDS = (
    Kind(
        "hand",
        "Slowest shutter in the hand",
        ("focal sensor? stops? f_number? shutter?",),
        _hand,
        ("slowest handheld shutter 200 mm mft", "handheld 300 mm ff 5 stops ibis"),
        also=SPEED | {"stops", "hand", "steadied"},
        weight=1,
        fits=_is_held,
    ),
    Kind(
        "stars",
        "Star seconds",
        ("focal f_number? sensor? megapixels? pitch? shutter?",),
        _stars,
        ("500 rule 20 mm ff", "how long for stars with 14 mm f/2.8 24 mp ff"),
        frozenset({"stars"}),
        SPEED,
        weight=1,
    ),
)
