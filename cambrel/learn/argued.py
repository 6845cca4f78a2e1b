"""What each side of an argument comes to, said from the figures of the comparison that shows it."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import isfinite, log2

from cambrel import wording
from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import Body, Comparison, Lens, Rig, RigFigures
from cambrel.comparison.tighter_views import fields_of
from cambrel.drills.gathering import SHUTTER_KEPT
from cambrel.drills.seeing import SAME_LENS
from cambrel.optics.depth import depth_of_field
from cambrel.optics.formats import Sensor
from cambrel.optics.light import exposure_value
from cambrel.optics.reach import megapixels_left
from cambrel.verdicts.sharp import LEVEL_PITCH, LEVEL_RESOLVED
from cambrel.wording.sentences import LEVEL_DEPTH, LEVEL_STOPS, LEVEL_VIEW

TEN_CM = 0.1
PORTRAIT = Brief(distance_m=2.0, background_m=5.0, light_ev=8.0)
GOOD_LENS = Lens(
    50, 50, ((50, 1.8),), mtf50=((1.8, 55.0), (4.0, 85.0), (16.0, 85.0)),
    mtf50_away=((8.0, 1.8, 45.0), (8.0, 16.0, 75.0), (14.0, 1.8, 32.0), (14.0, 16.0, 60.0), (22.0, 1.8, 18.0),
        (22.0, 16.0, 40.0)),
)  # fmt: skip
"""Better in the middle than in the corners, as lenses are."""
ONE_SPOT = Hold("own", "spot", "f_number", "shutter")
DEPTH_KEPT = Hold("equivalent", "spot", "depth", "shutter")


@dataclass(frozen=True)
class Chosen:
    """What it is argued about: two cameras, the larger first, an f-number, and the schools in force."""

    large: Body
    large_name: str
    small: Body
    small_name: str
    f_number: float = 2.8
    conventions: Conventions = field(default_factory=Conventions)

    def bench(
        self,
        hold: Hold,
        *,
        brief: Brief = PORTRAIT,
        lens: Lens | None = None,
        focal: float = 50.0,
        second: float = 0.0,
        iso: float = 400.0,
    ) -> Bench:
        """Both cameras with a lens that can be set to anything, or another; `second` is that of the other, where it is
        its own.
        """
        glass = lens or Lens()
        rigs = (
            Rig(self.large, glass, focal, self.f_number, iso=iso),
            Rig(self.small, glass, second or focal, self.f_number, iso=iso),
        )
        names = (self.large_name, self.small_name)
        slots = tuple(
            Slot(rig, name, "any lens" if lens is None else "one lens") for rig, name in zip(rigs, names, strict=True)
        )
        return Bench(
            brief,
            slots,
            hold,
            self.conventions,
            scene="footplate",
            background_name="shed wall",
            foreground_name="handbrake",
        )


def word(ratio: float, level: float, less: str = "less", more: str = "more", alike: str = "as much") -> str:
    """Which of three words holds of a ratio."""
    return alike if 1 / (1 + level) <= ratio <= 1 + level else more if ratio > 1 else less


def _depths(c: Comparison) -> tuple[float, float]:
    return c.of(0).depth.total_m, c.of(1).depth.total_m


def on_the_sensor(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    circle_mm = a.frames.coc_mm
    near, far = (
        depth_of_field(r.settings.focal_length_mm, r.settings.f_number, r.settings.object_distance_m, circle_mm)
        for r in (a, b)
    )
    spans = [wording.span(float(depth.near_m), float(depth.far_m)) for depth in (near, far)]
    discs = [wording.focal(rig.blur.background_mm) for rig in (a, b)]
    same = "the same" if spans[0] == spans[1] and discs[0] == discs[1] else "not the same"
    return (
        f"A point of the shed wall is a disc of {discs[0]} on A and of {discs[1]} on B, and by one circle both are"
        f" sharp {spans[0]}: {same}."
    )


def in_the_print(c: Comparison, t: Chosen) -> str:
    one, other = _depths(c)
    how = word(other / one, LEVEL_DEPTH)
    return (
        f"In one print B has {how} depth of field {'as' if how == 'as much' else 'than'} A: {wording.distance(other)}"
        f" against {wording.distance(one)}."
    )


def yes_exposure(c: Comparison, t: Chosen) -> str:
    stops = c.of(1).light.brightness_stops
    level = "as bright as" if abs(stops) <= LEVEL_STOPS else "brighter than" if stops > 0 else "darker than"
    number, time, iso = (
        wording.f_number(t.f_number),
        wording.shutter(c.of(1).settings.shutter_s),
        wording.iso(c.of(1).settings.iso),
    )
    said = f"At {number}, {time} and {iso} B’s picture is {level} A’s"
    return f"{said}: each square millimetre gets the same light." if abs(stops) <= LEVEL_STOPS else f"{said}, as set."


def no_depth(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    number, there = wording.f_number(t.f_number), wording.f_number(b.blur.equivalent_f_number)
    blur, light = b.blur.background_share / a.blur.background_share, b.light.total_stops
    gathers = word(2**light, 2**LEVEL_STOPS - 1)
    more = (
        f"{wording.stops(light)} {gathers} light in the whole picture"
        if gathers != "as much"
        else "as much light in the whole picture"
    )
    return (
        f"For depth, blur and noise {number} on B is {there} on A: its background’s discs are {wording.times(blur)} the"
        f" size in the print, and it gathers {more}."
    )


def reaches(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    fills = b.view.fill / a.view.fill
    how = word(fills, LEVEL_VIEW, "smaller", "larger", "as large")
    if how == "as large":
        return "With one lens the subject is as large in B’s picture as in A’s."
    return f"With one lens the subject is {how} in B’s picture: {wording.times(fills)} as tall against the frame."


def pixels_reach(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    counts = [per_ten_cm(c, rig) for rig in (a, b)]
    if not all(map(isfinite, counts)):
        return "Pixels on the subject decide, and they are not on record for both."
    how = word(counts[1] / counts[0], LEVEL_PITCH, "fewer", "more", "as many")
    left = float(megapixels_left(a.frames.pixels / 1e6, *fields_of(a), *fields_of(b)))
    than = "as" if how == "as many" else "than"
    ratio = "" if how == "as many" else f", {wording.times(counts[1] / counts[0])} as many"
    return (
        f"B puts {how} pixels on each 10 cm of the subject {than} A{ratio}: {wording.significant(counts[1])} against"
        f" {wording.significant(counts[0])}. Cropped to B’s view, A keeps {wording.significant(left)} of its"
        f" {wording.significant(a.frames.pixels / 1e6)} megapixels."
    )


def per_ten_cm(c: Comparison, rig: RigFigures) -> float:
    """Pixels along ten centimetres of the subject."""
    return rig.sharpness.pixels_on_subject * TEN_CM / min(c.brief.subject_height_m, rig.view.field_high_m)


def stepped(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    one, other = _depths(c)
    how = word(other / one, LEVEL_DEPTH)
    where = [wording.distance(rig.settings.subject_distance_m) for rig in (a, b)]
    return (
        f"From {where[0]} with {wording.focal(a.settings.focal_length_mm)}, from {where[1]} with"
        f" {wording.focal(b.settings.focal_length_mm)}: {how} depth of field, {wording.distance(other)}"
        f" {'and' if how == 'as much' else 'against'} {wording.distance(one)}."
    )


def softer(c: Comparison, t: Chosen) -> str:
    ratio = c.of(1).blur.background_share / c.of(0).blur.background_share
    how = word(ratio, 2 ** (LEVEL_STOPS / 2) - 1, "smaller", "larger", "as large")
    if how == "as large":
        return "The background’s discs are as large with the longer lens."
    return (
        f"The background’s discs are {how} with the longer lens, {wording.times(ratio)} the size: what lies behind is"
        " shown larger, and so is its blur."
    )


def per_pixel(c: Comparison, t: Chosen) -> str:
    one, other = (c.of(index).light.snr_pixel for index in (0, 1))
    how = word((other / one) ** 2, 2**LEVEL_STOPS - 1, "noisier", "cleaner", "as clean")
    than = "as" if how == "as clean" else "than"
    return (
        f"Pixel for pixel B is {how} {than} A: signal to noise {wording.significant(other)} against"
        f" {wording.significant(one)}."
    )


def per_picture(c: Comparison, t: Chosen) -> str:
    one, other = (c.of(index).light.snr_picture for index in (0, 1))
    how = word((other / one) ** 2, 2**LEVEL_STOPS - 1, "noisier", "cleaner", "as clean")
    than = "as" if how == "as clean" else "than"
    return (
        f"Shown at one size B’s picture is {how} {than} A’s: signal to noise {wording.significant(other)} against"
        f" {wording.significant(one)}."
    )


def rule(c: Comparison, t: Chosen) -> str:
    b = c.of(1)
    off = abs(b.view.simple_rule_error)
    exact = wording.focal(b.settings.focal_length_mm)
    simple = wording.focal(c.of(0).settings.focal_length_mm * b.frames.k)
    where = wording.distance(b.settings.subject_distance_m)
    if off <= LEVEL_VIEW:
        return f"At {where} the crop factor says {simple}, and the same picture takes {exact}: the same."
    return f"At {where} the crop factor says {simple}, but the same picture takes {exact}: off by {wording.share(off)}."


def _lines(c: Comparison, t: Chosen, values: tuple[float, float], where: str) -> str:
    how = word(values[1] / values[0], LEVEL_RESOLVED, "less sharp", "sharper", "as sharp")
    than = "as" if how == "as sharp" else "than"
    return (
        f"{where} B’s picture is {how} {than} A’s: {wording.significant(values[1])} line widths per picture height"
        f" against {wording.significant(values[0])}."
    )


def corner(c: Comparison, t: Chosen) -> str:
    corner = c.corner.lines_per_height
    return _lines(c, t, (float(corner[0]), float(corner[1])), "In the corner")


def middle(c: Comparison, t: Chosen) -> str:
    return _lines(c, t, (c.of(0).sharpness.lines_per_height, c.of(1).sharpness.lines_per_height), "In the middle")


def with_pixels(t: Chosen, iso: float) -> Bench:
    """The larger frame twice, with many pixels and with a quarter of them."""
    frame = t.large.sensor
    many, few = (Body(Sensor(frame.width_mm, frame.height_mm, across)) for across in (8000, 4000))
    both = replace(t, large=many, small=few, large_name="48 MP", small_name="12 MP")
    # the light is such that the ISO is right, so that the pictures are as noisy as they would be
    return both.bench(
        SHUTTER_KEPT, iso=iso, brief=replace(PORTRAIT, light_ev=float(exposure_value(t.f_number, 1 / 125, iso)))
    )


def looms(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    larger = wording.times(b.view.background_scale / a.view.background_scale)
    where = [
        f"from {wording.distance(r.settings.subject_distance_m)} with {wording.focal(r.settings.focal_length_mm)}"
        for r in (a, b)
    ]
    return f"B is taken {where[1]}, A {where[0]}. On B the background looks {larger} as large against the subject."


def stays(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    where, same = wording.distance(b.settings.subject_distance_m), b.view.background_scale / a.view.background_scale
    how = word(same, LEVEL_VIEW, "smaller", "larger", "the same size")
    across = wording.times(b.view.field_wide_m / a.view.field_wide_m)
    return (
        f"From {where} the background is {how} against the subject with {wording.focal(a.settings.focal_length_mm)} and"
        f" with {wording.focal(b.settings.focal_length_mm)}. The longer lens only shows {across} as much across."
    )


def tomorrow(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    return (
        f"{wording.focal(a.settings.focal_length_mm)} on B has the view of"
        f" {wording.focal(b.view.equivalent_focal_length_mm)} on A. On A it has its own."
    )


def today(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    return (
        f"B catches {wording.share(b.frames.area_mm2 / a.frames.area_mm2)} of the light that the lens puts on A’s"
        f" frame, {wording.stops(-b.light.total_stops)} less in the whole picture."
    )


def stopped_down(t: Chosen) -> Chosen:
    """With the larger camera at the f-number that leaves the smaller one its own for the same depth of field."""
    k = t.large.sensor.diagonal_mm / t.small.sensor.diagonal_mm
    return replace(t, f_number=t.f_number * k)


def even(c: Comparison, t: Chosen) -> str:
    a, b = c.of(0), c.of(1)
    stops = b.light.total_stops
    how = word(2**stops, 2**LEVEL_STOPS - 1)
    gathers = "as much light as" if how == "as much" else f"{wording.stops(abs(stops))} {how} light than"
    lead = wording.stops(log2(a.frames.area_mm2 / b.frames.area_mm2))
    return (
        f"At the same depth of field B’s picture gathers {gathers} A’s. At the same f-number it would be {lead} less."
    )


def native(t: Chosen) -> Bench:
    """The large lens on the smaller frame, beside one drawn as fine for that frame as it is for its own."""
    k = t.large.sensor.diagonal_mm / t.small.sensor.diagonal_mm
    finer = replace(GOOD_LENS, mtf50=tuple((n, per_mm * k) for n, per_mm in GOOD_LENS.mtf50), mtf50_away=())
    both = replace(t, large=t.small, large_name=t.small_name).bench(SAME_LENS, lens=GOOD_LENS)
    first, second = both.slots
    slots = (first, replace(second, rig=replace(second.rig, lens=finer), lens_name="a lens made for it"))
    return replace(both, slots=slots, hold=ONE_SPOT)


def one_camera(t: Chosen) -> Chosen:
    return replace(t, small=t.large, small_name=t.large_name)
