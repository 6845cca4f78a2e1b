"""Which kit makes the pictures one makes: briefs by kits, each cell computed and pictured."""

from typing import Any

from django import forms
from django.http import StreamingHttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import render
from django.views.decorators.http import require_safe

from cambrel.choose.deciding import COLUMNS, Decision, Wanted, tasks_of
from cambrel.choose.packing import MOST_KITS, Gear
from cambrel.conventions.preferred import preferred_by
from cambrel.fields import NumberField, whole
from cambrel.owners.models import gear_owner
from cambrel.owners.requests import Request
from cambrel.shelf.intake.tables import table_lines
from cambrel.shelf.models import Kit

USUAL_SHARE = 1.0


class SharesForm(forms.Form):
    """How often each picture is made, in any unit: only the ratios count. What is not sent is as often as any other."""

    use_required_attribute = False

    def __init__(self, sent: Any, tasks: list[Wanted]) -> None:
        super().__init__(data=None, auto_id="share-%s")
        for one in tasks:
            self.fields[one.key] = NumberField(label=f"How often: {one.task.name}", low=0, high=1e6, required=False)
            self.fields[one.key].initial = USUAL_SHARE
        shown = dict.fromkeys(self.fields, "1")
        self.data = {name: sent.get(name, shown[name]) for name in self.fields}
        self.is_bound = True

    def shares(self) -> dict[str, float]:
        self.is_valid()
        return {
            name: float(self.cleaned_data.get(name) or 0.0) if name not in self.errors else USUAL_SHARE
            for name in self.fields
        }


@require_safe
def choose(request: Request) -> HttpResponseBase:
    """The table, for the kits and shares in the address."""
    owner = gear_owner(request.user)
    records = Kit.objects.for_owner(owner)
    wanted = [key for key in map(whole, request.GET.getlist("kit")) if key is not None]
    chosen = records.filter(pk__in=wanted) if wanted else records
    chosen = chosen if chosen.exists() else records
    tasks = tasks_of(request.user)
    form = SharesForm(request.GET, tasks)
    gear, what_if, out = Gear(owner), request.GET.getlist("what"), request.GET.getlist("out")
    conventions = preferred_by(request.user).conventions
    decision = Decision(gear.packed(chosen, what_if), tasks, form.shares(), conventions)
    if request.GET.get("as") == "csv":
        response = StreamingHttpResponse(table_lines(COLUMNS, decision.table()), content_type="text/csv; charset=utf-8")
        response["Content-Disposition"] = 'attachment; filename="cambrel-choose.csv"'
        return response
    rows = [(one, form[one.key], cells) for one, cells in decision.rows()]
    context = {
        "form": form,
        "kits": records[:60],
        "chosen": {kit.record.pk for kit in decision.kits},
        "decision": decision,
        "heads": decision.heads(),
        "rows": rows,
        "most": MOST_KITS,
        "sentences": list(decision.sentences()),
        "sure": list(decision.sureness()) if request.GET.get("sure") == "1" else [],
        "race": decision.race(request.GET["race"]) if request.GET.get("race") else None,
        "racing": request.GET.get("race", ""),
        "out": out,
        "carry": decision.carried(out),
        "what_if": [token for token in what_if if len(token) < 60],
        "helping": request.GET.get("help") == "1",
        "helps": [(kit, gear.helps(kit, decision.pictures, conventions)) for kit in decision.kits if not kit.more]
        if request.GET.get("help") == "1"
        else [],
    }
    return render(request, "choose/choose.html", context, status=422 if form.errors else 200)
