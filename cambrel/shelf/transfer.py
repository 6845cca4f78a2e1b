"""Files in and out: the import with its preview, the document and the tables."""

import json

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.paginator import Paginator
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from cambrel.owners.sections import SECTIONS
from cambrel.shelf.intake import FileError, read_file
from cambrel.shelf.intake.documents import VERSION, schema
from cambrel.shelf.intake.found import MOST_BYTES, too_many
from cambrel.shelf.intake.tables import write_table
from cambrel.shelf.models import ImportPreview
from cambrel.shelf.previews import CHANGED, STATUSES, ApplyError, apply, counts, look_at, store
from cambrel.shelf.views import shelf_kinds

PAGE = 100


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def bring_in(request):
    """Choose files; they are read and kept as a preview."""
    problem = ""
    if request.method == "POST":
        files = request.FILES.getlist("files")
        try:
            preview = _read(request.user, files)
        except FileError as error:
            problem = str(error)
        else:
            return redirect("shelf:preview", preview.pk)
    context = {
        "problem": problem,
        "kinds": shelf_kinds(request.user),
        "previews": ImportPreview.objects.for_owner(request.user).filter(applied_at=None)[:5],
    }
    return render(request, "shelf/import.html", context, status=422 if problem else 200)


def _read(owner, files):
    if not files:
        raise FileError("Choose at least one file.")
    if sum(file.size for file in files) > MOST_BYTES:
        raise FileError("More than 20 MB at a time is not read; bring the files in in parts.")
    found = [(file.name, read_file(file.name, file.read())) for file in files]
    too_many(sum(len(records) for _, records in found))
    return store(owner, files[0].name if len(files) == 1 else f"{len(files)} files", found)


def _own(request, pk):
    return get_object_or_404(ImportPreview.objects.for_owner(request.user), pk=pk)


def _context(request, preview):
    count = counts(preview)
    total, pending = sum(count.values()), count[""]
    status = request.GET.get("status", "")
    if status not in STATUSES:
        status = next((one for one in STATUSES if count[one]), STATUSES[0])
    rows = preview.rows.filter(status=status) if not pending else preview.rows.none()
    return {
        "preview": preview,
        "total": total,
        "done": total - pending,
        "pending": pending,
        "percent": round(100 * (total - pending) / total) if total else 100,
        "counts": [(one, count[one]) for one in STATUSES],
        "status": status,
        "refused": count["refused"],
        "changed": count[CHANGED],
        "ready": count["new"] + count[CHANGED],
        "page": Paginator(rows, PAGE).get_page(request.GET.get("page")),
    }


@login_required
@require_safe
def preview(request, pk):
    """What a file would change."""
    context = _context(request, _own(request, pk)) | {"kinds": shelf_kinds(request.user)}
    return render(request, "shelf/preview.html", context)


@login_required
@require_POST
def work(request, pk):
    """Look at the next part of a file."""
    own = _own(request, pk)
    look_at(own)
    if not request.htmx:
        return redirect("shelf:preview", pk)
    return render(request, "shelf/_preview.html", _context(request, own))


@login_required
@require_POST
def apply_preview(request, pk):
    """Bring in what was shown."""
    own = _own(request, pk)
    take = {int(key) for key in request.POST.getlist("take") if key.isdecimal() and len(key) < 19}
    try:
        added, changed = apply(own, take, request.POST.get("take_all") == "1", request.POST.get("leave_out") == "1")
    except ApplyError as error:
        messages.error(request, str(error))
        return redirect("shelf:preview", pk)
    messages.success(request, f"Added {added:,}, changed {changed:,}. It can be undone.")
    return redirect("shelf:home")


@login_required
@require_POST
def drop_preview(request, pk):
    """Forget a file that was read."""
    _own(request, pk).delete()
    messages.success(request, "The file has been put aside; the shelf is as it was.")
    return redirect("shelf:import")


@login_required
@require_safe
def take_out(request):
    """What can be taken out."""
    sections = [(section, len(section.rows(request.user))) for section in SECTIONS.values()]
    return render(request, "shelf/export.html", {"sections": sections, "kinds": shelf_kinds(request.user)})


@login_required
@require_safe
def document(request):
    """The whole shelf and its comparisons as one JSON document."""
    sections = {key: [row for _, row in section.rows(request.user)] for key, section in SECTIONS.items()}
    text = json.dumps({"cambrel": VERSION, "sections": sections}, ensure_ascii=False, indent=1, allow_nan=False)
    return _download(text, "application/json", "json", "shelf")


@login_required
@require_safe
def table(request, key):
    """One section as CSV."""
    if key not in SECTIONS:
        raise Http404
    columns = list(schema()["$defs"][key]["properties"])
    text = write_table(columns, [row for _, row in SECTIONS[key].rows(request.user)])
    return _download(text, "text/csv", "csv", key.replace("_", "-"))


def _download(text, kind, ending, name):
    response = HttpResponse(text, content_type=f"{kind}; charset=utf-8")
    day = timezone.now().date().isoformat()
    response["Content-Disposition"] = f'attachment; filename="cambrel-{name}-{day}.{ending}"'
    return response
