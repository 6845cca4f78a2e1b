"""The bench's addresses: the bench itself, its numbers as CSV, and saved comparisons."""

from dataclasses import replace
from urllib.parse import urlencode

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_safe
from django.views.decorators.vary import vary_on_headers

from cambrel.bench.actions import perform, with_gear, within_reason
from cambrel.bench.forms import OWN_FORMS
from cambrel.bench.numbers import numbers_csv
from cambrel.bench.page import build, compared
from cambrel.bench.pictures import picture_behind
from cambrel.bench.pressing import ActionError
from cambrel.bench.reading import Preferred, Reading, read
from cambrel.bench.samples import sample_briefs
from cambrel.bench.touches import TOUCHES, touch
from cambrel.downloads import svg_file
from cambrel.fields import whole
from cambrel.links import MOST_RIGS, Gear, LinkError, encode, encode_gear
from cambrel.optics.brief import LIGHT_LEVELS
from cambrel.optics.formats import FORMATS
from cambrel.owners.models import preferences_of
from cambrel.wording import UNITS


@require_safe
@vary_on_headers("HX-Request", "HX-History-Restore-Request", "Cookie")
def bench(request):
    """The bench: a full page, a refresh of its outputs, or, after a press, the whole bench anew."""
    partial = request.htmx and not request.htmx.history_restore_request
    try:
        reading = read(request.GET, request.COOKIES.get("width") == "narrow", _preferred(request.user))
    except LinkError as error:
        return _unreadable(request, str(error), partial)
    comparison = compared(reading)
    action = request.GET.get("action", "")
    if partial and not reading.sound:
        return render(request, "bench/_messages.html", {"messages_by_field": reading.messages}, status=422)
    if action and reading.sound:
        return _acted(request, action, reading, comparison, partial)
    page = build(reading.bench, reading.look, comparison, reading.void)
    if partial:
        return _addressed(request, render(request, "bench/_refresh.html", {"page": page}), page.address)
    return render(request, "bench/bench.html", _context(reading, page), status=200 if reading.sound else 422)


def _preferred(user):
    preferences = preferences_of(user)
    return Preferred(preferences.to_conventions(), preferences.units)


def _acted(request, action, reading, comparison, partial):
    """The bench after a press; the controls are drawn anew."""
    look = reading.look
    if action.startswith("match:"):
        return _matched(action, reading.bench, comparison, partial)
    try:
        if action.startswith("units:"):
            after, look = reading.bench, replace(look, units=UNITS.get(action.removeprefix("units:"), look.units))
        elif action.startswith("sort:"):
            after, look = reading.bench, replace(look, sort=action.removeprefix("sort:"))
        elif action.partition(":")[0] in TOUCHES:
            after, look = touch(action, reading.bench, comparison, look)
        elif action.startswith("own_"):
            after = _own_gear(request, action, reading.bench)
        else:
            after = perform(action, reading.bench, comparison, look.units)
        within_reason(after)
    except ActionError as error:
        if partial:
            return render(request, "bench/_messages.html", {"messages_by_field": {"bench": str(error)}}, status=422)
        reading.messages["bench"] = str(error)
        page = build(reading.bench, reading.look, comparison, reading.void)
        return render(request, "bench/bench.html", _context(reading, page), status=422)
    reading = read({"b": encode(after), **look.query(after)}, look.narrow, look.preferred)
    comparison = compared(reading)
    page = build(reading.bench, reading.look, comparison, reading.void)
    if not partial:
        return redirect(page.address)
    response = render(request, "bench/_bench.html", _context(reading, page))
    response["HX-Retarget"], response["HX-Reswap"] = "#bench", "outerHTML"
    return _addressed(request, response, page.address, push=True)


def _matched(action, bench, comparison, partial):
    """To the page that finds what makes a rig's picture elsewhere; the rig goes along by value."""
    which = min(whole(action.removeprefix("match:"), bench.reference), len(bench.slots) - 1)
    slot, settings = bench.slots[which], comparison.of(which).settings
    gear = Gear(slot.rig.body, slot.body_name, slot.rig.lens, slot.lens_name)
    query = {"g": encode_gear(gear)}
    if settings.focusable:
        values = (settings.focal_length_mm, settings.f_number, settings.iso, settings.object_distance_m)
        query |= dict(
            zip(("focal_length_mm", "f_number", "iso", "distance_m"), map("{:.6g}".format, values), strict=True)
        )
    address = f"{reverse('match:match')}?{urlencode(query)}"
    if not partial:
        return redirect(address)
    response = HttpResponse()
    response["HX-Redirect"] = address
    return response


def _own_gear(request, action, bench):
    """A body or a lens by its own figures, without a record on a shelf."""
    kind, _, text = action.removeprefix("own_").partition(":")
    index = whole(text, MOST_RIGS)
    if kind not in OWN_FORMS or index >= len(bench.slots):
        raise ActionError("There is no such camera on the bench.")
    form = OWN_FORMS[kind](request.GET, prefix="own")
    if not form.is_valid():
        raise ActionError(next(iter(form.errors.values()))[0])
    return with_gear(bench, index, form.to_gear(), at_f_number=form.cleaned_data.get("widest"))


def _context(reading: Reading, page):
    return {
        "page": page,
        "brief_form": reading.brief_form,
        "hold_form": reading.hold_form,
        "conventions_form": reading.conventions_form,
        "rig_forms": reading.rig_forms,
        "messages_by_field": reading.messages,
        "sample_briefs": sample_briefs().values(),
        "light_levels": LIGHT_LEVELS,
        "formats": FORMATS.values(),
    }


def _addressed(request, response, address, push=False):
    """The canonical address: pushed after a release, a press or an Enter, replaced while something is dragged or typed."""
    header = "HX-Push-Url" if push or request.GET.get("commit") == "1" else "HX-Replace-Url"
    response[header] = address
    return response


def _unreadable(request, message, partial):
    if partial:
        return render(request, "bench/_messages.html", {"messages_by_field": {"bench": message}}, status=422)
    return render(request, "bench/unreadable.html", {"message": message}, status=400)


@require_safe
def numbers(request):
    """Every figure of the bench at full precision, as CSV."""
    try:
        reading = read(request.GET)
    except LinkError as error:
        return HttpResponse(str(error), status=400, content_type="text/plain; charset=utf-8")
    comparison = compared(reading)
    if comparison is None or not reading.sound:
        return HttpResponse("\n".join(reading.messages.values()), status=422, content_type="text/plain; charset=utf-8")
    response = HttpResponse(numbers_csv(reading.bench, comparison), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="cambrel-numbers.csv"'
    return response


@require_safe
def drawing(request):
    """The drawing of a panel as a file."""
    try:
        reading = read(request.GET, preferred=_preferred(request.user))
    except LinkError as error:
        return HttpResponse(str(error), status=400, content_type="text/plain; charset=utf-8")
    comparison = compared(reading)
    if comparison is None or not reading.sound:
        return HttpResponse("\n".join(reading.messages.values()), status=422, content_type="text/plain; charset=utf-8")
    made = build(reading.bench, reading.look, comparison, reading.void).panel.get("drawing")
    if made is None:
        raise Http404
    return svg_file(made, reading.look.panel, picture_behind)
