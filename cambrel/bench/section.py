"""Saved comparisons as a section of the exported document."""

from cambrel.bench.models import SavedComparison
from cambrel.links import decode
from cambrel.owners.sections import Section, record_schema, register, those_called

SCHEMA = record_schema(
    "A saved bench: bench is its link parameter.",
    {
        "name": {"type": "string", "minLength": 1, "maxLength": 60, "pattern": "\\S"},
        "bench": {"type": "string", "minLength": 1, "maxLength": 3500},
        "id": {
            "description": "Within the document: keeps records of one name apart, and is what others refer to",
            "type": ["integer", "string", "null"],
            "maxLength": 120,
        },
    },
    ["name", "bench"],
)


def _rows(owner, called=None):
    return [
        (saved.pk, {"id": saved.pk, "name": saved.name, "bench": saved.token})
        for saved in those_called(SavedComparison.objects.for_owner(owner), called)
    ]


def _check(row):
    decode(row["bench"])  # a LinkError says what is wrong with it
    return row | {"name": " ".join(row["name"].split())}


def _assign(saved, row):
    saved.name, saved.token = row["name"], row["bench"]


def _plan(plan, pairs, ids):
    plan.change(SavedComparison, {key: row for key, row in pairs if key is not None}, _assign)
    new = [row for key, row in pairs if key is None]
    plan.add(SavedComparison, [SavedComparison(owner=plan.owner, name=row["name"], token=row["bench"]) for row in new])


def register_comparisons():
    register(
        Section("comparisons", "Comparisons", SavedComparison, _rows, lambda row: row["name"], _check, _plan, SCHEMA)
    )
