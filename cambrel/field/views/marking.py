"""A picture that came back, looked at closely: shown to its owner, measured, kept or let go, and written onto the
record of its gear.
"""

from __future__ import annotations

from math import isfinite
from typing import Any, TypeVar

import numpy as np
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.db.models import QuerySet
from django.http import Http404, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from cambrel.field import proofs
from cambrel.field.forms import BoxForm
from cambrel.field.measuring import as_row
from cambrel.field.models import Sheet, spoken_of
from cambrel.field.planning import SheetPlan
from cambrel.field.views.returning import changing, sheet_of
from cambrel.inputs.fields import whole
from cambrel.optics.sharpness import lens_own_mtf50_per_mm
from cambrel.owners.models import Owned, User
from cambrel.owners.requests import Request
from cambrel.owners.undo import recorded
from cambrel.photographs.light import Codes, MeasureError
from cambrel.pictures import own
from cambrel.shelf.models import Body, Lens
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.measured import Box, Marked
from cambrel.trials.outcomes import per_mm, prove
from cambrel.trials.predictions import expected
from cambrel.trials.proofs import said
from cambrel.trials.trial_shots import TrialShot
from cambrel.wording import LETTERS

Shelved = TypeVar("Shelved", bound=Owned)

GONE = "This picture’s pixels are no longer held. Bring its file in again to measure it."
PART_SIDE_PX = 900
MOST_POINTS = 20


def _shot(plan: SheetPlan, record: Sheet, token: str) -> TrialShot:
    """The shot of a picture of a sheet."""
    row = record.back.get(token)
    shot = next((planned for planned in plan.shots if row and planned.key == row.get("shot")), None)
    if shot is None:
        raise Http404
    return shot


def _pixels_of(owner: User, record: Sheet, key: str) -> Codes | None:
    """The pixels of a picture of a shot, where they are held."""
    tokens = (token for token, row in record.back.items() if row.get("shot") == key)
    return next((found for token in tokens if (found := own.working(owner, token)) is not None), None)


def _second_of(owner: User, record: Sheet, key: str, first: str) -> Codes | None:
    """Another frame of a shot that is kept without loss, as the first is: two such are free of the subject's own
    texture.
    """
    tokens = (
        token
        for token, row in record.back.items()
        if row.get("shot") == key and token != first and "quality" not in row
    )
    return next((found for token in tokens if (found := own.working(owner, token)) is not None), None)


@login_required
@require_safe
def picture(request: Request, pk: int, token: str) -> HttpResponseBase:
    """A picture of a sheet, for its owner: whole, or a part of it pixel by pixel."""
    record, _ = sheet_of(request, pk)
    row = record.back.get(token)
    if row is None:
        raise Http404
    pixels, content = own.working(request.user, token), None
    side = whole(request.GET.get("side", ""), own.LOOK_SIDES_PX[-1])
    if side not in own.LOOK_SIDES_PX:
        raise Http404
    if pixels is not None:
        box = [whole(request.GET.get(key, ""), 0) for key in ("left", "top", "wide", "high")]
        part = (
            pixels
            if not all(box[2:])
            else pixels[box[1] : box[1] + min(box[3], PART_SIDE_PX), box[0] : box[0] + min(box[2], PART_SIDE_PX)]
        )
        if min(part.shape[:2]) > 0:
            content = own.encoded(part, side)
    elif row.get("kept"):
        content = own.kept(request.user, row["kept"])
    if content is None:
        raise Http404
    return HttpResponse(content, content_type="image/webp", headers={"Cache-Control": own.PRIVATE})


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def look(request: Request, pk: int, token: str) -> HttpResponseBase:
    """Mark a part of a picture and read it off."""
    record, plan = sheet_of(request, pk)
    shot = _shot(plan, record, token)
    how = TRIALS[shot.trial].measured
    if how is None:
        raise Http404
    pixels = own.working(request.user, token)
    if pixels is None:
        messages.error(request, GONE)
        return redirect("field:back", pk)
    box = _box_of(record, shot, token) or how.suggested(pixels)
    form, problem = BoxForm(request.POST or None, box), ""
    if request.method == "POST" and form.is_valid():
        box = form.box()
        try:
            readings = _measured(request.user, record, plan, shot, token, pixels, box)
        except MeasureError as error:
            problem = str(error)
        else:
            with changing(request, pk, f"Measured a picture of “{record.name}”") as now:
                now.found[shot.key] = {
                    what: as_row(reading, of=token, box=list(box)) for what, reading in readings.items()
                }
            return redirect(reverse("field:look", args=[pk, token]))
    lines = [(proof, said(proof)) for proof in proofs.lines_of(plan, record, shot)]
    high, wide = pixels.shape[:2]
    context = {
        "sheet": record, "shot": shot, "token": token, "form": form, "problem": problem, "box": box, "verdicts": lines,
        "line": plan.line(shot), "letter": LETTERS[shot.rig], "tells": how.tells, "is_marked": how.is_marked,
        "wide": wide, "high": high, "is_kept": bool(record.back[token].get("kept")), "row": record.back[token],
    }  # fmt: skip
    return render(request, "field/look.html", context, status=422 if problem or form.errors else 200)


@login_required
@require_POST
def all_measured(request: Request, pk: int) -> HttpResponseBase:
    """Read off every picture that has not been, where it is usual to look; what cannot be read there is said, and can
    be marked by hand.
    """
    record, plan = sheet_of(request, pk)
    found, refusals = read_off(request.user, record, plan)
    for shot, problem in refusals:
        messages.warning(request, f"{LETTERS[shot.rig]}, {plan.line(shot).trial.lower()}: {problem}")
    if found:
        with changing(request, pk, f"Measured the pictures of “{record.name}”") as now:
            now.found |= found
    return redirect("field:back", pk)


def read_off(owner: User, record: Sheet, plan: SheetPlan) -> tuple[dict[str, Any], list[tuple[TrialShot, str]]]:
    """What the pictures of a sheet show where it is usual to look, by shot; and what could not be read, with why."""
    found: dict[str, Any] = {}
    refusals = []
    for token, row in record.back.items():
        shot = next((planned for planned in plan.shots if planned.key == row.get("shot")), None)
        how = None if shot is None else TRIALS[shot.trial].measured
        if shot is None or how is None or not how.is_by_itself or shot.key in record.found or shot.key in found:
            continue
        pixels = own.working(owner, token)
        if pixels is None or (how.needs_first and shot.rig == plan.bench.reference):
            continue
        box = how.suggested(pixels)
        try:
            readings = _measured(owner, record, plan, shot, token, pixels, box)
        except MeasureError as error:
            refusals.append((shot, str(error)))
        else:
            found[shot.key] = {what: as_row(reading, of=token, box=list(box)) for what, reading in readings.items()}
    return found, refusals


def _box_of(record: Sheet, shot: TrialShot, token: str) -> Box | None:
    """The part that was measured before."""
    rows = (row for row in record.found.get(shot.key, {}).values() if row.get("of") == token and row.get("box"))
    row = next(rows, None)
    return tuple(row["box"]) if row else None


def _measured(owner: User, record: Sheet, plan: SheetPlan, shot: TrialShot, token: str, pixels: Codes, box: Box) -> Any:
    first = proofs.first_shot(plan, shot)
    is_first = first is not None and first.key == shot.key
    how = TRIALS[shot.trial].measured
    if how is None:
        raise MeasureError("Nothing is measured on the picture in this trial.")
    if how.needs_first and is_first:
        raise MeasureError("The others are measured against this picture, so nothing is read off it.")
    whole_px = plan.bench.rigs[shot.rig].sensor.pixels_high or float(min(pixels.shape[:2]))
    upright = pixels.shape[0] > pixels.shape[1]
    if upright:
        whole_px = plan.bench.rigs[shot.rig].sensor.pixels_wide or float(pixels.shape[0])
    marked = Marked(
        pixels, box, float(whole_px),
        quality=record.back[token].get("quality"),
        first=None if first is None or is_first else _pixels_of(owner, record, first.key),
        second=_second_of(owner, record, shot.key, token),
        is_resized=bool(record.back[token].get("is_resized")),
    )  # fmt: skip
    return how.read(marked)


@login_required
@require_POST
def keep(request: Request, pk: int, token: str) -> HttpResponseBase:
    """Keep a picture on its sheet, re-encoded and without all else its file said, or let it go."""
    record, _ = sheet_of(request, pk)
    row, pixels = record.back.get(token), own.working(request.user, token)
    if row is None:
        raise Http404
    is_kept = request.POST.get("keep") == "1"
    if is_kept and pixels is None:
        messages.error(request, GONE)
        return redirect("field:back", pk)
    with own.bringing(request.user) as pictures:
        kept = pictures.keep(own.encoded(np.asarray(pixels), own.KEPT_SIDE_PX)) if is_kept else ""
        try:
            with changing(request, pk, f"{'Kept' if kept else 'Let go of'} a picture of “{record.name}”") as now:
                pictures.record(spoken_of(request.user))
                now.back.get(token, {})["kept"] = kept
        except own.FullError as error:
            messages.error(request, str(error))
            return redirect("field:back", pk)
    return redirect(reverse("field:back", args=[pk]) + f"#shot-{row.get('shot', '')}")


@login_required
@require_POST
def take_over(request: Request, pk: int, key: str) -> HttpResponseBase:
    """Write what was measured onto the record of the gear: a camera's stops against its generation, or a lens's
    sharpness at a stop.
    """
    record, plan = sheet_of(request, pk)
    shot = next((planned for planned in plan.shots if planned.key == key), None)
    if shot is None:
        raise Http404
    try:
        said = _written(request, plan, record, shot)
    except MeasureError as error:
        messages.error(request, str(error))
    else:
        messages.success(request, f"{said} It can be undone.")
    return redirect(reverse("field:back", args=[pk]) + f"#shot-{key}")


def _written(request: Request, plan: SheetPlan, record: Sheet, shot: TrialShot) -> str:
    readings, slot = proofs.found_of(record, shot.key), plan.bench.slots[shot.rig]
    taken = proofs.taken_as(plan, record, shot)
    teaches = TRIALS[shot.trial].teaches
    if teaches == "offset_stops" and "snr" in readings:
        body = _the_one(Body.objects.for_owner(request.user).filter(name=slot.body_called), slot.body_called)
        proof = prove(expected(taken, shot.rig, "snr"), readings["snr"])
        if proof is None or proof.bound or proof.doubts:
            raise MeasureError("This reading is too doubtful to keep on the camera’s record. Take the shot again.")
        with recorded(request.user, f"Wrote what was measured onto “{body.name}”") as change:
            body = change.fresh(body)
            stops = plan.bench.rigs[shot.rig].body.offset_stops + proof.off
            body.offset_stops = max(-10.0, min(stops, 10.0))
            body.measured = _marked(body.measured, "offset_stops")
            change.save(body)
        side = "ahead of" if body.offset_stops >= 0 else "behind"
        return f"“{body.name}” is now {abs(body.offset_stops):.1f} stops {side} its generation, as measured."
    if teaches == "mtf50" and "mtf50" in readings:
        lens = _the_one(Lens.objects.for_owner(request.user).filter(name=slot.lens_name), slot.lens_name)
        reading, sensor = readings["mtf50"], plan.bench.rigs[shot.rig].sensor
        row = next((back_row for back_row in record.back.values() if back_row.get("shot") == shot.key), None)
        if row is None or not row.get("wide_px") or reading.bound or reading.doubts:
            raise MeasureError("This reading is too doubtful to keep on the lens’s record. Take the shot again.")
        if plan.made.of(shot.rig).rig.converter != 1:
            raise MeasureError(
                "It was measured through the converter. Take the picture without it to measure the lens alone."
            )
        long_px = max(row["wide_px"], row.get("high_px") or 0)
        pitch_um = 1000 * max(sensor.width_mm, sensor.height_mm) / long_px
        stop = proofs.settings_of(record, shot).f_number or shot.f_number
        alone = float(lens_own_mtf50_per_mm(per_mm(reading.value, pitch_um), stop, pitch_um))
        if not isfinite(alone):
            raise MeasureError("Pixels and diffraction allow no more than that, so the lens was not the limit there.")
        with recorded(request.user, f"Wrote what was measured onto “{lens.name}”") as change:
            lens = change.fresh(lens)
            points = {float(f): float(value) for f, value in lens.mtf50} | {float(stop): alone}
            lens.mtf50 = [[f, round(points[f], 2)] for f in sorted(points)][:MOST_POINTS]
            lens.measured = _marked(lens.measured, "mtf50")
            change.save(lens)
        return (
            f"“{lens.name}” now has its sharpness at f/{stop:g}, as measured, without what pixels and diffraction take."
        )
    raise MeasureError("Nothing of this shot can be written onto a record.")


def _marked(measured: list[str], key: str) -> list[str]:
    """What of a record was measured, with one more of today."""
    kept = [noted for noted in measured if not noted.startswith(f"{key} ")]
    return [*kept, f"{key} {timezone.localdate().isoformat()}"]


def _the_one(records: QuerySet[Shelved], name: str) -> Shelved:
    pictures = list(records[:2])
    if len(pictures) != 1:
        raise MeasureError(
            f"{'No record' if not pictures else 'More than one record'} of the shelf is called “{name}”."
        )
    return pictures[0]
