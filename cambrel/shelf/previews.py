"""A file's records beside the shelf: stored, looked at in parts, then applied all at once, and never over what is there
unasked.
"""

from collections import Counter, defaultdict
from collections.abc import Collection, Hashable, Sequence
from dataclasses import replace
from datetime import timedelta
from typing import Any, TypeVar

from django.db import transaction
from django.db.models import Q, QuerySet, TextField, Value
from django.db.models.fields.json import KT
from django.db.models.functions import Coalesce, Concat
from django.utils import timezone

from cambrel.bounds.names import shortened
from cambrel.owners.keeping import QuotaError
from cambrel.owners.models import Owned, User
from cambrel.owners.sections import REFERENCES, SECTIONS, Ids, Row
from cambrel.owners.undo import ChangePlan, StaleError, recorded, shelf_version
from cambrel.owners.writing import Batch, give_keys
from cambrel.shelf.intake.found import Contents, FileRecord
from cambrel.shelf.intake.shelf_documents import problem_of
from cambrel.shelf.models import HELD, Body, ImportPreview, PreviewRow
from cambrel.shelf.mounts import Spellings
from cambrel.shelf.saying import differing

AT_ONCE = 2000
MOST_PREVIEWS = 20
PREVIEWS_KEPT_FOR = timedelta(days=30)
NEW, SAME, CHANGED, REFUSED = "new", "same", "changed", "refused"
STATUSES = (NEW, CHANGED, SAME, REFUSED)
Records = TypeVar("Records", bound=QuerySet[Any])
Present = dict[tuple[Hashable, int], tuple[int, Row]]
"""Records by what they are known by and which of several of that they are: key and row."""


class ApplyError(Exception):
    """A preview that cannot be applied as it is; the message is for the reader."""


def store(owner: User, name: str, contents_by_file: Sequence[tuple[str, Contents]]) -> ImportPreview:
    """Keep what files hold, to be looked at in parts."""
    headings = [
        {"source": source, "understood": contents.understood, "unread": contents.unread, "notes": contents.notes}
        for source, contents in contents_by_file
        if contents.understood or contents.unread or contents.notes
    ]
    met, rows, spellings = _Met(), [], Spellings(owner)
    for source, contents in contents_by_file:
        for said in contents.found:
            respelt = replace(said, row=spellings.respelt(said.section, said.row))
            ordinal, twice = met.place_of(respelt, source)
            reason = respelt.reason or twice
            rows.append(
                PreviewRow(
                    source=shortened(source, 80),
                    section=respelt.section,
                    line=respelt.line,
                    row=_scoped(respelt.row, contents.scope),
                    ordinal=ordinal,
                    status=REFUSED if reason else "",
                    reason=shortened(reason, 300),
                )
            )
    preview = ImportPreview(owner=owner, name=shortened(name, 120), headings=headings)
    give_keys(ImportPreview, [preview])
    give_keys(PreviewRow, rows)
    for row in rows:
        row.preview = preview
    batch = Batch()
    batch.put(PreviewRow, rows)
    forget_previews(owner)
    with transaction.atomic():
        preview.save(force_insert=True)
        batch.run()
    return preview


def forget_previews(owner: User) -> None:
    """Drop the previews that nobody looks at any more: those that are old, or far back."""
    previews = ImportPreview.objects.for_owner(owner)
    late = previews.order_by("-pk").values_list("pk", flat=True)[MOST_PREVIEWS - 1 :]
    previews.filter(Q(made_at__lt=timezone.now() - PREVIEWS_KEPT_FOR) | Q(pk__in=list(late))).delete()


def _scoped(row: Row, scope: str) -> Row:
    """A row whose ids are told apart from those of other documents."""
    if not scope or not REFERENCES & set(row):
        return row
    row = dict(row)
    for name in REFERENCES & set(row):
        value = row[name]
        if isinstance(value, list):
            row[name] = [f"{scope}/{reference}"[-120:] for reference in value]
        elif isinstance(value, int | str):
            row[name] = f"{scope}/{value}"[-120:]
    return row


class _Met:
    """The records of the files so far: two of one identity are two only where each has an id of its own."""

    def __init__(self) -> None:
        self.first: dict[Hashable, tuple[list[str | None], tuple[str, int]]] = {}

    def place_of(self, record: FileRecord, source: str) -> tuple[int, str]:
        """Which of its identity a record is, and why it stands in the files twice, or an empty text."""
        try:
            key = record.section, SECTIONS[record.section].identity(record.row)
            hash(key)
        except (KeyError, TypeError, AttributeError):
            return 0, ""  # without its name it is refused when it is looked at
        ids, where = self.first.setdefault(key, ([], (source, record.line)))
        name = record.row.get("id")
        if where != (source, record.line) and (name is None or not ids or None in ids or str(name) in ids):
            return 0, f"the same record stands in {where[0]} at {where[1]} already"
        ids.append(None if name is None else str(name))
        return len(ids) - 1, ""


def look_at(preview: ImportPreview, at_once: int = AT_ONCE) -> int:
    """Say of the next records what would become of them; how many remain."""
    version = shelf_version(preview.owner)
    if preview.shelf_version is None:
        preview.shelf_version = version
        preview.save(update_fields=["shelf_version"])
    pending = list(preview.rows.filter(status="")[:at_once])
    _judge(preview, pending)
    return preview.rows.filter(status="").count()


def look_again(preview: ImportPreview) -> int:
    """Look once more at every record that is not refused, as the shelf has changed; how many are another now. They are
    marked.
    """
    version = shelf_version(preview.owner)
    rows = list(preview.rows.exclude(status=REFUSED))
    before = [(row.status, row.target, row.reason) for row in rows]
    for row, was in zip(_judge(preview, rows), before, strict=True):
        row.changed_since = (row.status, row.target, row.reason) != was
    changed = [row for row in rows if row.changed_since]
    PreviewRow.objects.bulk_update(changed, ["changed_since"], batch_size=AT_ONCE)
    preview.shelf_version = version
    preview.save(update_fields=["shelf_version"])
    return len(changed)


def _judge(preview: ImportPreview, rows: Sequence[PreviewRow]) -> Sequence[PreviewRow]:
    called = defaultdict(set)
    for row in rows:
        called[row.section].add(_name_of(row.row))
    present = {key: _present(preview.owner, key, called[key]) for key in called}
    names = _Names(preview)
    for row in rows:
        row.status, row.reason, row.target = _judged(row, present[row.section], names)
    batch = Batch()
    batch.put(PreviewRow, rows)
    with transaction.atomic():
        batch.run()
    return rows


def _name_of(row: Row) -> str:
    return " ".join(str(row.get("name", "")).split())


def _present(owner: User, key: str, called: Collection[str]) -> Present:
    """The records of a section that are called so, by what they are known by and by which of several of one identity
    each is.
    """
    section = SECTIONS[key]
    count: Counter[Hashable] = Counter()
    values: Present = {}
    for pk, row in sorted(section.rows(owner, called), key=lambda entry: entry[0]):
        identity = section.identity(row)
        values[identity, count[identity]] = pk, row
        count[identity] += 1
    return values


class _Names:
    """Names of bodies, lenses, adapters and supports, on the shelf and in the file, that a record may point at."""

    def __init__(self, preview: ImportPreview) -> None:
        self.preview = preview
        self.known: dict[str, set[str]] = {}

    def of(self, section: str, model: type[Owned]) -> set[str]:
        if section not in self.known:
            shelf = model.objects.for_owner(self.preview.owner).values_list("name", flat=True)
            in_file = (
                self.preview.rows.filter(section=section).exclude(status=REFUSED).values_list("row__name", flat=True)
            )
            self.known[section] = {*shelf, *in_file}
        return self.known[section]

    def missing(self, row: Row) -> str:
        """The first name that a record points at and that is nowhere; an empty text where there is none."""
        wholes = [row[name] for name in ("body", "fixed_to") if row.get(name)]
        for model, section in HELD.items():
            for name in (wholes if model is Body else []) + row.get(section, []):
                if name not in self.of(section, model):
                    return str(name)
        return ""


def _judged(preview_row: PreviewRow, present: Present, names: _Names) -> tuple[str, str, int | None]:
    section = SECTIONS[preview_row.section]
    if problem := problem_of(section.key, preview_row.row):
        return REFUSED, shortened(problem, 300), None
    row = preview_row.row | {"name": _name_of(preview_row.row)}
    record = present.get((section.identity(row), preview_row.ordinal))
    key, mine = record or (None, {})
    try:
        # a figure that the file leaves out stays as it is on the shelf, so the record is judged as it would become
        whole = section.check(mine | row)
    except ValueError as error:
        return REFUSED, shortened(str(error), 300), None
    row = preview_row.row = whole if record is None else {name: whole[name] for name in row}
    if name := names.missing(row):
        return REFUSED, f"“{name[:60]}” is neither on the shelf nor in the file", None
    if record is None:
        return NEW, "", None
    said = differing(mine, row)
    return (CHANGED, shortened(said, 300), key) if said else (SAME, "", key)


def counts(preview: ImportPreview) -> Counter[str]:
    """How many records there are of each status, the unlooked-at under an empty text."""
    return Counter(preview.rows.order_by().values_list("status", flat=True))


def apply(
    preview: ImportPreview, take: Collection[int] = (), take_all: bool = False, leave_out: bool = False
) -> tuple[int, int]:
    """Bring the new records onto the shelf, and of the changed ones those that are to be taken; all or nothing, and
    undone as one.

    Parameters
        take: keys of changed rows whose file's version is taken; take_all: every one
        leave_out: go on although some records were refused
    Returns
        how many were added and how many changed
    Raises
        ApplyError with the reason; then nothing has been touched
    """
    present_counts = counts(preview)
    if preview.applied_at is not None:
        raise ApplyError("This file has been brought in already.")
    if present_counts[""]:
        raise ApplyError("Not all records have been looked at yet.")
    if present_counts[REFUSED] and not leave_out:
        raise ApplyError(
            f"{present_counts[REFUSED]:,} records are refused. Mend the file, or tick that they are left out."
        )
    version = shelf_version(preview.owner)
    if preview.shelf_version != version and (changed := look_again(preview)):
        said = "1 record has" if changed == 1 else f"{changed:,} records have"
        raise ApplyError(
            f"{said} changed on the shelf since the file was looked at. Nothing was imported. Check what "
            f"is marked, then import."
        )
    ticked = Q(status=CHANGED) if take_all else Q(status=CHANGED, pk__in=take)
    wanted = preview.rows.filter(Q(status=NEW) | ticked)
    rows = list(wanted)
    if not rows:
        raise ApplyError("There is nothing to bring in.")
    ids = _known_ids(preview)
    pairs = {key: [(row.target, row.row) for row in rows if row.section == key] for key in SECTIONS}
    plan = ChangePlan(preview.owner)
    for key, section in SECTIONS.items():
        if pairs[key]:
            section.plan(plan, pairs[key], ids)
    try:
        with recorded(preview.owner, f"Imported {len(rows):,} records from “{preview.name}”", plan, version):
            if not ImportPreview.objects.filter(pk=preview.pk, applied_at=None).exists():
                raise ApplyError("This file has been brought in already.")
            wanted.update(taken=True)
            preview.applied_at = timezone.now()
            preview.save(update_fields=["applied_at"])
    except QuotaError as error:
        raise ApplyError(str(error)) from None
    except StaleError:
        raise ApplyError(
            "The shelf has changed at this very moment. Nothing was imported. Press Import once more."
        ) from None
    added = sum(row.status == NEW for row in rows)
    return added, len(rows) - added


def _known_ids(preview: ImportPreview) -> Ids:
    """Under which keys the records of the file that are on the shelf already are known, by their ids in the file."""
    rows = preview.rows.exclude(target=None).annotate(known=KT("row__id")).filter(known__isnull=False)
    ids = rows.values_list("section", "known", "target")
    return {(section, known): target for section, known, target in ids if target is not None}


def brought(preview: ImportPreview, section: str, records: Records) -> Records:
    """Those of the records that an import brought in; known, as there, by name and, where they have one, by mount."""
    rows = preview.rows.filter(taken=True, section=section)
    if not hasattr(records.model, "mount"):
        return records.filter(name__in=rows.annotate(named=KT("row__name")).values("named"))
    text = TextField()
    mount = Coalesce(KT("row__mount"), Value(""), output_field=text)
    named = rows.annotate(named=Concat(KT("row__name"), Value("\n"), mount, output_field=text)).values("named")
    return records.annotate(named=Concat("name", Value("\n"), "mount", output_field=text)).filter(named__in=named)


def sections_brought(preview: ImportPreview) -> list[tuple[str, int]]:
    """How many records an import brought into each section, the most first."""
    return Counter(preview.rows.filter(taken=True).order_by().values_list("section", flat=True)).most_common()
