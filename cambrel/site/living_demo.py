"""What a demo holds beside its gear, so that no page opens empty: comparisons that are saved, a field sheet whose
pictures are back, a logbook, a decision, ten days of drills, a place as a scene of its own. All of it is made up.
"""

from __future__ import annotations

import random
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import resvg_py
from django.core.files.base import ContentFile
from django.utils import timezone

from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.models import SavedBrief
from cambrel.choose.deciding import tasks_of
from cambrel.choose.models import KeptDecision
from cambrel.choose.packing import GearShelf
from cambrel.comparison.brief import Conventions, Hold
from cambrel.decisions.choice import Choice
from cambrel.drills.all_drills import KINDS
from cambrel.field import backs, standin
from cambrel.field.bringing import settings_in, working_copy
from cambrel.field.logbook import plan_of
from cambrel.field.models import Sheet, spoken_of
from cambrel.field.planning import SheetPlan
from cambrel.field.sample import sample_rows
from cambrel.field.scene_files import brought
from cambrel.field.views.marking import read_off
from cambrel.learn.models import Answered
from cambrel.learn.schedule import LEVELS
from cambrel.links.benches import encode, encode_brief
from cambrel.links.choices import encode_choice
from cambrel.owners.models import Owned, User
from cambrel.owners.samples import noted
from cambrel.owners.undo import ChangePlan, alone, raise_version
from cambrel.pictures import own
from cambrel.pictures.models import OwnScene
from cambrel.shelf.models import Kit

SAMPLE = " (sample)"
"""Behind the name of every record."""
TRIALS = ("framing", "blur")
"""Of the sheet: their pictures are small, and one of them does not come out as predicted."""
DAYS, ROUND = 10, 10
PLACE, PLACE_WIDE_PX = Path(__file__).with_name("halt.svg"), 1500


def enliven(owner: User, now: datetime) -> None:
    """Load all of it for an owner; nothing of it is the owner's own action, so that nothing is kept to be undone."""
    plan = ChangePlan(owner)
    for record in (_comparison(owner), _picture(owner), _decision(owner)):
        plan.add(type(record), [record])
    plan.add(Answered, _answers(owner, now))
    logbook, _ = plan_of(owner, sample_rows())
    for part in (plan, logbook):
        with alone(owner):
            part.batch.run()
            noted(owner, part)
            raise_version(owner)
    _bring_back(owner, now)
    _bring_place(owner)


def _comparison(owner: User) -> SavedComparison:
    bench = replace(home_bench(), hold=Hold(lens="equivalent", place="spot", aperture="depth"))
    return SavedComparison(owner=owner, name=f"Portrait at the same depth{SAMPLE}", token=encode(bench))


def _picture(owner: User) -> SavedBrief:
    brief = replace(home_bench().brief, distance_m=1.2, light_ev=6.0)
    name = f"Fireman by lamplight{SAMPLE}"
    task = replace(home_bench().task, brief=brief, name=name)
    return SavedBrief(owner=owner, name=name, token=encode_brief(task), framed_m=0.9)


def _decision(owner: User) -> KeptDecision:
    """Kept when the first kit held one lens less than today."""
    shelf = GearShelf(owner)
    bags = [shelf.bag(record) for record in Kit.objects.for_owner(owner)]
    first = replace(bags[0], pieces=bags[0].pieces[:-1])
    pictures = tuple((wanted.task, 1.0) for wanted in tasks_of(owner))
    choice = Choice((first, *bags[1:]), pictures, Conventions())
    return KeptDecision(
        owner=owner,
        name=f"Which bag for the gala?{SAMPLE}",
        took=bags[1].name,
        reasons="It can take the dials as well, and it fits under the seat of the guard’s van.",
        token=encode_choice(choice),
        decided_on=(timezone.localdate() - timedelta(days=12)).isoformat(),
    )


def _answers(owner: User, now: datetime) -> list[Owned]:
    """A round a day, with fewer mistakes from day to day."""
    dice, kinds = random.Random(11), list(KINDS)
    return [
        Answered(
            owner=owner,
            round=f"{0xDE0000 + day:012x}",
            ordinal=ordinal,
            kind=kinds[(day + ordinal) % min(len(kinds), 4 + day // 2)],
            level=LEVELS[min(day // 4, len(LEVELS) - 1)],
            is_right=dice.random() < 0.45 + 0.05 * day,
            seconds=round(dice.uniform(4, 18), 1),
            answered_at=now - timedelta(days=DAYS - day, minutes=30 - ordinal),
        )
        for day in range(DAYS)
        for ordinal in range(1, ROUND + 1)
    ]


def _bring_back(owner: User, now: datetime) -> None:
    """A sheet whose pictures were taken by the simulated camera, brought back and measured."""
    record = Sheet(owner=owner, name=f"Two tripods{SAMPLE}", token=encode(home_bench()), trials=list(TRIALS))
    plan = SheetPlan(record.bench(), TRIALS)
    with own.bringing(owner) as pictures:
        for shot in plan.shots:
            taken = standin.take_shot(plan, shot.key, now.replace(tzinfo=None))
            if taken is None:
                continue
            content, ending = taken
            file = ContentFile(content, f"{shot.key}.{ending}")
            row = settings_in(file)
            token, quality = working_copy(pictures, file)
            record.back[token] = row | ({} if quality is None else {"quality": quality})
            for key, where in backs.placed(plan, record.back, record.taken).items():
                record.back[key]["shot"] = where
            record.taken[shot.key] = now.isoformat(timespec="seconds")
        with alone(owner):
            pictures.record(record.back)
            plan_of_sheet = ChangePlan(owner)
            plan_of_sheet.add(Sheet, [record])
            plan_of_sheet.batch.run()
            noted(owner, plan_of_sheet)
    found, _ = read_off(owner, record, plan)
    Sheet.objects.filter(pk=record.pk).update(found=found)


def _bring_place(owner: User) -> None:
    """A place as the background of one's own: a picture of it that is drawn here."""
    drawn = resvg_py.svg_to_bytes(svg_string=PLACE.read_text(), width=PLACE_WIDE_PX, skip_system_fonts=True)
    with own.bringing(owner) as pictures:
        background = brought(pictures, ContentFile(drawn, "halt.png"), own.BACKGROUND, PLACE_WIDE_PX)
        record = OwnScene(
            owner=owner,
            name=f"Halt shelter{SAMPLE}",
            background=background.token,
            distance_m=2.5,
            background_m=6.0,
            background_height_m=6.6,
            background_foot_m=-1.9,
        )
        plan = ChangePlan(owner)
        plan.add(OwnScene, [record])
        with alone(owner):
            pictures.record(spoken_of(owner))
            plan.batch.run()
            noted(owner, plan)
            raise_version(owner)
