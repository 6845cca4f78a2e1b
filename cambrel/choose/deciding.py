"""From the kits and the pictures of an owner to the table of what each kit makes of each picture."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations
from math import inf, isnan, nan
from typing import Any

from cambrel import wording
from cambrel.briefs.models import SavedBrief
from cambrel.briefs.samples import sample_briefs
from cambrel.drawings.race import race_drawing
from cambrel.fields import whole
from cambrel.links import Bench, Slot, Task, bench_address
from cambrel.optics.brief import Conventions
from cambrel.optics.choosing import (
    AT_BEST,
    Addition,
    Cell,
    Change,
    Kit,
    Picture,
    changes,
    choose,
    home_body,
    limits,
    says_better,
    says_trade,
    share_made,
)
from cambrel.optics.missing import Ceiling
from cambrel.optics.race import race
from cambrel.optics.ranges import equivalent_range, spans
from cambrel.optics.rig import Rig
from cambrel.optics.sureness import Sure, Sureness, sure_of
from cambrel.pictures.serving import address
from cambrel.pictures.shots import HEIGHTS, rig_shot
from cambrel.shelf.gear import body_of, registers_of
from cambrel.shelf.kits import goes_on
from cambrel.shelf.models import Body, Lens, Mount
from cambrel.shelf.sums import price_of, weight_of

MOST_KITS = 6
MOST_RACING = 24
COLUMNS = (
    "picture", "how often", "kit", "status", "body", "lens", "focal length mm", "focus m", "f-number", "shutter s", "ISO", "decides",
)  # fmt: skip
MOST_SAVED = 30
LIMITS = {
    "framing": "the framing", "range": "tonal range", "sharp": "depth of field", "background": "a soft background",
    "dark": "light", "light": "noise", "focus": "how near it focuses", "diffraction": "diffraction", "bright": "too much light",
    "sharpness": "fine detail", "cover": "dark corners", "room": "room before the lens", "width": "the framing",
}  # fmt: skip
"""What limits a kit, by the demand that fails most."""


@dataclass(frozen=True)
class Wanted:
    """A picture to be made, by its key in the address."""

    key: str
    task: Task
    note: str = ""


def tasks_of(owner: Any) -> list[Wanted]:
    """The samples and the pictures that the owner keeps."""
    found = []
    for sample in sample_briefs().values():
        brief = sample.brief
        if brief.width_shown_m is None:
            brief = replace(brief, width_shown_m=sample.framed_m)
        found.append(Wanted(sample.slug, replace(sample.task, brief=brief), sample.note))
    for saved in SavedBrief.objects.for_owner(owner)[:MOST_SAVED] if owner.is_authenticated else ():
        task = saved.task()
        found.append(Wanted(f"own-{saved.pk}", replace(task, name=saved.name)))
    return [one if one.task.brief.distance_from == "lens" else _from_lens(one) for one in found]


def _from_lens(one: Wanted) -> Wanted:
    """Distances that a picture gives from the sensor mark are taken from the lens: which lens is not known before it is chosen."""
    return replace(one, task=replace(one.task, brief=replace(one.task.brief, distance_from="lens")))


@dataclass(frozen=True)
class Shown:
    """A cell of the table as it is read."""

    status: str
    key: str
    gear: str
    settings: str
    says: str
    picture: str
    bench: str


class Packed:
    """A kit with the rigs that can be made of it, in the order of their names; with more that is not bought yet, as it would be."""

    def __init__(self, record: Any, mounts: Any, registers: Any, more: Sequence[Any] = ()) -> None:
        self.record, self.more = record, more
        self.name = " + ".join([record.name, *(one.name for one in more)])
        bodies = [
            *record.bodies.prefetch_related("fixed_lenses", "crop_modes"),
            *(one for one in more if isinstance(one, Body)),
        ]
        loose = [*record.lenses.all(), *(one for one in more if isinstance(one, Lens))]
        lenses = [*loose, *(lens for body in bodies for lens in body.fixed_lenses.all())]
        self.bodies, self.loose = bodies, loose
        pairs = sorted(
            ((body, lens) for body in bodies for lens in lenses if lens.rectilinear and goes_on(lens, body, mounts)),
            key=lambda pair: (pair[0].name, pair[1].name, pair[0].pk, pair[1].pk),
        )
        self.pairs = pairs
        self.rigs = [Rig(body_of(body, registers), lens.to_optics()) for body, lens in pairs]
        carried = [*bodies, *loose, *record.supports.all()]
        self.weight, self.price = weight_of(carried), price_of(carried)
        self.native = len({lens.pk for _, lens in pairs})
        # a sum with a part that is not known compares with nothing
        self.grams = sum(nan if one.weight_g is None else one.weight_g for one in carried)
        self.cost = sum(nan if one.price is None else one.price for one in carried)
        currencies = {one.currency for one in carried if one.price}
        self.currency = min(currencies, default="")
        if len(currencies) > 1:
            self.cost = nan
        self.is_empty = not carried

    def covers(self, conventions: Conventions) -> str:
        """The equivalent focal lengths that its lenses cover, with their gaps."""
        found = [equivalent_range(rig.lens, rig.body.sensor, by=conventions.crop_by) for rig in self.rigs]
        known = [
            (one.equivalent_min_mm, one.equivalent_max_mm)
            for one in found
            if one.equivalent_min_mm and one.equivalent_max_mm
        ]
        return ", ".join(wording.focal_range(low, high) for low, high in _together(known))


def _together(ranges: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """The stretches that ranges cover, gaps between them."""
    found: list[tuple[float, float]] = []
    for span in spans(ranges):
        if not span.lenses:
            continue
        if found and span.low_mm <= found[-1][1] * (1 + 1e-9):
            found[-1] = (found[-1][0], span.high_mm)
        else:
            found.append((span.low_mm, span.high_mm))
    return found


@dataclass(frozen=True)
class Decision:
    """What each kit makes of each picture, what it comes to, and in words how the kits differ."""

    kits: Sequence[Packed]
    tasks: Sequence[Wanted]
    shares: dict[str, float]
    conventions: Conventions

    @cached_property
    def pictures(self) -> list[Picture]:
        return [Picture(one.task.brief, self.shares[one.key]) for one in self.tasks]

    @cached_property
    def cells(self) -> list[list[Cell | None]]:
        return choose(self.pictures, [kit.rigs for kit in self.kits], self.conventions)

    def _column(self, index: int) -> list[Cell | None]:
        return [row[index] for row in self.cells]

    def heads(self) -> list[dict[str, Any]]:
        made = []
        for index, kit in enumerate(self.kits):
            column = self._column(index)
            failing = limits(self.pictures, column)
            made.append(
                {
                    "kit": kit,
                    "letter": wording.LETTERS[index],
                    "covers": kit.covers(self.conventions) or "nothing that is known",
                    "made": wording.share(share_made(self.pictures, column)) if any(column) else "nothing",
                    "limits": LIMITS.get(failing, failing) if failing else "nothing here",
                }
            )
        return made

    def rows(self) -> list[tuple[Wanted, list[Shown | None]]]:
        return [
            (one, [self._shown(one, kit, cell) for kit, cell in zip(self.kits, row, strict=True)])
            for one, row in zip(self.tasks, self.cells, strict=True)
        ]

    def _shown(self, one: Wanted, kit: Packed, cell: Cell | None) -> Shown | None:
        if cell is None:
            return None
        body, lens = kit.pairs[cell.rig]
        slot = Slot(kit.rigs[cell.rig], body.name, lens.name)
        terms = replace(self.conventions, iso_ceiling=cell.clean_iso)
        bench = Bench(one.task.brief, (slot,), AT_BEST, terms).with_task(one.task)
        rig = cell.comparison.first
        s = rig.settings
        settings = "cannot focus there"
        if s.focusable:
            settings = f"{wording.focal(s.focal_length_mm)} {wording.f_number(s.f_number)} {wording.shutter(s.shutter_s)} {wording.iso(s.iso)}"
        check = cell.judged.checks[0] if cell.judged.checks else None
        return Shown(
            status=str(cell.status),
            key=str(cell.status).replace(" ", "-"),
            gear=body.name if lens.fixed_to_id else f"{body.name}, {lens.name}",
            settings=settings,
            says=wording.sentence(check) if check and cell.status != "does it" else "",
            picture=address(rig_shot(bench, cell.comparison, rig).token(), HEIGHTS[1]) if s.focusable else "",
            bench=bench_address(bench),
        )

    def race(self, key: str) -> Any:
        """Depth of field against cleanliness for one picture, every rig of every kit; None where there is no such picture."""
        one = next((one for one in self.tasks if one.key == key), None)
        if one is None:
            return None
        ceiling = Ceiling(self.conventions.iso_ceiling, home_body(self.conventions))
        kits = []
        for kit in self.kits:
            curves = [
                (f"{body.name}, {lens.name}", curve)
                for rig, (body, lens) in zip(kit.rigs[:MOST_RACING], kit.pairs, strict=False)
                if (curve := race(one.task.brief, rig, self.conventions, ceiling)) is not None
            ]
            kits.append(curves)
        return race_drawing(kits, width=1216.0, height=320.0)

    def table(self) -> list[dict[str, Any]]:
        """Every cell as a row of a table, at full precision."""
        made = []
        for one, cells in zip(self.tasks, self.cells, strict=True):
            for kit, cell in zip(self.kits, cells, strict=True):
                row: dict[str, Any] = {"picture": one.task.name, "how often": self.shares[one.key], "kit": kit.name}
                if cell is not None:
                    body, lens = kit.pairs[cell.rig]
                    s = cell.comparison.first.settings
                    check = cell.judged.checks[0] if cell.judged.checks else None
                    row |= {
                        "status": str(cell.status),
                        "body": body.name,
                        "lens": lens.name,
                        "focal length mm": s.focal_length_mm,
                        "focus m": s.object_distance_m,
                        "f-number": s.f_number,
                        "shutter s": s.shutter_s,
                        "ISO": s.iso,
                        "decides": wording.sentence(check) if check else "",
                    }
                made.append(row)
        return made

    def sureness(self) -> Iterator[str]:
        """How sure it is which of each two kits is ahead, and what would make another word of it."""
        found = sure_of(self.pictures, [kit.rigs for kit in self.kits], self.cells, self.conventions)
        for (first, second), one in found.items():
            if self.kits[first].rigs and self.kits[second].rigs:
                yield self._sure(self.kits[first].name, self.kits[second].name, one)

    def _sure(self, first: str, second: str, one: Sureness) -> str:
        front, back = (first, second) if one.ahead >= 0 else (second, first)
        ahead = f"{front} is ahead of {back}" if one.ahead else f"{front} and {back} are level"
        if one.sure == Sure.FIRM:
            return f"Firm: {ahead}, whatever of this was changed."
        by = self._named((one.reversed_by or one.levelled_by)[0])
        if one.reversed_by:
            return f"Open: {ahead}, but {by} it is the other way round."
        if one.sure == Sure.OPEN:
            return f"Open: {ahead}, but {by} one of them leads, and by another change the other."
        return f"Holds: {ahead}; {by} " + ("they are level." if one.ahead else "one of them leads.")

    def _named(self, said: str) -> str:
        """A change with the name of its picture."""
        for index, one in enumerate(self.tasks):
            said = said.replace(f"picture {index} made", f"“{one.task.name}” made")
        return said

    def sentences(self) -> Iterator[str]:
        """How each two kits differ."""
        spoken = [
            Kit(kit.name, self._column(index), kit.grams, kit.cost, kit.currency)
            for index, kit in enumerate(self.kits)
            if kit.rigs
        ]
        names = [f"“{one.task.name}”" for one in self.tasks]
        for one, other in combinations(spoken, 2):
            better = says_better(one, other) or says_better(other, one)
            yield wording.sentence(better or says_trade(one, other, self.pictures, names))

    def carried(self, out: Sequence[str]) -> str:
        """Of the kits that make all pictures of an outing the lightest; in words."""
        going = [index for index, one in enumerate(self.tasks) if one.key in out]
        if not going:
            return ""
        making = [
            (kit.grams, kit.name)
            for index, kit in enumerate(self.kits)
            if all((cell := self.cells[row][index]) is not None and cell.status == "does it" for row in going)
        ]
        counted = {1: "the picture ticked", 2: "both pictures ticked"}.get(
            len(going), f"all {len(going)} pictures ticked"
        )
        if not making:
            return f"No kit here makes {counted}."
        weighed = [one for one in making if not isnan(one[0])]
        if not weighed:
            return f"What makes {counted}: {', '.join(name for _, name in making)}; what they weigh is not known."
        grams, name = min(weighed)
        of = "the kits" if len(weighed) == len(making) else "the kits of known weight"
        return f"Carry {name}: of {of} that make {counted} it is the lightest, {wording.mass(grams)}."


@dataclass(frozen=True)
class Help:
    """A change that would help a kit: what is added, what it turns, and what it weighs and costs."""

    name: str
    gain: str
    weight: str
    price: str
    is_undominated: bool
    token: str


MOST_OFFERED = 25_000


class Gear:
    """The gear of a shelf, as kits are packed of it."""

    def __init__(self, owner: Any) -> None:
        self.owner = owner
        self.mounts = {mount.name: mount for mount in Mount.objects.for_owner(owner)}
        self.registers = registers_of(owner)

    def packed(self, records: Any, what_if: Sequence[str]) -> list[Packed]:
        """The kits, and after them those as they would be with one thing more: {kit}-lens-{key} or {kit}-body-{key}."""
        found = [Packed(record, self.mounts, self.registers) for record in records[:MOST_KITS]]
        by_key = {str(kit.record.pk): kit.record for kit in found}
        for text in what_if[: MOST_KITS - len(found)]:
            kit, _, rest = text.partition("-")
            kind, _, key = rest.partition("-")
            model = {"lens": Lens, "body": Body}.get(kind)
            number = whole(key)
            if model is None or number is None or kit not in by_key:
                continue
            one = model.objects.for_owner(self.owner).filter(pk=number).first()
            if one is not None:
                found.append(Packed(by_key[kit], self.mounts, self.registers, [one]))
        return found

    def helps(self, kit: Packed, pictures: Sequence[Picture], conventions: Conventions) -> list[Help]:
        """The single additions from the shelf that turn most of the pictures for a kit."""
        mounts = {body.mount for body in kit.bodies if body.mount}
        taken = mounts | {name for mount in mounts if mount in self.mounts for name in self.mounts[mount].accepts}
        there = {lens.pk for lens in kit.loose}
        records: list[Any] = []
        for lens in Lens.objects.for_owner(self.owner).filter(fixed_to=None, rectilinear=True, mount__in=taken)[
            :MOST_OFFERED
        ]:
            if lens.pk not in there:
                records.append((lens, [(body, lens) for body in kit.bodies if goes_on(lens, body, self.mounts)]))
        have = {body.pk for body in kit.bodies}
        for body in Body.objects.for_owner(self.owner).prefetch_related("fixed_lenses", "crop_modes")[:MOST_OFFERED]:
            if body.pk not in have:
                pairs = [
                    (body, lens) for lens in (*kit.loose, *body.fixed_lenses.all()) if goes_on(lens, body, self.mounts)
                ]
                records.append((body, pairs))
        made: dict[Any, Any] = {}

        def of(body: Any) -> Any:
            if body.pk not in made:
                made[body.pk] = body_of(body, self.registers)
            return made[body.pk]

        offered = [(record, pairs) for record, pairs in records if pairs]
        additions = [
            Addition(
                [Rig(of(body), lens.to_optics()) for body, lens in pairs], record.weight_g or inf, record.price or inf
            )
            for record, pairs in offered
        ]
        found = changes(pictures, kit.rigs, additions, conventions)
        return [self._help(kit, offered[one.index][0], one) for one in found]

    def _help(self, kit: Packed, record: Any, change: Change) -> Help:
        kind = "lens" if isinstance(record, Lens) else "body"
        return Help(
            record.name,
            wording.share(change.gain),
            "unknown" if record.weight_g is None else wording.mass(record.weight_g),
            "unknown" if record.price is None else wording.money(record.price, record.currency),
            change.is_undominated,
            f"{kit.record.pk}-{kind}-{record.pk}",
        )
