"""A file's records beside the shelf: stored, looked at in parts, then applied all at once, and never over what is there unasked."""

from collections import Counter

from django.db import transaction
from django.utils import timezone

from cambrel.owners.sections import SECTIONS
from cambrel.owners.undo import recorded
from cambrel.shelf.intake.documents import problem_of
from cambrel.shelf.models import Body, ImportPreview, Lens, PreviewRow

AT_ONCE = 2000
NEW, SAME, CHANGED, REFUSED = "new", "same", "changed", "refused"
STATUSES = (NEW, CHANGED, SAME, REFUSED)


class ApplyError(Exception):
    """A preview that cannot be applied as it is; the message is for the reader."""


def store(owner, name, found_by_file):
    """Keep what files hold, to be looked at in parts."""
    with transaction.atomic():
        preview = ImportPreview.objects.create(owner=owner, name=name[:120])
        seen, rows = {}, []
        for source, found in found_by_file:
            for one in found:
                reason = one.reason or _twice(one, source, seen)
                status = REFUSED if reason else ""
                rows.append(
                    PreviewRow(
                        preview=preview,
                        source=source[:80],
                        section=one.section,
                        line=one.line,
                        row=one.row,
                        status=status,
                        reason=reason[:300],
                    )
                )
        PreviewRow.objects.bulk_create(rows, batch_size=1000)
    return preview


def _twice(one, source, seen):
    """Why a record stands in the files twice, or an empty text."""
    try:
        key = one.section, SECTIONS[one.section].identity(one.row)
        first = seen.setdefault(key, (source, one.line))
    except (KeyError, TypeError):
        return ""  # without its name it is refused when it is looked at
    return "" if first == (source, one.line) else f"the same record stands in {first[0]} at {first[1]} already"


def look_at(preview, at_once=AT_ONCE):
    """Say of the next records what would become of them; how many remain."""
    pending = list(preview.rows.filter(status="")[:at_once])
    present = {key: _present(preview.owner, key) for key in {row.section for row in pending}}
    names = _Names(preview)
    with transaction.atomic():
        for row in pending:
            row.status, row.reason, row.target = _judged(row, present[row.section], names)
            row.save(update_fields=["row", "status", "reason", "target"])
    return preview.rows.filter(status="").count()


def _present(owner, key):
    section = SECTIONS[key]
    return {section.identity(row): (pk, row) for pk, row in reversed(section.rows(owner))}


class _Names:
    """Names of bodies and lenses, on the shelf and in the file, that a record may point at."""

    def __init__(self, preview):
        self.preview = preview
        self.known = {}

    def of(self, section, model):
        if section not in self.known:
            shelf = model.objects.for_owner(self.preview.owner).values_list("name", flat=True)
            in_file = (
                self.preview.rows.filter(section=section).exclude(status=REFUSED).values_list("row__name", flat=True)
            )
            self.known[section] = {*shelf, *in_file}
        return self.known[section]

    def missing(self, row):
        """The first name that a record points at and that is nowhere."""
        bodies = [row[name] for name in ("body", "fixed_to") if row.get(name)] + row.get("bodies", [])
        for wanted, section, model in ((bodies, "bodies", Body), (row.get("lenses", []), "lenses", Lens)):
            for name in wanted:
                if name not in self.of(section, model):
                    return name
        return None


def _judged(preview_row, present, names):
    section = SECTIONS[preview_row.section]
    if problem := problem_of(section.key, preview_row.row):
        return REFUSED, problem[:300], None
    row = preview_row.row | {"name": " ".join(preview_row.row["name"].split())}
    found = present.get(section.identity(row))
    key, mine = found or (None, {})
    try:
        # a figure that the file leaves out stays as it is on the shelf, so the record is judged as it would become
        whole = section.check(mine | row)
    except ValueError as error:
        return REFUSED, str(error)[:300], None
    row = preview_row.row = whole if found is None else {name: whole[name] for name in row}
    if name := names.missing(row):
        return REFUSED, f"“{name[:60]}” is neither on the shelf nor in the file", None
    if found is None:
        return NEW, "", None
    differing = [name for name, value in row.items() if mine.get(name) != value]
    if not differing:
        return SAME, "", key
    said = "; ".join(f"{name}: {_short(mine.get(name))} here, {_short(row[name])} in the file" for name in differing)
    return CHANGED, said[:300], key


def _short(value):
    return "unknown" if value is None else str(value)[:40]


def counts(preview):
    """How many records there are of each status, the unlooked-at under an empty text."""
    return Counter(preview.rows.order_by().values_list("status", flat=True))


def apply(preview, take=(), take_all=False, leave_out=False):
    """Bring the new records onto the shelf, and of the changed ones those that are to be taken; all or nothing, and undone as one.

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
    wanted = preview.rows.filter(status__in=(NEW, CHANGED))
    rows = [row for row in wanted if row.status == NEW or take_all or row.pk in take]
    if not rows:
        raise ApplyError("There is nothing to bring in.")
    with recorded(preview.owner, f"Brought in {len(rows):,} records from “{preview.name}”") as change:
        for key, section in SECTIONS.items():
            pairs = [(row.target, row.row) for row in rows if row.section == key]
            if pairs:
                _still_so(section, preview.owner, pairs)
                section.write(preview.owner, pairs, change)
        preview.applied_at = timezone.now()
        preview.save(update_fields=["applied_at"])
    added = sum(row.status == NEW for row in rows)
    return added, len(rows) - added


def _still_so(section, owner, pairs):
    """The shelf as it was when the file was looked at, or ApplyError."""
    present = _present(owner, section.key)
    for target, row in pairs:
        found = present.get(section.identity(row))
        if (found[0] if found else None) != target:
            raise ApplyError(f"“{row['name']}” has changed on the shelf since; bring the file in again.")
