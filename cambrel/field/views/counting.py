"""The logbook, as views: read from tables and from the heads of files, kept as one change, and what it says."""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import JsonResponse
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from cambrel import wording
from cambrel.bounds.documents import DocumentError, read_json
from cambrel.field.habits import MOST_LENSES, charts, covered, lists, picked_of, sentences, shares_address
from cambrel.field.logbook import (
    MOST_LINES,
    MOST_LOGGED,
    MOST_TABLE_BYTES,
    TableError,
    book_of,
    plan_of,
    read_table,
    sound,
)
from cambrel.field.models import Logged
from cambrel.field.sample import sample_rows
from cambrel.owners.models import User
from cambrel.owners.requests import Request
from cambrel.owners.undo import ChangePlan, StaleError, carry_out, last_change, shelf_version
from cambrel.owners.work import work_at
from cambrel.shelf.models import Lens
from cambrel.trials.habits import LEAST

READING = work_at("logbook")
MOST_PROBLEMS = 200
MOST_TRIES = 5


@login_required
@require_safe
def habits(request: Request) -> HttpResponseBase:
    """What one's own pictures say."""
    book = book_of(request.user)
    picked = picked_of(request.GET, book)
    left = book.log.only(picked.of(book.log))
    would = covered(left, request.user)
    context = {
        "total": f"{len(book.log):,}" if len(book.log) else "",
        "left": f"{len(left):,}",
        "is_picked": bool(picked.marks or picked.names),
        "least": LEAST,
        "says": [wording.sentence(sentence) for sentence in sentences(left, book)],
        "charts": charts(book, picked) if len(book.log) else [],
        "lists": lists(book, picked),
        "would": would,
        "tried": f"{MOST_LENSES:,}" if Lens.objects.for_owner(request.user).count() > MOST_LENSES else "",
        "choose": shares_address(left, request.user) if len(left) else "",
        "most": f"{MOST_LOGGED:,}",
        "last_change": last_change(request.user),
    }
    return render(request, "field/habits.html", context)


@login_required
@require_POST
def table(request: Request) -> HttpResponseBase:
    """Read a table of settings; nothing is kept."""
    file = request.FILES.get("file")
    try:
        if file is None or (file.size or 0) > MOST_TABLE_BYTES:
            raise TableError("Choose a table of 20 MB at most.")
        rows, problems = READING.run(read_table, file.read(), timezone.localtime().replace(tzinfo=None))
    except TableError as error:
        return JsonResponse({"problem": str(error)}, status=422)
    return JsonResponse(
        {"rows": rows, "problems": problems[:MOST_PROBLEMS], "more": max(len(problems) - MOST_PROBLEMS, 0)}
    )


@login_required
@require_POST
def log(request: Request) -> HttpResponseBase:
    """Keep pictures in the logbook, as one change that can be undone; those that are there already are left."""
    file = request.FILES.get("rows")
    try:
        sent = read_json(file.read(), "logbook") if file is not None else None
    except DocumentError:
        sent = None
    if not isinstance(sent, list) or len(sent) > MOST_LINES:
        return JsonResponse({"problem": "These are no pictures of a logbook."}, status=422)
    rows = [row for sent_row in sent if (row := sound(sent_row)) is not None]
    return _kept(request, rows, len(sent) - len(rows))


@login_required
@require_POST
def sample(request: Request) -> HttpResponseBase:
    """Fill the logbook with the made-up one."""
    _kept(request, sample_rows(), 0)
    return redirect("field:habits")


def _kept(request: Request, rows: list[dict[str, object]], unsound: int) -> HttpResponseBase:
    try:
        count = _logged(request.user, rows)
    except TableError as error:
        return JsonResponse({"problem": str(error)}, status=422)
    said = f"{count:,} pictures are in the logbook now"
    if not count:
        said = "None of these is new"
    if len(rows) > count:
        said += f", {len(rows) - count:,} were there already"
    if unsound:
        said += f", {unsound:,} hold nothing that is counted"
    messages.success(request, said + ".")
    return JsonResponse({"kept": count})


def _logged(owner: User, rows: list[dict[str, object]]) -> int:
    """Put those of some pictures that are new into the logbook; how many those are. What comes in meanwhile is looked
    at again.
    """
    for _ in range(MOST_TRIES):
        seen = shelf_version(owner)
        plan, count = plan_of(owner, rows)
        if not count:
            return 0
        try:
            carry_out(plan, f"Logged {count:,} {'picture' if count == 1 else 'pictures'}", seen)
        except StaleError:
            continue
        return count
    raise TableError("Your records are being changed at this very moment. Send it once more.")


@login_required
@require_POST
def clear(request: Request) -> HttpResponseBase:
    """Empty the logbook; it can be undone."""
    records = list(Logged.objects.for_owner(request.user))
    if records:
        plan = ChangePlan(request.user)
        plan.discard(Logged, records)
        carry_out(plan, f"Emptied the logbook of {len(records):,} pictures", None)
        messages.success(request, "The logbook is empty. It can be undone.")
    return redirect("field:habits")
