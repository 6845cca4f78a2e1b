"""Own scenes, as views: a picture of one's own place and a cut-out for its subject, re-encoded, with distances and
heights; taken out and in.
"""

from __future__ import annotations

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.core.cache import cache
from django.http import Http404, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from cambrel.bounds.doors import DOORS, MB
from cambrel.briefs.models import SavedBrief
from cambrel.comparison.bench import Task
from cambrel.comparison.brief import Brief
from cambrel.conventions.preferred import preferred_by
from cambrel.field.forms import PlaceForm
from cambrel.field.models import spoken_of
from cambrel.field.scene_files import (
    BACKGROUND_SIDE_PX,
    FIGURES,
    MOST_PLACES,
    SUBJECT_SIDE_PX,
    Brought,
    PlacesError,
    brought,
    read,
    written,
)
from cambrel.links.benches import encode_brief
from cambrel.optics.formats import FULL_FRAME
from cambrel.owners.presses import pressed_once
from cambrel.owners.requests import Request
from cambrel.owners.undo import StaleError, last_change, recorded
from cambrel.owners.work import work_at
from cambrel.photographs.decoding import MOST_BYTES, DecodeError
from cambrel.pictures import own
from cambrel.pictures.models import OwnScene
from cambrel.wording import UNITS

KEPT_S = 120
FILL = 0.9
"""What part of the frame's height the subject fills when the scene is made a picture."""
WRITING, SCENES = work_at("export"), work_at("scenes")


@login_required
@require_safe
def places(request: Request) -> HttpResponseBase:
    """The own scenes."""
    offered_places = _all(request)
    context = {
        "places": [
            (offered_place, own.local(request.user, offered_place.background, own.BACKGROUND) is not None)
            for offered_place in offered_places
        ],
        "kept_mb": own.kept_bytes(request.user, spoken_of(request.user)) / 2**20,
        "most_mb": own.MOST_KEPT_BYTES // 2**20,
        "last_change": last_change(request.user),
    }
    return render(request, "field/places.html", context)


def _all(request: Request) -> list[OwnScene]:
    return list(OwnScene.objects.for_owner(request.user)[:MOST_PLACES])


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
@pressed_once
def edit(request: Request, pk: int | None = None) -> HttpResponseBase:
    """Make or change an own scene."""
    record = (
        OwnScene(owner=request.user)
        if pk is None
        else get_object_or_404(OwnScene.objects.for_owner(request.user), pk=pk)
    )
    units = UNITS[preferred_by(request.user).units]
    form = PlaceForm(request.POST or None, request.FILES or None, units, record, is_new=pk is None)
    status = 200
    if request.method == "POST":
        with own.bringing(request.user) as pictures:
            if form.is_valid() and _take(pictures, form, record):
                try:
                    _keep(request, pictures, record, request.POST.get("version", ""))
                    return redirect("field:places")
                except own.FullError as error:
                    form.add_error("background", str(error))
                except StaleError:
                    record.refresh_from_db()
                    form.add_error(
                        "name",
                        "It was changed in another window. What you typed is below. Press Keep to use it.",
                    )
        status = 422
    context = {"form": form, "record": record, "is_new": pk is None, "most_mb": MOST_BYTES // 2**20}
    return render(request, "field/place.html", context, status=status)


def _keep(request: Request, pictures: own.Bringing, record: OwnScene, seen: str) -> None:
    """Save a scene with its pictures, where it is still the one that was seen.

    Raises
        StaleError, FullError
    """
    is_new = record.pk is None
    with recorded(request.user, f"{'Added' if is_new else 'Changed'} the scene “{record.name}”") as change:
        if not is_new:
            now = change.fresh(record)
            if seen != str(now.version):
                raise StaleError
            for name in ("name", "background", "subject", *FIGURES):
                setattr(now, name, getattr(record, name))
            record = now
        pictures.record(spoken_of(request.user))
        if is_new:
            record.save()
            change.created(record)
        else:
            change.save(record)


def _take(pictures: own.Bringing, form: PlaceForm, record: OwnScene) -> bool:
    """Put what was sent into the record; a picture that cannot be taken is said at its field, and nothing is
    changed.
    """
    d, found = form.cleaned_data, dict[str, Brought]()
    for name, ending, side in (
        ("background", own.BACKGROUND, BACKGROUND_SIDE_PX),
        ("subject", own.SUBJECT, SUBJECT_SIDE_PX),
    ):
        if d.get(name):
            try:
                found[name] = brought(pictures, d[name], ending, side)
            except DecodeError as error:
                form.add_error(name, str(error))
    height = d.get("background_height_m")
    if height is None:
        place = found.get("background")
        if place is not None and place.equivalent_mm:
            upright_mm = FULL_FRAME.width_mm if place.is_upright else FULL_FRAME.height_mm
            height = float((d["distance_m"] + d["background_m"]) * upright_mm / place.equivalent_mm)
        elif place is not None or not record.pk:
            form.add_error("background_height_m", "The file does not say its focal length. Type the height instead.")
        else:
            height = record.background_height_m
    if form.errors:
        return False
    record.name = d["name"]
    for name in FIGURES:
        if name != "background_height_m":
            setattr(record, name, d[name] if d[name] is not None else getattr(record, name))
    record.background_height_m = min(max(float(height or 0.0), 0.01), 10_000.0)
    for name, kept_file in found.items():
        setattr(record, name, kept_file.token)
    return True


@login_required
@require_safe
def picture(request: Request, pk: int, part: str) -> HttpResponseBase:
    """A picture of an own scene, for its owner."""
    record = get_object_or_404(OwnScene.objects.for_owner(request.user), pk=pk)
    ending = {"background": own.BACKGROUND, "subject": own.SUBJECT}.get(part)
    token = getattr(record, part, "") if ending else ""
    content = own.kept(request.user, token, ending or "") if token else None
    if content is None:
        raise Http404
    kind = "image/jpeg" if ending == own.BACKGROUND else "image/png"
    return HttpResponse(content, content_type=kind, headers={"Cache-Control": own.PRIVATE})


@login_required
@require_POST
def remove(request: Request, pk: int) -> HttpResponseBase:
    """Throw an own scene away."""
    record = get_object_or_404(OwnScene.objects.for_owner(request.user), pk=pk)
    with recorded(request.user, f"Threw away the scene “{record.name}”") as change:
        change.remove(record)
    return redirect("field:places")


@login_required
@require_POST
def brief(request: Request, pk: int) -> HttpResponseBase:
    """Make an own scene a picture to be made, which is kept with the others."""
    record = get_object_or_404(OwnScene.objects.for_owner(request.user), pk=pk)
    wanted = Brief(
        distance_m=record.distance_m, subject_height_m=record.subject_height_m, background_m=record.background_m
    )
    token = encode_brief(Task(wanted, record.name, scene=record.slug))
    wide = record.subject_height_m / FILL * FULL_FRAME.width_mm / FULL_FRAME.height_mm
    with recorded(request.user, f"Kept the picture “{record.name}”") as change:
        change.created(SavedBrief.objects.create(owner=request.user, name=record.name, token=token, framed_m=wide))
    messages.success(request, f"“{record.name}” is among your pictures: open it on the Bench.")
    return redirect("bench:saved")


@login_required
@require_safe
def take_out(request: Request) -> HttpResponseBase:
    """All own scenes with their pictures, as one file."""
    with WRITING.turn():
        answer = HttpResponse(written(request.user, _all(request)), content_type="application/zip")
    answer["Content-Disposition"] = 'attachment; filename="cambrel-scenes.zip"'
    return answer


@login_required
@require_POST
@pressed_once
def bring_in(request: Request) -> HttpResponseBase:
    """Take scenes from such a file: all of them or none, and none over another."""
    file, records = request.FILES.get("file"), list[OwnScene]()
    try:
        if file is None:
            raise PlacesError(f"Choose a file of scenes of {DOORS['scenes'].most_bytes // MB} MB at most.")
        with SCENES.turn() as until, own.bringing(request.user) as pictures:
            for done, record in read(pictures, file.read(), until):
                records.append(record)
                cache.set(_done_key(request), done, KEPT_S)
            count = "1 scene" if len(records) == 1 else f"{len(records)} scenes"
            with recorded(request.user, f"Brought in {count}") as change:
                pictures.record(spoken_of(request.user))
                for record in records:
                    record.save()
                change.created(*records)
    except (PlacesError, DecodeError, own.FullError) as error:
        messages.error(request, str(error))
    else:
        messages.success(request, f"{count} brought in. It can be undone.")
    cache.delete(_done_key(request))
    return redirect("field:places")


@login_required
@require_safe
def progress(request: Request) -> HttpResponseBase:
    """What share of the scenes that are being brought in is done."""
    return JsonResponse({"done": cache.get(_done_key(request), 0.0)}, headers={"Cache-Control": "no-store"})


def _done_key(request: Request) -> str:
    return f"scenes:{request.user.pk}:{request.user.date_joined.timestamp()}"
