"""Pictures back on a sheet, as views: heads read, files brought in, put to their shots, measured, and what came of
it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse, JsonResponse
from django.http.response import HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from cambrel.bounds.documents import read_json
from cambrel.conventions.preferred import preferred_by
from cambrel.drawings.shapes import Drawing
from cambrel.drawings.tolerances import tolerance_mark
from cambrel.field import backs, proofs, standin
from cambrel.field.bringing import settings_in, working_copy
from cambrel.field.forms import SeenForm
from cambrel.field.logbook import log_row
from cambrel.field.measuring import as_row
from cambrel.field.models import Sheet, spoken_of
from cambrel.field.planning import SheetLine, SheetPlan
from cambrel.field.sheet_shapes import by_camera, is_picture
from cambrel.owners.models import User
from cambrel.owners.requests import Request
from cambrel.owners.sections import Row
from cambrel.owners.undo import last_change, recorded
from cambrel.owners.work import work_at
from cambrel.photographs.decoding import MOST_BYTES, DecodeError
from cambrel.photographs.sent import INCOMPLETE, sent_heads
from cambrel.pictures import own
from cambrel.pictures.own_scenes import ReaderScenes
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.proofs import ProofLine, counted, said
from cambrel.trials.trial_shots import TrialShot
from cambrel.wording import LETTERS, UNITS

SIMULATING = work_at("simulating")
TOO_MANY = f"At most {backs.MOST_BACK} pictures are kept on one sheet."


def sheet_of(request: Request, pk: int) -> tuple[Sheet, SheetPlan]:
    record = get_object_or_404(Sheet.objects.for_owner(request.user), pk=pk)
    return record, SheetPlan(record.bench(), tuple(record.trials))


@contextmanager
def changing(request: Request, pk: int, label: str) -> Iterator[Sheet]:
    """Change a sheet as it is now, whoever else ticks or brings something in at the same time."""
    with recorded(request.user, label) as change:
        record = change.fresh(get_object_or_404(Sheet.objects.for_owner(request.user), pk=pk))
        yield record
        change.save(record)


@dataclass(frozen=True)
class BroughtPicture:
    """A picture that came back, as it is shown."""

    token: str
    said: str
    body: str
    differing: list[str]
    notes: list[str]
    is_there: bool
    is_kept: bool
    at: datetime | None


@dataclass(frozen=True)
class ShotRow:
    """A shot with its pictures and verdicts."""

    shot: TrialShot
    line: SheetLine
    letter: str
    gear: str
    pictures: list[BroughtPicture]
    verdicts: list[tuple[ProofLine, str]]
    is_measured: bool
    seen: SeenForm | None
    takes_over: str
    is_base: bool
    """Whether the others are set against its picture, so that nothing is read off it."""

    @property
    def measures(self) -> bool:
        """Whether its picture is looked at closely."""
        return self.line.is_measured and not self.is_base


def _back(owner: User, token: str, row: Row, shot: TrialShot | None) -> BroughtPicture:
    at = by_camera(row.get("at"))
    return BroughtPicture(
        token, backs.said(row), row.get("body", ""), backs.differing(shot, row) if shot else [], row.get("notes", []),
        own.is_working(owner, token), bool(row.get("kept")), at,
    )  # fmt: skip


@dataclass(frozen=True)
class DrawnTolerance:
    """A verdict as it is drawn: of which shot, its letter, what it is of, and the drawing."""

    shot: str
    letter: str
    label: str
    drawing: Drawing


def drawn(rows: Iterable[ShotRow]) -> list[DrawnTolerance]:
    """What was predicted, allowed and measured of all shots, where a figure was."""
    return [
        DrawnTolerance(
            row.shot.key,
            row.letter,
            proof.label,
            tolerance_mark(proof.off_of_allowed, f"tolerance-{proof.outcome}", f"{proof.verdict}: {words}"),
        )
        for row in rows
        for proof, words in row.verdicts
        if proof.off_of_allowed is not None
    ]


def rows_of(request: Request, record: Sheet, plan: SheetPlan, tried: SeenForm | None = None) -> list[ShotRow]:
    """The shots of a sheet with all that came back."""
    units = UNITS[preferred_by(request.user).units]
    judged = []
    lines = {line.key: line for stand in plan.stands() for line in stand.lines}
    for shot in plan.shots:
        slot = plan.bench.slots[shot.rig]
        pictures = [
            _back(request.user, token, row, shot) for token, row in record.back.items() if row.get("shot") == shot.key
        ]
        seen = (
            tried
            if tried and tried.shot.key == shot.key
            else (
                SeenForm(None, shot, eye, units, proofs.found_of(record, shot.key))
                if (eye := TRIALS[shot.trial].eye) is not None
                else None
            )
        )
        verdicts = [(proof, said(proof)) for proof in proofs.lines_of(plan, record, shot)]
        judged.append(
            ShotRow(
                shot, lines[shot.key], LETTERS[shot.rig], slot.body_called, pictures, verdicts,
                shot.key in record.found, seen,
                _takes_over(plan, record, shot), _is_base(shot, plan),
            )
        )  # fmt: skip
    return judged


def _takes_over(plan: SheetPlan, record: Sheet, shot: TrialShot) -> str:
    """What of a shot's readings can be written onto the record of the gear, in words; "" for nothing."""
    what, words = TAUGHT.get(TRIALS[shot.trial].teaches, ("", ""))
    reading = proofs.found_of(record, shot.key).get(what)
    return "" if reading is None or reading.bound or reading.doubts else words


TAUGHT = {
    "offset_stops": ("snr", "the camera’s stops against its generation"),
    "mtf50": ("mtf50", "the lens’s sharpness at this stop"),
}
"""What a record of gear may be taught: by which reading, and how that is named."""


def _is_base(shot: TrialShot, plan: SheetPlan) -> bool:
    """Whether the others are measured against this shot's picture."""
    how = TRIALS[shot.trial].measured
    return how is not None and how.needs_first and shot.rig == plan.bench.reference


@login_required
@require_safe
def back(request: Request, pk: int) -> HttpResponseBase:
    """What came back of a sheet, and whether its predictions held."""
    record, plan = sheet_of(request, pk)
    return render(request, "field/back.html", page(request, record, plan))


def page(request: Request, record: Sheet, plan: SheetPlan, tried: SeenForm | None = None) -> dict[str, object]:
    rows = rows_of(request, record, plan, tried)
    lines = [line for row in rows for line, _ in row.verdicts]
    keys = {shot.key for shot in plan.shots}
    loose = [(token, row) for token, row in record.back.items() if row.get("shot") not in keys]
    return {
        "sheet": record,
        "rows": rows,
        "says": counted(lines),
        "drawn": drawn(rows),
        "open": sum(not row.is_measured and not row.is_base for row in rows),
        "unmeasured": sum(_can_be_measured(row) for row in rows),
        "loose": [_back(request.user, token, row, None) for token, row in loose],
        "choices": [(row.shot.key, f"{row.letter} {row.line.trial}, {row.line.settings}") for row in rows],
        "kept_mb": own.kept_bytes(request.user, spoken_of(request.user)) / 2**20,
        "most_mb": own.MOST_KEPT_BYTES // 2**20,
        "most_file_mb": MOST_BYTES // 2**20,
        "shots": [row.shot.key for row in rows],
        "last_change": last_change(request.user),
    }


def _can_be_measured(row: ShotRow) -> bool:
    how = TRIALS[row.shot.trial].measured
    is_read_off = how is not None and how.is_by_itself and not row.is_base
    return is_read_off and not row.is_measured and any(picture.is_there for picture in row.pictures)


@login_required
@require_POST
def heads(request: Request, pk: int | None = None) -> HttpResponseBase:
    """Read the heads of files: their settings, what more of a file is wanted, or why it is not read. Nothing is
    kept.
    """
    sheet = sheet_of(request, pk) if pk is not None else None
    parts = (part.read() for part in request.FILES.getlist("part"))
    try:
        sent = sent_heads(request.POST.get("says", ""), parts, timezone.localtime().replace(tzinfo=None))
    except ValueError:
        return JsonResponse({"problem": INCOMPLETE}, status=400)
    answers: dict[int, dict[str, object]] = {}
    rows: dict[int, dict[str, object]] = {}
    for index, head in enumerate(sent):
        answer = head.answer()
        if head.picture is not None:
            rows[index] = backs.row_of(head.picture)
            answer |= {"row": rows[index], "says": backs.said(rows[index]), "log": log_row(head.picture)}
        answers[index] = answer
    if sheet is not None:
        record, plan = sheet
        others = [*record.back.values(), *rows.values()]
        for index, row in rows.items():
            answers[index]["whole"] = backs.may_be_measured(plan, row, others)
    return JsonResponse({"files": list(answers.values())})


@login_required
@require_POST
def bring(request: Request, pk: int) -> HttpResponseBase:
    """Take a picture onto the sheet: its settings, and where its pixels are measured the file, decoded and held for a
    day.
    """
    record, plan = sheet_of(request, pk)
    file = request.FILES.get("file")
    if len(record.back) >= backs.MOST_BACK:
        return _brought(request, pk, TOO_MANY)
    with own.bringing(request.user) as pictures:
        try:
            if file:
                row = settings_in(file)
                token, quality = working_copy(pictures, file)
                row |= {} if quality is None else {"quality": quality}
            else:
                token, row = own.new_token(), _from_row(request.POST.get("row", ""))
        except (DecodeError, ValueError) as error:
            return _brought(request, pk, str(error))
        try:
            with changing(request, pk, f"Brought a picture to “{record.name}”") as now:
                if len(now.back) >= backs.MOST_BACK:
                    raise own.FullError(TOO_MANY)
                pictures.record()
                now.back[token] = row
                for key, shot in backs.placed(plan, now.back, now.taken).items():
                    now.back[key]["shot"] = shot
                    if shot:
                        now.taken.setdefault(shot, timezone.now().isoformat(timespec="seconds"))
        except own.FullError as error:
            return _brought(request, pk, str(error))
    return _brought(request, pk, "")


def _brought(request: Request, pk: int, problem: str) -> HttpResponseBase:
    if request.headers.get("X-Requested-With") == "fetch":
        return JsonResponse({"problem": problem}, status=422 if problem else 200)
    if problem:
        messages.error(request, f"It could not be read: {problem}")
    return redirect("field:back", pk)


def _from_row(text: str) -> dict[str, object]:
    """Settings that were read before, as the browser sends them back."""
    try:
        row = read_json(text.encode(), "page")
    except ValueError:
        raise ValueError(
            "Those settings do not belong to a photograph. Check focal length, f-number, time and ISO."
        ) from None
    if not isinstance(row, dict) or not is_picture(row) or row.get("kept"):
        raise ValueError("Those settings do not belong to a photograph. Check focal length, f-number, time and ISO.")
    return row | {"shot": ""}


@login_required
@require_POST
def place(request: Request, pk: int, token: str) -> HttpResponseBase:
    """Put a picture to another shot, or take it off the sheet; what was read off it goes along."""
    record, plan = sheet_of(request, pk)
    if token not in record.back:
        raise Http404
    shot = request.POST.get("shot", "")
    if shot not in {planned.key for planned in plan.shots} | {backs.NOWHERE, "away"}:
        messages.error(request, "That shot is no longer on this sheet.")
        return redirect("field:back", pk)
    with changing(request, pk, f"Put a picture of “{record.name}” elsewhere") as now:
        row = now.back.pop(token, {}) if shot == "away" else now.back.get(token, {})
        was, row["shot"] = row.get("shot", ""), shot
        now.found = {key: readings for key, readings in _without(now.found, token, was).items() if readings}
    return redirect("field:back", pk)


def _without(found: Row, token: str, shot: str) -> dict[str, object]:
    """What was found, without what was read off a picture that is another shot's now."""
    held = {what: row for what, row in found.get(shot, {}).items() if row.get("of") != token}
    return found | ({shot: held} if shot in found else {})


@login_required
@require_POST
def seen(request: Request, pk: int, key: str) -> HttpResponseBase:
    """What an eye says of a shot."""
    record, plan = sheet_of(request, pk)
    shot = next((planned for planned in plan.shots if planned.key == key), None)
    eye = None if shot is None else TRIALS[shot.trial].eye
    if shot is None or eye is None:
        raise Http404
    form = SeenForm(request.POST, shot, eye, UNITS[preferred_by(request.user).units])
    if not form.is_valid():
        return render(request, "field/back.html", page(request, record, plan, form), status=422)
    with changing(request, pk, f"Noted a shot of “{record.name}”") as now:
        now.found[key] = {what: as_row(reading) for what, reading in form.readings().items()}
        now.found = {key: readings for key, readings in now.found.items() if readings}
    return redirect(reverse("field:back", args=[pk]) + f"#shot-{key}")


def _simulated(owner_pk: int, pk: int, key: str, now: datetime) -> tuple[bytes, str] | None:
    """The file that the simulated camera makes of a shot of an owner's sheet."""
    record = Sheet.objects.select_related("owner").get(pk=pk, owner=owner_pk)
    plan = SheetPlan(record.bench(), tuple(record.trials), ReaderScenes(record.owner))
    return standin.take_shot(plan, key, now)


@login_required
@require_POST
def simulate(request: Request, pk: int, key: str) -> HttpResponseBase:
    """The simulated camera takes a shot: the file that it makes, as a card would hold it."""
    record, plan = sheet_of(request, pk)
    keys = [shot.key for shot in plan.shots]
    if key not in keys:
        raise Http404
    now = timezone.localtime()
    made = SIMULATING.run(_simulated, request.user.pk, pk, key, now.replace(tzinfo=None))
    if made is None:
        return HttpResponse(status=204)
    with changing(request, pk, f"Took a shot of “{record.name}” with the simulated camera") as sheet:
        sheet.taken[key] = standin.moment(plan.shots, keys.index(key), now).isoformat(timespec="seconds")
    content, ending = made
    answer = HttpResponse(content, content_type=f"image/{ending}")
    answer["Content-Disposition"] = f'attachment; filename="shot-{key}.{ending}"'
    return answer
