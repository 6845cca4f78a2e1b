"""Sheets of shots: planned from a bench, kept, ticked off in the field, and printed."""

from __future__ import annotations

from pathlib import Path

from csp.decorators import csp_update
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.contrib.staticfiles import finders
from django.http import HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from cambrel.conventions.preferred import preferred_by
from cambrel.field.card import bodies_said, home, look
from cambrel.field.models import Sheet
from cambrel.field.planning import SheetPlan, offered
from cambrel.inputs.fields import NameForm
from cambrel.links.addresses import bench_address
from cambrel.links.benches import decode
from cambrel.links.codec import LinkError
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.quantities import DomainError
from cambrel.optics.steadiness import HAND_SCHOOLS
from cambrel.owners.presses import pressed_once
from cambrel.owners.requests import Request
from cambrel.owners.sound import moment
from cambrel.owners.undo import last_change, recorded
from cambrel.shelf.models import Kit

USUAL_NAME = "Two tripods"
MOST_KITS = 60


@require_safe
def sheets(request: Request) -> HttpResponseBase:
    """The sheets of an owner, with how far each is."""
    rows = []
    for record in Sheet.objects.for_owner(request.user).defer("back", "found"):
        try:
            shots = SheetPlan(record.bench(), tuple(record.trials)).shots
        except (LinkError, DomainError):
            rows.append((record, "damaged: its bench cannot be read"))
            continue
        done = sum(shot.key in record.taken for shot in shots)
        rows.append((record, f"{done} of {len(shots)} taken"))
    kits = Kit.objects.for_owner(request.user)
    context = {
        "rows": rows,
        "kits": kits[:MOST_KITS],
        "last_change": last_change(request.user) if request.user.is_authenticated else None,
    }
    return render(request, "field/sheets.html", context)


@require_safe
def plan(request: Request) -> HttpResponseBase:
    """The shots that would prove a bench, before they are kept."""
    token = request.GET.get("b", "")
    try:
        bench = decode(token)
        made = SheetPlan(bench, tuple(request.GET.getlist("t")))
        stands = made.stands()
    except (LinkError, DomainError) as error:
        return render(request, "field/refused.html", {"says": str(error)}, status=400)
    context = {
        "plan": made,
        "stands": stands,
        "token": token,
        "bench_address": bench_address(bench, token=token),
        "offered": offered(made.picked),
        "form": NameForm(called=bench.title or bench.brief_name or USUAL_NAME, auto_id="sheet-%s"),
    }
    return render(request, "field/plan.html", context)


@login_required
@require_POST
@pressed_once
def keep(request: Request) -> HttpResponseBase:
    """Keep a sheet."""
    token, form = request.POST.get("b", ""), NameForm(request.POST)
    try:
        made = SheetPlan(decode(token), tuple(request.POST.getlist("t")))
        problem = "" if form.is_valid() else str(form.errors["name"][0])
    except LinkError as error:
        problem = str(error)
    if problem:
        messages.error(request, problem)
        return redirect("field:sheets")
    name = form.cleaned_data["name"]
    with recorded(request.user, f"Kept the field sheet “{name}”") as change:
        record = Sheet.objects.create(owner=request.user, name=name, token=token, trials=made.picked)
        change.created(record)
    return redirect("field:sheet", record.pk)


@login_required
@require_safe
def card(request: Request, pk: int) -> HttpResponseBase:
    """A kit's card: a page to print, or a file by itself."""
    kit = get_object_or_404(Kit.objects.for_owner(request.user), pk=pk)
    conventions = preferred_by(request.user).conventions
    context = {"kit": kit, "bodies": bodies_said(kit, request.user, conventions), "home": home(conventions)}
    if request.GET.get("as") != "html":
        return render(request, "field/card.html", context)
    context |= {
        "look": look(),
        "today": timezone.localdate(),
        "criterion": CIRCLE_OF_CONFUSION_SCHOOLS[conventions.criterion].label,
        "hand": HAND_SCHOOLS[conventions.hand].label,
    }
    answer = render(request, "field/card_alone.html", context)
    answer["Content-Disposition"] = 'attachment; filename="cambrel-card.html"'
    return answer


@require_safe
def worker(request: Request) -> HttpResponseBase:
    """The script that keeps sheets where there is no network, at an address that lets it reach these pages and no
    others.
    """
    path = finders.find("field/worker.js")
    assert isinstance(path, str)
    return HttpResponse(Path(path).read_text(), content_type="text/javascript", headers={"Cache-Control": "no-cache"})


@login_required
@require_safe
@csp_update({"worker-src": ["'self'"]})  # type: ignore[arg-type]
def sheet(request: Request, pk: int) -> HttpResponseBase:
    """A sheet to carry along: on a phone a page that ticks, on paper one with boxes."""
    record = get_object_or_404(Sheet.objects.for_owner(request.user), pk=pk)
    made = SheetPlan(record.bench(), tuple(record.trials))
    taken = {key: moment(when) for key, when in record.taken.items()}
    done = sum(shot.key in taken for shot in made.shots)
    context = {
        "sheet": record,
        "plan": made,
        "stands": [
            (stand, [(line, line.key in taken, taken.get(line.key)) for line in stand.lines]) for stand in made.stands()
        ],
        "says": f"{done} of {len(made.shots)} taken",
        "drawing": made.drawing(),
        "narrow_drawing": made.drawing(340.0),
        "bench_address": bench_address(made.bench, token=record.token),
    }
    return render(request, "field/sheet.html", context)


@login_required
@require_POST
def take(request: Request, pk: int) -> HttpResponseBase:
    """A shot is done, or was not. What a phone kept while it was away comes with the time at which it was pressed."""
    record = get_object_or_404(Sheet.objects.for_owner(request.user), pk=pk)
    key = request.POST.get("shot", "")
    if key not in {shot.key for shot in SheetPlan(record.bench(), tuple(record.trials)).shots}:
        return HttpResponse(
            "That shot is no longer on this sheet.", status=400, content_type="text/plain; charset=utf-8"
        )
    with recorded(request.user, f"Ticked a shot of “{record.name}”") as change:
        now = change.fresh(record)
        if request.POST.get("done") == "0":
            now.taken.pop(key, None)
        else:
            now.taken[key] = _when(request.POST.get("at", ""))
        change.save(now)
    if request.headers.get("X-Requested-With") == "fetch":
        return HttpResponse(status=204)
    return redirect(reverse("field:sheet", args=[pk]) + f"#{key}")


def _when(text: str) -> str:
    """A moment as it was sent, where it is one that has been; else now."""
    now = timezone.now()
    when = moment(text)
    return (now if when is None or when > now else when).isoformat(timespec="seconds")


@login_required
@require_POST
def forget(request: Request, pk: int) -> HttpResponseBase:
    """Throw a sheet away; it can be undone."""
    record = get_object_or_404(Sheet.objects.for_owner(request.user), pk=pk)
    with recorded(request.user, f"Threw away the field sheet “{record.name}”") as change:
        change.remove(record)
    return redirect("field:sheets")
