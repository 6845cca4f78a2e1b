"""Fit: a lens on a body. Its circle, its mount, what a crop leaves, every lens against every body, and what an upgrade
keeps.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable
from dataclasses import dataclass

from cambrel import wording
from cambrel.comparison.brief import SHAPES, Conventions
from cambrel.comparison.fit import (
    ADAPTABLE,
    AROUND,
    CORNERS,
    COVERS,
    NOT,
    SAME,
    TAKEN,
    UNKNOWN,
    WITH_OPTICS,
    Cover,
    MountFit,
    cover,
    largest_crop,
    mount_fit,
)
from cambrel.comparison.ranges import equivalent_range
from cambrel.drawings.fit import SensorPart, fit_drawing
from cambrel.drawings.shapes import Drawing
from cambrel.match.lens_shelf import LensShelf
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.shelf.columns import equivalents
from cambrel.shelf.models import Adapter, Body, Kit, Lens
from cambrel.shelf.sums import Sum, price_of, weight_of
from cambrel.wording.cautions import CAUTIONS

COVER_WORDS = {COVERS: "full cover", CORNERS: "dark corners", AROUND: "black around the picture"}
CELLS = {
    "yes": "fits and covers",
    "crop": "fits, dark beyond the circle",
    "adapted": "with an adapter",
    "optics": "only with optics between",
    "no": "does not fit",
    "part": "part of a camera",
    "?": "unknown",
}

HEAVY_G = 1500


@dataclass(frozen=True)
class CropRow:
    """A part of the sensor with its lens: cover, pixels left and equivalents."""

    name: str
    size: str
    word: str
    megapixels: str
    equivalent: str


@dataclass(frozen=True)
class Fit:
    """A lens on a body, as it reads."""

    mount: MountFit
    mount_says: str
    cover: Cover | None
    cover_says: list[str]
    drawing: Drawing | None
    crops: list[CropRow]
    equivalent: str


def mounted(lens: Lens, body: Body, shelf: LensShelf) -> tuple[MountFit, Adapter | None]:
    """How a lens goes on a body, by the records of the shelf."""
    own = lens.fixed_to_id == body.pk if lens.fixed_to_id else None
    if own is not None or any(True for _ in body.fixed_lenses.all()):
        return MountFit(SAME if own else NOT, None), None
    there, here = shelf.mounts.get(body.mount), shelf.mounts.get(lens.mount)
    adapter = shelf.adapters.get((lens.mount, body.mount))
    fit = mount_fit(
        lens.mount,
        body.mount,
        accepts=there is not None and lens.mount in there.accepts,
        lens_register_mm=here.register_mm if here else None,
        body_register_mm=there.register_mm if there else None,
        adapter=adapter.kind if adapter else "",
    )
    return fit, adapter if fit.word in (ADAPTABLE, WITH_OPTICS) else None


NO_ADAPTER = " No adapter is on the shelf. Ask its maker what an adapter costs in quality."


def mount_sentence(fit: MountFit, adapter: Adapter | None, lens: Lens, body: Body) -> str:
    """The mount in words. What an adapter loses is said only where the record says it."""
    room = (
        ""
        if fit.room_mm is None
        else (
            f" Its flange lies {wording.focal(abs(fit.room_mm))} {'farther out' if fit.room_mm > 0 else 'farther in'}"
            " than the body’s."
        )
    )
    by = "" if adapter is None else f" {adapter.name}: {adapter.loses or 'what is lost is not recorded'}."
    return {
        SAME: "The lens is part of this camera." if lens.fixed_to_id else f"Same mount, {body.mount}.",
        TAKEN: f"{body.mount} takes {lens.mount} lenses as they are.",
        ADAPTABLE: f"{lens.mount} fits {body.mount} with an adapter.{room}{by or NO_ADAPTER}",
        WITH_OPTICS: (
            f"{lens.mount} fits {body.mount} only with an adapter with optics, or without focus at infinity.{room}{by}"
        ),
        NOT: "This lens does not fit this camera." + room,
        UNKNOWN: "Whether the mounts fit is unknown: a mount or its register distance is not on record.",
    }[fit.word] + heavy(lens)


def heavy(lens: Lens) -> str:
    """The usual caution with a heavy lens."""
    return f" {CAUTIONS['weight'].short}" if (lens.weight_g or 0) >= HEAVY_G else ""


def fit_of(lens: Lens, body: Body, shelf: LensShelf, shape: str, conventions: Conventions) -> Fit:
    """A lens on a body with everything that is shown of it."""
    sensor, circle = body.sensor(), lens.circle_mm
    fit, adapter = mounted(lens, body, shelf)
    equivalent = equivalents(lens.to_optics(), sensor, conventions)
    says = mount_sentence(fit, adapter, lens, body)
    modes = [(mode.name, mode.sensor()) for mode in body.crop_modes.all()]
    if circle is None:
        said = ["Neither the image circle nor the lens's format is on record, so its coverage is unknown."]
        return Fit(fit, says, None, said, None, _crop_rows(lens, modes, None, conventions), equivalent)
    covered = cover(sensor, circle)
    said = _cover_sentences(lens, sensor, circle, covered)
    largest = largest_crop(sensor, circle, SHAPES[shape].aspect_ratio)
    if covered.word != COVERS or shape != "native":
        modes.append((f"largest {'crop' if shape == 'native' else SHAPES[shape].label} inside", largest))
    parts = [SensorPart(name, part, name.startswith("largest")) for name, part in modes]
    drawing = fit_drawing(sensor, circle, covered, parts)
    return Fit(fit, says, covered, said, drawing, _crop_rows(lens, modes, circle, conventions), equivalent)


def _cover_sentences(lens: Lens, sensor: Sensor, circle: float, covered: Cover) -> list[str]:
    said = []
    if lens.circle_is_assumed:
        said.append(
            f"The circle is assumed from the format the lens is designed for, "
            f"{FORMATS[lens.designed_for].name}. The real one may be larger."
        )
    if covered.word == COVERS:
        said.append(
            f"Full cover: a circle of {wording.focal(circle)} over a diagonal of {wording.focal(sensor.diagonal_mm)}."
        )
        if covered.circle_used < 0.5:
            said.append(
                f"The sensor uses only the centre of the circle, {wording.share(covered.circle_used)} of its "
                f"area. {wording.share(1 - covered.circle_used)} of the lens's light is left out."
            )
        return said
    word = COVER_WORDS[covered.word].capitalize()
    left = largest_crop(sensor, circle)
    pixels = f", {wording.megapixels(left.pixels)}" if left.pixels is not None else ""
    said.append(
        f"{word}: {wording.share(covered.share)} of the frame is covered. Each of the four corners is "
        f"{wording.focal(covered.corner_gap_mm)} outside the circle. Cropped to the circle, "
        f"{wording.share(left.area_mm2 / sensor.area_mm2)} of the frame is left{pixels}."
    )
    return said


def _crop_rows(
    lens: Lens, modes: Iterable[tuple[str, Sensor]], circle: float | None, conventions: Conventions
) -> list[CropRow]:
    rows = []
    for name, part in modes:
        word = "unknown" if circle is None else COVER_WORDS[cover(part, circle).word]
        size = f"{wording.significant(part.width_mm)} × {wording.focal(part.height_mm)}"
        left = wording.megapixels(part.pixels)
        rows.append(CropRow(name, size, word, left, equivalents(lens.to_optics(), part, conventions)))
    return rows


def cell(lens: Lens, body: Body, shelf: LensShelf) -> str:
    """The verdict of a cell of the matrix, a key of CELLS."""
    fit, _ = mounted(lens, body, shelf)
    if fit.word == NOT:
        return "part" if lens.fixed_to_id else "no"
    if fit.word == UNKNOWN:
        return "?"
    if fit.word == WITH_OPTICS:
        return "optics"
    if fit.word == ADAPTABLE:
        return "adapted"
    circle_mm = lens.circle_mm
    if circle_mm is None and not lens.fixed_to_id:
        return "?"
    covered = lens.fixed_to_id or (circle_mm is not None and cover(body.sensor(), circle_mm).word == COVERS)
    return "yes" if covered else "crop"


def cells_of(shelf: LensShelf) -> Callable[[Lens, Body], str]:
    """`cell` for many cells: lenses and bodies that are alike in what counts are looked at once."""
    known: dict[tuple[Hashable, ...], str] = {}

    def verdict(lens: Lens, body: Body) -> str:
        if lens.fixed_to_id or body.fixed_lenses.all():
            return cell(lens, body, shelf)
        key = (lens.mount, lens.circle_mm, body.mount, body.width_mm, body.height_mm)
        if key not in known:
            known[key] = cell(lens, body, shelf)
        return known[key]

    return verdict


@dataclass(frozen=True)
class Kept:
    """A lens of a kit on a new body: how it goes on and what it becomes there."""

    lens: Lens
    word: str
    stays: bool
    was: str
    becomes: str
    cover: str
    megapixels: str


@dataclass(frozen=True)
class Upgrade:
    """A kit before and after."""

    rows: list[Kept]
    weight_before: Sum
    weight_after: Sum
    price_before: Sum
    price_after: Sum
    gaps: str


def upgrade(kit: Kit, body: Body, shelf: LensShelf, conventions: Conventions) -> Upgrade:
    """What of a kit stays with another body, what each lens becomes there, and weight and price before and after."""
    bodies = list(kit.bodies.prefetch_related("fixed_lenses"))
    lenses = list(kit.lenses.all())
    rows, staying = [], []
    for lens in lenses:
        fit, adapter = mounted(lens, body, shelf)
        stays = fit.word in (SAME, TAKEN) or (fit.word == ADAPTABLE)
        old = next((b for b in bodies if mounted(lens, b, shelf)[0].word in (SAME, TAKEN)), None)
        was = equivalents(lens.to_optics(), old.sensor(), conventions) if old else "on none of its bodies"
        word = CELLS[cell(lens, body, shelf)]
        if adapter is not None:
            word = f"with {adapter.name}"
        elif fit.word == ADAPTABLE:
            word = "with an adapter, none on the shelf"
        circle = lens.circle_mm
        covered = "unknown" if circle is None else COVER_WORDS[cover(body.sensor(), circle).word]
        left = "unknown"
        if circle is not None and body.sensor().pixels is not None:
            left = wording.megapixels(largest_crop(body.sensor(), circle).pixels)
        becomes = equivalents(lens.to_optics(), body.sensor(), conventions) if stays else "drops out"
        rows.append(Kept(lens, word, stays, was, becomes, covered if stays else "", left if stays else ""))
        staying += [lens] if stays else []
    ranges = [equivalent_range(lens.to_optics(), body.sensor(), conventions.crop_by) for lens in staying]
    low = [r.equivalent_min_mm for r in ranges if r.equivalent_min_mm]
    high = [r.equivalent_max_mm for r in ranges if r.equivalent_max_mm]
    gaps = (
        f"What you keep covers {wording.focal_range(min(low), max(high))} on full frame."
        if low
        else "You keep no lens."
    )
    partly = sum(row.stays and row.cover not in ("unknown", COVER_WORDS[COVERS]) for row in rows)
    if partly:
        gaps += f" Of these {partly} cover{'s' if partly == 1 else ''} only a part of its sensor."
    return Upgrade(
        rows,
        weight_of([*bodies, *lenses]),
        weight_of([body, *staying]),
        price_of([*bodies, *lenses]),
        price_of([body, *staying]),
        gaps,
    )
