"""The drills: a round of ten questions, each with what was wrong about a wrong answer, and what is known by now."""

from __future__ import annotations

import re
import secrets
from datetime import datetime
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.contrib.auth.models import AnonymousUser
from django.db import IntegrityError
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from cambrel.conventions.preferred import preferred_by
from cambrel.drawings.formats import Sized, overlaid
from cambrel.drawings.recall import Skill, recall
from cambrel.drills.all_drills import KINDS
from cambrel.inputs.fields import whole
from cambrel.learn.cases import on_bench, pictures
from cambrel.learn.disputes import DISPUTES, OUTSIDE
from cambrel.learn.forms import AnswerForm
from cambrel.learn.gear_pool import pool_of
from cambrel.learn.models import Answered
from cambrel.learn.put_questions import BOTH_WAYS, EYE, Put, TokenError, put, read, truths, wrong_words
from cambrel.learn.schedule import LEVELS, SkillStanding, due_now, minutes_for, next_kind, standings
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.formats import CROP_MEASURES, crop_factor
from cambrel.owners.models import User
from cambrel.owners.requests import Request
from cambrel.owners.undo import last_change, recorded
from cambrel.wording import UNITS, Units, share, significant
from cambrel.wording.written import written

TEN = 10
MOST_ANSWERS = 20_000
"""Are kept; then the oldest makes room."""
ROUND = re.compile(r"[0-9a-f]{12}")
LEVEL_ONLY = {"estimate": "picking an answer", "number": "typing it", "judge": "judging a sentence"}
LEVEL_NAMES = {"estimate": "pick", "number": "type", "judge": "judge"}


def _found(user: User | AnonymousUser) -> dict[str, SkillStanding]:
    answers = Answered.objects.for_owner(user).only("kind", "level", "is_right", "slip", "seconds", "answered_at")
    return standings(KINDS, answers)


@require_safe
def home(request: Request) -> HttpResponseBase:
    """What is known, what is due, and where else something is to be learnt."""
    now = timezone.now()
    record = _found(request.user)
    rows = [
        {
            "key": standing.kind,
            "skill": KINDS[standing.kind].words.skill,
            "level": LEVEL_NAMES[standing.level],
            "asked": standing.asked,
            "right": standing.right,
            "chance": share(round(standing.chance(now), 2)) if standing.asked else "",
            "due": _when(standing, now),
            "slip": _commonest(standing),
        }
        for standing in record.values()
    ]
    skills = [
        Skill(KINDS[standing.kind].words.skill, standing.answers, standing.chances, standing.chance(now))
        for standing in record.values()
        if standing.asked
    ]
    context = {
        "rows": rows,
        "drawing": recall(skills, now) if skills else None,
        "due": due_now(record, now),
        "minutes": minutes_for(record, due_now(record, now)),
        "asked": sum(standing.asked for standing in record.values()),
        "new": sum(standing.is_new for standing in record.values()),
        "last_change": last_change(request.user) if request.user.is_authenticated else None,
        "disputes": DISPUTES.values(),
        "levels": LEVEL_ONLY,
        "outside": OUTSIDE,
    }
    return render(request, "learn/home.html", context)


def _when(standing: SkillStanding, now: datetime) -> str:
    """When a kind is asked again."""
    if standing.is_new:
        return "not asked yet"
    hours = (standing.card.due - now).total_seconds() / 3600
    if hours <= 0:
        return "now"
    return "today" if hours < 12 else "tomorrow" if hours < 36 else f"in {round(hours / 24)} days"


def _short(text: str) -> str:
    """A mistake as it stands in a list: its first words."""
    return re.split(r"[:.]", text)[0]


def _commonest(standing: SkillStanding) -> str:
    """The mistake that was made most often, in the words of its kind."""
    known = {slip: count for slip, count in standing.slips.items() if slip in KINDS[standing.kind].words.slips}
    if not known:
        return ""
    slip = max(known, key=lambda key: known[key])
    return _short(KINDS[standing.kind].words.slips[slip])


@require_http_methods(["GET", "HEAD", "POST"])
def round_(request: Request) -> HttpResponseBase:
    """One question of a round, or what an answer to it comes to."""
    if request.method == "POST":
        return _answered(request)
    called = request.GET.get("r", "")
    only, level = request.GET.get("kind", ""), request.GET.get("level", "")
    only, level = only if only in KINDS else "", level if level in LEVELS else ""
    if not ROUND.fullmatch(called):
        again = request.GET.copy()
        again["r"] = secrets.token_hex(6)
        return redirect(f"{reverse('learn:round')}?{again.urlencode()}")
    in_round = list(Answered.objects.for_owner(request.user).filter(round=called).order_by("ordinal"))
    ordinal = len(in_round) if request.user.is_authenticated else min(whole(request.GET.get("n", ""), 0), TEN)
    if ordinal >= TEN:
        return _over(request, in_round)
    record = _found(request.user)
    met = [answered.kind for answered in in_round]
    kind = only or next_kind(record, timezone.now(), met)
    if not only and not request.user.is_authenticated:
        kind = list(KINDS)[(ordinal + int(called[0], 16)) % len(KINDS)]
    preferred = preferred_by(request.user)
    before = ordinal if only else met.count(kind)
    made = put(called, ordinal, kind, level or record[kind].level, pool_of(request.user), preferred.conventions, before)
    return _shown(request, made, AnswerForm(KINDS[kind].unit, UNITS[preferred.units], KINDS[kind].words.lead))


def _shown(request: Request, made: Put, form: AnswerForm, status: int = 200, problem: str = "") -> HttpResponseBase:
    preferred = preferred_by(request.user)
    frames = () if made.level == EYE else _frames(made)
    measure = CROP_MEASURES[made.case.given.crop_by].label
    sharp = CIRCLE_OF_CONFUSION_SCHOOLS[made.case.given.criterion].judge
    context = {
        "put": made,
        "token": request.POST.get("token") or made.token(),
        "form": form,
        "number": made.ordinal + 1,
        "ten": TEN,
        "choices": made.choices(UNITS[preferred.units]) if made.level != "number" else [],
        "frames": frames,
        "pictures": pictures(made),
        "drawing": overlaid(
            [Sized(f"{letter}, {name}", sensor, sensor) for letter, name, sensor, _ in frames], 400, 110
        )
        if frames
        else None,
        "only": request.GET.get("kind") or request.POST.get("only", ""),
        "only_level": request.GET.get("level") or request.POST.get("only_level", ""),
        "problem": problem,
        "terms": f"Crop factors by {measure}. Sharp in the print by {sharp}.",
    }
    return render(request, "learn/round.html", context, status=status)


def _frames(made: Put) -> list[tuple[str, str, Any, str]]:
    """The cameras that are asked about: letter, name, frame, and its size and crop factor."""
    given = made.case.given
    both = [("A", made.case.one, given.one), ("B", made.case.other, given.other)]
    if made.words.two_lenses:
        both = both[:1]
    return [
        (letter, name, sensor, f"crop factor {significant(crop_factor(sensor, by=given.crop_by))}")
        for letter, name, sensor in both
    ]


def _answered(request: Request) -> HttpResponseBase:
    """Judge an answer, keep it, and say what was wrong about it."""
    try:
        made = read(request.POST.get("token", ""))
    except TokenError as error:
        messages.error(request, str(error))
        return redirect("learn:round")
    units = UNITS[preferred_by(request.user).units]
    form = AnswerForm(KINDS[made.kind].unit, units, made.words.lead, request.POST)
    choices = made.choices(units)
    if made.level == "number":
        if not form.is_valid():
            return _shown(request, made, form, 422)
        answer: float = form.cleaned_data["said"]
        told = made.said(answer, units)
    else:
        picked = whole(request.POST.get("said", ""))
        if picked is None or picked >= len(choices):
            return _shown(request, made, AnswerForm(KINDS[made.kind].unit, units), 422, "Pick one of the answers.")
        answer, told = picked, choices[picked]
    is_right, slip = made.judged(answer)
    _keep(request, made, is_right, slip)
    again = {"r": made.round, "kind": request.POST.get("only", ""), "level": request.POST.get("only_level", "")}
    if not request.user.is_authenticated:
        again["n"] = str(made.ordinal + 1)
    context = {
        "put": made,
        "number": made.ordinal + 1,
        "ten": TEN,
        "is_right": is_right,
        "told": told,
        "right": _right(made, units),
        "wrong": "" if is_right else wrong_words(made, slip),
        "line": None if made.level in ("judge", EYE) else written(made.posed.working, units),
        "truths": truths(made) if made.level == "judge" else [],
        "pictures": pictures(made),
        "bench": on_bench(made),
        "argued": DISPUTES.get(made.words.argued),
        "again": [(key, value) for key, value in again.items() if value],
        "is_last": made.ordinal + 1 >= TEN,
    }
    return render(request, "learn/answer.html", context)


def _right(made: Put, units: Units) -> str:
    if made.level == EYE:
        return made.choices()[made.shown_first]
    if made.level == "judge":
        holds = KINDS[made.kind].holds(made.case.given)
        return made.choices()[BOTH_WAYS.index(holds)]
    return made.said(made.posed.right, units)


def _keep(request: Request, made: Put, is_right: bool, slip: str) -> None:
    """Put an answer on record; one question is answered once."""
    owned = Answered.objects.for_owner(request.user)
    if not request.user.is_authenticated:
        return
    begun = owned.filter(round=made.round).values_list("answered_at", flat=True).first() or timezone.now()
    label = f"Drills of {timezone.localtime(begun):%-d %B, %H:%M}"
    try:
        with recorded(request.user, label, goes_on=True) as change:
            if owned.count() >= MOST_ANSWERS:
                oldest = owned.first()
                change.remove(oldest)
            answered = Answered.objects.create(
                owner=request.user,
                round=made.round,
                ordinal=made.ordinal,
                kind=made.kind,
                level=made.level,
                is_right=is_right,
                slip=slip,
                seconds=made.seconds,
                answered_at=timezone.now(),
            )
            change.created(answered)
    except IntegrityError:
        return  # it was answered before


def _over(request: Request, in_round: list[Answered]) -> HttpResponseBase:
    """The end of a round: what was asked, and what went wrong."""
    rows = [
        (
            KINDS[answered.kind].words.skill,
            "right" if answered.is_right else _short(KINDS[answered.kind].words.slips.get(answered.slip, "wrong")),
        )
        for answered in in_round
        if answered.kind in KINDS
    ]
    seconds = sum(answered.seconds or 0 for answered in in_round)
    context = {
        "rows": rows,
        "right": sum(answered.is_right for answered in in_round),
        "minutes": f"{int(seconds // 60)}:{int(seconds % 60):02d}",
        "last_change": last_change(request.user) if request.user.is_authenticated else None,
        "due": due_now(_found(request.user), timezone.now()),
    }
    return render(request, "learn/over.html", context)


@login_required
@require_POST
def forget(request: Request) -> HttpResponseBase:
    """Throw all answers away; it can be undone."""
    with recorded(request.user, "Threw away all answers of the drills") as change:
        change.touch(*Answered.objects.for_owner(request.user))
        Answered.objects.for_owner(request.user).delete()
    return redirect("learn:home")
