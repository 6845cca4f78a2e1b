"""Words of the trade with one example each, worked out on the reader's own two systems."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import isfinite

from cambrel import wording
from cambrel.ask.common_questions import AS_SET, PORTRAIT
from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import Comparison, compare
from cambrel.comparison.tighter_views import fields_of
from cambrel.comparison.tonal_range import range_of
from cambrel.optics.formats import covers
from cambrel.optics.reach import megapixels_left
from cambrel.shelf.systems import Own
from cambrel.wording.glossary import TradeWord, parts, terms

MOST_WORDS = 3
FAR = Brief(distance_m=30.0, background_m=50.0)
STEPS_M = 2.0, 6.0
BEHIND_M = 5.0


@dataclass(frozen=True)
class TradeExample:
    """on: the bench that it is worked out on; says: one sentence or two from its comparison."""

    on: Callable[[Own], Bench]
    says: Callable[[Comparison, Own], str]

    def said(self, own: Own, conventions: Conventions) -> str:
        """The example on somebody's systems, by the conventions in force; empty where a figure it needs is unknown."""
        own = replace(own, crop_by=conventions.crop_by)
        bench = self.on(own)
        return self.says(compare(bench.brief, bench.rigs, bench.hold, conventions, bench.reference), own)


def _bench(first: Slot, second: Slot, brief: Brief = PORTRAIT, hold: Hold = AS_SET) -> Bench:
    return Bench(brief, (first, second), hold)


def _smaller_mm(own: Own, focal_mm: float) -> float:
    """The focal length with the same view on the smaller system, as a lens is named."""
    return float(f"{focal_mm / own.k:.2g}")


def _one_f_number(own: Own, focal_mm: float = 50.0, f_number: float = 1.8, brief: Brief = PORTRAIT) -> Bench:
    """One view at one f-number on both."""
    smaller = own.small.with_any(_smaller_mm(own, focal_mm), f_number)
    return _bench(own.large.with_any(focal_mm, f_number), smaller, brief)


def _lens(c: Comparison, index: int) -> str:
    s = c.of(index).settings
    return f"{wording.focal(s.focal_length_mm)} {wording.f_number(s.f_number)}"


def _bokeh(c: Comparison, own: Own) -> str:
    discs = [wording.share(c.of(index).blur.background_share) for index in (0, 1)]
    return (
        f"5 m behind a face, {_lens(c, 0)} on {own.large.name} makes discs of {discs[0]} of the frame,"
        f" {_lens(c, 1)} on {own.small.name} of {discs[1]}. Neither figure says how they look."
    )


def _compression(c: Comparison, own: Own) -> str:
    larger = wording.times(c.of(1).view.background_scale / c.of(0).view.background_scale)
    near, far = (wording.distance(distance) for distance in STEPS_M)
    return (
        f"Step back from {near} to {far}, and what is {wording.distance(BEHIND_M)} behind the subject looks {larger}"
        f" as large against it. That is the same on {own.large.name} and {own.small.name}."
    )


def _stepped(own: Own) -> Bench:
    slots = (own.large.with_any(35.0, 4.0), own.large.with_any(105.0, 4.0, distance_m=STEPS_M[1]))
    return _bench(*slots, Brief(distance_m=STEPS_M[0], background_m=BEHIND_M), Hold("own", "own", "own", "shutter"))


def _sweet_spot(c: Comparison, own: Own) -> str:
    limits = [c.of(index).diffraction.limited_f_number for index in (0, 1)]
    if not all(isfinite(limit) for limit in limits):
        return ""
    here, there = (wording.f_number(limit) for limit in limits)
    return f"Diffraction shows from {here} on {own.large.name}, and from {there} on {own.small.name}."


def _effective(c: Comparison, own: Own) -> str:
    focal = c.of(1).settings.focal_length_mm
    view = wording.focal(c.of(1).view.equivalent_focal_length_mm)
    return (
        f"{wording.focal(focal)} on {own.small.name} has the view of {view} on {own.large.name}. It stays a"
        f" {wording.focal(focal)} lens."
    )


def _fast(c: Comparison, own: Own) -> str:
    there, here = c.of(1).blur.equivalent_f_number, c.of(1).settings.f_number
    number = wording.f_number(here)
    return (
        f"At {number} {own.small.name} exposes like {own.large.name} at {number}. For depth of field and light it is"
        f" like {wording.f_number(there)}."
    )


def _dynamic_range(c: Comparison, own: Own) -> str:
    ranges = [range_of(c, c.of(index), c.of(index).rig.body.base_iso or 100.0) for index in (0, 1)]
    school = c.conventions.range
    found = [usable_range.by[school] for usable_range in ranges if usable_range is not None]
    if len(found) < 2:
        return ""
    large, small = (wording.stops(value) for value in found)
    return f"At base ISO {own.large.name} holds {large} in one frame, {own.small.name} {small}."


def _low_light(c: Comparison, own: Own) -> str:
    return (
        f"At one f-number and shutter time {own.large.name} gathers {wording.stops(-c.of(1).light.total_stops)} more"
        f" light than {own.small.name}. At the same depth of field the lead is gone."
    )


def _vignetting(c: Comparison, own: Own) -> str:
    circle, diagonal = own.lens.image_circle_mm, own.large.body.sensor.diagonal_mm
    if circle is None:
        return ""
    corners = "no dark corners from that" if covers(circle, diagonal) else "dark corners there"
    return (
        f"{own.lens_name} lights a circle of {wording.focal(circle)}. From corner to corner {own.large.name} is"
        f" {wording.focal(diagonal)}: {corners}."
    )


def _distortion(c: Comparison, own: Own) -> str:
    rig = c.of(0)
    stretch = 1 + (rig.frames.width_mm / 2 / rig.view.image_distance_mm) ** 2
    return (
        f"At the left and right edge of {wording.focal(rig.settings.focal_length_mm)} on {own.large.name} a face is"
        f" stretched to {wording.times(stretch)} its width, and the same on {own.small.name} at the same view."
    )


def _cropping(c: Comparison, own: Own) -> str:
    wide, tight = c.of(0), c.of(1)
    if not isfinite(wide.frames.pixels):
        return ""
    whole = wide.frames.pixels / 1e6
    left = float(megapixels_left(whole, *fields_of(wide), *fields_of(tight)))
    return (
        f"With one lens, cropped to the view of {own.small.name}, {own.large.name} keeps {left:.3g} of its"
        f" {whole:.3g} megapixels."
    )


def _micro_contrast(c: Comparison, own: Own) -> str:
    lines = [c.of(index).sharpness.lines_per_height for index in (0, 1)]
    if not all(isfinite(value) for value in lines):
        return ""
    here, there = (f"{round(value, -1):,.0f}" for value in lines)
    return (
        f"With a perfect lens at the same view, {own.large.name} at f/5.6 resolves about {here} line widths per picture"
        f" height, {own.small.name} {there}. Real lenses stay below."
    )


def _look(c: Comparison, own: Own) -> str:
    same = wording.f_number(c.of(0).settings.f_number / own.k)
    focal = wording.focal(c.of(1).settings.focal_length_mm)
    return f"To look like {_lens(c, 0)} on {own.large.name}, {own.small.name} needs {focal} {same}."


EXAMPLES: dict[str, TradeExample] = {
    "bokeh": TradeExample(_one_f_number, _bokeh),
    "compression": TradeExample(_stepped, _compression),
    "sweet-spot": TradeExample(_one_f_number, _sweet_spot),
    "effective-focal-length": TradeExample(_one_f_number, _effective),
    "fast-lens": TradeExample(_one_f_number, _fast),
    "dynamic-range": TradeExample(_one_f_number, _dynamic_range),
    "low-light": TradeExample(_one_f_number, _low_light),
    "vignetting": TradeExample(_one_f_number, _vignetting),
    "distortion": TradeExample(lambda own: _one_f_number(own, 24.0, 4.0, FAR), _distortion),
    "cropping": TradeExample(
        lambda own: _bench(own.large.with_any(100.0, 4.0), own.small.with_any(100.0, 4.0), FAR), _cropping
    ),
    "micro-contrast": TradeExample(lambda own: _one_f_number(own, 50.0, 5.6, FAR), _micro_contrast),
    "full-frame-look": TradeExample(_one_f_number, _look),
}


def example_of(slug: str, own: Own, conventions: Conventions) -> str:
    """The example of a word on somebody's systems; empty for a word that has none."""
    example = EXAMPLES.get(slug)
    if example is None:
        return ""
    said = example.said(own, conventions)
    return said[:1].upper() + said[1:]


def words_in(text: str) -> list[TradeWord]:
    """The words of the trade that a text asks about, the first few."""
    return [terms()[slug] for _, slug in parts(text) if slug][:MOST_WORDS]
