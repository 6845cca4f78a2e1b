"""Questions that people bring, each with the comparison that answers it and an answer computed from it."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from math import inf, log2
from urllib.parse import urlencode

from django.urls import reverse

from cambrel import wording
from cambrel.comparison.bench import Bench, Gear, Slot
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import Comparison, compare
from cambrel.links.benches import encode_gear
from cambrel.optics.equivalence import equivalent_f_number, equivalent_focal_length_mm
from cambrel.optics.formats import covers
from cambrel.optics.geometry import near_over_far
from cambrel.optics.quantities import is_unknown
from cambrel.shelf.systems import LEVEL, USUAL, Own
from cambrel.wording.sentences import LEVEL_STOPS

AS_SET = Hold("own", "spot", "own", "shutter")
PORTRAIT = Brief(distance_m=2.0, background_m=5.0, light_ev=8.0)
CLOSE = Brief(distance_m=0.3, subject_height_m=0.1, background_m=0.3)
HEAD_DEEP_M = 0.12


@dataclass(frozen=True)
class CommonQuestion:
    """What people ask, in their words; the bench that shows it, and how it is looked at there; its answer in one
    line.
    """

    key: str
    text: str
    on: Callable[[Own], Bench]
    says: Callable[[Comparison, Own], str]
    panel: str = "depth"
    leads_to: Callable[[Own], str] | None = None
    """Where it is seen, if not on a bench."""

    def asked(self, own: Own) -> str:
        return self.text.format(zoom=own.zoom_name)

    def answer(self, conventions: Conventions, own: Own = USUAL) -> str:
        """The answer on the reader's own gear, by the conventions in force."""
        own = replace(own, crop_by=conventions.crop_by)
        b = self.on(own)
        return self.says(compare(b.brief, b.rigs, b.hold, conventions, b.reference), own)


def _bench(*slots: Slot, hold: Hold | None = None, brief: Brief = PORTRAIT, scene: str = "footplate") -> Bench:
    return Bench(brief, slots, hold or Hold(), scene=scene, background_name="shed wall", foreground_name="handbrake")


def _pair(own: Own, hold: Hold = AS_SET) -> Bench:
    """The usual lens of either system, at one f-number."""
    return _bench(own.large.with_lens(50, 2.8), own.small.with_lens(float(f"{50 / own.k:.2g}"), 2.8), hold=hold)


def _f_number(c: Comparison, own: Own) -> str:
    b = c.of(1)
    same, there = wording.f_number(b.settings.f_number), wording.f_number(b.blur.equivalent_f_number)
    return (
        f"Yes for the exposure, no for depth of field and light: there {same} on {own.small.name} is {there} on"
        f" {own.large.name}."
    )


def _same_lens(c: Comparison, own: Own) -> str:
    a, b = c.of(0), c.of(1)
    narrower = wording.times(b.view.field_wide_m / a.view.field_wide_m)
    depths = wording.distance(b.depth.total_m), wording.distance(a.depth.total_m)
    return "Its view is {} as wide, and the print shows {} sharp instead of {}.".format(narrower, *depths)


def _step_back(c: Comparison, own: Own) -> str:
    here, there = (wording.distance(c.of(index).settings.subject_distance_m) for index in (0, 1))
    return f"From {here} to {there}, and the perspective changes with it."


def _phone(c: Comparison, own: Own) -> str:
    there = wording.f_number(c.of(1).blur.equivalent_f_number)
    return f"Yes for the exposure, no for depth of field and light: there it is {there} on {own.large.name}."


def _all_sharp(c: Comparison, own: Own) -> str:
    one, other = (
        f"{wording.f_number(s.f_number)} at {wording.focal(s.focal_length_mm)}"
        for s in (c.of(0).settings, c.of(1).settings)
    )
    sharp = wording.span(c.of(0).depth.near_m, c.of(0).depth.far_m)
    return f"Focused at 4 m, {one} on {own.large.name} or {other} on {own.small.name}: sharp {sharp}."


def _dusk(c: Comparison, own: Own) -> str:
    ahead = wording.stops(abs(c.of(1).light.total_stops))
    return f"{_capital(own.large.name)}, by {ahead}, where both are as wide open and at the same shutter time."


def _matched(c: Comparison, own: Own) -> str:
    here, there = (
        f"{wording.focal(s.focal_length_mm)} {wording.f_number(s.f_number)}"
        for s in (c.of(0).settings, c.of(1).settings)
    )
    return f"{there} on {own.small.name} takes the same picture as {here} on {own.large.name}."


def _farther(c: Comparison, own: Own) -> str:
    ratio = c.of(0).frames.pitch_um / c.of(1).frames.pitch_um
    if ratio <= 1 + LEVEL:
        return (
            "No. Its frame is tighter, but it puts no more pixels on the subject. Cropping the larger frame gives the"
            " same detail."
        )
    return (
        f"Yes, but for its pixels, not its frame: it puts {wording.times(ratio)} as many on the subject along a line."
    )


def _exact(c: Comparison, own: Own) -> str:
    a, b = c.of(0), c.of(1)
    simple = a.settings.focal_length_mm * a.frames.crop / b.frames.crop
    off, focal = wording.share(abs(simple / b.settings.focal_length_mm - 1)), wording.focal(simple)
    return (
        f"Yes at a distance. At 30 cm no: the crop factor alone says {focal} for {own.small.name} and is off by {off}."
    )


def _wide_open(c: Comparison, own: Own) -> str:
    ratio = c.of(1).blur.background_share / c.of(0).blur.background_share
    focal, answer = wording.focal(c.of(1).settings.focal_length_mm), "Yes" if 2 * log2(ratio) >= -LEVEL_STOPS else "No"
    return (
        f"{answer}. At {focal} f/1.2 the background blurs {wording.times(ratio)} as much in the print as at 50 mm f/1.8"
        f" on {own.large.name}."
    )


def _noise(c: Comparison, own: Own) -> str:
    iso = c.of(1).light.looks_like_iso
    if is_unknown(iso):
        return "Noise by the pixel is unknown: the pixel count of one of them is not on record."
    return f"ISO 400 on {own.small.name} is as noisy as {wording.iso(iso)} on {own.large.name}."


def _perspective(c: Comparison, own: Own) -> str:
    larger = wording.times(c.of(1).view.background_scale / c.of(0).view.background_scale)
    return f"No. The distance does: stepping from 1 m to 3 m makes the background {larger} as large against the face."


def _portrait(c: Comparison, own: Own) -> str:
    near, far = (float(near_over_far(c.of(i).settings.subject_distance_m, HEAD_DEEP_M)) - 1 for i in (0, 1))
    where = [wording.distance(c.of(i).settings.subject_distance_m) for i in (0, 1)]
    return (
        f"From {where[0]} the nose is {wording.share(near)} larger than the ears, from {where[1]} {wording.share(far)}:"
        " the distance makes the face, the focal length only frames it."
    )


def _replaces(c: Comparison, own: Own) -> str:
    short, long = own.zoom.focal_min_mm or 0.0, own.zoom.focal_max_mm or 0.0
    crops = c.of(0).frames.crop, c.of(1).frames.crop
    there = [float(equivalent_focal_length_mm(focal, crops[0], crops[1])) for focal in (short, long)]
    number = float(equivalent_f_number(own.zoom.widest[0][1], crops[0], crops[1]))
    return (
        f"On {own.small.name} {wording.focal_range(*there)} {wording.f_number(number)} would take its "
        f"pictures. Match shows what comes nearest."
    )


def _covers(c: Comparison, own: Own) -> str:
    circle, diagonal = own.lens.image_circle_mm or 0.0, own.large.body.sensor.diagonal_mm
    sizes = f"it lights {wording.focal(circle)}, {own.large.name} has {wording.focal(diagonal)} from corner to corner"
    if covers(circle, diagonal):
        return f"Yes. The {own.lens_name} does: {sizes}."
    return f"No. The {own.lens_name} does not: {sizes}."


def _capital(name: str) -> str:
    return name[0].upper() + name[1:]


def _stepping(own: Own) -> Bench:
    """One camera from 1 m and from 3 m, the face as large."""
    slots = own.large.with_any(35, 4), own.large.with_any(105, 4, distance_m=3.0)
    return Bench(
        Brief(distance_m=1.0, background_m=5.0), slots, Hold("own", "own", "own", "shutter"), scene="footplate"
    )


def _match_of(own: Own) -> str:
    gear = Gear(body=own.large.body, lens=own.zoom, body_name=own.large.name, lens_name=own.zoom_name)
    return f"{reverse('match:match')}?{urlencode({'g': encode_gear(gear)})}"


QUESTIONS: tuple[CommonQuestion, ...] = (
    CommonQuestion("f-number", "Is f/2.8 here f/2.8 there?", _pair, _f_number),
    CommonQuestion(
        "same-lens", "Same lens on the smaller sensor: what changes?",
        lambda own: _bench(own.large.with_lens(50, 2.8), own.small.with_any(50, 2.8),
            hold=Hold("same", "spot", "f_number", "shutter")),
        _same_lens, "frames",
    ),
    CommonQuestion(
        "step-back", "How far back must I step?",
        lambda own: _bench(own.large.with_lens(50, 2.8), own.small.with_any(50, 2.8),
            hold=Hold("same", "walk", "f_number", "shutter")),
        _step_back, "frames",
    ),
    CommonQuestion(
        "phone", "Is my phone’s f/1.8 an f/1.8?",
        lambda own: _bench(own.large.with_lens(25, 1.8), own.phone.with_lens(6.9, 1.8), hold=AS_SET), _phone,
    ),
    CommonQuestion("replaces", "What replaces my {zoom}?", _pair, _replaces, leads_to=_match_of),
    CommonQuestion("covers", "Can this lens cover that sensor?", _pair, _covers,
        leads_to=lambda own: own.fit or reverse("match:fit")),
    CommonQuestion(
        "all-sharp", "From two metres to infinity, all sharp: how?",
        lambda own: _bench(
            own.large.with_any(24, 8), own.small.with_any(24 / own.k, 8),
            hold=Hold("equivalent", "spot", "depth", "shutter"), scene="yard",
            brief=Brief(distance_m=4.0, background_m=inf, light_ev=13.0, sharp_front_m=2.0, sharp_behind_m=inf),
        ),
        _all_sharp,
    ),
    CommonQuestion(
        "dusk", "Who is cleaner at dusk?",
        lambda own: _bench(
            own.large.with_lens(50, 1.8), own.small.with_lens(float(f"{50 / own.k:.2g}"), 1.8), hold=AS_SET,
            brief=Brief(distance_m=5.0, background_m=20.0, light_ev=4.0), scene="dusk",
        ),
        _dusk, "light",
    ),
    CommonQuestion(
        "matched", "Which lens takes the same picture there?",
        lambda own: _bench(own.large.with_lens(50, 2.8), own.small.with_any(50 / own.k, 1.4),
            hold=Hold("equivalent", "spot", "depth", "shutter")),
        _matched,
    ),
    CommonQuestion(
        "reach", "Does the small sensor reach farther?",
        lambda own: _bench(own.large.with_lens(200, 5.6), own.small.with_lens(200, 5.6), hold=AS_SET), _farther,
        "frames",
    ),
    CommonQuestion(
        "portrait", "From which distance is it a portrait?", _stepping, _portrait,
    ),
    CommonQuestion(
        "exact", "Is the equivalence exact?",
        lambda own: _bench(own.large.with_lens(100, 5.6), own.small.with_any(100 / own.k, 2.8), brief=CLOSE),
        _exact, "numbers",
    ),
    CommonQuestion(
        "blur", "Does an f/1.2 make up for the smaller sensor?",
        lambda own: _bench(own.large.with_lens(50, 1.8), own.small.with_lens(float(f"{50 / own.k:.2g}"), 1.2),
            hold=AS_SET), _wide_open,
    ),
    CommonQuestion("noise", "How does ISO 400 look there?", _pair, _noise, "light"),
    CommonQuestion("perspective", "Does the lens change the perspective?", _stepping, _perspective, "frames"),
)  # fmt: skip


def question_asked(text: str) -> CommonQuestion | None:
    """The question that a line is, word for word, whatever its signs; None where it is another."""
    words = _words(text)
    return next((question for question in QUESTIONS if words and _words(question.asked(USUAL)) == words), None)


def _words(text: str) -> list[str]:
    return re.findall(r"[\w/.]*\w", text.lower().replace("’", "'"))
