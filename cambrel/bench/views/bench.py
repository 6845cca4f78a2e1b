"""The bench's addresses: the bench itself, its drawings and its numbers as files."""

from collections.abc import Mapping
from functools import cache
from io import BytesIO
from typing import Any

import segno
from django.http import Http404, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils.safestring import mark_safe
from django.views.decorators.http import require_safe
from django.views.decorators.vary import vary_on_headers

from cambrel.bench.actions import ActionError, State, perform
from cambrel.bench.forms import OWN_FORMS
from cambrel.bench.page import Page, build
from cambrel.bench.panels import PANELS, panel_of
from cambrel.bench.panels.closeup import stack_csv
from cambrel.bench.panels.numbers import numbers_csv, numbers_document
from cambrel.bench.panels.panel import PanelView
from cambrel.bench.reading import BenchReading, read
from cambrel.bench.refresh import refreshed
from cambrel.bench.telling import NoiseSeen, noise_seen, told
from cambrel.briefs.models import SavedBrief
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.comparison.brief import LIGHT_LEVELS
from cambrel.comparison.engine import compare
from cambrel.comparison.moving_pictures import with_film_shutter
from cambrel.conventions.preferred import preferred_by
from cambrel.conventions.questions import question
from cambrel.exports.downloads import svg_file
from cambrel.inputs.fields import NameForm, whole
from cambrel.links.addresses import bench_address
from cambrel.links.benches import decode
from cambrel.links.codec import LinkError
from cambrel.optics.quantities import DomainError
from cambrel.owners.requests import Request
from cambrel.pictures.views import pictures_for

A_YEAR = 365 * 24 * 3600
WAYS = (
    ("side", "side by side", "Every picture at one height"),
    ("large", "large", "One picture, as large as it goes. The letters a to f flip between cameras"),
    ("seam", "split", "Two pictures, one over the other, with a seam to drag"),
    ("flip", "flip", "Two pictures in turn on the same spot, laid over each other by the subject"),
    ("differ", "difference", "Only what differs between two pictures is bright"),
    ("tell", "can you tell?", "Ten rounds without letters: which is which?"),
)
"""How the pictures may be looked at: key, label, and what it does."""
MOST_BRIEFS = 100
"""Of an owner's own pictures, so many are offered on the bench."""


@require_safe
@vary_on_headers("HX-Request", "HX-History-Restore-Request", "Cookie")
def bench(request: Request) -> HttpResponseBase:
    """The bench: a full page, a refresh of its outputs, or, after a press, the whole bench anew."""
    partial = bool(request.htmx) and not request.htmx.history_restore_request
    try:
        width, panel = request.COOKIES.get("width", ""), request.COOKIES.get(_panel_cookie(request), "")
        reading = read(request.GET, width, preferred_by(request.user), panel, request.user)
    except LinkError as error:
        return _unreadable(request, str(error), partial)
    action = request.GET.get("action", "")
    if action and reading.sound:
        return _acted(request, action, reading, partial)
    page = build(reading)  # where the core refuses, this says so
    if partial and not reading.sound:
        return _messages(request, reading.messages)
    if partial:
        return _addressed(request, refreshed(page, request), page.address)
    return _whole(request, reading, page, 200 if reading.sound else 422)


def _panel_cookie(request: Request) -> str:
    """Where the panel that a reader chose last is remembered, each by themselves at one browser."""
    return f"panel-{request.user.pk or 0}"


def _acted(request: Request, action: str, reading: BenchReading, partial: bool) -> HttpResponse:
    """The bench after a press, whole; or the page that the press leads to."""
    before = State(reading.bench, reading.look, request.GET, find=reading.find)
    try:
        after = perform(action, before)
    except ActionError as error:
        if partial:
            return _messages(request, {"bench": str(error)})
        reading.messages["bench"] = str(error)
        return _whole(request, reading, build(reading), 422)
    if after.goes_to:
        return _leave(after.goes_to) if partial else redirect(after.goes_to)
    known = before.known_comparison if after.bench is before.bench else None
    reading = BenchReading.of(with_film_shutter(after.bench), after.look, known, reading.own, reading.find)
    page = build(reading)
    if not partial:
        return redirect(page.address)
    response = _part(request, "bench", **_controls(request, reading, page))
    response["HX-Retarget"], response["HX-Reswap"] = "#bench", "morph"
    return _addressed(request, response, page.address, push=True)


def _leave(address: str) -> HttpResponse:
    response = HttpResponse()
    response["HX-Redirect"] = address
    return response


def _controls(request: Request, reading: BenchReading, page: Page) -> dict[Any, Any]:
    return {
        "page": page,
        "forms": reading.forms,
        "problem": reading.messages.get("bench", ""),
        "saved_briefs": SavedBrief.objects.for_owner(request.user)[:MOST_BRIEFS],
        "sample_briefs": sample_briefs().values(),
        "light_levels": LIGHT_LEVELS,
        "units": dict(question("units").schools or {}).items(),
        "homes": dict(question("home").schools or {}).items() if request.user.is_authenticated else (),
        "oob": False,
        "controls": list(zip(page.plates, reading.forms.rigs, strict=True)),
        "ways": WAYS,
    }


def _part(request: Request, name: str, *, status: int = 200, **context: Any) -> HttpResponse:
    """A part of the bench."""
    return render(request, f"bench/_{name}.html", context, status=status)


def _whole(request: Request, reading: BenchReading, page: Page, status: int) -> HttpResponse:
    opening = not request.GET.get("b")
    context = {**_controls(request, reading, page), "picker": _picker(), "opening": opening}
    context |= {"first_visit": opening and not request.COOKIES.get("started"), "answered": request.GET.get("answered")}
    context["naming"] = NameForm(called=reading.bench.brief_name, auto_id="save-%s")
    return render(request, "bench/bench.html", context, status=status)


@cache
def _picker() -> str:
    """The dialog in which a rig gets other gear: the same on every page."""
    forms = {kind: form(prefix="own") for kind, form in OWN_FORMS.items()}
    return mark_safe(render_to_string("bench/_picker.html", {"own_forms": forms}))


def _addressed(request: Request, response: HttpResponse, address: str, push: bool = False) -> HttpResponse:
    """The canonical address: pushed after a release, a press or an Enter, replaced while something is dragged or
    typed.
    """
    if request.GET.get("panel") in PANELS:
        response.set_cookie(_panel_cookie(request), request.GET["panel"], max_age=A_YEAR, samesite="Lax", httponly=True)
    header = "HX-Push-Url" if push or request.GET.get("commit") == "1" else "HX-Replace-Url"
    response[header] = address
    return response


def _messages(request: Request, messages: Mapping[str, str]) -> HttpResponse:
    """Nothing but the messages beside the fields that cannot be used."""
    return _part(request, "messages", messages_by_field=messages, status=422)


def _unreadable(request: Request, message: str, partial: bool) -> HttpResponse:
    if partial:
        return _messages(request, {"bench": message})
    return render(request, "bench/unreadable.html", {"message": message}, status=400)


def _plain(text: str, status: int) -> HttpResponse:
    return HttpResponse(text, status=status, content_type="text/plain; charset=utf-8")


def _comparable(request: Request, **options: Any) -> tuple[BenchReading, None] | tuple[None, HttpResponse]:
    """A reading that can be written out as a file, or the answer that says why it cannot."""
    try:
        reading = read(request.GET, **options)
    except LinkError as error:
        return None, _plain(str(error), 400)
    if reading.work_out() is None or not reading.sound:
        return None, _plain("\n".join(reading.messages.values()), 422)
    return reading, None


MOST_ROUNDS = 1000


@require_safe
def tell(request: Request) -> HttpResponse:
    """What so many hits of so many rounds come to."""
    hits, rounds = whole(request.GET.get("hits", "")), whole(request.GET.get("of", ""))
    if hits is None or rounds is None or not 1 <= rounds <= MOST_ROUNDS or hits > rounds:
        return _plain("Hits are counted among the rounds.", 422)
    says, noise = told(hits, rounds), _noise_seen(request, hits, rounds)
    response = _plain(f"{says} {noise.says}" if noise else says, 200)
    if noise:
        response[SEEN_BELOW] = f"{noise.below:g}"
    return response


SEEN_BELOW = "Noise-Seen-Below"


def _noise_seen(request: Request, hits: int, rounds: int) -> NoiseSeen | None:
    """What rounds on two pictures of this bench say of noise, where noise was drawn."""
    reading, _ = _comparable(request)
    if reading is None or reading.comparison is None or not reading.look["grain"]:
        return None
    count = len(reading.comparison.rigs)
    pair = [whole(request.GET.get(name, "")) for name in ("first", "second")]
    rigs = [reading.comparison.of(index) for index in pair if index is not None and index < count]
    if len(rigs) != 2 or not all(rig.settings.focusable for rig in rigs):
        return None
    return noise_seen(hits, rounds, *rigs)


@require_safe
def numbers(request: Request) -> HttpResponseBase:
    """Every figure of the bench at full precision, as CSV."""
    reading, refusal = _comparable(request)
    if reading is None or reading.comparison is None:
        return refusal or _plain("", 422)
    return _csv(numbers_csv(reading.bench, reading.comparison), "numbers")


@require_safe
def numbers_json(request: Request) -> HttpResponseBase:
    """The same as JSON, for scripts and other sites: it depends on the link alone, and on nothing of who asks."""
    try:
        shown = decode(request.GET.get("b", ""))
        compared = compare(
            shown.brief, [slot.rig for slot in shown.slots], shown.hold, shown.conventions, shown.reference
        )
    except (LinkError, DomainError) as error:
        response = JsonResponse({"problem": str(error)}, status=400)
    else:
        document = numbers_document(shown, compared)
        document["link"] = request.build_absolute_uri(bench_address(shown))
        response = JsonResponse(document, json_dumps_params={"ensure_ascii": False})
    response["Access-Control-Allow-Origin"] = "*"
    response["Cache-Control"] = "public, max-age=3600"
    return response


@require_safe
def stack(request: Request) -> HttpResponseBase:
    """Where to focus each frame of every camera's stack, as CSV."""
    reading, refusal = _comparable(request)
    if reading is None or reading.comparison is None:
        return refusal or _plain("", 422)
    return _csv(stack_csv(reading.comparison), "stack")


def _csv(text: str, name: str) -> HttpResponse:
    response = HttpResponse(text, content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="cambrel-{name}.csv"'
    return response


@require_safe
def code(request: Request) -> HttpResponseBase:
    """The link of a bench as a code that a phone reads."""
    try:
        address = request.build_absolute_uri(bench_address(decode(request.GET.get("b", ""))))
    except LinkError as error:
        return _plain(str(error), 400)
    out = BytesIO()
    try:
        segno.make(address, error="l", micro=False).save(out, kind="png", scale=4, border=2)
    except segno.DataOverflowError:
        return _plain("This link is too long for a code. Copy it as text.", 400)
    return HttpResponse(out.getvalue(), content_type="image/png")


@require_safe
def drawing(request: Request) -> HttpResponseBase:
    """The drawing of a panel as a file."""
    reading, refusal = _comparable(request, preferred=preferred_by(request.user), reader=request.user)
    if reading is None or reading.comparison is None:
        return refusal or _plain("", 422)
    shown = panel_of(reading.look.panel, reading.bench.brief, reading.look.remembered)
    made = shown.build(PanelView(reading.bench, reading.comparison, reading.look, reading.own, reading.place)).get(
        "drawing"
    )
    if made is None:
        raise Http404
    return svg_file(made, shown.key, pictures_for(request.user))
