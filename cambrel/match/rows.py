"""A row of an answer: one lens as it would be set on the target, and how near it comes, in words; and the bench that
shows both.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import isfinite, isnan, nan
from typing import Any

import numpy as np

from cambrel import wording
from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import Body as OpticsBody
from cambrel.comparison.engine import Brief, Hold, Rig
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.match import CANNOT, EXACT, NEAR, UNKNOWN, Matches, Nearness
from cambrel.comparison.outer_sizes import Block
from cambrel.conventions.home import in_terms
from cambrel.drawings.gear_sizes import lens_drawing, small_scale
from cambrel.drawings.shapes import Drawing
from cambrel.links.addresses import bench_address
from cambrel.match.lens_shelf import LensShelf
from cambrel.match.match_query import MatchQuery
from cambrel.optics.formats import Sensor, crop_factor
from cambrel.shelf.models import Body, Lens
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW

WORDS = {EXACT: "exact", NEAR: "near", CANNOT: "no match", UNKNOWN: "unknown"}


@dataclass(frozen=True)
class Target:
    """A system or a body on which the picture is to be made."""

    key: str
    name: str
    sensor: Sensor
    body: Body | None = None


@dataclass(frozen=True)
class LensRow:
    """A lens in an answer, as it reads."""

    pk: int
    name: str
    mount: str
    setting: str
    view: str
    depth: str
    light: str
    weight: str
    price: str
    length: str
    status: str
    word: str
    equivalent: str
    bench: str
    fits_by: str = ""
    block: Block | None = None
    """Its size, where that is known."""
    pupil_mm: float = nan
    drawing: Drawing | None = None


def drawn_to_one_scale(rows: Sequence[LensRow]) -> list[LensRow]:
    """The rows of a page, each lens of known size drawn beside it, all to one scale."""
    scale = small_scale([row.block for row in rows if row.block is not None])
    return [
        row if row.block is None else replace(row, drawing=lens_drawing(row.block, row.pupil_mm, scale)) for row in rows
    ]


@dataclass(frozen=True)
class RowSource:
    weight_g: float
    price: float
    currency: str
    length_mm: float


def source_of(question: MatchQuery, shelf: LensShelf) -> RowSource:
    """What is known of the lens that makes the picture now."""
    lens, nan = question.gear.lens, float("nan")
    length = shelf.lengths_mm.get(question.gear.lens_name)
    if lens is None:
        return RowSource(nan, nan, "", nan)
    return RowSource(
        nan if lens.weight_g is None else lens.weight_g,
        nan if lens.price is None else lens.price,
        lens.currency,
        nan if length is None else length,
    )


def _difference(value: float, source: float, show: Callable[[float], str], more: str, less: str) -> str:
    if isnan(value):
        return "unknown"
    if isnan(source):
        return str(show(value))
    apart = value - source
    return (
        f"{show(value)}, {show(abs(apart))} {more if apart > 0 else less}"
        if abs(apart) >= 0.5
        else f"{show(value)}, the same"
    )


def _block(row: dict[str, Any]) -> Block | None:
    long, across = row["length_mm"], row["diameter_mm"]
    return None if long is None or across is None else Block(row["name"], (long, across, across), is_round=True)


def row_of(
    question: MatchQuery,
    shelf: LensShelf,
    target: Target,
    found: Matches,
    index: int,
    source: RowSource,
    judged: Conventions,
) -> LensRow:
    row = shelf.rows[index]
    status = Nearness(int(found.status[index]))
    price = float(shelf.price[index])
    currency = row["currency"]
    if isnan(price):
        priced = "unknown"
    elif currency == source.currency and isfinite(source.price):
        priced = _difference(price, source.price, lambda v: wording.money(v, currency), "dearer", "cheaper")
    else:
        priced = wording.money(price, currency)
    crop = crop_factor(target.sensor, by=judged.crop_by)
    focal, wide = float(found.focal_mm[index]), float(found.widest[index])
    number = float(found.f_number[index])
    # what it is set to: the two columns speak of one setting
    if question.picture.is_range:
        equivalent = in_terms(judged, lambda home: _overlap(shelf, found, index, crop / home))
    else:

        def write(home: float) -> str:
            said = ", f-number unknown" if isnan(wide) else f" {wording.f_number(number * crop / home)}"
            return wording.focal(focal * crop / home) + said

        equivalent = in_terms(judged, write)
    return LensRow(
        pk=row["pk"],
        name=row["name"],
        mount=row["mount"] or "fixed",
        setting=f"{wording.focal(focal)} {wording.f_number(number) if not isnan(wide) else 'f/?'}",
        view=view_words(question, found, index),
        depth=_depth(found, index),
        light=_light(found, index),
        weight=_difference(float(shelf.weight_g[index]), source.weight_g, wording.mass, "heavier", "lighter"),
        price=priced,
        block=_block(row),
        pupil_mm=nan if isnan(wide) else focal / number,
        length=_difference(float(shelf.length_mm[index]), source.length_mm, wording.focal, "longer", "shorter"),
        status=WORDS[status].split()[0],
        word=(
            f"focuses from {wording.distance(float(found.closest_m[index]))}"
            if found.too_near[index]
            else WORDS[status]
        ),
        equivalent=equivalent,
        bench=_bench_address(question, shelf, target, found, index),
        fits_by=_by_adapter(shelf, target, row),
    )


def _overlap(shelf: LensShelf, found: Matches, index: int, crop: float) -> str:
    """The part of the range that a lens reaches, as full frame, with the f-number at both of its ends."""
    low = max(float(shelf.table.focal_min_mm[index]), found.needed.focal_min_mm)
    high = min(float(shelf.table.focal_max_mm[index]), found.needed.focal_max_mm)
    ends = [float(shelf.table.row(index).widest(np.array([focal]))[0]) * crop for focal in (low, high)]
    reach = wording.focal_range(low * crop, high * crop)
    return f"{reach}, f-number unknown" if isnan(ends[0]) else f"{reach} {wording.f_number_range(*ends)}"


def _by_adapter(shelf: LensShelf, target: Target, row: dict[str, Any]) -> str:
    if target.body is None or not row["mount"] or row["mount"] == target.body.mount:
        return ""
    mount = shelf.mounts.get(target.body.mount)
    if mount is not None and row["mount"] in mount.accepts:
        return ""
    return _adapter_said(shelf, row["mount"], target.body.mount)


def _adapter_said(shelf: LensShelf, lens_mount: str, body_mount: str) -> str:
    """The adapter of the shelf that brings a lens onto a body: none is counted on that is not there."""
    adapter = shelf.adapters.get((lens_mount, body_mount))
    return f"with {adapter.name}" if adapter else "with an adapter, none on the shelf"


def view_words(question: MatchQuery, found: Matches, index: int) -> str:
    if question.picture.is_range:
        share = float(found.covered[index])
        return "the whole range" if share >= 1 - LEVEL_VIEW else f"{wording.share(share)} of the range"
    off = float(found.view_off[index])
    if abs(off) <= LEVEL_VIEW:
        return "same"
    return f"{wording.share(abs(off))} {'tighter' if off > 0 else 'wider'}"


def _depth(found: Matches, index: int) -> str:
    """How its depth of field and blur compare, by the pupil."""
    short = float(found.stops_short[index])
    if isnan(short):
        return "f-number unknown"
    if abs(short) <= LEVEL_STOPS:
        return "same"
    return f"{wording.stops(short)} short" if short > 0 else f"does not close that far: {wording.stops(-short)}"


def _light(found: Matches, index: int) -> str:
    """How much light the whole picture gets."""
    less = float(found.light_short[index])
    if isnan(less):
        return "f-number unknown"
    return "same" if abs(less) <= LEVEL_STOPS else f"{wording.stops(less)} {'less' if less > 0 else 'more'}"


def _bench_address(question: MatchQuery, shelf: LensShelf, target: Target, found: Matches, index: int) -> str:
    """The two rigs side by side on the bench, by value."""
    gear, w, row = question.gear, question.picture, shelf.rows[index]
    body = target.body or next((b for b in shelf.bodies if b.mount and b.mount == row["mount"]), None)
    there = body.to_optics() if body else OpticsBody(target.sensor)
    record = Lens(**{name: row[name] for name in row if name not in ("pk", "fixed_to_id")})
    distance = w.object_distance_m if isfinite(w.object_distance_m) else 10.0
    first = Rig(question.body, gear.lens or OpticsLens(), w.focal_min_mm, w.f_number_short, iso=w.iso)
    second = Rig(
        there, record.to_optics(), float(found.focal_mm[index]), float(found.f_number[index]), iso=found.needed.iso
    )
    slots = (
        Slot(first, gear.body_name[:60], (gear.lens_name or "any lens")[:60]),
        Slot(second, (body.name if body else target.name)[:60], row["name"][:60]),
    )
    bench = Bench(
        Brief(distance_m=distance), slots, Hold("own", "spot", "own", "shutter"), brief_name="Match", scene="footplate"
    )
    return bench_address(bench)
