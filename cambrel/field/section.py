"""Sheets of shots and the logbook as sections of the exported document."""

from collections.abc import Collection
from itertools import chain

from cambrel.field.backs import MOST_BACK
from cambrel.field.logbook import FIELDS, FIGURES, PIXELS, identity, sound
from cambrel.field.models import Logged, Sheet
from cambrel.field.sheet_shapes import BACK, NUMBER, READING, WHOLE, is_picture
from cambrel.links.benches import decode
from cambrel.owners.models import User
from cambrel.owners.sections import NAME, Ids, Row, Section, record_schema, register, saved_section
from cambrel.owners.sound import moment
from cambrel.owners.undo import ChangePlan
from cambrel.owners.writing import in_chunks
from cambrel.trials.all_trials import TRIALS

MOST_TAKEN = 500
FOUND: Row = {"type": "object", "additionalProperties": READING, "maxProperties": 12}


def register_field() -> None:
    says = "Shots that would prove a comparison: bench is its link parameter, taken says when each shot was."
    when = {"type": "string", "maxLength": 40}
    texts: dict[str, Row] = {
        "trials": {"type": "array", "items": {"enum": list(TRIALS)}, "maxItems": len(TRIALS)},
        "back": {
            "type": "object",
            "additionalProperties": BACK,
            "propertyNames": {"pattern": "^[0-9a-f]{32}$"},
            "maxProperties": MOST_BACK,
        },
        "found": {"type": "object", "additionalProperties": FOUND, "maxProperties": MOST_TAKEN},
        "taken": {"type": "object", "additionalProperties": when, "maxProperties": MOST_TAKEN},
    }
    register(_logbook())
    register(saved_section("sheets", "Field sheets", Sheet, "bench", says, decode, texts=texts, check_also=_sheet))


def _sheet(row: Row) -> None:
    """Refuse what a schema cannot tell: times that there are not."""
    if any(when and moment(when) is None for when in row.get("taken", {}).values()):
        raise ValueError("a shot was taken at a time that there is not")
    if not all(map(is_picture, row.get("back", {}).values())):
        raise ValueError("a picture has a time that there is not")


UNDATED = "undated"


def _logbook() -> Section:
    """The logbook. A picture has no name: it is called by when it was taken."""

    def rows(owner: User, called: Collection[str] | None = None) -> list[tuple[int, Row]]:
        records = Logged.objects.for_owner(owner).values("pk", *FIELDS)
        times = None if called is None else ["" if name == UNDATED else name for name in called]
        parts = [records] if times is None else [records.filter(taken_at__in=part) for part in in_chunks(times)]
        readings = chain.from_iterable(parts)
        return [
            (row.pop("pk"), {"name": row.pop("taken_at") or UNDATED, "camera": row.pop("body"), **row})
            for row in readings
        ]

    def whole(row: Row) -> Row:
        figures = {key: row.get(key) for key in ("lens", *FIGURES, *PIXELS)}
        return {"taken_at": "" if row["name"] == UNDATED else row["name"], "body": row.get("camera"), **figures}

    def check(row: Row) -> Row:
        readings = sound(whole(row))
        if readings is None:
            raise ValueError("its time or a setting cannot be read, or it says no setting")
        return {"name": row["name"], "camera": readings["body"]} | {
            key: readings[key] for key in ("lens", *FIGURES, *PIXELS)
        }

    def plan(made: ChangePlan, pairs: list[tuple[int | None, Row]], ids: Ids) -> None:
        # a picture that differs in anything is another picture, so none is ever changed
        made.add(Logged, [Logged(owner=made.owner, **(sound(whole(row)) or {})) for pk, row in pairs if pk is None])

    says = "A picture of the logbook by its settings. name: when it was taken, such as 2026-05-04 10:20:30, or undated."
    properties = {
        "name": NAME,
        **{key: {"type": "string", "maxLength": 60} for key in ("camera", "lens")},
        **dict.fromkeys(FIGURES, NUMBER),
        **dict.fromkeys(PIXELS, WHOLE),
    }
    schema = record_schema(says, properties, ["name"])
    return Section(
        "logbook", "Logbook", Logged, rows, lambda row: identity(sound(whole(row)) or whole(row)), check, plan, schema
    )
