"""Files in and out: the import with its preview, the document and the tables."""

import json

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.paginator import Paginator
from django.http import Http404, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from cambrel.inputs.fields import whole
from cambrel.owners.models import User
from cambrel.owners.requests import Request
from cambrel.owners.sections import SECTIONS, document_schema
from cambrel.owners.work import work_at
from cambrel.shelf.codes import codes_of
from cambrel.shelf.intake import FileError, Known, read_file
from cambrel.shelf.intake.found import MOST_BYTES, Contents, counted, time_limit
from cambrel.shelf.intake.headings import NATURAL
from cambrel.shelf.intake.shelf_documents import VERSION
from cambrel.shelf.intake.tables import write_table
from cambrel.shelf.kinds import KINDS
from cambrel.shelf.models import ImportPreview, Mount, OwnFormat
from cambrel.shelf.previews import (
    CHANGED,
    REFUSED,
    STATUSES,
    ApplyError,
    apply,
    counts,
    look_at,
    sections_brought,
    store,
)
from cambrel.shelf.saying import said, worked_out
from cambrel.shelf.views.lists import shelf_kinds

READING, WRITING = work_at("gear"), work_at("export")
PAGE = 100
REFUSED_AT_ONCE = 25


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def bring_in(request: Request) -> HttpResponseBase:
    """Choose files; they are read and kept as a preview."""
    problem = ""
    if request.method == "POST":
        files = request.FILES.getlist("files")
        try:
            if not files:
                raise FileError("Choose at least one file.")
            if sum(file.size or 0 for file in files) > MOST_BYTES:
                raise FileError("At most 20 MB are read at a time. Bring the files in in parts.")
            sent = [(file.name, file.read()) for file in files]
            preview = READING.run(_read, request.user.pk, sent, request.POST.get("currency", ""))
        except FileError as error:
            problem = str(error)
        else:
            return redirect("shelf:preview", preview)
    context = {
        "problem": problem,
        "kinds": shelf_kinds(request.user),
        "columns": NATURAL.items(),
        "most_bytes": MOST_BYTES,
        "previews": ImportPreview.objects.for_owner(request.user).filter(applied_at=None)[:5],
    }
    return render(request, "shelf/import.html", context, status=422 if problem else 200)


def _read(owner_pk: int, files: list[tuple[str, bytes]], currency: str) -> int:
    """Read files for an owner; the key of the preview that they are kept as."""
    owner = User.objects.get(pk=owner_pk)
    known = _known(owner, currency)
    with time_limit():
        read = [(name, _read_one(name, content, known, len(files) > 1)) for name, content in files]
    total = sum(len(contents.found) for _, contents in read)
    if not total:
        raise FileError(f"“{files[0][0]}” holds no records." if len(files) == 1 else "The files hold no records.")
    counted(total)
    return int(store(owner, files[0][0] if len(files) == 1 else f"{len(files)} files", read).pk)


def _read_one(name: str, content: bytes, known: Known, several: bool) -> Contents:
    """What one file holds; where several were sent the one that cannot be read is named."""
    try:
        return read_file(name, content, known)
    except FileError as error:
        said = str(error)
        raise FileError(f"“{name}”: {said}" if several and name not in said else said) from None


def _known(owner: User, currency: str) -> Known:
    """What of the owner's a table may speak of."""
    formats = {
        own_format.name.lower(): (own_format.width_mm, own_format.height_mm)
        for own_format in OwnFormat.objects.for_owner(owner)
    }
    registers = Mount.objects.for_owner(owner).exclude(register_mm=None).values_list("name", "register_mm")
    currency = currency.strip().upper()
    currency = currency if len(currency) == 3 and currency.isalpha() else ""
    return Known(codes_of(owner), formats, dict(registers), currency)


@login_required
@require_safe
def template(request: Request, key: str) -> HttpResponseBase:
    """An empty table with the headings that a section is read by."""
    if key not in NATURAL:
        raise Http404
    return _download(write_table([column.usual for column in NATURAL[key]], []), "text/csv", "csv", f"{key}-template")


def _own(request: Request, pk: int) -> ImportPreview:
    preview: ImportPreview = get_object_or_404(ImportPreview.objects.for_owner(request.user), pk=pk)
    return preview


def _context(request: Request, preview: ImportPreview) -> dict[str, object]:
    count = counts(preview)
    total, pending = sum(count.values()), count[""]
    status = request.GET.get("status", "")
    if status not in STATUSES:
        status = next((candidate for candidate in STATUSES if count[candidate]), STATUSES[0])
    rows = preview.rows.filter(status=status) if not pending else preview.rows.none()
    refused = [] if pending or status == REFUSED else preview.rows.filter(status=REFUSED)[:REFUSED_AT_ONCE]
    page = Paginator(rows, PAGE).get_page(request.GET.get("page"))
    return {
        "preview": preview,
        "total": total,
        "done": total - pending,
        "pending": pending,
        "percent": round(100 * (total - pending) / total) if total else 100,
        "counts": [(status, count[status]) for status in STATUSES],
        "status": status,
        "refused": count[REFUSED],
        "refused_rows": refused,
        "changed": count[CHANGED],
        "ready": count["new"] + count[CHANGED],
        "page": page,
        "lines": [(row, said(row.row), worked_out(row.row)) for row in page],
    }


@login_required
@require_safe
def preview(request: Request, pk: int) -> HttpResponseBase:
    """What a file would change."""
    context = _context(request, _own(request, pk)) | {"kinds": shelf_kinds(request.user)}
    return render(request, "shelf/preview.html", context)


@login_required
@require_POST
def work(request: Request, pk: int) -> HttpResponseBase:
    """Look at the next part of a file."""
    own = _own(request, pk)
    look_at(own)
    if not request.htmx:
        return redirect("shelf:preview", pk)
    return render(request, "shelf/_preview.html", _context(request, own))


@login_required
@require_POST
def apply_preview(request: Request, pk: int) -> HttpResponseBase:
    """Bring in what was shown."""
    own = _own(request, pk)
    take = {key for text in request.POST.getlist("take") if (key := whole(text)) is not None}
    try:
        added, changed = apply(own, take, request.POST.get("take_all") == "1", request.POST.get("leave_out") == "1")
    except ApplyError as error:
        messages.error(request, str(error))
        return redirect("shelf:preview", pk)
    messages.success(request, f"Added {added:,}, changed {changed:,}. It can be undone.")
    kinds = {kind.section_key: kind for kind in KINDS.values()}
    landing = next((kinds[key] for key, _ in sections_brought(own) if key in kinds), None)
    return redirect(f"{landing.address()}?brought={own.pk}" if landing else "shelf:home")


@login_required
@require_POST
def drop_preview(request: Request, pk: int) -> HttpResponseBase:
    """Forget a file that was read."""
    _own(request, pk).delete()
    messages.success(request, "The file is forgotten. The shelf is as it was.")
    return redirect("shelf:import")


@login_required
@require_safe
def take_out(request: Request) -> HttpResponseBase:
    """What can be taken out."""
    sections = [(section, section.model.objects.for_owner(request.user).count()) for section in SECTIONS.values()]
    return render(request, "shelf/export.html", {"sections": sections, "kinds": shelf_kinds(request.user)})


def _document(owner_pk: int) -> str:
    owner = User.objects.get(pk=owner_pk)
    sections = {key: [row for _, row in section.rows(owner)] for key, section in SECTIONS.items()}
    return json.dumps({"cambrel": VERSION, "sections": sections}, ensure_ascii=False, indent=1, allow_nan=False)


@login_required
@require_safe
def document(request: Request) -> HttpResponseBase:
    """The whole shelf and its comparisons as one JSON document."""
    text = WRITING.run(_document, request.user.pk)
    return _download(text, "application/json", "json", "shelf")


@login_required
@require_safe
def table(request: Request, key: str) -> HttpResponseBase:
    """One section as CSV."""
    if key not in SECTIONS:
        raise Http404
    columns = list(document_schema()["$defs"][key]["properties"])
    text = write_table(columns, [row for _, row in SECTIONS[key].rows(request.user)])
    return _download(text, "text/csv", "csv", key.replace("_", "-"))


def _download(text: str, kind: str, ending: str, name: str) -> HttpResponseBase:
    response = HttpResponse(text, content_type=f"{kind}; charset=utf-8")
    day = timezone.now().date().isoformat()
    response["Content-Disposition"] = f'attachment; filename="cambrel-{name}-{day}.{ending}"'
    return response
