"""Questions that people bring, each with the comparison that answers it and an answer computed from it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import inf

from cambrel import wording
from cambrel.links import Bench, Slot
from cambrel.optics.brief import Brief, Conventions, Hold
from cambrel.optics.comparison import Body, Comparison, Lens, Rig, compare
from cambrel.optics.formats import FORMATS, Sensor

PIXELS = {"full-frame": 6000, "micro-four-thirds": 5200, "aps-c": 6000, "one-inch": 5472, "type-1-1.3": 8192}
"""Pixels across of a usual body of the format."""
AS_SET = Hold("own", "spot", "own", "shutter")
PORTRAIT = Brief(distance_m=2.0, background_m=5.0, light_ev=8.0)


@dataclass(frozen=True)
class Question:
    """What people ask, in their words; the bench that shows it, and how it is looked at there; its answer in one line."""

    key: str
    text: str
    bench: Bench
    says: Callable[[Comparison], str]
    panel: str = "frames"

    def answer(self, conventions: Conventions) -> str:
        """The answer by the conventions in force."""
        b = self.bench
        return self.says(compare(b.brief, b.rigs, b.hold, conventions, b.reference))


def _slot(slug: str, focal_mm: float, f_number: float, iso: float = 400.0) -> Slot:
    made = FORMATS[slug]
    body = Body(Sensor(made.width_mm, made.height_mm, PIXELS[slug]))
    lens = Lens(focal_mm, focal_mm, ((focal_mm, f_number),))
    return Slot(Rig(body, lens, focal_mm, f_number, iso=iso), made.name, f"{focal_mm:g} mm f/{f_number:g}")


def _any(slug: str, focal_mm: float, f_number: float) -> Slot:
    """A body with a lens that can be set to anything."""
    made = FORMATS[slug]
    rig = Rig(Body(Sensor(made.width_mm, made.height_mm, PIXELS[slug])), Lens(), focal_mm, f_number)
    return Slot(rig, made.name, "any lens")


def _bench(*slots: Slot, hold: Hold | None = None, brief: Brief = PORTRAIT, scene: str = "footplate") -> Bench:
    return Bench(brief, slots, hold or Hold(), scene=scene, background_name="shed wall", foreground_name="handbrake")


def _f_number(c: Comparison) -> str:
    b = c.of(1)
    same, there = wording.f_number(b.settings.f_number), wording.f_number(b.blur.equivalent_f_number)
    return f"For the exposure yes; for depth of field and light {same} on Micro Four Thirds is {there} on full frame."


def _same_lens(c: Comparison) -> str:
    a, b = c.of(0), c.of(1)
    tighter = wording.times(a.view.field_wide_m / b.view.field_wide_m)
    depths = wording.distance(b.depth.total_m), wording.distance(a.depth.total_m)
    return "It sees {} tighter, and the print shows {} sharp instead of {}.".format(tighter, *depths)


def _step_back(c: Comparison) -> str:
    here, there = (wording.distance(c.of(index).settings.subject_distance_m) for index in (0, 1))
    return f"From {here} to {there}, and the perspective changes with it."


def _phone(c: Comparison) -> str:
    there = wording.f_number(c.of(1).blur.full_frame_f_number)
    return f"It exposes like one, but for depth of field and light it is {there} on full frame."


def _all_sharp(c: Comparison) -> str:
    full, four = (wording.f_number(c.of(index).settings.f_number) for index in (0, 1))
    sharp = wording.span(c.of(0).depth.near_m, c.of(0).depth.far_m)
    return f"Focused at 4 m, {full} at 24 mm on full frame or {four} at 12 mm on Micro Four Thirds: sharp {sharp}."


def _dusk(c: Comparison) -> str:
    ahead = wording.stops(abs(c.of(1).light.total_stops))
    return f"Full frame, by {ahead}, where both are as wide open and at the same shutter time."


def _matched(c: Comparison) -> str:
    here, there = (
        f"{wording.focal(s.focal_length_mm)} {wording.f_number(s.f_number)}"
        for s in (c.of(0).settings, c.of(1).settings)
    )
    return f"{there} on Micro Four Thirds makes the picture of {here} on full frame."


def _farther(c: Comparison) -> str:
    more = wording.times(c.of(0).frames.pitch_um / c.of(1).frames.pitch_um)
    across = f"here {more} as many along a line, as they are that much smaller"
    return f"Its frame is tighter, but what reaches is pixels on the subject: {across}."


def _exact(c: Comparison) -> str:
    off = wording.share(abs(c.of(1).view.simple_rule_error))
    return f"At a distance yes. At 30 cm the crop factor alone is off by {off} for 50 mm on Micro Four Thirds."


def _wide_open(c: Comparison) -> str:
    less = wording.times(c.of(1).blur.background_share / c.of(0).blur.background_share)
    return (
        f"At 25 mm f/1.2 the background’s discs are {less} the size in the print of those of 50 mm f/1.8 on full frame."
    )


def _noise(c: Comparison) -> str:
    return f"ISO 400 on Micro Four Thirds is as noisy as {wording.iso(c.of(1).light.looks_like_iso)} on full frame."


def _perspective(c: Comparison) -> str:
    larger = wording.times(c.of(1).view.background_scale / c.of(0).view.background_scale)
    return f"The distance does, not the lens: stepping from 1 m to 3 m makes the background {larger} as large against the face."


FULL, FOUR = _slot("full-frame", 50, 2.8), _slot("micro-four-thirds", 25, 2.8)
CLOSE = Brief(distance_m=0.3, subject_height_m=0.1, background_m=0.3)
QUESTIONS: tuple[Question, ...] = (
    Question("f-number", "Is f/2.8 here f/2.8 there?", _bench(FULL, FOUR, hold=AS_SET), _f_number, "depth"),
    Question(
        "same-lens", "Same lens on the smaller sensor: what changes?",
        _bench(FULL, _any("aps-c", 50, 2.8), hold=Hold("same", "spot", "f_number", "shutter")), _same_lens,
    ),
    Question(
        "step-back", "How far back must I step?",
        _bench(FULL, _any("micro-four-thirds", 50, 2.8), hold=Hold("same", "walk", "f_number", "shutter")), _step_back,
    ),
    Question(
        "phone", "Is my phone’s f/1.8 an f/1.8?",
        _bench(_slot("full-frame", 25, 1.8), _slot("type-1-1.3", 6.9, 1.8), hold=AS_SET), _phone, "depth",
    ),
    Question(
        "all-sharp", "From two metres to infinity, all sharp: how?",
        _bench(
            _any("full-frame", 24, 8), _any("micro-four-thirds", 12, 8),
            hold=Hold("equivalent", "spot", "depth", "shutter"), scene="yard",
            brief=Brief(distance_m=4.0, background_m=inf, light_ev=13.0, sharp_front_m=2.0, sharp_behind_m=inf),
        ),
        _all_sharp, "depth",
    ),
    Question(
        "dusk", "Who is cleaner at dusk?",
        _bench(
            _slot("full-frame", 50, 1.8), _slot("micro-four-thirds", 25, 1.8), hold=AS_SET,
            brief=Brief(distance_m=5.0, background_m=20.0, light_ev=4.0), scene="dusk",
        ),
        _dusk, "light",
    ),
    Question(
        "matched", "Which lens makes the same picture there?",
        _bench(FULL, _any("micro-four-thirds", 25, 1.4), hold=Hold("equivalent", "spot", "depth", "shutter")), _matched,
    ),
    Question(
        "reach", "Does the small sensor reach farther?",
        _bench(_slot("full-frame", 200, 5.6), _slot("micro-four-thirds", 200, 5.6), hold=AS_SET), _farther,
    ),
    Question(
        "exact", "Is the equivalence exact?",
        _bench(_slot("full-frame", 100, 5.6), _slot("micro-four-thirds", 50, 2.8), hold=AS_SET, brief=CLOSE), _exact,
    ),
    Question(
        "blur", "Does an f/1.2 make up for the smaller sensor?",
        _bench(_slot("full-frame", 50, 1.8), _slot("micro-four-thirds", 25, 1.2), hold=AS_SET), _wide_open, "depth",
    ),
    Question(
        "noise", "How does ISO 400 look there?",
        _bench(FULL, FOUR, hold=AS_SET), _noise, "light",
    ),
    Question(
        "perspective", "Does the lens change the perspective?",
        Bench(
            Brief(distance_m=1.0, background_m=5.0),
            (
                _any("full-frame", 35, 4),
                Slot(Rig(Body(Sensor(36, 24, 6000)), Lens(), 105, 4, distance_m=3.0), "Full frame", "any lens"),
            ),
            Hold("own", "own", "own", "shutter"), scene="footplate",
        ),
        _perspective,
    ),
)  # fmt: skip
