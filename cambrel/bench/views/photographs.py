"""A photograph as the start of a bench: its head read, what it does not say asked once, and the bench that it is."""

from __future__ import annotations

from urllib.parse import urlencode

from django.http import JsonResponse
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_POST, require_safe

from cambrel import wording
from cambrel.bench.photograph_form import FIGURES, NAMED, PhotographForm, told_in, written
from cambrel.bench.photograph_gear import ON_SHELF, camera_of, cameras, other_cameras, slot_of
from cambrel.bench.sample_benches import opening_bench
from cambrel.comparison.bench import Bench
from cambrel.comparison.photographed import Photograph, bench_of, shape_of
from cambrel.comparison.rig import Body, Rig
from cambrel.conventions.preferred import preferred_by
from cambrel.links.addresses import bench_address
from cambrel.links.benches import decode
from cambrel.links.codec import LinkError
from cambrel.optics.formats import FORMATS, FULL_FRAME
from cambrel.optics.quantities import DomainError
from cambrel.owners.requests import Request
from cambrel.photographs.sent import INCOMPLETE, sent_heads
from cambrel.photographs.taken import Taken
from cambrel.wording import UNITS
from cambrel.wording.sentences import listed

SETTINGS = FIGURES[:-1]
NOTHING = "Its file does not say how it was taken. Give what you know."


def _name(taken: Taken) -> str:
    """What the picture is called: by its camera's clock."""
    return "Photograph" + (f", {taken.at.day} {taken.at:%B %Y, %H:%M:%S}" if taken.at else "")


@require_POST
def heads(request: Request) -> HttpResponseBase:
    """What the head of a file says, as the address that goes on with it. Nothing is kept."""
    parts = (part.read() for part in request.FILES.getlist("part"))
    try:
        sent = sent_heads(request.POST.get("says", ""), parts, timezone.localtime().replace(tzinfo=None))
    except ValueError:
        return JsonResponse({"problem": INCOMPLETE}, status=400)
    answers = []
    for head in sent:
        answer = head.answer()
        if head.picture is not None:
            answer["query"], answer["name"] = urlencode(written(head.picture)), _name(head.picture)
            answer["notes"] = head.picture.notes
        answers.append(answer)
    return JsonResponse({"files": answers})


def _standing(request: Request) -> Bench:
    """The bench that the picture was dropped on, or the one that stands there at first."""
    try:
        return decode(request.GET["b"]) if request.GET.get("b") else opening_bench()
    except LinkError:
        return opening_bench()


@require_safe
@ensure_csrf_cookie
def photograph(request: Request) -> HttpResponseBase:
    """From a photograph: what its file does not say is asked; where all is known, on to the bench."""
    standing, units = _standing(request), UNITS[preferred_by(request.user).units]
    taken, gone_on = told_in(request.GET), request.GET.get("go") == "1"
    known = {name: getattr(taken, name) for name in FIGURES} | {"camera": camera_of(request.user, taken)}
    missing = [name for name in NAMED if not known[name]]
    form = PhotographForm(
        request.GET if gone_on else None,
        known | ({} if known["distance_m"] else {"distance_m": standing.brief.distance_m}),
        cameras(request.user),
        units,
    )
    context: dict[str, object] = {"form": form, "told": written(taken), "bench": request.GET.get("b", "")}
    values = form.cleaned_data if gone_on and form.is_valid() else {} if missing or gone_on else known
    if values:
        try:
            return redirect(_address(request, taken, values, standing))
        except (DomainError, LookupError) as error:
            context["problem"] = (
                f"{error}." if isinstance(error, DomainError) else "That camera is no longer on the shelf."
            )
    is_any = any(known[name] for name in SETTINGS)
    context |= {
        "name": _name(taken),
        "says": NOTHING if context["told"] and not is_any else "",
        "missing": listed([NAMED[name] for name in missing]) if is_any and missing else "",
        "is_distance_guessed": not known["distance_m"] and not gone_on,
        "unknown_camera": "" if str(known["camera"]).startswith(ON_SHELF) else taken.body,
        "format": FORMATS[str(known["camera"])].name if known["camera"] in FORMATS else "",
        "focal_35_mm": wording.focal(taken.focal_35_mm) if taken.focal_35_mm else "",
    }
    return render(request, "bench/photograph.html", context, status=422 if gone_on else 200)


def _address(request: Request, taken: Taken, values: dict[str, object], standing: Bench) -> str:
    """The bench that the picture is.

    Raises
        DomainError for what no camera does; LookupError where the camera is gone
    """
    focal_mm, f_number, shutter_s, iso, distance_m = (float(str(values[name])) for name in FIGURES)
    rig = Rig(Body(FULL_FRAME), focal_length_mm=focal_mm, f_number=f_number, shutter_s=shutter_s, iso=iso)
    slot = slot_of(request.user, str(values["camera"]), taken.lens, rig)
    if slot is None:
        raise LookupError(values["camera"])
    picture = Photograph(
        slot,
        distance_m,
        _name(taken),
        bool(taken.wide_px and taken.high_px and taken.high_px > taken.wide_px),
        shape_of(taken, slot.rig),
        bool(taken.is_flashed),
    )
    bench = bench_of(picture, standing, other_cameras(request.user, standing, slot))
    return bench_address(bench, photo="flash" if picture.is_flashed else "1")
