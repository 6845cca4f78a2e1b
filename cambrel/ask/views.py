"""The line that answers: as a card, as a page, and as JSON."""

from __future__ import annotations

from dataclasses import replace
from urllib.parse import urlencode

from django.contrib.auth.models import AnonymousUser
from django.http import Http404, JsonResponse
from django.http.response import HttpResponse, HttpResponseBase
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_safe
from django.views.decorators.vary import vary_on_headers

from cambrel.ask.answer_benches import AS_SAID, FAR_M
from cambrel.ask.answer_document import document
from cambrel.ask.asking import Reading, asked
from cambrel.ask.chips import chips_of
from cambrel.ask.common_questions import QUESTIONS, question_asked
from cambrel.ask.elsewhere import AdvertPart
from cambrel.ask.kinds import KINDS
from cambrel.ask.pasted import pasted_address
from cambrel.ask.question_kind import Terms
from cambrel.ask.trade_examples import example_of
from cambrel.comparison.bench import Bench, Gear, Slot
from cambrel.comparison.brief import SCHOOLS, Brief, Conventions
from cambrel.comparison.engine import Body as OpticsBody
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.engine import Rig
from cambrel.conventions.preferred import preferred_by
from cambrel.links.addresses import bench_address, put_address
from cambrel.links.benches import encode_gear
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import User, gear_owner
from cambrel.owners.requests import Request
from cambrel.shelf.codes import codes_of
from cambrel.shelf.models import Body, Kit, Lens
from cambrel.shelf.systems import own_of
from cambrel.wording import UNITS
from cambrel.wording.cautions import CAUTIONS
from cambrel.wording.glossary import TradeWord
from cambrel.wording.written import written

OFFERED = ("lens", "lenses", "depth", "hyperfocal", "distance-to-fit", "formats", "angle", "hand", "stars", "print")
"""Kinds whose first examples stand on the page."""
EXAMPLES = tuple(kind.examples[0] for key in OFFERED for kind in KINDS if kind.key == key)
LONGEST = 200
MOST_NAMED = 6


@require_safe
@vary_on_headers("HX-Request", "HX-History-Restore-Request", "Cookie")
def ask(request: Request) -> HttpResponseBase:
    """The answer to a line; Enter on lenses against each other opens the bench with them, and on a link what it leads
    to.
    """
    text = _line(request)
    preferred = preferred_by(request.user)
    terms = Terms(preferred.conventions, UNITS[preferred.units])
    link = pasted_address(text)
    goes = request.GET.get("go") == "1"
    if link and goes:
        return redirect(link)
    common = question_asked(text)
    reading = asked(text, terms, codes_of(gear_owner(request.user))) if text and not (link or common) else Reading(text)
    answer = reading.answer
    sides = answer.sides if answer else ()
    bench = _bench(sides, terms.conventions)
    if goes and len(sides) > 1 and bench:
        return redirect(bench)
    own = own_of(request.user) if common else None
    context = {
        "text": text,
        "link": link,
        "reading": reading,
        "answer": answer,
        "common": common and own and common.answer(terms.conventions, own),
        "caution": CAUTIONS[answer.caution].short if answer and answer.caution else "",
        "working": [written(line, terms.units) for line in answer.working] if answer else [],
        "figures": [(figure.name, figure.shown(terms.units)) for figure in answer.figures]
        if answer and not sides
        else [],
        "chips": chips_of(reading.candidate, answer) if reading.candidate and answer else (),
        "sides": [
            (letter, side, _presses(side), _against(side, terms.conventions))
            for letter, side in zip("ABC", sides, strict=False)
        ],
        "bench": bench,
        "named": _named(request, text),
        "words": _explained(request, reading.words, terms.conventions),
        "examples": EXAMPLES,
        "questions": [] if text else _questions(request.user, terms.conventions),
    }
    partial = request.htmx and not request.htmx.history_restore_request
    return render(request, "ask/_answer.html" if partial else "ask/ask.html", context)


def _line(request: Request) -> str:
    return " ".join(request.GET.get("q", "").split())[:LONGEST]


@require_safe
def ask_json(request: Request) -> JsonResponse:
    """The answer to a line for scripts and other sites: by the usual conventions or by those that are given, and by
    nothing of who asks.
    """
    text = " ".join(request.GET.get("q", "").split())
    problem = "" if 0 < len(text) <= LONGEST else f"Ask with q, from 1 to {LONGEST} characters."
    chosen = {name: request.GET[name] for name in (*SCHOOLS, "home") if name in request.GET}
    units = request.GET.get("units", "m")
    if units not in UNITS:
        problem = problem or f"units must be one of {', '.join(UNITS)}."
    try:
        for name, key in chosen.items():
            SCHOOLS[name][key] if name in SCHOOLS else FORMATS[key]
    except (DomainError, KeyError):
        problem = problem or f"{name} must be one of {', '.join(SCHOOLS.get(name, FORMATS))}."
    if problem:
        response = JsonResponse({"problem": problem}, status=422)
    else:
        terms = Terms(Conventions(**chosen), UNITS[units])  # type: ignore[arg-type]
        link = request.build_absolute_uri(f"{reverse('ask:ask')}?{urlencode({'q': text})}")
        response = JsonResponse(
            document(asked(text, terms), terms.units, link), json_dumps_params={"ensure_ascii": False}
        )
    # what it says depends on its address alone, so that any site may read it
    response["Access-Control-Allow-Origin"] = "*"
    response["Cache-Control"] = "public, max-age=3600"
    return response


def _explained(request: Request, words: tuple[TradeWord, ...], conventions: Conventions) -> list[tuple[TradeWord, str]]:
    """Words of the trade, each with its example on the reader's own gear."""
    own = own_of(request.user) if words else None
    return [(word, example_of(word.slug, own, conventions)) for word in words] if own else []


def _questions(user: User | AnonymousUser, conventions: Conventions) -> list[tuple[str, str, str]]:
    """What people ask, what it comes to on the reader's own gear by the conventions in force, and where it is seen."""
    own = replace(own_of(user), crop_by=conventions.crop_by)
    offered = []
    for question in QUESTIONS:
        bench = replace(question.on(own), conventions=conventions)
        shown = bench_address(bench, panel=question.panel, answered=question.key)
        there = question.leads_to(own) if question.leads_to else shown
        offered.append((question.asked(own), question.answer(conventions, own), there))
    return offered


@require_safe
def questions(request: Request) -> HttpResponse:
    """The questions that people bring, for any page to take in."""
    context = {"questions": _questions(request.user, preferred_by(request.user).conventions)}
    return render(request, "ask/_row.html" if request.GET.get("row") == "1" else "ask/_questions.html", context)


@require_safe
def answered(request: Request) -> HttpResponse:
    """One of the questions with its answer, for the page that shows it."""
    question = next((known for known in QUESTIONS if known.key == request.GET.get("key")), None)
    if question is None:
        raise Http404
    conventions = preferred_by(request.user).conventions
    own = own_of(request.user)
    context = {"asked": question.asked(own), "says": question.answer(conventions, own)}
    return render(request, "ask/_answered.html", context)


def _bench(sides: tuple[AdvertPart, ...], conventions: Conventions) -> str:
    """Where the lenses of an answer are compared side by side, each as it was said."""
    slots = [_slot(side, side.gear) for side in sides if side.gear is not None]
    if not slots or len(slots) < len(sides):
        return ""
    distance = next((side.distance_m for side in sides if side.distance_m), FAR_M)
    return bench_address(Bench(Brief(distance_m=distance), tuple(slots), AS_SAID, conventions))


def _against(side: AdvertPart, conventions: Conventions) -> str:
    """A bench of what was asked about beside the format that it was asked for, for the working between the two."""
    if side.gear is None:
        return ""
    slot = _slot(side, side.gear)
    format_ = FORMATS[side.on.slug]
    body = OpticsBody(Sensor(format_.width_mm, format_.height_mm))
    there = Slot(replace(slot.rig, body=body, lens=OpticsLens()), side.on.name)
    return bench_address(Bench(Brief(distance_m=side.distance_m or FAR_M), (there, slot), AS_SAID, conventions))


def _slot(side: AdvertPart, gear: Gear) -> Slot:
    assert gear.body is not None and gear.lens is not None and side.low_mm is not None
    rig = Rig(gear.body, gear.lens, side.low_mm, side.short or 4.0)
    if side.iso is not None:
        rig = replace(rig, iso=side.iso)
    if side.shutter_s is not None:
        rig = replace(rig, shutter_s=side.shutter_s)
    return Slot(rig, gear.body_name, gear.lens_name)


def _presses(side: AdvertPart) -> list[tuple[str, str, bool]]:
    """What can be done with a lens that was asked about: label, address, and whether it goes on the bench that was
    looked at last.
    """
    if side.gear is None:
        return []
    token = encode_gear(side.gear)
    at = "" if side.short is None else f":{side.short:g}"
    on_bench = [
        (
            f"Put on the bench as {letter}",
            f"{reverse('bench:bench')}?{urlencode({'action': f'gear:{index}:{token}{at}'})}",
            True,
        )
        for index, letter in enumerate("AB")
    ]
    named = urlencode({"name": side.gear.lens_name})
    return [
        *on_bench,
        ("as one more", put_address(side.gear), True),
        ("Find lenses", f"{reverse('match:match')}?{urlencode({'g': token})}", False),
        ("Keep on the shelf", f"{reverse('shelf:new', args=['lenses'])}?{named}", False),
    ]


def _named(request: Request, text: str) -> list[tuple[str, str]]:
    """Gear of the shelf, and kits, that are called so: name and address."""
    words = text.split()
    if not words or len(text) < 3:
        return []
    parts: list[tuple[str, str]] = []
    for kind, records, address in (
        ("lenses", Lens.objects.filter(fixed_to=None), "shelf:put"),
        ("bodies", Body.objects.all(), "shelf:put"),
        ("kits", Kit.objects.all(), "shelf:kit"),
    ):
        called = records.for_owner(request.user)
        for word in words[:6]:
            called = called.filter(name__icontains=word)
        for record in called[:MOST_NAMED]:
            keys = [record.pk] if kind == "kits" else [kind, record.pk]
            parts.append((record.name, reverse(address, args=keys)))
    return parts[:MOST_NAMED]
