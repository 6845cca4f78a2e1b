"""The answers of the drills as a section of the exported document."""

from collections.abc import Collection
from typing import Any

from cambrel.drills.all_drills import KINDS
from cambrel.learn.models import Answered
from cambrel.learn.schedule import LEVELS
from cambrel.owners.models import User
from cambrel.owners.sections import NAME, Ids, Row, Section, record_schema, register, those_called
from cambrel.owners.sound import moment
from cambrel.owners.undo import ChangePlan

ANSWERS = (*LEVELS, "eye")


def register_learn() -> None:
    register(_answers())


def _answers() -> Section:
    """An answer has no name: it is called by its round and its place in it."""

    def called_of(answered: Answered) -> str:
        return f"{answered.round} {answered.ordinal}"

    def rows(owner: User, called: Collection[str] | None = None) -> list[tuple[int, Row]]:
        records = Answered.objects.for_owner(owner)
        if called is not None:
            rounds = {name.partition(" ")[0] for name in called}
            records = records.filter(round__in=list(rounds)[:500])
        kept = [answered for answered in those_called(records, None) if called is None or called_of(answered) in called]
        return [
            (
                record.pk,
                {
                    "name": called_of(record),
                    "kind": record.kind,
                    "level": record.level,
                    "is_right": record.is_right,
                    "slip": record.slip,
                    "seconds": record.seconds,
                    "answered_at": record.answered_at.isoformat(),
                },
            )
            for record in kept
        ]

    def check(row: Row) -> Row:
        name = row["name"].split()
        if len(name) != 2 or len(name[0]) > 12 or not name[1].isdigit() or int(name[1]) > 1000:
            raise ValueError("its name is not a round and a place in it")
        if moment(row["answered_at"]) is None:
            raise ValueError("its time cannot be read")
        return {"slip": "", "seconds": None} | row

    def assign(record: Any, row: Row) -> None:
        record.round, place = row["name"].split()
        record.ordinal, record.answered_at = int(place), moment(row["answered_at"])
        for key in ("kind", "level", "is_right", "slip", "seconds"):
            setattr(record, key, row[key])

    def plan(made: ChangePlan, pairs: list[tuple[int | None, Row]], ids: Ids) -> None:
        made.change(Answered, {pk: row for pk, row in pairs if pk is not None}, assign)
        new = []
        for pk, row in pairs:
            if pk is None:
                new.append(Answered(owner=made.owner))
                assign(new[-1], row)
        made.add(Answered, new)

    properties = {
        "name": NAME,
        "kind": {"enum": list(KINDS)},
        "level": {"enum": list(ANSWERS)},
        "is_right": {"type": "boolean"},
        "slip": {"type": "string", "maxLength": 30},
        "seconds": {"type": ["number", "null"], "minimum": 0, "maximum": 600},
        "answered_at": {"type": "string", "maxLength": 40},
    }
    says = "An answer of the drills. name: its round and its place in it, such as 5f1c0a9b2d3e 4."
    schema = record_schema(says, properties, ["name", "kind", "level", "is_right", "answered_at"])
    return Section("answers", "Answers of the drills", Answered, rows, lambda row: row["name"], check, plan, schema)
