"""Own scenes, as views: a picture of one's own place and a cut-out for its subject, re-encoded, with distances and heights; taken out and in."""

from __future__ import annotations

import io
import json
import tempfile
import zipfile
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe
from jsonschema import Draft202012Validator

from cambrel.briefs.models import SavedBrief
from cambrel.conventions.preferred import preferred_by
from cambrel.field.backs import read_whole
from cambrel.field.forms import PlaceForm
from cambrel.links import Task, encode_brief
from cambrel.names import shortened
from cambrel.optics.brief import Brief
from cambrel.optics.formats import FULL_FRAME
from cambrel.owners.requests import Request
from cambrel.owners.undo import last_change, recorded
from cambrel.photographs.decoding import MOST_BYTES, DecodeError, decode
from cambrel.pictures import own
from cambrel.pictures.models import OwnScene, new_key
from cambrel.wording import UNITS

BACKGROUND_SIDE_PX, SUBJECT_SIDE_PX = 2000, 1400
FIGURES = (
    "distance_m",
    "subject_height_m",
    "background_m",
    "background_height_m",
    "background_foot_m",
    "camera_height_m",
)
MOST_PLACES = 60
FILL = 0.9
"""What part of the frame's height the subject fills when the scene is made a picture."""
SIGN = "scenes.json"
NUMBER = {"type": "number", "minimum": -1000, "maximum": 10_000}
CHECK = Draft202012Validator({
    "type": "object", "required": ["cambrel_scenes", "scenes"],
    "properties": {
        "cambrel_scenes": {"const": 1},
        "scenes": {"type": "array", "maxItems": MOST_PLACES, "items": {
            "type": "object", "additionalProperties": False, "required": ["key", "name", "background", *FIGURES],
            "properties": {
                "key": {"type": "string", "pattern": "^[0-9a-f]{12}$"},
                "name": {"type": "string", "minLength": 1, "maxLength": 60, "pattern": "\\S"},
                "background": {"type": "string", "maxLength": 80}, "subject": {"type": "string", "maxLength": 80},
                **dict.fromkeys(FIGURES, NUMBER),
            },
        }},
    },
})  # fmt: skip
LEAST = {"distance_m": 0.05, "subject_height_m": 0.005, "background_m": 0.01, "background_height_m": 0.01}
"""What a scene needs of its figures to be drawn."""


@login_required
@require_safe
def places(request: Request) -> HttpResponseBase:
    """The own scenes."""
    context = {
        "places": OwnScene.objects.for_owner(request.user)[:MOST_PLACES],
        "kept_mb": own.kept_bytes(request.user) / 2**20,
        "most_mb": own.MOST_KEPT_BYTES // 2**20,
        "last_change": last_change(request.user),
    }
    return render(request, "field/places.html", context)


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def edit(request: Request, pk: int | None = None) -> HttpResponseBase:
    """Make or change an own scene."""
    record = (
        OwnScene(owner=request.user)
        if pk is None
        else get_object_or_404(OwnScene.objects.for_owner(request.user), pk=pk)
    )
    units = UNITS[preferred_by(request.user).units]
    form = PlaceForm(request.POST or None, request.FILES or None, units, record, is_new=pk is None)
    if request.method == "POST" and form.is_valid() and _take(request, form, record):
        with recorded(request.user, f"{'Added' if pk is None else 'Changed'} the scene “{record.name}”") as change:
            if pk is not None:
                change.touch(record)
            record.save()
            if pk is None:
                change.created(record)
        return redirect("field:places")
    context = {"form": form, "record": record, "is_new": pk is None, "most_mb": MOST_BYTES // 2**20}
    return render(request, "field/place.html", context, status=422 if form.errors else 200)


@dataclass(frozen=True)
class Brought:
    """A picture as it is kept: its token, and the focal length on full frame that its file says."""

    token: str
    equivalent_mm: float | None
    is_upright: bool


def _take(request: Request, form: PlaceForm, record: OwnScene) -> bool:
    """Put what was sent into the record; a picture that cannot be taken is said at its field, and nothing is changed."""
    d, found = form.cleaned_data, dict[str, Brought]()
    for name, ending, side in (
        ("background", own.BACKGROUND, BACKGROUND_SIDE_PX),
        ("subject", own.SUBJECT, SUBJECT_SIDE_PX),
    ):
        if d.get(name):
            try:
                found[name] = _brought(request.user, d[name], ending, side)
            except (DecodeError, own.FullError) as error:
                form.add_error(name, str(error))
    height = d.get("background_height_m")
    if height is None:
        place = found.get("background")
        if place is not None and place.equivalent_mm:
            upright_mm = FULL_FRAME.width_mm if place.is_upright else FULL_FRAME.height_mm
            height = float((d["distance_m"] + d["background_m"]) * upright_mm / place.equivalent_mm)
        elif place is not None or not record.pk:
            form.add_error("background_height_m", "The file does not say its focal length; give the height.")
        else:
            height = record.background_height_m
    if form.errors:
        return False
    record.name = d["name"]
    for name in FIGURES:
        if name != "background_height_m":
            setattr(record, name, d[name] if d[name] is not None else getattr(record, name))
    record.background_height_m = min(max(float(height or 0.0), 0.01), 10_000.0)
    for name, one in found.items():
        setattr(record, name, one.token)
    return True


def _brought(owner: Any, file: Any, ending: str, side_px: int) -> Brought:
    """A picture decoded within bounds and kept as a file of our own."""
    own.sweep(owner)
    with own.on_disk(file) as path, tempfile.TemporaryDirectory() as folder:
        one, _ = read_whole(path.read_bytes(), timezone.localtime().replace(tzinfo=None))
        made = decode(path, Path(folder) / "pixels.npy", with_alpha=ending == own.SUBJECT, most_side_px=side_px)
        pixels = made.pixels()
        if ending == own.SUBJECT and pixels[..., 3].min() == 255:
            raise DecodeError("It has no transparency: cut the subject out first, as PNG or WebP.")
        token = own.keep(owner, own.encoded(pixels, side_px, ending), ending)
        upright = pixels.shape[0] > pixels.shape[1]
    return Brought(token, one.focal_35_mm if one is not None else None, upright)


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
        change.touch(record)
        record.delete()
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
    out = io.BytesIO()
    rows = []
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
        for record in OwnScene.objects.for_owner(request.user)[:MOST_PLACES]:
            row = {"key": record.key, "name": record.name} | {key: getattr(record, key) for key in FIGURES}
            for part, ending in (("background", own.BACKGROUND), ("subject", own.SUBJECT)):
                token = getattr(record, part)
                content = own.kept(request.user, token, ending) if token else None
                if content is not None:
                    row[part] = f"pictures/{token}{ending}"
                    if row[part] not in archive.namelist():
                        archive.writestr(row[part], content)
            if "background" in row:
                rows.append(row)
        archive.writestr(SIGN, json.dumps({"cambrel_scenes": 1, "scenes": rows}, ensure_ascii=False, indent=1))
    answer = HttpResponse(out.getvalue(), content_type="application/zip")
    answer["Content-Disposition"] = 'attachment; filename="cambrel-scenes.zip"'
    return answer


class PlacesError(ValueError):
    """A file of scenes that is not taken; the message is for the reader."""


@login_required
@require_POST
def bring_in(request: Request) -> HttpResponseBase:
    """Take scenes from such a file: all of them or none, and none over another."""
    file = request.FILES.get("file")
    try:
        if file is None or (file.size or 0) > MOST_BYTES:
            raise PlacesError(f"Choose a file of scenes of {MOST_BYTES // 2**20} MB at most.")
        records = _records(request.user, file.read())
    except (PlacesError, DecodeError, own.FullError) as error:
        messages.error(request, str(error))
        return redirect("field:places")
    with recorded(request.user, f"Brought in {len(records)} scenes") as change:
        for record in records:
            record.save()
        change.created(*records)
    messages.success(request, f"{len(records)} scenes brought in. It can be undone.")
    return redirect("field:places")


def _records(owner: Any, content: bytes) -> list[OwnScene]:
    """The scenes of a file, their pictures decoded and encoded again."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            sizes = {one.filename: one.file_size for one in archive.infolist()[: 4 * MOST_PLACES]}
            if sizes.get(SIGN, 0) > 1024 * 1024 or sum(sizes.values()) > 4 * MOST_BYTES:
                raise PlacesError("This file holds more than is read at a time.")
            told = json.loads(archive.read(SIGN))
            if not CHECK.is_valid(told):
                raise PlacesError("This is no file of scenes of version 1.")
            names = {row[part] for row in told["scenes"] for part in ("background", "subject") if row.get(part)}
            files = {name: archive.read(name) for name in names}
    except (zipfile.BadZipFile, KeyError, ValueError, RecursionError, NotImplementedError, RuntimeError) as error:
        if isinstance(error, PlacesError):
            raise
        raise PlacesError("This is no file of scenes that can be read.") from None
    found, there = [], set(OwnScene.objects.for_owner(owner).values_list("key", flat=True))
    for row in told["scenes"]:
        if any(row[key] < least for key, least in LEAST.items()):
            raise PlacesError(f"“{shortened(row['name'])}” has a distance or a height that cannot be.")
        tokens = {}
        for part, ending, side in (
            ("background", own.BACKGROUND, BACKGROUND_SIDE_PX),
            ("subject", own.SUBJECT, SUBJECT_SIDE_PX),
        ):
            if row.get(part):
                tokens[part] = _brought(owner, _InMemory(files[row[part]]), ending, side).token
        # one that is there already is another from now on: none is put over another
        key = new_key() if row["key"] in there else row["key"]
        there.add(key)
        found.append(
            OwnScene(
                owner=owner,
                key=key,
                name=" ".join(row["name"].split()),
                **{key: float(row[key]) for key in FIGURES},
                **tokens,
            )
        )
    return found


@dataclass(frozen=True)
class _InMemory:
    content: bytes

    def chunks(self) -> list[bytes]:
        return [self.content]
