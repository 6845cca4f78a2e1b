"""From the kits and the pictures of an owner to the table of what each kit makes of each picture."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations
from math import isnan
from typing import Any

from cambrel import wording
from cambrel.briefs.models import SavedBrief
from cambrel.briefs.samples import sample_briefs
from cambrel.choose.packing import Packed
from cambrel.drawings.race import race_drawing
from cambrel.links import Bench, Slot, Task, bench_address
from cambrel.optics.brief import Conventions
from cambrel.optics.choosing import (
    AT_BEST,
    Cell,
    Kit,
    Picture,
    choose,
    home_body,
    limits,
    says_better,
    says_trade,
    share_made,
)
from cambrel.optics.missing import Ceiling
from cambrel.optics.race import race
from cambrel.optics.sureness import Sure, Sureness, sure_of
from cambrel.pictures.serving import address
from cambrel.pictures.shots import HEIGHTS, rig_shot

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
NO_RIGS = "no camera with a lens that goes on it"


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
                    "limits": (LIMITS.get(failing, failing) if failing else "nothing here") if kit.rigs else NO_RIGS,
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
