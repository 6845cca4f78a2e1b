"""From kits and pictures to the table of what each kit makes of each picture, and what of it is said of each kit."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import combinations
from math import isnan, log2
from typing import Any
from urllib.parse import urlencode

from django.contrib.auth.models import AnonymousUser
from django.urls import reverse

from cambrel import wording
from cambrel.briefs.models import SavedBrief
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.choose.musts import Musts
from cambrel.choose.packing import Packed
from cambrel.comparison.bench import Bench, Slot, Task
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import RigFigures
from cambrel.comparison.fulfilment import Check
from cambrel.comparison.marks import settings_of
from cambrel.comparison.status import Status
from cambrel.comparison.wishes import WISH_OF_DEMAND
from cambrel.decisions.choice import MOST_PICTURES, Choice
from cambrel.decisions.kits import AT_BEST, BestRig, PictureShare, choose, limits, makes, share_made
from cambrel.decisions.sureness import Sure, Sureness, sure_of
from cambrel.decisions.trades import KitSums, foremost, says_better, says_first, says_trade
from cambrel.links.addresses import bench_address
from cambrel.links.benches import encode
from cambrel.owners.models import User
from cambrel.pictures.shots import HEIGHTS, rig_shot
from cambrel.pictures.views import address
from cambrel.scenes import Find, shipped
from cambrel.wording.sentences import LEVEL_STOPS

MOST_SAVED = 30
LIMITS = {
    "framing": "the framing", "range": "tonal range", "sharp": "depth of field", "background": "a soft background",
    "hands": "steady hands", "shutter": "a fast enough shutter", "motion": "the movement", "stars": "the stars",
    "dark": "light", "light": "noise", "focus": "how near it focuses", "diffraction": "diffraction",
    "bright": "too much light",
    "sharpness": "fine detail", "cover": "dark corners", "room": "room before the lens", "width": "the framing",
    "rate": "frames a second",
}  # fmt: skip
"""What limits a kit, by the demand that fails most."""
UNSURE = (Sure.OPEN, Sure.HOLDS, Sure.FIRM)
"""The least sure first."""
NO_RIGS = "no camera with a lens that goes on it"


def _long(millimetres: float) -> str:
    return wording.distance(millimetres / 1000)


@dataclass(frozen=True)
class WantedPicture:
    """A picture to be made, by its key in the address."""

    key: str
    task: Task
    note: str = ""
    is_own: bool = False

    @property
    def shown(self) -> str:
        """How the picture is shown."""
        brief = self.task.brief
        framed = "" if brief.width_shown_m is None else f"{wording.distance(brief.width_shown_m)} wide, "
        return f"{framed}shown {_long(brief.shown_long_side_mm)} long, seen from {_long(brief.viewing_distance_mm)}"


def tasks_of(owner: User | AnonymousUser) -> list[WantedPicture]:
    """The samples and the pictures that the owner keeps."""
    tasks = []
    for sample in sample_briefs().values():
        tasks.append(WantedPicture(sample.slug, _framed(sample.task, sample.framed_m), sample.note))
    for saved in SavedBrief.objects.for_owner(owner)[:MOST_SAVED] if owner.is_authenticated else ():
        task = saved.sound_task()
        if task is not None:
            named = _framed(replace(task, name=saved.name), saved.framed_m)
            tasks.append(WantedPicture(f"own-{saved.pk}", named, is_own=True))
    return [_from_lens(task) for task in tasks][:MOST_PICTURES]


def _framed(task: Task, framed_m: float | None) -> Task:
    """A picture that asks for no framing with the one that it was seen in."""
    if task.brief.width_shown_m is not None or task.brief.framing_deg is not None or framed_m is None:
        return task
    return replace(task, brief=replace(task.brief, width_shown_m=framed_m))


def _from_lens(task: WantedPicture) -> WantedPicture:
    """Distances that a picture gives from the sensor mark are taken from the lens: which lens is not known before it is
    chosen.
    """
    if task.task.brief.distance_from == "lens":
        return task
    return replace(task, task=replace(task.task, brief=replace(task.task.brief, distance_from="lens")))


@dataclass(frozen=True)
class CellShown:
    """A cell of the table as it is read."""

    status: str
    key: str
    gear: str
    settings: str
    says: str
    clean: str
    sharp: str
    lacks: str
    picture: str
    bench: str
    take: str
    """Where it is said what that would take, where it is not met."""


def _take(bench: Bench, check: Check | None) -> str:
    """Where the levers stand for what decides, if there are any for it."""
    wish = "" if check is None or check.status == Status.DOES else WISH_OF_DEMAND.get(check.key, "")
    return f"{reverse('bench:take')}?{urlencode({'b': encode(bench), 'of': wish, 'rig': 0})}" if wish else ""


def _line(share: float, limit: str) -> str:
    """What a kit can take, and what limits it, where anything does."""
    return f"can take {wording.share(share)}" + (f", limited by {limit}" if limit else "")


@dataclass(frozen=True)
class Decision:
    """What each kit makes of each picture, what it comes to, and in words how the kits differ."""

    kits: Sequence[Packed]
    tasks: Sequence[WantedPicture]
    shares: dict[str, float]
    conventions: Conventions
    musts: Musts = field(default_factory=Musts)
    level: frozenset[str] = frozenset()
    """The pictures that the reader could not tell apart."""
    find: Find = shipped
    """Finds scenes, as whoever reads has them."""

    @cached_property
    def pictures(self) -> list[PictureShare]:
        return [PictureShare(task.task.brief, self.shares[task.key]) for task in self.tasks]

    @cached_property
    def cells(self) -> list[list[BestRig | None]]:
        return choose(self.pictures, [kit.rigs for kit in self.kits], self.conventions)

    def column(self, index: int) -> list[BestRig | None]:
        return [row[index] for row in self.cells]

    @cached_property
    def needed(self) -> frozenset[str]:
        """The kinds of support that the pictures need."""
        return frozenset(picture.brief.support for picture in self.pictures if picture.share) & {
            "tripod",
            "monopod",
            "gimbal",
        }

    @property
    def choice(self) -> Choice:
        """All of it by value."""
        pictures = tuple((task.task, self.shares[task.key]) for task in self.tasks)
        return Choice(tuple(kit.bag for kit in self.kits), pictures, self.conventions)

    @cached_property
    def spoken(self) -> list[KitSums]:
        """The kits as they are spoken of; those alone of which a rig can be made, and that are not out."""
        return [
            KitSums(kit.name, self.column(index), kit.weighs(self.needed), kit.cost, kit.currency)
            for index, kit in enumerate(self.kits)
            if kit.rigs and not self.out(kit)
        ]

    def out(self, kit: Packed) -> str:
        """Why a kit is out, by what must be had; empty where it is not."""
        return self.musts.kit(kit.weighs(self.needed), kit.cost, kit.currency)

    def heads(self) -> list[dict[str, Any]]:
        made = []
        for index, kit in enumerate(self.kits):
            column = self.column(index)
            failing = limits(self.pictures, column)
            made.append(
                {
                    "kit": kit,
                    "letter": wording.LETTERS[index],
                    "made": wording.share(share_made(self.pictures, column)) if any(column) else "nothing",
                    "line": _line(share_made(self.pictures, column), LIMITS.get(failing, failing)),
                    "limits": (LIMITS.get(failing, failing) if failing else "nothing here") if kit.rigs else NO_RIGS,
                    "weighs": kit.weight_said(self.needed),
                    "covers": kit.covers(self.conventions) or "nothing that is known",
                }
            )
        return made

    def rows(self) -> list[tuple[WantedPicture, list[CellShown | None]]]:
        return [
            (task, [self._shown(task, kit, cell) for kit, cell in zip(self.kits, row, strict=True)])
            for task, row in zip(self.tasks, self.cells, strict=True)
        ]

    def together(self) -> list[str]:
        """For each picture the address of a bench with what each kit makes it with; empty where that is less than
        two.
        """
        return [self._together(task, row) for task, row in zip(self.tasks, self.cells, strict=True)]

    def _together(self, task: WantedPicture, row: Sequence[BestRig | None]) -> str:
        slots = tuple(_slot(kit, cell) for kit, cell in zip(self.kits, row, strict=True) if cell is not None)
        if len(slots) < 2:
            return ""
        return bench_address(Bench(task.task.brief, slots, AT_BEST, self.conventions).with_task(task.task))

    def _shown(self, task: WantedPicture, kit: Packed, cell: BestRig | None) -> CellShown | None:
        if cell is None:
            return None
        body, lens = kit.pairs[cell.rig]
        bench = Bench(task.task.brief, (_slot(kit, cell),), AT_BEST, self.conventions).with_task(task.task)
        rig = cell.figures
        s = rig.settings
        settings = "cannot focus there"
        if s.focusable:
            settings = wording.settings(*settings_of(rig, marked=True))
        check = cell.judged.checks[0] if cell.judged.checks else None
        support = task.task.brief.support
        lacks = support in ("tripod", "monopod", "gimbal") and support not in {
            piece.what.kind for piece in kit.supports
        }
        return CellShown(
            status=cell.status,
            key=cell.status.key,
            gear=body.name if lens in body.fixed else f"{body.name}, {lens.name}",
            settings=settings,
            says=wording.sentence(check) if check and cell.status != Status.DOES else "",
            clean=_cleaner(rig),
            sharp=_sharper(rig),
            lacks=f"no {support} in this kit" if lacks else "",
            picture=(
                address(rig_shot(bench, cell.comparison, rig, place=self.find(bench.scene)).token(), HEIGHTS[4])
                if s.focusable
                else ""
            ),
            bench=bench_address(bench),
            take=_take(bench, check),
        )

    def sureness(self) -> Iterator[str]:
        """How sure it is which of each two kits is ahead, and what would make another word of it: first of the kit that
        is named first, and the least sure first.
        """
        level = [index for index, task in enumerate(self.tasks) if task.key in self.level]
        sure = sure_of(self.pictures, [kit.rigs for kit in self.kits], self.cells, self.conventions, level)
        top = self.spoken[foremost(self.spoken, self.pictures)].name if self.spoken else ""

        def order(pair: tuple[int, int]) -> tuple[bool, int]:
            return top not in {self.kits[index].name for index in pair}, UNSURE.index(sure[pair].sure)

        for first, second in sorted(sure, key=order):
            sureness = sure[first, second]
            if self.kits[first].rigs and self.kits[second].rigs:
                yield self._sure(self.kits[first].name, self.kits[second].name, sureness)

    def _sure(self, first: str, second: str, sureness: Sureness) -> str:
        front, back = (first, second) if sureness.ahead >= 0 else (second, first)
        ahead = f"{front} is ahead of {back}" if sureness.ahead else f"{front} and {back} are even"
        if sureness.sure == Sure.FIRM:
            return f"Sure: {ahead}, whatever was changed."
        by = self.named((sureness.reversed_by or sureness.levelled_by)[0])
        if sureness.reversed_by:
            return f"Could go either way: {ahead}, but {by} it is the other way round."
        if sureness.sure == Sure.OPEN:
            return f"Could go either way: {ahead}, but {by} one of them leads, and with another change the other."
        return f"Likely: {ahead}, but {by} " + ("they are even." if sureness.ahead else "one of them leads.")

    def named(self, said: str) -> str:
        """A change with the name of its picture."""
        for index, task in enumerate(self.tasks):
            said = said.replace(f"picture {index} made", f"“{task.task.name}” made")
        return said

    def sentences(self) -> Iterator[str]:
        """How each two kits differ."""
        names = [f"“{task.task.name}”" for task in self.tasks]
        for one, other in combinations(self.spoken, 2):
            better = says_better(one, other) or says_better(other, one)
            yield wording.sentence(better or says_trade(one, other, self.pictures, names))

    def headline(self) -> str:
        """Of more than two kits which makes most."""
        return wording.sentence(says_first(self.spoken, self.pictures)) if len(self.spoken) > 2 else ""

    def carried(self, out: Sequence[str]) -> str:
        """Of the kits that make all pictures of an outing the lightest; in words."""
        going = [index for index, task in enumerate(self.tasks) if task.key in out]
        if not going:
            return ""
        needed = {self.pictures[index].brief.support for index in going}
        making = [
            (kit.weighs(needed), kit.name)
            for index, kit in enumerate(self.kits)
            if not self.out(kit) and all(makes(self.cells[row][index]) for row in going)
        ]
        counted = {1: "the picture ticked", 2: "both pictures ticked"}.get(
            len(going), f"all {len(going)} pictures ticked"
        )
        if not making:
            return f"No kit here can take {counted}."
        weighed = [(grams, name) for grams, name in making if not isnan(grams)]
        if not weighed:
            return f"Take {' or '.join(name for _, name in making)} for {counted}. Their weight is not on record."
        grams, name = min(weighed)
        of = "the kits" if len(weighed) == len(making) else "the kits of known weight"
        return f"Take {name}. Of {of} that can take {counted} it is the lightest, {wording.mass(grams)}."


def _slot(kit: Packed, cell: BestRig) -> Slot:
    """The best rig of a kit as it stands on a bench."""
    body, lens = kit.pairs[cell.rig]
    return Slot(kit.rigs[cell.rig], body.name, lens.name)


def _cleaner(rig: RigFigures) -> str:
    """How clean the picture is against what the photographer takes to be clean."""
    s, ceiling = rig.settings, rig.light.ceiling_iso
    if not s.focusable or not ceiling > 0 or not s.iso > 0:
        return ""
    stops = log2(ceiling / s.iso)
    if abs(stops) <= LEVEL_STOPS:
        return "as clean as you need"
    return f"{wording.stops(abs(stops))} {'cleaner than you need' if stops > 0 else 'noisier than you accept'}"


def _sharper(rig: RigFigures) -> str:
    """How large it may be shown and still be sharp enough."""
    if not rig.settings.focusable or not rig.sharpness.largest_print_mm > 0:
        return ""
    return f"sharp up to {_long(rig.sharpness.largest_print_mm)} long"
