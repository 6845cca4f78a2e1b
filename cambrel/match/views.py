"""The pages of Match and Fit. Each is a GET form with its whole question in the address."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from math import inf
from urllib.parse import urlencode

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe
from django.views.decorators.vary import vary_on_headers

from cambrel.comparison.brief import Brief, Conventions
from cambrel.conventions.home import home_name
from cambrel.conventions.preferred import preferred_by
from cambrel.exports.csv_tables import Columns, table_lines
from cambrel.exports.downloads import svg_file
from cambrel.inputs.fields import NameForm, whole
from cambrel.links.addresses import alone_address, put_address
from cambrel.links.benches import encode_gear
from cambrel.match.fit_matrix import CELLS, cells_of, fit_of, upgrade
from cambrel.match.lens_shelf import LensShelf, shelf_of
from cambrel.match.match_query import USUAL_TARGETS, FitForm, MatchQuery, UpgradeForm, ask
from cambrel.match.matching import TargetAnswer, answer, every_row, targets_of
from cambrel.match.models import KeptQuestion
from cambrel.owners.models import gear_owner
from cambrel.owners.presses import pressed_once
from cambrel.owners.requests import Request
from cambrel.owners.undo import last_change, recorded
from cambrel.shelf.grid import Grid
from cambrel.shelf.models import Body, Kit, Lens
from cambrel.shelf.views.gear_choice import gear_of

COLUMNS = 30
MOST_CELLS = 500_000
LONGEST_PATH = 8000
MOST_LENSES = 2000
"""That can be chosen from on the page of Fit."""
CSV_COLUMNS = (
    "target",
    "name",
    "mount",
    "setting",
    "equivalent",
    "status",
    "view",
    "depth",
    "light",
    "weight",
    "price",
    "length",
)


def _page(request: Request) -> int:
    return min(whole(request.GET.get("page", "1"), 1), 100_000)


def _answers(
    request: Request, question: MatchQuery, shelf: LensShelf, judged: Conventions
) -> tuple[list[TargetAnswer], str]:
    """An answer for every target, the one that is looked at in full."""
    targets = targets_of(question, shelf)
    shown = request.GET.get("show", "")
    shown = shown if any(t.key == shown for t in targets) else (targets[0].key if targets else "")
    return [answer(question, shelf, t, judged, _page(request), whole=t.key == shown) for t in targets], shown


@require_safe
@vary_on_headers("HX-Request", "HX-History-Restore-Request", "Cookie")
def match(request: Request) -> HttpResponseBase:
    """What gives me that picture there?"""
    shelf = shelf_of(gear_owner(request.user))
    question = ask(request.GET, shelf.offered)
    judged = preferred_by(request.user).conventions
    answers, shown = _answers(request, question, shelf, judged) if question.wanted else ([], "")
    now = request.GET.copy()
    for answer_ in answers:
        now["show"] = answer_.target.key
        now.pop("page", None)
        answer_.address = "?" + now.urlencode()
    full = next((a for a in answers if a.target.key == shown), None)
    context = {
        "question": question,
        "form": question.form,
        "answers": answers,
        "full": full,
        "pages": _page_links(request, full),
        "turned": _reversed(request, question),
        "csv": "?" + request.GET.urlencode(),
        "drawing_address": f"{reverse('match:svg')}?{request.GET.urlencode()}",
        "path": request.get_full_path(),
        "naming": NameForm(placeholder="Keep this question as …", auto_id="keep-%s"),
        "kept": KeptQuestion.objects.for_owner(request.user)[:8],
        "last_change": last_change(request.user) if request.user.is_authenticated else None,
        "by": judged.crop_by,
        "home": home_name(judged),
    }
    status = 422 if question.form.errors or question.problem else 200
    partial = request.htmx and not request.htmx.history_restore_request
    return render(request, "match/_answers.html" if partial else "match/match.html", context, status=status)


def _page_links(request: Request, full: TargetAnswer | None) -> dict[str, str] | None:
    if full is None or full.pages < 2:
        return None
    links = {}
    for name, page in (("before", full.page - 1), ("after", full.page + 1)):
        if 1 <= page <= full.pages:
            now = request.GET.copy()
            now["page"] = str(page)
            links[name] = "?" + now.urlencode()
    return links


def _reversed(request: Request, question: MatchQuery) -> str:
    """The same lens asked of full frame, with its whole range: what is it there, and what would truly replace it."""
    if question.gear.lens is None:
        return ""
    now = {"g": encode_gear(question.gear), "t": [*USUAL_TARGETS], "show": "full-frame", "whole": "1"}
    return "?" + urlencode(now, doseq=True)


@require_safe
def match_svg(request: Request) -> HttpResponseBase:
    """The drawing of the answer that is looked at, as a file."""
    shelf = shelf_of(gear_owner(request.user))
    question = ask(request.GET, shelf.offered)
    judged = preferred_by(request.user).conventions
    answers, shown = _answers(request, question, shelf, judged) if question.wanted else ([], "")
    full = next((a for a in answers if a.target.key == shown), None)
    if full is None or full.drawing is None:
        raise Http404
    return svg_file(full.drawing, "match")


@require_safe
def match_csv(request: Request) -> HttpResponseBase:
    """All rows of the answer that is looked at, as CSV."""
    shelf = shelf_of(gear_owner(request.user))
    question = ask(request.GET, shelf.offered)
    if question.wanted is None:
        return HttpResponse("The question cannot be read.", status=422, content_type="text/plain; charset=utf-8")
    judged = preferred_by(request.user).conventions
    answers, shown = _answers(request, question, shelf, judged)
    full = next((a for a in answers if a.target.key == shown), None)
    if full is None:
        raise Http404
    all_rows = every_row(question, shelf, full.target, judged)
    rows = ({**{name: getattr(row, name, "") for name in CSV_COLUMNS}, "target": full.target.name} for row in all_rows)
    return _csv(CSV_COLUMNS, rows, "match")


def _csv(columns: Columns, rows: Iterable[Mapping[str, object]], name: str) -> HttpResponseBase:
    response = StreamingHttpResponse(table_lines(columns, rows), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="cambrel-{name}.csv"'
    return response


@require_safe
def of_lens(request: Request, pk: int) -> HttpResponseBase:
    """The picture of a lens of the shelf, asked of the usual systems."""
    owner = gear_owner(request.user)
    lens: Lens = get_object_or_404(Lens.objects.for_owner(owner), pk=pk)
    body = lens.fixed_to or Body.objects.for_owner(owner).filter(mount=lens.mount).exclude(mount="").first()
    gear = gear_of(lens)
    if body is not None:
        gear = replace(gear_of(body), lens=gear.lens, lens_name=gear.lens_name)
    return redirect(f"{request.path.split('lens/')[0]}?{urlencode({'g': encode_gear(gear)})}")


@login_required
@require_safe
def fit(request: Request) -> HttpResponseBase:
    """Does this lens fit that body?"""
    shelf = shelf_of(request.user)
    named = sorted((row["name"], str(row["pk"])) for row in shelf.rows)[:MOST_LENSES]
    lenses = {pk: name for name, pk in named}
    form = FitForm(request.GET, lenses, {str(body.pk): body.name for body in shelf.bodies})
    given = form.data
    body = next((body_record for body_record in shelf.bodies if str(body_record.pk) == given["body"]), None)
    lens = Lens.objects.for_owner(request.user).select_related("fixed_to").filter(pk=given["lens"] or None).first()
    shape = given["shape"]
    conventions = preferred_by(request.user).conventions
    lens_fit = fit_of(lens, body, shelf, shape, conventions) if body and lens else None
    if lens_fit and lens_fit.drawing and request.GET.get("as") == "svg":
        return svg_file(lens_fit.drawing, "fit")
    context = {
        "form": form,
        "body": body,
        "lens": lens,
        "shape": shape,
        "fit": lens_fit,
        "home": home_name(conventions),
        "bench": _bench_of(body, lens) if body and lens_fit else "",
        "covered": _covered(body, lens, conventions) if body and lens_fit else "",
        "svg": f"{reverse('match:fit')}?{urlencode({**given, 'as': 'svg'})}" if lens_fit else "",
        "path": request.get_full_path(),
        "naming": NameForm(placeholder="Keep this question as …", auto_id="keep-%s"),
    }
    return render(request, "match/fit.html", context)


def _covered(body: Body, lens: Lens, conventions: Conventions) -> str:
    """The lens on the body as it is focused far away, by itself on a bench."""
    there, gear = gear_of(body), gear_of(lens)
    if there.body is None or gear.lens is None or gear.lens.focal_min_mm is None:
        return ""
    both = replace(there, lens=gear.lens, lens_name=gear.lens_name)
    focal = gear.lens.focal_min_mm
    return alone_address(both, focal, float(gear.lens.widest_f_number(focal)), Brief(focus_distance_m=inf), conventions)


def _bench_of(body: Body, lens: Lens) -> str:
    there, gear = gear_of(body), gear_of(lens)
    return put_address(replace(there, lens=gear.lens, lens_name=gear.lens_name))


@login_required
@require_safe
def matrix(request: Request) -> HttpResponseBase:
    """Lenses against bodies, a page at a time; as a table in a file all that were found, up to a bound."""
    shelf = shelf_of(request.user)
    grid = Grid(
        request,
        Lens.objects.for_owner(request.user).filter(fixed_to=None),
        Body.objects.for_owner(request.user).prefetch_related("fixed_lenses"),
        COLUMNS,
    )
    verdict = cells_of(shelf)
    context = {"grid": grid, "words": CELLS, "csv": f"?{grid.query_string.urlencode()}&as=csv"}
    if request.GET.get("as") == "csv":
        if grid.found_rows.count() * grid.found_columns.count() <= MOST_CELLS:
            columns = {"lens": "lens", **{body.pk: body.name for body in grid.found_columns}}
            bodies = list(grid.found_columns)
            table = (
                {"lens": lens.name, **{body.pk: CELLS[verdict(lens, body)] for body in bodies}}
                for lens in grid.found_rows
            )
            return _csv(columns, table, "fit")
        context["too_many"] = f"A file takes at most {MOST_CELLS:,} lenses times bodies. Narrow the search first."
    context["rows"] = [(lens, [(body, verdict(lens, body)) for body in grid.columns]) for lens in grid.rows]
    return render(request, "match/matrix.html", context, status=422 if "too_many" in context else 200)


@login_required
@require_safe
def upgrades(request: Request) -> HttpResponseBase:
    """From today's kit to another body: what stays, what it becomes, what falls away."""
    shelf = shelf_of(request.user)
    kits = {str(kit.pk): kit.name for kit in Kit.objects.for_owner(request.user)}
    form = UpgradeForm(request.GET, kits, {str(body.pk): body.name for body in shelf.bodies})
    kit = Kit.objects.for_owner(request.user).filter(pk=form.data["kit"] or None).first()
    body = next((body_record for body_record in shelf.bodies if str(body_record.pk) == form.data["body"]), None)
    conventions = preferred_by(request.user).conventions
    upgraded = upgrade(kit, body, shelf, conventions) if kit and body else None
    if upgraded and request.GET.get("as") == "csv":
        columns = ("lens", "word", "was", "becomes", "cover", "megapixels")
        return _csv(columns, [{name: str(getattr(row, name)) for name in columns} for row in upgraded.rows], "upgrade")
    context = {
        "form": form,
        "kit": kit,
        "body": body,
        "upgrade": upgraded,
        "home": home_name(conventions),
        "path": request.get_full_path(),
        "naming": NameForm(placeholder="Keep this question as …", auto_id="keep-%s"),
    }
    return render(request, "match/upgrade.html", context)


@login_required
@require_POST
@pressed_once
def keep(request: Request) -> HttpResponseBase:
    """Keep a question under a name."""
    path = request.POST.get("path", "")
    form = NameForm(request.POST)
    try:
        if not form.is_valid():
            raise ValueError(form.errors["name"][0])
        name = form.cleaned_data["name"]
        if len(path) > LONGEST_PATH or not path.startswith(("/match/", "/fit/")):
            raise ValueError("This question cannot be kept.")
    except ValueError as error:
        messages.error(request, str(error))
        return redirect("match:match")
    with recorded(request.user, f"Kept “{name}”") as change:
        change.created(KeptQuestion.objects.create(owner=request.user, name=name, path=path))
    messages.success(request, f"Kept “{name}”.")
    return redirect(path)


@login_required
@require_POST
def forget(request: Request, pk: int) -> HttpResponseBase:
    """Delete a kept question; it can be undone."""
    question = get_object_or_404(KeptQuestion.objects.for_owner(request.user), pk=pk)
    with recorded(request.user, f"Deleted “{question.name}”") as change:
        change.remove(question)
    return redirect("match:match")
