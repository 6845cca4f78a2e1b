"""Saved comparisons as a section of the exported document."""

from cambrel.bench.models import SavedComparison
from cambrel.links import decode
from cambrel.owners.sections import Section, register


def _rows(owner):
    return [
        (saved.pk, {"id": saved.pk, "name": saved.name, "bench": saved.token})
        for saved in SavedComparison.objects.for_owner(owner)
    ]


def _check(row):
    decode(row["bench"])  # a LinkError says what is wrong with it
    return row | {"name": " ".join(row["name"].split())}


def _write(owner, pairs, change, ids):
    for key, row in pairs:
        if key is None:
            change.created(SavedComparison.objects.create(owner=owner, name=row["name"], token=row["bench"]))
        else:
            saved = SavedComparison.objects.for_owner(owner).get(pk=key)
            change.touch(saved)
            saved.token = row["bench"]
            saved.save()


def register_comparisons():
    register(Section("comparisons", "Comparisons", SavedComparison, _rows, lambda row: row["name"], _check, _write))
