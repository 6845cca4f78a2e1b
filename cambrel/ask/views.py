"""The line that takes a question in a photographer's own words, and its answer: under the line while it is typed, or as
a page.
"""

from dataclasses import replace
from urllib.parse import urlencode

from django.contrib.auth.models import AnonymousUser
from django.http import Http404
from django.http.response import HttpResponse, HttpResponseBase
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_safe
from django.views.decorators.vary import vary_on_headers

from cambrel.ask.answering import LineAnswer, answer
from cambrel.ask.common_questions import QUESTIONS
from cambrel.ask.elsewhere import AdvertPart
from cambrel.ask.trade_examples import example_of, words_in
from cambrel.comparison.bench import Bench, Gear, Slot
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.engine import Body as OpticsBody
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.engine import Rig
from cambrel.conventions.preferred import preferred_by
from cambrel.links.addresses import bench_address, put_address
from cambrel.links.benches import encode_gear
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.owners.models import User, gear_owner
from cambrel.owners.requests import Request
from cambrel.phrases.reader import read
from cambrel.phrases.records import TextReading
from cambrel.shelf.codes import codes_of
from cambrel.shelf.models import Body, Kit, Lens
from cambrel.shelf.systems import own_of
from cambrel.wording.glossary import TradeWord

EXAMPLES = (
    "21 f/2.2 aps-c 1.6",
    "25 f/1.4 mft vs 50 f/1.8 ff",
    "what is 50 f/2 ff on mft",
    "25 mm equiv f/1.7 1/1.3",
    "iso 3200 ff on aps-c",
)
LONGEST = 200
MOST_NAMED = 6
FAR_M = 10.0
"""Where the subject stands on the bench if the question does not say."""


@require_safe
@vary_on_headers("HX-Request", "HX-History-Restore-Request", "Cookie")
def ask(request: Request) -> HttpResponseBase:
    """The answer to a question; Enter on a question of two sides opens the bench with both."""
    text = " ".join(request.GET.get("q", "").split())[:LONGEST]
    conventions = preferred_by(request.user).conventions
    reading = read(text, codes_of(gear_owner(request.user))) if text else None
    line_answer = answer(reading, conventions, _taken(request)) if reading else LineAnswer()
    bench = _bench(line_answer, conventions)
    if request.GET.get("go") == "1" and len(line_answer.sides) == 2 and bench:
        return redirect(bench)
    context = {
        "text": text,
        "answer": line_answer,
        "reading": reading,
        "choices": _choices(request, reading),
        "sides": [
            (letter, side, _presses(side), _against(side, conventions))
            for letter, side in zip("AB", line_answer.sides, strict=False)
        ],
        "bench": bench,
        "named": _named(request, text),
        "words": [] if line_answer.sides else _explained(request, text, conventions),
        "examples": EXAMPLES,
        "questions": [] if text else _questions(request.user, conventions),
    }
    partial = request.htmx and not request.htmx.history_restore_request
    return render(request, "ask/_answer.html" if partial else "ask/ask.html", context)


def _explained(request: Request, text: str, conventions: Conventions) -> list[tuple[TradeWord, str]]:
    """The words of the trade in a text, each with its example on the reader's own gear."""
    words = words_in(text)
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


def _taken(request: Request) -> dict[str, str]:
    """By the word that may mean several formats, the one that was chosen."""
    return {key.removeprefix("as-"): str(value) for key, value in request.GET.items() if key.startswith("as-")}


def _choices(request: Request, reading: TextReading | None) -> list[tuple[str, str, list[tuple[str, str]]]]:
    """Each word that may mean several formats: which one is taken, and all with their names."""
    if reading is None:
        return []
    taken = _taken(request)
    return [
        (choice.text, taken.get(choice.text, choice.taken), [(slug, FORMATS[slug].name) for slug in choice.formats])
        for choice in reading.choices
    ]


def _bench(found: LineAnswer, conventions: Conventions) -> str:
    """Where the lenses of an answer are compared side by side, each as it was said."""
    slots = [_slot(side, side.gear) for side in found.sides if side.gear is not None]
    if not slots or len(slots) < len(found.sides):
        return ""
    distance = next((side.distance_m for side in found.sides if side.distance_m), FAR_M)
    return bench_address(
        Bench(Brief(distance_m=distance), tuple(slots), Hold("own", "spot", "own", "own"), conventions)
    )


def _against(side: AdvertPart, conventions: Conventions) -> str:
    """A bench of what was asked about beside the format that it was asked for, for the working between the two."""
    if side.gear is None:
        return ""
    slot = _slot(side, side.gear)
    format_ = FORMATS[side.on.slug]
    body = OpticsBody(Sensor(format_.width_mm, format_.height_mm))
    there = Slot(replace(slot.rig, body=body, lens=OpticsLens()), side.on.name)
    hold = Hold("own", "spot", "own", "own")
    return bench_address(Bench(Brief(distance_m=side.distance_m or FAR_M), (there, slot), hold, conventions))


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
